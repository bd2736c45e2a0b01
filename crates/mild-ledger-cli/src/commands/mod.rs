//! One module a command.

mod between;
mod demo;
mod run;

use crate::arguments::{Arguments, Command};
use crate::ending::{Ending, Failure};

pub(crate) fn run(arguments: &Arguments) -> Result<Ending, Failure> {
    match &arguments.command {
        Command::Demo(demo) => demo::demo(demo),
        Command::Between(between) => between::between(between),
        Command::Run(run) => run::run(run),
    }
}
