//! Plain text for a terminal, or for a file that a person reads.

mod answers;
mod blocks;
mod grid;
mod mistakes;
mod months;
mod sections;
mod tables;
mod text;
mod workings;

pub use crate::document::RunDetail;
pub use crate::shown::visible;
pub use answers::{
    added, between, between_times, brief, check, due, explained, holidays, in_short, look, periods, run,
    shift, shipped_calendars, sources, two_calendars, verified, work_years, year_grid,
};
pub use mistakes::{Colour, mistakes};
pub use sections::section;
pub use text::lines;

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

    /// By how many columns something is too wide.
    fn too_much(self, width: usize) -> Option<usize> {
        match self {
            Self::Columns(columns) => width.checked_sub(columns).filter(|more| *more > 0),
            Self::Unlimited => None,
        }
    }
}
