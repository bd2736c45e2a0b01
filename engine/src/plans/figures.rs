//! The records as a table of the engine: pieces of files, read and worked on by those who run its partitions.

use super::failures::within;
use super::part::Part;
use super::rows::{flow_of, flow_schema, told};
use async_trait::async_trait;
use datafusion::arrow::datatypes::SchemaRef;
use datafusion::catalog::{Session, TableProvider};
use datafusion::common::tree_node::TreeNodeRecursion;
use datafusion::datasource::TableType;
use datafusion::error::{DataFusionError, Result};
use datafusion::execution::TaskContext;
use datafusion::logical_expr::Expr;
use datafusion::physical_expr::EquivalenceProperties;
use datafusion::physical_plan::execution_plan::{Boundedness, EmissionType, ReplaceChildrenOptions};
use datafusion::physical_plan::stream::RecordBatchReceiverStreamBuilder;
use datafusion::physical_plan::{
    DisplayAs, DisplayFormatType, ExecutionPlan, Partitioning, PhysicalExpr, PlanProperties,
    SendableRecordBatchStream,
};
use mild_ledger_records::{PartWorker, Piece};
use std::fmt::{self, Formatter};
use std::sync::Arc;

/// The records of a plan with the columns that it writes, each partition some pieces that stand behind each other.
#[derive(Debug)]
pub(super) struct PiecesTable {
    pub(super) part: Part,
    pub(super) partitions: Vec<Vec<Piece>>,
}

#[async_trait]
impl TableProvider for PiecesTable {
    fn schema(&self) -> SchemaRef {
        flow_schema(&self.part.schema())
    }

    fn table_type(&self) -> TableType {
        TableType::Base
    }

    async fn scan(
        &self,
        _: &dyn Session,
        projection: Option<&Vec<usize>>,
        _: &[Expr],
        _: Option<usize>,
    ) -> Result<Arc<dyn ExecutionPlan>> {
        let all = self.schema().fields().len();
        if projection.is_some_and(|columns| !columns.iter().copied().eq(0..all)) {
            return Err(DataFusionError::Plan(
                "the records of a plan are read with all of their columns".to_owned(),
            ));
        }
        Ok(Arc::new(FiguresExec::new(self.part.clone(), self.partitions.clone())))
    }
}

/// Reads pieces and works out the figures of their rows.
#[derive(Debug)]
pub(super) struct FiguresExec {
    pub(super) part: Part,
    pub(super) partitions: Vec<Vec<Piece>>,
    properties: Arc<PlanProperties>,
}

impl FiguresExec {
    pub(super) fn new(part: Part, partitions: Vec<Vec<Piece>>) -> Self {
        let properties = PlanProperties::new(
            EquivalenceProperties::new(flow_schema(&part.schema())),
            Partitioning::UnknownPartitioning(partitions.len()),
            EmissionType::Incremental,
            Boundedness::Bounded,
        );
        Self { part, partitions, properties: Arc::new(properties) }
    }
}

impl DisplayAs for FiguresExec {
    fn fmt_as(&self, _: DisplayFormatType, f: &mut Formatter<'_>) -> fmt::Result {
        let pieces: usize = self.partitions.iter().map(Vec::len).sum();
        write!(f, "FiguresExec: pieces={pieces}, partitions={}", self.partitions.len())
    }
}

impl ExecutionPlan for FiguresExec {
    fn name(&self) -> &str {
        "FiguresExec"
    }

    fn properties(&self) -> &Arc<PlanProperties> {
        &self.properties
    }

    fn children(&self) -> Vec<&Arc<dyn ExecutionPlan>> {
        Vec::new()
    }

    fn apply_expressions(
        &self,
        _: &mut dyn FnMut(&Arc<dyn PhysicalExpr>) -> Result<TreeNodeRecursion>,
    ) -> Result<TreeNodeRecursion> {
        Ok(TreeNodeRecursion::Continue)
    }

    fn replace_children(
        self: Arc<Self>,
        _: Vec<Arc<dyn ExecutionPlan>>,
        _: ReplaceChildrenOptions,
    ) -> Result<Arc<dyn ExecutionPlan>> {
        Ok(self)
    }

    fn with_new_children(self: Arc<Self>, _: Vec<Arc<dyn ExecutionPlan>>) -> Result<Arc<dyn ExecutionPlan>> {
        Ok(self)
    }

    fn execute(&self, partition: usize, _: Arc<TaskContext>) -> Result<SendableRecordBatchStream> {
        let lacks = || DataFusionError::Internal(format!("there is no partition {partition} of the records"));
        let pieces = self.partitions.get(partition).ok_or_else(lacks)?.clone();
        let (part, schema) = (self.part.clone(), self.schema());
        // A few batches wait for who takes them, so that memory stays bounded.
        let mut stream = RecordBatchReceiverStreamBuilder::new(self.schema(), 2);
        let give = stream.tx();
        stream.spawn_blocking(move || {
            let job = part.job()?;
            let mut worker = PartWorker::new(&job);
            for piece in &pieces {
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
        Ok(stream.build())
    }
}
