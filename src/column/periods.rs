//! The periods that a column's dates lie in: first and last days, numbers.

use super::blocks::{Lane, in_blocks};
use super::lanes::{days_from_days, from_lane, moved_days};
use super::{Column, ColumnSliceMut, Values};
use crate::date::Date;
use crate::date::year_month_day::{day_number_lane, month_length_lane, year_month_day_lane};
use crate::error::Error;
use crate::interval::lanes::week_of;
use crate::period::{Nearness, PeriodRule};

/// The first day of the period that each date lies in: empty where the input is, and where the day lies before
/// 0001-01-01.
///
/// ```
/// use mild_ledger::{Date, PeriodRule, column::{Column, first_days}};
/// let dates: Column<Date> = [Some("2026-09-30".parse()?), None].into_iter().collect();
/// let quarters = first_days(&dates, PeriodRule::Quarter);
/// assert_eq!((quarters.get(0), quarters.get(1)), (Some("2026-07-01".parse()?), None));
/// # Ok::<(), mild_ledger::Error>(())
/// ```
#[must_use]
pub fn first_days<'c>(dates: impl Into<Values<'c, Date>>, rule: PeriodRule) -> Column<Date> {
    let dates = dates.into();
    Column::written(dates.rows().unwrap_or(1), |out| {
        write(dates, out, |from, out, bits| starts(rule, from, out, bits))
    })
}

/// The last day of the period that each date lies in: empty where the input is, and where the day lies after 9999-12-31.
///
/// ```
/// use mild_ledger::{Date, PeriodRule, column::last_days};
/// let date: Date = "2024-02-10".parse()?;
/// assert_eq!(last_days(date, PeriodRule::Month).get(0), Some("2024-02-29".parse()?));
/// # Ok::<(), mild_ledger::Error>(())
/// ```
#[must_use]
pub fn last_days<'c>(dates: impl Into<Values<'c, Date>>, rule: PeriodRule) -> Column<Date> {
    let dates = dates.into();
    Column::written(dates.rows().unwrap_or(1), |out| {
        write(dates, out, |from, out, bits| ends(rule, from, out, bits))
    })
}

/// [`first_days`] into a column that is there.
///
/// # Errors
/// [`ErrorKind::LengthsDiffer`](crate::ErrorKind::LengthsDiffer) where that has another number of rows.
///
/// ```
/// use mild_ledger::{Date, PeriodRule, column::{Column, first_days_into}};
/// let mut days = Column::new();
/// first_days_into(Date::MAX, PeriodRule::Year, days.rows_to_write(1))?;
/// assert_eq!(days.get(0), Some("9999-01-01".parse()?));
/// # Ok::<(), mild_ledger::Error>(())
/// ```
pub fn first_days_into<'c>(
    dates: impl Into<Values<'c, Date>>,
    rule: PeriodRule,
    out: ColumnSliceMut<'_, Date>,
) -> Result<(), Error> {
    let dates = dates.into();
    let out = out.has_rows(dates.rows().unwrap_or(1))?;
    write(dates, out, |from, out, bits| starts(rule, from, out, bits));
    Ok(())
}

/// [`last_days`] into a column that is there.
///
/// # Errors
/// [`ErrorKind::LengthsDiffer`](crate::ErrorKind::LengthsDiffer) where that has another number of rows.
///
/// ```
/// use mild_ledger::{Date, PeriodRule, column::{Column, last_days_into}};
/// let mut days = Column::new();
/// last_days_into(Date::MIN, PeriodRule::Year, days.rows_to_write(1))?;
/// assert_eq!(days.get(0), Some("0001-12-31".parse()?));
/// # Ok::<(), mild_ledger::Error>(())
/// ```
pub fn last_days_into<'c>(
    dates: impl Into<Values<'c, Date>>,
    rule: PeriodRule,
    out: ColumnSliceMut<'_, Date>,
) -> Result<(), Error> {
    let dates = dates.into();
    let out = out.has_rows(dates.rows().unwrap_or(1))?;
    write(dates, out, |from, out, bits| ends(rule, from, out, bits));
    Ok(())
}

/// The number of the period that each date lies in within its year, as [`Period::number`](crate::Period::number).
///
/// ```
/// use mild_ledger::{Date, PeriodRule, column::period_numbers};
/// let date: Date = "2026-09-30".parse()?;
/// assert_eq!(period_numbers(date, PeriodRule::Quarter).get(0), Some(3));
/// # Ok::<(), mild_ledger::Error>(())
/// ```
#[must_use]
pub fn period_numbers<'c>(dates: impl Into<Values<'c, Date>>, rule: PeriodRule) -> Column<i64> {
    let dates = dates.into();
    Column::of_rows(dates.rows().unwrap_or(1), |row| Some(rule.containing(dates.get(row)?).number()))
}

/// The days of the period that each date lies in, as [`Period::days`](crate::Period::days).
///
/// ```
/// use mild_ledger::{Date, PeriodRule, column::period_days};
/// let date: Date = "2024-02-10".parse()?;
/// assert_eq!(period_days(date, PeriodRule::Month).get(0), Some(29));
/// # Ok::<(), mild_ledger::Error>(())
/// ```
#[must_use]
pub fn period_days<'c>(dates: impl Into<Values<'c, Date>>, rule: PeriodRule) -> Column<i64> {
    let dates = dates.into();
    Column::of_rows(dates.rows().unwrap_or(1), |row| Some(rule.containing(dates.get(row)?).days()))
}

/// The start of a period that is nearest to each date, as [`Period::nearest_start`](crate::Period::nearest_start) gives
/// it for one: empty where the input is, and where that is an error.
///
/// ```
/// use mild_ledger::{Date, Nearness, PeriodRule, column::nearest_starts};
/// let date: Date = "2026-09-20".parse()?;
/// assert_eq!(nearest_starts(date, PeriodRule::Month, Nearness::ByDays).get(0), Some("2026-10-01".parse()?));
/// # Ok::<(), mild_ledger::Error>(())
/// ```
#[must_use]
pub fn nearest_starts<'c>(
    dates: impl Into<Values<'c, Date>>,
    rule: PeriodRule,
    nearness: Nearness,
) -> Column<Date> {
    let dates = dates.into();
    Column::of_rows(dates.rows().unwrap_or(1), |row| {
        let date = dates.get(row)?;
        rule.containing(date).nearest_start(date, nearness).ok()
    })
}

fn write(
    dates: Values<'_, Date>,
    out: ColumnSliceMut<'_, Date>,
    fill: impl Fn(Lane<'_>, &mut [i32], &mut [u8]),
) {
    let ColumnSliceMut { values, validity } = out;
    in_blocks([dates], values.len(), validity, |[from], rows, bits| {
        fill(from, &mut values[rows], bits);
    });
}

fn starts(rule: PeriodRule, from: Lane<'_>, out: &mut [i32], bits: &mut [u8]) {
    // Months and longer begin and end with the calendar, so only weeks and the like clear bits.
    match rule {
        PeriodRule::Week(first) => {
            let offset = first.days_from_monday() as i32;
            moved_days(
                from,
                out,
                bits,
                #[inline(always)]
                |day| week_begins(day, offset),
            );
        }
        PeriodRule::Month => {
            from_lane(from, out, month_start);
        }
        PeriodRule::Quarter => {
            from_lane(from, out, months_start::<3>);
        }
        PeriodRule::HalfYear => {
            from_lane(from, out, months_start::<6>);
        }
        PeriodRule::Year => {
            from_lane(from, out, months_start::<12>);
        }
        other => days_from_days(from, out, bits, |day| {
            found(other.containing(Date::of_checked_day(day)).first_day())
        }),
    }
}

fn ends(rule: PeriodRule, from: Lane<'_>, out: &mut [i32], bits: &mut [u8]) {
    // Months and longer begin and end with the calendar, so only weeks and the like clear bits.
    match rule {
        PeriodRule::Week(first) => {
            let offset = first.days_from_monday() as i32;
            moved_days(
                from,
                out,
                bits,
                #[inline(always)]
                |day| week_begins(day, offset) + 6,
            );
        }
        PeriodRule::Month => {
            from_lane(from, out, month_end);
        }
        PeriodRule::Quarter => {
            from_lane(from, out, months_end::<3>);
        }
        PeriodRule::HalfYear => {
            from_lane(from, out, months_end::<6>);
        }
        PeriodRule::Year => {
            from_lane(from, out, months_end::<12>);
        }
        other => days_from_days(from, out, bits, |day| {
            found(other.containing(Date::of_checked_day(day)).last_day())
        }),
    }
}

fn found(day: Result<Date, crate::Error>) -> (i32, bool) {
    day.map_or((0, false), |date| (date.day_number(), true))
}

#[inline(always)]
fn week_begins(day_number: i32, offset: i32) -> i32 {
    7 * week_of(day_number, offset) - 3 + offset
}

#[inline(always)]
fn month_start(day_number: i32) -> i32 {
    let (_, _, day) = year_month_day_lane(day_number);
    day_number - day as i32 + 1
}

#[inline(always)]
fn month_end(day_number: i32) -> i32 {
    let (year, month, day) = year_month_day_lane(day_number);
    day_number + (month_length_lane(year, month) - day) as i32
}

/// The first day of the period of a number of months, more than one, that a day lies in.
#[inline(always)]
fn months_start<const MONTHS: u32>(day_number: i32) -> i32 {
    let (year, month, _) = year_month_day_lane(day_number);
    day_number_lane(year, (month - 1) / MONTHS * MONTHS + 1, 1)
}

/// The last day of the period of a number of months, more than one, that a day lies in; it is never in February.
#[inline(always)]
fn months_end<const MONTHS: u32>(day_number: i32) -> i32 {
    let (year, month, _) = year_month_day_lane(day_number);
    let last = (month - 1) / MONTHS * MONTHS + MONTHS;
    day_number_lane(year, last, 30 | (last ^ (last >> 3)))
}
