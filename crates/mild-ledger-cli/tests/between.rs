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
    assert_snapshot!("the_table", answer.out);
    assert_snapshot!("dates_the_other_way_round", desk.mild(&["between", "2022-01-02", "2019-11-30"]).out);
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
            "weeks": {"whole": 109, "numerator": 1, "denominator": 7, "decimal": "109.1429"},
            "quarters": {"whole": 8, "numerator": 11, "denominator": 30, "decimal": "8.3667"},
            "half_years": {"whole": 4, "numerator": 33, "denominator": 181, "decimal": "4.1823"},
            "months": {"whole": 25, "numerator": 3, "denominator": 31, "decimal": "25.0968"},
            "years": {"whole": 2, "numerator": 33, "denominator": 365, "decimal": "2.0904"},
        },
        "day_count": {
            "actual-365-fixed": {"whole": 2, "numerator": 34, "denominator": 365, "decimal": "2.0932"},
            "actual-360": {"whole": 2, "numerator": 11, "denominator": 90, "decimal": "2.1222"},
            "actual-actual-isda": {"whole": 2, "numerator": 33, "denominator": 365, "decimal": "2.0904"},
            "30-360-bond": {"whole": 2, "numerator": 4, "denominator": 45, "decimal": "2.0889"},
            "30e-360": {"whole": 2, "numerator": 4, "denominator": 45, "decimal": "2.0889"},
            "mean-365.25": {"whole": 2, "numerator": 134, "denominator": 1461, "decimal": "2.0917"},
            "mean-365.2425": {"whole": 2, "numerator": 13406, "denominator": 146097, "decimal": "2.0918"},
        },
        "calendar_months": {"whole": 25, "numerator": 2, "denominator": 31, "decimal": "25.0645"},
        "sentence": "2 years, 1 month and 3 days",
        "ends": "last",
        "month_end": "clamp",
        "weeks_begin": "monday",
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
    expected: a date such as 2026-09-30, 2026-W40-3 or 2026-273
    help: perhaps 2026-04-03 (day/month/year) or 2026-03-04 (month/day/year) was meant
    "#);
    assert_snapshot!(said("20260403"), @r#"
    error: START: "20260403" is not an ISO 8601 date
    expected: a date such as 2026-09-30, 2026-W40-3 or 2026-273
    help: perhaps 2026-04-03 (yearmonthday) was meant
    "#);
    assert_snapshot!(said("3 April 2026"), @r#"
    error: START: "3 April 2026" is not an ISO 8601 date
    expected: a date such as 2026-09-30, 2026-W40-3 or 2026-273
    help: perhaps 2026-04-03 (day month-name year) was meant
    "#);
    assert_snapshot!(said("2026-04-31"), @"
    error: START: there is no day 31 in 2026-04
    expected: day 1 to 30
    ");
    assert_snapshot!(said("soon"), @r#"
    error: START: "soon" is not a named day
    expected: today, yesterday, tomorrow, or start|end of last|this|next month|quarter|half-year|year
    "#);
    assert_snapshot!(said("\u{1b}[31m"), @r#"
    error: START: "\u{1b}[31m" is not an ISO 8601 date
    expected: a date such as 2026-09-30, 2026-W40-3 or 2026-273
    "#);
}

#[test]
fn why_shows_the_working_of_every_figure() {
    let desk = Desk::new();
    assert_snapshot!(
        "the_working_of_every_figure",
        desk.mild(&["between", "2024-01-31", "2024-03-01", "--why"]).out
    );
    assert_snapshot!(
        "the_working_first_and_last",
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
    let sunday = with(&["2026-10-03", "2026-10-04", "--weeks-begin", "Sunday"]);
    assert_eq!((&sunday["starts_passed"]["weeks"], &sunday["weeks_begin"]), (&json!(1), &json!("sunday")));
    let named = with(&["start of this year", "today", "--as-of", "2026-03-01"]);
    assert_eq!((&named["start"], &named["days"]), (&json!("2026-01-01"), &json!(59)));
    for (option, said) in [
        ("--ends", "is not a choice of ends"),
        ("--month-end", "is not a rule for month ends"),
        ("--weeks-begin", "is not a day of the week"),
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
    assert_eq!(
        both["calendar_months"],
        json!({"whole": 1, "numerator": 27, "denominator": 31, "decimal": "1.8710"})
    );
    let refused = desk.mild(&["between", "2026-01-15", "2026-03-10", "--split", "weeks"]);
    assert_eq!(refused.code, 2);
    assert_snapshot!(refused.err, @r#"
    error: --split: "weeks" is not a period here
    help: it may be week, month, quarter, half-year, year
    "#);
}

#[test]
fn one_figure_stands_in_one_line() {
    let desk = Desk::new();
    let count = |dates: [&str; 2], rest: &[&str]| {
        let answer = desk.mild(&[&["between", dates[0], dates[1], "--count"], rest].concat());
        assert_eq!(answer.code, 0, "{}", answer.err);
        answer.out
    };
    let dates = ["2019-11-30", "2022-01-02"];
    assert_eq!(count(dates, &["complete months"]), "25\n");
    assert_eq!(count(dates, &["month starts passed"]), "26\n");
    assert_eq!(count(dates, &["fractional months"]), "25.0968\n");
    assert_eq!(count(dates, &["parts"]), "2 years, 1 month and 3 days\n");
    assert_eq!(count(dates, &["days", "--ends", "first-and-last"]), "765\n");
    assert_eq!(count(dates, &["days", "--ends", "neither"]), "763\n");
    assert_eq!(count(["2026-10-03", "2026-10-18"], &["working days", "--calendar", "none"]), "10\n");
    assert_eq!(count(["2026-09-30T16:00", "2026-10-02T09:30"], &["complete hours"]), "41\n");
    assert_eq!(count(["2026-09-30T16:00", "2026-10-02T09:30"], &["days"]), "2\n");
    let why = count(dates, &["complete months", "--why"]);
    assert!(why.starts_with("25\n  complete months") && !why.contains("years"), "{why}");
    let why = count(dates, &["days", "--ends", "neither", "--why"]);
    assert!(why.contains("so 764\n    less 1, since neither end counted\n"), "{why}");
    for (rest, said) in [
        (&["months"][..], "the nearest are "),
        (&["complete hours"], "are counted between times of day"),
        (&["complete months", "--ends", "neither"], "--ends neither is for days"),
        (&["working days"], "counted by one calendar"),
        (&["days", "--calendar", "none"], "a calendar decides on working days"),
    ] {
        let answer = desk.mild(&[&["between", dates[0], dates[1], "--count"], rest].concat());
        assert!(answer.code == 2 && answer.err.contains(said), "{}", answer.err);
    }
}

#[test]
fn a_time_on_one_side_only_leaves_the_dates() {
    let answer = Desk::new().mild(&["between", "2026-09-30T16:00", "2026-10-02"]);
    assert_eq!(answer.code, 0);
    assert!(answer.out.contains("2 days, start not counted"), "{}", answer.out);
    assert!(answer.out.contains("only one of the two has a time of day"), "{}", answer.out);
    assert!(!answer.out.contains("hours"), "{}", answer.out);
}

#[test]
fn working_days_are_shared_out_and_sum_to_the_whole() {
    let desk = Desk::new();
    let question = ["between", "2026-04-01", "2026-06-10", "--split", "month", "--calendar", "england-wales"];
    let json = desk.mild(&[&question[..], &["--json"]].concat()).json();
    let days: Vec<i64> = json["working_days_split"][0]["shares"]
        .as_array()
        .unwrap()
        .iter()
        .map(|share| share["days"].as_i64().unwrap())
        .collect();
    // Good Friday and Easter Monday in April, two bank holidays in May.
    assert_eq!(days, [20, 19, 8]);
    assert_eq!(json["working_days"]["count"], 47);
    let text = desk.mild(&question).out;
    assert!(text.contains("working days by england-wales") && text.contains("47"), "{text}");
}
