//! The counts of a distribution: its values, and the records of the most extreme ones.

use super::BoundDistribution;
use crate::handover::handed_over;
use crate::table::{Gap, RowId};
use mild_ledger::Quotient;
use std::cmp::Reverse;
use std::collections::{BTreeMap, HashMap};
use std::sync::Arc;

/// How many of the smallest and of the largest values are known with their records.
pub(super) const MOST_KNOWN: usize = 200;

/// Values in their order, with the keys of their records; of those of one size the first record is at the end that counts.
pub(super) type Known<I> = BTreeMap<(Quotient, I), String>;

/// The values of one figure.
pub(super) struct DistributionTally {
    pub(super) bound: Arc<BoundDistribution>,
    pub(super) values: HashMap<Quotient, u64>,
    pub(super) smallest: Known<RowId>,
    pub(super) largest: Known<Reverse<RowId>>,
    /// Rows by the number of their bucket, where the plan has some.
    pub(super) buckets: BTreeMap<usize, u64>,
    /// Rows without a value, by the reason.
    pub(super) without: BTreeMap<Gap, u64>,
}

handed_over!(DistributionTally: values, smallest, largest, buckets, without; known: bound);

impl DistributionTally {
    pub(super) fn of(bound: Arc<BoundDistribution>) -> Self {
        Self {
            bound,
            values: HashMap::new(),
            smallest: Known::new(),
            largest: Known::new(),
            buckets: BTreeMap::new(),
            without: BTreeMap::new(),
        }
    }

    pub(super) fn trim(&mut self) {
        while self.smallest.len() > MOST_KNOWN {
            self.smallest.pop_last();
        }
        while self.largest.len() > MOST_KNOWN {
            self.largest.pop_first();
        }
    }
}
