//! Spain, Portugal, Italy and Greece.

use crate::rules::{Rules, easter, on, once, orthodox_easter};
use crate::shipped::{Region, Shipped};

pub(crate) const SPAIN: Shipped = Shipped {
    name: "spain",
    title: "Spain, the days kept nationwide",
    region: Region::Europe,
    law: "Real Decreto 2001/1983, article 45, and Estatuto de los Trabajadores, article 37(2), with the yearly list of the \
          labour authority",
    notes: &[
        "Autonomous communities move holidays on a Sunday to the Monday behind, replace some, and add days of their own and of \
         each town; none of that is here.",
    ],
    covers: (2015, 2026),
    proclaimed: 2026,
    base: None,
    dropped: &[],
    rules: spain,
};

fn spain() -> Rules {
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

pub(crate) const PORTUGAL: Shipped = Shipped {
    name: "portugal",
    title: "Portugal, obligatory holidays",
    region: Region::Europe,
    law: "Código do Trabalho, article 234(1); four days suspended from 2013 (Lei 23/2012) were restored in 2016 (Lei 8/2016)",
    notes: &["Carnival Tuesday and the holiday of each town (article 235) are optional and not here."],
    covers: (2015, 2030),
    proclaimed: 2030,
    base: None,
    dropped: &[],
    rules: portugal,
};

fn portugal() -> Rules {
    Ok(vec![
        on("New Year's Day", 1, 1)?,
        easter("Good Friday", -2)?,
        easter("Easter Sunday", 0)?,
        on("Freedom Day", 4, 25)?,
        on("Labour Day", 5, 1)?,
        easter("Corpus Christi", 60)?.with_since(2016),
        on("Portugal Day", 6, 10)?,
        on("Assumption Day", 8, 15)?,
        on("Republic Day", 10, 5)?.with_since(2016),
        on("All Saints' Day", 11, 1)?.with_since(2016),
        on("Restoration of Independence", 12, 1)?.with_since(2016),
        on("Immaculate Conception", 12, 8)?,
        on("Christmas Day", 12, 25)?,
    ])
}

pub(crate) const ITALY: Shipped = Shipped {
    name: "italy",
    title: "Italy, national holidays",
    region: Region::Europe,
    law: "Legge 27 maggio 1949, n. 260, articles 1 and 2, with D.P.R. 28 dicembre 1985, n. 792, Legge 20 novembre 2000, n. \
          336, and Legge 8 ottobre 2025, n. 151, for 4 October from 2026",
    notes: &["Patron saints' days are local and not here."],
    covers: (2015, 2040),
    proclaimed: 2030,
    base: None,
    dropped: &[],
    rules: italy,
};

fn italy() -> Rules {
    Ok(vec![
        on("New Year's Day", 1, 1)?,
        on("Epiphany", 1, 6)?,
        easter("Easter Sunday", 0)?,
        easter("Easter Monday", 1)?,
        on("Liberation Day", 4, 25)?,
        on("Labour Day", 5, 1)?,
        on("Republic Day", 6, 2)?,
        on("Assumption Day", 8, 15)?,
        on("Saint Francis of Assisi", 10, 4)?.with_since(2026),
        on("All Saints' Day", 11, 1)?,
        on("Immaculate Conception", 12, 8)?,
        on("Christmas Day", 12, 25)?,
        on("Saint Stephen's Day", 12, 26)?,
    ])
}

pub(crate) const GREECE: Shipped = Shipped {
    name: "greece",
    title: "Greece, obligatory holidays and those of the public service",
    region: Region::Europe,
    law: "Law 4808/2021, article 60, for obligatory holidays; Clean Monday, Good Friday and Whit Monday as the public service \
          and banks keep them",
    notes: &[
        "1 May is moved by ministerial decision where it falls on a Sunday or in Holy Week; from 2027 on, when it is Holy \
         Saturday, no decision was known when this was written.",
    ],
    covers: (2023, 2026),
    proclaimed: 2026,
    base: None,
    dropped: &[],
    rules: greece,
};

fn greece() -> Rules {
    Ok(vec![
        on("New Year's Day", 1, 1)?,
        on("Epiphany", 1, 6)?,
        orthodox_easter("Clean Monday", -48)?,
        on("Independence Day", 3, 25)?,
        orthodox_easter("Good Friday", -2)?,
        orthodox_easter("Easter Monday", 1)?,
        on("Labour Day", 5, 1)?.with_except([2024]),
        once("Labour Day", (2024, 5, 7), "decision of the Ministry of Labour: 1 May 2024 was in Holy Week")?,
        orthodox_easter("Whit Monday", 50)?,
        on("Dormition of the Virgin", 8, 15)?,
        on("Ochi Day", 10, 28)?,
        on("Christmas Day", 12, 25)?,
        on("Second Day of Christmas", 12, 26)?,
    ])
}
