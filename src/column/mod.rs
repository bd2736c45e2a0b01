//! The calculations over whole columns: day numbers with a mask of empties in, values and a mask out.
//!
//! A column function gives for each row what the call for one value gives; a row that one value would refuse,
//! or whose input is empty, is empty. The reason of an empty cell is had by asking for that row again. What
//! was measured (the rule of counting, the buckets) is one value for the whole column.
//!
//! ```
//! use mild_ledger::column::{DateColumn, Dates, Intervals};
//! use mild_ledger::{CountRule, Date};
//!
//! let mut due = DateColumn::new();
//! due.push(Some("2026-08-31".parse()?));
//! due.push(None);
//! let as_of: Date = "2026-09-30".parse()?;
//!
//! let days = Intervals::between(Dates::Column(&due), Dates::Every(as_of), due.len())?.count(CountRule::DAYS);
//! assert_eq!((days.get(0), days.get(1)), (Some(30), None));
//! # Ok::<(), mild_ledger::Error>(())
//! ```

mod buckets;
mod counts;
mod dates;
mod dispatch;
mod fields;
mod figures;
mod intervals;
mod lanes;
mod mask;
mod moves;
mod periods;
mod text;
mod work;

pub use buckets::{BucketColumn, into_buckets};
pub use counts::{CountColumn, Dates};
pub use dates::DateColumn;
pub use fields::{YearMonthDayColumn, field, field_into, year_month_day, year_month_day_into};
pub use figures::{FractionColumn, PartsColumn};
pub use intervals::Intervals;
pub use mask::Mask;
pub use moves::{shifted, shifted_into};
pub use periods::{first_days, first_days_into, last_days, last_days_into};
pub use text::{DateReader, DateTally, NoDate};
pub use work::{WorkingDaysColumn, working_days, working_days_into, working_days_on, working_days_on_into};
