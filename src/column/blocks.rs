//! Columns of days walked through in blocks, so that day numbers of any origin are safe to work with.

use super::owned::clear_behind;
use super::slices::{Checked, Values, keep_valid};
use super::validity::and_word;
use crate::date::Date;
use core::ops::Range;

/// Day numbers of a block of rows, all of them in the calendar, or one for all of its rows.
#[derive(Clone, Copy)]
pub(super) enum Lane<'s> {
    Each(&'s [i32]),
    Every(i32),
}

impl<'s> Lane<'s> {
    /// The days of some of the rows.
    pub(super) fn part(self, rows: Range<usize>) -> Self {
        match self {
            Self::Each(days) => Self::Each(&days[rows]),
            Self::Every(day) => Self::Every(day),
        }
    }
}

/// Rows that are looked at before they are worked with, so few that they stay in the nearest cache.
const BLOCK: usize = 1024;

/// Hands on the days of a number of rows, block by block, with the bits of the block's rows, all of them set; afterwards
/// those are cleared of which an input is empty. Rows that are empty hold any day of the calendar.
pub(super) fn in_blocks<const N: usize>(
    inputs: [Values<'_, Date>; N],
    rows: usize,
    validity: &mut [u8],
    mut work: impl FnMut([Lane<'_>; N], Range<usize>, &mut [u8]),
) {
    let is_checked = |input: &Values<'_, Date>| match input {
        Values::Each(column) => column.checked() == Checked::Already,
        Values::Every(_) => true,
    };
    validity.fill(u8::MAX);
    if inputs.iter().all(is_checked) {
        let lanes = inputs.each_ref().map(|input| lane_of(input, 0..rows));
        work(lanes, 0..rows, validity);
    } else {
        let mut clamped = [[0; BLOCK]; N];
        for first in (0..rows).step_by(BLOCK) {
            let block = first..rows.min(first + BLOCK);
            let bits = &mut validity[first / 8..block.end.div_ceil(8)];
            let mut lanes = [Lane::Every(0); N];
            let mut strays = [false; N];
            for (((lane, input), room), strays) in
                lanes.iter_mut().zip(&inputs).zip(&mut clamped).zip(&mut strays)
            {
                *lane = lane_of(input, block.clone());
                if let Lane::Each(days) = *lane
                    && !all_in_calendar(days)
                {
                    *strays = true;
                    let room = &mut room[..days.len()];
                    room.iter_mut().zip(days).for_each(|(room, day)| *room = (*day).clamp(FIRST, LAST));
                    *lane = Lane::Each(room);
                }
            }
            work(lanes, block.clone(), bits);
            for (input, _) in inputs.iter().zip(strays).filter(|(_, strays)| *strays) {
                if let Lane::Each(days) = lane_of(input, block.clone()) {
                    keep_in_calendar(days, bits);
                }
            }
        }
    }
    inputs.iter().for_each(|input| keep_valid(validity, input.validity()));
    // A loop over 64 rows may have written after the last one.
    clear_behind(validity, rows);
}

const FIRST: i32 = Date::MIN.day_number();
const LAST: i32 = Date::MAX.day_number();

fn lane_of<'s>(input: &Values<'s, Date>, rows: Range<usize>) -> Lane<'s> {
    match input {
        Values::Each(column) => Lane::Each(&column.values()[rows]),
        Values::Every(date) => Lane::Every(date.day_number()),
    }
}

fn all_in_calendar(days: &[i32]) -> bool {
    let (mut earliest, mut latest) = (FIRST, LAST);
    for day in days {
        (earliest, latest) = (earliest.min(*day), latest.max(*day));
    }
    (earliest, latest) == (FIRST, LAST)
}

fn keep_in_calendar(days: &[i32], bits: &mut [u8]) {
    for (days, bits) in days.chunks(64).zip(bits.chunks_mut(8)) {
        let is_there =
            |word: u64, (row, day): (usize, &i32)| word | u64::from((FIRST..=LAST).contains(day)) << row;
        and_word(bits, days.iter().enumerate().fold(0, is_there));
    }
}
