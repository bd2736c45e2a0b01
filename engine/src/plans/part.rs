//! The job of a run in parts, as nodes of a plan hold it: what it takes to plan with, and the job itself where it is worked on.

use super::failures::within;
use crate::addresses::addresses;
use datafusion::arrow::datatypes::{Schema, SchemaRef};
use datafusion::error::Result;
use mild_ledger_records::PartJob;
use serde::{Deserialize, Serialize};
use std::cmp::Ordering;
use std::fmt::{self, Debug, Formatter};
use std::hash::{Hash, Hasher};
use std::sync::{Arc, Mutex, OnceLock, PoisonError};

/// A job that nodes share. One that came from another process is bound when it is first worked on, and not where it is only planned with.
#[derive(Clone)]
pub(super) struct Part {
    sent: Arc<Sent>,
    job: Arc<OnceLock<Arc<PartJob>>>,
}

/// What is sent of it.
#[derive(Debug, PartialEq, Eq, Hash, Serialize, Deserialize)]
pub(super) struct Sent {
    setting: Vec<u8>,
    /// The columns of the rows that are written.
    schema: Schema,
    is_ordered: bool,
    tells_keys: bool,
}

/// Jobs that were bound in this process, those of the last few runs: each reads its second files once, however many tasks it has.
static BOUND: Mutex<Vec<(Arc<Sent>, Arc<PartJob>)>> = Mutex::new(Vec::new());
/// How many of them are held; a run has two where keys repeat.
const MOST_BOUND: usize = 2;

impl Part {
    /// One that is bound in this process.
    pub(super) fn of(job: &Arc<PartJob>) -> Result<Self> {
        let sent = Sent {
            setting: job.setting().map_err(within)?,
            schema: job.schema().as_ref().clone(),
            is_ordered: job.is_ordered(),
            tells_keys: job.tells_keys(),
        };
        Ok(Self { sent: Arc::new(sent), job: Arc::new(OnceLock::from(Arc::clone(job))) })
    }

    /// One that came from another process.
    #[cfg(feature = "cluster")]
    pub(super) fn sent(sent: Sent) -> Self {
        Self { sent: Arc::new(sent), job: Arc::new(OnceLock::new()) }
    }

    /// What is sent of it to another process.
    #[cfg(feature = "cluster")]
    pub(super) fn to_send(&self) -> &Sent {
        &self.sent
    }

    /// The job, which is bound where that was not done yet.
    pub(super) fn job(&self) -> Result<Arc<PartJob>> {
        if let Some(job) = self.job.get() {
            return Ok(Arc::clone(job));
        }
        // Whoever comes second waits for who binds it.
        let mut bound = BOUND.lock().unwrap_or_else(PoisonError::into_inner);
        let known = bound.iter().find(|(sent, _)| *sent == self.sent).map(|(_, job)| Arc::clone(job));
        let job = match known {
            Some(job) => job,
            None => {
                let job = Arc::new(PartJob::open(&self.sent.setting, Some(addresses())).map_err(within)?);
                bound.insert(0, (Arc::clone(&self.sent), Arc::clone(&job)));
                bound.truncate(MOST_BOUND);
                job
            }
        };
        Ok(Arc::clone(self.job.get_or_init(|| job)))
    }

    /// The columns of the rows that are written.
    pub(super) fn schema(&self) -> SchemaRef {
        Arc::new(self.sent.schema.clone())
    }

    pub(super) fn is_ordered(&self) -> bool {
        self.sent.is_ordered
    }

    pub(super) fn tells_keys(&self) -> bool {
        self.sent.tells_keys
    }
}

impl Debug for Part {
    fn fmt(&self, f: &mut Formatter<'_>) -> fmt::Result {
        f.write_str("Part")
    }
}

impl PartialEq for Part {
    fn eq(&self, other: &Self) -> bool {
        Arc::ptr_eq(&self.sent, &other.sent) || self.sent == other.sent
    }
}

impl Eq for Part {}

impl PartialOrd for Part {
    fn partial_cmp(&self, other: &Self) -> Option<Ordering> {
        Some(self.sent.setting.cmp(&other.sent.setting))
    }
}

impl Hash for Part {
    fn hash<H: Hasher>(&self, state: &mut H) {
        self.sent.setting.hash(state);
    }
}
