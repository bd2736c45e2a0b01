//! The federal government of the United States.

use crate::rules::{Rules, last, nth, on, once};
use crate::shipped::{Region, Shipped};
use mild_ledger::{HolidayMove, HolidayRule, Weekday};

pub(crate) const US_FEDERAL: Shipped = Shipped {
    name: "us-federal",
    title: "United States, legal public holidays of the federal government",
    region: Region::Americas,
    law: "5 U.S.C. 6103(a), and 6103(b) with Executive Order 11582 for Saturdays and Sundays; Juneteenth by Public Law \
          117-17",
    notes: &[
        "Days on which offices were closed by a single executive order are no holidays under it: us-federal-with-closings has \
         them.",
        "Inauguration Day, a holiday around Washington alone (6103(c)), is not here.",
    ],
    covers: (2015, 2040),
    proclaimed: 2030,
    base: None,
    dropped: &[],
    rules: us_federal,
};

fn us_federal() -> Rules {
    let nearest = |rule: HolidayRule| rule.with_moved(HolidayMove::NearestWeekday);
    Ok(vec![
        nearest(on("New Year's Day", 1, 1)?),
        nth("Birthday of Martin Luther King, Jr.", 3, Weekday::Monday, 1)?,
        nth("Washington's Birthday", 3, Weekday::Monday, 2)?,
        last("Memorial Day", Weekday::Monday, 5)?,
        nearest(on("Juneteenth National Independence Day", 6, 19)?).with_since(2021),
        nearest(on("Independence Day", 7, 4)?),
        nth("Labor Day", 1, Weekday::Monday, 9)?,
        nth("Columbus Day", 2, Weekday::Monday, 10)?,
        nearest(on("Veterans Day", 11, 11)?),
        nth("Thanksgiving Day", 4, Weekday::Thursday, 11)?,
        nearest(on("Christmas Day", 12, 25)?),
    ])
}

pub(crate) const US_FEDERAL_WITH_CLOSINGS: Shipped = Shipped {
    name: "us-federal-with-closings",
    title: "United States, federal holidays and closings by executive order",
    region: Region::Americas,
    law: "5 U.S.C. 6103, with the executive orders that closed federal offices for a day",
    notes: &["It ends with the last year whose orders were known: a closing is ordered days before it."],
    covers: (2015, 2025),
    proclaimed: 2025,
    base: Some(&US_FEDERAL),
    dropped: &[],
    rules: closings,
};

fn closings() -> Rules {
    let mourning = "National Day of Mourning";
    let eve = "Christmas Eve";
    Ok(vec![
        once(mourning, (2018, 12, 5), "Executive Order 13852")?,
        once(eve, (2018, 12, 24), "Executive Order 13854")?,
        once(eve, (2019, 12, 24), "Executive Order 13900")?,
        once(eve, (2020, 12, 24), "Executive Order 13965")?,
        once(eve, (2024, 12, 24), "Executive Order 14129")?,
        once(mourning, (2025, 1, 9), "Executive Order 14133")?,
        once(eve, (2025, 12, 24), "Executive Order of 18 December 2025")?,
        once("Day after Christmas", (2025, 12, 26), "Executive Order of 18 December 2025")?,
    ])
}
