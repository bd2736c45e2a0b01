//! Working days over columns.

use super::dispatch::{Loop, with_widest_instructions};
use super::lanes::{bits_of, days_of};
use super::{DateColumn, Dates, Mask};
use crate::date::Date;
use crate::error::{Error, ErrorKind};
use crate::interval::{Ends, Interval};
use crate::work::{CalendarIndex, WorkCalendar};

/// The figures of [`working_days`], with the ends that all of them count.
///
/// ```
/// use mild_ledger::{Ends, WorkCalendar, column::{Dates, working_days}};
/// let week = WorkCalendar::rest_days_only(Default::default());
/// let (start, end) = ("2026-10-03".parse()?, "2026-10-18".parse()?);
/// let days = working_days(Dates::Every(start), Dates::Every(end), 1, &week, Ends::FirstAndLast)?;
/// assert_eq!((days.get(0), days.ends()), (Some(10), Ends::FirstAndLast));
/// # Ok::<(), mild_ledger::Error>(())
/// ```
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct WorkingDaysColumn {
    values: Vec<i32>,
    present: Mask,
    ends: Ends,
}

impl WorkingDaysColumn {
    /// The figure of a row; `None` where it is empty or there is no such row.
    ///
    /// ```
    /// # use mild_ledger::{Date, Ends, WorkCalendar, column::{Dates, working_days}};
    /// # let week = WorkCalendar::rest_days_only(Default::default());
    /// let none = working_days(Dates::Every(Date::MIN), Dates::Every(Date::MIN), 0, &week, Ends::Last)?;
    /// assert_eq!(none.get(0), None);
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn get(&self, row: usize) -> Option<i64> {
        self.present.is_present(row).then(|| i64::from(self.values[row]))
    }

    /// The figures, one a row; what stands in an empty row has no meaning.
    ///
    /// ```
    /// # use mild_ledger::{Date, Ends, WorkCalendar, column::{Dates, working_days}};
    /// # let week = WorkCalendar::rest_days_only(Default::default());
    /// let one = working_days(Dates::Every(Date::MIN), Dates::Every(Date::MIN), 1, &week, Ends::Last)?;
    /// assert_eq!(one.values(), [0]);
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn values(&self) -> &[i32] {
        &self.values
    }

    /// The rows that hold a figure.
    ///
    /// ```
    /// # use mild_ledger::{Date, Ends, WorkCalendar, column::{Dates, working_days}};
    /// # let week = WorkCalendar::rest_days_only(Default::default());
    /// let one = working_days(Dates::Every(Date::MIN), Dates::Every(Date::MIN), 1, &week, Ends::Last)?;
    /// assert_eq!(one.mask().present(), 1);
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn mask(&self) -> &Mask {
        &self.present
    }

    /// Which ends its figures count.
    ///
    /// ```
    /// # use mild_ledger::{Date, Ends, WorkCalendar, column::{Dates, working_days}};
    /// # let week = WorkCalendar::rest_days_only(Default::default());
    /// let one = working_days(Dates::Every(Date::MIN), Dates::Every(Date::MIN), 1, &week, Ends::Last)?;
    /// assert_eq!(one.ends(), Ends::Last);
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn ends(&self) -> Ends {
        self.ends
    }
}

/// The working days between a start and an end in each of so many rows, as
/// [`WorkCalendar::count_of`] gives them for one: empty where either end is, and where the calendar does not cover one
/// of them, which the call for one value says.
///
/// # Errors
/// [`ErrorKind::OutOfRange`] where a column has another number of rows.
///
/// ```
/// use mild_ledger::{Ends, RestDays, WorkCalendar, column::{DateColumn, Dates, working_days}};
/// let yard = WorkCalendar::new("Yard", RestDays::default(), 2026, 2026, &[])?;
/// let starts: DateColumn = [Some("2026-09-30".parse()?), Some("2025-12-31".parse()?), None].into_iter().collect();
/// let end = "2026-10-05".parse()?;
/// let days = working_days(Dates::Column(&starts), Dates::Every(end), 3, &yard, Ends::Last)?;
/// assert_eq!((days.get(0), days.get(1), days.get(2)), (Some(3), None, None));
/// # Ok::<(), mild_ledger::Error>(())
/// ```
pub fn working_days(
    starts: Dates<'_>,
    ends: Dates<'_>,
    rows: usize,
    calendar: &WorkCalendar,
    counted: Ends,
) -> Result<WorkingDaysColumn, Error> {
    let mut column = WorkingDaysColumn { values: Vec::new(), present: Mask::new(), ends: counted };
    working_days_into(starts, ends, rows, calendar, counted, &mut column)?;
    Ok(column)
}

/// [`working_days`] into a column that is there, whose memory is used again.
///
/// # Errors
/// Those of [`working_days`].
///
/// ```
/// use mild_ledger::{Date, Ends, WorkCalendar, column::{Dates, working_days, working_days_into}};
/// let week = WorkCalendar::rest_days_only(Default::default());
/// let day = Dates::Every(Date::MIN);
/// let mut column = working_days(day, day, 1, &week, Ends::Last)?;
/// working_days_into(day, day, 2, &week, Ends::FirstAndLast, &mut column)?;
/// assert_eq!(column.values(), [1, 1]);
/// # Ok::<(), mild_ledger::Error>(())
/// ```
pub fn working_days_into(
    starts: Dates<'_>,
    ends: Dates<'_>,
    rows: usize,
    calendar: &WorkCalendar,
    counted: Ends,
    column: &mut WorkingDaysColumn,
) -> Result<(), Error> {
    if !starts.has_rows(rows) || !ends.has_rows(rows) {
        let what = format!("a column of dates does not have {rows} rows");
        return Err(Error::new(ErrorKind::OutOfRange, what, "columns of as many rows as are counted"));
    }
    let mut words = column.present.take_words();
    words.resize(rows.div_ceil(64), 0);
    column.values.resize(rows, 0);
    column.ends = counted;
    match calendar.index() {
        CalendarIndex::Daily(index) => {
            let (before, first) = index.running_count();
            with_widest_instructions(Counts {
                starts,
                ends,
                before,
                first,
                counted,
                values: &mut column.values,
                words: &mut words,
            });
        }
        CalendarIndex::Weekly(_) => {
            words.fill(u64::MAX);
            for (row, value) in column.values.iter_mut().enumerate() {
                let interval =
                    starts.get(row).zip(ends.get(row)).map(|(start, end)| Interval::between(start, end));
                let count = interval.and_then(|interval| calendar.count_of(interval, counted).ok());
                *value = count.and_then(|count| i32::try_from(count).ok()).unwrap_or(0);
            }
        }
    }
    column.present = starts.present_with(&ends, rows).and_words(words);
    Ok(())
}

struct Counts<'s> {
    starts: Dates<'s>,
    ends: Dates<'s>,
    before: &'s [u32],
    first: i32,
    counted: Ends,
    values: &'s mut [i32],
    words: &'s mut [u64],
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
    /// Counts from the start to the end, each so many days on, as it is to be for an end that is not before the start.
    #[inline(always)]
    fn count(self, on: impl Fn(bool) -> (u32, u32)) {
        let Self { starts, ends, before, first, counted, values, words } = self;
        let Some(days) = before.len().checked_sub(1) else { return };
        let (before, covered_days) = (&before[..=days], days as u32);
        let is_neither = counted == Ends::Neither;
        for (nth, (values, word)) in values.chunks_mut(64).zip(words).enumerate() {
            let (starts, ends) =
                (days_of(&starts, 64 * nth, values.len()), days_of(&ends, 64 * nth, values.len()));
            // The places first, by arithmetic alone; then what stands there.
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
            // Hardly ever does one of them lie outside; rows behind the last of the column are no matter.
            if furthest < covered_days {
                *word = u64::MAX;
                continue;
            }
            let mut there = [0_u8; 64];
            for ((there, start), end) in there.iter_mut().zip(&starts).zip(&ends) {
                let (place, place_of_end) =
                    (start.wrapping_sub(first) as u32, end.wrapping_sub(first) as u32);
                *there = u8::from((place < covered_days) & (place_of_end < covered_days));
            }
            *word = bits_of(&there);
        }
    }
}

/// The working day so many after (or before) every date of a column, as [`WorkCalendar::working_days_on`] gives it for
/// one: empty where the input is, and where that is an error.
///
/// ```
/// use mild_ledger::{RestDays, WorkCalendar, column::{DateColumn, working_days_on}};
/// let yard = WorkCalendar::new("Yard", RestDays::default(), 2026, 2026, &[])?;
/// let dates: DateColumn = [Some("2026-10-02".parse()?), Some("2026-12-31".parse()?)].into_iter().collect();
/// let moved = working_days_on(&dates, 1, &yard);
/// assert_eq!((moved.get(0), moved.get(1)), (Some("2026-10-05".parse()?), None));
/// # Ok::<(), mild_ledger::Error>(())
/// ```
#[must_use]
pub fn working_days_on(dates: &DateColumn, number: i32, calendar: &WorkCalendar) -> DateColumn {
    let mut moved = DateColumn::new();
    working_days_on_into(dates, number, calendar, &mut moved);
    moved
}

/// [`working_days_on`] into a column that is there, whose memory is used again.
///
/// ```
/// use mild_ledger::{WorkCalendar, column::{DateColumn, working_days_on_into}};
/// let mut moved = DateColumn::new();
/// working_days_on_into(&DateColumn::new(), 1, &WorkCalendar::rest_days_only(Default::default()), &mut moved);
/// assert!(moved.is_empty());
/// ```
pub fn working_days_on_into(
    dates: &DateColumn,
    number: i32,
    calendar: &WorkCalendar,
    moved: &mut DateColumn,
) {
    let mut words = moved.present.take_words();
    words.resize(dates.len().div_ceil(64), 0);
    moved.days.resize(dates.len(), 0);
    match (calendar.index(), number) {
        (CalendarIndex::Daily(index), 1.. | ..=-1) => {
            let (before, first) = index.running_count();
            let (working, number) = (index.working_days(), i64::from(number));
            let covered = before.len().saturating_sub(1);
            let (days, out) = (dates.day_numbers(), moved.days.as_mut_slice());
            if days.len() < covered {
                let words = words.as_mut_slice();
                with_widest_instructions(Moves { days, before, first, working, number, out, words });
            } else {
                // With more rows than days, each day is moved once, and every row looks up its own.
                let all: Vec<i32> = (first..).take(covered).collect();
                let (mut table, mut there) = (vec![0; covered], vec![0; covered.div_ceil(64)]);
                let (out_of_all, words_of_all) = (table.as_mut_slice(), there.as_mut_slice());
                let moves = Moves {
                    days: &all,
                    before,
                    first,
                    working,
                    number,
                    out: out_of_all,
                    words: words_of_all,
                };
                with_widest_instructions(moves);
                for (row, day) in table.iter_mut().enumerate() {
                    if there[row / 64] >> (row % 64) & 1 == 0 {
                        *day = NOWHERE;
                    }
                }
                with_widest_instructions(Lookups { days, table: &table, first, out, words: &mut words });
            }
        }
        _ => {
            for ((nth, out), word) in moved.days.chunks_mut(64).enumerate().zip(&mut words) {
                *word = 0;
                for (row, out) in out.iter_mut().enumerate() {
                    let date = Date::of_checked_day(dates.day_numbers()[64 * nth + row]);
                    let found = calendar.working_days_on(date, number);
                    *word |= u64::from(found.is_ok()) << row;
                    *out = found.map_or(0, Date::day_number);
                }
            }
        }
    }
    moved.present = dates.mask().and_words(words);
}

struct Moves<'s> {
    days: &'s [i32],
    before: &'s [u32],
    first: i32,
    working: &'s [i32],
    number: i64,
    out: &'s mut [i32],
    words: &'s mut [u64],
}

impl Loop for Moves<'_> {
    #[inline(always)]
    fn run(self) {
        let Self { days, before, first, working, number, out, words } = self;
        let (Some(last), Some(last_working)) = (before.len().checked_sub(1), working.len().checked_sub(1))
        else {
            words.fill(0);
            return;
        };
        let (before, working, covered_days) = (&before[..=last], &working[..=last_working], last as u32);
        let (on, step) = if number > 0 { (1, number - 1) } else { (0, number) };
        // So far that every result lies outside: any number as large will do.
        let step = step.clamp(-(1 << 30), 1 << 30) as i32;
        for ((out, days), word) in out.chunks_mut(64).zip(days.chunks(64)).zip(words) {
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
            *word = bits_of(&there);
        }
    }
}

/// Stands in a table of moved days where there is none; no day of the calendar has this number.
const NOWHERE: i32 = i32::MIN;

struct Lookups<'s> {
    days: &'s [i32],
    table: &'s [i32],
    first: i32,
    out: &'s mut [i32],
    words: &'s mut [u64],
}

impl Loop for Lookups<'_> {
    #[inline(always)]
    fn run(self) {
        let Self { days, table, first, out, words } = self;
        let Some(last) = table.len().checked_sub(1) else {
            words.fill(0);
            return;
        };
        let table = &table[..=last];
        for ((out, days), word) in out.chunks_mut(64).zip(days.chunks(64)).zip(words) {
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
                *word = u64::MAX;
                continue;
            }
            let mut there = [0_u8; 64];
            for ((there, out), place) in there.iter_mut().zip(&*out).zip(&places) {
                *there = u8::from((*place <= last as u32) & (*out != NOWHERE));
            }
            *word = bits_of(&there);
        }
    }
}
