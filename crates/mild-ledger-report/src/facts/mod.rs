//! What the commands answer, worked out once: everything that is shown is made of these.

mod bars;
mod between;
mod between_times;
mod by_calendar;
mod chart;
mod counted;
mod due;
mod marked_days;
mod moved;
pub mod one_figure;
mod shares;
mod sources;
mod split;
mod surroundings;
mod two_calendars;
mod unit_figures;
mod work_years;

pub(crate) use bars::Bars;
pub use between::Between;
pub(crate) use between::BetweenFigures;
pub use between_times::BetweenTimes;
pub(crate) use by_calendar::{
    CountByCalendar, CountsByCalendar, DayByCalendar, DayIs, Difference, DifferentDay,
};
pub(crate) use chart::{Bar, Chart, Shade, is_of_dates};
pub(crate) use due::DueDay;
pub use due::{Due, RolledDates};
pub(crate) use marked_days::{MarkedDay, MarkedMonth, MarkedMonths, Marks};
pub use moved::{MoveFailure, MoveSetting, Moved, MovedFrom, ZoneClock};
pub(crate) use one_figure::decimal;
pub(crate) use shares::Shares;
pub use sources::CalendarSources;
pub use split::Split;
pub use surroundings::{PeriodFigure, Surroundings, SurroundingsRequest};
pub use two_calendars::TwoCalendars;
pub(crate) use unit_figures::{UnitParts, UnitRow};
pub(crate) use work_years::{Rate, RateOfMonths};
pub use work_years::{Target, WorkYears};
