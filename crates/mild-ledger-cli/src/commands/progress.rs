//! How long work over many rows is watched, and stopped.

use crate::terminal::is_dumb_terminal;
use indicatif::{HumanCount, ProgressBar, ProgressDrawTarget, ProgressStyle};
use mild_ledger_records::ReadSoFar;
use std::sync::Arc;
use std::sync::atomic::AtomicBool;
use std::time::{Duration, Instant};

/// Work that is over sooner shows no progress.
const BEFORE_PROGRESS: Duration = Duration::from_millis(500);

/// Set by an interrupt or a request to end. The run then stops within a batch and clears up; a second signal changes nothing,
/// so that no part of an output is left.
pub(super) fn stop_on_signals() -> Arc<AtomicBool> {
    let interrupted = Arc::new(AtomicBool::new(false));
    for signal in [signal_hook::consts::SIGINT, signal_hook::consts::SIGTERM] {
        // Without handlers the signal ends the command, and the next run clears up.
        let _ = signal_hook::flag::register(signal, Arc::clone(&interrupted));
    }
    interrupted
}

/// A bar on standard error, if that is a terminal and the run takes its time.
pub(super) struct Progress {
    bar: ProgressBar,
    began: Instant,
}

impl Progress {
    pub(super) fn new() -> Self {
        let bar = ProgressBar::with_draw_target(None, ProgressDrawTarget::hidden());
        let bar = match ProgressStyle::with_template("reading {bar:40} {percent} %, {msg}") {
            Ok(style) => bar.with_style(style),
            Err(_) => bar,
        };
        Self { bar, began: Instant::now() }
    }

    /// Shows how far the records are read: the share of the bytes, the rows, and how many come in a second.
    pub(super) fn show(&self, read: ReadSoFar) {
        if self.bar.is_hidden() && !is_dumb_terminal() && self.began.elapsed() > BEFORE_PROGRESS {
            self.bar.set_draw_target(ProgressDrawTarget::stderr_with_hz(5));
        }
        if self.bar.is_hidden() {
            return;
        }
        let milliseconds = u64::try_from(self.began.elapsed().as_millis()).unwrap_or(u64::MAX).max(1);
        let rate = read.rows.saturating_mul(1_000) / milliseconds;
        self.bar.set_message(format!("{} rows, {} a second", HumanCount(read.rows), HumanCount(rate)));
        self.bar.set_length(read.of_bytes);
        self.bar.set_position(read.bytes);
    }

    pub(super) fn finish(&self) {
        self.bar.finish_and_clear();
    }
}
