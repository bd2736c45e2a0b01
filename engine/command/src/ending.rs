//! How the command ends: with the exit codes of `mild`, and what it says of an error.

use mild_ledger_records::RecordsError;
use mild_ledger_report::terminal::{Colour, Width, lines, mistakes};
use std::io::{self, IsTerminal, Write};
use std::process::ExitCode;

/// The exit codes.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(crate) enum Ending {
    Done,
    RequestOrPlanWrong,
    FileFailed,
    /// A control total was missed.
    CheckMissed,
    Interrupted,
}

impl From<Ending> for ExitCode {
    fn from(ending: Ending) -> Self {
        Self::from(match ending {
            Ending::Done => 0,
            Ending::RequestOrPlanWrong => 2,
            Ending::FileFailed => 3,
            Ending::CheckMissed => 4,
            Ending::Interrupted => 130,
        })
    }
}

/// Why the command could not do what was asked.
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
            Self::Records(
                RecordsError::Plan(_) | RecordsError::Calendar(_) | RecordsError::Request { .. },
            )
            | Self::Request { .. } => Ending::RequestOrPlanWrong,
            Self::Records(RecordsError::Interrupted) => Ending::Interrupted,
            Self::Records(_) | Self::Output(_) => Ending::FileFailed,
        }
    }

    /// What is wrong, what was expected and what to do.
    pub(crate) fn message(&self) -> String {
        let width = width_of_errors();
        match self {
            Self::Records(RecordsError::Plan(found) | RecordsError::Calendar(found)) => {
                let count = found.mistakes().len();
                let word = if count == 1 { "mistake" } else { "mistakes" };
                let all = mistakes(found, (Colour::Off, width));
                all + &lines(&format!("error: {count} {word}; nothing was read or written"), width)
            }
            Self::Records(error) => lines(&format!("error: {error}"), width),
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

/// Writes to standard error; there is nobody left to tell if that fails.
pub(crate) fn say(text: &str) {
    let _ = io::stderr().lock().write_all(text.as_bytes());
}

/// Says what is wrong beside an answer that was given.
pub(crate) fn say_error(what: &str) {
    say(&lines(&format!("error: {what}"), width_of_errors()));
}
