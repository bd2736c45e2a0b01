//! A plan run in parts finds, writes and proves what it does as a whole.

#![allow(clippy::unwrap_used, clippy::panic)] // a test fails by panicking

mod support;

use mild_ledger_records::{ExistingFiles, Plan, RunRequest};
use std::fs;
use std::path::Path;
use support::parts::{Cutting, JobOf, run_in_parts};
use support::random_plans::random_plan;
use support::run_with;

/// The lines of rows that were written in parts, with one header.
fn rows_of(folder: &Path) -> String {
    let mut names: Vec<_> = fs::read_dir(folder).unwrap().map(|entry| entry.unwrap().path()).collect();
    names.sort();
    let mut text = String::new();
    for (nth, name) in names.iter().enumerate() {
        let part = fs::read_to_string(name).unwrap();
        let is_csv = name.extension().is_some_and(|ending| ending == "csv");
        let rows = if nth > 0 && is_csv { part.split_once('\n').map_or("", |(_, rows)| rows) } else { &part };
        text.push_str(rows);
    }
    text
}

/// What a run shows and leaves, or how it ends; the files that rows went to are told apart.
fn whole(folder: &Path, rows: &str) -> Vec<String> {
    let request = RunRequest::new().with_sample(3).with_existing(ExistingFiles::Overwrite);
    match run_with(folder, &request) {
        Err(error) => vec![error.to_string()],
        Ok(mut outcome) => {
            outcome.outputs.retain(|file| file.name != rows);
            let texts = [rows, "exceptions.csv"].map(|name| fs::read_to_string(folder.join(name)).unwrap());
            fs::remove_file(folder.join(rows)).unwrap();
            left(folder, format!("{outcome:#?}"), texts)
        }
    }
}

fn in_parts(folder: &Path, rows: &str, cutting: Cutting) -> Vec<String> {
    let plan = Plan::read(&folder.join("plan.toml")).unwrap();
    let request = RunRequest::new().with_sample(3).with_existing(ExistingFiles::Overwrite);
    match run_in_parts(&plan, &request, cutting) {
        Err(error) => vec![error.to_string()],
        Ok(mut outcome) => {
            outcome.outputs.retain(|file| !file.name.starts_with(rows));
            let texts =
                [rows_of(&folder.join(rows)), fs::read_to_string(folder.join("exceptions.csv")).unwrap()];
            fs::remove_dir_all(folder.join(rows)).unwrap();
            left(folder, format!("{outcome:#?}"), texts)
        }
    }
}

/// What was shown, the rows and the exceptions, and the report that people get where there is one, which is taken away.
fn left(folder: &Path, shown: String, texts: [String; 2]) -> Vec<String> {
    let report = folder.join("report.md");
    let drawn = fs::read_to_string(&report).unwrap_or_default();
    let _ = fs::remove_file(report);
    [shown].into_iter().chain(texts).chain([drawn]).collect()
}

#[test]
fn any_plan_over_any_table_comes_to_the_same() {
    for seed in 0..30 {
        let folder = tempfile::tempdir().unwrap();
        let random = random_plan(seed);
        for (name, text) in &random.files {
            fs::write(folder.path().join(name), text).unwrap();
        }
        let rows = if random.files[0].1.contains("rows.jsonl") { "rows.jsonl" } else { "rows.csv" };
        let expected = whole(folder.path(), rows);
        for (bytes, parts, job) in
            [(1 << 20, 1, JobOf::All), (1, 1, JobOf::Each), (40, 3, JobOf::All), (100, 8, JobOf::Each)]
        {
            let found = in_parts(folder.path(), rows, Cutting { bytes, parts, job });
            pretty(
                &found,
                &expected,
                &format!("seed {seed}, {bytes} bytes, {parts} parts, {job:?}\n{}", random.files[0].1),
            );
        }
    }
}

/// Fails at the first line that differs, since all of them are too many to read.
fn pretty(found: &[String], expected: &[String], what: &str) {
    assert_eq!(found.len(), expected.len(), "{what}: {found:#?}");
    for (found, expected) in found.iter().zip(expected) {
        let lines = || found.lines().zip(expected.lines());
        if let Some(nth) = lines().position(|(one, other)| one != other) {
            let before: Vec<&str> = found.lines().take(nth).collect();
            let before = before[before.len().saturating_sub(20)..].join("\n");
            let (one, other) = lines().nth(nth).unwrap();
            panic!("{what}, behind\n{before}\nfound    {one}\nexpected {other}");
        }
        assert_eq!(found.lines().count(), expected.lines().count(), "{what}");
    }
}
