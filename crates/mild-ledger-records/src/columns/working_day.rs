//! `working_day = DATE` with `gives`: what a day is to a calendar.

use super::binder::Binder;
use super::calendar::{CalendarChoice, CalendarInput, read_calendar_choice};
use super::inputs::{DateInput, DateSource, needed_date, or_default};
use super::rows::{Rows, texts, whole_numbers};
use super::{ColumnKind, Planned, Step};
use crate::mistakes::{At, Walk};
use crate::table::{Data, Kind};
use mild_ledger::{Date, DayKind, Error, NumberInMonth, WorkCalendar};
use std::ops::Range;
use toml::de::DeTable;

pub(super) const KIND: ColumnKind = ColumnKind {
    key: "working_day",
    gives: "whether a date is a working day, what it is, or its number in the month",
    companions: &["gives", "calendar"],
    lines: &[
        "{working_day} is a working day [on {calendar}]",
        "kind of day of {working_day} {gives=kind} [on {calendar}]",
        "working day of the month of {working_day} {gives=number in month} [on {calendar}]",
        "working day from the month end of {working_day} {gives=number from month end} [on {calendar}]",
    ],
    read,
};

#[derive(Debug, Clone, Copy, PartialEq, Eq)]
enum Gives {
    YesOrNo,
    Kind,
    NumberInMonth,
    NumberFromMonthEnd,
}

const GIVES: [(&str, Gives); 4] = [
    ("yes or no", Gives::YesOrNo),
    ("kind", Gives::Kind),
    ("number in month", Gives::NumberInMonth),
    ("number from month end", Gives::NumberFromMonthEnd),
];

#[derive(Debug)]
struct PlannedWorkingDay {
    of: At<DateSource>,
    gives: Gives,
    calendar: CalendarChoice,
}

struct WorkingDayStep {
    of: DateInput,
    gives: Gives,
    calendar: CalendarInput,
}

fn read(walk: &mut Walk, table: &DeTable, span: Range<usize>) -> Option<Box<dyn Planned>> {
    let of = needed_date(walk, table, "working_day", span.clone());
    let gives = or_default(table, "gives", Gives::YesOrNo, |value| walk.choice(value, &GIVES))?;
    let calendar = read_calendar_choice(walk, table, span)?;
    Some(Box::new(PlannedWorkingDay { of: of?, gives, calendar }))
}

impl Planned for PlannedWorkingDay {
    fn header(&self) -> Option<String> {
        let (of, by) = (self.of.value.said(), self.calendar.said());
        Some(match self.gives {
            Gives::YesOrNo => format!("{of} is a working day{by}"),
            Gives::Kind => format!("Kind of day of {of}{by}"),
            Gives::NumberInMonth => format!("Working day of the month of {of}{by}"),
            Gives::NumberFromMonthEnd => format!("Working day from the month's end of {of}{by}"),
        })
    }

    fn uses_as_of(&self) -> bool {
        self.of.value == DateSource::AsOf
    }

    fn stand_in(&self) -> Kind {
        match self.gives {
            Gives::YesOrNo | Gives::Kind => Kind::Text,
            Gives::NumberInMonth | Gives::NumberFromMonthEnd => Kind::Place,
        }
    }

    fn bind(&self, binder: &mut Binder<'_>) -> Option<(Kind, Box<dyn Step>)> {
        let (of, calendar) = (binder.date_input(&self.of), binder.calendar(&self.calendar));
        let step = WorkingDayStep { of: of?, gives: self.gives, calendar: calendar? };
        Some((self.stand_in(), Box::new(step)))
    }
}

impl WorkingDayStep {
    fn each<T>(
        &self,
        rows: &mut Rows<'_>,
        answer: impl Fn(&WorkCalendar, Date) -> Result<Option<T>, Error>,
    ) -> Vec<Option<T>> {
        let found = rows.each(
            |(date, calendar): (Date, Result<Option<&WorkCalendar>, Error>)| match calendar? {
                Some(calendar) => answer(calendar, date),
                None => Ok(None),
            },
            |rows, row| Some((rows.date(self.of, row)?, rows.calendar(self.calendar, row))),
        );
        found.into_iter().map(Option::flatten).collect()
    }
}

impl Step for WorkingDayStep {
    fn inputs(&self) -> Vec<usize> {
        [self.of.column(), self.calendar.column()].into_iter().flatten().collect()
    }

    fn work_out(&self, rows: &mut Rows<'_>) -> Result<Data, Error> {
        let said = |kind: DayKind| match self.gives {
            Gives::Kind => kind.word(),
            _ if kind.is_working() => "yes",
            _ => "no",
        };
        Ok(match self.gives {
            Gives::YesOrNo | Gives::Kind => {
                let kinds = self.each(rows, |calendar, date| calendar.kind_of(date).map(Some));
                texts(kinds.into_iter().map(|kind| kind.map(|kind| said(kind).to_owned())))
            }
            Gives::NumberInMonth | Gives::NumberFromMonthEnd => {
                let from_start = self.gives == Gives::NumberInMonth;
                let found = self.each(rows, WorkCalendar::number_in_month);
                let number = |found: NumberInMonth| {
                    i128::from(if from_start { found.from_start() } else { found.from_end() })
                };
                whole_numbers(found.into_iter().map(|found| found.map(number)))
            }
        })
    }
}
