//! The rows of which a list has the first: all of them, or those of one group.

use super::first_rows::FirstRows;
use crate::reports::groups::{Figure, Group};
use serde::{Deserialize, Serialize};

/// The first rows of some, and the sums of all of these.
#[derive(Serialize, Deserialize)]
pub(super) struct Part {
    pub(super) first: FirstRows,
    pub(super) all: Group,
}

impl Part {
    pub(super) fn of(sums: &[Figure]) -> Self {
        Self { first: FirstRows::default(), all: Group::of(sums) }
    }
}
