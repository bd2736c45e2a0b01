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
    let utc = utc_of(SystemTime::now()).ok_or_else(|| Failure::Request {
        what: "the system's clock is outside the years 0001 to 9999".to_owned(),
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

/// What a clock set to UTC shows; `None` outside the years 0001 to 9999. A time before 1970, which a clock that was never set
/// may have, is counted back.
fn utc_of(time: SystemTime) -> Option<DateTime> {
    let microseconds = match time.duration_since(UNIX_EPOCH) {
        Ok(since) => i64::try_from(since.as_micros()).ok()?,
        Err(before) => -i64::try_from(before.duration().as_micros()).ok()?,
    };
    DateTime::from_microseconds(microseconds).ok()
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

#[cfg(test)]
mod tests {
    use super::*;
    use std::time::Duration;

    #[test]
    fn a_clock_that_is_far_off_shows_no_time() {
        let seconds =
            |seconds: u64| utc_of(UNIX_EPOCH + Duration::from_secs(seconds)).map(|at| at.to_string());
        assert_eq!(seconds(1_790_726_400).as_deref(), Some("2026-09-30T00:00:00"));
        // The last second of 9999, and the next.
        assert_eq!(seconds(253_402_300_799).as_deref(), Some("9999-12-31T23:59:59"));
        assert_eq!((seconds(253_402_300_800), seconds(1 << 62)), (None, None));
        let before = utc_of(UNIX_EPOCH - Duration::from_secs(1));
        assert_eq!(before.map(|at| at.to_string()).as_deref(), Some("1969-12-31T23:59:59"));
        assert_eq!(utc_of(UNIX_EPOCH - Duration::from_secs(62_135_596_801)), None);
    }
}
