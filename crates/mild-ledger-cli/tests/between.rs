//! `mild between`: the table, the JSON, and dates that are none.

#![allow(clippy::unwrap_used, clippy::expect_used)] // a test fails by panicking

mod support;

use insta::assert_snapshot;
use serde_json::json;
use support::Desk;

#[test]
fn the_table() {
    let desk = Desk::new();
    let answer = desk.mild(&["between", "2019-11-30", "2022-01-02"]);
    assert_eq!((answer.code, answer.err.as_str()), (0, ""));
    assert_snapshot!(answer.out);
    assert_snapshot!(desk.mild(&["between", "2022-01-02", "2019-11-30"]).out);
}

#[test]
fn the_json() {
    let desk = Desk::new();
    let json = desk.mild(&["between", "2019-11-30", "2022-01-02", "--json"]).json();
    let expected = json!({
        "start": "2019-11-30",
        "end": "2022-01-02",
        "days": 764,
        "complete": {"weeks": 109, "months": 25, "quarters": 8, "half_years": 4, "years": 2},
        "starts_passed": {"weeks": 109, "months": 26, "quarters": 9, "half_years": 5, "years": 3},
        "parts": {"years": 2, "months": 1, "days": 3},
        "ends": "last",
    });
    assert_eq!(json, expected);
    let other_forms = desk.mild(&["between", "2019-W48-6", "2022-002", "--json"]).json();
    assert_eq!(other_forms, expected);
    let extremes = desk.mild(&["between", "0001-01-01", "9999-12-31", "--json"]).json();
    assert_eq!((&extremes["days"], &extremes["parts"]["years"]), (&json!(3_652_058), &json!(9998)));
}

#[test]
fn named_days_say_the_zone() {
    let answer = Desk::new().mild(&["between", "yesterday", "Today"]);
    assert_eq!(answer.code, 0);
    assert!(
        answer.out.contains("parts: 1 day\n") && answer.out.contains("today: the date in "),
        "{}",
        answer.out
    );
}

#[test]
fn dates_that_are_none_are_refused_with_what_was_perhaps_meant() {
    let desk = Desk::new();
    let said = |start: &str| {
        let answer = desk.mild(&["between", start, "2022-01-02"]);
        assert_eq!((answer.code, answer.out.as_str()), (2, ""));
        answer.err
    };
    assert_snapshot!(said("03/04/2026"), @r#"mild: START: "03/04/2026" is no ISO 8601 date (allowed: a date such as 2026-09-30, 2026-W40-3 or 2026-273); perhaps 2026-04-03 (day/month/year) or 2026-03-04 (month/day/year) was meant"#);
    assert_snapshot!(said("20260403"), @r#"mild: START: "20260403" is no ISO 8601 date (allowed: a date such as 2026-09-30, 2026-W40-3 or 2026-273); perhaps 2026-04-03 (yearmonthday) was meant"#);
    assert_snapshot!(said("3 April 2026"), @r#"mild: START: "3 April 2026" is no ISO 8601 date (allowed: a date such as 2026-09-30, 2026-W40-3 or 2026-273); perhaps 2026-04-03 (day month-name year) was meant"#);
    assert_snapshot!(said("2026-04-31"), @"mild: START: there is no day 31 in 2026-04 (allowed: day 1 to 30)");
    assert_snapshot!(said("soon"), @r#"mild: START: "soon" is no named day (allowed: today, yesterday, tomorrow, or start|end of last|this|next month|quarter|half-year|year)"#);
    assert_snapshot!(said("\u{1b}[31m"), @r#"mild: START: "\u{1b}[31m" is no ISO 8601 date (allowed: a date such as 2026-09-30, 2026-W40-3 or 2026-273)"#);
}
