//! The job of a run in parts, as nodes of a plan hold it.

use mild_ledger_records::PartJob;
use std::cmp::Ordering;
use std::fmt::{self, Debug, Formatter};
use std::hash::{Hash, Hasher};
use std::sync::Arc;

/// A job that nodes share; two are the same where they are one.
#[derive(Clone)]
pub(super) struct Part(pub(super) Arc<PartJob>);

impl Part {
    fn address(&self) -> usize {
        Arc::as_ptr(&self.0).addr()
    }
}

impl Debug for Part {
    fn fmt(&self, f: &mut Formatter<'_>) -> fmt::Result {
        f.write_str("Part")
    }
}

impl PartialEq for Part {
    fn eq(&self, other: &Self) -> bool {
        Arc::ptr_eq(&self.0, &other.0)
    }
}

impl Eq for Part {}

impl PartialOrd for Part {
    fn partial_cmp(&self, other: &Self) -> Option<Ordering> {
        Some(self.address().cmp(&other.address()))
    }
}

impl Hash for Part {
    fn hash<H: Hasher>(&self, state: &mut H) {
        self.address().hash(state);
    }
}
