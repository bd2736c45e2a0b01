//! Days that come round every year: birthdays, service anniversaries.

use crate::date::Date;
use crate::error::{Error, ErrorKind};
use crate::interval::{Count, Interval};
use crate::period::Month;
use crate::shift::{MonthEnd, Shift, Unit};

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
/// let on_march_1 = born.leap_day(MonthEnd::NextStart)?;
/// assert_eq!(on_march_1.age_on("2026-02-28".parse()?)?.value(), 21);
/// # Ok::<(), mild_ledger::Error>(())
/// ```
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub struct Anniversaries {
    start: Date,
    rule: MonthEnd,
}

/// A stretch of months in which anniversaries are looked for: the first day belongs to it, the one after the last
/// does not, so that windows tile.
///
/// ```
/// use mild_ledger::Window;
/// let window = Window::months_from("2026-11-12".parse()?, 3)?;
/// assert_eq!((window.first().to_string(), window.end().to_string()), ("2026-11-12".into(), "2027-02-12".into()));
/// # Ok::<(), mild_ledger::Error>(())
/// ```
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub struct Window {
    first: Date,
    end: Date,
}

impl Window {
    /// So many months (1 or more) from a date on.
    ///
    /// # Errors
    /// [`ErrorKind::OutOfRange`] for less than one month, and where it ends after 9999-12-31.
    ///
    /// ```
    /// use mild_ledger::{Date, Window};
    /// assert!(Window::months_from(Date::MAX, 1).is_err() && Window::months_from(Date::MIN, 0).is_err());
    /// ```
    pub fn months_from(first: Date, months: i32) -> Result<Self, Error> {
        if months < 1 {
            let what = format!("a window of {months} months holds nothing");
            return Err(Error::new(ErrorKind::OutOfRange, what, "1 month or more"));
        }
        Ok(Self { first, end: Shift::months(months).apply(first)? })
    }

    /// So many whole calendar months (1 or more), the first being the one that a date lies in.
    ///
    /// # Errors
    /// Those of [`months_from`](Self::months_from).
    ///
    /// ```
    /// use mild_ledger::Window;
    /// let window = Window::calendar_months("2026-11-12".parse()?, 2)?;
    /// assert_eq!((window.first().to_string(), window.end().to_string()), ("2026-11-01".into(), "2027-01-01".into()));
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    pub fn calendar_months(date: Date, months: i32) -> Result<Self, Error> {
        Self::months_from(Month::of(date).first_day(), months)
    }

    /// Its first day.
    ///
    /// ```
    /// use mild_ledger::{Date, Window};
    /// assert_eq!(Window::months_from(Date::MIN, 1)?.first(), Date::MIN);
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn first(self) -> Date {
        self.first
    }

    /// The day after its last one, where the next window begins.
    ///
    /// ```
    /// use mild_ledger::{Date, Window};
    /// assert_eq!(Window::months_from(Date::MIN, 1)?.end().to_string(), "0001-02-01");
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn end(self) -> Date {
        self.end
    }

    /// Whether a date lies in it.
    ///
    /// ```
    /// use mild_ledger::{Date, Window};
    /// assert!(!Window::months_from(Date::MIN, 1)?.contains(Date::MAX));
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn contains(self, date: Date) -> bool {
        self.first <= date && date < self.end
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
    /// [`ErrorKind::Unreadable`] for rules other than [`MonthEnd::Clamp`] and [`MonthEnd::NextStart`].
    ///
    /// ```
    /// use mild_ledger::{Anniversaries, MonthEnd};
    /// let hired = Anniversaries::of("2024-02-29".parse()?).leap_day(MonthEnd::NextStart)?;
    /// assert_eq!(hired.number(1)?.to_string(), "2025-03-01");
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    pub fn leap_day(self, rule: MonthEnd) -> Result<Self, Error> {
        match rule {
            MonthEnd::Clamp | MonthEnd::NextStart => Ok(Self { rule, ..self }),
            MonthEnd::Keep | MonthEnd::Refuse => Err(Error::new(
                ErrorKind::Unreadable,
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
    /// assert_eq!(Anniversaries::of(Date::MIN).rule(), MonthEnd::Clamp);
    /// ```
    #[must_use]
    pub fn rule(self) -> MonthEnd {
        self.rule
    }

    /// The anniversary with a number, 1 or more: so many years after the start.
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
        Shift::of(years, Unit::Year).month_end(self.rule).apply(self.start)
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
        Ok(Interval::between(self.start, date).month_end(self.rule)?.complete(Unit::Year))
    }

    /// The first anniversary on or after a date, with its number.
    ///
    /// # Errors
    /// [`ErrorKind::OutOfRange`] where it lies after 9999-12-31.
    ///
    /// ```
    /// use mild_ledger::Anniversaries;
    /// let hired = Anniversaries::of("2021-03-15".parse()?);
    /// let (years, date) = hired.next_on_or_after("2026-03-16".parse()?)?;
    /// assert_eq!((years, date.to_string()), (6, "2027-03-15".to_owned()));
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    pub fn next_on_or_after(self, date: Date) -> Result<(i32, Date), Error> {
        // The anniversary of the year before is on or before the date, so one of the next three is meant.
        let years = (date.year() - self.start.year()).max(1);
        for years in [years - 1, years, years + 1].into_iter().filter(|years| *years >= 1) {
            let anniversary = self.number(years)?;
            if anniversary >= date {
                return Ok((years, anniversary));
            }
        }
        self.number(years + 2).map(|anniversary| (years + 2, anniversary))
    }

    /// Every anniversary in a window, in order, with its number.
    ///
    /// ```
    /// use mild_ledger::{Anniversaries, Window};
    /// let window = Window::months_from("2026-11-12".parse()?, 3)?;
    /// let found = |day: &str| -> Result<usize, mild_ledger::Error> {
    ///     Ok(Anniversaries::of(day.parse()?).within(window).count())
    /// };
    /// assert_eq!((found("2020-01-04")?, found("2020-02-11")?, found("2020-02-12")?), (1, 1, 0));
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    pub fn within(self, window: Window) -> impl Iterator<Item = (i32, Date)> {
        let first = (window.first.year() - self.start.year()).max(1);
        let last = window.end.year() - self.start.year();
        (first..=last)
            .filter_map(move |years| self.number(years).ok().map(|date| (years, date)))
            .filter(move |(_, date)| window.contains(*date))
    }
}
