//! Columns and conditions in one line of words, as the tables of a plan that say the same.

mod conditions;
mod form;
mod line;
mod slot;
mod values;
mod words;

pub(crate) use conditions::{Compares, ConditionWord, Holds, LineCondition, condition_tables};
#[cfg(test)]
pub(crate) use form::shown;
pub(crate) use line::{DefinedColumn, LineKind, read_definition};
pub use values::{UsedAs, UsedColumn};
