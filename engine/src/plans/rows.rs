//! What flows between the nodes of a plan: rows, keys, and reports about them.

use super::part::Part;
use datafusion::arrow::array::{Array, ArrayRef, LargeBinaryArray, RecordBatch, UInt32Array, new_null_array};
use datafusion::arrow::compute::{cast, take_record_batch};
use datafusion::arrow::datatypes::{DataType, Field, Schema, SchemaRef};
use datafusion::error::{DataFusionError, Result};
use mild_ledger_records::PartRows;
use std::sync::Arc;

/// What a row of the output is ordered by: bytes that order as the plan says.
pub(super) const ORDER: &str = "order";
/// The key of a row that can be used.
pub(super) const KEY: &str = "key";
/// What is to be known of the row of a key.
const PAYLOAD: &str = "payload";
/// What is reported of some rows, or of what became of them.
const TOLD: &str = "told";

/// The columns of what nodes give each other: in a row is a row of the output with its order, or a key with its payload, or something
/// that is reported.
pub(super) fn flow_schema(part: &Part) -> SchemaRef {
    let output = part.schema();
    // The names of the output are those of people, who may call a column anything.
    let of_output = output.fields().iter().enumerate();
    let of_output = of_output.map(|(nth, field)| {
        Field::new(format!("column {nth}"), flow_type(field.data_type(), part.is_ordered()).clone(), true)
    });
    let beside = [ORDER, KEY, PAYLOAD, TOLD].map(|name| Field::new(name, DataType::LargeBinary, true));
    Arc::new(Schema::new(of_output.chain(beside).collect::<Vec<_>>()))
}

/// The type in which a column of the output flows. Rows that are ordered go to another process, and the shuffle between them gives the values
/// of a dictionary without it.
fn flow_type(of_output: &DataType, is_ordered: bool) -> &DataType {
    match of_output {
        DataType::Dictionary(_, values) if is_ordered => values,
        other => other,
    }
}

/// The columns that remain once the rows of the output are written.
pub(super) fn told_schema() -> SchemaRef {
    Arc::new(Schema::new(
        [KEY, PAYLOAD, TOLD].map(|name| Field::new(name, DataType::LargeBinary, true)).to_vec(),
    ))
}

/// The rows of some, their keys, and what is reported of them, each as a batch of its own.
pub(super) fn flow_of(schema: &SchemaRef, rows: &PartRows) -> Result<Vec<RecordBatch>> {
    let mut batches = Vec::new();
    if !rows.written.is_empty() {
        let written = if rows.written.len() == rows.records.num_rows() {
            rows.records.clone()
        } else {
            let places = rows.written.iter().map(|row| u32::try_from(*row).unwrap_or(u32::MAX));
            take_record_batch(&rows.records, &UInt32Array::from_iter_values(places))?
        };
        let flowing = written.columns().iter().zip(schema.fields());
        let mut columns: Vec<ArrayRef> = flowing
            .map(|(column, field)| cast(column, field.data_type()))
            .collect::<std::result::Result<_, _>>()?;
        columns.push(Arc::new(rows.order.clone()));
        batches.push(filled(schema, columns)?);
    }
    if !rows.keys.is_empty() {
        let columns: Vec<ArrayRef> = vec![Arc::new(rows.keys.clone()), Arc::new(rows.payloads.clone())];
        batches.push(behind_nothing(schema, KEY, columns)?);
    }
    if !rows.told.is_empty() {
        batches.push(told(schema, rows.told.iter().map(Vec::as_slice))?);
    }
    Ok(batches)
}

/// A batch of what is reported.
pub(super) fn told<'t>(schema: &SchemaRef, told: impl Iterator<Item = &'t [u8]>) -> Result<RecordBatch> {
    behind_nothing(schema, TOLD, vec![Arc::new(LargeBinaryArray::from_iter_values(told))])
}

/// Columns from the first on, and nothing in those after.
fn filled(schema: &SchemaRef, mut columns: Vec<ArrayRef>) -> Result<RecordBatch> {
    let rows = columns.first().map_or(0, |column| column.len());
    for field in schema.fields().iter().skip(columns.len()) {
        columns.push(new_null_array(field.data_type(), rows));
    }
    Ok(RecordBatch::try_new(Arc::clone(schema), columns)?)
}

/// Columns from one of a name on, and nothing in those before and after.
fn behind_nothing(schema: &SchemaRef, name: &str, columns: Vec<ArrayRef>) -> Result<RecordBatch> {
    let (first, rows) = (schema.index_of(name)?, columns.first().map_or(0, |column| column.len()));
    let before = schema.fields().iter().take(first);
    let mut all: Vec<ArrayRef> = before.map(|field| new_null_array(field.data_type(), rows)).collect();
    all.extend(columns);
    filled(schema, all)
}

/// A batch as it flows, taken apart.
pub(super) struct Flow {
    /// The columns of the output, of all its rows.
    pub(super) records: RecordBatch,
    /// The places of the rows that are rows of the output.
    pub(super) written: Vec<usize>,
    /// The other ones.
    pub(super) beside: RecordBatch,
    /// Where the first row of the output is in the records, as a number that is larger for each row after it.
    pub(super) first: u64,
}

impl Flow {
    /// Takes apart a batch of rows of this output.
    pub(super) fn of(batch: &RecordBatch, output: &Schema) -> Result<Self> {
        let order = binary(batch, ORDER)?;
        let is_row = |row: &usize| order.is_valid(*row);
        let (written, others): (Vec<usize>, Vec<usize>) = (0..batch.num_rows()).partition(is_row);
        let output_columns = output.fields().len();
        let columns = batch.columns().iter().zip(output.fields());
        let columns = columns.map(|(column, field)| cast(column, field.data_type()));
        let columns = columns.collect::<std::result::Result<Vec<ArrayRef>, _>>()?;
        let nullable = output.fields().iter().map(|field| field.as_ref().clone().with_nullable(true));
        let nullable = Arc::new(Schema::new(nullable.collect::<Vec<_>>()));
        let records = RecordBatch::try_new(nullable, columns)?;
        let beside = batch.project(&(output_columns + 1..batch.num_columns()).collect::<Vec<_>>())?;
        let beside = match others.len() {
            0 => beside.slice(0, 0),
            count if count == batch.num_rows() => beside,
            _ => {
                let places = others.iter().map(|row| u32::try_from(*row).unwrap_or(u32::MAX));
                take_record_batch(&beside, &UInt32Array::from_iter_values(places))?
            }
        };
        let first = written.first().and_then(|row| order.value(*row).last_chunk().copied());
        Ok(Self { records, written, beside, first: first.map_or(0, u64::from_be_bytes) })
    }
}

/// What is next to the rows of the output in a batch.
pub(super) struct Beside<'b> {
    keys: &'b LargeBinaryArray,
    payloads: &'b LargeBinaryArray,
    told: &'b LargeBinaryArray,
}

impl<'b> Beside<'b> {
    pub(super) fn of(batch: &'b RecordBatch) -> Result<Self> {
        Ok(Self { keys: binary(batch, KEY)?, payloads: binary(batch, PAYLOAD)?, told: binary(batch, TOLD)? })
    }

    pub(super) fn rows(&self) -> usize {
        self.keys.len()
    }

    /// A key with its payload.
    pub(super) fn key(&self, row: usize) -> Option<(&'b [u8], &'b [u8])> {
        self.keys.is_valid(row).then(|| (self.keys.value(row), self.payloads.value(row)))
    }

    /// Something that is reported.
    pub(super) fn told(&self, row: usize) -> Option<&'b [u8]> {
        self.told.is_valid(row).then(|| self.told.value(row))
    }
}

fn binary<'b>(batch: &'b RecordBatch, name: &str) -> Result<&'b LargeBinaryArray> {
    let column = batch.column_by_name(name).and_then(|column| column.as_any().downcast_ref());
    column.ok_or_else(|| DataFusionError::Internal(format!("there is no column \"{name}\" of bytes")))
}
