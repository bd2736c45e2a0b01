//! Loops that work out one number of a row from one or two, with nothing between them but arithmetic.

use super::Dates;
use super::dispatch::{Loop, with_widest_instructions};
use crate::date::Date;

/// One number a row from each day of a column; what stands in an empty row is worked out too, and a mask hides it.
pub(super) fn from_days<T, F>(days: &[i32], out: &mut [T], number: F)
where
    F: Fn(i32) -> T,
{
    with_widest_instructions(FromDays { days, out, number });
}

struct FromDays<'s, T, F> {
    days: &'s [i32],
    out: &'s mut [T],
    number: F,
}

impl<T, F: Fn(i32) -> T> Loop for FromDays<'_, T, F> {
    #[inline(always)]
    fn run(self) {
        for (out, day) in self.out.iter_mut().zip(self.days) {
            *out = (self.number)(*day);
        }
    }
}

/// One number a row from the days of two ends.
pub(super) fn from_ends<F>(starts: Dates<'_>, ends: Dates<'_>, out: &mut [i32], number: F)
where
    F: Fn(i32, i32) -> i32,
{
    with_widest_instructions(FromEnds { starts, ends, out, number });
}

struct FromEnds<'s, F> {
    starts: Dates<'s>,
    ends: Dates<'s>,
    out: &'s mut [i32],
    number: F,
}

impl<F: Fn(i32, i32) -> i32> Loop for FromEnds<'_, F> {
    #[inline(always)]
    fn run(self) {
        let Self { starts, ends, out, number } = self;
        match (starts, ends) {
            (Dates::Column(starts), Dates::Column(ends)) => {
                for ((out, start), end) in out.iter_mut().zip(starts.day_numbers()).zip(ends.day_numbers()) {
                    *out = number(*start, *end);
                }
            }
            (Dates::Column(starts), Dates::Every(end)) => {
                let end = end.day_number();
                for (out, start) in out.iter_mut().zip(starts.day_numbers()) {
                    *out = number(*start, end);
                }
            }
            (Dates::Every(start), Dates::Column(ends)) => {
                let start = start.day_number();
                for (out, end) in out.iter_mut().zip(ends.day_numbers()) {
                    *out = number(start, *end);
                }
            }
            (Dates::Every(start), Dates::Every(end)) => {
                out.fill(number(start.day_number(), end.day_number()));
            }
        }
    }
}

/// Two numbers a row from the days of two ends, made into three narrow ones.
pub(super) fn three_from_ends<F, G>(
    starts: Dates<'_>,
    ends: Dates<'_>,
    out: ThreeColumns<'_>,
    two: F,
    three: G,
) where
    F: Fn(i32, i32) -> (i32, i32),
    G: Fn(i32, i32) -> (i16, i8, i8),
{
    with_widest_instructions(ThreeFromEnds { starts, ends, out, two, three });
}

/// The columns that [`three_from_ends`] writes.
pub(super) type ThreeColumns<'s> = (&'s mut [i16], &'s mut [i8], &'s mut [i8]);

struct ThreeFromEnds<'s, F, G> {
    starts: Dates<'s>,
    ends: Dates<'s>,
    out: ThreeColumns<'s>,
    two: F,
    three: G,
}

impl<F: Fn(i32, i32) -> (i32, i32), G: Fn(i32, i32) -> (i16, i8, i8)> Loop for ThreeFromEnds<'_, F, G> {
    #[inline(always)]
    fn run(self) {
        let Self { starts, ends, out: (first, second, third), two, three } = self;
        let chunks = first.chunks_mut(64).zip(second.chunks_mut(64)).zip(third.chunks_mut(64));
        for (nth, ((first, second), third)) in chunks.enumerate() {
            let rows = first.len();
            let (starts, ends) = (days_of(&starts, 64 * nth, rows), days_of(&ends, 64 * nth, rows));
            // By way of the stack, so that it is plain that what is written is not what is read.
            let (mut wide, mut narrow) = ([0; 64], [0; 64]);
            for (((wide, narrow), start), end) in wide.iter_mut().zip(&mut narrow).zip(&starts).zip(&ends) {
                (*wide, *narrow) = two(*start, *end);
            }
            let out = first.iter_mut().zip(second).zip(third);
            for ((((first, second), third), wide), narrow) in out.zip(&wide).zip(&narrow) {
                (*first, *second, *third) = three(*wide, *narrow);
            }
        }
    }
}

/// So many days from a row on, in a chunk of 64.
#[inline(always)]
pub(super) fn days_of(dates: &Dates<'_>, from: usize, rows: usize) -> [i32; 64] {
    let mut days = [0; 64];
    match dates {
        Dates::Column(column) => days[..rows].copy_from_slice(&column.day_numbers()[from..from + rows]),
        Dates::Every(date) => days.fill(date.day_number()),
    }
    days
}

/// One day a row from each day of a column, and a bit a row where it lies in the calendar.
pub(super) fn moved_days<F>(days: &[i32], out: &mut [i32], words: &mut [u64], day: F)
where
    F: Fn(i32) -> i32,
{
    with_widest_instructions(MovedDays { days, out, words, day });
}

struct MovedDays<'s, F> {
    days: &'s [i32],
    out: &'s mut [i32],
    words: &'s mut [u64],
    day: F,
}

impl<F: Fn(i32) -> i32> Loop for MovedDays<'_, F> {
    #[inline(always)]
    fn run(self) {
        let Self { days, out, words, day } = self;
        let (first, last) = (Date::MIN.day_number(), Date::MAX.day_number());
        for ((out, days), word) in out.chunks_mut(64).zip(days.chunks(64)).zip(words) {
            let (mut earliest, mut latest) = (first, last);
            for (out, from) in out.iter_mut().zip(days) {
                let moved = day(*from);
                *out = moved;
                (earliest, latest) = (earliest.min(moved), latest.max(moved));
            }
            // Hardly ever does one of them leave the calendar.
            *word = u64::MAX;
            if earliest < first || latest > last {
                for (row, moved) in
                    out.iter_mut().enumerate().filter(|(_, moved)| !(first..=last).contains(*moved))
                {
                    *moved = 0;
                    *word &= !(1 << row);
                }
            }
        }
    }
}

/// One day a row from each day of a column, and a bit a row where there is one, and it lies in the calendar.
pub(super) fn days_from_days<F>(days: &[i32], out: &mut [i32], words: &mut [u64], day: F)
where
    F: Fn(i32) -> (i32, bool),
{
    with_widest_instructions(DaysFromDays { days, out, words, day });
}

struct DaysFromDays<'s, F> {
    days: &'s [i32],
    out: &'s mut [i32],
    words: &'s mut [u64],
    day: F,
}

impl<F: Fn(i32) -> (i32, bool)> Loop for DaysFromDays<'_, F> {
    #[inline(always)]
    fn run(self) {
        let Self { days, out, words, day } = self;
        let (first, last) = (Date::MIN.day_number(), Date::MAX.day_number());
        for ((out, days), word) in out.chunks_mut(64).zip(days.chunks(64)).zip(words) {
            // Days and whether there is one in loops of their own, so that both are turned into vector instructions.
            let mut there = [0_u8; 64];
            for ((out, there), from) in out.iter_mut().zip(&mut there).zip(days) {
                let (moved, exists) = day(*from);
                let is_there = exists & (moved >= first) & (moved <= last);
                *out = if is_there { moved } else { 0 };
                *there = u8::from(is_there);
            }
            *word = bits_of(&there);
        }
    }
}

/// A bit for each byte, which is 0 or 1, in their order.
#[inline(always)]
pub(super) fn bits_of(bytes: &[u8; 64]) -> u64 {
    let (eights, _) = bytes.as_chunks::<8>();
    eights.iter().enumerate().fold(0, |word, (nth, eight)| {
        // The product brings the lowest bit of every byte into its highest byte, without carries.
        let bits = u64::from_le_bytes(*eight).wrapping_mul(0x0102_0408_1020_4080) >> 56;
        word | (bits << (8 * nth))
    })
}
