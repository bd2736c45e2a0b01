//! `mild shift`: one date, a series, weekdays, and amounts in any place.

#![allow(clippy::unwrap_used, clippy::expect_used)] // a test fails by panicking

mod support;

use insta::assert_snapshot;
use serde_json::json;
use support::Desk;

fn date(arguments: &[&str]) -> String {
    let json = Desk::new().mild(&[&["shift"], arguments, &["--json"]].concat()).json();
    json["date"].as_str().unwrap().to_owned()
}

#[test]
fn the_worked_examples() {
    for (arguments, expected) in [
        (["2026-01-31", "1M", "clamp"], "2026-02-28"),
        (["2026-01-31", "2M", "clamp"], "2026-03-31"),
        (["2026-01-31", "3M", "keep"], "2026-04-30"),
        (["2026-02-28", "1M", "keep"], "2026-03-31"),
        (["2026-04-30", "1M", "keep"], "2026-05-31"),
        (["2026-01-31", "1M", "next-start"], "2026-03-01"),
        (["2026-01-31", "3M", "next-start"], "2026-05-01"),
        (["2026-01-31", "2M", "refuse"], "2026-03-31"),
        (["2024-02-29", "1 year 1 month", "clamp"], "2025-03-29"),
    ] {
        assert_eq!(
            date(&[arguments[0], arguments[1], "--month-end", arguments[2]]),
            expected,
            "{arguments:?}"
        );
    }
    let refused = Desk::new().mild(&["shift", "2026-01-31", "1M", "--month-end", "refuse"]);
    assert_eq!((refused.code, refused.out.as_str()), (2, ""));
    assert_snapshot!(refused.err, @"
    error: AMOUNT: 2026-01-31 moved by 1 month (month end: refuse) would be day 31 of 2026-02, which has none
    expected: day 1 to 28
    ");
}

#[test]
fn a_negative_amount_stands_in_any_place() {
    for arguments in [
        ["2026-01-31", "-2M", "--month-end", "clamp"],
        ["-2M", "2026-01-31", "--month-end", "clamp"],
        ["--month-end", "clamp", "-2M", "2026-01-31"],
        ["--month-end", "clamp", "2026-01-31", "-P2M"],
    ] {
        assert_eq!(date(&arguments), "2025-11-30", "{arguments:?}");
    }
    assert_eq!(date(&["2026-01-31", "1M", "-3d"]), "2026-02-25");
    for unknown in ["--mont-end", "-x", "--2M"] {
        let answer = Desk::new().mild(&["shift", "2026-01-31", "1M", unknown]);
        assert_eq!(answer.code, 2, "{unknown}");
        assert!(answer.err.contains("unexpected argument"), "{}", answer.err);
    }
}

#[test]
fn a_series_and_its_working() {
    let desk = Desk::new();
    let json = desk.mild(&["shift", "2026-01-31", "1M", "--times", "3", "--json"]).json();
    assert_eq!(json["dates"], json!(["2026-02-28", "2026-03-31", "2026-04-30"]));
    assert_eq!((&json["rule"], &json["date"]), (&json!("months (month end: clamp)"), &json!(null)));
    assert_eq!(json["steps"].as_array().unwrap().len(), 3);
    assert_snapshot!(
        "a_series_and_its_working",
        desk.mild(&[
            "shift",
            "2026-01-31",
            "1M 10d",
            "--times",
            "11",
            "--why",
            "--weekday",
            "on or after monday"
        ])
        .out
    );
    assert_snapshot!(
        "a_month_end_that_is_kept",
        desk.mild(&["shift", "2026-02-28", "1M", "--why", "--month-end", "keep"]).out
    );
    assert_snapshot!("a_date_from_today", desk.mild(&["shift", "today", "1w", "--as-of", "2026-11-23"]).out);
}

#[test]
fn what_cannot_be_moved_is_refused() {
    let desk = Desk::new();
    let said = |arguments: &[&str]| {
        let answer = desk.mild(&[&["shift"], arguments].concat());
        assert_eq!((answer.code, answer.out.as_str()), (2, ""), "{arguments:?}");
        answer.err
    };
    assert_snapshot!(said(&["9999-12-31", "1d"]), @"
    error: AMOUNT: the move of 9999-12-31 leads to 10000-01-01, outside the years 0001 to 9999
    expected: 0001-01-01 to 9999-12-31
    ");
    assert_snapshot!(said(&["2026-01-31", "2m"]), @r#"
    error: AMOUNT: "2m" is not an amount of time: m could be months or minutes; write M or min
    expected: an amount such as "30 days", "2 months", 45D, 3W, 2M, 1Y, 10wd, 14h, 30min or P1M
    "#);
    assert_snapshot!(said(&["2026-01-31"]), @"
    error: how far to move 2026-01-31 is missing
    help: add an amount such as 30D, 2M or 10wd, or --to, --weekday or --roll
    ");
    assert_snapshot!(said(&["31/01/2026", "1M"]), @r#"
    error: DATE: "31/01/2026" is not an ISO 8601 date
    expected: a date such as 2026-09-30, 2026-W40-3 or 2026-273
    help: perhaps 2026-01-31 (day/month/year) was meant
    "#);
    assert_snapshot!(said(&["2026-01-31", "--weekday", "monday"]), @r#"
    error: --weekday: "monday" does not say on which side of the date
    expected: on or after, after, on or before or before, then a weekday
    "#);
    assert_snapshot!(said(&["9990-01-01", "1y", "--times", "20"]), @"
    error: AMOUNT: the move of 9990-01-01 leads to 10000-01-01, outside the years 0001 to 9999
    expected: 0001-01-01 to 9999-12-31
    ");
}

#[test]
fn steps_are_done_in_turn_and_only_the_result_must_be_a_date() {
    let desk = Desk::new();
    let date = |words: &[&str]| desk.mild(&[&["shift"], words, &["--json"]].concat()).json()["date"].clone();
    assert_eq!(date(&["2026-10-03", "0wd"]), "2026-10-05");
    assert_eq!(date(&["2026-09-03", "1M 0wd"]), "2026-10-05");
    assert_eq!(date(&["2026-10-03", "1wd", "-1wd"]), "2026-10-02");
    assert_eq!(date(&["0001-06-29", "-6M", "--weekday", "on or after monday"]), "0001-01-01");
    assert_eq!(date(&["9999-12-31", "1M -30wd"]), "9999-12-20");
    assert_eq!(date(&["9999-12-30", "1D", "--roll", "preceding"]), "9999-12-31");
    assert_eq!(date(&["2026-01-15", "1M", "--to", "quarter end", "--roll", "preceding"]), "2026-03-31");
    let series =
        desk.mild(&["shift", "2026-01-31", "1M", "--times", "4", "--roll", "following", "--json"]).json();
    assert_eq!(series["dates"], serde_json::json!(["2026-03-02", "2026-03-31", "2026-04-30", "2026-06-01"]));
    assert_eq!(
        desk.mild(&["shift", "end of last month", "--as-of", "2026-10-05"]).out.lines().next(),
        Some("2026-09-30 (Wednesday)")
    );
    for (words, said) in [
        (&["2026-01-31"][..], "how far to move 2026-01-31 is missing"),
        (&["30D"], "the date to start from is missing"),
        (&["2026-10-02", "1wd", "--weekday", "on or after monday"], "may be a holiday again"),
        (&["2026-01-31", "1M", "--calendar", "france"], "neither is"),
        (&["2026-01-31", "1M", "--to", "month"], "is not the start or end of a period"),
        (&["2026-01-31", "1M", "--covers", "2026"], "no calendar is named"),
    ] {
        let answer = desk.mild(&[&["shift"], words].concat());
        assert!(answer.code == 2 && answer.err.contains(said), "{}", answer.err);
    }
}

#[test]
fn hours_elapse_on_the_clock_of_a_zone_and_between_takes_them_back() {
    let desk = Desk::new();
    let shift = |from: &str, by: &str| {
        let json = desk.mild(&["shift", from, by, "--zone", "Europe/London", "--json"]).json();
        json["dates"][0].as_str().or(json["date"].as_str()).unwrap_or_else(|| panic!("{json}")).to_owned()
    };
    // The clock goes from 01:00 to 02:00 on 29 March 2026, and from 02:00 back to 01:00 on 25 October.
    assert_eq!(shift("2026-03-28T22:30Z", "3h"), "2026-03-29T02:30:00");
    assert_eq!(shift("2026-03-28T22:30", "1d"), "2026-03-29T22:30:00");
    assert_eq!(shift("2026-03-29T02:30", "-3h"), "2026-03-28T22:30:00");
    assert_eq!(shift("2026-10-25T00:30Z", "1h"), "2026-10-25T01:30:00");
    assert_eq!(shift("2026-10-25T01:30Z", "1h"), "2026-10-25T02:30:00");
    // Whatever is moved by some hours lies that many hours after where it was.
    for start in ["2026-03-28T22:30Z", "2026-10-24T20:15Z", "2026-06-01T00:00Z"] {
        for hours in [1, 2, 3, 5, 30, 700] {
            let moved = shift(start, &format!("{hours}h"));
            let json = desk.mild(&["between", start, &moved, "--zone", "Europe/London", "--json"]);
            // A time that the clock shows twice has no one instant.
            if json.err.contains("came twice") {
                continue;
            }
            assert_eq!(json.json()["hours"], hours, "{start} + {hours} h = {moved}");
        }
    }
    let why = desk.mild(&["shift", "2026-03-28T22:30Z", "3h", "--zone", "Europe/London", "--why"]);
    assert!(
        why.out.contains("2026-03-28T22:30:00 + 3h = 2026-03-29T02:30:00")
            || why.out.contains("+ 3 hours = 2026-03-29T02:30:00"),
        "{}",
        why.out
    );
}
