//! The same report on terminals of many widths: nothing runs over, and no bucket and no total is left out.

#![allow(clippy::unwrap_used, clippy::expect_used)] // a test fails by panicking

use mild_ledger::{Ends, Interval, Rounding, WeekNumbers, WeekYear, Weekday};
use mild_ledger_records::{
    CalendarRequest, Plan, RunOutcome, RunRequest, Watch, open_calendar, run_and_draw,
};
use mild_ledger_report::terminal::{self, Colour, Width};
use mild_ledger_report::{Between, Detail, Surroundings, SurroundingsRequest, Target, WorkYears, drawn};
use std::path::Path;
use std::sync::atomic::AtomicBool;
use unicode_width::UnicodeWidthStr;

fn demo() -> RunOutcome {
    demo_with(|plan| plan)
}

/// The demo with its plan changed.
fn demo_with(change: impl Fn(String) -> String) -> RunOutcome {
    let folder = tempfile::tempdir().unwrap();
    let demo = Path::new(env!("CARGO_MANIFEST_DIR")).join("../mild-ledger-cli/demo");
    for name in ["invoices-2026-09-30.csv", "receivables.toml"] {
        std::fs::copy(demo.join(name), folder.path().join(name)).unwrap();
    }
    let plan = folder.path().join("receivables.toml");
    std::fs::write(&plan, change(std::fs::read_to_string(&plan).unwrap())).unwrap();
    let request = RunRequest::new();
    let watch = Watch { interrupted: &AtomicBool::new(false), progress: &|_| {} };
    let mut outcome = run_and_draw(&Plan::read(&plan).unwrap(), &request, watch, &drawn).unwrap();
    for file in &mut outcome.outputs {
        file.path = file.name.clone().into();
    }
    outcome.receipt = "receivables.receipt.toml".into();
    outcome
}

#[test]
fn every_name_and_figure_of_a_summary_stands_at_every_width() {
    const SUMMARY: &str = "[[report]]\nkind = \"summary\"\nby = [{ period = \"quarter\", of = \"Issued\" }, \"Age band\"]\nshow = [\"count\", { sum = \"Amount\" }, { mean = \"Amount\" }, { smallest = \"Issued\" }]\n[output]";
    let outcome = demo_with(|plan| plan.replacen("[output]", SUMMARY, 1));
    const BLOCKS_BELOW: usize = 56;
    const DECIMALS_FROM: usize = 59;
    let names: Vec<String> = outcome.reports[1].tables[0].columns.clone();
    for columns in (40..=140).chain([usize::MAX]) {
        let text = terminal::run(&outcome, terminal::RunDetail::Full, Width::Columns(columns));
        for line in text.lines() {
            assert!(line.width() <= columns, "{columns}: {line}");
        }
        for name in &names {
            assert!(name.split(' ').all(|word| text.contains(word)), "{name} at {columns}");
        }
        let quarters = ["2025-Q2", "2026-Q4", "Not yet due", "Unreadable"];
        assert!(quarters.iter().all(|name| text.contains(name)), "{columns}\n{text}");
        let (_, summary) = text.split_once("\nSummary\n").unwrap();
        let (summary, _) = summary.split_once("\nExceptions").unwrap();
        let dropped = summary.contains("Amounts without decimals, each rounded on its own.");
        let sum = if dropped { "383,420" } else { "383,419.75" };
        assert!(summary.contains(sum), "{columns}\n{summary}");
        // Decimals go before the table does, and the blocks that are left have them again.
        let is_in_blocks = summary.contains("\n    Age band  ");
        assert!(!(dropped && is_in_blocks), "{columns}\n{summary}");
        if is_in_blocks {
            // A block is read by itself: under each quarter are all buckets.
            assert_eq!(summary.matches("2026-Q4").count(), 5, "{columns}\n{summary}");
            assert!(columns < BLOCKS_BELOW, "{columns}");
        } else {
            assert!(columns >= BLOCKS_BELOW, "{columns}");
            assert_eq!(dropped, columns < DECIMALS_FROM, "{columns}\n{summary}");
            // A mean is not a sum, and keeps its decimals.
            assert!(summary.contains("1,278.07"), "{columns}\n{summary}");
        }
    }
}

#[test]
fn every_bucket_and_total_stands_at_every_width() {
    let outcome = demo();
    let report = &outcome.reports[0];
    for columns in (40..=140).chain([usize::MAX]) {
        let text = terminal::run(&outcome, terminal::RunDetail::Full, Width::Columns(columns));
        for line in text.lines() {
            assert!(line.width() <= columns, "{columns}: {line}");
        }
        let without_decimals = text.contains("Amounts without decimals");
        for bucket in &report.tables[0].columns {
            // On narrow terminals a header is on several lines.
            assert!(bucket.split(' ').all(|word| text.contains(word)), "{bucket} at {columns}");
        }
        let sums: [&str; 9] = if without_decimals {
            ["34,252", "4,241", "17,251", "0", "3,151", "93", "121", "-506", "58,602"]
        } else {
            [
                "34,252.25",
                "4,240.50",
                "17,250.75",
                "0.00",
                "3,150.50",
                "92.50",
                "120.75",
                "-505.50",
                "58,601.75",
            ]
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
        let text = terminal::run(&outcome, terminal::RunDetail::Full, Width::Columns(columns));
        let table: Vec<&str> = text.lines().skip(4).take(8).collect();
        format!("{columns} columns\n{}\n", table.join("\n"))
    };
    insta::assert_snapshot!([129, 118, 117, 100, 90, 80, 60].map(first).join("\n"));
}

#[test]
fn periods_holidays_and_working_days_are_tables_from_sixty_columns_on() {
    let request = SurroundingsRequest {
        away: 0,
        fiscal: Default::default(),
        weeks: WeekYear::iso(),
        weeks_begin: Weekday::Monday,
        week_numbers: WeekNumbers::iso(),
        weekday_numbers: Default::default(),
        pattern: None,
        detail: Detail::FiguresOnly,
    };
    let around = Surroundings::of("2026-09-30".parse().unwrap(), &request).unwrap();
    let opened =
        open_calendar(&CalendarRequest { sources: vec!["england-wales".into()], ..Default::default() });
    let opened = opened.unwrap();
    let target = Target { total: "36000.00".parse().unwrap(), rounding: Rounding::Up, decimals: 2 };
    let plain = WorkYears::of(&opened, (2022, 2022), None).unwrap();
    let spread = WorkYears::of(&opened, (2022, 2022), Some(target)).unwrap();
    let interval = Interval::between("1995-02-28".parse().unwrap(), "2026-09-30".parse().unwrap());
    for columns in 60..=140 {
        let width = Width::Columns(columns);
        let mut texts = vec![
            terminal::periods(&around, width),
            terminal::work_years(&plain, width),
            terminal::holidays(&plain, width),
            terminal::between(&Between::of(interval, Ends::Last, Detail::FiguresOnly), width, Colour::Off),
        ];
        if columns >= 80 {
            texts.push(terminal::work_years(&spread, width));
        }
        for text in texts {
            assert!(text.lines().all(|line| line.width() <= columns), "{columns}\n{text}");
            // A line is drawn under the header of a table, and under none of a block.
            assert!(text.contains("───"), "{columns}\n{text}");
        }
    }
}
