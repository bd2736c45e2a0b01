//! Why a cell is empty.

use serde::{Deserialize, Serialize};
/// Why a cell is empty.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash, Serialize, Deserialize)]
pub(crate) enum Gap {
    Blank,
    /// A text was there, or in a cell that it is worked out from, and could not be read.
    Unreadable,
    NotBegun,
    NotBorn,
    NotCovered,
    NoResult,
    /// Nothing matched in the file that it was to be joined from.
    NotMatched,
    /// Several rows matched there, which differ.
    SeveralMatches,
}

impl Gap {
    /// All of them, in the order in which reports show the buckets of rows without a figure.
    pub(crate) const ALL: [Self; 8] = [
        Self::Blank,
        Self::Unreadable,
        Self::NotBegun,
        Self::NotBorn,
        Self::NotCovered,
        Self::NoResult,
        Self::NotMatched,
        Self::SeveralMatches,
    ];

    /// In words.
    pub(crate) fn in_words(self) -> &'static str {
        match self {
            Self::Blank => "blank",
            Self::Unreadable => "unreadable",
            Self::NotBegun => "not begun",
            Self::NotBorn => "not born",
            Self::NotCovered => "not covered",
            Self::NoResult => "no result",
            Self::NotMatched => "not matched",
            Self::SeveralMatches => "several matches",
        }
    }

    /// Its place among all.
    pub(crate) fn place(self) -> u16 {
        self as u16
    }
}
