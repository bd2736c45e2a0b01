//! A table as markup: its header, its names and its sums distinguished, and room to scroll where the screen is narrow.

use crate::document::{Cell, CellPlace, Column, Holds, OpenedRows, Table};
use crate::numbers::{Decimals, Writer};
use crate::shown::visible;
use maud::{Markup, html};
use mild_ledger_records::ReportCell;

pub(super) fn table(found: &Table, called: &Called, writer: &Writer) -> Markup {
    html! {
        div class="scroll" tabindex="0" role="region" aria-label=(called.text()) {
            (bare(found, called, writer))
        }
    }
}

/// What a table is called, and whether the text above it says that already.
pub(super) enum Called {
    Shown(String),
    /// Known from the title above; read aloud alone.
    Unseen(String),
}

impl Called {
    fn text(&self) -> &str {
        match self {
            Self::Shown(text) | Self::Unseen(text) => text,
        }
    }
}

/// A table without room of its own to scroll.
fn bare(found: &Table, called: &Called, writer: &Writer) -> Markup {
    // The rows after the last line sum the others up.
    let sums = found.lines.last().copied().unwrap_or(usize::MAX);
    let kept: Vec<(usize, &Column)> =
        found.columns.iter().enumerate().filter(|(_, column)| column.holds != Holds::Bars).collect();
    html! {
        table {
            @match called {
                Called::Shown(text) => caption { (visible(text)) },
                Called::Unseen(text) => caption class="unseen" { (visible(text)) },
            }
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
                            @let rows = found.opened.get(&CellPlace { row: nth, column: *place });
                            @let fold = rows.map(|rows| Fold {
                                rows,
                                side: Side::of(*place, kept.len()),
                                row: format!("{}, row {}", called.text(), nth + 1),
                            });
                            @if let Some(cell) = row.get(*place) {
                                (of_cell((*place, column), cell, fold.as_ref(), writer))
                            }
                        }
                    }
                }
            }
        }
    }
}

fn of_cell(
    (place, column): (usize, &Column),
    cell: &Cell,
    fold: Option<&Fold<'_>>,
    writer: &Writer,
) -> Markup {
    let (text, again) = match cell {
        Cell::Value(cell) => (column.holds.text_of(cell, Decimals::Shown, writer), None),
        Cell::Repeated(cell) => (writer.cell(cell), Some("again")),
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
        @else {
            td class=[again.or(class_of(column))] {
                @match fold {
                    Some(fold) => (folded(&text, fold, writer)),
                    None => (text),
                }
            }
        }
    }
}

/// The records of a figure, folded away in its cell.
struct Fold<'t> {
    rows: &'t OpenedRows,
    side: Side,
    /// The row of the cell; a browser opens one figure of a row at a time.
    row: String,
}

/// The side on which a table has room next to a cell.
#[derive(Clone, Copy)]
enum Side {
    Left,
    Right,
}

impl Side {
    fn of(column: usize, columns: usize) -> Self {
        if column * 2 < columns { Self::Right } else { Self::Left }
    }

    fn class(self) -> &'static str {
        match self {
            Self::Left => "rows to-left",
            Self::Right => "rows",
        }
    }
}

/// A figure that opens to its records, in its place: below it, over the empty room of the cells next to it.
fn folded(figure: &str, fold: &Fold<'_>, writer: &Writer) -> Markup {
    html! {
        details name=(visible(&fold.row)) {
            summary { (figure) }
            div class=(fold.side.class()) {
                div {
                    (bare(&fold.rows.rows, &Called::Shown(fold.rows.name.clone()), writer))
                    @if fold.rows.more > 0 { p { "and " (writer.count(fold.rows.more)) " more" } }
                }
            }
        }
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
