//! A list that knows its columns.

use super::coming_up::ComingUp;
use crate::reports::groups::{Figure, Level};
use crate::sorting::Direction;
use crate::table::Kind;

pub(in crate::reports) struct BoundList {
    /// The word of the kind of report that it is of.
    pub(in crate::reports) kind: &'static str,
    pub(in crate::reports) title: String,
    /// The columns of the records that are listed.
    pub(in crate::reports) columns: Vec<usize>,
    /// How the numbers of each of them are shown.
    pub(in crate::reports) shapes: Vec<CellShape>,
    /// How all columns that are listed are called: those of what comes up, and then these.
    pub(in crate::reports) names: Vec<String>,
    /// The groups under whose heads rows are, the outermost first.
    pub(in crate::reports) levels: Vec<Level>,
    pub(in crate::reports) order: Vec<(usize, Direction)>,
    /// How the rows come about and in what order they are, in a sentence.
    pub(in crate::reports) explanation: String,
    pub(in crate::reports) first: First,
    /// The columns added up, and where each is among the columns that are listed.
    pub(in crate::reports) sums: Vec<Figure>,
    pub(in crate::reports) places: Vec<usize>,
    /// The columns of amounts that it adds up or compares.
    pub(in crate::reports) amounts: Vec<usize>,
    /// Where a row is for each of its dates that come up, by these; and what these are called.
    pub(in crate::reports) coming_up: Option<(ComingUp, String)>,
}

/// How the numbers of a column are shown.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(in crate::reports) enum CellShape {
    Quantity,
    /// Numbers that may be years or numbers of documents.
    PlainNumber,
}

impl CellShape {
    pub(in crate::reports) fn of(kind: &Kind) -> Self {
        match kind {
            Kind::Number { figure: None, .. } | Kind::Place => Self::PlainNumber,
            _ => Self::Quantity,
        }
    }
}

/// How many rows are listed.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(in crate::reports) enum First {
    All,
    /// The first in their order.
    OfAll(usize),
    /// The first of each group.
    OfEachGroup(usize),
}

impl First {
    /// How many rows are kept of all, or of each group; no list has more than `most`.
    pub(in crate::reports) fn most(self, most: usize) -> usize {
        match self {
            Self::All => most,
            Self::OfAll(first) | Self::OfEachGroup(first) => first.min(most),
        }
    }
}
