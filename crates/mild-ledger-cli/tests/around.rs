//! `mild around`: the periods of a date, their neighbours, and the rules they go by.

#![allow(clippy::unwrap_used, clippy::expect_used)] // a test fails by panicking

mod support;

use insta::assert_snapshot;
use serde_json::{Value, json};
use support::Desk;

fn around(arguments: &[&str]) -> Value {
    Desk::new().mild(&[&["around"], arguments, &["--json"]].concat()).json()
}

fn bounds(value: &Value) -> [&str; 3] {
    ["first", "last", "label"].map(|key| value[key].as_str().unwrap())
}

#[test]
fn the_table() {
    let desk = Desk::new();
    assert_snapshot!(desk.mild(&["around", "2026-09-30"]).out);
    assert_snapshot!(
        desk.mild(&[
            "around",
            "2026-09-30",
            "--away",
            "-1",
            "--fiscal-starts",
            "04-06",
            "--fiscal-named",
            "begin",
            "--week-years",
            "last saturday of january, 4-5-4",
            "--week-starts",
            "sunday"
        ])
        .out
    );
}

#[test]
fn the_json() {
    let found = around(&["2026-09-30", "--fiscal-starts", "10"]);
    assert_eq!(
        (&found["weekday"], &found["iso_week"], &found["day_of_year"]),
        (&json!("wednesday"), &json!("2026-W40"), &json!(273))
    );
    for (key, expected) in [
        ("week", ["2026-09-28", "2026-10-04", "2026-W40"]),
        ("month", ["2026-09-01", "2026-09-30", "2026-09"]),
        ("quarter", ["2026-07-01", "2026-09-30", "2026-Q3"]),
        ("half_year", ["2026-07-01", "2026-12-31", "2026-H2"]),
        ("year", ["2026-01-01", "2026-12-31", "2026"]),
        ("fiscal_quarter", ["2026-07-01", "2026-09-30", "FY2026-Q4"]),
        ("fiscal_year", ["2025-10-01", "2026-09-30", "FY2026"]),
        ("week_quarter", ["2026-09-28", "2027-01-03", "2026 week quarter 4"]),
        ("week_year", ["2025-12-29", "2027-01-03", "2026 week-year"]),
    ] {
        assert_eq!(bounds(&found[key]), expected, "{key}");
    }
    assert_eq!((&found["month"]["days"], &found["month"]["position"]), (&json!(30), &json!(30)));
    let next = around(&["2026-09-30", "--fiscal-starts", "10", "--away", "1"]);
    assert_eq!(bounds(&next["fiscal_quarter"]), ["2026-10-01", "2026-12-31", "FY2027-Q1"]);
    assert_eq!(bounds(&next["month"]), ["2026-10-01", "2026-10-31", "2026-10"]);
    let iso = around(&["2021-01-03"]);
    assert_eq!(
        (&iso["iso_week"], &iso["week_year"]["label"]),
        (&json!("2020-W53"), &json!("2020 week-year"))
    );
    let labels = around(&["2026-09-30", "--pattern", "Q{quarter} %Y"]);
    assert_eq!(labels["quarter"]["label"], "Q3 2026");
    let last = around(&["9999-12-31"]);
    assert_eq!((&last["week"]["first"], &last["week"]["last"]), (&json!("9999-12-27"), &json!(null)));
}

#[test]
fn what_is_no_rule_is_refused() {
    let desk = Desk::new();
    for (option, value, said) in [
        ("--fiscal-starts", "13", "cannot begin on day 1 of month 13"),
        ("--fiscal-starts", "4-31", "write MONTH or MONTH-DAY"),
        ("--fiscal-named", "middle", "is not a way of naming a fiscal year"),
        ("--week-years", "saturday", "is not a rule for years of weeks"),
        ("--week-starts", "x", "is not a day of the week"),
        ("--pattern", "%Y-W%V", "%V counts weeks of the week-year"),
        ("--away", "x", "a whole number such as 2 or -1"),
        ("--away", "-99999999", "lies outside the years 0001 to 9999"),
    ] {
        let answer = desk.mild(&["around", "2026-09-30", option, value]);
        assert_eq!((answer.code, answer.out.as_str()), (2, ""), "{option} {value}");
        assert!(answer.err.contains(said), "{}", answer.err);
    }
}

#[test]
fn the_working_of_every_period() {
    let desk = Desk::new();
    let question = ["around", "2026-09-30", "--fiscal-starts", "10", "--why"];
    let answer = desk.mild(&question);
    assert_eq!((answer.code, answer.err.as_str()), (0, ""));
    assert_snapshot!(answer.out);
    let json = desk.mild(&[&question[..], &["--json"]].concat()).json();
    assert_eq!(json["fiscal_quarter"]["why"]["figure"], "FY2026-Q4");
}
