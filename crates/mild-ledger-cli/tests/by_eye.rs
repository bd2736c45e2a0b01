//! What a run shows of the columns that it adds, so that a person can check them by eye.

#![allow(clippy::unwrap_used, clippy::expect_used)] // a test fails by panicking

mod support;

use serde_json::{Value, json};
use support::{Desk, PLAN};

/// Invoices issued on the days from 1 January 2024 on, each a number of days apart; the tenth has no date.
fn desk(days_apart: i64) -> (Desk, Vec<i64>) {
    let as_of: mild_ledger::Date = "2026-09-30".parse().unwrap();
    let first: mild_ledger::Date = "2024-01-01".parse().unwrap();
    let mut records = "Invoice,Customer,Issued,Paid,Amount\n".to_owned();
    let mut figures = Vec::new();
    for nth in 0..200_i64 {
        let issued = first.day_number() + i32::try_from(nth * days_apart % 1_200).unwrap();
        let date = mild_ledger::Date::from_day_number(issued).unwrap();
        let (year, month, day) = (date.year(), date.month(), date.day());
        let issued = if nth == 9 { String::new() } else { format!("{day:02}/{month:02}/{year}") };
        if nth != 9 {
            figures.push(i64::from(as_of.day_number() - date.day_number()));
        }
        records.push_str(&format!("A{nth},Heron Charters,{issued},,1.00\n"));
    }
    let desk = Desk::with_records(records);
    desk.write(
        "plan.toml",
        PLAN.replace(
            "[[report]]",
            "[[column]]\nname = \"Due\"\nfrom = \"Issued\"\nshift = \"30 days\"\n[[report]]",
        ),
    );
    (desk, figures)
}

fn column<'j>(json: &'j Value, name: &str) -> &'j Value {
    json["added"].as_array().unwrap().iter().find(|column| column["column"] == name).unwrap()
}

#[test]
fn ends_middle_and_mean_are_those_of_the_figures() {
    let (desk, mut figures) = desk(37);
    let json = desk.mild(&["run", "plan.toml", "--json"]).json();
    figures.sort_unstable();
    let days = column(&json, "Days");
    assert_eq!((&days["filled"], &days["empty"]), (&json!(199), &json!(1)));
    assert_eq!(days["smallest"]["value"], figures[0].to_string());
    assert_eq!(days["largest"]["value"], figures[198].to_string());
    assert_eq!(days["median"], figures[99].to_string());
    let sum: i64 = figures.iter().sum();
    let hundredths = (sum * 100 * 2 + 199) / (2 * 199);
    assert_eq!(days["mean"], format!("{}.{:02}", hundredths / 100, hundredths % 100));
    // The inputs are next to the value, so that it can be counted off.
    let smallest = &days["smallest"];
    assert_eq!(smallest["inputs"][0]["column"], "Issued");
    let issued: mild_ledger::Date = smallest["inputs"][0]["value"].as_str().unwrap().parse().unwrap();
    assert_eq!(
        i64::from("2026-09-30".parse::<mild_ledger::Date>().unwrap().day_number() - issued.day_number()),
        figures[0]
    );
    let due = column(&json, "Due");
    assert_eq!((&due["mean"], &due["empty"]), (&Value::Null, &json!(1)));
    assert!(due["smallest"]["value"].as_str() < due["median"].as_str());
    // Labels are counted in the order of their edges, rows without a figure after them.
    let band = column(&json, "Band");
    let labels: Vec<&str> =
        band["values"].as_array().unwrap().iter().map(|value| value["value"].as_str().unwrap()).collect();
    assert_eq!(labels, ["Not yet due", "1–30", "31–60", "Over 60", "No date"]);
    let rows: u64 =
        band["values"].as_array().unwrap().iter().map(|value| value["rows"].as_u64().unwrap()).sum();
    assert_eq!(rows, 200);
    assert_eq!((&band["filled"], &band["empty"]), (&json!(199), &json!(1)));
}

#[test]
fn choices_that_say_nothing_are_empty() {
    let (desk, figures) = desk(37);
    let choice = "[[column]]\nname = \"Reminder\"\nwhen = [{ column = \"Days\", at_least = 600 }]\nthen = \"send\"\n[[report]]";
    desk.write("plan.toml", PLAN.replace("[[report]]", choice));
    let json = desk.mild(&["run", "plan.toml", "--json"]).json();
    let old = figures.iter().filter(|days| **days >= 600).count();
    let reminder = column(&json, "Reminder");
    assert_eq!((&reminder["filled"], &reminder["empty"]), (&json!(old), &json!(200 - old)));
    assert_eq!(reminder["values"], json!([{ "value": "send", "rows": old }]));
}

#[test]
fn the_middle_of_two_figures_is_their_mean() {
    let desk = Desk::with_records(
        "Invoice,Customer,Issued,Paid,Amount\nA,x,29/09/2026,,1.00\nB,x,20/09/2026,,1.00\n",
    );
    let json = desk.mild(&["run", "plan.toml", "--json"]).json();
    // 1 and 10 days before the 30th.
    assert_eq!(
        (&column(&json, "Days")["median"], &column(&json, "Days")["mean"]),
        (&json!("5.5"), &json!("5.50"))
    );
    assert!(
        desk.mild(&["run", "plan.toml", "--overwrite", "--details"])
            .out
            .contains("Days 10, B, row 2 (line 3): Issued 2026-09-20")
    );
}

#[test]
fn a_sample_has_edge_cases_first() {
    let (desk, _) = desk(30);
    desk.write(
        "records.csv",
        "Invoice,Customer,Issued,Paid,Amount\nA1,x,15/09/2026,,1.00\nA2,x,16/09/2026,,1.00\nA3,x,29/02/2024,,1.00\n\
         A4,x,30/09/2026,,1.00\nA5,x,01/10/2026,,1.00\nA6,x,,,1.00\nA7,x,31/08/2026,,1.00\nA8,x,19/09/2026,,1.00\nA9,x,14/09/2026,,1.00\n",
    );
    let json = desk.mild(&["run", "plan.toml", "--json", "--sample", "8"]).json();
    let rows = json["sample"]["rows"].as_array().unwrap();
    let chosen: Vec<(&str, &str)> = rows
        .iter()
        .map(|row| (row["cells"][0].as_str().unwrap(), row["chosen_for"].as_str().unwrap()))
        .collect();
    assert_eq!(
        chosen,
        [
            ("A3", "29 February"),
            ("A5", "below zero"),
            ("A4", "zero"),
            ("A6", "empty"),
            ("A7", "month end"),
            ("A8", "rest day"),
            ("A1", "any"),
            ("A2", "any"),
        ]
    );
    assert_eq!(json["sample"]["columns"], json!(["Invoice", "Issued", "Days", "Band", "Due"]));
    let plain = desk.mild(&["run", "plan.toml", "--json"]).json();
    assert!(plain.get("sample").is_none());
    assert_eq!(desk.mild(&["run", "plan.toml", "--sample", "201"]).code, 2);
}
