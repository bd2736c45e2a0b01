//! The wish to stop, for readers that may wait long for their next row.

use crate::error::RecordsError;
use std::sync::Arc;
use std::sync::atomic::{AtomicBool, Ordering};

/// Whether reading is to stop. All clones of one know it.
#[derive(Debug, Clone, Default)]
pub(crate) struct Stop(Arc<AtomicBool>);

impl PartialEq for Stop {
    fn eq(&self, other: &Self) -> bool {
        Arc::ptr_eq(&self.0, &other.0)
    }
}

impl Eq for Stop {}

impl Stop {
    pub(crate) fn ask(&self) {
        self.0.store(true, Ordering::Relaxed);
    }

    pub(crate) fn is_asked(&self) -> bool {
        self.0.load(Ordering::Relaxed)
    }

    pub(crate) fn check(&self) -> Result<(), RecordsError> {
        if self.is_asked() { Err(RecordsError::Interrupted) } else { Ok(()) }
    }
}
