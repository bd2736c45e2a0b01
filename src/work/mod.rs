//! Working time: rest days, holidays, and calendars that know which years they cover.

mod builder;
mod calendar;
mod date_move;
mod day;
mod easter;
mod expansion;
mod holiday;
mod hours_index;
mod index;
mod kept;
mod move_by;
mod opening_hours;
mod rest_days;
mod roll;
mod why;
mod working_day_count;
mod working_time;
mod years;

pub use builder::CalendarBuilder;
pub(crate) use calendar::CalendarIndex;
pub use calendar::{Combination, WorkCalendar};
pub use date_move::{DateMove, MoveWorking};
pub use day::DayKind;
pub use easter::{Church, easter_sunday};
pub use holiday::{CommonYears, HolidayMove, HolidayRule, Occurrence, WeekdaySide};
pub use kept::Holiday;
pub use move_by::NumberInMonth;
pub use opening_hours::{OpenSpan, OpeningHours};
pub use rest_days::RestDays;
pub use roll::Roll;
pub use why::{CountedDay, MonthGrid, WorkingGrid};
pub use working_day_count::WorkingDays;
pub use working_time::WorkingTime;
pub use years::CalendarYears;
