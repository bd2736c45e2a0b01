//! `age = DATE`, on the as-of date unless `on` says otherwise: complete years.

use super::binder::Binder;
use super::inputs::{DateInput, DateSource, needed_date, or_default, read_date_source};
use super::rows::Rows;
use super::why::CellWhy;
use super::{ColumnKind, Planned, Step};
use crate::mistakes::{At, Walk};
use crate::table::{Data, Figure, FigureOf, Gap, Kind};
use mild_ledger::{Anniversaries, CountRule, Date, Ends, Error, MonthEnd};
use std::ops::Range;
use toml::de::DeTable;

pub(super) const KIND: ColumnKind = ColumnKind {
    key: "age",
    gives: "complete years since a birthday",
    companions: &["on", "leap_day"],
    lines: &["age of {age} [on {on}]"],
    read,
};

#[derive(Debug)]
struct PlannedAge {
    of: At<DateSource>,
    on: At<DateSource>,
    leap_day: MonthEnd,
}

struct AgeStep {
    of: DateInput,
    on: DateInput,
    leap_day: MonthEnd,
}

fn read(walk: &mut Walk, table: &DeTable, span: Range<usize>) -> Option<Box<dyn Planned>> {
    let of = needed_date(walk, table, "age", span.clone());
    let on = read_date_or_as_of(walk, table, "on", span)?;
    Some(Box::new(PlannedAge { of: of?, on, leap_day: read_leap_day(walk, table)? }))
}

/// A date under a key, or the as-of date where the key is not there.
pub(super) fn read_date_or_as_of(
    walk: &mut Walk,
    table: &DeTable,
    key: &str,
    span: Range<usize>,
) -> Option<At<DateSource>> {
    match table.get(key) {
        Some(value) => read_date_source(walk, value, "a date, \"as-of\", or the name of a date column"),
        None => Some(At { value: DateSource::AsOf, span }),
    }
}

/// When a 29 February comes round in common years.
pub(super) fn read_leap_day(walk: &mut Walk, table: &DeTable) -> Option<MonthEnd> {
    let rules = [MonthEnd::Clamp, MonthEnd::NextStart].map(|rule| (rule.word(), rule));
    or_default(table, "leap_day", MonthEnd::Clamp, |value| walk.choice(value, &rules))
}

impl Planned for PlannedAge {
    fn header(&self) -> Option<String> {
        Some(format!("Age in complete years from {} on {}", self.of.value.said(), self.on.value.said()))
    }

    fn uses_as_of(&self) -> bool {
        [&self.of, &self.on].iter().any(|source| source.value == DateSource::AsOf)
    }

    fn stand_in(&self) -> Kind {
        let rule = CountRule::COMPLETE_YEARS.to_string();
        Kind::Number { decimals: 0, figure: Some(Figure { rule, ends: Some(Ends::Last), of: FigureOf::Age }) }
    }

    fn bind(&self, binder: &mut Binder<'_>) -> Option<(Kind, Box<dyn Step>)> {
        let (of, on) = (binder.date_input(&self.of), binder.date_input(&self.on));
        Some((self.stand_in(), Box::new(AgeStep { of: of?, on: on?, leap_day: self.leap_day })))
    }
}

impl Step for AgeStep {
    fn inputs(&self) -> Vec<usize> {
        [self.of, self.on].into_iter().filter_map(DateInput::column).collect()
    }

    fn work_out(&self, rows: &mut Rows<'_>) -> Result<Data, Error> {
        let ages = rows.each(
            |(born, on): (Date, Date)| {
                Ok(Anniversaries::of(born).with_leap_day(self.leap_day)?.age_on(on)?.value())
            },
            |rows, row| rows.date(self.of, row).zip(rows.date(self.on, row)),
        );
        for gap in rows.gaps.iter_mut().filter(|gap| **gap == Some(Gap::NotBegun)) {
            *gap = Some(Gap::NotBorn);
        }
        Ok(Data::counts(ages))
    }

    fn why(&self, rows: &Rows<'_>, row: usize) -> Option<CellWhy> {
        let born = Anniversaries::of(rows.date(self.of, row)?).with_leap_day(self.leap_day).ok()?;
        born.why_age_on(rows.date(self.on, row)?).ok().map(CellWhy::from)
    }
}
