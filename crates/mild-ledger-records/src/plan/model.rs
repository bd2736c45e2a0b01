//! What a plan says, checked as far as it can be without its records.

use super::mistake::{PlanMistake, PlanMistakes};
use crate::error::RecordsError;
use crate::files::Fingerprint;
use mild_ledger::{
    Date, DatePattern, Ends, FiscalYear, LabelPattern, Measure, MonthEnd, NamedDay, NamedWindow, PeriodRule,
    Rounding, Scale, Shift, Weekday, WeekdayMove,
};
use std::ops::Range;
use std::path::{Path, PathBuf};
use std::str::FromStr;

/// A plan: records in; columns, reports and exceptions out.
#[derive(Debug)]
pub struct Plan {
    pub(crate) path: PathBuf,
    pub(crate) source: String,
    /// Of the file's bytes, a byte-order mark included.
    pub(crate) fingerprint: Fingerprint,
    pub(crate) title: String,
    pub(crate) as_of: Option<AsOf>,
    pub(crate) records_file: At<String>,
    pub(crate) key: Vec<At<String>>,
    pub(crate) repeats: Option<Repeats>,
    pub(crate) longest_cell: usize,
    pub(crate) dates: Vec<DateColumnPlan>,
    pub(crate) amounts: Vec<AmountColumn>,
    pub(crate) select: Vec<Condition>,
    pub(crate) columns: Vec<PlannedColumn>,
    pub(crate) reports: Vec<PlannedReport>,
    pub(crate) output_rows: At<String>,
    pub(crate) output_exceptions: At<String>,
    pub(crate) output_columns: Option<Vec<At<String>>>,
    pub(crate) order_by: Vec<At<String>>,
}

/// A value with the bytes of the plan where it stands.
#[derive(Debug, Clone, PartialEq, Eq)]
pub(crate) struct At<T> {
    pub(crate) value: T,
    pub(crate) span: Range<usize>,
}

/// An as-of date as somebody wrote it: a date, or a day named from today.
///
/// ```
/// use mild_ledger_records::AsOf;
///
/// let as_of: AsOf = "end of last month".parse()?;
/// assert_eq!(as_of.on("2026-10-05".parse()?)?.to_string(), "2026-09-30");
/// # Ok::<(), mild_ledger::Error>(())
/// ```
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum AsOf {
    /// A date.
    Date(Date),
    /// A day named from today.
    Named(NamedDay),
}

impl AsOf {
    /// The date it means when today is this date.
    ///
    /// # Errors
    /// Where the named day lies outside the years 0001 to 9999.
    pub fn on(self, today: Date) -> Result<Date, mild_ledger::Error> {
        match self {
            Self::Date(date) => Ok(date),
            Self::Named(day) => day.seen_from(today),
        }
    }
}

impl FromStr for AsOf {
    type Err = mild_ledger::Error;

    fn from_str(text: &str) -> Result<Self, Self::Err> {
        match text.parse() {
            Ok(date) => Ok(Self::Date(date)),
            // A text with digits was meant as a date, so its error is the one to show.
            Err(error) if text.bytes().any(|byte| byte.is_ascii_digit()) => Err(error),
            Err(_) => text.parse().map(Self::Named),
        }
    }
}

/// What to do with rows whose key stands in an earlier row.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(crate) enum Repeats {
    SetAside,
    Keep,
    First,
    Last,
    Sum,
}

/// A column of the records that holds dates.
#[derive(Debug)]
pub(crate) struct DateColumnPlan {
    pub(crate) column: At<String>,
    pub(crate) pattern: DatePattern,
    pub(crate) required: Requirement,
}

/// A column of the records that holds amounts.
#[derive(Debug)]
pub(crate) struct AmountColumn {
    pub(crate) column: At<String>,
    pub(crate) scale: Scale,
    pub(crate) required: Requirement,
}

/// Whether a row without the value is set aside.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(crate) enum Requirement {
    Required,
    Optional,
}

/// One condition, or alternatives of which one must hold.
#[derive(Debug)]
pub(crate) enum Condition {
    Column { column: At<String>, tests: Vec<Test> },
    Any(Vec<Condition>),
}

#[derive(Debug)]
pub(crate) struct Test {
    pub(crate) kind: TestKind,
    pub(crate) operand: At<Operand>,
}

#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(crate) enum TestKind {
    Is,
    IsNot,
    Over,
    AtLeast,
    Under,
    AtMost,
    Blank,
    Within,
}

/// What a column is compared with.
#[derive(Debug, Clone, PartialEq, Eq)]
pub(crate) enum Operand {
    Text(String),
    /// A number as it stands in the plan, so that it stays exact.
    Number(String),
    Date(Date),
    Column(String),
    Window(NamedWindow),
    Yes,
    No,
}

/// A column that the plan adds.
#[derive(Debug)]
pub(crate) struct PlannedColumn {
    pub(crate) name: At<String>,
    pub(crate) kind: PlannedKind,
}

#[derive(Debug)]
pub(crate) enum PlannedKind {
    Between { start: At<DateSource>, end: At<DateSource>, measuring: Measuring },
    Tenure { start: At<DateSource>, end: Option<At<DateSource>>, measuring: Measuring },
    Move { from: At<String>, shift: Option<Shift>, weekday: Option<WeekdayMove> },
    Period { of: At<String>, rule: PeriodRule, away: i64, gives: PeriodGives },
    Age { of: At<String>, on: At<DateSource>, leap_day: MonthEnd },
    FirstOf(Vec<At<String>>),
    Bucket { of: At<String>, edges: At<Vec<i64>> },
    Choice { when: Vec<Condition>, then: At<Then>, otherwise: Option<At<Then>> },
}

/// How intervals are measured.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(crate) struct Measuring {
    pub(crate) measure: Measure,
    pub(crate) ends: MeasuredEnds,
    pub(crate) month_end: MonthEnd,
    pub(crate) week_starts: Weekday,
    /// Of fractions, which are exact until they are written.
    pub(crate) decimals: u8,
    pub(crate) rounding: Rounding,
}

impl Measuring {
    /// Whether nothing but the measure was stated, so that the quick way of counting a column will do.
    pub(crate) fn is_plain(&self) -> bool {
        self.ends == MeasuredEnds::Last
            && self.month_end == MonthEnd::Clamp
            && self.week_starts == Weekday::Monday
    }
}

/// The ends that every unit can be counted by.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(crate) enum MeasuredEnds {
    Last,
    FirstAndLast,
}

impl From<MeasuredEnds> for Ends {
    fn from(ends: MeasuredEnds) -> Self {
        match ends {
            MeasuredEnds::Last => Self::Last,
            MeasuredEnds::FirstAndLast => Self::FirstAndLast,
        }
    }
}

/// What a column takes from a period.
#[derive(Debug, Clone)]
pub(crate) enum PeriodGives {
    FirstDay,
    LastDay,
    Number,
    Days,
    Label,
    /// Written from the period's first day.
    LabelBy {
        pattern: LabelPattern,
        fiscal: FiscalYear,
    },
}

/// Where one end of an interval comes from.
#[derive(Debug, Clone, PartialEq, Eq)]
pub(crate) enum DateSource {
    AsOf,
    Date(Date),
    Column(String),
}

/// What a choice gives: a text, or the value of a column.
#[derive(Debug, Clone, PartialEq, Eq)]
pub(crate) enum Then {
    Text(String),
    Column(String),
}

/// An aging report.
#[derive(Debug)]
pub(crate) struct PlannedReport {
    pub(crate) title: String,
    pub(crate) band: At<String>,
    pub(crate) amount: At<String>,
    pub(crate) issued: Option<At<String>>,
    pub(crate) paid: Option<At<String>>,
    pub(crate) by: Option<At<String>>,
}

impl Plan {
    /// The plan's title; its file name where it states none.
    #[must_use]
    pub fn title(&self) -> &str {
        &self.title
    }

    /// The plan's file.
    #[must_use]
    pub fn path(&self) -> &Path {
        &self.path
    }

    /// The folder that the plan's paths start from.
    pub(crate) fn folder(&self) -> &Path {
        self.path.parent().unwrap_or(Path::new(""))
    }

    pub(crate) fn mistakes(&self, mistakes: Vec<PlanMistake>) -> RecordsError {
        PlanMistakes::new(&self.path, &self.source, mistakes).into()
    }
}
