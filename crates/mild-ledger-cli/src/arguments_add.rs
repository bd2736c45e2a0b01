//! The arguments of `mild add`, which adds columns to a file without a plan.

use clap::Args;
use std::path::PathBuf;

#[derive(Debug, Args)]
#[command(after_long_help = "\
A line names the new column and says what it holds; mild help lines lists the forms. The patterns of dates come from a look at the file, where they are \
found without doubt, and are printed. Other columns stay as they are.

  mild add orders.csv --column \"Days = working days from Ordered to Shipped on england-wales\" --to orders-dated.csv
  mild add orders.csv --column \"Due = Ordered + 2 months, month end\" --column \"Late = yes when Shipped over column Due\"
  mild add orders.xlsx --when \"Shipped is blank\" --column \"Open = days since Ordered\" --as-of today --to open.xlsx")]
pub(crate) struct AddArguments {
    /// The file of records
    #[arg(value_name = "FILE")]
    pub(crate) file: PathBuf,
    /// A new column: "Days = days from Issued to Paid"; again for more
    #[arg(long = "column", value_name = "LINE", required = true)]
    pub(crate) columns: Vec<String>,
    /// Only rows that meet a condition: "Amount over 500"; again for more
    #[arg(long, value_name = "CONDITIONS")]
    pub(crate) when: Vec<String>,
    /// The file to write, in the format of its name; standard output, as CSV, without it
    #[arg(long, value_name = "FILE")]
    pub(crate) to: Option<PathBuf>,
    /// Replace the file of --to
    #[arg(long, requires = "to")]
    pub(crate) overwrite: bool,
    /// The calendar of lines that name none: one that ships, or a file
    #[arg(long, value_name = "NAME|FILE")]
    pub(crate) calendar: Option<String>,
    /// The as-of date: 2026-09-30, today, "end of last month" …
    #[arg(long, value_name = "DATE")]
    pub(crate) as_of: Option<String>,
    /// The pattern of a column of dates, where it is in doubt: Issued=day/month/year
    #[arg(long, value_name = "COLUMN=PATTERN")]
    pub(crate) date_pattern: Vec<String>,
    /// How a column of amounts is written, where that is in doubt: "Amount=1.234,56"
    #[arg(long, value_name = "COLUMN=SAMPLE")]
    pub(crate) amount_format: Vec<String>,
    /// The sheet of a workbook, by its name or its number
    #[arg(long, value_name = "SHEET", conflicts_with = "table")]
    pub(crate) sheet: Option<String>,
    /// The table of a database
    #[arg(long, value_name = "TABLE")]
    pub(crate) table: Option<String>,
    /// The column that identifies the rows, for --row; again for a key of several columns
    #[arg(long, value_name = "COLUMN")]
    pub(crate) key: Vec<String>,
    /// Show how each cell of one row comes about, and write nothing
    #[arg(long, requires = "row", conflicts_with_all = ["to", "save_plan"])]
    pub(crate) why: bool,
    /// The number of the row, or its key where --key names the column
    #[arg(long, value_name = "ROW", requires = "why")]
    pub(crate) row: Option<String>,
    /// Write the plan that adds the same columns
    #[arg(long, value_name = "PLAN")]
    pub(crate) save_plan: Option<PathBuf>,
    /// Print one JSON object for programs
    #[arg(long)]
    pub(crate) json: bool,
    /// The time zone of today; the system's unless stated
    #[arg(long, value_name = "ZONE")]
    pub(crate) zone: Option<String>,
}
