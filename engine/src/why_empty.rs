//! `why_empty(…)` around the call of a function.

use crate::calendars::Calendars;
use crate::functions::KINDS;
use crate::scalar::{Asked, Function};
use arrow::datatypes::DataType;
use datafusion::common::DFSchema;
use datafusion::common::config::ConfigOptions;
use datafusion::common::tree_node::Transformed;
use datafusion::error::{DataFusionError, Result};
use datafusion::logical_expr::expr::ScalarFunction;
use datafusion::logical_expr::expr_rewriter::FunctionRewrite;
use datafusion::logical_expr::{
    ColumnarValue, Expr, ScalarFunctionArgs, ScalarUDF, ScalarUDFImpl, Signature, Volatility,
};
use std::sync::Arc;

const NAME: &str = "why_empty";

/// What `why_empty` is until it is seen around which call it is.
#[derive(Debug, PartialEq, Eq, Hash)]
pub(crate) struct WhyEmpty {
    signature: Signature,
}

impl Default for WhyEmpty {
    fn default() -> Self {
        Self { signature: Signature::any(1, Volatility::Immutable) }
    }
}

fn around_nothing() -> DataFusionError {
    let names: Vec<&str> = KINDS.iter().map(|kind| kind.name).collect();
    DataFusionError::Plan(format!("why_empty(…) is around a call of one of {}", names.join(", ")))
}

impl ScalarUDFImpl for WhyEmpty {
    fn name(&self) -> &str {
        NAME
    }

    fn signature(&self) -> &Signature {
        &self.signature
    }

    fn return_type(&self, _: &[DataType]) -> Result<DataType> {
        Ok(DataType::Utf8)
    }

    fn invoke_with_args(&self, _: ScalarFunctionArgs) -> Result<ColumnarValue> {
        Err(around_nothing())
    }
}

/// Puts the function that gives the reasons in place of `why_empty` around a call.
#[derive(Debug)]
pub(crate) struct WhyEmptyOfCall {
    pub(crate) calendars: Arc<Calendars>,
}

impl FunctionRewrite for WhyEmptyOfCall {
    fn name(&self) -> &str {
        NAME
    }

    fn rewrite(&self, expr: Expr, _: &DFSchema, _: &ConfigOptions) -> Result<Transformed<Expr>> {
        let Expr::ScalarFunction(ScalarFunction { func, args }) = &expr else {
            return Ok(Transformed::no(expr));
        };
        if func.name() != NAME {
            return Ok(Transformed::no(expr));
        }
        let [Expr::ScalarFunction(call)] = args.as_slice() else { return Err(around_nothing()) };
        let kind = KINDS.iter().find(|kind| kind.name == call.func.name()).ok_or_else(around_nothing)?;
        let reasons = Function::new(kind, Asked::WhyEmpty, Arc::clone(&self.calendars));
        let reasons = Arc::new(ScalarUDF::from(reasons));
        Ok(Transformed::yes(Expr::ScalarFunction(ScalarFunction::new_udf(reasons, call.args.clone()))))
    }
}
