//! The cells of a sheet.

use crate::sink::binary_number::{binary_of, digits_of};
use crate::sink::columns::Value;
use arrow_schema::Schema;
use mild_ledger::{ClockTime, Date, DateTime, Decimal, WritingPattern};
use rust_xlsxwriter::{DocProperties, Format, IntoCustomDateTime, Workbook, XlsxError};
use std::collections::BTreeMap;
use std::io::{self, Write};

/// A sheet that is written row by row, of which a few lines are in memory.
pub(super) struct SheetWriter {
    workbook: Workbook,
    /// The row that comes next.
    row: u32,
    /// The most characters of a cell of each column.
    widths: Vec<usize>,
    formats: Formats,
}

/// When a workbook says that it was made: the first day that an archive can name.
struct WhenMade;

impl IntoCustomDateTime for WhenMade {
    fn utc_datetime(self) -> String {
        "1980-01-01T00:00:00Z".to_owned()
    }
}

/// How numbers and dates are shown.
struct Formats {
    header: Format,
    date: Format,
    date_time: Format,
    /// Numbers by their decimals.
    numbers: BTreeMap<usize, Format>,
}

/// The rows of a sheet, and the characters of a cell.
const MOST_ROWS: u32 = 1_048_576;
const MOST_COLUMNS: usize = 16_384;
const MOST_SIGNS: usize = 32_767;
/// How wide a column is at least and at most, in characters.
const WIDTHS: (usize, usize) = (8, 60);

impl SheetWriter {
    /// A sheet with a header.
    pub(super) fn begin(columns: &Schema, dates: Option<&WritingPattern>) -> io::Result<Self> {
        let columns = columns.fields();
        if columns.len() > MOST_COLUMNS {
            let what = format!("a sheet holds {MOST_COLUMNS} columns, and there are {}", columns.len());
            return Err(io::Error::new(io::ErrorKind::InvalidInput, what));
        }
        let mut workbook = Workbook::new();
        // The same rows make the same bytes, whenever they are written.
        workbook.set_properties(&DocProperties::new().set_creation_datetime(WhenMade));
        let formats = Formats {
            header: Format::new().set_bold(),
            date: Format::new().set_num_format(day_format(dates)),
            date_time: Format::new().set_num_format(format!("{} hh:mm:ss", day_format(dates))),
            numbers: BTreeMap::new(),
        };
        let sheet = workbook.add_worksheet_with_constant_memory().map_err(|error| failed(&error))?;
        sheet.set_name("Rows").map_err(|error| failed(&error))?;
        sheet.set_freeze_panes(1, 0).map_err(|error| failed(&error))?;
        // On paper each page has the header, and all columns are on one.
        sheet.set_repeat_rows(0, 0).map_err(|error| failed(&error))?;
        sheet.set_landscape().set_print_fit_to_pages(1, 0);
        let mut writer = Self { workbook, row: 0, widths: vec![0; columns.len()], formats };
        for (nth, field) in columns.iter().enumerate() {
            writer.write_text(nth, field.name(), Some(&writer.formats.header.clone()))?;
        }
        writer.row = 1;
        Ok(writer)
    }

    pub(super) fn write_row(&mut self, values: &[Value<'_>]) -> io::Result<()> {
        if self.row >= MOST_ROWS {
            let what = format!(
                "a sheet holds {} rows below its header; write CSV, JSON Lines or Parquet",
                MOST_ROWS - 1
            );
            return Err(io::Error::new(io::ErrorKind::InvalidInput, what));
        }
        for (nth, value) in values.iter().enumerate() {
            match *value {
                Value::Empty => {}
                Value::Number(number) => self.write_number(nth, number)?,
                Value::Date(date) => self.write_date(nth, date, None)?,
                Value::DateTime(at) => self.write_date(nth, at.date(), Some(at.time()))?,
                Value::Text(text, _) => self.write_text(nth, text, None)?,
                Value::Parts(parts) => self.write_text(nth, &parts.to_string(), None)?,
            }
        }
        if values.iter().all(|value| *value == Value::Empty) {
            // A row of nothing is a row all the same.
            let (row, plain) = (self.row, self.formats.date.clone());
            self.sheet()?.write_blank(row, 0, &plain).map_err(|error| failed(&error))?;
        }
        self.row += 1;
        Ok(())
    }

    /// The file, once all rows were written.
    pub(super) fn save(mut self, into: &mut (impl Write + Send)) -> io::Result<()> {
        let widths = std::mem::take(&mut self.widths);
        if let Some(last) = widths.len().checked_sub(1) {
            let (row, column) = (self.row.saturating_sub(1), place(last)?);
            self.sheet()?.autofilter(0, 0, row, column).map_err(|error| failed(&error))?;
        }
        for (nth, width) in widths.into_iter().enumerate() {
            let (least, most) = WIDTHS;
            let (column, width) = (place(nth)?, width.clamp(least, most));
            self.sheet()?.set_column_width(column, width as f64 + 1.5).map_err(|error| failed(&error))?;
        }
        self.workbook.save_to_writer(into).map_err(|error| failed(&error))
    }

    fn sheet(&mut self) -> io::Result<&mut rust_xlsxwriter::Worksheet> {
        self.workbook.worksheet_from_index(0).map_err(|error| failed(&error))
    }

    fn write_text(&mut self, nth: usize, text: &str, format: Option<&Format>) -> io::Result<()> {
        let signs = text.encode_utf16().count();
        if signs > MOST_SIGNS {
            let what = format!(
                "row {} has a text of {signs} characters, and a cell of a sheet holds {MOST_SIGNS}; write CSV or JSON Lines",
                self.row
            );
            return Err(io::Error::new(io::ErrorKind::InvalidInput, what));
        }
        self.note_width(nth, signs);
        let (row, column) = (self.row, place(nth)?);
        let sheet = self.sheet()?;
        match format {
            Some(format) => sheet.write_string_with_format(row, column, text, format),
            None => sheet.write_string(row, column, text),
        }
        .map(|_| ())
        .map_err(|error| failed(&error))
    }

    /// A number, unless it has more digits than a workbook keeps: then it stays a text with all of them.
    fn write_number(&mut self, nth: usize, number: Decimal) -> io::Result<()> {
        let Some(binary) = binary_of(number) else {
            return self.write_text(nth, &number.to_string(), None);
        };
        let decimals = usize::from(number.decimals());
        let format = self.formats.numbers.entry(decimals).or_insert_with(|| {
            let zeros = "0".repeat(decimals);
            Format::new().set_num_format(if decimals == 0 {
                "#,##0".to_owned()
            } else {
                format!("#,##0.{zeros}")
            })
        });
        let format = format.clone();
        // Room for the minus, the point and the marks of thousands.
        let digits = digits_of(number).max(decimals + 1);
        self.note_width(nth, digits + digits / 3 + 2);
        self.write_serial(nth, binary, &format)
    }

    /// A day, perhaps with a time, as its serial number; one that a workbook has no number for stays a text.
    fn write_date(&mut self, nth: usize, date: Date, time: Option<ClockTime>) -> io::Result<()> {
        let seconds = time.map_or(0, |time| time.microseconds() / 1_000_000);
        let is_whole = time.is_none_or(|time| time.microseconds() % 1_000_000 == 0);
        let day = i64::from(date.day_number()) + DAYS_TO_1970;
        if day < FIRST_DAY || !is_whole {
            let text = time.map_or_else(|| date.to_string(), |time| DateTime::new(date, time).to_string());
            return self.write_text(nth, &text, None);
        }
        let (format, width) = match time {
            Some(_) => (self.formats.date_time.clone(), "2026-09-30 14:30:00".len()),
            None => (self.formats.date.clone(), "2026-09-30".len()),
        };
        self.note_width(nth, width);
        self.write_serial(nth, day as f64 + seconds as f64 / 86_400.0, &format)
    }

    fn write_serial(&mut self, nth: usize, number: f64, format: &Format) -> io::Result<()> {
        let (row, column) = (self.row, place(nth)?);
        let written = self.sheet()?.write_number_with_format(row, column, number, format);
        written.map(|_| ()).map_err(|error| failed(&error))
    }

    fn note_width(&mut self, nth: usize, signs: usize) {
        if let Some(width) = self.widths.get_mut(nth) {
            *width = signs.max(*width);
        }
    }
}

/// How days are shown (ISO/IEC 29500-1, 18.8.31): as a pattern has it, or in ISO 8601. What is between its fields is itself.
fn day_format(dates: Option<&WritingPattern>) -> String {
    let Some(pattern) = dates else { return "yyyy-mm-dd".to_owned() };
    let mut said = pattern.to_string();
    let mut format = String::new();
    while let Some(sign) = said.chars().next() {
        let fields = [("year", "yyyy"), ("month", "mm"), ("day", "dd")];
        let taken = match fields.into_iter().find(|(word, _)| said.starts_with(word)) {
            Some((word, letters)) => {
                format += letters;
                word.len()
            }
            None => {
                format.extend(['\\', sign]);
                sign.len_utf8()
            }
        };
        said.drain(..taken);
    }
    format
}

/// The serial number of 1970-01-01, counted from 1899-12-30.
const DAYS_TO_1970: i64 = 25_569;
/// That of 1900-03-01; before it is a 29 February that never was.
const FIRST_DAY: i64 = 61;

fn place(nth: usize) -> io::Result<u16> {
    u16::try_from(nth)
        .map_err(|_| io::Error::new(io::ErrorKind::InvalidInput, "there are too many columns for a sheet"))
}

fn failed(error: &XlsxError) -> io::Error {
    io::Error::other(error.to_string())
}
