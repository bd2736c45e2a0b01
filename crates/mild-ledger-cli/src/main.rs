//! The command `mild`: record dates into figures for reporting.

mod arguments;
mod calendars;
mod clock;
mod commands;
mod dates;
mod ending;
mod output;

use clap::Parser;
use std::process::ExitCode;

fn main() -> ExitCode {
    let arguments = arguments::Arguments::parse_from(arguments::with_negative_amounts(std::env::args_os()));
    match commands::run(&arguments) {
        Ok(ending) => ending.into(),
        Err(failure) => {
            output::to_standard_error(&failure.message());
            failure.ending().into()
        }
    }
}
