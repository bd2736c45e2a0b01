//! Rows on their way into files, one a partition.

use super::failures::within;
use super::part::Part;
use super::rows::{Flow, ORDER, told, told_schema};
use datafusion::arrow::array::RecordBatch;
use datafusion::arrow::compute::SortOptions;
use datafusion::arrow::datatypes::SchemaRef;
use datafusion::common::tree_node::TreeNodeRecursion;
use datafusion::error::{DataFusionError, Result};
use datafusion::execution::TaskContext;
use datafusion::physical_expr::expressions::col;
use datafusion::physical_expr::{EquivalenceProperties, LexOrdering, OrderingRequirements, PhysicalSortExpr};
use datafusion::physical_plan::execution_plan::{Boundedness, EmissionType, ReplaceChildrenOptions};
use datafusion::physical_plan::stream::RecordBatchStreamAdapter;
use datafusion::physical_plan::{
    DisplayAs, DisplayFormatType, Distribution, ExecutionPlan, ExecutionPlanProperties,
    InputDistributionRequirements, Partitioning, PhysicalExpr, PlanProperties, SendableRecordBatchStream,
};
use futures::{StreamExt, stream};
use mild_ledger_records::PartFile;
use std::fmt::{self, Formatter};
use std::hash::{BuildHasher, Hasher, RandomState};
use std::sync::Arc;

/// Writes the rows of each partition to a file of its own, and gives on what stands beside them and what is told of the file.
#[derive(Debug)]
pub(super) struct WriteExec {
    pub(super) part: Part,
    input: Arc<dyn ExecutionPlan>,
    properties: Arc<PlanProperties>,
}

impl WriteExec {
    pub(super) fn new(part: Part, input: Arc<dyn ExecutionPlan>) -> Result<Self> {
        let partitions = if part.is_ordered() { 1 } else { input.output_partitioning().partition_count() };
        let properties = PlanProperties::new(
            EquivalenceProperties::new(told_schema()),
            Partitioning::UnknownPartitioning(partitions),
            EmissionType::Incremental,
            Boundedness::Bounded,
        );
        Ok(Self { part, input, properties: Arc::new(properties) })
    }

    /// The same over another input.
    fn over(&self, children: Vec<Arc<dyn ExecutionPlan>>) -> Result<Arc<dyn ExecutionPlan>> {
        let lacks = || DataFusionError::Internal("WriteExec has no input".to_owned());
        let input = children.into_iter().next().ok_or_else(lacks)?;
        Ok(Arc::new(Self::new(self.part.clone(), input)?))
    }
}

impl DisplayAs for WriteExec {
    fn fmt_as(&self, _: DisplayFormatType, f: &mut Formatter<'_>) -> fmt::Result {
        f.write_str("WriteExec")
    }
}

impl ExecutionPlan for WriteExec {
    fn name(&self) -> &str {
        "WriteExec"
    }

    fn properties(&self) -> &Arc<PlanProperties> {
        &self.properties
    }

    fn input_distribution_requirements(&self) -> InputDistributionRequirements {
        // Rows that are ordered stand in one file, in their order.
        let distribution = match self.part.is_ordered() {
            true => Distribution::SinglePartition,
            false => Distribution::UnspecifiedDistribution,
        };
        InputDistributionRequirements::new(vec![distribution])
    }

    fn required_input_ordering(&self) -> Vec<Option<OrderingRequirements>> {
        let order = col(ORDER, &self.input.schema()).ok().filter(|_| self.part.is_ordered());
        let ordering = order.and_then(|order| {
            let options = SortOptions { descending: false, nulls_first: true };
            LexOrdering::new([PhysicalSortExpr::new(order, options)])
        });
        vec![ordering.map(OrderingRequirements::from)]
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
        let input = self.input.execute(partition, context)?;
        let writing =
            Writing { part: self.part.clone(), file: None, schema: self.schema(), input: Some(input) };
        let written = stream::try_unfold(writing, |writing| writing.next());
        Ok(Box::pin(RecordBatchStreamAdapter::new(self.schema(), written)))
    }
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
    /// The next batch of what stands beside the rows; behind the last one what is told of the file.
    async fn next(mut self) -> Result<Option<(RecordBatch, Self)>> {
        let output = self.part.schema().fields().len();
        while let Some(input) = &mut self.input {
            let Some(batch) = input.next().await else {
                self.input = None;
                break;
            };
            let batch = batch?;
            let Flow { records, written, beside, first } = Flow::of(&batch, output)?;
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

    /// Writes rows, the first of which stands at this place in the records: by it the files are put in their order.
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
