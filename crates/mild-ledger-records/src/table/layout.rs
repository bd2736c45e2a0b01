//! What the columns of a run are: those of the file, then those that the plan adds.

use super::Presentation;
use super::batch::Batch;
use super::exceptions::ExceptionSubject;
use super::kind::{Column, Kind};
use super::origins::{Origin, RowId};
use super::written_numbers::WrittenNumbers;
use std::borrow::Cow;

/// The columns of every batch of a run, and which of them distinguish rows.
pub(crate) struct Layout {
    /// The columns of the file, then those that the plan adds.
    pub(crate) columns: Vec<Column>,
    /// After them, those that only reports look at, as they are seen from other dates.
    pub(crate) of_views: Vec<Column>,
    pub(crate) columns_of_file: usize,
    pub(crate) key: Vec<usize>,
    /// How the amounts and numbers of the file are written, a column each; none for columns of other things.
    pub(crate) written: Vec<Option<WrittenNumbers>>,
    /// The files of records as they are called, and after them those that columns are joined from.
    pub(crate) sources: Vec<String>,
    /// How many of them are files of records.
    pub(crate) files_of_records: usize,
    /// Names of columns of second files, as exceptions name them.
    pub(crate) other_names: Vec<String>,
    /// How numbers and dates are shown to people.
    pub(crate) presentation: Presentation,
}

impl Layout {
    /// How the amounts or numbers of a column of the file are written.
    pub(crate) fn written(&self, column: usize) -> Option<&WrittenNumbers> {
        self.written.get(column)?.as_ref()
    }

    pub(crate) fn kind(&self, column: usize) -> &Kind {
        self.column(column).map_or(&Kind::Text, |column| &column.kind)
    }

    pub(crate) fn name(&self, column: usize) -> &str {
        self.column(column).map_or("", |column| &column.name)
    }

    /// The column that names the currency of a column's amounts, where it has one.
    pub(crate) fn currency(&self, column: usize) -> Option<usize> {
        self.column(column)?.currency
    }

    fn column(&self, column: usize) -> Option<&Column> {
        match column.checked_sub(self.columns.len()) {
            None => self.columns.get(column),
            Some(behind) => self.of_views.get(behind),
        }
    }

    /// What the file of a row is called.
    pub(crate) fn source(&self, origin: Origin) -> &str {
        self.sources.get(origin.source).map_or("", String::as_str)
    }

    /// Where a row is, in words.
    pub(crate) fn place(&self, origin: Origin) -> String {
        format!("row {} (line {}) of {}", origin.row, origin.line, self.source(origin))
    }

    /// Whether rows are distinguished by their file too.
    fn has_several_files(&self) -> bool {
        self.files_of_records > 1
    }

    /// Where a row is, its file named where that is not the only one of the records.
    pub(crate) fn place_in_words(&self, origin: Origin) -> String {
        if self.has_several_files() || origin.source > 0 {
            return self.place(origin);
        }
        format!("row {} (line {})", origin.row, origin.line)
    }

    /// A row by its number, and by its file where there are several.
    pub(crate) fn row_in_words(&self, row: RowId) -> String {
        if !self.has_several_files() {
            return format!("row {}", row.row());
        }
        format!("row {} of {}", row.row(), self.sources.get(row.source()).map_or("", String::as_str))
    }

    /// Two rows by their numbers, and by their files where there are several.
    pub(crate) fn rows_in_words(&self, one: RowId, other: RowId) -> String {
        if !self.has_several_files() {
            return format!("rows {} and {}", one.row(), other.row());
        }
        format!("{} and {}", self.row_in_words(one), self.row_in_words(other))
    }

    /// A column of a second file, as exceptions name it.
    pub(crate) fn other_column(&mut self, name: &str) -> ExceptionSubject {
        let known = self.other_names.iter().position(|known| known == name);
        ExceptionSubject::OtherColumn(known.unwrap_or_else(|| {
            self.other_names.push(name.to_owned());
            self.other_names.len() - 1
        }))
    }

    /// The key of a row as a person reads it.
    pub(crate) fn key_text<'b>(&self, batch: &'b Batch, row: usize) -> Cow<'b, str> {
        let part = |column: &usize| batch.text(*column, row).trim();
        match self.key.as_slice() {
            // Most keys are of one column.
            [only] => Cow::Borrowed(part(only)),
            several => several.iter().map(part).collect::<Vec<_>>().join(" / ").into(),
        }
    }
}
