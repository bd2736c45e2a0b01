//! What calendars say of an interval, or of a date.

use mild_ledger::{Date, DayKind, Ends, Error, Interval, NumberInMonth, WorkCalendar, WorkingDays};

/// The working days of an interval by one calendar.
#[derive(Debug, Clone)]
pub(crate) struct CountByCalendar {
    pub(crate) calendar: String,
    pub(crate) ends: Ends,
    pub(crate) days: WorkingDays,
}

impl CountByCalendar {
    pub(super) fn of_all(
        interval: Interval,
        ends: Ends,
        calendars: &[WorkCalendar],
    ) -> Result<Vec<Self>, Error> {
        let count = |calendar: &WorkCalendar| {
            let days = calendar.working_days(interval, ends)?;
            Ok(Self { calendar: calendar.name().to_owned(), ends, days })
        };
        calendars.iter().map(count).collect()
    }
}

/// What a date is to one calendar.
#[derive(Debug, Clone)]
pub(crate) struct DayByCalendar {
    pub(crate) calendar: String,
    pub(crate) kind: DayKind,
    pub(crate) holidays: Vec<String>,
    /// Its number among the working days of its month, where it is one.
    pub(crate) number: Option<NumberInMonth>,
}

impl DayByCalendar {
    pub(super) fn of_all(date: Date, calendars: &[WorkCalendar]) -> Result<Vec<Self>, Error> {
        let day = |calendar: &WorkCalendar| {
            Ok(Self {
                calendar: calendar.name().to_owned(),
                kind: calendar.kind_of(date)?,
                holidays: calendar
                    .holidays_on(date)
                    .iter()
                    .map(|holiday| holiday.name().to_owned())
                    .collect(),
                number: calendar.number_in_month(date)?,
            })
        };
        calendars.iter().map(day).collect()
    }
}
