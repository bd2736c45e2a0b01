//! The records that a command reads without a plan.

use clap::Args;
use std::path::PathBuf;

#[derive(Debug, Args)]
#[command(next_help_heading = "Records")]
pub(crate) struct RecordsArguments {
    /// The file of records; several are read as one, - is standard input
    #[arg(value_name = "FILE", required = true, help_heading = "Arguments")]
    pub(crate) files: Vec<PathBuf>,
    /// Only rows that meet this: "Amount over 500"; again for more
    #[arg(long, value_name = "CONDITIONS")]
    pub(crate) when: Vec<String>,
    /// The sheet of a workbook, by its name or its number
    #[arg(long, value_name = "SHEET", conflicts_with_all = ["table", "query"])]
    pub(crate) sheet: Option<String>,
    /// The table of a database
    #[arg(long, value_name = "TABLE", conflicts_with = "query")]
    pub(crate) table: Option<String>,
    /// A query of a database, with ORDER BY
    #[arg(long, value_name = "SQL")]
    pub(crate) query: Option<String>,
    /// The line of the header, from 1; found unless stated
    #[arg(long, value_name = "LINE", value_parser = clap::value_parser!(u64).range(1..))]
    pub(crate) header_line: Option<u64>,
    /// The as-of date: 2026-09-30, today, "end of last month" …
    #[arg(long, value_name = "DATE")]
    pub(crate) as_of: Option<String>,
    /// The time zone of today; the system's unless stated
    #[arg(long, value_name = "ZONE")]
    pub(crate) zone: Option<String>,
    /// A pattern that is in doubt: Issued=day/month/year
    #[arg(long, value_name = "COLUMN=PATTERN")]
    pub(crate) date_pattern: Vec<String>,
    /// A notation that is in doubt: "Amount=1.234,56"
    #[arg(long, value_name = "COLUMN=SAMPLE")]
    pub(crate) amount_format: Vec<String>,
    /// The column that identifies the rows; again for more
    #[arg(long, value_name = "COLUMN")]
    pub(crate) key: Vec<String>,
}
