//! The time between two date-times in every way of counting.

use super::by_calendar::by_rule_among;
use super::one_figure::{clock_workings, workings};
use super::unit_figures::{UnitFigures, unit_figures};
use crate::Detail;
use mild_ledger::{
    CalendarYears, ClockInterval, ClockMeasure, ClockUnit, DateTime, Error, Fraction, HoursOf, MonthEnd,
    Parts, Weekday, WorkCalendar, Working, WorkingTime,
};

/// The time between two date-times in every way of counting: by the clock, and of their dates.
#[derive(Debug, Clone)]
pub struct BetweenTimes {
    pub(crate) start: DateTime,
    pub(crate) end: DateTime,
    pub(crate) sentence: String,
    pub(crate) hours_of: HoursOf,
    pub(crate) microseconds: i64,
    /// Hours, minutes and seconds, and days of 24 hours.
    pub(crate) clock: [ClockRow; 4],
    pub(crate) midnights_passed: i64,
    /// The days between the dates, and every other unit of them.
    pub(crate) days: i64,
    pub(crate) units: UnitFigures,
    pub(crate) parts: Parts,
    pub(crate) month_end: MonthEnd,
    pub(crate) weeks_begin: Weekday,
    /// The working of every figure by the clock, and of every figure of the dates, where they were asked for.
    pub(crate) workings: Option<[Vec<Working>; 2]>,
    /// By calendars with opening hours.
    pub(crate) working_hours: Vec<HoursByCalendar>,
}

/// Working hours by one calendar.
#[derive(Debug, Clone)]
pub(crate) struct HoursByCalendar {
    pub(crate) calendar: String,
    /// Its opening hours.
    pub(crate) open: String,
    pub(crate) time: WorkingTime,
    /// The years among its days whose holidays follow by rule, not yet proclaimed.
    pub(crate) by_rule: Option<CalendarYears>,
    /// Where it was asked for.
    pub(crate) working: Option<Working>,
}

/// The time in one unit of the clock.
#[derive(Debug, Clone)]
pub(crate) struct ClockRow {
    /// The unit in the plural.
    pub(crate) unit: String,
    pub(crate) complete: i64,
    pub(crate) fractional: Fraction,
}

impl BetweenTimes {
    /// Every figure of an interval.
    #[must_use]
    pub fn of(interval: ClockInterval, detail: Detail) -> Self {
        let dates = interval.dates();
        let row = |unit: String, complete: ClockMeasure, fractional: ClockMeasure| ClockRow {
            unit,
            complete: interval.figure(complete).whole(),
            fractional: interval.figure(fractional),
        };
        let of_unit = |unit: ClockUnit| {
            row(unit.plural().to_owned(), ClockMeasure::Complete(unit), ClockMeasure::Fractional(unit))
        };
        let days = ClockMeasure::DaysOf24Hours;
        Self {
            start: interval.start(),
            end: interval.end(),
            sentence: interval.sentence(),
            hours_of: interval.hours_of(),
            microseconds: interval.microseconds(),
            clock: [
                of_unit(ClockUnit::Hour),
                of_unit(ClockUnit::Minute),
                of_unit(ClockUnit::Second),
                row(days.to_string(), days, ClockMeasure::FractionalDays),
            ],
            midnights_passed: interval.figure(ClockMeasure::MidnightsPassed).whole(),
            days: dates.days().value(),
            units: unit_figures(dates),
            parts: dates.parts(),
            month_end: dates.month_end(),
            weeks_begin: dates.week_begins(),
            workings: match detail {
                Detail::FiguresOnly => None,
                Detail::WithWorking => Some([clock_workings(interval), workings(dates)]),
            },
            working_hours: Vec::new(),
        }
    }

    /// The same with the working hours between the two by calendars.
    ///
    /// # Errors
    /// Where a calendar states no opening hours, or does not cover the days.
    pub fn with_working_hours(mut self, calendars: &[WorkCalendar], detail: Detail) -> Result<Self, Error> {
        for calendar in calendars {
            let open = calendar.hours().map(|hours| hours.without(calendar.rest_days()));
            self.working_hours.push(HoursByCalendar {
                calendar: calendar.name().to_owned(),
                open: open.map_or_else(String::new, |hours| hours.to_string()),
                time: calendar.working_time(self.start, self.end)?,
                by_rule: by_rule_among(calendar, &[self.start.date(), self.end.date()]),
                working: match detail {
                    Detail::FiguresOnly => None,
                    Detail::WithWorking => Some(calendar.why_working_time(self.start, self.end)?),
                },
            });
        }
        Ok(self)
    }
}
