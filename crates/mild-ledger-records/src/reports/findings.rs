//! What a report found: named tables with typed cells, notes, and lines that prove that nothing is missing.

use super::tables::ReportTable;
use mild_ledger::{Date, DateTime, Decimal};
use serde::{Deserialize, Serialize};
use std::borrow::Cow;

/// What a report found.
#[derive(Debug, Clone)]
#[non_exhaustive]
pub struct Report {
    /// The word of its kind, as the plan has it.
    pub kind: &'static str,
    /// Its title.
    pub title: String,
    /// The columns that it was made of: the key of the plan that names each, and its header where one is named.
    pub made_of: Vec<(&'static str, Option<String>)>,
    /// The dates from which it is seen, where these are several or not the as-of date: each row of its tables begins with one.
    pub seen_from: Vec<Date>,
    /// What it counted.
    pub tables: Vec<ReportTable>,
    /// The rows that make up its cells, where people may open them.
    pub behind: Vec<RowsBehind>,
    /// Its figures in one sentence, whose pieces follow each other as they are.
    pub answer: Vec<ReportCell>,
    /// Sentences on how its figures are to be read.
    pub explanation: Vec<String>,
    /// How its figures add up to the rows written.
    pub proof: Vec<ProofLine>,
    /// Sentences on what a reader should know next to the figures.
    pub notes: Vec<String>,
}

/// The rows that make up a cell of a table.
#[derive(Debug, Clone, PartialEq, Eq)]
#[non_exhaustive]
pub struct RowsBehind {
    /// The currency of its table, where that has one.
    pub currency: Option<String>,
    /// What names its row, by level.
    pub row: Vec<String>,
    /// The header of its column.
    pub column: String,
    /// What is in the cell.
    pub figure: ReportCell,
    /// How many rows make it up.
    pub count: u64,
    /// The first of them: by its key, by where it is, and with its part of the figure.
    pub rows: Vec<RowBehind>,
    /// What else is in the figure.
    pub besides: Option<RowBehind>,
}

/// A row that is part of a cell.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[non_exhaustive]
pub struct RowBehind {
    /// Its key.
    pub key: String,
    /// Where it is, in words.
    pub place: String,
    /// Its part of the figure.
    pub part: ReportCell,
}

/// A cell of a table.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[non_exhaustive]
pub enum ReportCell {
    /// A name or a label.
    Text(String),
    /// A whole number.
    Count(i64),
    /// An amount or another number with decimals.
    Decimal(Decimal),
    /// A number of the records that is not a quantity, such as a year or the number of a document: shown without marks between its thousands.
    Number(Decimal),
    /// A day.
    Date(Date),
    /// A day and a time.
    DateTime(DateTime),
    /// Nothing: there was nothing to work it out from.
    Empty,
    /// Nothing, for this reason.
    Missing(Cow<'static, str>),
}

impl ReportCell {
    /// The cell of a count, which none comes near the largest of.
    #[must_use]
    pub fn count(count: impl TryInto<i64>) -> Self {
        Self::Count(count.try_into().unwrap_or(i64::MAX))
    }
}

/// A whole and its parts, which sum to it; the whole is what the writer counted on its own.
#[derive(Debug, Clone, PartialEq, Eq)]
#[non_exhaustive]
pub struct ProofLine {
    /// The thing counted.
    pub what: String,
    /// All of it.
    pub whole: ProofPart,
    /// Where it went.
    pub parts: Vec<ProofPart>,
    /// What the whole must be, counted elsewhere.
    pub against: ProofAgainst,
}

/// A named number of a proof.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct ProofPart {
    /// What it is.
    pub name: String,
    /// How much or how many.
    pub value: ProofValue,
}

/// A number of a proof.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum ProofValue {
    /// A number of rows.
    Rows(u64),
    /// So much.
    Amount(Decimal),
}

/// What the whole of a proof is held against.
#[derive(Debug, Clone, PartialEq, Eq)]
#[non_exhaustive]
pub enum ProofAgainst {
    /// The rows that the writer wrote.
    RowsWritten,
    /// The sum of a column of amounts that the writer wrote, by the column's header, and by the currency where it has one.
    AmountWritten(String, Option<String>),
}

impl ProofLine {
    /// A line of rows: the whole is the rows written.
    pub(crate) fn of_rows(parts: impl IntoIterator<Item = (&'static str, u64)>) -> Self {
        let part =
            |(name, rows): (&str, u64)| ProofPart { name: name.to_owned(), value: ProofValue::Rows(rows) };
        let parts: Vec<ProofPart> = parts.into_iter().map(part).collect();
        let whole = parts.iter().map(|part| match part.value {
            ProofValue::Rows(rows) => rows,
            ProofValue::Amount(_) => 0,
        });
        let whole = part(("written", whole.sum()));
        Self { what: "rows".to_owned(), whole, parts, against: ProofAgainst::RowsWritten }
    }

    /// A line of amounts of a column: the whole is the amount written. `None` where their sum is too large to hold.
    pub(crate) fn of_amounts(
        column: &str,
        parts: impl IntoIterator<Item = (&'static str, Decimal)>,
    ) -> Option<Self> {
        let part = |(name, amount): (&str, Decimal)| ProofPart {
            name: name.to_owned(),
            value: ProofValue::Amount(amount),
        };
        let parts: Vec<(&str, Decimal)> = parts.into_iter().collect();
        let whole = Decimal::checked_sum(parts.iter().map(|(_, amount)| *amount))?;
        Some(Self {
            what: column.to_owned(),
            whole: part(("written", whole)),
            parts: parts.into_iter().map(part).collect(),
            against: ProofAgainst::AmountWritten(column.to_owned(), None),
        })
    }
}

impl std::fmt::Display for ProofValue {
    fn fmt(&self, f: &mut std::fmt::Formatter<'_>) -> std::fmt::Result {
        match self {
            Self::Rows(rows) => rows.fmt(f),
            Self::Amount(amount) => amount.fmt(f),
        }
    }
}
