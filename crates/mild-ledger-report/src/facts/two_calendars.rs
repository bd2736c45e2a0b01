//! Two calendars side by side over some years.

use super::by_calendar::{DifferentDay, halves_open, is_to};
use mild_ledger::{
    CalendarYears, Date, DateRange, DayKind, Decimal, Ends, Error, Interval, PeriodRule, WorkCalendar,
};
use mild_ledger_records::OpenedCalendar;

/// Two calendars over some years: working days by month, and the days closed in one of them or in both.
#[derive(Debug, Clone)]
pub struct TwoCalendars {
    pub(crate) calendars: [String; 2],
    pub(crate) years: CalendarYears,
    /// Of each calendar, the years among these whose days follow by rule.
    pub(crate) by_rule: [Option<CalendarYears>; 2],
    pub(crate) months: Vec<MonthOfTwo>,
    pub(crate) totals: [Decimal; 2],
    /// The days on which one works and the other does not.
    pub(crate) different: Vec<DifferentDay>,
    /// The holidays on which neither works, rest days left out.
    pub(crate) closed_in_both: Vec<DifferentDay>,
}

/// The working days of a month by each.
#[derive(Debug, Clone)]
pub(crate) struct MonthOfTwo {
    pub(crate) label: String,
    pub(crate) working_days: [Decimal; 2],
}

impl TwoCalendars {
    /// Two calendars over years that both cover.
    ///
    /// # Errors
    /// Where one of them does not cover these years.
    pub fn of(opened: [&OpenedCalendar; 2], years: CalendarYears) -> Result<Self, Error> {
        let both = opened.map(OpenedCalendar::calendar);
        let all = DateRange::new(Date::new(years.first(), 1, 1)?, Date::new(years.last(), 12, 31)?)?;
        let count = |calendar: &WorkCalendar, days: DateRange| {
            calendar.working_time_in_days(Interval::between(days.first(), days.last()), Ends::FirstAndLast)
        };
        let of_both = |days: DateRange| Ok([count(both[0], days)?, count(both[1], days)?]);
        let months = PeriodRule::Month
            .covering(all)
            .map(|month| {
                let working_days = of_both(month.dates())?;
                Ok(MonthOfTwo { label: month.label(), working_days })
            })
            .collect::<Result<_, Error>>()?;
        let (mut different, mut closed_in_both) = (Vec::new(), Vec::new());
        for date in all.dates() {
            let open = [halves_open(both[0], date)?, halves_open(both[1], date)?];
            let is =
                || Ok::<_, Error>(DifferentDay { date, is: [is_to(both[0], date)?, is_to(both[1], date)?] });
            if open[0] != open[1] {
                different.push(is()?);
            } else if open == [0, 0] {
                let day = is()?;
                if day.is.iter().all(|is| is.kind == DayKind::Holiday) {
                    closed_in_both.push(day);
                }
            }
        }
        Ok(Self {
            calendars: both.map(|calendar| calendar.name().to_owned()),
            years,
            by_rule: both.map(|calendar| calendar.by_rule_within(all)),
            months,
            totals: of_both(all)?,
            different,
            closed_in_both,
        })
    }
}
