//! `first_of = [DATE, DATE]`: the first of several dates that is not blank.

use super::binder::Binder;
use super::inputs::{DateInput, DateSource, read_date_source};
use super::rows::Rows;
use super::{ColumnKind, Planned, Step};
use crate::mistakes::{At, Walk};
use crate::table::{Data, DateKind, Gap, Kind};
use mild_ledger::{DateTime, Error, HoursOf};
use std::ops::Range;
use toml::de::DeTable;

pub(super) const KIND: ColumnKind = ColumnKind {
    key: "first_of",
    gives: "the first of several dates that is not blank",
    companions: &[],
    lines: &["first of {first_of}"],
    read,
};

#[derive(Debug)]
struct PlannedFirstOf {
    dates: Vec<At<DateSource>>,
}

struct FirstOfStep {
    dates: Vec<DateInput>,
}

fn read(walk: &mut Walk, table: &DeTable, _: Range<usize>) -> Option<Box<dyn Planned>> {
    const EXPECTED: &str = "two or more date columns, perhaps a date or \"as-of\" as the last";
    let value = table.get("first_of")?;
    let items = walk.items(value, EXPECTED)?;
    if items.len() < 2 {
        walk.mistakes.tell(value.span(), "there is nothing to choose from", EXPECTED);
        return None;
    }
    let dates: Vec<_> = items.iter().map(|item| read_date_source(walk, item, EXPECTED)).collect();
    Some(Box::new(PlannedFirstOf { dates: dates.into_iter().collect::<Option<_>>()? }))
}

impl Planned for PlannedFirstOf {
    fn header(&self) -> Option<String> {
        let names: Vec<String> = self.dates.iter().map(|source| source.value.said()).collect();
        Some(format!("First of {}", names.join(", ")))
    }

    fn uses_as_of(&self) -> bool {
        self.dates.iter().any(|source| source.value == DateSource::AsOf)
    }

    fn stand_in(&self) -> Kind {
        Kind::made_dates()
    }

    fn bind(&self, binder: &mut Binder<'_>) -> Option<(Kind, Box<dyn Step>)> {
        let dates: Vec<_> = self.dates.iter().map(|date| binder.date_input(date)).collect();
        let dates = dates.into_iter().collect::<Option<Vec<_>>>()?;
        let keeps_times = dates.iter().any(|date| date.column().is_some() && binder.time_of(*date).is_some());
        let time = keeps_times.then_some(HoursOf::Clock);
        Some((Kind::Date { source: DateKind::Made, time }, Box::new(FirstOfStep { dates })))
    }
}

impl Step for FirstOfStep {
    /// Nothing that could not be read is inherited but that of the date that was taken.
    fn inputs(&self) -> Vec<usize> {
        Vec::new()
    }

    fn depends_on(&self) -> Vec<usize> {
        self.dates.iter().copied().filter_map(DateInput::column).collect()
    }

    fn work_out(&self, rows: &mut Rows<'_>) -> Result<Data, Error> {
        let keeps_times = self.dates.iter().any(|date| date.column().is_some() && rows.keeps_times(*date));
        let mut gaps = vec![None; rows.count()];
        let mut found: Vec<Option<DateTime>> = Vec::with_capacity(rows.count());
        for (row, gap) in gaps.iter_mut().enumerate() {
            // A date that could not be read is not blank, so nothing is taken in its place.
            let known = self
                .dates
                .iter()
                .find(|date| rows.date(**date, row).is_some() || rows.is_unreadable(**date, row));
            let at = known.and_then(|date| rows.moment(*date, row)).map(|(at, _)| at);
            if known.is_some() && at.is_none() {
                *gap = Some(Gap::Unreadable);
            }
            found.push(at);
        }
        rows.gaps = gaps;
        Ok(match keeps_times {
            true => Data::moments(found),
            false => Data::dates(found.into_iter().map(|at| at.map(DateTime::date))),
        })
    }
}
