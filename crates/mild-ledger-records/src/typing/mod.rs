//! Texts into typed columns by named patterns and notations.

mod broken_rows;
mod cells;
mod cleaning;
mod dates;
mod expected;
mod numbers;
mod suspicion;
mod total_words;

pub(crate) use broken_rows::broken_row;
pub(crate) use cells::Place;
pub(crate) use cleaning::Cleaner;
pub(crate) use dates::ColumnReadings;
pub(crate) use expected::expected_of;
pub(crate) use total_words::says_total;
