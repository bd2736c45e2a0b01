//! Counting working days in constant time.

use super::day::DayKind;
use super::rest_days::RestDays;
use crate::date::{Date, Weekday};
use alloc::vec::Vec;

/// A running count of working days by the day, and the working days in their order.
pub(crate) struct Index {
    first: i32,
    /// How many working days lie before each covered day, and before the day after the last.
    before: Vec<u32>,
    working: Vec<i32>,
}

impl Index {
    pub(super) fn of(first: Date, kinds: &[DayKind]) -> Self {
        let first = first.day_number();
        let mut before = Vec::with_capacity(kinds.len() + 1);
        let mut working = Vec::with_capacity(kinds.len());
        before.push(0);
        for (day, kind) in (first..).zip(kinds) {
            if kind.is_working() {
                working.push(day);
            }
            before.push(working.len() as u32);
        }
        Self { first, before, working }
    }

    /// The first day that it knows of.
    pub(super) fn first(&self) -> i32 {
        self.first
    }

    /// How many working days lie before a day, which is a covered one or the day after the last.
    #[inline]
    pub(crate) fn before(&self, day_number: i32) -> Option<i64> {
        let place = usize::try_from(i64::from(day_number) - i64::from(self.first)).ok()?;
        self.before.get(place).map(|count| i64::from(*count))
    }

    /// The working day with a number, from 0.
    #[inline]
    pub(crate) fn working_day(&self, number: i64) -> Option<i32> {
        self.working.get(usize::try_from(number).ok()?).copied()
    }

    /// How many working days there are.
    pub(super) fn count(&self) -> i64 {
        self.working.len() as i64
    }

    /// The running count, and the first day it represents, for loops over columns.
    pub(crate) fn running_count(&self) -> (&[u32], i32) {
        (&self.before, self.first)
    }

    /// The working days in their order, for loops over columns.
    pub(crate) fn working_days(&self) -> &[i32] {
        &self.working
    }
}

/// The same for rest days alone, by arithmetic over whole weeks.
pub(crate) struct Weekly {
    /// Working days of the week before each weekday from Monday, and of the whole week.
    before: [i64; 8],
    /// Days from Monday of the working days.
    working: Vec<i64>,
}

/// The Monday of the week of 1970-01-01.
const MONDAY: i64 = -3;

impl Weekly {
    pub(super) fn of(rest_days: RestDays) -> Self {
        let mut before = [0; 8];
        let mut working = Vec::new();
        for (place, day) in Weekday::ALL.into_iter().enumerate() {
            if !rest_days.contains(day) {
                working.push(place as i64);
            }
            before[place + 1] = working.len() as i64;
        }
        Self { before, working }
    }

    /// How many working days lie before a day, from some day on.
    pub(crate) fn before(&self, day_number: i32) -> i64 {
        let days = i64::from(day_number) - MONDAY;
        days.div_euclid(7) * self.before[7] + self.before[days.rem_euclid(7) as usize]
    }

    /// The working day with a number in the same row; `None` where there is none at all.
    pub(crate) fn working_day(&self, number: i64) -> Option<i64> {
        let in_week = self.working.len() as i64;
        if in_week == 0 {
            return None;
        }
        let place = self.working.get(number.rem_euclid(in_week) as usize)?;
        number.div_euclid(in_week).checked_mul(7)?.checked_add(MONDAY + place)
    }

    /// Whether there is a working day at all.
    pub(super) fn has_working_days(&self) -> bool {
        !self.working.is_empty()
    }
}
