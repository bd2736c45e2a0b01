//! JSON Lines: an object (RFC 8259) on each line, in UTF-8.

mod chunks;
mod lines;
mod object;
mod rows;

use super::{FormPart, SourceKind};

pub(super) const KIND: SourceKind = SourceKind {
    word: "JSON Lines",
    endings: &["jsonl", "ndjson"],
    schemes: &[],
    takes: &[FormPart::Encoding],
    form_of: |_, _| Ok(super::FileForm::default()),
    open: |path, reading| Ok(Box::new(chunks::open(path, reading)?)),
    open_own: |file| Ok(Box::new(chunks::open_own(file)?)),
    open_piece: Some(|path, reading, columns, piece| {
        Ok(Box::new(chunks::open_piece(path, reading, columns, piece)?))
    }),
};
