//! `mild completions SHELL`: what a shell completes, or the manual page.

use crate::arguments::{Arguments, CompletionsArguments, CompletionsFor};
use crate::ending::{Ending, Failure};
use crate::output::to_standard_output;
use clap::CommandFactory;
use clap_complete::{Shell, generate};

pub(crate) fn completions(arguments: &CompletionsArguments) -> Result<Ending, Failure> {
    let mut command = Arguments::command();
    let mut out = Vec::new();
    let shell = match arguments.shell {
        CompletionsFor::Bash => Some(Shell::Bash),
        CompletionsFor::Elvish => Some(Shell::Elvish),
        CompletionsFor::Fish => Some(Shell::Fish),
        CompletionsFor::Powershell => Some(Shell::PowerShell),
        CompletionsFor::Zsh => Some(Shell::Zsh),
        CompletionsFor::Man => None,
    };
    match shell {
        Some(shell) => generate(shell, &mut command, "mild", &mut out),
        None => clap_mangen::Man::new(command).render(&mut out)?,
    }
    to_standard_output(&String::from_utf8_lossy(&out))?;
    Ok(Ending::Done)
}
