//! How the command ends: its exit code, and what it says of an error.

use crate::terminal::{colour_of_errors, width_of_errors};
use mild_ledger_records::{PlanMistakes, RecordsError, ZoneError};
use mild_ledger_report::terminal::{lines, mistakes};
use std::io;
use std::process::ExitCode;

/// The exit codes.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(crate) enum Ending {
    Done,
    RequestOrPlanWrong,
    FileFailed,
    /// What was asked to hold does not: no rows set aside, a control total, files as they were recorded.
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

    /// What is wrong, what was expected and what to do, broken at the width of standard error.
    pub(crate) fn message(&self) -> String {
        let width = width_of_errors();
        match self {
            Self::Argument { name, error, help } => {
                let mut said = lines(&format!("error: {name}: {}", error.what()), width);
                said.push_str(&lines(&format!("expected {}", error.allowed()), width));
                if let Some(help) = help {
                    said.push_str(&lines(&format!("help: {help}"), width));
                }
                said
            }
            Self::Request { what, help } => {
                lines(&format!("error: {what}"), width) + &lines(&format!("help: {help}"), width)
            }
            Self::Zone { name, error } => lines(&format!("error: {name}: {error}"), width),
            Self::Records(RecordsError::Calendar(found)) => {
                of_mistakes(found, "the calendar", "nothing was counted")
            }
            Self::Records(RecordsError::Plan(found)) => {
                of_mistakes(found, "the plan", "nothing was read or written")
            }
            Self::Records(error) => lines(&format!("error: {error}"), width),
            Self::Output(error) => {
                lines(&format!("error: could not write to standard output: {error}"), width)
            }
            Self::Demo(what) => lines(&format!("error: {what}"), width),
        }
    }
}

fn of_mistakes(found: &PlanMistakes, of: &str, so: &str) -> String {
    let count = found.mistakes().len();
    let word = if count == 1 { "mistake" } else { "mistakes" };
    let all = mistakes(found, (colour_of_errors(), width_of_errors()));
    all + &lines(&format!("error: {of} has {count} {word}; {so}"), width_of_errors())
}
