//! What parts of a run report to the coordinator.

use crate::error::RecordsError;
use crate::handover::{Saved, Saving};
use crate::run::read_back::SumsInOutput;
use crate::run::sums::Sums;
use crate::sink::Written;
use crate::source::SourceEnd;
use crate::table::Exception;
use serde::{Deserialize, Serialize};
use std::path::PathBuf;

/// One thing that a part tells.
#[derive(Debug, Serialize, Deserialize)]
pub(super) enum Told {
    /// What was noticed of the rows of one chunk.
    Exceptions(Vec<Exception>),
    Counts(PartCounts),
    File(WrittenPart),
}

/// The counts of the rows of a part.
#[derive(Debug, Serialize, Deserialize)]
pub(super) struct PartCounts {
    /// By the worker, which alone can read it.
    pub(super) worker: Vec<u8>,
    /// Of the rows that are written.
    pub(super) sums: Sums,
}

/// A file that a part of the rows was written to.
#[derive(Debug, Serialize, Deserialize)]
pub(super) struct WrittenPart {
    /// Its place among those of all parts.
    pub(super) number: u64,
    pub(super) path: PathBuf,
    pub(super) written: Written,
    /// As it was read back.
    pub(super) end: SourceEnd,
    pub(super) sums: Vec<Option<SumsInOutput>>,
}

impl Told {
    pub(super) fn to_bytes(&self) -> Result<Vec<u8>, RecordsError> {
        let mut saving = Saving::default();
        saving.put(self)?;
        Ok(saving.into_bytes())
    }

    pub(super) fn of_bytes(bytes: &[u8]) -> Result<Self, RecordsError> {
        Saved::new(bytes).take()
    }
}
