//! The days of the week on which no one works.

use crate::date::{Date, Weekday};
use crate::error::{Error, ErrorKind, quoted};
use alloc::borrow::ToOwned;
use alloc::format;
use alloc::string::{String, ToString};
use alloc::vec::Vec;
use core::fmt;
use core::str::FromStr;

/// A set of weekdays, from none to all seven; Saturday and Sunday unless another is named.
///
/// ```
/// use mild_ledger::{RestDays, Weekday};
///
/// assert_eq!(RestDays::default().to_string(), "Saturday, Sunday");
/// let yard: RestDays = "sunday, monday".parse()?;
/// assert!(yard.contains(Weekday::Monday) && !yard.contains(Weekday::Saturday));
/// assert_eq!("none".parse::<RestDays>()?.count(), 0);
/// # Ok::<(), mild_ledger::Error>(())
/// ```
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub struct RestDays {
    /// A bit a weekday, Monday the lowest.
    bits: u8,
}

impl RestDays {
    /// No rest day at all.
    pub const NONE: Self = Self { bits: 0 };

    /// The set of these weekdays.
    ///
    /// ```
    /// use mild_ledger::{RestDays, Weekday};
    /// assert_eq!(RestDays::of([Weekday::Sunday, Weekday::Sunday]).count(), 1);
    /// ```
    #[must_use]
    pub fn of(days: impl IntoIterator<Item = Weekday>) -> Self {
        let bits = days.into_iter().fold(0, |bits, day| bits | 1 << day.days_from_monday());
        Self { bits }
    }

    /// Whether a weekday is one of them.
    ///
    /// ```
    /// use mild_ledger::{RestDays, Weekday};
    /// assert!(RestDays::default().contains(Weekday::Sunday));
    /// ```
    #[must_use]
    pub fn contains(self, day: Weekday) -> bool {
        self.bits >> day.days_from_monday() & 1 == 1
    }

    /// How many there are in a week, 0 to 7.
    ///
    /// ```
    /// assert_eq!(mild_ledger::RestDays::NONE.count(), 0);
    /// ```
    #[must_use]
    pub fn count(self) -> u32 {
        self.bits.count_ones()
    }

    /// The weekdays in their order, Monday first.
    ///
    /// ```
    /// use mild_ledger::{RestDays, Weekday};
    /// assert_eq!(RestDays::default().days().collect::<Vec<_>>(), [Weekday::Saturday, Weekday::Sunday]);
    /// ```
    pub fn days(self) -> impl Iterator<Item = Weekday> {
        Weekday::ALL.into_iter().filter(move |day| self.contains(*day))
    }

    pub(super) fn is_on(self, date: Date) -> bool {
        self.contains(date.weekday())
    }
}

impl Default for RestDays {
    fn default() -> Self {
        Self::of([Weekday::Saturday, Weekday::Sunday])
    }
}

/// Writes the weekdays between commas, or `none`.
impl fmt::Display for RestDays {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        let words: Vec<String> = self.days().map(|day| day.to_string()).collect();
        f.pad(&if words.is_empty() { "none".to_owned() } else { words.join(", ") })
    }
}

/// Reads weekdays between commas, in any case, or `none`.
impl FromStr for RestDays {
    type Err = Error;

    fn from_str(text: &str) -> Result<Self, Error> {
        if text.trim().eq_ignore_ascii_case("none") {
            return Ok(Self::NONE);
        }
        let days: Result<Vec<Weekday>, Error> = text.split(',').map(|word| word.trim().parse()).collect();
        days.map(Self::of).map_err(|error| {
            let what = format!("{} are not rest days: {}", quoted(text), error.what());
            Error::new(ErrorKind::Unreadable, what, "weekdays such as \"saturday, sunday\", or \"none\"")
        })
    }
}

impl FromIterator<Weekday> for RestDays {
    fn from_iter<I: IntoIterator<Item = Weekday>>(days: I) -> Self {
        Self::of(days)
    }
}
