//! Sorting a column of figures into buckets.

use super::{Column, Values};
use crate::number::Quotient;
use crate::receivables::AgingBuckets;

/// The number of the bucket of every whole figure, as [`AgingBuckets::bucket_of`] gives it for one; empty where the
/// figure is.
///
/// ```
/// use mild_ledger::column::{Intervals, into_buckets};
/// use mild_ledger::{AgingBuckets, BucketMeasure, CountRule, Date};
///
/// let buckets = AgingBuckets::from_upper_edges(&[0, 30], BucketMeasure::DaysOverdue)?;
/// let (due, as_of): (Date, Date) = ("2026-09-01".parse()?, "2026-09-30".parse()?);
/// let days = Intervals::between(due, as_of)?.count(CountRule::DAYS);
/// assert_eq!(into_buckets(&days, &buckets).get(0), Some(1));
/// # Ok::<(), mild_ledger::Error>(())
/// ```
#[must_use]
pub fn into_buckets<'c>(figures: impl Into<Values<'c, i32>>, buckets: &AgingBuckets) -> Column<u16> {
    let figures = figures.into();
    Column::of_rows(figures.rows().unwrap_or(1), |row| {
        figures.get(row).map(|figure| narrow(buckets.bucket_of(figure.into())))
    })
}

/// The number of the bucket of every exact figure, as [`AgingBuckets::bucket_of_exact`] gives it for one; empty where the
/// figure is.
///
/// ```
/// use mild_ledger::{AgingBuckets, BucketMeasure, Quotient, column::exact_into_buckets};
/// let buckets = AgingBuckets::from_upper_edges(&[1, 2], BucketMeasure::Fractional)?;
/// let three_halves = Quotient::of(3, 2).unwrap_or(Quotient::ZERO);
/// assert_eq!(exact_into_buckets(three_halves, &buckets).get(0), Some(1));
/// # Ok::<(), mild_ledger::Error>(())
/// ```
#[must_use]
pub fn exact_into_buckets<'c>(
    figures: impl Into<Values<'c, Quotient>>,
    buckets: &AgingBuckets,
) -> Column<u16> {
    let figures = figures.into();
    Column::of_rows(figures.rows().unwrap_or(1), |row| {
        figures.get(row).map(|figure| narrow(buckets.bucket_of_exact(figure)))
    })
}

fn narrow(bucket: usize) -> u16 {
    // There are at most a thousand edges, so every number fits.
    bucket.min(AgingBuckets::MOST_EDGES) as u16
}
