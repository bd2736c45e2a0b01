//! The display of a report with more groups than a person reads, and of one without groups.

#![allow(clippy::unwrap_used)] // a test fails by panicking

use mild_ledger_records::{Plan, RunRequest, Watch, run};
use mild_ledger_report::json;
use mild_ledger_report::terminal::{self, Width};
use std::fmt::Write;
use std::sync::atomic::AtomicBool;

/// The text and the object of an aging of invoices, each of a customer of its own, of 10.00, 20.00 and so on.
fn shown(customers: u32, by: &str) -> (String, serde_json::Value) {
    let folder = tempfile::tempdir().unwrap();
    let mut records = String::from("Customer,Issued,Amount\n");
    for customer in 1..=customers {
        writeln!(records, "Slip {customer},2026-09-01,{customer}0.00").unwrap();
    }
    std::fs::write(folder.path().join("records.csv"), records).unwrap();
    let plan = format!(
        "plan = 1\nas_of = 2026-09-30\n[records]\nfile = \"records.csv\"\n[records.dates]\nIssued = \"iso\"\n\
         [records.amounts]\nAmount = {{ decimals = 2 }}\n[[column]]\nname = \"Days\"\nbetween = [\"Issued\", \"as-of\"]\n\
         count = \"days\"\n[[column]]\nname = \"Band\"\nbucket = \"Days\"\nedges = [0, 30]\n[[report]]\nkind = \"aging\"\n\
         band = \"Band\"\namount = \"Amount\"\n{by}[output]\nrows = \"rows.csv\"\nexceptions = \"exceptions.csv\"\n"
    );
    let plan = Plan::of_text(&plan, &folder.path().join("plan.toml")).unwrap();
    let watch = Watch { interrupted: &AtomicBool::new(false), progress: &|_| {} };
    let outcome = run(&plan, &RunRequest::new(), watch).unwrap();
    let object = serde_json::from_str(&json::run(&outcome)).unwrap();
    (terminal::run(&outcome, terminal::RunDetail::Full, Width::Unlimited), object)
}

/// The words of the line that begins so.
fn words<'t>(text: &'t str, beginning: &str) -> Vec<&'t str> {
    text.lines().find(|line| line.starts_with(beginning)).unwrap().split_whitespace().collect()
}

#[test]
fn the_groups_that_are_not_shown_stand_together() {
    let (text, object) = shown(53, "by = \"Customer\"\n");
    // 10 + 20 + 30 of 10 + 20 + … + 530 = 14,310: 0.4 per cent.
    let rest = ["…", "and", "3", "more", "–", "60.00", "–", "–", "–", "60.00", "0.4", "%"];
    assert_eq!(words(&text, "… and"), rest);
    assert_eq!(words(&text, "Slip 4 ")[6..], ["–", "40.00", "0.3", "%"]);
    assert!(!text.contains("Slip 3 "), "{text}");
    assert_eq!(words(&text, "Total ")[2], "14,310.00");
    // A program is given all of them.
    let table = &object["reports"][0]["tables"][0];
    assert_eq!(table["rows"].as_array().unwrap().len(), 53);
    assert_eq!(table["shares"]["rows"][52], "0.1");
    let (text, _) = shown(50, "by = \"Customer\"\n");
    assert!(!text.contains("… and"), "{text}");
}

#[test]
fn a_report_without_groups_is_its_total() {
    let (text, object) = shown(2, "");
    let (_, table) = text.split_once("Aging: open Amount, in buckets of Band\n\n").unwrap();
    let lines: Vec<&str> = table.lines().take(5).map(str::trim).collect();
    assert_eq!(lines[0].split("  ").next(), Some("Not yet due"));
    assert_eq!(words(table, "Total "), ["Total", "–", "30.00", "–", "–", "–", "30.00", "100.0", "%"]);
    assert_eq!(words(table, "Rows "), ["Rows", "0", "2", "0", "0", "0", "2"]);
    assert_eq!(text.lines().filter(|line| line.starts_with("Total ")).count(), 1, "{text}");
    let report = &object["reports"][0];
    assert_eq!(report["rows"][0]["by"], serde_json::Value::Null);
    assert_eq!(report["rows"][0]["total"], "30.00");
}
