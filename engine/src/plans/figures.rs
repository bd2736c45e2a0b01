//! Pieces of the records, read and worked on by those who run the partitions that they are in.

use super::failures::within;
use super::part::Part;
use super::pieces::pieces_in;
use super::rows::{flow_of, flow_schema, told};
use datafusion::common::tree_node::TreeNodeRecursion;
use datafusion::error::{DataFusionError, Result};
use datafusion::execution::TaskContext;
use datafusion::physical_expr::EquivalenceProperties;
use datafusion::physical_plan::execution_plan::{Boundedness, EmissionType, ReplaceChildrenOptions};
use datafusion::physical_plan::stream::RecordBatchReceiverStreamBuilder;
use datafusion::physical_plan::{
    DisplayAs, DisplayFormatType, ExecutionPlan, ExecutionPlanProperties, Partitioning, PhysicalExpr,
    PlanProperties, SendableRecordBatchStream,
};
use futures::StreamExt;
use mild_ledger_records::{PartWorker, Piece};
use std::fmt::{self, Formatter};
use std::sync::Arc;

/// Reads the pieces that come in and works out the figures of their rows.
#[derive(Debug)]
pub(super) struct FiguresExec {
    pub(super) part: Part,
    input: Arc<dyn ExecutionPlan>,
    properties: Arc<PlanProperties>,
}

impl FiguresExec {
    pub(super) fn new(part: Part, input: Arc<dyn ExecutionPlan>) -> Self {
        let properties = PlanProperties::new(
            EquivalenceProperties::new(flow_schema(&part.schema())),
            Partitioning::UnknownPartitioning(input.output_partitioning().partition_count()),
            EmissionType::Incremental,
            Boundedness::Bounded,
        );
        Self { part, input, properties: Arc::new(properties) }
    }

    /// The same over another input.
    fn over(&self, children: Vec<Arc<dyn ExecutionPlan>>) -> Result<Arc<dyn ExecutionPlan>> {
        let lacks = || DataFusionError::Internal("FiguresExec has no input".to_owned());
        let input = children.into_iter().next().ok_or_else(lacks)?;
        Ok(Arc::new(Self::new(self.part.clone(), input)))
    }
}

impl DisplayAs for FiguresExec {
    fn fmt_as(&self, _: DisplayFormatType, f: &mut Formatter<'_>) -> fmt::Result {
        f.write_str("FiguresExec")
    }
}

impl ExecutionPlan for FiguresExec {
    fn name(&self) -> &str {
        "FiguresExec"
    }

    fn properties(&self) -> &Arc<PlanProperties> {
        &self.properties
    }

    fn benefits_from_input_partitioning(&self) -> Vec<bool> {
        // The pieces are spread over the partitions already, in the order of the rows.
        vec![false]
    }

    fn children(&self) -> Vec<&Arc<dyn ExecutionPlan>> {
        vec![&self.input]
    }

    fn apply_expressions(
        &self,
        _: &mut dyn FnMut(&Arc<dyn PhysicalExpr>) -> Result<TreeNodeRecursion>,
    ) -> Result<TreeNodeRecursion> {
        Ok(TreeNodeRecursion::Continue)
    }

    fn replace_children(
        self: Arc<Self>,
        children: Vec<Arc<dyn ExecutionPlan>>,
        _: ReplaceChildrenOptions,
    ) -> Result<Arc<dyn ExecutionPlan>> {
        self.over(children)
    }

    fn with_new_children(
        self: Arc<Self>,
        children: Vec<Arc<dyn ExecutionPlan>>,
    ) -> Result<Arc<dyn ExecutionPlan>> {
        self.over(children)
    }

    fn execute(&self, partition: usize, context: Arc<TaskContext>) -> Result<SendableRecordBatchStream> {
        let mut input = self.input.execute(partition, context)?;
        let (part, schema) = (self.part.clone(), self.schema());
        // A few batches wait for who takes them, so that memory stays bounded.
        let mut stream = RecordBatchReceiverStreamBuilder::new(self.schema(), 2);
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
                    let piece: &Piece = piece;
                    worker.begin(piece).map_err(within)?;
                    while let Some(rows) = worker.next_rows().map_err(within)? {
                        for batch in flow_of(&schema, &rows)? {
                            // Where nobody wants more, nothing is left to do.
                            if give.blocking_send(Ok(batch)).is_err() {
                                return Ok(());
                            }
                        }
                    }
                }
                let counts = worker.finish().map_err(within)?;
                let _ = give.blocking_send(told(&schema, std::iter::once(counts.as_slice())));
                Ok(())
            });
            worked.await.map_err(|error| DataFusionError::External(Box::new(error)))?
        });
        Ok(stream.build())
    }
}
