//! What the columns of a run are: those of the file, then those that the plan adds.

use super::batch::Batch;
use super::kind::{Column, Kind};
use super::origins::{Origin, RowId};
use super::written_numbers::WrittenNumbers;

/// The columns of every batch of a run, and which of them tell rows apart.
pub(crate) struct Layout {
    /// The columns of the file, then those that the plan adds.
    pub(crate) columns: Vec<Column>,
    pub(crate) columns_of_file: usize,
    pub(crate) key: Vec<usize>,
    /// How the amounts and numbers of the file are written, a column each; none for columns of other things.
    pub(crate) written: Vec<Option<WrittenNumbers>>,
    /// The files of records, as they are called.
    pub(crate) sources: Vec<String>,
}

impl Layout {
    /// How the amounts or numbers of a column of the file are written.
    pub(crate) fn written(&self, column: usize) -> Option<&WrittenNumbers> {
        self.written.get(column)?.as_ref()
    }

    pub(crate) fn kind(&self, column: usize) -> &Kind {
        self.columns.get(column).map_or(&Kind::Text, |column| &column.kind)
    }

    pub(crate) fn name(&self, column: usize) -> &str {
        self.columns.get(column).map_or("", |column| &column.name)
    }

    /// What the file of a row is called.
    pub(crate) fn source(&self, origin: Origin) -> &str {
        self.sources.get(origin.source).map_or("", String::as_str)
    }

    /// Where a row stands, in words.
    pub(crate) fn place(&self, origin: Origin) -> String {
        format!("row {} (line {}) of {}", origin.row, origin.line, self.source(origin))
    }

    /// Where a row stands, its file named where there are several.
    pub(crate) fn place_in_words(&self, origin: Origin) -> String {
        match self.sources.as_slice() {
            [] | [_] => format!("row {} (line {})", origin.row, origin.line),
            _ => self.place(origin),
        }
    }

    /// A row by its number, and by its file where there are several.
    pub(crate) fn row_in_words(&self, row: RowId) -> String {
        match self.sources.as_slice() {
            [] | [_] => format!("row {}", row.row()),
            sources => {
                format!("row {} of {}", row.row(), sources.get(row.source()).map_or("", String::as_str))
            }
        }
    }

    /// Two rows by their numbers, and by their files where there are several.
    pub(crate) fn rows_in_words(&self, one: RowId, other: RowId) -> String {
        match self.sources.as_slice() {
            [] | [_] => format!("rows {} and {}", one.row(), other.row()),
            _ => format!("{} and {}", self.row_in_words(one), self.row_in_words(other)),
        }
    }

    /// The key of a row as a person reads it.
    pub(crate) fn key_text(&self, batch: &Batch, row: usize) -> String {
        let parts: Vec<&str> = self.key.iter().map(|column| batch.text(*column, row).trim()).collect();
        parts.join(" / ")
    }
}
