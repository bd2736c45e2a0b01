//! The arguments of the command, and their help.

use crate::arguments_add::AddArguments;
use crate::arguments_quick::{
    AgingArguments, SummaryArguments, TenureArguments, TurnaroundArguments, UpcomingArguments,
};
use clap::{Args, Parser, Subcommand};
use std::ffi::OsString;
use std::path::PathBuf;

/// Turns record dates into figures for reporting, each by a rule that has a name.
#[derive(Debug, Parser)]
#[command(name = "mild", version, max_term_width = 100, disable_help_subcommand = true)]
#[command(after_help = "mild COMMAND -h lists its options; mild help TOPIC explains the words.")]
pub(crate) struct Arguments {
    #[command(subcommand)]
    pub(crate) command: Command,
}

#[derive(Debug, Subcommand)]
pub(crate) enum Command {
    /// Write the demo files of Quillhaven Boatyard, run them and show the report
    Demo(DemoArguments),
    /// Count the time between two dates in every way
    Between(BetweenArguments),
    /// Move a date by an amount of time, or list a series of dates
    Shift(ShiftArguments),
    /// The due date and the discount date under payment terms
    Due(DueArguments),
    /// The week, month, quarter, year and fiscal periods of a date
    Periods(PeriodsArguments),
    /// Working days by month, holidays, the year as a grid; alone: the calendars that ship
    Calendar(CalendarCommandArguments),
    /// What the columns of a file hold, and their faults
    Look(LookArguments),
    /// Add columns to a file, each defined in one line
    Add(AddArguments),
    /// What a plan would do, and its mistakes; writes nothing
    Check(CheckArguments),
    /// Run a plan: records in; columns, reports and exceptions out
    Run(RunArguments),
    /// Open amounts by bucket and customer, from a file of invoices
    Aging(AgingArguments),
    /// Length of service, joiners and leavers, from a file of staff
    Tenure(TenureArguments),
    /// Dates that come up: anniversaries, renewals, ends, from a file
    Upcoming(UpcomingArguments),
    /// How long jobs take, from a file
    Turnaround(TurnaroundArguments),
    /// Figures by group, from a file
    Summary(SummaryArguments),
    /// Whether the files of a receipt are unchanged since their runs
    Verify(VerifyArguments),
    /// The help of a command, or a topic: plans, patterns, ends, month ends, rolls, exit codes …
    Help(HelpArguments),
    /// What a shell completes, or the manual page
    Completions(CompletionsArguments),
}

#[derive(Debug, Args)]
pub(crate) struct HelpArguments {
    /// A command, or a topic; without it the topics are listed
    #[arg(value_name = "TOPIC")]
    pub(crate) topic: Vec<String>,
}

#[derive(Debug, Args)]
pub(crate) struct CompletionsArguments {
    /// The shell, or man for the manual page
    #[arg(value_name = "SHELL", value_enum)]
    pub(crate) shell: CompletionsFor,
}

/// What completions are printed for.
#[derive(Debug, Clone, Copy, PartialEq, Eq, clap::ValueEnum)]
pub(crate) enum CompletionsFor {
    Bash,
    Elvish,
    Fish,
    Man,
    Powershell,
    Zsh,
}

#[derive(Debug, Args)]
#[command(
    after_long_help = "A file of the demo that you changed is kept as it is; the command prints its name."
)]
pub(crate) struct DemoArguments {
    /// The folder to write to; it is made where it is missing
    #[arg(value_name = "FOLDER", default_value = "mild-demo")]
    pub(crate) folder: PathBuf,
}

#[derive(Debug, Args)]
#[command(after_long_help = "\
Dates are ISO 8601 (2026-09-30, 2026-W40-3, 2026-273), today, yesterday, tomorrow, or start|end of \
last|this|next month|quarter|half-year|year, in quotes. A time of day (2026-09-30T14:30) is counted too; one \
with an offset or Z wants the zone whose dates are meant.

  mild between 2019-11-30 2022-01-02
  mild between 2026-01-31 \"end of last month\"
  mild between 2019-11-30 2022-01-02 --count \"complete months\" --why
  mild between 2026-09-30T16:00 2026-10-02T09:30
  mild between 2026-10-03 2026-10-18 --calendar england-wales --why
  mild between 2026-03-28T22:00Z 2026-03-29T22:00Z --zone Europe/London")]
pub(crate) struct BetweenArguments {
    /// The date to count from
    #[arg(value_name = "START")]
    pub(crate) start: String,
    /// The date to count to
    #[arg(value_name = "END")]
    pub(crate) end: String,
    /// Which ends count: last (the plain difference), first-and-last, first or neither
    #[arg(long, value_name = "ENDS")]
    pub(crate) ends: Option<String>,
    /// What becomes of a day that a month lacks: clamp, keep or next-start
    #[arg(long, value_name = "RULE")]
    pub(crate) month_end: Option<String>,
    /// The first day of the week, monday unless stated
    #[arg(long, value_name = "DAY")]
    pub(crate) weeks_begin: Option<String>,
    #[command(flatten)]
    pub(crate) calendar: CalendarArguments,
    /// Share the days, and with a calendar the working days, out over periods: week, month, quarter, half-year or year
    #[arg(long, value_name = "PERIOD")]
    pub(crate) split: Option<String>,
    /// One figure alone: "days", "complete months", "month starts passed", "fractional years",
    /// "working days" …
    #[arg(long, value_name = "FIGURE", conflicts_with_all = ["split", "json"])]
    pub(crate) count: Option<String>,
    /// Show the working of every figure
    #[arg(long)]
    pub(crate) why: bool,
    #[command(flatten)]
    pub(crate) answer: AnswerArguments,
}

#[derive(Debug, Args)]
#[command(after_long_help = "\
Amounts: \"30 days\", \"1 year 2 months\", as tenors 45D 3W 2M 1Y 10wd, by the clock 14h 30min, or an ISO 8601 \
duration such as P1M. Years to months are summed and moved first, then weeks and days, then working days, then the clock; a \
minus goes back. Zero working days leave a working day where it is, and go on to the next from another.

  mild shift 2026-01-31 1M --why
  mild shift 2026-01-31 -2M
  mild shift 2026-10-02 10wd --calendar england-wales --why
  mild shift 2026-01-31 1M --times 12 --month-end keep
  mild shift 2026-01-15 1M --times 12 --to \"month end\" --roll preceding --calendar england-wales")]
pub(crate) struct ShiftArguments {
    /// The date to start from, and how far to move it, in any order
    #[arg(value_names = ["DATE", "AMOUNT"], num_args = 1.., required = true)]
    pub(crate) words: Vec<String>,
    /// What becomes of a day that a month lacks: clamp, keep, next-start or refuse
    #[arg(long, value_name = "RULE")]
    pub(crate) month_end: Option<String>,
    /// A series: so many occurrences, each moved from the first date
    #[arg(long, value_name = "N", value_parser = clap::value_parser!(u32).range(1..=100_000))]
    pub(crate) times: Option<u32>,
    #[command(flatten)]
    pub(crate) calendar: CalendarArguments,
    /// Write the date, or each of the series, as an event of an iCalendar file
    #[arg(long, value_name = "FILE")]
    pub(crate) ics: Option<PathBuf>,
    /// What such an event is called
    #[arg(long, value_name = "TEXT", requires = "ics", default_value = "due")]
    pub(crate) title: String,
    /// Then to the start or end of its week, month, quarter, half-year or year: "month end", "quarter start" …
    #[arg(long, value_name = "EDGE")]
    pub(crate) to: Option<String>,
    /// Then to a weekday: "on or after monday", "before friday" …
    #[arg(long, value_name = "MOVE")]
    pub(crate) weekday: Option<String>,
    /// Then to a working day: following, preceding, modified-following, modified-preceding or nearest
    #[arg(long, value_name = "RULE")]
    pub(crate) roll: Option<String>,
    /// Show the working
    #[arg(long)]
    pub(crate) why: bool,
    #[command(flatten)]
    pub(crate) answer: AnswerArguments,
}

#[derive(Debug, Args)]
#[command(after_long_help = "\
Terms, in any case: net 30 or n/30 (30 days after issue); 2/10 net 30 (2 % off within 10 days); net 30 EOM (30 days after \
the month's last day); net 30 to EOM (the last day of the month that holds the 30th day); 15 prox or 15 MFI (day 15 of the \
month after), with cut-off 25 (issued on the 25th or later counts as the month after); due on receipt, COD. Day 1 is \
the day after issue.

  mild due 2026-01-15 2/10 net 30 EOM
  mild due 2026-01-28 15 prox cut-off 25 --why
  mild due 2026-10-01 net 30 --roll modified-following --calendar england-wales")]
pub(crate) struct DueArguments {
    /// The day of issue
    #[arg(value_name = "DATE")]
    pub(crate) issued: String,
    /// The payment terms, in the trade's notation
    #[arg(value_name = "TERMS", num_args = 1.., required = true)]
    pub(crate) terms: Vec<String>,
    /// Roll the due date to a working day: following, preceding, modified-following, modified-preceding or nearest
    #[arg(long, value_name = "RULE")]
    pub(crate) roll: Option<String>,
    /// Roll the last day of the discount too
    #[arg(long, requires = "roll")]
    pub(crate) roll_discount: bool,
    #[command(flatten)]
    pub(crate) calendar: CalendarArguments,
    /// Show the working
    #[arg(long)]
    pub(crate) why: bool,
    #[command(flatten)]
    pub(crate) answer: AnswerArguments,
}

#[derive(Debug, Args)]
#[command(after_long_help = "\
Years of weeks: iso, \"last saturday of january\" or \"saturday nearest end of january\", perhaps with \
\", 4-4-5\", \", 4-5-4\" or \", 5-4-4\".

Numbers of weeks: iso, \"sunday first, at least 1 day\", \"monday first, at least 4 days\" or \"blocks from 1 january\". \
Numbers of weekdays: \"monday from 1\", \"sunday from 0\" …

Label patterns: words (year, month, month-name, day …), POSIX letters (%Y %m %d %b %B %j %a %A %u %G %V %F) and \
{quarter}, {half}, {fiscal_year}, {fiscal_quarter}, {fiscal_period}, which are those of each period.

  mild periods 2026-09-30 --fiscal-year-begins april
  mild periods 2026-09-30 --period month --gives \"last day\"
  mild periods today --away -1")]
pub(crate) struct PeriodsArguments {
    /// The date
    #[arg(value_name = "DATE")]
    pub(crate) date: String,
    /// Periods this many steps away; a minus goes back
    #[arg(long, value_name = "N", default_value = "0", value_parser = read_steps)]
    pub(crate) away: i64,
    /// The month, and perhaps the day, that fiscal years begin on: april, apr-6, 04-06 or 4
    #[arg(long, value_name = "MONTH")]
    pub(crate) fiscal_year_begins: Option<String>,
    /// What names fiscal years and week-years: the calendar year of their end or begin
    #[arg(long, value_name = "WORD")]
    pub(crate) fiscal_named: Option<String>,
    /// The rule for years of weeks, iso unless stated
    #[arg(long, value_name = "RULE")]
    pub(crate) week_years: Option<String>,
    /// The first day of the week, monday unless stated
    #[arg(long, value_name = "DAY")]
    pub(crate) weeks_begin: Option<String>,
    /// How weeks are numbered, iso unless stated
    #[arg(long, value_name = "NUMBERING")]
    pub(crate) weeks: Option<String>,
    /// How weekdays are numbered, "monday from 1" unless stated
    #[arg(long, value_name = "NUMBERING")]
    pub(crate) weekdays: Option<String>,
    /// One of the periods alone, in one line: week, month, quarter, "fiscal year" …
    #[arg(long, value_name = "PERIOD", requires = "gives", conflicts_with = "json")]
    pub(crate) period: Option<String>,
    /// What of it: first day, last day, days, label or number
    #[arg(long, value_name = "FIGURE", requires = "period")]
    pub(crate) gives: Option<String>,
    /// Write the labels by a pattern
    #[arg(long, value_name = "PATTERN")]
    pub(crate) pattern: Option<String>,
    #[command(flatten)]
    pub(crate) calendar: CalendarArguments,
    /// Show how each period was found
    #[arg(long)]
    pub(crate) why: bool,
    #[command(flatten)]
    pub(crate) answer: AnswerArguments,
}

#[derive(Debug, Args)]
#[command(after_long_help = "\
The outputs appear all or not at all. A file in the way is replaced only if an earlier run of this plan \
wrote it, for whichever as-of date, and it is unchanged since.

Exit codes: 0 done; 2 the request or the plan is wrong; 3 a file could not be read or written; 4 rows were \
set aside, or cells left empty as unreadable, and --strict was given, or a control total of the plan was missed; 130 interrupted.")]
pub(crate) struct RunArguments {
    #[command(flatten)]
    pub(crate) plan: PlanArguments,
    /// Exit with 4 if any row was set aside, or any cell left empty because it could not be read
    #[arg(long)]
    pub(crate) strict: bool,
    /// Overwrite files in the way, whoever wrote them
    #[arg(long)]
    pub(crate) overwrite: bool,
    /// Show what can be checked by eye as well: patterns of dates, counts, smallest and largest, the whole proof
    #[arg(long, conflicts_with = "json")]
    pub(crate) details: bool,
    /// Write the receipt to this file in place of the plan's
    #[arg(long, value_name = "FILE")]
    pub(crate) receipt: Option<PathBuf>,
    /// Write the rows to standard output, as CSV, and leave no file; the report goes to standard error
    #[arg(long, conflicts_with = "why")]
    pub(crate) stdout: bool,
    /// Show N rows with inputs next to results, special cases first
    #[arg(long, value_name = "N", default_value_t = 0, value_parser = clap::value_parser!(u16).range(0..=200), hide_default_value = true)]
    pub(crate) sample: u16,
    /// Show how each cell of one row comes about, and write nothing
    #[arg(long, requires = "row", conflicts_with_all = ["strict", "overwrite"])]
    pub(crate) why: bool,
    /// The key of the row; its number, where the plan has no key
    #[arg(long, value_name = "KEY", requires = "why")]
    pub(crate) row: Option<String>,
    /// Print one JSON object for programs
    #[arg(long)]
    pub(crate) json: bool,
}

#[derive(Debug, Args)]
#[command(after_long_help = "\
The plan is bound to the header of its records, and the first 10,000 rows are worked on as a run would; nothing is \
written. A run reads them all.")]
pub(crate) struct CheckArguments {
    #[command(flatten)]
    pub(crate) plan: PlanArguments,
    /// Print one JSON object for programs
    #[arg(long)]
    pub(crate) json: bool,
}

#[derive(Debug, Args)]
#[command(after_long_help = "\
Each input, calendar and output of the runs that the receipt has is read again, and its bytes compared by their hash. Ends with 4 where one \
is not what was recorded.")]
pub(crate) struct VerifyArguments {
    /// The receipt of a run: PLAN.receipt.toml
    #[arg(value_name = "RECEIPT")]
    pub(crate) receipt: PathBuf,
    /// Run the plan of each run once more, aside, and compare what it writes with what was recorded
    #[arg(long)]
    pub(crate) again: bool,
    /// The records that a run was given on the command line, for --again; several times for several files
    #[arg(long, value_name = "FILE", requires = "again")]
    pub(crate) records: Vec<PathBuf>,
    /// Print one JSON object for programs
    #[arg(long)]
    pub(crate) json: bool,
}

/// A plan, and what takes the place of what it says.
#[derive(Debug, Args)]
pub(crate) struct PlanArguments {
    /// The plan file (TOML)
    #[arg(value_name = "PLAN")]
    pub(crate) plan: PathBuf,
    /// The as-of date in place of the plan's: ISO 8601, today, "end of last month" …
    #[arg(long, value_name = "DATE")]
    pub(crate) as_of: Option<String>,
    /// A records file in place of the plan's; may be given several times, - is standard input
    #[arg(long, value_name = "FILE")]
    pub(crate) records: Vec<PathBuf>,
    /// The time zone of today; the system's unless stated
    #[arg(long, value_name = "ZONE")]
    pub(crate) zone: Option<String>,
}

#[derive(Debug, Args)]
#[command(after_long_help = "\
A calendar is one that ships (mild calendar lists them), a calendar file (.toml), events \
(.ics), or a list of dates (.csv, .txt).

  mild calendar
  mild calendar --find german
  mild calendar england-wales 2026 --grid
  mild calendar england-wales scotland 2025
  mild calendar netherlands --sources
  mild calendar yard.toml 2026 --target 36000")]
pub(crate) struct CalendarCommandArguments {
    /// The calendar, by its name or file, "none" for rest days alone, or two of them side by side; then the year, or years such as
    /// 2025..2026; this year unless stated
    #[arg(value_name = "NAME|FILE|YEAR", num_args = 0..)]
    pub(crate) words: Vec<String>,
    /// List the calendars that ship and are about a word
    #[arg(long, value_name = "WORD", conflicts_with = "words")]
    pub(crate) find: Option<String>,
    /// The law of the calendar, and notes on it
    #[arg(long, conflicts_with_all = ["grid", "holidays", "target", "ics", "svg", "png"])]
    pub(crate) sources: bool,
    /// The months with each day marked: working, rest day or holiday
    #[arg(long)]
    pub(crate) grid: bool,
    /// The holidays with their weekdays, and whether each was moved
    #[arg(long)]
    pub(crate) holidays: bool,
    /// Spread an amount over the working days of the months
    #[arg(long, value_name = "AMOUNT", conflicts_with_all = ["grid", "holidays"])]
    pub(crate) target: Option<String>,
    /// Spread it in whole units, such as hours or pieces
    #[arg(long, requires = "target")]
    pub(crate) whole: bool,
    /// Write the holidays as events of an iCalendar file
    #[arg(long, value_name = "FILE")]
    pub(crate) ics: Option<PathBuf>,
    /// Write the years, ten at most, as a picture that scales
    #[arg(long, value_name = "FILE")]
    pub(crate) svg: Option<PathBuf>,
    /// Write the years, ten at most, as a picture of pixels
    #[arg(long, value_name = "FILE")]
    pub(crate) png: Option<PathBuf>,
    /// Round the rate a day up, and say what that comes to in each month, and by how much it overshoots
    #[arg(long, requires = "target")]
    pub(crate) rate_up: bool,
    #[command(flatten)]
    pub(crate) calendar: CalendarParts,
    #[command(flatten)]
    pub(crate) answer: AnswerArguments,
}

/// Additions to a calendar, or replacements of one.
#[derive(Debug, Args)]
pub(crate) struct CalendarParts {
    /// The rest days of the week, such as "sunday, monday", or none
    #[arg(long, value_name = "DAYS")]
    pub(crate) rest_days: Option<String>,
    /// A date that is a holiday too; may be given again
    #[arg(long = "holiday", value_name = "DATE")]
    pub(crate) named_holidays: Vec<String>,
    /// What half days of the calendar count as: open (working days, unless stated), closed, or half
    #[arg(long, value_name = "WORD")]
    pub(crate) half_days: Option<String>,
    /// The years that a list of dates covers, such as "2025 to 2027"
    #[arg(long, value_name = "YEARS")]
    pub(crate) covers: Option<String>,
}

#[derive(Debug, Args)]
#[command(after_long_help = "\
Every value is looked at, and nothing is written. A column of dates is found to be written in one way where that reads every value \
and three rows speak against each other way; it is ambiguous where fewer do.

  mild look invoices.csv
  mild look invoices.csv --plan > receivables.toml")]
pub(crate) struct LookArguments {
    /// The files of records, each looked at by itself
    #[arg(value_name = "FILE", required = true)]
    pub(crate) files: Vec<PathBuf>,
    /// The sheet of a workbook, by its name or its number
    #[arg(long, value_name = "SHEET", conflicts_with = "table")]
    pub(crate) sheet: Option<String>,
    /// The table of a database
    #[arg(long, value_name = "TABLE")]
    pub(crate) table: Option<String>,
    /// The line of the header, from 1; found unless stated
    #[arg(long, value_name = "LINE", value_parser = clap::value_parser!(u64).range(1..))]
    pub(crate) header_line: Option<u64>,
    /// Print the beginning of a plan for this file
    #[arg(long, conflicts_with = "json")]
    pub(crate) plan: bool,
    /// Print one JSON object for programs; a list of them for several files
    #[arg(long)]
    pub(crate) json: bool,
}

/// A calendar for a question.
#[derive(Debug, Args)]
pub(crate) struct CalendarArguments {
    /// Count by a calendar: one that ships, a .toml or .ics file, a list of dates, or "none" for rest days alone; given
    /// again, by each of them
    #[arg(long = "calendar", value_name = "NAME|FILE")]
    pub(crate) calendars: Vec<String>,
    #[command(flatten)]
    pub(crate) parts: CalendarParts,
}

/// How a question is answered, whichever it is.
#[derive(Debug, Args)]
pub(crate) struct AnswerArguments {
    /// The date that counts as today
    #[arg(long, value_name = "DATE")]
    pub(crate) as_of: Option<String>,
    /// The time zone of today, and of times with an offset (Europe/London, UTC …)
    #[arg(long, value_name = "ZONE")]
    pub(crate) zone: Option<String>,
    /// Print one JSON object for programs
    #[arg(long)]
    pub(crate) json: bool,
}

/// The arguments with the minus of negative amounts (`-2M`, `-P1M`) replaced by a character that no option begins with. So such
/// an amount may come anywhere, and an unknown option is still an error.
pub(crate) fn with_negative_amounts(
    arguments: impl Iterator<Item = OsString>,
) -> impl Iterator<Item = OsString> {
    arguments.map(|argument| match argument.to_str().and_then(|text| text.strip_prefix('-')) {
        Some(rest) if rest.trim_start_matches('P').starts_with(|sign: char| sign.is_ascii_digit()) => {
            format!("−{rest}").into()
        }
        _ => argument,
    })
}

/// A number of steps, whichever minus it has.
fn read_steps(text: &str) -> Result<i64, String> {
    text.replace('−', "-").parse().map_err(|_| "a whole number such as 2 or -1 was expected".to_owned())
}
