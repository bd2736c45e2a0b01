//! Writing to standard output, to standard error, and to the files that options name.

use crate::ending::Failure;
use mild_ledger_records::{RecordsError, write_new_file};
use mild_ledger_report::terminal::{Colour, Width, lines};
use std::io::{self, IsTerminal, Write};
use std::path::Path;
use std::sync::Arc;
use std::sync::atomic::{AtomicBool, Ordering};

/// Writes to standard output. A reader that has gone away is no error: the command ends quietly.
pub(crate) fn to_standard_output(text: &str) -> io::Result<()> {
    let mut out = io::stdout().lock();
    match out.write_all(text.as_bytes()).and_then(|()| out.flush()) {
        Err(error) if error.kind() != io::ErrorKind::BrokenPipe => Err(error),
        _ => Ok(()),
    }
}

/// Writes to standard error; there is nobody left to tell if that fails.
pub(crate) fn to_standard_error(text: &str) {
    let mut out = io::stderr().lock();
    let _ = out.write_all(text.as_bytes()).and_then(|()| out.flush());
}

/// Says something beside the answer.
pub(crate) fn note(text: &str) {
    to_standard_error(&lines(&format!("note: {text}"), width_of_errors()));
}

/// Writes a file that an option names, which does not stand there yet, and says so. A request to end waits until the file
/// stands or is taken back.
pub(crate) fn to_new_file(path: &Path, bytes: &[u8]) -> Result<(), Failure> {
    let interrupted = Arc::new(AtomicBool::new(false));
    let handlers: Vec<_> = [signal_hook::consts::SIGINT, signal_hook::consts::SIGTERM]
        .into_iter()
        .filter_map(|signal| signal_hook::flag::register(signal, Arc::clone(&interrupted)).ok())
        .collect();
    let written = write_new_file(path, bytes);
    handlers.into_iter().for_each(|handler| {
        signal_hook::low_level::unregister(handler);
    });
    written?;
    note(&format!("wrote {} ({} bytes)", path.display(), bytes.len()));
    if interrupted.load(Ordering::Relaxed) { Err(RecordsError::Interrupted.into()) } else { Ok(()) }
}

/// The width of the terminal that standard output is; without limit for a file or a pipe.
pub(crate) fn width() -> Width {
    if !io::stdout().is_terminal() {
        return Width::Unlimited;
    }
    terminal_size::terminal_size()
        .map_or(Width::Unlimited, |(columns, _)| Width::Columns(usize::from(columns.0)))
}

/// The width of the terminal that standard error is; without limit for a file or a pipe.
pub(crate) fn width_of_errors() -> Width {
    if !io::stderr().is_terminal() {
        return Width::Unlimited;
    }
    terminal_size::terminal_size_of(io::stderr())
        .map_or(Width::Unlimited, |(columns, _)| Width::Columns(usize::from(columns.0)))
}

/// Colour on standard output: to a terminal that knows it only, and not where `NO_COLOR` asks for none (no-color.org).
pub(crate) fn colour() -> Colour {
    if io::stdout().is_terminal() && !colour_is_asked_off() { Colour::Allowed } else { Colour::Off }
}

/// Colour on standard error, under the same rules.
pub(crate) fn colour_of_errors() -> Colour {
    if io::stderr().is_terminal() && !colour_is_asked_off() { Colour::Allowed } else { Colour::Off }
}

fn colour_is_asked_off() -> bool {
    std::env::var_os("NO_COLOR").is_some_and(|value| !value.is_empty()) || is_dumb_terminal()
}

/// Whether the terminal says that it knows no signs that steer it.
pub(crate) fn is_dumb_terminal() -> bool {
    std::env::var_os("TERM").is_some_and(|value| value == "dumb")
}
