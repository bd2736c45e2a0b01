//! The cells of a sheet.

use crate::document::{Cell, Column, Holds, Table};
use crate::numbers::Writer;
use crate::shown::visible;
use mild_ledger::{Date, Decimal, Rounding};
use mild_ledger_records::ReportCell;
use rust_xlsxwriter::{
    Format, FormatAlign, FormatBorder, Formula, Worksheet, XlsxError, utility::row_col_to_cell,
};

/// The digits that a number of a sheet holds.
const DIGITS: usize = 15;

/// Whether the total of a column is the exact sum of the rows above it, all of which a sheet holds as numbers.
pub(super) fn is_sum_of_rows(table: &Table, column: usize) -> bool {
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

/// A total as the sum of the rows above it from the first one on, with what it comes to for programs that do not calculate; how many characters it has.
pub(super) fn put_sum(
    sheet: &mut Worksheet,
    first: u32,
    (row, column): (u32, u16),
    value: &ReportCell,
) -> Result<usize, XlsxError> {
    let last = row.saturating_sub(1);
    let range = format!("{}:{}", row_col_to_cell(first, column), row_col_to_cell(last, column));
    let (result, shown) = match value {
        ReportCell::Decimal(number) => (number.to_string(), shown_with(number.decimals())),
        ReportCell::Count(count) => (count.to_string(), "#,##0".to_owned()),
        _ => (String::new(), String::new()),
    };
    let formula = Formula::new(format!("=SUM({range})")).set_result(result);
    let format = Format::new().set_border_top(FormatBorder::Thin).set_num_format(shown);
    sheet.write_formula_with_format(row, column, formula, &format)?;
    Ok(Writer::default().cell(value).chars().count())
}

/// A cell as what it is; how many characters it has.
pub(super) fn put_cell(
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
    let text = Writer::default().cell(&value);
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
pub(super) fn in_sheet(number: Decimal) -> Option<f64> {
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

/// How a number with decimals is shown.
pub(super) fn shown_with(decimals: u8) -> String {
    match decimals {
        0 => "#,##0".to_owned(),
        decimals => format!("#,##0.{}", "0".repeat(decimals.into())),
    }
}
