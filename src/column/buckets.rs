//! Sorting a column of figures into buckets.

use super::{CountColumn, Mask};
use crate::receivables::AgingBuckets;

/// The bucket of each row, by its number.
///
/// ```
/// use mild_ledger::column::{Dates, Intervals, into_buckets};
/// use mild_ledger::{AgingBuckets, BucketMeasure, CountRule, Date};
///
/// let buckets = AgingBuckets::from_upper_edges(&[0, 30], BucketMeasure::DaysOverdue)?;
/// let (due, as_of) = ("2026-09-01".parse()?, "2026-09-30".parse()?);
/// let days = Intervals::between(Dates::Every(due), Dates::Every(as_of), 1)?.count(CountRule::DAYS);
/// assert_eq!(into_buckets(&days, &buckets).get(0), Some(1));
/// # Ok::<(), mild_ledger::Error>(())
/// ```
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct BucketColumn {
    numbers: Vec<u16>,
    present: Mask,
}

impl BucketColumn {
    /// The number of the bucket that a row falls into; `None` where its figure is empty or there is no such
    /// row.
    ///
    /// ```
    /// # use mild_ledger::{AgingBuckets, BucketMeasure, CountRule, Date};
    /// # use mild_ledger::column::{Dates, Intervals, into_buckets};
    /// # let buckets = AgingBuckets::from_upper_edges(&[0], BucketMeasure::DaysOverdue)?;
    /// # let days = Intervals::between(Dates::Every(Date::MIN), Dates::Every(Date::MIN), 0)?.count(CountRule::DAYS);
    /// assert_eq!(into_buckets(&days, &buckets).get(0), None);
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn get(&self, row: usize) -> Option<usize> {
        if self.present.is_present(row) { Some(usize::from(self.numbers[row])) } else { None }
    }

    /// The rows that fall into a bucket.
    ///
    /// ```
    /// # use mild_ledger::{AgingBuckets, BucketMeasure, CountRule, Date};
    /// # use mild_ledger::column::{Dates, Intervals, into_buckets};
    /// # let buckets = AgingBuckets::from_upper_edges(&[0], BucketMeasure::DaysOverdue)?;
    /// # let days = Intervals::between(Dates::Every(Date::MIN), Dates::Every(Date::MIN), 3)?.count(CountRule::DAYS);
    /// assert_eq!(into_buckets(&days, &buckets).mask().present(), 3);
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn mask(&self) -> &Mask {
        &self.present
    }
}

/// The bucket of every figure of a column, as [`AgingBuckets::bucket_of`] gives it for one; empty where the
/// figure is.
///
/// ```
/// # use mild_ledger::{AgingBuckets, BucketMeasure, CountRule, Date};
/// # use mild_ledger::column::{Dates, Intervals, into_buckets};
/// # let buckets = AgingBuckets::from_upper_edges(&[0], BucketMeasure::DaysOverdue)?;
/// let day = Dates::Every(Date::MAX);
/// let zeros = Intervals::between(day, day, 2)?.count(CountRule::DAYS);
/// assert_eq!(into_buckets(&zeros, &buckets).get(1), Some(0));
/// # Ok::<(), mild_ledger::Error>(())
/// ```
#[must_use]
pub fn into_buckets(figures: &CountColumn, buckets: &AgingBuckets) -> BucketColumn {
    // There are at most a thousand edges, so every number fits.
    let numbers = figures.values().iter().map(|value| buckets.bucket_of(i64::from(*value)) as u16).collect();
    BucketColumn { numbers, present: figures.mask().clone() }
}

/// Buckets by their numbers; a number beyond the thousandth bucket is that one's.
impl FromIterator<Option<usize>> for BucketColumn {
    fn from_iter<I: IntoIterator<Item = Option<usize>>>(buckets: I) -> Self {
        let (mut numbers, mut present) = (Vec::new(), Mask::new());
        for bucket in buckets {
            match bucket {
                Some(_) => present.push_present(),
                None => present.push_empty(),
            }
            numbers.push(bucket.unwrap_or(0).min(AgingBuckets::MOST_EDGES) as u16);
        }
        Self { numbers, present }
    }
}
