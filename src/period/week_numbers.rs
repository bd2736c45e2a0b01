//! Numbers of weeks and of weekdays, each by the rule that a user named.

use crate::date::{Date, Weekday, year_month_day};
use crate::error::{Error, ErrorKind, quoted};
use alloc::format;
use alloc::vec::Vec;
use core::fmt;
use core::str::FromStr;

/// How weeks are numbered: by the day they start on and the smallest number of days of the year that make week 1, or in
/// blocks of seven days from 1 January.
///
/// The first two are the terms of Unicode CLDR (`firstDay`, `minDays`); ISO 8601 is Monday and 4. Read from and written as
/// `iso`, `sunday first, at least 1 day`, `blocks from 1 january`; `sunday, 1` is understood too.
///
/// ```
/// use mild_ledger::{WeekNumbers, Weekday};
///
/// let new_year = "2021-01-01".parse()?;
/// assert_eq!(WeekNumbers::iso().of(new_year).to_string(), "2020-W53");
/// // With Sunday and 1, the week of 1 January is week 1 whatever day that is.
/// let sunday = WeekNumbers::new(Weekday::Sunday, 1)?;
/// assert_eq!(sunday.of(new_year).week(), 1);
/// let date = "2022-10-03".parse()?;
/// let week = |rule: &str| rule.parse::<WeekNumbers>().map(|rule| rule.of(date).week());
/// assert_eq!((week("iso")?, week("sunday, 1")?, week("blocks from 1 january")?), (40, 41, 40));
/// # Ok::<(), mild_ledger::Error>(())
/// ```
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub struct WeekNumbers {
    rule: Rule,
}

#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
enum Rule {
    Weeks { first: Weekday, smallest_first_week: u8 },
    Blocks,
}

/// A week with the year that it is numbered in.
///
/// ```
/// use mild_ledger::WeekNumbers;
/// let week = WeekNumbers::iso().of("2026-09-30".parse()?);
/// assert_eq!((week.year(), week.week()), (2026, 40));
/// # Ok::<(), mild_ledger::Error>(())
/// ```
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash)]
pub struct WeekNumber {
    year: i32,
    week: u8,
}

impl WeekNumber {
    /// The year it is numbered in, 0 to 10000: it may differ from the calendar year around New Year.
    ///
    /// ```
    /// assert_eq!(mild_ledger::WeekNumbers::iso().of("2021-01-03".parse()?).year(), 2020);
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn year(self) -> i32 {
        self.year
    }

    /// Its number, 1 to 54.
    ///
    /// ```
    /// assert_eq!(mild_ledger::WeekNumbers::iso().of("2021-01-03".parse()?).week(), 53);
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn week(self) -> u8 {
        self.week
    }
}

impl fmt::Display for WeekNumber {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        f.pad(&format!("{:04}-W{:02}", self.year, self.week))
    }
}

impl WeekNumbers {
    /// Weeks that start on a day, of which the first has at least a number of days (1 to 7) in the year.
    ///
    /// # Errors
    /// [`ErrorKind::OutOfRange`] for another number of days.
    ///
    /// ```
    /// use mild_ledger::{WeekNumbers, Weekday};
    /// assert!(WeekNumbers::new(Weekday::Sunday, 8).is_err());
    /// ```
    pub fn new(first: Weekday, smallest_first_week: u8) -> Result<Self, Error> {
        if !(1..=7).contains(&smallest_first_week) {
            return Err(Error::new(
                ErrorKind::OutOfRange,
                format!("a first week cannot have at least {smallest_first_week} days"),
                "1 to 7 days",
            ));
        }
        Ok(Self { rule: Rule::Weeks { first, smallest_first_week } })
    }

    /// The weeks of ISO 8601: from Monday, week 1 with at least four days.
    ///
    /// ```
    /// use mild_ledger::{WeekNumbers, Weekday};
    /// assert_eq!(Ok(WeekNumbers::iso()), WeekNumbers::new(Weekday::Monday, 4));
    /// ```
    #[must_use]
    pub fn iso() -> Self {
        Self { rule: Rule::Weeks { first: Weekday::Monday, smallest_first_week: 4 } }
    }

    /// Blocks of seven days from 1 January: days 1 to 7 of a year are week 1, and its last day or two are week 53.
    ///
    /// ```
    /// use mild_ledger::WeekNumbers;
    /// assert_eq!(WeekNumbers::blocks().of("2026-12-31".parse()?).to_string(), "2026-W53");
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn blocks() -> Self {
        Self { rule: Rule::Blocks }
    }

    /// The day that its weeks start on; none for blocks, which start on the weekday of 1 January.
    ///
    /// ```
    /// use mild_ledger::{WeekNumbers, Weekday};
    /// assert_eq!(WeekNumbers::iso().first_weekday(), Some(Weekday::Monday));
    /// assert_eq!(WeekNumbers::blocks().first_weekday(), None);
    /// ```
    #[must_use]
    pub fn first_weekday(self) -> Option<Weekday> {
        match self.rule {
            Rule::Weeks { first, .. } => Some(first),
            Rule::Blocks => None,
        }
    }

    /// How many days its first week has in the year at least; none for blocks, whose first week has all seven.
    ///
    /// ```
    /// use mild_ledger::WeekNumbers;
    /// assert_eq!(WeekNumbers::iso().smallest_first_week(), Some(4));
    /// assert_eq!(WeekNumbers::blocks().smallest_first_week(), None);
    /// ```
    #[must_use]
    pub fn smallest_first_week(self) -> Option<u8> {
        match self.rule {
            Rule::Weeks { smallest_first_week, .. } => Some(smallest_first_week),
            Rule::Blocks => None,
        }
    }

    /// The week that a date lies in.
    ///
    /// ```
    /// use mild_ledger::{WeekNumbers, Weekday};
    /// let date = "2022-10-03".parse()?;
    /// assert_eq!(WeekNumbers::iso().of(date).week(), 40);
    /// assert_eq!(WeekNumbers::new(Weekday::Sunday, 1)?.of(date).week(), 41);
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn of(self, date: Date) -> WeekNumber {
        let (calendar_year, ..) = date.year_month_day();
        let day = i64::from(date.day_number());
        let Rule::Weeks { first, smallest_first_week } = self.rule else {
            let into_year = day - i64::from(year_month_day::day_number_of(calendar_year, 1, 1));
            return WeekNumber { year: calendar_year, week: (into_year / 7 + 1) as u8 };
        };
        let first_day = |year: i32| first_day_of(year, first, smallest_first_week);
        let year = if day < first_day(calendar_year) {
            calendar_year - 1
        } else if day >= first_day(calendar_year + 1) {
            calendar_year + 1
        } else {
            calendar_year
        };
        let week = (day - first_day(year)) / 7 + 1;
        WeekNumber { year, week: week as u8 }
    }
}

/// The first day of week 1: the last start of a week on or before the day by which the week has enough days.
fn first_day_of(year: i32, first: Weekday, smallest_first_week: u8) -> i64 {
    let inside = year_month_day::day_number_of(year, 1, smallest_first_week);
    let weekday = Weekday::of_day_number(inside).days_from_monday();
    i64::from(inside) - (weekday - first.days_from_monday()).rem_euclid(7)
}

impl fmt::Display for WeekNumbers {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        match self.rule {
            _ if *self == Self::iso() => f.pad("iso"),
            Rule::Blocks => f.pad("blocks from 1 January"),
            Rule::Weeks { first, smallest_first_week } => {
                let days = if smallest_first_week == 1 { "day" } else { "days" };
                f.pad(&format!("{first} first, at least {smallest_first_week} {days}"))
            }
        }
    }
}

impl FromStr for WeekNumbers {
    type Err = Error;

    fn from_str(text: &str) -> Result<Self, Error> {
        let refused = || {
            let what = format!("{} is not a way of numbering weeks", quoted(text));
            let allowed =
                "iso, \"sunday first, at least 1 day\" (or another day, 1 to 7), \"blocks from 1 january\"";
            Error::new(ErrorKind::Unreadable, what, allowed)
        };
        let lower = text.trim().to_lowercase();
        let words: Vec<&str> = lower.split([' ', ',', '\t']).filter(|word| !word.is_empty()).collect();
        match words.as_slice() {
            ["iso"] => Ok(Self::iso()),
            ["blocks"] | ["blocks", "from", "1", "january"] => Ok(Self::blocks()),
            [first, days] | [first, "first", "at", "least", days, "day" | "days"] => {
                Self::new(first.parse().map_err(|_| refused())?, days.parse().map_err(|_| refused())?)
            }
            _ => Err(refused()),
        }
    }
}

/// How weekdays are numbered: which of them is first, and whether its number is 0 or 1.
///
/// Read from and written as `sunday from 1`, `monday from 0`.
///
/// ```
/// use mild_ledger::WeekdayNumbers;
///
/// let wednesday = "2026-09-30".parse()?;
/// let number = |rule: &str| rule.parse::<WeekdayNumbers>().map(|rule| rule.of(wednesday));
/// assert_eq!((number("sunday from 1")?, number("sunday from 0")?, number("monday from 1")?), (4, 3, 3));
/// # Ok::<(), mild_ledger::Error>(())
/// ```
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub struct WeekdayNumbers {
    first: Weekday,
    base: u8,
}

impl WeekdayNumbers {
    /// Numbers from 0 or 1 on, beginning with a weekday.
    ///
    /// # Errors
    /// [`ErrorKind::OutOfRange`] for another base.
    ///
    /// ```
    /// use mild_ledger::{Weekday, WeekdayNumbers};
    /// assert!(WeekdayNumbers::new(Weekday::Sunday, 2).is_err());
    /// ```
    pub fn new(first: Weekday, base: u8) -> Result<Self, Error> {
        if base > 1 {
            let what = format!("weekdays are not numbered from {base}");
            return Err(Error::new(ErrorKind::OutOfRange, what, "0 or 1"));
        }
        Ok(Self { first, base })
    }

    /// The number of a date's weekday.
    ///
    /// ```
    /// use mild_ledger::{Weekday, WeekdayNumbers};
    /// assert_eq!(WeekdayNumbers::new(Weekday::Sunday, 0)?.of("2026-10-03".parse()?), 6);
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn of(self, date: Date) -> u8 {
        let days = date.weekday().days_from_monday() - self.first.days_from_monday();
        days.rem_euclid(7) as u8 + self.base
    }
}

/// The rule of ISO 8601: Monday is 1.
impl Default for WeekdayNumbers {
    fn default() -> Self {
        Self { first: Weekday::Monday, base: 1 }
    }
}

impl fmt::Display for WeekdayNumbers {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        f.pad(&format!("{} from {}", self.first, self.base))
    }
}

impl FromStr for WeekdayNumbers {
    type Err = Error;

    fn from_str(text: &str) -> Result<Self, Error> {
        let refused = || {
            let what = format!("{} is not a way of numbering weekdays", quoted(text));
            Error::new(
                ErrorKind::Unreadable,
                what,
                "a first weekday and its number, such as \"sunday from 1\"",
            )
        };
        let lower = text.trim().to_lowercase();
        let (first, base) = lower.split_once(" from ").ok_or_else(refused)?;
        Self::new(first.trim().parse().map_err(|_| refused())?, base.trim().parse().map_err(|_| refused())?)
    }
}
