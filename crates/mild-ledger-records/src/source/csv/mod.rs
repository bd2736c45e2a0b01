//! CSV in UTF-8 with commas (RFC 4180).

mod chunks;
mod cut;
mod form_evidence;
mod kind_of_file;
mod line_counter;
mod plain;
mod row_buffer;
mod rows;
mod scan;
#[cfg(test)]
mod tests;
mod too_long;

use super::{FormPart, SourceKind};

#[cfg(feature = "postgres")]
pub(super) use chunks::open_stream;

pub(super) const KIND: SourceKind = SourceKind {
    word: "CSV",
    endings: &["csv"],
    schemes: &[],
    takes: &[FormPart::Signs, FormPart::Encoding, FormPart::HeaderLine],
    form_of: |path, _| form_evidence::form_of(path),
    open: |path, reading| Ok(Box::new(chunks::open(path, reading)?)),
    open_own: |file| Ok(Box::new(chunks::open_own(file)?)),
    open_piece: Some(|path, reading, columns, piece| {
        Ok(Box::new(chunks::open_piece(path, reading, columns, piece)?))
    }),
};
