//! South Africa.

use crate::rules::{Rules, easter, on, once, sunday_and_monday};
use crate::shipped::{Region, Shipped};

pub(crate) const SOUTH_AFRICA: Shipped = Shipped {
    name: "south-africa",
    title: "South Africa, public holidays",
    region: Region::Africa,
    law: "Public Holidays Act 36 of 1994, section 1 and schedule 1: one on a Sunday closes the Monday behind too; single days by \
          proclamation under section 2A",
    notes: &[
        "It ends with the last year whose proclamations were known: elections and other days are proclaimed weeks before.",
    ],
    covers: (2015, 2025),
    proclaimed: 2025,
    base: None,
    dropped: &[],
    rules: south_africa,
};

fn south_africa() -> Rules {
    const PROCLAIMED: &str = "proclamation under section 2A of the act";
    let additional = "Additional public holiday";
    Ok(vec![
        sunday_and_monday(on("New Year's Day", 1, 1)?),
        sunday_and_monday(on("Human Rights Day", 3, 21)?),
        easter("Good Friday", -2)?,
        easter("Family Day", 1)?,
        sunday_and_monday(on("Freedom Day", 4, 27)?),
        sunday_and_monday(on("Workers' Day", 5, 1)?),
        sunday_and_monday(on("Youth Day", 6, 16)?),
        sunday_and_monday(on("National Women's Day", 8, 9)?),
        sunday_and_monday(on("Heritage Day", 9, 24)?),
        sunday_and_monday(on("Day of Reconciliation", 12, 16)?),
        sunday_and_monday(on("Christmas Day", 12, 25)?),
        sunday_and_monday(on("Day of Goodwill", 12, 26)?),
        once("Municipal elections", (2016, 8, 3), PROCLAIMED)?,
        once(additional, (2016, 12, 27), PROCLAIMED)?,
        once("National and provincial elections", (2019, 5, 8), PROCLAIMED)?,
        once("Municipal elections", (2021, 11, 1), PROCLAIMED)?,
        once(additional, (2022, 12, 27), PROCLAIMED)?,
        once("Victory in the Rugby World Cup", (2023, 12, 15), PROCLAIMED)?,
        once("National and provincial elections", (2024, 5, 29), PROCLAIMED)?,
    ])
}
