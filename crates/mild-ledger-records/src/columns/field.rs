//! `field = "year"` with `of`: a part of a date, or of its time.

use super::binder::Binder;
use super::inputs::{DateInput, DateSource, needed_date, or_default};
use super::rows::{Rows, ordered_texts, texts, whole_numbers};
use super::{ColumnKind, Planned, Step};
use crate::mistakes::{At, Walk};
use crate::table::{Data, Kind, date_slice};
use mild_ledger::column::field;
use mild_ledger::{ClockTime, Date, DateField, Error, FiscalYear, LabelPattern, WeekNumbers, WeekdayNumbers};
use std::ops::Range;
use toml::de::DeTable;

pub(super) const KIND: ColumnKind = ColumnKind {
    key: "field",
    gives: "a part of a date or of a time of day",
    companions: &["of", "weeks", "weekdays"],
    lines: &["{field} of {of}", "{field:words} of {of}"],
    read,
};

/// What is taken from a date, or from its time of day.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
enum FieldOf {
    Number(DateField),
    Week,
    WeekYear,
    WeekdayNumber,
    Weekday,
    MonthName,
    WeekDate,
    OrdinalDate,
    Hour,
    Minute,
    Second,
    TimeOfDay,
}

const OTHERS: [(&str, FieldOf); 11] = [
    ("week", FieldOf::Week),
    ("year of the week", FieldOf::WeekYear),
    ("weekday number", FieldOf::WeekdayNumber),
    ("weekday", FieldOf::Weekday),
    ("month name", FieldOf::MonthName),
    ("week date", FieldOf::WeekDate),
    ("ordinal date", FieldOf::OrdinalDate),
    ("hour", FieldOf::Hour),
    ("minute", FieldOf::Minute),
    ("second", FieldOf::Second),
    ("time", FieldOf::TimeOfDay),
];

#[derive(Debug, Clone, Copy)]
struct Numbering {
    weeks: WeekNumbers,
    weekdays: WeekdayNumbers,
}

#[derive(Debug)]
struct PlannedField {
    of: At<DateSource>,
    word: String,
    field: FieldOf,
    numbering: Numbering,
}

struct FieldStep {
    of: DateInput,
    field: FieldOf,
    numbering: Numbering,
}

fn read(walk: &mut Walk, table: &DeTable, span: Range<usize>) -> Option<Box<dyn Planned>> {
    let numbers = DateField::ALL.iter().copied().map(|field| (field.word(), FieldOf::Number(field)));
    let all: Vec<(&str, FieldOf)> = numbers.chain(OTHERS).collect();
    let field = walk.choice(table.get("field")?, &all);
    let of = needed_date(walk, table, "of", span);
    let field = field?;
    let word = all.iter().find(|(_, known)| *known == field).map_or("", |(word, _)| word).to_owned();
    let weeks = or_default(table, "weeks", WeekNumbers::iso(), |value| {
        walk.parsed(value, "a way of numbering weeks", str::parse)
    })?;
    let weekdays = or_default(table, "weekdays", WeekdayNumbers::default(), |value| {
        walk.parsed(value, "a way of numbering weekdays", str::parse)
    })?;
    for (key, fields) in
        [("weeks", [FieldOf::Week, FieldOf::WeekYear].as_slice()), ("weekdays", &[FieldOf::WeekdayNumber])]
    {
        if let (Some((name, _)), false) = (table.get_key_value(key), fields.contains(&field)) {
            let expected = if key == "weeks" { "field = \"week\"" } else { "field = \"weekday number\"" };
            walk.mistakes.tell(name.span(), format!("{key} does not go with {word}"), expected);
            return None;
        }
    }
    Some(Box::new(PlannedField { of: of?, word, field, numbering: Numbering { weeks, weekdays } }))
}

impl FieldOf {
    fn needs_time(self) -> bool {
        matches!(self, Self::Hour | Self::Minute | Self::Second | Self::TimeOfDay)
    }
}

impl Planned for PlannedField {
    fn header(&self) -> Option<String> {
        let how = match self.field {
            FieldOf::Week | FieldOf::WeekYear => format!(" ({})", self.numbering.weeks),
            FieldOf::WeekdayNumber => format!(" ({})", self.numbering.weekdays),
            _ => String::new(),
        };
        Some(super::titled(&format!("{}: {}{how}", self.of.value.said(), self.word)))
    }

    fn uses_as_of(&self) -> bool {
        self.of.value == DateSource::AsOf
    }

    fn stand_in(&self) -> Kind {
        match self.field {
            FieldOf::Weekday
            | FieldOf::MonthName
            | FieldOf::WeekDate
            | FieldOf::OrdinalDate
            | FieldOf::TimeOfDay => Kind::Text,
            _ => Kind::Place,
        }
    }

    fn bind(&self, binder: &mut Binder<'_>) -> Option<(Kind, Box<dyn Step>)> {
        let of = binder.date_input(&self.of)?;
        if self.field.needs_time() && binder.time_of(of).is_none() {
            let what = format!("\"{}\" keeps no times of day", self.of.value.said().escape_debug());
            let help = "set it under [records.dates]: { pattern = \"…\", time = \"keep\" }".to_owned();
            binder.mistakes.tell_with_help(
                self.of.span.clone(),
                what,
                "a column of dates with times",
                Some(help),
            );
            return None;
        }
        let step = FieldStep { of, field: self.field, numbering: self.numbering };
        Some((self.stand_in(), Box::new(step)))
    }
}

impl Step for FieldStep {
    fn inputs(&self) -> Vec<usize> {
        self.of.column().into_iter().collect()
    }

    fn work_out(&self, rows: &mut Rows<'_>) -> Result<Data, Error> {
        let of = self.of;
        let dates = |row: usize| rows.date(of, row);
        let times = |row: usize| rows.moment(of, row).map(|(at, _)| at.time());
        let all = 0..rows.count();
        let number =
            |number: &dyn Fn(Date) -> i128| whole_numbers(all.clone().map(|row| dates(row).map(number)));
        let of_time = |number: fn(ClockTime) -> u8| {
            whole_numbers(all.clone().map(|row| times(row).map(|at| number(at).into())))
        };
        let Numbering { weeks, weekdays } = self.numbering;
        Ok(match self.field {
            FieldOf::Number(wanted) => match of.column().and_then(|column| rows.table.columns.get(column)) {
                Some(Data::Date(dates)) => {
                    let dates = date_slice(dates)?;
                    whole_numbers(field(dates, wanted).into_iter().map(|number| number.map(i128::from)))
                }
                _ => number(&|date| date.field(wanted).into()),
            },
            FieldOf::Week => number(&|date| weeks.of(date).week().into()),
            FieldOf::WeekYear => number(&|date| weeks.of(date).year().into()),
            FieldOf::WeekdayNumber => number(&|date| weekdays.of(date).into()),
            // Names are ordered by the calendar, not by the alphabet.
            FieldOf::Weekday => {
                let place = WeekdayNumbers::default();
                let weekday = |date: Date| (date.weekday().to_string(), Some(place.of(date).into()));
                ordered_texts(all.map(|row| dates(row).map(weekday)))
            }
            FieldOf::MonthName => {
                let name = "month-name".parse::<LabelPattern>()?;
                let month = |date: Date| (name.write(date, FiscalYear::default()), Some(date.month().into()));
                ordered_texts(all.map(|row| dates(row).map(month)))
            }
            FieldOf::WeekDate => texts(all.map(|row| dates(row).map(Date::week_text))),
            FieldOf::OrdinalDate => texts(all.map(|row| dates(row).map(Date::ordinal_text))),
            FieldOf::Hour => of_time(ClockTime::hour),
            FieldOf::Minute => of_time(ClockTime::minute),
            FieldOf::Second => of_time(ClockTime::second),
            FieldOf::TimeOfDay => texts(all.map(|row| times(row).map(|at| at.to_string()))),
        })
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::ColumnLine;

    #[test]
    fn each_field_can_be_in_a_line() {
        for word in DateField::ALL.iter().map(|field| field.word()).chain(OTHERS.map(|(word, _)| word)) {
            let line = ColumnLine::read(&format!("Part = {word} of Issued")).expect(word);
            assert!(line.plan_text().contains(&format!("field = \"{word}\"")), "{}", line.plan_text());
        }
    }
}
