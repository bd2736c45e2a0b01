//! Rows on their way into files, one a partition.

use super::failures::within;
use super::part::Part;
use super::rows::{Flow, told};
use datafusion::arrow::array::RecordBatch;
use datafusion::arrow::datatypes::SchemaRef;
use datafusion::error::Result;
use datafusion::physical_plan::SendableRecordBatchStream;
use datafusion::physical_plan::stream::RecordBatchStreamAdapter;
use futures::{StreamExt, stream};
use mild_ledger_records::PartFile;
use std::hash::{BuildHasher, Hasher, RandomState};
use std::sync::Arc;

/// Writes the rows that come in to a file of their own, and gives on what is next to them and what is reported of the file.
pub(super) fn written(
    part: Part,
    gives: SchemaRef,
    input: SendableRecordBatchStream,
) -> SendableRecordBatchStream {
    let writing = Writing { part, file: None, schema: Arc::clone(&gives), input: Some(input) };
    let written = stream::try_unfold(writing, |writing| writing.next());
    Box::pin(RecordBatchStreamAdapter::new(gives, written))
}

/// A partition while its rows are written.
struct Writing {
    part: Part,
    /// None where no row has come yet.
    file: Option<PartFile>,
    schema: SchemaRef,
    /// What is still to come.
    input: Option<SendableRecordBatchStream>,
}

impl Writing {
    /// The next batch of what is next to the rows; after the last one what is reported of the file.
    async fn next(mut self) -> Result<Option<(RecordBatch, Self)>> {
        let output = self.part.schema();
        while let Some(input) = &mut self.input {
            let Some(batch) = input.next().await else {
                self.input = None;
                break;
            };
            let batch = batch?;
            let Flow { records, written, beside, first } = Flow::of(&batch, &output)?;
            if !written.is_empty() {
                self.write(&records, &written, first)?;
            }
            if beside.num_rows() > 0 {
                let beside = RecordBatch::try_new(Arc::clone(&self.schema), beside.columns().to_vec())?;
                return Ok(Some((beside, self)));
            }
        }
        let Some(file) = self.file.take() else { return Ok(None) };
        let of_file = file.finish().map_err(within)?;
        let batch = told(&self.schema, std::iter::once(of_file.as_slice()))?;
        Ok(Some((batch, self)))
    }

    /// Writes rows, the first of which is at this place in the records: by it the files are put in their order.
    fn write(&mut self, records: &RecordBatch, rows: &[usize], first: u64) -> Result<()> {
        let file = match &mut self.file {
            Some(file) => file,
            none => {
                // An attempt that was given up may have left a file.
                let attempt = format!("{:016x}", RandomState::new().build_hasher().finish());
                none.insert(PartFile::create(&self.part.job()?, first, &attempt).map_err(within)?)
            }
        };
        file.write(records, rows).map_err(within)
    }
}
