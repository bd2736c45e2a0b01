//! Writing to standard output, to standard error, and to the files that options name.

use crate::ending::Failure;
use crate::terminal::width_of_errors;
use mild_ledger_records::{ExistingFiles, RecordsError, write_whole_file};
use mild_ledger_report::terminal::lines;
use std::io::{self, Write};
use std::path::Path;
use std::sync::Arc;
use std::sync::atomic::{AtomicBool, Ordering};

/// Writes an answer to standard output. A closed pipe is not an error: its reader has seen enough, and the command ends quietly.
pub(crate) fn to_standard_output(text: &str) -> io::Result<()> {
    match all_to_standard_output(|out| out.write_all(text.as_bytes())) {
        Err(error) if error.kind() != io::ErrorKind::BrokenPipe => Err(error),
        _ => Ok(()),
    }
}

/// Writes data to standard output. A closed pipe is an error, since a part of the data is lost.
pub(crate) fn all_to_standard_output(write: impl FnOnce(&mut dyn Write) -> io::Result<()>) -> io::Result<()> {
    let mut out = io::stdout().lock();
    write(&mut out).and_then(|()| out.flush())
}

/// Writes to standard error. A failure of that cannot be reported.
pub(crate) fn to_standard_error(text: &str) {
    let mut out = io::stderr().lock();
    let _ = out.write_all(text.as_bytes()).and_then(|()| out.flush());
}

/// Prints a note to standard error.
pub(crate) fn note(text: &str) {
    to_standard_error(&lines(&format!("note: {text}"), width_of_errors()));
}

/// Writes a file that an option names, and prints its name and size. A request to end waits until the file is complete.
pub(crate) fn to_file(path: &Path, bytes: &[u8], existing: ExistingFiles) -> Result<(), Failure> {
    let interrupted = Arc::new(AtomicBool::new(false));
    let handlers: Vec<_> = [signal_hook::consts::SIGINT, signal_hook::consts::SIGTERM]
        .into_iter()
        .filter_map(|signal| signal_hook::flag::register(signal, Arc::clone(&interrupted)).ok())
        .collect();
    let written = write_whole_file(path, bytes, existing);
    handlers.into_iter().for_each(|handler| {
        signal_hook::low_level::unregister(handler);
    });
    written?;
    note(&format!("wrote {} ({} bytes)", path.display(), bytes.len()));
    if interrupted.load(Ordering::Relaxed) { Err(RecordsError::Interrupted.into()) } else { Ok(()) }
}

/// Whether two names lead to one file that exists.
pub(crate) fn same_file(one: &Path, other: &Path) -> bool {
    one.canonicalize().is_ok_and(|one| other.canonicalize().is_ok_and(|other| one == other))
}
