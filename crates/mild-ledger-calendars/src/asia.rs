//! India, Japan, Singapore and Hong Kong.

use crate::rules::{Rules, dates, nth, on, once};
use crate::shipped::{Region, Shipped};
use mild_ledger::{HolidayMove, HolidayRule, Occurrence, RestDays, Weekday, WorkCalendar};

pub(crate) const INDIA: Shipped = Shipped {
    name: "india",
    title: "India, the three national days",
    region: Region::Asia,
    law: "the national holidays that the holiday acts of all states and the central government's yearly list name",
    notes: &["States and the banks of each state keep further days, which are not here."],
    covers: (2015, 2030),
    proclaimed: 2030,
    base: None,
    dropped: &[],
    rules: india,
};

fn india() -> Rules {
    Ok(vec![on("Republic Day", 1, 26)?, on("Independence Day", 8, 15)?, on("Gandhi Jayanti", 10, 2)?])
}

pub(crate) const JAPAN: Shipped = Shipped {
    name: "japan",
    title: "Japan, national holidays",
    region: Region::Asia,
    law: "Act on National Holidays (Act No. 178 of 1948), articles 2 and 3, its special measures for 2019, 2020 and 2021, \
          and the equinoxes as the National Astronomical Observatory announced them",
    notes: &[],
    covers: YEARS,
    proclaimed: YEARS.1,
    base: None,
    dropped: &[],
    rules: japan,
};

/// To the last year whose equinoxes are gazetted.
const YEARS: (i32, i32) = (2015, 2027);

/// The holidays of the act, each with its own day, and next to them the days in place of those on a Sunday.
fn japan() -> Rules {
    let mut rules = days_of_the_act()?;
    // Article 3(2): a holiday on a Sunday, and on no other day of rest, is made up for on the next day that is none.
    let on_sundays: Vec<HolidayRule> =
        rules.iter().map(|rule| rule.clone().with_moved(HolidayMove::NextFreeDay)).collect();
    let kept = WorkCalendar::new("", RestDays::of([Weekday::Sunday]), YEARS.0, YEARS.1, &on_sundays)?;
    for holiday in kept.holidays().iter().filter(|holiday| holiday.moved_from().is_some()) {
        let name = format!("{} (in place of Sunday)", holiday.name());
        let rule = HolidayRule::new(name, Occurrence::on_date(holiday.date()));
        rules.push(rule.with_source("article 3(2): a holiday on a Sunday is made up for"));
    }
    Ok(rules)
}

fn days_of_the_act() -> Rules {
    const GAMES: &str = "special measures for the Games of Tokyo";
    const ACCESSION: &str = "act of 2018 on the day of the accession (Act No. 99 of 2018)";
    const BETWEEN: &str = "article 3(3): a day between two holidays";
    const EQUINOX: &str =
        "announced by the National Astronomical Observatory in the gazette of February of the year before";
    let games = [2020, 2021];
    let mut rules = vec![
        on("New Year's Day", 1, 1)?,
        nth("Coming of Age Day", 2, Weekday::Monday, 1)?,
        on("National Foundation Day", 2, 11)?,
        on("Emperor's Birthday", 12, 23)?.with_until(2018),
        on("Emperor's Birthday", 2, 23)?.with_since(2020),
        on("Showa Day", 4, 29)?,
        on("Constitution Memorial Day", 5, 3)?,
        on("Greenery Day", 5, 4)?,
        on("Children's Day", 5, 5)?,
        nth("Marine Day", 3, Weekday::Monday, 7)?.with_except(games),
        once("Marine Day", (2020, 7, 23), GAMES)?,
        once("Marine Day", (2021, 7, 22), GAMES)?,
        on("Mountain Day", 8, 11)?.with_since(2016).with_except(games),
        once("Mountain Day", (2020, 8, 10), GAMES)?,
        once("Mountain Day", (2021, 8, 8), GAMES)?,
        nth("Respect for the Aged Day", 3, Weekday::Monday, 9)?,
        nth("Health and Sports Day", 2, Weekday::Monday, 10)?.with_until(2019),
        nth("Sports Day", 2, Weekday::Monday, 10)?.with_since(2022),
        once("Sports Day", (2020, 7, 24), GAMES)?,
        once("Sports Day", (2021, 7, 23), GAMES)?,
        on("Culture Day", 11, 3)?,
        on("Labour Thanksgiving Day", 11, 23)?,
        once("Accession to the Throne", (2019, 5, 1), ACCESSION)?,
        once("Enthronement Ceremony", (2019, 10, 22), ACCESSION)?,
        once("Citizens' Holiday", (2015, 9, 22), BETWEEN)?,
        once("Citizens' Holiday", (2019, 4, 30), BETWEEN)?,
        once("Citizens' Holiday", (2019, 5, 2), BETWEEN)?,
        once("Citizens' Holiday", (2026, 9, 22), BETWEEN)?,
    ];
    const VERNAL: [u8; 13] = [21, 20, 20, 21, 21, 20, 20, 21, 21, 20, 20, 20, 21];
    const AUTUMNAL: [u8; 13] = [23, 22, 23, 23, 23, 22, 23, 23, 23, 22, 23, 23, 23];
    for (year, (vernal, autumnal)) in (YEARS.0..).zip(VERNAL.into_iter().zip(AUTUMNAL)) {
        rules.push(once("Vernal Equinox Day", (year, 3, vernal), EQUINOX)?);
        rules.push(once("Autumnal Equinox Day", (year, 9, autumnal), EQUINOX)?);
    }
    Ok(rules)
}

pub(crate) const SINGAPORE: Shipped = Shipped {
    name: "singapore",
    title: "Singapore, public holidays",
    region: Region::Asia,
    law: "Holidays Act 1998, section 2 and schedule, with the dates that the Ministry of Manpower publishes for each year; one on a \
          Sunday is kept on the next day that is no holiday (section 4)",
    notes: &["A published list: it ends with the last year whose dates were certain."],
    covers: (2020, 2026),
    proclaimed: 2026,
    base: None,
    dropped: &[],
    rules: singapore,
};

fn singapore() -> Rules {
    const LIST: &str = "yearly list of the Ministry of Manpower";
    const POLLING: &str = "order under the Holidays Act for polling day";
    let published = |name: &str, days: &[(i32, u8, u8)]| dates(name, days, LIST);
    Ok(vec![
        published("New Year's Day", &each_year((2020, 2026), 1, 1))?,
        published(
            "Chinese New Year",
            &[
                (2020, 1, 25),
                (2020, 1, 26),
                (2021, 2, 12),
                (2021, 2, 13),
                (2022, 2, 1),
                (2022, 2, 2),
                (2023, 1, 22),
                (2023, 1, 23),
                (2024, 2, 10),
                (2024, 2, 11),
                (2025, 1, 29),
                (2025, 1, 30),
                (2026, 2, 17),
                (2026, 2, 18),
            ],
        )?,
        published(
            "Good Friday",
            &[
                (2020, 4, 10),
                (2021, 4, 2),
                (2022, 4, 15),
                (2023, 4, 7),
                (2024, 3, 29),
                (2025, 4, 18),
                (2026, 4, 3),
            ],
        )?,
        published("Labour Day", &each_year((2020, 2026), 5, 1))?,
        published(
            "Hari Raya Puasa",
            &[
                (2020, 5, 24),
                (2021, 5, 13),
                (2022, 5, 3),
                (2023, 4, 22),
                (2024, 4, 10),
                (2025, 3, 31),
                (2026, 3, 21),
            ],
        )?,
        published(
            "Vesak Day",
            &[
                (2020, 5, 7),
                (2021, 5, 26),
                (2022, 5, 15),
                (2023, 6, 2),
                (2024, 5, 22),
                (2025, 5, 12),
                (2026, 5, 31),
            ],
        )?,
        published(
            "Hari Raya Haji",
            &[
                (2020, 7, 31),
                (2021, 7, 20),
                (2022, 7, 10),
                (2023, 6, 29),
                (2024, 6, 17),
                (2025, 6, 7),
                (2026, 5, 27),
            ],
        )?,
        published("National Day", &each_year((2020, 2026), 8, 9))?,
        published(
            "Deepavali",
            &[
                (2020, 11, 14),
                (2021, 11, 4),
                (2022, 10, 24),
                (2023, 11, 12),
                (2024, 10, 31),
                (2025, 10, 20),
                (2026, 11, 8),
            ],
        )?,
        published("Christmas Day", &each_year((2020, 2026), 12, 25))?,
        published(
            "In place of Sunday",
            &[
                (2020, 1, 27),
                (2020, 5, 25),
                (2020, 8, 10),
                (2022, 5, 2),
                (2022, 5, 16),
                (2022, 7, 11),
                (2022, 12, 26),
                (2023, 1, 2),
                (2023, 1, 24),
                (2023, 11, 13),
                (2024, 2, 12),
                (2026, 6, 1),
                (2026, 8, 10),
                (2026, 11, 9),
            ],
        )?,
        once("Polling Day", (2020, 7, 10), POLLING)?,
        once("Polling Day", (2023, 9, 1), POLLING)?,
        once("Polling Day", (2025, 5, 3), POLLING)?,
    ])
}

fn each_year((first, last): (i32, i32), month: u8, day: u8) -> Vec<(i32, u8, u8)> {
    (first..=last).map(|year| (year, month, day)).collect()
}

pub(crate) const HONG_KONG: Shipped = Shipped {
    name: "hong-kong",
    title: "Hong Kong, general holidays",
    region: Region::Asia,
    law: "General Holidays Ordinance (Cap. 149), schedule, with the dates that the government gazettes for each year",
    notes: &[
        "A published list: it ends with the last year whose dates were certain. Statutory holidays of employees are fewer.",
    ],
    covers: (2020, 2026),
    proclaimed: 2026,
    base: None,
    dropped: &[],
    rules: hong_kong,
};

fn hong_kong() -> Rules {
    let gazetted =
        |name: &str, days: &[(i32, u8, u8)]| dates(name, days, "general holidays as gazetted for the year");
    Ok(vec![
        gazetted(
            "The first day of January",
            &[
                (2020, 1, 1),
                (2021, 1, 1),
                (2022, 1, 1),
                (2023, 1, 2),
                (2024, 1, 1),
                (2025, 1, 1),
                (2026, 1, 1),
            ],
        )?,
        gazetted(
            "Lunar New Year",
            &[
                (2020, 1, 25),
                (2020, 1, 27),
                (2020, 1, 28),
                (2021, 2, 12),
                (2021, 2, 13),
                (2021, 2, 15),
                (2022, 2, 1),
                (2022, 2, 2),
                (2022, 2, 3),
                (2023, 1, 23),
                (2023, 1, 24),
                (2023, 1, 25),
                (2024, 2, 10),
                (2024, 2, 12),
                (2024, 2, 13),
                (2025, 1, 29),
                (2025, 1, 30),
                (2025, 1, 31),
                (2026, 2, 17),
                (2026, 2, 18),
                (2026, 2, 19),
            ],
        )?,
        gazetted(
            "Ching Ming Festival",
            &[
                (2020, 4, 4),
                (2021, 4, 5),
                (2022, 4, 5),
                (2023, 4, 5),
                (2024, 4, 4),
                (2025, 4, 4),
                (2026, 4, 6),
            ],
        )?,
        gazetted(
            "Easter",
            &[
                (2020, 4, 10),
                (2020, 4, 11),
                (2020, 4, 13),
                (2021, 4, 2),
                (2021, 4, 3),
                (2021, 4, 6),
                (2022, 4, 15),
                (2022, 4, 16),
                (2022, 4, 18),
                (2023, 4, 7),
                (2023, 4, 8),
                (2023, 4, 10),
                (2024, 3, 29),
                (2024, 3, 30),
                (2024, 4, 1),
                (2025, 4, 18),
                (2025, 4, 19),
                (2025, 4, 21),
                (2026, 4, 3),
                (2026, 4, 4),
                (2026, 4, 7),
            ],
        )?,
        gazetted(
            "Birthday of the Buddha",
            &[
                (2020, 4, 30),
                (2021, 5, 19),
                (2022, 5, 9),
                (2023, 5, 26),
                (2024, 5, 15),
                (2025, 5, 5),
                (2026, 5, 25),
            ],
        )?,
        gazetted(
            "Labour Day",
            &[
                (2020, 5, 1),
                (2021, 5, 1),
                (2022, 5, 2),
                (2023, 5, 1),
                (2024, 5, 1),
                (2025, 5, 1),
                (2026, 5, 1),
            ],
        )?,
        gazetted(
            "Tuen Ng Festival",
            &[
                (2020, 6, 25),
                (2021, 6, 14),
                (2022, 6, 3),
                (2023, 6, 22),
                (2024, 6, 10),
                (2025, 5, 31),
                (2026, 6, 19),
            ],
        )?,
        gazetted("Establishment Day of the Special Administrative Region", &each_year((2020, 2026), 7, 1))?,
        gazetted(
            "Mid-Autumn Festival",
            &[
                (2020, 10, 2),
                (2021, 9, 22),
                (2022, 9, 12),
                (2023, 9, 30),
                (2024, 9, 18),
                (2025, 10, 7),
                (2026, 9, 26),
            ],
        )?,
        gazetted(
            "National Day",
            &[
                (2020, 10, 1),
                (2021, 10, 1),
                (2022, 10, 1),
                (2023, 10, 2),
                (2024, 10, 1),
                (2025, 10, 1),
                (2026, 10, 1),
            ],
        )?,
        gazetted(
            "Chung Yeung Festival",
            &[
                (2020, 10, 26),
                (2021, 10, 14),
                (2022, 10, 4),
                (2023, 10, 23),
                (2024, 10, 11),
                (2025, 10, 29),
                (2026, 10, 19),
            ],
        )?,
        gazetted(
            "Christmas",
            &[
                (2020, 12, 25),
                (2020, 12, 26),
                (2021, 12, 25),
                (2021, 12, 27),
                (2022, 12, 26),
                (2022, 12, 27),
                (2023, 12, 25),
                (2023, 12, 26),
                (2024, 12, 25),
                (2024, 12, 26),
                (2025, 12, 25),
                (2025, 12, 26),
                (2026, 12, 25),
                (2026, 12, 26),
            ],
        )?,
    ])
}
