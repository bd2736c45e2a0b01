//! Columns of working days.

use super::rows::{Rows, numbers, texts};
use crate::plan::{WorkingDayGives, nearest};
use crate::run::job::{CalendarInput, DateInput, Job};
use crate::run::table::{Data, Table};
use mild_ledger::column::{CountColumn, DateColumn, working_days};
use mild_ledger::{CountRule, Date, Ends, Error, Interval, WorkCalendar};

impl Rows<'_, '_, '_> {
    /// Working days between two columns; a row that its calendar does not cover is listed and empty.
    pub(super) fn working_days<'b>(
        &mut self,
        start: DateInput,
        end: DateInput,
        ends: Ends,
        calendar: CalendarInput,
    ) -> Result<Data<'b>, Error> {
        let (job, table) = (self.job, self.table);
        let figures: Vec<Option<i64>> = match calendar {
            CalendarInput::Every(nth) => {
                let Some((_, calendar)) = job.calendars.get(nth) else { return Ok(texts([])) };
                let none: DateColumn = (0..self.count()).map(|_| None).collect();
                let found = {
                    let (starts, to) = (self.dates(start, &none), self.dates(end, &none));
                    working_days(starts, to, self.count(), calendar, ends)?
                };
                let figures: Vec<_> = (0..self.count()).map(|row| found.get(row)).collect();
                // The call for one value says why a row has none.
                for (row, figure) in figures.iter().enumerate() {
                    if let (None, Some(from), Some(to)) = (figure, self.date(start, row), self.date(end, row))
                        && let Err(error) = calendar.count_of(Interval::between(from, to), ends)
                    {
                        self.list(row, format!("{from} to {to}"), &error);
                    }
                }
                figures
            }
            CalendarInput::NamedBy(_) => self
                .each(
                    |(from, to, row): (Date, Date, usize)| match calendar_of(job, table, calendar, row)? {
                        Some(calendar) => calendar.count_of(Interval::between(from, to), ends).map(Some),
                        None => Ok(None),
                    },
                    |rows, row| Some((rows.date(start, row)?, rows.date(end, row)?, row)),
                )
                .into_iter()
                .map(Option::flatten)
                .collect(),
        };
        Ok(Data::Number(CountColumn::of_figures(CountRule::DAYS, figures)))
    }

    /// Whether a date is a working day, what it is, or its number in its month.
    pub(super) fn working_day<'b>(
        &mut self,
        of: usize,
        gives: WorkingDayGives,
        calendar: CalendarInput,
    ) -> Data<'b> {
        let (job, table) = (self.job, self.table);
        let date = |rows: &Self, row: usize| rows.table.date(of, row).map(|date| (date, row));
        let with = |row: usize| calendar_of(job, table, calendar, row);
        match gives {
            WorkingDayGives::YesOrNo | WorkingDayGives::Kind => {
                let kinds = self
                    .each(|(date, row)| with(row)?.map(|calendar| calendar.kind_of(date)).transpose(), date);
                let said = |kind: mild_ledger::DayKind| match gives {
                    WorkingDayGives::Kind => kind.word(),
                    _ if kind.is_working() => "yes",
                    _ => "no",
                };
                texts(kinds.into_iter().map(|kind| kind.flatten().map(|kind| said(kind).to_owned())))
            }
            WorkingDayGives::NumberInMonth | WorkingDayGives::NumberFromMonthEnd => {
                let found = self.each(
                    |(date, row)| match with(row)? {
                        Some(calendar) => calendar.number_in_month(date),
                        None => Ok(None),
                    },
                    date,
                );
                let from_start = gives == WorkingDayGives::NumberInMonth;
                let number = |(start, end): (i64, i64)| i128::from(if from_start { start } else { end });
                numbers(0, found.into_iter().map(|found| found.flatten().map(number)))
            }
        }
    }
}

/// The calendar of a row; `None` where the column that names it is blank.
pub(super) fn calendar_of<'j>(
    job: &'j Job,
    table: &Table<'_>,
    calendar: CalendarInput,
    row: usize,
) -> Result<Option<&'j WorkCalendar>, Error> {
    match calendar {
        CalendarInput::Every(nth) => Ok(job.calendars.get(nth).map(|(_, calendar)| calendar)),
        CalendarInput::NamedBy(column) => match table.text(column, row) {
            "" => Ok(None),
            name => match job.calendars.iter().find(|(known, _)| known == name) {
                Some((_, calendar)) => Ok(Some(calendar)),
                None => {
                    let known = job.calendars.iter().map(|(known, _)| known.as_str());
                    let near = nearest(name, known.clone())
                        .map_or_else(String::new, |near| format!(", perhaps {near}"));
                    let names: Vec<&str> = known.collect();
                    Err(Error::unknown_name(name, &format!("{}{near}", names.join(", "))))
                }
            },
        },
    }
}
