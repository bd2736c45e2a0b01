//! What the command is asked.

use clap::{Args, Parser, Subcommand};
use mild_ledger_engine::PIECE_BYTES;
use std::num::NonZeroUsize;
use std::path::PathBuf;

/// Plans of Mild Ledger on a query engine, in this process or on a cluster.
#[derive(Debug, Parser)]
#[command(name = "mild-engine", version, arg_required_else_help = true)]
pub(crate) struct Arguments {
    #[command(subcommand)]
    pub(crate) command: Command,
}

#[derive(Debug, Subcommand)]
pub(crate) enum Command {
    /// Run a plan: what `mild run` finds, writes and proves, its rows as a folder of files
    Run(RunArguments),
    /// Give the work of plans to executors; it must not be reachable by strangers
    Scheduler(SchedulerArguments),
    /// Work for a scheduler; it must not be reachable by strangers
    Executor(ExecutorArguments),
}

#[derive(Debug, Args)]
pub(crate) struct RunArguments {
    /// The plan file (TOML)
    #[arg(value_name = "PLAN")]
    pub(crate) plan: PathBuf,
    /// The as-of date in place of the plan's (ISO 8601)
    #[arg(long, value_name = "DATE")]
    pub(crate) as_of: Option<String>,
    /// A file, a folder or an address of records in place of the plan's; may be given several times
    #[arg(long, value_name = "FILE")]
    pub(crate) records: Vec<PathBuf>,
    /// Overwrite files that are where outputs go
    #[arg(long)]
    pub(crate) overwrite: bool,
    /// Rows to look at, inputs next to results
    #[arg(long, value_name = "ROWS", default_value_t = 0)]
    pub(crate) sample: u16,
    /// The object for programs in place of the report
    #[arg(long)]
    pub(crate) json: bool,
    /// The scheduler of a cluster to run it on, in place of this process
    #[arg(long, value_name = "HOST:PORT")]
    pub(crate) cluster: Option<String>,
    /// In how many partitions the records are worked on; as many as there are cores unless stated, on a cluster 16
    #[arg(long, value_name = "NUMBER")]
    pub(crate) partitions: Option<NonZeroUsize>,
    /// Bytes of a piece of the records, which a task reads at once
    #[arg(long, value_name = "BYTES", default_value_t = PIECE_BYTES)]
    pub(crate) pieces_of: NonZeroUsize,
    /// Seconds without a sign of life from this process after which executors give the run up and clear its folder away
    #[arg(long, value_name = "SECONDS", default_value_t = 120)]
    pub(crate) gone_after: u64,
    /// Seconds without a word from the cluster after which the run is given up
    #[arg(long, value_name = "SECONDS", default_value_t = 3600)]
    pub(crate) give_up_after: u64,
}

#[derive(Debug, Args)]
pub(crate) struct SchedulerArguments {
    /// The address to listen at
    #[arg(long, value_name = "ADDRESS", default_value = "127.0.0.1")]
    pub(crate) listen: String,
    /// The port to listen at
    #[arg(long, value_name = "PORT", default_value_t = 50050)]
    pub(crate) port: u16,
    /// The name under which executors and the machines that run plans reach it; the address unless stated
    #[arg(long, value_name = "HOST")]
    pub(crate) reached_at: Option<String>,
    /// Seconds without a sign of life after which an executor counts as gone
    #[arg(long, value_name = "SECONDS", default_value_t = 30)]
    pub(crate) gone_after: u64,
}

#[derive(Debug, Args)]
pub(crate) struct ExecutorArguments {
    /// The scheduler to work for
    #[arg(long, value_name = "HOST:PORT", default_value = "127.0.0.1:50050")]
    pub(crate) scheduler: String,
    /// The address to listen at
    #[arg(long, value_name = "ADDRESS", default_value = "127.0.0.1")]
    pub(crate) listen: String,
    /// The port at which results are fetched
    #[arg(long, value_name = "PORT", default_value_t = 50051)]
    pub(crate) port: u16,
    /// The port at which work is taken
    #[arg(long, value_name = "PORT", default_value_t = 50052)]
    pub(crate) work_port: u16,
    /// The name under which others reach it; the address unless stated
    #[arg(long, value_name = "HOST")]
    pub(crate) reached_at: Option<String>,
    /// How many tasks are worked on at once; as many as there are cores unless stated
    #[arg(long, value_name = "NUMBER")]
    pub(crate) tasks: Option<NonZeroUsize>,
    /// The folder in which a private one is made for results that wait to be fetched; that of temporary files unless stated
    #[arg(long, value_name = "FOLDER")]
    pub(crate) folder: Option<PathBuf>,
}
