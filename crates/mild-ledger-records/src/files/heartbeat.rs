//! A sign of life of the process that began a run, for processes that work on parts of it: a number in the run's own folder that goes up.
//!
//! Where the process is killed, those that work for it notice, stop, and clear its folder away. Nobody compares clocks of two machines.

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

/// Gives signs of life until it is dropped.
#[derive(Debug)]
pub(crate) struct Heartbeat {
    is_done: Arc<AtomicBool>,
    thread: Option<JoinHandle<()>>,
}

/// Looks for signs of life of another process.
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
    /// Watches over the process that began the run of a folder. Where it gives no sign for so long, what it left is cleared away.
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

    /// Whether the process gave no sign of life for too long.
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
