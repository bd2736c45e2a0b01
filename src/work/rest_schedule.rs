//! Rest days of the week that change at a date.

use super::rest_days::RestDays;
use crate::date::{Date, Weekday};
use alloc::format;
use alloc::string::{String, ToString};
use alloc::vec::Vec;

/// The rest days from the beginning on, and those of later dates.
#[derive(Debug, Clone, PartialEq, Eq)]
pub(super) struct RestSchedule {
    first: RestDays,
    /// By date; each holds up to the next.
    changes: Vec<(Date, RestDays)>,
}

impl RestSchedule {
    /// Rest days, and what they change to at dates, in any order; of two changes at one date the later one holds.
    pub(super) fn new(first: RestDays, changes: impl IntoIterator<Item = (Date, RestDays)>) -> Self {
        let mut schedule = Self { first, changes: Vec::new() };
        for change in changes {
            schedule = schedule.changed(change);
        }
        schedule
    }

    pub(super) fn changed(mut self, (date, rest_days): (Date, RestDays)) -> Self {
        self.changes.retain(|(other, _)| *other != date);
        self.changes.push((date, rest_days));
        self.changes.sort_unstable_by_key(|(date, _)| *date);
        self
    }

    /// The rest days of a date.
    pub(super) fn on(&self, date: Date) -> RestDays {
        let behind = self.changes.partition_point(|(from, _)| *from <= date);
        behind.checked_sub(1).and_then(|nth| self.changes.get(nth)).map_or(self.first, |(_, days)| *days)
    }

    pub(super) fn is_rest_day(&self, date: Date) -> bool {
        self.on(date).is_on(date)
    }

    /// Whether a day of the calendar is one, be it a date or not.
    pub(super) fn is_rest_day_number(&self, day: i32) -> bool {
        match Date::in_range(day.into()) {
            Some(date) => self.is_rest_day(date),
            None => self.last().contains(Weekday::of_day_number(day)),
        }
    }

    /// Those that hold in the end.
    pub(super) fn last(&self) -> RestDays {
        self.changes.last().map_or(self.first, |(_, days)| *days)
    }

    pub(super) fn changes(&self) -> &[(Date, RestDays)] {
        &self.changes
    }

    /// What of it holds in some days.
    pub(super) fn within(&self, first: Date, last: Date) -> Self {
        let inside = self.changes.iter().filter(|(date, _)| first < *date && *date <= last);
        Self { first: self.on(first), changes: inside.copied().collect() }
    }

    /// Every set of rest days that holds at some time.
    pub(super) fn all(&self) -> impl Iterator<Item = RestDays> {
        core::iter::once(self.first).chain(self.changes.iter().map(|(_, days)| *days))
    }

    /// Two of them together.
    pub(super) fn joined(&self, other: &Self, join: impl Fn(RestDays, RestDays) -> RestDays) -> Self {
        let dates = self.changes.iter().chain(&other.changes).map(|(date, _)| *date);
        let changes: Vec<_> = dates.map(|date| (date, join(self.on(date), other.on(date)))).collect();
        Self::new(join(self.first, other.first), changes)
    }

    /// In words, `Saturday, Sunday` or `Friday; from 2022-01-01 Saturday, Sunday`.
    pub(super) fn said(&self) -> String {
        let changes = self.changes.iter().map(|(date, days)| format!("; from {date} {days}"));
        core::iter::once(self.first.to_string()).chain(changes).collect()
    }
}

impl From<RestDays> for RestSchedule {
    fn from(first: RestDays) -> Self {
        Self { first, changes: Vec::new() }
    }
}
