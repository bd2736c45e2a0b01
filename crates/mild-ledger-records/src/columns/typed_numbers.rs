//! What columns that the format types as numbers are used as.

use std::collections::{BTreeMap, BTreeSet};

/// What a column of numbers is used as.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord)]
pub(crate) enum NumberUse {
    /// Plain numbers, which may be missing.
    Figures,
    /// Money, as if it were named under `[records.amounts]`.
    Amounts,
}

/// Which columns are used as numbers. Whether one is shows only when the whole plan is bound, so that a plan is bound again once
/// another one is found.
#[derive(Debug, Default)]
pub(crate) struct TypedNumbers {
    /// By their names.
    pub(super) uses: BTreeMap<String, NumberUse>,
    /// Whether some were found that had been taken for texts so far.
    pub(crate) is_more_known: bool,
    /// Columns that something goes by.
    pub(super) gone_by: BTreeSet<usize>,
}

impl TypedNumbers {
    /// The columns known when the plan is bound again.
    pub(crate) fn again(self) -> Self {
        Self { uses: self.uses, ..Self::default() }
    }

    /// The data of the columns of a second file, by their own names and those that they are brought under.
    pub(crate) fn of_brought<'n>(&self, names: impl Iterator<Item = (&'n str, &'n str)>) -> Self {
        let uses = names.filter_map(|(theirs, ours)| Some((theirs.to_owned(), *self.uses.get(ours)?)));
        Self { uses: uses.collect(), ..Self::default() }
    }

    pub(super) fn note_use(&mut self, column: usize) {
        self.gone_by.insert(column);
    }
}
