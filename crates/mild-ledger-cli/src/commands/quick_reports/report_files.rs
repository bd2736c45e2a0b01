//! The files of `--to`, and what the plan that is made of the arguments writes for them.

use crate::ending::Failure;
use crate::output::{same_file, to_file};
use mild_ledger_records::{DocumentFormat, ExistingFiles, RunOutcome};
use mild_ledger_report::drawn;
use std::ffi::OsStr;
use std::io;
use std::path::{Path, PathBuf};

/// The files that a report goes to, each in the format that its name promises.
pub(super) struct ReportFiles {
    documents: Vec<(PathBuf, DocumentFormat)>,
    table: Option<PathBuf>,
    existing: ExistingFiles,
}

impl ReportFiles {
    /// The files of `--to`.
    ///
    /// # Errors
    /// If one exists and is to be kept, is the file of records, or comes twice; and if two are tables.
    pub(super) fn of(to: &[PathBuf], records: &[PathBuf], existing: ExistingFiles) -> Result<Self, Failure> {
        let mut files = Self { documents: Vec::new(), table: None, existing };
        for (nth, path) in to.iter().enumerate() {
            let refused = |what: &str, help: &str| {
                let what = format!("--to: {} {what}", path.display().to_string().escape_debug());
                Err(Failure::Request { what, help: help.to_owned() })
            };
            if to.iter().take(nth).any(|earlier| earlier == path) {
                return refused("is named twice", "a name for each file");
            }
            if records.iter().any(|records| same_file(path, records)) {
                return refused("is the file of records", "another name");
            }
            if path.exists() && existing == ExistingFiles::Keep {
                return refused("exists already", "--overwrite replaces it; or another name");
            }
            match DocumentFormat::of(path) {
                Some(format) => files.documents.push((path.clone(), format)),
                None if files.table.is_some() => {
                    return refused(
                        "is a second file of the table alone",
                        "one of .csv, .jsonl, .tsv …; and pages (.html), workbooks (.xlsx), .md, .svg",
                    );
                }
                None => files.table = Some(path.clone()),
            }
        }
        Ok(files)
    }

    /// The name under which the run writes the table, if it goes to a file.
    pub(super) fn table_name(&self) -> Option<String> {
        self.table.as_deref().and_then(Path::file_name).map(|name| name.to_string_lossy().into_owned())
    }

    /// The names of the documents, as a saved plan has them.
    pub(super) fn document_names(&self) -> Vec<String> {
        let names = self.documents.iter().filter_map(|(path, _)| path.file_name());
        names.map(|name| name.to_string_lossy().into_owned()).collect()
    }

    /// Draws and copies all before the first file is written.
    pub(super) fn write(&self, outcome: &RunOutcome, aside: &Path) -> Result<(), Failure> {
        let mut files: Vec<(&Path, Vec<u8>)> = Vec::new();
        for (path, format) in &self.documents {
            files.push((path, drawn(outcome, *format).map_err(|error| failed(path, &error))?));
        }
        if let (Some(path), Some(name)) = (&self.table, self.table_name()) {
            let bytes = std::fs::read(aside.join(name)).map_err(|error| failed(path, &error))?;
            files.push((path, bytes));
        }
        files.into_iter().try_for_each(|(path, bytes)| to_file(path, &bytes, self.existing))
    }
}

fn failed(path: &Path, error: &io::Error) -> Failure {
    let what = format!("--to: {} cannot be written: {error}", path.display().to_string().escape_debug());
    Failure::Request { what, help: "another name or format".to_owned() }
}

/// A name of this month's file as the plan of every month has it: with `{as_of}` for its date, or with that before its ending.
pub(super) fn name_of_any_month(name: &str, as_of: Option<&str>) -> String {
    let braced = name.replace('{', "(").replace('}', ")");
    match as_of {
        Some(as_of) if braced.contains(as_of) => braced.replace(as_of, "{as_of}"),
        _ => {
            let path = Path::new(&braced);
            let stem = path.file_stem().unwrap_or_else(|| OsStr::new("report")).to_string_lossy();
            let ending =
                path.extension().map(|ending| format!(".{}", ending.to_string_lossy())).unwrap_or_default();
            format!("{stem}-{{as_of}}{ending}")
        }
    }
}
