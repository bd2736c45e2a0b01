//! The functions: one file a subject, and their registry.

mod intervals;
mod moves;
mod people;
mod periods;
mod receivables;
mod working_days;

use crate::columns::{Inputs, failed};
use crate::literals::Literals;
use arrow::array::ArrayRef;
use arrow::datatypes::DataType;
use datafusion::error::Result;
use mild_ledger::{Date, Error};

/// A function: what it is called, what it takes, and what constants make of it.
#[derive(Debug)]
pub(crate) struct FunctionKind {
    pub(crate) name: &'static str,
    /// What it gives, as the page of functions says it.
    pub(crate) says: &'static str,
    pub(crate) takes: &'static [Takes],
    /// What its arguments are called, in their order.
    pub(crate) called: &'static [&'static str],
    pub(crate) plan: fn(&Literals<'_>) -> Result<Planned>,
}

/// What an argument is.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(crate) enum Takes {
    /// A column of dates, or one date.
    Date,
    /// A column of whole numbers, or one.
    Figure,
    /// A constant text.
    Word,
    /// A constant text that may be left out, with all behind it.
    MayWord,
    /// A constant number that may be left out, with all behind it.
    MayNumber,
}

impl Takes {
    pub(crate) fn is_needed(self) -> bool {
        !matches!(self, Self::MayWord | Self::MayNumber)
    }

    pub(crate) fn is_column(self) -> bool {
        matches!(self, Self::Date | Self::Figure)
    }

    pub(crate) fn said(self) -> &'static str {
        match self {
            Self::Date => "a date",
            Self::Figure => "a whole number",
            Self::Word | Self::MayWord => "a constant text",
            Self::MayNumber => "a constant whole number",
        }
    }
}

impl FunctionKind {
    /// Its arguments by their names; in brackets those that may be left out.
    pub(crate) fn arguments(&self) -> String {
        let named = self.called.iter().zip(self.takes).map(|(called, takes)| match takes.is_needed() {
            true => (*called).to_owned(),
            false => format!("[{called}]"),
        });
        named.collect::<Vec<_>>().join(", ")
    }
}

/// Works out the figures of all rows.
pub(crate) type Work = Box<dyn Fn(&Inputs) -> Result<ArrayRef>>;
/// The reason of a row that has no figure; none where an input is empty.
pub(crate) type Why = Box<dyn Fn(&Inputs, usize) -> Option<String>>;

/// A function with its constants.
pub(crate) struct Planned {
    pub(crate) gives: DataType,
    pub(crate) work: Work,
    pub(crate) why: Why,
}

impl Planned {
    /// A function that gives columns of a type, and of an empty row what the call for one value says.
    pub(crate) fn new(
        gives: DataType,
        work: impl Fn(&Inputs) -> Result<ArrayRef> + 'static,
        why: impl Fn(&Inputs, usize) -> Option<Error> + 'static,
    ) -> Self {
        let why: Why = Box::new(move |inputs, row| why(inputs, row).map(|error| said(&error)));
        Self { gives, work: Box::new(work), why }
    }
}

/// What is wrong, and what is allowed.
fn said(error: &Error) -> String {
    match error.allowed() {
        "" => error.what().to_owned(),
        allowed => format!("{} (allowed: {allowed})", error.what()),
    }
}

/// The date of a row.
pub(crate) fn date(inputs: &Inputs, nth: usize, row: usize) -> Option<Date> {
    inputs.dates(nth).ok()?.get(row)
}

/// An error of the library as one of the engine.
pub(crate) fn rows<T>(found: std::result::Result<T, Error>) -> Result<T> {
    found.map_err(|error| failed(&error))
}

/// The registry.
pub(crate) const KINDS: [&FunctionKind; 19] = [
    &intervals::ELAPSED_DAYS,
    &intervals::COUNT_BETWEEN,
    &intervals::FRACTIONAL_BETWEEN,
    &intervals::PARTS_BETWEEN,
    &intervals::DAY_COUNT,
    &moves::SHIFTED,
    &moves::MOVED_TO_WEEKDAY,
    &working_days::WORKING_DAYS,
    &working_days::ADD_WORKING_DAYS,
    &working_days::ROLLED,
    &periods::PERIOD_FIRST,
    &periods::PERIOD_LAST,
    &periods::PERIOD_NUMBER,
    &periods::PERIOD_LABEL,
    &people::AGE,
    &people::NEXT_ANNIVERSARY,
    &people::TENURE,
    &receivables::DUE_DATE,
    &receivables::BUCKET,
];

/// What a page says of a function.
///
/// ```
/// let pages = mild_ledger_engine::functions();
/// assert!(pages.iter().any(|page| page.name == "due_date" && page.arguments == "issued, terms"));
/// ```
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct FunctionPage {
    /// What it is called.
    pub name: &'static str,
    /// Its arguments in their order; in brackets those that may be left out.
    pub arguments: String,
    /// What it gives.
    pub says: &'static str,
}

/// What there is to say of each function, in the order of their subjects.
///
/// ```
/// assert_eq!(mild_ledger_engine::functions().len(), 19);
/// ```
#[must_use]
pub fn functions() -> Vec<FunctionPage> {
    let page =
        |kind: &&FunctionKind| FunctionPage { name: kind.name, arguments: kind.arguments(), says: kind.says };
    KINDS.iter().map(page).collect()
}
