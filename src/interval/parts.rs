//! Years, months and days of an interval.

use crate::shift::Unit;
use alloc::format;
use alloc::string::String;
use alloc::vec::Vec;
use core::fmt;

/// An interval as complete years, months left over and days left over.
///
/// For a start not after the end, the start moved once by 12 × years + months (a day that the month lacks
/// becoming its last), then by days, is the end. All three are negative or zero where the end lies before the
/// start. `Display` writes a sentence's worth: zero parts left out, `0 days` for none.
///
/// ```
/// use mild_ledger::Interval;
///
/// let parts = Interval::between("2024-01-31".parse()?, "2024-03-01".parse()?).parts();
/// assert_eq!((parts.years(), parts.months(), parts.days()), (0, 1, 1));
/// assert_eq!(parts.to_string(), "1 month and 1 day");
/// # Ok::<(), mild_ledger::Error>(())
/// ```
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub struct Parts {
    years: i32,
    months: i32,
    days: i32,
}

impl Parts {
    /// No time at all.
    pub(crate) const NONE: Self = Self { years: 0, months: 0, days: 0 };

    /// A number of months, of which twelve are a year, and days.
    ///
    /// ```
    /// use mild_ledger::Parts;
    /// assert_eq!(Parts::of_months(13, 2).to_string(), "1 year, 1 month and 2 days");
    /// assert_eq!(Parts::of_months(-13, -2).years(), -1);
    /// ```
    #[must_use]
    pub fn of_months(months: i32, days: i32) -> Self {
        Self { years: months / 12, months: months % 12, days }
    }

    pub(crate) fn new(years: i32, months: i32, days: i32) -> Self {
        Self { years, months, days }
    }

    /// For loops over columns.
    #[inline(always)]
    pub(crate) fn of_narrow(years: i16, months: i8, days: i8) -> Self {
        Self { years: years.into(), months: months.into(), days: days.into() }
    }

    /// Complete years.
    ///
    /// ```
    /// # use mild_ledger::{Date, Interval};
    /// assert_eq!(Interval::between(Date::MIN, Date::MAX).parts().years(), 9998);
    /// ```
    #[must_use]
    pub fn years(self) -> i32 {
        self.years
    }

    /// Complete months beyond the years, −11 to 11.
    ///
    /// ```
    /// # use mild_ledger::{Date, Interval};
    /// assert_eq!(Interval::between(Date::MIN, Date::MAX).parts().months(), 11);
    /// ```
    #[must_use]
    pub fn months(self) -> i32 {
        self.months
    }

    /// Days beyond the months, −30 to 30.
    ///
    /// ```
    /// # use mild_ledger::{Date, Interval};
    /// assert_eq!(Interval::between(Date::MIN, Date::MAX).parts().days(), 30);
    /// ```
    #[must_use]
    pub fn days(self) -> i32 {
        self.days
    }
}

impl Parts {
    /// The parts that are not zero, in words.
    pub(super) fn amounts(self) -> Vec<String> {
        let named = [(self.years, Unit::Year), (self.months, Unit::Month), (self.days, Unit::Day)];
        named
            .into_iter()
            .filter(|(amount, _)| *amount != 0)
            .map(|(amount, unit)| format!("{amount} {}", unit.word_for(i64::from(amount))))
            .collect()
    }
}

impl fmt::Display for Parts {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        match self.amounts().as_slice() {
            [] => f.pad("0 days"),
            [only] => f.pad(only),
            [before @ .., last] => f.pad(&format!("{} and {last}", before.join(", "))),
        }
    }
}
