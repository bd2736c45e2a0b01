//! Over what a report allocates amounts: days, the working days of a calendar, or months.

use crate::calendars::YearsByRule;
use crate::columns::{Binder, ReportCalendar};
use crate::mistakes::Walk;
use mild_ledger::{AllocationBasis, WorkCalendar};
use std::ops::Range;
use toml::de::DeTable;

/// What amounts are allocated over.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) enum Over {
    Days,
    WorkingDays,
    Months,
}

/// The same as a plan says it, with its calendar where it has one.
#[derive(Debug)]
pub(super) struct PlannedOver {
    over: Over,
    calendar: Option<ReportCalendar>,
}

/// The same with its calendar opened.
pub(super) struct BoundOver {
    pub(super) over: Over,
    calendar: Option<WorkCalendar>,
    /// What of it is by rule.
    pub(super) by_rule: Option<YearsByRule>,
}

impl Over {
    /// One of them, and several.
    pub(super) fn words(self) -> (&'static str, &'static str) {
        match self {
            Self::Days => ("day", "days"),
            Self::WorkingDays => ("working day", "working days"),
            Self::Months => ("month", "months"),
        }
    }
}

impl PlannedOver {
    /// `over`, days unless stated, and the calendar that goes with working days.
    pub(super) fn read(
        walk: &mut Walk,
        table: &DeTable,
        choices: &[Over],
        span: Range<usize>,
    ) -> Option<Self> {
        let words: Vec<(&str, Over)> = choices.iter().map(|over| (over.words().1, *over)).collect();
        let over = match table.get("over") {
            Some(value) => walk.choice(value, &words)?,
            None => Over::Days,
        };
        let calendar = match (table.get_key_value("calendar"), over) {
            (_, Over::WorkingDays) => Some(ReportCalendar::read(walk, table, span)?),
            (Some((key, _)), _) => {
                let what = "a calendar goes with working days only";
                walk.mistakes.tell(key.span(), what, "over = \"working days\"");
                return None;
            }
            (None, _) => None,
        };
        Some(Self { over, calendar })
    }

    pub(super) fn bind(&self, binder: &mut Binder<'_>) -> Option<BoundOver> {
        let Some(calendar) = &self.calendar else {
            return Some(BoundOver { over: self.over, calendar: None, by_rule: None });
        };
        let (calendar, met) = binder.meeting_calendars(|binder| calendar.bind(binder));
        let by_rule = binder.by_rule(&met).pop().map(|calendar| calendar.years);
        Some(BoundOver { over: self.over, calendar: Some(calendar?), by_rule })
    }

    /// Several of them in words, and what names their calendar.
    pub(super) fn said(&self) -> (&'static str, String) {
        let calendar = self.calendar.as_ref().map_or_else(String::new, ReportCalendar::said);
        (self.over.words().1, calendar)
    }
}

impl BoundOver {
    pub(super) fn by(&self) -> AllocationBasis<'_> {
        match (self.over, &self.calendar) {
            (Over::WorkingDays, Some(calendar)) => AllocationBasis::WorkingDays(calendar),
            (Over::Months, _) => AllocationBasis::Months,
            _ => AllocationBasis::Days,
        }
    }
}
