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

/// What the engine leaves of a plan of a folder, with so many partitions and pieces of a number of bytes.
fn on_the_engine(folder: &Path, plan: &str, (partitions, bytes): (usize, usize)) -> Vec<String> {
    let runtime = Runtime::new().unwrap();
    let partitions = NonZeroUsize::new(partitions).unwrap();
    let engine = PlanEngine::in_this_process(runtime.handle().clone(), partitions)
        .with_pieces_of(NonZeroUsize::new(bytes).unwrap());
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
        assert!(expected.len() > 2, "a plan that is refused says little: seed {seed}, {expected:?}");
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

/// A plan over records of this name, with more said of how they are written.
fn plan_over(name: &str, written: &str) -> String {
    format!(
        "plan = 1\nas_of = 2026-09-30\n[records]\nfile = \"{name}\"\nkey = \"Key\"\nduplicates = \"set aside\"\n{written}\
         [records.dates]\nIssued = \"day/month/year\"\n[records.amounts]\nAmount = {{ decimals = 2 }}\n\
         [[column]]\nname = \"Days\"\nbetween = [\"Issued\", \"as-of\"]\ncount = \"days\"\n\
         [[report]]\nkind = \"summary\"\nby = [\"Name\"]\nshow = [\"count\", {{ sum = \"Amount\" }}, {{ median = \"Days\" }}]\n\
         [output]\nrows = \"rows.csv\"\nexceptions = \"exceptions.csv\"\n"
    )
}

#[test]
fn awkward_files_come_to_the_same() {
    let utf_16 = |text: &str| text.encode_utf16().flat_map(u16::to_le_bytes).collect::<Vec<u8>>();
    let plain =
        "Key,Name,Issued,Amount\nA,Heron,01/02/2026,1.00\nB,Tern,02/03/2026,2.50\nA,Heron,03/04/2026,9.00\n";
    let files: Vec<(&str, &str, &str, Vec<u8>)> = vec![
        ("a byte order mark", "records.csv", "", [b"\xef\xbb\xbf".as_slice(), plain.as_bytes()].concat()),
        ("returns and line feeds", "records.csv", "", plain.replace('\n', "\r\n").into_bytes()),
        ("returns alone", "records.csv", "", plain.replace('\n', "\r").into_bytes()),
        ("no line end after the last row", "records.csv", "", plain.trim_end().as_bytes().to_vec()),
        ("empty lines", "records.csv", "", plain.replace('\n', "\n\n\r\n").into_bytes()),
        (
            "line feeds and doubled quotes within quotes",
            "records.csv",
            "",
            b"Key,Name,Issued,Amount\nA,\"two\nlines, and \"\"quotes\"\"\n\",01/02/2026,1.00\nB,\"\n\n\",02/03/2026,2.00\nC,x,31/06/2026,3.00\n".to_vec(),
        ),
        (
            "broken rows of all kinds",
            "records.csv",
            "",
            b"Key,Name,Issued,Amount\nA,Heron\nB,Tern,01/01/2026,1.00,more\nKey,Name,Issued,Amount\nC,\xff\xfe,01/01/2026,1.00\nD,x\"y,01/01/2026,1.00\nE,\"a\nb\"c,01/01/2026,1.00\nF,Heron,soon,much\nG,Heron,,5.00\n\xef\xbb\xbfH,mark,01/01/2026,1.00\n".to_vec(),
        ),
        ("a header alone", "records.csv", "", b"Key,Name,Issued,Amount\n".to_vec()),
        ("a title above", "records.csv", "header_line = 3\n", [b"The yard,\n\n".as_slice(), plain.as_bytes()].concat()),
        ("semicolons", "records.csv", "separator = \";\"\n", plain.replace(',', ";").into_bytes()),
        ("UTF-16", "records.csv", "", utf_16(plain)),
        ("Windows-1252", "records.csv", "encoding = \"windows-1252\"\n", plain.replace("Tern", "Br\u{e9}").chars().map(|sign| sign as u8).collect()),
        (
            "JSON Lines with what is none",
            "records.jsonl",
            "",
            b"{\"Key\":\"A\",\"Name\":\"Heron\",\"Issued\":\"01/02/2026\",\"Amount\":1}\n\n[1]\n{\"Key\":\"B\",\"Name\":{\"a\":1}}\n{\"Name\":\"Tern\",\"Key\":\"C\",\"Key\":\"D\"}\n{\"Amount\":\"2.50\",\"Key\":\"E\",\"Issued\":\"soon\"}".to_vec(),
        ),
    ];
    for (what, name, written, bytes) in files {
        let folder = tempfile::tempdir().unwrap();
        fs::write(folder.path().join("plan.toml"), plan_over(name, written)).unwrap();
        fs::write(folder.path().join(name), bytes).unwrap();
        let expected = left_by(folder.path(), "plan.toml", as_a_whole);
        for cut in [(1, 1 << 20), (3, 1), (2, 30)] {
            same(&on_the_engine(folder.path(), "plan.toml", cut), &expected, &format!("{what}, {cut:?}"));
        }
    }
}

#[test]
fn parquet_files_of_a_folder_come_to_the_same() {
    use arrow::array::{ArrayRef, Date32Array, Decimal128Array, RecordBatch, StringArray};
    use parquet::arrow::ArrowWriter;
    use parquet::file::properties::WriterProperties;
    use std::sync::Arc;
    let folder = tempfile::tempdir().unwrap();
    fs::create_dir(folder.path().join("lake")).unwrap();
    for file in 0..3_i32 {
        let rows = if file == 1 { 0..0 } else { file * 50..file * 50 + 47 };
        let columns: Vec<(&str, ArrayRef)> = vec![
            (
                "Key",
                Arc::new(rows.clone().map(|row| Some(format!("K{}", row % 60))).collect::<StringArray>()),
            ),
            (
                "Name",
                Arc::new(
                    rows.clone()
                        .map(|row| Some(["Heron", "Tern"][row as usize % 2]))
                        .collect::<StringArray>(),
                ),
            ),
            (
                "Issued",
                Arc::new(
                    rows.clone().map(|row| (row % 9 > 0).then_some(20_000 + row)).collect::<Date32Array>(),
                ),
            ),
            (
                "Amount",
                Arc::new(
                    rows.map(|row| (row % 7 > 0).then_some(i128::from(row) * 25))
                        .collect::<Decimal128Array>()
                        .with_precision_and_scale(18, 2)
                        .unwrap(),
                ),
            ),
        ];
        let batch = RecordBatch::try_from_iter_with_nullable(
            columns.into_iter().map(|(name, column)| (name, column, true)),
        )
        .unwrap();
        let properties = WriterProperties::builder().set_max_row_group_row_count(Some(10)).build();
        let place = fs::File::create(folder.path().join(format!("lake/{file}.parquet"))).unwrap();
        let mut writer = ArrowWriter::try_new(place, batch.schema(), Some(properties)).unwrap();
        writer.write(&batch).unwrap();
        writer.close().unwrap();
    }
    for (written, order) in
        [("", ""), ("file_column = \"From\"\n", "order_by = [\"Amount, largest first\"]\n")]
    {
        fs::write(folder.path().join("plan.toml"), plan_over("lake", written) + order).unwrap();
        let expected = left_by(folder.path(), "plan.toml", as_a_whole);
        assert!(expected.len() > 2, "{expected:?}");
        for cut in [(1, 1 << 20), (3, 1), (2, 300)] {
            same(&on_the_engine(folder.path(), "plan.toml", cut), &expected, &format!("{cut:?}"));
        }
    }
}

#[test]
fn a_run_that_is_refused_or_stopped_leaves_nothing() {
    let folder = tempfile::tempdir().unwrap();
    fs::write(folder.path().join("plan.toml"), plan_over("records.csv", "")).unwrap();
    fs::write(folder.path().join("records.csv"), "Key,Name,Issued,Amount\nA,Heron,01/02/2026,1.00\n")
        .unwrap();
    let runtime = Runtime::new().unwrap();
    let engine = PlanEngine::in_this_process(runtime.handle().clone(), NonZeroUsize::MIN);
    let plan = mild_ledger_records::Plan::read(&folder.path().join("plan.toml")).unwrap();
    let names = || {
        let mut names: Vec<String> = fs::read_dir(folder.path())
            .unwrap()
            .map(|entry| entry.unwrap().file_name().into_string().unwrap())
            .collect();
        names.sort();
        names
    };
    // Another user's file is in place of the rows.
    fs::write(folder.path().join("rows.csv"), "mine\n").unwrap();
    let request = mild_ledger_records::RunRequest::new();
    let refused = engine.run(&plan, &request, None, watch(&AtomicBool::new(false))).unwrap_err();
    assert!(refused.to_string().contains("would be overwritten"), "{refused}");
    assert_eq!(fs::read_to_string(folder.path().join("rows.csv")).unwrap(), "mine\n");
    assert_eq!(names(), ["plan.toml", "records.csv", "rows.csv"]);
    fs::remove_file(folder.path().join("rows.csv")).unwrap();
    let stopped = engine.run(&plan, &request, None, watch(&AtomicBool::new(true))).unwrap_err();
    assert!(matches!(stopped, mild_ledger_records::RecordsError::Interrupted), "{stopped}");
    assert_eq!(names(), ["plan.toml", "records.csv"]);
    // What a person put next to the rows of an earlier run is never deleted, not even where files may be overwritten.
    engine.run(&plan, &request, None, watch(&AtomicBool::new(false))).unwrap();
    fs::write(folder.path().join("rows.csv/notes.txt"), "mine\n").unwrap();
    let overwrite = request.clone().with_existing(mild_ledger_records::ExistingFiles::Overwrite);
    let refused = engine.run(&plan, &overwrite, None, watch(&AtomicBool::new(false))).unwrap_err();
    assert!(refused.to_string().contains("no run of this plan wrote it"), "{refused}");
    assert_eq!(fs::read_to_string(folder.path().join("rows.csv/notes.txt")).unwrap(), "mine\n");
    fs::remove_file(folder.path().join("rows.csv/notes.txt")).unwrap();
    fs::write(folder.path().join("rows.csv/part-00000.csv"), "changed\n").unwrap();
    engine.run(&plan, &overwrite, None, watch(&AtomicBool::new(false))).unwrap();
    // A link to a folder is refused, and so is what it leads to.
    #[cfg(unix)]
    {
        fs::rename(folder.path().join("rows.csv"), folder.path().join("elsewhere")).unwrap();
        std::os::unix::fs::symlink("elsewhere", folder.path().join("rows.csv")).unwrap();
        let refused = engine.run(&plan, &overwrite, None, watch(&AtomicBool::new(false))).unwrap_err();
        assert!(refused.to_string().contains("it is a link"), "{refused}");
        assert!(folder.path().join("elsewhere/part-00000.csv").is_file());
        fs::remove_file(folder.path().join("rows.csv")).unwrap();
        fs::rename(folder.path().join("elsewhere"), folder.path().join("rows.csv")).unwrap();
    }
    // A run overwrites what an earlier one wrote, unless a user changed it since.
    for _ in 0..2 {
        engine.run(&plan, &request, None, watch(&AtomicBool::new(false))).unwrap();
    }
    assert_eq!(names(), ["exceptions.csv", "plan.receipt.toml", "plan.toml", "records.csv", "rows.csv"]);
    fs::write(folder.path().join("rows.csv/part-00000.csv"), "changed\n").unwrap();
    let refused = engine.run(&plan, &request, None, watch(&AtomicBool::new(false))).unwrap_err();
    assert!(refused.to_string().contains("was changed after this plan wrote it"), "{refused}");
}
