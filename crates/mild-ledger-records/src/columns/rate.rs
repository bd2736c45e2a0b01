//! `rate = COLUMN` with `tenure` and `per`: a quantity per month or year of a stay.

use super::arithmetic::{Rounded, read_rounded};
use super::binder::Binder;
use super::inputs::{NumberInput, read_number};
use super::rows::Rows;
use super::stay::{StayInput, StaySource, read_stay};
use super::why::CellWhy;
use super::{ColumnKind, Planned, Step};
use crate::mistakes::{At, Walk};
use crate::table::{Data, Kind};
use mild_ledger::{
    DayCount, Decimal, Error, Fraction, Interval, MeanMonth, Quotient, Unit, rate_per, why_rate_per,
};
use std::ops::Range;
use toml::de::DeTable;

pub(super) const KIND: ColumnKind = ColumnKind {
    key: "rate",
    gives: "a quantity by the months, quarters or years of a stay",
    companions: &["tenure", "per", "smallest", "decimals", "rounding"],
    lines: &[
        "{rate} per {per} since {tenure}",
        "{rate} per {per} from {tenure} to {tenure}",
        ", {decimals} decimals",
        ", {decimals} decimal",
    ],
    read,
};

/// What a rate divides by.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
enum Per {
    Fractional(Unit),
    MeanMonths(MeanMonth),
    MeanYears(DayCount),
}

#[derive(Debug)]
struct PlannedRate {
    quantity: At<String>,
    stay: StaySource,
    per: Per,
    smallest: Option<Decimal>,
    rounded: Rounded,
}

struct RateStep {
    quantity: usize,
    stay: StayInput,
    per: Per,
    smallest: Option<Decimal>,
    how: (u8, mild_ledger::Rounding),
}

fn read(walk: &mut Walk, table: &DeTable, span: Range<usize>) -> Option<Box<dyn Planned>> {
    let quantity = walk.text(table.get("rate")?, "the name of a column of amounts or numbers");
    let tenure = walk.needed(table, "tenure", span.clone(), "tenure = [\"Hired\", \"Left\"]")?;
    let stay = read_stay(walk, tenure)?;
    let per: Vec<(String, Per)> = [Unit::Month, Unit::Quarter, Unit::Year]
        .map(|unit| (unit.singular().to_owned(), Per::Fractional(unit)))
        .into_iter()
        .chain(
            MeanMonth::ALL
                .iter()
                .copied()
                .map(|mean| (mean.word().replace("months", "month"), Per::MeanMonths(mean))),
        )
        .chain([
            ("mean year of 365.25 days".to_owned(), Per::MeanYears(DayCount::MeanJulianYear)),
            ("mean year of 365.2425 days".to_owned(), Per::MeanYears(DayCount::MeanGregorianYear)),
        ])
        .collect();
    let choices: Vec<(&str, Per)> = per.iter().map(|(word, per)| (word.as_str(), *per)).collect();
    let value = walk.needed(table, "per", span, "per = \"month\"")?;
    let per = walk.choice(value, &choices)?;
    let smallest = match table.get("smallest") {
        Some(value) => {
            Some(read_number(walk, value, "the smallest tenure that has a rate, in what it is per")?)
        }
        None => None,
    };
    let rounded = read_rounded(walk, table)?;
    Some(Box::new(PlannedRate { quantity: quantity?, stay, per, smallest, rounded }))
}

impl Planned for PlannedRate {
    fn header(&self) -> Option<String> {
        let per = match self.per {
            Per::Fractional(unit) => format!("fractional {unit}"),
            Per::MeanMonths(mean) => mean.word().replace("months", "month"),
            Per::MeanYears(DayCount::MeanJulianYear) => "mean year of 365.25 days".to_owned(),
            Per::MeanYears(_) => "mean year of 365.2425 days".to_owned(),
        };
        Some(format!("{} per {per} of tenure", self.quantity.value))
    }

    fn uses_as_of(&self) -> bool {
        true
    }

    fn stand_in(&self) -> Kind {
        Kind::Number { decimals: self.rounded.decimals.unwrap_or(2), figure: None }
    }

    fn bind(&self, binder: &mut Binder<'_>) -> Option<(Kind, Box<dyn Step>)> {
        let (quantity, stay) = (binder.find_number(&self.quantity), self.stay.bind(binder));
        let ((quantity, inputs), stay) = (quantity?, stay?);
        let decimals = self.rounded.decimals.unwrap_or(inputs);
        let step = RateStep {
            quantity,
            stay,
            per: self.per,
            smallest: self.smallest,
            how: (decimals, self.rounded.rounding),
        };
        Some((Kind::Number { decimals, figure: None }, Box::new(step)))
    }
}

impl RateStep {
    /// The time of a stay in what the rate divides by.
    fn time_of(&self, stay: Interval) -> Fraction {
        match self.per {
            Per::Fractional(unit) => stay.fractional(unit),
            Per::MeanMonths(mean) => stay.mean_months(mean),
            Per::MeanYears(convention) => stay.year_fraction(convention),
        }
    }
}

impl Step for RateStep {
    fn inputs(&self) -> Vec<usize> {
        let mut inputs = self.stay.columns();
        inputs.push(self.quantity);
        inputs
    }

    fn work_out(&self, rows: &mut Rows<'_>) -> Result<Data, Error> {
        let quantity = NumberInput::Column(self.quantity);
        let rates = rows.each(
            |(quantity, stay): (Quotient, Result<Interval, Error>)| {
                rate_per(quantity, self.time_of(stay?), self.smallest)
            },
            |rows, row| rows.exact(quantity, row).zip(self.stay.of(rows, row)),
        );
        rows.rounded(rates.into_iter().collect(), self.how)
    }

    fn why(&self, rows: &Rows<'_>, row: usize) -> Option<CellWhy> {
        let quantity = rows.table.decimal(self.quantity, row)?;
        let time = self.time_of(self.stay.of(rows, row)?.ok()?);
        let (decimals, rounding) = self.how;
        why_rate_per(quantity, time, self.smallest, decimals, rounding).ok().map(CellWhy::from)
    }
}
