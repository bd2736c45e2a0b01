//! The first and the last days of the periods that a column's dates lie in.

use super::DateColumn;
use super::lanes::{days_from_days, from_days, moved_days};
use crate::date::Date;
use crate::date::civil::{civil_lane, day_number_lane, month_length_lane};
use crate::interval::lanes::week_of;
use crate::period::PeriodRule;

/// The first day of the period that each date lies in: as many rows, empty where the input is, and where the day lies
/// before 0001-01-01.
///
/// ```
/// use mild_ledger::{PeriodRule, column::{DateColumn, first_days}};
/// let dates: DateColumn = [Some("2026-09-30".parse()?), None].into_iter().collect();
/// let quarters = first_days(&dates, PeriodRule::Quarter);
/// assert_eq!((quarters.get(0), quarters.get(1)), (Some("2026-07-01".parse()?), None));
/// # Ok::<(), mild_ledger::Error>(())
/// ```
#[must_use]
pub fn first_days(dates: &DateColumn, rule: PeriodRule) -> DateColumn {
    let mut days = DateColumn::new();
    first_days_into(dates, rule, &mut days);
    days
}

/// The last day of the period that each date lies in: as many rows, empty where the input is, and where the day lies
/// after 9999-12-31.
///
/// ```
/// use mild_ledger::{PeriodRule, column::{DateColumn, last_days}};
/// let dates: DateColumn = [Some("2024-02-10".parse()?)].into_iter().collect();
/// assert_eq!(last_days(&dates, PeriodRule::Month).get(0), Some("2024-02-29".parse()?));
/// # Ok::<(), mild_ledger::Error>(())
/// ```
#[must_use]
pub fn last_days(dates: &DateColumn, rule: PeriodRule) -> DateColumn {
    let mut days = DateColumn::new();
    last_days_into(dates, rule, &mut days);
    days
}

/// [`first_days`] into a column that is there, whose memory is used again.
///
/// ```
/// use mild_ledger::{PeriodRule, column::{DateColumn, first_days_into}};
/// let mut days = DateColumn::new();
/// first_days_into(&DateColumn::new(), PeriodRule::Year, &mut days);
/// assert!(days.is_empty());
/// ```
pub fn first_days_into(dates: &DateColumn, rule: PeriodRule, days: &mut DateColumn) {
    into(dates, days, |from, out, words| match rule {
        PeriodRule::Week(first) => {
            let offset = first.days_from_monday() as i32;
            moved_days(
                from,
                out,
                words,
                #[inline(always)]
                |day| week_start(day, offset),
            );
        }
        PeriodRule::Month => {
            from_days(from, out, month_start);
        }
        PeriodRule::Quarter => {
            from_days(from, out, months_start::<3>);
        }
        PeriodRule::HalfYear => {
            from_days(from, out, months_start::<6>);
        }
        PeriodRule::Year => {
            from_days(from, out, months_start::<12>);
        }
        other => days_from_days(from, out, words, |day| {
            found(other.containing(Date::of_checked_day(day)).first_day())
        }),
    });
}

/// [`last_days`] into a column that is there, whose memory is used again.
///
/// ```
/// use mild_ledger::{PeriodRule, column::{DateColumn, last_days_into}};
/// let mut days = DateColumn::new();
/// last_days_into(&DateColumn::new(), PeriodRule::Year, &mut days);
/// assert!(days.is_empty());
/// ```
pub fn last_days_into(dates: &DateColumn, rule: PeriodRule, days: &mut DateColumn) {
    into(dates, days, |from, out, words| match rule {
        PeriodRule::Week(first) => {
            let offset = first.days_from_monday() as i32;
            moved_days(
                from,
                out,
                words,
                #[inline(always)]
                |day| week_start(day, offset) + 6,
            );
        }
        PeriodRule::Month => {
            from_days(from, out, month_end);
        }
        PeriodRule::Quarter => {
            from_days(from, out, months_end::<3>);
        }
        PeriodRule::HalfYear => {
            from_days(from, out, months_end::<6>);
        }
        PeriodRule::Year => {
            from_days(from, out, months_end::<12>);
        }
        other => days_from_days(from, out, words, |day| {
            found(other.containing(Date::of_checked_day(day)).last_day())
        }),
    });
}

fn into(dates: &DateColumn, days: &mut DateColumn, fill: impl FnOnce(&[i32], &mut [i32], &mut [u64])) {
    let mut words = days.present.take_words();
    words.resize(dates.len().div_ceil(64), 0);
    days.days.resize(dates.len(), 0);
    // Months and longer begin and end with the calendar, so only weeks and the like clear bits.
    words.fill(u64::MAX);
    fill(dates.day_numbers(), &mut days.days, &mut words);
    days.present = dates.mask().and_words(words);
}

fn found(day: Result<Date, crate::Error>) -> (i32, bool) {
    day.map_or((0, false), |date| (date.day_number(), true))
}

#[inline(always)]
fn week_start(day_number: i32, offset: i32) -> i32 {
    7 * week_of(day_number, offset) - 3 + offset
}

#[inline(always)]
fn month_start(day_number: i32) -> i32 {
    let (_, _, day) = civil_lane(day_number);
    day_number - day as i32 + 1
}

#[inline(always)]
fn month_end(day_number: i32) -> i32 {
    let (year, month, day) = civil_lane(day_number);
    day_number + (month_length_lane(year, month) - day) as i32
}

/// The first day of the period of so many months, more than one, that a day lies in.
#[inline(always)]
fn months_start<const MONTHS: u32>(day_number: i32) -> i32 {
    let (year, month, _) = civil_lane(day_number);
    day_number_lane(year, (month - 1) / MONTHS * MONTHS + 1, 1)
}

/// The last day of the period of so many months, more than one, that a day lies in; it is never in February.
#[inline(always)]
fn months_end<const MONTHS: u32>(day_number: i32) -> i32 {
    let (year, month, _) = civil_lane(day_number);
    let last = (month - 1) / MONTHS * MONTHS + MONTHS;
    day_number_lane(year, last, 30 | (last ^ (last >> 3)))
}
