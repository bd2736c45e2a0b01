//! Rows that go to standard output: they are held until the proof agrees, so that wrong rows reach no reader.

use crate::error::RecordsError;
use crate::plan::{Plan, STANDARD_OUTPUT};
use std::fs::File;
use std::io::{self, Write};
use std::path::{Path, PathBuf};
use std::sync::Arc;
use tempfile::TempDir;

/// The rows of a run whose plan sends them to standard output, finished and proved. They are held in a file until this is gone.
///
/// ```
/// use mild_ledger_records::{Plan, RunRequest, Watch, run};
/// use std::sync::atomic::AtomicBool;
///
/// # let folder = std::env::temp_dir().join(format!("mild-held-{}", std::process::id()));
/// # std::fs::create_dir_all(&folder)?;
/// std::fs::write(folder.join("jobs.csv"), "Job,Done\nJ1,2026-09-30\n")?;
/// let text = "plan = 1\n[records]\nfile = \"jobs.csv\"\n[output]\nrows = \"jobs-out.csv\"\n";
/// let plan = Plan::of_text(text, &folder.join("jobs.toml"))?.with_rows_to_standard_output();
/// let watch = Watch { interrupted: &AtomicBool::new(false), progress: &|_| {} };
/// let outcome = run(&plan, &RunRequest::new(), watch)?;
/// let mut rows = Vec::new();
/// outcome.held_rows.ok_or("no rows")?.copy_to(&mut rows)?;
/// assert_eq!(rows, b"Job,Done\nJ1,2026-09-30\n");
/// # std::fs::remove_dir_all(&folder)?;
/// # Ok::<(), Box<dyn std::error::Error>>(())
/// ```
#[derive(Debug, Clone)]
pub struct HeldRows {
    folder: Arc<TempDir>,
}

impl HeldRows {
    /// A place for the rows of a plan, where it sends them to standard output.
    pub(super) fn of(plan: &Plan) -> Result<Option<Self>, RecordsError> {
        if plan.output_rows.value != STANDARD_OUTPUT {
            return Ok(None);
        }
        let temporary = std::env::temp_dir();
        let folder = tempfile::Builder::new().prefix("mild-rows-").tempdir();
        let folder = folder.map_err(RecordsError::file(&temporary, "hold the rows there"))?;
        Ok(Some(Self { folder: Arc::new(folder) }))
    }

    /// Where they are held.
    pub(super) fn place(&self) -> PathBuf {
        self.folder.path().join("rows.csv")
    }

    pub(super) fn folder(&self) -> &Path {
        self.folder.path()
    }

    /// Writes the rows, as CSV, and gives how many bytes they were.
    ///
    /// # Errors
    /// What the system says where they cannot be read or written.
    pub fn copy_to(&self, into: &mut dyn Write) -> io::Result<u64> {
        io::copy(&mut File::open(self.place())?, into)
    }
}
