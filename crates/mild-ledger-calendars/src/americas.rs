//! The United States and Canada.

use crate::Shipped;
use crate::rules::{easter, last, nth, on, once};
use mild_ledger::{Error, HolidayMove, HolidayRule, Occurrence, Weekday, WeekdaySide};

pub(crate) const US_FEDERAL: Shipped = Shipped {
    name: "us-federal",
    title: "United States, legal public holidays of the federal government",
    law: "5 U.S.C. 6103(a), and 6103(b) with Executive Order 11582 for Saturdays and Sundays; Juneteenth by Public Law \
          117-17. Days on which offices were closed by a single executive order are no holidays under it.",
    covers: (2015, 2030),
    rules: us_federal,
};

fn us_federal() -> Result<Vec<HolidayRule>, Error> {
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

pub(crate) const CANADA_FEDERAL: Shipped = Shipped {
    name: "canada-federal",
    title: "Canada, general holidays of federally regulated work",
    law: "Canada Labour Code, section 166, and Holidays Act, section 2 (a 1 July on a Sunday is kept on the 2nd). The day \
          that the employer grants for a holiday on a day of rest (section 193) is not set by law and is not here.",
    covers: (2015, 2026),
    rules: canada_federal,
};

fn canada_federal() -> Result<Vec<HolidayRule>, Error> {
    let victoria_day = Occurrence::on_weekday_beside(Weekday::Monday, WeekdaySide::Before, 5, 25)?;
    Ok(vec![
        on("New Year's Day", 1, 1)?,
        easter("Good Friday", -2)?,
        HolidayRule::new("Victoria Day", victoria_day),
        on("Canada Day", 7, 1)?.with_except([2018]),
        once("Canada Day", 2018, 7, 2)?,
        nth("Labour Day", 1, Weekday::Monday, 9)?,
        on("National Day for Truth and Reconciliation", 9, 30)?.with_since(2021),
        nth("Thanksgiving Day", 2, Weekday::Monday, 10)?,
        on("Remembrance Day", 11, 11)?,
        on("Christmas Day", 12, 25)?,
        on("Boxing Day", 12, 26)?,
    ])
}
