//! A distribution counted by several at once.

use super::counted::{DistributionTally, MOST_KNOWN};
use super::shown::report_of;
use crate::error::RecordsError;
use crate::reports::groups::check_held;
use crate::reports::{Report, Tally, key_of, of_one_report};
use crate::table::{Gap, Layout, Origins, Table};
use std::any::Any;
use std::cmp::Reverse;
use std::sync::Arc;

impl Tally for DistributionTally {
    fn add(
        &mut self,
        layout: &Layout,
        table: &Table,
        rows: &[usize],
        origins: &Origins,
    ) -> Result<(), RecordsError> {
        let bound = Arc::clone(&self.bound);
        for row in rows {
            let Some(value) = table.exact(bound.of, *row) else {
                let gap = table.gap(bound.of, *row).unwrap_or(Gap::Blank);
                *self.without.entry(gap).or_insert(0) += 1;
                continue;
            };
            *self.values.entry(value).or_insert(0) += 1;
            if let Some((band, _)) = &bound.band {
                let bucket = table.order_number(*band, *row).and_then(|bucket| usize::try_from(bucket).ok());
                *self.buckets.entry(bucket.unwrap_or(usize::MAX)).or_insert(0) += 1;
            }
            let origin = origins.of(*row);
            let id = origin.id();
            let key = || match layout.key.is_empty() {
                true => layout.place_in_words(origin),
                false => key_of(layout, table, *row),
            };
            let is_small = self.smallest.len() < MOST_KNOWN
                || self.smallest.last_key_value().is_some_and(|(last, _)| (value, id) < *last);
            let is_large = self.largest.len() < MOST_KNOWN
                || self.largest.first_key_value().is_some_and(|(first, _)| (value, Reverse(id)) > *first);
            if is_small {
                self.smallest.insert((value, id), key());
            }
            if is_large {
                self.largest.insert((value, Reverse(id)), key());
            }
            self.trim();
        }
        check_held(self.values.len(), &bound.title)
    }

    fn merge(&mut self, other: Box<dyn Tally>, _: &Layout) -> Result<(), RecordsError> {
        let other = of_one_report::<Self>(other)?;
        for (value, count) in other.values {
            *self.values.entry(value).or_insert(0) += count;
        }
        for (bucket, count) in other.buckets {
            *self.buckets.entry(bucket).or_insert(0) += count;
        }
        for (gap, count) in other.without {
            *self.without.entry(gap).or_insert(0) += count;
        }
        self.smallest.extend(other.smallest);
        self.largest.extend(other.largest);
        self.trim();
        check_held(self.values.len(), &self.bound.title)
    }

    fn finish(self: Box<Self>, layout: &Layout) -> Result<Report, RecordsError> {
        report_of(&self, layout)
    }

    fn into_any(self: Box<Self>) -> Box<dyn Any> {
        self
    }
}
