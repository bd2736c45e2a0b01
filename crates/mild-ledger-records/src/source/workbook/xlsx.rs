//! The rows of .xlsx workbooks (ISO/IEC 29500), read as they stream by.

use super::{MOST_COLUMNS, NO_STORED_VALUE, give};
use crate::source::float_text::number_text;
use crate::table::CellType;
use crate::table::TypedCell as Cell;
use calamine::{DataRef, Reader, Xlsx, XlsxError};
use mild_ledger::{ClockTime, DatePattern, DateTimeReading, SerialSystem};
use std::fs::File;
use std::io::BufReader;
use std::ops::ControlFlow;

/// An opened workbook.
pub(super) type Book = Xlsx<BufReader<File>>;

/// The sheets, each with whether it is shown.
pub(super) fn sheets(book: &Book) -> Vec<(String, bool)> {
    let shown = |sheet: &calamine::Sheet| sheet.visible == calamine::SheetVisible::Visible;
    book.sheets_metadata().iter().map(|sheet| (sheet.name.clone(), shown(sheet))).collect()
}

/// How its days are numbered.
pub(super) fn serial_system(book: &Book) -> SerialSystem {
    if book.has_1904_epoch() { SerialSystem::From1904 } else { SerialSystem::From1900 }
}

/// The rows of a sheet that are not blank, each with its number in the sheet, from 1, until the taker breaks off.
pub(super) fn rows(
    book: &mut Book,
    sheet: &str,
    mut take: impl FnMut(u64, &[Cell]) -> ControlFlow<()>,
) -> Result<(), XlsxError> {
    let system = serial_system(book);
    let mut reader = book.worksheet_cells_reader(sheet)?;
    let (mut line, mut cells): (u64, Vec<Cell>) = (0, Vec::new());
    while let Some(record) = reader.next_cell_with_formula_metadata()? {
        let (row, column) = record.pos;
        let (number, place) = (u64::from(row) + 1, usize::try_from(column).unwrap_or(usize::MAX));
        if number != line {
            if give(line, &mut cells, &mut take).is_break() {
                return Ok(());
            }
            line = number;
        }
        let value = match (&record.value, &record.formula) {
            (DataRef::Empty, Some(_)) => Cell { holds: CellType::Text, text: NO_STORED_VALUE.to_owned() },
            (value, _) => cell_of(value, system),
        };
        if value.text.is_empty() {
            continue;
        }
        if place >= MOST_COLUMNS {
            return Err(XlsxError::Unexpected("a cell is to the right of the last column of a sheet"));
        }
        if cells.len() <= place {
            cells.resize(place + 1, Cell::blank());
        }
        if let Some(cell) = cells.get_mut(place) {
            *cell = value;
        }
    }
    let _ = give(line, &mut cells, &mut take);
    Ok(())
}

fn cell_of(value: &DataRef<'_>, system: SerialSystem) -> Cell {
    match value {
        DataRef::Int(number) => Cell { holds: CellType::Number, text: number.to_string() },
        DataRef::Float(number) => Cell { holds: CellType::Number, text: number_text(*number) },
        DataRef::String(text) => Cell { holds: CellType::Text, text: text.clone() },
        DataRef::SharedString(text) => Cell { holds: CellType::Text, text: (*text).to_owned() },
        DataRef::Bool(yes) => Cell { holds: CellType::Text, text: yes.to_string() },
        DataRef::DateTime(at) if at.is_duration() => {
            Cell { holds: CellType::Number, text: number_text(at.as_f64()) }
        }
        DataRef::DateTime(at) => cell_of_serial(at.as_f64(), system),
        DataRef::DateTimeIso(text) => Cell { holds: CellType::Date, text: text.clone() },
        DataRef::DurationIso(text) => Cell { holds: CellType::Text, text: text.clone() },
        DataRef::Error(error) => Cell { holds: CellType::Text, text: error.to_string() },
        DataRef::Empty => Cell::blank(),
    }
}

/// A number that is shown as a date, as the date that it is. A time of day without a day stays a time; a zero is shown as a day
/// that never was.
fn cell_of_serial(number: f64, system: SerialSystem) -> Cell {
    let text = number_text(number);
    let pattern: Result<DatePattern, _> = system.word().parse();
    let (holds, text) = match pattern.and_then(|pattern| pattern.read_date_time(&text)) {
        // Its fraction comes from the days, which are numbered without a gap.
        _ if number > 0.0 && number < 1.0 => match time_of(&text) {
            Some(time) => (CellType::Text, time.to_string()),
            None => (CellType::Text, text),
        },
        Ok(DateTimeReading::DateTime { at, .. }) if at.time() == ClockTime::MIDNIGHT => {
            (CellType::Date, at.date().to_string())
        }
        Ok(DateTimeReading::DateTime { at, .. }) => (CellType::Date, at.to_string()),
        Ok(DateTimeReading::Filler(_)) if system == SerialSystem::From1904 => {
            (CellType::ZeroOf1904, "1904-01-01".to_owned())
        }
        Ok(DateTimeReading::Filler(_)) => (CellType::Date, "1900-01-00".to_owned()),
        // A number that is not a day of the system is reported as it is.
        _ => (CellType::Text, text),
    };
    Cell { holds, text }
}

/// The time of day of a fraction of a day.
fn time_of(fraction: &str) -> Option<ClockTime> {
    let on_a_day = fraction.strip_prefix("0.").map(|digits| format!("2.{digits}"))?;
    let pattern: DatePattern = SerialSystem::From1899.word().parse().ok()?;
    match pattern.read_date_time(&on_a_day) {
        Ok(DateTimeReading::DateTime { at, .. }) => Some(at.time()),
        _ => None,
    }
}
