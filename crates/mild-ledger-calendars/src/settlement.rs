//! Days on which payments and trades are settled: central banks' systems and exchanges.

use crate::rules::{Rules, beside, easter, last, nth, on, once, sunday_to_monday};
use crate::shipped::{Region, Shipped};
use mild_ledger::{HolidayLength, HolidayRule, Weekday, WeekdayMove, WeekdaySide};

pub(crate) const EURO_SETTLEMENT: Shipped = Shipped {
    name: "euro-settlement",
    title: "Euro area, closing days of the central banks' payment system",
    region: Region::Settlement,
    law: "the long-term calendar of closing days that the European Central Bank published on 14 December 2000, in force \
          since 2002 until further notice",
    notes: &[],
    covers: (2015, 2040),
    proclaimed: 2030,
    base: None,
    dropped: &[],
    rules: euro_settlement,
};

fn euro_settlement() -> Rules {
    Ok(vec![
        on("New Year's Day", 1, 1)?,
        easter("Good Friday", -2)?,
        easter("Easter Monday", 1)?,
        on("1 May", 5, 1)?,
        on("Christmas Day", 12, 25)?,
        on("26 December", 12, 26)?,
    ])
}

pub(crate) const FEDERAL_RESERVE: Shipped = Shipped {
    name: "federal-reserve",
    title: "United States, Federal Reserve Banks and large-value payments in dollars",
    region: Region::Settlement,
    law: "the holiday schedule of the Federal Reserve Banks for their offices and payment services: the days of 5 U.S.C. 6103(a); \
          one on a Saturday is not moved, one on a Sunday is kept on the Monday behind",
    notes: &["They are open on days on which federal offices are closed by executive order."],
    covers: (2015, 2040),
    proclaimed: 2029,
    base: None,
    dropped: &[],
    rules: federal_reserve,
};

fn federal_reserve() -> Rules {
    Ok(vec![
        sunday_to_monday(on("New Year's Day", 1, 1)?),
        nth("Birthday of Martin Luther King, Jr.", 3, Weekday::Monday, 1)?,
        nth("Washington's Birthday", 3, Weekday::Monday, 2)?,
        last("Memorial Day", Weekday::Monday, 5)?,
        sunday_to_monday(on("Juneteenth National Independence Day", 6, 19)?).with_since(2021),
        sunday_to_monday(on("Independence Day", 7, 4)?),
        nth("Labor Day", 1, Weekday::Monday, 9)?,
        nth("Columbus Day", 2, Weekday::Monday, 10)?,
        sunday_to_monday(on("Veterans Day", 11, 11)?),
        nth("Thanksgiving Day", 4, Weekday::Thursday, 11)?,
        sunday_to_monday(on("Christmas Day", 12, 25)?),
    ])
}

pub(crate) const NEW_YORK_EXCHANGE: Shipped = Shipped {
    name: "new-york-exchange",
    title: "United States, trading days of the New York stock exchange",
    region: Region::Settlement,
    law: "the exchange's rule on holidays (Rule 7.2): one on a Saturday closes the Friday before, but for New Year's Day, one on a \
          Sunday the Monday behind",
    notes: &[
        "Days that end at 13:00 are half days: 3 July, the day after Thanksgiving and 24 December, where they are not holidays.",
    ],
    covers: (2015, 2030),
    proclaimed: 2027,
    base: None,
    dropped: &[],
    rules: new_york_exchange,
};

fn new_york_exchange() -> Rules {
    let moved = |rule: HolidayRule| {
        sunday_to_monday(rule).with_moved_on(Weekday::Saturday, WeekdayMove::Before(Weekday::Friday))
    };
    let half = |rule: HolidayRule| rule.with_length(HolidayLength::HalfDay);
    let day_after_thanksgiving =
        beside("Day after Thanksgiving", Weekday::Friday, WeekdaySide::OnOrAfter, (11, 23))?;
    let mourning = "National Day of Mourning";
    Ok(vec![
        sunday_to_monday(on("New Year's Day", 1, 1)?),
        nth("Martin Luther King, Jr. Day", 3, Weekday::Monday, 1)?,
        nth("Washington's Birthday", 3, Weekday::Monday, 2)?,
        easter("Good Friday", -2)?,
        last("Memorial Day", Weekday::Monday, 5)?,
        moved(on("Juneteenth National Independence Day", 6, 19)?).with_since(2022),
        half(on("Day before Independence Day", 7, 3)?),
        moved(on("Independence Day", 7, 4)?),
        nth("Labor Day", 1, Weekday::Monday, 9)?,
        nth("Thanksgiving Day", 4, Weekday::Thursday, 11)?,
        half(day_after_thanksgiving),
        half(on("Christmas Eve", 12, 24)?),
        moved(on("Christmas Day", 12, 25)?),
        once(mourning, (2018, 12, 5), "notice of the exchange, December 2018")?,
        once(mourning, (2025, 1, 9), "notice of the exchange, December 2024")?,
    ])
}
