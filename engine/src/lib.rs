//! The calculations of Mild Ledger inside a query engine: dates, intervals, working days, due dates and buckets as functions of
//! SQL and of the engine's expressions, each on the library's column functions, over the engine's Arrow arrays without a copy.
//!
//! ```
//! use datafusion::prelude::SessionContext;
//!
//! # tokio::runtime::Builder::new_current_thread().build()?.block_on(async {
//! let context = SessionContext::new();
//! mild_ledger_engine::register(&context)?;
//! let sql = "select working_days(date '2022-01-01', date '2022-01-09', 'england-wales') as days";
//! let batches = context.sql(sql).await?.collect().await?;
//! let shown = datafusion::arrow::util::pretty::pretty_format_batches(&batches)?.to_string();
//! assert!(shown.contains("| 4    |"), "{shown}");
//! # Ok::<(), Box<dyn std::error::Error>>(())
//! # })?;
//! # Ok::<(), Box<dyn std::error::Error>>(())
//! ```
//!
//! Figures over the rows of a group (sums, means, percentiles) are exact, and rounded once.
//!
//! An empty input gives an empty figure. Where there is none though all inputs are there, the figure is empty too, and
//! `why_empty(…)` around the call says why. Choices such as `'complete months'` or a calendar's name are constants: a wrong one is an
//! error before anything is read.

mod addresses;
mod aggregate;
mod aggregates;
mod calendars;
mod columns;
mod functions;
mod kind;
mod literals;
mod page;
mod plans;
mod scalar;
mod web_client;
mod why_empty;

pub use addresses::addresses;
pub use aggregate::aggregate;
pub use calendars::Calendars;
pub use page::{FunctionPage, functions};
pub use plans::{PIECE_BYTES, PlanEngine, name_process, plan_state};
#[cfg(feature = "cluster")]
pub use plans::{PlanLogicalCodec, PlanPhysicalCodec};

use aggregate::{Aggregate, CallsWithConstants};
use aggregates::Shares;
use datafusion::error::Result;
use datafusion::execution::FunctionRegistry;
use datafusion::logical_expr::{AggregateUDF, ScalarUDF, WindowUDF};
use datafusion::prelude::SessionContext;
use scalar::{Asked, Function};
use std::sync::Arc;
use why_empty::{WhyEmpty, WhyEmptyOfCall};

/// Gives a session every calculation as a function, with the calendars that ship.
///
/// # Errors
/// Where the session takes no functions.
///
/// ```
/// use datafusion::prelude::SessionContext;
/// let context = SessionContext::new();
/// mild_ledger_engine::register(&context)?;
/// assert!(context.state().scalar_functions().contains_key("due_date"));
/// # Ok::<(), datafusion::error::DataFusionError>(())
/// ```
pub fn register(context: &SessionContext) -> Result<()> {
    register_with(context, Calendars::default())
}

/// The same with calendars of one's own besides those that ship.
///
/// # Errors
/// Where the session takes no functions.
///
/// ```
/// use datafusion::prelude::SessionContext;
/// use mild_ledger::WorkCalendar;
/// use mild_ledger_engine::{Calendars, register_with};
/// let yard = WorkCalendar::rest_days_only("sunday, monday".parse()?).with_name("yard");
/// register_with(&SessionContext::new(), Calendars::default().with(yard))?;
/// # Ok::<(), Box<dyn std::error::Error>>(())
/// ```
pub fn register_with(context: &SessionContext, calendars: Calendars) -> Result<()> {
    let calendars = Arc::new(calendars);
    for kind in functions::KINDS {
        for asked in [Asked::Figure, Asked::WhyEmpty] {
            context.register_udf(ScalarUDF::from(Function::new(kind, asked, Arc::clone(&calendars))));
        }
    }
    context.register_udf(ScalarUDF::from(WhyEmpty::default()));
    for kind in aggregates::KINDS {
        context.register_udaf(AggregateUDF::from(Aggregate::new(kind)));
    }
    context.register_udwf(WindowUDF::from(Shares::default()));
    let state = context.state_ref();
    let mut state = state.write();
    state.register_expr_planner(Arc::new(CallsWithConstants))?;
    state.register_function_rewrite(Arc::new(WhyEmptyOfCall { calendars }))
}
