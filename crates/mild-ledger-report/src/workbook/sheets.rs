//! The sheets of a workbook.

use crate::document::{Cell, Column, Holds, Table};
use crate::facts::{Bar, Chart};
use crate::numbers::written;
use crate::picture::bars::shade;
use crate::shown::visible;
use mild_ledger::{Date, Decimal, Rounding};
use mild_ledger_records::ReportCell;
use rust_xlsxwriter::{
    Chart as SheetChart, ChartAxisLabelPosition, ChartFormat, ChartSolidFill, ChartType, Color, Format,
    FormatAlign, FormatBorder, Formula, Worksheet, XlsxError, utility::row_col_to_cell,
};

/// A line of the first sheet.
#[derive(Debug, Clone)]
pub(super) enum Text {
    Title(String),
    Head(String),
    Plain(String),
}

/// The names of the sheets so far, each once, in the signs and the length that a sheet's name may have.
#[derive(Default)]
pub(super) struct Names {
    taken: Vec<String>,
}

impl Names {
    pub(super) fn of(&mut self, name: &str) -> String {
        const MOST: usize = 31;
        let shown = visible(name);
        let allowed = |sign: char| if "[]:*?/\\'".contains(sign) { ' ' } else { sign };
        let plain: String = shown.chars().map(allowed).collect();
        let plain = if plain.trim().is_empty() { "Table" } else { plain.trim() };
        let mut number = 1;
        loop {
            let behind = if number == 1 { String::new() } else { format!(" {number}") };
            let mut called = String::new();
            // A name is measured in units of UTF-16.
            for sign in plain.chars() {
                if called.encode_utf16().count() + sign.len_utf16() + behind.len() > MOST {
                    break;
                }
                called.push(sign);
            }
            let called = format!("{}{behind}", whole_words(&called, plain).trim_end());
            // A spreadsheet keeps this name for a sheet of its own.
            let is_reserved = called.to_lowercase() == "history";
            if !is_reserved && !self.taken.iter().any(|taken| taken.to_lowercase() == called.to_lowercase()) {
                self.taken.push(called.clone());
                return called;
            }
            number += 1;
        }
    }
}

/// The beginning of a text up to its last whole word, unless its first word alone is too long.
fn whole_words<'c>(beginning: &'c str, text: &str) -> &'c str {
    let rest = text.get(beginning.len()..).unwrap_or_default();
    let ends_a_word = rest.is_empty() || rest.starts_with(' ') || beginning.ends_with(' ');
    match beginning.rfind(' ') {
        Some(end) if !ends_a_word => &beginning[..end],
        _ => beginning,
    }
}

/// Where the header of a table is, below what the table shows.
const HEADER: u32 = 2;
/// How wide a column is at least and at most, in signs.
const WIDTHS: (usize, usize) = (9, 48);
/// The digits that a number of a sheet holds.
const DIGITS: usize = 15;

/// A table from its header on, with its charts below.
pub(super) fn put_table(
    sheet: &mut Worksheet,
    shows: &str,
    table: &Table,
    charts: &[&Chart],
) -> Result<(), XlsxError> {
    sheet.write_string_with_format(0, 0, &*visible(shows), &Format::new().set_bold())?;
    let mut widths: Vec<usize> = Vec::with_capacity(table.columns.len());
    for (nth, column) in (0..).zip(&table.columns) {
        let head = Format::new().set_bold().set_border_bottom(FormatBorder::Thin);
        let head = if column.holds.are_numbers() { head.set_align(FormatAlign::Right) } else { head };
        sheet.write_string_with_format(HEADER, nth, &*visible(&column.name), &head)?;
        widths.push(column.name.chars().count());
    }
    for (row, cells) in (HEADER + 1..).zip(&table.rows) {
        let nth = usize::try_from(row - HEADER - 1).unwrap_or(usize::MAX);
        let line = table.lines.contains(&nth);
        for ((place, cell), column) in (0_u16..).zip(cells).zip(&table.columns) {
            let is_total = table.total == Some(nth) && is_sum_of_rows(table, usize::from(place));
            let shown = match (is_total, cell) {
                (true, Cell::Value(value)) => put_sum(sheet, (row, place), value)?,
                _ => put_cell(sheet, (row, place), cell, column, line)?,
            };
            if let Some(width) = widths.get_mut(usize::from(place)) {
                *width = (*width).max(shown);
            }
        }
    }
    for (nth, width) in (0_u16..).zip(widths) {
        sheet.set_column_width(nth, width.clamp(WIDTHS.0, WIDTHS.1) as f64 + 1.0)?;
    }
    sheet.set_freeze_panes(HEADER + 1, 1)?.set_landscape().set_print_fit_to_pages(1, 0);
    let rows = u32::try_from(table.rows.len()).unwrap_or(u32::MAX);
    let mut below = HEADER + rows + 3;
    for chart in charts {
        below = put_chart(sheet, chart, below)?;
    }
    Ok(())
}

/// Whether the total of a column is the exact sum of the rows above it, all of which a sheet holds as numbers.
fn is_sum_of_rows(table: &Table, column: usize) -> bool {
    let number = |row: &Vec<Cell>| match row.get(column) {
        Some(Cell::Value(ReportCell::Decimal(number))) => in_sheet(*number).map(|_| *number),
        Some(Cell::Value(ReportCell::Count(count))) => Decimal::of_units((*count).into(), 0).ok(),
        Some(Cell::Value(ReportCell::Empty)) => Some(Decimal::ZERO),
        _ => None,
    };
    let Some((total, rows)) =
        table.total.and_then(|nth| Some((table.rows.get(nth)?, table.rows.get(..nth)?)))
    else {
        return false;
    };
    let sum = rows.iter().try_fold(Decimal::ZERO, |sum, row| sum.checked_add(number(row)?));
    let has_numbers = rows.iter().any(|row| !matches!(row.get(column), Some(Cell::Value(ReportCell::Empty))));
    has_numbers && sum.is_some() && sum == number(total)
}

/// A total as the sum of the rows above it, with what it comes to for programs that do not calculate; how many signs it has.
fn put_sum(sheet: &mut Worksheet, (row, column): (u32, u16), value: &ReportCell) -> Result<usize, XlsxError> {
    let (first, last) = ((HEADER + 1, column), (row.saturating_sub(1), column));
    let range = format!("{}:{}", row_col_to_cell(first.0, first.1), row_col_to_cell(last.0, last.1));
    let (result, shown) = match value {
        ReportCell::Decimal(number) => (number.to_string(), shown_with(number.decimals())),
        ReportCell::Count(count) => (count.to_string(), "#,##0".to_owned()),
        _ => (String::new(), String::new()),
    };
    let formula = Formula::new(format!("=SUM({range})")).set_result(result);
    let format = Format::new().set_border_top(FormatBorder::Thin).set_num_format(shown);
    sheet.write_formula_with_format(row, column, formula, &format)?;
    Ok(written(value).chars().count())
}

/// A cell as what it is; how many signs it has.
fn put_cell(
    sheet: &mut Worksheet,
    (row, column): (u32, u16),
    cell: &Cell,
    of: &Column,
    line: bool,
) -> Result<usize, XlsxError> {
    let format = if line { Format::new().set_border_top(FormatBorder::Thin) } else { Format::new() };
    let value = match cell {
        Cell::Value(value) | Cell::Repeated(value) => value.clone(),
        Cell::LongOrShort(long, _) => ReportCell::Text(long.clone()),
    };
    let text = written(&value);
    let value_of_cell = &value;
    match value_of_cell {
        ReportCell::Count(count) => {
            sheet.write_number_with_format(row, column, *count as f64, &format.set_num_format("#,##0"))?;
        }
        ReportCell::Decimal(number) | ReportCell::Number(number) => match in_sheet(*number) {
            Some(value) => {
                let shown = shown_with(number.decimals());
                // Zero amounts show as a dash, as everywhere; the cell still holds zero.
                let shown = match of.holds == Holds::Sums && number.decimals() > 0 {
                    true => format!("{shown};-{shown};–"),
                    false => shown,
                };
                let is_plain = matches!(value_of_cell, ReportCell::Number(_));
                let format = format.set_num_format(if is_plain { shown.replace("#,##", "") } else { shown });
                sheet.write_number_with_format(row, column, value, &format)?;
            }
            None => {
                sheet.write_string_with_format(row, column, number.to_string(), &format)?;
            }
        },
        ReportCell::Date(date) => match serial_of(*date) {
            Some(serial) => {
                let format = format.set_num_format("yyyy-mm-dd");
                sheet.write_number_with_format(row, column, serial, &format)?;
            }
            None => {
                sheet.write_string_with_format(row, column, &text, &format)?;
            }
        },
        _ => match per_cent(&text).filter(|_| of.holds.are_numbers()) {
            Some(part) => {
                sheet.write_number_with_format(row, column, part, &format.set_num_format("0.0%"))?;
            }
            None => {
                let format =
                    if of.holds.are_numbers() { format.set_align(FormatAlign::Right) } else { format };
                sheet.write_string_with_format(row, column, &*visible(&text), &format)?;
            }
        },
    }
    Ok(text.chars().count())
}

/// The number that a sheet has for a day: days since the end of 1899, in the 1900 system. Days before March 1900 are counted in two ways, and stay texts.
fn serial_of(date: Date) -> Option<f64> {
    let start = Date::new(1899, 12, 30).ok()?;
    let first = Date::new(1900, 3, 1).ok()?;
    (date >= first).then(|| f64::from(date.day_number() - start.day_number()))
}

/// A number that a sheet holds with all its digits.
fn in_sheet(number: Decimal) -> Option<f64> {
    let digits = number.units().unsigned_abs().to_string().len();
    if digits > DIGITS { None } else { number.to_string().parse().ok() }
}

/// A share as it is written, as a part of one.
fn per_cent(text: &str) -> Option<f64> {
    let share: Decimal = text.strip_suffix(" %")?.parse().ok()?;
    let units = share.with_decimals(1, Rounding::Nearest).ok()?.units();
    // A share has few digits.
    Some(units as f64 / 1_000.0)
}

fn shown_with(decimals: u8) -> String {
    match decimals {
        0 => "#,##0".to_owned(),
        decimals => format!("#,##0.{}", "0".repeat(decimals.into())),
    }
}

/// Where a bar that does not begin at nothing lies lowest, and its length up or down from where it begins.
fn from_and_length(bar: &Bar) -> Vec<Decimal> {
    let length = bar.parts.first().copied().unwrap_or_default();
    let lowest = bar.from.checked_add(length.min(Decimal::ZERO)).unwrap_or(bar.from);
    let size = if length < Decimal::ZERO { length.checked_neg().unwrap_or(length) } else { length };
    match length < Decimal::ZERO {
        true => vec![lowest, Decimal::ZERO, size],
        false => vec![lowest, size, Decimal::ZERO],
    }
}

/// A chart below what is there, with its figures next to it; the row behind it.
fn put_chart(sheet: &mut Worksheet, chart: &Chart, row: u32) -> Result<u32, XlsxError> {
    let name = sheet.name();
    let bold = Format::new().set_bold();
    sheet.write_string_with_format(row, 0, &*visible(&chart.title), &bold)?;
    let begins = chart.bars.iter().any(|bar| bar.from != Decimal::ZERO);
    let parts: Vec<&str> = match (chart.parts.is_empty(), begins) {
        (true, true) => vec!["from", "up", "down"],
        (true, false) => vec!["figure"],
        (false, _) => chart.parts.iter().map(String::as_str).collect(),
    };
    for (nth, part) in (1_u16..).zip(&parts) {
        sheet.write_string_with_format(
            row + 1,
            nth,
            &*visible(part),
            &bold.clone().set_align(FormatAlign::Right),
        )?;
    }
    for (line, bar) in (row + 2..).zip(&chart.bars) {
        sheet.write_string(line, 0, &*visible(&bar.name))?;
        let lengths = if begins { from_and_length(bar) } else { bar.parts.clone() };
        for (nth, figure) in (1_u16..).zip(&lengths) {
            if let Some(value) = in_sheet(*figure) {
                sheet.write_number_with_format(
                    line,
                    nth,
                    value,
                    &Format::new().set_num_format("#,##0.00"),
                )?;
            }
        }
    }
    let last = row + 1 + u32::try_from(chart.bars.len()).unwrap_or(0);
    let mut drawn = SheetChart::new(ChartType::BarStacked);
    for nth in 1..=u16::try_from(parts.len()).unwrap_or(1) {
        let [red, green, blue] = shade(chart, usize::from(nth) - 1).map(u32::from);
        let mut fill = ChartSolidFill::new();
        fill.set_color(Color::RGB(red << 16 | green << 8 | blue));
        if begins && nth == 3 {
            fill.set_color(Color::RGB(0x7a_3b_22));
        }
        let mut format = ChartFormat::new();
        match begins && nth == 1 {
            true => format.set_no_fill(),
            false => format.set_solid_fill(&fill),
        };
        drawn
            .add_series()
            .set_name((name.as_str(), row + 1, nth))
            .set_categories((name.as_str(), row + 2, 0, last, 0))
            .set_values((name.as_str(), row + 2, nth, last, nth))
            .set_format(&mut format);
    }
    drawn.title().set_name(&*visible(&chart.title));
    // The first row is at the top, as in the table.
    drawn.y_axis().set_reverse().set_label_position(ChartAxisLabelPosition::Low);
    if chart.parts.is_empty() {
        drawn.legend().set_hidden();
    }
    let height = 90 + 26 * u32::try_from(chart.bars.len()).unwrap_or(0);
    drawn.set_width(760).set_height(height);
    let beside = u16::try_from(parts.len() + 2).unwrap_or(2);
    sheet.insert_chart(row, beside, &drawn)?;
    let rows_of_chart = height / 20 + 2;
    Ok(row + rows_of_chart.max(last - row + 3))
}

#[cfg(test)]
mod tests {
    use super::Names;

    #[test]
    fn names_of_sheets_keep_whole_words() {
        let mut names = Names::default();
        assert_eq!(names.of("What the customers of the yard owe"), "What the customers of the yard");
        assert_eq!(names.of("What the customers of the yard owe"), "What the customers of the 2");
        assert_eq!(names.of("Receivables by customer and month"), "Receivables by customer and");
        assert_eq!(names.of("Quillhavenboatyardreceivablesbycustomer"), "Quillhavenboatyardreceivablesby");
        assert_eq!(names.of("a:b"), "a b");
        assert_eq!(names.of("History"), "History 2");
    }
}
