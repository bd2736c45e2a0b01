//! Columns of moved dates.

use super::rows::Rows;
use super::working_time::calendar_of;
use crate::run::job::{BoundMove, BoundShift, DateInput};
use crate::run::table::{ClockColumn, Data};
use mild_ledger::column::{DateColumn, shifted};
use mild_ledger::{Date, DateTime, Error, MonthEnd, Roll, Shift, Unit, WeekdayMove};

impl<'t> Rows<'_, 't, '_> {
    /// Dates moved by an amount, then to a weekday, then rolled to a working day.
    pub(super) fn moved(&mut self, step: &BoundMove) -> Data<'t> {
        let (from, shift) = (step.from, step.shift.as_ref());
        if self.keeps_times(DateInput::Column(from)) {
            return self.moved_by_the_clock(from, shift, step.weekday);
        }
        let moved = match (shift, self.table.columns.get(from), step.calendar) {
            (Some(BoundShift::Every(shift)), Some(Data::Date { dates, .. }), None) => {
                let moved = shifted(dates, shift);
                self.list_misses(from, &moved, |date| shift.apply(date));
                moved
            }
            (Some(by), Some(Data::Date { .. }), Some(calendar)) => {
                let (job, table) = (self.job, self.table);
                let dates = self.each(
                    |(date, shift, row): (Date, Result<Shift, Error>, usize)| match calendar_of(
                        job, table, calendar, row,
                    )? {
                        Some(calendar) => calendar.shifted(date, &shift?).map(Some),
                        None => Ok(None),
                    },
                    |rows, row| Some((rows.table.date(from, row)?, rows.shift_of(by, row)?, row)),
                );
                dates.into_iter().map(Option::flatten).collect()
            }
            (Some(by), Some(Data::Date { .. }), None) => {
                let dates = self.each(
                    |(date, shift): (Date, Result<Shift, Error>)| shift?.apply(date),
                    |rows, row| rows.table.date(from, row).zip(rows.shift_of(by, row)),
                );
                dates.into_iter().collect()
            }
            (None, Some(Data::Date { dates, .. }), _) => dates.clone(),
            _ => DateColumn::new(),
        };
        let moved: DateColumn = match step.weekday {
            Some(weekday) => {
                self.each(|date| weekday.apply(date), |_, row| moved.get(row)).into_iter().collect()
            }
            None => moved,
        };
        let (Some(calendar), true) = (step.calendar, step.roll != Roll::Unadjusted) else {
            return self.date_data(moved);
        };
        let (job, table) = (self.job, self.table);
        let rolled = self.each(
            |(date, row)| match calendar_of(job, table, calendar, row)? {
                Some(calendar) => calendar.roll(date, step.roll).map(Some),
                None => Ok(None),
            },
            |_, row| moved.get(row).map(|date| (date, row)),
        );
        self.dates_of(rolled.into_iter().map(Option::flatten))
    }

    /// Date-times moved row by row, their times kept; a zone's instants are not those of the result.
    fn moved_by_the_clock(
        &mut self,
        from: usize,
        shift: Option<&BoundShift>,
        weekday: Option<WeekdayMove>,
    ) -> Data<'t> {
        let moved = self.each(
            |(at, shift): (DateTime, Result<Shift, Error>)| {
                let at = shift?.apply_at(at)?;
                match weekday {
                    Some(weekday) => Ok(DateTime::new(weekday.apply(at.date())?, at.time())),
                    None => Ok(at),
                }
            },
            |rows, row| {
                let shift = shift.map_or(Some(Ok(Shift::days(0))), |shift| rows.shift_of(shift, row));
                rows.table.date_time(from, row).zip(shift)
            },
        );
        let clock = ClockColumn {
            local: moved.iter().map(|at| at.map_or(0, DateTime::microseconds)).collect(),
            utc: None,
        };
        Data::Date {
            dates: moved.iter().map(|at| at.map(DateTime::date)).collect(),
            unreadable: vec![false; self.count()],
            clock: Some(clock),
        }
    }

    /// The amount of a row; `None` where it is blank.
    fn shift_of(&self, shift: &BoundShift, row: usize) -> Option<Result<Shift, Error>> {
        match shift {
            BoundShift::Every(shift) => Some(Ok(*shift)),
            BoundShift::NumberOf { column, unit, month_end } => {
                let number = self.table.decimal(*column, row)?.units();
                Some(Ok(number_of(number, *unit, *month_end)))
            }
            BoundShift::Text { column, month_end } => match self.table.text(*column, row) {
                "" => None,
                text => Some(text.parse().map(|shift: Shift| shift.month_end(*month_end))),
            },
        }
    }
}

/// So many of a unit; a number that no shift holds leads as far out of the calendar as the largest one.
fn number_of(number: i128, unit: Unit, month_end: MonthEnd) -> Shift {
    let number = number.clamp(i32::MIN.into(), i32::MAX.into()) as i32;
    Shift::of(number, unit).month_end(month_end)
}
