//! Working hours between two date-times: `between` with `count = "working hours"`.

use super::arithmetic::{Rounded, read_rounded};
use super::binder::Binder;
use super::calendar::{CalendarChoice, CalendarInput, read_calendar_choice};
use super::inputs::{DateInput, DateSource};
use super::rows::Rows;
use super::stay::want_times;
use super::why::CellWhy;
use super::{Planned, Step};
use crate::mistakes::{At, Walk};
use crate::table::{Data, Figure, FigureOf, Kind};
use mild_ledger::{DateTime, Error, Rounding, WorkCalendar};
use std::ops::Range;
use toml::de::DeTable;

/// The word for it under `count`.
pub(super) const WORKING_HOURS: &str = "working hours";
/// Decimals where the plan states none.
const DECIMALS: u8 = 2;

#[derive(Debug)]
struct PlannedWorkingHours {
    start: At<DateSource>,
    end: At<DateSource>,
    rounded: Rounded,
    calendar: CalendarChoice,
    span: Range<usize>,
}

struct WorkingHoursStep {
    start: DateInput,
    end: DateInput,
    how: (u8, Rounding),
    calendar: CalendarInput,
}

/// `between` with `count = "working hours"`: the opening hours of working days between two moments.
pub(super) fn read_between(
    walk: &mut Walk,
    table: &DeTable,
    (start, end): (At<DateSource>, At<DateSource>),
    span: Range<usize>,
) -> Option<Box<dyn Planned>> {
    for key in table.keys() {
        let word: &str = key.get_ref();
        if matches!(word, "gives" | "month_end" | "weeks_begin" | "ends" | "within") {
            let what = format!("{word} does not go with working hours");
            walk.mistakes.tell(key.span(), what, "calendar, decimals, rounding");
            return None;
        }
    }
    let rounded = read_rounded(walk, table)?;
    let calendar = read_calendar_choice(walk, table, span.clone())?;
    Some(Box::new(PlannedWorkingHours { start, end, rounded, calendar, span }))
}

impl Planned for PlannedWorkingHours {
    fn header(&self) -> Option<String> {
        let (start, end) = (self.start.value.said(), self.end.value.said());
        Some(format!("Working hours from {start} to {end}{}", self.calendar.said()))
    }

    fn uses_as_of(&self) -> bool {
        [&self.start, &self.end].iter().any(|end| end.value == DateSource::AsOf)
    }

    fn stand_in(&self) -> Kind {
        kind_of(WORKING_HOURS.to_owned(), self.rounded.decimals.unwrap_or(DECIMALS))
    }

    fn bind(&self, binder: &mut Binder<'_>) -> Option<(Kind, Box<dyn Step>)> {
        let (start, end) = (binder.date_input(&self.start), binder.date_input(&self.end));
        let calendar = binder.calendar(&self.calendar);
        let (start, end, calendar) = (start?, end?, calendar?);
        want_times(binder, WORKING_HOURS, [(start, &self.start), (end, &self.end)])?;
        if binder.opened_calendar(calendar).is_some_and(|calendar| calendar.hours().is_none()) {
            let name = binder.calendar_words(calendar);
            let what = format!("the calendar \"{}\" states no opening hours", name.escape_debug());
            let expected = "a calendar file with [hours], such as each_day = \"08:00 to 17:00\"";
            binder.mistakes.tell(self.calendar.place().unwrap_or(&self.span).clone(), what, expected);
            return None;
        }
        let decimals = self.rounded.decimals.unwrap_or(DECIMALS);
        let rule = format!("working hours by {}", binder.calendar_words(calendar));
        let step = WorkingHoursStep { start, end, how: (decimals, self.rounded.rounding), calendar };
        Some((kind_of(rule, decimals), Box::new(step)))
    }
}

fn kind_of(rule: String, decimals: u8) -> Kind {
    Kind::Number { decimals, figure: Some(Figure { rule, ends: None, of: FigureOf::Interval }) }
}

impl WorkingHoursStep {
    fn pair(&self, rows: &Rows<'_>, row: usize) -> Option<(DateTime, DateTime)> {
        Some((rows.moment(self.start, row)?.0, rows.moment(self.end, row)?.0))
    }
}

impl Step for WorkingHoursStep {
    fn inputs(&self) -> Vec<usize> {
        let inputs = [self.start.column(), self.end.column(), self.calendar.column()];
        inputs.into_iter().flatten().collect()
    }

    fn work_out(&self, rows: &mut Rows<'_>) -> Result<Data, Error> {
        type OfRow<'c> = ((DateTime, DateTime), Result<Option<&'c WorkCalendar>, Error>);
        let hours = rows.each(
            |((start, end), calendar): OfRow<'_>| match calendar? {
                Some(calendar) => calendar.working_time(start, end).map(|time| Some(time.hours())),
                None => Ok(None),
            },
            |rows, row| Some((self.pair(rows, row)?, rows.calendar(self.calendar, row))),
        );
        rows.rounded(hours.into_iter().map(Option::flatten).collect(), self.how)
    }

    fn why(&self, rows: &Rows<'_>, row: usize) -> Option<CellWhy> {
        let (start, end) = self.pair(rows, row)?;
        let calendar = rows.calendar(self.calendar, row).ok()??;
        calendar.why_working_time(start, end).ok().map(CellWhy::from)
    }
}
