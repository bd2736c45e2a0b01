//! Figures over several rows: spreading.

mod spread;

pub use spread::{rate_a_day, spread};
