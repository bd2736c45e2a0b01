//! The tables of reports, whatever their kind.

use super::{Block, Caption, Cell, CellPlace, Document, FiguresClosed, Holds, Narrowing, OpenedRows, Table};
use crate::facts::{Bars, Chart, Shares, is_of_dates};
use crate::numbers::Writer;
use mild_ledger::Decimal;
use mild_ledger_records::{ReportCell, ReportTable, RowOrder, RowsBehind, SumRowOf, TableRank};
use std::collections::HashMap;

/// Rows shown where the largest come first, and where they have an order of their own. The JSON has all of them.
const MOST_OF_THE_LARGEST: usize = 50;
const MOST_IN_ORDER: usize = 200;
/// The fewest characters that names are cut to while decimals could go, and where nothing else can.
const SHORT_NAME: usize = 18;
const SHORTEST_NAME: usize = 10;
/// The longest bar, in eighths of a character.
const EIGHTHS: i64 = 8 * 24;

/// A table under its title: names, figures, and shares where they say something; below a line the total, its shares, and further
/// figures of all rows.
///
/// Figures of the rows shown open to their records, as far as there is room for these.
pub(super) fn put_report_table(
    out: &mut Document,
    table: &ReportTable,
    behind: &[RowsBehind],
    room: &mut usize,
) {
    out.push(Block::Caption(Caption { title: table.title.clone(), shows: table.shows.clone() }));
    out.end_part();
    let mut shown = shown(table, &out.writer);
    let left_out = open_cells(&mut shown, table, behind, (room, &out.writer));
    let opens = !shown.opened.is_empty();
    out.push(Block::Table(shown));
    if opens || left_out.rows_not_shown + left_out.no_room > 0 {
        out.push(Block::Folding(left_out));
    }
    Chart::all_of(table, &out.writer).into_iter().for_each(|chart| out.push(Block::Chart(chart)));
}

fn shown(table: &ReportTable, writer: &Writer) -> Table {
    let shares = Shares::of(table);
    // The rows below the others have names, though these may have none.
    let nameless = (table.names == 0).then(String::new);
    let names = table.names + usize::from(nameless.is_some());
    let bars = Bars::of(table);
    let share_column = shares.as_ref().map(|_| "Share".to_owned());
    let bar_column = bars.as_ref().map(|_| String::new());
    let header = nameless.iter().chain(&table.columns).chain(&share_column).chain(&bar_column).cloned();
    let mut out = Table::new(header, 0..names);
    // A bar begins at the left, as words do.
    if let Some(column) = out.columns.last_mut().filter(|_| bars.is_some()) {
        column.holds = Holds::Bars;
    }
    let last = out.columns.len() - 1 - usize::from(bars.is_some());
    if bars.is_some() {
        out.narrowing.push(Narrowing::WithoutColumn(last + 1));
    }
    if let Some(column) = out.columns.first_mut() {
        column.least = Some(SHORT_NAME);
    }
    let of_dates = if is_of_dates(table) { table.names..table.columns.len() } else { 0..0 };
    for summed in table.summed.iter().copied().chain(of_dates) {
        if let Some(column) = out.columns.get_mut(summed + names - table.names) {
            column.holds = Holds::Sums;
        }
    }
    for column in table.names..table.columns.len() {
        if let (true, Some(out)) =
            (is_of_words(table, column), out.columns.get_mut(column + names - table.names))
        {
            out.holds = Holds::Words;
        }
    }
    out.narrowing.push(Narrowing::WithoutDecimals);
    if shares.is_some() {
        out.narrowing.extend([Narrowing::WithoutColumn(last), Narrowing::CutTexts(0, SHORTEST_NAME)]);
    }
    let no_bar = || bars.as_ref().map(|_| Cell::from(String::new()));
    // A total of rows without names says what they say.
    if nameless.is_none() || table.total.is_none() {
        put_rows(&mut out, table, (shares.as_ref(), bars.as_ref()), writer);
        out.line();
    }
    if let Some(total) = &table.total {
        let are_all_shown = table.sums.is_empty() && out.rows.len() == table.rows.len();
        out.total = Some(out.rows.len()).filter(|_| are_all_shown && table.rows.len() > 1);
        let name = nameless.iter().map(|_| Cell::from("Total".to_owned()));
        out.row(
            name.chain(total.iter().cloned().map(Cell::from))
                .chain(shares.as_ref().map(|shares| Cell::from(writer.per_cent(shares.total))))
                .chain(no_bar()),
        );
        if let Some(shares) = &shares {
            let figures = shares.columns.iter().map(|share| Cell::from(writer.per_cent(*share)));
            out.row(
                names_of_row("Share", names)
                    .chain(figures)
                    .chain([Cell::from(String::new())])
                    .chain(no_bar()),
            );
        }
    }
    for further in &table.further {
        let (name, figures) = further.split_first().unzip();
        let name = match name {
            Some(ReportCell::Text(name)) => name.as_str(),
            _ => "",
        };
        let figures = figures.unwrap_or_default().iter().cloned().map(Cell::from);
        let behind = shares.as_ref().map(|_| Cell::from(String::new()));
        out.row(names_of_row(name, names).chain(figures).chain(behind).chain(no_bar()));
    }
    // A line is drawn between rows only.
    out.lines.retain(|line| (1..out.rows.len()).contains(line));
    out
}

/// Opens the cells of the rows shown, each to its records; how many figures stay closed.
fn open_cells(
    shown: &mut Table,
    table: &ReportTable,
    behind: &[RowsBehind],
    (room, writer): (&mut usize, &Writer),
) -> FiguresClosed {
    let mut closed = FiguresClosed::default();
    if table.rank != TableRank::First {
        return closed;
    }
    let is_own = |cell: &&RowsBehind| cell.currency == table.currency;
    // A table whose rows have no names has its figures in the total, under a name of its own.
    let unnamed = usize::from(table.names == 0);
    let rows: HashMap<Vec<String>, usize> = match table.names {
        0 => HashMap::from([(Vec::new(), 0)]),
        names => {
            let of_row = |row: Vec<ReportCell>| row.iter().take(names).map(label).collect();
            let places = places_of_rows(table);
            table.rows.iter().map(of_row).zip(places).collect()
        }
    };
    for cell in behind.iter().filter(is_own) {
        let mut figures = table.columns.iter().enumerate().skip(table.names);
        let column = figures.find(|(_, name)| **name == cell.column).map(|(nth, _)| nth);
        let Some((row, column)) = rows.get(&cell.row).copied().zip(column) else {
            closed.rows_not_shown += 1;
            continue;
        };
        let needed = cell.rows.len() + 1;
        if needed > *room {
            *room = 0;
            closed.no_room += 1;
            continue;
        }
        *room -= needed;
        shown.opened.insert(CellPlace { row, column: column + unnamed }, opened(cell, writer));
    }
    closed
}

/// The name of a row as its figures have it.
fn label(cell: &ReportCell) -> String {
    match cell {
        ReportCell::Date(date) => date.to_string(),
        other => Writer::default().cell(other),
    }
}

/// Where each row that is shown is, in their order, with the rows of sums between them.
fn places_of_rows(table: &ReportTable) -> impl Iterator<Item = usize> {
    let sums = |above: usize| table.sums.iter().filter(move |sum| sum.behind <= above).count();
    (0..table.rows.len().min(most_shown(table))).map(move |nth| nth + sums(nth))
}

/// The records of a figure, the first of many.
fn opened(cell: &RowsBehind, writer: &Writer) -> OpenedRows {
    let rows = if cell.count == 1 { "row" } else { "rows" };
    let row = cell.row.iter().map(String::as_str);
    let of = cell.currency.as_deref().into_iter().chain(row).chain([cell.column.as_str()]);
    let of: Vec<&str> = of.filter(|name| !name.is_empty()).collect();
    let count = writer.count(cell.count);
    let name = format!("{}: {} in {count} {rows}", of.join(", "), writer.cell(&cell.figure));
    let mut table = Table::new(["key", "place", "value"], [0, 1]);
    for row in &cell.rows {
        let words = [&row.key, &row.place].map(|text| ReportCell::Text(text.clone()));
        table.row(words.into_iter().chain([row.part.clone()]));
    }
    if let Some(besides) = &cell.besides {
        table.line();
        let words = [&besides.key, &besides.place].map(|text| ReportCell::Text(text.clone()));
        table.row(words.into_iter().chain([besides.part.clone()]));
    }
    let more = cell.count - (cell.rows.len() as u64).min(cell.count);
    OpenedRows { name, rows: table, more }
}

/// How many rows are shown.
fn most_shown(table: &ReportTable) -> usize {
    match table.order {
        RowOrder::LargestFirst => MOST_OF_THE_LARGEST,
        _ => MOST_IN_ORDER,
    }
}

/// Whether a column has words and nothing else.
fn is_of_words(table: &ReportTable, column: usize) -> bool {
    // Those that are shown.
    let mut cells = table.rows.iter().take(most_shown(table)).filter_map(|row| row.get(column).cloned());
    let mut has_words = false;
    cells.all(|cell| {
        has_words |= matches!(cell, ReportCell::Text(_));
        matches!(cell, ReportCell::Text(_) | ReportCell::Empty | ReportCell::Missing(_))
    }) && has_words
}

/// The rows, and one of those that are left out. Of the names that the row above has too, only the last is repeated.
fn put_rows(
    out: &mut Table,
    table: &ReportTable,
    (shares, bars): (Option<&Shares>, Option<&Bars>),
    writer: &Writer,
) {
    let most = most_shown(table);
    let mut above: Vec<ReportCell> = Vec::new();
    let mut sums = table.sums.iter().peekable();
    for (nth, row) in table.rows.iter().take(most).enumerate() {
        let names = table.names.min(row.len());
        let same =
            row.iter().zip(&above).take(names.saturating_sub(1)).take_while(|(name, above)| name == above);
        let repeated = same.count();
        let cell = |(nth, cell): (usize, &ReportCell)| match cell {
            ReportCell::Text(name) if nth < names && name.is_empty() => Cell::from("(blank)".to_owned()),
            _ if nth < repeated => Cell::Repeated(cell.clone()),
            _ => Cell::Value(cell.clone()),
        };
        let bar = bars.map(|bars| Cell::from(bar(bars.of_row(&row, EIGHTHS))));
        out.row(
            row.iter()
                .enumerate()
                .map(cell)
                .chain(share(writer, shares, |shares| shares.rows.get(nth).copied().flatten()))
                .chain(bar),
        );
        above = row;
        while let Some(sum) = sums.next_if(|sum| sum.behind <= nth + 1) {
            let cells = sum.cells.iter().cloned().map(Cell::from);
            let bar = bars.map(|_| Cell::from(String::new()));
            out.row(cells.chain(shares.map(|_| Cell::from(String::new()))).chain(bar));
            // After the sum of an outermost group the next one begins.
            if sum.of == SumRowOf::Group && sum.cells.first().is_some_and(|name| *name != ReportCell::Empty) {
                out.line();
            }
        }
    }
    let more = table.rows.len().saturating_sub(most);
    if more > 0 {
        let rest = table.rest_behind(most, &format!("… and {} more", writer.count(more)));
        let share = share(writer, shares, |shares| shares.rest_behind(most));
        out.row(rest.into_iter().map(Cell::from).chain(share).chain(bars.map(|_| Cell::from(String::new()))));
    }
}

/// A bar by its eighths of a character.
fn bar(eighths: i64) -> String {
    const PARTS: [&str; 8] = ["", "▏", "▎", "▍", "▌", "▋", "▊", "▉"];
    let whole = usize::try_from(eighths / 8).unwrap_or(0);
    let part = usize::try_from(eighths % 8).ok().and_then(|part| PARTS.get(part));
    format!("{}{}", "█".repeat(whole), part.unwrap_or(&""))
}

/// A name in the first of the columns of names.
fn names_of_row(name: &str, names: usize) -> impl Iterator<Item = Cell> {
    let first = Cell::from(name.to_owned());
    std::iter::once(first).chain((1..names).map(|_| Cell::Value(ReportCell::Empty)))
}

fn share(
    writer: &Writer,
    shares: Option<&Shares>,
    of: impl FnOnce(&Shares) -> Option<Decimal>,
) -> Option<Cell> {
    Some(Cell::from(writer.per_cent(of(shares?))))
}
