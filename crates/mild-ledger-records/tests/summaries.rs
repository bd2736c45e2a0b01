//! Random records, summed up by group and added up again by a naive model.

#![allow(clippy::unwrap_used, clippy::panic)] // a test fails by panicking

mod support;

use mild_ledger_records::{ReportCell, ReportTable};
use proptest::prelude::*;
use std::collections::{BTreeMap, BTreeSet};
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
show = ["count", { sum = "Amount" }, { mean = "Amount" }, { sum = "Days" }, { smallest = "Issued" }, { largest = "Issued" }, { smallest = "Amount" }, { blanks = "Issued" }, { median = "Amount" }, { percentile = "Days", at = 90 }, { distinct = "Amount" }, { median = "Issued" }, "share"]
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
    table_of(folder, rows, workers, PLAN)
}

/// The table of the report of a plan like that one.
fn table_of(folder: &Path, rows: &[Row], workers: usize, plan: &str) -> ReportTable {
    let mut text = String::from("Customer,Issued,Amount\n");
    for row in rows {
        let (issued, amount) =
            (row.issued.map_or_else(String::new, date), row.cents.map_or_else(String::new, decimal));
        text.push_str(&format!("{},{issued},{amount}\n", CUSTOMERS[row.customer]));
    }
    fs::write(folder.join("records.csv"), text).unwrap();
    fs::write(folder.join("plan.toml"), plan).unwrap();
    let outcome = run_with(folder, &by_workers(workers)).unwrap();
    outcome.reports[0].tables[0].clone()
}

fn said(cell: &ReportCell) -> String {
    match cell {
        ReportCell::Text(text) => text.clone(),
        ReportCell::Count(count) => count.to_string(),
        ReportCell::Decimal(decimal) | ReportCell::Number(decimal) => decimal.to_string(),
        ReportCell::Date(date) => date.to_string(),
        ReportCell::Empty => String::new(),
        other => panic!("{other:?}"),
    }
}

/// The day of 2026 that a number of days are left after.
fn date_with_left(left: i64) -> String {
    let days = (1..=12_u32).flat_map(|month| (1..=31_u32).map(move |day| (month, day)));
    let found = days
        .filter(|(month, day)| *day <= [31, 28, 31, 30, 31, 30, 31, 31, 30, 31, 30, 31][*month as usize - 1]);
    date(found.into_iter().find(|day| days_left(*day) == left).unwrap())
}

/// The figures of rows as the summary should show them, but for their share of all.
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
        percentile(&cents, 50).map_or_else(String::new, |tenths| {
            // Tenths of a cent to the nearest cent, halves away from zero.
            decimal((tenths.abs() + 5) / 10 * tenths.signum())
        }),
        percentile(&days.iter().map(|day| days_left(*day)).collect::<Vec<_>>(), 90)
            .map_or_else(String::new, |tenths| format!("{}.{}0", tenths / 10, tenths % 10)),
        cents.iter().collect::<BTreeSet<_>>().len().to_string(),
        // Half a day is the later day, with the fewer days left.
        percentile(&days.iter().map(|day| days_left(*day)).collect::<Vec<_>>(), 50)
            .map_or_else(String::new, |tenths| date_with_left(tenths / 10)),
    ]
}

/// In tenths, from the ranks that lie closest.
fn percentile(values: &[i64], per_cent: usize) -> Option<i64> {
    let mut sorted = values.to_vec();
    sorted.sort_unstable();
    let place = (sorted.len().checked_sub(1)?) * per_cent / 10;
    let (lower, upper) = (sorted[place / 10], sorted[place.div_ceil(10)]);
    Some(lower * 10 + (upper - lower) * i64::try_from(place % 10).unwrap())
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
        let mut shown: Vec<Vec<String>> = table.rows.iter().map(|row| row.iter().map(said).collect()).collect();
        let shares: Vec<String> = shown.iter_mut().map(|row| row.pop().unwrap()).collect();
        prop_assert_eq!(&shown, &expected(&rows));
        let mut total: Vec<String> = table.total.unwrap().iter().skip(2).map(said).collect();
        let whole = total.pop().unwrap();
        prop_assert_eq!(total, figures(&rows.iter().collect::<Vec<_>>()));
        // Shares add up to 100.0, and none is further than a tenth from its part.
        if rows.is_empty() {
            prop_assert_eq!(whole, "");
            return Ok(());
        }
        let tenths = |share: &String| share.replace('.', "").parse::<usize>().unwrap();
        prop_assert_eq!((whole.as_str(), shares.iter().map(tenths).sum::<usize>()), ("100.0", 1_000));
        for (row, share) in shown.iter().zip(&shares) {
            let apart = (tenths(share) * rows.len()).abs_diff(row[2].parse::<usize>().unwrap() * 1_000);
            prop_assert!(apart < rows.len(), "{row:?} {share}");
        }
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
        prop_assert!([4, 7, 8, 9, 11, 12, 13, 14].iter().all(|column| rest[*column] == ReportCell::Empty));
    }

    #[test]
    fn rows_stand_in_the_order_of_a_figure_and_groups_across_sum_to_the_whole(
        rows in prop::collection::vec(any_row(), 0..60),
        top in 1_usize..3,
        is_largest_first in any::<bool>(),
    ) {
        let folder = tempfile::tempdir().unwrap();
        let (from, _) = PLAN.split_once("by = ").unwrap();
        let (_, to) = PLAN.split_once("\"share\"]\n").unwrap();
        let direction = if is_largest_first { "largest first" } else { "smallest first" };
        let keys = format!(
            "by = [\"Customer\"]\ncolumns_by = {{ period = \"month\", of = \"Issued\" }}\nshow = [{{ sum = \"Amount\" }}]\norder = \"Amount, sum, {direction}\"\ntop = {top}\n"
        );
        let table = table_of(folder.path(), &rows, 2, &format!("{from}{keys}{to}"));
        // The sums of customers in the order of the alphabet, then of their size.
        let mut sums: Vec<(i64, usize)> = (0..CUSTOMERS.len())
            .filter(|customer| rows.iter().any(|row| row.customer == *customer))
            .map(|customer| {
                let theirs = rows.iter().filter(|row| row.customer == customer);
                (theirs.filter_map(|row| row.cents).sum(), customer)
            })
            .collect();
        sums.sort_by_key(|(sum, _)| if is_largest_first { -sum } else { *sum });
        let mut expected: Vec<(String, String)> =
            sums.iter().map(|(sum, customer)| (CUSTOMERS[*customer].to_owned(), decimal(*sum))).collect();
        // Two customers and more after the first are one row.
        if expected.len() > top + 1 {
            let others: i64 = sums[top..].iter().map(|(sum, _)| sum).sum();
            let name = format!("the other {}", expected.len() - top);
            expected.truncate(top);
            expected.push((name, decimal(others)));
        }
        let shown: Vec<Vec<ReportCell>> = table.rows.iter().collect();
        let found: Vec<(String, String)> =
            shown.iter().map(|row| (said(&row[0]), said(row.last().unwrap()))).collect();
        prop_assert_eq!(found, expected);
        // Each row, and the total, is the sum of its groups across, and each column that of its rows.
        let units = |cell: &ReportCell| match cell {
            ReportCell::Decimal(number) => number.units(),
            other => panic!("{other:?}"),
        };
        let total = table.total.unwrap();
        for row in shown.iter().chain([&total]) {
            let groups = &row[1..row.len() - 1];
            prop_assert_eq!(groups.iter().map(units).sum::<i128>(), units(row.last().unwrap()));
        }
        for column in 1..total.len() {
            prop_assert_eq!(shown.iter().map(|row| units(&row[column])).sum::<i128>(), units(&total[column]));
        }
        // The months from the first to the last with a row, and the reason for rows without one.
        let months: Vec<u32> = rows.iter().filter_map(|row| Some(row.issued?.0)).collect();
        let known = months.iter().max().map_or(0, |last| last - months.iter().min().unwrap() + 1);
        let unknown = u32::from(rows.iter().any(|row| row.issued.is_none()));
        prop_assert_eq!(table.columns.len(), 2 + usize::try_from(known + unknown).unwrap());
    }
}
