//! Rows held as columns of text, as a source gives them.

use super::cell_type::CellType;
use super::origins::Origins;
use crate::error::RecordsError;
use arrow_array::cast::AsArray;
use arrow_array::{Array, ArrayRef, NullArray, RecordBatch, RecordBatchOptions, StringArray};
use arrow_buffer::{Buffer, OffsetBuffer, ScalarBuffer};
use arrow_schema::{DataType, Field, Schema, SchemaRef};
use std::sync::Arc;

/// Rows of a file as columns of text, with where each was, and the rows between them that are broken.
#[derive(Debug)]
pub(crate) struct Batch {
    /// A column of text for each of the file, of none for one that is not kept.
    pub(super) records: RecordBatch,
    pub(crate) origins: Origins,
    pub(crate) broken: Vec<BrokenRow>,
    /// The types of the cells, column by column, of a format that types them.
    pub(super) types: Option<Vec<Vec<CellType>>>,
}

/// A row whose cells cannot be distinguished, or read at all.
#[derive(Debug)]
pub(crate) struct BrokenRow {
    pub(crate) number: u64,
    pub(crate) line: u64,
    pub(crate) fault: RowFault,
    /// Its first cell or so, for the person who looks for it.
    pub(crate) beginning: String,
}

/// Why a row is broken.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(crate) enum RowFault {
    TooManyCells {
        found: u64,
        expected: u64,
    },
    TooFewCells {
        found: u64,
        expected: u64,
    },
    NotUtf8,
    HeaderAgain,
    /// A quote within a cell that does not begin with one, or something after a closing quote.
    StrayQuote,
    /// A line that is not JSON (RFC 8259), or not an object of it.
    NotAnObject,
    /// A list or an object in place of a value.
    NestedValue,
    /// The same name twice in one object.
    NameTwice,
}

impl Batch {
    pub(crate) fn rows(&self) -> usize {
        self.origins.len()
    }

    /// How many columns there are.
    pub(crate) fn columns(&self) -> usize {
        self.records.num_columns()
    }

    /// The texts of a column, a text a row; `None` for one that is not kept.
    pub(crate) fn texts(&self, column: usize) -> Option<&StringArray> {
        self.records.columns().get(column)?.as_string_opt::<i32>()
    }

    /// What the format says that a cell is.
    pub(crate) fn cell_type(&self, column: usize, row: usize) -> CellType {
        let types = self.types.as_ref().and_then(|types| types.get(column)?.get(row));
        types.copied().unwrap_or(CellType::Text)
    }

    /// The text of a cell; empty for one that there is none of.
    pub(crate) fn text(&self, column: usize, row: usize) -> &str {
        self.texts(column).filter(|texts| row < texts.len()).map_or("", |texts| texts.value(row))
    }
}

/// A batch while a source fills it.
#[derive(Debug)]
pub(crate) struct BatchBuilder {
    schema: SchemaRef,
    columns: Vec<TextColumn>,
    kept: Kept,
    origins: Origins,
    broken: Vec<BrokenRow>,
    types: Option<Vec<Vec<CellType>>>,
}

/// The columns whose texts a batch keeps; those of others are read and not kept.
#[derive(Debug, Clone)]
pub(crate) enum Kept {
    All,
    /// Those in these places.
    Only(Vec<usize>),
}

/// The texts of one column while they come.
#[derive(Debug)]
struct TextColumn {
    texts: String,
    /// Where the first text begins, and each ends.
    offsets: Vec<i32>,
}

impl Default for TextColumn {
    fn default() -> Self {
        Self { texts: String::new(), offsets: vec![0] }
    }
}

impl TextColumn {
    fn push(&mut self, text: &str) {
        self.texts.push_str(text);
        self.offsets.push(i32::try_from(self.texts.len()).unwrap_or(i32::MAX));
    }

    /// The texts so far, and room for as many again.
    fn take(&mut self) -> StringArray {
        let mut next = Self {
            texts: String::with_capacity(self.texts.len()),
            offsets: Vec::with_capacity(self.offsets.len()),
        };
        next.offsets.push(0);
        let Self { texts, offsets } = std::mem::replace(self, next);
        // Each ends after the one before.
        let offsets = OffsetBuffer::new(ScalarBuffer::from(offsets));
        // Texts one after the other are text, and begin and end where texts do.
        StringArray::try_new(offsets, Buffer::from_vec(texts.into_bytes()), None)
            .unwrap_or_else(|_| StringArray::from(Vec::<&str>::new()))
    }
}

impl BatchBuilder {
    /// For rows with columns of these names.
    pub(crate) fn of_columns(names: &[String], kept: Kept) -> Self {
        let holds = |place: usize| match &kept {
            Kept::Only(places) if !places.contains(&place) => DataType::Null,
            _ => DataType::Utf8,
        };
        let field = |(place, name): (usize, &String)| Field::new(name, holds(place), holds(place).is_null());
        Self {
            schema: Arc::new(Schema::new(names.iter().enumerate().map(field).collect::<Vec<_>>())),
            columns: names.iter().map(|_| TextColumn::default()).collect(),
            kept,
            origins: Origins::default(),
            broken: Vec::new(),
            types: None,
        }
    }

    /// Takes a row of as many cells as there are columns, each by its place.
    pub(crate) fn push_row<'t>(&mut self, number: u64, line: u64, cell: impl Fn(usize) -> &'t str) {
        let columns = &mut self.columns;
        match &self.kept {
            Kept::All => columns.iter_mut().enumerate().for_each(|(place, column)| column.push(cell(place))),
            Kept::Only(places) => places.iter().for_each(|place| {
                if let Some(column) = columns.get_mut(*place) {
                    column.push(cell(*place));
                }
            }),
        }
        self.origins.push(number, line);
    }

    /// Takes a row of a format that types its cells.
    pub(crate) fn push_typed_row<'t>(
        &mut self,
        number: u64,
        line: u64,
        cell: impl Fn(usize) -> (CellType, &'t str),
    ) {
        let columns = self.columns.len();
        let types = self.types.get_or_insert_with(|| vec![Vec::new(); columns]);
        types.iter_mut().enumerate().for_each(|(place, types)| types.push(cell(place).0));
        self.push_row(number, line, |place| cell(place).1);
    }

    pub(crate) fn push_broken(&mut self, row: BrokenRow) {
        self.broken.push(row);
    }

    /// The rows so far, and this builder empty again.
    ///
    /// # Errors
    /// Where the texts of a column are more than can be held, 2 GiB.
    pub(crate) fn take(&mut self) -> Result<Batch, RecordsError> {
        let rows = self.origins.len();
        let columns = self.columns.iter_mut().zip(self.schema.fields()).map(|(column, field)| -> ArrayRef {
            match field.data_type() {
                DataType::Null => Arc::new(NullArray::new(rows)),
                _ => Arc::new(column.take()),
            }
        });
        let options = RecordBatchOptions::new().with_row_count(Some(rows));
        let records =
            RecordBatch::try_new_with_options(Arc::clone(&self.schema), columns.collect(), &options);
        Ok(Batch {
            records: records.map_err(|error| RecordsError::Proof { what: error.to_string() })?,
            origins: std::mem::take(&mut self.origins),
            broken: std::mem::take(&mut self.broken),
            types: self.types.take(),
        })
    }
}
