//! JSON Lines: an object (RFC 8259) on each line, in UTF-8.

mod object;
mod reader;

use super::SourceKind;
use reader::JsonLinesReader;

pub(super) const KIND: SourceKind = SourceKind {
    word: "JSON Lines",
    endings: &["jsonl", "ndjson"],
    open: |path, reading| Ok(Box::new(JsonLinesReader::open(path, reading)?)),
    open_own: |file| Ok(Box::new(JsonLinesReader::open_own(file)?)),
};
