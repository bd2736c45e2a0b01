//! The rows of .ods workbooks (ISO/IEC 26300), read as they stream by.

use super::parts::Parts;
use super::tags::{attribute, count};
use super::{MOST_COLUMNS, NO_STORED_VALUE, broken, give};
use crate::error::RecordsError;
use crate::source::float_text::number_text;
use crate::table::CellType;
use crate::table::TypedCell as Cell;
use quick_xml::Reader;
use quick_xml::XmlVersion::Implicit1_0;
use quick_xml::events::{BytesStart, Event};
use std::collections::HashSet;
use std::io::{BufReader, Read};
use std::ops::ControlFlow;
use std::path::Path;

/// The part that holds the sheets.
pub(super) const CONTENT: &str = "content.xml";
/// Rows of a sheet.
const MOST_ROWS: u64 = 1 << 20;
/// Cells that a sheet may have beyond those that are written, by saying of a row or a cell that it repeats.
const MOST_REPEATED: u64 = 20_000_000;

type Xml<R> = Reader<BufReader<R>>;

/// The sheets, each with whether it is shown.
pub(super) fn sheets(path: &Path) -> Result<Vec<(String, bool)>, RecordsError> {
    let mut parts = Parts::open(path)?;
    let mut xml = Reader::from_reader(BufReader::new(parts.named(CONTENT)?));
    let failed = |error: quick_xml::Error| broken(path, &error.to_string());
    let (mut sheets, mut buffer) = (Vec::new(), Vec::new());
    // The styles of sheets that are not shown, and the style that is read.
    let (mut hidden, mut style): (HashSet<String>, String) = (HashSet::new(), String::new());
    loop {
        buffer.clear();
        match xml.read_event_into(&mut buffer).map_err(failed)? {
            Event::Start(tag) | Event::Empty(tag) => match tag.local_name().as_ref() {
                "style" => style = attribute(&tag, "name").unwrap_or_default(),
                "table-properties" if attribute(&tag, "display").as_deref() == Some("false") => {
                    hidden.insert(style.clone());
                }
                "table" => {
                    let is_shown = attribute(&tag, "style-name").is_none_or(|style| !hidden.contains(&style));
                    sheets.push((attribute(&tag, "name").unwrap_or_default(), is_shown));
                }
                _ => {}
            },
            Event::Eof if sheets.is_empty() => return Err(broken(path, "it has no sheets")),
            Event::Eof => return Ok(sheets),
            _ => {}
        }
    }
}

/// The rows of a sheet that are not blank, each with its number in the sheet, from 1, until the taker breaks off.
pub(super) fn rows(
    path: &Path,
    sheet: &str,
    take: impl FnMut(u64, &[Cell]) -> ControlFlow<()>,
) -> Result<(), RecordsError> {
    let mut parts = Parts::open(path)?;
    let xml = Reader::from_reader(BufReader::new(parts.named(CONTENT)?));
    SheetRows { path, xml, buffer: Vec::new(), line: 0, repeated: 0, take }.read(sheet)
}

/// A sheet while its rows stream by.
struct SheetRows<'p, R: Read, T> {
    path: &'p Path,
    xml: Xml<R>,
    buffer: Vec<u8>,
    line: u64,
    /// Cells that were given without being written.
    repeated: u64,
    take: T,
}

impl<R: Read, T: FnMut(u64, &[Cell]) -> ControlFlow<()>> SheetRows<'_, R, T> {
    fn read(mut self, sheet: &str) -> Result<(), RecordsError> {
        let mut is_within = false;
        loop {
            match self.next()? {
                Event::Start(tag) if tag.local_name().as_ref() == "table" => {
                    is_within = attribute(&tag, "name").as_deref() == Some(sheet);
                }
                Event::End(tag) if is_within && tag.local_name().as_ref() == "table" => return Ok(()),
                Event::Start(tag) if is_within && tag.local_name().as_ref() == "table-row" => {
                    let repeats = count(&tag, "number-rows-repeated");
                    let cells = self.cells()?;
                    if self.give(cells, repeats)?.is_break() {
                        return Ok(());
                    }
                }
                Event::Empty(tag) if is_within && tag.local_name().as_ref() == "table-row" => {
                    self.line = self.line.saturating_add(count(&tag, "number-rows-repeated"));
                }
                Event::Eof => return Err(broken(self.path, "it ends before its sheet does")),
                _ => {}
            }
        }
    }

    fn next(&mut self) -> Result<Event<'static>, RecordsError> {
        self.buffer.clear();
        let event = self.xml.read_event_into(&mut self.buffer).map(Event::into_owned);
        event.map_err(|error| broken(self.path, &error.to_string()))
    }

    /// Gives a row on as often as it is there.
    fn give(&mut self, mut cells: Vec<Cell>, repeats: u64) -> Result<ControlFlow<()>, RecordsError> {
        let first = self.line + 1;
        self.line = self.line.saturating_add(repeats);
        if cells.iter().all(|cell| cell.text.trim().is_empty()) {
            return Ok(ControlFlow::Continue(()));
        }
        let last = self.line;
        if last > MOST_ROWS {
            let what = format!("it has a row {last}, and a sheet has {MOST_ROWS} rows");
            return Err(broken(self.path, &what));
        }
        self.note_repeated(repeats.saturating_sub(1) * cells.len() as u64)?;
        for line in first..first + repeats {
            let mut row =
                if line + 1 == first + repeats { std::mem::take(&mut cells) } else { cells.clone() };
            if give(line, &mut row, &mut self.take).is_break() {
                return Ok(ControlFlow::Break(()));
            }
        }
        Ok(ControlFlow::Continue(()))
    }

    fn note_repeated(&mut self, cells: u64) -> Result<(), RecordsError> {
        self.repeated = self.repeated.saturating_add(cells);
        if self.repeated <= MOST_REPEATED {
            return Ok(());
        }
        let what = format!("more than {MOST_REPEATED} cells of a sheet are repetitions of others");
        Err(broken(self.path, &what))
    }

    /// The cells of a row, to the last one that holds something.
    fn cells(&mut self) -> Result<Vec<Cell>, RecordsError> {
        let (mut cells, mut place) = (Vec::new(), 0_u64);
        loop {
            let (tag, is_empty) = match self.next()? {
                Event::Start(tag) => (tag, false),
                Event::Empty(tag) => (tag, true),
                Event::End(tag) if tag.local_name().as_ref() == "table-row" => return Ok(cells),
                Event::Eof => return Err(broken(self.path, "it ends within a row")),
                _ => continue,
            };
            if !matches!(tag.local_name().as_ref(), "table-cell" | "covered-table-cell") {
                continue;
            }
            let text = if is_empty { String::new() } else { self.text()? };
            let cell = cell_of(&tag, text);
            let repeats = count(&tag, "number-columns-repeated").min(MOST_COLUMNS as u64);
            if !cell.text.is_empty() {
                let end = place.saturating_add(repeats);
                if end > MOST_COLUMNS as u64 {
                    return Err(broken(self.path, "a cell is to the right of the last column of a sheet"));
                }
                self.note_repeated(end - place - 1)?;
                // Both are within the columns of a sheet.
                cells.resize(usize::try_from(place).unwrap_or(MOST_COLUMNS), Cell::blank());
                cells.resize(usize::try_from(end).unwrap_or(MOST_COLUMNS), cell);
            }
            place = place.saturating_add(repeats);
        }
    }

    /// The text of a cell, its paragraphs below each other; remarks and what else hangs on it are none.
    fn text(&mut self) -> Result<String, RecordsError> {
        const MOST_SPACES: u64 = 1 << 16;
        let (mut text, mut depth, mut beside, mut paragraphs) = (String::new(), 0_u64, 0_u64, 0);
        loop {
            let event = self.next()?;
            match event {
                Event::Start(tag) => {
                    let is_beside =
                        matches!(tag.local_name().as_ref(), "annotation" | "table" | "frame" | "shapes");
                    depth += 1;
                    beside += u64::from(is_beside || beside > 0);
                    if tag.local_name().as_ref() == "p" && beside == 0 {
                        text.push_str(if paragraphs > 0 { "\n" } else { "" });
                        paragraphs += 1;
                    }
                }
                Event::Empty(tag) if beside == 0 => match tag.local_name().as_ref() {
                    "s" => (0..count(&tag, "c").min(MOST_SPACES)).for_each(|_| text.push(' ')),
                    "tab" => text.push('\t'),
                    "line-break" => text.push('\n'),
                    _ => {}
                },
                Event::Text(part) if beside == 0 && paragraphs > 0 => {
                    text.push_str(&part.xml_content(Implicit1_0))
                }
                Event::CData(part) if beside == 0 && paragraphs > 0 => {
                    text.push_str(&part.xml_content(Implicit1_0))
                }
                Event::GeneralRef(named) if beside == 0 => {
                    let number =
                        named.resolve_char_ref().map_err(|error| broken(self.path, &error.to_string()))?;
                    let sign = number.or_else(|| predefined(&named));
                    text.push(
                        sign.ok_or_else(|| broken(self.path, "it names a character that is not defined"))?,
                    );
                }
                Event::End(_) if depth == 0 => return Ok(text),
                Event::End(_) => {
                    depth -= 1;
                    beside = beside.saturating_sub(1);
                }
                Event::Eof => return Err(broken(self.path, "it ends within a cell")),
                _ => {}
            }
        }
    }
}

/// A cell by its type, and the text that is shown in it.
fn cell_of(tag: &BytesStart<'_>, text: String) -> Cell {
    let number = || attribute(tag, "value")?.trim().parse::<f64>().ok();
    match attribute(tag, "value-type").as_deref() {
        Some("float" | "percentage" | "currency") => match number() {
            Some(number) => Cell { holds: CellType::Number, text: number_text(number) },
            None => Cell { holds: CellType::Text, text },
        },
        Some(holds @ ("date" | "boolean" | "string")) => {
            // Each of these types has its value in an attribute of its own name.
            let value = attribute(tag, &format!("{holds}-value"));
            match (holds, value) {
                ("date", Some(date)) => Cell { holds: CellType::Date, text: date },
                ("string" | "boolean", Some(value)) => Cell { holds: CellType::Text, text: value },
                _ => Cell { holds: CellType::Text, text },
            }
        }
        None if text.is_empty() && attribute(tag, "formula").is_some() => {
            Cell { holds: CellType::Text, text: NO_STORED_VALUE.to_owned() }
        }
        _ => Cell { holds: CellType::Text, text },
    }
}

/// The character of a name that XML knows by itself.
fn predefined(name: &str) -> Option<char> {
    Some(match name {
        "amp" => '&',
        "lt" => '<',
        "gt" => '>',
        "quot" => '"',
        "apos" => '\'',
        _ => return None,
    })
}
