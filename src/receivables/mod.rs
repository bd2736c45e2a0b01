//! What is owed: exact amounts, payment terms, aging buckets, and how an invoice stands on a date.

mod buckets;
mod standing;
mod terms;
mod terms_text;
mod terms_why;

pub use buckets::{AgingBuckets, BucketMeasure};
pub use standing::{Invoice, Standing};
pub use terms::{EarlyDiscount, PayBy, PaymentTerms};
