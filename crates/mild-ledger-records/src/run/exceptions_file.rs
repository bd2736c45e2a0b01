//! Exceptions on their way to their file, counted by reason.

use super::outcome::ExceptionGroup;
use super::outputs::{EXCEPTION_COLUMNS, OutputSink};
use crate::error::RecordsError;
use crate::sink::{RowBytes, Written};
use crate::table::{Became, Exception, ExceptionSubject, Layout, Reason, plain_schema};
use arrow_array::{ArrayRef, Int64Array, RecordBatch, StringArray};
use arrow_schema::{DataType, SchemaRef};
use std::collections::BTreeMap;
use std::sync::Arc;

/// Writes exceptions to their file in the order of the rows, and counts them.
pub(super) struct ExceptionSink<'j> {
    layout: &'j Layout,
    key_name: String,
    sink: OutputSink,
    schema: SchemaRef,
    made: RowBytes,
    groups: BTreeMap<(Reason, Became), Group>,
    rows_set_aside: u64,
    unreadable_cells: u64,
}

#[derive(Default)]
struct Group {
    count: u64,
    examples: Vec<String>,
}

/// Exceptions of a reason that are shown in full; the file has them all.
const EXAMPLES: usize = 3;

/// How many of them, from the first on, hold numbers.
const NUMBERS: usize = 2;

impl<'j> ExceptionSink<'j> {
    pub(super) fn new(layout: &'j Layout, sink: OutputSink) -> Self {
        let names: Vec<&str> = layout.key.iter().map(|column| layout.name(*column)).collect();
        Self {
            layout,
            key_name: names.join(" / "),
            sink,
            schema: plain_schema(&std::array::from_fn::<_, 7, _>(|nth| {
                let holds = if nth < NUMBERS { DataType::Int64 } else { DataType::Utf8 };
                (EXCEPTION_COLUMNS[nth], holds)
            })),
            made: RowBytes::default(),
            groups: BTreeMap::new(),
            rows_set_aside: 0,
            unreadable_cells: 0,
        }
    }

    /// Writes what came of one batch, in the order of its rows.
    pub(super) fn write_batch(&mut self, mut exceptions: Vec<Exception>) -> Result<(), RecordsError> {
        exceptions.sort_by_key(|exception| exception.origin.row);
        let mut last_set_aside = 0;
        self.write(&exceptions)?;
        for exception in exceptions {
            // A row that is set aside for two reasons is one row.
            if exception.became == Became::RowSetAside && exception.origin.row != last_set_aside {
                self.rows_set_aside += 1;
                last_set_aside = exception.origin.row;
            }
            let is_unreadable = matches!(exception.reason, Reason::UnreadableDate | Reason::NoSuchDay);
            self.unreadable_cells += u64::from(is_unreadable && exception.became == Became::CellEmpty);
            let is_wanted = {
                let group = self.groups.entry((exception.reason, exception.became)).or_default();
                group.count += 1;
                group.examples.len() < EXAMPLES
            };
            if is_wanted {
                let shown = self.shown(&exception);
                let group = self.groups.entry((exception.reason, exception.became)).or_default();
                group.examples.push(shown);
            }
        }
        Ok(())
    }

    /// Writes exceptions as rows of a record batch.
    fn write(&mut self, exceptions: &[Exception]) -> Result<(), RecordsError> {
        if exceptions.is_empty() {
            return Ok(());
        }
        let numbers = |number: fn(&Exception) -> u64| -> ArrayRef {
            let numbers = exceptions.iter().map(|exception| i64::try_from(number(exception)).ok());
            Arc::new(numbers.collect::<Int64Array>())
        };
        let texts = |text: &dyn Fn(&Exception) -> String| -> ArrayRef {
            Arc::new(StringArray::from_iter_values(exceptions.iter().map(text)))
        };
        let name = |exception: &Exception| name_of(exception.subject, &self.key_name, self.layout).to_owned();
        let reason = |exception: &Exception| match exception.detail.as_str() {
            "" => exception.reason.to_string(),
            detail => format!("{}: {detail}", exception.reason),
        };
        let columns = vec![
            numbers(|exception| exception.origin.row),
            numbers(|exception| exception.origin.line),
            texts(&|exception| exception.key.clone()),
            texts(&name),
            texts(&|exception| exception.text.clone()),
            texts(&reason),
            texts(&|exception| exception.became.to_string()),
        ];
        let records = RecordBatch::try_new(Arc::clone(&self.schema), columns)
            .map_err(|error| RecordsError::Proof { what: error.to_string() })?;
        let rows: Vec<usize> = (0..exceptions.len()).collect();
        self.made.rows.clear();
        self.made.behind_apostrophe = 0;
        let put = self.sink.form().put(&records, &rows, &mut self.made);
        put.map_err(|error| self.sink.failed(error))?;
        self.sink.write(&self.made)
    }

    /// One line for a person: where, whose, and what.
    fn shown(&self, exception: &Exception) -> String {
        let part = |text: &str| match text {
            "" => String::new(),
            text => format!(", {}", shortened(text)),
        };
        let key = if exception.subject == ExceptionSubject::Key { "" } else { exception.key.as_str() };
        let what = match (exception.detail.as_str(), exception.subject) {
            ("", _) => shortened(&exception.text),
            (detail, ExceptionSubject::Key) => {
                format!("{}, {}", shortened(&exception.text), shortened(detail))
            }
            (detail, _) => shortened(detail),
        };
        let (row, line) = (exception.origin.row, exception.origin.line);
        format!(
            "row {row} (line {line}){}{}: {what}",
            part(key),
            part(name_of(exception.subject, &self.key_name, self.layout))
        )
    }

    /// Rows set aside, as the exceptions file lists them.
    pub(super) fn rows_set_aside(&self) -> u64 {
        self.rows_set_aside
    }

    /// Cells left empty because their text could not be read.
    pub(super) fn unreadable_cells(&self) -> u64 {
        self.unreadable_cells
    }

    /// The groups, rows set aside first, and the finished file.
    pub(super) fn finish(self) -> Result<(Vec<ExceptionGroup>, Written), RecordsError> {
        let mut groups: Vec<_> = self.groups.into_iter().collect();
        groups.sort_by_key(|((reason, became), group)| (*became, std::cmp::Reverse(group.count), *reason));
        let groups = groups
            .into_iter()
            .map(|((reason, became), group)| ExceptionGroup {
                reason: reason.to_string(),
                outcome: became.to_string(),
                count: group.count,
                examples: group.examples,
            })
            .collect();
        Ok((groups, self.sink.finish()?))
    }
}

/// The name of the column, or columns, that an exception is about.
fn name_of<'n>(subject: ExceptionSubject, key_name: &'n str, layout: &'n Layout) -> &'n str {
    match subject {
        ExceptionSubject::Row => "",
        ExceptionSubject::Key => key_name,
        ExceptionSubject::Column(column) => layout.name(column),
    }
}

/// A text as far as a line for a person needs it.
fn shortened(text: &str) -> String {
    const MOST: usize = 200;
    match text.char_indices().nth(MOST) {
        Some((end, _)) => format!("{}…", text.get(..end).unwrap_or(text)),
        None => text.to_owned(),
    }
}
