//! The United Kingdom and Ireland.

use crate::rules::{Rules, dates, easter, last, nth, on, once, substituted};
use crate::shipped::{Region, Shipped};
use mild_ledger::Weekday;

const LAW: &str = "Banking and Financial Dealings Act 1971, section 1 and schedule 1, with the days appointed by royal \
                   proclamation, those in place of days on a weekend among them";
/// A holiday by proclamation under the act.
const PROCLAIMED: &str = "royal proclamation under the Act of 1971";

pub(crate) const ENGLAND_WALES: Shipped = Shipped {
    name: "england-wales",
    title: "England and Wales, bank holidays",
    region: Region::Europe,
    law: LAW,
    notes: &[],
    covers: (2015, 2030),
    proclaimed: 2027,
    base: None,
    dropped: &[],
    rules: england_wales,
};

pub(crate) const SCOTLAND: Shipped = Shipped {
    name: "scotland",
    title: "Scotland, bank holidays",
    region: Region::Europe,
    law: "Banking and Financial Dealings Act 1971, section 1 and schedule 1, St Andrew's Day Bank Holiday (Scotland) Act \
          2007, section 1, with the days appointed by royal proclamation",
    notes: &[
        "2026 is left out: whether 15 June 2026 is a bank holiday was not certain when this was written.",
        "Local holidays of cities and councils are theirs, and many employers keep those in place of bank holidays.",
    ],
    covers: (2015, 2025),
    proclaimed: 2025,
    base: None,
    dropped: &[],
    rules: scotland,
};

pub(crate) const NORTHERN_IRELAND: Shipped = Shipped {
    name: "northern-ireland",
    title: "Northern Ireland, bank holidays",
    region: Region::Europe,
    law: LAW,
    notes: &[],
    covers: (2015, 2030),
    proclaimed: 2027,
    base: None,
    dropped: &[],
    rules: northern_ireland,
};

/// What all parts of the kingdom keep on the same days.
fn common() -> Rules {
    Ok(vec![
        substituted(on("New Year's Day", 1, 1)?),
        easter("Good Friday", -2)?,
        // In 2020 it was moved to the 75th anniversary of the end of the war in Europe.
        nth("Early May bank holiday", 1, Weekday::Monday, 5)?.with_except([2020]),
        once("Early May bank holiday", (2020, 5, 8), PROCLAIMED)?,
        // In 2022 it was moved next to the day of the Platinum Jubilee.
        last("Spring bank holiday", Weekday::Monday, 5)?.with_except([2022]),
        once("Spring bank holiday", (2022, 6, 2), PROCLAIMED)?,
        once("Platinum Jubilee bank holiday", (2022, 6, 3), PROCLAIMED)?,
        once("State Funeral of Queen Elizabeth II", (2022, 9, 19), PROCLAIMED)?,
        once("Coronation of King Charles III", (2023, 5, 8), PROCLAIMED)?,
        substituted(on("Christmas Day", 12, 25)?),
        substituted(on("Boxing Day", 12, 26)?),
    ])
}

fn england_wales() -> Rules {
    let mut rules = common()?;
    rules.extend([easter("Easter Monday", 1)?, last("Summer bank holiday", Weekday::Monday, 8)?]);
    Ok(rules)
}

fn scotland() -> Rules {
    let mut rules = common()?;
    rules.extend([
        substituted(on("2nd January", 1, 2)?),
        nth("Summer bank holiday", 1, Weekday::Monday, 8)?,
        substituted(on("St Andrew's Day", 11, 30)?),
    ]);
    Ok(rules)
}

fn northern_ireland() -> Rules {
    let mut rules = england_wales()?;
    rules.extend([
        substituted(on("St Patrick's Day", 3, 17)?),
        substituted(on("Battle of the Boyne (Orangemen's Day)", 7, 12)?),
    ]);
    Ok(rules)
}

pub(crate) const IRELAND: Shipped = Shipped {
    name: "ireland",
    title: "Ireland, public holidays",
    region: Region::Europe,
    law: "Organisation of Working Time Act 1997, section 21 and second schedule, as amended in 2022 for Saint Brigid's Day: \
          the first Monday in February, or 1 February where that is a Friday",
    notes: &["What an employee is granted for a holiday on a weekend is not a day off by law, and not here."],
    covers: (2015, 2040),
    proclaimed: 2030,
    base: None,
    dropped: &[],
    rules: ireland,
};

fn ireland() -> Rules {
    let fridays = [(2030, 2, 1), (2036, 2, 1)];
    Ok(vec![
        on("New Year's Day", 1, 1)?,
        nth("Saint Brigid's Day", 1, Weekday::Monday, 2)?
            .with_since(2023)
            .with_except(fridays.map(|(year, ..)| year)),
        dates("Saint Brigid's Day", &fridays, "second schedule: 1 February where that is a Friday")?,
        on("Saint Patrick's Day", 3, 17)?,
        once(
            "Day of Remembrance and Recognition",
            (2022, 3, 18),
            "order under the Act of 1997, January 2022",
        )?,
        easter("Easter Monday", 1)?,
        nth("May Day", 1, Weekday::Monday, 5)?,
        nth("June Holiday", 1, Weekday::Monday, 6)?,
        nth("August Holiday", 1, Weekday::Monday, 8)?,
        last("October Holiday", Weekday::Monday, 10)?,
        on("Christmas Day", 12, 25)?,
        on("Saint Stephen's Day", 12, 26)?,
    ])
}
