//! Figures over the rows of a group: one file a subject, and their registry.

mod percentiles;
mod shares;
mod sums;

use crate::columns::{DIGITS, scale_of};
use crate::kind::Kind;
use crate::literals::Literals;
use arrow::array::{ArrayRef, AsArray, Decimal128Array};
use arrow::datatypes::{DataType, Decimal128Type};
use datafusion::error::{DataFusionError, Result};
use datafusion::logical_expr::{Accumulator, GroupsAccumulator};
use mild_ledger::{Decimal, Error, Quotient, Rounding};
pub(crate) use shares::{SHARES, Shares};

/// A figure over the rows of a group.
pub(crate) type AggregateKind = Kind<Reduction>;

/// The registry.
pub(crate) const KINDS: [&AggregateKind; 5] = [
    &sums::EXACT_SUM,
    &sums::EXACT_MEAN,
    &sums::WEIGHTED_MEAN,
    &percentiles::EXACT_MEDIAN,
    &percentiles::EXACT_PERCENTILE,
];

/// What is made of the values of a group.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub(crate) enum Reduction {
    Sum,
    Mean(Shown),
    /// The mean of the first column, each value as often as the second says.
    WeightedMean(Shown),
    Percentile {
        /// In millionths of a per cent.
        place: u32,
        shown: Shown,
    },
}

/// How a figure that is worked out is rounded, once.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub(crate) struct Shown {
    decimals: u8,
    rounding: Rounding,
}

/// The decimals of the columns of a call.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default)]
pub(crate) struct Scales {
    pub(crate) first: u32,
    pub(crate) second: u32,
}

impl Reduction {
    /// The decimals of what it gives of a column of so many.
    pub(crate) fn decimals(self, of_column: i8) -> i8 {
        match self {
            Self::Sum => of_column,
            Self::Mean(shown) | Self::WeightedMean(shown) | Self::Percentile { shown, .. } => shown.scale(),
        }
    }

    /// What is handed from the workers that saw a part of a group to the process that combines them.
    pub(crate) fn state(self) -> Vec<(&'static str, DataType)> {
        match self {
            Self::Percentile { .. } => percentiles::state(),
            Self::Sum | Self::Mean(_) | Self::WeightedMean(_) => sums::state(),
        }
    }

    /// What takes the values of a group.
    pub(crate) fn accumulator(self, scales: Scales) -> Box<dyn Accumulator> {
        match self {
            Self::Percentile { place, shown } => {
                Box::new(percentiles::Values::new(place, shown, scales.first))
            }
            Self::Sum | Self::Mean(_) | Self::WeightedMean(_) => Box::new(sums::OneSum::new(self, scales)),
        }
    }

    /// What takes the values of many groups at once; `None` where each group has its own.
    pub(crate) fn of_many_groups(self, scales: Scales) -> Option<Box<dyn GroupsAccumulator>> {
        match self {
            Self::Percentile { .. } => None,
            Self::Sum | Self::Mean(_) | Self::WeightedMean(_) => {
                Some(Box::new(sums::ManySums::new(self, scales)))
            }
        }
    }
}

impl Shown {
    /// From the constants of a call: decimals, 4 unless named, and the way of rounding.
    fn read(literals: &Literals<'_>, nth: usize) -> Result<Self> {
        let decimals = literals.decimals(nth)?;
        let rounding = literals.choice_or(
            nth + 1,
            "'nearest', 'nearest-even', 'truncate' or 'up'",
            Rounding::Nearest,
        )?;
        Ok(Self { decimals, rounding })
    }

    fn scale(self) -> i8 {
        scale_of(self.decimals)
    }

    /// A figure in units of the last decimal that is shown.
    fn units(self, figure: Quotient) -> Result<i128> {
        let shown = figure.to_decimal(self.decimals, self.rounding).map_err(|error| too_large(&error))?;
        fitting(shown.units())
    }
}

/// Units that a decimal of the engine can hold.
fn fitting(units: i128) -> Result<i128> {
    if units.unsigned_abs() >= 10_u128.pow(DIGITS.into()) {
        return Err(DataFusionError::Execution("the figure has more than 38 digits".to_owned()));
    }
    Ok(units)
}

fn too_large(error: &Error) -> DataFusionError {
    DataFusionError::Execution(error.what().to_owned())
}

/// The units of a column.
fn units(columns: &[ArrayRef], nth: usize) -> Result<&Decimal128Array> {
    let column = columns.get(nth).and_then(|column| column.as_primitive_opt::<Decimal128Type>());
    column.ok_or_else(|| DataFusionError::Internal(format!("column {} holds no decimals", nth + 1)))
}

/// What a unit is a part of; `None` for more decimals than can be held.
fn whole_of(scale: u32) -> Option<i128> {
    10_i128.checked_pow(scale)
}

/// A number as a percentile, in millionths of a per cent.
fn place_of(number: Decimal) -> Option<u32> {
    let exact = number.with_decimals(6, Rounding::Truncate).ok().filter(|exact| *exact == number)?;
    u32::try_from(exact.units()).ok().filter(|place| *place <= 100_000_000)
}
