//! Parts of files of records that are read by themselves, by several who know nothing of each other.

use super::SourceEnd;
use crate::error::RecordsError;
use crate::files::BlockHashes;
use crate::handover::{Saved, Saving};
use serde::{Deserialize, Serialize};
use std::path::Path;

/// A part of a file of records that holds whole rows, and can be read without what comes before it.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
pub struct Piece {
    /// The file, by its number among the files of records.
    pub(crate) source: usize,
    /// The number of its first row among the data rows of the file, from 1.
    pub(crate) first_row: u64,
    /// Rows that it holds, broken ones among them, as who surveyed the file counted them.
    pub(crate) rows: u64,
    pub(crate) place: PiecePlace,
}

/// Where a piece is in its file.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
pub(crate) enum PiecePlace {
    /// It is all of the file, which cannot be read from the middle: it is packed, or its text is in another encoding.
    WholeFile,
    /// So many bytes of a file of text, which begin on this line.
    Bytes { from: u64, length: u64, first_line: u64 },
    /// Groups of rows that the format itself keeps apart.
    Groups { first: usize, count: usize },
}

impl Piece {
    /// The rows that it holds, broken ones among them.
    #[must_use]
    pub fn rows(&self) -> u64 {
        self.rows
    }

    /// As bytes, for another process.
    ///
    /// # Errors
    /// [`RecordsError::Proof`] where it cannot be put into bytes.
    pub fn to_bytes(&self) -> Result<Vec<u8>, RecordsError> {
        let mut saving = Saving::default();
        saving.put(self)?;
        Ok(saving.into_bytes())
    }

    /// The piece of some [bytes](Self::to_bytes).
    ///
    /// # Errors
    /// [`RecordsError::Proof`] for bytes of anything else.
    pub fn of_bytes(bytes: &[u8]) -> Result<Self, RecordsError> {
        Saved::new(bytes).take()
    }
}

impl Piece {
    /// Of a file of text where its bytes begin and how many they are, and the line on which they do.
    pub(super) fn bytes(&self, path: &Path) -> Result<((u64, u64), u64), RecordsError> {
        match self.place {
            PiecePlace::Bytes { from, length, first_line } => Ok(((from, length), first_line)),
            PiecePlace::WholeFile | PiecePlace::Groups { .. } => Err(other_format(path)),
        }
    }

    /// Of a format that keeps groups of rows apart the first of them, and how many they are.
    #[cfg(feature = "parquet")]
    pub(super) fn groups(&self, path: &Path) -> Result<std::ops::Range<usize>, RecordsError> {
        match self.place {
            PiecePlace::Groups { first, count } => Ok(first..first.saturating_add(count)),
            PiecePlace::WholeFile | PiecePlace::Bytes { .. } => Err(other_format(path)),
        }
    }
}

fn other_format(path: &Path) -> RecordsError {
    RecordsError::Proof { what: format!("a piece of {} is one of another format", path.display()) }
}

/// A file read from its first byte to its last, and where it can be cut.
#[derive(Debug)]
pub(crate) struct Survey {
    /// All of its rows, in their order.
    pub(crate) pieces: Vec<Piece>,
    pub(crate) end: SourceEnd,
    /// By which the readers of the pieces know the bytes again.
    pub(crate) blocks: BlockHashes,
}
