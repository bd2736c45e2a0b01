//! Loops that work out one number of a row from one or two, with nothing between them but arithmetic.

use super::blocks::Lane;
use super::dispatch::{Loop, with_widest_instructions};
use super::validity::set_word;
use crate::date::Date;
use alloc::vec;

/// One number a row from the day of each; what is in an empty row is worked out too.
pub(super) fn from_lane<T, F>(days: Lane<'_>, out: &mut [T], number: F)
where
    T: Copy,
    F: Fn(i32) -> T,
{
    with_widest_instructions(FromLane { days, out, number });
}

struct FromLane<'s, T, F> {
    days: Lane<'s>,
    out: &'s mut [T],
    number: F,
}

impl<T: Copy, F: Fn(i32) -> T> Loop for FromLane<'_, T, F> {
    #[inline(always)]
    fn run(self) {
        match self.days {
            Lane::Each(days) => {
                for (out, day) in self.out.iter_mut().zip(days) {
                    *out = (self.number)(*day);
                }
            }
            Lane::Every(day) => self.out.fill((self.number)(day)),
        }
    }
}

/// One number a row from the days of two ends.
pub(super) fn from_ends<F>(starts: Lane<'_>, ends: Lane<'_>, out: &mut [i32], number: F)
where
    F: Fn(i32, i32) -> i32,
{
    with_widest_instructions(FromEnds { starts, ends, out, number });
}

struct FromEnds<'s, F> {
    starts: Lane<'s>,
    ends: Lane<'s>,
    out: &'s mut [i32],
    number: F,
}

impl<F: Fn(i32, i32) -> i32> Loop for FromEnds<'_, F> {
    #[inline(always)]
    fn run(self) {
        let Self { starts, ends, out, number } = self;
        match (starts, ends) {
            (Lane::Each(starts), Lane::Each(ends)) => {
                for ((out, start), end) in out.iter_mut().zip(starts).zip(ends) {
                    *out = number(*start, *end);
                }
            }
            (Lane::Each(starts), Lane::Every(end)) => {
                for (out, start) in out.iter_mut().zip(starts) {
                    *out = number(*start, end);
                }
            }
            (Lane::Every(start), Lane::Each(ends)) => {
                for (out, end) in out.iter_mut().zip(ends) {
                    *out = number(start, *end);
                }
            }
            (Lane::Every(start), Lane::Every(end)) => out.fill(number(start, end)),
        }
    }
}

/// Two numbers a row from the days of two ends, made into three narrow ones.
pub(super) fn three_from_ends<F, G>(starts: Lane<'_>, ends: Lane<'_>, out: ThreeColumns<'_>, two: F, three: G)
where
    F: Fn(i32, i32) -> (i32, i32),
    G: Fn(i32, i32) -> (i16, i8, i8),
{
    with_widest_instructions(ThreeFromEnds { starts, ends, out, two, three });
}

/// The columns that [`three_from_ends`] writes.
pub(super) type ThreeColumns<'s> = (&'s mut [i16], &'s mut [i8], &'s mut [i8]);

struct ThreeFromEnds<'s, F, G> {
    starts: Lane<'s>,
    ends: Lane<'s>,
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
            // By way of the stack, so that the compiler sees that the bytes written are not those read.
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

/// A number of days from a row on, in a chunk of 64.
#[inline(always)]
pub(super) fn days_of(dates: &Lane<'_>, from: usize, rows: usize) -> [i32; 64] {
    let mut days = [0; 64];
    match dates {
        Lane::Each(column) => days[..rows].copy_from_slice(&column[from..from + rows]),
        Lane::Every(day) => days.fill(*day),
    }
    days
}

/// One day a row from each day of a column; of the bits, which are set, those are cleared whose day leaves the calendar.
pub(super) fn moved_days<F>(days: Lane<'_>, out: &mut [i32], validity: &mut [u8], day: F)
where
    F: Fn(i32) -> i32,
{
    match days {
        Lane::Each(days) => with_widest_instructions(MovedDays { days, out, validity, day }),
        Lane::Every(from) => {
            let days = &vec![from; out.len()];
            with_widest_instructions(MovedDays { days, out, validity, day });
        }
    }
}

struct MovedDays<'s, F> {
    days: &'s [i32],
    out: &'s mut [i32],
    validity: &'s mut [u8],
    day: F,
}

impl<F: Fn(i32) -> i32> Loop for MovedDays<'_, F> {
    #[inline(always)]
    fn run(self) {
        let Self { days, out, validity, day } = self;
        let (first, last) = (Date::MIN.day_number(), Date::MAX.day_number());
        for ((out, days), bits) in out.chunks_mut(64).zip(days.chunks(64)).zip(validity.chunks_mut(8)) {
            let (mut earliest, mut latest) = (first, last);
            for (out, from) in out.iter_mut().zip(days) {
                let moved = day(*from);
                *out = moved;
                (earliest, latest) = (earliest.min(moved), latest.max(moved));
            }
            // Hardly ever does one of them leave the calendar.
            if earliest < first || latest > last {
                let mut word = u64::MAX;
                for (row, moved) in
                    out.iter_mut().enumerate().filter(|(_, moved)| !(first..=last).contains(*moved))
                {
                    *moved = 0;
                    word &= !(1 << row);
                }
                set_word(bits, word);
            }
        }
    }
}

/// One day a row from each day of a column, and a bit a row where there is one, and it lies in the calendar.
pub(super) fn days_from_days<F>(days: Lane<'_>, out: &mut [i32], validity: &mut [u8], day: F)
where
    F: Fn(i32) -> (i32, bool),
{
    match days {
        Lane::Each(days) => with_widest_instructions(DaysFromDays { days, out, validity, day }),
        Lane::Every(from) => {
            let days = &vec![from; out.len()];
            with_widest_instructions(DaysFromDays { days, out, validity, day });
        }
    }
}

struct DaysFromDays<'s, F> {
    days: &'s [i32],
    out: &'s mut [i32],
    validity: &'s mut [u8],
    day: F,
}

impl<F: Fn(i32) -> (i32, bool)> Loop for DaysFromDays<'_, F> {
    #[inline(always)]
    fn run(self) {
        let Self { days, out, validity, day } = self;
        let (first, last) = (Date::MIN.day_number(), Date::MAX.day_number());
        for ((out, days), bits) in out.chunks_mut(64).zip(days.chunks(64)).zip(validity.chunks_mut(8)) {
            // Days and whether there is one in loops of their own, so that both are turned into vector instructions.
            let mut there = [0_u8; 64];
            for ((out, there), from) in out.iter_mut().zip(&mut there).zip(days) {
                let (moved, exists) = day(*from);
                let is_there = exists & (moved >= first) & (moved <= last);
                *out = if is_there { moved } else { 0 };
                *there = u8::from(is_there);
            }
            set_word(bits, bits_of(&there));
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
