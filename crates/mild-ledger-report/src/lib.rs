//! What people see: tables for the terminal, messages with carets, and the JSON of the command.
//!
//! What a command answers is worked out once, into facts; their display is a list of blocks, which a terminal renders,
//! or the object of the same facts. Nothing is calculated on the way but the widths of columns.
//! Texts from records are shown with their control characters made visible, so that they cannot steer a terminal.

mod document;
mod drawn;
mod ending;
mod facts;
mod numbers;
mod picture;
mod shown;

pub mod html;
pub mod json;
pub mod markdown;
pub mod terminal;
pub mod workbook;

pub use drawn::drawn;
pub use ending::{Ending, error_said};
pub use facts::one_figure as figures;
pub use facts::{
    Between, BetweenTimes, CalendarSources, Due, MoveFailure, MoveSetting, Moved, MovedFrom, PeriodFigure,
    RolledDates, Split, Surroundings, SurroundingsRequest, Target, TwoCalendars, WorkYears, ZoneClock,
};
pub use picture::{png, svg};

/// Whether figures come with their working.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Detail {
    /// The figures alone.
    FiguresOnly,
    /// The figures, and how each came about.
    WithWorking,
}

/// The page of the package, whose example runs as those of the documentation do.
#[cfg(doctest)]
#[doc = include_str!("../README.md")]
struct PackagePage;
