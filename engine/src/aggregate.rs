//! A figure over the rows of a group as an aggregate of the engine, and how calls come by their constants.

use crate::aggregates::{AggregateKind, KINDS, Reduction, SHARES, Scales, Shares};
use crate::calendars::Calendars;
use crate::columns::DIGITS;
use crate::kind::Kind;
use crate::literals::Literals;
use arrow::datatypes::{DataType, Field, FieldRef};
use datafusion::error::{DataFusionError, Result};
use datafusion::logical_expr::function::{AccumulatorArgs, StateFieldsArgs};
use datafusion::logical_expr::planner::{ExprPlanner, PlannerResult, RawAggregateExpr, RawWindowExpr};
use datafusion::logical_expr::utils::format_state_name;
use datafusion::logical_expr::{
    Accumulator, AggregateUDF, AggregateUDFImpl, Expr, GroupsAccumulator, Signature, Volatility,
    WindowFunctionDefinition, WindowUDF,
};
use std::sync::Arc;

/// A figure over the rows of a group, registered with a session. The engine asks for its type before it shows the constants of a
/// call, so that each call is given one that knows them when it is planned.
#[derive(Debug)]
pub(crate) struct Aggregate {
    kind: &'static AggregateKind,
    /// None before a call with its constants was seen.
    reduction: Option<Reduction>,
    signature: Signature,
}

impl Aggregate {
    /// One that has not seen its constants.
    pub(crate) fn new(kind: &'static AggregateKind) -> Self {
        Self { kind, reduction: None, signature: Signature::user_defined(Volatility::Immutable) }
    }

    fn of_call(kind: &'static AggregateKind, arguments: &[Expr]) -> Result<Self> {
        Ok(Self { reduction: Some(planned(kind, arguments)?), ..Self::new(kind) })
    }

    fn of_many_groups(&self, of: &AccumulatorArgs<'_>) -> Result<Option<Box<dyn GroupsAccumulator>>> {
        Ok(self.of_rows(of)?.of_many_groups(scales(of)))
    }

    /// What is made of rows, each of which counts; one that asks for different values alone is refused however it was made.
    fn of_rows(&self, of: &AccumulatorArgs<'_>) -> Result<Reduction> {
        if of.is_distinct { Err(not_distinct(self.kind.name)) } else { self.reduction() }
    }

    fn reduction(&self) -> Result<Reduction> {
        self.reduction.ok_or_else(|| {
            DataFusionError::Plan(format!(
                "{}({}) is made by `mild_ledger_engine::aggregate`, or is in SQL, so that its constants are seen",
                self.kind.name,
                self.kind.arguments()
            ))
        })
    }
}

fn not_distinct(name: &str) -> DataFusionError {
    let what = "values that are met twice count twice; leave DISTINCT out, or group by them first";
    DataFusionError::Plan(format!("{name}: {what}"))
}

/// What the constants of a call make of it.
fn planned<P>(kind: &Kind<P>, arguments: &[Expr]) -> Result<P> {
    let constants = arguments.iter().map(|argument| match argument {
        Expr::Literal(value, _) => Some(value),
        _ => None,
    });
    // No figure over a group asks for a calendar.
    (kind.plan)(&Literals { function: kind.name, all: constants.collect(), calendars: &Calendars::default() })
}

/// The decimals of the columns of a call.
fn scales(of: &AccumulatorArgs<'_>) -> Scales {
    let scale = |nth: usize| match of.expr_fields.get(nth).map(|field| field.data_type()) {
        Some(DataType::Decimal128(_, scale)) => u32::try_from(*scale).unwrap_or_default(),
        _ => 0,
    };
    Scales { first: scale(0), second: scale(1) }
}

/// The registry holds a name once, so that the name distinguishes kinds.
impl PartialEq for Aggregate {
    fn eq(&self, other: &Self) -> bool {
        self.kind.name == other.kind.name && self.reduction == other.reduction
    }
}

impl Eq for Aggregate {}

impl std::hash::Hash for Aggregate {
    fn hash<H: std::hash::Hasher>(&self, state: &mut H) {
        self.kind.name.hash(state);
        self.reduction.hash(state);
    }
}

impl AggregateUDFImpl for Aggregate {
    fn name(&self) -> &str {
        self.kind.name
    }

    fn signature(&self) -> &Signature {
        &self.signature
    }

    fn coerce_types(&self, given: &[DataType]) -> Result<Vec<DataType>> {
        self.kind.taken(given).map_err(|what| self.kind.wrong(&what))
    }

    fn return_type(&self, taken: &[DataType]) -> Result<DataType> {
        let of_column = if let Some(DataType::Decimal128(_, scale)) = taken.first() { *scale } else { 0 };
        Ok(DataType::Decimal128(DIGITS, self.reduction()?.decimals(of_column)))
    }

    fn accumulator(&self, of: AccumulatorArgs<'_>) -> Result<Box<dyn Accumulator>> {
        Ok(self.of_rows(&of)?.accumulator(scales(&of)))
    }

    fn groups_accumulator_supported(&self, of: AccumulatorArgs<'_>) -> bool {
        self.of_many_groups(&of).is_ok_and(|found| found.is_some())
    }

    fn create_groups_accumulator(&self, of: AccumulatorArgs<'_>) -> Result<Box<dyn GroupsAccumulator>> {
        let none =
            || DataFusionError::Internal(format!("each group of {} has its own values", self.kind.name));
        self.of_many_groups(&of)?.ok_or_else(none)
    }

    fn state_fields(&self, of: StateFieldsArgs<'_>) -> Result<Vec<FieldRef>> {
        let fields = self.reduction()?.state().into_iter();
        Ok(fields
            .map(|(name, holds)| Arc::new(Field::new(format_state_name(of.name, name), holds, true)))
            .collect())
    }
}

/// Gives calls in SQL the aggregate, or the window function, that knows their constants.
#[derive(Debug)]
pub(crate) struct CallsWithConstants;

impl CallsWithConstants {
    /// The aggregate for a call; `None` for one of another library.
    fn of_call(
        func: &AggregateUDF,
        arguments: &[Expr],
        is_distinct: bool,
    ) -> Result<Option<Arc<AggregateUDF>>> {
        let Some(ours) = func.inner().downcast_ref::<Aggregate>() else { return Ok(None) };
        if is_distinct {
            return Err(not_distinct(ours.kind.name));
        }
        Ok(Some(Arc::new(Aggregate::of_call(ours.kind, arguments)?.into())))
    }
}

impl ExprPlanner for CallsWithConstants {
    fn plan_aggregate(&self, mut call: RawAggregateExpr) -> Result<PlannerResult<RawAggregateExpr>> {
        if let Some(known) = Self::of_call(&call.func, &call.args, call.distinct)? {
            call.func = known;
        }
        Ok(PlannerResult::Original(call))
    }

    fn plan_window(&self, mut call: RawWindowExpr) -> Result<PlannerResult<RawWindowExpr>> {
        match &call.func_def {
            WindowFunctionDefinition::AggregateUDF(func) => {
                if let Some(known) = Self::of_call(func, &call.args, call.distinct)? {
                    call.func_def = WindowFunctionDefinition::AggregateUDF(known);
                }
            }
            WindowFunctionDefinition::WindowUDF(func) if func.inner().is::<Shares>() => {
                let known = Shares::of_call(planned(&SHARES, &call.args)?);
                call.func_def = WindowFunctionDefinition::WindowUDF(Arc::new(WindowUDF::from(known)));
            }
            WindowFunctionDefinition::WindowUDF(_) => {}
        }
        Ok(PlannerResult::Original(call))
    }
}

/// A figure over the rows of a group as an expression, by its name and arguments; in SQL it is written as a call.
///
/// # Errors
/// Where the figure is unknown, and for constants that are wrong.
///
/// ```
/// use datafusion::prelude::{SessionContext, col, lit};
/// use mild_ledger_engine::aggregate;
///
/// # tokio::runtime::Builder::new_current_thread().build()?.block_on(async {
/// let table = SessionContext::new().sql("select * from (values (1), (2), (4), (8)) as v(days)").await?;
/// let ninetieth = aggregate("exact_percentile", vec![col("days"), lit(90), lit(2)])?;
/// let found = table.aggregate(vec![], vec![ninetieth.alias("ninetieth")])?.collect().await?;
/// let shown = datafusion::arrow::util::pretty::pretty_format_batches(&found)?.to_string();
/// assert!(shown.contains("| 6.80      |"), "{shown}");
/// assert!(aggregate("exact_percentile", vec![col("days"), lit(101)]).is_err());
/// # Ok::<(), Box<dyn std::error::Error>>(())
/// # })?;
/// # Ok::<(), Box<dyn std::error::Error>>(())
/// ```
pub fn aggregate(name: &str, arguments: Vec<Expr>) -> Result<Expr> {
    let kind = KINDS.iter().find(|kind| kind.name == name).ok_or_else(|| {
        let names: Vec<&str> = KINDS.iter().map(|kind| kind.name).collect();
        DataFusionError::Plan(format!("\"{}\" is none of {}", name.escape_debug(), names.join(", ")))
    })?;
    Ok(AggregateUDF::from(Aggregate::of_call(kind, &arguments)?).call(arguments))
}
