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
        "fractional": {
            "months": {"whole": 25, "over": 3, "of": 31, "decimal": "25.0968"},
            "years": {"whole": 2, "over": 33, "of": 365, "decimal": "2.0904"},
        },
        "day_count": {
            "actual-365-fixed": {"whole": 0, "over": 764, "of": 365, "decimal": "2.0932"},
            "actual-360": {"whole": 0, "over": 764, "of": 360, "decimal": "2.1222"},
            "actual-actual-isda": {"whole": 0, "over": 763, "of": 365, "decimal": "2.0904"},
            "30-360-bond": {"whole": 0, "over": 752, "of": 360, "decimal": "2.0889"},
            "30e-360": {"whole": 0, "over": 752, "of": 360, "decimal": "2.0889"},
            "mean-365.25": {"whole": 0, "over": 3056, "of": 1461, "decimal": "2.0917"},
            "mean-365.2425": {"whole": 0, "over": 305_600, "of": 146_097, "decimal": "2.0918"},
        },
        "calendar_months": {"whole": 25, "over": 2, "of": 31, "decimal": "25.0645"},
        "sentence": "2 years, 1 month and 3 days",
        "ends": "last",
        "month_end": "clamp",
        "week_starts": "monday",
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
    assert_snapshot!(said("03/04/2026"), @r#"
    error: START: "03/04/2026" is not an ISO 8601 date
    expected a date such as 2026-09-30, 2026-W40-3 or 2026-273
    help: perhaps 2026-04-03 (day/month/year) or 2026-03-04 (month/day/year) was meant
    "#);
    assert_snapshot!(said("20260403"), @r#"
    error: START: "20260403" is not an ISO 8601 date
    expected a date such as 2026-09-30, 2026-W40-3 or 2026-273
    help: perhaps 2026-04-03 (yearmonthday) was meant
    "#);
    assert_snapshot!(said("3 April 2026"), @r#"
    error: START: "3 April 2026" is not an ISO 8601 date
    expected a date such as 2026-09-30, 2026-W40-3 or 2026-273
    help: perhaps 2026-04-03 (day month-name year) was meant
    "#);
    assert_snapshot!(said("2026-04-31"), @"
    error: START: there is no day 31 in 2026-04
    expected day 1 to 30
    ");
    assert_snapshot!(said("soon"), @r#"
    error: START: "soon" is not a named day
    expected today, yesterday, tomorrow, or start|end of last|this|next month|quarter|half-year|year
    "#);
    assert_snapshot!(said("\u{1b}[31m"), @r#"mild: START: "\u{1b}[31m" is not an ISO 8601 date (allowed: a date such as 2026-09-30, 2026-W40-3 or 2026-273)"#);
}

#[test]
fn why_shows_the_working_of_every_figure() {
    let desk = Desk::new();
    assert_snapshot!(desk.mild(&["between", "2024-01-31", "2024-03-01", "--why"]).out);
    assert_snapshot!(
        desk.mild(&[
            "between",
            "2026-08-31",
            "2026-02-28",
            "--why",
            "--ends",
            "first-and-last",
            "--month-end",
            "keep"
        ])
        .out
    );
    let json = desk.mild(&["between", "2024-01-31", "2024-03-01", "--why", "--json"]).json();
    let months = json["why"].as_array().unwrap().iter().find(|why| why["rule"] == "complete months").unwrap();
    assert_eq!(
        *months,
        json!({
            "rule": "complete months",
            "steps": ["2024-01-31 + 1 month = 2024-02-29 (clamped)", "+ 2 months = 2024-03-31, after 2024-03-01", "so 1"],
            "figure": "1",
        })
    );
}

#[test]
fn ends_month_ends_and_weeks_are_choices() {
    let desk = Desk::new();
    let with = |arguments: &[&str]| desk.mild(&[&["between"], arguments, &["--json"]].concat()).json();
    let contract = with(&["2026-01-01", "2026-12-31", "--ends", "first-and-last"]);
    assert_eq!(
        (&contract["complete"]["years"], &contract["days"], &contract["ends"]),
        (&json!(1), &json!(365), &json!("first-and-last"))
    );
    let neither = with(&["2026-09-01", "2026-09-30", "--ends", "neither"]);
    assert_eq!(
        (&neither["days"], &neither["complete"], &neither["sentence"]),
        (&json!(28), &json!(null), &json!("28 days"))
    );
    let keep = with(&["2026-02-28", "2026-08-31", "--month-end", "keep"]);
    assert_eq!((&keep["sentence"], &keep["month_end"]), (&json!("6 months"), &json!("keep")));
    let sunday = with(&["2026-10-03", "2026-10-04", "--week-starts", "Sunday"]);
    assert_eq!((&sunday["starts_passed"]["weeks"], &sunday["week_starts"]), (&json!(1), &json!("sunday")));
    let named = with(&["start of this year", "today", "--as-of", "2026-03-01"]);
    assert_eq!((&named["start"], &named["days"]), (&json!("2026-01-01"), &json!(59)));
    for (option, said) in [
        ("--ends", "is not a choice of ends"),
        ("--month-end", "is not a rule for month ends"),
        ("--week-starts", "is not a day of the week"),
    ] {
        let answer = desk.mild(&["between", "2026-01-01", "2026-01-02", option, "x"]);
        assert!(answer.code == 2 && answer.err.contains(said), "{}", answer.err);
    }
    assert_eq!(desk.mild(&["between", "2026-01-01", "2026-01-02", "--month-end", "refuse"]).code, 2);
}

#[test]
fn a_split_over_periods_sums_to_the_days() {
    let desk = Desk::new();
    let question = ["between", "2026-01-15", "2026-03-10", "--split", "month"];
    let answer = desk.mild(&[&question[..], &["--ends", "first-and-last"]].concat());
    assert_eq!(answer.code, 0);
    assert_snapshot!(answer.out);
    for (ends, days) in [
        ("first-and-last", [17, 28, 10]),
        ("last", [16, 28, 10]),
        ("first", [17, 28, 9]),
        ("neither", [16, 28, 9]),
    ] {
        let json = desk.mild(&[&question[..], &["--ends", ends, "--json"]].concat()).json();
        let found: Vec<i64> =
            json["split"].as_array().unwrap().iter().map(|share| share["days"].as_i64().unwrap()).collect();
        assert_eq!(found, days, "{ends}");
        assert_eq!(json["days"].as_i64(), Some(days.iter().sum()));
    }
    let both =
        desk.mild(&["between", "2026-01-15", "2026-03-10", "--ends", "first-and-last", "--json"]).json();
    assert_eq!(both["calendar_months"], json!({"whole": 1, "over": 27, "of": 31, "decimal": "1.8710"}));
    let refused = desk.mild(&["between", "2026-01-15", "2026-03-10", "--split", "weeks"]);
    assert_eq!(refused.code, 2);
    assert_snapshot!(refused.err, @r#"mild: --split: "weeks" is not a period here; it may be week, month, quarter, half-year, year"#);
}
