//! Moving a column of dates.

use super::DateColumn;
use super::lanes::{days_from_days, moved_days};
use crate::date::Date;
use crate::shift::{MonthEnd, Shift};

/// Every date of a column moved by one amount: as many rows, empty where the input is, and where
/// [`Shift::apply`] gives an error, which says why when called for that row.
///
/// ```
/// use mild_ledger::column::{DateColumn, shifted};
/// use mild_ledger::{Date, Shift};
///
/// let dates: DateColumn = [Some("2026-01-31".parse()?), Some(Date::MAX), None].into_iter().collect();
/// let moved = shifted(&dates, &Shift::months(1));
/// assert_eq!(moved.get(0), Some("2026-02-28".parse()?));
/// assert_eq!((moved.get(1), moved.get(2), moved.len()), (None, None, 3));
/// assert!(Shift::months(1).apply(Date::MAX).is_err());
/// # Ok::<(), mild_ledger::Error>(())
/// ```
#[must_use]
pub fn shifted(dates: &DateColumn, shift: &Shift) -> DateColumn {
    let mut moved = DateColumn::new();
    shifted_into(dates, shift, &mut moved);
    moved
}

/// [`shifted`] into a column that is there, whose memory is used again.
///
/// ```
/// use mild_ledger::column::{DateColumn, shifted_into};
/// use mild_ledger::{Date, Shift};
/// let dates: DateColumn = [Some(Date::MIN)].into_iter().collect();
/// let mut moved = DateColumn::new();
/// shifted_into(&dates, &Shift::days(1), &mut moved);
/// assert_eq!(moved.get(0), Some("0001-01-02".parse()?));
/// # Ok::<(), mild_ledger::Error>(())
/// ```
pub fn shifted_into(dates: &DateColumn, shift: &Shift, moved: &mut DateColumn) {
    let mut words = moved.present.take_words();
    words.resize(dates.len().div_ceil(64), 0);
    moved.days.resize(dates.len(), 0);
    let (from, out, words_out) = (dates.day_numbers(), moved.days.as_mut_slice(), words.as_mut_slice());
    // Each rule gets a loop of its own, in which it is known.
    macro_rules! moved_under {
        ($rule:expr, $months:expr, $days:expr) => {
            moved_days(
                from,
                out,
                words_out,
                #[inline(always)]
                |day| $rule.moved_lane(day, $months, $days).0,
            )
        };
    }
    match (shift.near(), shift.rule()) {
        (Some((0, days)), _) => moved_days(
            from,
            out,
            words_out,
            #[inline(always)]
            |day| day + days,
        ),
        (Some((months, days)), MonthEnd::Clamp) => moved_under!(MonthEnd::Clamp, months, days),
        (Some((months, days)), MonthEnd::Keep) => moved_under!(MonthEnd::Keep, months, days),
        (Some((months, days)), MonthEnd::NextStart) => moved_under!(MonthEnd::NextStart, months, days),
        (Some((months, days)), MonthEnd::Refuse) => days_from_days(
            from,
            out,
            words_out,
            #[inline(always)]
            |day| MonthEnd::Refuse.moved_lane(day, months, days),
        ),
        // So far that most results leave the calendar: one by one.
        (None, _) => days_from_days(from, out, words_out, |day| {
            shift.moved(Date::of_checked_day(day)).map_or((0, false), |date| (date.day_number(), true))
        }),
    }
    moved.present = dates.mask().and_words(words);
}
