//! Random records, summed up by group and added up again by a naive model.

#![allow(clippy::unwrap_used, clippy::panic)] // a test fails by panicking

mod support;

use mild_ledger_records::{ReportCell, ReportTable};
use proptest::prelude::*;
use std::collections::BTreeMap;
use std::fs;
use std::path::Path;
use support::{by_workers, run_with};

const PLAN: &str = r#"plan = 1
as_of = 2026-12-31
[records]
file = "records.csv"
[records.dates]
Issued = "iso"
[records.amounts]
Amount = { decimals = 2, required = false }
[[column]]
name = "Days"
between = ["Issued", "as-of"]
count = "days"
[[report]]
kind = "summary"
by = ["Customer", { period = "month", of = "Issued" }]
show = ["count", { sum = "Amount" }, { mean = "Amount" }, { sum = "Days" }, { smallest = "Issued" }, { largest = "Issued" }, { smallest = "Amount" }, { blanks = "Issued" }]
[output]
rows = "rows.csv"
exceptions = "exceptions.csv"
"#;

const CUSTOMERS: [&str; 3] = ["Cordage & Co.", "Ferry Nine", "Heron Charters"];

#[derive(Debug, Clone)]
struct Row {
    customer: usize,
    /// A month of 2026 and a day that it has, or none.
    issued: Option<(u32, u32)>,
    cents: Option<i64>,
}

fn any_row() -> impl Strategy<Value = Row> {
    (
        0..3_usize,
        prop::option::weighted(0.9, (3..9_u32, 1..29_u32)),
        prop::option::weighted(0.9, -500..90_000_i64),
    )
        .prop_map(|(customer, issued, cents)| Row { customer, issued, cents })
}

fn decimal(cents: i64) -> String {
    let sign = if cents < 0 { "-" } else { "" };
    format!("{sign}{}.{:02}", cents.abs() / 100, cents.abs() % 100)
}

fn date((month, day): (u32, u32)) -> String {
    format!("2026-{month:02}-{day:02}")
}

/// Days from a day of 2026 to its last, counted month by month.
fn days_left((month, day): (u32, u32)) -> i64 {
    let lengths = [31, 28, 31, 30, 31, 30, 31, 31, 30, 31, 30, 31];
    lengths[month as usize - 1..].iter().sum::<i64>() - i64::from(day)
}

fn summary_of(folder: &Path, rows: &[Row], workers: usize) -> ReportTable {
    let mut text = String::from("Customer,Issued,Amount\n");
    for row in rows {
        let (issued, amount) =
            (row.issued.map_or_else(String::new, date), row.cents.map_or_else(String::new, decimal));
        text.push_str(&format!("{},{issued},{amount}\n", CUSTOMERS[row.customer]));
    }
    fs::write(folder.join("records.csv"), text).unwrap();
    fs::write(folder.join("plan.toml"), PLAN).unwrap();
    let outcome = run_with(folder, &by_workers(workers)).unwrap();
    outcome.reports[0].tables[0].clone()
}

fn said(cell: &ReportCell) -> String {
    match cell {
        ReportCell::Text(text) => text.clone(),
        ReportCell::Count(count) => count.to_string(),
        ReportCell::Decimal(decimal) => decimal.to_string(),
        ReportCell::Date(date) => date.to_string(),
        ReportCell::Empty => String::new(),
        other => panic!("{other:?}"),
    }
}

/// The figures of rows as the summary should show them.
fn figures(rows: &[&Row]) -> Vec<String> {
    let cents: Vec<i64> = rows.iter().filter_map(|row| row.cents).collect();
    let days: Vec<(u32, u32)> = rows.iter().filter_map(|row| row.issued).collect();
    let sum: i64 = cents.iter().sum();
    // To the nearest cent, halves away from zero.
    let mean = |count: i64| decimal((2 * sum.abs() + count) / (2 * count) * sum.signum());
    vec![
        rows.len().to_string(),
        decimal(sum),
        i64::try_from(cents.len()).ok().filter(|count| *count > 0).map_or_else(String::new, mean),
        days.iter().map(|day| days_left(*day)).sum::<i64>().to_string(),
        days.len().to_string(),
        days.iter().min().map_or_else(String::new, |day| date(*day)),
        days.iter().max().map_or_else(String::new, |day| date(*day)),
        cents.iter().min().map_or_else(String::new, |cents| decimal(*cents)),
        rows.iter().filter(|row| row.issued.is_none()).count().to_string(),
    ]
}

/// All rows of the summary: customers in their order, under each all months from the first to the last of any, then the
/// rows without a date.
fn expected(rows: &[Row]) -> Vec<Vec<String>> {
    let mut groups: BTreeMap<(usize, u32), Vec<&Row>> = BTreeMap::new();
    const NO_DATE: u32 = 99;
    let months: Vec<u32> = rows.iter().filter_map(|row| Some(row.issued?.0)).collect();
    for row in rows {
        groups.entry((row.customer, row.issued.map_or(NO_DATE, |(month, _)| month))).or_default().push(row);
        if let (Some(first), Some(last)) = (months.iter().min(), months.iter().max()) {
            (*first..=*last).for_each(|month| {
                groups.entry((row.customer, month)).or_default();
            });
        }
    }
    let group = |((customer, month), rows): (&(usize, u32), &Vec<&Row>)| {
        let month = if *month == NO_DATE { "No date".to_owned() } else { format!("2026-{month:02}") };
        [CUSTOMERS[*customer].to_owned(), month].into_iter().chain(figures(rows)).collect()
    };
    groups.iter().map(group).collect()
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(80))]
    #[test]
    fn every_group_has_the_figures_of_its_rows(rows in prop::collection::vec(any_row(), 0..60)) {
        let folder = tempfile::tempdir().unwrap();
        let table = summary_of(folder.path(), &rows, 2);
        let shown: Vec<Vec<String>> = table.rows.iter().map(|row| row.iter().map(said).collect()).collect();
        prop_assert_eq!(shown, expected(&rows));
        let total: Vec<String> = table.total.unwrap().iter().skip(2).map(said).collect();
        prop_assert_eq!(total, figures(&rows.iter().collect::<Vec<_>>()));
    }

    #[test]
    fn what_is_left_behind_the_first_rows_is_the_sum_of_the_others(
        rows in prop::collection::vec(any_row(), 0..60),
        shown in 0_usize..20,
    ) {
        let folder = tempfile::tempdir().unwrap();
        let table = summary_of(folder.path(), &rows, 1);
        let rest = table.rest_behind(shown, "others");
        prop_assert_eq!(&rest[0], &ReportCell::Text("others".to_owned()));
        let others: Vec<Vec<ReportCell>> = table.rows.iter().skip(shown).collect();
        let counted = |column: usize| others.iter().map(|row| match row[column] {
            ReportCell::Count(count) => count,
            _ => panic!("no count: {row:?}"),
        }).sum::<i64>();
        let cents = others.iter().map(|row| match row[3] {
            ReportCell::Decimal(sum) => sum.units(),
            _ => panic!("no sum: {row:?}"),
        }).sum::<i128>();
        // Rows, the sum of amounts, the rows summed in another, and blanks; neither means nor smallest.
        prop_assert_eq!(said(&rest[2]), counted(2).to_string());
        prop_assert_eq!(said(&rest[3]), decimal(i64::try_from(cents).unwrap()));
        prop_assert_eq!(said(&rest[6]), counted(6).to_string());
        prop_assert_eq!(said(&rest[10]), counted(10).to_string());
        prop_assert!([4, 7, 8, 9].iter().all(|column| rest[*column] == ReportCell::Empty));
    }
}
