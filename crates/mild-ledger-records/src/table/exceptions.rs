//! What was wrong with single rows and cells, or noticed of them.

use super::origins::Origin;
use serde::{Deserialize, Serialize};
use std::fmt;

/// One thing that was wrong, or noticed.
#[derive(Debug, Serialize, Deserialize)]
pub(crate) struct Exception {
    /// Where the row is.
    pub(crate) origin: Origin,
    pub(crate) key: String,
    pub(crate) subject: ExceptionSubject,
    pub(crate) text: String,
    pub(crate) reason: Reason,
    /// The particulars, after the reason.
    pub(crate) detail: String,
    /// What was expected, where the column does not say it.
    pub(crate) expected: String,
    pub(crate) became: Became,
}

/// What an exception is about; columns by their number, so that a long header is not held again and again.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
pub(crate) enum ExceptionSubject {
    Row,
    Key,
    Column(usize),
    /// A column of a second file, by its number among the names of those.
    OtherColumn(usize),
}

/// What exceptions are counted by.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Serialize, Deserialize)]
pub(crate) enum Reason {
    StrayQuote,
    NotAnObject,
    NestedValue,
    NameTwice,
    TooManyCells,
    TooFewCells,
    NotUtf8,
    HeaderAgain,
    NoAmount,
    UnreadableAmount,
    /// An amount whose row does not name its currency.
    NoCurrency,
    /// A condition compares a figure that is empty.
    EmptyFigure,
    /// A number that a format types with more decimals than its column has.
    Rounded,
    NoNumber,
    UnreadableNumber,
    UnreadableDate,
    NoSuchDay,
    MissingDate,
    RepeatedKey,
    /// The last row of its file, which is the total of the others.
    TotalRow,
    NoResult,
    /// Nothing to join for a row.
    NoMatch,
    /// Several rows to join from, which differ.
    SeveralMatches,
    /// A row of a second file that none of our rows joins from.
    MatchedByNone,
    /// A value that the plan did not expect.
    OutOfBounds,
    Filler,
    PerhapsFiller,
    TimeDropped,
    FinerTimeDropped,
}

/// What became of the row or the cell.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Serialize, Deserialize)]
pub(crate) enum Became {
    RowSetAside,
    RowMerged,
    /// Not selected, as the plan states it.
    RowLeftOut,
    CellEmpty,
    /// The text is written as it is, and figures have no value.
    TextKept,
    Kept,
    DateKept,
    /// A row of a second file that nothing was joined from.
    RowNotUsed,
}

impl fmt::Display for Reason {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        f.write_str(match self {
            Self::StrayQuote => "stray quote",
            Self::NotAnObject => "not a JSON object",
            Self::NestedValue => "a value of several",
            Self::NameTwice => "a name twice",
            Self::TooManyCells => "too many cells",
            Self::TooFewCells => "too few cells",
            Self::NotUtf8 => "bytes that are not UTF-8",
            Self::HeaderAgain => "the header again",
            Self::NoAmount => "no amount",
            Self::UnreadableAmount => "unreadable amount",
            Self::NoCurrency => "no currency",
            Self::EmptyFigure => "a condition on an empty figure",
            Self::Rounded => "rounded",
            Self::NoNumber => "no number",
            Self::UnreadableNumber => "unreadable number",
            Self::UnreadableDate => "unreadable date",
            Self::NoSuchDay => "a day that does not exist",
            Self::MissingDate => "a required date is missing",
            Self::RepeatedKey => "repeated key",
            Self::TotalRow => "total row",
            Self::NoResult => "no result",
            Self::NoMatch => "no match",
            Self::SeveralMatches => "several matches",
            Self::MatchedByNone => "matched by no record",
            Self::OutOfBounds => "outside its bounds",
            Self::Filler => "placeholder, taken as blank",
            Self::PerhapsFiller => "perhaps a placeholder",
            Self::TimeDropped => "time dropped",
            Self::FinerTimeDropped => "digits finer than a microsecond dropped",
        })
    }
}

impl fmt::Display for Became {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        f.write_str(match self {
            Self::RowSetAside => "row set aside",
            Self::RowMerged => "row merged",
            Self::RowLeftOut => "row left out",
            Self::CellEmpty => "cell left empty",
            Self::TextKept => "text kept",
            Self::Kept => "kept",
            Self::DateKept => "date kept",
            Self::RowNotUsed => "row not used",
        })
    }
}
