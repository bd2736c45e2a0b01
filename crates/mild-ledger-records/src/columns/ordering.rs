//! What rows are ordered by: columns, and which end of each comes first.

use super::Binder;
use super::typed_numbers::NumberUse;
use crate::mistakes::At;
use crate::sorting::{Direction, SortKey};
use crate::table::Table;

/// A column to order by, perhaps with `, largest first` or the like after its name.
pub(crate) fn read_order(binder: &mut Binder<'_>, name: &At<String>) -> Option<(usize, Direction)> {
    if !binder.has(name.value.trim())
        && let Some((column, behind)) = name.value.rsplit_once(',')
    {
        let (column, behind) = (column.trim(), behind.trim());
        let found = Direction::WORDS.iter().find(|(words, _)| *words == behind);
        if let Some((_, direction)) = found {
            let column = At { value: column.to_owned(), span: name.span.clone() };
            return find_to_order(binder, &column).map(|column| (column, *direction));
        }
        if binder.has(column) {
            let turned = ["desc", "largest", "rev", "newest", "high"];
            let is_turned = turned.iter().any(|word| behind.to_lowercase().starts_with(word));
            let words = if is_turned { "largest first" } else { "smallest first" };
            binder.mistakes.tell_with_help(
                name.span.clone(),
                format!("\"{}\" is not an order", behind.escape_debug()),
                "smallest first, largest first, oldest first or newest first",
                Some(format!("nearest: \"{column}, {words}\"")),
            );
            return None;
        }
    }
    find_to_order(binder, name).map(|column| (column, Direction::SmallestFirst))
}

/// Numbers are ordered as numbers where the format says that they are.
fn find_to_order(binder: &mut Binder<'_>, name: &At<String>) -> Option<usize> {
    let column = binder.find(name)?;
    binder.take_as(column, NumberUse::Figures);
    Some(column)
}

/// Puts what a row is ordered by.
pub(crate) fn put_order_key(key: &mut SortKey, order: &[(usize, Direction)], table: &Table, row: usize) {
    key.clear();
    for (column, direction) in order {
        if table.is_empty(*column, row) {
            key.push_empty();
        } else if let Some(number) = table.order_number(*column, row) {
            key.push_number(number, *direction);
        } else {
            key.push_text(table.text(*column, row), *direction);
        }
    }
}
