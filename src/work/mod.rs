//! Working time: rest days, holidays, and calendars that know which years they cover.

mod calendar;
mod count;
mod date_move;
mod day;
mod easter;
mod expansion;
mod holiday;
mod index;
mod move_by;
mod rest_days;
mod roll;
mod why;

pub(crate) use calendar::CalendarIndex;
pub use calendar::{Combination, Holiday, WorkCalendar};
pub use count::WorkingDays;
pub use date_move::{DateMove, MoveWorking};
pub use day::DayKind;
pub use easter::{Church, easter_sunday};
pub use holiday::{CommonYears, HolidayMove, HolidayRule, Occurrence, WeekdaySide};
pub use rest_days::RestDays;
pub use roll::Roll;
pub use why::{CountedDay, MonthGrid, WorkingGrid};
