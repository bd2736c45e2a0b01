//! A calendar said step by step.

use super::calendar::WorkCalendar;
use super::holiday::HolidayRule;
use super::kept_years::KeptYears;
use super::occurrence::Occurrence;
use super::rest_days::RestDays;
use super::rest_schedule::RestSchedule;
use super::years::CalendarYears;
use crate::date::Date;
use crate::error::{Error, ErrorKind};
use alloc::format;
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
    rest_days: RestSchedule,
    proclaimed: Option<i32>,
    rules: Vec<HolidayRule>,
    working: Vec<Date>,
}

impl WorkCalendar {
    /// A calendar that is stated step by step.
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
        Self {
            name,
            years,
            rest_days: RestDays::default().into(),
            proclaimed: None,
            rules: Vec::new(),
            working: Vec::new(),
        }
    }

    /// The same under another name and for other years: a calendar that builds on it, a region on its country.
    ///
    /// ```
    /// use mild_ledger::{CalendarYears, HolidayRule, KeptYears, Occurrence, WorkCalendar};
    /// let land = WorkCalendar::builder("Land", CalendarYears::of(2015, 2030))
    ///     .holidays([HolidayRule::new("May Day", Occurrence::on_day_of_year(5, 1)?)]);
    /// let region = land.extended("Region", CalendarYears::of(2026, 2027)).without("May Day", &KeptYears::default().only([2026]))?;
    /// assert_eq!(region.build()?.holidays().len(), 1);
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    pub fn extended(self, name: impl Into<String>, years: CalendarYears) -> Self {
        Self { name: name.into(), years, ..self }
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
        Self { rest_days: rest_days.into(), ..self }
    }

    /// Other rest days from a date on.
    ///
    /// ```
    /// use mild_ledger::{CalendarYears, DayKind, WorkCalendar};
    /// let land = WorkCalendar::builder("Land", CalendarYears::of(2013, 2013))
    ///     .rest_days("thursday, friday".parse()?)
    ///     .rest_days_from("2013-06-29".parse()?, "friday, saturday".parse()?)
    ///     .build()?;
    /// assert_eq!(land.kind_of("2013-06-27".parse()?)?, DayKind::RestDay);
    /// assert_eq!(land.kind_of("2013-07-04".parse()?)?, DayKind::Working);
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    pub fn rest_days_from(self, date: Date, rest_days: RestDays) -> Self {
        Self { rest_days: self.rest_days.changed((date, rest_days)), ..self }
    }

    /// The last year whose days are proclaimed or published; later ones are covered by rule. All are unless one is named.
    ///
    /// ```
    /// use mild_ledger::{CalendarYears, WorkCalendar};
    /// let land = WorkCalendar::builder("Land", CalendarYears::of(2026, 2030)).proclaimed_to(2027).build()?;
    /// assert_eq!(land.by_rule(), Some(CalendarYears::of(2028, 2030)));
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    pub fn proclaimed_to(self, year: i32) -> Self {
        Self { proclaimed: Some(year), ..self }
    }

    /// Holidays, after those that it has.
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

    /// The same without a holiday in some years, those of its unmoved date.
    ///
    /// # Errors
    /// [`ErrorKind::NotAllowed`] where it has no holiday of this name.
    ///
    /// ```
    /// use mild_ledger::{CalendarYears, KeptYears, WorkCalendar};
    /// let land = WorkCalendar::builder("Land", CalendarYears::of(2015, 2030));
    /// assert!(land.without("May Day", &KeptYears::default()).is_err());
    /// ```
    pub fn without(self, name: &str, years: &KeptYears) -> Result<Self, Error> {
        self.has_holiday(name)?;
        let dropped = |rule: HolidayRule| match rule.name() == name {
            true => rule.dropped_in(years.clone()),
            false => rule,
        };
        Ok(Self { rules: self.rules.into_iter().map(dropped).collect(), ..self })
    }

    /// The same with a holiday on one date in place of all its others in a year.
    ///
    /// # Errors
    /// [`ErrorKind::NotAllowed`] where it has no holiday of this name.
    ///
    /// ```
    /// use mild_ledger::{CalendarYears, HolidayRule, Occurrence, WorkCalendar};
    /// let region = WorkCalendar::builder("Region", CalendarYears::of(2019, 2021))
    ///     .holidays([HolidayRule::new("May Day", Occurrence::on_day_of_year(5, 4)?)])
    ///     .moving("May Day", 2020, "2020-05-08".parse()?)?
    ///     .build()?;
    /// let days: Vec<String> = region.holidays().iter().map(|day| day.date().to_string()).collect();
    /// assert_eq!(days, ["2019-05-04", "2020-05-08", "2021-05-04"]);
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    pub fn moving(self, name: &str, year: i32, to: Date) -> Result<Self, Error> {
        let moved = HolidayRule::new(name, Occurrence::on_date(to));
        Ok(self.without(name, &KeptYears::default().only([year]))?.holidays([moved]))
    }

    fn has_holiday(&self, name: &str) -> Result<(), Error> {
        if self.rules.iter().any(|rule| rule.name() == name) {
            return Ok(());
        }
        let names: Vec<&str> = self.rules.iter().map(HolidayRule::name).collect();
        let what = format!("\"{}\" has no holiday \"{name}\"", self.name);
        Err(Error::new(ErrorKind::NotAllowed, what, names.join(", ")))
    }

    /// Its name.
    ///
    /// ```
    /// use mild_ledger::{CalendarYears, WorkCalendar};
    /// assert_eq!(WorkCalendar::builder("Yard", CalendarYears::of(2026, 2027)).name(), "Yard");
    /// ```
    #[must_use]
    pub fn name(&self) -> &str {
        &self.name
    }

    /// The years that it covers.
    ///
    /// ```
    /// use mild_ledger::{CalendarYears, WorkCalendar};
    /// let years = CalendarYears::of(2026, 2027);
    /// assert_eq!(WorkCalendar::builder("Yard", years).years(), years);
    /// ```
    #[must_use]
    pub fn years(&self) -> CalendarYears {
        self.years
    }

    /// The rules of its holidays, in their order.
    ///
    /// ```
    /// use mild_ledger::{CalendarYears, WorkCalendar};
    /// assert!(WorkCalendar::builder("Yard", CalendarYears::of(2026, 2027)).rules().is_empty());
    /// ```
    #[must_use]
    pub fn rules(&self) -> &[HolidayRule] {
        &self.rules
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
        let built = WorkCalendar::of_rules(self.name, &self.rest_days, years, &self.rules, &self.working)?;
        Ok(built.with_proclaimed(self.proclaimed))
    }
}
