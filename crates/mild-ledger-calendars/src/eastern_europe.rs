//! Poland, Czechia, Romania, Estonia, Latvia and Lithuania.

use crate::rules::{Rules, easter, nth, on, on_following_monday, once, orthodox_easter};
use crate::shipped::{Region, Shipped};
use mild_ledger::Weekday;

pub(crate) const POLAND: Shipped = Shipped {
    name: "poland",
    title: "Poland, days free from work",
    region: Region::Europe,
    law: "Act of 18 January 1951 on days free from work, article 1, with Christmas Eve since 2025 (act of 6 December 2024)",
    notes: &[
        "The day that an employer grants for a holiday on a Saturday is the employer's to name and not here.",
    ],
    covers: (2015, 2030),
    proclaimed: 2030,
    base: None,
    dropped: &[],
    rules: poland,
};

fn poland() -> Rules {
    Ok(vec![
        on("New Year's Day", 1, 1)?,
        on("Epiphany", 1, 6)?,
        easter("Easter Sunday", 0)?,
        easter("Easter Monday", 1)?,
        on("State Holiday", 5, 1)?,
        on("Constitution Day", 5, 3)?,
        easter("Whit Sunday", 49)?,
        easter("Corpus Christi", 60)?,
        on("Assumption Day", 8, 15)?,
        on("All Saints' Day", 11, 1)?,
        on("Independence Day", 11, 11)?,
        once("Centenary of independence", (2018, 11, 12), "act of 7 November 2018")?,
        on("Christmas Eve", 12, 24)?.with_since(2025),
        on("Christmas Day", 12, 25)?,
        on("Second Day of Christmas", 12, 26)?,
    ])
}

pub(crate) const CZECHIA: Shipped = Shipped {
    name: "czechia",
    title: "Czechia, state and other holidays",
    region: Region::Europe,
    law: "Act 245/2000 Sb., sections 1 and 2, with Good Friday since 2016 (act 359/2015 Sb.)",
    notes: &[],
    covers: (2015, 2030),
    proclaimed: 2030,
    base: None,
    dropped: &[],
    rules: czechia,
};

fn czechia() -> Rules {
    Ok(vec![
        on("New Year's Day", 1, 1)?,
        easter("Good Friday", -2)?.with_since(2016),
        easter("Easter Monday", 1)?,
        on("Labour Day", 5, 1)?,
        on("Victory Day", 5, 8)?,
        on("Saints Cyril and Methodius", 7, 5)?,
        on("Jan Hus Day", 7, 6)?,
        on("Czech Statehood Day", 9, 28)?,
        on("Independent Czechoslovak State Day", 10, 28)?,
        on("Struggle for Freedom and Democracy Day", 11, 17)?,
        on("Christmas Eve", 12, 24)?,
        on("Christmas Day", 12, 25)?,
        on("Second Day of Christmas", 12, 26)?,
    ])
}

pub(crate) const ROMANIA: Shipped = Shipped {
    name: "romania",
    title: "Romania, legal holidays",
    region: Region::Europe,
    law: "Codul muncii (Legea 53/2003), article 139(1), with 24 January and 1 June since 2017, Good Friday since 2018, 6 and 7 \
          January since 2024",
    notes: &["Bridging days that the government grants to public offices are not here."],
    covers: (2015, 2026),
    proclaimed: 2026,
    base: None,
    dropped: &[],
    rules: romania,
};

fn romania() -> Rules {
    Ok(vec![
        on("New Year's Day", 1, 1)?,
        on("Second Day of the New Year", 1, 2)?,
        on("Epiphany", 1, 6)?.with_since(2024),
        on("Saint John's Day", 1, 7)?.with_since(2024),
        on("Union of the Principalities", 1, 24)?.with_since(2017),
        orthodox_easter("Good Friday", -2)?.with_since(2018),
        orthodox_easter("Easter Sunday", 0)?,
        orthodox_easter("Easter Monday", 1)?,
        on("Labour Day", 5, 1)?,
        on("Children's Day", 6, 1)?.with_since(2017),
        orthodox_easter("Whit Sunday", 49)?,
        orthodox_easter("Whit Monday", 50)?,
        on("Dormition of the Virgin", 8, 15)?,
        on("Saint Andrew's Day", 11, 30)?,
        on("National Day", 12, 1)?,
        on("Christmas Day", 12, 25)?,
        on("Second Day of Christmas", 12, 26)?,
    ])
}

pub(crate) const ESTONIA: Shipped = Shipped {
    name: "estonia",
    title: "Estonia, public holidays",
    region: Region::Europe,
    law: "Pühade ja tähtpäevade seadus, sections 1 and 2",
    notes: &[
        "The days before 1 January, 24 February, 23 June and 24 December are three hours shorter by the Employment Contracts Act; they are worked.",
    ],
    covers: (2015, 2030),
    proclaimed: 2030,
    base: None,
    dropped: &[],
    rules: estonia,
};

fn estonia() -> Rules {
    Ok(vec![
        on("New Year's Day", 1, 1)?,
        on("Independence Day", 2, 24)?,
        easter("Good Friday", -2)?,
        easter("Easter Sunday", 0)?,
        on("Spring Day", 5, 1)?,
        easter("Whit Sunday", 49)?,
        on("Victory Day", 6, 23)?,
        on("Midsummer Day", 6, 24)?,
        on("Restoration of Independence", 8, 20)?,
        on("Christmas Eve", 12, 24)?,
        on("Christmas Day", 12, 25)?,
        on("Second Day of Christmas", 12, 26)?,
    ])
}

pub(crate) const LATVIA: Shipped = Shipped {
    name: "latvia",
    title: "Latvia, holidays",
    region: Region::Europe,
    law: "Act on holidays and commemoration days of 3 October 1990, section 1; 4 May and 18 November on a weekend are kept on the \
          next working day",
    notes: &[
        "Working days that the government moves for state offices are not here.",
        "The closing day of the song and dance festival is a holiday; that of 2028 was not known when this was written.",
    ],
    covers: (2015, 2027),
    proclaimed: 2027,
    base: None,
    dropped: &[],
    rules: latvia,
};

fn latvia() -> Rules {
    let festival = "Close of the Song and Dance Festival";
    let closing = "section 1 of the act: the closing day of the festival, on a Sunday the next working day";
    Ok(vec![
        on("New Year's Day", 1, 1)?,
        easter("Good Friday", -2)?,
        easter("Easter Sunday", 0)?,
        easter("Easter Monday", 1)?,
        on("Labour Day", 5, 1)?,
        on_following_monday(on("Restoration of Independence", 5, 4)?),
        nth("Mother's Day", 2, Weekday::Sunday, 5)?,
        easter("Whit Sunday", 49)?,
        on("Midsummer Eve", 6, 23)?,
        on("Midsummer Day", 6, 24)?,
        once(festival, (2018, 7, 9), closing)?,
        once(festival, (2023, 7, 10), closing)?,
        once("Visit of Pope Francis", (2018, 9, 24), "act on 24 September 2018")?,
        once("Bronze of the ice hockey team", (2023, 5, 29), "act of the Saeima of 28 May 2023")?,
        on_following_monday(on("Proclamation of the Republic", 11, 18)?),
        on("Christmas Eve", 12, 24)?,
        on("Christmas Day", 12, 25)?,
        on("Second Day of Christmas", 12, 26)?,
        on("New Year's Eve", 12, 31)?,
    ])
}

pub(crate) const LITHUANIA: Shipped = Shipped {
    name: "lithuania",
    title: "Lithuania, holidays",
    region: Region::Europe,
    law: "Darbo kodeksas, article 123 (article 162 of the code before 2017), with All Souls' Day since 2020",
    notes: &[],
    covers: (2015, 2026),
    proclaimed: 2026,
    base: None,
    dropped: &[],
    rules: lithuania,
};

fn lithuania() -> Rules {
    Ok(vec![
        on("New Year's Day", 1, 1)?,
        on("Restoration of the State", 2, 16)?,
        on("Restoration of Independence", 3, 11)?,
        easter("Easter Sunday", 0)?,
        easter("Easter Monday", 1)?,
        on("Labour Day", 5, 1)?,
        nth("Mother's Day", 1, Weekday::Sunday, 5)?,
        nth("Father's Day", 1, Weekday::Sunday, 6)?,
        on("Saint John's Day", 6, 24)?,
        on("Statehood Day", 7, 6)?,
        on("Assumption Day", 8, 15)?,
        on("All Saints' Day", 11, 1)?,
        on("All Souls' Day", 11, 2)?.with_since(2020),
        on("Christmas Eve", 12, 24)?,
        on("Christmas Day", 12, 25)?,
        on("Second Day of Christmas", 12, 26)?,
    ])
}
