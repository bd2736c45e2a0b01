//! Germany and its sixteen states.

use crate::rules::{Rules, beside, easter, on, once};
use crate::shipped::{Region, Shipped};
use mild_ledger::{Error, HolidayRule, Weekday, WeekdaySide};

pub(crate) const GERMANY: Shipped = Shipped {
    name: "germany",
    title: "Germany, the days that all states keep",
    region: Region::Europe,
    law: "the holiday acts of the sixteen states, where they agree, and the Unification Treaty of 1990, article 2(2), for 3 \
          October",
    notes: &["Each state keeps further days: germany-bavaria, germany-berlin and so on have them."],
    covers: (2015, 2040),
    proclaimed: 2030,
    base: None,
    dropped: &[],
    rules: germany,
};

fn germany() -> Rules {
    Ok(vec![
        on("New Year's Day", 1, 1)?,
        easter("Good Friday", -2)?,
        easter("Easter Monday", 1)?,
        on("Labour Day", 5, 1)?,
        easter("Ascension Day", 39)?,
        easter("Whit Monday", 50)?,
        on("Day of German Unity", 10, 3)?,
        once("Reformation Day", (2017, 10, 31), "act or order of each state for the 500th anniversary")?,
        on("Christmas Day", 12, 25)?,
        on("Second Day of Christmas", 12, 26)?,
    ])
}

/// A state, on what all of them keep.
const fn state(
    name: &'static str,
    title: &'static str,
    law: &'static str,
    notes: &'static [&'static str],
    rules: fn() -> Rules,
) -> Shipped {
    let (covers, proclaimed) = (GERMANY.covers, GERMANY.proclaimed);
    Shipped {
        name,
        title,
        region: Region::Europe,
        law,
        notes,
        covers,
        proclaimed,
        base: Some(&GERMANY),
        dropped: &[],
        rules,
    }
}

fn epiphany() -> Result<HolidayRule, Error> {
    on("Epiphany", 1, 6)
}

fn corpus_christi() -> Result<HolidayRule, Error> {
    easter("Corpus Christi", 60)
}

/// Of each year but 2017, which all states kept.
fn reformation_day() -> Result<HolidayRule, Error> {
    Ok(on("Reformation Day", 10, 31)?.with_except([2017]))
}

fn all_saints() -> Result<HolidayRule, Error> {
    on("All Saints' Day", 11, 1)
}

pub(crate) const BADEN_WUERTTEMBERG: Shipped = state(
    "germany-baden-wuerttemberg",
    "Germany, Baden-Württemberg",
    "Gesetz über die Sonntage und Feiertage (FTG), section 1",
    &[],
    || Ok(vec![epiphany()?, corpus_christi()?, all_saints()?]),
);

pub(crate) const BAVARIA: Shipped = state(
    "germany-bavaria",
    "Germany, Bavaria",
    "Feiertagsgesetz (FTG), article 1(1)",
    &[
        "Assumption Day, 15 August, is a holiday in communities with more Catholic than Protestant inhabitants (article 1(1) \
         no. 2) and is not here; Augsburg also keeps 8 August.",
    ],
    || Ok(vec![epiphany()?, corpus_christi()?, all_saints()?]),
);

pub(crate) const BERLIN: Shipped = state(
    "germany-berlin",
    "Germany, Berlin",
    "Gesetz über die Sonn- und Feiertage, section 1, with International Women's Day since 2019",
    &[],
    || {
        let liberation = "Day of Liberation from National Socialism";
        Ok(vec![
            on("International Women's Day", 3, 8)?.with_since(2019),
            once(liberation, (2020, 5, 8), "act of 30 January 2019, the 75th anniversary")?,
            once(liberation, (2025, 5, 8), "act of 2024, the 80th anniversary")?,
        ])
    },
);

pub(crate) const BRANDENBURG: Shipped =
    state("germany-brandenburg", "Germany, Brandenburg", "Feiertagsgesetz (FTG), section 2(1)", &[], || {
        Ok(vec![easter("Easter Sunday", 0)?, easter("Whit Sunday", 49)?, reformation_day()?])
    });

pub(crate) const BREMEN: Shipped = state(
    "germany-bremen",
    "Germany, Bremen",
    "Gesetz über die Sonn- und Feiertage, section 2, with Reformation Day since 2018",
    &[],
    || Ok(vec![reformation_day()?.with_since(2018)]),
);

pub(crate) const HAMBURG: Shipped = state(
    "germany-hamburg",
    "Germany, Hamburg",
    "Feiertagsgesetz, section 1, with Reformation Day since 2018",
    &[],
    || Ok(vec![reformation_day()?.with_since(2018)]),
);

pub(crate) const HESSE: Shipped = state(
    "germany-hesse",
    "Germany, Hesse",
    "Hessisches Feiertagsgesetz (HFeiertagsG), section 1",
    &[],
    || Ok(vec![corpus_christi()?]),
);

pub(crate) const LOWER_SAXONY: Shipped = state(
    "germany-lower-saxony",
    "Germany, Lower Saxony",
    "Niedersächsisches Gesetz über die Feiertage (NFeiertagsG), section 2, with Reformation Day since 2018",
    &[],
    || Ok(vec![reformation_day()?.with_since(2018)]),
);

pub(crate) const MECKLENBURG_WESTERN_POMERANIA: Shipped = state(
    "germany-mecklenburg-western-pomerania",
    "Germany, Mecklenburg-Western Pomerania",
    "Feiertagsgesetz Mecklenburg-Vorpommern (FTG M-V), section 2, with International Women's Day since 2023",
    &[],
    || Ok(vec![on("International Women's Day", 3, 8)?.with_since(2023), reformation_day()?]),
);

pub(crate) const NORTH_RHINE_WESTPHALIA: Shipped = state(
    "germany-north-rhine-westphalia",
    "Germany, North Rhine-Westphalia",
    "Feiertagsgesetz NW, section 2",
    &[],
    || Ok(vec![corpus_christi()?, all_saints()?]),
);

pub(crate) const RHINELAND_PALATINATE: Shipped = state(
    "germany-rhineland-palatinate",
    "Germany, Rhineland-Palatinate",
    "Landesgesetz über den Schutz der Sonn- und Feiertage (LFtG), section 2",
    &[],
    || Ok(vec![corpus_christi()?, all_saints()?]),
);

pub(crate) const SAARLAND: Shipped = state(
    "germany-saarland",
    "Germany, Saarland",
    "Gesetz über die Sonn- und Feiertage (SFG), section 2",
    &[],
    || Ok(vec![corpus_christi()?, on("Assumption Day", 8, 15)?, all_saints()?]),
);

pub(crate) const SAXONY: Shipped = state(
    "germany-saxony",
    "Germany, Saxony",
    "Gesetz über Sonn- und Feiertage im Freistaat Sachsen (SächsSFG), section 1",
    &[
        "Corpus Christi is a holiday in some communities with Catholic inhabitants, by order, and is not here.",
    ],
    || {
        let repentance =
            beside("Day of Repentance and Prayer", Weekday::Wednesday, WeekdaySide::Before, (11, 23))?;
        Ok(vec![reformation_day()?, repentance])
    },
);

pub(crate) const SAXONY_ANHALT: Shipped = state(
    "germany-saxony-anhalt",
    "Germany, Saxony-Anhalt",
    "Gesetz über die Sonn- und Feiertage (FeiertG LSA), section 2",
    &[],
    || Ok(vec![epiphany()?, reformation_day()?]),
);

pub(crate) const SCHLESWIG_HOLSTEIN: Shipped = state(
    "germany-schleswig-holstein",
    "Germany, Schleswig-Holstein",
    "Gesetz über Sonn- und Feiertage (SFTG), section 2, with Reformation Day since 2018",
    &[],
    || Ok(vec![reformation_day()?.with_since(2018)]),
);

pub(crate) const THURINGIA: Shipped = state(
    "germany-thuringia",
    "Germany, Thuringia",
    "Thüringer Feier- und Gedenktagsgesetz (ThürFGtG), section 2, with World Children's Day since 2019",
    &[
        "Corpus Christi is a holiday in communities with more Catholic inhabitants, by order, and is not here.",
    ],
    || Ok(vec![on("World Children's Day", 9, 20)?.with_since(2019), reformation_day()?]),
);
