//! What is owed: exact amounts, aging buckets, and how an invoice stands on a date.

mod amount;
mod buckets;
mod standing;

pub use amount::{Amount, Scale};
pub use buckets::{AgingBuckets, BucketMeasure};
pub use standing::{Invoice, Standing};
