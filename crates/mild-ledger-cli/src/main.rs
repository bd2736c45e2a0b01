//! The command `mild`: record dates into figures for reporting.

mod arguments;
mod clock;
mod commands;
mod ending;
mod output;

use clap::Parser;
use std::process::ExitCode;

fn main() -> ExitCode {
    let arguments = arguments::Arguments::parse();
    match commands::run(&arguments) {
        Ok(ending) => ending.into(),
        Err(failure) => {
            output::to_standard_error(&failure.message());
            failure.ending().into()
        }
    }
}
