//! A calendar of working days that knows which years it covers.

use super::day::DayKind;
use super::expansion::expand;
use super::half_days::{HalfDays, half_days_of};
use super::holiday::{HolidayLength, HolidayRule};
use super::hours_index::HoursIndex;
use super::index::{Index, Weekly};
use super::kept::Holiday;
use super::opening_hours::OpeningHours;
use super::rest_days::RestDays;
use super::rest_schedule::RestSchedule;
use super::years::CalendarYears;
use crate::date::{Date, Weekday, year_month_day};
use crate::error::{Error, ErrorKind};
use crate::period::DateRange;
use alloc::borrow::ToOwned;
use alloc::format;
use alloc::string::String;
use alloc::sync::Arc;
use alloc::vec::Vec;
use core::fmt;

/// Rest days of the week, holidays of some years, and days that are worked nevertheless.
///
/// It answers for the years that it covers, and for no day outside them: what it does not know of is an error, never a
/// working day. Rest days alone cover every year. A clone shares the calendar's index with it, also between threads.
///
/// ```
/// use mild_ledger::{Ends, HolidayRule, Interval, Occurrence, RestDays, WorkCalendar};
///
/// let closed = |day: &str| Ok(HolidayRule::new("Closed", Occurrence::on_date(day.parse()?)));
/// let rules: Vec<HolidayRule> = ["2026-10-07", "2026-10-17"].into_iter().map(closed).collect::<Result<_, mild_ledger::Error>>()?;
/// let yard = WorkCalendar::new("Yard", RestDays::default(), 2026, 2026, &rules)?;
/// let interval = Interval::between("2026-10-03".parse()?, "2026-10-18".parse()?);
/// let days = yard.working_days(interval, Ends::FirstAndLast)?;
/// assert_eq!(days.count(), 9);
/// assert_eq!(days.to_string(), "16 days - 6 rest days - 1 holiday = 9 (another holiday falls on a rest day)");
/// assert!(yard.working_days(Interval::between("2026-12-30".parse()?, "2027-01-02".parse()?), Ends::Last).is_err());
/// # Ok::<(), mild_ledger::Error>(())
/// ```
#[derive(Clone)]
pub struct WorkCalendar {
    inner: Arc<Inner>,
}

#[derive(Clone)]
struct Inner {
    name: String,
    rest_days: RestSchedule,
    days: Days,
    holidays: Vec<Holiday>,
    working: Vec<Date>,
    half_days: Vec<Date>,
    half_days_as: HalfDays,
    /// The last year that is proclaimed, where later ones are covered by rule.
    proclaimed: Option<i32>,
    hours: Option<HoursIndex>,
}

/// The data about the days.
#[derive(Clone)]
enum Days {
    /// Every year, by the weekday alone.
    ByWeekday(Arc<Weekly>),
    /// Some years, day by day.
    Covered { years: (i32, i32), kinds: Arc<Vec<DayKind>>, index: Arc<Index> },
}

impl WorkCalendar {
    /// The calendar of rest days alone, which covers every year and knows of no holidays.
    ///
    /// ```
    /// use mild_ledger::{RestDays, WorkCalendar};
    /// let week = WorkCalendar::rest_days_only(RestDays::default());
    /// assert_eq!(week.name(), "Saturday, Sunday off, no holidays");
    /// assert_eq!(week.covers(), None);
    /// ```
    #[must_use]
    pub fn rest_days_only(rest_days: RestDays) -> Self {
        let name = match rest_days.count() {
            0 => "no rest days, no holidays".to_owned(),
            _ => format!("{rest_days} off, no holidays"),
        };
        let days = Days::ByWeekday(Arc::new(Weekly::of(rest_days)));
        Self {
            inner: Arc::new(Inner {
                name,
                rest_days: rest_days.into(),
                days,
                holidays: Vec::new(),
                working: Vec::new(),
                half_days: Vec::new(),
                half_days_as: HalfDays::Open,
                proclaimed: None,
                hours: None,
            }),
        }
    }

    /// The calendar of rest days and holidays for some years, both included.
    ///
    /// # Errors
    /// [`ErrorKind::OutOfRange`] for years other than 1 to 9999, [`ErrorKind::NotInOrder`] where they end before they
    /// begin, [`ErrorKind::NoWorkingDay`] for a holiday that cannot be moved off its rest day.
    ///
    /// ```
    /// use mild_ledger::{RestDays, WorkCalendar};
    /// assert!(WorkCalendar::new("Yard", RestDays::default(), 2027, 2026, &[]).is_err());
    /// ```
    pub fn new(
        name: impl Into<String>,
        rest_days: RestDays,
        first_year: i32,
        last_year: i32,
        rules: &[HolidayRule],
    ) -> Result<Self, Error> {
        Self::of_rules(name.into(), &rest_days.into(), (first_year, last_year), rules, &[])
    }

    pub(super) fn of_rules(
        name: String,
        rest_days: &RestSchedule,
        years: (i32, i32),
        rules: &[HolidayRule],
        working: &[Date],
    ) -> Result<Self, Error> {
        bounds(years)?;
        let holidays = expand(rules, rest_days, years)?;
        Self::of_holidays(name, rest_days, years, holidays, working.iter().copied())
    }

    pub(super) fn with_proclaimed(self, proclaimed: Option<i32>) -> Self {
        Self { inner: Arc::new(Inner { proclaimed, ..self.inner.as_ref().clone() }) }
    }

    /// The same calendar with half days counted as that. Once they are closed they stay so.
    ///
    /// ```
    /// use mild_ledger::{DayKind, HalfDays, HolidayLength, HolidayRule, Occurrence, RestDays, WorkCalendar};
    /// let eve = HolidayRule::new("Eve", Occurrence::on_day_of_year(12, 24)?).with_length(HolidayLength::HalfDay);
    /// let yard = WorkCalendar::new("Yard", RestDays::default(), 2026, 2026, &[eve])?.with_half_days(HalfDays::Closed);
    /// assert_eq!(yard.kind_of("2026-12-24".parse()?)?, DayKind::Holiday);
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn with_half_days(self, half_days_as: HalfDays) -> Self {
        let inner = &self.inner;
        if let (HalfDays::Closed, Days::Covered { years, kinds, .. }) = (half_days_as, &inner.days) {
            let closed = |kind: &DayKind| if *kind == DayKind::HalfDay { DayKind::Holiday } else { *kind };
            let days = (*years, kinds.iter().map(closed).collect());
            let (holidays, working) = (inner.holidays.clone(), inner.working.clone());
            let counted = Self::of_kinds(inner.name.clone(), &inner.rest_days, days, holidays, working);
            let hours = self.hours().cloned();
            let counted = counted.with_proclaimed(inner.proclaimed).open_in(hours);
            return Self { inner: Arc::new(Inner { half_days_as, ..counted.inner.as_ref().clone() }) };
        }
        Self { inner: Arc::new(Inner { half_days_as, ..inner.as_ref().clone() }) }
    }

    /// What half days count as.
    ///
    /// ```
    /// use mild_ledger::{HalfDays, RestDays, WorkCalendar};
    /// assert_eq!(WorkCalendar::rest_days_only(RestDays::NONE).half_days_as(), HalfDays::Open);
    /// ```
    #[must_use]
    pub fn half_days_as(&self) -> HalfDays {
        self.inner.half_days_as
    }

    pub(super) fn rest_schedule(&self) -> &RestSchedule {
        &self.inner.rest_days
    }

    pub(super) fn proclaimed(&self) -> Option<i32> {
        self.inner.proclaimed
    }

    pub(super) fn half_days(&self) -> &[Date] {
        &self.inner.half_days
    }

    /// The covered years whose days follow from the rules and are not yet proclaimed or published, if there are any.
    /// Figures that rest on them may change.
    ///
    /// ```
    /// use mild_ledger::{RestDays, WorkCalendar};
    /// assert_eq!(WorkCalendar::rest_days_only(RestDays::NONE).by_rule(), None);
    /// ```
    #[must_use]
    pub fn by_rule(&self) -> Option<CalendarYears> {
        let (first, last) = self.years()?;
        let from = self.inner.proclaimed?.checked_add(1)?.max(first);
        (from <= last).then(|| CalendarYears::of(from, last))
    }

    /// The same calendar under another name.
    ///
    /// ```
    /// use mild_ledger::{RestDays, WorkCalendar};
    /// assert_eq!(WorkCalendar::rest_days_only(RestDays::NONE).with_name("Open").name(), "Open");
    /// ```
    #[must_use]
    pub fn with_name(self, name: impl Into<String>) -> Self {
        let inner = Inner { name: name.into(), ..self.inner.as_ref().clone() };
        Self { inner: Arc::new(inner) }
    }

    /// The same holidays and declared working days counted with other rest days: which days are closed changes, and no
    /// holiday moves, since where it is was settled by the rest days it was made with.
    ///
    /// # Errors
    /// Those of [`with_hours`](Self::with_hours), where it has opening hours.
    ///
    /// ```
    /// use mild_ledger::{DayKind, HolidayMove, HolidayRule, Occurrence, RestDays, WorkCalendar};
    /// let new_year = HolidayRule::new("New Year", Occurrence::on_day_of_year(1, 1)?).with_moved(HolidayMove::FollowingMonday);
    /// let office = WorkCalendar::new("Office", RestDays::default(), 2022, 2022, &[new_year])?;
    /// let shop = office.counted_with("sunday".parse()?)?;
    /// // 1 January 2022 was a Saturday, so the Monday behind it is the holiday still.
    /// assert_eq!(shop.kind_of("2022-01-01".parse()?)?, DayKind::Working);
    /// assert_eq!(shop.kind_of("2022-01-03".parse()?)?, DayKind::Holiday);
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    pub fn counted_with(&self, rest_days: RestDays) -> Result<Self, Error> {
        let counted = match self.years() {
            None => Self::rest_days_only(rest_days),
            Some(years) => Self::of_holidays(
                self.name().to_owned(),
                &rest_days.into(),
                years,
                self.inner.holidays.clone(),
                self.inner.working.iter().copied(),
            )?
            .with_proclaimed(self.inner.proclaimed)
            .with_half_days(self.inner.half_days_as),
        };
        match self.hours() {
            Some(hours) => counted.with_hours(hours.clone()),
            None => Ok(counted),
        }
    }

    /// The same calendar with the hours in which it is open on working days.
    ///
    /// # Errors
    /// [`ErrorKind::NotAllowed`] where a day that is worked has no hours.
    ///
    /// ```
    /// use mild_ledger::{OpeningHours, RestDays, Weekday, WorkCalendar};
    /// let mondays = OpeningHours::default().on(Weekday::Monday, &["09:00 to 12:00".parse()?])?;
    /// assert!(WorkCalendar::rest_days_only(RestDays::default()).with_hours(mondays).is_err());
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    pub fn with_hours(self, hours: OpeningHours) -> Result<Self, Error> {
        let closed = |day: Weekday| hours.of(day).is_empty();
        let is_worked = |day: &Weekday| self.inner.rest_days.all().any(|rest_days| !rest_days.contains(*day));
        let by_week = Weekday::ALL.into_iter().find(|day| is_worked(day) && closed(*day));
        let declared = self.declared_working().iter().find(|date| closed(date.weekday()));
        let without = match (by_week, declared) {
            (Some(day), _) => Some(format!("{day} is a working day and has no opening hours")),
            (None, Some(date)) => {
                Some(format!("{date}, a {}, is declared working and has no opening hours", date.weekday()))
            }
            (None, None) => None,
        };
        match without {
            Some(what) => {
                Err(Error::new(ErrorKind::NotAllowed, what, "opening hours for each day that is worked"))
            }
            None => Ok(self.open_in(Some(hours))),
        }
    }

    /// The hours in which it is open, where they are known.
    ///
    /// ```
    /// use mild_ledger::{RestDays, WorkCalendar};
    /// assert!(WorkCalendar::rest_days_only(RestDays::default()).hours().is_none());
    /// ```
    #[must_use]
    pub fn hours(&self) -> Option<&OpeningHours> {
        self.hours_index().map(|index| &index.hours)
    }

    fn of_holidays(
        name: String,
        rest_days: &RestSchedule,
        years: (i32, i32),
        holidays: Vec<Holiday>,
        working: impl IntoIterator<Item = Date>,
    ) -> Result<Self, Error> {
        let (first, _) = bounds(years)?;
        let mut kinds = kinds_of_weekdays(years, rest_days)?;
        let place = |date: Date| usize::try_from(date.day_number() - first.day_number()).ok();
        for holiday in &holidays {
            if let Some(kind) = place(holiday.date()).and_then(|place| kinds.get_mut(place)) {
                *kind = match (*kind, holiday.length()) {
                    (DayKind::RestDay | DayKind::HolidayOnRestDay, _) => DayKind::HolidayOnRestDay,
                    (DayKind::Holiday, _) | (_, HolidayLength::WholeDay) => DayKind::Holiday,
                    (_, HolidayLength::HalfDay) => DayKind::HalfDay,
                };
            }
        }
        let mut declared = Vec::new();
        for date in working {
            if let Some(kind) = place(date).and_then(|place| kinds.get_mut(place)) {
                if *kind != DayKind::Working {
                    *kind = DayKind::DeclaredWorking;
                }
                declared.push(date);
            }
        }
        declared.sort_unstable();
        declared.dedup();
        Ok(Self::of_kinds(name, rest_days, (years, kinds), holidays, declared))
    }

    pub(super) fn of_kinds(
        name: String,
        rest_days: &RestSchedule,
        (years, kinds): ((i32, i32), Vec<DayKind>),
        holidays: Vec<Holiday>,
        working: Vec<Date>,
    ) -> Self {
        let (first, last) = bounds(years).unwrap_or((Date::MIN, Date::MAX));
        let index = Arc::new(Index::of(first, &kinds));
        let half_days = half_days_of(first.day_number(), &kinds);
        let days = Days::Covered { years, kinds: Arc::new(kinds), index };
        Self {
            inner: Arc::new(Inner {
                name,
                rest_days: rest_days.within(first, last),
                days,
                holidays,
                working,
                half_days,
                half_days_as: HalfDays::Open,
                proclaimed: None,
                hours: None,
            }),
        }
    }

    /// Its name.
    ///
    /// ```
    /// use mild_ledger::{RestDays, WorkCalendar};
    /// assert_eq!(WorkCalendar::new("Yard", RestDays::NONE, 2026, 2027, &[])?.name(), "Yard");
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn name(&self) -> &str {
        &self.inner.name
    }

    /// Its rest days of the week, those that hold in the end where they change; of a combination, those on which the
    /// combination is closed.
    ///
    /// ```
    /// use mild_ledger::{RestDays, WorkCalendar};
    /// assert_eq!(WorkCalendar::rest_days_only(RestDays::NONE).rest_days(), RestDays::NONE);
    /// ```
    #[must_use]
    pub fn rest_days(&self) -> RestDays {
        self.inner.rest_days.last()
    }

    /// Those of the years that follow [by rule](Self::by_rule) which some days reach into.
    ///
    /// ```
    /// use mild_ledger::{CalendarYears, DateRange, WorkCalendar};
    /// let land = WorkCalendar::builder("Land", CalendarYears::of(2026, 2030)).proclaimed_to(2027).build()?;
    /// let days = DateRange::new("2027-06-01".parse()?, "2028-02-01".parse()?)?;
    /// assert_eq!(land.by_rule_within(days), Some(CalendarYears::of(2028, 2028)));
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn by_rule_within(&self, days: DateRange) -> Option<CalendarYears> {
        self.by_rule()?.overlap(CalendarYears::of(days.first().year(), days.last().year()))
    }

    /// The dates at which its rest days change, and what holds from each on.
    ///
    /// ```
    /// use mild_ledger::{RestDays, WorkCalendar};
    /// assert!(WorkCalendar::rest_days_only(RestDays::NONE).rest_day_changes().is_empty());
    /// ```
    #[must_use]
    pub fn rest_day_changes(&self) -> &[(Date, RestDays)] {
        self.inner.rest_days.changes()
    }

    /// Its rest days in words, with the dates at which they change.
    ///
    /// ```
    /// use mild_ledger::{CalendarYears, WorkCalendar};
    /// let land = WorkCalendar::builder("Land", CalendarYears::of(2013, 2014))
    ///     .rest_days("thursday, friday".parse()?)
    ///     .rest_days_from("2013-06-29".parse()?, "friday, saturday".parse()?)
    ///     .build()?;
    /// assert_eq!(land.rest_days_said(), "Thursday, Friday; from 2013-06-29 Friday, Saturday");
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn rest_days_said(&self) -> String {
        self.inner.rest_days.said()
    }

    /// Whether a date is one of its rest days of the week, whatever else it is.
    ///
    /// ```
    /// use mild_ledger::{RestDays, WorkCalendar};
    /// assert!(WorkCalendar::rest_days_only(RestDays::default()).rests_on("2026-10-03".parse()?));
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn rests_on(&self, date: Date) -> bool {
        self.inner.rest_days.is_rest_day(date)
    }

    /// The years that it covers; `None` where it covers every year.
    ///
    /// ```
    /// use mild_ledger::{CalendarYears, RestDays, WorkCalendar};
    /// let yard = WorkCalendar::new("Yard", RestDays::NONE, 2026, 2027, &[])?;
    /// assert_eq!(yard.covers(), Some(CalendarYears::of(2026, 2027)));
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn covers(&self) -> Option<CalendarYears> {
        self.years().map(|(first, last)| CalendarYears::of(first, last))
    }

    pub(super) fn years(&self) -> Option<(i32, i32)> {
        match self.inner.days {
            Days::ByWeekday(_) => None,
            Days::Covered { years, .. } => Some(years),
        }
    }

    /// The days on which holidays are kept, by date; two of them may be on one day.
    ///
    /// ```
    /// use mild_ledger::{RestDays, WorkCalendar};
    /// assert!(WorkCalendar::rest_days_only(RestDays::NONE).holidays().is_empty());
    /// ```
    #[must_use]
    pub fn holidays(&self) -> &[Holiday] {
        &self.inner.holidays
    }

    /// The holidays of one date.
    ///
    /// ```
    /// use mild_ledger::{Date, RestDays, WorkCalendar};
    /// assert!(WorkCalendar::rest_days_only(RestDays::NONE).holidays_on(Date::MIN).is_empty());
    /// ```
    #[must_use]
    pub fn holidays_on(&self, date: Date) -> &[Holiday] {
        let all = &self.inner.holidays;
        let from = all.partition_point(|holiday| holiday.date() < date);
        let to = all.partition_point(|holiday| holiday.date() <= date);
        &all[from..to]
    }

    /// The days declared working, by date.
    ///
    /// ```
    /// use mild_ledger::{RestDays, WorkCalendar};
    /// assert!(WorkCalendar::rest_days_only(RestDays::NONE).declared_working().is_empty());
    /// ```
    #[must_use]
    pub fn declared_working(&self) -> &[Date] {
        &self.inner.working
    }

    /// Whether a date is worked, and why not.
    ///
    /// # Errors
    /// [`ErrorKind::NotCovered`] outside the years that the calendar covers.
    ///
    /// ```
    /// use mild_ledger::{DayKind, RestDays, WorkCalendar};
    /// let yard = WorkCalendar::new("Yard", RestDays::default(), 2026, 2027, &[])?;
    /// assert_eq!(yard.kind_of("2026-09-30".parse()?)?, DayKind::Working);
    /// assert!(yard.kind_of("2028-01-03".parse()?).is_err());
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    pub fn kind_of(&self, date: Date) -> Result<DayKind, Error> {
        match &self.inner.days {
            Days::ByWeekday(_) => Ok(kind_of_weekday(&self.inner.rest_days, date)),
            Days::Covered { kinds, index, .. } => {
                let place = usize::try_from(date.day_number() - index.first()).ok();
                place.and_then(|place| kinds.get(place)).copied().ok_or_else(|| self.not_covered(date))
            }
        }
    }

    /// The first day that is covered, and what each from it on is; `None` where every year is.
    fn covered_days(&self) -> Option<(i32, &[DayKind])> {
        match &self.inner.days {
            Days::ByWeekday(_) => None,
            Days::Covered { kinds, index, .. } => Some((index.first(), kinds)),
        }
    }

    pub(super) fn hours_index(&self) -> Option<&HoursIndex> {
        self.inner.hours.as_ref()
    }

    /// The same with those hours, whatever days have none.
    pub(super) fn open_in(self, hours: Option<OpeningHours>) -> Self {
        let hours = hours.map(|hours| HoursIndex::of(hours, self.rest_days(), self.covered_days()));
        Self { inner: Arc::new(Inner { hours, ..self.inner.as_ref().clone() }) }
    }

    /// Whether a day is worked; where rest days alone are known, it may lie outside the range of dates.
    pub(super) fn is_working_day(&self, day: i64) -> Result<bool, Error> {
        match (&self.inner.days, Date::in_range(day)) {
            (_, Some(date)) => self.kind_of(date).map(DayKind::is_working),
            (Days::ByWeekday(_), None) => Ok(!self.rest_days().contains(weekday_of(day))),
            (Days::Covered { .. }, None) => Err(self.not_covered(shown(day))),
        }
    }

    /// The first and the last day that it knows.
    pub(super) fn known_days(&self) -> (i64, i64) {
        match &self.inner.days {
            Days::ByWeekday(_) => (i64::MIN, i64::MAX),
            Days::Covered { kinds, index, .. } => {
                let first = i64::from(index.first());
                (first, first + kinds.len() as i64 - 1)
            }
        }
    }

    /// The error of a date that the calendar does not cover; one of rest days alone covers all that there are.
    pub(super) fn not_covered(&self, date: impl fmt::Display) -> Error {
        let Some(years) = self.covers() else {
            let what = format!("{date} lies outside the years 0001 to 9999");
            return Error::new(ErrorKind::OutOfRange, what, "0001-01-01 to 9999-12-31");
        };
        Error::new(
            ErrorKind::NotCovered,
            format!("{date} lies outside the years that the calendar \"{}\" covers", self.name()),
            format!("{years}, or a calendar that covers more years"),
        )
    }

    pub(crate) fn index(&self) -> CalendarIndex<'_> {
        match &self.inner.days {
            Days::ByWeekday(weekly) => CalendarIndex::Weekly(weekly),
            Days::Covered { index, .. } => CalendarIndex::Daily(index),
        }
    }
}

/// By what working days are counted.
#[derive(Clone, Copy)]
pub(crate) enum CalendarIndex<'c> {
    Weekly(&'c Weekly),
    Daily(&'c Index),
}

/// The weekday of a day that may lie outside the range of dates.
fn weekday_of(day: i64) -> Weekday {
    Weekday::of_day_number(day.rem_euclid(7) as i32)
}

/// A day as it is written, be it a date or not.
pub(super) fn shown(day: i64) -> String {
    let (year, month, day) =
        year_month_day::year_month_day_of(day.clamp(i32::MIN.into(), i32::MAX.into()) as i32);
    format!("{year:04}-{month:02}-{day:02}")
}

/// The first and the last day of some years.
pub(super) fn bounds((first_year, last_year): (i32, i32)) -> Result<(Date, Date), Error> {
    if last_year < first_year {
        let what = format!("the years {first_year} to {last_year} end before they begin");
        return Err(Error::new(ErrorKind::NotInOrder, what, "a first year, and a last one not before it"));
    }
    Ok((Date::new(first_year, 1, 1)?, Date::new(last_year, 12, 31)?))
}

fn kind_of_weekday(rest_days: &RestSchedule, date: Date) -> DayKind {
    if rest_days.is_rest_day(date) { DayKind::RestDay } else { DayKind::Working }
}

fn kinds_of_weekdays(years: (i32, i32), rest_days: &RestSchedule) -> Result<Vec<DayKind>, Error> {
    let (first, last) = bounds(years)?;
    let days = (first.day_number()..=last.day_number()).map(Date::of_checked_day);
    Ok(days.map(|date| kind_of_weekday(rest_days, date)).collect())
}

/// Calendars are equal where their names are, what they know of each day, their holidays and their opening hours.
impl PartialEq for WorkCalendar {
    fn eq(&self, other_calendar: &Self) -> bool {
        let (one, other) = (&*self.inner, &*other_calendar.inner);
        let days = match (&one.days, &other.days) {
            (Days::ByWeekday(_), Days::ByWeekday(_)) => true,
            (Days::Covered { years, kinds, .. }, Days::Covered { years: of_other, kinds: others, .. }) => {
                years == of_other && kinds == others
            }
            _ => false,
        };
        let hours = self.hours() == other_calendar.hours();
        days && hours
            && (&one.name, &one.rest_days, &one.holidays, &one.working)
                == (&other.name, &other.rest_days, &other.holidays, &other.working)
            && (one.half_days_as, one.proclaimed) == (other.half_days_as, other.proclaimed)
    }
}

impl Eq for WorkCalendar {}

impl fmt::Debug for WorkCalendar {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        f.debug_struct("WorkCalendar")
            .field("name", &self.inner.name)
            .field("rest_days", &self.rest_days_said())
            .field("covers", &self.covers())
            .field("holidays", &self.inner.holidays.len())
            .finish()
    }
}
