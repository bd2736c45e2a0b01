//! What is owed: exact amounts, payment terms, aging buckets, and the state of an invoice on a date.

mod balance;
mod buckets;
mod credits;
mod measures;
mod movement;
mod standing;
mod terms;
mod terms_text;
mod terms_why;

pub use balance::{Account, Payment};
pub use buckets::{AgingBuckets, BucketMeasure};
pub use credits::{CreditsStand, SetOff};
pub use measures::{
    Collections, MonthSales, average_days_late, days_sales_by_count_back, days_sales_outstanding,
    loss_allowance, share_overdue,
};
pub use movement::{BucketMovement, MovedFrom, MovedTo, Movement, Position};
pub use standing::{Invoice, Standing};
pub use terms::{EarlyDiscount, PayBy, PaymentTerms};
