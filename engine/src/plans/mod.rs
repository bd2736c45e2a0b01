//! Plans on the query engine: compiled to a logical plan of it, whose scans read pieces of the records, whose sorts and shuffles are the engine's own, and
//! whose last node reports the counts to the process that combines them.
//!
//! The figures, the reports and the proof are made by the code that makes them on one machine: rows have no state, and counts merge.

#[cfg(feature = "cluster")]
mod codec;
mod does;
mod exec;
mod failures;
mod figures;
mod nodes;
mod part;
mod pieces;
mod repeated_keys;
mod rows;
mod writing;

use crate::addresses::addresses;
#[cfg(feature = "cluster")]
pub use codec::{PlanLogicalCodec, PlanPhysicalCodec};
use datafusion::error::Result;
use datafusion::execution::SessionStateBuilder;
use datafusion::logical_expr::LogicalPlan;
use datafusion::prelude::{SessionConfig, SessionContext};
pub use failures::name_process;
use failures::of_engine;
use futures::StreamExt;
use mild_ledger_records::{
    DrawReport, Heard, PartedEnd, PartedRun, Piece, Plan, RecordsError, RunOutcome, RunRequest, Watch,
};
use nodes::{PlanNodes, logical_plan};
use part::Part;
use rows::Beside;
use std::num::NonZeroUsize;
use std::sync::Arc;
use std::sync::mpsc::{Receiver, RecvTimeoutError, SyncSender, sync_channel};
use std::time::Duration;
use tokio::runtime::Handle;
use tokio::task::JoinHandle;

/// A query engine that runs plans.
///
/// ```
/// use mild_ledger_engine::PlanEngine;
/// use mild_ledger_records::{Plan, RunRequest, Watch};
/// use std::{num::NonZeroUsize, sync::atomic::AtomicBool};
///
/// let folder = tempfile::tempdir()?;
/// std::fs::write(folder.path().join("invoices.csv"), "Invoice,Amount\nQB-1,10.00\nQB-2,5.50\nQB-3,much\n")?;
/// let text = "plan = 1\n[records]\nfile = \"invoices.csv\"\nkey = \"Invoice\"\n[records.amounts]\nAmount = { decimals = 2 }\n\
///     [output]\nrows = \"rows.csv\"\nexceptions = \"exceptions.csv\"\n";
/// std::fs::write(folder.path().join("month.toml"), text)?;
/// let plan = Plan::read(&folder.path().join("month.toml"))?;
///
/// let runtime = tokio::runtime::Runtime::new()?;
/// let engine = PlanEngine::in_this_process(runtime.handle().clone(), NonZeroUsize::MIN);
/// let watch = Watch { interrupted: &AtomicBool::new(false), progress: &|_| {} };
/// let outcome = engine.run(&plan, &RunRequest::new(), None, watch)?;
/// assert_eq!((outcome.rows.written, outcome.rows.set_aside), (2, 1));
/// assert_eq!(outcome.amounts[0].written.to_string(), "15.50");
/// assert!(folder.path().join("rows.csv/part-00000.csv").is_file());
/// # Ok::<(), Box<dyn std::error::Error>>(())
/// ```
pub struct PlanEngine {
    context: SessionContext,
    runtime: Handle,
    partitions: NonZeroUsize,
    piece_bytes: NonZeroUsize,
    /// How long nothing may be heard of a run; without end where nothing is stated.
    patience: Option<Duration>,
}

/// The state of a session that plans our nodes, besides all that the engine has of its own.
///
/// ```
/// use datafusion::prelude::{SessionConfig, SessionContext};
/// use mild_ledger_engine::plan_state;
/// let context = SessionContext::new_with_state(plan_state(SessionConfig::new()).build());
/// assert!(context.state().scalar_functions().contains_key("abs"));
/// ```
#[must_use]
pub fn plan_state(config: SessionConfig) -> SessionStateBuilder {
    SessionStateBuilder::new_with_default_features()
        .with_config(config)
        .with_query_planner(Arc::new(PlanNodes))
}

/// Bytes of a piece of the records by default: enough that finding and opening it costs little next to reading its rows.
///
/// ```
/// assert_eq!(mild_ledger_engine::PIECE_BYTES.get(), 8 << 20);
/// ```
pub const PIECE_BYTES: NonZeroUsize = NonZeroUsize::new(8 << 20).unwrap();

/// What is heard that waits to be put together.
const WAITING: usize = 64;

impl PlanEngine {
    /// An engine that works on so many partitions at once, by the threads of a runtime of several. [`run`](Self::run) is called from none of these.
    #[must_use]
    pub fn in_this_process(runtime: Handle, partitions: NonZeroUsize) -> Self {
        let config = SessionConfig::new().with_target_partitions(partitions.get());
        let context = SessionContext::new_with_state(plan_state(config).build());
        Self::of_session(context, runtime, partitions)
    }

    /// One whose session knows where to send what it is to run, such as to a cluster, whose processes plan with [`plan_state`] and know our nodes by their
    /// codecs; in so many partitions.
    #[must_use]
    pub fn of_session(context: SessionContext, runtime: Handle, partitions: NonZeroUsize) -> Self {
        Self { context, runtime, partitions, piece_bytes: PIECE_BYTES, patience: None }
    }

    /// The same with pieces of about a number of bytes.
    #[must_use]
    pub fn with_pieces_of(self, bytes: NonZeroUsize) -> Self {
        Self { piece_bytes: bytes, ..self }
    }

    /// The same that gives a run up of which nothing was heard for so long: other processes may have gone in a way that no one notices.
    #[must_use]
    pub fn with_patience(self, patience: Duration) -> Self {
        Self { patience: Some(patience), ..self }
    }

    /// Runs a plan, whose records may be at [addresses](crate::addresses()). The rows are in a folder under the name that the plan gives their file, a file a partition; all else is as
    /// [`run`](mild_ledger_records::run()) has it, and where it fails the places of outputs hold nothing that was not there before.
    ///
    /// # Errors
    /// Those of [`run`](mild_ledger_records::run()); [`RecordsError::Plan`] with the line for what is not done in parts, before anything is read; and
    /// [`RecordsError::Request`] with what the engine says where it cannot go on.
    pub fn run(
        &self,
        plan: &Plan,
        request: &RunRequest,
        draw: Option<DrawReport<'_>>,
        watch: Watch<'_>,
    ) -> std::result::Result<RunOutcome, RecordsError> {
        let request = request.clone().with_remote_files(addresses());
        let mut run = PartedRun::begin(plan, &request, self.piece_bytes.get(), watch)?;
        loop {
            let part = Part::of(run.part()).map_err(of_engine)?;
            let partitions = spread(run.pieces(), self.partitions);
            let logical = logical_plan(&part, partitions).map_err(of_engine)?;
            match run.finish(self.begin(logical, watch), draw, watch)? {
                PartedEnd::Done(outcome) => return Ok(outcome),
                PartedEnd::Again(again) => run = again,
            }
        }
    }

    /// Begins to run a logical plan; what is heard of it.
    fn begin<'w>(&self, plan: LogicalPlan, watch: Watch<'w>) -> Hearing<'w> {
        let (tell, heard) = sync_channel(WAITING);
        let context = self.context.clone();
        let task = self.runtime.spawn(async move {
            // What went wrong is heard last; where nothing listens, nothing is sent.
            if let Err(error) = tell_all(&context, plan, &tell).await {
                let _ = tokio::task::spawn_blocking(move || tell.send(Err(of_engine(error)))).await;
            }
        });
        Hearing {
            heard,
            task: Some(task),
            runtime: self.runtime.clone(),
            watch,
            silent: Duration::ZERO,
            patience: self.patience,
        }
    }
}

/// Tells all that comes out of a logical plan.
async fn tell_all(
    context: &SessionContext,
    plan: LogicalPlan,
    tell: &SyncSender<std::result::Result<Heard, RecordsError>>,
) -> Result<()> {
    let mut stream = context.execute_logical_plan(plan).await?.execute_stream().await?;
    while let Some(batch) = stream.next().await {
        let batch = batch?;
        let tell = tell.clone();
        // Whoever puts together what is reported may be slower, and is waited for apart from the engine's own threads.
        let told = tokio::task::spawn_blocking(move || -> Result<bool> {
            let beside = Beside::of(&batch)?;
            for row in 0..beside.rows() {
                let heard = match (beside.key(row), beside.told(row)) {
                    (Some((key, payload)), _) => {
                        Heard::RepeatedKey { key: key.to_vec(), payload: payload.to_vec() }
                    }
                    (None, Some(told)) => Heard::Told(told.to_vec()),
                    (None, None) => continue,
                };
                if tell.send(Ok(heard)).is_err() {
                    return Ok(false);
                }
            }
            Ok(true)
        });
        if !told.await.map_err(|error| datafusion::error::DataFusionError::External(Box::new(error)))?? {
            break;
        }
    }
    Ok(())
}

/// What is heard of a plan that runs; where a user stops listening, it is stopped, and waited for.
struct Hearing<'w> {
    heard: Receiver<std::result::Result<Heard, RecordsError>>,
    task: Option<JoinHandle<()>>,
    runtime: Handle,
    watch: Watch<'w>,
    /// For how long nothing was heard.
    silent: Duration,
    patience: Option<Duration>,
}

/// How long a user listens before it is looked at whether the run is to stop.
const LISTENS: Duration = Duration::from_millis(100);

impl Iterator for Hearing<'_> {
    type Item = std::result::Result<Heard, RecordsError>;

    fn next(&mut self) -> Option<Self::Item> {
        loop {
            if self.watch.interrupted.load(std::sync::atomic::Ordering::Relaxed) {
                self.stop();
                return Some(Err(RecordsError::Interrupted));
            }
            return match self.heard.recv_timeout(LISTENS) {
                Ok(Err(error)) => {
                    // Nothing is written any more when the files are cleared away.
                    self.stop();
                    Some(Err(error))
                }
                Ok(heard) => {
                    self.silent = Duration::ZERO;
                    Some(heard)
                }
                Err(RecvTimeoutError::Timeout) => {
                    self.silent += LISTENS;
                    if self.patience.is_none_or(|patience| self.silent < patience) {
                        continue;
                    }
                    self.stop();
                    Some(Err(RecordsError::Request {
                        what: format!("nothing was heard of the run for {} seconds", self.silent.as_secs()),
                        help: "see whether the scheduler and its executors are there, or wait longer"
                            .to_owned(),
                    }))
                }
                Err(RecvTimeoutError::Disconnected) => {
                    self.stop();
                    None
                }
            };
        }
    }
}

impl Hearing<'_> {
    fn stop(&mut self) {
        if let Some(task) = self.task.take() {
            task.abort();
            // That it was stopped is known.
            let _ = self.runtime.block_on(task);
        }
    }
}

impl Drop for Hearing<'_> {
    fn drop(&mut self) {
        self.stop();
    }
}

/// The pieces in so many partitions at most, those of each after each other, with about as many rows in each.
fn spread(pieces: &[Piece], partitions: NonZeroUsize) -> Vec<Vec<Piece>> {
    let rows: u64 = pieces.iter().map(Piece::rows).sum();
    let of_each = rows.div_ceil(partitions.get() as u64).max(1);
    let mut spread: Vec<Vec<Piece>> = vec![Vec::new()];
    let mut held = 0;
    for piece in pieces {
        if held >= of_each {
            spread.push(Vec::new());
            held = 0;
        }
        held += piece.rows();
        if let Some(last) = spread.last_mut() {
            last.push(piece.clone());
        }
    }
    spread
}
