//! What a run found, wrote and proved.

use super::cell_working::CellWorking;
use super::held_rows::HeldRows;
use crate::reports::{ProofPart, ProofValue, Report};
use crate::table::Presentation;
use mild_ledger::column::DateTally;
use mild_ledger::{Date, DateTime, Decimal, Ends};
use serde::{Deserialize, Serialize};
use std::path::PathBuf;

/// All that a run has to say.
#[derive(Debug, Clone)]
#[non_exhaustive]
pub struct RunOutcome {
    /// The plan's title.
    pub title: String,
    /// The as-of date; none where the plan asks for none.
    pub as_of: Option<Date>,
    /// The time of it, where it has one.
    pub as_of_time: Option<DateTime>,
    /// The records file as it was named.
    pub records: String,
    /// The files read: the plan, the records, then the files of calendars.
    pub inputs: Vec<RunFile>,
    /// Where its rows went.
    pub rows: RowCounts,
    /// Where its amounts went: one entry a column of amounts and currency, in the order of the header.
    pub amounts: Vec<AmountProof>,
    /// The reports, in the plan's order.
    pub reports: Vec<Report>,
    /// What the columns of dates held, in the order of the header.
    pub dates: Vec<ColumnDates>,
    /// The signs of the figures in columns of intervals, in the plan's order.
    pub figures: Vec<ColumnFigures>,
    /// What is in the columns that the plan adds, those that are joined first.
    pub added: Vec<AddedColumn>,
    /// A few rows to look at, where they were asked for.
    pub sample: Option<Sample>,
    /// Columns of the file next to added ones, where the plan compares them.
    pub compared: Vec<ComparedColumns>,
    /// The files that columns were joined from, in the plan's order.
    pub joined: Vec<JoinedFile>,
    /// The exceptions by reason, most rows first.
    pub exceptions: Vec<ExceptionGroup>,
    /// Totals that the plan states of the records, each with the total read.
    pub control: Vec<ControlTotal>,
    /// Sentences on what makes the figures doubtful: many rows set aside, columns that another pattern reads better.
    pub doubts: Vec<String>,
    /// Cells left empty because their text could not be read.
    pub unreadable_cells: u64,
    /// Sentences on what was noticed and is not an exception.
    pub notes: Vec<String>,
    /// A sentence on repeated keys, where there were any.
    pub duplicates: Option<String>,
    /// Texts written after an apostrophe because a spreadsheet would have run them as formulas.
    pub cells_behind_apostrophe: u64,
    /// The calendars that columns counted by.
    pub calendars: Vec<UsedCalendar>,
    /// The files written, the receipt left out: the rows, then the exceptions.
    pub outputs: Vec<RunFile>,
    /// The rows, where the plan sends them to standard output.
    pub held_rows: Option<HeldRows>,
    /// Where the receipt is.
    pub receipt: PathBuf,
    /// How numbers and dates are shown to people.
    pub presentation: Presentation,
}

impl RunOutcome {
    /// Leaves out the files of a run that no one keeps: its outputs but for rows on standard output, and its receipt.
    ///
    /// ```
    /// # use mild_ledger_records::{Plan, RunRequest, Watch, run};
    /// # use std::sync::atomic::AtomicBool;
    /// # let (folder, aside) = (tempfile::tempdir()?, tempfile::tempdir()?);
    /// # std::fs::write(folder.path().join("jobs.csv"), "Job\nJ1\n")?;
    /// # let text = "plan = 1\n[records]\nfile = \"jobs.csv\"\n[output]\nrows = \"rows.csv\"\n";
    /// # let plan = Plan::of_text(text, &folder.path().join("jobs.toml"))?.with_outputs_in(aside.path());
    /// let watch = Watch { interrupted: &AtomicBool::new(false), progress: &|_| {} };
    /// let mut outcome = run(&plan, &RunRequest::new(), watch)?;
    /// outcome.forget_files();
    /// assert!(outcome.outputs.is_empty());
    /// # Ok::<(), Box<dyn std::error::Error>>(())
    /// ```
    pub fn forget_files(&mut self) {
        let has_held_rows = self.held_rows.is_some();
        self.outputs.retain(|output| has_held_rows && output.path.as_os_str() == output.name.as_str());
        self.receipt = PathBuf::new();
        if !has_held_rows {
            self.cells_behind_apostrophe = 0;
        }
    }
}

/// What is in a column that a plan adds, over the rows written.
#[derive(Debug, Clone, PartialEq, Eq)]
#[non_exhaustive]
pub struct AddedColumn {
    /// The column's header.
    pub column: String,
    /// Rows with a value.
    pub filled: u64,
    /// Rows without one.
    pub empty: u64,
    /// The row with the smallest value, of several the first; none for texts and labels.
    pub smallest: Option<EndRow>,
    /// The row with the largest, of several the first.
    pub largest: Option<EndRow>,
    /// The mean of numbers as they are shown, to their decimals and at least two.
    pub mean: Option<String>,
    /// The value in the middle, of two their mean, of dates the earlier; none where more different values are in the column
    /// than are held.
    pub median: Option<String>,
    /// The values of texts and labels with their rows, in their order; none where there are too many.
    pub values: Option<Vec<(String, u64)>>,
    /// The first row, of texts and labels that people may open.
    pub first: Option<EndRow>,
}

/// A column of the file next to one that the plan adds, over the rows written.
#[derive(Debug, Clone, PartialEq, Eq)]
#[non_exhaustive]
pub struct ComparedColumns {
    /// The column of the file.
    pub column: String,
    /// The added one.
    pub with: String,
    /// Rows where both have the same value.
    pub equal: u64,
    /// Rows where both have one, and not the same.
    pub different: u64,
    /// Rows with a value in the file alone.
    pub only_in_file: u64,
    /// Rows with an added value alone.
    pub only_added: u64,
    /// Rows with neither.
    pub neither: u64,
    /// The first rows that differ.
    pub examples: Vec<ComparedRow>,
    /// Other ways of counting that explain the most of the rows that differ, each with how many; none where no way explains half of them.
    pub explained: Vec<(String, u64)>,
    /// By how much the file's value is more than the added one, where it is the same in all rows that differ, and those are several.
    pub apart: Option<String>,
}

/// A row in which a column of the file and an added one differ.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[non_exhaustive]
pub struct ComparedRow {
    /// Its key; empty where the plan has none.
    pub key: String,
    /// Where it is, in words.
    pub place: String,
    /// What is in the file, as it was read.
    pub theirs: String,
    /// The value of the added column.
    pub ours: String,
}

/// A row at an end of a column, to be counted off.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[non_exhaustive]
pub struct EndRow {
    /// The value of the column.
    pub value: String,
    /// The key of the row; empty where the plan has none.
    pub key: String,
    /// Where it is.
    pub place: String,
    /// The columns that the value comes from, each with its own.
    pub inputs: Vec<(String, String)>,
    /// How it comes about, where people may open it; what one process hands to another has none.
    #[serde(skip)]
    pub working: Option<CellWorking>,
}

/// A few of the rows written, with inputs next to results.
#[derive(Debug, Clone, PartialEq, Eq)]
#[non_exhaustive]
pub struct Sample {
    /// The columns of the key, then those that added columns look at, then those.
    pub columns: Vec<String>,
    /// The rows, edge cases first.
    pub rows: Vec<SampledRow>,
}

/// A row of a sample.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[non_exhaustive]
pub struct SampledRow {
    /// Where it is.
    pub place: String,
    /// The edge that it is at: `29 February`, `holiday`, `below zero`, `zero`, `empty`, `month end`, `rest day`, or `any`.
    pub chosen_for: String,
    /// Its cells, one a column.
    pub cells: Vec<String>,
}

/// A file that columns were joined from.
#[derive(Debug, Clone, PartialEq, Eq)]
#[non_exhaustive]
pub struct JoinedFile {
    /// As the plan names it.
    pub file: String,
    /// Its rows, a header left out.
    pub rows: u64,
    /// Those of them that could be used: they are whole, and their key is not blank.
    pub usable_rows: u64,
    /// Those whose key is blank.
    pub blank_keys: u64,
    /// Its different keys.
    pub keys: u64,
    /// Rows of the records that cells were brought to.
    pub matched: u64,
    /// Rows of the records that nothing was brought to.
    pub unmatched_records: u64,
    /// Its keys that no row of the records has.
    pub unmatched_other: u64,
    /// How its rows and their amounts come apart, where rows of one key are added up: the rows read, and their places.
    pub account: Vec<JoinAccount>,
}

/// How the rows of a second file, or the amounts of one of its columns, come apart; the parts sum to the whole.
#[derive(Debug, Clone, PartialEq, Eq)]
#[non_exhaustive]
pub struct JoinAccount {
    /// The column of amounts; nothing for rows.
    pub column: Option<String>,
    /// The rows or amount read.
    pub read: ProofValue,
    /// Where it went.
    pub parts: Vec<ProofPart>,
}

/// A total that a plan states, and the total read.
#[derive(Debug, Clone, PartialEq, Eq)]
#[non_exhaustive]
pub struct ControlTotal {
    /// The column of amounts, or `rows`.
    pub of: String,
    /// What the plan says.
    pub stated: Decimal,
    /// What the records came to.
    pub read: Decimal,
}

impl ControlTotal {
    /// Whether the records came to what the plan says.
    #[must_use]
    pub fn agrees(&self) -> bool {
        self.read.checked_sub(self.stated).is_some_and(|difference| difference.units() == 0)
    }
}

/// Each row of the input is in exactly one of the last four.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default, Serialize, Deserialize)]
#[non_exhaustive]
pub struct RowCounts {
    /// Rows of the records file, the header left out.
    pub read: u64,
    /// Rows in the output.
    pub written: u64,
    /// Rows that could not be used; the exceptions file lists each.
    pub set_aside: u64,
    /// Rows that went into another row of the same key.
    pub merged: u64,
    /// Rows that the plan's `[[select]]` leaves out.
    pub not_selected: u64,
}

/// Sums of one column of amounts: `read` is the sum of the last four.
#[derive(Debug, Clone, PartialEq, Eq)]
#[non_exhaustive]
pub struct AmountProof {
    /// The column's header.
    pub column: String,
    /// Which of its currencies, where the plan names a column of them; empty for rows that name none.
    pub currency: Option<String>,
    /// The sum of all readable amounts.
    pub read: Decimal,
    /// The sum in the output.
    pub written: Decimal,
    /// The sum of the readable amounts of rows set aside.
    pub set_aside: Decimal,
    /// The sum of the amounts of merged rows that were not added to another.
    pub merged: Decimal,
    /// The sum of the amounts of rows not selected.
    pub not_selected: Decimal,
    /// Rows whose amount could not be read; it is in none of the sums.
    pub unreadable_rows: u64,
    /// Whether the column is in the output, so that its sum was read back from there.
    pub read_back: ReadBackState,
}

/// Whether a column's sum was read back from the finished output.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
#[non_exhaustive]
pub enum ReadBackState {
    /// It was, and agrees.
    InTheOutput,
    /// It is there without the column that names its currencies, so that the digits of all were added as a check.
    DigitsInTheOutput,
    /// The plan does not write the column, so only the rows were read back.
    NotWritten,
}

/// A calendar that columns counted by.
#[derive(Debug, Clone, PartialEq, Eq)]
#[non_exhaustive]
pub struct UsedCalendar {
    /// What the plan calls it.
    pub name: String,
    /// The years that it covers, in words.
    pub covers: String,
    /// Its rest days, in words.
    pub rest_days: String,
    /// Its opening hours, in words, where it states some.
    pub hours: Option<String>,
    /// Days on which it keeps a holiday.
    pub holidays: u64,
    /// Its sources as the plan names them.
    pub sources: Vec<String>,
}

/// What a column of dates held.
#[derive(Debug, Clone)]
#[non_exhaustive]
pub struct ColumnDates {
    /// The column's header.
    pub column: String,
    /// How its dates are written.
    pub pattern: String,
    /// How many of its cells were read, blank, placeholders and unreadable.
    pub tally: DateTally,
}

/// The signs of an interval column's figures.
#[derive(Debug, Clone)]
#[non_exhaustive]
pub struct ColumnFigures {
    /// The column's header.
    pub column: String,
    /// How its figures were counted.
    pub rule: String,
    /// Which ends they count; none of what the clock counts.
    pub ends: Option<Ends>,
    /// Figures below zero.
    pub negative: u64,
    /// Figures of zero.
    pub zero: u64,
    /// Figures above zero.
    pub positive: u64,
    /// Rows without a figure.
    pub empty: u64,
}

/// Exceptions of one reason.
#[derive(Debug, Clone)]
#[non_exhaustive]
pub struct ExceptionGroup {
    /// The reason.
    pub reason: String,
    /// What became of the rows or cells.
    pub outcome: String,
    /// How many there are.
    pub count: u64,
    /// The first few, each with its place and words.
    pub examples: Vec<String>,
}

/// A file that a run read or wrote.
#[derive(Debug, Clone, PartialEq, Eq)]
#[non_exhaustive]
pub struct RunFile {
    /// As it was named: an output as in the plan, a file next to the plan without its folder.
    pub name: String,
    /// Where it is.
    pub path: PathBuf,
    /// The rows of a file of rows, a header left out; none for a plan or a calendar.
    pub rows: Option<u64>,
    /// Its size in bytes.
    pub bytes: u64,
    /// What its bytes hash to: `blake3:` or `sha-256:`, as the plan asks, and lower-case hexadecimal.
    pub hash: String,
    /// The address that a redirect led to, where the file was read from there.
    pub led_to: Option<String>,
}
