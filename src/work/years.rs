//! The years that a calendar covers.

use crate::error::{Error, ErrorKind, quoted};
use alloc::format;
use core::fmt;
use core::str::FromStr;

/// Years from a first to a last, both included.
///
/// ```
/// use mild_ledger::CalendarYears;
/// let years: CalendarYears = "2025 to 2027".parse()?;
/// assert_eq!((years.first(), years.last()), (2025, 2027));
/// assert!("2027 to 2025".parse::<CalendarYears>().is_err());
/// # Ok::<(), mild_ledger::Error>(())
/// ```
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub struct CalendarYears {
    first: i32,
    last: i32,
}

impl CalendarYears {
    /// The first year.
    ///
    /// ```
    /// assert_eq!("2026".parse::<mild_ledger::CalendarYears>()?.first(), 2026);
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn first(self) -> i32 {
        self.first
    }

    /// The last year.
    ///
    /// ```
    /// assert_eq!("2025..2027".parse::<mild_ledger::CalendarYears>()?.last(), 2027);
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn last(self) -> i32 {
        self.last
    }

    /// The years from one to another, whichever comes first.
    ///
    /// ```
    /// assert_eq!(mild_ledger::CalendarYears::of(2027, 2025).to_string(), "2025 to 2027");
    /// ```
    #[must_use]
    pub fn of(one: i32, other: i32) -> Self {
        Self { first: one.min(other), last: one.max(other) }
    }

    /// Whether a year is one of them.
    ///
    /// ```
    /// assert!(!mild_ledger::CalendarYears::of(2025, 2027).has(2028));
    /// ```
    #[must_use]
    pub fn has(self, year: i32) -> bool {
        (self.first..=self.last).contains(&year)
    }

    /// Whether all years of another span are among them.
    ///
    /// ```
    /// use mild_ledger::CalendarYears;
    /// assert!(CalendarYears::of(2025, 2027).contains(CalendarYears::of(2026, 2026)));
    /// ```
    #[must_use]
    pub fn contains(self, other: Self) -> bool {
        self.first <= other.first && other.last <= self.last
    }

    /// The years that both have, if any.
    ///
    /// ```
    /// use mild_ledger::CalendarYears;
    /// let both = CalendarYears::of(2015, 2026).overlap(CalendarYears::of(2025, 2030));
    /// assert_eq!(both, Some(CalendarYears::of(2025, 2026)));
    /// ```
    #[must_use]
    pub fn overlap(self, other: Self) -> Option<Self> {
        let (first, last) = (self.first.max(other.first), self.last.min(other.last));
        (first <= last).then_some(Self { first, last })
    }
}

impl fmt::Display for CalendarYears {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        f.pad(&match self.first == self.last {
            true => format!("{:04}", self.first),
            false => format!("{:04} to {:04}", self.first, self.last),
        })
    }
}

/// Reads `2025 to 2027`, `2025..2027` or `2026`.
impl FromStr for CalendarYears {
    type Err = Error;

    fn from_str(text: &str) -> Result<Self, Error> {
        const ALLOWED: &str = "years such as \"2025 to 2027\", or 2026";
        let (first, last) = text.split_once(" to ").or_else(|| text.split_once("..")).unwrap_or((text, text));
        let year = |text: &str| text.trim().parse::<i32>().ok().filter(|year| (1..=9_999).contains(year));
        match (year(first), year(last)) {
            (Some(first), Some(last)) if first <= last => Ok(Self { first, last }),
            (Some(first), Some(last)) => {
                let what = format!("{first} to {last} ends before it begins");
                Err(Error::new(ErrorKind::NotInOrder, what, ALLOWED))
            }
            _ => {
                let what = format!("{} is not a span of years", quoted(text));
                Err(Error::new(ErrorKind::Unreadable, what, ALLOWED))
            }
        }
    }
}
