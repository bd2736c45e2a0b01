//! Ages, anniversaries and tenure.

use super::{FunctionKind, Planned, date, rows};
use crate::columns::{Inputs, dates, whole};
use crate::kind::Takes::{Date, MayWord, Word};
use crate::literals::Literals;
use arrow::datatypes::DataType;
use datafusion::error::Result;
use mild_ledger::column::{Intervals, ages, next_anniversaries, stays_counted_to};
use mild_ledger::{Anniversaries, CountRule, MonthEnd, Tenure};

const LEAP_DAY: &str = "'clamp' (28 February) or 'next-start' (1 March)";

pub(super) const AGE: FunctionKind = FunctionKind {
    name: "age_on",
    says: "complete years on a day; a 29 February is kept on 28 February in common years, on 1 March with `next-start`",
    takes: &[Date, Date, MayWord],
    called: &["born", "on", "leap_day"],
    plan: |literals| {
        let leap_day = leap_day(literals, 2)?;
        let work = move |inputs: &Inputs| rows(ages(inputs.dates(0)?, inputs.dates(1)?, leap_day)).map(whole);
        let why = move |inputs: &Inputs, row: usize| {
            let of = Anniversaries::of(date(inputs, 0, row)?).with_leap_day(leap_day).ok()?;
            of.age_on(date(inputs, 1, row)?).err()
        };
        Ok(Planned::new(DataType::Int32, work, why))
    },
};

pub(super) const NEXT_ANNIVERSARY: FunctionKind = FunctionKind {
    name: "next_anniversary",
    says: "the first anniversary of a day on or after another",
    takes: &[Date, Date, MayWord],
    called: &["of", "on_or_after", "leap_day"],
    plan: |literals| {
        let leap_day = leap_day(literals, 2)?;
        let work = move |inputs: &Inputs| {
            let next = rows(next_anniversaries(inputs.dates(0)?, inputs.dates(1)?, leap_day))?;
            Ok(dates(next.dates))
        };
        let why = move |inputs: &Inputs, row: usize| {
            let of = Anniversaries::of(date(inputs, 0, row)?).with_leap_day(leap_day).ok()?;
            of.next_on_or_after(date(inputs, 1, row)?).err()
        };
        Ok(Planned::new(DataType::Date32, work, why))
    },
};

pub(super) const TENURE: FunctionKind = FunctionKind {
    name: "tenure",
    says: "whole units from a start to its end, or to the as-of date while there is none: `complete years`, `complete months`",
    takes: &[Date, Date, Word, Word],
    called: &["start", "end", "as_of", "count"],
    plan: |literals| {
        let as_of: mild_ledger::Date = literals.choice(2, "a constant date such as '2026-09-30'")?;
        let rule: CountRule = literals.choice(3, "a count such as 'complete months'")?;
        let work = move |inputs: &Inputs| {
            let to = rows(stays_counted_to(inputs.dates(0)?, inputs.dates(1)?, as_of))?;
            Ok(whole(rows(Intervals::between(inputs.dates(0)?, &to))?.count(rule)))
        };
        let why = move |inputs: &Inputs, row: usize| {
            let stay = Tenure::from(date(inputs, 0, row)?);
            date(inputs, 1, row).map_or(stay, |end| stay.until(end)).as_of(as_of).err()
        };
        Ok(Planned::new(DataType::Int32, work, why))
    },
};

/// The rule for a 29 February; another than these two is refused.
fn leap_day(literals: &Literals<'_>, nth: usize) -> Result<MonthEnd> {
    let rule = literals.choice_or(nth, LEAP_DAY, MonthEnd::Clamp)?;
    let allowed = Anniversaries::of(mild_ledger::Date::MIN).with_leap_day(rule);
    literals.allowed(nth, allowed.map(|_| rule))
}
