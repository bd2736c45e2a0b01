//! What a workbook unpacks to, counted before anybody holds it.

use super::parts::Parts;
use crate::error::RecordsError;
use std::io::{self, Read, Write};
use std::path::Path;

/// Bytes that all parts of a workbook but its sheets may unpack to, which are held in memory.
const MOST_HELD: u64 = 512 << 20;
/// Bytes that a sheet may unpack to, which is read as it streams by.
const MOST_OF_SHEET: u64 = 16 << 30;
/// Bytes between two signs of markup, such as those of a text, which are held at once.
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
        let mut counted = Counted::default();
        io::copy(&mut part.take(most + 1), &mut counted).map_err(RecordsError::file(path, "unpack it"))?;
        if counted.bytes > most {
            return Err(refused(format!("a part of the workbook unpacks to more than {} MiB", most >> 20)));
        }
        // What is no markup, such as a picture, is held as it is.
        if counted.longest_run > LONGEST_RUN && counted.is_markup() {
            return Err(refused(format!("a text of the workbook is longer than {} MiB", LONGEST_RUN >> 20)));
        }
        // Room is made for as many texts as a part says that it has, each of which takes a few bytes in it.
        if counted.stated_texts().is_some_and(|texts| texts > counted.bytes) {
            return Err(refused("the workbook says that it holds more texts than it can".to_owned()));
        }
        held += if streams { 0 } else { counted.bytes };
    }
    Ok(())
}

/// Bytes that go by, and what is to be known of them.
#[derive(Default)]
struct Counted {
    bytes: u64,
    /// The first of them.
    start: Vec<u8>,
    /// Bytes since the last sign of markup, and the most of them.
    run: u64,
    longest_run: u64,
}

impl Counted {
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

impl Write for Counted {
    fn write(&mut self, bytes: &[u8]) -> io::Result<usize> {
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
        Ok(bytes.len())
    }

    fn flush(&mut self) -> io::Result<()> {
        Ok(())
    }
}
