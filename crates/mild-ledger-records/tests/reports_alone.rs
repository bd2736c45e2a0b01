//! Plans run for their reports: of the rows no more is written than what the proof reads back.

#![allow(clippy::unwrap_used)] // a test fails by panicking

use mild_ledger_records::{Plan, RunOutcome, RunRequest, Watch, run};
use std::fs;
use std::path::Path;
use std::sync::atomic::AtomicBool;

const RECORDS: &str = "Invoice,Customer,Issued,Currency,Amount\n\
    QB-1,Heron Charters,2026-07-01,EUR,10.50\nQB-2,,2026-08-15,USD,-3.00\n,Ferry Nine,2026-09-29,EUR,\n";

fn outcome(plan: &Plan) -> RunOutcome {
    let watch = Watch { interrupted: &AtomicBool::new(false), progress: &|_| {} };
    run(plan, &RunRequest::new(), watch).unwrap()
}

/// What a plan with these lines under `[records]` and these below finds with all of its rows and for its reports alone, and what rows the latter leaves.
fn both(folder: &Path, records: &str, report: &str) -> ([RunOutcome; 2], String) {
    let aside = folder.join("aside");
    fs::create_dir_all(&aside).unwrap();
    fs::write(folder.join("invoices.csv"), RECORDS).unwrap();
    let text = format!(
        "plan = 1\nas_of = 2026-09-30\n[records]\nfile = \"invoices.csv\"\n[records.dates]\nIssued = \"iso\"\n{records}\
         [[column]]\nname = \"Days\"\nbetween = [\"Issued\", \"as-of\"]\ncount = \"days\"\n{report}\
         [output]\nrows = \"rows.csv\"\norder_by = [\"Days, largest first\"]\n"
    );
    let plan = || Plan::of_text(&text, &folder.join("plan.toml")).unwrap();
    let outcomes = [outcome(&plan()), outcome(&plan().with_reports_alone(&aside))];
    (outcomes, fs::read_to_string(aside.join("rows.csv")).unwrap())
}

#[test]
fn amounts_and_their_currencies_are_written_and_proved() {
    let folder = tempfile::tempdir().unwrap();
    let amounts = "[records.amounts]\nAmount = { decimals = 2, currency = \"Currency\" }\n";
    let report =
        "[[report]]\nkind = \"summary\"\nby = [\"Customer\"]\nshow = [\"count\", { mean = \"Days\" }]\n";
    let ([whole, alone], rows) = both(folder.path(), amounts, report);
    // In the order of the file, since no one looks at them; the last has no amount, and is set aside.
    assert_eq!(rows, "Currency,Amount\nEUR,10.50\nUSD,-3.00\n");
    assert_eq!((&alone.rows, &alone.amounts), (&whole.rows, &whole.amounts));
    assert_eq!(format!("{:?}", alone.reports), format!("{:?}", whole.reports));
}

#[test]
fn rows_without_amounts_are_counted_by_their_first_column() {
    let folder = tempfile::tempdir().unwrap();
    let report = "[[report]]\nkind = \"distribution\"\nof = \"Days\"\n";
    let ([whole, alone], rows) = both(folder.path(), "", report);
    assert_eq!(rows, "Invoice\nQB-1\nQB-2\n\"\"\n");
    assert_eq!(alone.rows, whole.rows);
    assert_eq!(format!("{:?}", alone.reports), format!("{:?}", whole.reports));
}
