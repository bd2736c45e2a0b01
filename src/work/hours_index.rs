//! Summing opening hours in constant time.

use super::day::DayKind;
use super::opening_hours::{DAY, OpeningHours};
use super::rest_days::RestDays;
use crate::date::Weekday;
use alloc::sync::Arc;
use alloc::vec::Vec;

/// Opening hours, with a running sum of them by the day.
#[derive(Clone)]
pub(super) struct HoursIndex {
    pub(super) hours: OpeningHours,
    before: Before,
}

#[derive(Clone)]
enum Before {
    /// Of a week before each weekday from Monday, and of the whole week.
    Weekly([i64; 8]),
    /// Before each covered day from the first on, and before the day after the last.
    Daily(i64, Arc<Vec<i64>>),
}

impl HoursIndex {
    pub(super) fn of(hours: OpeningHours, rest_days: RestDays, covered: Option<(i32, &[DayKind])>) -> Self {
        let of_day = |day: Weekday| hours.before(day, DAY);
        let before = match covered {
            None => {
                let mut before = [0; 8];
                let days = Weekday::ALL.into_iter();
                let open = days.map(|day| if rest_days.contains(day) { 0 } else { of_day(day) });
                let sums = open.scan(0, |sum, open| {
                    *sum += open;
                    Some(*sum)
                });
                before.iter_mut().skip(1).zip(sums).for_each(|(place, sum)| *place = sum);
                Before::Weekly(before)
            }
            Some((first, kinds)) => {
                let mut before = Vec::with_capacity(kinds.len() + 1);
                let mut sum = 0;
                before.push(0);
                for (day, kind) in (first..).zip(kinds) {
                    if kind.is_working() {
                        sum += of_day(Weekday::of_day_number(day));
                    }
                    before.push(sum);
                }
                Before::Daily(first.into(), Arc::new(before))
            }
        };
        Self { hours, before }
    }

    /// The microseconds open before a day.
    pub(super) fn before(&self, day: i32) -> Option<i64> {
        match &self.before {
            Before::Weekly(before) => {
                // 1970-01-01 was a Thursday, three days after its Monday.
                let days = i64::from(day) + 3;
                let week = before.last()?;
                let place = usize::try_from(days.rem_euclid(7)).ok()?;
                days.div_euclid(7).checked_mul(*week)?.checked_add(*before.get(place)?)
            }
            Before::Daily(first, before) => {
                before.get(usize::try_from(i64::from(day) - first).ok()?).copied()
            }
        }
    }
}
