//! The keys that several rows have, of all partitions.

use super::rows::{Beside, KEY, told_schema};
use datafusion::arrow::array::{LargeBinaryArray, LargeBinaryBuilder, RecordBatch};
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
use std::fmt::{self, Formatter};
use std::sync::Arc;

/// Gives on the keys that more than one row has, and all that is told. Rows of one key come to one partition and stand behind each other there: the engine
/// sees to that, on disk where memory is short.
#[derive(Debug)]
pub(super) struct RepeatedKeysExec {
    input: Arc<dyn ExecutionPlan>,
    properties: Arc<PlanProperties>,
}

impl RepeatedKeysExec {
    pub(super) fn new(input: Arc<dyn ExecutionPlan>) -> Result<Self> {
        let properties = PlanProperties::new(
            EquivalenceProperties::new(told_schema()),
            Partitioning::UnknownPartitioning(input.output_partitioning().partition_count()),
            EmissionType::Incremental,
            Boundedness::Bounded,
        );
        Ok(Self { input, properties: Arc::new(properties) })
    }

    fn key(&self) -> Option<Arc<dyn PhysicalExpr>> {
        col(KEY, &self.input.schema()).ok()
    }

    /// The same over another input.
    fn over(&self, children: Vec<Arc<dyn ExecutionPlan>>) -> Result<Arc<dyn ExecutionPlan>> {
        let lacks = || DataFusionError::Internal("RepeatedKeysExec has no input".to_owned());
        let input = children.into_iter().next().ok_or_else(lacks)?;
        Ok(Arc::new(Self::new(input)?))
    }
}

impl DisplayAs for RepeatedKeysExec {
    fn fmt_as(&self, _: DisplayFormatType, f: &mut Formatter<'_>) -> fmt::Result {
        f.write_str("RepeatedKeysExec")
    }
}

impl ExecutionPlan for RepeatedKeysExec {
    fn name(&self) -> &str {
        "RepeatedKeysExec"
    }

    fn properties(&self) -> &Arc<PlanProperties> {
        &self.properties
    }

    fn input_distribution_requirements(&self) -> InputDistributionRequirements {
        InputDistributionRequirements::new(vec![Distribution::KeyPartitioned(
            self.key().into_iter().collect(),
        )])
    }

    fn required_input_ordering(&self) -> Vec<Option<OrderingRequirements>> {
        let ordering = self.key().and_then(|key| {
            let options = SortOptions { descending: false, nulls_first: true };
            LexOrdering::new([PhysicalSortExpr::new(key, options)])
        });
        vec![ordering.map(OrderingRequirements::from)]
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
        let looking =
            Looking { input: self.input.execute(partition, context)?, last: None, schema: self.schema() };
        let found = stream::try_unfold(looking, |looking| looking.next());
        Ok(Box::pin(RecordBatchStreamAdapter::new(self.schema(), found)))
    }
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
