//! The keys that several rows have, of all partitions.

use super::rows::Beside;
use datafusion::arrow::array::{LargeBinaryArray, LargeBinaryBuilder, RecordBatch};
use datafusion::arrow::datatypes::SchemaRef;
use datafusion::error::Result;
use datafusion::physical_plan::SendableRecordBatchStream;
use datafusion::physical_plan::stream::RecordBatchStreamAdapter;
use futures::{StreamExt, stream};
use std::sync::Arc;

/// The keys that more than one row has, and all that is reported. Rows of one key come to one partition and are after each other there: the engine
/// sees to that, on disk where memory is short.
pub(super) fn found(gives: SchemaRef, input: SendableRecordBatchStream) -> SendableRecordBatchStream {
    let looking = Looking { input, last: None, schema: Arc::clone(&gives) };
    let found = stream::try_unfold(looking, |looking| looking.next());
    Box::pin(RecordBatchStreamAdapter::new(gives, found))
}

/// A partition while its keys go by in their order.
struct Looking {
    input: SendableRecordBatchStream,
    /// The key that was met last, and its payload where it was not given on.
    last: Option<(Vec<u8>, Option<Vec<u8>>)>,
    schema: SchemaRef,
}

impl Looking {
    async fn next(mut self) -> Result<Option<(RecordBatch, Self)>> {
        while let Some(batch) = self.input.next().await {
            if let Some(found) = self.found_in(&batch?)? {
                return Ok(Some((found, self)));
            }
        }
        Ok(None)
    }

    fn found_in(&mut self, batch: &RecordBatch) -> Result<Option<RecordBatch>> {
        let beside = Beside::of(batch)?;
        let (mut keys, mut payloads) = (LargeBinaryBuilder::new(), LargeBinaryBuilder::new());
        let mut told: Vec<Option<&[u8]>> = Vec::new();
        for row in 0..beside.rows() {
            let Some((key, payload)) = beside.key(row) else {
                keys.append_null();
                payloads.append_null();
                told.push(beside.told(row));
                continue;
            };
            match &mut self.last {
                Some((last, first)) if last.as_slice() == key => {
                    for payload in first.take().as_deref().into_iter().chain([payload]) {
                        keys.append_value(key);
                        payloads.append_value(payload);
                        told.push(None);
                    }
                }
                _ => self.last = Some((key.to_vec(), Some(payload.to_vec()))),
            }
        }
        if told.is_empty() {
            return Ok(None);
        }
        let told = LargeBinaryArray::from_iter(told);
        let columns =
            vec![Arc::new(keys.finish()) as _, Arc::new(payloads.finish()) as _, Arc::new(told) as _];
        Ok(Some(RecordBatch::try_new(Arc::clone(&self.schema), columns)?))
    }
}
