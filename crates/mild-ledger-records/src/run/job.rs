//! A plan bound to the header of its records: names have become column numbers, and kinds are known.

use super::outcome::ReadBackState;
use crate::plan::WorkingDayGives;
use crate::plan::{
    AnniversaryGives, FieldOf, Measuring, Operation, PeriodGives, RatePer, Repeats, TestKind, TimeKept,
};
use crate::sorting::Direction;
use crate::zone::Zone;
use mild_ledger::{
    AgingBuckets, Date, DatePattern, Decimal, Ends, HoursOf, MonthEnd, PeriodRule, Roll, Rounding, Scale,
    Shift, Unit, WeekdayMove, WorkCalendar,
};

/// All that a pass over the records needs to know.
pub(super) struct Job {
    pub(super) as_of: Date,
    /// The columns of the file, then those that the plan adds.
    pub(super) columns: Vec<Column>,
    pub(super) columns_of_file: usize,
    pub(super) longest_cell: usize,
    pub(super) key: Vec<usize>,
    pub(super) repeats: Option<Repeats>,
    /// Columns of amounts, in the order of the header.
    pub(super) amounts: Vec<usize>,
    /// The plan's calendars by their names.
    pub(super) calendars: Vec<(String, WorkCalendar)>,
    pub(super) steps: Vec<Step>,
    pub(super) select: Vec<BoundCondition>,
    pub(super) reports: Vec<BoundReport>,
    pub(super) output: Vec<usize>,
    pub(super) order_by: Vec<(usize, Direction)>,
    /// What named stretches of days were resolved to.
    pub(super) notes: Vec<String>,
}

pub(super) struct Column {
    pub(super) name: String,
    pub(super) kind: Kind,
}

/// What a column holds.
pub(super) enum Kind {
    Text,
    /// Dates; `time` says what their times of day are, where they are kept.
    Date {
        source: DateKind,
        time: Option<HoursOf>,
    },
    Amount {
        scale: Scale,
        missing: Missing,
    },
    Number {
        /// By what its figures were counted, in words.
        rule: String,
        ends: Ends,
        measures: Measures,
    },
    Band {
        buckets: AgingBuckets,
    },
}

/// Where the dates of a column come from.
pub(super) enum DateKind {
    Read { pattern: DatePattern, missing: Missing, time: TimeKept, zone: Option<Zone> },
    Made,
}

/// What becomes of a row whose value is missing.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) enum Missing {
    SetsRowAside,
    LeavesCellEmpty,
}

/// What a column of figures is about, as far as the names of buckets depend on it.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) enum Measures {
    DaysToAsOf,
    Other,
}

/// How one added column is worked out.
pub(super) enum Step {
    Measured {
        start: DateInput,
        end: DateInput,
        stay: Stay,
        within: Option<(Date, Date)>,
        measuring: Measuring,
    },
    WorkingDays {
        start: DateInput,
        end: DateInput,
        ends: Ends,
        calendar: CalendarInput,
    },
    WorkingDay {
        of: usize,
        gives: WorkingDayGives,
        calendar: CalendarInput,
    },
    Move(Box<BoundMove>),
    Period {
        of: usize,
        rule: PeriodRule,
        away: i64,
        gives: PeriodGives,
    },
    Field {
        of: usize,
        field: FieldOf,
    },
    Age {
        of: usize,
        on: DateInput,
        leap_day: MonthEnd,
    },
    Anniversary {
        of: usize,
        on_or_after: DateInput,
        leap_day: MonthEnd,
        gives: AnniversaryGives,
    },
    Rate(Box<BoundRate>),
    FirstOf(Vec<usize>),
    Arithmetic {
        operation: Operation,
        left: BoundQuantity,
        right: BoundQuantity,
        decimals: u8,
        rounding: Rounding,
    },
    Bucket {
        of: usize,
        buckets: AgingBuckets,
    },
    Choice {
        when: Vec<BoundCondition>,
        then: ChoiceValue,
        otherwise: Option<ChoiceValue>,
    },
}

pub(super) struct BoundMove {
    pub(super) from: usize,
    pub(super) shift: Option<BoundShift>,
    pub(super) weekday: Option<WeekdayMove>,
    pub(super) roll: Roll,
    pub(super) calendar: Option<CalendarInput>,
}

/// The calendar of a row, by its number among the job's.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) enum CalendarInput {
    Every(usize),
    NamedBy(usize),
}

/// The amount of a move.
pub(super) enum BoundShift {
    Every(Shift),
    NumberOf { column: usize, unit: Unit, month_end: MonthEnd },
    Text { column: usize, month_end: MonthEnd },
}

pub(super) struct BoundRate {
    pub(super) quantity: usize,
    pub(super) start: DateInput,
    pub(super) end: DateInput,
    pub(super) per: RatePer,
    pub(super) smallest: Option<Decimal>,
    pub(super) decimals: u8,
    pub(super) rounding: Rounding,
}

pub(super) enum BoundQuantity {
    Column(usize),
    Number(Decimal),
}

/// What lies between a start and an end.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) enum Stay {
    /// An interval, which may run backwards.
    Interval,
    /// A stay, which runs to the as-of date while its end is blank or has not come.
    Tenure,
}

#[derive(Debug, Clone, Copy)]
pub(super) enum DateInput {
    Every(Date),
    Column(usize),
}

pub(super) enum ChoiceValue {
    Text(String),
    Column(usize),
}

pub(super) enum BoundCondition {
    Test { column: usize, kind: TestKind, operand: BoundOperand },
    Any(Vec<BoundCondition>),
    All(Vec<BoundCondition>),
}

pub(super) enum BoundOperand {
    Text(String),
    /// A date's day number, an amount's smallest units, a figure, or the number of a bucket.
    Number(i128),
    Column(usize),
    /// A stretch of days by day number, both ends included.
    Window(i128, i128),
    Yes,
    No,
}

pub(super) struct BoundReport {
    pub(super) title: String,
    pub(super) band: usize,
    pub(super) amount: usize,
    pub(super) scale: Scale,
    pub(super) issued: Option<usize>,
    pub(super) paid: Option<usize>,
    pub(super) by: Option<usize>,
}

impl Job {
    pub(super) fn kind(&self, column: usize) -> &Kind {
        self.columns.get(column).map_or(&Kind::Text, |column| &column.kind)
    }

    pub(super) fn name(&self, column: usize) -> &str {
        self.columns.get(column).map_or("", |column| &column.name)
    }

    /// The scale of a column of amounts.
    pub(super) fn scale(&self, column: usize) -> Option<Scale> {
        match self.kind(column) {
            Kind::Amount { scale, .. } => Some(*scale),
            _ => None,
        }
    }

    pub(super) fn read_back_state(&self, column: usize) -> ReadBackState {
        if self.output.contains(&column) { ReadBackState::InTheOutput } else { ReadBackState::NotWritten }
    }
}
