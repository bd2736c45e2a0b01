//! Who is in service and for how long, and the headcount by period.

#![allow(clippy::unwrap_used, clippy::expect_used)] // a test fails by panicking

mod support;

use insta::assert_snapshot;
use proptest::prelude::*;
use serde_json::{Value, json};
use support::Desk;

const PLAN: &str = r#"plan  = 1
title = "Crew"
as_of = 2026-09-15

[records]
file    = "crew.csv"
key     = "Number"
duplicates = "set aside"

[records.dates]
Start = "iso"
Left  = "iso"

[[report]]
kind    = "tenure"
start   = "Start"
left    = "Left"
count   = "complete months"
by      = "Team"
last_periods = 3

[output]
rows       = "rows.csv"
exceptions = "exceptions.csv"
"#;

const CREW: &str = "Number,Team,Start,Left
C1,Yard,2020-02-29,
C2,Yard,2026-07-01,2026-08-31
C3,Office,2026-08-01,2026-09-15
C4,Office,2026-08-15,2026-09-16
C5,Office,2026-10-01,
C6,Yard,,
C7,Yard,2026-05-01,2026-04-01
C8,Yard,2026-05-01,never
C9,Yard,2010-01-01,2019-12-31
";

fn desk(plan: &str, crew: &str) -> Desk {
    let desk = Desk::new();
    desk.write("plan.toml", plan);
    desk.write("crew.csv", crew);
    desk
}

#[test]
fn every_cell_of_a_tenure() {
    let report = desk(PLAN, CREW).report();
    let tables = report["tables"].as_array().unwrap();
    // C1 has served 78 complete months on 15 September, C4 one; C3 leaves that day.
    assert_eq!(
        tables[0]["rows"],
        json!([["Office", 1, "1.00", "1.00", 1, 1], ["Yard", 1, "78.00", "78.00", 78, 78]])
    );
    assert_eq!(
        tables[1]["rows"],
        json!([["2026-07", 1, 1, 0, 2], ["2026-08", 2, 2, 1, 3], ["2026-09, unfinished", 3, 0, 1, 2],])
    );
    let counts: Vec<&Value> =
        report["proof"][0]["parts"].as_array().unwrap().iter().map(|part| &part["value"]).collect();
    assert_eq!(counts, [2, 3, 1, 1, 1, 1]);
}

#[test]
fn a_tenure_as_it_is_shown() {
    let answer = desk(PLAN, CREW).run_plan();
    assert_eq!(answer.code, 0, "{}", answer.err);
    let shown: Vec<&str> = answer.out.lines().take_while(|line| !line.starts_with("Dates")).collect();
    assert_snapshot!(shown.join("\n"));
}

#[test]
fn mistakes_are_told() {
    for (name, from, to) in [
        ("a_tenure_of_texts", "start   = \"Start\"", "start   = \"Team\""),
        ("a_tenure_that_is_not_counted", "count   = \"complete months\"\n", ""),
        ("a_tenure_in_parts", "\"complete months\"", "\"parts\""),
        ("no_periods", "last_periods = 3", "last_periods = 0"),
    ] {
        let answer = desk(&PLAN.replace(from, to), CREW).run_plan();
        assert_eq!(answer.code, 2, "{name}: {}", answer.out);
        assert_snapshot!(name, answer.err);
    }
}

proptest! {
    #![proptest_config(ProptestConfig { cases: 24, ..ProptestConfig::default() })]

    /// Against a count of everybody on every month end.
    #[test]
    fn headcounts_are_those_of_a_count_on_each_day(
        crew in prop::collection::vec((0..20_u32, 1..29_u32, prop::option::of((0..12_u32, 1..29_u32))), 1..25),
    ) {
        let date = |month: u32, day: u32| format!("20{}-{:02}-{day:02}", 25 + month / 12, month % 12 + 1);
        let mut text = String::from("Number,Team,Start,Left\n");
        let mut served: Vec<(String, Option<String>)> = Vec::new();
        for (nth, (month, day, stay)) in crew.iter().enumerate() {
            let start = date(*month, *day);
            let left = stay.map(|(months, last)| date(month + months, last)).filter(|left| *left >= start);
            text.push_str(&format!("N{nth},A,{start},{}\n", left.as_deref().unwrap_or_default()));
            served.push((start, left));
        }
        let plan = PLAN.replace("as_of = 2026-09-15", "as_of = 2026-08-31").replace("last_periods = 3", "last_periods = 9");
        let report = desk(&plan, &text).report();
        for (nth, row) in report["tables"][1]["rows"].as_array().unwrap().iter().enumerate() {
            // December 2025 is the first of the nine months. Every text of a date up to 31 sorts as the date does.
            let month = date(11 + u32::try_from(nth).unwrap(), 31);
            let before = date(10 + u32::try_from(nth).unwrap(), 31);
            let in_service = |on: &str| {
                served.iter().filter(|(start, left)| start.as_str() <= on && left.as_deref().is_none_or(|left| left > on)).count()
            };
            let within = |day: &str| day > before.as_str() && day <= month.as_str();
            let joined = served.iter().filter(|(start, _)| within(start)).count();
            let left = served.iter().filter(|(_, left)| left.as_deref().is_some_and(within)).count();
            prop_assert_eq!(
                row.as_array().unwrap()[1..].to_vec(),
                [in_service(&before), joined, left, in_service(&month)].map(|count| json!(count)),
                "{}", month
            );
        }
    }
}
