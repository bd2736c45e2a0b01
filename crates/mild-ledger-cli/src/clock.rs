//! The one place that reads the system's clock and zone.

use mild_ledger::{Date, DateTime};
use mild_ledger_records::Zone;

/// Today, and the zone it is today in.
#[derive(Debug, Clone)]
pub(crate) struct Today {
    pub(crate) date: Date,
    pub(crate) zone: String,
}

/// The date in a zone, or in the system's where none is named; in UTC where the system names none.
#[expect(clippy::disallowed_methods, reason = "this is the module at the edge that reads the clock")]
pub(crate) fn today(zone: Option<&Zone>) -> Today {
    let now = jiff::Zoned::now();
    let system = now.time_zone().iana_name().and_then(|name| name.parse().ok());
    match zone.cloned().or(system) {
        Some(zone) => {
            let date = zone.date_at(now.timestamp().as_microsecond());
            Today { date, zone: zone.to_string() }
        }
        None => {
            // A system whose zone has no name has an offset only.
            let utc = now.timestamp().as_microsecond() + i64::from(now.offset().seconds()) * 1_000_000;
            let nearest = if utc < 0 { DateTime::MIN } else { DateTime::MAX };
            let date = DateTime::from_microseconds(utc).unwrap_or(nearest).date();
            Today { date, zone: format!("UTC{}", now.offset()) }
        }
    }
}
