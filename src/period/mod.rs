//! Weeks, months, quarters, years and their fiscal kin: bounds, numbers, labels, neighbours.

mod date_range;
mod edge;
mod fiscal_year;
mod label;
mod month;
mod named_day;
mod named_window;
mod nearest;
mod rule;
mod stretch;
mod week_numbers;
mod week_year;
mod why;

pub use date_range::DateRange;
pub use edge::PeriodEdge;
pub use fiscal_year::{FiscalNaming, FiscalYear};
pub use label::LabelPattern;
pub use month::Month;
pub use named_day::NamedDay;
pub use named_window::NamedWindow;
pub use nearest::Nearness;
pub use rule::PeriodRule;
pub use stretch::Period;
pub use week_numbers::{WeekNumber, WeekNumbers, WeekdayNumbers};
pub use week_year::{WeekSplit, WeekYear, YearEnding};
