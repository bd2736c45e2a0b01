//! `mild run PLAN --why --row KEY`: how each cell of one row comes about.

#![allow(clippy::unwrap_used, clippy::expect_used)] // a test fails by panicking

mod support;

use insta::assert_snapshot;
use support::{Desk, RECORDS};

const PLAN: &str = r#"plan = 1
title = "Jobs"
as_of = 2026-09-30
[records]
file = "jobs.csv"
key = "Job"
[records.dates]
Began = "day/month/year"
Ended = "day/month/year"
Born = "iso"
[records.amounts]
Amount = { decimals = 2 }
[[join]]
file = "rates.csv"
match = { Work = "Name" }
columns = ["Rate"]
[join.numbers]
Rate = { decimals = 2 }
[calendar.yard]
rest_days = ["saturday", "sunday"]
covers = "2026"
holidays = [2026-08-31]
[[column]]
name = "Days"
between = ["Began", "Ended"]
count = "days"
[[column]]
name = "Working days"
between = ["Began", "Ended"]
count = "working days"
[[column]]
name = "Promised"
from = "Began"
shift = "1 month 2 working days"
[[column]]
name = "Age"
age = "Born"
[[column]]
name = "Service"
tenure = ["Began", "Ended"]
count = "complete months"
[[column]]
name = "Band"
bucket = "Days"
edges = [0, 30]
[[column]]
name = "Charge"
product = ["Rate", "Days"]
[[column]]
name = "A day"
quotient = ["Amount", "Days"]
[[column]]
name = "A month"
rate = "Amount"
tenure = ["Began", "Ended"]
per = "month"
[[column]]
name = "Look"
when = [{ column = "Days", over = 30 }, { any = [{ column = "Work", is = "Refit" }, { column = "Ended", blank = true }] }]
then = "yes"
else = "no"
[[column]]
name = "Quarter"
period = "quarter"
of = "Began"
gives = "label"
[[bound]]
column = "Days"
at_most = 50
[[select]]
column = "Work"
is_not = "Paint"
[output]
rows = "rows.csv"
exceptions = "exceptions.csv"
"#;

fn desk() -> Desk {
    let desk = Desk::new();
    desk.write("plan.toml", PLAN);
    desk.write("rates.csv", "Name,Rate\nRefit,12.50\n");
    desk.write(
        "jobs.csv",
        "Job,Work,Began,Ended,Born,Amount\n\
         J1,Refit,01/08/2026,30/09/2026,2004-02-29,1000.00\n\
         J2,Paint,31/06/2026,30/09/2026,,1.00\n\
         J3,Refit,30/01/2026,28/02/2026,1990-05-05,x\n\
         J1,Hull,01/09/2026,,2030-01-01,5.00\n",
    );
    desk
}

#[test]
fn each_added_cell_shows_its_working() {
    let answer = desk().mild(&["run", "plan.toml", "--why", "--row", "J1"]);
    assert_snapshot!(answer.all());
}

#[test]
fn the_values_are_those_that_a_run_writes() {
    let desk = desk();
    let json = desk.mild(&["run", "plan.toml", "--why", "--row", " J1 ", "--json"]).json();
    assert_eq!(desk.files(), ["jobs.csv", "plan.toml", "rates.csv"]);
    assert_eq!(desk.run_plan().code, 0);
    let rows = desk.read("rows.csv");
    let written = rows.lines().nth(1).unwrap();
    let row = &json["rows"][0];
    let read = row["cells"].as_array().unwrap().iter().map(|cell| cell["read"].as_str().unwrap());
    let added = row["added"].as_array().unwrap().iter().map(|cell| cell["value"].as_str().unwrap());
    assert_eq!(read.chain(added).collect::<Vec<_>>().join(","), written);
    // The last of the steps gives the value.
    for cell in row["added"].as_array().unwrap() {
        let (value, steps) = (cell["value"].as_str().unwrap(), cell["steps"].as_array().unwrap());
        let Some(last) = steps.last().and_then(|step| step.as_str()) else { continue };
        let is_choice = cell["column"] == "Look";
        assert!(is_choice || last.contains(value), "{value} is not in {last}");
    }
    // 1 August is a Saturday: 21 weekdays in August less the holiday of the 31st is 20, and 22 in September.
    assert_eq!(row["added"][2]["working_days"].as_array().unwrap().len(), 42);
    assert_eq!(row["added"][2]["value"], "42");
}

#[test]
fn rows_that_are_not_written_say_what_becomes_of_them() {
    let of = |key: &str| {
        desk().mild(&["run", "plan.toml", "--why", "--row", key, "--json"]).json()["rows"][0].clone()
    };
    let paint = of("J2");
    assert_eq!(paint["becomes"], "not selected");
    assert_eq!(paint["cells"][2]["text"], "31/06/2026");
    assert_eq!(paint["cells"][2]["read"], "");
    assert_eq!(paint["added"][1]["empty_because"], "unreadable");
    let unreadable = of("J3");
    assert_eq!(unreadable["becomes"], "set aside");
    assert!(
        unreadable["remarks"][0].as_str().unwrap().starts_with("Amount: unreadable amount, row set aside")
    );
}

#[test]
fn a_row_that_is_not_there_is_an_error_and_a_plan_without_a_key_goes_by_numbers() {
    let answer = desk().mild(&["run", "plan.toml", "--why", "--row", "J9"]);
    assert_eq!(answer.code, 2);
    assert!(answer.err.contains("no row of jobs.csv has the Job \"J9\""), "{}", answer.err);
    let keyless = Desk::with_records(RECORDS);
    keyless
        .write("plan.toml", support::PLAN.replace("key     = \"Invoice\"\nduplicates = \"set aside\"\n", ""));
    let json = keyless.mild(&["run", "plan.toml", "--why", "--row", "2", "--json"]).json();
    assert_eq!(json["rows"][0]["cells"][0]["text"], "A2");
    let none = keyless.mild(&["run", "plan.toml", "--why", "--row", "A2"]);
    assert!(none.err.contains("\"A2\" is not the number of a row, and the plan has no key"), "{}", none.err);
    let half = keyless.mild(&["run", "plan.toml", "--row", "2"]);
    assert_eq!(half.code, 2);
}

#[test]
fn a_row_becomes_what_the_run_makes_of_it() {
    let records = "Invoice,Customer,Issued,Paid,Amount\nA1,Heron,01/09/2026,,1.00\nA1,Heron,02/09/2026,,2.00\nA1,Heron,03/09/2026,,3.00\nTotal,,,,6.00\n";
    for (duplicates, expected) in [
        ("set aside", ["written", "set aside", "set aside"]),
        ("keep", ["written", "written", "written"]),
        ("first", ["written", "merged", "merged"]),
        ("last", ["merged", "merged", "written"]),
        ("sum", ["written", "merged", "merged"]),
    ] {
        let desk = Desk::with_plan(
            "duplicates = \"set aside\"",
            &format!("duplicates = \"{duplicates}\"\ntotal_row = \"leave out\""),
        );
        desk.write("records.csv", records);
        let becomes = |key: &str| {
            let object = desk.mild(&["run", "plan.toml", "--why", "--row", key, "--json"]).json();
            let rows = object["rows"].as_array().unwrap().clone();
            rows.iter().map(|row| row["becomes"].as_str().unwrap().to_owned()).collect::<Vec<_>>()
        };
        assert_eq!(becomes("A1"), expected, "{duplicates}");
        assert_eq!(becomes("Total"), ["not selected"]);
        let run = desk.mild(&["run", "plan.toml", "--json"]).json();
        let written = expected.iter().filter(|becomes| **becomes == "written").count();
        assert_eq!(run["rows"]["written"], written, "{duplicates}");
    }
}
