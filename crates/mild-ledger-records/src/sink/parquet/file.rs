//! A Parquet file while it is written.

use crate::sink::columns::Value;
use crate::sink::counted::Counted;
use crate::sink::packed::unpack;
use crate::sink::{RowBytes, Sink, SinkForm, Target, Written};
use arrow_array::builder::{
    Date32Builder, Decimal128Builder, Int64Builder, StringBuilder, TimestampMicrosecondBuilder,
};
use arrow_array::{ArrayRef, RecordBatch, RecordBatchOptions};
use arrow_schema::{DataType, Field, Schema, SchemaRef, TimeUnit};
use mild_ledger::column::Cell;
use parquet::arrow::ArrowWriter;
use parquet::arrow::arrow_writer::ArrowWriterOptions;
use parquet::basic::Compression;
use parquet::errors::ParquetError;
use parquet::file::properties::WriterProperties;
use std::fs::File;
use std::io;
use std::sync::Arc;

/// Rows that are put into columns at a time, and those of a row group, which is what waits in memory.
const ROWS: usize = 8_192;
const ROWS_OF_GROUP: usize = 32 * ROWS;

/// Writes rows in groups, each packed on its own.
pub(super) struct ParquetSink {
    writer: ArrowWriter<Counted>,
    schema: SchemaRef,
    columns: Vec<ColumnBuilder>,
    /// Rows that wait in the columns.
    waiting: usize,
    rows: u64,
}

/// The values of a column while they come.
enum ColumnBuilder {
    Texts(StringBuilder),
    Dates(Date32Builder),
    Moments(TimestampMicrosecondBuilder),
    Counts(Int64Builder),
    Decimals(Decimal128Builder),
}

/// Begins a file with these columns.
pub(super) fn create(target: Target<'_>, columns: &Schema, _: &SinkForm) -> io::Result<Box<dyn Sink>> {
    Ok(Box::new(ParquetSink::begin(target.file, columns)?))
}

impl ParquetSink {
    fn begin(file: File, columns: &Schema) -> io::Result<Self> {
        let fields = columns.fields().iter();
        let schema = Arc::new(Schema::new(fields.map(|field| stored(field)).collect::<Vec<_>>()));
        let properties = WriterProperties::builder()
            .set_compression(Compression::SNAPPY)
            .set_max_row_group_row_count(Some(ROWS_OF_GROUP))
            .build();
        // What the columns are, the format says itself.
        let options = ArrowWriterOptions::new().with_properties(properties).with_skip_arrow_metadata(true);
        let writer = ArrowWriter::try_new_with_options(Counted::new(file), Arc::clone(&schema), options);
        Ok(Self {
            writer: writer.map_err(|error| failed(&error))?,
            columns: schema.fields().iter().map(|field| ColumnBuilder::of(field)).collect(),
            schema,
            waiting: 0,
            rows: 0,
        })
    }

    fn write_waiting(&mut self) -> io::Result<()> {
        let arrays = self.columns.iter_mut().map(ColumnBuilder::finish).collect();
        let options = RecordBatchOptions::new().with_row_count(Some(self.waiting));
        let batch = RecordBatch::try_new_with_options(Arc::clone(&self.schema), arrays, &options);
        self.waiting = 0;
        self.writer.write(&batch.map_err(io::Error::other)?).map_err(|error| failed(&error))
    }
}

impl Sink for ParquetSink {
    fn write(&mut self, rows: &RowBytes) -> io::Result<()> {
        let bytes = rows.rows.as_bytes();
        for range in rows.rows.ranges() {
            let mut values = unpack(bytes.get(range).unwrap_or_default());
            for column in &mut self.columns {
                column.push(values.next().unwrap_or(Ok(Value::Empty))?)?;
            }
            (self.rows, self.waiting) = (self.rows + 1, self.waiting + 1);
            if self.waiting == ROWS {
                self.write_waiting()?;
            }
        }
        Ok(())
    }

    /// The groups are found by what is at the end of the file, which is read when it is whole.
    fn bytes_written(&self) -> u64 {
        0
    }

    fn finish(mut self: Box<Self>) -> io::Result<Written> {
        if self.waiting > 0 {
            self.write_waiting()?;
        }
        let Self { writer, rows, .. } = *self;
        let file = writer.into_inner().map_err(|error| failed(&error))?;
        Ok(Written { rows, checksum: file.finish()?, behind_apostrophe: 0 })
    }
}

/// A column as the file has it: texts are texts, however they were held.
fn stored(field: &Field) -> Field {
    let holds = match field.data_type() {
        DataType::Dictionary(_, _) | DataType::Interval(_) => DataType::Utf8,
        other => other.clone(),
    };
    Field::new(field.name(), holds, true)
}

impl ColumnBuilder {
    fn of(field: &Field) -> Self {
        match field.data_type() {
            DataType::Date32 => Self::Dates(Date32Builder::new()),
            DataType::Timestamp(TimeUnit::Microsecond, None) => {
                Self::Moments(TimestampMicrosecondBuilder::new())
            }
            DataType::Int64 => Self::Counts(Int64Builder::new()),
            DataType::Decimal128(_, _) => {
                Self::Decimals(Decimal128Builder::new().with_data_type(field.data_type().clone()))
            }
            _ => Self::Texts(StringBuilder::new()),
        }
    }

    /// Takes the next value; an error for one that the column is not for.
    fn push(&mut self, value: Value<'_>) -> io::Result<()> {
        match (self, value) {
            (Self::Texts(texts), Value::Text(text, _)) => texts.append_value(text),
            (Self::Texts(texts), Value::Empty) => texts.append_null(),
            (Self::Dates(dates), Value::Date(date)) => dates.append_value(date.stored()),
            (Self::Dates(dates), Value::Empty) => dates.append_null(),
            (Self::Moments(moments), Value::DateTime(at)) => moments.append_value(at.stored()),
            (Self::Moments(moments), Value::Empty) => moments.append_null(),
            (Self::Counts(counts), Value::Number(number)) => {
                counts.append_option(i64::try_from(number.units()).ok());
            }
            (Self::Counts(counts), Value::Empty) => counts.append_null(),
            (Self::Decimals(decimals), Value::Number(number)) => decimals.append_value(number.units()),
            (Self::Decimals(decimals), Value::Empty) => decimals.append_null(),
            (_, other) => {
                let what = format!("{other:?} is in a column of another type");
                return Err(io::Error::new(io::ErrorKind::InvalidData, what));
            }
        }
        Ok(())
    }

    fn finish(&mut self) -> ArrayRef {
        match self {
            Self::Texts(texts) => Arc::new(texts.finish()),
            Self::Dates(dates) => Arc::new(dates.finish()),
            Self::Moments(moments) => Arc::new(moments.finish()),
            Self::Counts(counts) => Arc::new(counts.finish()),
            Self::Decimals(decimals) => Arc::new(decimals.finish()),
        }
    }
}

fn failed(error: &ParquetError) -> io::Error {
    io::Error::other(error.to_string())
}
