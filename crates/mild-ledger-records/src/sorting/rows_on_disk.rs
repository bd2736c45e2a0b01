//! A sorted run of rows in a file that vanishes: a stream of the Arrow columnar format, the keys in its last column.

use super::rows::{Sorted, failed};
use arrow_array::cast::AsArray;
use arrow_array::{Array, ArrayRef, RecordBatch};
use arrow_ipc::reader::StreamReader;
use arrow_ipc::writer::StreamWriter;
use arrow_schema::{DataType, Field, Schema};
use std::fs::File;
use std::io::{self, BufReader, BufWriter, IntoInnerError, Seek, SeekFrom, Write};
use std::path::Path;
use std::sync::Arc;

/// A run, read from its beginning; there is none where there were no rows.
pub(super) struct Run {
    batches: Option<StreamReader<BufReader<File>>>,
}

/// Writes rows in their order.
pub(super) fn write_run(folder: &Path, rows: impl Iterator<Item = io::Result<Sorted>>) -> io::Result<Run> {
    let file = tempfile::tempfile_in(folder)?;
    let mut out: Option<StreamWriter<BufWriter<File>>> = None;
    let mut unused = Some(BufWriter::with_capacity(256 << 10, file));
    for rows in rows {
        let batch = record_batch(rows?)?;
        if let Some(file) = unused.take() {
            out = Some(StreamWriter::try_new(file, &batch.schema()).map_err(failed)?);
        }
        if let Some(out) = &mut out {
            out.write(&batch).map_err(failed)?;
        }
    }
    let Some(mut out) = out else { return Ok(Run { batches: None }) };
    out.finish().map_err(failed)?;
    let mut file = out.into_inner().map_err(failed)?.into_inner().map_err(IntoInnerError::into_error)?;
    file.flush()?;
    file.seek(SeekFrom::Start(0))?;
    let batches = StreamReader::try_new(BufReader::with_capacity(64 << 10, file), None).map_err(failed)?;
    Ok(Run { batches: Some(batches) })
}

fn record_batch(rows: Sorted) -> io::Result<RecordBatch> {
    let keys: ArrayRef = Arc::new(rows.keys);
    let columns: Vec<ArrayRef> = rows.arrays.into_iter().chain([keys]).collect();
    let field = |(place, array): (usize, &ArrayRef)| {
        Field::new(place.to_string(), array.data_type().clone(), *array.data_type() != DataType::Binary)
    };
    let schema = Schema::new(columns.iter().enumerate().map(field).collect::<Vec<_>>());
    RecordBatch::try_new(Arc::new(schema), columns).map_err(failed)
}

impl Iterator for Run {
    type Item = io::Result<Sorted>;

    fn next(&mut self) -> Option<io::Result<Sorted>> {
        let batch = match self.batches.as_mut()?.next()? {
            Ok(batch) => batch,
            Err(error) => return Some(Err(failed(error))),
        };
        let mut arrays = batch.columns().to_vec();
        let keys = arrays.pop()?;
        let keys = keys.as_binary_opt::<i32>()?.clone();
        Some(Ok(Sorted { arrays, keys }))
    }
}
