//! Shows the processes that work on parts of a run that the process which began it still runs: a number in the run's own folder goes up.
//!
//! If that process is killed, the others notice, stop, and clear its folder away. No two clocks are compared.

use super::workshop;
use std::fs::{self, File};
use std::io::{self, Write};
use std::path::{Path, PathBuf};
use std::sync::Arc;
use std::sync::atomic::{AtomicBool, Ordering};
use std::thread::{Builder, JoinHandle};
use std::time::{Duration, Instant};

/// The file that has the number.
const NAME: &str = "alive";
/// How often the number goes up, and how often others look at it.
const EACH: Duration = Duration::from_millis(500);

/// Lets the number go up until it is dropped.
#[derive(Debug)]
pub(crate) struct Heartbeat {
    is_done: Arc<AtomicBool>,
    thread: Option<JoinHandle<()>>,
}

/// Watches the number of another process.
#[derive(Debug)]
pub(crate) struct Pulse {
    is_gone: Arc<AtomicBool>,
}

impl Heartbeat {
    /// Begins in the folder that holds this one.
    pub(crate) fn begin(inside: &Path) -> io::Result<Self> {
        let path = place(inside);
        beat(&path, 0)?;
        let is_done = Arc::new(AtomicBool::new(false));
        let until = Arc::clone(&is_done);
        let beats = move || {
            let mut number = 0_u64;
            while !until.load(Ordering::Relaxed) {
                std::thread::park_timeout(EACH);
                number += 1;
                // A disk that takes nothing ends the run elsewhere.
                let _ = beat(&path, number);
            }
            let _ = fs::remove_file(&path);
        };
        let thread = Builder::new().name("heartbeat".to_owned()).spawn(beats)?;
        Ok(Self { is_done, thread: Some(thread) })
    }
}

impl Drop for Heartbeat {
    fn drop(&mut self) {
        self.is_done.store(true, Ordering::Relaxed);
        if let Some(thread) = self.thread.take() {
            thread.thread().unpark();
            // The file is gone before its folder is.
            let _ = thread.join();
        }
    }
}

impl Pulse {
    /// Watches the number of the run that this folder is of. If it stays the same for longer than the patience, the folder of the run is
    /// cleared away.
    pub(crate) fn watch(inside: &Path, patience: Duration) -> io::Result<Self> {
        let path = place(inside);
        let is_gone = Arc::new(AtomicBool::new(false));
        let found = Arc::clone(&is_gone);
        let watches = move || {
            let mut last = (fs::read(&path).ok(), Instant::now());
            loop {
                std::thread::sleep(EACH);
                match fs::read(&path) {
                    Ok(now) if last.0.as_ref() != Some(&now) => last = (Some(now), Instant::now()),
                    // The run has ended, well or not, and cleared its own folder.
                    Err(error) if error.kind() == io::ErrorKind::NotFound && !path.exists() => return,
                    _ if last.1.elapsed() > patience => {
                        found.store(true, Ordering::Relaxed);
                        if let Some(folder) = path.parent() {
                            workshop::clear_away(folder);
                        }
                        return;
                    }
                    _ => {}
                }
            }
        };
        Builder::new().name("pulse".to_owned()).spawn(watches)?;
        Ok(Self { is_gone })
    }

    /// Whether the number stayed the same for too long.
    pub(crate) fn is_gone(&self) -> bool {
        self.is_gone.load(Ordering::Relaxed)
    }
}

fn place(inside: &Path) -> PathBuf {
    inside.parent().unwrap_or(inside).join(NAME)
}

fn beat(path: &Path, number: u64) -> io::Result<()> {
    let mut file = File::create(path)?;
    file.write_all(number.to_string().as_bytes())
}
