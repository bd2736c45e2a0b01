//! Ages, anniversaries and tenure.

mod anniversary;
mod rate;
mod tenure;

pub use anniversary::{Anniversaries, Window};
pub use rate::rate_per;
pub use tenure::Tenure;
