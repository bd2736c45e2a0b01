//! Ages, anniversaries, tenure and headcounts.

mod anniversary;
mod headcount;
mod rate;
mod tenure;
mod why;

pub use anniversary::{Anniversaries, Anniversary};
pub use headcount::{Headcount, HeadcountLine};
pub use rate::rate_per;
pub use tenure::Tenure;
pub use why::why_rate_per;
