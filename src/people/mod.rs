//! Ages, anniversaries and tenure.

mod anniversary;
mod rate;
mod tenure;
mod why;

pub use anniversary::{Anniversaries, Anniversary};
pub use rate::rate_per;
pub use tenure::Tenure;
pub use why::why_rate_per;
