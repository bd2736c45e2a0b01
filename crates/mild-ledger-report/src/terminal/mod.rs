//! Plain text for a terminal, or for a file that a person reads.

mod aging;
mod around;
mod between;
mod between_times;
mod grid;
mod mistakes;
mod numbers;
mod run;
mod shift;
mod text;

pub use around::around;
pub use between::between;
pub(crate) use between::{decimal, workings};
pub use between_times::between_times;
pub(crate) use between_times::workings as clock_workings;
pub use mistakes::{Colour, mistakes};
pub use run::run;
pub use shift::shift;
pub use text::visible;

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
