//! The rows of a sheet, one after the other.

use super::packed::Cell;
use crate::error::RecordsError;
use crate::table::CellType;
use calamine::{Data, DataRef, Ods, OdsError, Reader, Xlsx, XlsxError};
use mild_ledger::{ClockTime, DatePattern, DateTimeReading, SerialSystem};
use std::fs::File;
use std::io::{self, BufReader};
use std::ops::ControlFlow;
use std::path::Path;

/// An opened workbook.
pub(super) enum Book {
    Xlsx(Box<Xlsx<BufReader<File>>>),
    Ods(Box<Ods<BufReader<File>>>),
}

/// The most columns of a sheet.
pub(super) const MOST_COLUMNS: usize = 16_384;

impl Book {
    /// Opens a workbook whose parts were counted.
    pub(super) fn open(path: &Path) -> Result<Self, RecordsError> {
        let file = BufReader::new(File::open(path).map_err(RecordsError::file(path, "open it"))?);
        let is_ods = path.extension().is_some_and(|ending| ending.eq_ignore_ascii_case("ods"));
        if is_ods {
            return Ods::new(file)
                .map(|book| Self::Ods(Box::new(book)))
                .map_err(|error| broken(path, &of_ods(error)));
        }
        Xlsx::new(file).map(|book| Self::Xlsx(Box::new(book))).map_err(|error| broken(path, &of_xlsx(error)))
    }

    /// The sheets, each with whether it is shown.
    pub(super) fn sheets(&self) -> Vec<(String, bool)> {
        let sheets = match self {
            Self::Xlsx(book) => book.sheets_metadata(),
            Self::Ods(book) => book.sheets_metadata(),
        };
        let shown = |sheet: &calamine::Sheet| sheet.visible == calamine::SheetVisible::Visible;
        sheets.iter().map(|sheet| (sheet.name.clone(), shown(sheet))).collect()
    }

    /// The rows of a sheet that are not blank, each with its number in the sheet, from 1, until the taker breaks off.
    pub(super) fn rows(
        &mut self,
        path: &Path,
        sheet: &str,
        mut take: impl FnMut(u64, &[Cell]) -> ControlFlow<()>,
    ) -> Result<(), RecordsError> {
        match self {
            Self::Xlsx(book) => {
                let system =
                    if book.has_1904_epoch() { SerialSystem::From1904 } else { SerialSystem::From1900 };
                xlsx_rows(book, sheet, system, take).map_err(|error| broken(path, &of_xlsx(error)))
            }
            Self::Ods(book) => {
                let range = book.worksheet_range(sheet).map_err(|error| broken(path, &of_ods(error)))?;
                let (first_row, first_column) = range.start().unwrap_or((0, 0));
                for (line, row) in (u64::from(first_row) + 1..).zip(range.rows()) {
                    let mut cells = vec![Cell::blank(); usize::try_from(first_column).unwrap_or(0)];
                    cells.extend(row.iter().map(cell_of_data).take(MOST_COLUMNS));
                    if give(line, &mut cells, &mut take).is_break() {
                        break;
                    }
                }
                Ok(())
            }
        }
    }
}

/// Reads the cells of a sheet as they stream by, and gives them row by row.
fn xlsx_rows(
    book: &mut Xlsx<BufReader<File>>,
    sheet: &str,
    system: SerialSystem,
    mut take: impl FnMut(u64, &[Cell]) -> ControlFlow<()>,
) -> Result<(), XlsxError> {
    let mut reader = book.worksheet_cells_reader(sheet)?;
    let (mut line, mut cells): (u64, Vec<Cell>) = (0, Vec::new());
    while let Some(cell) = reader.next_cell()? {
        let (row, column) = cell.get_position();
        let (number, place) = (u64::from(row) + 1, usize::try_from(column).unwrap_or(usize::MAX));
        if number != line {
            if give(line, &mut cells, &mut take).is_break() {
                return Ok(());
            }
            line = number;
        }
        let value = cell_of(cell.get_value(), system);
        if value.text.is_empty() || place >= MOST_COLUMNS {
            continue;
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

/// Gives a row on, unless it is blank, and leaves room for the next.
fn give(
    line: u64,
    cells: &mut Vec<Cell>,
    take: &mut impl FnMut(u64, &[Cell]) -> ControlFlow<()>,
) -> ControlFlow<()> {
    let is_blank = cells.iter().all(|cell| cell.text.trim().is_empty());
    let given = if is_blank { ControlFlow::Continue(()) } else { take(line, cells) };
    cells.clear();
    given
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

fn cell_of_data(value: &Data) -> Cell {
    match value {
        Data::Int(number) => Cell { holds: CellType::Number, text: number.to_string() },
        Data::Float(number) => Cell { holds: CellType::Number, text: number_text(*number) },
        Data::String(text) => Cell { holds: CellType::Text, text: text.clone() },
        Data::Bool(yes) => Cell { holds: CellType::Text, text: yes.to_string() },
        Data::DateTime(at) => cell_of_serial(at.as_f64(), SerialSystem::From1899),
        Data::DateTimeIso(text) => Cell { holds: CellType::Date, text: text.clone() },
        Data::DurationIso(text) => Cell { holds: CellType::Text, text: text.clone() },
        Data::Error(error) => Cell { holds: CellType::Text, text: error.to_string() },
        Data::Empty => Cell::blank(),
    }
}

/// A number that is shown as a date, as the date that it is.
fn cell_of_serial(number: f64, system: SerialSystem) -> Cell {
    let number = number_text(number);
    let pattern: Result<DatePattern, _> = system.word().parse();
    let text = match pattern.and_then(|pattern| pattern.read_date_time(&number)) {
        Ok(DateTimeReading::DateTime { at, .. }) if at.time() == ClockTime::MIDNIGHT => at.date().to_string(),
        Ok(DateTimeReading::DateTime { at, .. }) => at.to_string(),
        // A zero, and a time of day without a day, which are shown as a day that never was.
        Ok(DateTimeReading::Filler(_)) if system == SerialSystem::From1900 => "1900-01-00".to_owned(),
        Ok(DateTimeReading::Filler(_)) => "1899-12-30".to_owned(),
        // What is no day of the system is left to be told with its number.
        _ => return Cell { holds: CellType::Text, text: number },
    };
    Cell { holds: CellType::Date, text }
}

/// A number with the fifteen digits that it is exact to, as it is shown.
fn number_text(number: f64) -> String {
    let rounded: f64 = format!("{number:.14e}").parse().unwrap_or(number);
    let text = rounded.to_string();
    if text == "-0" { "0".to_owned() } else { text }
}

fn of_xlsx(error: XlsxError) -> String {
    match error {
        XlsxError::Password => "it is protected by a password".to_owned(),
        other => other.to_string(),
    }
}

fn of_ods(error: OdsError) -> String {
    match error {
        OdsError::Password => "it is protected by a password".to_owned(),
        other => other.to_string(),
    }
}

pub(super) fn broken(path: &Path, what: &str) -> RecordsError {
    let what = format!("the workbook cannot be read: {}", what.trim());
    RecordsError::file(path, "read it")(io::Error::new(io::ErrorKind::InvalidData, what))
}
