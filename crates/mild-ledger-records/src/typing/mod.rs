//! Texts of a batch into dates and amounts, the rows that cannot be used, and patterns that would read a column better.

mod cleaning;
mod suspicion;

pub(crate) use cleaning::{Cleaner, ColumnReadings, Place, broken_row};
