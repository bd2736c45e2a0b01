//! Working days between two dates: `between` with `count = "working days"`.

use super::binder::Binder;
use super::calendar::{CalendarChoice, CalendarInput, read_calendar_choice};
use super::inputs::{DateInput, DateSource};
use super::rows::Rows;
use super::why::{CellWhy, CountedDays, LeadTo};
use super::{CountsBetween, Planned, Step};
use crate::mistakes::{At, Walk};
use crate::table::{Data, Figure, FigureOf, Kind};
use mild_ledger::column::count_working_days;
use mild_ledger::{DateRange, Ends, Error, Interval, NamedWindow, Rounding, WorkCalendar};
use std::ops::Range;
use toml::de::DeTable;

/// The word for it under `count`.
pub(super) const WORKING_DAYS: &str = "working days";

#[derive(Debug)]
struct PlannedWorkingDays {
    start: At<DateSource>,
    end: At<DateSource>,
    ends: Ends,
    within: Option<At<NamedWindow>>,
    calendar: CalendarChoice,
}

struct WorkingDaysStep {
    start: DateInput,
    end: DateInput,
    ends: Ends,
    within: Option<DateRange>,
    calendar: CalendarInput,
    halves: Halves,
}

/// Whether half days can make halves of the figures.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
enum Halves {
    Counted,
    None,
}

/// `between` with `count = "working days"`, by these ends unless others are named.
pub(super) fn read_between(
    walk: &mut Walk,
    table: &DeTable,
    (start, end): (At<DateSource>, At<DateSource>),
    span: Range<usize>,
    unless_named: Ends,
) -> Option<Box<dyn Planned>> {
    for key in table.keys() {
        let word: &str = key.get_ref();
        if matches!(word, "gives" | "month_end" | "weeks_begin" | "decimals" | "rounding") {
            walk.mistakes.tell(
                key.span(),
                format!("{word} does not go with working days"),
                "ends, within, calendar",
            );
            return None;
        }
    }
    let ends = match table.get("ends") {
        Some(value) => walk.choice(value, &Ends::ALL.map(|ends| (ends.word(), ends)))?,
        None => unless_named,
    };
    let within = match table.get("within") {
        Some(value) => {
            let window = walk.parsed(value, "days such as \"last month\"", str::parse)?;
            Some(At { value: window, span: value.span() })
        }
        None => None,
    };
    let calendar = read_calendar_choice(walk, table, span)?;
    Some(Box::new(PlannedWorkingDays { start, end, ends, within, calendar }))
}

/// The working days after one day up to another, by the calendar that the keys next to them name.
pub(super) fn read_days_after(
    walk: &mut Walk,
    table: &DeTable,
    (start, end): (At<DateSource>, At<DateSource>),
    span: Range<usize>,
) -> Option<Box<dyn Planned>> {
    let calendar = read_calendar_choice(walk, table, span)?;
    Some(Box::new(PlannedWorkingDays { start, end, ends: Ends::OF_ELAPSED_TIME, within: None, calendar }))
}

impl Planned for PlannedWorkingDays {
    fn header(&self) -> Option<String> {
        let (start, end) = (self.start.value.said(), self.end.value.said());
        let ends = format!(" ({})", self.ends.said());
        let within =
            self.within.as_ref().map_or_else(String::new, |window| format!(" within {}", window.value));
        Some(format!("Working days from {start} to {end}{within}{ends}{}", self.calendar.said()))
    }

    fn uses_as_of(&self) -> bool {
        self.within.is_some() || [&self.start, &self.end].iter().any(|end| end.value == DateSource::AsOf)
    }

    fn stand_in(&self) -> Kind {
        kind_of(WORKING_DAYS.to_owned(), self.ends, Halves::None)
    }

    fn bind(&self, binder: &mut Binder<'_>) -> Option<(Kind, Box<dyn Step>)> {
        let (start, end) = (binder.date_input(&self.start), binder.date_input(&self.end));
        let calendar = binder.calendar_with_halves(&self.calendar);
        let within = match &self.within {
            Some(window) => Some(binder.window(&window.value, &window.span, "")?),
            None => None,
        };
        let (start, end, calendar) = (start?, end?, calendar?);
        let rule = format!("working days by {}", binder.calendar_words(calendar));
        let halves =
            if binder.halved_calendars(calendar).is_empty() { Halves::None } else { Halves::Counted };
        let step = WorkingDaysStep { start, end, ends: self.ends, within, calendar, halves };
        Some((kind_of(rule, self.ends, halves), Box::new(step)))
    }
}

fn kind_of(rule: String, ends: Ends, halves: Halves) -> Kind {
    let decimals = match halves {
        Halves::Counted => 1,
        Halves::None => 0,
    };
    Kind::Number { decimals, figure: Some(Figure { rule, ends: Some(ends), of: FigureOf::Interval }) }
}

impl Step for WorkingDaysStep {
    fn inputs(&self) -> Vec<usize> {
        let dates = [self.start.column(), self.end.column(), self.calendar.column()];
        dates.into_iter().flatten().collect()
    }

    fn counts_between(&self) -> Option<CountsBetween> {
        let calendar = match self.calendar {
            CalendarInput::Every(nth) => Some(nth),
            _ => None,
        };
        self.within.is_none().then_some(CountsBetween { start: self.start, end: self.end, calendar })
    }

    fn work_out(&self, rows: &mut Rows<'_>) -> Result<Data, Error> {
        if self.halves == Halves::Counted {
            return Ok(Data::numbers(self.in_tenths(rows), 1));
        }
        let count = |calendar: &WorkCalendar, interval: Interval| match self.within {
            Some(window) => calendar.working_days_within(interval, window, self.ends),
            None => calendar.count_working_days(interval, self.ends),
        };
        let figures: Vec<Option<i64>> = match (self.calendar, self.within) {
            (CalendarInput::Every(nth), None) => {
                let Some(known) = rows.setting.calendars.get(nth) else {
                    return Ok(Data::counts([]));
                };
                let calendar = known.opened.calendar();
                let (starts, to) = rows.pair_of_days(self.start, self.end);
                let found = count_working_days(starts.values()?, to.values()?, calendar, self.ends)?;
                let figures: Vec<_> = found.into_iter().map(|count| count.map(i64::from)).collect();
                for (row, figure) in figures.iter().enumerate() {
                    if let (None, Some(from), Some(to)) =
                        (figure, rows.date(self.start, row), rows.date(self.end, row))
                        && let Err(error) = count(calendar, Interval::between(from, to))
                    {
                        rows.list(row, format!("{from} to {to}"), &error);
                    }
                }
                figures
            }
            (calendar, _) => rows
                .each(
                    |(interval, calendar): (Interval, Result<Option<&WorkCalendar>, Error>)| match calendar? {
                        Some(calendar) => count(calendar, interval).map(Some),
                        None => Ok(None),
                    },
                    |rows, row| {
                        let interval =
                            Interval::between(rows.date(self.start, row)?, rows.date(self.end, row)?);
                        Some((interval, rows.calendar(calendar, row)))
                    },
                )
                .into_iter()
                .map(Option::flatten)
                .collect(),
        };
        Ok(Data::counts(figures))
    }

    fn why(&self, rows: &Rows<'_>, row: usize) -> Option<CellWhy> {
        let interval = Interval::between(rows.date(self.start, row)?, rows.date(self.end, row)?);
        let calendar = rows.calendar(self.calendar, row).ok()??;
        if let Some(window) = self.within {
            let rule = format!("working days by {}, within {window}, ends {}", calendar.name(), self.ends);
            return Some(CellWhy::said(rule, [format!("{} to {}", interval.start(), interval.end())]));
        }
        let grid = calendar.why_working_days(interval, self.ends).ok()?;
        let working = CellWhy::from(grid.working().clone());
        let (calendar, from) = (calendar.clone(), interval.start());
        Some(working.with_days(CountedDays { calendar, grid, from, lead_to: LeadTo::Count }))
    }
}

impl WorkingDaysStep {
    /// The working days in tenths of a day, half days half where the calendar counts them so.
    fn in_tenths(&self, rows: &mut Rows<'_>) -> Vec<Option<i128>> {
        let count = |interval: Interval, calendar: &WorkCalendar| {
            let days = match self.within {
                Some(window) => calendar.working_time_within(interval, window, self.ends),
                None => calendar.working_time_in_days(interval, self.ends),
            };
            Ok(days?.with_decimals(1, Rounding::Nearest)?.units())
        };
        rows.each(
            |(interval, calendar): (Interval, Result<Option<&WorkCalendar>, Error>)| match calendar? {
                Some(calendar) => count(interval, calendar).map(Some),
                None => Ok(None),
            },
            |rows, row| {
                let interval = Interval::between(rows.date(self.start, row)?, rows.date(self.end, row)?);
                Some((interval, rows.calendar(self.calendar, row)))
            },
        )
        .into_iter()
        .map(Option::flatten)
        .collect()
    }
}
