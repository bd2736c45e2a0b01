//! A plan on the query engine finds, writes and proves what `mild run` does.

#![allow(clippy::unwrap_used, clippy::panic)] // a test fails by panicking

#[path = "../../crates/mild-ledger-records/tests/support/left.rs"]
mod left;
#[path = "../../crates/mild-ledger-records/tests/support/random_plans.rs"]
mod random_plans;

use left::{as_a_whole, left_by, same, watch};
use mild_ledger_engine::PlanEngine;
use random_plans::random_plan;
use std::fs;
use std::num::NonZeroUsize;
use std::ops::Range;
use std::path::Path;
use std::sync::atomic::AtomicBool;
use tokio::runtime::Runtime;

/// What the engine leaves of a plan of a folder, with so many partitions and pieces of so many bytes.
fn on_the_engine(folder: &Path, plan: &str, (partitions, bytes): (usize, usize)) -> Vec<String> {
    let runtime = Runtime::new().unwrap();
    let partitions = NonZeroUsize::new(partitions).unwrap();
    let engine = PlanEngine::in_this_process(runtime.handle().clone(), partitions).with_pieces_of(bytes);
    let interrupted = AtomicBool::new(false);
    left_by(folder, plan, |plan, request, draw| engine.run(plan, request, Some(draw), watch(&interrupted)))
}

// Half of them each, at the same time.
#[test]
fn any_plan_over_any_table_comes_to_the_same() {
    come_to_the_same(1000..1500);
}

#[test]
fn any_other_plan_over_any_table_comes_to_the_same() {
    come_to_the_same(1500..2000);
}

fn come_to_the_same(seeds: Range<u64>) {
    for seed in seeds {
        let folder = tempfile::tempdir().unwrap();
        let random = random_plan(seed);
        for (name, text) in &random.files {
            fs::write(folder.path().join(name), text).unwrap();
        }
        let expected = left_by(folder.path(), "plan.toml", as_a_whole);
        let cut = [(1, 1 << 20), (3, 200), (2, 1), (5, 60)][usize::try_from(seed % 4).unwrap()];
        let found = on_the_engine(folder.path(), "plan.toml", cut);
        same(&found, &expected, &format!("seed {seed}, {cut:?}\n{}", random.files[0].1));
    }
}

#[test]
fn every_plan_of_the_demo_comes_to_the_same() {
    let demo = Path::new(concat!(env!("CARGO_MANIFEST_DIR"), "/../demo"));
    let folder = tempfile::tempdir().unwrap();
    for entry in fs::read_dir(demo).unwrap() {
        let path = entry.unwrap().path();
        fs::copy(&path, folder.path().join(path.file_name().unwrap())).unwrap();
    }
    for plan in ["crew.toml", "jobs.toml", "licences.toml", "quarter.toml", "receivables.toml"] {
        let expected = left_by(folder.path(), plan, as_a_whole);
        assert!(expected.len() > 2, "{expected:?}");
        for cut in [(1, 1 << 20), (2, 700), (4, 1)] {
            same(&on_the_engine(folder.path(), plan, cut), &expected, &format!("{plan}, {cut:?}"));
        }
    }
}
