//! What a plan does besides reading its records, as nodes of a logical plan of the engine.

use super::does::Does;
use super::exec::NodeExec;
use super::part::Part;
use super::pieces::PiecesTable;
use super::rows::{ORDER, flow_schema, told_schema};
use async_trait::async_trait;
use datafusion::catalog::Session;
use datafusion::common::{DFSchema, DFSchemaRef};
use datafusion::datasource::provider_as_source;
use datafusion::error::{DataFusionError, Result};
use datafusion::execution::context::QueryPlanner;
use datafusion::logical_expr::physical_planning_context::PhysicalPlanningContext;
use datafusion::logical_expr::{
    Expr, Extension, LogicalPlan, LogicalPlanBuilder, UserDefinedLogicalNode, UserDefinedLogicalNodeCore, col,
};
use datafusion::physical_plan::ExecutionPlan;
use datafusion::physical_planner::{DefaultPhysicalPlanner, ExtensionPlanner, PhysicalPlanner};
use mild_ledger_records::Piece;
use std::fmt::{self, Formatter};
use std::sync::Arc;

/// Our node.
#[derive(Debug, Clone, PartialEq, Eq, Hash, PartialOrd)]
pub(super) struct PlanNode {
    pub(super) does: Does,
    pub(super) part: Part,
    pub(super) input: LogicalPlan,
    schema: Unordered,
}

/// A schema, of which none comes before another.
#[derive(Debug, Clone, PartialEq, Eq, Hash)]
struct Unordered(DFSchemaRef);

impl PartialOrd for Unordered {
    fn partial_cmp(&self, other: &Self) -> Option<std::cmp::Ordering> {
        (self == other).then_some(std::cmp::Ordering::Equal)
    }
}

impl PlanNode {
    pub(super) fn new(does: Does, part: Part, input: LogicalPlan) -> Result<Self> {
        let gives = match does {
            Does::Figures => flow_schema(&part),
            Does::WriteRows | Does::RepeatedKeys => told_schema(),
        };
        let schema = DFSchema::try_from(gives.as_ref().clone())?;
        Ok(Self { does, part, input, schema: Unordered(Arc::new(schema)) })
    }

    fn as_plan(does: Does, part: &Part, input: LogicalPlan) -> Result<LogicalPlan> {
        let node = Self::new(does, part.clone(), input)?;
        Ok(LogicalPlan::Extension(Extension { node: Arc::new(node) }))
    }
}

impl UserDefinedLogicalNodeCore for PlanNode {
    fn name(&self) -> &str {
        self.does.word()
    }

    fn inputs(&self) -> Vec<&LogicalPlan> {
        vec![&self.input]
    }

    fn schema(&self) -> &DFSchemaRef {
        &self.schema.0
    }

    fn expressions(&self) -> Vec<Expr> {
        Vec::new()
    }

    fn fmt_for_explain(&self, f: &mut Formatter<'_>) -> fmt::Result {
        f.write_str(self.does.word())
    }

    fn with_exprs_and_inputs(&self, _: Vec<Expr>, inputs: Vec<LogicalPlan>) -> Result<Self> {
        let input = inputs.into_iter().next();
        let lacks = || DataFusionError::Internal("a node of a plan has no input".to_owned());
        Ok(Self { input: input.ok_or_else(lacks)?, ..self.clone() })
    }

    fn necessary_children_exprs(&self, _: &[usize]) -> Option<Vec<Vec<usize>>> {
        // All of them, whatever is asked of what it gives.
        Some(vec![(0..self.input.schema().fields().len()).collect()])
    }
}

/// The logical plan of a run in parts: its records, in their order where it orders rows, the writing of these, and the keys that repeat, where they are
/// looked for.
pub(super) fn logical_plan(part: &Part, partitions: Vec<Vec<Piece>>) -> Result<LogicalPlan> {
    let table = PiecesTable { partitions };
    let pieces = LogicalPlanBuilder::scan("pieces", provider_as_source(Arc::new(table)), None)?.build()?;
    let mut rows = PlanNode::as_plan(Does::Figures, part, pieces)?;
    if part.is_ordered() {
        rows = LogicalPlanBuilder::from(rows).sort([col(ORDER).sort(true, true)])?.build()?;
    }
    let written = PlanNode::as_plan(Does::WriteRows, part, rows)?;
    if !part.tells_keys() {
        return Ok(written);
    }
    PlanNode::as_plan(Does::RepeatedKeys, part, written)
}

/// Plans our nodes, and leaves all others to the engine.
#[derive(Debug, Default)]
pub(super) struct PlanNodes;

#[async_trait]
impl QueryPlanner for PlanNodes {
    async fn create_physical_plan(
        &self,
        logical_plan: &LogicalPlan,
        session: &dyn Session,
    ) -> Result<Arc<dyn ExecutionPlan>> {
        let planner = DefaultPhysicalPlanner::with_extension_planners(vec![Arc::new(PlanNodes)]);
        planner.create_physical_plan(logical_plan, session).await
    }
}

#[async_trait]
impl ExtensionPlanner for PlanNodes {
    async fn plan_extension(
        &self,
        _: &dyn PhysicalPlanner,
        node: &dyn UserDefinedLogicalNode,
        _: &[&LogicalPlan],
        inputs: &[Arc<dyn ExecutionPlan>],
        _: &dyn Session,
        _: &PhysicalPlanningContext,
    ) -> Result<Option<Arc<dyn ExecutionPlan>>> {
        let (Some(node), [input]) = (node.as_any().downcast_ref::<PlanNode>(), inputs) else {
            return Ok(None);
        };
        Ok(Some(Arc::new(NodeExec::new(node.does, node.part.clone(), Arc::clone(input)))))
    }
}
