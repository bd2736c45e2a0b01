//! Days that come round every year: birthdays, service anniversaries.

use crate::date::Date;
use crate::error::{Error, ErrorKind};
use crate::interval::{Count, Interval};
use crate::period::DateRange;
use crate::shift::{MonthEnd, Shift, Unit};
use alloc::format;

/// The yearly returns of a day of birth or of hiring.
///
/// A 29 February comes round, in common years, on 28 February ([`MonthEnd::Clamp`], the default) or on 1 March
/// ([`MonthEnd::NextStart`]); the choice decides ages and anniversaries alike.
///
/// ```
/// use mild_ledger::{Anniversaries, MonthEnd};
///
/// let born = Anniversaries::of("2004-02-29".parse()?);
/// assert_eq!(born.age_on("2026-02-28".parse()?)?.value(), 22);
/// let on_march_1 = born.with_leap_day(MonthEnd::NextStart)?;
/// assert_eq!(on_march_1.age_on("2026-02-28".parse()?)?.value(), 21);
/// # Ok::<(), mild_ledger::Error>(())
/// ```
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub struct Anniversaries {
    start: Date,
    rule: MonthEnd,
}

/// One return of a day: which one, and when.
///
/// ```
/// use mild_ledger::Anniversaries;
/// let next = Anniversaries::of("2021-03-15".parse()?).next_on_or_after("2026-03-16".parse()?)?;
/// assert_eq!((next.number(), next.date().to_string()), (6, "2027-03-15".into()));
/// # Ok::<(), mild_ledger::Error>(())
/// ```
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub struct Anniversary {
    number: i32,
    date: Date,
}

impl Anniversary {
    /// How many years after the start it is, 1 or more.
    ///
    /// ```
    /// use mild_ledger::{Anniversaries, Date};
    /// assert_eq!(Anniversaries::of(Date::MIN).next_on_or_after(Date::MIN)?.number(), 1);
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn number(self) -> i32 {
        self.number
    }

    /// The day it falls on.
    ///
    /// ```
    /// use mild_ledger::{Anniversaries, Date};
    /// assert_eq!(Anniversaries::of(Date::MIN).next_on_or_after(Date::MIN)?.date().to_string(), "0002-01-01");
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn date(self) -> Date {
        self.date
    }
}

impl Anniversaries {
    /// The anniversaries of a day.
    ///
    /// ```
    /// use mild_ledger::Anniversaries;
    /// assert_eq!(Anniversaries::of("2024-02-29".parse()?).number(1)?.to_string(), "2025-02-28");
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn of(start: Date) -> Self {
        Self { start, rule: MonthEnd::Clamp }
    }

    /// The same anniversaries with a 29 February coming round by another rule.
    ///
    /// # Errors
    /// [`ErrorKind::NotAllowed`] for rules other than [`MonthEnd::Clamp`] and [`MonthEnd::NextStart`].
    ///
    /// ```
    /// use mild_ledger::{Anniversaries, MonthEnd};
    /// let hired = Anniversaries::of("2024-02-29".parse()?).with_leap_day(MonthEnd::NextStart)?;
    /// assert_eq!(hired.number(1)?.to_string(), "2025-03-01");
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    pub fn with_leap_day(self, rule: MonthEnd) -> Result<Self, Error> {
        match rule {
            MonthEnd::Clamp | MonthEnd::NextStart => Ok(Self { rule, ..self }),
            MonthEnd::Keep | MonthEnd::Refuse => Err(Error::new(
                ErrorKind::NotAllowed,
                format!("a 29 February cannot come round by \"{rule}\""),
                "clamp (28 February) or next-start (1 March)",
            )),
        }
    }

    /// The day they are the anniversaries of.
    ///
    /// ```
    /// use mild_ledger::{Anniversaries, Date};
    /// assert_eq!(Anniversaries::of(Date::MIN).start(), Date::MIN);
    /// ```
    #[must_use]
    pub fn start(self) -> Date {
        self.start
    }

    /// The rule by which a 29 February comes round.
    ///
    /// ```
    /// use mild_ledger::{Anniversaries, Date, MonthEnd};
    /// assert_eq!(Anniversaries::of(Date::MIN).leap_day(), MonthEnd::Clamp);
    /// ```
    #[must_use]
    pub fn leap_day(self) -> MonthEnd {
        self.rule
    }

    /// The anniversary with a number, 1 or more: a number of years after the start.
    ///
    /// # Errors
    /// [`ErrorKind::OutOfRange`] for a number below 1, or a date after 9999-12-31.
    ///
    /// ```
    /// use mild_ledger::{Anniversaries, Date};
    /// assert!(Anniversaries::of(Date::MIN).number(0).is_err());
    /// ```
    pub fn number(self, years: i32) -> Result<Date, Error> {
        if years < 1 {
            let what = format!("there is no anniversary number {years}");
            return Err(Error::new(ErrorKind::OutOfRange, what, "1 or more"));
        }
        Shift::of(years, Unit::Year).with_month_end(self.rule).apply(self.start)
    }

    /// The age on a date: complete years since the start.
    ///
    /// # Errors
    /// [`ErrorKind::NotBegun`] for a date before the start: not yet born, not yet hired.
    ///
    /// ```
    /// use mild_ledger::Anniversaries;
    /// let born = Anniversaries::of("1990-09-30".parse()?);
    /// assert_eq!(born.age_on("2026-09-29".parse()?)?.value(), 35);
    /// assert!(born.age_on("1990-09-29".parse()?).is_err());
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    pub fn age_on(self, date: Date) -> Result<Count, Error> {
        if date < self.start {
            return Err(Error::new(
                ErrorKind::NotBegun,
                format!("{date} lies before the start, {}", self.start),
                format!("{} or later", self.start),
            ));
        }
        Ok(Interval::between(self.start, date).with_month_end(self.rule)?.complete(Unit::Year))
    }

    /// The first anniversary on or after a date, with its number.
    ///
    /// # Errors
    /// [`ErrorKind::OutOfRange`] where it lies after 9999-12-31.
    ///
    /// ```
    /// use mild_ledger::Anniversaries;
    /// let hired = Anniversaries::of("2021-03-15".parse()?);
    /// let next = hired.next_on_or_after("2026-03-16".parse()?)?;
    /// assert_eq!((next.number(), next.date().to_string()), (6, "2027-03-15".to_owned()));
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    pub fn next_on_or_after(self, date: Date) -> Result<Anniversary, Error> {
        // The anniversary of the year before is on or before the date, so one of the next three is meant.
        let years = (date.year() - self.start.year()).max(1);
        for years in [years - 1, years, years + 1].into_iter().filter(|years| *years >= 1) {
            let anniversary = self.numbered(years)?;
            if anniversary.date >= date {
                return Ok(anniversary);
            }
        }
        self.numbered(years + 2)
    }

    /// Every anniversary in a stretch of days, in order.
    ///
    /// ```
    /// use mild_ledger::{Anniversaries, DateRange};
    /// let window = DateRange::months_from("2026-11-12".parse()?, 3)?;
    /// let found = |day: &str| -> Result<usize, mild_ledger::Error> {
    ///     Ok(Anniversaries::of(day.parse()?).within(window).count())
    /// };
    /// assert_eq!((found("2020-01-04")?, found("2020-02-11")?, found("2020-02-12")?), (1, 1, 0));
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    pub fn within(self, days: DateRange) -> impl Iterator<Item = Anniversary> {
        // A 29 February may come round in the March after, never in another year.
        let first = (days.first().year() - self.start.year()).max(1);
        let last = days.last().year() - self.start.year();
        (first..=last)
            .filter_map(move |years| self.numbered(years).ok())
            .filter(move |anniversary| days.contains(anniversary.date))
    }

    fn numbered(self, number: i32) -> Result<Anniversary, Error> {
        self.number(number).map(|date| Anniversary { number, date })
    }
}
