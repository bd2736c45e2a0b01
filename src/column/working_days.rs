//! Counting working days between two columns.

use super::blocks::{Lane, in_blocks};
use super::dispatch::{Loop, with_widest_instructions};
use super::lanes::{bits_of, days_of};
use super::slices::rows_of;
use super::validity::set_word;
use super::{Column, ColumnSliceMut, Values};
use crate::date::Date;
use crate::error::Error;
use crate::interval::{Ends, Interval};
use crate::period::{DateRange, PeriodRule};
use crate::work::{CalendarIndex, WorkCalendar};

/// The working days between a start and an end in each row, as [`WorkCalendar::count_working_days`] gives them for one:
/// empty where either end is, and where the calendar does not cover one of them, which the call for one value says.
///
/// # Errors
/// [`ErrorKind::LengthsDiffer`](crate::ErrorKind::LengthsDiffer) for columns of different lengths.
///
/// ```
/// use mild_ledger::{Date, Ends, RestDays, WorkCalendar, column::{Column, count_working_days}};
/// let yard = WorkCalendar::new("Yard", RestDays::default(), 2026, 2026, &[])?;
/// let starts: Column<Date> = [Some("2026-09-30".parse()?), Some("2025-12-31".parse()?), None].into_iter().collect();
/// let end: Date = "2026-10-05".parse()?;
/// let days = count_working_days(&starts, end, &yard, Ends::Last)?;
/// assert_eq!((days.get(0), days.get(1), days.get(2)), (Some(3), None, None));
/// # Ok::<(), mild_ledger::Error>(())
/// ```
pub fn count_working_days<'c>(
    starts: impl Into<Values<'c, Date>>,
    ends: impl Into<Values<'c, Date>>,
    calendar: &WorkCalendar,
    counted: Ends,
) -> Result<Column<i32>, Error> {
    let (starts, ends) = (starts.into(), ends.into());
    let mut column = Column::new();
    let rows = rows_of(starts.rows(), ends.rows())?;
    count_working_days_into(starts, ends, calendar, counted, column.rows_to_write(rows))?;
    Ok(column)
}

/// [`count_working_days`] into a column that is there.
///
/// # Errors
/// [`ErrorKind::LengthsDiffer`](crate::ErrorKind::LengthsDiffer) for columns of different lengths.
///
/// ```
/// use mild_ledger::{Date, Ends, WorkCalendar, column::{Column, count_working_days_into}};
/// let week = WorkCalendar::rest_days_only(Default::default());
/// let mut column = Column::new();
/// count_working_days_into(Date::MIN, Date::MIN, &week, Ends::FirstAndLast, column.rows_to_write(1))?;
/// assert_eq!(column.values(), [1]);
/// # Ok::<(), mild_ledger::Error>(())
/// ```
pub fn count_working_days_into<'c>(
    starts: impl Into<Values<'c, Date>>,
    ends: impl Into<Values<'c, Date>>,
    calendar: &WorkCalendar,
    counted: Ends,
    out: ColumnSliceMut<'_, i32>,
) -> Result<(), Error> {
    let (starts, ends) = (starts.into(), ends.into());
    let rows = rows_of(starts.rows(), ends.rows())?;
    let out = out.has_rows(rows)?;
    match calendar.index() {
        CalendarIndex::Daily(index) => {
            let (before, first) = index.running_count();
            in_blocks([starts, ends], rows, out.validity, |[starts, ends], rows, validity| {
                let values = &mut out.values[rows];
                with_widest_instructions(Counts { starts, ends, before, first, counted, values, validity });
            });
        }
        CalendarIndex::Weekly(_) => out.write_rows(|row| {
            let interval = Interval::between(starts.get(row)?, ends.get(row)?);
            i32::try_from(calendar.count_working_days(interval, counted).ok()?).ok()
        }),
    }
    Ok(())
}

/// The working days of each interval that lie in a stretch of days, as [`WorkCalendar::working_days_within`] gives them
/// for one: empty where that is an error.
///
/// # Errors
/// [`ErrorKind::LengthsDiffer`](crate::ErrorKind::LengthsDiffer) for columns of different lengths.
///
/// ```
/// use mild_ledger::{Date, DateRange, Ends, WorkCalendar, column::count_working_days_within};
/// let week = WorkCalendar::rest_days_only(Default::default());
/// let (start, end): (Date, Date) = ("2026-04-01".parse()?, "2026-06-10".parse()?);
/// let may = DateRange::new("2026-05-01".parse()?, "2026-05-31".parse()?)?;
/// let days = count_working_days_within(start, end, may, &week, Ends::FirstAndLast)?;
/// assert_eq!(days.get(0), Some(21));
/// # Ok::<(), mild_ledger::Error>(())
/// ```
pub fn count_working_days_within<'c>(
    starts: impl Into<Values<'c, Date>>,
    ends: impl Into<Values<'c, Date>>,
    within: DateRange,
    calendar: &WorkCalendar,
    counted: Ends,
) -> Result<Column<i64>, Error> {
    let (starts, ends) = (starts.into(), ends.into());
    Ok(Column::of_rows(rows_of(starts.rows(), ends.rows())?, |row| {
        let interval = Interval::between(starts.get(row)?, ends.get(row)?);
        calendar.working_days_within(interval, within, counted).ok()
    }))
}

/// The number of each date among the working days of its month, counted from the month's start and from its end, as
/// [`WorkCalendar::number_in_month`] gives them for one: empty where the date is, is not a working day, or is not covered.
///
/// ```
/// use mild_ledger::{Date, WorkCalendar, column::numbers_in_month};
/// let week = WorkCalendar::rest_days_only(Default::default());
/// let date: Date = "2026-10-05".parse()?;
/// let numbers = numbers_in_month(date, &week);
/// assert_eq!((numbers.from_start.get(0), numbers.from_end.get(0)), (Some(3), Some(-20)));
/// # Ok::<(), mild_ledger::Error>(())
/// ```
#[must_use]
pub fn numbers_in_month<'c>(dates: impl Into<Values<'c, Date>>, calendar: &WorkCalendar) -> NumbersInMonth {
    let dates = dates.into();
    let mut numbers = NumbersInMonth::default();
    for row in 0..dates.rows().unwrap_or(1) {
        let found = dates.get(row).and_then(|date| calendar.number_in_month(date).ok()?);
        numbers.from_start.push(found.map(|found| found.from_start()));
        numbers.from_end.push(found.map(|found| found.from_end()));
    }
    numbers
}

/// What [`numbers_in_month`] gives.
///
/// ```
/// assert!(mild_ledger::column::NumbersInMonth::default().from_end.is_empty());
/// ```
#[derive(Debug, Clone, PartialEq, Eq, Default)]
#[non_exhaustive]
pub struct NumbersInMonth {
    /// 1 for the month's first working day.
    pub from_start: Column<i64>,
    /// −1 for its last one.
    pub from_end: Column<i64>,
}

/// The working day with a number in the period that each date lies in, as [`WorkCalendar::working_day_of`] gives it for
/// one: empty where the date is, and where that is an error.
///
/// ```
/// use mild_ledger::{Date, PeriodRule, WorkCalendar, column::working_days_of_periods};
/// let week = WorkCalendar::rest_days_only(Default::default());
/// let date: Date = "2026-10-15".parse()?;
/// let closing = working_days_of_periods(date, PeriodRule::Month, 3, &week);
/// assert_eq!(closing.get(0), Some("2026-10-05".parse()?));
/// # Ok::<(), mild_ledger::Error>(())
/// ```
#[must_use]
pub fn working_days_of_periods<'c>(
    dates: impl Into<Values<'c, Date>>,
    rule: PeriodRule,
    number: i32,
    calendar: &WorkCalendar,
) -> Column<Date> {
    let dates = dates.into();
    Column::of_rows(dates.rows().unwrap_or(1), |row| {
        calendar.working_day_of(&rule.containing(dates.get(row)?), number).ok()
    })
}

struct Counts<'s> {
    starts: Lane<'s>,
    ends: Lane<'s>,
    before: &'s [u32],
    first: i32,
    counted: Ends,
    values: &'s mut [i32],
    validity: &'s mut [u8],
}

impl Loop for Counts<'_> {
    #[inline(always)]
    fn run(self) {
        // Each choice of ends gets a loop of its own, in which it is known.
        match self.counted {
            Ends::Last => self.count(|_| (1, 1)),
            Ends::First => self.count(|_| (0, 0)),
            Ends::FirstAndLast => self.count(|in_order| if in_order { (0, 1) } else { (1, 0) }),
            Ends::Neither => self.count(|in_order| if in_order { (1, 0) } else { (0, 1) }),
        }
    }
}

impl Counts<'_> {
    /// Counts from the start to the end, each a number of days on, as it is to be for an end that is not before the start.
    #[inline(always)]
    fn count(self, on: impl Fn(bool) -> (u32, u32)) {
        let Self { starts, ends, before, first, counted, values, validity } = self;
        let Some(days) = before.len().checked_sub(1) else { return };
        let (before, covered_days) = (&before[..=days], days as u32);
        let is_neither = counted == Ends::Neither;
        for (nth, (values, bits)) in values.chunks_mut(64).zip(validity.chunks_mut(8)).enumerate() {
            let (starts, ends) =
                (days_of(&starts, 64 * nth, values.len()), days_of(&ends, 64 * nth, values.len()));
            // The places first, by arithmetic alone; then what is there.
            let (mut from, mut to) = ([0_u32; 64], [0_u32; 64]);
            let mut furthest = 0;
            for (((from, to), start), end) in from.iter_mut().zip(&mut to).zip(&starts).zip(&ends) {
                // A day before the first becomes a large number, so one comparison does.
                let (place, place_of_end) =
                    (start.wrapping_sub(first) as u32, end.wrapping_sub(first) as u32);
                let (on_start, on_end) = on(start <= end);
                let is_nothing = is_neither & (start == end);
                *from = place.wrapping_add(on_start);
                *to = if is_nothing { *from } else { place_of_end.wrapping_add(on_end) };
                furthest = furthest.max(place).max(place_of_end);
            }
            for ((value, from), to) in values.iter_mut().zip(&from).zip(&to) {
                let (from, to) = ((*from as usize).min(days), (*to as usize).min(days));
                *value = before[to].wrapping_sub(before[from]) as i32;
            }
            // Hardly ever does one of them lie outside; rows after the last of the column do not matter.
            if furthest < covered_days {
                continue;
            }
            let mut there = [0_u8; 64];
            for ((there, start), end) in there.iter_mut().zip(&starts).zip(&ends) {
                let (place, place_of_end) =
                    (start.wrapping_sub(first) as u32, end.wrapping_sub(first) as u32);
                *there = u8::from((place < covered_days) & (place_of_end < covered_days));
            }
            set_word(bits, bits_of(&there));
        }
    }
}
