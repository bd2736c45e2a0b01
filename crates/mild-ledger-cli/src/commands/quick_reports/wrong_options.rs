//! Mistakes of the plan that is made of the arguments, told as mistakes of the options that they come from.

use crate::ending::{Failure, WrongOption};
use mild_ledger_records::{RecordsError, quoted};

/// An option, and the value that the plan has of it.
pub(super) type OptionValue = (&'static str, String);

/// An error of the plan with its options; any other error as it is.
pub(super) fn of_options(error: RecordsError, conditions: &[String], options: &[OptionValue]) -> Failure {
    let RecordsError::Plan(found) = error else { return error.into() };
    let (of_conditions, found) = found.of_lines("--when", conditions);
    if found.mistakes().is_empty() {
        return Failure::Lines(of_conditions);
    }
    let wrong = found.mistakes().iter().map(|mistake| {
        let text = found.source().get(mistake.span()).unwrap_or_default();
        let is_all = |(_, value): &&OptionValue| text == quoted(value) || text == value;
        let is_part =
            |(_, value): &&OptionValue| text.contains(&quoted(value)) || text.contains(value.as_str());
        let option = options.iter().find(is_all).or_else(|| options.iter().find(is_part));
        WrongOption {
            option: option.map(|(option, _)| *option),
            what: mistake.what().to_owned(),
            expected: mistake.expected().to_string(),
            help: mistake.help().map(str::to_owned),
        }
    });
    Failure::Options(wrong.collect())
}
