//! Values of a column with their rows, as examples of something.

use alloc::borrow::ToOwned;
use alloc::string::String;
use alloc::vec::Vec;

/// Values that are kept as examples of each thing.
const EXAMPLES: usize = 5;

/// A value of the column with its row.
///
/// ```
/// use mild_ledger::{DateEvidence, PatternVerdict};
/// let mut evidence = DateEvidence::new();
/// evidence.note("31/06/2026", 7);
/// evidence.note("30/06/2026", 8);
/// let PatternVerdict::NoneReadsAll(Some(best)) = evidence.verdict() else { unreachable!() };
/// let failed = &evidence.failures_of(best)[0];
/// assert_eq!((failed.row, failed.text.as_str()), (7, "31/06/2026"));
/// ```
#[derive(Debug, Clone, PartialEq, Eq, PartialOrd, Ord)]
pub struct ValueMet {
    /// The number of its row, as it was noted.
    pub row: u64,
    /// Its text, without the spaces around it; the first hundred characters of one that is longer.
    pub text: String,
}

impl ValueMet {
    pub(crate) fn of(text: &str, row: u64) -> Self {
        const SHOWN: usize = 100;
        let end = text.char_indices().nth(SHOWN).map_or(text.len(), |(end, _)| end);
        Self { row, text: text.get(..end).unwrap_or_default().to_owned() }
    }
}

/// The first values of some, in the order of their rows.
#[derive(Debug, Clone, Default, PartialEq, Eq)]
pub(crate) struct FirstValues(Vec<ValueMet>);

impl FirstValues {
    pub(crate) fn note(&mut self, text: &str, row: u64) {
        let place = self.0.partition_point(|before| before.row < row);
        if place < EXAMPLES {
            self.0.insert(place, ValueMet::of(text, row));
            self.0.truncate(EXAMPLES);
        }
    }

    /// Whether there are as many as are kept.
    pub(crate) fn are_all(&self) -> bool {
        self.0.len() == EXAMPLES
    }

    pub(crate) fn merge(&mut self, other: &Self) {
        self.0.extend(other.0.iter().cloned());
        self.0.sort();
        self.0.truncate(EXAMPLES);
    }

    pub(crate) fn as_slice(&self) -> &[ValueMet] {
        &self.0
    }
}
