//! What the days of a calendar stand on.

use mild_ledger::{CalendarYears, Date};
use mild_ledger_calendars::Shipped;
use mild_ledger_records::OpenedCalendar;

/// The law of a calendar, what should be known of it, and the days that stand on something of their own.
#[derive(Debug, Clone)]
pub struct CalendarSources {
    pub(crate) calendar: String,
    pub(crate) covers: Option<CalendarYears>,
    pub(crate) by_rule: Option<CalendarYears>,
    /// What is known of one that ships.
    pub(crate) shipped: Option<&'static Shipped>,
    pub(crate) days: Vec<SourcedDay>,
}

/// A day that stands on an order, a proclamation or a publication of its own.
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
