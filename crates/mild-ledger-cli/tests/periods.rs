//! `mild periods`: the periods of a date, their neighbours, and the rules they go by.

#![allow(clippy::unwrap_used, clippy::expect_used)] // a test fails by panicking

mod support;

use insta::assert_snapshot;
use serde_json::{Value, json};
use support::Desk;

fn periods(arguments: &[&str]) -> Value {
    Desk::new().mild(&[&["periods"], arguments, &["--json"]].concat()).json()
}

fn bounds(value: &Value) -> [&str; 3] {
    ["first", "last", "label"].map(|key| value[key].as_str().unwrap())
}

#[test]
fn the_table() {
    let desk = Desk::new();
    assert_snapshot!("the_table", desk.mild(&["periods", "2026-09-30"]).out);
    assert_snapshot!(
        "periods_one_back_by_other_weeks",
        desk.mild(&[
            "periods",
            "2026-09-30",
            "--away",
            "-1",
            "--fiscal-year-begins",
            "04-06",
            "--fiscal-named",
            "begin",
            "--week-years",
            "last saturday of january, 4-5-4",
            "--weeks-begin",
            "sunday"
        ])
        .out
    );
}

#[test]
fn the_json() {
    let found = periods(&["2026-09-30", "--fiscal-year-begins", "10"]);
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
        ("fiscal_period", ["2026-09-01", "2026-09-30", "FY2026-P12"]),
        ("fiscal_quarter", ["2026-07-01", "2026-09-30", "FY2026-Q4"]),
        ("fiscal_year", ["2025-10-01", "2026-09-30", "FY2026"]),
        ("week_period", ["2026-09-28", "2026-10-25", "2026 week period 10"]),
        ("week_quarter", ["2026-09-28", "2027-01-03", "2026 week quarter 4"]),
        ("week_year", ["2025-12-29", "2027-01-03", "2026 week-year"]),
    ] {
        assert_eq!(bounds(&found["periods"][key]), expected, "{key}");
    }
    assert_eq!(
        (&found["periods"]["month"]["days"], &found["periods"]["month"]["position"]),
        (&json!(30), &json!(30))
    );
    let next = periods(&["2026-09-30", "--fiscal-year-begins", "10", "--away", "1"]);
    assert_eq!(bounds(&next["periods"]["fiscal_quarter"]), ["2026-10-01", "2026-12-31", "FY2027-Q1"]);
    assert_eq!(bounds(&next["periods"]["month"]), ["2026-10-01", "2026-10-31", "2026-10"]);
    let iso = periods(&["2021-01-03"]);
    assert_eq!(
        (&iso["iso_week"], &iso["periods"]["week_year"]["label"]),
        (&json!("2020-W53"), &json!("2020 week-year"))
    );
    let labels = periods(&["2026-09-30", "--pattern", "Q{quarter} %Y"]);
    assert_eq!(labels["periods"]["quarter"]["label"], "Q3 2026");
    let last = periods(&["9999-12-31"]);
    assert_eq!(
        (&last["periods"]["week"]["first"], &last["periods"]["week"]["last"]),
        (&json!("9999-12-27"), &json!(null))
    );
}

#[test]
fn what_is_no_rule_is_refused() {
    let desk = Desk::new();
    for (option, value, said) in [
        ("--fiscal-year-begins", "13", "cannot begin on day 1 of month 13"),
        ("--fiscal-year-begins", "4-31", "cannot begin on day 31 of month 4"),
        ("--fiscal-named", "middle", "is not a way of naming a fiscal year"),
        ("--week-years", "saturday", "is not a rule for years of weeks"),
        ("--weeks-begin", "x", "is not a day of the week"),
        ("--pattern", "%Y-W%V", "%V counts weeks of the week-year"),
        ("--away", "x", "a whole number such as 2 or -1"),
        ("--away", "-99999999", "lies outside the years 0001 to 9999"),
    ] {
        let answer = desk.mild(&["periods", "2026-09-30", option, value]);
        assert_eq!((answer.code, answer.out.as_str()), (2, ""), "{option} {value}");
        assert!(answer.err.contains(said), "{}", answer.err);
    }
}

#[test]
fn the_working_of_every_period() {
    let desk = Desk::new();
    let question = ["periods", "2026-09-30", "--fiscal-year-begins", "10", "--why"];
    let answer = desk.mild(&question);
    assert_eq!((answer.code, answer.err.as_str()), (0, ""));
    assert_snapshot!(answer.out);
    let json = desk.mild(&[&question[..], &["--json"]].concat()).json();
    assert_eq!(json["periods"]["fiscal_quarter"]["why"]["figure"], "FY2026-Q4");
}

#[test]
fn one_figure_of_a_period_stands_in_one_line() {
    let desk = Desk::new();
    let one = |rest: &[&str]| {
        let answer = desk.mild(&[&["periods", "2026-09-30", "--period"], rest].concat());
        assert_eq!(answer.code, 0, "{}", answer.err);
        answer.out
    };
    assert_eq!(one(&["month", "--gives", "last day"]), "2026-09-30\n");
    assert_eq!(one(&["quarter", "--gives", "first day", "--away", "1"]), "2026-10-01\n");
    assert_eq!(one(&["fiscal quarter", "--gives", "label", "--fiscal-year-begins", "april"]), "FY2027-Q2\n");
    assert_eq!(one(&["fiscal year", "--gives", "number", "--fiscal-year-begins", "apr-6"]), "2027\n");
    assert_eq!(one(&["half-year", "--gives", "days"]), "184\n");
    let why = one(&["month", "--gives", "last day", "--why"]);
    assert!(why.starts_with("2026-09-30\n  month\n") && !why.contains("quarter"), "{why}");
    for (refused, said) in [
        (&["--period", "months", "--gives", "days"][..], "is not a period"),
        (&["--period", "month", "--gives", "end"], "is not what a period gives"),
        (&["--period", "month"], "--gives"),
        (&["--period", "month", "--gives", "days", "--calendar", "none"], "none of them asks for a calendar"),
    ] {
        let answer = desk.mild(&[&["periods", "2026-09-30"], refused].concat());
        assert!(answer.code == 2 && answer.err.contains(said), "{}", answer.err);
    }
}

#[test]
fn fiscal_years_begin_in_words_and_weeks_are_numbered_as_asked() {
    for start in ["april", "apr-1", "4", "04-01"] {
        let found = periods(&["2026-09-30", "--fiscal-year-begins", start]);
        assert_eq!(found["periods"]["fiscal_year"]["first"], "2026-04-01", "{start}");
    }
    let numbered = |weeks: &str, weekdays: &str| {
        let found = periods(&["2022-10-03", "--weeks", weeks, "--weekdays", weekdays]);
        (found["week"]["number"].clone(), found["weekday_number"]["number"].clone())
    };
    // 2022-10-03 is a Monday; 1 January 2022 was a Saturday, alone in the first week that starts on a Sunday.
    assert_eq!(numbered("sunday first, at least 1 day", "sunday from 1"), (json!("2022-W41"), json!("2")));
    assert_eq!(numbered("iso", "monday from 0"), (json!("2022-W40"), json!("0")));
    assert_eq!(numbered("blocks from 1 january", "monday from 1"), (json!("2022-W40"), json!("1")));
    let named =
        periods(&["2027-01-15", "--week-years", "last saturday of january", "--fiscal-named", "begin"]);
    assert_eq!(named["periods"]["week_year"]["number"], 2026);
    // A label says the quarter of the fiscal year that it names.
    let labels =
        periods(&["2026-09-30", "--fiscal-year-begins", "4", "--pattern", "FY{fiscal_year} Q{quarter}"]);
    assert_eq!(labels["periods"]["fiscal_quarter"]["label"], "FY2027 Q2");
    let words = periods(&["2026-09-30", "--pattern", "month-name year"]);
    assert_eq!(words["periods"]["month"]["label"], "September 2026");
}

#[test]
fn a_working_day_is_numbered_in_its_month() {
    let desk = Desk::new();
    let first_line = |date: &str| {
        let answer = desk.mild(&["periods", date, "--calendar", "england-wales"]);
        answer.out.lines().next().unwrap().to_owned()
    };
    assert_eq!(
        first_line("2026-09-30"),
        "england-wales: working day; 22nd, and last, working day of the month"
    );
    assert_eq!(
        first_line("2026-10-02"),
        "england-wales: working day; 2nd working day of the month, 21st from its end"
    );
    assert_eq!(first_line("2026-12-25"), "england-wales: holiday, Christmas Day");
}
