//! Sums and means.

use super::{AggregateKind, DIGITS, Reduction, Scales, Shown, fitting, units, whole_of};
use crate::kind::Takes::{Exact, MayNumber, MayWord};
use arrow::array::{Array, ArrayRef, AsArray, BooleanArray, Decimal128Array, UInt64Array};
use arrow::datatypes::{DataType, UInt64Type};
use datafusion::common::ScalarValue;
use datafusion::error::{DataFusionError, Result};
use datafusion::logical_expr::{Accumulator, EmitTo, GroupsAccumulator};
use mild_ledger::Quotient;
use std::sync::Arc;

pub(super) const EXACT_SUM: AggregateKind = AggregateKind {
    name: "exact_sum",
    says: "the sum, to the last decimal; one that is too large to hold is an error, never another number",
    takes: &[Exact],
    called: &["number"],
    plan: |_| Ok(Reduction::Sum),
};

pub(super) const EXACT_MEAN: AggregateKind = AggregateKind {
    name: "exact_mean",
    says: "the sum over the number of values, rounded once, to the given decimals (4 unless named), to the `nearest` unless another way is named",
    takes: &[Exact, MayNumber, MayWord],
    called: &["number", "decimals", "rounding"],
    plan: |literals| Ok(Reduction::Mean(Shown::read(literals, 1)?)),
};

pub(super) const WEIGHTED_MEAN: AggregateKind = AggregateKind {
    name: "weighted_mean",
    says: "the sum of the numbers times their weights over the sum of the weights, rounded once: days late weighted by amount; empty where the weights sum to nothing",
    takes: &[Exact, Exact, MayNumber, MayWord],
    called: &["number", "weight", "decimals", "rounding"],
    plan: |literals| Ok(Reduction::WeightedMean(Shown::read(literals, 2)?)),
};

/// What is summed, in units of the last decimals.
#[derive(Debug, Clone, Copy, Default)]
struct Sum {
    sum: i128,
    weights: i128,
    rows: u64,
}

/// What is made of a sum.
#[derive(Debug, Clone, Copy)]
struct Rule {
    reduction: Reduction,
    scales: Scales,
}

pub(super) fn state() -> Vec<(&'static str, DataType)> {
    let units = || DataType::Decimal128(DIGITS, 0);
    vec![("sum", units()), ("weights", units()), ("rows", DataType::UInt64)]
}

impl Sum {
    fn add(&mut self, other: &Self) -> Result<()> {
        let added = || -> Option<Self> {
            Some(Self {
                sum: self.sum.checked_add(other.sum)?,
                weights: self.weights.checked_add(other.weights)?,
                rows: self.rows.checked_add(other.rows)?,
            })
        };
        *self = added().ok_or_else(too_large)?;
        Ok(())
    }
}

impl Rule {
    /// The decimals of the figure.
    fn scale(&self) -> i8 {
        self.reduction.decimals(i8::try_from(self.scales.first).unwrap_or_default())
    }

    /// The figure in units of its last decimal; nothing where there is none.
    fn figure(&self, of: &Sum) -> Result<Option<i128>> {
        let (shown, over) = match self.reduction {
            Reduction::Mean(shown) => (shown, of.rows.into()),
            // The decimals of the weights are above and below the line, so that those of the numbers are left.
            Reduction::WeightedMean(shown) => (shown, of.weights),
            _ if of.rows == 0 => return Ok(None),
            _ => return fitting(of.sum).map(Some),
        };
        if over == 0 {
            return Ok(None);
        }
        let whole = whole_of(self.scales.first).and_then(|whole| Quotient::of(1, whole));
        let mean = whole.and_then(|whole| Quotient::of(of.sum, over)?.checked_mul(whole));
        shown.units(mean.ok_or_else(too_large)?).map(Some)
    }

    /// Gives on what each row adds.
    fn each_row(&self, values: &[ArrayRef], mut add: impl FnMut(usize, Sum) -> Result<()>) -> Result<()> {
        let numbers = units(values, 0)?;
        if let Reduction::WeightedMean(_) = self.reduction {
            for (row, (number, weight)) in numbers.iter().zip(units(values, 1)?).enumerate() {
                let Some((number, weights)) = number.zip(weight) else { continue };
                let sum = number.checked_mul(weights).ok_or_else(too_large)?;
                add(row, Sum { sum, weights, rows: 1 })?;
            }
            return Ok(());
        }
        for (row, sum) in numbers.values().iter().enumerate() {
            if numbers.is_valid(row) {
                add(row, Sum { sum: *sum, weights: 0, rows: 1 })?;
            }
        }
        Ok(())
    }
}

/// Gives on what others summed.
fn each_state(states: &[ArrayRef], mut add: impl FnMut(usize, Sum) -> Result<()>) -> Result<()> {
    let (sums, weights) = (units(states, 0)?, units(states, 1)?);
    let rows = states.get(2).and_then(|rows| rows.as_primitive_opt::<UInt64Type>());
    let rows = rows.ok_or_else(|| DataFusionError::Internal("a state has no rows".to_owned()))?;
    for (row, ((sum, weights), rows)) in sums.iter().zip(weights).zip(rows).enumerate() {
        if let Some(((sum, weights), rows)) = sum.zip(weights).zip(rows) {
            add(row, Sum { sum, weights, rows })?;
        }
    }
    Ok(())
}

fn too_large() -> DataFusionError {
    DataFusionError::Execution("the sum is too large to hold".to_owned())
}

/// The sum of one group.
#[derive(Debug)]
pub(super) struct OneSum {
    rule: Rule,
    sum: Sum,
}

impl OneSum {
    pub(super) fn new(reduction: Reduction, scales: Scales) -> Self {
        Self { rule: Rule { reduction, scales }, sum: Sum::default() }
    }
}

impl Accumulator for OneSum {
    fn update_batch(&mut self, values: &[ArrayRef]) -> Result<()> {
        self.rule.each_row(values, |_, more| self.sum.add(&more))
    }

    fn merge_batch(&mut self, states: &[ArrayRef]) -> Result<()> {
        each_state(states, |_, more| self.sum.add(&more))
    }

    fn state(&mut self) -> Result<Vec<ScalarValue>> {
        let decimal = |units| fitting(units).map(|units| ScalarValue::Decimal128(Some(units), DIGITS, 0));
        Ok(vec![decimal(self.sum.sum)?, decimal(self.sum.weights)?, ScalarValue::UInt64(Some(self.sum.rows))])
    }

    fn evaluate(&mut self) -> Result<ScalarValue> {
        Ok(ScalarValue::Decimal128(self.rule.figure(&self.sum)?, DIGITS, self.rule.scale()))
    }

    fn size(&self) -> usize {
        size_of_val(self)
    }
}

/// The sums of many groups.
#[derive(Debug)]
pub(super) struct ManySums {
    rule: Rule,
    sums: Vec<Sum>,
}

impl ManySums {
    pub(super) fn new(reduction: Reduction, scales: Scales) -> Self {
        Self { rule: Rule { reduction, scales }, sums: Vec::new() }
    }

    /// Makes room for so many groups; who adds what a row says to the one that it is of, where it is not filtered out.
    fn adding<'s>(
        &'s mut self,
        (groups, filter, total): (&'s [usize], Option<&'s BooleanArray>, usize),
    ) -> impl FnMut(usize, Sum) -> Result<()> + 's {
        self.sums.resize(total.max(self.sums.len()), Sum::default());
        move |row, more| {
            if filter.is_some_and(|filter| filter.is_null(row) || !filter.value(row)) {
                return Ok(());
            }
            let group = groups.get(row).and_then(|group| self.sums.get_mut(*group));
            group.ok_or_else(|| DataFusionError::Internal("a row has no group".to_owned()))?.add(&more)
        }
    }
}

impl GroupsAccumulator for ManySums {
    fn update_batch(
        &mut self,
        values: &[ArrayRef],
        groups: &[usize],
        filter: Option<&BooleanArray>,
        total: usize,
    ) -> Result<()> {
        let rule = self.rule;
        rule.each_row(values, self.adding((groups, filter, total)))
    }

    fn merge_batch(&mut self, states: &[ArrayRef], groups: &[usize], total: usize) -> Result<()> {
        each_state(states, self.adding((groups, None, total)))
    }

    fn convert_to_state(&self, values: &[ArrayRef], filter: Option<&BooleanArray>) -> Result<Vec<ArrayRef>> {
        // Each row is a group of its own.
        let rows = values.first().map_or(0, |column| column.len());
        let groups: Vec<usize> = (0..rows).collect();
        let mut each = Self { rule: self.rule, sums: Vec::new() };
        each.update_batch(values, &groups, filter, rows)?;
        each.state(EmitTo::All)
    }

    fn evaluate(&mut self, emit: EmitTo) -> Result<ArrayRef> {
        let sums = emit.take_needed(&mut self.sums);
        let figures = sums.iter().map(|sum| self.rule.figure(sum)).collect::<Result<Decimal128Array>>()?;
        Ok(Arc::new(figures.with_precision_and_scale(DIGITS, self.rule.scale())?))
    }

    fn state(&mut self, emit: EmitTo) -> Result<Vec<ArrayRef>> {
        let sums = emit.take_needed(&mut self.sums);
        let column = |of: fn(&Sum) -> i128| -> Result<ArrayRef> {
            let units =
                sums.iter().map(|sum| fitting(of(sum)).map(Some)).collect::<Result<Decimal128Array>>()?;
            Ok(Arc::new(units.with_precision_and_scale(DIGITS, 0)?))
        };
        let rows: UInt64Array = sums.iter().map(|sum| Some(sum.rows)).collect();
        Ok(vec![column(|sum| sum.sum)?, column(|sum| sum.weights)?, Arc::new(rows)])
    }

    fn size(&self) -> usize {
        size_of_val(self) + self.sums.capacity() * size_of::<Sum>()
    }
}
