//! The folder in which a run keeps its unfinished outputs: hidden, next to their places, with a name that no one can foresee,
//! and locked as long as the run lasts.

use std::fs::{self, File, OpenOptions};
use std::io::{self, Write};
use std::path::{Path, PathBuf};
use std::time::Duration;
use tempfile::TempDir;

const PREFIX: &str = ".mild-run-";
/// A file in each such folder, by which it is known, and which is locked.
const MARK: &str = "unfinished-outputs-of";
const RECEIPT: &str = "receipt.toml";

/// One run's folder.
#[derive(Debug)]
pub(super) struct Workshop {
    folder: PathBuf,
    inside: Option<TempDir>,
    path: PathBuf,
    /// Held, with its lock, as long as the run lasts.
    _mark: File,
    /// Folders of runs that were killed, to be cleared away once this one is through.
    inherited: Vec<Abandoned>,
}

/// The folder of a run that was killed.
#[derive(Debug)]
pub(super) struct Abandoned {
    path: PathBuf,
    _mark: File,
}

/// What earlier runs of a plan left.
#[derive(Debug, Default)]
pub(super) struct LeftBehind {
    /// One of them has not ended.
    pub(super) is_at_work: bool,
    pub(super) abandoned: Vec<Abandoned>,
}

/// Keeps other runs from beginning or ending in a folder until it is dropped; where the system locks no folders, it does
/// nothing.
pub(super) fn lock(folder: &Path) -> Option<File> {
    let handle = File::open(folder).ok()?;
    handle.lock().ok()?;
    Some(handle)
}

impl Workshop {
    /// Makes the folder, for the run of the plan that has this receipt.
    pub(super) fn open(folder: &Path, receipt_place: &Path) -> io::Result<Self> {
        let inside = tempfile::Builder::new().prefix(PREFIX).tempdir_in(folder)?;
        let path = inside.path().to_owned();
        let mut mark = OpenOptions::new().create_new(true).write(true).open(path.join(MARK))?;
        mark.write_all(mark_of(receipt_place).as_bytes())?;
        // Where there are no locks, a run cannot see that another one is going on, and what it wrote stays apart still.
        let _ = mark.try_lock();
        Ok(Self { folder: folder.to_owned(), inside: Some(inside), path, _mark: mark, inherited: Vec::new() })
    }

    pub(super) fn path(&self) -> &Path {
        &self.path
    }

    /// Where the run's own receipt is before it gets its place.
    pub(super) fn receipt(&self) -> PathBuf {
        self.path.join(RECEIPT)
    }

    pub(super) fn is_in(&self, folder: &Path) -> bool {
        match (self.folder.canonicalize(), folder.canonicalize()) {
            (Ok(one), Ok(other)) => one == other,
            _ => self.folder == folder,
        }
    }

    /// Clears away the folder of a run that was killed: at once, or, where files may have to be known by its receipt, once
    /// this run is through.
    pub(super) fn inherit(&mut self, left: Abandoned) {
        if left.receipt().exists() {
            self.inherited.push(left);
        } else {
            let _ = fs::remove_dir_all(&left.path);
        }
    }

    /// Leaves the folder where it is, for a person to look into.
    pub(super) fn keep(&mut self) {
        if let Some(inside) = self.inside.take() {
            // Without its mark no later run takes it for something to clear away.
            let _ = fs::remove_file(self.path.join(MARK));
            let _ = inside.keep();
        }
    }

    /// Clears it away, and what was inherited.
    pub(super) fn close(&mut self) {
        for left in self.inherited.drain(..) {
            let _ = fs::remove_dir_all(&left.path);
        }
        self.inside = None;
    }
}

impl Abandoned {
    /// Its receipt, if it came as far as writing one.
    pub(super) fn receipt(&self) -> PathBuf {
        self.path.join(RECEIPT)
    }
}

/// Clears away the folder of a run whose process is gone; nothing else.
pub(super) fn clear_away(folder: &Path) {
    let is_named_so = folder.file_name().is_some_and(|name| name.to_string_lossy().starts_with(PREFIX));
    if is_named_so && folder.join(MARK).is_file() {
        // Another process of the run may do the same; the next run of the plan clears away the rest.
        let _ = fs::remove_dir_all(folder);
    }
}

/// Folders of runs of the same plan: only what bears the mark of this program counts, and only where no one holds its lock.
pub(super) fn left_behind(folder: &Path, receipt_place: &Path) -> io::Result<LeftBehind> {
    let mut left = LeftBehind::default();
    for entry in fs::read_dir(folder)? {
        let entry = entry?;
        let is_named_so = entry.file_name().to_str().is_some_and(|name| name.starts_with(PREFIX));
        if !is_named_so || !entry.file_type()?.is_dir() {
            continue;
        }
        let path = entry.path();
        let mark_path = path.join(MARK);
        let is_ours = fs::symlink_metadata(&mark_path).is_ok_and(|facts| facts.is_file())
            && fs::read_to_string(&mark_path).is_ok_and(|mark| mark == mark_of(receipt_place));
        if !is_ours {
            clear_if_empty(&path);
            continue;
        }
        let Ok(mark) = File::open(&mark_path) else { continue };
        match mark.try_lock() {
            Ok(()) => left.abandoned.push(Abandoned { path, _mark: mark }),
            Err(_) => left.is_at_work = true,
        }
    }
    Ok(left)
}

/// How old an empty folder is that a run made which was killed before it put its mark there.
const ABANDONED_AFTER: Duration = Duration::from_secs(3_600);

/// Clears away an empty folder that no run is about to mark; one that holds anything stays.
fn clear_if_empty(path: &Path) {
    let age = fs::symlink_metadata(path).and_then(|facts| facts.modified()).map(|made| made.elapsed());
    if matches!(age, Ok(Ok(age)) if age > ABANDONED_AFTER) {
        // A folder that is not empty is not removed.
        let _ = fs::remove_dir(path);
    }
}

fn mark_of(receipt_place: &Path) -> String {
    format!("{}\n", receipt_place.file_name().unwrap_or_default().to_string_lossy())
}
