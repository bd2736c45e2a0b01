//! Pieces of the records, read and worked on by the threads that run the partitions that they are in.

use super::failures::within;
use super::part::Part;
use super::pieces::pieces_in;
use super::rows::{flow_of, told};
use datafusion::arrow::datatypes::SchemaRef;
use datafusion::error::DataFusionError;
use datafusion::physical_plan::SendableRecordBatchStream;
use datafusion::physical_plan::stream::RecordBatchReceiverStreamBuilder;
use futures::StreamExt;
use mild_ledger_records::PartWorker;

/// The figures of the rows of the pieces that come in, and what is reported of them.
pub(super) fn of_pieces(
    part: Part,
    gives: SchemaRef,
    mut input: SendableRecordBatchStream,
) -> SendableRecordBatchStream {
    // A few batches wait for who takes them, so that memory stays bounded.
    let mut stream = RecordBatchReceiverStreamBuilder::new(gives.clone(), 2);
    let give = stream.tx();
    stream.spawn(async move {
        let mut pieces = Vec::new();
        while let Some(batch) = input.next().await {
            pieces.extend(pieces_in(&batch?)?);
        }
        let worked = tokio::task::spawn_blocking(move || {
            let job = part.job()?;
            let mut worker = PartWorker::new(&job);
            for piece in &pieces {
                worker.begin(piece).map_err(within)?;
                while let Some(rows) = worker.next_rows().map_err(within)? {
                    for batch in flow_of(&gives, &rows)? {
                        // Where no one wants more, nothing is left to do.
                        if give.blocking_send(Ok(batch)).is_err() {
                            return Ok(());
                        }
                    }
                }
            }
            let counts = worker.finish().map_err(within)?;
            let _ = give.blocking_send(told(&gives, std::iter::once(counts.as_slice())));
            Ok(())
        });
        worked.await.map_err(|error| DataFusionError::External(Box::new(error)))?
    });
    stream.build()
}
