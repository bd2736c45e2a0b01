//! Figures that rest on days which are by rule and not yet proclaimed.

use mild_ledger::{CalendarYears, WorkCalendar};
use serde::{Deserialize, Serialize};

/// The years of a calendar that are by rule.
#[derive(Debug, Clone, PartialEq, Eq)]
pub(crate) struct YearsByRule {
    calendar: String,
    years: CalendarYears,
}

/// How many figures rest on some of them, and up to which year.
#[derive(Debug, Clone, Copy, Default, PartialEq, Eq, Serialize, Deserialize)]
pub(crate) struct FiguresByRule {
    figures: u64,
    last_year: Option<i32>,
}

/// What rests on them, in words.
pub(crate) enum Resting {
    One(String),
    Several(String),
}

impl YearsByRule {
    /// Those of a calendar that the plan knows by this name; `None` where all of its years are proclaimed.
    pub(crate) fn of(name: &str, calendar: &WorkCalendar) -> Option<Self> {
        calendar.by_rule().map(|years| Self { calendar: name.to_owned(), years })
    }

    /// The name of the calendar.
    pub(crate) fn calendar(&self) -> &str {
        &self.calendar
    }
}

impl FiguresByRule {
    /// Takes a figure for which days were looked at up to one of this year; it counts where that is by rule.
    pub(crate) fn add(&mut self, of: &YearsByRule, last_year: i32) {
        if last_year >= of.years.first() {
            self.figures += 1;
            self.last_year = self.last_year.max(Some(last_year));
        }
    }

    /// Takes over those of other rows.
    pub(crate) fn merge(&mut self, other: Self) {
        self.figures += other.figures;
        self.last_year = self.last_year.max(other.last_year);
    }

    /// A sentence on them, where there are some; `said` says what so many of them are.
    pub(crate) fn note(self, of: &YearsByRule, said: impl Fn(u64) -> Resting) -> Option<String> {
        let years = CalendarYears::of(of.years.first(), self.last_year?.min(of.years.last()));
        let (what, rest, they) = match said(self.figures) {
            Resting::One(what) => (what, "rests", "it"),
            Resting::Several(what) => (what, "rest", "they"),
        };
        let calendar = &of.calendar;
        Some(format!(
            "{what} {rest} on days of {years} that are by rule in the calendar \"{calendar}\", not yet proclaimed: {they} may change"
        ))
    }
}
