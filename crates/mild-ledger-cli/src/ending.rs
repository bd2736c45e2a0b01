//! How the command ends: its exit code, and what it says of an error.

use crate::output::colour_of_errors;
use mild_ledger_records::{RecordsError, ZoneError};
use mild_ledger_report::terminal::{mistakes, visible};
use std::io;
use std::process::ExitCode;

/// The exit codes.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(crate) enum Ending {
    Done,
    RequestOrPlanWrong,
    FileFailed,
    RowsSetAside,
    Interrupted,
}

impl From<Ending> for ExitCode {
    fn from(ending: Ending) -> Self {
        Self::from(match ending {
            Ending::Done => 0,
            Ending::RequestOrPlanWrong => 2,
            Ending::FileFailed => 3,
            Ending::RowsSetAside => 4,
            Ending::Interrupted => 130,
        })
    }
}

/// Why the command could not do what was asked.
#[derive(Debug)]
pub(crate) enum Failure {
    /// A date among the arguments.
    Argument { name: &'static str, error: mild_ledger::Error, help: Option<String> },
    /// Arguments that do not go together.
    Request { what: String, help: String },
    /// A time zone, or a time in it.
    Zone { name: &'static str, error: ZoneError },
    /// A plan, its records or its outputs.
    Records(RecordsError),
    /// A file of the demo.
    Demo(String),
    /// Standard output.
    Output(io::Error),
}

impl From<io::Error> for Failure {
    fn from(error: io::Error) -> Self {
        Self::Output(error)
    }
}

impl From<RecordsError> for Failure {
    fn from(error: RecordsError) -> Self {
        Self::Records(error)
    }
}

impl Failure {
    pub(crate) fn ending(&self) -> Ending {
        match self {
            Self::Argument { .. } | Self::Request { .. } | Self::Zone { .. } => Ending::RequestOrPlanWrong,
            Self::Demo(_) | Self::Output(_) => Ending::FileFailed,
            Self::Records(error) => match error {
                RecordsError::Plan(_) | RecordsError::Calendar(_) | RecordsError::Request { .. } => {
                    Ending::RequestOrPlanWrong
                }
                RecordsError::Interrupted => Ending::Interrupted,
                _ => Ending::FileFailed,
            },
        }
    }

    pub(crate) fn message(&self) -> String {
        match self {
            Self::Argument { name, error, help } => {
                let help = help.as_ref().map_or_else(String::new, |help| format!("; {help}"));
                format!("mild: {name}: {} (allowed: {}){help}\n", error.what(), error.allowed())
            }
            Self::Request { what, help } => format!("mild: {what}; {help}\n"),
            Self::Zone { name, error } => format!("mild: {name}: {error}\n"),
            Self::Records(RecordsError::Calendar(found)) => {
                let count = found.mistakes().len();
                let word = if count == 1 { "mistake" } else { "mistakes" };
                format!(
                    "{}mild: the calendar has {count} {word}; nothing was counted\n",
                    mistakes(found, colour_of_errors())
                )
            }
            Self::Records(RecordsError::Plan(found)) => {
                let count = found.mistakes().len();
                let word = if count == 1 { "mistake" } else { "mistakes" };
                format!(
                    "{}mild: the plan has {count} {word}; nothing was read or written\n",
                    mistakes(found, colour_of_errors())
                )
            }
            Self::Records(error) => format!("mild: {}\n", visible(&error.to_string())),
            Self::Output(error) => format!("mild: could not write to standard output: {error}\n"),
            Self::Demo(what) => format!("mild: {}\n", visible(what)),
        }
    }
}
