//! Years that begin on another day than 1 January.

use crate::date::month_names::{month_name, month_of_name};
use crate::error::{Error, ErrorKind, quoted};
use alloc::format;
use alloc::vec::Vec;
use core::fmt;
use core::str::FromStr;

/// A fiscal year of twelve months: the day it begins on, and the calendar year it is named by.
///
/// ```
/// use mild_ledger::{FiscalNaming, FiscalYear, PeriodRule};
///
/// let october = FiscalYear::starting(10, 1)?;
/// let quarter = PeriodRule::FiscalQuarter(october).containing("2026-09-30".parse()?);
/// assert_eq!((quarter.year(), quarter.number()), (2026, 4));
/// let begun = october.with_naming(FiscalNaming::Begin);
/// assert_eq!(begun.to_string(), "1 October, named by begin");
/// assert_eq!("1 October, named by begin".parse(), Ok(begun));
/// assert_eq!(PeriodRule::FiscalYear(begun).containing("2026-09-30".parse()?).year(), 2025);
/// # Ok::<(), mild_ledger::Error>(())
/// ```
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash)]
pub struct FiscalYear {
    month: u8,
    day: u8,
    naming: FiscalNaming,
}

/// Which calendar year a fiscal year is named by.
///
/// ```
/// assert_eq!("begin".parse(), Ok(mild_ledger::FiscalNaming::Begin));
/// ```
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash, Default)]
pub enum FiscalNaming {
    /// The year its last day lies in. The default.
    #[default]
    End,
    /// The year its first day lies in.
    Begin,
}

impl FiscalYear {
    /// Years that begin on this day (1 to 28) of this month (1 to 12), named by the year they end in.
    ///
    /// # Errors
    /// [`ErrorKind::OutOfRange`] for another month or day.
    ///
    /// ```
    /// use mild_ledger::FiscalYear;
    /// assert!(FiscalYear::starting(4, 6).is_ok());
    /// assert!(FiscalYear::starting(13, 1).is_err() && FiscalYear::starting(1, 29).is_err());
    /// ```
    pub fn starting(month: u8, day: u8) -> Result<Self, Error> {
        if !(1..=12).contains(&month) || !(1..=28).contains(&day) {
            return Err(Error::new(
                ErrorKind::OutOfRange,
                format!("a fiscal year cannot begin on day {day} of month {month}"),
                "month 1 to 12, and a day 1 to 28 that every month has",
            ));
        }
        Ok(Self { month, day, naming: FiscalNaming::End })
    }

    /// Fiscal years that begin on the first of a month, or on a day of it, as a user writes it: `april`, `apr-6`, `6 april`,
    /// `04-06`, `4`.
    ///
    /// # Errors
    /// [`ErrorKind::Unreadable`] for another text, and those of [`starting`](Self::starting).
    ///
    /// ```
    /// use mild_ledger::FiscalYear;
    /// assert_eq!(FiscalYear::starting_on("apr-6")?, FiscalYear::starting(4, 6)?);
    /// assert_eq!(FiscalYear::starting_on("October")?, FiscalYear::starting(10, 1)?);
    /// assert!(FiscalYear::starting_on("soon").is_err());
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    pub fn starting_on(text: &str) -> Result<Self, Error> {
        let refused = || {
            let what = format!("{} is not a month, nor a day of one", quoted(text));
            Error::new(ErrorKind::Unreadable, what, "such as april, apr-6, 04-06 or 4")
        };
        let month = |part: &str| month_of_name(part.as_bytes()).or_else(|| part.parse().ok());
        let parts: Vec<&str> = text.split(['-', ' ']).filter(|part| !part.is_empty()).collect();
        let (month, day) = match parts.as_slice() {
            [only] => (month(only), Some(1)),
            // A day may be before a month's name, where it cannot be taken for one.
            [day, name] if month_of_name(name.as_bytes()).is_some() => (month(name), day.parse().ok()),
            [first, day] => (month(first), day.parse().ok()),
            _ => (None, None),
        };
        let (month, day) = month.zip(day).ok_or_else(refused)?;
        Self::starting(month, day)
    }

    /// The same years under another naming.
    ///
    /// ```
    /// use mild_ledger::{FiscalNaming, FiscalYear};
    /// assert_eq!(FiscalYear::starting(4, 1)?.with_naming(FiscalNaming::Begin).naming(), FiscalNaming::Begin);
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn with_naming(self, naming: FiscalNaming) -> Self {
        Self { naming, ..self }
    }

    /// The month it begins in.
    ///
    /// ```
    /// assert_eq!(mild_ledger::FiscalYear::starting(4, 6)?.first_month(), 4);
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn first_month(self) -> u8 {
        self.month
    }

    /// The day of that month it begins on.
    ///
    /// ```
    /// assert_eq!(mild_ledger::FiscalYear::starting(4, 6)?.first_day(), 6);
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn first_day(self) -> u8 {
        self.day
    }

    /// How it is named.
    ///
    /// ```
    /// use mild_ledger::{FiscalNaming, FiscalYear};
    /// assert_eq!(FiscalYear::starting(4, 6)?.naming(), FiscalNaming::End);
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn naming(self) -> FiscalNaming {
        self.naming
    }

    /// The calendar year that the one beginning in this year is named by.
    pub(super) fn name_of(self, begins_in: i64) -> i64 {
        let ends_next_year = (self.month, self.day) != (1, 1);
        begins_in + i64::from(self.naming == FiscalNaming::End && ends_next_year)
    }
}

/// What comes after a rule whose years are named by the year they begin in.
pub(super) const NAMED_BY_BEGIN: &str = ", named by begin";

/// Written as `6 April`, with `, named by begin` after it where that is how its years are named.
impl fmt::Display for FiscalYear {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        let naming = if self.naming == FiscalNaming::Begin { NAMED_BY_BEGIN } else { "" };
        f.pad(&format!("{} {}{naming}", self.day, month_name(self.month)))
    }
}

/// Read as it is written, and as [`starting_on`](FiscalYear::starting_on) reads it.
impl FromStr for FiscalYear {
    type Err = Error;

    fn from_str(text: &str) -> Result<Self, Error> {
        match text.strip_suffix(NAMED_BY_BEGIN) {
            Some(day) => Self::starting_on(day).map(|year| year.with_naming(FiscalNaming::Begin)),
            None => Self::starting_on(text),
        }
    }
}

/// The calendar year: from 1 January.
impl Default for FiscalYear {
    fn default() -> Self {
        Self { month: 1, day: 1, naming: FiscalNaming::End }
    }
}

impl FiscalNaming {
    /// The word for it in plans and options.
    ///
    /// ```
    /// assert_eq!(mild_ledger::FiscalNaming::End.word(), "end");
    /// ```
    #[must_use]
    pub fn word(self) -> &'static str {
        match self {
            Self::End => "end",
            Self::Begin => "begin",
        }
    }
}

impl fmt::Display for FiscalNaming {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        f.pad(self.word())
    }
}

impl FromStr for FiscalNaming {
    type Err = Error;

    fn from_str(text: &str) -> Result<Self, Error> {
        [Self::End, Self::Begin].into_iter().find(|naming| naming.word() == text).ok_or_else(|| {
            let what = format!("{} is not a way of naming a fiscal year", quoted(text));
            Error::new(ErrorKind::Unreadable, what, "end or begin")
        })
    }
}
