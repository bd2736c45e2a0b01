//! How long jobs take: by group and period, against a promise, and what still runs.

#![allow(clippy::unwrap_used, clippy::expect_used)] // a test fails by panicking

mod support;

use insta::assert_snapshot;
use proptest::prelude::*;
use serde_json::{Value, json};
use std::collections::BTreeMap;
use support::Desk;

const PLAN: &str = r#"plan  = 1
title = "Jobs"
as_of = 2026-09-30

[records]
file    = "jobs.csv"
key     = "Job"
duplicates = "set aside"

[records.dates]
Ashore = "iso"
Afloat = { pattern = "iso", blank = ["-"] }

[calendar.yard]
rest_days = ["saturday", "sunday"]
covers    = "2026"
holidays  = [2026-09-25]

[[report]]
kind    = "turnaround"
between = ["Ashore", "Afloat"]
count   = "working days"
ends    = "last"
promise = "5 working days"
by      = "Work"

[output]
rows       = "rows.csv"
exceptions = "exceptions.csv"
"#;

/// Made to be counted off: 25 September is a holiday.
const JOBS: &str = "Job,Work,Ashore,Afloat
J1,Paint,2026-09-01,2026-09-08
J2,Paint,2026-09-01,2026-09-09
J3,Paint,2026-09-21,2026-09-30
J4,Engine,2026-09-18,2026-09-21
J5,Engine,2026-09-23,-
J6,Engine,2026-09-22,2026-10-01
J7,Paint,2026-10-01,-
J8,Paint,,2026-09-09
J9,Paint,2026-09-01,soon
J10,Engine,2026-09-10,2026-09-09
";

fn desk(plan: &str, jobs: &str) -> Desk {
    let desk = Desk::new();
    desk.write("plan.toml", plan);
    desk.write("jobs.csv", jobs);
    desk
}

#[test]
fn every_cell_against_a_promise_of_working_days() {
    let report = desk(PLAN, JOBS).report();
    let tables = report["tables"].as_array().unwrap();
    // J1 took 5 working days, J2 6, J3 6 without the holiday, J4 one over a weekend; J10 ends a day before it starts.
    assert_eq!(
        tables[0]["rows"],
        json!([
            ["Engine", 2, "0.00", "0.00", "0.80", -1, "J10", 1, "J4"],
            ["Paint", 3, "5.67", "6.00", "6.00", 5, "J1", 6, "J2"],
        ])
    );
    // J2 and J3 are a day after the promise.
    assert_eq!(
        tables[1]["rows"],
        json!([["Engine", 2, 0, "100.0", null, null], ["Paint", 1, 2, "33.3", "1.00", 1]])
    );
    // J5 runs for 4 working days, J6 for 5: it ends the day after, and its promise is that of the day.
    assert_eq!(tables[2]["rows"], json!([["Engine", 2, 0, 5, "J6"], ["Paint", 0, 0, null, null]]));
    assert_eq!(tables[2]["total"], json!(["Total", 2, 0, 5, "J6"]));
    let counts: Vec<&Value> =
        report["proof"][0]["parts"].as_array().unwrap().iter().map(|part| &part["value"]).collect();
    assert_eq!(counts, [5, 2, 1, 1, 1]);
    assert_eq!(
        report["notes"],
        json!([
            "1 job ends before it starts",
            "1 row has no start",
            "1 row has an end that could not be read"
        ])
    );
}

#[test]
fn a_turnaround_as_it_is_shown() {
    let by_month = PLAN
        .replace("\"Work\"", "[{ period = \"month\", of = \"Ashore\" }, \"Work\"]\npercentiles = [75, 90]");
    let early = JOBS.replace("J1,Paint,2026-09-01", "J1,Paint,2026-06-15");
    let answer = desk(&by_month, &early).run_plan();
    assert_eq!(answer.code, 0, "{}", answer.err);
    let shown: Vec<&str> = answer.out.lines().take_while(|line| !line.starts_with("Exceptions")).collect();
    assert_snapshot!(shown.join("\n"));
}

#[test]
fn days_that_the_calendar_does_not_know_are_not_counted() {
    let report = desk(PLAN, "Job,Work,Ashore,Afloat\nJ1,Paint,2025-12-29,2026-01-02\n").report();
    assert_eq!(report["tables"][0]["rows"], json!([["Paint", 1, null, null, null, null, null, null, null]]));
    assert_eq!(
        report["notes"],
        json!([
            "1 finished job took a time that could not be counted",
            "1 job has no day that could be promised"
        ])
    );
}

#[test]
fn mistakes_are_told() {
    for (name, from, to) in [
        ("a_turnaround_of_one_date", "[\"Ashore\", \"Afloat\"]", "[\"Ashore\"]"),
        ("a_turnaround_of_texts", "[\"Ashore\", \"Afloat\"]", "[\"Ashore\", \"Work\"]"),
        ("a_promise_of_hours", "\"5 working days\"", "\"14h\""),
        ("a_promise_that_lies_before", "\"5 working days\"", "\"-5 days\""),
        (
            "a_turnaround_in_parts",
            "count   = \"working days\"\nends    = \"last\"",
            "count = \"years, months and days\"",
        ),
        ("no_such_percentile", "by      = \"Work\"", "percentiles = [101]"),
    ] {
        let answer = desk(&PLAN.replace(from, to), JOBS).run_plan();
        assert_eq!(answer.code, 2, "{name}: {}", answer.out);
        assert_snapshot!(name, answer.err);
    }
}

proptest! {
    #![proptest_config(ProptestConfig { cases: 24, ..ProptestConfig::default() })]

    /// Against a walk over the days of each job.
    #[test]
    fn jobs_are_those_of_a_walk_over_the_days(
        jobs in prop::collection::vec((0..3_usize, 1..31_u32, prop::option::of(0..12_u32)), 1..30),
        promise in 0..8_u32,
    ) {
        let works = ["Paint", "Engine", "Keel"];
        let mut text = String::from("Job,Work,Ashore,Afloat\n");
        // Days of September 2026 by their numbers; 1 is a Tuesday.
        let is_working = |day: u32| !matches!((day + 1) % 7, 6 | 0) && day != 25;
        // Finished, late, running, running late by work.
        let mut by_hand: BTreeMap<&str, [u64; 4]> = BTreeMap::new();
        for (nth, (work, start, long)) in jobs.iter().enumerate() {
            let end = long.map(|long| start + long);
            let written = |day: u32| if day <= 30 { format!("2026-09-{day:02}") } else { format!("2026-10-{:02}", day - 30) };
            text.push_str(&format!("N{nth:02},{},{},{}\n", works[*work], written(*start), end.map_or("-".to_owned(), written)));
            let until = end.filter(|end| *end <= 30);
            // The promised day is that on which a number of working days have passed; none to pass end on the first day that is one.
            let mut promised = *start;
            let mut passed = 0;
            while passed < promise || !is_working(promised) {
                promised += 1;
                passed += u32::from(is_working(promised));
            }
            let is_late = until.unwrap_or(30) > promised;
            let counts = by_hand.entry(works[*work]).or_default();
            match until {
                Some(_) => { counts[0] += 1; counts[1] += u64::from(is_late); }
                None => { counts[2] += 1; counts[3] += u64::from(is_late); }
            }
        }
        let desk = desk(&PLAN.replace("\"5 working days\"", &format!("\"{promise} working days\"")), &text);
        let answer = desk.mild(&["run", "plan.toml", "--json"]);
        prop_assert_eq!(answer.code, 0, "{}", answer.err);
        let report = answer.json()["reports"][0].clone();
        let cell = |table: usize, row: usize, column: usize| report["tables"][table]["rows"][row][column].as_u64().unwrap();
        let rows = report["tables"][0]["rows"].as_array().unwrap().len();
        let counted: BTreeMap<String, [u64; 4]> = (0..rows)
            .map(|row| {
                let name = report["tables"][0]["rows"][row][0].as_str().unwrap().to_owned();
                (name, [cell(0, row, 1), cell(1, row, 2), cell(2, row, 1), cell(2, row, 2)])
            })
            .collect();
        let by_hand: BTreeMap<String, [u64; 4]> = by_hand.into_iter().map(|(work, counts)| (work.to_owned(), counts)).collect();
        prop_assert_eq!(counted, by_hand);
    }
}

#[test]
fn a_turnaround_without_ends_is_that_of_the_quick_command_and_states_them() {
    let plan = PLAN.replace("ends    = \"last\"\n", "");
    let (named, unnamed) = (desk(PLAN, JOBS), desk(&plan, JOBS));
    assert_eq!(named.report()["tables"], unnamed.report()["tables"]);
    let quick = "turnaround jobs.csv --start Ashore --end Afloat --count \"working days\" --calendar yard.toml --by Work --as-of 2026-09-30 --key Job --duplicates first --date-pattern Ashore=iso --date-pattern Afloat=iso --json";
    let desk = desk(&plan.replace("promise = \"5 working days\"\n", ""), &JOBS.replace(",-\n", ",\n"));
    desk.write("yard.toml", "calendar = 1\nname = \"yard\"\ncovers = \"2026\"\n\n[[holiday]]\nname = \"Closed\"\ndate = 2026-09-25\n");
    let words: Vec<String> = quick
        .split('"')
        .enumerate()
        .flat_map(|(nth, part)| match nth % 2 {
            0 => part.split_whitespace().map(str::to_owned).collect::<Vec<_>>(),
            _ => vec![part.to_owned()],
        })
        .collect();
    let answer = desk.mild(&words.iter().map(String::as_str).collect::<Vec<_>>());
    let quick = answer.json();
    assert_eq!(quick["reports"][0]["tables"][0]["rows"], desk.report()["tables"][0]["rows"]);
    // The heading names the ends.
    let run = desk.mild(&["run", "plan.toml", "--overwrite"]);
    assert!(run.out.contains("Working days from Ashore to Afloat (start not counted)"), "{}", run.out);
}

#[test]
fn an_as_of_with_a_time_divides_jobs_by_their_hours() {
    let desk = Desk::new();
    desk.write(
        "jobs.csv",
        "Job,Begun,Done\nA,2026-09-30T08:00,2026-09-30T09:30\nB,2026-09-30T13:00,\nC,2026-09-30T09:00,2026-09-30T16:00\nD,2026-09-30T10:00,2026-09-30T10:00\n",
    );
    let plan = r#"plan = 1
as_of = 2026-09-30T10:00:00
[records]
file = "jobs.csv"
key = "Job"
[records.dates]
Begun = { pattern = "iso", time = "keep" }
Done = { pattern = "iso", time = "keep", required = false }
[[report]]
kind = "turnaround"
between = ["Begun", "Done"]
count = "complete hours"
[output]
rows = "rows.csv"
"#;
    desk.write("plan.toml", plan);
    // At 10:00, A and D have ended, C runs for an hour, and B has not begun.
    let report = desk.report();
    let proof: Vec<&Value> =
        report["proof"][0]["parts"].as_array().unwrap().iter().map(|part| &part["value"]).collect();
    assert_eq!(proof, [&json!(2), &json!(1), &json!(1), &json!(0), &json!(0)]);
    assert_eq!(report["tables"][1]["rows"], json!([["all", 1, 1, "C"]]));
    // Days go by dates alone, as if there were no times.
    desk.write("plan.toml", plan.replace("\"complete hours\"", "\"days\""));
    let report = desk.report();
    let proof: Vec<&Value> =
        report["proof"][0]["parts"].as_array().unwrap().iter().map(|part| &part["value"]).collect();
    assert_eq!(proof, [&json!(3), &json!(1), &json!(0), &json!(0), &json!(0)]);
}

#[test]
fn jobs_in_working_hours_may_be_promised_in_working_days() {
    let desk = Desk::new();
    desk.write(
        "jobs.csv",
        "Job,Begun,Done\nA,2026-09-28T08:00,2026-09-29T16:00\nB,2026-09-25T13:00,2026-09-29T09:00\n",
    );
    desk.write(
        "yard.toml",
        "calendar = 1\nname = \"yard\"\ncovers = \"2026\"\n\n[hours]\neach_day = [\"07:30 to 11:30\", \"12:15 to 16:15\"]\n",
    );
    desk.write(
        "plan.toml",
        r#"plan = 1
as_of = 2026-09-30T17:00:00
[records]
file = "jobs.csv"
key = "Job"
[records.dates]
Begun = { pattern = "iso", time = "keep" }
Done = { pattern = "iso", time = "keep" }
[calendar.yard]
holidays = ["yard.toml"]
[[report]]
kind = "turnaround"
between = ["Begun", "Done"]
count = "working hours"
promise = "1 working day"
[output]
rows = "rows.csv"
"#,
    );
    // A, begun on a Monday, is promised for Tuesday and done then; B, begun on a Friday, for Monday, and is a day late.
    let report = desk.report();
    assert_eq!(report["tables"][1]["rows"][0][1], json!(1), "{report}");
    assert_eq!(report["tables"][1]["rows"][0][2], json!(1), "{report}");
}
