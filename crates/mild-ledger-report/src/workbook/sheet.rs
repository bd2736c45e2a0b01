//! A sheet that is filled from above.

use super::cells::{is_sum_of_rows, put_cell, put_sum};
use super::chart::put_chart;
use crate::document::{Caption, Cell, Table};
use crate::facts::Chart;
use crate::shown::visible;
use rust_xlsxwriter::{Format, FormatAlign, FormatBorder, Worksheet, XlsxError};

/// How wide a column is at least and at most, in characters.
const WIDTHS: (usize, usize) = (9, 48);
/// The most rows above a table for which its header stays on the screen.
const MOST_FROZEN: u32 = 10;

/// A sheet, and the row that comes next.
pub(super) struct Sheet<'w> {
    sheet: &'w mut Worksheet,
    row: u32,
    widths: Vec<usize>,
    /// The rows that have the header of a table.
    headers: Vec<u32>,
}

/// How a line of text looks.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) enum Look {
    Title,
    Head,
    Plain,
}

impl<'w> Sheet<'w> {
    pub(super) fn new(sheet: &'w mut Worksheet) -> Self {
        Self { sheet, row: 0, widths: Vec::new(), headers: Vec::new() }
    }

    pub(super) fn name(&mut self, name: &str) -> Result<(), XlsxError> {
        self.sheet.set_name(name).map(|_| ())
    }

    pub(super) fn line(&mut self, text: &str, look: Look) -> Result<(), XlsxError> {
        let format = match look {
            Look::Title => Format::new().set_bold().set_font_size(16),
            Look::Head => Format::new().set_bold(),
            Look::Plain => Format::new(),
        };
        self.sheet.write_string_with_format(self.row, 0, &*visible(text), &format)?;
        self.row += 1;
        Ok(())
    }

    /// An empty row.
    pub(super) fn gap(&mut self) {
        self.row += 1;
    }

    /// A table from its header on, with room below.
    pub(super) fn table(&mut self, table: &Table) -> Result<(), XlsxError> {
        let header = self.row;
        self.headers.push(header);
        for (nth, column) in (0_u16..).zip(&table.columns) {
            let head = Format::new().set_bold().set_border_bottom(FormatBorder::Thin);
            let head = if column.holds.are_numbers() { head.set_align(FormatAlign::Right) } else { head };
            self.sheet.write_string_with_format(header, nth, &*visible(&column.name), &head)?;
            self.note_width(nth, column.name.chars().count());
        }
        for ((row, cells), nth) in (header + 1..).zip(&table.rows).zip(0..) {
            let line = table.lines.contains(&nth);
            for ((place, cell), column) in (0_u16..).zip(cells).zip(&table.columns) {
                let is_total = table.total == Some(nth) && is_sum_of_rows(table, usize::from(place));
                let shown = match (is_total, cell) {
                    (true, Cell::Value(value)) => put_sum(self.sheet, header + 1, (row, place), value)?,
                    _ => put_cell(self.sheet, (row, place), cell, column, line)?,
                };
                self.note_width(place, shown);
            }
        }
        self.row += u32::try_from(table.rows.len()).unwrap_or(u32::MAX).saturating_add(2);
        Ok(())
    }

    /// A chart below its data, under what it shows.
    pub(super) fn chart(&mut self, section: &str, chart: &Chart) -> Result<(), XlsxError> {
        self.gap();
        let caption = Caption { title: chart.report.clone(), shows: Some(chart.shows.clone()) };
        let title = caption.under(section).unwrap_or_else(|| chart.title());
        self.line(&title, Look::Head)?;
        self.row = put_chart(self.sheet, chart, self.row)?;
        Ok(())
    }

    /// The columns as wide as their tables need; the header of a lone table stays on the screen and is on each page of paper.
    pub(super) fn finish(self) -> Result<(), XlsxError> {
        for (nth, width) in (0_u16..).zip(self.widths) {
            self.sheet.set_column_width(nth, width.clamp(WIDTHS.0, WIDTHS.1) as f64 + 1.0)?;
        }
        self.sheet.set_landscape().set_print_fit_to_pages(1, 0);
        if let [header] = self.headers.as_slice() {
            self.sheet.set_repeat_rows(*header, *header)?;
            if *header < MOST_FROZEN {
                self.sheet.set_freeze_panes(header + 1, 1)?;
            }
        }
        Ok(())
    }

    fn note_width(&mut self, column: u16, characters: usize) {
        let column = usize::from(column);
        if self.widths.len() <= column {
            self.widths.resize(column + 1, 0);
        }
        if let Some(width) = self.widths.get_mut(column) {
            *width = characters.max(*width);
        }
    }
}
