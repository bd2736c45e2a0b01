//! A table of texts: a header, rows, and rows of totals under a line.

use crate::shown::width_of;
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

/// How far apart columns are.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default)]
pub(super) enum Spacing {
    #[default]
    Wide,
    /// One space, and headers broken into lines where they are wider than what is under them.
    Tight,
}

impl Grid {
    /// A table with this header; columns are aligned to the right, as numbers are.
    pub(super) fn new<H: Into<String>>(header: impl IntoIterator<Item = H>) -> Self {
        Self { rows: vec![header.into_iter().map(Into::into).collect()], lines: vec![1], ..Self::default() }
    }

    /// Aligns columns of words to the left.
    pub(super) fn align_left(mut self, columns: impl IntoIterator<Item = usize>) -> Self {
        self.left = columns.into_iter().collect();
        self
    }

    /// Draws a line before a row, the header not counted.
    pub(super) fn line_before(&mut self, row: usize) {
        self.lines.push(row + 1);
    }

    /// How far apart its columns are.
    pub(super) fn spaced(self, spacing: Spacing) -> Self {
        match spacing {
            Spacing::Wide => self,
            Spacing::Tight => self.tight(),
        }
    }

    /// Brings the columns closer together, for narrow terminals.
    fn tight(mut self) -> Self {
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
}

/// A header broken into as few lines as its longest word and what is under it allow.
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
