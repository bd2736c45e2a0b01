//! `mild demo [FOLDER]`.

use crate::arguments::{DemoArguments, PlanArguments, RunArguments};
use crate::ending::{Ending, Failure};
use crate::output::note;
use mild_ledger_records::write_new_file;
use std::fs;
use std::io;
use std::path::Path;

/// The demo's files as they stand in the project.
const FILES: [(&str, &str); 3] = [
    ("invoices-2026-09-30.csv", include_str!("../../demo/invoices-2026-09-30.csv")),
    ("receivables.toml", include_str!("../../demo/receivables.toml")),
    ("yard.toml", include_str!("../../demo/yard.toml")),
];

pub(crate) fn demo(arguments: &DemoArguments) -> Result<Ending, Failure> {
    let folder = &arguments.folder;
    let failed = |path: &Path, error: &io::Error| {
        Failure::Demo(format!("{}: could not write it: {error}", path.display()))
    };
    fs::create_dir_all(folder).map_err(|error| failed(folder, &error))?;
    for (name, content) in FILES {
        let place = folder.join(name);
        match fs::read(&place) {
            Ok(found) if found == content.as_bytes() => {}
            Ok(_) => {
                note(&format!("{} was changed and stays as it is", place.display()));
            }
            Err(error) if error.kind() == io::ErrorKind::NotFound => {
                write_new_file(&place, content.as_bytes())?;
            }
            Err(error) => return Err(failed(&place, &error)),
        }
    }
    super::run::run(&RunArguments {
        why: false,
        row: None,
        sample: 0,
        plan: PlanArguments {
            plan: folder.join("receivables.toml"),
            as_of: None,
            records: Vec::new(),
            zone: None,
        },
        strict: false,
        stdout: false,
        overwrite: false,
        json: false,
    })
}
