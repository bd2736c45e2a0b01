//! Tables as wide as the terminal allows.

use super::Width;
use super::grid::{Grid, Spacing};
use crate::document::{Cell, Column, Holds, Narrowing, Table};
use crate::numbers::{Decimals, Writer};
use crate::shown::{shortened, visible, width_of};

/// The table as it is; where it is too wide with its texts cut or close together, then made narrower step by step; and where nothing
/// helps a block a row. No row and no column of figures is left out but those that the table can spare.
pub(super) fn table(table: &Table, width: Width, writer: &Writer) -> String {
    let mut form = Form::whole(table, writer);
    for step in std::iter::once(None).chain(table.narrowing.iter().map(Some)) {
        if let Some(step) = step {
            form.narrow(*step);
        }
        if let Some(text) = form.text_within(table, width) {
            return text;
        }
    }
    blocks(table, width, writer)
}

/// How much of a table is shown.
struct Form<'w> {
    writer: &'w Writer,
    without: Vec<usize>,
    texts: Texts,
    decimals: Decimals,
    /// The fewest characters that the texts of each column may be cut to.
    least: Vec<Option<usize>>,
}

/// Which of the texts of a cell that has two.
#[derive(Clone, Copy)]
enum Texts {
    Long,
    Short,
}

impl<'w> Form<'w> {
    fn whole(table: &Table, writer: &'w Writer) -> Self {
        Self {
            writer,
            without: Vec::new(),
            texts: Texts::Long,
            decimals: Decimals::Shown,
            least: table.columns.iter().map(|column| column.least).collect(),
        }
    }

    fn narrow(&mut self, step: Narrowing) {
        match step {
            Narrowing::WithoutColumn(column) => self.without.push(column),
            Narrowing::ShortTexts => self.texts = Texts::Short,
            Narrowing::WithoutDecimals => self.decimals = Decimals::Dropped,
            Narrowing::CutTexts(column, least) => {
                if let Some(place) = self.least.get_mut(column) {
                    *place = Some(least);
                }
            }
        }
    }

    /// The table as it is, with its texts cut, close together, or both, whatever fits first.
    fn text_within(&self, table: &Table, width: Width) -> Option<String> {
        let note = match self.decimals {
            Decimals::Shown => "",
            Decimals::Dropped => "Amounts without decimals, each rounded on its own.\n",
        };
        for spacing in [Spacing::Wide, Spacing::Tight] {
            let grid = self.grid(table, None, spacing);
            let Some(too_much) = width.too_much(grid.width()) else {
                return Some(grid.to_text() + note);
            };
            for (column, least) in self.least.iter().enumerate() {
                let Some(least) = least.filter(|_| !self.without.contains(&column)) else { continue };
                let longest = self.texts_of(table, column).map(|text| width_of(&text)).max().unwrap_or(0);
                let cut_to = longest.saturating_sub(too_much);
                if cut_to < least.min(longest) {
                    continue;
                }
                let grid = self.grid(table, Some((column, cut_to)), spacing);
                if width.fits(grid.width()) {
                    return Some(grid.to_text() + note);
                }
            }
        }
        None
    }

    fn texts_of<'t>(&'t self, table: &'t Table, column: usize) -> impl Iterator<Item = String> + 't {
        table
            .rows
            .iter()
            .filter_map(move |row| row.get(column))
            .map(move |cell| self.text(cell, Holds::Words))
    }

    fn text(&self, cell: &Cell, holds: Holds) -> String {
        let decimals = if holds == Holds::Sums { self.decimals } else { Decimals::Shown };
        let text = match (cell, self.texts) {
            (Cell::Value(cell), _) => holds.text_of(cell, decimals, self.writer),
            (Cell::Repeated(_), _) => String::new(),
            (Cell::LongOrShort(long, _), Texts::Long) => long.clone(),
            (Cell::LongOrShort(_, short), Texts::Short) => short.clone(),
        };
        visible(&text).into_owned()
    }

    fn grid(&self, table: &Table, cut: Option<(usize, usize)>, spacing: Spacing) -> Grid {
        let kept: Vec<(usize, &Column)> =
            table.columns.iter().enumerate().filter(|(nth, _)| !self.without.contains(nth)).collect();
        let mut grid = Grid::new(kept.iter().map(|(_, column)| visible(&column.name).into_owned()));
        for row in &table.rows {
            let cell = |(nth, column): &(usize, &Column)| {
                let text = row.get(*nth).map(|cell| self.text(cell, column.holds)).unwrap_or_default();
                match cut.filter(|(column, _)| column == nth) {
                    Some((_, columns)) => shortened(&text, columns),
                    None => text,
                }
            };
            grid.row(kept.iter().map(cell));
        }
        table.lines.iter().for_each(|line| grid.line_before(*line));
        let words = kept.iter().enumerate().filter(|(_, (_, column))| !column.holds.are_numbers());
        let words: Vec<usize> = words.map(|(place, _)| place).collect();
        grid.align_left(words).spaced(spacing)
    }
}

/// A block a row, each cell after its header, for terminals that the table is too wide for; figures below each other where they fit.
fn blocks(table: &Table, width: Width, writer: &Writer) -> String {
    let text = |(cell, column): (&Cell, &Column)| {
        let text = match cell {
            Cell::Value(cell) | Cell::Repeated(cell) => column.holds.text_of(cell, Decimals::Shown, writer),
            Cell::LongOrShort(long, _) => long.clone(),
        };
        visible(&text).into_owned()
    };
    let heads: Vec<String> = table.columns.iter().map(|column| visible(&column.name).into_owned()).collect();
    let mut out = match heads.first() {
        Some(head) if !head.is_empty() => format!("{head}\n"),
        _ => String::new(),
    };
    let head = heads.iter().skip(1).map(|head| width_of(head)).max().unwrap_or(0);
    let rows: Vec<Vec<String>> =
        table.rows.iter().map(|row| row.iter().zip(&table.columns).map(text).collect()).collect();
    let is_number = |nth: &usize| table.columns.get(*nth).is_some_and(|column| column.holds.are_numbers());
    let numbers = rows.iter().flat_map(|row| row.iter().enumerate().filter(|(nth, _)| is_number(nth)));
    let number = numbers.map(|(_, cell)| width_of(cell)).max().unwrap_or(0);
    let cells = rows.iter().flat_map(|row| row.iter().skip(1));
    let widest = cells.map(|cell| width_of(cell)).max().unwrap_or(0).max(number);
    let beside = width.fits(BEFORE_CELLS + head + 2 + widest);
    let gap = |taken: usize, columns: usize| " ".repeat(columns.saturating_sub(taken));
    for row in &rows {
        let mut cells = heads.iter().zip(row).enumerate();
        if let Some((_, (_, name))) = cells.next() {
            out.push_str(&format!("  {name}\n"));
        }
        for (nth, (name, cell)) in cells.filter(|(_, (_, cell))| !cell.is_empty()) {
            let behind = gap(width_of(name), head);
            let before = if is_number(&nth) { gap(width_of(cell), number) } else { String::new() };
            out.push_str(&match beside {
                true => format!("    {name}{behind}  {before}{cell}\n"),
                false => format!("    {name}: {cell}\n"),
            });
        }
    }
    out
}

/// How far in the cells of a block are.
const BEFORE_CELLS: usize = 4;
