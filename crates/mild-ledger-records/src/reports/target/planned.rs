//! `planned` of a target report: one number, a number a period, or these by currency.

use crate::columns::read_number;
use crate::mistakes::{At, Value, Walk};
use crate::table::currency_of;
use mild_ledger::{
    AllocationBasis, Date, DateRange, Decimal, Error, ErrorKind, PeriodRule, TargetAmount, TargetPeriod,
    target_by_period,
};
use std::collections::BTreeMap;

pub(super) const EXPECTED: &str = "planned = 120000, or a number for each period such as [40000, 38500.50, 41000], or these by currency: { EUR = 120000 }";

/// What is to come in, as the plan says it.
#[derive(Debug)]
pub(super) enum PlannedTarget {
    OfAll(Target),
    ByCurrency(BTreeMap<String, Target>),
}

#[derive(Debug)]
pub(super) enum Target {
    OfTheWhole(Decimal),
    OfEachPeriod(Vec<Decimal>),
}

/// A target by period, seen from a date.
pub(super) struct Targets {
    pub(super) periods: Vec<TargetPeriod>,
    pub(super) target: Decimal,
    pub(super) so_far: Decimal,
    pub(super) days: u32,
    pub(super) gone: u32,
}

pub(super) fn read(walk: &mut Walk, value: &Value<'_>) -> Option<At<PlannedTarget>> {
    let target = match value.get_ref().as_table() {
        Some(table) => {
            let mut by_currency = BTreeMap::new();
            for (currency, value) in table.iter() {
                by_currency.insert(currency_of(currency.get_ref()).into_owned(), read_one(walk, value)?);
            }
            PlannedTarget::ByCurrency(by_currency)
        }
        None => PlannedTarget::OfAll(read_one(walk, value)?),
    };
    Some(At { value: target, span: value.span() })
}

fn read_one(walk: &mut Walk, value: &Value<'_>) -> Option<Target> {
    if value.get_ref().as_array().is_none() {
        return read_number(walk, value, EXPECTED).map(Target::OfTheWhole);
    }
    let items = walk.items(value, EXPECTED)?;
    let numbers: Vec<Option<Decimal>> = items.iter().map(|item| read_number(walk, item, EXPECTED)).collect();
    numbers.into_iter().collect::<Option<Vec<_>>>().map(Target::OfEachPeriod)
}

impl PlannedTarget {
    /// The targets by their currencies, of amounts that have some or have none.
    pub(super) fn by_currency(&self, have_currencies: bool) -> Result<Vec<(Option<String>, &Target)>, Error> {
        match self {
            Self::OfAll(_) if have_currencies => Err(Error::new(
                ErrorKind::NotAllowed,
                "the amounts have currencies, and a target is of one",
                "a target by currency, such as { EUR = 120000 }",
            )),
            Self::ByCurrency(_) if !have_currencies => Err(Error::new(
                ErrorKind::NotAllowed,
                "the amounts have no currencies",
                "one number, or a number for each period",
            )),
            Self::OfAll(target) => Ok(vec![(None, target)]),
            Self::ByCurrency(targets) => {
                Ok(targets.iter().map(|(currency, target)| (Some(currency.clone()), target)).collect())
            }
        }
    }
}

impl Targets {
    pub(super) fn of(
        target: &Target,
        (span, periods): (DateRange, PeriodRule),
        as_of: Date,
        by: AllocationBasis<'_>,
        decimals: u8,
    ) -> Result<Self, Error> {
        let target = match target {
            Target::OfTheWhole(target) => TargetAmount::OfTheWhole(*target),
            Target::OfEachPeriod(targets) => TargetAmount::OfEachPeriod(targets),
        };
        let all = match target {
            TargetAmount::OfTheWhole(ref target) => std::slice::from_ref(target),
            TargetAmount::OfEachPeriod(targets) => targets,
        };
        if let Some(target) = all.iter().find(|target| target.decimals() > decimals) {
            let what = format!("the target {target} has more decimals than the amounts");
            return Err(Error::new(
                ErrorKind::NotAllowed,
                what,
                "as many decimals as the amounts have, or fewer",
            ));
        }
        let periods = target_by_period(target, span, periods, as_of, by, decimals)?;
        let too_large = || Error::new(ErrorKind::OutOfRange, "the target is too large", "at most 28 digits");
        let sum = |part: fn(&TargetPeriod) -> Decimal| {
            Decimal::checked_sum(periods.iter().map(part)).ok_or_else(too_large)
        };
        let (target, so_far) = (sum(|period| period.target)?, sum(|period| period.so_far)?);
        let days = periods.iter().map(|period| period.days).sum();
        let gone = periods.iter().map(|period| period.gone).sum();
        Ok(Self { periods, target, so_far, days, gone })
    }
}
