//! What is owed: exact amounts, aging buckets, and how an invoice stands on a date.

mod buckets;
mod standing;

pub use buckets::{AgingBuckets, BucketMeasure};
pub use standing::{Invoice, Standing};
