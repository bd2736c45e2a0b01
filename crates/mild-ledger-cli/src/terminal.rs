//! What standard output and standard error are: how wide, and whether in colour.

use mild_ledger_report::terminal::{Colour, Width};
use std::io::{self, IsTerminal};

/// The width of the terminal that standard output is; without limit for a file or a pipe.
pub(crate) fn width() -> Width {
    if !io::stdout().is_terminal() {
        return Width::Unlimited;
    }
    terminal_size::terminal_size()
        .map_or(Width::Unlimited, |(columns, _)| Width::Columns(usize::from(columns.0)))
}

/// The width of the terminal that standard error is; without limit for a file or a pipe.
pub(crate) fn width_of_errors() -> Width {
    if !io::stderr().is_terminal() {
        return Width::Unlimited;
    }
    terminal_size::terminal_size_of(io::stderr())
        .map_or(Width::Unlimited, |(columns, _)| Width::Columns(usize::from(columns.0)))
}

/// Colour on standard output: to a terminal that knows it only, and not where `NO_COLOR` asks for none (no-color.org).
pub(crate) fn colour() -> Colour {
    if io::stdout().is_terminal() && !colour_is_asked_off() { Colour::Allowed } else { Colour::Off }
}

/// Colour on standard error, under the same rules.
pub(crate) fn colour_of_errors() -> Colour {
    if io::stderr().is_terminal() && !colour_is_asked_off() { Colour::Allowed } else { Colour::Off }
}

fn colour_is_asked_off() -> bool {
    std::env::var_os("NO_COLOR").is_some_and(|value| !value.is_empty()) || is_dumb_terminal()
}

/// Whether the terminal declares that it knows no control sequences.
pub(crate) fn is_dumb_terminal() -> bool {
    std::env::var_os("TERM").is_some_and(|value| value == "dumb")
}
