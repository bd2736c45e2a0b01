//! Buckets that every number falls into exactly one of.

use crate::error::{Error, ErrorKind, quoted};
use crate::number::{Decimal, Quotient};
use alloc::borrow::ToOwned;
use alloc::format;
use alloc::string::String;
use alloc::vec::Vec;
use core::fmt::Display;

/// What the numbers in buckets are, which decides how the buckets between upper edges are called.
///
/// ```
/// use mild_ledger::{AgingBuckets, BucketMeasure};
/// let buckets = AgingBuckets::from_upper_edges(&[0, 30], BucketMeasure::WholeNumber)?;
/// assert_eq!(buckets.label(0), Some("Up to 0"));
/// # Ok::<(), mild_ledger::Error>(())
/// ```
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash)]
#[non_exhaustive]
pub enum BucketMeasure {
    /// Days from a due date to the as-of date: 0 and below is "Not yet due" where the first edge is 0.
    DaysOverdue,
    /// Any other whole number.
    WholeNumber,
    /// Numbers with decimals, so that there are some between any two edges.
    Fractional,
}

/// Buckets made from edges that increase strictly, so that they neither overlap nor leave a gap; there is one more of them
/// than edges. An edge belongs to the bucket that it closes ([`from_upper_edges`](Self::from_upper_edges)) or to the one that
/// it opens ([`from_lower_edges`](Self::from_lower_edges)).
///
/// ```
/// use mild_ledger::{AgingBuckets, BucketMeasure};
///
/// let buckets = AgingBuckets::from_upper_edges(&[0, 30, 60, 90], BucketMeasure::DaysOverdue)?;
/// assert_eq!(buckets.labels(), ["Not yet due", "1–30", "31–60", "61–90", "Over 90"]);
/// assert_eq!(buckets.label(buckets.bucket_of(30)), Some("1–30"));
/// assert_eq!(buckets.label(buckets.bucket_of(31)), Some("31–60"));
/// let ages = AgingBuckets::from_lower_edges(&[25, 35, 45])?;
/// assert_eq!(ages.labels(), ["Under 25", "25 to under 35", "35 to under 45", "45 and over"]);
/// assert_eq!(ages.label(ages.bucket_of(35)), Some("35 to under 45"));
/// # Ok::<(), mild_ledger::Error>(())
/// ```
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct AgingBuckets {
    edges: Vec<Decimal>,
    /// The same edges where all of them are whole numbers of 64 bits, which most are.
    whole_edges: Option<Vec<i64>>,
    closed: ClosedSide,
    /// What lies below it is set apart in a bucket before the others.
    lowest: Option<Decimal>,
    labels: Vec<String>,
}

/// The side of a bucket on which its edge belongs to it.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
enum ClosedSide {
    Upper(BucketMeasure),
    Lower,
}

impl AgingBuckets {
    /// The most edges there can be.
    pub const MOST_EDGES: usize = 1000;

    /// Buckets from one to a thousand upper edges, each included in the bucket it closes.
    ///
    /// # Errors
    /// [`ErrorKind::NotInOrder`] where an edge is not above the one before it; [`ErrorKind::OutOfRange`] for no
    /// edge at all or more than a thousand.
    ///
    /// ```
    /// use mild_ledger::{AgingBuckets, BucketMeasure, Decimal};
    /// assert!(AgingBuckets::from_upper_edges(&[0, 30, 30], BucketMeasure::DaysOverdue).is_err());
    /// let edges = ["0.5", "1"].map(|text| text.parse::<Decimal>().unwrap_or_default());
    /// let halves = AgingBuckets::from_upper_edges(&edges, BucketMeasure::Fractional)?;
    /// assert_eq!(halves.labels(), ["Up to 0.5", "over 0.5 to 1", "Over 1"]);
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    pub fn from_upper_edges<E: Copy + Into<Decimal>>(
        edges: &[E],
        measure: BucketMeasure,
    ) -> Result<Self, Error> {
        Self::of(edges, ClosedSide::Upper(measure), |edges, whole| match (measure, whole) {
            (BucketMeasure::Fractional, _) | (_, None) => upper_labels(edges),
            (measure, Some(edges)) => whole_upper_labels(edges, measure),
        })
    }

    /// Buckets from one to a thousand lower edges, each included in the bucket it opens: for ages and tenure.
    ///
    /// # Errors
    /// Those of [`from_upper_edges`](Self::from_upper_edges).
    ///
    /// ```
    /// use mild_ledger::AgingBuckets;
    /// let tenure = AgingBuckets::from_lower_edges(&[1, 5])?;
    /// assert_eq!(tenure.label(tenure.bucket_of(5)), Some("5 and over"));
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    pub fn from_lower_edges<E: Copy + Into<Decimal>>(edges: &[E]) -> Result<Self, Error> {
        Self::of(edges, ClosedSide::Lower, |edges, _| lower_labels(edges))
    }

    /// The same buckets, and one more before them for what lies below an edge: a record dated after the as-of date is "In the
    /// future", not "Not yet due". Days to an as-of date below 0 are called that, other numbers by the edge. Names of one's own
    /// are given after it.
    ///
    /// # Errors
    /// [`ErrorKind::NotInOrder`] where the edge leaves no room for the first bucket.
    ///
    /// ```
    /// use mild_ledger::{AgingBuckets, BucketMeasure, Decimal};
    /// let since_issue = AgingBuckets::from_upper_edges(&[30, 60], BucketMeasure::DaysOverdue)?.with_lowest(Decimal::ZERO)?;
    /// assert_eq!(since_issue.labels(), ["In the future", "0–30", "31–60", "Over 60"]);
    /// assert_eq!([-1, 0, 30, 31].map(|days| since_issue.bucket_of(days)), [0, 1, 1, 2]);
    /// let tenure = AgingBuckets::from_lower_edges(&[1, 5])?.with_lowest(Decimal::ZERO)?;
    /// assert_eq!(tenure.labels(), ["Under 0", "0 to under 1", "1 to under 5", "5 and over"]);
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    pub fn with_lowest(self, edge: Decimal) -> Result<Self, Error> {
        let first = self.edges.first().copied().unwrap_or_default();
        // An upper edge is in the bucket that it closes, which may be of this one number.
        let has_room = match self.closed {
            ClosedSide::Upper(BucketMeasure::Fractional) | ClosedSide::Lower => edge < first,
            ClosedSide::Upper(_) => edge <= first,
        };
        if !has_room || self.lowest.is_some() {
            let what = format!("the lowest edge {edge} leaves no room below the edge {first}");
            return Err(Error::new(ErrorKind::NotInOrder, what, "one edge that lies below all others"));
        }
        let whole = |number: Decimal| i64::try_from(number.units()).ok().filter(|_| number.decimals() == 0);
        let (below, then) = match (self.closed, whole(edge), whole(first)) {
            (ClosedSide::Lower, ..) => (None, Some(format!("{edge} to under {first}"))),
            (ClosedSide::Upper(BucketMeasure::DaysOverdue), Some(0), Some(0)) => {
                (Some("In the future"), None)
            }
            (ClosedSide::Upper(BucketMeasure::DaysOverdue), _, Some(0)) => (None, None),
            (ClosedSide::Upper(BucketMeasure::DaysOverdue), Some(0), Some(high)) => {
                (Some("In the future"), Some(whole_between(0, high)))
            }
            (ClosedSide::Upper(BucketMeasure::Fractional), ..) => (None, Some(format!("{edge} to {first}"))),
            (_, Some(low), Some(high)) => (None, Some(whole_between(low, high))),
            _ => (None, Some(format!("{edge} to {first}"))),
        };
        let below = below.map_or_else(|| format!("Under {edge}"), ToOwned::to_owned);
        let mut labels = self.labels;
        if let (Some(label), Some(then)) = (labels.first_mut(), then) {
            *label = then;
        }
        labels.insert(0, below);
        Ok(Self { lowest: Some(edge), labels, ..self })
    }

    /// The same buckets under names of one's own, in the order of the edges.
    ///
    /// # Errors
    /// [`ErrorKind::LengthsDiffer`] where there is not a name for each bucket, [`ErrorKind::NotAllowed`] for a blank name and for one
    /// that occurs twice.
    ///
    /// ```
    /// use mild_ledger::{AgingBuckets, BucketMeasure};
    /// let since_issue = AgingBuckets::from_upper_edges(&[-1, 30], BucketMeasure::WholeNumber)?;
    /// let named = since_issue.with_labels(["In the future", "This month", "Older"])?;
    /// assert_eq!(named.label(named.bucket_of(-1)), Some("In the future"));
    /// assert!(named.with_labels(["Old", "Old", "Older"]).is_err());
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    pub fn with_labels<L: Into<String>>(self, labels: impl IntoIterator<Item = L>) -> Result<Self, Error> {
        let labels: Vec<String> = labels.into_iter().map(Into::into).collect();
        if labels.len() != self.labels.len() {
            let what = format!("there are {} names for {} buckets", labels.len(), self.labels.len());
            return Err(Error::new(ErrorKind::LengthsDiffer, what, "a name for each bucket"));
        }
        for (nth, label) in labels.iter().enumerate() {
            if label.trim().is_empty() {
                return Err(Error::new(ErrorKind::NotAllowed, "a bucket has no name", "a name for each"));
            }
            if labels.iter().take(nth).any(|other| other.trim() == label.trim()) {
                let what = format!("two buckets are called {}", quoted(label));
                return Err(Error::new(ErrorKind::NotAllowed, what, "a name of its own for each"));
            }
        }
        Ok(Self { labels, ..self })
    }

    fn of<E: Copy + Into<Decimal>>(
        edges: &[E],
        closed: ClosedSide,
        labels: impl FnOnce(&[Decimal], Option<&[i64]>) -> Vec<String>,
    ) -> Result<Self, Error> {
        if edges.is_empty() || edges.len() > Self::MOST_EDGES {
            return Err(Error::new(
                ErrorKind::OutOfRange,
                format!("buckets cannot be made from {} edges", edges.len()),
                "1 to 1000 edges",
            ));
        }
        let edges: Vec<Decimal> = edges.iter().map(|edge| (*edge).into()).collect();
        if let Some(pair) = edges.windows(2).find(|pair| pair[0] >= pair[1]) {
            return Err(Error::new(
                ErrorKind::NotInOrder,
                format!("the edge {} does not lie above the edge {} before it", pair[1], pair[0]),
                "edges that strictly increase",
            ));
        }
        let whole_edges: Option<Vec<i64>> = edges
            .iter()
            .map(|edge| i64::try_from(edge.units()).ok().filter(|_| edge.decimals() == 0))
            .collect();
        let labels = labels(&edges, whole_edges.as_deref());
        Ok(Self { edges, whole_edges, closed, lowest: None, labels })
    }

    /// The number of the bucket, from 0, that a whole number falls into; every number falls into one.
    ///
    /// ```
    /// # use mild_ledger::{AgingBuckets, BucketMeasure};
    /// let buckets = AgingBuckets::from_upper_edges(&[0], BucketMeasure::DaysOverdue)?;
    /// assert_eq!((buckets.bucket_of(i64::MIN), buckets.bucket_of(i64::MAX)), (0, 1));
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn bucket_of(&self, value: i64) -> usize {
        match (&self.whole_edges, self.closed, self.lowest) {
            (Some(edges), ClosedSide::Upper(_), None) => edges.partition_point(|edge| *edge < value),
            (Some(edges), ClosedSide::Lower, None) => edges.partition_point(|edge| *edge <= value),
            _ => self.bucket_of_exact(Decimal::from(value).into()),
        }
    }

    /// The number of the bucket that an exact number falls into, be it whole or not.
    ///
    /// ```
    /// # use mild_ledger::{AgingBuckets, BucketMeasure, Decimal};
    /// let buckets = AgingBuckets::from_upper_edges(&[1, 2], BucketMeasure::Fractional)?;
    /// let bucket = |text: &str| text.parse::<Decimal>().map(|number| buckets.bucket_of_exact(number.into()));
    /// assert_eq!((bucket("1.00")?, bucket("1.01")?), (0, 1));
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn bucket_of_exact(&self, value: Quotient) -> usize {
        let before = match self.lowest {
            Some(lowest) if value < Quotient::from(lowest) => return 0,
            lowest => usize::from(lowest.is_some()),
        };
        let bucket = self.edges.partition_point(|edge| match self.closed {
            ClosedSide::Upper(_) => Quotient::from(*edge) < value,
            ClosedSide::Lower => Quotient::from(*edge) <= value,
        });
        before + bucket
    }

    /// The edges between the buckets, in their order, without a lowest one.
    ///
    /// ```
    /// # use mild_ledger::AgingBuckets;
    /// assert_eq!(AgingBuckets::from_lower_edges(&[25, 35])?.edges().len(), 2);
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn edges(&self) -> &[Decimal] {
        &self.edges
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

    /// The name of the bucket with this number; `None` for a number without a bucket.
    ///
    /// ```
    /// # use mild_ledger::{AgingBuckets, BucketMeasure};
    /// let buckets = AgingBuckets::from_upper_edges(&[25], BucketMeasure::WholeNumber)?;
    /// assert_eq!((buckets.label(1), buckets.label(2)), (Some("Over 25"), None));
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn label(&self, bucket: usize) -> Option<&str> {
        self.labels.get(bucket).map(String::as_str)
    }
}

/// The first bucket, those between two edges, and the last.
fn labels_between<E: Copy>(
    edges: &[E],
    first: String,
    between: impl Fn(E, E) -> String,
    last: String,
) -> Vec<String> {
    let between = edges.windows(2).map(|pair| between(pair[0], pair[1]));
    core::iter::once(first).chain(between).chain(core::iter::once(last)).collect()
}

fn over<E: Display>(edges: &[E]) -> String {
    edges.last().map_or_else(String::new, |edge| format!("Over {edge}"))
}

fn whole_upper_labels(edges: &[i64], measure: BucketMeasure) -> Vec<String> {
    let first = match (measure, edges.first()) {
        (BucketMeasure::DaysOverdue, Some(0)) => "Not yet due".to_owned(),
        (_, edge) => edge.map_or_else(String::new, |edge| format!("Up to {edge}")),
    };
    // The edge below is less than another one, so one more cannot overflow.
    labels_between(edges, first, |below, high| whole_between(below.saturating_add(1), high), over(edges))
}

/// The name of the whole numbers from one to another, both among them.
fn whole_between(low: i64, high: i64) -> String {
    match low {
        low if low == high => format!("{high}"),
        low if low < 0 => format!("{low} to {high}"),
        low => format!("{low}–{high}"),
    }
}

fn upper_labels(edges: &[Decimal]) -> Vec<String> {
    let first = edges.first().map_or_else(String::new, |edge| format!("Up to {edge}"));
    labels_between(edges, first, |low, high| format!("over {low} to {high}"), over(edges))
}

fn lower_labels(edges: &[Decimal]) -> Vec<String> {
    let first = edges.first().map_or_else(String::new, |edge| format!("Under {edge}"));
    let last = edges.last().map_or_else(String::new, |edge| format!("{edge} and over"));
    labels_between(edges, first, |low, high| format!("{low} to under {high}"), last)
}
