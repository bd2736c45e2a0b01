//! France, the Netherlands, Belgium, Luxembourg and Austria.

use crate::rules::{Rules, easter, on};
use crate::shipped::{Region, Shipped};
use mild_ledger::{Weekday, WeekdayMove};

pub(crate) const FRANCE: Shipped = Shipped {
    name: "france",
    title: "France, legal holidays",
    region: Region::Europe,
    law: "Code du travail, article L3133-1",
    notes: &[
        "Good Friday and 26 December, which Alsace and Moselle keep, and days of the overseas departments are not here.",
        "The day of solidarity (article L3133-7), often Whit Monday, is worked by agreement; Whit Monday stays a holiday.",
    ],
    covers: (2015, 2040),
    proclaimed: 2030,
    base: None,
    dropped: &[],
    rules: france,
};

fn france() -> Rules {
    Ok(vec![
        on("New Year's Day", 1, 1)?,
        easter("Easter Monday", 1)?,
        on("Labour Day", 5, 1)?,
        on("Victory Day", 5, 8)?,
        easter("Ascension Day", 39)?,
        easter("Whit Monday", 50)?,
        on("Bastille Day", 7, 14)?,
        on("Assumption Day", 8, 15)?,
        on("All Saints' Day", 11, 1)?,
        on("Armistice Day", 11, 11)?,
        on("Christmas Day", 12, 25)?,
    ])
}

pub(crate) const NETHERLANDS: Shipped = Shipped {
    name: "netherlands",
    title: "Netherlands, generally recognised holidays",
    region: Region::Europe,
    law: "Algemene termijnenwet, article 3(1)",
    notes: &[
        "Good Friday is treated as one for time limits alone (article 3(2)): netherlands-time-limits has it.",
        "5 May is in the statute for every year; by many collective agreements it is a day off every fifth year only.",
    ],
    covers: (2015, 2040),
    proclaimed: 2030,
    base: None,
    dropped: &[],
    rules: netherlands,
};

fn netherlands() -> Rules {
    let kings_day = on("King's Day", 4, 27)?;
    Ok(vec![
        on("New Year's Day", 1, 1)?,
        easter("Easter Monday", 1)?,
        kings_day.with_moved_on(Weekday::Sunday, WeekdayMove::Before(Weekday::Saturday)),
        on("Liberation Day", 5, 5)?,
        easter("Ascension Day", 39)?,
        easter("Whit Monday", 50)?,
        on("Christmas Day", 12, 25)?,
        on("Second Day of Christmas", 12, 26)?,
    ])
}

pub(crate) const NETHERLANDS_TIME_LIMITS: Shipped = Shipped {
    name: "netherlands-time-limits",
    title: "Netherlands, days on which statutory time limits do not end",
    region: Region::Europe,
    law: "Algemene termijnenwet, article 3(1) and (2), which adds Good Friday to the holidays",
    notes: &["Days that a royal decree treats as holidays (article 3(3)) are not here."],
    covers: NETHERLANDS.covers,
    proclaimed: NETHERLANDS.proclaimed,
    base: Some(&NETHERLANDS),
    dropped: &[],
    rules: || Ok(vec![easter("Good Friday", -2)?]),
};

pub(crate) const BELGIUM: Shipped = Shipped {
    name: "belgium",
    title: "Belgium, public holidays",
    region: Region::Europe,
    law: "Act of 4 January 1974 on public holidays, and royal decree of 18 April 1974, article 1",
    notes: &[
        "A holiday on a Sunday or a day that is not worked is replaced by a working day that each employer names; it is not here.",
    ],
    covers: (2015, 2030),
    proclaimed: 2030,
    base: None,
    dropped: &[],
    rules: belgium,
};

fn belgium() -> Rules {
    Ok(vec![
        on("New Year's Day", 1, 1)?,
        easter("Easter Monday", 1)?,
        on("Labour Day", 5, 1)?,
        easter("Ascension Day", 39)?,
        easter("Whit Monday", 50)?,
        on("National Day", 7, 21)?,
        on("Assumption Day", 8, 15)?,
        on("All Saints' Day", 11, 1)?,
        on("Armistice Day", 11, 11)?,
        on("Christmas Day", 12, 25)?,
    ])
}

pub(crate) const LUXEMBOURG: Shipped = Shipped {
    name: "luxembourg",
    title: "Luxembourg, legal holidays",
    region: Region::Europe,
    law: "Code du travail, article L.232-2, with Europe Day since 2019 (act of 25 April 2019)",
    notes: &[
        "The day granted for a holiday on a Sunday (article L.232-6) is the employee's to choose and not here.",
    ],
    covers: (2015, 2030),
    proclaimed: 2030,
    base: None,
    dropped: &[],
    rules: luxembourg,
};

fn luxembourg() -> Rules {
    Ok(vec![
        on("New Year's Day", 1, 1)?,
        easter("Easter Monday", 1)?,
        on("Labour Day", 5, 1)?,
        on("Europe Day", 5, 9)?.with_since(2019),
        easter("Ascension Day", 39)?,
        easter("Whit Monday", 50)?,
        on("National Day", 6, 23)?,
        on("Assumption Day", 8, 15)?,
        on("All Saints' Day", 11, 1)?,
        on("Christmas Day", 12, 25)?,
        on("Second Day of Christmas", 12, 26)?,
    ])
}

pub(crate) const AUSTRIA: Shipped = Shipped {
    name: "austria",
    title: "Austria, public holidays",
    region: Region::Europe,
    law: "Arbeitsruhegesetz, section 7(2), and Feiertagsruhegesetz 1957, section 1",
    notes: &[
        "Good Friday was a holiday of some churches until 2018 and is none now; days of the states' patrons are not here.",
    ],
    covers: (2015, 2030),
    proclaimed: 2030,
    base: None,
    dropped: &[],
    rules: austria,
};

fn austria() -> Rules {
    Ok(vec![
        on("New Year's Day", 1, 1)?,
        on("Epiphany", 1, 6)?,
        easter("Easter Monday", 1)?,
        on("National Holiday", 5, 1)?,
        easter("Ascension Day", 39)?,
        easter("Whit Monday", 50)?,
        easter("Corpus Christi", 60)?,
        on("Assumption Day", 8, 15)?,
        on("National Day", 10, 26)?,
        on("All Saints' Day", 11, 1)?,
        on("Immaculate Conception", 12, 8)?,
        on("Christmas Day", 12, 25)?,
        on("Saint Stephen's Day", 12, 26)?,
    ])
}
