//! The one place that reads the system's clock and zone, and only where a question asks what day it is.

use crate::ending::Failure;
use mild_ledger::DateTime;
use mild_ledger_records::Zone;
use std::time::{SystemTime, UNIX_EPOCH};

/// What calendar and clock show, and the zone that they show it in.
#[derive(Debug, Clone)]
pub(crate) struct Now {
    pub(crate) at: DateTime,
    pub(crate) zone: String,
}

/// The time in a zone, or in the system's where none is named; in UTC where the system names none.
#[expect(clippy::disallowed_methods, reason = "this is the module at the edge that reads the clock")]
pub(crate) fn now(zone: Option<&Zone>) -> Result<Now, Failure> {
    // A clock before 1970 is one that was never set; the time before then is counted back all the same.
    let microseconds = match SystemTime::now().duration_since(UNIX_EPOCH) {
        Ok(since) => i64::try_from(since.as_micros()).ok(),
        Err(before) => i64::try_from(before.duration().as_micros()).ok().map(|microseconds| -microseconds),
    };
    let utc = microseconds.and_then(|microseconds| DateTime::from_microseconds(microseconds).ok());
    let utc = utc.ok_or_else(|| Failure::Request {
        what: "the system's clock stands outside the years 0001 to 9999".to_owned(),
        help: "set it right, or name the day with --as-of".to_owned(),
    })?;
    match zone.cloned().map_or_else(system_zone, |zone| Ok(Some(zone)))? {
        Some(zone) => {
            let at = zone.local_of(utc).map_err(|error| Failure::Zone { name: "today", error })?;
            Ok(Now { at, zone: zone.to_string() })
        }
        None => Ok(Now { at: utc, zone: "UTC (the system names no zone)".to_owned() }),
    }
}

/// The zone that `TZ` names, or else the one that the system is set to. `TZ` is taken as a name or a rule (POSIX) and never
/// opened: what it may point at is none of this command's business.
#[expect(clippy::disallowed_methods, reason = "this is the module at the edge that asks for the zone")]
fn system_zone() -> Result<Option<Zone>, Failure> {
    let set = std::env::var("TZ").ok();
    let text = set.as_deref().map(|text| text.trim().trim_start_matches(':'));
    match text {
        Some("") => Ok("UTC".parse().ok()),
        Some(text) if text != "/etc/localtime" => {
            let name = text.rsplit_once("zoneinfo/").map_or(text, |(_, name)| name);
            let zone = name.parse().or_else(|_| Zone::of_posix_rule(text)).ok();
            zone.map(Some).ok_or_else(|| Failure::Request {
                what: format!("TZ is set to \"{}\", which is not a time zone", text.escape_debug()),
                help: "set it to a name such as Europe/London, or give --zone".to_owned(),
            })
        }
        _ => Ok(iana_time_zone::get_timezone().ok().and_then(|name| name.parse().ok())),
    }
}
