//! New Zealand.

use crate::rules::{Rules, dates, easter, nth, on, on_following_monday, once, substituted};
use crate::shipped::{Region, Shipped};
use mild_ledger::Weekday;

pub(crate) const NEW_ZEALAND: Shipped = Shipped {
    name: "new-zealand",
    title: "New Zealand, public holidays of the whole country",
    region: Region::Oceania,
    law: "Holidays Act 2003, sections 44 to 45A, with Te Kāhui o Matariki Public Holiday Act 2022, schedule 1, and Queen \
          Elizabeth II Memorial Day Act 2022",
    notes: &[
        "Anniversary days are regional and not here.",
        "The schedule of Matariki ends in 2052: each date is the Friday nearest to the four days from the moon's last quarter, of two \
         that are as near the one that the schedule names.",
    ],
    covers: (2015, 2052),
    proclaimed: 2052,
    base: None,
    dropped: &[],
    rules: new_zealand,
};

fn new_zealand() -> Rules {
    Ok(vec![
        substituted(on("New Year's Day", 1, 1)?),
        substituted(on("Day after New Year's Day", 1, 2)?),
        on_following_monday(on("Waitangi Day", 2, 6)?),
        easter("Good Friday", -2)?,
        easter("Easter Monday", 1)?,
        // In 2038 the Monday after it is Easter Monday too.
        on_following_monday(on("Anzac Day", 4, 25)?),
        nth("Sovereign's Birthday", 1, Weekday::Monday, 6)?,
        dates("Matariki", &MATARIKI, "Te Kāhui o Matariki Public Holiday Act 2022, schedule 1")?,
        once("Queen Elizabeth II Memorial Day", (2022, 9, 26), "Queen Elizabeth II Memorial Day Act 2022")?,
        nth("Labour Day", 4, Weekday::Monday, 10)?,
        substituted(on("Christmas Day", 12, 25)?),
        substituted(on("Boxing Day", 12, 26)?),
    ])
}

const MATARIKI: [(i32, u8, u8); 31] = [
    (2022, 6, 24),
    (2023, 7, 14),
    (2024, 6, 28),
    (2025, 6, 20),
    (2026, 7, 10),
    (2027, 6, 25),
    (2028, 7, 14),
    (2029, 7, 6),
    (2030, 6, 21),
    (2031, 7, 11),
    (2032, 7, 2),
    (2033, 6, 24),
    (2034, 7, 7),
    (2035, 6, 29),
    (2036, 7, 18),
    (2037, 7, 10),
    (2038, 6, 25),
    (2039, 7, 15),
    (2040, 7, 6),
    (2041, 7, 19),
    (2042, 7, 11),
    (2043, 7, 3),
    (2044, 6, 24),
    (2045, 7, 7),
    (2046, 6, 29),
    (2047, 7, 19),
    (2048, 7, 3),
    (2049, 6, 25),
    (2050, 7, 15),
    (2051, 6, 30),
    (2052, 6, 21),
];
