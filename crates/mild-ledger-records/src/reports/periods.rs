//! Periods as they are in tables.

use crate::columns::titled;
use mild_ledger::{Date, Period, PeriodRule};

/// What a period is called, seen from a date: one that goes on after that is not finished.
pub(super) fn label_as_of(period: &Period, as_of: Option<Date>) -> String {
    let goes_on = |as_of: &Date| period.dates().contains(*as_of) && *as_of < period.dates().last();
    match as_of.filter(goes_on) {
        Some(_) => format!("{}, unfinished", period.label()),
        None => period.label(),
    }
}

/// The head of a column of periods.
pub(super) fn head_of(rule: PeriodRule) -> String {
    titled(rule.word())
}
