//! The arguments of the command, and their help.

use clap::{Args, Parser, Subcommand};
use std::path::PathBuf;

/// Turns record dates into figures for reporting, each by a rule that has a name.
#[derive(Debug, Parser)]
#[command(name = "mild", version, max_term_width = 100, disable_help_subcommand = true)]
#[command(after_help = "mild COMMAND --help says more about each.")]
pub(crate) struct Arguments {
    #[command(subcommand)]
    pub(crate) command: Command,
}

#[derive(Debug, Subcommand)]
pub(crate) enum Command {
    /// Write the demo records and plan of Quillhaven Boatyard, run them and show the report
    Demo(DemoArguments),
    /// Count the time between two dates in every way, side by side
    Between(BetweenArguments),
    /// Run a plan: records in; columns, reports and exceptions out
    Run(RunArguments),
}

#[derive(Debug, Args)]
#[command(
    after_long_help = "A file that stands in the folder and was changed is left as it is, and said so."
)]
pub(crate) struct DemoArguments {
    /// The folder to write to; it is made where it is missing
    #[arg(value_name = "FOLDER", default_value = "mild-demo")]
    pub(crate) folder: PathBuf,
}

#[derive(Debug, Args)]
#[command(after_long_help = "\
Dates are ISO 8601 (2026-09-30, 2026-W40-3, 2026-273), today, yesterday, tomorrow, or start|end of \
last|this|next month|quarter|half-year|year, in quotes.

  mild between 2019-11-30 2022-01-02
  mild between 2026-01-31 \"end of last month\"")]
pub(crate) struct BetweenArguments {
    /// The date to count from
    #[arg(value_name = "START")]
    pub(crate) start: String,
    /// The date to count to
    #[arg(value_name = "END")]
    pub(crate) end: String,
    /// Print one JSON object for programs
    #[arg(long)]
    pub(crate) json: bool,
}

#[derive(Debug, Args)]
#[command(after_long_help = "\
The outputs appear all or not at all. A file in the way is overwritten only if this plan wrote it for the \
same as-of date and nobody changed it since.

Exit codes: 0 done; 2 the request or the plan is wrong; 3 a file could not be read or written; 4 rows were \
set aside and --strict was given; 130 interrupted.")]
pub(crate) struct RunArguments {
    /// The plan file (TOML)
    #[arg(value_name = "PLAN")]
    pub(crate) plan: PathBuf,
    /// The as-of date in place of the plan's: ISO 8601, today, "end of last month" …
    #[arg(long, value_name = "DATE")]
    pub(crate) as_of: Option<String>,
    /// The records file in place of the plan's
    #[arg(long, value_name = "FILE")]
    pub(crate) records: Option<PathBuf>,
    /// Exit with 4 if any row was set aside
    #[arg(long)]
    pub(crate) strict: bool,
    /// Overwrite files in the way, whoever wrote them
    #[arg(long)]
    pub(crate) overwrite: bool,
    /// Print one JSON object for programs
    #[arg(long)]
    pub(crate) json: bool,
}
