//! Figures over several rows: percentiles, shares of a whole, spreading, and how far jobs have come.

mod allocation;
mod outliers;
mod over_periods;
mod percentile;
mod shares;
mod target;
mod turnaround;

pub use allocation::{allocate, rate_a_day};
pub use outliers::{OutlierBounds, OutlierSide, even_edges};
pub use over_periods::{AllocationBasis, PeriodShare, allocate_over_periods};
pub use percentile::{PercentilePlace, percentile, percentile_of_counted};
pub use shares::shares_of_hundred;
pub use target::{TargetAmount, TargetPeriod, TargetProgress, target_by_period};
pub use turnaround::{Job, Progress};
