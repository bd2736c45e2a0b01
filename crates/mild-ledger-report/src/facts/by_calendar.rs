//! What calendars say of an interval, or of a date.

use super::marked_days::{MarkedMonths, Marks};
use crate::Detail;
use mild_ledger::{
    CalendarYears, Date, DateRange, DayKind, Ends, Error, HalfDays, Interval, NumberInMonth, WorkCalendar,
    WorkingDays,
};

/// The working days of an interval by some calendars, and what makes the difference between them.
#[derive(Debug, Clone, Default)]
pub(crate) struct CountsByCalendar {
    pub(crate) counts: Vec<CountByCalendar>,
    /// Of the first and the last calendar, where there are several.
    pub(crate) difference: Option<Difference>,
}

/// The working days of an interval by one calendar.
#[derive(Debug, Clone)]
pub(crate) struct CountByCalendar {
    pub(crate) calendar: String,
    pub(crate) ends: Ends,
    pub(crate) days: WorkingDays,
    /// The years among them whose days follow by rule, not yet proclaimed.
    pub(crate) by_rule: Option<CalendarYears>,
    /// The months with each day marked, where the working is asked for.
    pub(crate) months: Option<MarkedMonths>,
}

/// The days on which one calendar works and another does not.
#[derive(Debug, Clone)]
pub(crate) struct Difference {
    pub(crate) calendars: [String; 2],
    pub(crate) days: Vec<DifferentDay>,
}

/// One such day, and what it is to each.
#[derive(Debug, Clone)]
pub(crate) struct DifferentDay {
    pub(crate) date: Date,
    pub(crate) is: [DayIs; 2],
}

/// What a day is to a calendar, and the first holiday that falls on it.
#[derive(Debug, Clone)]
pub(crate) struct DayIs {
    pub(crate) kind: DayKind,
    pub(crate) holiday: Option<String>,
}

impl CountsByCalendar {
    pub(super) fn of(
        interval: Interval,
        ends: Ends,
        calendars: &[WorkCalendar],
        detail: Detail,
    ) -> Result<Self, Error> {
        let count = |calendar: &WorkCalendar| {
            let months = match detail {
                Detail::FiguresOnly => None,
                Detail::WithWorking => {
                    let grid = calendar.why_working_days(interval, ends)?;
                    let marks = Marks::Counted { start: interval.start() };
                    Some(MarkedMonths::counted(calendar, &grid, marks))
                }
            };
            let days = calendar.working_days(interval, ends)?;
            let by_rule = by_rule_among(calendar, &[interval.start(), interval.end()]);
            Ok(CountByCalendar { calendar: calendar.name().to_owned(), ends, days, by_rule, months })
        };
        let counts = calendars.iter().map(count).collect::<Result<_, Error>>()?;
        let difference = match calendars {
            [one, .., other] => Some(Difference::of(interval, ends, [one, other])?),
            _ => None,
        };
        Ok(Self { counts, difference })
    }
}

impl Difference {
    fn of(interval: Interval, ends: Ends, [one, other]: [&WorkCalendar; 2]) -> Result<Self, Error> {
        let mut days = Vec::new();
        for month in one.why_working_days(interval, ends)?.months() {
            for day in month.days().iter().filter(|day| day.is_inside()) {
                let date = day.date();
                if halves_open(one, date)? != halves_open(other, date)? {
                    days.push(DifferentDay { date, is: [is_to(one, date)?, is_to(other, date)?] });
                }
            }
        }
        Ok(Self { calendars: [one.name().to_owned(), other.name().to_owned()], days })
    }
}

/// What a day is to a calendar.
pub(super) fn is_to(calendar: &WorkCalendar, date: Date) -> Result<DayIs, Error> {
    let holiday = calendar.holidays_on(date).first().map(|holiday| holiday.name().to_owned());
    Ok(DayIs { kind: calendar.kind_of(date)?, holiday })
}

/// How many halves of a day a calendar counts.
pub(super) fn halves_open(calendar: &WorkCalendar, date: Date) -> Result<u8, Error> {
    Ok(match (calendar.kind_of(date)?, calendar.half_days_as()) {
        (DayKind::HalfDay, HalfDays::Half) => 1,
        (kind, _) => 2 * u8::from(kind.is_working()),
    })
}

/// The years which some dates lie in or between whose days a calendar has by rule.
pub(super) fn by_rule_among(calendar: &WorkCalendar, dates: &[Date]) -> Option<CalendarYears> {
    let days = DateRange::new(*dates.iter().min()?, *dates.iter().max()?).ok()?;
    calendar.by_rule_within(days)
}

/// What a date is to one calendar.
#[derive(Debug, Clone)]
pub(crate) struct DayByCalendar {
    pub(crate) calendar: String,
    pub(crate) kind: DayKind,
    pub(crate) holidays: Vec<String>,
    /// Its number among the working days of its month, where it is one.
    pub(crate) number: Option<NumberInMonth>,
    /// Its year, where the days of that follow by rule.
    pub(crate) by_rule: Option<CalendarYears>,
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
                by_rule: by_rule_among(calendar, &[date]),
            })
        };
        calendars.iter().map(day).collect()
    }
}
