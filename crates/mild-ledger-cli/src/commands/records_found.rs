//! The records of the arguments, looked at before a plan is made for them.

use super::progress::Progress;
use crate::arguments_records::RecordsArguments;
use crate::ending::Failure;
use mild_ledger_records::{Holding, Look, LookPart, PlanMistakes, RowsSeen, Watch, look_at_part};
use std::io::Write;
use std::path::{Path, PathBuf};
use std::sync::atomic::AtomicBool;
use tempfile::TempDir;

/// The name that means standard input.
const STANDARD_INPUT: &str = "-";

/// The columns that are looked at: all, unless some are named.
#[derive(Default)]
pub(super) struct LookedAt {
    pub(super) wholly: Option<Vec<String>>,
    /// Those whose first rows are enough.
    pub(super) at_first: Vec<String>,
}

/// The files of records, with what is in them.
pub(super) struct RecordsFound {
    /// The first of them, which the plan is made by.
    pub(super) look: Look,
    others: Vec<Look>,
    pub(super) files: Vec<PathBuf>,
    /// The folder of what came by standard input.
    from_input: Option<TempDir>,
}

impl RecordsFound {
    /// Looks at all columns of the files.
    pub(super) fn of(arguments: &RecordsArguments, interrupted: &AtomicBool) -> Result<Self, Failure> {
        Self::of_columns(arguments, &LookedAt::default(), interrupted)
    }

    /// Looks at some columns of the files.
    pub(super) fn of_columns(
        arguments: &RecordsArguments,
        columns: &LookedAt,
        interrupted: &AtomicBool,
    ) -> Result<Self, Failure> {
        let mut files = arguments.files.clone();
        let mut from_input = None;
        for file in &mut files {
            if file.as_os_str() == STANDARD_INPUT && from_input.is_none() {
                let folder = tempfile::tempdir()?;
                *file = read_input(folder.path())?;
                from_input = Some(folder);
            }
        }
        let look = look_at_all(&files, arguments, columns, interrupted)?;
        let mut looked = look.into_iter();
        let look = looked.next().ok_or_else(|| Failure::Request {
            what: "no file of records is named".to_owned(),
            help: "the name of a file, or - for standard input".to_owned(),
        })?;
        Ok(Self { look, others: looked.collect(), files, from_input })
    }

    /// Looks at other columns of the same files; standard input is read once.
    pub(super) fn look_again(
        &mut self,
        arguments: &RecordsArguments,
        columns: &LookedAt,
        interrupted: &AtomicBool,
    ) -> Result<(), Failure> {
        let looked = look_at_all(&self.files, arguments, columns, interrupted)?;
        for (known, look) in std::iter::once(&mut self.look).chain(&mut self.others).zip(looked) {
            *known = look;
        }
        Ok(())
    }

    /// Whether a column has no value in the first rows, and more rows follow.
    pub(super) fn has_column_without_evidence(&self) -> bool {
        let mut columns = self.others.iter().chain([&self.look]).flat_map(|look| &look.columns);
        columns.any(|column| matches!(column.rows_seen, RowsSeen::First(_)) && column.values == 0)
    }

    /// How the records are called in titles.
    pub(super) fn name(&self) -> String {
        let name = |file: &PathBuf| file.file_name().unwrap_or_default().to_string_lossy().into_owned();
        match self.files.as_slice() {
            _ if self.from_input.is_some() => "standard input".to_owned(),
            [one] => name(one),
            several => format!("{} files", several.len()),
        }
    }

    /// The files as the plan names them; none where it is the one that was looked at.
    pub(super) fn names(&self) -> Vec<String> {
        let several = self.files.len() > 1;
        self.files.iter().filter(|_| several).map(|file| file.display().to_string()).collect()
    }

    /// An error for a plan that is to be kept, of records that are not.
    pub(super) fn check_kept(&self) -> Result<(), Failure> {
        match &self.from_input {
            Some(_) => Err(Failure::Request {
                what: "--save-plan: a plan reads files, and these records came by standard input".to_owned(),
                help: "the records in a file".to_owned(),
            }),
            None => Ok(()),
        }
    }

    /// An error where a column of dates of one file is written otherwise than in the first.
    pub(super) fn check_alike<'n>(&self, dates: impl Iterator<Item = &'n String>) -> Result<(), Failure> {
        let pattern = |look: &Look, name: &str| {
            let column = look.columns.iter().find(|column| column.name == name)?;
            match &column.holds {
                Holding::Date(dates) => Some(dates.patterns.first()?.pattern.clone()),
                _ => None,
            }
        };
        for name in dates {
            for other in &self.others {
                let (one, two) = (pattern(&self.look, name), pattern(other, name));
                if let (Some(one), Some(two)) = (&one, &two)
                    && one != two
                {
                    return Err(Failure::Request {
                        what: format!(
                            "the dates of \"{name}\" are written {one} in {} and {two} in {}",
                            self.look.file, other.file
                        ),
                        help: format!(
                            "one file at a time, or a plan with both: \"{name}\" = [\"{one}\", \"{two}\"]"
                        ),
                    });
                }
            }
        }
        Ok(())
    }
}

/// Looks at columns of each file.
fn look_at_all(
    files: &[PathBuf],
    arguments: &RecordsArguments,
    columns: &LookedAt,
    interrupted: &AtomicBool,
) -> Result<Vec<Look>, Failure> {
    let part = LookPart {
        part: arguments.sheet.as_deref().or(arguments.table.as_deref()),
        query: arguments.query.as_deref(),
        header_line: arguments.header_line,
        columns: columns.wholly.as_deref(),
        at_first: &columns.at_first,
    };
    let mut looked = Vec::new();
    for file in files {
        let bar = Progress::new();
        let progress = |read| bar.show(read);
        let found = look_at_part(file, part, Watch { interrupted, progress: &progress });
        bar.finish();
        looked.push(found?);
    }
    Ok(looked)
}

/// Lines of words, each read by itself, and the mistakes of those that cannot be read.
pub(super) fn read_all<T>(
    lines: &[String],
    read: impl Fn(&str) -> Result<T, PlanMistakes>,
    wrong: &mut Vec<PlanMistakes>,
) -> Vec<T> {
    let mut all = Vec::new();
    for line in lines {
        match read(line) {
            Ok(read) => all.push(read),
            Err(mistakes) => wrong.push(mistakes),
        }
    }
    all
}

/// Standard input as a file of its own: JSON Lines where it begins with an object, and CSV otherwise.
fn read_input(folder: &Path) -> Result<PathBuf, Failure> {
    let mut bytes = std::io::stdin().lock();
    let begin = std::io::BufRead::fill_buf(&mut bytes)?;
    let is_json = begin.iter().find(|byte| !byte.is_ascii_whitespace()) == Some(&b'{');
    let path = folder.join(if is_json { "standard-input.jsonl" } else { "standard-input.csv" });
    let mut file = std::fs::File::create(&path)?;
    std::io::copy(&mut bytes, &mut file)?;
    file.flush()?;
    Ok(path)
}
