//! One module a command.

mod add;
mod between;
mod calendar;
mod check;
mod completions;
mod demo;
mod due;
mod help;
mod look;
mod looked;
mod periods;
mod planned;
mod progress;
mod quick_reports;
mod records_found;
mod run;
mod shift;
mod verify;

use crate::arguments::{Arguments, Command};
use crate::ending::{Ending, Failure};

pub(crate) fn run(arguments: &Arguments) -> Result<Ending, Failure> {
    match &arguments.command {
        Command::Demo(demo) => demo::demo(demo),
        Command::Periods(periods) => periods::periods(periods),
        Command::Between(between) => between::between(between),
        Command::Due(due) => due::due(due),
        Command::Shift(shift) => shift::shift(shift),
        Command::Calendar(arguments) => calendar::calendar(arguments),
        Command::Look(arguments) => look::look(arguments),
        Command::Add(arguments) => add::add(arguments),
        Command::Check(arguments) => check::check(arguments),
        Command::Run(run) => run::run(run),
        Command::Aging(arguments) => quick_reports::aging(arguments),
        Command::Tenure(arguments) => quick_reports::tenure(arguments),
        Command::Upcoming(arguments) => quick_reports::upcoming(arguments),
        Command::Turnaround(arguments) => quick_reports::turnaround(arguments),
        Command::Summary(arguments) => quick_reports::summary(arguments),
        Command::Verify(verify) => verify::verify(verify),
        Command::Help(arguments) => help::help(arguments),
        Command::Completions(arguments) => completions::completions(arguments),
    }
}
