//! The styles of a workbook, with those that new columns need.

use super::broken;
use crate::error::RecordsError;
use crate::source::{Parts, attribute, each_tag};
use crate::table::{CellType, TypedCell};
use quick_xml::events::{BytesStart, Event};
use quick_xml::{Reader, Writer};
use std::io::BufReader;
use std::path::Path;

/// The part that holds them.
const STYLES: &str = "xl/styles.xml";

/// What the cells of a new column need.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default)]
pub(super) struct Wanted {
    decimals: usize,
    holds_dates: bool,
    holds_times: bool,
    /// The most characters of a cell.
    signs: usize,
}

impl Wanted {
    /// How wide its column is, in characters, under a header.
    pub(super) fn width(&self, header: &str) -> f64 {
        const WIDTHS: (usize, usize) = (8, 60);
        self.signs.max(header.chars().count()).clamp(WIDTHS.0, WIDTHS.1) as f64 + 1.5
    }

    pub(super) fn note(&mut self, cell: &TypedCell) {
        self.signs = self.signs.max(cell.text.chars().count());
        match cell.holds {
            CellType::Number => {
                let decimals = cell.text.split_once('.').map_or(0, |(_, decimals)| decimals.len());
                self.decimals = self.decimals.max(decimals);
            }
            CellType::Date | CellType::ZeroOf1904 if cell.text.len() > "2026-09-30".len() => {
                self.holds_times = true
            }
            CellType::Date | CellType::ZeroOf1904 => self.holds_dates = true,
            CellType::Text => {}
        }
    }
}

/// The part with styles more, and the number of the style of each new column, where it has one.
pub(super) struct NewStyles {
    bytes: Vec<u8>,
    of_columns: Vec<Option<String>>,
}

/// The number that the formats of numbers of a workbook's own begin with (ISO/IEC 29500-1, 18.8.30).
const FIRST_OWN_FORMAT: u32 = 164;

impl NewStyles {
    /// For columns with these cells; their dates have the style of others of the sheet, where that is known.
    pub(super) fn of(
        path: &Path,
        parts: &mut Parts,
        wanted: &[Wanted],
        dates: Option<&str>,
    ) -> Result<Self, RecordsError> {
        let mut formats: Vec<String> = Vec::new();
        // Each column with the place of its format among the new ones, or the style that it has already.
        let columns: Vec<Result<usize, Option<String>>> = wanted
            .iter()
            .map(|wanted| {
                let format = match wanted {
                    Wanted { holds_times: true, .. } => "yyyy-mm-dd hh:mm:ss".to_owned(),
                    Wanted { holds_dates: true, .. } => match dates {
                        Some(style) => return Err(Some(style.to_owned())),
                        None => "yyyy-mm-dd".to_owned(),
                    },
                    Wanted { decimals: 0, .. } => return Err(None),
                    Wanted { decimals, .. } => format!("0.{}", "0".repeat(*decimals)),
                };
                let known = formats.iter().position(|known| *known == format);
                Ok(known.unwrap_or_else(|| {
                    formats.push(format);
                    formats.len() - 1
                }))
            })
            .collect();
        if formats.is_empty() {
            let of_columns = columns.into_iter().map(|column| column.err().flatten()).collect();
            return Ok(Self { bytes: Vec::new(), of_columns });
        }
        if !parts.has(STYLES) {
            return Err(broken(path, "it has no part with styles for dates and decimals"));
        }
        let (mut styles, mut next_format, mut is_within, mut has_formats) =
            (0_usize, FIRST_OWN_FORMAT, false, false);
        each_tag(path, parts.named(STYLES)?, |tag| match tag.local_name().as_ref() {
            "numFmts" => has_formats = true,
            "numFmt" => {
                let number: Option<u32> = attribute(tag, "numFmtId").and_then(|number| number.parse().ok());
                next_format = next_format.max(number.map_or(0, |number| number.saturating_add(1)));
            }
            "cellXfs" => is_within = true,
            "cellStyles" | "dxfs" | "cellStyleXfs" => is_within = false,
            "xf" if is_within => styles += 1,
            _ => {}
        })?;
        let of_columns = columns.into_iter().map(|column| match column {
            Ok(nth) => Some((styles + nth).to_string()),
            Err(style) => style,
        });
        let of_columns = of_columns.collect();
        let numbered: Vec<(u32, String)> = (next_format..).zip(formats).collect();
        let bytes = with_formats(path, parts, &numbered, has_formats)?;
        Ok(Self { bytes, of_columns })
    }

    /// Whether a part is replaced by [`bytes`](Self::bytes).
    pub(super) fn replaces(&self, part: &str) -> bool {
        !self.bytes.is_empty() && part == STYLES
    }

    pub(super) fn bytes(&self) -> &[u8] {
        &self.bytes
    }

    /// The style of a new column.
    pub(super) fn of_column(&self, nth: usize) -> Option<&str> {
        self.of_columns.get(nth)?.as_deref()
    }
}

fn with_formats(
    path: &Path,
    parts: &mut Parts,
    formats: &[(u32, String)],
    has_formats: bool,
) -> Result<Vec<u8>, RecordsError> {
    let mut xml = Reader::from_reader(BufReader::new(parts.named(STYLES)?));
    let mut out = Writer::new(Vec::new());
    let mut buffer = Vec::new();
    let put = |out: &mut Writer<Vec<u8>>, event: Event<'_>| {
        out.write_event(event).map_err(RecordsError::file(path, "read it"))
    };
    loop {
        buffer.clear();
        let event = xml.read_event_into(&mut buffer).map_err(|error| broken(path, &error.to_string()))?;
        let name = match &event {
            Event::Start(tag) | Event::Empty(tag) => tag.local_name().as_ref().to_owned(),
            Event::End(tag) => tag.local_name().as_ref().to_owned(),
            _ => String::new(),
        };
        match (event, name.as_str()) {
            (Event::Start(tag), "numFmts") => {
                put(&mut out, Event::Start(with_count(&tag, formats.len())))?;
                put_formats(&mut out, &tag, formats, put)?;
            }
            (Event::Empty(tag), "numFmts") => {
                put(&mut out, Event::Start(with_count(&tag, formats.len())))?;
                put_formats(&mut out, &tag, formats, put)?;
                put(&mut out, Event::End(tag.to_end()))?;
            }
            // Formats of numbers are the first of all styles.
            (Event::Start(tag), "styleSheet") if !has_formats => {
                let all = BytesStart::new(tag.name().as_ref().replace("styleSheet", "numFmts"));
                put(&mut out, Event::Start(tag))?;
                let count = formats.len().to_string();
                let counted = all.borrow().with_attributes([("count", count.as_str())]);
                put(&mut out, Event::Start(counted))?;
                put_formats(&mut out, &all, formats, put)?;
                put(&mut out, Event::End(all.to_end()))?;
            }
            (Event::Start(tag), "cellXfs") => put(&mut out, Event::Start(with_count(&tag, formats.len())))?,
            (Event::End(tag), "cellXfs") => {
                let one = tag.name().as_ref().replace("cellXfs", "xf");
                for (number, _) in formats {
                    let number = number.to_string();
                    let style = BytesStart::new(one.as_str()).with_attributes([
                        ("numFmtId", number.as_str()),
                        ("fontId", "0"),
                        ("fillId", "0"),
                        ("borderId", "0"),
                        ("xfId", "0"),
                        ("applyNumberFormat", "1"),
                    ]);
                    put(&mut out, Event::Empty(style))?;
                }
                put(&mut out, Event::End(tag))?;
            }
            (Event::Eof, _) => return Ok(out.into_inner()),
            (event, _) => put(&mut out, event)?,
        }
    }
}

fn put_formats(
    out: &mut Writer<Vec<u8>>,
    all: &BytesStart<'_>,
    formats: &[(u32, String)],
    put: impl Fn(&mut Writer<Vec<u8>>, Event<'_>) -> Result<(), RecordsError>,
) -> Result<(), RecordsError> {
    let one = all.name().as_ref().replace("numFmts", "numFmt");
    for (number, format) in formats {
        let number = number.to_string();
        let tag = BytesStart::new(one.as_str())
            .with_attributes([("numFmtId", number.as_str()), ("formatCode", format.as_str())]);
        put(out, Event::Empty(tag))?;
    }
    Ok(())
}

/// A tag whose count, where it has one, is higher.
fn with_count(tag: &BytesStart<'_>, more: usize) -> BytesStart<'static> {
    let count = attribute(tag, "count").and_then(|count| count.parse::<usize>().ok());
    let mut new = BytesStart::new(tag.name().as_ref().to_owned());
    let mut all = tag.attributes();
    all.with_checks(false);
    for attribute in all.filter_map(Result::ok).filter(|known| known.key.as_ref() != "count") {
        new.push_attribute(attribute);
    }
    if let Some(count) = count {
        new.push_attribute(("count", count.saturating_add(more).to_string().as_str()));
    }
    new
}
