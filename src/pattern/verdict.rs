//! What the values of a column say of how its dates are written.

use super::DatePattern;
use super::days_seen::DaysSeen;
use crate::date::Date;
use crate::values_met::{FirstValues, ValueMet};
use alloc::sync::Arc;
use alloc::vec::Vec;

/// A value that two patterns read as different dates.
///
/// ```
/// use mild_ledger::{DateEvidence, PatternVerdict};
/// let mut evidence = DateEvidence::new();
/// (1..=9).for_each(|row| evidence.note("01/02/2026", row));
/// let PatternVerdict::Ambiguous { both_ways: Some(both), .. } = evidence.verdict() else { unreachable!() };
/// assert_eq!((both.one.to_string(), both.other.to_string()), ("2026-02-01".into(), "2026-01-02".into()));
/// ```
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct BothWays {
    /// The value.
    pub value: ValueMet,
    /// The date by the first of the patterns.
    pub one: Date,
    /// The date by the second of them.
    pub other: Date,
}

/// What a column's values say about how its dates are written.
///
/// ```
/// use mild_ledger::{DateEvidence, PatternVerdict};
/// assert!(matches!(DateEvidence::new().verdict(), PatternVerdict::NoValues));
/// ```
#[derive(Debug, Clone)]
#[non_exhaustive]
pub enum PatternVerdict<'e> {
    /// There is nothing but blanks and fillers.
    NoValues,
    /// These patterns read every value, all as the same dates, and nothing else does.
    Found(Vec<&'e PatternReadings>),
    /// Two patterns or more explain the values, and too few rows decide between them.
    Ambiguous {
        /// The patterns, those that read every value first.
        patterns: Vec<&'e PatternReadings>,
        /// A value that the first two read as different dates, where there is one.
        both_ways: Option<BothWays>,
    },
    /// No candidate reads every value; the one that reads the most, if any reads one at all.
    NoneReadsAll(Option<&'e PatternReadings>),
}

/// What a candidate read of a column.
#[derive(Debug, Clone)]
pub struct PatternReadings {
    pub(super) pattern: Arc<DatePattern>,
    /// Its place among the candidates.
    pub(super) nth: usize,
    pub(super) reads: u64,
    pub(super) alone: u64,
    pub(super) alone_examples: FirstValues,
    pub(super) failures: FirstValues,
    pub(super) times: u64,
    pub(super) offsets: u64,
    pub(super) days: DaysSeen,
}

impl PatternReadings {
    /// The candidate.
    ///
    /// ```
    /// use mild_ledger::{DateEvidence, PatternVerdict};
    /// let mut evidence = DateEvidence::new();
    /// (1..=3).for_each(|row| evidence.note("2026-09-30T14:30Z", row));
    /// let PatternVerdict::Found(patterns) = evidence.verdict() else { unreachable!() };
    /// assert_eq!(patterns[0].pattern().words(), "iso");
    /// assert_eq!((patterns[0].reads(), patterns[0].times(), patterns[0].offsets()), (3, 3, 3));
    /// assert_eq!(patterns[0].days().distinct(), 1);
    /// ```
    #[must_use]
    pub fn pattern(&self) -> &DatePattern {
        &self.pattern
    }

    /// How many values it reads.
    #[must_use]
    pub fn reads(&self) -> u64 {
        self.reads
    }

    /// How many values only it reads.
    #[must_use]
    pub fn alone(&self) -> u64 {
        self.alone
    }

    /// The first values that only it reads.
    #[must_use]
    pub fn alone_examples(&self) -> &[ValueMet] {
        self.alone_examples.as_slice()
    }

    /// How many values have a time of day other than midnight after them.
    #[must_use]
    pub fn times(&self) -> u64 {
        self.times
    }

    /// How many values have an offset from UTC, a word for UTC or the name of a zone after their time.
    #[must_use]
    pub fn offsets(&self) -> u64 {
        self.offsets
    }

    /// The days that it read.
    #[must_use]
    pub fn days(&self) -> &DaysSeen {
        &self.days
    }
}
