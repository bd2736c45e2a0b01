//! Periods around a date.

use super::{FunctionKind, Planned, date};
use crate::columns::{Inputs, dates, large};
use crate::kind::Takes::{Date, MayWord, Word};
use crate::literals::Literals;
use arrow::array::{ArrayRef, StringBuilder};
use arrow::datatypes::DataType;
use datafusion::error::Result;
use mild_ledger::column::{Texts, first_days, last_days, period_labels_into, period_numbers};
use mild_ledger::{FiscalYear, PeriodRule, WeekYear, Weekday};
use std::sync::Arc;

pub(super) const PERIOD_FIRST: FunctionKind = FunctionKind {
    name: "period_first",
    says: "the first day of the period that a date lies in; fiscal ones begin in January unless a month or a day is named",
    takes: &[Date, Word, MayWord],
    called: &["date", "period", "begins"],
    plan: |literals| {
        let rule = rule(literals)?;
        let why = move |inputs: &Inputs, row: usize| rule.containing(date(inputs, 0, row)?).first_day().err();
        Ok(Planned::new(DataType::Date32, move |inputs| Ok(dates(first_days(inputs.dates(0)?, rule))), why))
    },
};

pub(super) const PERIOD_LAST: FunctionKind = FunctionKind {
    name: "period_last",
    says: "the last day of the period that a date lies in",
    takes: &[Date, Word, MayWord],
    called: &["date", "period", "begins"],
    plan: |literals| {
        let rule = rule(literals)?;
        let why = move |inputs: &Inputs, row: usize| rule.containing(date(inputs, 0, row)?).last_day().err();
        Ok(Planned::new(DataType::Date32, move |inputs| Ok(dates(last_days(inputs.dates(0)?, rule))), why))
    },
};

pub(super) const PERIOD_NUMBER: FunctionKind = FunctionKind {
    name: "period_number",
    says: "the number of the period that a date lies in, within its year",
    takes: &[Date, Word, MayWord],
    called: &["date", "period", "begins"],
    plan: |literals| {
        let rule = rule(literals)?;
        let work = move |inputs: &Inputs| Ok(large(period_numbers(inputs.dates(0)?, rule)));
        Ok(Planned::new(DataType::Int64, work, |_, _| None))
    },
};

pub(super) const PERIOD_LABEL: FunctionKind = FunctionKind {
    name: "period_label",
    says: "the label of the period that a date lies in, such as `2026-Q3`",
    takes: &[Date, Word, MayWord],
    called: &["date", "period", "begins"],
    plan: |literals| {
        let rule = rule(literals)?;
        Ok(Planned::new(DataType::Utf8, move |inputs| labels(inputs, rule), |_, _| None))
    },
};

fn labels(inputs: &Inputs, rule: PeriodRule) -> Result<ArrayRef> {
    let of = inputs.dates(0)?;
    let mut texts = Texts::default();
    period_labels_into(of, rule, &mut texts);
    let mut labels = StringBuilder::with_capacity(inputs.rows, 8 * inputs.rows);
    for row in 0..inputs.rows {
        labels.append_option(of.get(row).and_then(|_| texts.get(row)));
    }
    Ok(Arc::new(labels.finish()))
}

/// The period of a call: by its word, with what fiscal years begin on.
fn rule(literals: &Literals<'_>) -> Result<PeriodRule> {
    let fiscal = match literals.all.len() {
        0..=2 => FiscalYear::default(),
        _ => literals.read(2, "a month or a day such as 'april' or '6 april'", |text| {
            FiscalYear::starting_on(text).map_err(|error| error.what().to_owned())
        })?,
    };
    let all = PeriodRule::all(Weekday::Monday, fiscal, WeekYear::iso());
    let words: Vec<&str> = all.iter().map(|rule| rule.word()).collect();
    literals.read(1, &words.join(", "), |text| {
        let found = all.iter().find(|rule| rule.word() == text);
        found.copied().ok_or_else(|| format!("\"{}\" is not a period", text.escape_debug()))
    })
}
