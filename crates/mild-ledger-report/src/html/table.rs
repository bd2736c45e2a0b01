//! A table as markup: its header, its names and its sums distinguished, and room to scroll where the screen is narrow.

use crate::document::{Cell, Column, Holds, Table};
use crate::numbers::{Decimals, written};
use crate::shown::visible;
use maud::{Markup, html};
use mild_ledger_records::ReportCell;

pub(super) fn table(found: &Table, caption: Option<&str>) -> Markup {
    let named =
        caption.or_else(|| found.columns.first().map(|column| column.name.as_str())).unwrap_or("Table");
    html! {
        @if let Some(caption) = caption { p class="caption" { (visible(caption)) } }
        div class="scroll" tabindex="0" role="region" aria-label=(visible(named)) {
            (bare(found, named))
        }
    }
}

/// A table of few columns under a name that is said elsewhere too.
pub(super) fn bare(found: &Table, named: &str) -> Markup {
    // The rows after the last line sum the others up.
    let sums = found.lines.last().copied().unwrap_or(usize::MAX);
    let kept: Vec<(usize, &Column)> =
        found.columns.iter().enumerate().filter(|(_, column)| column.holds != Holds::Bars).collect();
    html! {
        table aria-label=(visible(named)) {
            thead {
                tr {
                    @for (_, column) in &kept {
                        @if column.name.trim().is_empty() { td {} }
                        @else { th scope="col" class=[class_of(column)] { (visible(&column.name)) } }
                    }
                }
            }
            tbody {
                @for (nth, row) in found.rows.iter().enumerate() {
                    tr class=[class_of_row(found, nth, sums)] {
                        @for (place, column) in &kept {
                            @if let Some(cell) = row.get(*place) { (of_cell(*place, column, cell)) }
                        }
                    }
                }
            }
        }
    }
}

fn of_cell(place: usize, column: &Column, cell: &Cell) -> Markup {
    let (text, again) = match cell {
        Cell::Value(cell) => (column.holds.text_of(cell, Decimals::Shown), None),
        Cell::Repeated(cell) => (written(cell), Some("again")),
        Cell::LongOrShort(long, _) => (long.clone(), None),
    };
    let text = visible(&text);
    let is_date = matches!(cell, Cell::Value(ReportCell::Date(_)) | Cell::Repeated(ReportCell::Date(_)));
    let again = match (again, is_date) {
        (Some(_), true) => Some("again whole"),
        (None, true) => Some("whole"),
        (again, false) => again,
    };
    let is_name = place == 0 && column.holds == Holds::Words && !text.is_empty();
    html! {
        @if is_name { th scope="row" class=[again] { (text) } }
        @else { td class=[again.or(class_of(column))] { (text) } }
    }
}

/// A line is above some rows, and sums are set apart.
fn class_of_row(table: &Table, row: usize, sums: usize) -> Option<&'static str> {
    match (table.lines.contains(&row), row >= sums) {
        (true, true) => Some("line sum"),
        (true, false) => Some("line"),
        (false, true) => Some("sum"),
        (false, false) => None,
    }
}

fn class_of(column: &Column) -> Option<&'static str> {
    column.holds.are_numbers().then_some("n")
}
