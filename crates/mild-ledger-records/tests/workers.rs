//! What a run finds and writes does not depend on how many work on it, nor on how its rows fall into batches.

#![allow(clippy::unwrap_used)] // a test fails by panicking

mod support;

use mild_ledger_records::{Plan, ReadSoFar, Watch, run_and_draw};
use std::fmt::Write as _;
use std::fs;
use std::path::Path;
use std::sync::atomic::AtomicBool;
use support::{by_workers, run_with};

const PLAN: &str = r#"plan = 1
as_of = 2026-09-30
[records]
file = "records.csv"
key = "Key"
duplicates = "set aside"
[records.dates]
Issued = "day/month/year"
[records.amounts]
Amount = { decimals = 2 }
[calendar.yard]
holidays = ["yard.toml"]
[[column]]
name = "Days"
between = ["Issued", "as-of"]
count = "days"
[[column]]
name = "Band"
bucket = "Days"
edges = [0, 30, 60]
[[column]]
name = "Due"
from = "Issued"
shift = "20 days"
[[select]]
column = "Amount"
over = -300
[[report]]
kind = "aging"
band = "Band"
amount = "Amount"
by = "Customer"
[[report]]
kind = "summary"
by = [{ period = "month", of = "Issued" }, "Customer"]
show = ["count", { sum = "Amount" }, { mean = "Days" }, { smallest = "Issued" }, { largest = "Amount" }, { blanks = "Issued" }]
[[report]]
kind = "movement"
since = 2026-06-30
band = "Band"
amount = "Amount"
issued = "Issued"
paid = "Due"
[[report]]
kind = "measures"
since = "end of last quarter"
band = "Band"
amount = "Amount"
issued = "Issued"
due = "Issued"
paid = "Due"
loss_rates = [1, 2, 3, 4]
[[report]]
kind = "aging"
at = "last 3 month ends"
band = "Band"
amount = "Amount"
issued = "Issued"
by = [{ period = "quarter", of = "Issued" }, "Customer"]
credits = { off_oldest_debt_of = "Customer" }
[[report]]
kind = "distribution"
of = "Amount"
[[report]]
kind = "target"
amount = "Amount"
of = "Issued"
within = "this year"
planned = 100000
[[report]]
kind = "turnaround"
between = ["Issued", "Due"]
count = "working days"
promise = "14 working days"
by = ["Customer", "Band"]
[[report]]
kind = "allocation"
amount = "Amount"
from = "Issued"
to = "Due"
over = "working days"
by = "Customer"
[[report]]
kind = "tenure"
start = "Issued"
left = "Due"
count = "days"
by = "Customer"
[output]
rows = "rows.csv"
exceptions = "exceptions.csv"
report = "report.md"
"#;

/// Its days are by rule from 2026 on.
const YARD: &str = r#"calendar = 1
name = "Yard"
covers = "2025 to 2027"
proclaimed_to = 2025
rest_days = ["saturday", "sunday"]
[[holiday]]
name = "Yard Supper"
day = 25
month = "march"
"#;

/// Writes a plan, its calendar and its records.
fn lay(folder: &Path, records: &str, plan: &str) {
    for (name, text) in [("records.csv", records), ("yard.toml", YARD), ("plan.toml", plan)] {
        fs::write(folder.join(name), text).unwrap();
    }
}

const ROWS: usize = 7000;

/// Rows of some twelve batches: a cell of each is long, keys repeat far apart, and one in fifty is faulty.
fn records() -> String {
    let long = "spare line, ".repeat(150);
    let mut text = String::from("Key,Customer,Issued,Amount,Remark\n");
    for row in 0..ROWS {
        let key = if row % 900 == 899 { row - 450 } else { row };
        let customer = ["Heron Charters", "Cordage & Co.", "Ferry Nine", " Ferry Nine"][row % 4];
        let issued = match row % 50 {
            13 => String::new(),
            29 => "31/06/2026".to_owned(),
            _ => format!("{:02}/{:02}/2026", row % 28 + 1, row % 9 + 1),
        };
        let sign = if row % 7 == 3 { "-" } else { "" };
        let amount =
            if row % 50 == 43 { "much".to_owned() } else { format!("{sign}{}.{:02}", row % 977, row % 100) };
        writeln!(text, "K{key},{customer},{issued},{amount},\"{long}\"").unwrap();
    }
    text
}

/// All that a run of a plan with so many workers shows and leaves.
fn left_by(folder: &Path, workers: usize) -> (String, Vec<Vec<u8>>) {
    let outcome = run_with(folder, &by_workers(workers)).unwrap();
    assert_eq!(outcome.rows.read, ROWS as u64);
    assert!(outcome.rows.set_aside > 0 && outcome.rows.not_selected > 0 && outcome.duplicates.is_some());
    for figures in &outcome.figures {
        let counted = figures.negative + figures.zero + figures.positive + figures.empty;
        assert_eq!(counted, outcome.rows.written, "{}", figures.column);
    }
    assert_eq!(
        outcome.dates[0].tally.read,
        outcome.rows.read - ROWS as u64 / 25,
        "one in fifty is blank, one unreadable"
    );
    let files = ["rows.csv", "exceptions.csv", "report.md", "plan.receipt.toml"];
    let shown = format!("{outcome:#?}");
    for said in ["The figures of", "The parts of"] {
        assert!(shown.contains(&format!("\"{said} ")), "nothing is said of days that are by rule: {said}");
    }
    (shown, files.map(|name| fs::read(folder.join(name)).unwrap()).into())
}

#[test]
fn any_number_of_workers_leaves_the_same() {
    for order in ["", "order_by = [\"Customer\", \"Amount, largest first\"]\n"] {
        let folder = tempfile::tempdir().unwrap();
        lay(folder.path(), &records(), &format!("{PLAN}{order}"));
        let alone = left_by(folder.path(), 1);
        for workers in [2, 3, 8, 16] {
            let together = left_by(folder.path(), workers);
            assert!(alone.1 == together.1, "the files of {workers} workers differ from those of one");
            assert_eq!(alone.0, together.0, "{workers} workers");
        }
    }
}

#[test]
fn the_first_of_several_faults_is_told() {
    let folder = tempfile::tempdir().unwrap();
    lay(folder.path(), &format!("{}K,Ferry Nine,01/02/2026,1.00,\"open", records()), PLAN);
    let told =
        [1, 2, 8].map(|workers| run_with(folder.path(), &by_workers(workers)).unwrap_err().to_string());
    let mut told: Vec<String> = told.into();
    told.dedup();
    assert_eq!(told.len(), 1, "{told:?}");
    assert!(told[0].contains("never closed"), "{told:?}");
    let mut names: Vec<_> =
        fs::read_dir(folder.path()).unwrap().map(|entry| entry.unwrap().file_name()).collect();
    names.sort();
    assert_eq!(names, ["plan.toml", "records.csv", "yard.toml"], "nothing is left");
}

#[test]
fn a_run_that_is_stopped_ends_and_leaves_nothing() {
    let folder = tempfile::tempdir().unwrap();
    lay(folder.path(), &records(), PLAN);
    let plan = Plan::read(&folder.path().join("plan.toml")).unwrap();
    for workers in [1, 3] {
        let interrupted = AtomicBool::new(false);
        // Stopped once some batches were taken.
        let stop = |read: ReadSoFar| {
            if read.bytes > read.of_bytes / 3 {
                interrupted.store(true, std::sync::atomic::Ordering::Relaxed);
            }
        };
        let watch = Watch { interrupted: &interrupted, progress: &stop };
        let error = run_and_draw(&plan, &by_workers(workers), watch, &|_, _| Ok(Vec::new())).unwrap_err();
        assert!(matches!(error, mild_ledger_records::RecordsError::Interrupted), "{error}");
        assert_eq!(fs::read_dir(folder.path()).unwrap().count(), 3);
    }
}
