//! Groups of rows and their figures, for every kind of report that has some.

mod by_group;
mod figure;
mod filling;
mod group;
mod level;
mod places;
mod text_numbers;
mod value_ends;

pub(super) use by_group::ByGroup;
pub(super) use figure::{
    Figure, FigureOf, PlannedFigure, Reduction, RowFigure, Summed, percentile_heading, read_figure,
};
pub(super) use filling::filled;
pub(super) use group::{Group, Running, check_held, percentile_of};
pub(super) use level::{Key, Level, MOST_LEVELS, PlannedLevel, read_level, read_levels};
pub(super) use places::{NamedGroups, Places};
pub(super) use value_ends::ValueEnds;
