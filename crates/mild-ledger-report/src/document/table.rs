//! A table of typed cells, and how it may be made narrower.

use crate::numbers::{Decimals, Writer};
use mild_ledger::Decimal;
use mild_ledger_records::ReportCell;
use std::collections::BTreeMap;

/// A table: its columns, its rows, and where lines part them.
#[derive(Debug, Clone)]
pub(crate) struct Table {
    pub(crate) columns: Vec<Column>,
    pub(crate) rows: Vec<Vec<Cell>>,
    /// Rows before which a line is drawn, by their number.
    pub(crate) lines: Vec<usize>,
    /// The row that has the sums of all rows above it, where they all are shown.
    pub(crate) total: Option<usize>,
    /// What may be left out where there is little room, in the order in which it may go.
    pub(crate) narrowing: Vec<Narrowing>,
    /// The cells that can be opened, for a renderer that folds.
    pub(crate) opened: BTreeMap<CellPlace, OpenedRows>,
}

/// Where a cell of a table is.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord)]
pub(crate) struct CellPlace {
    pub(crate) row: usize,
    pub(crate) column: usize,
}

/// The records that make up a figure.
#[derive(Debug, Clone)]
pub(crate) struct OpenedRows {
    /// What the figure is of, and how many records make it up.
    pub(crate) name: String,
    /// The first of them.
    pub(crate) rows: Table,
    /// How many more there are.
    pub(crate) more: u64,
}

/// A column of a table.
#[derive(Debug, Clone)]
pub(crate) struct Column {
    pub(crate) name: String,
    pub(crate) holds: Holds,
    /// The fewest characters that its texts may be cut to.
    pub(crate) least: Option<usize>,
}

/// What a column holds.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(crate) enum Holds {
    Words,
    Numbers,
    /// Figures that sum, of which the whole part says the most.
    Sums,
    /// Bars made of block characters, in whose place a picture may be.
    Bars,
}

impl Holds {
    /// Whether they are numbers, which end at the right.
    pub(crate) fn are_numbers(self) -> bool {
        matches!(self, Self::Numbers | Self::Sums)
    }

    /// A cell of such a column as people read it. Among sums an amount of nothing is a dash, so that the others are seen.
    pub(crate) fn text_of(self, cell: &ReportCell, decimals: Decimals, writer: &Writer) -> String {
        match cell {
            ReportCell::Decimal(number)
                if self == Self::Sums && *number == Decimal::ZERO && number.decimals() > 0 =>
            {
                "–".to_owned()
            }
            cell => writer.cell_with(cell, decimals),
        }
    }
}

/// A cell of a table.
#[derive(Debug, Clone, PartialEq, Eq)]
pub(crate) enum Cell {
    Value(ReportCell),
    /// A name that the row above has too; a renderer whose rows are read one by one repeats it.
    Repeated(ReportCell),
    /// A text, and a shorter one that says the most of it.
    LongOrShort(String, String),
}

/// What may be left out of a table.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(crate) enum Narrowing {
    WithoutColumn(usize),
    /// The short texts of those that have two.
    ShortTexts,
    /// Texts of a column cut to no fewer than this many characters.
    CutTexts(usize, usize),
    /// Decimals of sums, with a note below the table.
    WithoutDecimals,
}

impl Table {
    /// A table with this header, the columns in these places words.
    pub(crate) fn new<H: Into<String>>(
        header: impl IntoIterator<Item = H>,
        words: impl IntoIterator<Item = usize>,
    ) -> Self {
        let column = |name: H| Column { name: name.into(), holds: Holds::Numbers, least: None };
        let mut columns: Vec<Column> = header.into_iter().map(column).collect();
        for place in words {
            if let Some(column) = columns.get_mut(place) {
                column.holds = Holds::Words;
            }
        }
        Self {
            columns,
            rows: Vec::new(),
            lines: Vec::new(),
            total: None,
            narrowing: Vec::new(),
            opened: BTreeMap::new(),
        }
    }

    /// The same, made narrower in these steps.
    pub(crate) fn narrowed_by(self, steps: impl IntoIterator<Item = Narrowing>) -> Self {
        Self { narrowing: steps.into_iter().collect(), ..self }
    }

    pub(crate) fn row<C: Into<Cell>>(&mut self, cells: impl IntoIterator<Item = C>) {
        self.rows.push(cells.into_iter().map(Into::into).collect());
    }

    /// Draws a line under the rows so far.
    pub(crate) fn line(&mut self) {
        self.lines.push(self.rows.len());
    }
}

impl From<ReportCell> for Cell {
    fn from(cell: ReportCell) -> Self {
        Self::Value(cell)
    }
}

impl From<String> for Cell {
    fn from(text: String) -> Self {
        Self::Value(ReportCell::Text(text))
    }
}
