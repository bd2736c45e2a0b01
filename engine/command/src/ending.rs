//! Why the command could not do what was requested, and its message: as `mild` does.

use mild_ledger_records::RecordsError;
pub(crate) use mild_ledger_report::Ending;
use mild_ledger_report::error_said;
use mild_ledger_report::terminal::{Colour, Width, lines};
use std::io::{self, IsTerminal, Write};

/// Why the command could not do what was requested.
#[derive(Debug)]
pub(crate) enum Failure {
    Records(RecordsError),
    /// Arguments, or others that are not there.
    Request {
        what: String,
        help: String,
    },
    Output(io::Error),
}

impl From<RecordsError> for Failure {
    fn from(error: RecordsError) -> Self {
        Self::Records(error)
    }
}

impl From<io::Error> for Failure {
    fn from(error: io::Error) -> Self {
        Self::Output(error)
    }
}

impl Failure {
    pub(crate) fn ending(&self) -> Ending {
        match self {
            Self::Request { .. } => Ending::RequestOrPlanWrong,
            Self::Records(error) => Ending::of(error),
            Self::Output(_) => Ending::FileFailed,
        }
    }

    /// What is wrong, what was expected and what to do.
    pub(crate) fn message(&self) -> String {
        let width = width_of_errors();
        match self {
            Self::Records(error) => error_said(error, (Colour::Off, width)),
            Self::Request { what, help } => {
                lines(&format!("error: {what}"), width) + &lines(&format!("help: {help}"), width)
            }
            Self::Output(error) => {
                lines(&format!("error: could not write to standard output: {error}"), width)
            }
        }
    }
}

/// The width of the terminal that standard output is; without limit for a file or a pipe.
pub(crate) fn width() -> Width {
    let columns = io::stdout().is_terminal().then(terminal_size::terminal_size).flatten();
    columns.map_or(Width::Unlimited, |(columns, _)| Width::Columns(usize::from(columns.0)))
}

/// The same of standard error.
fn width_of_errors() -> Width {
    let columns = io::stderr().is_terminal().then(|| terminal_size::terminal_size_of(io::stderr())).flatten();
    columns.map_or(Width::Unlimited, |(columns, _)| Width::Columns(usize::from(columns.0)))
}

/// Writes to standard error; there is no one left to tell if that fails.
pub(crate) fn say(text: &str) {
    let _ = io::stderr().lock().write_all(text.as_bytes());
}

/// Says what is wrong in addition to an answer that was given.
pub(crate) fn say_error(what: &str) {
    say(&lines(&format!("error: {what}"), width_of_errors()));
}
