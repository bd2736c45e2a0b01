//! The tables of a report, whatever its kind.

use super::Width;
use super::grid::Grid;
use super::text::wrapped;
use crate::numbers::{grouped, shown};
use crate::shown::visible;
use mild_ledger_records::{ReportCell, ReportTable};

/// Rows shown; all of them stand in the JSON.
const MOST_ROWS: usize = 200;

/// A table under its title: names to the left, figures to the right, the total under a line. A name that stands above as
/// well is left out.
pub(super) fn table(table: &ReportTable, width: Width) -> String {
    let mut out = wrapped(&visible(&table.title), "", width);
    out.push('\n');
    let grid = grid_of(table, Names::OncePerGroup);
    // A block is read by itself, so it has all its names.
    out.push_str(&grid.fitted_or_blocks_of(&grid_of(table, Names::EveryRow), width));
    out
}

/// Where a name stands that the row above has too.
#[derive(Clone, Copy, PartialEq, Eq)]
enum Names {
    OncePerGroup,
    EveryRow,
}

fn grid_of(table: &ReportTable, names_stand: Names) -> Grid {
    let mut grid =
        Grid::new(table.columns.iter().map(|name| visible(name).into_owned())).align_left(0..table.names);
    let mut above: &[ReportCell] = &[];
    for row in table.rows.iter().take(MOST_ROWS) {
        let (names, figures) = row.split_at(table.names.min(row.len()));
        let repeated = match names_stand {
            Names::OncePerGroup => names.iter().zip(above).take_while(|(name, above)| name == above).count(),
            Names::EveryRow => 0,
        };
        // The last name tells the row from the one above, so it always stands.
        let repeated = repeated.min(names.len().saturating_sub(1));
        let names_shown = names
            .iter()
            .enumerate()
            .map(|(nth, name)| if nth < repeated { String::new() } else { shown(name) });
        grid.row(names_shown.chain(figures.iter().map(shown)));
        above = names;
    }
    let more = table.rows.len().saturating_sub(MOST_ROWS);
    if more > 0 {
        grid.row([format!("… and {} more", grouped(&more.to_string()))]);
    }
    if let Some(total) = &table.total {
        grid.line();
        grid.row(total.iter().map(shown));
    }
    grid
}
