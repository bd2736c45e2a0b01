//! Australia and New Zealand.

use crate::Shipped;
use crate::rules::{easter, nth, on, once};
use mild_ledger::{Error, HolidayMove, HolidayRule, Weekday};

pub(crate) const AUSTRALIA: Shipped = Shipped {
    name: "australia",
    title: "Australia, the days that all states and territories keep",
    law: "Fair Work Act 2009, section 115, and the holiday acts of the states and territories, where they agree. It covers \
          the years in which they agree on every day in place of one on a weekend.",
    covers: (2023, 2025),
    rules: australia,
};

fn australia() -> Result<Vec<HolidayRule>, Error> {
    let substituted = |rule: HolidayRule| rule.with_moved(HolidayMove::NextFreeDay);
    Ok(vec![
        substituted(on("New Year's Day", 1, 1)?),
        substituted(on("Australia Day", 1, 26)?),
        easter("Good Friday", -2)?,
        easter("Easter Monday", 1)?,
        on("Anzac Day", 4, 25)?,
        on("Christmas Day", 12, 25)?,
        on("26 December", 12, 26)?,
    ])
}

pub(crate) const NEW_ZEALAND: Shipped = Shipped {
    name: "new-zealand",
    title: "New Zealand, public holidays of the whole country",
    law: "Holidays Act 2003, sections 44 to 45A, with Te Kahui o Matariki Public Holiday Act 2022, schedule 1, and Queen \
          Elizabeth II Memorial Day Act 2022; anniversary days are regional",
    covers: (2015, 2030),
    rules: new_zealand,
};

fn new_zealand() -> Result<Vec<HolidayRule>, Error> {
    let substituted = |rule: HolidayRule| rule.with_moved(HolidayMove::NextFreeDay);
    let mut rules = vec![
        substituted(on("New Year's Day", 1, 1)?),
        substituted(on("Day after New Year's Day", 1, 2)?),
        substituted(on("Waitangi Day", 2, 6)?),
        easter("Good Friday", -2)?,
        easter("Easter Monday", 1)?,
        substituted(on("Anzac Day", 4, 25)?),
        nth("Sovereign's Birthday", 1, Weekday::Monday, 6)?,
        once("Queen Elizabeth II Memorial Day", 2022, 9, 26)?,
        nth("Labour Day", 4, Weekday::Monday, 10)?,
        substituted(on("Christmas Day", 12, 25)?),
        substituted(on("Boxing Day", 12, 26)?),
    ];
    // As scheduled by the act.
    for (year, month, day) in [
        (2022, 6, 24),
        (2023, 7, 14),
        (2024, 6, 28),
        (2025, 6, 20),
        (2026, 7, 10),
        (2027, 6, 25),
        (2028, 7, 14),
        (2029, 7, 6),
        (2030, 6, 21),
    ] {
        rules.push(once("Matariki", year, month, day)?);
    }
    Ok(rules)
}
