//! The functions: one file a subject, and their registry.

mod intervals;
mod moves;
mod people;
mod periods;
mod receivables;
mod working_days;

use crate::columns::{Inputs, failed};
use crate::kind::Kind;
use arrow::array::ArrayRef;
use arrow::datatypes::DataType;
use datafusion::error::Result;
use mild_ledger::{Date, Error};

/// A function of the values of a row.
pub(crate) type FunctionKind = Kind<Planned>;

/// Works out the figures of all rows.
pub(crate) type Work = Box<dyn Fn(&Inputs) -> Result<ArrayRef> + Send + Sync>;
/// The reason of a row that has no figure; none where an input is empty.
pub(crate) type Why = Box<dyn Fn(&Inputs, usize) -> Option<String> + Send + Sync>;

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
        work: impl Fn(&Inputs) -> Result<ArrayRef> + Send + Sync + 'static,
        why: impl Fn(&Inputs, usize) -> Option<Error> + Send + Sync + 'static,
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
