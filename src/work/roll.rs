//! Rolling a date to a working day.

use super::calendar::{WorkCalendar, shown};
use crate::choice::chosen_by_word;
use crate::date::{Date, year_month_day};
use crate::error::Error;
use crate::shift::{Nearby, WorkingMove};
use alloc::format;

/// What becomes of a date that is not a working day, by the conventions of the trade (2006 ISDA Definitions, section 4.12).
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
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash, Default)]
#[non_exhaustive]
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
    pub const ALL: &'static [Self] = &[
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

chosen_by_word!(Roll, "a way of rolling");

impl WorkCalendar {
    /// A date rolled to a working day; a working day stays.
    ///
    /// # Errors
    /// [`ErrorKind::NotCovered`](crate::ErrorKind::NotCovered) where the date, or a day on the way, lies outside the years that the calendar covers,
    /// [`ErrorKind::NoWorkingDay`](crate::ErrorKind::NoWorkingDay) where it has no working day at all. [`Roll::Unadjusted`] asks the calendar nothing.
    ///
    /// ```
    /// use mild_ledger::{RestDays, Roll, WorkCalendar, Weekday};
    /// let never = WorkCalendar::rest_days_only(RestDays::of(Weekday::ALL));
    /// assert!(never.roll("2026-10-31".parse()?, Roll::Following).is_err());
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    pub fn roll(&self, date: Date, roll: Roll) -> Result<Date, Error> {
        let day = self.rolled_day(date.day_number().into(), roll)?;
        Date::in_range(day).ok_or_else(|| self.not_covered(format!("the working day next to {date}")))
    }

    /// The same for a day that may lie outside the range of dates where rest days alone are known. A day on one side that
    /// is not known decides nothing where whatever it is, the other side is taken.
    pub(super) fn rolled_day(&self, day: i64, roll: Roll) -> Result<i64, Error> {
        if roll == Roll::Unadjusted || self.is_working_day(day)? {
            return Ok(day);
        }
        let not_covered = || self.no_day(shown(day), 1);
        let (next, last) = (
            self.day_moved_by(day, WorkingMove { from: Nearby::Before, number: 1 }),
            self.day_moved_by(day, WorkingMove { from: Nearby::After, number: -1 }),
        );
        if next.is_none() && last.is_none() {
            return Err(not_covered());
        }
        // Coverage ends with a year, so what lies beyond it lies in another month too.
        let same_month = |found: &i64| month_of(*found) == month_of(day);
        let found = match roll {
            Roll::Unadjusted => Some(day),
            Roll::Following => next,
            Roll::Preceding => last,
            Roll::ModifiedFollowing => next.filter(same_month).or(last),
            Roll::ModifiedPreceding => last.filter(same_month).or(next),
            Roll::Nearest => {
                // A working day that is not known is at least as far away as the first day that is not covered.
                let (first_known, last_known) = self.known_days();
                let ahead = next.map_or(last_known.saturating_add(1), |next| next) - day;
                let behind = day - last.map_or(first_known.saturating_sub(1), |last| last);
                if ahead <= behind { next } else { last }
            }
        };
        found.ok_or_else(not_covered)
    }
}

fn month_of(day: i64) -> (i32, u8) {
    let (year, month, _) =
        year_month_day::year_month_day_of(day.clamp(i32::MIN.into(), i32::MAX.into()) as i32);
    (year, month)
}
