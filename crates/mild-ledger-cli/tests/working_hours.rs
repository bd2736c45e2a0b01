//! Working hours by the opening hours of a calendar file: in plans, turnarounds and `mild between`.

#![allow(clippy::unwrap_used, clippy::expect_used)] // a test fails by panicking

mod support;

use insta::assert_snapshot;
use serde_json::json;
use support::Desk;

const YARD: &str = r#"calendar  = 1
name      = "Yard"
covers    = "2026"
rest_days = ["saturday", "sunday"]

[hours]
each_day = ["08:00 to 12:00", "13:00 to 17:00"]
friday   = "08:00 to 14:00"

[[holiday]]
name = "Slip repair"
date = 2026-05-25

[[working]]
date = 2026-05-30
"#;

const PLAN: &str = r#"plan  = 1
title = "Hoists"
as_of = 2026-06-01T10:00

[records]
file    = "hoists.csv"
key     = "Hoist"
duplicates = "set aside"

[records.dates]
Up   = { pattern = "iso", time = "keep" }
Down = { pattern = "iso", time = "keep" }

[calendar.yard]
holidays = ["yard.toml"]

[[column]]
name    = "Hours"
between = ["Up", "Down"]
count   = "working hours"

[[report]]
kind    = "turnaround"
between = ["Up", "Down"]
count   = "working hours"

[output]
rows       = "rows.csv"
exceptions = "exceptions.csv"
"#;

/// Over the weekend that is worked, the holiday and lunch; backwards; on a Sunday; out of the years; still up.
const HOISTS: &str = "Hoist,Up,Down
H1,2026-05-14T14:30,2026-06-01T10:00
H2,2026-05-22T13:15,2026-05-26T08:20
H3,2026-05-20T11:30,2026-05-20T13:10
H4,2026-05-20T13:10,2026-05-20T11:30
H5,2026-05-17T09:00,2026-05-17T15:00
H6,2026-12-31T16:00,2027-01-01T09:00
H7,2026-05-29T12:00,
";

fn desk(plan: &str, yard: &str) -> Desk {
    let desk = Desk::new();
    desk.write("plan.toml", plan);
    desk.write("yard.toml", yard);
    desk.write("hoists.csv", HOISTS);
    desk
}

#[test]
fn a_column_of_working_hours_and_its_working() {
    let desk = desk(PLAN, YARD);
    let answer = desk.run_plan();
    assert_eq!(answer.code, 0, "{}", answer.err);
    // H1: 2.5 + three Fridays of 6, seven other days of 8, a Saturday of 8, + 2. H2: 45 and 20 minutes. H3: half an hour and ten minutes.
    let rows = desk.read("rows.csv");
    let hours: Vec<&str> = rows.lines().skip(1).map(|line| line.rsplit(',').next().unwrap()).collect();
    assert_eq!(hours, ["86.50", "1.08", "0.67", "-0.67", "0.00", "", ""]);
    let why = desk.mild(&["run", "plan.toml", "--why", "--row", "H2"]);
    assert_snapshot!("the_working_of_working_hours", why.out);
    let exceptions = desk.read("exceptions.csv");
    assert!(
        exceptions.contains("2027-01-01 lies outside the years that the calendar \"\"Yard\"\" covers"),
        "{exceptions}"
    );
}

#[test]
fn a_turnaround_in_working_hours() {
    let answer = desk(PLAN, YARD).mild(&["run", "plan.toml", "--overwrite", "--json"]);
    assert_eq!(answer.code, 0, "{}", answer.err);
    let json = answer.json();
    let table = &json["reports"][0]["tables"][0];
    // Of 86.50, 1.08, 0.67, -0.67 and 0.00: the mean of the exact ones, 86.5 + 13 ÷ 12 over five; the middle one; 0.6 of the way from 13 ÷ 12 to 86.5.
    let row = ["17.52", "0.67", "52.33", "-0.67", "H4", "86.50", "H1"].map(|cell| json!(cell));
    assert_eq!(table["rows"][0].as_array().unwrap()[2..], row);
    assert_eq!(
        json["calendars"][0]["hours"],
        "Monday to Thursday 08:00 to 12:00 and 13:00 to 17:00, Friday 08:00 to 14:00"
    );
    assert_snapshot!("a_turnaround_in_working_hours", desk(PLAN, YARD).run_plan().out);
}

#[test]
fn between_two_times_by_a_calendar() {
    let desk = desk(PLAN, YARD);
    let between = |more: &[&str]| {
        let all =
            [&["between", "2026-05-22T13:15", "2026-05-26T08:20", "--calendar", "yard.toml"], more].concat();
        desk.mild(&all)
    };
    assert_eq!(between(&["--count", "working hours"]).out, "1.0833\n");
    let json = between(&["--json"]).json();
    assert_eq!(json["working_hours"][0]["hours"], "1.0833");
    assert_eq!(json["working_hours"][0]["microseconds"], 3_900_000_000_i64);
    assert_snapshot!("between_two_times_by_a_calendar", between(&["--why"]).out);
    let refused = between(&["--count", "complete hours"]);
    assert_eq!(refused.code, 2);
    assert_snapshot!("a_calendar_and_clock_hours", refused.err);
    let of_days = desk.mild(&["between", "2026-05-22T13:15", "2026-05-26T08:20", "--calendar", "france"]);
    assert_eq!(of_days.code, 2);
    assert_snapshot!("times_and_a_calendar_without_hours", of_days.err);
}

#[test]
fn mistakes_of_working_hours() {
    for (name, plan, yard) in [
        ("no_times_to_count_hours_between", PLAN.replace(", time = \"keep\" }\nDown", " }\nDown"), YARD.to_owned()),
        ("no_time_of_the_as_of_date", PLAN.replace("T10:00", ""), YARD.to_owned()),
        ("ends_of_working_hours", PLAN.replace("hours\"\n\n[[rep", "hours\"\nends = \"last\"\n\n[[rep"), YARD.to_owned()),
        ("a_calendar_without_hours", PLAN.to_owned(), YARD.replace("[hours]\neach_day = [\"08:00 to 12:00\", \"13:00 to 17:00\"]\nfriday   = \"08:00 to 14:00\"\n", "")),
        ("hours_that_overlap", PLAN.to_owned(), YARD.replace("13:00 to", "11:00 to")),
        ("hours_that_are_none", PLAN.to_owned(), YARD.replace("08:00 to 14:00", "8 to 2")),
        ("a_weekday_without_hours", PLAN.to_owned(), YARD.replace("each_day", "monday")),
        ("a_working_saturday_without_hours", PLAN.to_owned(), YARD.replace("friday ", "saturday = []\nfriday")),
        ("a_weekday_that_is_none", PLAN.to_owned(), YARD.replace("friday ", "firday ")),
    ] {
        let answer = desk(&plan, &yard).mild(&["check", "plan.toml"]);
        assert_eq!(answer.code, 2, "{name}: {}", answer.out);
        assert_snapshot!(name, answer.err);
    }
}
