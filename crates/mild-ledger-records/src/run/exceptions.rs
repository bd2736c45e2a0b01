//! What was wrong with single rows and cells: listed in a file, counted by reason.

use super::outcome::ExceptionGroup;
use crate::csv::{CellWriter, LineWriter};
use std::collections::BTreeMap;
use std::fmt;
use std::io;

/// One thing that was wrong, or noticed.
#[derive(Debug)]
pub(super) struct Exception {
    pub(super) row: u64,
    pub(super) line: u64,
    pub(super) key: String,
    pub(super) column: String,
    pub(super) text: String,
    pub(super) reason: Reason,
    /// The particulars, behind the reason.
    pub(super) detail: String,
    pub(super) became: Became,
}

/// What exceptions are counted by.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord)]
pub(super) enum Reason {
    TooManyCells,
    TooFewCells,
    NotUtf8,
    HeaderAgain,
    NoAmount,
    UnreadableAmount,
    UnreadableDate,
    NoSuchDay,
    MissingDate,
    RepeatedKey,
    NoResult,
    Filler,
    PerhapsFiller,
    TimeDropped,
    FinerTimeDropped,
}

/// What became of the row or the cell.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord)]
pub(super) enum Became {
    RowSetAside,
    RowMerged,
    CellEmpty,
    Kept,
}

impl fmt::Display for Reason {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        f.write_str(match self {
            Self::TooManyCells => "too many cells",
            Self::TooFewCells => "too few cells",
            Self::NotUtf8 => "bytes that are not UTF-8",
            Self::HeaderAgain => "the header again",
            Self::NoAmount => "no amount",
            Self::UnreadableAmount => "unreadable amount",
            Self::UnreadableDate => "unreadable date",
            Self::NoSuchDay => "a day that does not exist",
            Self::MissingDate => "a required date is missing",
            Self::RepeatedKey => "repeated key",
            Self::NoResult => "no result",
            Self::Filler => "filler, taken as blank",
            Self::PerhapsFiller => "perhaps a filler",
            Self::TimeDropped => "time of day dropped",
            Self::FinerTimeDropped => "digits finer than a microsecond dropped",
        })
    }
}

impl fmt::Display for Became {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        f.write_str(match self {
            Self::RowSetAside => "row set aside",
            Self::RowMerged => "row merged",
            Self::CellEmpty => "cell left empty",
            Self::Kept => "kept",
        })
    }
}

/// Writes exceptions to their file in the order of the rows, and counts them.
pub(super) struct ExceptionSink {
    waiting: Vec<Exception>,
    cells: CellWriter,
    file: LineWriter,
    groups: BTreeMap<(Reason, Became), Group>,
    rows_set_aside: u64,
}

#[derive(Default)]
struct Group {
    count: u64,
    examples: Vec<String>,
}

/// Exceptions of a reason that are shown in full; the file has them all.
const EXAMPLES: usize = 3;

impl ExceptionSink {
    pub(super) fn new(file: LineWriter) -> io::Result<Self> {
        let mut sink = Self {
            waiting: Vec::new(),
            cells: CellWriter::default(),
            file,
            groups: BTreeMap::new(),
            rows_set_aside: 0,
        };
        for name in ["row", "line", "key", "column", "text", "reason", "outcome"] {
            sink.cells.text(name);
        }
        sink.cells.take_line(|line| sink.file.write_line(line))?;
        Ok(sink)
    }

    pub(super) fn add(&mut self, exception: Exception) {
        self.waiting.push(exception);
    }

    /// Writes what came of one batch, in the order of its rows.
    pub(super) fn write_batch(&mut self) -> io::Result<()> {
        self.waiting.sort_by_key(|exception| exception.row);
        let mut last_set_aside = 0;
        for exception in std::mem::take(&mut self.waiting) {
            // A row that is set aside for two reasons is one row.
            if exception.became == Became::RowSetAside && exception.row != last_set_aside {
                self.rows_set_aside += 1;
                last_set_aside = exception.row;
            }
            self.write(&exception)?;
            let group = self.groups.entry((exception.reason, exception.became)).or_default();
            group.count += 1;
            if group.examples.len() < EXAMPLES {
                group.examples.push(exception.shown());
            }
        }
        Ok(())
    }

    fn write(&mut self, exception: &Exception) -> io::Result<()> {
        self.cells.value(exception.row);
        self.cells.value(exception.line);
        self.cells.text(&exception.key);
        self.cells.text(&exception.column);
        self.cells.text(&exception.text);
        self.cells.text(&match exception.detail.as_str() {
            "" => exception.reason.to_string(),
            detail => format!("{}: {detail}", exception.reason),
        });
        self.cells.text(&exception.became.to_string());
        self.cells.take_line(|line| self.file.write_line(line))
    }

    /// Rows set aside, as the exceptions file lists them.
    pub(super) fn rows_set_aside(&self) -> u64 {
        self.rows_set_aside
    }

    pub(super) fn behind_apostrophe(&self) -> u64 {
        self.cells.behind_apostrophe()
    }

    /// The groups, rows set aside first, and the finished file.
    pub(super) fn finish(self) -> (Vec<ExceptionGroup>, LineWriter) {
        let mut groups: Vec<_> = self.groups.into_iter().collect();
        groups.sort_by_key(|((reason, became), group)| (*became, std::cmp::Reverse(group.count), *reason));
        let groups = groups
            .into_iter()
            .map(|((reason, became), group)| ExceptionGroup {
                reason: reason.to_string(),
                outcome: became.to_string(),
                count: group.count,
                examples: group.examples,
            })
            .collect();
        (groups, self.file)
    }
}

impl Exception {
    /// One line for a person: where, whose, and what.
    fn shown(&self) -> String {
        let key = match self.key.as_str() {
            "" => String::new(),
            key => format!(", {key}"),
        };
        let column = match self.column.as_str() {
            "" => String::new(),
            column => format!(", {column}"),
        };
        let what = match self.detail.as_str() {
            "" => self.text.as_str(),
            detail => detail,
        };
        format!("row {} (line {}){key}{column}: {what}", self.row, self.line)
    }
}
