//! Working days between two dates.

use super::calendar::{CalendarIndex, WorkCalendar};
use super::day::DayKind;
use super::half_days::{HalfDays, in_days};
use crate::date::Date;
use crate::error::Error;
use crate::interval::{Ends, Interval, Share};
use crate::number::Decimal;
use crate::period::{DateRange, Period, PeriodRule};
use alloc::borrow::ToOwned;
use alloc::format;
use alloc::string::{String, ToString};
use alloc::vec::Vec;
use core::fmt;

/// A number of working days, with the rows left out and why, and which ends were counted.
///
/// `Display` writes the sum: days - rest days - holidays = working days.
///
/// ```
/// use mild_ledger::{Ends, Interval, WorkCalendar};
/// let week = WorkCalendar::rest_days_only(Default::default());
/// let interval = Interval::between("2026-10-03".parse()?, "2026-10-18".parse()?);
/// let days = week.working_days(interval, Ends::FirstAndLast)?;
/// assert_eq!((days.count(), days.days(), days.rest_days(), days.holidays()), (10, 16, 6, 0));
/// # Ok::<(), mild_ledger::Error>(())
/// ```
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub struct WorkingDays {
    count: i64,
    days: i64,
    rest_days: i64,
    holidays: i64,
    holidays_on_rest_days: i64,
    half_days: i64,
    half_days_as: HalfDays,
    ends: Ends,
}

impl WorkingDays {
    /// The working days; negative where the end lies before the start.
    ///
    /// ```
    /// # use mild_ledger::{Date, Ends, Interval, WorkCalendar};
    /// let week = WorkCalendar::rest_days_only(Default::default());
    /// assert_eq!(week.working_days(Interval::between(Date::MIN, Date::MIN), Ends::Last)?.count(), 0);
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn count(self) -> i64 {
        self.count
    }

    /// All days that were looked at, whatever they are; never negative.
    ///
    /// ```
    /// # use mild_ledger::{Date, Ends, Interval, WorkCalendar};
    /// let week = WorkCalendar::rest_days_only(Default::default());
    /// assert_eq!(week.working_days(Interval::between(Date::MIN, Date::MIN), Ends::FirstAndLast)?.days(), 1);
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn days(self) -> i64 {
        self.days
    }

    /// Rest days among them, those that are holidays too included.
    ///
    /// ```
    /// # use mild_ledger::{Date, Ends, Interval, WorkCalendar};
    /// let week = WorkCalendar::rest_days_only(Default::default());
    /// assert_eq!(week.working_days(Interval::between(Date::MIN, Date::MIN), Ends::Last)?.rest_days(), 0);
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn rest_days(self) -> i64 {
        self.rest_days
    }

    /// Holidays that took a working day off.
    ///
    /// ```
    /// # use mild_ledger::{Date, Ends, Interval, WorkCalendar};
    /// let week = WorkCalendar::rest_days_only(Default::default());
    /// assert_eq!(week.working_days(Interval::between(Date::MIN, Date::MIN), Ends::Last)?.holidays(), 0);
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn holidays(self) -> i64 {
        self.holidays
    }

    /// Rest days on which a holiday falls; they are among the rest days, and are taken off once.
    ///
    /// ```
    /// # use mild_ledger::{Date, Ends, Interval, WorkCalendar};
    /// let week = WorkCalendar::rest_days_only(Default::default());
    /// assert_eq!(week.working_days(Interval::between(Date::MIN, Date::MIN), Ends::Last)?.holidays_on_rest_days(), 0);
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn holidays_on_rest_days(self) -> i64 {
        self.holidays_on_rest_days
    }

    /// Half days among the working days.
    ///
    /// ```
    /// # use mild_ledger::{Date, Ends, Interval, WorkCalendar};
    /// let week = WorkCalendar::rest_days_only(Default::default());
    /// assert_eq!(week.working_days(Interval::between(Date::MIN, Date::MIN), Ends::Last)?.half_days(), 0);
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn half_days(self) -> i64 {
        self.half_days
    }

    /// The working days with half days counted as their calendar counts them: with one decimal where that is half.
    ///
    /// ```
    /// # use mild_ledger::{Date, Ends, Interval, WorkCalendar};
    /// let week = WorkCalendar::rest_days_only(Default::default());
    /// assert_eq!(week.working_days(Interval::between(Date::MIN, Date::MIN), Ends::Last)?.amount().to_string(), "0");
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn amount(self) -> Decimal {
        in_days(self.count, self.half_days, self.half_days_as).unwrap_or_default()
    }

    /// Which ends were counted.
    ///
    /// ```
    /// # use mild_ledger::{Date, Ends, Interval, WorkCalendar};
    /// let week = WorkCalendar::rest_days_only(Default::default());
    /// assert_eq!(week.working_days(Interval::between(Date::MIN, Date::MIN), Ends::Last)?.ends(), Ends::Last);
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn ends(self) -> Ends {
        self.ends
    }
}

impl fmt::Display for WorkingDays {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        let said = |number: i64, one: &str| format!("{number} {one}{}", if number == 1 { "" } else { "s" });
        let mut text = said(self.days, "day");
        if self.rest_days > 0 {
            text += &format!(" - {}", said(self.rest_days, "rest day"));
        }
        if self.holidays > 0 {
            text += &format!(" - {}", said(self.holidays, "holiday"));
        }
        let amount = match self.half_days_as {
            HalfDays::Half if self.half_days > 0 => {
                text += &format!(" - half of {}", said(self.half_days, "half day"));
                self.amount().to_string()
            }
            _ => self.count.to_string(),
        };
        text += &format!(" = {}", amount.trim_start_matches('-'));
        if self.half_days_as == HalfDays::Open && self.half_days > 0 {
            text += &format!(", {} among them", said(self.half_days, "half day"));
        }
        text += &match (self.holidays_on_rest_days, self.holidays) {
            (0, _) => String::new(),
            (1, 0) => " (a holiday falls on a rest day)".to_owned(),
            (1, _) => " (another holiday falls on a rest day)".to_owned(),
            (more, 0) => format!(" ({more} holidays fall on rest days)"),
            (more, _) => format!(" ({more} other holidays fall on rest days)"),
        };
        if self.count < 0 {
            text += &format!(", negated: {amount}");
        }
        f.pad(&text)
    }
}

impl WorkCalendar {
    /// The working days of an interval under these ends ([`Ends::FirstAndLast`] is usual for working days), negative
    /// where its end lies before its start. An interval of one day counts 1 with first-and-last if it is a working
    /// day, and 0 otherwise.
    ///
    /// # Errors
    /// [`ErrorKind::NotCovered`](crate::ErrorKind::NotCovered) where either end lies outside the years that the
    /// calendar covers.
    ///
    /// ```
    /// use mild_ledger::{Ends, Interval, WorkCalendar};
    /// let week = WorkCalendar::rest_days_only(Default::default());
    /// let back = Interval::between("2026-10-09".parse()?, "2026-10-05".parse()?);
    /// assert_eq!(week.working_days(back, Ends::FirstAndLast)?.count(), -5);
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    pub fn working_days(&self, interval: Interval, ends: Ends) -> Result<WorkingDays, Error> {
        let count = self.count_working_days(interval, ends)?;
        let mut found = WorkingDays {
            count,
            days: 0,
            rest_days: 0,
            holidays: 0,
            holidays_on_rest_days: 0,
            half_days: 0,
            half_days_as: self.half_days_as(),
            ends,
        };
        let Some(counted) = interval.days_counted(ends) else { return Ok(found) };
        found.days = counted.days();
        if let CalendarIndex::Weekly(_) = self.index() {
            found.rest_days = found.days - count.abs();
            return Ok(found);
        }
        for date in counted.dates() {
            match self.kind_of(date)? {
                DayKind::Working | DayKind::DeclaredWorking => {}
                DayKind::HalfDay => found.half_days += 1,
                DayKind::RestDay => found.rest_days += 1,
                DayKind::Holiday => found.holidays += 1,
                DayKind::HolidayOnRestDay => {
                    found.rest_days += 1;
                    found.holidays_on_rest_days += 1;
                }
            }
        }
        Ok(found)
    }

    /// The bare number of [`working_days`](Self::working_days), in constant time whatever the distance.
    ///
    /// # Errors
    /// Those of [`working_days`](Self::working_days).
    ///
    /// ```
    /// use mild_ledger::{Date, Ends, Interval, WorkCalendar};
    /// let week = WorkCalendar::rest_days_only(Default::default());
    /// assert_eq!(week.count_working_days(Interval::between(Date::MIN, Date::MAX), Ends::Last)?, 2_608_614);
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    pub fn count_working_days(&self, interval: Interval, ends: Ends) -> Result<i64, Error> {
        for end in [interval.start(), interval.end()] {
            self.kind_of(end)?;
        }
        let Some(counted) = interval.days_counted(ends) else { return Ok(0) };
        let before = |day: i32| match self.index() {
            CalendarIndex::Weekly(weekly) => weekly.before(day),
            // Both ends are covered, and the day after a covered one is in the index too.
            CalendarIndex::Daily(index) => index.before(day).unwrap_or(0),
        };
        let count = before(counted.last().day_number() + 1) - before(counted.first().day_number());
        Ok(if interval.end() < interval.start() { -count } else { count })
    }

    /// The working days of an interval that lie in a stretch of days. Parts of an interval sum to the whole.
    ///
    /// # Errors
    /// [`ErrorKind::NotCovered`](crate::ErrorKind::NotCovered) where an end of the interval lies outside the years that the
    /// calendar covers.
    ///
    /// ```
    /// use mild_ledger::{DateRange, Ends, Interval, WorkCalendar};
    /// let week = WorkCalendar::rest_days_only(Default::default());
    /// let interval = Interval::between("2026-09-28".parse()?, "2026-10-06".parse()?);
    /// let october = DateRange::new("2026-10-01".parse()?, "2026-10-31".parse()?)?;
    /// assert_eq!(week.working_days_within(interval, october, Ends::FirstAndLast)?, 4);
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    pub fn working_days_within(&self, interval: Interval, days: DateRange, ends: Ends) -> Result<i64, Error> {
        for end in [interval.start(), interval.end()] {
            self.kind_of(end)?;
        }
        let counted = interval.days_counted(ends).and_then(|counted| counted.overlap(days));
        let Some(days) = counted else { return Ok(0) };
        let days = Interval::between(days.first(), days.last());
        let count = self.count_working_days(days, Ends::FirstAndLast)?;
        Ok(if interval.end() < interval.start() { -count } else { count })
    }

    /// The working days of an interval shared out over periods, in their order; the shares sum to the interval's.
    ///
    /// # Errors
    /// Those of [`working_days_within`](Self::working_days_within).
    ///
    /// ```
    /// use mild_ledger::{Ends, Interval, PeriodRule, WorkCalendar};
    /// let week = WorkCalendar::rest_days_only(Default::default());
    /// let interval = Interval::between("2026-09-28".parse()?, "2026-11-03".parse()?);
    /// let shares = week.split(interval, PeriodRule::Month, Ends::FirstAndLast)?;
    /// let shares: Vec<i64> = shares.iter().map(|share| share.days()).collect();
    /// assert_eq!(shares, [3, 22, 2]);
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    pub fn split(&self, interval: Interval, rule: PeriodRule, ends: Ends) -> Result<Vec<Share>, Error> {
        let days_in = |period: &Period| self.working_days_within(interval, period.dates(), ends);
        let shares = interval.split(rule, ends);
        shares.iter().map(|share| Ok(Share::new(*share.period(), days_in(share.period())?))).collect()
    }
}

impl WorkCalendar {
    /// The half days in some days, by date, each of which is open for half a day; none where they are closed.
    ///
    /// ```
    /// use mild_ledger::{DateRange, HalfDays, HolidayLength, HolidayRule, Occurrence, RestDays, WorkCalendar};
    /// let eve = HolidayRule::new("Eve", Occurrence::on_day_of_year(12, 24)?).with_length(HolidayLength::HalfDay);
    /// let yard = WorkCalendar::new("Yard", RestDays::default(), 2026, 2027, &[eve])?;
    /// let years = DateRange::new("2026-01-01".parse()?, "2027-12-31".parse()?)?;
    /// assert_eq!(yard.half_days_in(years).len(), 2);
    /// assert!(yard.with_half_days(HalfDays::Closed).half_days_in(years).is_empty());
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn half_days_in(&self, days: DateRange) -> Vec<Date> {
        let all = self.half_days();
        let from = all.partition_point(|day| *day < days.first());
        let to = all.partition_point(|day| *day <= days.last());
        all.get(from..to).unwrap_or_default().to_vec()
    }

    /// The working days of an interval, each half day counted as the calendar has them: with one decimal where that is
    /// half a day.
    ///
    /// # Errors
    /// Those of [`working_days`](Self::working_days).
    ///
    /// ```
    /// use mild_ledger::{Ends, HalfDays, HolidayLength, HolidayRule, Interval, Occurrence, RestDays, WorkCalendar};
    /// let eve = HolidayRule::new("Eve", Occurrence::on_day_of_year(12, 24)?).with_length(HolidayLength::HalfDay);
    /// let yard = WorkCalendar::new("Yard", RestDays::default(), 2026, 2026, &[eve])?;
    /// let week = Interval::between("2026-12-21".parse()?, "2026-12-27".parse()?);
    /// let counted = |half_days| yard.clone().with_half_days(half_days).working_time_in_days(week, Ends::FirstAndLast);
    /// assert_eq!(counted(HalfDays::Open)?.to_string(), "5");
    /// assert_eq!(counted(HalfDays::Half)?.to_string(), "4.5");
    /// assert_eq!(counted(HalfDays::Closed)?.to_string(), "4");
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    pub fn working_time_in_days(&self, interval: Interval, ends: Ends) -> Result<Decimal, Error> {
        let whole = self.count_working_days(interval, ends)?;
        let halves = interval.days_counted(ends).map_or(0, |days| self.half_days_in(days).len() as i64);
        in_days(whole, halves, self.half_days_as())
    }

    /// The same of those days of an interval that lie in a stretch of days. Parts of an interval sum to the whole.
    ///
    /// # Errors
    /// Those of [`working_days_within`](Self::working_days_within).
    ///
    /// ```
    /// use mild_ledger::{Date, DateRange, Ends, Interval, WorkCalendar};
    /// let week = WorkCalendar::rest_days_only(Default::default());
    /// let interval = Interval::between("2026-09-28".parse()?, "2026-10-06".parse()?);
    /// let october = DateRange::new("2026-10-01".parse()?, "2026-10-31".parse()?)?;
    /// assert_eq!(week.working_time_within(interval, october, Ends::FirstAndLast)?.to_string(), "4");
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    pub fn working_time_within(
        &self,
        interval: Interval,
        days: DateRange,
        ends: Ends,
    ) -> Result<Decimal, Error> {
        let whole = self.working_days_within(interval, days, ends)?;
        let counted = interval.days_counted(ends).and_then(|counted| counted.overlap(days));
        let halves = counted.map_or(0, |days| self.half_days_in(days).len() as i64);
        in_days(whole, halves, self.half_days_as())
    }
}
