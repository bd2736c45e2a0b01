//! Canada and four of its provinces.

use crate::rules::{Rules, beside, easter, nth, on, substituted, sunday_to_monday};
use crate::shipped::{Region, Shipped};
use mild_ledger::{Error, HolidayRule, Weekday, WeekdaySide};

pub(crate) const CANADA_FEDERAL: Shipped = Shipped {
    name: "canada-federal",
    title: "Canada, general holidays of federally regulated work",
    region: Region::Americas,
    law: "Canada Labour Code, section 166, and Holidays Act, section 2 (a 1 July on a Sunday is kept on the 2nd)",
    notes: &[
        "Where one of them falls on a Saturday or Sunday that is not worked, the employer grants the working day before or \
         behind it (section 193(2)); which one is not set by law, and neither is here. canada-federal-weekday-after has the \
         one behind, as banks and government keep it.",
        "19 September 2022, a day of mourning, was a holiday of the federal public service alone and is not here.",
    ],
    covers: (2015, 2040),
    proclaimed: 2030,
    base: None,
    dropped: &[],
    rules: || canada_federal(Ok, sunday_to_monday),
};

pub(crate) const CANADA_FEDERAL_WEEKDAY_AFTER: Shipped = Shipped {
    name: "canada-federal-weekday-after",
    title: "Canada, federal general holidays, on a weekend the weekday after",
    region: Region::Americas,
    law: "Canada Labour Code, sections 166 and 193(2), with the working day after a holiday on a Saturday or Sunday",
    notes: &["An employer may grant the working day before it in place of this."],
    covers: CANADA_FEDERAL.covers,
    proclaimed: CANADA_FEDERAL.proclaimed,
    base: None,
    dropped: &[],
    rules: || canada_federal(|rule| Ok(substituted(rule)), substituted),
};

/// The general holidays; what becomes of those on a date, and of Canada Day, is stated.
fn canada_federal(
    dated: fn(HolidayRule) -> Result<HolidayRule, Error>,
    canada_day: fn(HolidayRule) -> HolidayRule,
) -> Rules {
    Ok(vec![
        dated(on("New Year's Day", 1, 1)?)?,
        easter("Good Friday", -2)?,
        monday_before_25_may("Victoria Day")?,
        canada_day(on("Canada Day", 7, 1)?),
        nth("Labour Day", 1, Weekday::Monday, 9)?,
        dated(on("National Day for Truth and Reconciliation", 9, 30)?.with_since(2021))?,
        nth("Thanksgiving Day", 2, Weekday::Monday, 10)?,
        dated(on("Remembrance Day", 11, 11)?)?,
        dated(on("Christmas Day", 12, 25)?)?,
        dated(on("Boxing Day", 12, 26)?)?,
    ])
}

fn monday_before_25_may(name: &str) -> Result<HolidayRule, Error> {
    beside(name, Weekday::Monday, WeekdaySide::Before, (5, 25))
}

/// What is granted for a holiday on a day that is not worked.
const GRANTED: &str =
    "The day that an employer grants for a holiday on a day that is not worked is not here.";
/// Why none of them covers 2018 and 2029.
const UP_TO_2028: &str = "It ends before 2029, when 1 July is a Sunday.";
const COVERS: (i32, i32) = (2019, 2028);

/// What the four provinces here keep alike.
fn of_each_province() -> Rules {
    Ok(vec![
        on("New Year's Day", 1, 1)?,
        easter("Good Friday", -2)?,
        on("Canada Day", 7, 1)?,
        nth("Labour Day", 1, Weekday::Monday, 9)?,
        nth("Thanksgiving Day", 2, Weekday::Monday, 10)?,
        on("Christmas Day", 12, 25)?,
    ])
}

fn family_day() -> Result<HolidayRule, Error> {
    nth("Family Day", 3, Weekday::Monday, 2)
}

/// A province, with the days that it keeps besides those.
fn province(own: impl IntoIterator<Item = HolidayRule>) -> Rules {
    let mut rules = of_each_province()?;
    rules.extend(own);
    Ok(rules)
}

pub(crate) const ONTARIO: Shipped = Shipped {
    name: "ontario",
    title: "Canada, Ontario, public holidays",
    region: Region::Americas,
    law: "Employment Standards Act, 2000, section 1(1), definition of public holiday",
    notes: &[
        GRANTED,
        UP_TO_2028,
        "Easter Monday and the Civic Holiday of August are not public holidays under it.",
    ],
    covers: COVERS,
    proclaimed: COVERS.1,
    base: None,
    dropped: &[],
    rules: || province([family_day()?, monday_before_25_may("Victoria Day")?, on("Boxing Day", 12, 26)?]),
};

pub(crate) const QUEBEC: Shipped = Shipped {
    name: "quebec",
    title: "Canada, Quebec, statutory general holidays",
    region: Region::Americas,
    law: "Act respecting labour standards, section 60, and National Holiday Act for 24 June",
    notes: &[
        "Good Friday or Easter Monday is a holiday, as the employer chooses: Good Friday is here.",
        GRANTED,
        UP_TO_2028,
    ],
    covers: COVERS,
    proclaimed: COVERS.1,
    base: None,
    dropped: &[],
    rules: || province([monday_before_25_may("National Patriots' Day")?, on("National Holiday", 6, 24)?]),
};

pub(crate) const BRITISH_COLUMBIA: Shipped = Shipped {
    name: "british-columbia",
    title: "Canada, British Columbia, statutory holidays",
    region: Region::Americas,
    law: "Employment Standards Act, section 1(1), definition of statutory holiday, with 30 September since 2023; Family Day on the third Monday of February since 2019",
    notes: &[GRANTED, UP_TO_2028, "Easter Monday and Boxing Day are not statutory holidays under it."],
    covers: COVERS,
    proclaimed: COVERS.1,
    base: None,
    dropped: &[],
    rules: || {
        province([
            family_day()?,
            monday_before_25_may("Victoria Day")?,
            nth("British Columbia Day", 1, Weekday::Monday, 8)?,
            on("National Day for Truth and Reconciliation", 9, 30)?.with_since(2023),
            on("Remembrance Day", 11, 11)?,
        ])
    },
};

pub(crate) const ALBERTA: Shipped = Shipped {
    name: "alberta",
    title: "Canada, Alberta, general holidays",
    region: Region::Americas,
    law: "Employment Standards Code, section 25",
    notes: &[
        GRANTED,
        UP_TO_2028,
        "Easter Monday, Heritage Day, 30 September and Boxing Day are optional and not here.",
    ],
    covers: COVERS,
    proclaimed: COVERS.1,
    base: None,
    dropped: &[],
    rules: || {
        province([family_day()?, monday_before_25_may("Victoria Day")?, on("Remembrance Day", 11, 11)?])
    },
};
