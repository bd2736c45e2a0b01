//! What a run found, wrote and proved.

use mild_ledger::column::DateTally;
use mild_ledger::{Amount, Date, Ends};
use std::path::PathBuf;

/// All that a run has to say.
#[derive(Debug, Clone)]
pub struct RunOutcome {
    /// The plan's title.
    pub title: String,
    /// The as-of date.
    pub as_of: Date,
    /// The records file as it was named.
    pub records: String,
    /// Its size in bytes.
    pub records_bytes: u64,
    /// The SHA-256 of its bytes, in lower-case hexadecimal.
    pub records_sha256: String,
    /// Where its rows went.
    pub rows: RowCounts,
    /// Where its amounts went: one entry a column of amounts, in the order of the header.
    pub amounts: Vec<AmountProof>,
    /// The reports, in the plan's order.
    pub reports: Vec<AgingReport>,
    /// What the columns of dates held, in the order of the header.
    pub dates: Vec<ColumnDates>,
    /// The signs of the figures in columns of intervals, in the plan's order.
    pub figures: Vec<ColumnFigures>,
    /// The exceptions by reason, most rows first.
    pub exceptions: Vec<ExceptionGroup>,
    /// Sentences on what was noticed and is no exception.
    pub notes: Vec<String>,
    /// A sentence on repeated keys, where there were any.
    pub repeats: Option<String>,
    /// Texts written behind an apostrophe because a spreadsheet would have run them as formulas.
    pub cells_behind_apostrophe: u64,
    /// The files written, the receipt left out.
    pub files: Vec<WrittenFile>,
    /// Where the receipt stands.
    pub receipt: PathBuf,
}

/// Each row of the input is in exactly one of the last four.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default)]
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
pub struct AmountProof {
    /// The column's header.
    pub column: String,
    /// The sum of all readable amounts.
    pub read: Amount,
    /// The sum in the output.
    pub written: Amount,
    /// The sum of the readable amounts of rows set aside.
    pub set_aside: Amount,
    /// The sum of the amounts of merged rows that were not added to another.
    pub merged: Amount,
    /// The sum of the amounts of rows not selected.
    pub not_selected: Amount,
    /// Rows whose amount could not be read; it is in none of the sums.
    pub unreadable_rows: u64,
    /// Whether the column is in the output, so that its sum was read back from there.
    pub read_back: ReadBackState,
}

/// Whether a column's sum was read back from the finished output.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum ReadBackState {
    /// It was, and agrees.
    InTheOutput,
    /// The plan does not write the column, so only the rows were read back.
    NotWritten,
}

/// What is owed, by customer and bucket.
#[derive(Debug, Clone)]
pub struct AgingReport {
    /// The report's title.
    pub title: String,
    /// The column that rows are grouped by, if any.
    pub by: Option<String>,
    /// The column of amounts.
    pub amount_column: String,
    /// The column of buckets.
    pub band_column: String,
    /// The buckets in the order of their edges, then the rows without a date, then credits.
    pub buckets: Vec<String>,
    /// One row a group, largest total first.
    pub groups: Vec<AgingGroup>,
    /// The sums of all groups; its name is empty.
    pub total: AgingGroup,
    /// Open rows in each bucket.
    pub counts: Vec<u64>,
    /// How the amounts add up to what was written.
    pub proof: ReportProof,
    /// Rows behind the proof's last two amounts, and rows without an amount.
    pub apart: RowsApart,
}

/// Rows of a report that are in none of its buckets.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default)]
pub struct RowsApart {
    /// Paid on or before the as-of date, or of amount zero.
    pub settled: u64,
    /// Issued after the as-of date.
    pub not_yet_issued: u64,
    /// Without an amount, which the plan allows.
    pub no_amount: u64,
}

/// One row of an aging report.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct AgingGroup {
    /// The value of the grouping column.
    pub name: String,
    /// An amount a bucket.
    pub amounts: Vec<Amount>,
    /// Their sum.
    pub total: Amount,
}

/// The sum written is the sum of the other four.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct ReportProof {
    /// The sum of the amount column in the output.
    pub written: Amount,
    /// Open in the buckets, those without a date included.
    pub in_buckets: Amount,
    /// Open below zero.
    pub credits: Amount,
    /// Paid on or before the as-of date.
    pub settled: Amount,
    /// Issued after the as-of date.
    pub not_yet_issued: Amount,
}

/// What a column of dates held.
#[derive(Debug, Clone)]
pub struct ColumnDates {
    /// The column's header.
    pub column: String,
    /// How its dates are written.
    pub pattern: String,
    /// What was met.
    pub tally: DateTally,
}

/// The signs of an interval column's figures.
#[derive(Debug, Clone)]
pub struct ColumnFigures {
    /// The column's header.
    pub column: String,
    /// How its figures were counted.
    pub rule: String,
    /// Which ends they count.
    pub ends: Ends,
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

/// A file that a run wrote.
#[derive(Debug, Clone)]
pub struct WrittenFile {
    /// As the plan names it.
    pub name: String,
    /// Where it stands.
    pub path: PathBuf,
    /// Rows, the header left out.
    pub rows: u64,
    /// Its size in bytes.
    pub bytes: u64,
    /// The SHA-256 of its bytes, in lower-case hexadecimal.
    pub sha256: String,
}
