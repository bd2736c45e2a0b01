//! What a plan says, checked as far as it can be without its records.

use super::mistake::{PlanMistake, PlanMistakes};
use crate::calendars::CalendarYears;
use crate::error::RecordsError;
use crate::files::Fingerprint;
use crate::zone::Zone;
use mild_ledger::{
    Date, DateField, DatePattern, Decimal, Ends, FiscalYear, LabelPattern, MeanMonth, Measure, MonthEnd,
    NamedDay, NamedWindow, Nearness, PeriodRule, RestDays, Roll, Rounding, Scale, Shift, Unit, Weekday,
    WeekdayMove,
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
    pub(crate) calendars: Vec<PlannedCalendar>,
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
    pub(crate) time: TimeKept,
    /// Whose dates are meant where a time has an offset.
    pub(crate) zone: Option<Zone>,
    pub(crate) required: Requirement,
}

/// What becomes of a time of day behind a date.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(crate) enum TimeKept {
    Dropped,
    Kept,
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

/// A calendar of working days that the plan names.
#[derive(Debug)]
pub(crate) struct PlannedCalendar {
    pub(crate) name: At<String>,
    pub(crate) rest_days: Option<RestDays>,
    pub(crate) covers: Option<CalendarYears>,
    /// Names of calendars that ship, and files.
    pub(crate) sources: Vec<At<String>>,
    pub(crate) dates: Vec<Date>,
}

/// Which calendar a column counts by.
#[derive(Debug)]
pub(crate) enum CalendarChoice {
    /// The plan's only one.
    TheOnlyOne(Range<usize>),
    Named(At<String>),
    /// The one that a column of each row names.
    OfRow(At<String>),
}

/// What a column says of a working day.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(crate) enum WorkingDayGives {
    YesOrNo,
    Kind,
    NumberInMonth,
    NumberFromMonthEnd,
}

impl WorkingDayGives {
    pub(crate) const ALL: [(&'static str, Self); 4] = [
        ("yes or no", Self::YesOrNo),
        ("kind", Self::Kind),
        ("number in month", Self::NumberInMonth),
        ("number from month end", Self::NumberFromMonthEnd),
    ];
}

/// A column that the plan adds.
#[derive(Debug)]
pub(crate) struct PlannedColumn {
    /// Its header; one that says what it holds, where the plan names none.
    pub(crate) name: At<String>,
    pub(crate) kind: PlannedKind,
}

#[derive(Debug)]
pub(crate) enum PlannedKind {
    Between {
        start: At<DateSource>,
        end: At<DateSource>,
        within: Option<At<NamedWindow>>,
        measuring: Measuring,
    },
    Tenure {
        start: At<DateSource>,
        end: Option<At<DateSource>>,
        measuring: Measuring,
    },
    WorkingDays {
        start: At<DateSource>,
        end: At<DateSource>,
        ends: Ends,
        calendar: CalendarChoice,
    },
    WorkingDay {
        of: At<String>,
        gives: WorkingDayGives,
        calendar: CalendarChoice,
    },
    Move(Box<PlannedMove>),
    Period {
        of: At<String>,
        rule: PeriodRule,
        away: i64,
        gives: PeriodGives,
    },
    Field {
        of: At<String>,
        field: FieldOf,
    },
    Age {
        of: At<String>,
        on: At<DateSource>,
        leap_day: MonthEnd,
    },
    Anniversary {
        of: At<String>,
        on_or_after: At<DateSource>,
        leap_day: MonthEnd,
        gives: AnniversaryGives,
    },
    Rate(Box<PlannedRate>),
    FirstOf(Vec<At<String>>),
    Arithmetic {
        operation: Operation,
        operands: [At<Quantity>; 2],
        rounded: Rounded,
    },
    Bucket {
        of: At<String>,
        edges: At<Vec<i64>>,
    },
    Choice {
        when: Vec<Condition>,
        then: At<Then>,
        otherwise: Option<At<Then>>,
    },
}

/// A date so far from another, then to a weekday, then rolled to a working day.
#[derive(Debug)]
pub(crate) struct PlannedMove {
    pub(crate) from: At<String>,
    pub(crate) shift: Option<ShiftSource>,
    pub(crate) month_end: MonthEnd,
    pub(crate) weekday: Option<WeekdayMove>,
    pub(crate) roll: Roll,
    /// Where working days are moved by, or the date is rolled.
    pub(crate) calendar: Option<CalendarChoice>,
}

/// A quantity per month or year of tenure.
#[derive(Debug)]
pub(crate) struct PlannedRate {
    pub(crate) quantity: At<String>,
    pub(crate) start: At<DateSource>,
    pub(crate) end: Option<At<DateSource>>,
    pub(crate) per: RatePer,
    pub(crate) smallest: Option<Decimal>,
    pub(crate) rounded: Rounded,
}

/// What a rate divides by.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(crate) enum RatePer {
    Fractional(Unit),
    MeanMonths(MeanMonth),
    MeanYears(mild_ledger::DayCount),
}

/// To how many decimals a result is rounded, and how; the inputs' own where none are stated.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(crate) struct Rounded {
    pub(crate) decimals: Option<u8>,
    pub(crate) rounding: Rounding,
}

/// Where the amount of a move comes from.
#[derive(Debug, Clone)]
pub(crate) enum ShiftSource {
    Every(Shift),
    /// Whole numbers of a unit.
    NumberOf {
        column: At<String>,
        unit: Unit,
    },
    /// Amounts such as "30 days" in text.
    Text {
        column: At<String>,
    },
}

/// What is taken from a date, or from its time of day.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(crate) enum FieldOf {
    Number(DateField),
    Weekday,
    MonthName,
    WeekDate,
    OrdinalDate,
    Hour,
    Minute,
    Second,
    TimeOfDay,
}

impl FieldOf {
    /// The words for it, and what it is.
    pub(crate) fn all() -> Vec<(&'static str, Self)> {
        let numbers = DateField::ALL.map(|field| (field.word(), Self::Number(field)));
        let others = [
            ("weekday", Self::Weekday),
            ("month name", Self::MonthName),
            ("week date", Self::WeekDate),
            ("ordinal date", Self::OrdinalDate),
            ("hour", Self::Hour),
            ("minute", Self::Minute),
            ("second", Self::Second),
            ("time", Self::TimeOfDay),
        ];
        numbers.into_iter().chain(others).collect()
    }

    pub(crate) fn word(self) -> &'static str {
        Self::all().into_iter().find(|(_, field)| *field == self).map_or("", |(word, _)| word)
    }

    pub(crate) fn needs_time(self) -> bool {
        matches!(self, Self::Hour | Self::Minute | Self::Second | Self::TimeOfDay)
    }
}

/// What a column takes from an anniversary.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(crate) enum AnniversaryGives {
    Date,
    Number,
}

#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(crate) enum Operation {
    Sum,
    Difference,
    Product,
    Quotient,
}

/// One side of a sum, difference, product or quotient.
#[derive(Debug, Clone, PartialEq, Eq)]
pub(crate) enum Quantity {
    Column(String),
    Number(Decimal),
}

/// How intervals are measured.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(crate) struct Measuring {
    pub(crate) measure: Measure,
    pub(crate) ends: Ends,
    pub(crate) month_end: MonthEnd,
    pub(crate) week_starts: Weekday,
    /// Of fractions, which are exact until they are written.
    pub(crate) decimals: u8,
    pub(crate) rounding: Rounding,
}

/// What a column takes from a period.
#[derive(Debug, Clone)]
pub(crate) enum PeriodGives {
    FirstDay,
    LastDay,
    NearestStart(Nearness),
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
