//! The calculations over whole columns: day numbers with a mask of empties in, values and a mask out.
//!
//! A column function gives for each row what the call for one value gives; a row that one value would refuse,
//! or whose input is empty, is empty. The reason of an empty cell is had by asking for that row again. What
//! was measured (the rule of counting, the buckets) is one value for the whole column.
//!
//! ```
//! use mild_ledger::column::{DateColumn, Dates, count_between};
//! use mild_ledger::{CountRule, Date};
//!
//! let mut due = DateColumn::new();
//! due.push(Some("2026-08-31".parse()?));
//! due.push(None);
//! let as_of: Date = "2026-09-30".parse()?;
//!
//! let days = count_between(Dates::Column(&due), Dates::Every(as_of), CountRule::DAYS, due.len())?;
//! assert_eq!((days.get(0), days.get(1)), (Some(30), None));
//! # Ok::<(), mild_ledger::Error>(())
//! ```

mod buckets;
mod counts;
mod dates;
mod mask;
mod text;

pub use buckets::{BucketColumn, into_buckets};
pub use counts::{CountColumn, Dates, count_between};
pub use dates::{DateColumn, shifted};
pub use mask::Mask;
pub use text::{DateReader, DateTally, NoDate};
