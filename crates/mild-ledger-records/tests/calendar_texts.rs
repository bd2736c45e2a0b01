//! Calendar files, events and lists cut and mixed at random: an error or a calendar, never a panic, and no date lost.

#![allow(clippy::unwrap_used, clippy::expect_used)] // a test fails by panicking

use mild_ledger::{CalendarYears, Date};
use mild_ledger_records::{CalendarRequest, EventTime, Zone, ZoneError, open_calendar, to_ics};
use proptest::prelude::*;

const TOML: &str = "calendar = 1\nname = \"Yard\"\ncovers = \"2024 to 2027\"\nrest_days = [\"saturday\", \"sunday\"]\n[[holiday]]\nname = \"Launch\"\nweekday = \"monday\"\nwhich = \"first\"\nmonth = \"may\"\nmoved = \"following monday\"\n[[holiday]]\nname = \"Friday\"\neaster = { days = -2, church = \"western\" }\n[[holiday]]\nname = \"Supper\"\nday = 29\nmonth = \"february\"\ncommon_years = \"1 march\"\nexcept = [2025]\n[[working]]\ndate = 2026-12-05\n";
const ICS: &str = "BEGIN:VCALENDAR\r\nVERSION:2.0\r\nBEGIN:VEVENT\r\nDTSTART;VALUE=DATE:20260925\r\nDTEND;VALUE=DATE:20260927\r\nRRULE:FREQ=YEARLY;COUNT=2\r\nEXDATE;VALUE=DATE:20270925\r\nSUMMARY:Yard Supper\\, late\r\nEND:VEVENT\r\nEND:VCALENDAR\r\n";
const CSV: &str = "date,name\n2026-10-07,Slip repair\n# remark\n2026-10-17,Regatta\n";

/// The calendar of a file with this text, its years claimed where it states none.
fn opened(
    folder: &tempfile::TempDir,
    extension: &str,
    text: &str,
) -> Result<mild_ledger::WorkCalendar, String> {
    let file = folder.path().join(format!("yard.{extension}"));
    std::fs::write(&file, text).unwrap();
    let request = CalendarRequest {
        sources: vec![file.display().to_string()],
        covers: Some("2024 to 2027".parse().unwrap()),
        ..CalendarRequest::default()
    };
    open_calendar(&request).map(|opened| opened.calendar().clone()).map_err(|error| error.to_string())
}

#[test]
fn whole_files_are_read() {
    let folder = tempfile::tempdir().unwrap();
    let days = |extension: &str, text: &str| -> Vec<String> {
        opened(&folder, extension, text)
            .unwrap()
            .holidays()
            .iter()
            .map(|day| day.date().to_string())
            .collect()
    };
    let launches = ["2024-02-29", "2024-03-29", "2024-05-06", "2025-04-18", "2025-05-05"];
    assert_eq!(days("toml", TOML)[..5], launches);
    assert_eq!(days("ics", ICS), ["2026-09-25", "2026-09-26"]);
    assert_eq!(days("csv", CSV), ["2026-10-07", "2026-10-17"]);
}

#[test]
fn numbers_of_a_repetition_that_no_year_has_are_refused() {
    let folder = tempfile::tempdir().unwrap();
    for part in
        ["BYMONTHDAY=-2147483648", "BYDAY=-2147483648MO", "BYDAY=54MO", "BYMONTHDAY=0", "BYMONTHDAY=-32"]
    {
        let refused = opened(&folder, "ics", &ICS.replace("COUNT=2", part)).unwrap_err();
        assert!(refused.contains(&format!("the repetition {part} is not understood")), "{refused}");
    }
}

#[test]
fn events_are_read_as_calendar_programs_mean_them() {
    let folder = tempfile::tempdir().unwrap();
    let file = |events: &[&str]| {
        let events: Vec<String> =
            events.iter().map(|event| format!("BEGIN:VEVENT\r\n{event}\r\nEND:VEVENT\r\n")).collect();
        format!("BEGIN:VCALENDAR\r\nVERSION:2.0\r\n{}END:VCALENDAR\r\n", events.concat())
    };
    let days = |events: &[&str]| -> Result<Vec<String>, String> {
        let calendar = opened(&folder, "ics", &file(events))?;
        Ok(calendar.holidays().iter().map(|day| format!("{} {}", day.date(), day.name())).collect())
    };
    // A space before a fold belongs to the text.
    assert_eq!(
        days(&["DTSTART;VALUE=DATE:20260925\r\nSUMMARY:Yard \r\n Supper\r\n\t, late"]).unwrap(),
        ["2026-09-25 Yard Supper, late"]
    );
    // A later revision takes the place of an event, also where it takes it off.
    let revised = "UID:a\r\nSEQUENCE:2\r\nDTSTART;VALUE=DATE:20260930\r\nSUMMARY:Moved";
    let first = "UID:a\r\nSEQUENCE:1\r\nDTSTART;VALUE=DATE:20260925\r\nSUMMARY:First";
    assert_eq!(days(&[revised, first]).unwrap(), ["2026-09-30 Moved"]);
    let other = "UID:b\r\nDTSTART;VALUE=DATE:20261001\r\nSUMMARY:Other";
    assert_eq!(
        days(&[first, "UID:a\r\nSEQUENCE:3\r\nSTATUS:CANCELLED\r\nDTSTART;VALUE=DATE:20260925", other])
            .unwrap(),
        ["2026-10-01 Other"]
    );
    // From midnight to midnight is whole days.
    let midnights = "DTSTART;TZID=Europe/London:20260925T000000\r\nDTEND;TZID=Europe/London:20260927T000000\r\nSUMMARY:Two";
    assert_eq!(days(&[midnights]).unwrap(), ["2026-09-25 Two", "2026-09-26 Two"]);
    for (event, said) in [
        ("DTSTART:20260925T000000\r\nSUMMARY:x", "begins at a time of day and has no end"),
        ("DTSTART:20260925T090000\r\nDTEND:20260926T000000", "DTSTART has a time of day"),
        ("DTSTART;VALUE=DATE:20260925\r\nRDATE;VALUE=DATE:20261001", "dates of its own in RDATE"),
        ("DTSTART;VALUE=DATE:20260925\r\nRRULE:FREQ=WEEKLY;COUNT=3", "FREQ=WEEKLY is not understood"),
    ] {
        let error = days(&[event]).unwrap_err();
        assert!(error.contains(said) && error.contains("line "), "{error}");
    }
    // An event for nearly every day of ten thousand years is refused before it fills the memory.
    std::fs::write(
        folder.path().join("all.ics"),
        file(&["DTSTART;VALUE=DATE:00010101\r\nRRULE:FREQ=YEARLY;BYDAY=MO,TU,WE,TH,FR,SA,SU"]),
    )
    .unwrap();
    let request = CalendarRequest {
        sources: vec![folder.path().join("all.ics").display().to_string()],
        covers: Some("0001 to 9999".parse().unwrap()),
        ..CalendarRequest::default()
    };
    assert!(open_calendar(&request).unwrap_err().to_string().contains("close more than 200000 days"));
}

#[test]
fn events_of_other_names_are_other_events_and_times_are_kept() {
    let day = EventTime::Day("2026-09-25".parse().unwrap());
    let uid = |name: &str, title: &str| {
        let text = to_ics(name, [(day, title)]);
        text.lines().find(|line| line.starts_with("UID:")).unwrap().to_owned()
    };
    assert_ne!(uid("Zahlung Ä", "a"), uid("Zahlung Ö", "a"));
    assert_ne!(uid("yard", "A1"), uid("yard", "A2"));
    assert_eq!(uid("yard", "A1"), uid("yard", "A1"));
    let moment = EventTime::Moment("2026-09-25T14:30".parse().unwrap());
    assert!(to_ics("yard", [(moment, "a")]).contains("DTSTART:20260925T143000\r\n"));
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(600))]
    #[test]
    fn cut_and_mixed_files_are_an_error_or_a_calendar(
        which in 0..3_usize, from in 0..700_usize, to in 0..700_usize, wild in "\\PC{0,8}|[\\r\\n]{1,3}|[0-9]{1,12}", keep in any::<bool>(),
    ) {
        let folder = tempfile::tempdir().unwrap();
        let (extension, text) = [("toml", TOML), ("ics", ICS), ("csv", CSV)][which];
        let (from, to) = (from.min(text.len()), to.min(text.len()));
        let (from, to) = (from.min(to), from.max(to));
        let rest = if keep { &text[from..] } else { &text[to..] };
        match opened(&folder, extension, &format!("{}{wild}{rest}", &text[..from])) {
            Ok(calendar) => prop_assert_eq!(calendar.covers(), Some(CalendarYears::of(2024, 2027))),
            Err(error) => prop_assert!(!error.is_empty()),
        }
    }

    #[test]
    fn days_written_as_events_are_read_again(days in prop::collection::btree_map(19_723..21_184_i32, "[ -~é€]{1,90}", 1..40)) {
        let folder = tempfile::tempdir().unwrap();
        let dates: Vec<(Date, &str)> =
            days.iter().map(|(day, name)| (Date::from_day_number(*day).unwrap(), name.as_str())).collect();
        let calendar = opened(&folder, "ics", &to_ics("yard", dates.iter().map(|(date, name)| (EventTime::Day(*date), *name)))).unwrap();
        let found: Vec<Date> = calendar.holidays().iter().map(mild_ledger::Holiday::date).collect();
        prop_assert_eq!(found, dates.iter().map(|(date, _)| *date).collect::<Vec<_>>());
    }

    #[test]
    fn a_zone_brings_an_instant_back(microseconds in -5_000_000_000_000_000..5_000_000_000_000_000_i64, which in 0..5_usize) {
        let zone: Zone = ["UTC", "Europe/London", "Pacific/Auckland", "America/St_Johns", "Asia/Kathmandu"][which].parse().unwrap();
        let utc = mild_ledger::DateTime::from_microseconds(microseconds).unwrap();
        let local = zone.local_of(utc).unwrap();
        match zone.utc_of(local) {
            Ok(back) => prop_assert_eq!(back, utc),
            // In the hour that came twice no one instant is meant; a time that never was is not shown.
            Err(error) => prop_assert!(matches!(error, ZoneError::Twice { .. }), "{}", error),
        }
    }
}
