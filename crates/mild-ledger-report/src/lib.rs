//! What people see: tables for the terminal, messages with carets, and the JSON of the command.
//!
//! Everything here is text made from finished figures; nothing is calculated but shares and column widths.
//! Texts from records are shown with their control signs made visible, so that they cannot steer a terminal.

mod moved;
mod shown;
mod split;
mod surroundings;
mod work_years;

pub mod figures;
pub mod json;
pub mod png;
pub mod svg;
pub mod terminal;

pub use moved::{Moved, MovedFrom};
pub use split::Split;
pub use surroundings::{PeriodFigure, Surroundings, SurroundingsRequest};
pub use work_years::{Target, WorkYears};

/// Whether figures come with their working.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Detail {
    /// The figures alone.
    FiguresOnly,
    /// The figures, and how each came about.
    WithWorking,
}
