//! `mild demo [FOLDER]`.

use crate::arguments::{DemoArguments, PlanArguments, RunArguments};
use crate::ending::{Ending, Failure};
use crate::output::{note, to_standard_output};
use crate::terminal::width;
use mild_ledger_records::{ExistingFiles, write_whole_file};
use mild_ledger_report::terminal;
use std::fs;
use std::io;
use std::path::Path;

/// The files of the demo.
const FILES: [(&str, &str); 12] = [
    ("invoices-2026-09-30.csv", include_str!("../../demo/invoices-2026-09-30.csv")),
    ("payments-2026-09-30.csv", include_str!("../../demo/payments-2026-09-30.csv")),
    ("jobs-2026-09-30.csv", include_str!("../../demo/jobs-2026-09-30.csv")),
    ("crew-2026-09-30.csv", include_str!("../../demo/crew-2026-09-30.csv")),
    ("licences-2026-09-30.csv", include_str!("../../demo/licences-2026-09-30.csv")),
    ("ledger-2026-09-30.csv", include_str!("../../demo/ledger-2026-09-30.csv")),
    ("yard.toml", include_str!("../../demo/yard.toml")),
    ("receivables.toml", include_str!("../../demo/receivables.toml")),
    ("quarter.toml", include_str!("../../demo/quarter.toml")),
    ("jobs.toml", include_str!("../../demo/jobs.toml")),
    ("crew.toml", include_str!("../../demo/crew.toml")),
    ("licences.toml", include_str!("../../demo/licences.toml")),
];

/// The plan whose report is shown, and those of which the answer is.
const SHOWN: &str = "receivables.toml";
const OTHERS: [&str; 4] = ["quarter.toml", "jobs.toml", "crew.toml", "licences.toml"];

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
                note(&format!("{} was changed and is kept as it is", place.display()));
            }
            Err(error) if error.kind() == io::ErrorKind::NotFound => {
                write_whole_file(&place, content.as_bytes(), ExistingFiles::Keep)?;
            }
            Err(error) => return Err(failed(&place, &error)),
        }
    }
    let ending = super::run::run(&arguments_of(folder, SHOWN))?;
    let mut said = String::from("\nThe other plans, each with its report as a page:\n");
    for name in OTHERS {
        let outcome = super::run::quietly(&arguments_of(folder, name))?;
        said.push_str(&terminal::in_short(name, &outcome, width()));
    }
    to_standard_output(&said)?;
    Ok(ending)
}

fn arguments_of(folder: &Path, plan: &str) -> RunArguments {
    RunArguments {
        details: false,
        why: false,
        row: None,
        sample: 0,
        plan: PlanArguments { plan: folder.join(plan), as_of: None, records: Vec::new(), zone: None },
        strict: false,
        stdout: false,
        receipt: None,
        overwrite: false,
        json: false,
    }
}
