//! What each of our nodes does.

use serde::{Deserialize, Serialize};

/// What a node does.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, PartialOrd, Serialize, Deserialize)]
pub(super) enum Does {
    /// Reads pieces of the records, and works out the figures of their rows.
    Figures,
    /// Writes rows to files, and tells of them.
    WriteRows,
    /// Keeps the keys that several rows have, and all that is reported.
    RepeatedKeys,
}

impl Does {
    pub(super) fn word(self) -> &'static str {
        match self {
            Self::Figures => "Figures",
            Self::WriteRows => "WriteRows",
            Self::RepeatedKeys => "RepeatedKeys",
        }
    }
}
