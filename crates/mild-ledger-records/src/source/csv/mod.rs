//! CSV in UTF-8 with commas (RFC 4180).

mod kind_of_file;
mod line_counter;
mod plain;
mod reader;
mod scan;
#[cfg(test)]
mod tests;

use super::SourceKind;
use reader::CsvReader;

pub(super) const KIND: SourceKind = SourceKind {
    word: "CSV",
    endings: &["csv"],
    open: |path, reading| Ok(Box::new(CsvReader::open(path, reading)?)),
    open_own: |file| Ok(Box::new(CsvReader::open_own(file)?)),
};
