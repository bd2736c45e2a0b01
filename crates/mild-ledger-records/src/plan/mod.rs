//! The plan file: what it says, and what is wrong with it.

mod as_of;
mod file;
mod model;
mod output;
mod records;
mod top;
mod vocabulary;

pub(crate) use model::AS_OF_FIELD;
pub use model::{AsOf, Plan};
