//! Plain text for a terminal, or for a file that a person reads.

mod aging;
mod around;
mod blocks;
mod calendar;
mod grid;
mod mistakes;
mod shift;
mod tables;
mod text;
mod working_days;
mod workings;

pub use crate::shown::visible;
pub use around::around;
pub use blocks::{between, between_times, run};
pub use calendar::{holidays, shipped_calendars, work_years, year_grid};
pub use mistakes::{Colour, mistakes};
pub use shift::shift;
pub use text::lines;
pub use working_days::working_days;

/// How wide a table may be.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Width {
    /// So many columns of a terminal.
    Columns(usize),
    /// As wide as it needs to be, for a file or a pipe.
    Unlimited,
}

impl Width {
    fn fits(self, width: usize) -> bool {
        match self {
            Self::Columns(columns) => width <= columns,
            Self::Unlimited => true,
        }
    }
}
