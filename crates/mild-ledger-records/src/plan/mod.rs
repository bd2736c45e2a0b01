//! The plan file: what it says, and what is wrong with it.

mod file;
mod mistake;
mod model;
mod sections;
mod vocabulary;
mod walk;

pub use mistake::{PlanMistake, PlanMistakes};
pub use model::{AsOf, Plan};
pub(crate) use model::{
    At, Condition, DateSource, MeasuredEnds, Measuring, Operand, PeriodGives, PlannedColumn, PlannedKind,
    PlannedReport, Repeats, Requirement, Test, TestKind, Then,
};
pub(crate) use vocabulary::nearest;
