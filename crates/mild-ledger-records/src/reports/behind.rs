//! The rows of each cell of a table, as far as people can look at them.

use super::{ReportCell, RowBehind, RowsBehind};
use crate::table::{Layout, Origin, RowId};
use mild_ledger::Scale;
use serde::{Deserialize, Serialize};
use std::collections::{BTreeMap, HashMap};

/// The first rows of a cell that are held.
const MOST_ROWS: usize = 12;
/// The most cells of a report that can be opened; of more none are, so that what is opened does not depend on chance.
const MOST_CELLS: usize = 2_000;

/// Rows that make up cells, each cell by the names of its row and the number of its column.
#[derive(Default, Serialize, Deserialize)]
pub(super) struct Behind {
    cells: HashMap<(Vec<String>, u16), Cell>,
    are_too_many: bool,
}

#[derive(Default, Serialize, Deserialize)]
struct Cell {
    count: u64,
    /// In the order of the records.
    first: BTreeMap<RowId, Held>,
}

#[derive(Serialize, Deserialize)]
struct Held {
    key: String,
    origin: Origin,
    units: i128,
}

impl Behind {
    pub(super) fn add(
        &mut self,
        place: (Vec<String>, u16),
        origin: Origin,
        key: impl FnOnce() -> String,
        units: i128,
    ) {
        if self.are_too_many {
            return;
        }
        let cell = self.cells.entry(place).or_default();
        cell.count += 1;
        let is_first = cell.first.len() < MOST_ROWS
            || cell.first.last_key_value().is_some_and(|(last, _)| origin.id() < *last);
        if is_first {
            cell.first.insert(origin.id(), Held { key: key(), origin, units });
            if cell.first.len() > MOST_ROWS {
                cell.first.pop_last();
            }
        }
        self.check();
    }

    pub(super) fn merge(&mut self, other: Self) {
        self.are_too_many |= other.are_too_many;
        for (place, cell) in other.cells {
            let into = self.cells.entry(place).or_default();
            into.count += cell.count;
            into.first.extend(cell.first);
            while into.first.len() > MOST_ROWS {
                into.first.pop_last();
            }
        }
        self.check();
    }

    fn check(&mut self) {
        if self.are_too_many || self.cells.len() > MOST_CELLS {
            self.are_too_many = true;
            self.cells.clear();
        }
    }

    /// The cells in the order of their rows and columns, each row with its place in the table; and a sentence where there are too many.
    pub(super) fn finish(
        self,
        layout: &Layout,
        scale: Scale,
        place_of: impl Fn(&[String]) -> Option<usize>,
        columns: &[(usize, String)],
    ) -> (Vec<RowsBehind>, Option<String>) {
        if self.are_too_many {
            let said = format!("its cells are not opened to their rows: there are more than {MOST_CELLS}");
            return (Vec::new(), Some(said));
        }
        let mut cells: Vec<((usize, u16), Vec<String>, Cell)> = Vec::with_capacity(self.cells.len());
        for ((row, column), cell) in self.cells {
            let place = place_of(&row).unwrap_or(usize::MAX);
            cells.push(((place, column), row, cell));
        }
        cells.sort_by_key(|(place, ..)| *place);
        let opened = |((_, column), row, cell): ((usize, u16), Vec<String>, Cell)| {
            let name = columns.iter().find(|(nth, _)| *nth == usize::from(column));
            let rows: Vec<RowBehind> = cell
                .first
                .into_values()
                .map(|held| RowBehind {
                    key: held.key,
                    place: layout.place_in_words(held.origin),
                    part: ReportCell::Decimal(scale.amount(held.units)),
                })
                .collect();
            RowsBehind {
                currency: None,
                row,
                column: name.map_or_else(String::new, |(_, name)| name.clone()),
                figure: ReportCell::Empty,
                count: cell.count,
                rows,
                besides: None,
            }
        };
        (cells.into_iter().map(opened).collect(), None)
    }
}
