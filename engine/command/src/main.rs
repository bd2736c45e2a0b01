//! The command `mild-engine`: plans on a query engine, in this process or on a cluster.

mod arguments;
mod cluster;
mod ending;
mod run;

use arguments::{Arguments, Command};
use clap::Parser;
use std::process::ExitCode;

fn main() -> ExitCode {
    let arguments = Arguments::parse();
    // What the engine and the cluster print goes to standard error, as RUST_LOG asks. A run prints its error itself, once.
    let quiet = matches!(arguments.command, Command::Run(_));
    let filter = if quiet { "off" } else { "error" };
    env_logger::Builder::from_env(env_logger::Env::default().default_filter_or(filter)).init();
    let ended = match &arguments.command {
        Command::Run(arguments) => run::run(arguments),
        Command::Scheduler(arguments) => cluster::scheduler(arguments),
        Command::Executor(arguments) => cluster::executor(arguments),
    };
    match ended {
        Ok(ending) => ending.into(),
        Err(failure) => {
            ending::say(&failure.message());
            failure.ending().into()
        }
    }
}
