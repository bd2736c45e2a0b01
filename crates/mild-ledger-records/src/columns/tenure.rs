//! `tenure = [START, END]` with `count`: how long a user has been there.

use super::binder::Binder;
use super::inputs::DateSource;
use super::measuring::{Measuring, read_measuring};
use super::rows::{Moment, Rows};
use super::stay::{StayInput, StaySource, check_times, read_stay};
use super::why::CellWhy;
use super::{ColumnKind, Planned, Step};
use crate::mistakes::{At, Walk};
use crate::table::{Data, FigureOf, Kind};
use mild_ledger::{Error, Measure};
use std::ops::Range;
use toml::de::DeTable;

pub(super) const KIND: ColumnKind = ColumnKind {
    key: "tenure",
    gives: "how long a stay lasted, or has lasted so far",
    companions: &["count", "gives", "ends", "month_end", "weeks_begin", "decimals", "rounding"],
    lines: &[
        "tenure since {tenure} in {count}",
        "tenure from {tenure} to {tenure} in {count}",
        ", {decimals} decimals",
        ", {decimals} decimal",
    ],
    read,
};

#[derive(Debug)]
struct PlannedTenure {
    stay: StaySource,
    measuring: Measuring,
}

struct TenureStep {
    stay: StayInput,
    measuring: Measuring,
}

fn read(walk: &mut Walk, table: &DeTable, span: Range<usize>) -> Option<Box<dyn Planned>> {
    let stay = read_stay(walk, table.get("tenure")?);
    let measuring = read_measuring(walk, table, span);
    Some(Box::new(PlannedTenure { stay: stay?, measuring: measuring? }))
}

impl Planned for PlannedTenure {
    fn header(&self) -> Option<String> {
        let (what, ends) = self.measuring.said();
        Some(format!("Tenure in {what} {}{ends}", self.stay.said()))
    }

    fn uses_as_of(&self) -> bool {
        true
    }

    fn stand_in(&self) -> Kind {
        self.measuring.kind(FigureOf::Tenure)
    }

    fn bind(&self, binder: &mut Binder<'_>) -> Option<(Kind, Box<dyn Step>)> {
        let stay = self.stay.bind(binder)?;
        let start = &self.stay.start;
        let as_of = At { value: DateSource::AsOf, span: start.span.clone() };
        let end = self.stay.end.as_ref().unwrap_or(&as_of);
        check_times(binder, &self.measuring, [(stay.start, start), (stay.end, end)])?;
        Some((
            self.measuring.kind(FigureOf::Tenure),
            Box::new(TenureStep { stay, measuring: self.measuring }),
        ))
    }
}

impl Step for TenureStep {
    fn inputs(&self) -> Vec<usize> {
        self.stay.columns()
    }

    fn work_out(&self, rows: &mut Rows<'_>) -> Result<Data, Error> {
        let stays = self.stay.all(rows);
        let Measure::Clock(measure) = self.measuring.measure else {
            return self.measuring.of_intervals(&stays);
        };
        // Whether it has begun, and whether its end has come, is a matter of dates; an end that has not come is the as-of.
        let pairs = stays.iter().enumerate().map(|(row, stay)| -> Option<(Moment, Moment)> {
            let stay = (*stay)?;
            let end = rows.moment(self.stay.end, row).filter(|(end, _)| end.date() == stay.end());
            let as_of = rows.setting.as_of.and_then(|as_of| as_of.at).map(|at| (at, None));
            Some((rows.moment(self.stay.start, row)?, end.or(as_of)?))
        });
        self.measuring.by_the_clock(measure, pairs.collect())
    }

    fn why(&self, rows: &Rows<'_>, row: usize) -> Option<CellWhy> {
        if matches!(self.measuring.measure, Measure::Clock(_)) {
            return None;
        }
        let why = self.measuring.why(self.stay.of(rows, row)?.ok()?)?;
        Some(CellWhy { rule: format!("tenure, {}", why.rule), ..why })
    }
}
