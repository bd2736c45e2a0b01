//! What a workbook unpacks to, counted before anybody holds it.

use crate::error::RecordsError;
use std::fs::File;
use std::io::{self, Read};
use std::path::Path;

/// Bytes that all parts of a workbook but its sheets may unpack to, which are held in memory.
const MOST_HELD: u64 = 512 << 20;
/// Bytes that a sheet may unpack to, which is read as it streams by; of an .ods workbook, which is held.
const MOST_OF_SHEET: u64 = 16 << 30;
/// Parts that a workbook may have.
const MOST_PARTS: usize = 10_000;

/// Unpacks every part of a workbook into nothing, and counts.
pub(super) fn check(path: &Path) -> Result<(), RecordsError> {
    let file = File::open(path).map_err(RecordsError::file(path, "open it"))?;
    let failed = |error: zip::result::ZipError| {
        let what = format!("it is no workbook that can be unpacked: {}", error.to_string().trim());
        RecordsError::file(path, "read it")(io::Error::new(io::ErrorKind::InvalidData, what))
    };
    let too_large = |what: String| {
        let help = "save the sheet as CSV, if it is right".to_owned();
        RecordsError::BrokenFile { path: path.to_owned(), line: 1, what, help }
    };
    let mut parts = zip::ZipArchive::new(file).map_err(failed)?;
    if parts.len() > MOST_PARTS {
        return Err(too_large(format!("the workbook has {} parts", parts.len())));
    }
    let mut held = 0;
    for nth in 0..parts.len() {
        let part = parts.by_index(nth).map_err(failed)?;
        let streams = part.name().map_err(failed)?.starts_with("xl/worksheets/");
        let most = if streams { MOST_OF_SHEET } else { MOST_HELD.saturating_sub(held) };
        let count = io::copy(&mut part.take(most + 1), &mut io::sink())
            .map_err(RecordsError::file(path, "unpack it"))?;
        if count > most {
            return Err(too_large(format!("a part of the workbook unpacks to more than {} MiB", most >> 20)));
        }
        held += if streams { 0 } else { count };
    }
    Ok(())
}
