//! What becomes of a day of the month that the month arrived at does not have.

use super::Miss;
use crate::choice::chosen_by_word;
use crate::date::year_month_day;

/// The rule for month ends when a date is moved by months.
///
/// ```
/// use mild_ledger::{MonthEnd, Shift};
///
/// let month = Shift::months(1);
/// let january_31 = "2026-01-31".parse()?;
/// assert_eq!(month.with_month_end(MonthEnd::Clamp).apply(january_31)?.to_string(), "2026-02-28");
/// assert_eq!(month.with_month_end(MonthEnd::NextStart).apply(january_31)?.to_string(), "2026-03-01");
/// assert!(month.with_month_end(MonthEnd::Refuse).apply(january_31).is_err());
/// let february_28 = "2026-02-28".parse()?;
/// assert_eq!(month.with_month_end(MonthEnd::Clamp).apply(february_28)?.to_string(), "2026-03-28");
/// assert_eq!(month.with_month_end(MonthEnd::Keep).apply(february_28)?.to_string(), "2026-03-31");
/// # Ok::<(), mild_ledger::Error>(())
/// ```
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash, Default)]
pub enum MonthEnd {
    /// The same day number, or the month's last day if it has none. The default.
    #[default]
    Clamp,
    /// As clamp, but the last day of a month always moves to the last day of a month.
    Keep,
    /// A day that does not exist becomes the first of the following month.
    NextStart,
    /// A day that does not exist is an error.
    Refuse,
}

impl MonthEnd {
    /// All four rules.
    pub const ALL: [Self; 4] = [Self::Clamp, Self::Keep, Self::NextStart, Self::Refuse];

    /// The word for it in plans and options.
    ///
    /// ```
    /// assert_eq!(mild_ledger::MonthEnd::NextStart.word(), "next-start");
    /// ```
    #[must_use]
    pub fn word(self) -> &'static str {
        match self {
            Self::Clamp => "clamp",
            Self::Keep => "keep",
            Self::NextStart => "next-start",
            Self::Refuse => "refuse",
        }
    }

    /// The day number after a number of months; it may lie outside the range of dates.
    pub(crate) fn day_number_after_months(self, day_number: i32, months: i64) -> Result<i64, Miss> {
        let (year, month, day) = year_month_day::year_month_day_of(day_number);
        let (to_year, to_month) = year_month_day::month_index(year, month)
            .checked_add(months)
            .map(year_month_day::month_of_index)
            .ok_or(Miss::OutOfRange)?;
        // The calendar repeats every 400 years, so a year however far off is one of the first 400.
        let (cycles, year_of_cycle) = (to_year.div_euclid(400), to_year.rem_euclid(400) as i32);
        let days_in_cycles = cycles.checked_mul(year_month_day::DAYS_IN_CYCLE).ok_or(Miss::OutOfRange)?;
        let from = (year.rem_euclid(400), u32::from(month), u32::from(day));
        match self.day_number_in(year_of_cycle, u32::from(to_month), from) {
            (in_cycle, true) => days_in_cycles.checked_add(i64::from(in_cycle)).ok_or(Miss::OutOfRange),
            (_, false) => Err(Miss::NoSuchDay { year: to_year, month: to_month, day }),
        }
    }

    /// The day number after at most 36,000 months and some days, and whether there is one, with no branch that
    /// depends on the day; it may lie outside the range of dates.
    #[inline(always)]
    pub(crate) fn moved_lane(self, day_number: i32, months: i32, days: i32) -> (i32, bool) {
        let (year, month, day) = year_month_day::year_month_day_lane(day_number);
        let (to_year, to_month) = year_month_day::month_on_lane(year, month, months);
        let (moved, exists) = self.day_number_in(to_year, to_month, (year, month, day));
        (moved + days, exists)
    }

    /// The day number in the month arrived at, by this rule, and whether there is one.
    #[inline(always)]
    fn day_number_in(self, to_year: i32, to_month: u32, (year, month, day): (i32, u32, u32)) -> (i32, bool) {
        let length = year_month_day::month_length_lane(to_year, to_month);
        let (on, exists) = match self {
            Self::Clamp => (day.min(length), true),
            Self::Keep => {
                let is_last = day == year_month_day::month_length_lane(year, month);
                (if is_last { length } else { day.min(length) }, true)
            }
            // The day after the last is the first of the next month.
            Self::NextStart => (day.min(length + 1), true),
            Self::Refuse => (day, day <= length),
        };
        (year_month_day::day_number_lane(to_year, to_month, 1) + on as i32 - 1, exists)
    }
}

chosen_by_word!(MonthEnd, "a rule for month ends");
