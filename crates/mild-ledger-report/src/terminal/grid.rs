//! A table of texts: a header, rows, and rows of totals under a line.

use crate::document::Table;
use crate::numbers::shown;
use crate::shown::{visible, width_of};
use tabled::builder::Builder;
use tabled::settings::formatting::AlignmentStrategy;
use tabled::settings::object::Columns;
use tabled::settings::style::HorizontalLine;
use tabled::settings::{Alignment, Modify, Padding, Style, Theme};

/// The rows of a table, header first.
#[derive(Debug, Clone, Default)]
pub(super) struct Grid {
    rows: Vec<Vec<String>>,
    /// Rows before which a line is drawn.
    lines: Vec<usize>,
    left: Vec<usize>,
    spacing: Spacing,
}

/// How far apart columns stand.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default)]
enum Spacing {
    #[default]
    Wide,
    /// One space, and headers broken into lines where they are wider than what stands under them.
    Tight,
}

impl Grid {
    /// A table with this header; columns are aligned to the right, as numbers are.
    pub(super) fn new<H: Into<String>>(header: impl IntoIterator<Item = H>) -> Self {
        Self { rows: vec![header.into_iter().map(Into::into).collect()], lines: vec![1], ..Self::default() }
    }

    /// The cells of a table as people read them.
    pub(super) fn of(table: &Table) -> Self {
        let mut grid = Self::new(table.header.iter().map(|name| visible(name).into_owned()));
        table.rows.iter().for_each(|row| grid.row(row.iter().map(shown)));
        // The header is the first row of a grid.
        grid.lines.extend(table.lines.iter().map(|at| at + 1));
        grid.align_left(table.words.iter().copied())
    }

    /// Aligns columns of words to the left.
    pub(super) fn align_left(mut self, columns: impl IntoIterator<Item = usize>) -> Self {
        self.left = columns.into_iter().collect();
        self
    }

    /// The table as it is, or close together where that fits; a block a row where the terminal is narrower than that.
    pub(super) fn fitted(self, width: super::Width) -> String {
        Self::first_that_fits([self], width)
    }

    /// The first of several tables of the same facts, each narrower than the one before, that fits, as it is or close together;
    /// a block a row of the first where the terminal is narrower than all.
    pub(super) fn first_that_fits(tables: impl IntoIterator<Item = Self>, width: super::Width) -> String {
        let mut widest = None;
        for table in tables {
            if let Some(text) = table.text_within(width) {
                return text;
            }
            widest.get_or_insert(table);
        }
        widest.map_or_else(String::new, |table| table.to_blocks())
    }

    /// The table, or where the terminal is narrower than it the blocks of another that says more in each row.
    pub(super) fn fitted_or_blocks_of(self, other: &Self, width: super::Width) -> String {
        self.text_within(width).unwrap_or_else(|| other.to_blocks())
    }

    /// The table as it is, or close together where that fits.
    fn text_within(&self, width: super::Width) -> Option<String> {
        let fits = |table: &Self| width.fits(table.width()).then(|| table.to_text());
        fits(self).or_else(|| fits(&self.clone().tight()))
    }

    /// The same without its last column.
    pub(super) fn without_last(&self) -> Self {
        self.without(self.rows.first().map_or(0, |header| header.len().saturating_sub(1)))
    }

    /// The same without a column.
    pub(super) fn without(&self, spare: usize) -> Self {
        let mut less = self.clone();
        for row in &mut less.rows {
            if spare < row.len() {
                row.remove(spare);
            }
        }
        let moved = |column: &usize| (*column != spare).then(|| column - usize::from(*column > spare));
        less.left = self.left.iter().filter_map(moved).collect();
        less
    }

    /// Where a line would be drawn now.
    pub(super) fn lines_so_far(&self) -> usize {
        self.rows.len()
    }

    /// Draws a line where one would have been drawn before.
    pub(super) fn line_at(&mut self, at: usize) {
        self.lines.push(at);
    }

    /// Brings the columns closer together, for narrow terminals.
    pub(super) fn tight(mut self) -> Self {
        self.spacing = Spacing::Tight;
        let Some((header, rows)) = self.rows.split_first_mut() else { return self };
        for (nth, head) in header.iter_mut().enumerate() {
            let widest =
                rows.iter().filter_map(|row| row.get(nth)).map(|cell| width_of(cell)).max().unwrap_or(0);
            if width_of(head) > widest {
                *head = broken(head, widest);
            }
        }
        self
    }

    pub(super) fn row<C: Into<String>>(&mut self, cells: impl IntoIterator<Item = C>) {
        self.rows.push(cells.into_iter().map(Into::into).collect());
    }

    /// Draws a line under the rows so far.
    pub(super) fn line(&mut self) {
        self.lines.push(self.rows.len());
    }

    /// The widest line in columns.
    pub(super) fn width(&self) -> usize {
        self.to_text().lines().map(width_of).max().unwrap_or(0)
    }

    /// The table, each line ended.
    pub(super) fn to_text(&self) -> String {
        let mut builder = Builder::default();
        self.rows.iter().for_each(|row| builder.push_record(row.iter().map(String::as_str)));
        let mut table = builder.build();
        let lines: Vec<_> = self.lines.iter().map(|at| (*at, HorizontalLine::new('─'))).collect();
        let mut theme = Theme::from_style(Style::empty());
        for (at, line) in lines {
            theme.insert_horizontal_line(at, line);
        }
        table.with(theme);
        let gap = match self.spacing {
            Spacing::Wide => 2,
            Spacing::Tight => 1,
        };
        table
            .with(Padding::new(0, gap, 0, 0))
            .with(Alignment::right())
            .with(AlignmentStrategy::PerLine)
            .with(Alignment::bottom());
        table.with(Modify::new(Columns::last()).with(Padding::zero()));
        for column in &self.left {
            table.with(Modify::new(Columns::one(*column)).with(Alignment::left()));
        }
        let text = table.to_string();
        text.lines().flat_map(|line| [line.trim_end(), "\n"]).collect()
    }

    /// The same cells as a block a row, each cell behind its header, for terminals that the table is too wide
    /// for.
    pub(super) fn to_blocks(&self) -> String {
        let Some((header, rows)) = self.rows.split_first() else { return String::new() };
        let mut out = format!("{}\n", header.first().map_or("", String::as_str));
        for row in rows {
            let mut cells = header.iter().zip(row);
            if let Some((_, name)) = cells.next() {
                out.push_str(&format!("  {name}\n"));
            }
            for (head, cell) in cells.filter(|(_, cell)| !cell.is_empty()) {
                out.push_str(&format!("    {head}: {cell}\n"));
            }
        }
        out
    }
}

/// A header broken into as few lines as its longest word and what stands under it allow.
fn broken(head: &str, widest: usize) -> String {
    let longest = head.split(' ').map(width_of).max().unwrap_or(0).max(widest);
    let mut lines: Vec<String> = Vec::new();
    for word in head.split(' ') {
        match lines.last_mut().filter(|line| width_of(line) + 1 + width_of(word) <= longest) {
            Some(line) => {
                line.push(' ');
                line.push_str(word);
            }
            None => lines.push(word.to_owned()),
        }
    }
    lines.join("\n")
}
