//! The plan file: what it says, and what is wrong with it.

mod file;
mod mistake;
mod model;
mod sections;
mod vocabulary;
mod walk;

pub use mistake::{PlanMistake, PlanMistakes};
pub(crate) use model::{
    AnniversaryGives, At, CalendarChoice, Condition, DateSource, FieldOf, Measuring, Operand, Operation,
    PeriodGives, PlannedColumn, PlannedKind, PlannedMove, PlannedReport, Quantity, RatePer, Repeats,
    Requirement, ShiftSource, Test, TestKind, Then, TimeKept, WorkingDayGives,
};
pub use model::{AsOf, Plan};
pub(crate) use sections::{read_date, syntax_mistake};
pub(crate) use vocabulary::{Keys, nearest};
pub(crate) use walk::{Value, Walk, kind_of};
