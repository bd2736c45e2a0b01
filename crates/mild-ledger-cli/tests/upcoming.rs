//! Reports of kind "upcoming": anniversaries, renewals and reviews in a stretch of days.

#![allow(clippy::unwrap_used, clippy::expect_used)] // a test fails by panicking

mod support;

use insta::assert_snapshot;
use proptest::prelude::*;
use serde_json::{Value, json};
use support::Desk;

const PLAN: &str = r#"plan  = 1
title = "Crew"
as_of = AS_OF

[records]
file = "crew.csv"
key  = "Name"

[records.dates]
Start = "iso"

[[report]]
kind = "upcoming"
of   = "Start"
SAYS

[output]
rows       = "rows.csv"
exceptions = "exceptions.csv"
"#;

const CREW: &str = "Name,Start,Dock
Ada Fenwick,2016-01-04,North
Bram Oduya,2021-02-11,South
Cleo Marsh,2020-02-12,North
Dov Petrel,2024-02-29,South
Esme Quill,2026-11-12,North
Finn Rowe,2023-11-12,South
Gwen Tide,,North
";

fn desk(as_of: &str, says: &str) -> Desk {
    let desk = Desk::new();
    desk.write("plan.toml", PLAN.replace("AS_OF", as_of).replace("SAYS", says));
    desk.write("crew.csv", CREW);
    desk
}

/// The rows of the report's table.
fn rows(desk: &Desk) -> Value {
    let object = desk.mild(&["run", "plan.toml", "--overwrite", "--json"]).json();
    object["reports"][0]["tables"][0]["rows"].clone()
}

#[test]
fn anniversaries_across_the_end_of_the_year() {
    let desk = desk("2026-11-12", "window = \"3 months\"\ntitle = \"Service, as of {as_of}\"");
    let answer = desk.run_plan();
    assert_eq!(answer.code, 0, "{}", answer.err);
    let report: Vec<&str> =
        answer.out.lines().skip(3).take_while(|line| !line.starts_with("Dates")).collect();
    assert_snapshot!(report.join("\n"));
    assert!(
        answer.out.contains("3 anniversaries of Start from 2026-11-12 to 2027-02-11; "),
        "{}",
        answer.out
    );
    assert!(
        answer.out.contains(
            "written 7 rows = with a date that comes up 3 rows + with none 3 rows + without a date 1 row."
        ),
        "{}",
        answer.out
    );
}

#[test]
fn a_29_february_comes_round_as_the_plan_says() {
    let named = |says: &str, as_of: &str| rows(&desk(as_of, &format!("columns = [\"Name\"]\n{says}")));
    assert_eq!(named("window = \"1 month\"", "2027-02-15"), json!([["2027-02-28", 3, "Dov Petrel"]]));
    assert_eq!(
        named("window = \"1 month\"\nleap_day = \"next-start\"", "2027-02-15"),
        json!([["2027-03-01", 3, "Dov Petrel"]])
    );
    // Two whole calendar months, from whatever day of the month before; without the word, two months from tomorrow on.
    assert_eq!(
        named("within = \"next 2 whole months\"", "2026-12-24"),
        named("within = \"next 2 months\"", "2026-12-31")
    );
    assert_ne!(
        named("within = \"next 2 whole months\"", "2026-12-24"),
        named("within = \"next 2 months\"", "2026-12-24")
    );
    assert_eq!(
        named("within = \"next 2 whole months\"", "2026-12-24"),
        json!([
            ["2027-01-04", 11, "Ada Fenwick"],
            ["2027-02-11", 6, "Bram Oduya"],
            ["2027-02-12", 7, "Cleo Marsh"],
            ["2027-02-28", 3, "Dov Petrel"]
        ])
    );
    // Only round ones, over years; those of one row are listed each.
    assert_eq!(
        named("window = \"10 years\"\nonly = [5, 10]", "2026-01-01"),
        json!([
            ["2026-01-04", 10, "Ada Fenwick"],
            ["2026-02-11", 5, "Bram Oduya"],
            ["2028-11-12", 5, "Finn Rowe"],
            ["2029-02-28", 5, "Dov Petrel"],
            ["2030-02-12", 10, "Cleo Marsh"],
            ["2031-02-11", 10, "Bram Oduya"],
            ["2031-11-12", 5, "Esme Quill"],
            ["2033-11-12", 10, "Finn Rowe"],
            ["2034-02-28", 10, "Dov Petrel"],
        ])
    );
}

#[test]
fn reviews_and_dates_that_come_once() {
    let reviews = rows(&desk(
        "2026-07-01",
        "every = \"6 months\"\nwindow = \"2 months\"\ncolumns = [\"Name\"]\nby = \"Dock\"",
    ));
    assert_eq!(
        reviews,
        json!([
            ["North", "2026-07-04", 21, "Ada Fenwick"],
            ["North", "2026-08-12", 13, "Cleo Marsh"],
            ["South", "2026-08-11", 11, "Bram Oduya"],
            ["South", "2026-08-29", 5, "Dov Petrel"],
        ])
    );
    let once = rows(&desk("2026-11-12", "every = \"once\"\nwindow = \"1 day\"\ncolumns = [\"Name\"]"));
    assert_eq!(once, json!([["2026-11-12", "Esme Quill"]]));
    let none = rows(&desk("2026-11-12", "every = \"once\"\nwithin = \"next 10 days\"\ncolumns = [\"Name\"]"));
    assert_eq!(none, json!([]));
}

#[test]
fn mistakes_are_told() {
    for (name, says) in [
        ("no_stretch_of_days", ""),
        ("two_stretches_of_days", "window = \"3 months\"\nwithin = \"next month\""),
        ("a_stretch_that_goes_back", "window = \"-3 months\""),
        ("a_step_by_working_days", "window = \"3 months\"\nevery = \"10 working days\""),
        ("numbers_of_what_comes_once", "window = \"3 months\"\nevery = \"once\"\nonly = [5]"),
        ("a_stretch_past_all_years", "window = \"9000 years\""),
    ] {
        let answer = desk("2026-11-12", says).run_plan();
        assert_eq!(answer.code, 2, "{name}: {}", answer.out);
        assert_snapshot!(name, answer.err);
    }
}

proptest! {
    #![proptest_config(ProptestConfig { cases: 24, ..ProptestConfig::default() })]

    /// Months that follow each other list each anniversary once, and none between.
    #[test]
    fn windows_tile(year in 1_900..2_026_i32, month in 1..=12_u32, day in 1..=31_u32, first in 1..=12_u32) {
        let start = format!("{year}-{month:02}-{day:02}");
        prop_assume!(start.parse::<mild_ledger::Date>().is_ok());
        let desk = desk("2027-01-01", "window = \"1 month\"\ncolumns = [\"Name\"]");
        desk.write("crew.csv", format!("Name,Start\nAda,{start}\n"));
        let mut found = Vec::new();
        for nth in 0..12_u32 {
            let at = first - 1 + nth;
            let as_of = format!("{}-{:02}-01", 2027 + at / 12, at % 12 + 1);
            let object = desk.mild(&["run", "plan.toml", "--overwrite", "--json", "--as-of", &as_of]).json();
            found.extend(object["reports"][0]["tables"][0]["rows"].as_array().unwrap().clone());
        }
        // In twelve months there is one, in the month and on the day of the start, or on the 28th for a 29 February.
        let at = if month >= first { 2027 } else { 2028 };
        let is_leap = at % 4 == 0;
        let day = if (month, day) == (2, 29) && !is_leap { 28 } else { day };
        let expected = json!([[format!("{at}-{month:02}-{day:02}"), at - year, "Ada"]]);
        prop_assert_eq!(Value::from(found), expected);
    }
}

#[test]
fn dates_that_lie_in_the_window_themselves_are_reported() {
    let desk = desk("2026-11-12", "window = \"1 day\"\ncolumns = [\"Name\"]");
    let answer = desk.run_plan();
    assert_eq!(answer.code, 0, "{}", answer.err);
    assert!(
        answer.out.contains("1 row has a date that itself lies from 2026-11-12 to 2026-11-12; every = \"once\" lists such dates"),
        "{}",
        answer.out
    );
}
