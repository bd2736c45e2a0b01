//! The same report on terminals of many widths: nothing runs over, and no bucket and no total is left out.

#![allow(clippy::unwrap_used, clippy::expect_used)] // a test fails by panicking

use mild_ledger_records::{ExistingFiles, Plan, RunOutcome, RunRequest, Watch, run};
use mild_ledger_report::terminal::{self, Width};
use std::path::Path;
use std::sync::atomic::AtomicBool;
use unicode_width::UnicodeWidthStr;

fn demo() -> RunOutcome {
    let folder = tempfile::tempdir().unwrap();
    let demo = Path::new(env!("CARGO_MANIFEST_DIR")).join("../../demo");
    for name in ["invoices-2026-09-30.csv", "receivables.toml"] {
        std::fs::copy(demo.join(name), folder.path().join(name)).unwrap();
    }
    let request = RunRequest {
        as_of: None,
        today: mild_ledger::Date::MIN,
        records: None,
        existing: ExistingFiles::Keep,
    };
    let watch = Watch { interrupted: &AtomicBool::new(false), progress: &|_, _| {} };
    let mut outcome =
        run(&Plan::read(&folder.path().join("receivables.toml")).unwrap(), &request, watch).unwrap();
    for file in &mut outcome.files {
        file.path = file.name.clone().into();
    }
    outcome.receipt = "receivables.receipt.toml".into();
    outcome
}

#[test]
fn every_bucket_and_total_stands_at_every_width() {
    let outcome = demo();
    let report = &outcome.reports[0];
    for columns in (40..=140).chain([usize::MAX]) {
        let text = terminal::run(&outcome, Width::Columns(columns));
        for line in text.lines() {
            assert!(line.width() <= columns, "{columns}: {line}");
        }
        let without_decimals = text.contains("Amounts without decimals");
        for bucket in &report.buckets {
            // On narrow terminals a header stands on several lines.
            assert!(bucket.split(' ').all(|word| text.contains(word)), "{bucket} at {columns}");
        }
        let sums: [&str; 8] = if without_decimals {
            ["34,252", "4,241", "17,251", "0", "3,151", "213", "-506", "58,602"]
        } else {
            ["34,252.25", "4,240.50", "17,250.75", "0.00", "3,150.50", "213.25", "-505.50", "58,601.75"]
        };
        for sum in sums {
            assert!(text.split_whitespace().any(|word| word == sum), "{sum} at {columns}\n{text}");
        }
    }
}

#[test]
fn names_are_shortened_then_decimals_dropped_then_blocks() {
    let outcome = demo();
    let first = |columns| {
        let text = terminal::run(&outcome, Width::Columns(columns));
        text.lines().skip(4).take(8).collect::<Vec<_>>().join("\n")
    };
    insta::assert_snapshot!(first(117), @"

    Customer                      Not yet due      1–30      31–60  61–90   Over 90  No date  Credits      Total    Share
    ─────────────────────────────────────────────────────────────────────────────────────────────────────────────────────
    Otterbourne Yachts              13,026.00      0.00   9,741.75   0.00    107.50     0.00     0.00  22,875.25   39.0 %
    Heron Charters                  11,273.75      0.00       0.00   0.00    127.75     0.00     0.00  11,401.50   19.5 %
    Puffin Island Trips              1,134.50    374.00   7,509.00   0.00    836.50     0.00     0.00   9,854.00   16.8 %
    Cordage & Co.                    2,097.00      0.00       0.00   0.00    838.25     0.00     0.00   2,935.25    5.0 %
    Lantern Quay Hotel               1,957.50    769.75       0.00   0.00    105.25     0.00     0.00   2,832.50    4.8 %
    ");
    insta::assert_snapshot!(first(106), @"

    Customer           Not yet due      1–30      31–60  61–90   Over 90  No date  Credits      Total    Share
    ──────────────────────────────────────────────────────────────────────────────────────────────────────────
    Otterbourne Yach…    13,026.00      0.00   9,741.75   0.00    107.50     0.00     0.00  22,875.25   39.0 %
    Heron Charters       11,273.75      0.00       0.00   0.00    127.75     0.00     0.00  11,401.50   19.5 %
    Puffin Island Tr…     1,134.50    374.00   7,509.00   0.00    836.50     0.00     0.00   9,854.00   16.8 %
    Cordage & Co.         2,097.00      0.00       0.00   0.00    838.25     0.00     0.00   2,935.25    5.0 %
    Lantern Quay Hot…     1,957.50    769.75       0.00   0.00    105.25     0.00     0.00   2,832.50    4.8 %
    ");
    insta::assert_snapshot!(first(90), @"

    Customer    Not yet due   1–30   31–60  61–90  Over 90  No date  Credits    Total    Share
    ──────────────────────────────────────────────────────────────────────────────────────────
    Otterbour…       13,026      0   9,742      0      108        0        0   22,875   39.0 %
    Heron Cha…       11,274      0       0      0      128        0        0   11,402   19.5 %
    Puffin Is…        1,135    374   7,509      0      837        0        0    9,854   16.8 %
    Cordage &…        2,097      0       0      0      838        0        0    2,935    5.0 %
    Lantern Q…        1,958    770       0      0      105        0        0    2,833    4.8 %
    ");
    insta::assert_snapshot!(first(80), @"

                          Not
                          yet                     Over    No
    Customer              due  1–30  31–60 61–90    90  date Credits   Total   Share
    ────────────────────────────────────────────────────────────────────────────────
    Otterbourne Yachts 13,026     0  9,742     0   108     0       0  22,875  39.0 %
    Heron Charters     11,274     0      0     0   128     0       0  11,402  19.5 %
    Puffin Island Tri…  1,135   374  7,509     0   837     0       0   9,854  16.8 %
    ");
    insta::assert_snapshot!(first(70), @"

    Otterbourne Yachts
      Not yet due  13,026.00
      1–30              0.00
      31–60         9,741.75
      61–90             0.00
      Over 90         107.50
      No date           0.00
    ");
}
