//! Sweden, Norway, Denmark and Finland.

use crate::rules::{Rules, beside, easter, on};
use crate::shipped::{Region, Shipped};
use mild_ledger::{Weekday, WeekdaySide};

pub(crate) const SWEDEN: Shipped = Shipped {
    name: "sweden",
    title: "Sweden, public holidays",
    region: Region::Europe,
    law: "Lag (1989:253) om allmänna helgdagar, section 1",
    notes: &[
        "The eves of Midsummer, Christmas and the New Year are not public holidays, though hardly anyone works: \
         sweden-with-eves has them.",
    ],
    covers: (2015, 2030),
    proclaimed: 2030,
    base: None,
    dropped: &[],
    rules: sweden,
};

fn sweden() -> Rules {
    Ok(vec![
        on("New Year's Day", 1, 1)?,
        on("Epiphany", 1, 6)?,
        easter("Good Friday", -2)?,
        easter("Easter Sunday", 0)?,
        easter("Easter Monday", 1)?,
        on("May Day", 5, 1)?,
        easter("Ascension Day", 39)?,
        easter("Whit Sunday", 49)?,
        on("National Day", 6, 6)?,
        beside("Midsummer Day", Weekday::Saturday, WeekdaySide::OnOrAfter, (6, 20))?,
        beside("All Saints' Day", Weekday::Saturday, WeekdaySide::OnOrAfter, (10, 31))?,
        on("Christmas Day", 12, 25)?,
        on("Second Day of Christmas", 12, 26)?,
    ])
}

pub(crate) const SWEDEN_WITH_EVES: Shipped = Shipped {
    name: "sweden-with-eves",
    title: "Sweden, public holidays and the eves that statutory time treats as such",
    region: Region::Europe,
    law: "Lag (1989:253) om allmänna helgdagar, section 1, and Lag (1930:173) om beräkning av lagstadgad tid, section 2",
    notes: &[],
    covers: SWEDEN.covers,
    proclaimed: SWEDEN.proclaimed,
    base: Some(&SWEDEN),
    dropped: &[],
    rules: || {
        Ok(vec![
            beside("Midsummer Eve", Weekday::Friday, WeekdaySide::OnOrAfter, (6, 19))?,
            on("Christmas Eve", 12, 24)?,
            on("New Year's Eve", 12, 31)?,
        ])
    },
};

pub(crate) const NORWAY: Shipped = Shipped {
    name: "norway",
    title: "Norway, public holidays",
    region: Region::Europe,
    law: "Lov om helligdager og helligdagsfred (1995), section 2, and Lov om 1 og 17 mai som høgtidsdager (1947)",
    notes: &[],
    covers: (2015, 2030),
    proclaimed: 2030,
    base: None,
    dropped: &[],
    rules: norway,
};

fn norway() -> Rules {
    Ok(vec![
        on("New Year's Day", 1, 1)?,
        easter("Maundy Thursday", -3)?,
        easter("Good Friday", -2)?,
        easter("Easter Sunday", 0)?,
        easter("Easter Monday", 1)?,
        on("Labour Day", 5, 1)?,
        on("Constitution Day", 5, 17)?,
        easter("Ascension Day", 39)?,
        easter("Whit Sunday", 49)?,
        easter("Whit Monday", 50)?,
        on("Christmas Day", 12, 25)?,
        on("Second Day of Christmas", 12, 26)?,
    ])
}

pub(crate) const DENMARK: Shipped = Shipped {
    name: "denmark",
    title: "Denmark, public holidays",
    region: Region::Europe,
    law: "the holidays of the national church as decrees of 1770 and later acts left them; Great Prayer Day until 2023 (abolished by \
          the act of 6 March 2023)",
    notes: &[
        "Constitution Day (5 June), Christmas Eve and the day after Ascension are not public holidays, though banks and \
         many employers close.",
    ],
    covers: (2015, 2030),
    proclaimed: 2030,
    base: None,
    dropped: &[],
    rules: denmark,
};

fn denmark() -> Rules {
    Ok(vec![
        on("New Year's Day", 1, 1)?,
        easter("Maundy Thursday", -3)?,
        easter("Good Friday", -2)?,
        easter("Easter Sunday", 0)?,
        easter("Easter Monday", 1)?,
        easter("Great Prayer Day", 26)?.with_until(2023),
        easter("Ascension Day", 39)?,
        easter("Whit Sunday", 49)?,
        easter("Whit Monday", 50)?,
        on("Christmas Day", 12, 25)?,
        on("Second Day of Christmas", 12, 26)?,
    ])
}

pub(crate) const FINLAND: Shipped = Shipped {
    name: "finland",
    title: "Finland, public holidays",
    region: Region::Europe,
    law: "the Church Act's list of holy days, with the acts on May Day and on Independence Day (388/1937)",
    notes: &["Midsummer Eve and Christmas Eve are not public holidays, though hardly anyone works."],
    covers: (2015, 2030),
    proclaimed: 2030,
    base: None,
    dropped: &[],
    rules: finland,
};

fn finland() -> Rules {
    Ok(vec![
        on("New Year's Day", 1, 1)?,
        on("Epiphany", 1, 6)?,
        easter("Good Friday", -2)?,
        easter("Easter Sunday", 0)?,
        easter("Easter Monday", 1)?,
        on("May Day", 5, 1)?,
        easter("Ascension Day", 39)?,
        easter("Whit Sunday", 49)?,
        beside("Midsummer Day", Weekday::Saturday, WeekdaySide::OnOrAfter, (6, 20))?,
        beside("All Saints' Day", Weekday::Saturday, WeekdaySide::OnOrAfter, (10, 31))?,
        on("Independence Day", 12, 6)?,
        on("Christmas Day", 12, 25)?,
        on("Second Day of Christmas", 12, 26)?,
    ])
}
