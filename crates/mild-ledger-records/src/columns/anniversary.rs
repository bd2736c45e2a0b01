//! `anniversary = DATE`: the first one on or after the as-of date, unless `on_or_after` says otherwise.

use super::age::{read_date_or_as_of, read_leap_day};
use super::binder::Binder;
use super::inputs::{DateInput, DateSource, needed_date, or_default};
use super::rows::{Rows, whole_numbers};
use super::{ColumnKind, Planned, Step};
use crate::mistakes::{At, Walk};
use crate::table::{Data, Kind};
use mild_ledger::{Anniversaries, Anniversary, Date, Error, MonthEnd};
use std::ops::Range;
use toml::de::DeTable;

pub(super) const KIND: ColumnKind = ColumnKind {
    key: "anniversary",
    gives: "the next anniversary, or how many-th it is",
    companions: &["on_or_after", "gives", "leap_day"],
    lines: &[
        "anniversary of {anniversary} [on or after {on_or_after}]",
        "next anniversary of {anniversary} [on or after {on_or_after}]",
    ],
    read,
};

#[derive(Debug, Clone, Copy, PartialEq, Eq)]
enum Gives {
    Date,
    Number,
}

#[derive(Debug)]
struct PlannedAnniversary {
    of: At<DateSource>,
    on_or_after: At<DateSource>,
    leap_day: MonthEnd,
    gives: Gives,
}

struct AnniversaryStep {
    of: DateInput,
    on_or_after: DateInput,
    leap_day: MonthEnd,
    gives: Gives,
}

fn read(walk: &mut Walk, table: &DeTable, span: Range<usize>) -> Option<Box<dyn Planned>> {
    let of = needed_date(walk, table, "anniversary", span.clone());
    let on_or_after = read_date_or_as_of(walk, table, "on_or_after", span)?;
    let all = [("date", Gives::Date), ("number", Gives::Number)];
    let gives = or_default(table, "gives", Gives::Date, |value| walk.choice(value, &all))?;
    let leap_day = read_leap_day(walk, table)?;
    Some(Box::new(PlannedAnniversary { of: of?, on_or_after, leap_day, gives }))
}

impl Planned for PlannedAnniversary {
    fn header(&self) -> Option<String> {
        let what = match self.gives {
            Gives::Date => "Anniversary",
            Gives::Number => "Number of the anniversary",
        };
        Some(format!("{what} of {} on or after {}", self.of.value.said(), self.on_or_after.value.said()))
    }

    fn uses_as_of(&self) -> bool {
        [&self.of, &self.on_or_after].iter().any(|source| source.value == DateSource::AsOf)
    }

    fn stand_in(&self) -> Kind {
        match self.gives {
            Gives::Date => Kind::made_dates(),
            Gives::Number => Kind::Place,
        }
    }

    fn bind(&self, binder: &mut Binder<'_>) -> Option<(Kind, Box<dyn Step>)> {
        let (of, on_or_after) = (binder.date_input(&self.of), binder.date_input(&self.on_or_after));
        let (leap_day, gives) = (self.leap_day, self.gives);
        let step = AnniversaryStep { of: of?, on_or_after: on_or_after?, leap_day, gives };
        Some((self.stand_in(), Box::new(step)))
    }
}

impl Step for AnniversaryStep {
    fn inputs(&self) -> Vec<usize> {
        [self.of, self.on_or_after].into_iter().filter_map(DateInput::column).collect()
    }

    fn work_out(&self, rows: &mut Rows<'_>) -> Result<Data, Error> {
        let found = rows.each(
            |(start, from): (Date, Date)| {
                Anniversaries::of(start).with_leap_day(self.leap_day)?.next_on_or_after(from)
            },
            |rows, row| rows.date(self.of, row).zip(rows.date(self.on_or_after, row)),
        );
        Ok(match self.gives {
            Gives::Date => Data::dates(found.into_iter().map(|found| found.map(Anniversary::date))),
            Gives::Number => {
                whole_numbers(found.into_iter().map(|found| found.map(|found| found.number().into())))
            }
        })
    }
}
