//! How the cell of a column came about.

use mild_ledger::{Date, Quotient, Rounding, WorkCalendar, Working, WorkingGrid};

/// How a cell came about: the rule by name, the steps, and the days that were counted.
#[derive(Debug, Clone, Default, PartialEq, Eq)]
pub(crate) struct CellWhy {
    pub(crate) rule: String,
    pub(crate) steps: Vec<String>,
    pub(crate) days: Option<CountedDays>,
}

/// The months in which working days were counted, or moved by.
#[derive(Debug, Clone, PartialEq, Eq)]
#[non_exhaustive]
pub struct CountedDays {
    /// Which days are working days.
    pub calendar: WorkCalendar,
    /// The months with their days.
    pub grid: WorkingGrid,
    /// Where the counting starts from.
    pub from: Date,
    /// Whether they lead to a date, so that each that was counted has its number.
    pub lead_to: LeadTo,
}

/// What counted days lead to.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
#[non_exhaustive]
pub enum LeadTo {
    /// How many they are.
    Count,
    /// The date after the last of them.
    Date,
}

impl CellWhy {
    /// A rule and its steps in words.
    pub(super) fn said(rule: impl Into<String>, steps: impl IntoIterator<Item = String>) -> Self {
        Self { rule: rule.into(), steps: steps.into_iter().collect(), days: None }
    }

    /// The months of a calendar in which days were counted, next to a working.
    pub(super) fn with_days(self, days: CountedDays) -> Self {
        Self { days: Some(days), ..self }
    }
}

impl From<Working> for CellWhy {
    fn from(working: Working) -> Self {
        Self::said(working.rule(), working.steps().iter().map(|step| step.said().to_owned()))
    }
}

/// A number with all its decimals, or as a fraction where they have no end.
pub(super) fn in_full(number: Quotient) -> String {
    const MOST_DECIMALS: u8 = 9;
    let as_it_is = |decimals: u8| {
        let decimal = number.to_decimal(decimals, Rounding::Nearest).ok()?;
        (Quotient::from(decimal) == number).then(|| decimal.to_string())
    };
    (0..=MOST_DECIMALS).find_map(as_it_is).unwrap_or_else(|| number.to_string())
}
