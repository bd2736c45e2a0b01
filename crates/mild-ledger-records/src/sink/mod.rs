//! Where rows go, one folder a format, and the registry of them.

mod binary_number;
mod columns;
mod counted;
mod csv;
mod digits;
mod form;
mod json_lines;
mod line_file;
mod packed;
mod parquet;
mod sqlite;
mod workbook;

use crate::source::{self, SourceKind};
use crate::table::ByteRows;
use arrow_array::RecordBatch;
use arrow_schema::Schema;
pub(crate) use form::{ByteOrderMark, SinkForm, SinkPart};
use serde::{Deserialize, Serialize};
use std::fs::File;
use std::io;
use std::path::Path;
use std::sync::Arc;

/// A format that a build is without; the plan that names it is refused before.
#[cfg(not(all(feature = "parquet", feature = "sqlite")))]
fn not_built(_: Target<'_>, _: &Schema, _: &SinkForm) -> io::Result<Box<dyn Sink>> {
    Err(io::ErrorKind::Unsupported.into())
}

/// A format that rows are written in.
pub(crate) struct SinkKind {
    /// How it is called: as the source that reads it back.
    pub(crate) word: &'static str,
    /// What a plan can say of how its files are written.
    takes: &'static [SinkPart],
    /// Whether it is part of this build.
    is_built: bool,
    /// How rows with these columns are in a file of it.
    form: Form,
    /// Begins a file with these columns.
    create: Create,
}

type Form = fn(&Schema, &SinkForm) -> io::Result<Arc<dyn RowForm>>;
type Create = fn(Target<'_>, &Schema, &SinkForm) -> io::Result<Box<dyn Sink>>;

/// Where a sink writes to. Most write to the file; those that open it themselves do so by its path.
#[cfg_attr(not(feature = "sqlite"), allow(dead_code))] // only a database asks where it stands
pub(crate) struct Target<'t> {
    /// The unfinished file, opened to be written.
    pub(crate) file: File,
    /// Where it is until it is whole.
    pub(crate) part: &'t Path,
    /// Where it will be then.
    pub(crate) place: &'t Path,
}

/// Every format that is written; a file whose ending none of them has is written in the first.
pub(crate) const KINDS: [&SinkKind; 5] =
    [&csv::KIND, &json_lines::KIND, &workbook::KIND, &parquet::KIND, &sqlite::KIND];

/// How rows are in a file of a format. It has no state, so that several may put rows into their form at once, and rows
/// in it can be sorted before they are written.
pub(crate) trait RowForm: Send + Sync {
    /// Puts rows of a record batch, which has the columns of the file, into their form.
    fn put(&self, records: &RecordBatch, rows: &[usize], into: &mut RowBytes) -> io::Result<()>;
}

/// Rows in the form of a format.
#[derive(Debug, Default)]
pub(crate) struct RowBytes {
    pub(crate) rows: ByteRows,
    /// Texts that come after an apostrophe because a spreadsheet would have run them.
    pub(crate) behind_apostrophe: u64,
}

/// Takes rows in the form of its format, in their order, and writes them to a file.
pub(crate) trait Sink: Send {
    /// Writes rows.
    fn write(&mut self, rows: &RowBytes) -> io::Result<()>;

    /// Bytes that are in the file by now.
    fn bytes_written(&self) -> u64;

    /// Writes the rest, and gives the counts of all.
    fn finish(self: Box<Self>) -> io::Result<Written>;
}

/// What a sink wrote, by its own count.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
pub(crate) struct Written {
    /// A header is not one of them.
    pub(crate) rows: u64,
    /// The quick sum of its bytes.
    pub(crate) checksum: u64,
    /// Texts that come after an apostrophe because a spreadsheet would have run them.
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

    /// Whether it is part of this build; a plan that names one that is not is a mistake.
    pub(crate) fn is_built(&self) -> bool {
        self.is_built
    }

    /// How rows with these columns are in a file.
    pub(crate) fn form(&self, columns: &Schema, form: &SinkForm) -> io::Result<Arc<dyn RowForm>> {
        (self.form)(columns, form)
    }

    /// What is stated of how a file is written that this format does not have.
    pub(crate) fn does_not_take(&self, form: &SinkForm) -> impl Iterator<Item = SinkPart> {
        form.parts().filter(|part| !self.takes.contains(part))
    }

    /// A form with those settings that this format has; the others are as where nothing is stated.
    pub(crate) fn heeded(&self, form: SinkForm) -> SinkForm {
        let takes = |part: SinkPart| self.takes.contains(&part);
        let plain = SinkForm::default();
        SinkForm {
            separator: if takes(SinkPart::Separator) { form.separator } else { plain.separator },
            decimal_mark: if takes(SinkPart::DecimalMark) { form.decimal_mark } else { plain.decimal_mark },
            dates: form.dates.filter(|_| takes(SinkPart::Dates)),
            mark: if takes(SinkPart::ByteOrderMark) { form.mark } else { plain.mark },
            table: form.table.filter(|_| takes(SinkPart::Table)),
        }
    }

    /// How it is called.
    pub(crate) fn word(&self) -> &'static str {
        self.word
    }

    /// Begins a file with these columns.
    pub(crate) fn create(
        &self,
        target: Target<'_>,
        columns: &Schema,
        form: &SinkForm,
    ) -> io::Result<Box<dyn Sink>> {
        (self.create)(target, columns, form)
    }

    /// The source that reads back what it wrote.
    pub(crate) fn read_back(&self) -> &'static SourceKind {
        SourceKind::named(self.word)
    }
}
