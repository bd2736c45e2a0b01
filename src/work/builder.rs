//! A calendar said step by step.

use super::calendar::WorkCalendar;
use super::holiday::HolidayRule;
use super::rest_days::RestDays;
use super::years::CalendarYears;
use crate::date::Date;
use crate::error::Error;
use alloc::string::String;
use alloc::vec::Vec;

/// What a calendar is made of; [`WorkCalendar::builder`] begins one. Saturday and Sunday are rest days until others are
/// named.
///
/// ```
/// use mild_ledger::{CalendarYears, DayKind, HolidayRule, Occurrence, WorkCalendar};
/// let closed = HolidayRule::new("Slip repair", Occurrence::on_date("2026-10-07".parse()?));
/// let yard = WorkCalendar::builder("Yard", CalendarYears::of(2026, 2027))
///     .rest_days("sunday, monday".parse()?)
///     .holidays([closed])
///     .working_days(["2026-10-12".parse()?])
///     .build()?;
/// assert_eq!(yard.kind_of("2026-10-07".parse()?)?, DayKind::Holiday);
/// assert_eq!(yard.kind_of("2026-10-12".parse()?)?, DayKind::DeclaredWorking);
/// # Ok::<(), mild_ledger::Error>(())
/// ```
#[derive(Debug, Clone)]
#[must_use]
pub struct CalendarBuilder {
    name: String,
    years: CalendarYears,
    rest_days: RestDays,
    rules: Vec<HolidayRule>,
    working: Vec<Date>,
}

impl WorkCalendar {
    /// A calendar that is said step by step.
    ///
    /// ```
    /// use mild_ledger::{CalendarYears, DayKind, WorkCalendar};
    /// let saturday = "2026-12-05".parse()?;
    /// let yard = WorkCalendar::builder("Yard", CalendarYears::of(2026, 2026)).working_days([saturday]).build()?;
    /// assert_eq!(yard.kind_of(saturday)?, DayKind::DeclaredWorking);
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    pub fn builder(name: impl Into<String>, years: CalendarYears) -> CalendarBuilder {
        CalendarBuilder::new(name.into(), years)
    }
}

impl CalendarBuilder {
    pub(super) fn new(name: String, years: CalendarYears) -> Self {
        Self { name, years, rest_days: RestDays::default(), rules: Vec::new(), working: Vec::new() }
    }

    /// The rest days of its week.
    ///
    /// ```
    /// use mild_ledger::{CalendarYears, RestDays, WorkCalendar};
    /// let open = WorkCalendar::builder("Open", CalendarYears::of(2026, 2026)).rest_days(RestDays::NONE).build()?;
    /// assert_eq!(open.rest_days(), RestDays::NONE);
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    pub fn rest_days(self, rest_days: RestDays) -> Self {
        Self { rest_days, ..self }
    }

    /// Holidays, behind those that it has.
    ///
    /// ```
    /// use mild_ledger::{CalendarYears, HolidayRule, Occurrence, WorkCalendar};
    /// let supper = HolidayRule::new("Yard Supper", Occurrence::on_day_of_year(9, 25)?);
    /// let yard = WorkCalendar::builder("Yard", CalendarYears::of(2026, 2027)).holidays([supper]).build()?;
    /// assert_eq!(yard.holidays().len(), 2);
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    pub fn holidays(mut self, rules: impl IntoIterator<Item = HolidayRule>) -> Self {
        self.rules.extend(rules);
        self
    }

    /// Days that are worked over rest days and holidays; those outside the years do not count.
    ///
    /// ```
    /// use mild_ledger::{CalendarYears, Date, WorkCalendar};
    /// let yard = WorkCalendar::builder("Yard", CalendarYears::of(2026, 2026)).working_days([Date::MIN]).build()?;
    /// assert!(yard.declared_working().is_empty());
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    pub fn working_days(mut self, dates: impl IntoIterator<Item = Date>) -> Self {
        self.working.extend(dates);
        self
    }

    /// The calendar.
    ///
    /// # Errors
    /// Those of [`WorkCalendar::new`].
    ///
    /// ```
    /// use mild_ledger::{CalendarYears, WorkCalendar};
    /// assert!(WorkCalendar::builder("Yard", CalendarYears::of(2026, 10_000)).build().is_err());
    /// ```
    pub fn build(self) -> Result<WorkCalendar, Error> {
        let years = (self.years.first(), self.years.last());
        WorkCalendar::of_rules(self.name, self.rest_days, years, &self.rules, &self.working)
    }
}
