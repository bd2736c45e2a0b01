//! India and Japan.

use crate::Shipped;
use crate::rules::{nth, on, once};
use mild_ledger::{Error, HolidayMove, HolidayRule, Occurrence, RestDays, Weekday, WorkCalendar};

pub(crate) const INDIA: Shipped = Shipped {
    name: "india",
    title: "India, the three national days",
    law: "the national holidays that the holiday acts of all states and the central government's yearly list name",
    covers: (2015, 2030),
    rules: india,
};

fn india() -> Result<Vec<HolidayRule>, Error> {
    Ok(vec![on("Republic Day", 1, 26)?, on("Independence Day", 8, 15)?, on("Gandhi Jayanti", 10, 2)?])
}

pub(crate) const JAPAN: Shipped = Shipped {
    name: "japan",
    title: "Japan, national holidays",
    law: "Act on National Holidays (Act No. 178 of 1948), articles 2 and 3, its special measures for 2019, 2020 and 2021, \
          and the equinoxes as the National Astronomical Observatory announced them",
    covers: (2015, 2026),
    rules: japan,
};

const YEARS: (i32, i32) = (2015, 2026);

/// The holidays of the act, each with its own day, and beside them the days in place of those on a Sunday.
fn japan() -> Result<Vec<HolidayRule>, Error> {
    let mut rules = days_of_the_act()?;
    // Article 3(2): a holiday on a Sunday, and on no other day of rest, is made up for on the next day that is none.
    let on_sundays: Vec<HolidayRule> =
        rules.iter().map(|rule| rule.clone().with_moved(HolidayMove::NextFreeDay)).collect();
    let kept = WorkCalendar::new("", RestDays::of([Weekday::Sunday]), YEARS.0, YEARS.1, &on_sundays)?;
    for holiday in kept.holidays().iter().filter(|holiday| holiday.moved_from().is_some()) {
        let name = format!("{} (in place of Sunday)", holiday.name());
        rules.push(HolidayRule::new(name, Occurrence::on_date(holiday.date())));
    }
    Ok(rules)
}

fn days_of_the_act() -> Result<Vec<HolidayRule>, Error> {
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
        once("Marine Day", 2020, 7, 23)?,
        once("Marine Day", 2021, 7, 22)?,
        on("Mountain Day", 8, 11)?.with_since(2016).with_except(games),
        once("Mountain Day", 2020, 8, 10)?,
        once("Mountain Day", 2021, 8, 8)?,
        nth("Respect for the Aged Day", 3, Weekday::Monday, 9)?,
        nth("Health and Sports Day", 2, Weekday::Monday, 10)?.with_until(2019),
        nth("Sports Day", 2, Weekday::Monday, 10)?.with_since(2022),
        once("Sports Day", 2020, 7, 24)?,
        once("Sports Day", 2021, 7, 23)?,
        on("Culture Day", 11, 3)?,
        on("Labour Thanksgiving Day", 11, 23)?,
        once("Accession to the Throne", 2019, 5, 1)?,
        once("Enthronement Ceremony", 2019, 10, 22)?,
        // Article 3(3): a day between two holidays.
        once("Citizens' Holiday", 2015, 9, 22)?,
        once("Citizens' Holiday", 2019, 4, 30)?,
        once("Citizens' Holiday", 2019, 5, 2)?,
        once("Citizens' Holiday", 2026, 9, 22)?,
    ];
    const VERNAL: [u8; 12] = [21, 20, 20, 21, 21, 20, 20, 21, 21, 20, 20, 20];
    const AUTUMNAL: [u8; 12] = [23, 22, 23, 23, 23, 22, 23, 23, 23, 22, 23, 23];
    for (year, (vernal, autumnal)) in (YEARS.0..).zip(VERNAL.into_iter().zip(AUTUMNAL)) {
        rules.push(once("Vernal Equinox Day", year, 3, vernal)?);
        rules.push(once("Autumnal Equinox Day", year, 9, autumnal)?);
    }
    Ok(rules)
}
