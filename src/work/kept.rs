//! A day on which a holiday is kept.

use super::holiday::HolidayLength;
use crate::date::Date;
use alloc::sync::Arc;

/// A day on which a holiday is kept.
///
/// ```
/// # use mild_ledger::{HolidayMove, HolidayRule, Occurrence, RestDays, WorkCalendar};
/// let day = HolidayRule::new("Launch", Occurrence::on_day_of_year(7, 4)?).with_moved(HolidayMove::FollowingMonday);
/// let calendar = WorkCalendar::new("Yard", RestDays::default(), 2026, 2026, &[day])?;
/// let holiday = &calendar.holidays()[0];
/// assert_eq!((holiday.name(), holiday.date().to_string().as_str()), ("Launch", "2026-07-06"));
/// assert_eq!(holiday.moved_from().map(|date| date.to_string()), Some("2026-07-04".into()));
/// # Ok::<(), mild_ledger::Error>(())
/// ```
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Holiday {
    date: Date,
    name: Arc<str>,
    moved_from: Option<Date>,
    length: HolidayLength,
    source: Option<Arc<str>>,
}

impl Holiday {
    pub(super) fn new(
        date: Date,
        moved_from: Option<Date>,
        name: Arc<str>,
        length: HolidayLength,
        source: Option<Arc<str>>,
    ) -> Self {
        Self { date, name, moved_from, length, source }
    }

    /// The day on which it is kept.
    ///
    /// ```
    /// # use mild_ledger::WorkCalendar;
    /// assert!(WorkCalendar::rest_days_only(Default::default()).holidays().first().map(|day| day.date()).is_none());
    /// ```
    #[must_use]
    pub fn date(&self) -> Date {
        self.date
    }

    /// Its name.
    ///
    /// ```
    /// # use mild_ledger::WorkCalendar;
    /// assert!(WorkCalendar::rest_days_only(Default::default()).holidays().first().map(|day| day.name()).is_none());
    /// ```
    #[must_use]
    pub fn name(&self) -> &str {
        &self.name
    }

    /// How much of the day it takes.
    ///
    /// ```
    /// # use mild_ledger::WorkCalendar;
    /// let none = WorkCalendar::rest_days_only(Default::default());
    /// assert!(none.holidays().first().map(|day| day.length()).is_none());
    /// ```
    #[must_use]
    pub fn length(&self) -> HolidayLength {
        self.length
    }

    /// The law, order or publication that it rests on, where its rule says one.
    ///
    /// ```
    /// # use mild_ledger::WorkCalendar;
    /// let none = WorkCalendar::rest_days_only(Default::default());
    /// assert!(none.holidays().first().and_then(|day| day.source()).is_none());
    /// ```
    #[must_use]
    pub fn source(&self) -> Option<&str> {
        self.source.as_deref()
    }

    /// The day that it was moved from, if it was.
    ///
    /// ```
    /// # use mild_ledger::WorkCalendar;
    /// let none = WorkCalendar::rest_days_only(Default::default());
    /// assert!(none.holidays().first().and_then(|day| day.moved_from()).is_none());
    /// ```
    #[must_use]
    pub fn moved_from(&self) -> Option<Date> {
        self.moved_from
    }
}
