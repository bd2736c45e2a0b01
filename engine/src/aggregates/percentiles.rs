//! Percentiles, linear between the closest ranks.

use super::{AggregateKind, DIGITS, Reduction, Shown, place_of, too_large, units, whole_of};
use crate::kind::Takes::{Exact, MayNumber, MayWord, Number};
use arrow::array::{ArrayRef, AsArray, Decimal128Array, UInt64Array};
use arrow::datatypes::{DataType, Decimal128Type, Field, UInt64Type};
use datafusion::common::ScalarValue;
use datafusion::common::utils::SingleRowListArrayBuilder;
use datafusion::error::{DataFusionError, Result};
use datafusion::logical_expr::Accumulator;
use mild_ledger::{Decimal, Quotient, percentile_of_counted};
use std::collections::HashMap;
use std::sync::Arc;

pub(super) const EXACT_MEDIAN: AggregateKind = AggregateKind {
    name: "exact_median",
    says: "the middle value, or half way between the two in the middle, rounded once",
    takes: &[Exact, MayNumber, MayWord],
    called: &["number", "decimals", "rounding"],
    plan: |literals| Ok(Reduction::Percentile { place: 50_000_000, shown: Shown::read(literals, 1)? }),
};

pub(super) const EXACT_PERCENTILE: AggregateKind = AggregateKind {
    name: "exact_percentile",
    says: "the percentile, linear between the closest ranks, rounded once: `90`, `'99.9'`",
    takes: &[Exact, Number, MayNumber, MayWord],
    called: &["number", "per_cent", "decimals", "rounding"],
    plan: |literals| {
        let place = literals.number(1, "a per cent from 0 to 100", place_of)?;
        Ok(Reduction::Percentile { place, shown: Shown::read(literals, 2)? })
    },
};

/// Each value that was met, in units of the last decimal, and how often.
#[derive(Debug)]
pub(super) struct Values {
    place: u32,
    shown: Shown,
    scale: u32,
    met: HashMap<i128, u64>,
}

pub(super) fn state() -> Vec<(&'static str, DataType)> {
    let list = |of: DataType| DataType::List(Arc::new(Field::new_list_field(of, true)));
    vec![("values", list(DataType::Decimal128(DIGITS, 0))), ("counts", list(DataType::UInt64))]
}

impl Values {
    pub(super) fn new(place: u32, shown: Shown, scale: u32) -> Self {
        Self { place, shown, scale, met: HashMap::new() }
    }

    fn add(&mut self, value: i128, times: u64) -> Result<()> {
        let count = self.met.entry(value).or_insert(0);
        *count = count.checked_add(times).ok_or_else(|| {
            DataFusionError::Execution("there are too many values to be counted".to_owned())
        })?;
        Ok(())
    }

    fn percentile(&self) -> Result<Option<Quotient>> {
        let mut sorted: Vec<(i128, u64)> = self.met.iter().map(|(value, count)| (*value, *count)).collect();
        sorted.sort_unstable();
        let wholes = sorted.into_iter().map(|(units, count)| Ok((Decimal::of_units(units, 0)?, count)));
        let found = wholes
            .collect::<std::result::Result<Vec<_>, _>>()
            .and_then(|sorted| percentile_of_counted(&sorted, Decimal::of_units(self.place.into(), 6)?));
        let Some(in_units) = found.map_err(|error| too_large(&error))? else { return Ok(None) };
        let of = whole_of(self.scale).and_then(|whole| Quotient::of(1, whole));
        let found = of.and_then(|of| in_units.checked_mul(of));
        found
            .map(Some)
            .ok_or_else(|| DataFusionError::Execution("the percentile is too large to hold".to_owned()))
    }
}

impl Accumulator for Values {
    fn update_batch(&mut self, values: &[ArrayRef]) -> Result<()> {
        units(values, 0)?.iter().flatten().try_for_each(|value| self.add(value, 1))
    }

    fn merge_batch(&mut self, states: &[ArrayRef]) -> Result<()> {
        let [values, counts] = states else {
            return Err(DataFusionError::Internal("a state is not values with their counts".to_owned()));
        };
        for (values, counts) in values.as_list::<i32>().iter().zip(counts.as_list::<i32>().iter()) {
            let Some((values, counts)) = values.zip(counts) else { continue };
            let both =
                values.as_primitive::<Decimal128Type>().iter().zip(counts.as_primitive::<UInt64Type>());
            both.filter_map(|(value, count)| value.zip(count))
                .try_for_each(|(value, count)| self.add(value, count))?;
        }
        Ok(())
    }

    fn state(&mut self) -> Result<Vec<ScalarValue>> {
        let (values, counts): (Vec<i128>, Vec<u64>) =
            self.met.iter().map(|(value, count)| (*value, *count)).unzip();
        let values = Decimal128Array::from(values).with_precision_and_scale(DIGITS, 0)?;
        let list = |array: ArrayRef| SingleRowListArrayBuilder::new(array).build_list_scalar();
        Ok(vec![list(Arc::new(values)), list(Arc::new(UInt64Array::from(counts)))])
    }

    fn evaluate(&mut self) -> Result<ScalarValue> {
        let units = self.percentile()?.map(|found| self.shown.units(found)).transpose()?;
        Ok(ScalarValue::Decimal128(units, DIGITS, self.shown.scale()))
    }

    fn size(&self) -> usize {
        size_of_val(self) + self.met.capacity() * size_of::<(i128, u64)>()
    }
}
