//! The plan file: what it says, and what is wrong with it.

mod as_of;
mod control;
mod date_column;
mod model;
mod number_column;
mod output;
mod plan_file;
mod quoted_header;
mod records;
mod top;
mod vocabulary;

pub(crate) use model::{AS_OF_FIELD, MergedRows};
pub use model::{AsOf, Plan};
