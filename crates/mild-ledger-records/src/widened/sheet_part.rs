//! The part of a sheet, with new cells at the end of its rows.

use super::broken;
use super::styles_part::NewStyles;
use crate::error::RecordsError;
use crate::source::{Parts, SheetFound, attribute, each_tag};
use crate::table::{CellType, TypedCell};
use mild_ledger::{Date, DateTime, SerialSystem};
use quick_xml::events::{BytesEnd, BytesStart, BytesText, Event};
use quick_xml::{Reader, Writer};
use std::io::{BufReader, Read, Write};
use std::path::Path;
use std::sync::mpsc::Receiver;

/// Where the new columns go.
pub(super) struct Place<'p> {
    /// The number of the first of them, from 0.
    pub(super) first: usize,
    /// The rows of the sheet that are records.
    pub(super) lines: &'p [u64],
    pub(super) header: &'p [String],
    pub(super) widths: Vec<f64>,
}

/// The styles of the sheet that new cells take over.
#[derive(Debug, Default)]
pub(super) struct SheetStyles {
    /// Of the last cell of the header.
    header: Option<String>,
    /// Of the first date of the column that new dates look like.
    pub(super) dates: Option<String>,
    /// The last column that has a width, from 1; `None` where no column has one.
    last_width: Option<usize>,
}

impl SheetStyles {
    pub(super) fn of(
        path: &Path,
        parts: &mut Parts,
        sheet: &SheetFound,
        dates_like: Option<&str>,
    ) -> Result<Self, RecordsError> {
        let dates =
            dates_like.and_then(|name| sheet.header.iter().position(|known| known.trim() == name.trim()));
        let dates = dates.map(letters);
        let (mut found, mut line) = (Self::default(), 0_u64);
        each_tag(path, parts.named(&sheet.part)?, |tag| match tag.local_name().as_ref() {
            "row" => line = line_of(tag, line),
            "cols" => found.last_width = found.last_width.max(Some(0)),
            "col" => {
                found.last_width =
                    found.last_width.max(attribute(tag, "max").and_then(|last| last.parse().ok()))
            }
            "c" if line == sheet.header_line => found.header = attribute(tag, "s"),
            "c" if line > sheet.header_line && found.dates.is_none() => {
                let column = attribute(tag, "r")
                    .map(|place| place.trim_end_matches(|sign: char| sign.is_ascii_digit()).to_owned());
                if column.is_some() && column == dates {
                    found.dates = attribute(tag, "s");
                }
            }
            _ => {}
        })?;
        Ok(found)
    }
}

/// Writes the part of a sheet as it is, with the cells that come for each record, in their order.
pub(super) fn write_sheet(
    (path, part): (&Path, impl Read),
    out: &mut impl Write,
    place: &Place<'_>,
    (styles, look): (&NewStyles, &SheetStyles),
    sheet: &SheetFound,
    next: &Receiver<Vec<TypedCell>>,
) -> Result<(), RecordsError> {
    let mut xml = Reader::from_reader(BufReader::new(part));
    let mut out = Writer::new(out);
    let mut buffer = Vec::new();
    let mut records = place.lines.iter().copied().peekable();
    let mut line = 0_u64;
    let mut row: Option<String> = None;
    let failed = || RecordsError::file(path, "copy its sheet");
    let stopped =
        || RecordsError::Proof { what: "the new columns have fewer rows than the sheet".to_owned() };
    loop {
        buffer.clear();
        let event = xml.read_event_into(&mut buffer).map_err(|error| broken(path, &error.to_string()))?;
        match event {
            Event::Start(tag) if tag.local_name().as_ref() == "row" => {
                line = line_of(&tag, line);
                row = Some(tag.name().as_ref().to_owned());
                out.write_event(Event::Start(without(&tag, "spans"))).map_err(failed())?;
            }
            Event::Empty(tag) if tag.local_name().as_ref() == "row" => {
                line = line_of(&tag, line);
                out.write_event(Event::Empty(tag)).map_err(failed())?;
            }
            Event::Empty(tag) if tag.local_name().as_ref() == "dimension" => {
                out.write_event(Event::Empty(wider(&tag, place))).map_err(failed())?;
            }
            Event::End(tag) if tag.local_name().as_ref() == "row" => {
                let prefix = row.take().and_then(|name| Some(name.rsplit_once(':')?.0.to_owned() + ":"));
                let cells = Cells { prefix: prefix.unwrap_or_default(), line, system: sheet.system };
                if line == sheet.header_line {
                    for (nth, name) in place.header.iter().enumerate() {
                        cells
                            .text((place.first + nth, look.header.as_deref()), name, &mut out)
                            .map_err(failed())?;
                    }
                } else if records.next_if_eq(&line).is_some() {
                    let new = next.recv().map_err(|_| stopped())?;
                    for (nth, cell) in new.iter().enumerate() {
                        cells
                            .put((place.first + nth, styles.of_column(nth)), cell, &mut out)
                            .map_err(failed())?;
                    }
                }
                out.write_event(Event::End(tag)).map_err(failed())?;
            }
            Event::Start(tag) if tag.local_name().as_ref() == "sheetData" && look.last_width.is_none() => {
                let all = BytesStart::new(tag.name().as_ref().replace("sheetData", "cols"));
                out.write_event(Event::Start(all.borrow())).map_err(failed())?;
                put_widths(&all, place, &mut out).map_err(failed())?;
                out.write_event(Event::End(all.to_end())).map_err(failed())?;
                out.write_event(Event::Start(tag)).map_err(failed())?;
            }
            Event::End(tag) if tag.local_name().as_ref() == "cols" => {
                // Columns that have a width already keep it.
                if look.last_width.is_some_and(|last| last <= place.first) {
                    put_widths(&BytesStart::new(tag.name().as_ref().to_owned()), place, &mut out)
                        .map_err(failed())?;
                }
                out.write_event(Event::End(tag)).map_err(failed())?;
            }
            Event::Eof if records.peek().is_none() => return Ok(()),
            Event::Eof => return Err(stopped()),
            event => out.write_event(event).map_err(failed())?,
        }
    }
}

/// The widths of the new columns, inside the tag of all.
fn put_widths<W: Write>(all: &BytesStart<'_>, place: &Place<'_>, out: &mut Writer<W>) -> std::io::Result<()> {
    let one = all.name().as_ref().replace("cols", "col");
    for (nth, width) in place.widths.iter().enumerate() {
        let (number, width) = ((place.first + nth + 1).to_string(), width.to_string());
        let tag = BytesStart::new(one.as_str()).with_attributes([
            ("min", number.as_str()),
            ("max", number.as_str()),
            ("width", width.as_str()),
            ("customWidth", "1"),
        ]);
        out.write_event(Event::Empty(tag))?;
    }
    Ok(())
}

/// New cells of a row.
struct Cells {
    /// What the names of tags begin with.
    prefix: String,
    line: u64,
    system: SerialSystem,
}

impl Cells {
    fn put<W: Write>(
        &self,
        at: (usize, Option<&str>),
        cell: &TypedCell,
        out: &mut Writer<W>,
    ) -> std::io::Result<()> {
        match (cell.holds, serial_of(cell, self.system)) {
            _ if cell.text.is_empty() => Ok(()),
            (CellType::Number, _) => self.number(at, &cell.text, out),
            (CellType::Date | CellType::ZeroOf1904, Some(serial)) => self.number(at, &serial, out),
            _ => self.text((at.0, None), &cell.text, out),
        }
    }

    fn number<W: Write>(
        &self,
        at: (usize, Option<&str>),
        number: &str,
        out: &mut Writer<W>,
    ) -> std::io::Result<()> {
        let cell = self.begin(at, None);
        let value = format!("{}v", self.prefix);
        out.write_event(Event::Start(cell.borrow()))?;
        out.write_event(Event::Start(BytesStart::new(value.as_str())))?;
        out.write_event(Event::Text(BytesText::new(number)))?;
        out.write_event(Event::End(BytesEnd::new(value.as_str())))?;
        out.write_event(Event::End(cell.to_end()))
    }

    fn text<W: Write>(
        &self,
        at: (usize, Option<&str>),
        text: &str,
        out: &mut Writer<W>,
    ) -> std::io::Result<()> {
        let cell = self.begin(at, Some("inlineStr"));
        let (inline, words) = (format!("{}is", self.prefix), format!("{}t", self.prefix));
        out.write_event(Event::Start(cell.borrow()))?;
        out.write_event(Event::Start(BytesStart::new(inline.as_str())))?;
        let begin = BytesStart::new(words.as_str()).with_attributes([("xml:space", "preserve")]);
        out.write_event(Event::Start(begin))?;
        out.write_event(Event::Text(BytesText::new(text)))?;
        out.write_event(Event::End(BytesEnd::new(words.as_str())))?;
        out.write_event(Event::End(BytesEnd::new(inline.as_str())))?;
        out.write_event(Event::End(cell.to_end()))
    }

    fn begin(&self, (column, style): (usize, Option<&str>), holds: Option<&str>) -> BytesStart<'static> {
        let mut cell = BytesStart::new(format!("{}c", self.prefix));
        cell.push_attribute(("r", format!("{}{}", letters(column), self.line).as_str()));
        for (name, value) in [("s", style), ("t", holds)] {
            if let Some(value) = value {
                cell.push_attribute((name, value));
            }
        }
        cell
    }
}

/// The number of a day in a workbook, with the time of day as its fraction; `None` for one that it has no number for.
fn serial_of(cell: &TypedCell, system: SerialSystem) -> Option<String> {
    const DAYS_TO_1970: i64 = 25_569;
    const FIRST_DAY: i64 = 61;
    const DAYS_TO_1904: i64 = 1_462;
    let (date, part) = match cell.text.parse::<Date>() {
        Ok(date) => (date, 0),
        Err(_) => {
            let at: DateTime = cell.text.parse().ok()?;
            (at.date(), at.time().microseconds())
        }
    };
    let day = i64::from(date.day_number()) + DAYS_TO_1970;
    let day = match system {
        SerialSystem::From1904 => Some(day - DAYS_TO_1904).filter(|day| *day > 0),
        _ => Some(day).filter(|day| *day >= FIRST_DAY),
    }?;
    Some(match part {
        0 => day.to_string(),
        part => (day as f64 + part as f64 / 86_400e6).to_string(),
    })
}

/// The number of a row: what its tag says, or one more than the last.
fn line_of(tag: &BytesStart<'_>, last: u64) -> u64 {
    attribute(tag, "r").and_then(|text| text.parse().ok()).unwrap_or_else(|| last.saturating_add(1))
}

/// The letters of a column by its number, from 0 (ISO/IEC 29500-1, 18.3.1.4).
fn letters(column: usize) -> String {
    let mut letters = Vec::new();
    let mut rest = column + 1;
    while rest > 0 {
        let digit = u8::try_from((rest - 1) % 26).unwrap_or(0);
        letters.push(char::from(b'A' + digit));
        rest = (rest - 1) / 26;
    }
    letters.iter().rev().collect()
}

/// A tag without an attribute.
fn without(tag: &BytesStart<'_>, name: &str) -> BytesStart<'static> {
    let mut new = BytesStart::new(tag.name().as_ref().to_owned());
    let mut all = tag.attributes();
    all.with_checks(false);
    for attribute in all.filter_map(Result::ok).filter(|known| known.key.as_ref() != name) {
        new.push_attribute(attribute);
    }
    new
}

/// The area that the cells of a sheet are in, as far as the new ones.
fn wider(tag: &BytesStart<'_>, place: &Place<'_>) -> BytesStart<'static> {
    let mut new = without(tag, "ref");
    let known = attribute(tag, "ref").unwrap_or_default();
    let (begin, end) = known.split_once(':').unwrap_or((known.as_str(), known.as_str()));
    let row = end.trim_start_matches(|sign: char| sign.is_ascii_alphabetic());
    let last = letters((place.first + place.header.len()).saturating_sub(1));
    new.push_attribute(("ref", format!("{begin}:{last}{row}").as_str()));
    new
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn columns_have_letters() {
        for (column, expected) in
            [(0, "A"), (25, "Z"), (26, "AA"), (701, "ZZ"), (702, "AAA"), (16_383, "XFD")]
        {
            assert_eq!(letters(column), expected);
        }
    }
}
