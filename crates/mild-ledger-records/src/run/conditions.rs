//! Whether a row meets conditions.

use super::job::{BoundCondition, BoundOperand};
use super::table::Table;
use crate::plan::TestKind;
use std::cmp::Ordering;

/// Whether all conditions hold for a row.
pub(super) fn all_hold(conditions: &[BoundCondition], table: &Table<'_>, row: usize) -> bool {
    conditions.iter().all(|condition| holds(condition, table, row))
}

fn holds(condition: &BoundCondition, table: &Table<'_>, row: usize) -> bool {
    match condition {
        BoundCondition::All(conditions) => all_hold(conditions, table, row),
        BoundCondition::Any(conditions) => conditions.iter().any(|condition| holds(condition, table, row)),
        BoundCondition::Test { column, kind, operand } => match (kind, operand) {
            (TestKind::Blank, BoundOperand::No) => !table.is_blank(*column, row),
            (TestKind::Blank, _) => table.is_blank(*column, row),
            (_, BoundOperand::Window(first, last)) => {
                table.number(*column, row).is_some_and(|day| (*first..=*last).contains(&day))
            }
            (kind, operand) => {
                compare(table, *column, row, operand).map_or(*kind == TestKind::IsNot, |order| match kind {
                    TestKind::Is | TestKind::Blank | TestKind::Within => order.is_eq(),
                    TestKind::IsNot => order.is_ne(),
                    TestKind::Over => order.is_gt(),
                    TestKind::AtLeast => order.is_ge(),
                    TestKind::Under => order.is_lt(),
                    TestKind::AtMost => order.is_le(),
                })
            }
        },
    }
}

/// How a cell compares; `None` where it, or the cell it is compared with, is blank: then only `is_not` holds.
fn compare(table: &Table<'_>, column: usize, row: usize, operand: &BoundOperand) -> Option<Ordering> {
    match operand {
        BoundOperand::Number(number) => Some(table.number(column, row)?.cmp(number)),
        BoundOperand::Text(text) => {
            Some(table.text(column, row)).filter(|cell| !cell.is_empty()).map(|cell| cell.cmp(text))
        }
        BoundOperand::Column(other) if table.is_blank(column, row) || table.is_blank(*other, row) => None,
        BoundOperand::Column(other) => match (table.number(column, row), table.number(*other, row)) {
            // Dates with their times, where they keep them; a date alone begins at midnight.
            (Some(a), Some(b)) => match (table.date_time(column, row), table.date_time(*other, row)) {
                (Some(at), Some(other)) => Some(at.cmp(&other)),
                _ => Some(a.cmp(&b)),
            },
            _ => Some(table.text(column, row).cmp(table.text(*other, row))),
        },
        BoundOperand::Window(..) | BoundOperand::Yes | BoundOperand::No => None,
    }
}
