//! Ireland, Germany, France, the Netherlands, Spain, Italy, and settlement in euro.

use crate::Shipped;
use crate::rules::{easter, last, nth, on, once};
use mild_ledger::{Error, HolidayRule, Weekday};

pub(crate) const IRELAND: Shipped = Shipped {
    name: "ireland",
    title: "Ireland, public holidays",
    law: "Organisation of Working Time Act 1997, second schedule, as amended in 2022 for the first Monday in February; the \
          day of remembrance of 18 March 2022 by order. Benefits for a holiday on a weekend are no days off by law.",
    covers: (2015, 2029),
    rules: ireland,
};

fn ireland() -> Result<Vec<HolidayRule>, Error> {
    Ok(vec![
        on("New Year's Day", 1, 1)?,
        // On a Friday 1 February it is that day instead, which next happens in 2030.
        nth("St Brigid's Day", 1, Weekday::Monday, 2)?.with_since(2023),
        on("St Patrick's Day", 3, 17)?,
        once("Day of Remembrance and Recognition", 2022, 3, 18)?,
        easter("Easter Monday", 1)?,
        nth("May Day", 1, Weekday::Monday, 5)?,
        nth("June Holiday", 1, Weekday::Monday, 6)?,
        nth("August Holiday", 1, Weekday::Monday, 8)?,
        last("October Holiday", Weekday::Monday, 10)?,
        on("Christmas Day", 12, 25)?,
        on("St Stephen's Day", 12, 26)?,
    ])
}

pub(crate) const GERMANY: Shipped = Shipped {
    name: "germany",
    title: "Germany, the days that all states keep",
    law: "the holiday acts of the sixteen states, where they agree, and the Unification Treaty of 1990, article 2(2), for 3 \
          October; Reformation Day of 2017 by each state",
    covers: (2015, 2030),
    rules: germany,
};

fn germany() -> Result<Vec<HolidayRule>, Error> {
    Ok(vec![
        on("New Year's Day", 1, 1)?,
        easter("Good Friday", -2)?,
        easter("Easter Monday", 1)?,
        on("Labour Day", 5, 1)?,
        easter("Ascension Day", 39)?,
        easter("Whit Monday", 50)?,
        on("Day of German Unity", 10, 3)?,
        once("Reformation Day", 2017, 10, 31)?,
        on("Christmas Day", 12, 25)?,
        on("Second Day of Christmas", 12, 26)?,
    ])
}

pub(crate) const FRANCE: Shipped = Shipped {
    name: "france",
    title: "France, legal holidays",
    law: "Code du travail, article L3133-1",
    covers: (2015, 2030),
    rules: france,
};

fn france() -> Result<Vec<HolidayRule>, Error> {
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
    law: "Algemene termijnenwet, article 3(1), and Good Friday, which article 3(2) puts beside them",
    covers: (2015, 2030),
    rules: netherlands,
};

fn netherlands() -> Result<Vec<HolidayRule>, Error> {
    Ok(vec![
        on("New Year's Day", 1, 1)?,
        easter("Good Friday", -2)?,
        easter("Easter Monday", 1)?,
        // On a Sunday 27 April it is kept the day before.
        on("King's Day", 4, 27)?.with_except([2025]),
        once("King's Day", 2025, 4, 26)?,
        on("Liberation Day", 5, 5)?,
        easter("Ascension Day", 39)?,
        easter("Whit Monday", 50)?,
        on("Christmas Day", 12, 25)?,
        on("Second Day of Christmas", 12, 26)?,
    ])
}

pub(crate) const SPAIN: Shipped = Shipped {
    name: "spain",
    title: "Spain, the days kept nationwide",
    law: "Real Decreto 2001/1983, article 45, and Estatuto de los Trabajadores, article 37(2); days that communities move \
          or add are theirs",
    covers: (2015, 2025),
    rules: spain,
};

fn spain() -> Result<Vec<HolidayRule>, Error> {
    Ok(vec![
        on("New Year's Day", 1, 1)?,
        on("Epiphany", 1, 6)?,
        easter("Good Friday", -2)?,
        on("Labour Day", 5, 1)?,
        on("Assumption Day", 8, 15)?,
        on("National Day", 10, 12)?,
        on("All Saints' Day", 11, 1)?,
        on("Constitution Day", 12, 6)?,
        on("Immaculate Conception", 12, 8)?,
        on("Christmas Day", 12, 25)?,
    ])
}

pub(crate) const ITALY: Shipped = Shipped {
    name: "italy",
    title: "Italy, national holidays",
    law: "Legge 27 maggio 1949, n. 260, articles 1 and 2, with D.P.R. 28 dicembre 1985, n. 792 and Legge 20 novembre 2000, \
          n. 336; patron saints' days are local",
    covers: (2015, 2025),
    rules: italy,
};

fn italy() -> Result<Vec<HolidayRule>, Error> {
    Ok(vec![
        on("New Year's Day", 1, 1)?,
        on("Epiphany", 1, 6)?,
        easter("Easter Sunday", 0)?,
        easter("Easter Monday", 1)?,
        on("Liberation Day", 4, 25)?,
        on("Labour Day", 5, 1)?,
        on("Republic Day", 6, 2)?,
        on("Assumption Day", 8, 15)?,
        on("All Saints' Day", 11, 1)?,
        on("Immaculate Conception", 12, 8)?,
        on("Christmas Day", 12, 25)?,
        on("St Stephen's Day", 12, 26)?,
    ])
}

pub(crate) const EURO_SETTLEMENT: Shipped = Shipped {
    name: "euro-settlement",
    title: "Euro area, closing days of the central banks' payment system",
    law: "the long-term calendar of closing days that the European Central Bank published on 14 December 2000, in force \
          since 2002",
    covers: (2015, 2030),
    rules: euro_settlement,
};

fn euro_settlement() -> Result<Vec<HolidayRule>, Error> {
    Ok(vec![
        on("New Year's Day", 1, 1)?,
        easter("Good Friday", -2)?,
        easter("Easter Monday", 1)?,
        on("1 May", 5, 1)?,
        on("Christmas Day", 12, 25)?,
        on("26 December", 12, 26)?,
    ])
}
