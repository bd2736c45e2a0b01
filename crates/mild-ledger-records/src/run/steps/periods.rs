//! Columns of periods and of the fields of dates.

use super::rows::{Rows, numbers, texts};
use crate::plan::{FieldOf, PeriodGives};
use crate::run::job::DateInput;
use crate::run::table::Data;
use mild_ledger::column::{DateColumn, field, first_days, last_days};
use mild_ledger::{ClockTime, Date, Error, FiscalYear, LabelPattern, Period, PeriodRule};

impl<'t> Rows<'_, 't, '_> {
    pub(super) fn period(&mut self, of: usize, rule: PeriodRule, away: i64, gives: &PeriodGives) -> Data<'t> {
        let date = |rows: &Self, row: usize| rows.date(DateInput::Column(of), row);
        let period = |date: Date| -> Result<Period, Error> { rule.containing(date).away(away) };
        match gives {
            PeriodGives::FirstDay if away == 0 => {
                let found = self.of_column(of, |dates| first_days(dates, rule));
                self.list_misses(of, &found, |date| rule.containing(date).first_day());
                self.date_data(found)
            }
            PeriodGives::LastDay if away == 0 => {
                let found = self.of_column(of, |dates| last_days(dates, rule));
                self.list_misses(of, &found, |date| rule.containing(date).last_day());
                self.date_data(found)
            }
            PeriodGives::FirstDay => {
                let days = self.each(|date| period(date)?.first_day(), date);
                self.dates_of(days)
            }
            PeriodGives::LastDay => {
                let days = self.each(|date| period(date)?.last_day(), date);
                self.dates_of(days)
            }
            PeriodGives::NearestStart(nearness) => {
                // The start nearest to the date itself, then so many periods on from there.
                let start = |date: Date| {
                    let start = rule.containing(date).nearest_start(date, *nearness)?;
                    rule.containing(start).away(away)?.first_day()
                };
                let days = self.each(start, date);
                self.dates_of(days)
            }
            PeriodGives::Number => numbers(0, self.each(|date| Ok(i128::from(period(date)?.number())), date)),
            PeriodGives::Days => numbers(0, self.each(|date| Ok(i128::from(period(date)?.days())), date)),
            PeriodGives::Label => texts(self.each(|date| Ok(period(date)?.label()), date)),
            PeriodGives::LabelBy { pattern, fiscal } => {
                texts(self.each(|date| Ok(pattern.write(period(date)?.first_day()?, *fiscal)), date))
            }
        }
    }

    pub(super) fn field<'b>(&mut self, of: usize, wanted: FieldOf) -> Data<'b> {
        let dates = |row: usize| self.table.date(of, row);
        let times = |row: usize| self.table.date_time(of, row).map(mild_ledger::DateTime::time);
        let rows = 0..self.count();
        let number = |number: fn(ClockTime) -> u8| {
            numbers(0, rows.clone().map(|row| times(row).map(|at| number(at).into())))
        };
        match wanted {
            FieldOf::Number(wanted) => match self.table.columns.get(of) {
                Some(Data::Date { dates, .. }) => {
                    let values = field(dates, wanted);
                    let present = |row: &usize| dates.mask().is_present(*row);
                    numbers(0, rows.map(|row| Some(row).filter(present).map(|row| i128::from(values[row]))))
                }
                _ => numbers(0, []),
            },
            FieldOf::Weekday => texts(rows.map(|row| dates(row).map(|date| date.weekday().to_string()))),
            FieldOf::MonthName => texts(rows.map(|row| dates(row).map(month_name))),
            FieldOf::WeekDate => texts(rows.map(|row| dates(row).map(Date::to_week_date))),
            FieldOf::OrdinalDate => texts(rows.map(|row| dates(row).map(Date::to_ordinal_date))),
            FieldOf::Hour => number(ClockTime::hour),
            FieldOf::Minute => number(ClockTime::minute),
            FieldOf::Second => number(ClockTime::second),
            FieldOf::TimeOfDay => texts(rows.map(|row| times(row).map(|at| at.to_string()))),
        }
    }

    fn of_column(&self, of: usize, days: impl FnOnce(&DateColumn) -> DateColumn) -> DateColumn {
        match self.table.columns.get(of) {
            Some(Data::Date { dates, .. }) => days(dates),
            _ => DateColumn::new(),
        }
    }
}

/// The English name of a date's month.
fn month_name(date: Date) -> String {
    "%B".parse::<LabelPattern>()
        .map_or_else(|_| String::new(), |name| name.write(date, FiscalYear::default()))
}
