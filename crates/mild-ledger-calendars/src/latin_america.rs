//! Brazil, Mexico and Colombia.

use crate::rules::{Rules, beside, easter, nth, on, once};
use crate::shipped::{Region, Shipped};
use mild_ledger::{Error, HolidayRule, Weekday, WeekdaySide};

pub(crate) const BRAZIL: Shipped = Shipped {
    name: "brazil",
    title: "Brazil, national holidays",
    region: Region::Americas,
    law: "Lei 662/1949 as amended by Lei 10.607/2002, Lei 6.802/1980 for 12 October, Lei 14.759/2023 for 20 November from 2024; Good \
          Friday as the federal government's yearly list has it",
    notes: &[
        "Carnival, Corpus Christi and other optional days, and holidays of states and towns are not here; brazil-banking has Carnival and Corpus Christi.",
    ],
    covers: (2015, 2030),
    proclaimed: 2030,
    base: None,
    dropped: &[],
    rules: brazil,
};

fn brazil() -> Rules {
    Ok(vec![
        on("New Year's Day", 1, 1)?,
        easter("Good Friday", -2)?,
        on("Tiradentes", 4, 21)?,
        on("Labour Day", 5, 1)?,
        on("Independence Day", 9, 7)?,
        on("Our Lady of Aparecida", 10, 12)?,
        on("All Souls' Day", 11, 2)?,
        on("Proclamation of the Republic", 11, 15)?,
        on("Zumbi and Black Awareness Day", 11, 20)?.with_since(2024),
        on("Christmas Day", 12, 25)?,
    ])
}

pub(crate) const BRAZIL_BANKING: Shipped = Shipped {
    name: "brazil-banking",
    title: "Brazil, days that are not banking days nationwide",
    region: Region::Settlement,
    law: "resolution 4.880/2020 of the National Monetary Council (before it 2.932/2002): national holidays, the Monday and Tuesday of \
          Carnival, Good Friday and Corpus Christi",
    notes: &[
        "The last working day of the year, on which branches do not serve the public, counts as a banking day.",
    ],
    covers: BRAZIL.covers,
    proclaimed: BRAZIL.proclaimed,
    base: Some(&BRAZIL),
    dropped: &[],
    rules: || {
        Ok(vec![
            easter("Carnival Monday", -48)?,
            easter("Carnival Tuesday", -47)?,
            easter("Corpus Christi", 60)?,
        ])
    },
};

pub(crate) const MEXICO: Shipped = Shipped {
    name: "mexico",
    title: "Mexico, obligatory days of rest",
    region: Region::Americas,
    law: "Ley Federal del Trabajo, article 74; the transfer of federal executive power on 1 December until 2018, on 1 October from 2024",
    notes: &["Days of elections (fraction IX) are Sundays and not here."],
    covers: (2015, 2030),
    proclaimed: 2030,
    base: None,
    dropped: &[],
    rules: mexico,
};

fn mexico() -> Rules {
    let transfer = "Transfer of the Federal Executive Power";
    Ok(vec![
        on("New Year's Day", 1, 1)?,
        nth("Constitution Day", 1, Weekday::Monday, 2)?,
        nth("Birthday of Benito Juárez", 3, Weekday::Monday, 3)?,
        on("Labour Day", 5, 1)?,
        on("Independence Day", 9, 16)?,
        nth("Revolution Day", 3, Weekday::Monday, 11)?,
        once(transfer, (2018, 12, 1), "article 74, fraction VII, as in force in 2018")?,
        on(transfer, 10, 1)?.with_only([2024, 2030]),
        on("Christmas Day", 12, 25)?,
    ])
}

pub(crate) const COLOMBIA: Shipped = Shipped {
    name: "colombia",
    title: "Colombia, holidays",
    region: Region::Americas,
    law: "Ley 51 de 1983, articles 1 and 2: ten of them are kept on the Monday on or after their day",
    notes: &["Civic days that the government grants to public offices are not here."],
    covers: (2015, 2030),
    proclaimed: 2030,
    base: None,
    dropped: &[],
    rules: colombia,
};

fn colombia() -> Rules {
    let monday = |name: &str, month, day| -> Result<HolidayRule, Error> {
        beside(name, Weekday::Monday, WeekdaySide::OnOrAfter, (month, day))
    };
    Ok(vec![
        on("New Year's Day", 1, 1)?,
        monday("Epiphany", 1, 6)?,
        monday("Saint Joseph's Day", 3, 19)?,
        easter("Maundy Thursday", -3)?,
        easter("Good Friday", -2)?,
        on("Labour Day", 5, 1)?,
        // Feasts of a Thursday and of a Friday, on the Monday after.
        easter("Ascension Day", 43)?,
        easter("Corpus Christi", 64)?,
        easter("Sacred Heart", 71)?,
        monday("Saints Peter and Paul", 6, 29)?,
        on("Independence Day", 7, 20)?,
        on("Battle of Boyacá", 8, 7)?,
        monday("Assumption Day", 8, 15)?,
        monday("Columbus Day", 10, 12)?,
        monday("All Saints' Day", 11, 1)?,
        monday("Independence of Cartagena", 11, 11)?,
        on("Immaculate Conception", 12, 8)?,
        on("Christmas Day", 12, 25)?,
    ])
}
