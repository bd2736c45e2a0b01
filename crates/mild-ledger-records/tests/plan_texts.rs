//! A plan that is in no file is run as one in a file.

#![allow(clippy::unwrap_used)] // a test fails by panicking

use mild_ledger_records::{Plan, RecordsError, RunRequest, Watch, run};
use std::fs;
use std::path::Path;
use std::sync::atomic::AtomicBool;

const PLAN: &str = "plan = 1\nas_of = 2026-09-30\n[records]\nfile = \"jobs.csv\"\n[records.dates]\nDone = \"iso\"\n\
    [[column]]\nname = \"Days\"\nbetween = [\"Done\", \"as-of\"]\ncount = \"days\"\n\
    [output]\nrows = \"rows.csv\"\nexceptions = \"exceptions.csv\"\n";

/// What a run of a plan leaves in a folder.
fn left_by(plan: &Plan, folder: &Path) -> Vec<(String, String)> {
    let watch = Watch { interrupted: &AtomicBool::new(false), progress: &|_| {} };
    run(plan, &RunRequest::new(), watch).unwrap();
    let names = ["exceptions.csv", "month.receipt.toml", "rows.csv"];
    names.map(|name| (name.to_owned(), fs::read_to_string(folder.join(name)).unwrap())).into()
}

#[test]
fn a_plan_from_a_text_is_run_as_one_from_a_file() {
    let folders = [tempfile::tempdir().unwrap(), tempfile::tempdir().unwrap()];
    let [with_file, without] = folders.each_ref().map(|folder| folder.path());
    for folder in [with_file, without] {
        fs::write(folder.join("jobs.csv"), "Job,Done\nJ1,2026-09-01\nJ2,soon\n").unwrap();
    }
    fs::write(with_file.join("month.toml"), PLAN).unwrap();
    let from_file = left_by(&Plan::read(&with_file.join("month.toml")).unwrap(), with_file);
    let plan = Plan::of_text(PLAN, &without.join("month.toml")).unwrap();
    assert_eq!(left_by(&plan, without), from_file);
    assert!(from_file[2].1.contains("J1,2026-09-01,29\n"), "{from_file:?}");
    assert!(!without.join("month.toml").exists());
    let mistake = Plan::of_text("plan = 1\n[record]\n", &without.join("month.toml")).unwrap_err();
    assert!(matches!(mistake, RecordsError::Plan(_)), "{mistake}");
}
