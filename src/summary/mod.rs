//! Figures over several rows: percentiles, shares of a whole, spreading, and how far jobs have come.

mod outliers;
mod over_periods;
mod pace;
mod percentile;
mod shares;
mod spread;
mod turnaround;

pub use outliers::{OutlierBounds, OutlierSide, even_edges};
pub use over_periods::{PeriodShare, SpreadBy, spread_over_periods};
pub use pace::{Pace, PaceTarget, TargetPeriod, target_by_period};
pub use percentile::{PercentilePlace, percentile, percentile_of_counted};
pub use shares::shares_of_hundred;
pub use spread::{rate_a_day, spread};
pub use turnaround::{Job, Progress};
