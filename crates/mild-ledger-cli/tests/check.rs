//! What a plan would do, without doing it.

#![allow(clippy::unwrap_used, clippy::expect_used)] // a test fails by panicking

mod support;

use insta::assert_snapshot;
use serde_json::json;
use support::{Desk, PLAN, RECORDS};

#[test]
fn the_demo_is_checked_and_nothing_is_written() {
    let desk = Desk::new();
    desk.mild(&["demo", "."]);
    let before = desk.files();
    let answer = desk.mild(&["check", "receivables.toml"]);
    assert_eq!((answer.code, desk.files()), (0, before));
    assert_snapshot!("the_demo_checked", answer.out);
}

#[test]
fn what_is_wrong_is_told_as_a_run_would_tell_it() {
    let swapped = "Invoice,Customer,Issued,Paid,Amount\nA1,x,01/31/2026,,1.00\nA2,x,02/28/2026,,2.00\nA3,x,03/30/2026,,3.00\nA4,x,05/06/2026,,x\n";
    let desk = Desk::with_records(swapped);
    let json = desk.mild(&["check", "plan.toml", "--json"]).json();
    assert_eq!(
        json["doubts"],
        json!([
            "1 of 4 rows were set aside (unreadable amount 1)",
            "3 of 4 values of Issued could not be read as day/month/year; all 4 can as month/day/year"
        ])
    );
    assert_eq!((&json["rows"], &json["more_rows"]), (&json!(4), &json!(false)));
    let reasons: Vec<&str> = json["exceptions"]
        .as_array()
        .unwrap()
        .iter()
        .map(|group| group["reason"].as_str().unwrap())
        .collect();
    assert_eq!(reasons, ["unreadable amount", "unreadable date"]);
    // Days that no calendar covers, found before a report is due.
    let calendar = "[calendar.yard]\ncovers = \"2026\"\nholidays = [2026-07-03]\n[[column]]\nname = \"Wait\"\nbetween = [\"Issued\", \"as-of\"]\ncount = \"working days\"\ncalendar = \"yard\"\n[[report]]";
    let desk = Desk::with_plan("[[report]]", calendar);
    desk.write("records.csv", RECORDS.replace("31/08/2026", "31/08/2024"));
    let json = desk.mild(&["check", "plan.toml", "--json"]).json();
    assert_eq!(
        json["calendars"],
        json!([{ "name": "yard", "covers": "2026", "rest_days": "Saturday, Sunday", "holidays": 1 }])
    );
    assert!(json["exceptions"][0]["examples"][0].as_str().unwrap().contains("2024"), "{json:#}");
    assert_eq!(desk.files(), ["plan.toml", "records.csv"]);
}

#[test]
fn a_long_file_is_looked_at_from_its_beginning() {
    let rows: String = (0..12_345).map(|nth| format!("A{nth},x,30/09/2026,,1.00\n")).collect();
    let desk = Desk::with_records(format!("Invoice,Customer,Issued,Paid,Amount\n{rows}"));
    let json = desk.mild(&["check", "plan.toml", "--json"]).json();
    assert_eq!((&json["rows"], &json["more_rows"]), (&json!(10_000), &json!(true)));
    assert_eq!(
        json["answer"],
        "the plan fits its records; the first 10,000 rows were looked at and nothing was wrong; the rows after them were not, so keys that repeat there, the last row and the control totals are not examined; nothing was written"
    );
}

#[test]
fn a_plan_with_mistakes_is_refused_as_a_run_refuses_it() {
    let desk = Desk::with_plan("between = [\"Issued\"", "between = [\"Isued\"");
    let (checked, run) = (desk.mild(&["check", "plan.toml"]), desk.run_plan());
    assert_eq!((checked.code, &checked.err), (run.code, &run.err));
    assert!(checked.err.contains("nearest: \"Issued\""), "{}", checked.err);
    let desk = Desk::with_records(RECORDS);
    desk.write("plan.toml", PLAN.replace("rows.csv", "records.csv"));
    assert!(desk.mild(&["check", "plan.toml"]).err.contains("this output is the records file"));
}

#[test]
fn what_a_strict_run_would_miss_is_never_nothing() {
    // A repeated key that is set aside, a total row, and a row of four that is set aside.
    for records in [
        RECORDS.replace("A2,", "A1,"),
        format!("{RECORDS}Total,,,,230.00\n"),
        RECORDS.replace(",9.75", ",soon"),
    ] {
        let desk = Desk::with_records(&records);
        let json = desk.mild(&["check", "plan.toml", "--json"]).json();
        let answer = json["answer"].as_str().unwrap();
        assert!(answer.contains(" noticed") && !answer.contains("nothing was wrong"), "{answer}");
    }
}
