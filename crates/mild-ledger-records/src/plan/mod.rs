//! The plan file: what it says, and what is wrong with it.

mod as_of;
mod control;
mod document_format;
mod model;
mod output;
mod plan_file;
mod records;
mod top;
mod vocabulary;

pub use document_format::DocumentFormat;
pub use model::{AsOf, Plan};
pub(crate) use model::{ControlOf, MergedRows, OutputColumns, STANDARD_OUTPUT, TotalRow};
