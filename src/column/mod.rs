//! The calculations over whole columns: values with the bits of the rows that hold one in, and the same out.
//!
//! A column function gives for each row what the call for one value gives; a row that one value would refuse,
//! or whose input is empty, is empty. A call for that row alone gives the reason of an empty cell. What
//! was measured (the rule of counting, the buckets) is one value for the whole column.
//!
//! Columns are laid out as in the Arrow columnar format: day numbers of 32 bits, and a bit a row, the least significant
//! bit first. They are borrowed ([`ColumnSlice`]) or owned ([`Column`]), and written into a column of the caller's
//! ([`ColumnSliceMut`]) by the functions that end in `_into`.
//!
//! ```
//! use mild_ledger::column::{Column, Intervals};
//! use mild_ledger::{CountRule, Date};
//!
//! let due: Column<Date> = [Some("2026-08-31".parse()?), None].into_iter().collect();
//! let as_of: Date = "2026-09-30".parse()?;
//!
//! let days = Intervals::between(&due, as_of)?.count(CountRule::DAYS);
//! assert_eq!((days.get(0), days.get(1)), (Some(30), None));
//! # Ok::<(), mild_ledger::Error>(())
//! ```

mod blocks;
mod buckets;
mod cell;
mod date_texts;
mod dispatch;
mod fields;
mod intervals;
mod labels;
mod lanes;
mod moves;
mod numbers;
mod owned;
mod people;
mod periods;
mod slices;
mod validity;
mod working_days;
mod working_moves;

pub use buckets::{exact_into_buckets, into_buckets};
pub use cell::Cell;
pub use date_texts::{DateReader, DateTally, NoDate};
pub use fields::{field, field_into, year_month_day_into};
pub use intervals::Intervals;
pub use labels::{Texts, iso_dates_into, labels_into, period_labels_into};
pub use moves::{due_dates, due_dates_into, moved, moved_to_weekday, shifted, shifted_by, shifted_into};
pub use numbers::{rounded, worked_out};
pub use owned::{Column, ColumnRows};
pub use people::{NextAnniversaries, ages, next_anniversaries, rates_per, stays_counted_to};
pub use periods::{
    first_days, first_days_into, last_days, last_days_into, nearest_starts, period_days, period_numbers,
};
pub use slices::{ColumnSlice, ColumnSliceMut, Values};
pub use validity::Validity;
pub use working_days::{
    NumbersInMonth, count_working_days, count_working_days_into, count_working_days_within, numbers_in_month,
    working_days_of_periods,
};
pub use working_moves::{add_working_days, add_working_days_into, rolled};
