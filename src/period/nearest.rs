//! The start of a period that a date lies nearest to.

use super::Period;
use crate::choice::chosen_by_word;
use crate::date::Date;
use crate::error::{Error, ErrorKind};
use crate::shift::MonthEnd;
use alloc::borrow::ToOwned;
use alloc::format;
use alloc::string::String;

/// What "nearest" means for the start of a period.
///
/// ```
/// use mild_ledger::{Nearness, PeriodRule};
///
/// // 14 days after 1 February and 14 before 1 March: a tie goes up by days, and the 15th is before the middle.
/// let date = "2026-02-15".parse()?;
/// let month = PeriodRule::Month.containing(date);
/// assert_eq!(month.nearest_start(date, Nearness::ByDays)?.to_string(), "2026-03-01");
/// assert_eq!(month.nearest_start(date, Nearness::ByMiddle)?.to_string(), "2026-02-01");
/// # Ok::<(), mild_ledger::Error>(())
/// ```
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash)]
#[non_exhaustive]
pub enum Nearness {
    /// The start that is fewer days away; a tie goes to the later one.
    ByDays,
    /// The later one from the middle on: the 16th of a month, the 16th of a quarter's second month, the fourth
    /// month of a half-year, the seventh of a year. Periods of weeks go by days.
    ByMiddle,
}

impl Nearness {
    /// Both.
    pub const ALL: &'static [Self] = &[Self::ByDays, Self::ByMiddle];

    /// The word for it in plans.
    ///
    /// ```
    /// assert_eq!(mild_ledger::Nearness::ByDays.word(), "by days");
    /// ```
    #[must_use]
    pub fn word(self) -> &'static str {
        match self {
            Self::ByDays => "by days",
            Self::ByMiddle => "by middle",
        }
    }
}

chosen_by_word!(Nearness, "a way of being nearest");

impl Period {
    /// The start, of this period or of the next, that a date in it lies nearest to.
    ///
    /// # Errors
    /// [`ErrorKind::OutOfRange`] for a date outside the period, and for a start outside the years 0001 to 9999.
    ///
    /// ```
    /// use mild_ledger::{Nearness, PeriodRule};
    /// let date = "2026-07-01".parse()?;
    /// let year = PeriodRule::Year.containing(date);
    /// assert_eq!(year.nearest_start(date, Nearness::ByMiddle)?.to_string(), "2027-01-01");
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    pub fn nearest_start(&self, date: Date, nearness: Nearness) -> Result<Date, Error> {
        let out = |what: String| Error::new(ErrorKind::OutOfRange, what, "a date in the period");
        if !self.contains(date) {
            return Err(out(format!("{date} does not lie in {}", self.label())));
        }
        let (first, last) = self.bounds();
        let day = i64::from(date.day_number());
        let middle = match (nearness, self.rule().months()) {
            (Nearness::ByMiddle, Some(months)) => middle_of(first, months),
            // As many days to the next start as from the first, or fewer.
            _ => first + (last + 1 - first + 1) / 2,
        };
        let start = if day >= middle { last + 1 } else { first };
        Date::in_range(start)
            .ok_or_else(|| out("the nearest start lies outside the years 0001 to 9999".to_owned()))
    }
}

/// Half of the months on, and fifteen days more where they cannot be halved.
fn middle_of(first: i64, months: i64) -> i64 {
    let start = first.clamp(i64::from(i32::MIN), i64::from(i32::MAX)) as i32;
    let half = MonthEnd::Clamp.day_number_after_months(start, months / 2).unwrap_or(first);
    half + if months % 2 == 1 { 15 } else { 0 }
}
