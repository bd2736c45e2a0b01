//! How a command ends: its exit code, and what it says where plans and records were in the way.

use crate::terminal::{Colour, Width, lines, mistakes};
use mild_ledger_records::{PlanMistakes, RecordsError};
use std::process::ExitCode;

/// How a command ended.
///
/// ```
/// use mild_ledger_records::RecordsError;
/// use mild_ledger_report::Ending;
/// assert_eq!(Ending::of(&RecordsError::Interrupted), Ending::Interrupted);
/// assert_eq!(Ending::Interrupted.code(), 130);
/// ```
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Ending {
    /// Done: 0.
    Done,
    /// The request or the plan is wrong: 2.
    RequestOrPlanWrong,
    /// A file could not be read or written: 3.
    FileFailed,
    /// A check failed: rows set aside under --strict, a control total, or recorded files: 4.
    CheckMissed,
    /// Interrupted: 130.
    Interrupted,
}

impl Ending {
    /// How a command ends on an error.
    #[must_use]
    pub fn of(error: &RecordsError) -> Self {
        match error {
            RecordsError::Plan(_) | RecordsError::Calendar(_) | RecordsError::Request { .. } => {
                Self::RequestOrPlanWrong
            }
            RecordsError::Interrupted => Self::Interrupted,
            _ => Self::FileFailed,
        }
    }

    /// Its exit code.
    #[must_use]
    pub fn code(self) -> u8 {
        match self {
            Self::Done => 0,
            Self::RequestOrPlanWrong => 2,
            Self::FileFailed => 3,
            Self::CheckMissed => 4,
            Self::Interrupted => 130,
        }
    }
}

impl From<Ending> for ExitCode {
    fn from(ending: Ending) -> Self {
        Self::from(ending.code())
    }
}

/// What a command says of an error on its way out: each mistake of a plan or a calendar with its line, and anything else in a sentence; broken at the
/// width of where it is shown.
///
/// ```
/// use mild_ledger_records::{Plan, RecordsError};
/// use mild_ledger_report::{error_said, terminal::{Colour, Width}};
/// let error = Plan::of_text("plan = 1\n[record]\n", "month.toml".as_ref()).unwrap_err();
/// let said = error_said(&error, (Colour::Off, Width::Columns(80)));
/// assert!(said.contains("month.toml, line 2: ") && said.contains("    [record]\n") && said.contains("nothing was read or written"), "{said}");
/// ```
#[must_use]
pub fn error_said(error: &RecordsError, (colour, width): (Colour, Width)) -> String {
    let of_mistakes = |found: &PlanMistakes, of: &str, so: &str| {
        let count = found.mistakes().len();
        let word = if count == 1 { "mistake" } else { "mistakes" };
        mistakes(found, (colour, width)) + &lines(&format!("error: {of} has {count} {word}; {so}"), width)
    };
    match error {
        RecordsError::Calendar(found) => of_mistakes(found, "the calendar", "nothing was counted"),
        RecordsError::Plan(found) => of_mistakes(found, "the plan", "nothing was read or written"),
        error => lines(&format!("error: {error}"), width),
    }
}
