//! Where rows go, one folder a format, and the registry of them.

mod columns;
mod csv;
mod digits;
mod json_lines;
mod line_file;
mod text_form;
mod workbook;

use crate::source::{self, SourceKind};
use crate::table::ByteRows;
use arrow_array::RecordBatch;
use std::fs::File;
use std::io;
use std::path::Path;
use std::sync::Arc;
pub(crate) use text_form::{ByteOrderMark, TextForm, TextPart};

/// A format that rows are written in.
pub(crate) struct SinkKind {
    /// How it is called: as the source that reads it back.
    pub(crate) word: &'static str,
    /// What a plan can say of how its files are written.
    takes: &'static [TextPart],
    /// How rows with columns of these names stand in a file of it.
    form: Form,
    /// Begins a file with columns of these names.
    create: Create,
}

type Form = fn(&[&str], &TextForm) -> io::Result<Arc<dyn RowForm>>;
type Create = fn(File, &[&str], &TextForm) -> io::Result<Box<dyn Sink>>;

/// Every format that is written; a file whose ending none of them has is written in the first.
pub(crate) const KINDS: [&SinkKind; 3] = [&csv::KIND, &json_lines::KIND, &workbook::KIND];

/// How rows stand in a file of a format. It has no state, so that several may put rows into their form at once, and rows
/// in it can be sorted before they are written.
pub(crate) trait RowForm: Send + Sync {
    /// Puts rows of a record batch, which has the columns of the file, into their form.
    fn put(&self, records: &RecordBatch, rows: &[usize], into: &mut RowBytes) -> io::Result<()>;
}

/// Rows in the form of a format.
#[derive(Debug, Default)]
pub(crate) struct RowBytes {
    pub(crate) rows: ByteRows,
    /// Texts that stand behind an apostrophe because a spreadsheet would have run them.
    pub(crate) behind_apostrophe: u64,
}

/// Takes rows in the form of its format, in their order, and writes them to a file.
pub(crate) trait Sink: Send {
    /// Writes rows.
    fn write(&mut self, rows: &RowBytes) -> io::Result<()>;

    /// Bytes that stand in the file by now.
    fn bytes_written(&self) -> u64;

    /// Writes what is left, and says what was written.
    fn finish(self: Box<Self>) -> io::Result<Written>;
}

/// What a sink wrote, by its own count.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(crate) struct Written {
    /// A header is not one of them.
    pub(crate) rows: u64,
    /// The quick sum of its bytes.
    pub(crate) checksum: u64,
    /// Texts that stand behind an apostrophe because a spreadsheet would have run them.
    pub(crate) behind_apostrophe: u64,
}

impl SinkKind {
    /// The kind of file that a name's ending tells.
    pub(crate) fn of(path: &Path) -> &'static Self {
        let read_back = SourceKind::of(path);
        KINDS.into_iter().find(|kind| kind.word == read_back.word).unwrap_or(&csv::KIND)
    }

    /// What a name's ending promises that is not written, such as a workbook; a file of that name with CSV in it would deceive
    /// whoever opens it.
    pub(crate) fn not_written(path: &Path) -> Option<&'static str> {
        source::not_written(path, &KINDS.map(|kind| kind.word))
    }

    /// How rows with columns of these names stand in a file.
    pub(crate) fn form(&self, columns: &[&str], form: &TextForm) -> io::Result<Arc<dyn RowForm>> {
        (self.form)(columns, form)
    }

    /// What is said of how a file is written that this format has not.
    pub(crate) fn does_not_take(&self, form: &TextForm) -> Option<TextPart> {
        form.parts().find(|part| !self.takes.contains(part))
    }

    /// How it is called.
    pub(crate) fn word(&self) -> &'static str {
        self.word
    }

    /// Begins a file with columns of these names.
    pub(crate) fn create(&self, file: File, columns: &[&str], form: &TextForm) -> io::Result<Box<dyn Sink>> {
        (self.create)(file, columns, form)
    }

    /// The source that reads back what it wrote.
    pub(crate) fn read_back(&self) -> &'static SourceKind {
        SourceKind::named(self.word)
    }
}
