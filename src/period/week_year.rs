//! Years of 52 or 53 whole weeks.

use super::FiscalNaming;
use super::fiscal_year::NAMED_BY_BEGIN;
use crate::date::month_names::{month_name, month_of_name};
use crate::date::{Date, Weekday, year_month_day};
use crate::error::{Error, ErrorKind, quoted};
use alloc::borrow::ToOwned;
use alloc::format;
use alloc::string::ToString;
use alloc::vec::Vec;
use core::fmt;
use core::str::FromStr;

/// A rule for years of 52 or 53 whole weeks, named as the twelve-month fiscal year ending with the same month.
///
/// Quarters have 13 weeks and are split into three periods; the 53rd week goes to the last one.
///
/// ```
/// use mild_ledger::{PeriodRule, WeekYear};
///
/// let year = PeriodRule::WeekYear(WeekYear::iso()).containing("2021-01-03".parse()?);
/// assert_eq!((year.year(), year.days()), (2020, 371));
/// # Ok::<(), mild_ledger::Error>(())
/// ```
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash)]
pub struct WeekYear {
    weekday: Weekday,
    month: u8,
    ending: YearEnding,
    split: WeekSplit,
    naming: FiscalNaming,
}

/// Which of its weekday a year of weeks ends on.
///
/// ```
/// assert_eq!(mild_ledger::YearEnding::NearestMonthEnd.word(), "nearest");
/// ```
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash)]
pub enum YearEnding {
    /// The last one in the month.
    LastInMonth,
    /// The one nearest to the month's last day, before it or after.
    NearestMonthEnd,
}

/// How the 13 weeks of a quarter fall into three periods.
///
/// ```
/// assert_eq!(mild_ledger::WeekSplit::FourFourFive.weeks(), [4, 4, 5]);
/// ```
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash, Default)]
#[non_exhaustive]
pub enum WeekSplit {
    /// Four weeks, four, five. The default.
    #[default]
    FourFourFive,
    /// Four weeks, five, four.
    FourFiveFour,
    /// Five weeks, four, four.
    FiveFourFour,
}

impl YearEnding {
    /// The word for it in plans and options.
    ///
    /// ```
    /// assert_eq!(mild_ledger::YearEnding::LastInMonth.word(), "last");
    /// ```
    #[must_use]
    pub fn word(self) -> &'static str {
        match self {
            Self::LastInMonth => "last",
            Self::NearestMonthEnd => "nearest",
        }
    }
}

impl WeekSplit {
    /// All three.
    pub const ALL: &'static [Self] = &[Self::FourFourFive, Self::FourFiveFour, Self::FiveFourFour];

    /// The weeks of each period of a quarter.
    ///
    /// ```
    /// assert_eq!(mild_ledger::WeekSplit::FiveFourFour.weeks(), [5, 4, 4]);
    /// ```
    #[must_use]
    pub fn weeks(self) -> [u8; 3] {
        match self {
            Self::FourFourFive => [4, 4, 5],
            Self::FourFiveFour => [4, 5, 4],
            Self::FiveFourFour => [5, 4, 4],
        }
    }
}

impl WeekYear {
    /// Years that end on a weekday of a month (1 to 12), with quarters split 4-4-5.
    ///
    /// # Errors
    /// [`ErrorKind::OutOfRange`] for another month.
    ///
    /// ```
    /// use mild_ledger::{PeriodRule, WeekYear, Weekday, YearEnding};
    ///
    /// let rule = WeekYear::ending(Weekday::Saturday, 1, YearEnding::LastInMonth)?;
    /// let year = PeriodRule::WeekYear(rule).containing("2026-06-01".parse()?);
    /// assert_eq!(year.last_day()?.to_string(), "2027-01-30");
    /// assert_eq!(year.year(), 2027);
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    pub fn ending(weekday: Weekday, month: u8, ending: YearEnding) -> Result<Self, Error> {
        if !(1..=12).contains(&month) {
            return Err(Error::new(
                ErrorKind::OutOfRange,
                format!("there is no month {month}"),
                "month 1 to 12",
            ));
        }
        Ok(Self { weekday, month, ending, split: WeekSplit::default(), naming: FiscalNaming::End })
    }

    /// The week-year of ISO 8601: it ends on the Sunday nearest to the end of December.
    ///
    /// ```
    /// use mild_ledger::{WeekYear, Weekday, YearEnding};
    /// assert_eq!(Ok(WeekYear::iso()), WeekYear::ending(Weekday::Sunday, 12, YearEnding::NearestMonthEnd));
    /// ```
    #[must_use]
    pub fn iso() -> Self {
        let (weekday, ending) = (Weekday::Sunday, YearEnding::NearestMonthEnd);
        Self { weekday, month: 12, ending, split: WeekSplit::default(), naming: FiscalNaming::End }
    }

    /// The same years with quarters split another way.
    ///
    /// ```
    /// use mild_ledger::{PeriodRule, WeekSplit, WeekYear};
    /// let rule = WeekYear::iso().with_split(WeekSplit::FiveFourFour);
    /// assert_eq!(PeriodRule::WeekPeriod(rule).containing("2026-01-01".parse()?).days(), 35);
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn with_split(self, split: WeekSplit) -> Self {
        Self { split, ..self }
    }

    /// The same years named by the calendar year that a year of twelve months, ending with the same month, begins in, as
    /// retailers do; or by the one it ends in, which is the default.
    ///
    /// ```
    /// use mild_ledger::{FiscalNaming, PeriodRule, WeekYear};
    /// let retail: WeekYear = "saturday nearest end of january".parse()?;
    /// let first = "2023-01-29".parse()?;
    /// let name = |rule| PeriodRule::WeekYear(rule).containing(first).number();
    /// assert_eq!((name(retail), name(retail.with_naming(FiscalNaming::Begin))), (2024, 2023));
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn with_naming(self, naming: FiscalNaming) -> Self {
        Self { naming, ..self }
    }

    /// The weekday that it ends on.
    ///
    /// ```
    /// assert_eq!(mild_ledger::WeekYear::iso().last_weekday(), mild_ledger::Weekday::Sunday);
    /// ```
    #[must_use]
    pub fn last_weekday(self) -> Weekday {
        self.weekday
    }

    /// The month whose end it ends in or near, 1 to 12.
    ///
    /// ```
    /// assert_eq!(mild_ledger::WeekYear::iso().last_month(), 12);
    /// ```
    #[must_use]
    pub fn last_month(self) -> u8 {
        self.month
    }

    /// Which of its weekday it ends on.
    ///
    /// ```
    /// use mild_ledger::{WeekYear, YearEnding};
    /// assert_eq!(WeekYear::iso().year_ending(), YearEnding::NearestMonthEnd);
    /// ```
    #[must_use]
    pub fn year_ending(self) -> YearEnding {
        self.ending
    }

    /// How its quarters are split.
    ///
    /// ```
    /// use mild_ledger::{WeekSplit, WeekYear};
    /// assert_eq!(WeekYear::iso().with_split(WeekSplit::FiveFourFour).split(), WeekSplit::FiveFourFour);
    /// ```
    #[must_use]
    pub fn split(self) -> WeekSplit {
        self.split
    }

    /// How it is named.
    ///
    /// ```
    /// use mild_ledger::{FiscalNaming, WeekYear};
    /// assert_eq!(WeekYear::iso().with_naming(FiscalNaming::Begin).naming(), FiscalNaming::Begin);
    /// ```
    #[must_use]
    pub fn naming(self) -> FiscalNaming {
        self.naming
    }

    /// What the year that ends with the rule's month in a calendar year is called.
    pub(super) fn name_of(self, ends_in: i64) -> i64 {
        let begins_earlier = self.month != 12;
        ends_in - i64::from(self.naming == FiscalNaming::Begin && begins_earlier)
    }

    /// The last day of the year with a name.
    pub(super) fn last_day_of(self, year: i64) -> i64 {
        // The calendar repeats every 400 years, a whole number of weeks, so any year is one of the first 400.
        let (cycles, year) = (year.div_euclid(400), year.rem_euclid(400) as i32);
        let month_end =
            year_month_day::day_number_of(year, self.month, year_month_day::month_length(year, self.month));
        let weekday = Weekday::of_day_number(month_end);
        let back = (weekday.days_from_monday() - self.weekday.days_from_monday()).rem_euclid(7);
        let moved = match self.ending {
            YearEnding::NearestMonthEnd if back > 3 => 7 - back,
            _ => -back,
        };
        cycles * year_month_day::DAYS_IN_CYCLE + i64::from(month_end) + moved
    }

    /// The name of the year that a day lies in.
    pub(super) fn year_of(self, day: i64) -> i64 {
        // A year of weeks named Y ends within a week of the end of its month in Y.
        let mut year =
            i64::from(year_month_day::year_month_day_of(day.clamp(-2_000_000_000, 2_000_000_000) as i32).0);
        while day > self.last_day_of(year) {
            year += 1;
        }
        while day <= self.last_day_of(year - 1) {
            year -= 1;
        }
        year
    }

    /// The first day of a year.
    pub(super) fn first_day_of(self, year: i64) -> i64 {
        self.last_day_of(year - 1) + 1
    }

    /// The first week, from 0, of each of the twelve periods.
    pub(super) fn first_weeks_of_periods(self) -> [i64; 12] {
        let weeks = self.split.weeks().map(i64::from);
        core::array::from_fn(|period| {
            let (quarter, in_quarter) = (period / 3, period % 3);
            13 * quarter as i64 + weeks[..in_quarter].iter().sum::<i64>()
        })
    }
}

/// Written as `last saturday of january, 4-4-5` or `saturday nearest end of january, 4-4-5`.
impl fmt::Display for WeekYear {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        let (weekday, month) = (self.weekday, month_name(self.month));
        let ending = match self.ending {
            YearEnding::LastInMonth => format!("last {weekday} of {month}"),
            YearEnding::NearestMonthEnd => format!("{weekday} nearest end of {month}"),
        };
        let [a, b, c] = self.split.weeks();
        let naming = match self.naming {
            FiscalNaming::End => "",
            FiscalNaming::Begin => NAMED_BY_BEGIN,
        };
        f.pad(&format!("{ending}, {a}-{b}-{c}{naming}"))
    }
}

/// Read as it is written, the split left out or not; `iso` is the rule of ISO 8601.
impl FromStr for WeekYear {
    type Err = Error;

    fn from_str(text: &str) -> Result<Self, Error> {
        let lower = text.trim().to_lowercase();
        let (lower, naming) = match lower.strip_suffix(NAMED_BY_BEGIN) {
            Some(rule) => (rule.to_owned(), FiscalNaming::Begin),
            None => (lower, FiscalNaming::End),
        };
        let (rule, split) =
            lower.split_once(',').map_or((lower.as_str(), ""), |(rule, split)| (rule, split.trim()));
        let refused = || {
            Error::new(
                ErrorKind::Unreadable,
                format!("{} is not a rule for years of weeks", quoted(text)),
                "iso, \"last saturday of january\" or \"saturday nearest end of january\", perhaps with \", 4-4-5\", \", 4-5-4\" or \", 5-4-4\"",
            )
        };
        let words: Vec<&str> = rule.split_whitespace().collect();
        let month = |name: &str| month_of_name(name.as_bytes());
        let made = match words.as_slice() {
            ["iso"] => Self::iso(),
            ["last", weekday, "of", name] => {
                Self::ending(weekday.parse()?, month(name).ok_or_else(refused)?, YearEnding::LastInMonth)?
            }
            [weekday, "nearest", "end", "of", name] => {
                Self::ending(weekday.parse()?, month(name).ok_or_else(refused)?, YearEnding::NearestMonthEnd)?
            }
            _ => return Err(refused()),
        };
        let named = |split: &WeekSplit| split.weeks().map(|weeks| weeks.to_string()).join("-");
        match WeekSplit::ALL.iter().copied().find(|known| named(known) == split) {
            Some(split) => Ok(made.with_split(split).with_naming(naming)),
            None if split.is_empty() => Ok(made.with_naming(naming)),
            None => Err(refused()),
        }
    }
}

/// For callers that hold a date.
impl WeekYear {
    /// The name of the year of weeks that a date lies in.
    ///
    /// ```
    /// use mild_ledger::WeekYear;
    /// assert_eq!(WeekYear::iso().year_containing("2021-01-03".parse()?), 2020);
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn year_containing(self, date: Date) -> i32 {
        self.name_of(self.year_of(date.day_number().into())) as i32
    }
}
