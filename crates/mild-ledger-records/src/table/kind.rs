//! What the columns of a run are called, and what they hold.

use super::typed_digits::TypedDigits;
use crate::zones::Zone;
use mild_ledger::{AgingBuckets, Ends, HoursOf, Scale, WrittenDates};

/// A column of the file, or one that the plan adds.
pub(crate) struct Column {
    pub(crate) name: String,
    pub(crate) kind: Kind,
    /// The column that names the currency of its amounts, or of those that it was made of.
    pub(crate) currency: Option<usize>,
    /// The digits of its cells, where the format types them as numbers and no plan says what they are.
    pub(crate) typed: Option<TypedDigits>,
}

/// What a column holds.
#[derive(Debug, Clone)]
pub(crate) enum Kind {
    Text,
    /// Dates; `time` says what their times of day are, where they are kept.
    Date {
        source: DateKind,
        time: Option<HoursOf>,
    },
    /// Amounts of the records.
    Amount {
        scale: Scale,
    },
    /// Numbers that are not amounts of the records, or that the plan adds, with a number of decimals.
    Number {
        decimals: u8,
        figure: Option<Figure>,
    },
    /// Whole numbers that name a place in an order, such as weeks, months and numbers of anniversaries; no one sums them.
    Place,
    /// Years, months and days.
    Parts(Figure),
    Band(BandKind),
}

/// By what the figures of a column were measured.
#[derive(Debug, Clone)]
pub(crate) struct Figure {
    /// In words.
    pub(crate) rule: String,
    /// Which ends count; none of what the clock counts, which has no days to count or leave out.
    pub(crate) ends: Option<Ends>,
    pub(crate) of: FigureOf,
}

/// What a figure is about, as far as the names of buckets depend on it.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(crate) enum FigureOf {
    DaysToAsOf,
    Interval,
    Tenure,
    Age,
}

/// Buckets, and what they were made of.
#[derive(Debug, Clone, PartialEq, Eq)]
pub(crate) struct BandKind {
    pub(crate) buckets: AgingBuckets,
    /// Whether the figures are of dates, so that a row without one has no date.
    pub(crate) is_of_dates: bool,
}

/// Where the dates of a column come from.
#[derive(Debug, Clone)]
pub(crate) enum DateKind {
    Read { written: WrittenDates, missing: Missing, time: TimeKept, zone: Option<Zone> },
    Made,
}

/// What becomes of a time of day after a date.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(crate) enum TimeKept {
    /// Dropped and listed by row, where the plan says nothing.
    DroppedAndListed,
    /// Dropped and counted, as the plan says.
    Dropped,
    Kept,
}

/// What becomes of a row whose value is missing.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(crate) enum Missing {
    SetsRowAside,
    LeavesCellEmpty,
    /// Figures have no value, and the text of the file is written: of this row and of all others.
    KeepsText,
}

impl Kind {
    /// Dates that a step made, without times.
    pub(crate) fn made_dates() -> Self {
        Self::Date { source: DateKind::Made, time: None }
    }

    /// What it holds, in a word.
    pub(crate) fn word(&self) -> &'static str {
        match self {
            Self::Text => "text",
            Self::Date { .. } => "dates",
            Self::Amount { .. } => "amounts",
            Self::Number { .. } | Self::Place => "numbers",
            Self::Parts(_) => "years, months and days",
            Self::Band(_) => "buckets",
        }
    }

    /// The decimals of numbers and amounts.
    pub(crate) fn decimals(&self) -> Option<u8> {
        match self {
            Self::Amount { scale, .. } => Some(scale.decimals()),
            Self::Number { decimals, .. } => Some(*decimals),
            Self::Place => Some(0),
            _ => None,
        }
    }

    pub(crate) fn figure(&self) -> Option<&Figure> {
        match self {
            Self::Number { figure, .. } => figure.as_ref(),
            Self::Parts(figure) => Some(figure),
            _ => None,
        }
    }

    /// Whether values of both can be distinguished or ordered.
    pub(crate) fn is_like(&self, other: &Self) -> bool {
        match (self, other) {
            (Self::Text, Self::Text)
            | (Self::Date { .. }, Self::Date { .. })
            | (Self::Parts(_), Self::Parts(_)) => true,
            (Self::Band(one), Self::Band(other)) => one.buckets == other.buckets,
            _ => self.decimals().is_some() && other.decimals().is_some(),
        }
    }
}
