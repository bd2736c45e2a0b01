//! Working hours between two moments: the time in which a place is open on working days.

use super::calendar::WorkCalendar;
use crate::date::{ClockTime, Date, DateTime};
use crate::error::{Error, ErrorKind};
use crate::interval::{Ends, Interval};
use crate::number::Quotient;
use crate::reasoning::Working;
use alloc::format;
use alloc::string::String;
use alloc::vec::Vec;

/// Working time between two moments.
///
/// ```
/// use mild_ledger::{OpeningHours, RestDays, WorkCalendar, Weekday};
/// let mut hours = OpeningHours::default();
/// for day in RestDays::default().days().fold(Weekday::ALL.to_vec(), |days, rest| days.into_iter().filter(|day| *day != rest).collect()) {
///     hours = hours.on(day, &["08:00 to 17:00".parse()?])?;
/// }
/// let yard = WorkCalendar::rest_days_only(RestDays::default()).with_hours(hours)?;
/// // Friday 15:30 to Monday 10:15: an hour and a half, and two and a quarter.
/// let time = yard.working_time("2026-10-02T15:30".parse()?, "2026-10-05T10:15".parse()?)?;
/// assert_eq!(time.to_string(), "3 h 45 min");
/// assert_eq!(time.hours().to_decimal(2, Default::default())?.to_string(), "3.75");
/// # Ok::<(), mild_ledger::Error>(())
/// ```
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash)]
pub struct WorkingTime {
    microseconds: i64,
}

impl WorkingTime {
    /// In microseconds; negative where the end lies before the start.
    ///
    /// ```
    /// # use mild_ledger::{DateTime, OpeningHours, RestDays, WorkCalendar};
    /// let closed = WorkCalendar::rest_days_only("monday, tuesday, wednesday, thursday, friday, saturday, sunday".parse()?);
    /// let never = closed.with_hours(OpeningHours::default())?;
    /// assert_eq!(never.working_time(DateTime::MIN, DateTime::MAX)?.microseconds(), 0);
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn microseconds(self) -> i64 {
        self.microseconds
    }

    /// In hours, exactly.
    ///
    /// ```
    /// # use mild_ledger::{OpeningHours, RestDays, WorkCalendar, Weekday};
    /// let mondays = OpeningHours::default().on(Weekday::Monday, &["09:00 to 12:00".parse()?])?;
    /// let rest_days = "tuesday, wednesday, thursday, friday, saturday, sunday".parse()?;
    /// let yard = WorkCalendar::rest_days_only(rest_days).with_hours(mondays)?;
    /// let time = yard.working_time("2026-10-05T11:40".parse()?, "2026-10-06".parse::<mild_ledger::Date>()?.into())?;
    /// assert_eq!((time.hours().numerator(), time.hours().denominator()), (1, 3));
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn hours(self) -> Quotient {
        const HOUR: i128 = 3_600_000_000;
        Quotient::of(self.microseconds.into(), HOUR).unwrap_or_default()
    }
}

/// Hours and minutes, and seconds where there are some.
impl core::fmt::Display for WorkingTime {
    fn fmt(&self, f: &mut core::fmt::Formatter<'_>) -> core::fmt::Result {
        let all = self.microseconds.unsigned_abs();
        let (hours, minutes) = (all / 3_600_000_000, all / 60_000_000 % 60);
        let (seconds, part) = (all / 1_000_000 % 60, all % 1_000_000);
        let mut parts: Vec<String> = Vec::new();
        if hours > 0 || all < 60_000_000 && all == 0 {
            parts.push(format!("{hours} h"));
        }
        if minutes > 0 {
            parts.push(format!("{minutes} min"));
        }
        match (seconds, part) {
            (0, 0) => {}
            (seconds, 0) => parts.push(format!("{seconds} s")),
            (seconds, part) => parts.push(format!("{seconds}.{part:06} s")),
        }
        let sign = if self.microseconds < 0 { "-" } else { "" };
        f.pad(&format!("{sign}{}", parts.join(" ")))
    }
}

impl WorkCalendar {
    /// The working time from one moment to another, by the clock on the wall: the opening hours of working days between them. Where the end
    /// lies before the start the two are swapped and the time is negated.
    ///
    /// # Errors
    /// [`ErrorKind::NotAllowed`] where the calendar states no opening hours, [`ErrorKind::NotCovered`] where either day lies outside the years
    /// that it covers.
    ///
    /// ```
    /// use mild_ledger::{DateTime, RestDays, WorkCalendar};
    /// let week = WorkCalendar::rest_days_only(RestDays::default());
    /// assert!(week.working_time(DateTime::MIN, DateTime::MAX).is_err());
    /// ```
    pub fn working_time(&self, start: DateTime, end: DateTime) -> Result<WorkingTime, Error> {
        let (from, to) = (self.open_before(start)?, self.open_before(end)?);
        Ok(WorkingTime { microseconds: to - from })
    }

    /// How a working time comes about.
    ///
    /// # Errors
    /// Those of [`working_time`](Self::working_time).
    ///
    /// ```
    /// use mild_ledger::{OpeningHours, Weekday, WorkCalendar};
    /// let mut hours = OpeningHours::default();
    /// for day in Weekday::ALL {
    ///     hours = hours.on(day, &["08:00 to 17:00".parse()?])?;
    /// }
    /// let yard = WorkCalendar::rest_days_only(Default::default()).with_hours(hours)?.with_name("Yard");
    /// let why = yard.why_working_time("2026-10-01T15:30".parse()?, "2026-10-06T10:15".parse()?)?;
    /// let said: Vec<&str> = why.steps().iter().map(|step| step.said()).collect();
    /// assert_eq!(said, [
    ///     "2026-10-01 (Thursday) from 15:30 on: 1 h 30 min",
    ///     "2 working days between: 18 h",
    ///     "2026-10-06 (Tuesday) up to 10:15: 2 h 15 min",
    ///     "so 21 h 45 min",
    /// ]);
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    pub fn why_working_time(&self, start: DateTime, end: DateTime) -> Result<Working, Error> {
        let time = self.working_time(start, end)?;
        let (from, to) = (start.min(end), start.max(end));
        let hours = self.hours().map(|hours| hours.without(self.rest_days()));
        let hours = hours.map_or_else(String::new, |hours| format!("; {hours}"));
        let mut working = Working::of_rule(format!("working hours ({}{hours})", self.name()));
        let clock = |time: ClockTime| match (time.second(), time.microsecond()) {
            (0, 0) => format!("{:02}:{:02}", time.hour(), time.minute()),
            _ => format!("{time}"),
        };
        let day = |date: Date| -> Result<String, Error> {
            let kind = self.kind_of(date)?;
            let closed = if kind.is_working() { String::new() } else { format!(", {}", kind.word()) };
            Ok(format!("{date} ({}{closed})", date.weekday()))
        };
        let between = |from: DateTime, to: DateTime| self.working_time(from, to);
        if from.date() == to.date() {
            let time = between(from, to)?;
            let (day, from, to) = (day(from.date())?, clock(from.time()), clock(to.time()));
            working = working.step(format!("{day} from {from} to {to}: {time}"), time);
        } else {
            let next = DateTime::new(following(from.date()), ClockTime::MIDNIGHT);
            let last = DateTime::new(to.date(), ClockTime::MIDNIGHT);
            let first_day = between(from, next)?;
            working = working.step(
                format!("{} from {} on: {first_day}", day(from.date())?, clock(from.time())),
                first_day,
            );
            if next < last {
                let days = Interval::between(next.date(), to.date());
                let count = self.count_working_days(days, Ends::First)?;
                let whole = between(next, last)?;
                let days = if count == 1 { "working day" } else { "working days" };
                working = working.step(format!("{count} {days} between: {whole}"), whole);
            }
            let last_day = between(last, to)?;
            working =
                working.step(format!("{} up to {}: {last_day}", day(to.date())?, clock(to.time())), last_day);
        }
        let negated = if end < start { ", negated since the end lies before the start" } else { "" };
        Ok(working.step(format!("so {time}{negated}"), time))
    }

    fn open_before(&self, moment: DateTime) -> Result<i64, Error> {
        let date = moment.date();
        let Some(index) = self.hours_index() else {
            let what = format!("the calendar \"{}\" states no opening hours", self.name());
            return Err(Error::new(ErrorKind::NotAllowed, what, "a calendar with opening hours"));
        };
        let is_working = self.kind_of(date)?.is_working();
        let whole = index.before(date.day_number()).ok_or_else(|| self.not_covered(date))?;
        let of_day = match is_working {
            true => index.hours.before(date.weekday(), moment.time().microseconds()),
            false => 0,
        };
        Ok(whole + of_day)
    }
}

fn following(date: Date) -> Date {
    Date::in_range(i64::from(date.day_number()) + 1).unwrap_or(date)
}
