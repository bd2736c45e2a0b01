//! Months with every day marked by what it is to a calendar.

use mild_ledger::{Date, DayKind, Holiday, Month, MonthGrid, RestDays, WorkCalendar, WorkingGrid};

/// Months, each day marked.
#[derive(Debug, Clone)]
pub(crate) struct MarkedMonths {
    pub(crate) months: Vec<MarkedMonth>,
    pub(crate) rest_days: RestDays,
    pub(crate) marks: Marks,
}

/// What the days of months are marked by.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(crate) enum Marks {
    /// What each day is.
    Kinds,
    /// What each day is that was looked at, and whether it was counted.
    Counted {
        /// Where the counting starts from.
        start: Date,
    },
    /// The same with the running number of each day that was counted.
    Numbered {
        /// Where the move starts from.
        start: Date,
    },
}

impl Marks {
    /// The day that counting starts from.
    pub(crate) fn start(self) -> Option<Date> {
        match self {
            Self::Kinds => None,
            Self::Counted { start } | Self::Numbered { start } => Some(start),
        }
    }
}

/// A month, and what its days are.
#[derive(Debug, Clone)]
pub(crate) struct MarkedMonth {
    pub(crate) first: Date,
    pub(crate) days: Vec<MarkedDay>,
}

/// A day, and what it is.
#[derive(Debug, Clone)]
pub(crate) struct MarkedDay {
    pub(crate) date: Date,
    /// `None` where the calendar does not say, or the day was not looked at.
    pub(crate) kind: Option<DayKind>,
    pub(crate) holidays: Vec<Holiday>,
    /// Its running number where it was counted.
    pub(crate) number: Option<i64>,
    /// Whether it lies in the stretch that was looked at.
    pub(crate) inside: bool,
}

impl MarkedMonth {
    /// A month of a calendar's year.
    pub(super) fn of(calendar: &WorkCalendar, first: Date) -> Self {
        let last = Month::of(first).last_day();
        let days = (first.day_number()..=last.day_number()).filter_map(|day| Date::from_day_number(day).ok());
        let marked = |date: Date| MarkedDay {
            date,
            kind: calendar.kind_of(date).ok(),
            holidays: calendar.holidays_on(date).to_vec(),
            number: None,
            inside: true,
        };
        Self { first, days: days.map(marked).collect() }
    }

    /// A month in which working days were counted.
    fn counted(calendar: &WorkCalendar, grid: &MonthGrid) -> Self {
        let days = grid.days().iter().map(|day| MarkedDay {
            date: day.date(),
            kind: day.kind().filter(|_| day.is_inside()),
            holidays: if day.is_inside() { calendar.holidays_on(day.date()).to_vec() } else { Vec::new() },
            number: day.number(),
            inside: day.is_inside(),
        });
        Self { first: grid.first_day(), days: days.collect() }
    }
}

impl MarkedMonths {
    /// The months in which working days were counted.
    pub(super) fn counted(calendar: &WorkCalendar, grid: &WorkingGrid, marks: Marks) -> Self {
        let months = grid.months().iter().map(|month| MarkedMonth::counted(calendar, month)).collect();
        Self { months, rest_days: calendar.rest_days(), marks }
    }

    /// The days that were looked at.
    pub(crate) fn inside(&self) -> impl Iterator<Item = &MarkedDay> + '_ {
        self.months.iter().flat_map(|month| &month.days).filter(|day| day.inside)
    }
}
