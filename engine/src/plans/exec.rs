//! Our nodes as the engine runs them: one shape for all, and what each does in a file of its own.

use super::does::Does;
use super::part::Part;
use super::rows::{KEY, ORDER, flow_schema, told_schema};
use super::{figures, repeated_keys, writing};
use datafusion::arrow::compute::SortOptions;
use datafusion::common::tree_node::TreeNodeRecursion;
use datafusion::error::{DataFusionError, Result};
use datafusion::execution::TaskContext;
use datafusion::physical_expr::expressions::col;
use datafusion::physical_expr::{EquivalenceProperties, LexOrdering, OrderingRequirements, PhysicalSortExpr};
use datafusion::physical_plan::execution_plan::{Boundedness, EmissionType, ReplaceChildrenOptions};
use datafusion::physical_plan::{
    DisplayAs, DisplayFormatType, Distribution, ExecutionPlan, ExecutionPlanProperties,
    InputDistributionRequirements, Partitioning, PhysicalExpr, PlanProperties, SendableRecordBatchStream,
};
use std::fmt::{self, Formatter};
use std::sync::Arc;

/// Our node over its input.
#[derive(Debug)]
pub(super) struct NodeExec {
    pub(super) does: Does,
    pub(super) part: Part,
    input: Arc<dyn ExecutionPlan>,
    properties: Arc<PlanProperties>,
}

impl NodeExec {
    pub(super) fn new(does: Does, part: Part, input: Arc<dyn ExecutionPlan>) -> Self {
        let gives = match does {
            Does::Figures => flow_schema(&part),
            Does::WriteRows | Does::RepeatedKeys => told_schema(),
        };
        let partitions = match does {
            // Rows that are ordered are in one file, in their order.
            Does::WriteRows if part.is_ordered() => 1,
            _ => input.output_partitioning().partition_count(),
        };
        let properties = PlanProperties::new(
            EquivalenceProperties::new(gives),
            Partitioning::UnknownPartitioning(partitions),
            EmissionType::Incremental,
            Boundedness::Bounded,
        );
        Self { does, part, input, properties: Arc::new(properties) }
    }

    /// The column that its input is to be ordered by, where it is to be.
    fn ordered_by(&self) -> Option<Arc<dyn PhysicalExpr>> {
        let column = match self.does {
            Does::WriteRows if self.part.is_ordered() => ORDER,
            Does::RepeatedKeys => KEY,
            Does::Figures | Does::WriteRows => return None,
        };
        col(column, &self.input.schema()).ok()
    }

    /// The same over another input.
    fn over(&self, children: Vec<Arc<dyn ExecutionPlan>>) -> Result<Arc<dyn ExecutionPlan>> {
        let lacks = || DataFusionError::Internal(format!("{} has no input", self.does.word()));
        let input = children.into_iter().next().ok_or_else(lacks)?;
        Ok(Arc::new(Self::new(self.does, self.part.clone(), input)))
    }
}

impl DisplayAs for NodeExec {
    fn fmt_as(&self, _: DisplayFormatType, f: &mut Formatter<'_>) -> fmt::Result {
        f.write_str(self.does.word())
    }
}

impl ExecutionPlan for NodeExec {
    fn name(&self) -> &str {
        self.does.word()
    }

    fn properties(&self) -> &Arc<PlanProperties> {
        &self.properties
    }

    fn input_distribution_requirements(&self) -> InputDistributionRequirements {
        InputDistributionRequirements::new(vec![match self.does {
            Does::WriteRows if self.part.is_ordered() => Distribution::SinglePartition,
            // Rows of one key come to one partition.
            Does::RepeatedKeys => Distribution::KeyPartitioned(self.ordered_by().into_iter().collect()),
            Does::Figures | Does::WriteRows => Distribution::UnspecifiedDistribution,
        }])
    }

    fn required_input_ordering(&self) -> Vec<Option<OrderingRequirements>> {
        let options = SortOptions { descending: false, nulls_first: true };
        let ordering = self.ordered_by().map(|column| PhysicalSortExpr::new(column, options));
        vec![ordering.and_then(|ordering| LexOrdering::new([ordering])).map(OrderingRequirements::from)]
    }

    fn benefits_from_input_partitioning(&self) -> Vec<bool> {
        // The pieces are spread over the partitions already, in the order of the rows.
        vec![self.does == Does::RepeatedKeys]
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
        let (part, gives) = (self.part.clone(), self.schema());
        Ok(match self.does {
            Does::Figures => figures::of_pieces(part, gives, input),
            Does::WriteRows => writing::written(part, gives, input),
            Does::RepeatedKeys => repeated_keys::found(gives, input),
        })
    }
}
