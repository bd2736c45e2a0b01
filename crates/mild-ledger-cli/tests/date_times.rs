//! Date-times and time zones on the command line.

#![allow(clippy::unwrap_used, clippy::expect_used)] // a test fails by panicking

mod support;

use insta::assert_snapshot;
use serde_json::json;
use support::Desk;

#[test]
fn between_date_times_the_hours_are_those_of_the_clock() {
    let desk = Desk::new();
    let question = ["between", "2026-09-30T16:00", "2026-10-02 09:30"];
    let answer = desk.mild(&[&question[..], &["--why"]].concat());
    assert_eq!((answer.code, answer.err.as_str()), (0, ""));
    assert_snapshot!(answer.out);
    let json = desk.mild(&[&question[..], &["--json"]].concat()).json();
    assert_eq!(
        (&json["hours"], &json["minutes"], &json["seconds"]),
        (&json!(41), &json!(2490), &json!(149_400))
    );
    assert_eq!(json["hours_of"], "clock hours");
    assert_eq!(
        json["fractional"]["hours"],
        json!({"whole": 41, "numerator": 1, "denominator": 2, "decimal": "41.5000"})
    );
    assert_eq!(json["sentence"], "41 hours and 30 minutes");
    assert_eq!((&json["days"], &json["midnights_passed"]), (&json!(2), &json!(2)));
    // Next to a day without a time no hours are known, so the dates alone are counted.
    let mixed = desk.mild(&["between", "2026-09-30T16:00", "2026-10-01", "--json"]);
    assert_eq!((&mixed.json()["days"], &mixed.json()["hours"]), (&json!(1), &json!(null)));
    assert!(mixed.err.contains("only one of the two has a time of day"), "{}", mixed.err);
}

#[test]
fn a_change_of_the_clock_moves_no_date_and_no_hour_between_instants() {
    let desk = Desk::new();
    let hours = |start: &str, end: &str, zone: &str| {
        let json = desk.mild(&["between", start, end, "--zone", zone, "--json"]).json();
        (json["hours"].clone(), json["days"].clone(), json["start"].clone(), json["hours_of"].clone())
    };
    // The night to 2026-03-29 has 23 hours in London and 24 in UTC.
    assert_eq!(
        hours("2026-03-28T00:00Z", "2026-03-29T23:00Z", "Europe/London"),
        (json!(47), json!(2), json!("2026-03-28T00:00:00"), json!("elapsed hours"))
    );
    assert_eq!(
        hours("2026-03-28T00:00", "2026-03-30T00:00", "Europe/London"),
        (json!(47), json!(2), json!("2026-03-28T00:00:00"), json!("elapsed hours"))
    );
    assert_eq!(hours("2026-03-28T00:00", "2026-03-30T00:00", "UTC").0, 48);
    // An instant is on another day where the zone is ahead.
    let around = desk.mild(&["periods", "2026-09-30T23:30Z", "--zone", "Asia/Tokyo", "--json"]).json();
    assert_eq!(around["date"], "2026-10-01");
    let answer = desk.mild(&["periods", "2026-09-30T23:30Z", "--zone", "Asia/Tokyo"]);
    assert!(
        answer.out.ends_with("the date in Asia/Tokyo; its time 08:30:00 was dropped\n"),
        "{}",
        answer.out
    );
}

#[test]
fn date_times_move_by_the_clock() {
    let desk = Desk::new();
    let date = |words: &[&str]| desk.mild(&[&["shift"], words, &["--json"]].concat()).json()["date"].clone();
    assert_eq!(date(&["2026-01-31T12:00", "1M", "-36h"]), "2026-02-27T00:00:00");
    assert_eq!(date(&["2024-02-28T23:30:00", "PT45M"]), "2024-02-29T00:15:00");
    assert_eq!(date(&["2026-01-31T12:00", "14h 30min"]), "2026-02-01T02:30:00");
    assert_eq!(date(&["2026-01-31T12:00", "--weekday", "on or after monday"]), "2026-02-02T12:00:00");
    let series = desk.mild(&["shift", "2026-01-31T08:00", "8h", "--times", "3", "--json"]).json();
    assert_eq!(series["dates"], json!(["2026-01-31T16:00:00", "2026-02-01T00:00:00", "2026-02-01T08:00:00"]));
}

#[test]
fn what_cannot_be_known_is_refused_and_says_what_to_do() {
    let desk = Desk::new();
    let refused = |words: &[&str]| {
        let answer = desk.mild(words);
        assert_eq!((answer.code, answer.out.as_str()), (2, ""), "{words:?}");
        answer.err
    };
    let all = [
        refused(&["between", "2026-03-28T22:00Z", "2026-03-29T22:00Z"]),
        refused(&["between", "2026-03-29T01:30", "2026-03-29T05:00", "--zone", "Europe/London"]),
        refused(&["between", "2026-10-25T01:30", "2026-10-25T05:00", "--zone", "Europe/London"]),
        refused(&["between", "2026-10-25T01:30", "2026-10-25T05:00", "--zone", "Europe/Quillhaven"]),
        refused(&["between", "2026-10-25T01:30", "2026-10-25T25:00"]),
        refused(&["between", "2026-10-25T01:30", "2026-10-26T00:00", "--ends", "first-and-last"]),
        refused(&["between", "2026-10-25T01:30:00.1234567", "2026-10-26"]),
        refused(&["shift", "2026-01-31", "3h"]),
        refused(&["shift", "9999-12-31T23:00", "1h"]),
        refused(&["between", "0001-01-01T00:00+02:00", "2026-01-01T00:00Z", "--zone", "UTC"]),
    ];
    assert_snapshot!(all.concat());
}
