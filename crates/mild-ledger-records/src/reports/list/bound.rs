//! A list that knows its columns.

use crate::reports::groups::{Figure, Level};
use crate::sorting::Direction;

pub(super) struct BoundList {
    pub(super) title: String,
    /// The columns that are listed, and how they are called.
    pub(super) columns: Vec<usize>,
    pub(super) names: Vec<String>,
    /// The groups under whose heads rows stand, the outermost first.
    pub(super) levels: Vec<Level>,
    /// What rows are ordered by, and how the plan says it.
    pub(super) order: Vec<(usize, Direction)>,
    pub(super) ordered_by: Vec<String>,
    pub(super) first: First,
    /// What is added up, and where each stands among the columns that are listed.
    pub(super) sums: Vec<Figure>,
    pub(super) places: Vec<usize>,
    /// The columns of amounts that it adds up or compares.
    pub(super) amounts: Vec<usize>,
}

/// How many rows are listed.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) enum First {
    All,
    /// The first in their order.
    OfAll(usize),
    /// The first of each group.
    OfEachGroup(usize),
}

impl First {
    /// How many rows are kept of all, or of each group; no list has more than `most`.
    pub(super) fn most(self, most: usize) -> usize {
        match self {
            Self::All => most,
            Self::OfAll(first) | Self::OfEachGroup(first) => first.min(most),
        }
    }
}
