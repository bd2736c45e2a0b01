//! Sums, differences, products and quotients of two columns, or of a column and a number.

use super::binder::Binder;
use super::inputs::{NumberInput, NumberSource, or_default, read_number, read_reference};
use super::rows::Rows;
use super::why::{CellWhy, in_full};
use super::{ColumnKind, Planned, Step};
use crate::mistakes::{At, Value, Walk};
use crate::table::{Data, Kind, Reason};
use crate::written::read_decimals;
use mild_ledger::{Error, ErrorKind, Operation, Quotient, Rounding};
use std::ops::Range;
use toml::de::{DeTable, DeValue};

const COMPANIONS: &[&str] = &["decimals", "rounding"];

pub(super) const SUM: ColumnKind = ColumnKind {
    key: "sum",
    gives: "two numbers added",
    companions: COMPANIONS,
    lines: &["{sum} + {sum}", ", {decimals} decimals", ", {decimals} decimal"],
    read: |walk, table, _: Range<usize>| read(walk, table, "sum", Operation::Sum),
};
pub(super) const DIFFERENCE: ColumnKind = ColumnKind {
    key: "difference",
    gives: "one number less another",
    companions: COMPANIONS,
    lines: &["{difference} - {difference}", ", {decimals} decimals", ", {decimals} decimal"],
    read: |walk, table, _| read(walk, table, "difference", Operation::Difference),
};
pub(super) const PRODUCT: ColumnKind = ColumnKind {
    key: "product",
    gives: "two numbers multiplied",
    companions: COMPANIONS,
    lines: &[
        "{product} × {product}",
        "{product} * {product}",
        "{product} times {product}",
        ", {decimals} decimals",
        ", {decimals} decimal",
    ],
    read: |walk, table, _| read(walk, table, "product", Operation::Product),
};
pub(super) const QUOTIENT: ColumnKind = ColumnKind {
    key: "quotient",
    gives: "one number by another",
    companions: COMPANIONS,
    lines: &[
        "{quotient} ÷ {quotient}",
        "{quotient} / {quotient}",
        ", {decimals} decimals",
        ", {decimals} decimal",
    ],
    read: |walk, table, _| read(walk, table, "quotient", Operation::Quotient),
};

/// To how many decimals a result is rounded, and how; the inputs' own where none are stated.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) struct Rounded {
    pub(super) decimals: Option<u8>,
    pub(super) rounding: Rounding,
}

#[derive(Debug)]
struct PlannedArithmetic {
    operation: Operation,
    operands: [At<NumberSource>; 2],
    rounded: Rounded,
}

struct ArithmeticStep {
    operation: Operation,
    left: NumberInput,
    right: NumberInput,
    how: (u8, Rounding),
}

fn read(walk: &mut Walk, table: &DeTable, key: &str, operation: Operation) -> Option<Box<dyn Planned>> {
    const EXPECTED: &str = "two of them, each the name of a column or a number";
    let value = table.get(key)?;
    let [one, other] = walk.two_items(value, EXPECTED)?;
    let operands = [read_number_source(walk, one, EXPECTED)?, read_number_source(walk, other, EXPECTED)?];
    if operands.iter().all(|operand| matches!(operand.value, NumberSource::Number(_))) {
        walk.mistakes.tell(value.span(), "here are two numbers and no column", EXPECTED);
        return None;
    }
    Some(Box::new(PlannedArithmetic { operation, operands, rounded: read_rounded(walk, table)? }))
}

fn read_number_source(walk: &mut Walk, value: &Value<'_>, expected: &str) -> Option<At<NumberSource>> {
    let source = match value.get_ref() {
        DeValue::Integer(_) | DeValue::Float(_) => NumberSource::Number(read_number(walk, value, expected)?),
        DeValue::Table(table) => NumberSource::Column(read_reference(walk, table, value)?),
        _ => NumberSource::Column(walk.text(value, expected)?.value),
    };
    Some(At { value: source, span: value.span() })
}

/// `decimals` and `rounding`.
pub(super) fn read_rounded(walk: &mut Walk, table: &DeTable) -> Option<Rounded> {
    let decimals = match table.get("decimals") {
        Some(value) => Some(read_decimals(walk, value)?),
        None => None,
    };
    let rounding = or_default(table, "rounding", Rounding::Nearest, |value| {
        walk.choice_of(value, Rounding::ALL, Rounding::word)
    })?;
    Some(Rounded { decimals, rounding })
}

impl Planned for PlannedArithmetic {
    fn header(&self) -> Option<String> {
        let side = |source: &NumberSource| match source {
            NumberSource::Column(name) => name.clone(),
            NumberSource::Number(number) => number.to_string(),
        };
        let sign = sign_of(self.operation);
        let [left, right] = &self.operands;
        Some(format!("{} {sign} {}", side(&left.value), side(&right.value)))
    }

    fn uses_as_of(&self) -> bool {
        false
    }

    fn stand_in(&self) -> Kind {
        Kind::Number { decimals: self.rounded.decimals.unwrap_or(2), figure: None }
    }

    fn bind(&self, binder: &mut Binder<'_>) -> Option<(Kind, Box<dyn Step>)> {
        let [left, right] = &self.operands;
        let (left, right) = (binder.number_input(left), binder.number_input(right));
        let ((left, left_decimals), (right, right_decimals)) = (left?, right?);
        let wider = left_decimals.max(right_decimals);
        let decimals = self.rounded.decimals.unwrap_or(match self.operation {
            Operation::Quotient => wider.max(2),
            _ => wider,
        });
        let how = (decimals, self.rounded.rounding);
        let step = ArithmeticStep { operation: self.operation, left, right, how };
        Some((Kind::Number { decimals, figure: None }, Box::new(step)))
    }
}

fn sign_of(operation: Operation) -> char {
    match operation {
        Operation::Sum => '+',
        Operation::Difference => '-',
        Operation::Product => '×',
        Operation::Quotient => '÷',
    }
}

impl Step for ArithmeticStep {
    fn inputs(&self) -> Vec<usize> {
        [self.left, self.right].into_iter().filter_map(NumberInput::column).collect()
    }

    /// On the exact values of its columns, whatever they are shown as, and rounded once.
    fn work_out(&self, rows: &mut Rows<'_>) -> Result<Data, Error> {
        let mut rounded = Vec::new();
        let mut result =
            |row: usize, (left, right): (Quotient, Quotient)| match self.operation.of(left, right) {
                // A fraction of more digits than are held goes on as a decimal, and is listed.
                Err(error) if error.kind() == ErrorKind::OutOfRange => {
                    let (result, decimals) = self.operation.of_rounded(left, right).map_err(|_| error)?;
                    rounded.push((row, decimals));
                    Ok(result)
                }
                exact => exact,
            };
        let exact = rows.each(
            |(row, sides)| result(row, sides),
            |rows, row| Some((row, rows.exact(self.left, row).zip(rows.exact(self.right, row))?)),
        );
        for (row, decimals) in rounded {
            let detail = format!(
                "the exact fraction has more than 38 digits, so both sides were rounded to {decimals} decimals"
            );
            rows.list_kept(row, Reason::Rounded, detail);
        }
        rows.rounded(exact.into_iter().collect(), self.how)
    }

    fn why(&self, rows: &Rows<'_>, row: usize) -> Option<CellWhy> {
        let (left, right) = (rows.exact(self.left, row)?, rows.exact(self.right, row)?);
        let exact = self.operation.of(left, right);
        let exact =
            exact.or_else(|_| self.operation.of_rounded(left, right).map(|(result, _)| result)).ok()?;
        let (decimals, rounding) = self.how;
        let rounded = exact.to_decimal(decimals, rounding).ok()?;
        let [left, right, exact] = [left, right, exact].map(in_full);
        let said = format!("{left} {} {right} = {exact}", sign_of(self.operation));
        let rule = format!("{decimals} decimals, rounding {rounding}, of the exact values");
        Some(CellWhy::said(rule, [said, format!("so {rounded}")]))
    }
}
