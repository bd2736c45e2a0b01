//! Australia, its states and territories.

use crate::rules::{
    Rules, beside, dates, easter, nth, on, on_following_monday, once, substituted, sunday_to_monday,
};
use crate::shipped::{Region, Shipped};
use mild_ledger::{Error, HolidayRule, SubstituteCloses, Weekday, WeekdaySide};

pub(crate) const AUSTRALIA: Shipped = Shipped {
    name: "australia",
    title: "Australia, the days that all states and territories keep",
    region: Region::Oceania,
    law: "Fair Work Act 2009, section 115, and the holiday acts of the states and territories, where they agree",
    notes: &["A day in place of Anzac Day on a weekend is kept in some states alone and is not here."],
    covers: (2015, 2026),
    proclaimed: 2026,
    base: None,
    dropped: &[],
    rules: common,
};

/// What all states keep on the same weekdays.
fn common() -> Rules {
    Ok(vec![
        additional(on("New Year's Day", 1, 1)?),
        on_following_monday(on("Australia Day", 1, 26)?),
        easter("Good Friday", -2)?,
        easter("Easter Monday", 1)?,
        on("Anzac Day", 4, 25)?,
        once("National Day of Mourning", (2022, 9, 22), "proclaimed by the Commonwealth and each state")?,
        additional(on("Christmas Day", 12, 25)?),
        additional(on("26 December", 12, 26)?),
    ])
}

/// On a weekend the next free day is a holiday too.
fn additional(rule: HolidayRule) -> HolidayRule {
    substituted(rule).with_closes(SubstituteCloses::BothDays)
}

/// A state, on what all of them keep; to the last year whose days were gazetted without doubt.
const fn state(
    name: &'static str,
    title: &'static str,
    law: &'static str,
    notes: &'static [&'static str],
    first: i32,
    rules: fn() -> Rules,
) -> Shipped {
    let covers = (first, 2025);
    Shipped {
        name,
        title,
        region: Region::Oceania,
        law,
        notes,
        covers,
        proclaimed: 2025,
        base: Some(&AUSTRALIA),
        dropped: &[],
        rules,
    }
}

fn weekend_of_easter() -> Result<[HolidayRule; 2], Error> {
    Ok([easter("Easter Saturday", -1)?, easter("Easter Sunday", 0)?])
}

pub(crate) const NEW_SOUTH_WALES: Shipped = state(
    "new-south-wales",
    "Australia, New South Wales, public holidays",
    "Public Holidays Act 2010, section 4",
    &[
        "The bank holiday of August is one of banks alone and not here; Anzac Day on a weekend had no substitute.",
    ],
    2015,
    || {
        let mut rules = weekend_of_easter()?.to_vec();
        rules.extend([
            nth("Sovereign's Birthday", 2, Weekday::Monday, 6)?,
            nth("Labour Day", 1, Weekday::Monday, 10)?,
        ]);
        Ok(rules)
    },
);

pub(crate) const VICTORIA: Shipped = state(
    "victoria",
    "Australia, Victoria, public holidays",
    "Public Holidays Act 1993, section 6, with days appointed in the Government Gazette",
    &["Some towns keep another day in place of Melbourne Cup Day."],
    2015,
    || {
        let friday = "Friday before the AFL Grand Final";
        let fridays = [
            (2015, 10, 2),
            (2016, 9, 30),
            (2017, 9, 29),
            (2018, 9, 28),
            (2019, 9, 27),
            (2020, 10, 23),
            (2021, 9, 24),
            (2022, 9, 23),
            (2023, 9, 29),
            (2024, 9, 27),
            (2025, 9, 26),
        ];
        let mut rules = weekend_of_easter()?.to_vec();
        rules.extend([
            nth("Labour Day", 2, Weekday::Monday, 3)?,
            nth("Sovereign's Birthday", 2, Weekday::Monday, 6)?,
            dates(friday, &fridays, "appointed in the Government Gazette")?,
            nth("Melbourne Cup Day", 1, Weekday::Tuesday, 11)?,
        ]);
        Ok(rules)
    },
);

pub(crate) const QUEENSLAND: Shipped = Shipped {
    dropped: &["Anzac Day"],
    ..state(
        "queensland",
        "Australia, Queensland, public holidays",
        "Holidays Act 1983, schedule, as amended for the days of labour and of the sovereign from 2016",
        &[
            "Show days are holidays of their districts, and the evening of 24 December since 2019 is part of a day; neither is here.",
        ],
        2016,
        || {
            Ok(vec![
                easter("Easter Saturday", -1)?,
                easter("Easter Sunday", 0)?.with_since(2017),
                sunday_to_monday(on("Anzac Day", 4, 25)?),
                nth("Labour Day", 1, Weekday::Monday, 5)?,
                nth("Sovereign's Birthday", 1, Weekday::Monday, 10)?,
            ])
        },
    )
};

pub(crate) const WESTERN_AUSTRALIA: Shipped = Shipped {
    dropped: &["Anzac Day"],
    ..state(
        "western-australia",
        "Australia, Western Australia, public holidays",
        "Public and Bank Holidays Act 1972, section 5 and second schedule; the sovereign's birthday as proclaimed for each year",
        &["Some districts keep the sovereign's birthday on another day."],
        2015,
        || {
            let birthdays = [
                (2015, 9, 28),
                (2016, 9, 26),
                (2017, 9, 25),
                (2018, 9, 24),
                (2019, 9, 30),
                (2020, 9, 28),
                (2021, 9, 27),
                (2022, 9, 26),
                (2023, 9, 25),
                (2024, 9, 23),
                (2025, 9, 29),
            ];
            Ok(vec![
                easter("Easter Sunday", 0)?.with_since(2022),
                on_following_monday(on("Anzac Day", 4, 25)?).with_closes(SubstituteCloses::BothDays),
                nth("Labour Day", 1, Weekday::Monday, 3)?,
                nth("Western Australia Day", 1, Weekday::Monday, 6)?,
                dates("Sovereign's Birthday", &birthdays, "proclamation in the Government Gazette")?,
            ])
        },
    )
};

/// Why the calendars after here begin late.
const FROM_2022: &str = "It begins in 2022: before it days in place of holidays on a weekend were not certain when this was written.";

pub(crate) const SOUTH_AUSTRALIA: Shipped = state(
    "south-australia",
    "Australia, South Australia, public holidays",
    "Public Holidays Act 2023, before it Holidays Act 1910",
    &[
        FROM_2022,
        "26 December is Proclamation Day; the evenings of 24 and 31 December are parts of days and not here.",
    ],
    2022,
    || {
        let mut rules = weekend_of_easter()?.to_vec();
        rules.extend([
            nth("Adelaide Cup Day", 2, Weekday::Monday, 3)?,
            nth("Sovereign's Birthday", 2, Weekday::Monday, 6)?,
            nth("Labour Day", 1, Weekday::Monday, 10)?,
        ]);
        Ok(rules)
    },
);

pub(crate) const AUSTRALIAN_CAPITAL_TERRITORY: Shipped = state(
    "australian-capital-territory",
    "Australia, Australian Capital Territory, public holidays",
    "Holidays Act 1958, section 3",
    &[FROM_2022],
    2022,
    || {
        let mut rules = weekend_of_easter()?.to_vec();
        rules.extend([
            nth("Canberra Day", 2, Weekday::Monday, 3)?,
            beside("Reconciliation Day", Weekday::Monday, WeekdaySide::OnOrAfter, (5, 27))?,
            nth("Sovereign's Birthday", 2, Weekday::Monday, 6)?,
            nth("Labour Day", 1, Weekday::Monday, 10)?,
        ]);
        Ok(rules)
    },
);

pub(crate) const TASMANIA: Shipped = state(
    "tasmania",
    "Australia, Tasmania, public holidays of the whole state",
    "Statutory Holidays Act 2000, section 4 and schedule 1",
    &[
        FROM_2022,
        "Regatta days, Recreation Day and show days are regional, Easter Tuesday one of the public service; none is here.",
    ],
    2022,
    || {
        Ok(vec![
            nth("Eight Hours Day", 2, Weekday::Monday, 3)?,
            nth("Sovereign's Birthday", 2, Weekday::Monday, 6)?,
        ])
    },
);

pub(crate) const NORTHERN_TERRITORY: Shipped = state(
    "northern-territory",
    "Australia, Northern Territory, public holidays",
    "Public Holidays Act 1981, schedule",
    &[
        FROM_2022,
        "Show days are regional, the evenings of 24 and 31 December parts of days; neither is here.",
    ],
    2022,
    || {
        Ok(vec![
            easter("Easter Saturday", -1)?,
            nth("May Day", 1, Weekday::Monday, 5)?,
            nth("Sovereign's Birthday", 2, Weekday::Monday, 6)?,
            nth("Picnic Day", 1, Weekday::Monday, 8)?,
        ])
    },
);
