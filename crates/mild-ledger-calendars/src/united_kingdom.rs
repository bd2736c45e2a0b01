//! England and Wales, Scotland, Northern Ireland.

use crate::Shipped;
use crate::rules::{easter, last, nth, on, once};
use mild_ledger::{Error, HolidayMove, HolidayRule, Weekday};

const LAW: &str = "Banking and Financial Dealings Act 1971, section 1 and schedule 1, with the days appointed by royal \
                   proclamation, those in place of days on a weekend among them";

pub(crate) const ENGLAND_WALES: Shipped = Shipped {
    name: "england-wales",
    title: "England and Wales, bank holidays",
    law: LAW,
    covers: (2015, 2027),
    rules: england_wales,
};

pub(crate) const SCOTLAND: Shipped = Shipped {
    name: "scotland",
    title: "Scotland, bank holidays",
    law: "Banking and Financial Dealings Act 1971, section 1 and schedule 1, St Andrew's Day Bank Holiday (Scotland) Act \
          2007, section 1, with the days appointed by royal proclamation",
    covers: (2015, 2025),
    rules: scotland,
};

pub(crate) const NORTHERN_IRELAND: Shipped = Shipped {
    name: "northern-ireland",
    title: "Northern Ireland, bank holidays",
    law: LAW,
    covers: (2015, 2027),
    rules: northern_ireland,
};

/// A day in place of one on a weekend is the next that is free.
fn substituted(rule: HolidayRule) -> HolidayRule {
    rule.with_moved(HolidayMove::NextFreeDay)
}

/// What all parts of the kingdom keep on the same days.
fn common() -> Result<Vec<HolidayRule>, Error> {
    Ok(vec![
        substituted(on("New Year's Day", 1, 1)?),
        easter("Good Friday", -2)?,
        // In 2020 it was moved to the 75th anniversary of the end of the war in Europe.
        nth("Early May bank holiday", 1, Weekday::Monday, 5)?.with_except([2020]),
        once("Early May bank holiday", 2020, 5, 8)?,
        // In 2022 it was moved beside the day of the Platinum Jubilee.
        last("Spring bank holiday", Weekday::Monday, 5)?.with_except([2022]),
        once("Spring bank holiday", 2022, 6, 2)?,
        once("Platinum Jubilee bank holiday", 2022, 6, 3)?,
        once("State Funeral of Queen Elizabeth II", 2022, 9, 19)?,
        once("Coronation of King Charles III", 2023, 5, 8)?,
        substituted(on("Christmas Day", 12, 25)?),
        substituted(on("Boxing Day", 12, 26)?),
    ])
}

fn england_wales() -> Result<Vec<HolidayRule>, Error> {
    let mut rules = common()?;
    rules.extend([easter("Easter Monday", 1)?, last("Summer bank holiday", Weekday::Monday, 8)?]);
    Ok(rules)
}

fn scotland() -> Result<Vec<HolidayRule>, Error> {
    let mut rules = common()?;
    rules.extend([
        substituted(on("2nd January", 1, 2)?),
        nth("Summer bank holiday", 1, Weekday::Monday, 8)?,
        substituted(on("St Andrew's Day", 11, 30)?),
    ]);
    Ok(rules)
}

fn northern_ireland() -> Result<Vec<HolidayRule>, Error> {
    let mut rules = england_wales()?;
    rules.extend([
        substituted(on("St Patrick's Day", 3, 17)?),
        substituted(on("Battle of the Boyne (Orangemen's Day)", 7, 12)?),
    ]);
    Ok(rules)
}
