//! What a workbook unpacks to, counted before any user holds it.

use super::parts::Parts;
use crate::error::RecordsError;
use quick_xml::Reader;
use quick_xml::events::Event;
use std::io::{self, BufReader, Read};
use std::path::Path;

/// Bytes that all parts of a workbook but its sheets may unpack to, which are held in memory.
const MOST_HELD: u64 = 512 << 20;
/// Bytes that a sheet may unpack to, which is read as it streams by.
const MOST_OF_SHEET: u64 = 16 << 30;
/// Bytes between two characters of markup, such as those of a text, which are held at once.
const LONGEST_RUN: u64 = 64 << 20;
/// Parts that a workbook may have.
const MOST_PARTS: usize = 10_000;

/// Unpacks every part of a workbook into nothing, and counts.
pub(super) fn check(path: &Path) -> Result<(), RecordsError> {
    let mut parts = Parts::open(path)?;
    let refused = |what: String| {
        let help = "save the sheet as CSV, if it is right".to_owned();
        RecordsError::BrokenFile { path: path.to_owned(), line: 1, what, help }
    };
    if parts.count() > MOST_PARTS {
        return Err(refused(format!("the workbook has {} parts", parts.count())));
    }
    let mut held = 0;
    for nth in 0..parts.count() {
        let (name, part) = parts.part(nth)?;
        let streams = name.starts_with("xl/worksheets/") || name == super::ods::CONTENT;
        let most = if streams { MOST_OF_SHEET } else { MOST_HELD.saturating_sub(held) };
        let mut counted = Counting { part, most, counted: Counted::default(), fault: None };
        let outside = match super::is_ods(path) {
            false => fault_of_sheet(&mut counted, name.starts_with("xl/worksheets/")),
            true => None,
        };
        let drained = io::copy(&mut counted, &mut io::sink());
        if let Some(fault) = counted.fault {
            return Err(refused(fault));
        }
        drained.map_err(RecordsError::file(path, "unpack it"))?;
        if let Some(fault) = outside {
            return Err(refused(fault));
        }
        let counted = counted.counted;
        // Room is made for as many texts as a part says that it has, each of which takes a few bytes in it.
        if counted.stated_texts().is_some_and(|texts| texts > counted.bytes) {
            return Err(refused("the workbook says that it holds more texts than it can".to_owned()));
        }
        held += if streams { 0 } else { counted.bytes };
    }
    Ok(())
}

/// What makes a sheet one that cannot be read without a loss: a cell that no sheet has, a row or a cell that occurs twice or out
/// of order, or a second part of rows.
fn fault_of_sheet(part: impl Read, is_sheet: bool) -> Option<String> {
    let mut xml = Reader::from_reader(BufReader::new(part));
    xml.config_mut().check_end_names = false;
    let mut buffer = Vec::new();
    let (mut parts_of_rows, mut row, mut column) = (0, 0_u32, 0_u32);
    loop {
        buffer.clear();
        let tag = match xml.read_event_into(&mut buffer) {
            Ok(Event::Start(tag) | Event::Empty(tag)) => tag,
            Ok(Event::Eof) | Err(_) => return None,
            Ok(_) => continue,
        };
        let name = tag.local_name();
        if name.as_ref() == "sheetData" && is_sheet {
            parts_of_rows += 1;
        }
        let is_row = name.as_ref() == "row";
        if is_row && parts_of_rows > 1 {
            return Some("a sheet of the workbook has its rows in two parts".to_owned());
        }
        let place = match name.as_ref() {
            "c" | "row" => "r",
            "dimension" => "ref",
            _ => continue,
        };
        let place = super::attribute(&tag, place);
        if let Some(cell) = place.as_ref().filter(|cell| !is_within_a_sheet(cell)) {
            let cell: String = cell.chars().take(40).flat_map(char::escape_debug).collect();
            return Some(format!("the workbook names a cell \"{cell}\", which no sheet has"));
        }
        if !is_sheet || name.as_ref() == "dimension" {
            continue;
        }
        let stated = place.as_deref().and_then(place_of);
        let (next_row, next_column) = match (is_row, stated) {
            (true, Some((line, _))) => (line, 0),
            (true, None) => (row.saturating_add(1), 0),
            (false, Some((line, place))) => (line, place),
            (false, None) => (row, column.saturating_add(1)),
        };
        let is_after = if is_row { next_row > row } else { (next_row, next_column) > (row, column) };
        if !is_after {
            let what = if is_row { "row" } else { "cell" };
            let place = place.unwrap_or_default();
            return Some(format!("the {what} {place} of a sheet occurs twice, or after a later one"));
        }
        (row, column) = (next_row, next_column);
    }
}

/// The row and the column of a place such as B12, or of a row by its number.
fn place_of(place: &str) -> Option<(u32, u32)> {
    let letters = place.bytes().take_while(u8::is_ascii_alphabetic);
    let column = letters.fold(0, |sum, letter| sum * 26 + u32::from(letter.to_ascii_uppercase() - b'A') + 1);
    let row = place.trim_start_matches(|letter: char| letter.is_ascii_alphabetic()).parse().ok()?;
    Some((row, column))
}

/// Whether the letters and the digits of a place are few enough for a sheet, which has columns to XFD and rows to 1,048,576. What
/// else may be wrong with it, the reader reports.
fn is_within_a_sheet(place: &str) -> bool {
    let longest = |kind: fn(&u8) -> bool| {
        place.as_bytes().split(|byte| !kind(byte)).map(<[u8]>::len).max().unwrap_or_default()
    };
    longest(u8::is_ascii_alphabetic) <= 3 && longest(u8::is_ascii_digit) <= 7
}

/// A part that is counted as it is unpacked, and ends where it becomes too much.
struct Counting<R> {
    part: R,
    most: u64,
    counted: Counted,
    /// What was too much.
    fault: Option<String>,
}

impl<R: Read> Read for Counting<R> {
    fn read(&mut self, buffer: &mut [u8]) -> io::Result<usize> {
        if self.fault.is_some() {
            return Ok(0);
        }
        let read = self.part.read(buffer)?;
        self.counted.note(buffer.get(..read).unwrap_or_default());
        if self.counted.bytes > self.most {
            self.fault = Some(format!("a part of the workbook unpacks to more than {} MiB", self.most >> 20));
        } else if self.counted.longest_run > LONGEST_RUN && self.counted.is_markup() {
            // What is not markup, such as a picture, is held as it is.
            self.fault = Some(format!("a text of the workbook is longer than {} MiB", LONGEST_RUN >> 20));
        }
        Ok(if self.fault.is_some() { 0 } else { read })
    }
}

/// Bytes that go by, and what is to be known of them.
#[derive(Default)]
struct Counted {
    bytes: u64,
    /// The first of them.
    start: Vec<u8>,
    /// Bytes since the last character of markup, and the most of them.
    run: u64,
    longest_run: u64,
}

impl Counted {
    fn note(&mut self, bytes: &[u8]) {
        const START: usize = 16 << 10;
        let room = START.saturating_sub(self.start.len()).min(bytes.len());
        self.start.extend_from_slice(bytes.get(..room).unwrap_or_default());
        self.bytes += bytes.len() as u64;
        let mut from = 0;
        for at in memchr::memchr_iter(b'<', bytes) {
            self.longest_run = self.longest_run.max(self.run + (at - from) as u64);
            (self.run, from) = (0, at);
        }
        self.run += (bytes.len() - from) as u64;
        self.longest_run = self.longest_run.max(self.run);
    }

    fn is_markup(&self) -> bool {
        self.start.iter().find(|byte| !byte.is_ascii_whitespace() && byte.is_ascii()) == Some(&b'<')
    }

    /// The number of texts that the beginning of a part states; the largest there is for one that cannot be held.
    fn stated_texts(&self) -> Option<u64> {
        const STATED: &[u8] = b"uniqueCount";
        let behind = self.start.get(memchr::memmem::find(&self.start, STATED)? + STATED.len()..)?;
        let digits: String = behind
            .iter()
            .skip_while(|byte| !byte.is_ascii_digit())
            .take_while(|byte| byte.is_ascii_digit())
            .map(|byte| char::from(*byte))
            .collect();
        Some(digits.parse().unwrap_or(u64::MAX))
    }
}
