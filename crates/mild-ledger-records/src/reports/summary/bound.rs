//! A summary that knows its columns.

use super::beside::Earlier;
use crate::columns::Figures;
use crate::reports::groups::{Figure, Level};
use crate::sorting::Direction;

pub(super) struct BoundSummary {
    pub(super) title: String,
    /// What rows are grouped by, the outermost first; the last may be laid across the page.
    pub(super) levels: Vec<Level>,
    pub(super) layout: PageLayout,
    pub(super) figures: Vec<Figure>,
    /// The figure that rows are ordered by, where that is not their own order.
    pub(super) order: Option<(usize, Direction)>,
    /// How many rows are shown before the others are one.
    pub(super) top: Option<usize>,
    /// The figure of which a bar is drawn.
    pub(super) bars: Option<usize>,
    /// Earlier periods that are next to each.
    pub(super) beside: Vec<Earlier>,
    /// Whether people may open its figures.
    pub(super) opens: Figures,
}

/// How groups are on the page.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) enum PageLayout {
    /// All below each other.
    Down,
    /// Those of the last level next to each other.
    Across,
}

impl BoundSummary {
    /// The levels whose groups are below each other.
    pub(super) fn down(&self) -> &[Level] {
        let count = self.levels.len() - usize::from(self.layout == PageLayout::Across);
        self.levels.get(..count).unwrap_or_default()
    }
}
