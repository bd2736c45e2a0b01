//! Between two dates.

use super::{FunctionKind, Planned, rows};
use crate::columns::{DIGITS, Inputs, decimals, scale_of, whole};
use crate::kind::Takes::{Date, MayNumber, MayWord, Word};
use crate::literals::Literals;
use arrow::array::{Array, ArrayRef, Int32Array, StructArray};
use arrow::buffer::NullBuffer;
use arrow::datatypes::{DataType, Field, Fields};
use datafusion::error::Result;
use mild_ledger::column::Intervals;
use mild_ledger::{CountRule, DayCount, Ends, Interval, MonthEnd, Unit};
use std::sync::Arc;

const MONTH_END: &str = "'clamp' or 'keep'";
const ENDS: &str = "'last', 'first-and-last', 'first' or 'neither'";

pub(super) const ELAPSED_DAYS: FunctionKind = FunctionKind {
    name: "elapsed_days",
    says: "the days from start to end, the start not counted (`last`) unless other ends are named",
    takes: &[Date, Date, MayWord],
    called: &["start", "end", "ends"],
    plan: |literals| {
        let ends: Ends = literals.choice_or(2, ENDS, Ends::OF_ELAPSED_TIME)?;
        Ok(Planned::new(
            DataType::Int32,
            move |inputs| Ok(whole(intervals(inputs)?.days_counting(ends))),
            |_, _| None,
        ))
    },
};

pub(super) const COUNT_BETWEEN: FunctionKind = FunctionKind {
    name: "count_between",
    says: "whole units: `complete months`, `year starts passed`, `days` and so on; under a rule for month ends, `clamp` unless named",
    takes: &[Date, Date, Word, MayWord],
    called: &["start", "end", "count", "month_end"],
    plan: |literals| {
        let rule: CountRule = literals.choice(2, "a count such as 'complete months'")?;
        let month_end = month_end(literals, 3)?;
        let work = move |inputs: &Inputs| {
            let under = rows(intervals(inputs)?.with_month_end(month_end))?;
            Ok(whole(under.count(rule)))
        };
        Ok(Planned::new(DataType::Int32, work, |_, _| None))
    },
};

pub(super) const FRACTIONAL_BETWEEN: FunctionKind = FunctionKind {
    name: "fractional_between",
    says: "complete units and the days left over as a part of the current one, with the given decimals (4 unless named)",
    takes: &[Date, Date, Word, MayNumber, MayWord],
    called: &["start", "end", "unit", "decimals", "month_end"],
    plan: |literals| {
        let unit: Unit = literals.choice(2, "a unit such as 'month'")?;
        let (places, month_end) = (literals.decimals(3)?, month_end(literals, 4)?);
        let work = move |inputs: &Inputs| {
            let under = rows(intervals(inputs)?.with_month_end(month_end))?;
            decimals(&under.fractional(unit), places)
        };
        Ok(Planned::new(DataType::Decimal128(DIGITS, scale_of(places)), work, |_, _| None))
    },
};

pub(super) const DAY_COUNT: FunctionKind = FunctionKind {
    name: "day_count",
    says: "the year fraction by a convention of the trade (`actual-360`, `30e-360` …), with the given decimals (4 unless named)",
    takes: &[Date, Date, Word, MayNumber],
    called: &["start", "end", "convention", "decimals"],
    plan: |literals| {
        let convention: DayCount = literals.choice(2, "a convention such as 'actual-360'")?;
        let places = literals.decimals(3)?;
        let work = move |inputs: &Inputs| decimals(&intervals(inputs)?.year_fraction(convention), places);
        Ok(Planned::new(DataType::Decimal128(DIGITS, scale_of(places)), work, |_, _| None))
    },
};

pub(super) const PARTS_BETWEEN: FunctionKind = FunctionKind {
    name: "parts_between",
    says: "a struct of `years`, `months` and `days` (`get_field` takes one of them): complete years, months left over, days left over",
    takes: &[Date, Date, MayWord],
    called: &["start", "end", "month_end"],
    plan: |literals| {
        let month_end = month_end(literals, 2)?;
        let work = move |inputs: &Inputs| parts(&rows(intervals(inputs)?.with_month_end(month_end))?);
        Ok(Planned::new(DataType::Struct(fields_of_parts()), work, |_, _| None))
    },
};

/// The rule for month ends of an argument; one that refuses days is refused.
fn month_end(literals: &Literals<'_>, nth: usize) -> Result<MonthEnd> {
    let rule = literals.choice_or(nth, MONTH_END, MonthEnd::Clamp)?;
    let allowed = Interval::between(mild_ledger::Date::MIN, mild_ledger::Date::MIN).with_month_end(rule);
    literals.allowed(nth, allowed.map(|_| rule))
}

fn intervals(inputs: &Inputs) -> Result<Intervals<'_>> {
    rows(Intervals::between(inputs.dates(0)?, inputs.dates(1)?))
}

fn fields_of_parts() -> Fields {
    ["years", "months", "days"].map(|name| Field::new(name, DataType::Int32, true)).into_iter().collect()
}

fn parts(intervals: &Intervals<'_>) -> Result<ArrayRef> {
    let found = intervals.parts();
    let part = |of: fn(mild_ledger::Parts) -> i32| -> Int32Array {
        found.iter().map(|parts| parts.map(of)).collect()
    };
    let years = part(mild_ledger::Parts::years);
    let nulls: Option<NullBuffer> = years.nulls().cloned();
    let of: Vec<ArrayRef> = vec![
        Arc::new(years),
        Arc::new(part(mild_ledger::Parts::months)),
        Arc::new(part(mild_ledger::Parts::days)),
    ];
    Ok(Arc::new(StructArray::try_new(fields_of_parts(), of, nulls)?))
}
