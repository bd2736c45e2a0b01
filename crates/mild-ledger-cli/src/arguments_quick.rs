//! The arguments of the quick commands, which report from a file without a plan.

use clap::Args;
use std::path::PathBuf;

/// The arguments that all of them have.
#[derive(Debug, Args)]
#[command(next_help_heading = "Of every quick command")]
pub(crate) struct QuickArguments {
    /// The file of records
    #[arg(value_name = "FILE", help_heading = "Arguments")]
    pub(crate) file: PathBuf,
    /// The as-of date: 2026-09-30, today, "end of last month" …
    #[arg(long, value_name = "DATE")]
    pub(crate) as_of: Option<String>,
    /// The pattern of a column of dates, where it is in doubt: Issued=day/month/year
    #[arg(long, value_name = "COLUMN=PATTERN")]
    pub(crate) date_pattern: Vec<String>,
    /// How a column of amounts is written, where that is in doubt: "Amount=1.234,56"
    #[arg(long, value_name = "COLUMN=SAMPLE")]
    pub(crate) amount_format: Vec<String>,
    /// The column that identifies the rows; again for a key of several columns
    #[arg(long, value_name = "COLUMN")]
    pub(crate) key: Vec<String>,
    /// What to do with rows of one key: "set aside", keep, first or last
    #[arg(long, value_name = "WHAT")]
    pub(crate) duplicates: Option<String>,
    /// The column of currencies (ISO 4217); found where it holds nothing else
    #[arg(long, value_name = "COLUMN")]
    pub(crate) currency: Option<String>,
    /// Write the report: .html, .xlsx, .md, .svg, or its table (.csv …); may be given again
    #[arg(long, value_name = "FILE")]
    pub(crate) to: Vec<PathBuf>,
    /// Replace files of --to that exist
    #[arg(long, requires = "to")]
    pub(crate) overwrite: bool,
    /// Write the plan that gives the same report every month
    #[arg(long, value_name = "PLAN")]
    pub(crate) save_plan: Option<PathBuf>,
    /// Print one JSON object for programs
    #[arg(long)]
    pub(crate) json: bool,
    /// The time zone of today; the system's unless stated
    #[arg(long, value_name = "ZONE")]
    pub(crate) zone: Option<String>,
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
    /// The column of due dates; without it they follow from --issued and --terms
    #[arg(long, value_name = "COLUMN")]
    pub(crate) due: Option<String>,
    /// The payment terms of all rows
    #[arg(long, value_name = "TERMS", default_value = "net 30", conflicts_with = "due")]
    pub(crate) terms: String,
    /// The column of the days of full payment
    #[arg(long, value_name = "COLUMN")]
    pub(crate) paid: Option<String>,
    /// The column to group by
    #[arg(long, value_name = "COLUMN")]
    pub(crate) by: Option<String>,
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
    /// The column to group by
    #[arg(long, value_name = "COLUMN")]
    pub(crate) by: Option<String>,
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
    /// The columns next to each date; all unless stated
    #[arg(long, value_name = "COLUMNS", value_delimiter = ',')]
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
    /// The promised time from the start, such as "10 working days"
    #[arg(long, value_name = "AMOUNT")]
    pub(crate) promise: Option<String>,
    /// The column to group by
    #[arg(long, value_name = "COLUMN")]
    pub(crate) by: Option<String>,
    #[command(flatten)]
    pub(crate) quick: QuickArguments,
}

#[derive(Debug, Args)]
#[command(after_long_help = "\
  mild summary invoices-2026-09-30.csv --by Customer --sum Amount --largest Issued --duplicates first")]
pub(crate) struct SummaryArguments {
    /// A column to group by, the outermost first; up to three
    #[arg(long, value_name = "COLUMN", required = true)]
    pub(crate) by: Vec<String>,
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
