//! Buckets that every whole number falls into exactly one of.

use crate::error::{Error, ErrorKind};

/// What the numbers in buckets are, which decides how the first bucket is called.
///
/// ```
/// use mild_ledger::{AgingBuckets, BucketMeasure};
/// let buckets = AgingBuckets::from_upper_edges(&[0, 30], BucketMeasure::WholeNumber)?;
/// assert_eq!(buckets.label(0), "Up to 0");
/// # Ok::<(), mild_ledger::Error>(())
/// ```
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub enum BucketMeasure {
    /// Days from a due date to the as-of date: 0 and below is "Not yet due" where the first edge is 0.
    DaysOverdue,
    /// Any other whole number.
    WholeNumber,
}

/// Buckets made from upper edges, each edge included in the bucket it closes.
///
/// The edges increase strictly, so buckets neither overlap nor leave a gap, and there is one more of them than
/// edges.
///
/// ```
/// use mild_ledger::{AgingBuckets, BucketMeasure};
///
/// let buckets = AgingBuckets::from_upper_edges(&[0, 30, 60, 90], BucketMeasure::DaysOverdue)?;
/// assert_eq!(buckets.labels(), ["Not yet due", "1–30", "31–60", "61–90", "Over 90"]);
/// assert_eq!(buckets.label(buckets.bucket_of(30)), "1–30");
/// assert_eq!(buckets.label(buckets.bucket_of(31)), "31–60");
/// # Ok::<(), mild_ledger::Error>(())
/// ```
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct AgingBuckets {
    edges: Vec<i64>,
    labels: Vec<String>,
}

impl AgingBuckets {
    /// The most edges there can be.
    pub const MOST_EDGES: usize = 1000;

    /// Buckets from one to a thousand upper edges.
    ///
    /// # Errors
    /// [`ErrorKind::NotInOrder`] where an edge is not above the one before it; [`ErrorKind::OutOfRange`] for no
    /// edge at all or more than a thousand.
    ///
    /// ```
    /// use mild_ledger::{AgingBuckets, BucketMeasure};
    /// assert!(AgingBuckets::from_upper_edges(&[0, 30, 30], BucketMeasure::DaysOverdue).is_err());
    /// ```
    pub fn from_upper_edges(edges: &[i64], measure: BucketMeasure) -> Result<Self, Error> {
        if edges.is_empty() || edges.len() > Self::MOST_EDGES {
            return Err(Error::new(
                ErrorKind::OutOfRange,
                format!("buckets cannot be made from {} edges", edges.len()),
                "1 to 1000 edges",
            ));
        }
        if let Some(pair) = edges.windows(2).find(|pair| pair[0] >= pair[1]) {
            return Err(Error::new(
                ErrorKind::NotInOrder,
                format!("the edge {} does not lie above the edge {} before it", pair[1], pair[0]),
                "edges that strictly increase",
            ));
        }
        let labels = labels_of(edges, measure);
        Ok(Self { edges: edges.to_vec(), labels })
    }

    /// The number of the bucket, from 0, that a value falls into; every value falls into one.
    ///
    /// ```
    /// # use mild_ledger::{AgingBuckets, BucketMeasure};
    /// let buckets = AgingBuckets::from_upper_edges(&[0], BucketMeasure::DaysOverdue)?;
    /// assert_eq!((buckets.bucket_of(i64::MIN), buckets.bucket_of(i64::MAX)), (0, 1));
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn bucket_of(&self, value: i64) -> usize {
        self.edges.partition_point(|edge| *edge < value)
    }

    /// The names of the buckets in the order of the edges: one more than there are edges.
    ///
    /// ```
    /// # use mild_ledger::{AgingBuckets, BucketMeasure};
    /// let buckets = AgingBuckets::from_upper_edges(&[25, 35], BucketMeasure::WholeNumber)?;
    /// assert_eq!(buckets.labels(), ["Up to 25", "26–35", "Over 35"]);
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn labels(&self) -> &[String] {
        &self.labels
    }

    /// The name of the bucket with this number; an empty text for a number there is no bucket of.
    ///
    /// ```
    /// # use mild_ledger::{AgingBuckets, BucketMeasure};
    /// let buckets = AgingBuckets::from_upper_edges(&[25], BucketMeasure::WholeNumber)?;
    /// assert_eq!((buckets.label(1), buckets.label(2)), ("Over 25", ""));
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn label(&self, bucket: usize) -> &str {
        self.labels.get(bucket).map_or("", String::as_str)
    }
}

fn labels_of(edges: &[i64], measure: BucketMeasure) -> Vec<String> {
    let first = match (measure, edges[0]) {
        (BucketMeasure::DaysOverdue, 0) => "Not yet due".to_owned(),
        (_, edge) => format!("Up to {edge}"),
    };
    let between = edges.windows(2).map(|pair| {
        // The edge below is less than another one, so one more cannot overflow.
        let (low, high) = (pair[0] + 1, pair[1]);
        match low {
            _ if low == high => format!("{high}"),
            _ if low < 0 => format!("{low} to {high}"),
            _ => format!("{low}–{high}"),
        }
    });
    let last = format!("Over {}", edges[edges.len() - 1]);
    std::iter::once(first).chain(between).chain(std::iter::once(last)).collect()
}
