//! What runs leave, so that two can be held against each other.

use super::left::{as_a_whole, request};
use mild_ledger_records::{Plan, RunOutcome};
use mild_ledger_report::{drawn, json};
use serde_json::Value;
use std::fs;
use std::path::Path;

/// The object of a run as programs get it, the files left out that rows went to; and these rows with one header, and the exceptions.
pub struct Left {
    pub object: Value,
    pub rows: String,
    pub exceptions: String,
}

/// What a run of one process leaves, which is cleared away.
pub fn whole(folder: &Path, plan: &str) -> Left {
    let plan = Plan::read(&folder.join(plan)).unwrap();
    let outcome = as_a_whole(&plan, &request(), &drawn).unwrap();
    let rows = outcome.outputs[0].path.clone();
    let left = left_of(&json::run(&outcome), &outcome, &fs::read_to_string(&rows).unwrap());
    fs::remove_file(rows).unwrap();
    left
}

pub fn left_of(object: &str, outcome: &RunOutcome, rows: &str) -> Left {
    let mut object: Value = serde_json::from_str(object).unwrap();
    let outputs = object.as_object_mut().unwrap().remove("outputs");
    assert!(outputs.is_some(), "{object}");
    let exceptions = outcome.outputs.iter().find(|file| file.name.contains("exceptions")).unwrap();
    Left { object, rows: rows.to_owned(), exceptions: fs::read_to_string(&exceptions.path).unwrap() }
}

/// The rows of a folder, which is cleared away.
pub fn rows_in(folder: &Path) -> String {
    let mut names: Vec<_> = fs::read_dir(folder).unwrap().map(|entry| entry.unwrap().path()).collect();
    names.sort();
    let mut rows = String::new();
    for (nth, name) in names.iter().enumerate() {
        let part = fs::read_to_string(name).unwrap();
        let is_csv = name.extension().is_some_and(|ending| ending == "csv");
        let header = if nth > 0 && is_csv { part.find('\n').map_or(part.len(), |end| end + 1) } else { 0 };
        rows.push_str(&part[header..]);
    }
    fs::remove_dir_all(folder).unwrap();
    rows
}

pub fn lines(left: &Left) -> [String; 3] {
    [serde_json::to_string_pretty(&left.object).unwrap(), left.rows.clone(), left.exceptions.clone()]
}
