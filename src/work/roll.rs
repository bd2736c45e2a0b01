//! Rolling a date to a working day.

use super::calendar::WorkCalendar;
use crate::date::{Date, quoted};
use crate::error::{Error, ErrorKind};
use crate::period::Month;
use std::fmt;
use std::str::FromStr;

/// What becomes of a date that is no working day, by the conventions of the trade (2006 ISDA Definitions, section 4.12).
///
/// ```
/// use mild_ledger::{Roll, WorkCalendar};
///
/// let week = WorkCalendar::rest_days_only(Default::default());
/// let saturday = "2026-10-31".parse()?;
/// let rolled = |roll| week.roll(saturday, roll).map(|date| date.to_string());
/// assert_eq!(rolled(Roll::Following)?, "2026-11-02");
/// assert_eq!(rolled(Roll::ModifiedFollowing)?, "2026-10-30");
/// assert_eq!(rolled(Roll::Nearest)?, "2026-10-30");
/// # Ok::<(), mild_ledger::Error>(())
/// ```
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Default)]
pub enum Roll {
    /// It stays where it is. The default.
    #[default]
    Unadjusted,
    /// The next working day.
    Following,
    /// The last working day before.
    Preceding,
    /// The next working day, or the last one before where the next lies in another month.
    ModifiedFollowing,
    /// The last working day before, or the next one where the last lies in another month.
    ModifiedPreceding,
    /// Whichever is fewer days away; a tie goes forward.
    Nearest,
}

impl Roll {
    /// All six.
    pub const ALL: [Self; 6] = [
        Self::Unadjusted,
        Self::Following,
        Self::Preceding,
        Self::ModifiedFollowing,
        Self::ModifiedPreceding,
        Self::Nearest,
    ];

    /// The word for it in plans, options and output.
    ///
    /// ```
    /// assert_eq!(mild_ledger::Roll::ModifiedFollowing.word(), "modified-following");
    /// ```
    #[must_use]
    pub fn word(self) -> &'static str {
        match self {
            Self::Unadjusted => "unadjusted",
            Self::Following => "following",
            Self::Preceding => "preceding",
            Self::ModifiedFollowing => "modified-following",
            Self::ModifiedPreceding => "modified-preceding",
            Self::Nearest => "nearest",
        }
    }
}

impl WorkCalendar {
    /// A date rolled to a working day; a working day stays.
    ///
    /// # Errors
    /// [`ErrorKind::NotCovered`] where the date, or a day on the way, lies outside the years that the calendar covers,
    /// [`ErrorKind::NoWorkingDay`] where it has no working day at all. [`Roll::Unadjusted`] asks the calendar nothing.
    ///
    /// ```
    /// use mild_ledger::{RestDays, Roll, WorkCalendar, Weekday};
    /// let never = WorkCalendar::rest_days_only(RestDays::of(Weekday::ALL));
    /// assert!(never.roll("2026-10-31".parse()?, Roll::Following).is_err());
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    pub fn roll(&self, date: Date, roll: Roll) -> Result<Date, Error> {
        if roll == Roll::Unadjusted || self.kind_of(date)?.is_working() {
            return Ok(date);
        }
        if !self.has_working_days() {
            let what = format!("the calendar \"{}\" has no working day", self.name());
            return Err(Error::new(ErrorKind::NoWorkingDay, what, "a calendar with working days"));
        }
        let other_month = |found: &Date| Month::of(*found) != Month::of(date);
        let (next, last) = (|| self.next_to(date, 1), || self.next_to(date, -1));
        match roll {
            Roll::Unadjusted => Ok(date),
            Roll::Following => next(),
            Roll::Preceding => last(),
            Roll::ModifiedFollowing => {
                next().and_then(|found| if other_month(&found) { last() } else { Ok(found) })
            }
            Roll::ModifiedPreceding => {
                last().and_then(|found| if other_month(&found) { next() } else { Ok(found) })
            }
            Roll::Nearest => {
                let (next, last) = (next()?, last()?);
                let away = |found: Date| (i64::from(found.day_number()) - i64::from(date.day_number())).abs();
                Ok(if away(next) <= away(last) { next } else { last })
            }
        }
    }

    /// The working day nearest on one side of a date that is none.
    fn next_to(&self, date: Date, side: i32) -> Result<Date, Error> {
        self.moved_by(date.day_number(), side)
            .ok_or_else(|| self.not_covered(format!("the working day beside {date}")))
    }
}

impl fmt::Display for Roll {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        f.pad(self.word())
    }
}

impl FromStr for Roll {
    type Err = Error;

    fn from_str(text: &str) -> Result<Self, Error> {
        Self::ALL.into_iter().find(|roll| roll.word() == text).ok_or_else(|| {
            let words: Vec<&str> = Self::ALL.iter().map(|roll| roll.word()).collect();
            Error::new(
                ErrorKind::Unreadable,
                format!("{} is no way of rolling", quoted(text)),
                words.join(", "),
            )
        })
    }
}
