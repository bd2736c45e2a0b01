//! How one cell that a plan adds comes about.

use crate::columns::CountedDays;

/// A cell that the plan adds, with its working.
#[derive(Debug, Clone, PartialEq, Eq)]
#[non_exhaustive]
pub struct CellWorking {
    /// The column's header.
    pub column: String,
    /// The value; empty where there is none.
    pub value: String,
    /// Why there is none, in words.
    pub empty_because: Option<String>,
    /// The rule by its name.
    pub rule: String,
    /// The columns that it looks at, each with its value in this row.
    pub inputs: Vec<(String, String)>,
    /// The steps, the value last.
    pub steps: Vec<String>,
    /// The months in which working days were counted, by their calendar.
    pub days: Option<CountedDays>,
}
