//! Figures over several rows: percentiles, shares of a whole, spreading.

mod percentile;
mod shares;
mod spread;

pub use percentile::{PercentilePlace, percentile};
pub use shares::shares_of_hundred;
pub use spread::{rate_a_day, spread};
