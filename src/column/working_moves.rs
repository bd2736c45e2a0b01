//! Moving columns by working days, and to them.

use super::blocks::{Lane, in_blocks};
use super::dispatch::{Loop, with_widest_instructions};
use super::lanes::bits_of;
use super::slices::rows_of;
use super::validity::set_word;
use super::{Column, ColumnSliceMut, Values};
use crate::date::Date;
use crate::error::Error;
use crate::work::{CalendarIndex, Roll, WorkCalendar};
use alloc::vec;
use alloc::vec::Vec;

/// The working day so many after (or before) every date, as [`WorkCalendar::add_working_days`] gives it for one: empty
/// where the input is, and where that is an error. The number may be another one in each row.
///
/// # Errors
/// [`ErrorKind::LengthsDiffer`](crate::ErrorKind::LengthsDiffer) for columns of different lengths.
///
/// ```
/// use mild_ledger::{Date, RestDays, WorkCalendar, column::{Column, add_working_days}};
/// let yard = WorkCalendar::new("Yard", RestDays::default(), 2026, 2026, &[])?;
/// let dates: Column<Date> = [Some("2026-10-02".parse()?), Some("2026-12-31".parse()?)].into_iter().collect();
/// let moved = add_working_days(&dates, 1, &yard)?;
/// assert_eq!((moved.get(0), moved.get(1)), (Some("2026-10-05".parse()?), None));
/// let numbers: Column<i32> = [Some(2), Some(-1)].into_iter().collect();
/// assert_eq!(add_working_days(&dates, &numbers, &yard)?.get(1), Some("2026-12-30".parse()?));
/// # Ok::<(), mild_ledger::Error>(())
/// ```
pub fn add_working_days<'c>(
    dates: impl Into<Values<'c, Date>>,
    numbers: impl Into<Values<'c, i32>>,
    calendar: &WorkCalendar,
) -> Result<Column<Date>, Error> {
    let (dates, numbers) = (dates.into(), numbers.into());
    let mut moved = Column::new();
    let rows = rows_of(dates.rows(), numbers.rows())?;
    add_working_days_into(dates, numbers, calendar, moved.rows_to_write(rows))?;
    Ok(moved)
}

/// [`add_working_days`] into a column that is there.
///
/// # Errors
/// [`ErrorKind::LengthsDiffer`](crate::ErrorKind::LengthsDiffer) for columns of different lengths.
///
/// ```
/// use mild_ledger::{Date, WorkCalendar, column::{Column, add_working_days_into}};
/// let mut moved = Column::new();
/// let week = WorkCalendar::rest_days_only(Default::default());
/// add_working_days_into(Date::MIN, 1, &week, moved.rows_to_write(1))?;
/// assert_eq!(moved.get(0), Some("0001-01-02".parse()?));
/// # Ok::<(), mild_ledger::Error>(())
/// ```
pub fn add_working_days_into<'c>(
    dates: impl Into<Values<'c, Date>>,
    numbers: impl Into<Values<'c, i32>>,
    calendar: &WorkCalendar,
    out: ColumnSliceMut<'_, Date>,
) -> Result<(), Error> {
    let (dates, numbers) = (dates.into(), numbers.into());
    let rows = rows_of(dates.rows(), numbers.rows())?;
    let out = out.has_rows(rows)?;
    match (calendar.index(), numbers) {
        (CalendarIndex::Daily(index), Values::Every(number @ (1.. | ..=-1))) if dates.rows().is_some() => {
            let (before, first) = index.running_count();
            let (working, number) = (index.working_days(), i64::from(number));
            let covered = before.len().saturating_sub(1);
            if rows < covered {
                in_blocks([dates], rows, out.validity, |[days], rows, validity| {
                    let Lane::Each(days) = days else { return };
                    let out = &mut out.values[rows];
                    with_widest_instructions(Moves { days, before, first, working, number, out, validity });
                });
                return Ok(());
            }
            // With more rows than days, each day is moved once, and every row looks up its own.
            let all: Vec<i32> = (first..).take(covered).collect();
            let (mut table, mut there) = (vec![0; covered], vec![u8::MAX; covered.div_ceil(8)]);
            let (days, of_all, bits) = (all.as_slice(), table.as_mut_slice(), there.as_mut_slice());
            with_widest_instructions(Moves {
                days,
                before,
                first,
                working,
                number,
                out: of_all,
                validity: bits,
            });
            for (row, day) in table.iter_mut().enumerate() {
                if there[row / 8] >> (row % 8) & 1 == 0 {
                    *day = NOWHERE;
                }
            }
            in_blocks([dates], rows, out.validity, |[days], rows, validity| {
                let Lane::Each(days) = days else { return };
                let out = &mut out.values[rows];
                with_widest_instructions(Lookups { days, table: &table, first, out, validity });
            });
        }
        _ => out.write_rows(|row| calendar.add_working_days(dates.get(row)?, numbers.get(row)?).ok()),
    }
    Ok(())
}

/// Every date brought to a working day by a convention, as [`WorkCalendar::roll`] gives it for one: empty where the input
/// is, and where that is an error.
///
/// ```
/// use mild_ledger::{Date, Roll, WorkCalendar, column::rolled};
/// let week = WorkCalendar::rest_days_only(Default::default());
/// let saturday: Date = "2026-10-31".parse()?;
/// assert_eq!(rolled(saturday, Roll::ModifiedFollowing, &week).get(0), Some("2026-10-30".parse()?));
/// # Ok::<(), mild_ledger::Error>(())
/// ```
#[must_use]
pub fn rolled<'c>(dates: impl Into<Values<'c, Date>>, roll: Roll, calendar: &WorkCalendar) -> Column<Date> {
    let dates = dates.into();
    Column::of_rows(dates.rows().unwrap_or(1), |row| calendar.roll(dates.get(row)?, roll).ok())
}

struct Moves<'s> {
    days: &'s [i32],
    before: &'s [u32],
    first: i32,
    working: &'s [i32],
    number: i64,
    out: &'s mut [i32],
    validity: &'s mut [u8],
}

impl Loop for Moves<'_> {
    #[inline(always)]
    fn run(self) {
        let Self { days, before, first, working, number, out, validity } = self;
        let (Some(last), Some(last_working)) = (before.len().checked_sub(1), working.len().checked_sub(1))
        else {
            validity.fill(0);
            return;
        };
        let (before, working, covered_days) = (&before[..=last], &working[..=last_working], last as u32);
        let (on, step) = if number > 0 { (1, number - 1) } else { (0, number) };
        // So far that every result lies outside: any number as large will do.
        let step = step.clamp(-(1 << 30), 1 << 30) as i32;
        for ((out, days), bits) in out.chunks_mut(64).zip(days.chunks(64)).zip(validity.chunks_mut(8)) {
            let (mut places, mut there) = ([0_u32; 64], [0_u8; 64]);
            for ((place, there), day) in places.iter_mut().zip(&mut there).zip(days) {
                let from = day.wrapping_sub(first) as u32;
                *place = if from < covered_days { from + on } else { 0 };
                *there = u8::from(from < covered_days);
            }
            for place in &mut places {
                // Counts are below 2^22, so the sum holds; one below zero becomes a large number.
                *place = (before[(*place as usize).min(last)] as i32 + step) as u32;
            }
            for ((out, there), rank) in out.iter_mut().zip(&mut there).zip(&places) {
                *there &= u8::from(*rank <= last_working as u32);
                *out = working[(*rank as usize).min(last_working)];
            }
            set_word(bits, bits_of(&there));
        }
    }
}

/// is in a table of moved days where there is none; no day of the calendar has this number.
const NOWHERE: i32 = i32::MIN;

struct Lookups<'s> {
    days: &'s [i32],
    table: &'s [i32],
    first: i32,
    out: &'s mut [i32],
    validity: &'s mut [u8],
}

impl Loop for Lookups<'_> {
    #[inline(always)]
    fn run(self) {
        let Self { days, table, first, out, validity } = self;
        let Some(last) = table.len().checked_sub(1) else {
            validity.fill(0);
            return;
        };
        let table = &table[..=last];
        for ((out, days), bits) in out.chunks_mut(64).zip(days.chunks(64)).zip(validity.chunks_mut(8)) {
            let mut places = [0_u32; 64];
            let mut furthest = 0;
            for (place, day) in places.iter_mut().zip(days) {
                *place = day.wrapping_sub(first) as u32;
                furthest = furthest.max(*place);
            }
            let mut lowest = i32::MAX;
            for (out, place) in out.iter_mut().zip(&places) {
                let moved = table[(*place as usize).min(last)];
                lowest = lowest.min(moved);
                *out = moved;
            }
            if furthest <= last as u32 && lowest != NOWHERE {
                continue;
            }
            let mut there = [0_u8; 64];
            for ((there, out), place) in there.iter_mut().zip(&*out).zip(&places) {
                *there = u8::from((*place <= last as u32) & (*out != NOWHERE));
            }
            set_word(bits, bits_of(&there));
        }
    }
}
