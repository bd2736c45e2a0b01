//! The arithmetic of counting, on day numbers of 32 bits with no branch that depends on them, so that loops over
//! columns are turned into vector instructions. The calls for one value go through it too.

use crate::date::year_month_day::{month_length_lane, month_on_lane, year_month_day_lane};
use crate::shift::MonthEnd;

/// The earlier and the later day, the later one so many on, and −1 where they were swapped.
#[inline(always)]
pub(crate) fn in_order(start: i32, end: i32, through: i32) -> (i32, i32, i32) {
    (start.min(end), start.max(end) + through, if start <= end { 1 } else { -1 })
}

/// Months by which `first` can be moved under the rule without passing `last`, which is not before it.
#[inline(always)]
pub(crate) fn complete_months(rule: MonthEnd, first: i32, last: i32) -> i32 {
    let ((from_year, from_month, from_day), (to_year, to_month, to_day)) =
        (year_month_day_lane(first), year_month_day_lane(last));
    let months = (to_year - from_year) * 12 + to_month as i32 - from_month as i32;
    let length = month_length_lane(to_year, to_month);
    let reached = match rule {
        MonthEnd::Clamp => to_day >= from_day.min(length),
        MonthEnd::Keep => {
            let is_last = from_day == month_length_lane(from_year, from_month);
            to_day >= if is_last { length } else { from_day.min(length) }
        }
        // A day that the month lacks comes on the first of the next one.
        MonthEnd::NextStart | MonthEnd::Refuse => to_day >= from_day,
    };
    months - i32::from(!reached)
}

/// Complete months, and the days from the first day moved by that many to the last.
#[inline(always)]
pub(crate) fn months_and_days(rule: MonthEnd, first: i32, last: i32) -> (i32, i32) {
    let ((from_year, from_month, from_day), (to_year, to_month, to_day)) =
        (year_month_day_lane(first), year_month_day_lane(last));
    let months = (to_year - from_year) * 12 + to_month as i32 - from_month as i32;
    let length = month_length_lane(to_year, to_month);
    let (before_year, before_month) = month_on_lane(to_year, to_month, -1);
    let length_before = month_length_lane(before_year, before_month);
    let is_last = rule == MonthEnd::Keep && from_day == month_length_lane(from_year, from_month);
    // The day of the last month, and of the one before it, that the first day moved there would have.
    let day_in = |length: u32| if is_last { length } else { from_day.min(length) };
    let (reached, since_before) = match rule {
        MonthEnd::Clamp | MonthEnd::Keep => {
            (to_day >= day_in(length), to_day + length_before - day_in(length_before))
        }
        // A day that the month before lacks came on the first of this one.
        MonthEnd::NextStart | MonthEnd::Refuse => {
            let lacks = from_day > length_before;
            (to_day >= from_day, if lacks { to_day - 1 } else { to_day + length_before - from_day })
        }
    };
    // Where the last month has been reached, its own day is at most the last day; wrapping where it has not.
    let since = to_day.wrapping_sub(if rule == MonthEnd::NextStart { from_day } else { day_in(length) });
    let days = if reached { since } else { since_before };
    (months - i32::from(!reached), days as i32)
}

/// The number of the period of a number of months that a day lies in, counted from year 0.
#[inline(always)]
pub(crate) fn period_of_months<const MONTHS: i32>(day_number: i32) -> i32 {
    let (year, month, _) = year_month_day_lane(day_number);
    (year * 12 + month as i32 - 1) / MONTHS
}

/// The number of the week that a day lies in, for weeks that start a number of days after Monday.
#[inline(always)]
pub(crate) fn week_of(day_number: i32, days_from_monday: i32) -> i32 {
    // 1970-01-01 is a Thursday; every day of the calendar is brought above zero by whole weeks.
    const WEEKS_UP: i32 = 110_000;
    ((day_number + 3 - days_from_monday + 7 * WEEKS_UP) as u32 / 7) as i32 - WEEKS_UP
}
