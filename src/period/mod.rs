//! Calendar months, and days named by the period they begin or end.

mod month;
mod named_day;

pub use month::Month;
pub use named_day::NamedDay;
