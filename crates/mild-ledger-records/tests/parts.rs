//! A plan run in parts finds, writes and proves what it does as a whole.

#![allow(clippy::unwrap_used, clippy::panic)] // a test fails by panicking

mod support;

use std::fs;
use support::left::{as_a_whole, left_by, same};
use support::parts::{Cutting, JobOf, run_in_parts};
use support::random_plans::random_plan;

#[test]
fn any_plan_over_any_table_comes_to_the_same() {
    for seed in 0..12 {
        let folder = tempfile::tempdir().unwrap();
        let random = random_plan(seed);
        for (name, text) in &random.files {
            fs::write(folder.path().join(name), text).unwrap();
        }
        let expected = left_by(folder.path(), "plan.toml", as_a_whole);
        // A plan that is refused says little; nearly all of them run through.
        assert!(expected.len() > 2, "{expected:?}");
        for (bytes, parts, job) in
            [(1 << 20, 1, JobOf::All), (1, 1, JobOf::Each), (40, 3, JobOf::All), (100, 8, JobOf::Each)]
        {
            let cutting = Cutting { bytes, parts, job };
            let found = left_by(folder.path(), "plan.toml", |plan, request, draw| {
                run_in_parts(plan, request, (cutting, draw))
            });
            same(&found, &expected, &format!("seed {seed}, {cutting:?}\n{}", random.files[0].1));
        }
    }
}

#[test]
fn exceptions_of_many_rows_stand_in_their_order() {
    let folder = tempfile::tempdir().unwrap();
    let plan = "plan = 1\n[records]\nfile = \"records.csv\"\n[records.dates]\nIssued = \"day/month/year\"\n\
                [output]\nrows = \"rows.csv\"\nexceptions = \"exceptions.csv\"\n";
    fs::write(folder.path().join("plan.toml"), plan).unwrap();
    // More rows than a byte has numbers, every other one with a date that is none.
    let rows = (0..700).map(|row| format!("K{row},{}\n", if row % 2 == 0 { "soon" } else { "01/02/2026" }));
    fs::write(folder.path().join("records.csv"), format!("Key,Issued\n{}", rows.collect::<String>()))
        .unwrap();
    let expected = left_by(folder.path(), "plan.toml", as_a_whole);
    assert_eq!(expected[2].lines().count(), 351);
    let cutting = Cutting { bytes: 300, parts: 5, job: JobOf::All };
    let run = |plan: &_, request: &_, draw: mild_ledger_records::DrawReport<'_>| {
        run_in_parts(plan, request, (cutting, draw))
    };
    same(&left_by(folder.path(), "plan.toml", run), &expected, "many exceptions");
}
