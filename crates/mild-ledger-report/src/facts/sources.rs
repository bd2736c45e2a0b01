//! The law of a calendar, and the days that have orders of their own.

use mild_ledger::{CalendarYears, Date};
use mild_ledger_calendars::Shipped;
use mild_ledger_records::OpenedCalendar;

/// The law of a calendar, notes on it, and the days with an order or a publication of their own.
#[derive(Debug, Clone)]
pub struct CalendarSources {
    pub(crate) calendar: String,
    pub(crate) covers: Option<CalendarYears>,
    pub(crate) by_rule: Option<CalendarYears>,
    /// The facts of a shipped calendar.
    pub(crate) shipped: Option<&'static Shipped>,
    pub(crate) days: Vec<SourcedDay>,
}

/// A day with an order, a proclamation or a publication of its own.
#[derive(Debug, Clone)]
pub(crate) struct SourcedDay {
    pub(crate) date: Date,
    pub(crate) holiday: String,
    pub(crate) source: String,
}

impl CalendarSources {
    /// Those of a calendar that was asked for by this name or file.
    #[must_use]
    pub fn of(source: &str, opened: &OpenedCalendar) -> Self {
        let calendar = opened.calendar();
        let days = calendar.holidays().iter().filter_map(|holiday| {
            Some(SourcedDay {
                date: holiday.date(),
                holiday: holiday.name().to_owned(),
                source: holiday.source()?.to_owned(),
            })
        });
        Self {
            calendar: calendar.name().to_owned(),
            covers: opened.covers(),
            by_rule: calendar.by_rule(),
            shipped: mild_ledger_calendars::named(source),
            days: days.collect(),
        }
    }
}
