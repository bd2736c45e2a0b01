//! `mild demo [FOLDER]`.

use crate::arguments::{DemoArguments, RunArguments};
use crate::ending::{Ending, Failure};
use crate::output::to_standard_error;
use std::fs;
use std::io::{self, Write};
use std::path::Path;

/// The demo's files as they stand in the project.
const FILES: [(&str, &str); 3] = [
    ("invoices-2026-09-30.csv", include_str!("../../../../demo/invoices-2026-09-30.csv")),
    ("receivables.toml", include_str!("../../../../demo/receivables.toml")),
    ("yard.toml", include_str!("../../../../demo/yard.toml")),
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
                to_standard_error(&format!("mild: {} was changed and stays as it is\n", place.display()))
            }
            Err(error) if error.kind() == io::ErrorKind::NotFound => {
                write_whole(&place, content).map_err(|error| failed(&place, &error))?;
            }
            Err(error) => return Err(failed(&place, &error)),
        }
    }
    super::run::run(&RunArguments {
        plan: folder.join("receivables.toml"),
        as_of: None,
        records: None,
        strict: false,
        overwrite: false,
        zone: None,
        json: false,
    })
}

/// Writes a new file under a part name first, so that it appears whole.
fn write_whole(place: &Path, content: &str) -> io::Result<()> {
    let mut part = place.as_os_str().to_owned();
    part.push(".mild-part");
    let result = fs::File::create(&part).and_then(|mut file| {
        file.write_all(content.as_bytes())?;
        file.sync_all()?;
        // A link, unlike a rename, never replaces a file that appeared meanwhile.
        fs::hard_link(&part, place).or_else(|_| fs::rename(&part, place))
    });
    let _ = fs::remove_file(&part);
    result
}
