//! The arguments of the quick commands, which report from a file without a plan.

use crate::arguments_records::RecordsArguments;
use clap::Args;
use std::path::PathBuf;

/// The arguments that all of them have.
#[derive(Debug, Args)]
pub(crate) struct QuickArguments {
    #[command(flatten)]
    pub(crate) records: RecordsArguments,
    /// Rows of one key: "set aside", keep, first or last
    #[arg(long, value_name = "WHAT")]
    pub(crate) duplicates: Option<String>,
    /// The column of currencies (ISO 4217)
    #[arg(long, value_name = "COLUMN")]
    pub(crate) currency: Option<String>,
    /// Write the report: .html .xlsx .md .svg, or its table: .csv
    #[arg(long, value_name = "FILE", help_heading = "Report")]
    pub(crate) to: Vec<PathBuf>,
    /// Replace files of --to that exist
    #[arg(long, requires = "to", help_heading = "Report")]
    pub(crate) overwrite: bool,
    /// Write the plan that gives the same report every month
    #[arg(long, value_name = "PLAN", help_heading = "Report")]
    pub(crate) save_plan: Option<PathBuf>,
    /// Print one JSON object for programs
    #[arg(long, help_heading = "Report")]
    pub(crate) json: bool,
}

#[derive(Debug, Args)]
#[command(after_long_help = "\
The patterns of dates come from a look at the file, where they are found without doubt, and are printed.

  mild aging invoices-2026-09-30.csv --amount Amount --issued Issued --paid Paid --by Customer \
--as-of 2026-09-30 --duplicates \"set aside\"")]
pub(crate) struct AgingArguments {
    /// The column of amounts
    #[arg(long, value_name = "COLUMN")]
    pub(crate) amount: String,
    /// The column of the days of issue
    #[arg(long, value_name = "COLUMN")]
    pub(crate) issued: Option<String>,
    /// The column of due dates, in place of --issued and --terms
    #[arg(long, value_name = "COLUMN")]
    pub(crate) due: Option<String>,
    /// Payment terms of all rows, or "column Terms"
    #[arg(long, value_name = "TERMS", default_value = "net 30", conflicts_with = "due")]
    pub(crate) terms: String,
    /// Roll due dates to a working day: following, nearest …
    #[arg(long, value_name = "RULE", requires = "calendar", conflicts_with = "due")]
    pub(crate) roll: Option<String>,
    /// The calendar of working days: one that ships, or a file
    #[arg(long, value_name = "NAME|FILE", requires = "roll")]
    pub(crate) calendar: Option<String>,
    /// A file of payments, in place of --paid
    #[arg(long, value_name = "FILE", requires_all = ["payment_date", "payment_amount"], conflicts_with = "paid")]
    pub(crate) payments: Option<PathBuf>,
    /// The column that both files have, or OURS=THEIRS
    #[arg(long, value_name = "COLUMN", requires = "payments")]
    pub(crate) payment_match: Option<String>,
    /// The column of the days of payment
    #[arg(long, value_name = "COLUMN", requires = "payments")]
    pub(crate) payment_date: Option<String>,
    /// The column of the amounts paid
    #[arg(long, value_name = "COLUMN", requires = "payments")]
    pub(crate) payment_amount: Option<String>,
    /// The column of the days of full payment
    #[arg(long, value_name = "COLUMN")]
    pub(crate) paid: Option<String>,
    /// Groups: a column, or "Issued by month"; again for inner ones
    #[arg(long, value_name = "COLUMN")]
    pub(crate) by: Vec<String>,
    /// The upper edges of the buckets, included
    #[arg(long, value_name = "DAYS", value_delimiter = ',', default_value = "0,30,60,90")]
    pub(crate) edges: Vec<String>,
    #[command(flatten)]
    pub(crate) quick: QuickArguments,
}

#[derive(Debug, Args)]
#[command(after_long_help = "\
  mild tenure crew-2026-09-30.csv --start Start --left Left --by Team --as-of 2026-09-30")]
pub(crate) struct TenureArguments {
    /// The column of the first days
    #[arg(long, value_name = "COLUMN")]
    pub(crate) start: String,
    /// The column of the last days
    #[arg(long, value_name = "COLUMN")]
    pub(crate) left: Option<String>,
    /// How the time in service is counted
    #[arg(long, value_name = "MEASURE", default_value = "fractional years")]
    pub(crate) count: String,
    /// Groups: a column, or "Issued by month"; again for inner ones
    #[arg(long, value_name = "COLUMN")]
    pub(crate) by: Vec<String>,
    /// How many months of joiners and leavers are shown
    #[arg(long, value_name = "NUMBER", default_value_t = 12)]
    pub(crate) months: u16,
    #[command(flatten)]
    pub(crate) quick: QuickArguments,
}

#[derive(Debug, Args)]
#[command(after_long_help = "\
  mild upcoming crew-2026-09-30.csv --of Start --window \"6 months\" --show Name,Team --as-of 2026-09-30
  mild upcoming licences-2026-09-30.csv --of To --every once --as-of 2026-09-30")]
pub(crate) struct UpcomingArguments {
    /// The column of dates
    #[arg(long, value_name = "COLUMN")]
    pub(crate) of: String,
    /// How often a date returns: "1 year", "6 months" …, or once
    #[arg(long, value_name = "STEP", default_value = "1 year")]
    pub(crate) every: String,
    /// How far ahead of the as-of date
    #[arg(long, value_name = "AMOUNT", default_value = "3 months")]
    pub(crate) window: String,
    /// Days named from the as-of date in place of a window: "next month", "next 2 whole months"
    #[arg(long, value_name = "DAYS", conflicts_with = "window")]
    pub(crate) within: Option<String>,
    /// Groups: a column, or "To by month"; again for inner ones
    #[arg(long, value_name = "COLUMN")]
    pub(crate) by: Vec<String>,
    /// The columns next to each date; all unless stated
    #[arg(long, value_name = "COLUMNS", value_delimiter = ',', num_args = 1..)]
    pub(crate) show: Vec<String>,
    #[command(flatten)]
    pub(crate) quick: QuickArguments,
}

#[derive(Debug, Args)]
#[command(after_long_help = "\
  mild turnaround jobs-2026-09-30.csv --start \"Hauled out\" --end Relaunched --count \"working days\" \
--calendar yard.toml --promise \"10 working days\" --by Work --as-of 2026-09-30 --duplicates first")]
pub(crate) struct TurnaroundArguments {
    /// The column of the starts
    #[arg(long, value_name = "COLUMN")]
    pub(crate) start: String,
    /// The column of the ends
    #[arg(long, value_name = "COLUMN")]
    pub(crate) end: String,
    /// How the time is counted
    #[arg(long, value_name = "MEASURE", default_value = "days")]
    pub(crate) count: String,
    /// The calendar of working days: one that ships, or a file
    #[arg(long, value_name = "NAME|FILE")]
    pub(crate) calendar: Option<String>,
    /// Which ends count: last (unless stated), first-and-last …
    #[arg(long, value_name = "ENDS")]
    pub(crate) ends: Option<String>,
    /// The promised time from the start, such as "10 working days"
    #[arg(long, value_name = "AMOUNT")]
    pub(crate) promise: Option<String>,
    /// Groups: a column, or "Issued by month"; again for inner ones
    #[arg(long, value_name = "COLUMN")]
    pub(crate) by: Vec<String>,
    #[command(flatten)]
    pub(crate) quick: QuickArguments,
}

#[derive(Debug, Args)]
#[command(after_long_help = "\
  mild summary invoices-2026-09-30.csv --by Customer --sum Amount --largest Issued --duplicates first")]
pub(crate) struct SummaryArguments {
    /// Groups: a column, or "Issued by month"; again for inner ones
    #[arg(long, value_name = "COLUMN")]
    pub(crate) by: Vec<String>,
    /// The column, or periods, whose groups become columns
    #[arg(long, value_name = "COLUMN")]
    pub(crate) columns_by: Option<String>,
    /// A column that is summed; may be given again, as the others may
    #[arg(long, value_name = "COLUMN")]
    pub(crate) sum: Vec<String>,
    /// A column of which the mean is shown
    #[arg(long, value_name = "COLUMN")]
    pub(crate) mean: Vec<String>,
    /// A column of which the median is shown
    #[arg(long, value_name = "COLUMN")]
    pub(crate) median: Vec<String>,
    /// A column of which the smallest value is shown
    #[arg(long, value_name = "COLUMN")]
    pub(crate) smallest: Vec<String>,
    /// A column of which the largest value is shown
    #[arg(long, value_name = "COLUMN")]
    pub(crate) largest: Vec<String>,
    /// A column of which different values are counted
    #[arg(long, value_name = "COLUMN")]
    pub(crate) distinct: Vec<String>,
    #[command(flatten)]
    pub(crate) quick: QuickArguments,
}
