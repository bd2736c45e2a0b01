//! Writing to standard output and standard error.

use mild_ledger_report::terminal::{Colour, Width};
use std::io::{self, IsTerminal, Write};

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

/// The width of the terminal that standard output is; without limit for a file or a pipe.
pub(crate) fn width() -> Width {
    if !io::stdout().is_terminal() {
        return Width::Unlimited;
    }
    terminal_size::terminal_size()
        .map_or(Width::Unlimited, |(columns, _)| Width::Columns(usize::from(columns.0)))
}

/// Colour on standard output: to a terminal only, and not where `NO_COLOR` asks for none (no-color.org).
pub(crate) fn colour() -> Colour {
    if io::stdout().is_terminal() && !colour_is_asked_off() { Colour::Allowed } else { Colour::Off }
}

fn colour_is_asked_off() -> bool {
    std::env::var_os("NO_COLOR").is_some_and(|value| !value.is_empty())
}

/// Colour on standard error: to a terminal only, and not where `NO_COLOR` asks for none (no-color.org).
pub(crate) fn colour_of_errors() -> Colour {
    if io::stderr().is_terminal() && !colour_is_asked_off() { Colour::Allowed } else { Colour::Off }
}
