//! An interval shared out over periods: the facts that both the table and the JSON show.

use mild_ledger::{Ends, Error, Interval, PeriodRule, Share, WorkCalendar};

/// The days, or the working days, of an interval in each of the periods that it touches.
#[derive(Debug, Clone)]
pub struct Split {
    pub(crate) rule: PeriodRule,
    /// What is shared out.
    pub(crate) what: String,
    /// The calendar by which working days are counted.
    pub(crate) calendar: Option<String>,
    pub(crate) shares: Vec<Share>,
    /// Of all of them.
    pub(crate) sum: i64,
}

impl Split {
    /// The days under some ends.
    #[must_use]
    pub fn of_days(interval: Interval, rule: PeriodRule, ends: Ends) -> Self {
        Self {
            rule,
            what: "days of the interval".to_owned(),
            calendar: None,
            shares: interval.split(rule, ends).into_iter().collect(),
            sum: interval.days_counting(ends).value(),
        }
    }

    /// The working days under some ends by a calendar.
    ///
    /// # Errors
    /// Where the calendar does not cover the interval.
    pub fn of_working_days(
        interval: Interval,
        rule: PeriodRule,
        ends: Ends,
        calendar: &WorkCalendar,
    ) -> Result<Self, Error> {
        Ok(Self {
            rule,
            what: format!("working days by {}", calendar.name()),
            calendar: Some(calendar.name().to_owned()),
            shares: calendar.split(interval, rule, ends)?,
            sum: calendar.count_working_days(interval, ends)?,
        })
    }
}
