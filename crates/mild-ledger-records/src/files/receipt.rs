//! The receipt of a plan's runs, which is next to their outputs.

use super::{Fingerprint, HashKind, input};
use crate::error::RecordsError;
use serde::{Deserialize, Serialize};
use std::collections::BTreeMap;
use std::io;
use std::path::Path;

/// The runs of one plan, the latest for each as-of date.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
pub(crate) struct Receipt {
    receipt: u32,
    /// The plan, as a path from the receipt's folder; receipts of version 1 do not name it.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    plan: Option<String>,
    #[serde(default)]
    run: Vec<RunEntry>,
}

/// What one run read, wrote and proved.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
pub(crate) struct RunEntry {
    pub(crate) as_of: String,
    pub(crate) title: String,
    pub(crate) written_by: String,
    pub(crate) cells_behind_apostrophe: u64,
    pub(crate) rows: RowsLine,
    #[serde(default)]
    pub(crate) amount: Vec<AmountLine>,
    #[serde(default)]
    pub(crate) report: Vec<ReportLine>,
    /// The calendars that columns counted by; none where no working day was counted.
    #[serde(default)]
    pub(crate) calendar: Vec<CalendarLine>,
    #[serde(default)]
    pub(crate) input: Vec<FileLine>,
    #[serde(default)]
    pub(crate) output: Vec<FileLine>,
    /// What earlier runs of this as-of date wrote and this one did not, such as the file of rows that went to standard output.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub(crate) earlier_output: Vec<FileLine>,
}

/// What rows are called that go to no file.
pub(crate) const STANDARD_OUTPUT: &str = "standard output";

impl RunEntry {
    /// All files that runs of its as-of date wrote.
    fn files(&self) -> impl Iterator<Item = &FileLine> {
        self.output.iter().chain(&self.earlier_output).filter(|line| line.file != STANDARD_OUTPUT)
    }
}

/// A file with its size and hash.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
pub(crate) struct FileLine {
    pub(crate) file: String,
    pub(crate) bytes: u64,
    /// The rows of a file of rows.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub(crate) rows: Option<u64>,
    /// The word of the function, a colon, and the hash in lower-case hexadecimal.
    #[serde(default)]
    pub(crate) hash: String,
    /// The address that a redirect led to, which the bytes came from.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    redirected_to: Option<String>,
    /// Where version 1 had the hash.
    #[serde(default, skip_serializing)]
    sha256: Option<String>,
}

impl FileLine {
    pub(crate) fn new(file: String, rows: Option<u64>, Fingerprint { bytes, hash }: Fingerprint) -> Self {
        Self { file, bytes, rows, hash, redirected_to: None, sha256: None }
    }

    /// The same of a file whose address led to another.
    pub(crate) fn with_redirect(self, redirected_to: Option<String>) -> Self {
        Self { redirected_to, ..self }
    }

    /// As this version has it.
    fn renewed(&mut self) {
        if let Some(sha256) = self.sha256.take() {
            self.hash = format!("{}:{sha256}", HashKind::Sha256.word());
        }
    }
}

/// A calendar that working days were counted by.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
pub(crate) struct CalendarLine {
    pub(crate) name: String,
    /// The years that it covers, or that rest days alone cover every year.
    pub(crate) covers: String,
    pub(crate) rest_days: String,
    pub(crate) holidays: u64,
    /// Its sources by name: calendars that ship, and files, which are among the inputs too.
    pub(crate) sources: Vec<String>,
}

/// The proof of rows.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
pub(crate) struct RowsLine {
    pub(crate) read: u64,
    pub(crate) written: u64,
    pub(crate) set_aside: u64,
    pub(crate) merged: u64,
    pub(crate) not_selected: u64,
}

/// The proof of one amount column.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
pub(crate) struct AmountLine {
    pub(crate) column: String,
    /// Which of its currencies, where it has such.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub(crate) currency: Option<String>,
    pub(crate) read: String,
    pub(crate) written: String,
    pub(crate) set_aside: String,
    pub(crate) merged: String,
    pub(crate) not_selected: String,
    pub(crate) unreadable_rows: u64,
}

/// The proof of one report.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
pub(crate) struct ReportLine {
    pub(crate) title: String,
    /// What kind it is; version 1 knew one.
    #[serde(default = "only_kind")]
    pub(crate) kind: String,
    /// What version 1 said of it, kept as it was.
    #[serde(flatten)]
    pub(crate) earlier: BTreeMap<String, String>,
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub(crate) proof: Vec<ProofEntry>,
}

/// A whole and its parts.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
pub(crate) struct ProofEntry {
    pub(crate) of: String,
    /// What the whole is called, and how much it is.
    #[serde(flatten)]
    pub(crate) whole: BTreeMap<String, String>,
    pub(crate) parts: BTreeMap<String, String>,
}

fn only_kind() -> String {
    "aging".to_owned()
}

/// The version of the receipt's form; version 1 is read too.
const VERSION: u32 = 2;

impl Receipt {
    /// The receipt that is at a path, or an empty one where there is none.
    pub(crate) fn read(path: &Path) -> Result<Self, RecordsError> {
        let text = match input::read_whole(path) {
            Ok((bytes, _)) => String::from_utf8(bytes).unwrap_or_default(),
            Err(RecordsError::File { source, .. }) if source.kind() == io::ErrorKind::NotFound => {
                return Ok(Self::empty());
            }
            Err(error) => return Err(error),
        };
        match toml::from_str::<Self>(&text) {
            Ok(mut receipt) if (1..=VERSION).contains(&receipt.receipt) => {
                receipt.receipt = VERSION;
                let runs = receipt.run.iter_mut();
                runs.flat_map(|run| run.input.iter_mut().chain(&mut run.output)).for_each(FileLine::renewed);
                Ok(receipt)
            }
            _ => Err(RecordsError::InTheWay {
                path: path.to_owned(),
                why: "is not a receipt of an earlier run".to_owned(),
            }),
        }
    }

    pub(crate) fn empty() -> Self {
        Self { receipt: VERSION, plan: None, run: Vec::new() }
    }

    /// The plan, as a path from the receipt's folder; receipts of version 1 do not name it.
    pub(crate) fn plan(&self) -> Option<&str> {
        self.plan.as_deref()
    }

    /// Its runs, by their as-of dates.
    pub(crate) fn runs(&self) -> &[RunEntry] {
        &self.run
    }

    /// That it is a receipt of this plan, which it names from now on; another plan's stays.
    pub(crate) fn claim(&mut self, path: &Path, plan: &str) -> Result<(), RecordsError> {
        match &self.plan {
            Some(other) if other != plan => Err(RecordsError::InTheWay {
                path: path.to_owned(),
                why: format!("is the receipt of another plan, {other}; give the plans names of their own"),
            }),
            _ => {
                self.plan = Some(plan.to_owned());
                Ok(())
            }
        }
    }

    /// Whether it has a hash of an output by a function.
    pub(crate) fn has_hash(&self, file: &str, kind: HashKind) -> bool {
        let mut lines = self.run.iter().flat_map(RunEntry::files);
        lines.any(|line| line.file == file && HashKind::of_hash(&line.hash) == Some(kind))
    }

    /// Whether a file with one of these hashes was written by a run of the plan, as of any date.
    pub(crate) fn author_of(&self, file: &str, hashes: &[String]) -> Author {
        let mut lines = self.run.iter().flat_map(RunEntry::files).filter(|line| line.file == file).peekable();
        if lines.peek().is_none() {
            return Author::Unknown;
        }
        if lines.any(|line| hashes.contains(&line.hash)) { Author::ThisPlan } else { Author::ChangedSince }
    }

    /// Puts a run in place of the earlier one of its as-of date. Runs of other dates lose the files that it wrote anew, and are forgotten
    /// with the last of them; what it did not write anew is still known.
    pub(crate) fn record(&mut self, mut entry: RunEntry) {
        let writes = |line: &FileLine| entry.output.iter().any(|new| new.file == line.file);
        let still_there = |run: &RunEntry| {
            run.files().filter(|line| run.as_of == entry.as_of && !writes(line)).cloned().collect::<Vec<_>>()
        };
        let earlier = self.run.iter().flat_map(still_there).collect();
        self.run.retain_mut(|run| {
            let had = run.files().count();
            run.output.retain(|line| !writes(line));
            run.earlier_output.retain(|line| !writes(line));
            run.as_of != entry.as_of && (had == 0 || run.files().count() > 0)
        });
        entry.earlier_output = earlier;
        self.run.push(entry);
        self.run.sort_by(|a, b| a.as_of.cmp(&b.as_of));
    }

    /// The receipt's text.
    pub(crate) fn to_text(&self) -> Result<String, RecordsError> {
        let body = toml::to_string(self).map_err(|error| RecordsError::Proof {
            what: format!("the receipt cannot be written: {error}"),
        })?;
        Ok(format!("# Written by mild run: the rows read, written and proved, for each as-of date.\n{body}"))
    }
}

/// Who wrote a file that is where an output would go.
#[derive(Debug, PartialEq, Eq)]
pub(crate) enum Author {
    ThisPlan,
    ChangedSince,
    Unknown,
}
