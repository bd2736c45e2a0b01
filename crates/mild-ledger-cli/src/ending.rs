//! Why a command failed, and its message.

use crate::terminal::{colour_of_errors, width_of_errors};
use mild_ledger_records::{PlanMistakes, RecordsError, ZoneError};
pub(crate) use mild_ledger_report::Ending;
use mild_ledger_report::error_said;
use mild_ledger_report::terminal::{lines, mistakes};
use std::io;

/// Why a command failed.
#[derive(Debug)]
pub(crate) enum Failure {
    /// A date among the arguments.
    Argument { name: &'static str, error: mild_ledger::Error, help: Option<String> },
    /// Arguments that do not go together.
    Request { what: String, help: String },
    /// Lines that define columns or say conditions.
    Lines(Vec<PlanMistakes>),
    /// Options with values that are not right.
    Options(Vec<WrongOption>),
    /// A time zone, or a time in it.
    Zone { name: &'static str, error: ZoneError },
    /// A plan, its records or its outputs.
    Records(RecordsError),
    /// A file of the demo.
    Demo(String),
    /// Standard output.
    Output(io::Error),
}

/// An option with a value that is not right; none where no single option is wrong.
#[derive(Debug)]
pub(crate) struct WrongOption {
    pub(crate) option: Option<&'static str>,
    pub(crate) what: String,
    /// What is right, beginning with its label.
    pub(crate) expected: String,
    pub(crate) help: Option<String>,
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
            Self::Argument { .. }
            | Self::Request { .. }
            | Self::Lines(_)
            | Self::Options(_)
            | Self::Zone { .. } => Ending::RequestOrPlanWrong,
            Self::Demo(_) | Self::Output(_) => Ending::FileFailed,
            Self::Records(error) => Ending::of(error),
        }
    }

    /// What is wrong, what was expected and what to do, broken at the width of standard error.
    pub(crate) fn message(&self) -> String {
        let width = width_of_errors();
        match self {
            Self::Argument { name, error, help } => {
                let mut said = lines(&format!("error: {name}: {}", error.what()), width);
                said.push_str(&lines(&format!("expected: {}", error.allowed()), width));
                if let Some(help) = help {
                    let label = if help.starts_with("nearest: ") { "" } else { "help: " };
                    said.push_str(&lines(&format!("{label}{help}"), width));
                }
                said
            }
            Self::Options(wrong) => {
                let of = |one: &WrongOption| {
                    let option = one.option.map(|option| format!("{option}: ")).unwrap_or_default();
                    let first = format!("error: {option}{}", one.what);
                    let words = [Some(&first), Some(&one.expected), one.help.as_ref()];
                    words.into_iter().flatten().map(|words| lines(words, width)).collect::<String>()
                };
                wrong.iter().map(of).collect()
            }
            Self::Lines(wrong) => {
                let said = wrong.iter().map(|wrong| mistakes(wrong, (colour_of_errors(), width)));
                let count: usize = wrong.iter().map(|wrong| wrong.mistakes().len()).sum();
                let word = if count == 1 { "mistake" } else { "mistakes" };
                said.collect::<String>()
                    + &lines(&format!("error: {count} {word}; nothing was written"), width)
            }
            Self::Request { what, help } => {
                lines(&format!("error: {what}"), width) + &lines(&format!("help: {help}"), width)
            }
            Self::Zone { name, error } => lines(&format!("error: {name}: {error}"), width),
            Self::Records(error) => error_said(error, (colour_of_errors(), width)),
            Self::Output(error) => {
                lines(&format!("error: could not write to standard output: {error}"), width)
            }
            Self::Demo(what) => lines(&format!("error: {what}"), width),
        }
    }
}
