//! The command `mild`: record dates into figures for reporting.

mod arguments;
mod arguments_add;
mod arguments_quick;
mod arguments_records;
mod calendars;
mod clock;
mod commands;
mod dates;
mod ending;
mod output;
mod terminal;

use clap::Parser;
use mild_ledger_report::terminal::visible;
use std::process::ExitCode;

fn main() -> ExitCode {
    // A limit on the size of files then fails the write, which is reported and cleaned up, instead of ending the command.
    #[cfg(unix)]
    let _ = signal_hook::flag::register(
        signal_hook::consts::SIGXFSZ,
        std::sync::Arc::<std::sync::atomic::AtomicBool>::default(),
    );
    // A package that panics over a file ends with an error, in words for the user. A panic of our own is a defect and is printed.
    let told = std::panic::take_hook();
    std::panic::set_hook(Box::new(move |panic| {
        let is_ours = panic.location().is_none_or(|place| place.file().contains("mild-ledger"));
        if is_ours || !mild_ledger_records::is_decoding() {
            told(panic);
        }
    }));
    let arguments = arguments::with_negative_amounts(std::env::args_os());
    let arguments = match arguments::Arguments::try_parse_from(arguments) {
        Ok(arguments) => arguments,
        Err(error) if error.use_stderr() => {
            // An argument is shown as it was given, so nothing of it may steer the terminal.
            let said = error.render().to_string();
            said.lines().for_each(|line| output::to_standard_error(&format!("{}\n", visible(line))));
            return ending::Ending::RequestOrPlanWrong.into();
        }
        Err(help) => {
            let _ = help.print();
            return ending::Ending::Done.into();
        }
    };
    match commands::run(&arguments) {
        Ok(ending) => ending.into(),
        Err(failure) => {
            output::to_standard_error(&failure.message());
            failure.ending().into()
        }
    }
}
