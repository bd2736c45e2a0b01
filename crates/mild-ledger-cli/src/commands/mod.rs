//! One module a command.

mod around;
mod between;
mod calendar;
mod check;
mod demo;
mod due;
mod look;
mod planned;
mod progress;
mod run;
mod shift;
mod straight;
mod verify;

use crate::arguments::{Arguments, Command};
use crate::ending::{Ending, Failure};

pub(crate) fn run(arguments: &Arguments) -> Result<Ending, Failure> {
    match &arguments.command {
        Command::Demo(demo) => demo::demo(demo),
        Command::Around(around) => around::around(around),
        Command::Between(between) => between::between(between),
        Command::Due(due) => due::due(due),
        Command::Shift(shift) => shift::shift(shift),
        Command::Calendar(arguments) => calendar::calendar(arguments),
        Command::Look(arguments) => look::look(arguments),
        Command::Check(arguments) => check::check(arguments),
        Command::Run(run) => run::run(run),
        Command::Aging(arguments) => straight::aging(arguments),
        Command::Tenure(arguments) => straight::tenure(arguments),
        Command::Upcoming(arguments) => straight::upcoming(arguments),
        Command::Turnaround(arguments) => straight::turnaround(arguments),
        Command::Summary(arguments) => straight::summary(arguments),
        Command::Verify(verify) => verify::verify(verify),
    }
}
