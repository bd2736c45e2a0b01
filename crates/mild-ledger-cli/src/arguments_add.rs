//! The arguments of `mild add`, which adds columns to a file without a plan.

use crate::arguments_records::RecordsArguments;
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
    /// A new column: "Days = days from Issued to Paid"; again for more
    #[arg(long = "column", value_name = "LINE", required = true)]
    pub(crate) columns: Vec<String>,
    /// The file to write, in the format of its name; standard output, as CSV, without it
    #[arg(long, value_name = "FILE")]
    pub(crate) to: Option<PathBuf>,
    /// Replace the file of --to
    #[arg(long, requires = "to")]
    pub(crate) overwrite: bool,
    /// The calendar of lines that name none: one that ships, or a file
    #[arg(long, value_name = "NAME|FILE")]
    pub(crate) calendar: Option<String>,
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
    #[command(flatten)]
    pub(crate) records: RecordsArguments,
}

impl AddArguments {
    /// The file of records, the first of several.
    pub(crate) fn first_file(&self) -> PathBuf {
        self.records.files.first().cloned().unwrap_or_default()
    }
}
