//! The one place that reads the system's clock and zone.

use mild_ledger::Date;

/// Today, and the zone it is today in.
#[derive(Debug, Clone)]
pub(crate) struct Today {
    pub(crate) date: Date,
    pub(crate) zone: String,
}

/// The date in the system's time zone; in UTC where the system names none.
#[expect(clippy::disallowed_methods, reason = "this is the module at the edge that reads the clock")]
pub(crate) fn today() -> Today {
    let now = jiff::Zoned::now();
    let zone = now.time_zone().iana_name().map_or_else(|| format!("UTC{}", now.offset()), ToOwned::to_owned);
    // Both calendars are the proleptic Gregorian one; a clock outside the years 0001 to 9999 reads as an end.
    let (year, month, day) = (i32::from(now.year()), now.month().unsigned_abs(), now.day().unsigned_abs());
    let date = Date::new(year, month, day).unwrap_or(if year < 1 { Date::MIN } else { Date::MAX });
    Today { date, zone }
}
