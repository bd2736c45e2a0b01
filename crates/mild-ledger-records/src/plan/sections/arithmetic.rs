//! Sums, differences, products and quotients of two columns, or of a column and a number.

use super::measures::or_default;
use super::{Value, Walk, kind_of, read_reference};
use crate::plan::model::{At, Operation, PlannedKind, Quantity, Rounded};
use mild_ledger::{Decimal, Rounding, Scale};
use toml::de::{DeTable, DeValue};

/// `sum = ["Labour", "Parts"]`, `product = ["Hours", 62.50]` and so on.
pub(super) fn read(
    walk: &mut Walk,
    table: &DeTable<'_>,
    key: &str,
    operation: Operation,
) -> Option<PlannedKind> {
    const EXPECTED: &str = "two of them, each the name of a column or a number";
    let value = table.get(key)?;
    let operands = match value.get_ref() {
        DeValue::Array(items) if items.len() == 2 => {
            [read_quantity(walk, &items[0], EXPECTED)?, read_quantity(walk, &items[1], EXPECTED)?]
        }
        DeValue::Array(_) => {
            walk.mistake(value.span(), "a list of another length stands here", EXPECTED);
            return None;
        }
        other => {
            walk.mistake(value.span(), format!("{} stands here", kind_of(other)), EXPECTED);
            return None;
        }
    };
    if operands.iter().all(|operand| matches!(operand.value, Quantity::Number(_))) {
        walk.mistake(value.span(), "two numbers stand here, and no column", EXPECTED);
        return None;
    }
    Some(PlannedKind::Arithmetic { operation, operands, rounded: read_rounded(walk, table)? })
}

fn read_quantity(walk: &mut Walk, value: &Value<'_>, expected: &str) -> Option<At<Quantity>> {
    let quantity = match value.get_ref() {
        DeValue::Integer(_) | DeValue::Float(_) => Quantity::Number(read_number(walk, value, expected)?),
        DeValue::Table(table) => Quantity::Column(read_reference(walk, table, value)?),
        _ => Quantity::Column(walk.text(value, expected)?.value),
    };
    Some(At { value: quantity, span: value.span() })
}

/// A number of the plan, exactly as it stands.
pub(super) fn read_number(walk: &mut Walk, value: &Value<'_>, expected: &str) -> Option<Decimal> {
    match value.get_ref() {
        DeValue::Integer(_) => {
            let whole = walk.whole_number(value, i64::MIN..=i64::MAX)?;
            Decimal::of_units(i128::from(whole), 0).ok()
        }
        DeValue::Float(digits) => {
            let digits = digits.as_str().replace('_', "");
            let decimals = digits.split_once('.').map_or(0, |(_, decimals)| decimals.len());
            let read = u8::try_from(decimals).ok().and_then(|decimals| {
                let amount =
                    Scale::new(decimals).ok()?.read(digits.strip_prefix('+').unwrap_or(&digits)).ok()?;
                Decimal::of_units(amount.units(), decimals).ok()
            });
            if read.is_none() {
                walk.mistake(value.span(), "this number is not plain digits", "a number such as 62.50");
            }
            read
        }
        other => {
            walk.mistake(value.span(), format!("{} stands here", kind_of(other)), expected);
            None
        }
    }
}

/// `decimals` and `rounding`.
pub(super) fn read_rounded(walk: &mut Walk, table: &DeTable<'_>) -> Option<Rounded> {
    let decimals = match table.get("decimals") {
        Some(value) => Some(walk.whole_number(value, 0..=i64::from(Decimal::MOST_DECIMALS))? as u8),
        None => None,
    };
    let all = Rounding::ALL.map(|rule| (rule.word(), rule));
    let rounding = or_default(table, "rounding", Rounding::Nearest, |value| walk.choice(value, &all))?;
    Some(Rounded { decimals, rounding })
}
