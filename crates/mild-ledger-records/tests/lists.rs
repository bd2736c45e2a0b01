//! Random records, listed in an order under the heads of groups, and put together again by a naive model.

#![allow(clippy::unwrap_used, clippy::panic)] // a test fails by panicking

mod support;

use mild_ledger_records::{ReportCell, ReportTable, SumRowOf};
use proptest::prelude::*;
use std::cmp::Reverse;
use std::fs;
use std::path::Path;
use support::{by_workers, run_with};

const PLAN: &str = r#"plan = 1
[records]
file = "records.csv"
key = "Invoice"
[records.amounts]
Amount = { decimals = 2, required = false }
[[report]]
kind = "list"
columns = ["Invoice", "Amount"]
order = ["Amount, largest first", "Mark"]
sum = "Amount"
LIST
[output]
rows = "rows.csv"
exceptions = "exceptions.csv"
"#;

const CUSTOMERS: [&str; 3] = ["Cordage & Co.", "ferry nine", "Heron Charters"];

#[derive(Debug, Clone)]
struct Row {
    number: usize,
    customer: usize,
    mark: u8,
    cents: Option<i64>,
}

/// Which rows are listed.
#[derive(Debug, Clone, Copy)]
enum Listed {
    All,
    First(usize),
    OfEach(usize),
}

fn any_rows() -> impl Strategy<Value = Vec<Row>> {
    let row = (0..3_usize, 0..3_u8, prop::option::weighted(0.9, -5..6_i64));
    prop::collection::vec(row, 1..300).prop_map(|rows| {
        let numbered = rows.into_iter().enumerate();
        numbered.map(|(number, (customer, mark, cents))| Row { number, customer, mark, cents }).collect()
    })
}

fn any_listed() -> impl Strategy<Value = Listed> {
    prop_oneof![
        Just(Listed::All),
        (1..200_usize).prop_map(Listed::First),
        (1..70_usize).prop_map(Listed::OfEach)
    ]
}

fn decimal(cents: i64) -> String {
    let sign = if cents < 0 { "-" } else { "" };
    format!("{sign}{}.{:02}", cents.abs() / 100, cents.abs() % 100)
}

fn table_of(folder: &Path, rows: &[Row], listed: Listed, by: &str, workers: usize) -> ReportTable {
    let mut text = String::from("Invoice,Customer,Mark,Amount\n");
    for row in rows {
        let amount = row.cents.map_or_else(String::new, decimal);
        text.push_str(&format!("N{},{},{},{amount}\n", row.number, CUSTOMERS[row.customer], row.mark));
    }
    let listed = match listed {
        Listed::All => String::new(),
        Listed::First(most) => format!("first = {most}"),
        Listed::OfEach(most) => format!("first_of_each = {most}"),
    };
    fs::write(folder.join("records.csv"), text).unwrap();
    fs::write(folder.join("plan.toml"), PLAN.replace("LIST", &format!("{listed}\n{by}"))).unwrap();
    run_with(folder, &by_workers(workers)).unwrap().reports[0].tables[0].clone()
}

fn said(cell: &ReportCell) -> String {
    match cell {
        ReportCell::Text(text) => text.clone(),
        ReportCell::Decimal(decimal) => decimal.to_string(),
        ReportCell::Empty => String::new(),
        other => panic!("{other:?}"),
    }
}

fn all_said(cells: &[ReportCell]) -> Vec<String> {
    cells.iter().map(said).collect()
}

/// The largest amount first, those without one last, then the mark, then the records' own order.
fn in_order(rows: &[Row]) -> Vec<Row> {
    let mut rows = rows.to_vec();
    rows.sort_by_key(|row| (row.cents.is_none(), Reverse(row.cents), row.mark, row.number));
    rows
}

fn counted(rows: &[Row]) -> String {
    format!("{} {}", rows.len(), if rows.len() == 1 { "row" } else { "rows" })
}

fn sum(rows: &[Row]) -> String {
    decimal(rows.iter().filter_map(|row| row.cents).sum())
}

/// Every line of a list by customer, each with its three cells, the sums among the rows.
fn by_customer(rows: &[Row], listed: Listed) -> Vec<[String; 3]> {
    let ordered = in_order(rows);
    let mut lines = Vec::new();
    let kept: Vec<Row> = match listed {
        Listed::First(most) => ordered.iter().take(most).cloned().collect(),
        _ => ordered.clone(),
    };
    for (nth, customer) in CUSTOMERS.iter().enumerate() {
        let of =
            |rows: &[Row]| -> Vec<Row> { rows.iter().filter(|row| row.customer == nth).cloned().collect() };
        let group = of(&kept);
        if group.is_empty() {
            continue;
        }
        let shown = match listed {
            Listed::OfEach(most) => &group[..most.min(group.len())],
            _ => &group,
        };
        for row in shown {
            let amount = row.cents.map_or_else(String::new, decimal);
            lines.push([(*customer).to_owned(), format!("N{}", row.number), amount]);
        }
        let left = &group[shown.len()..];
        if !left.is_empty() {
            lines.push([format!("… and {} more", left.len()), String::new(), sum(left)]);
        }
        lines.push([format!("{customer}: {}", counted(&group)), String::new(), sum(&group)]);
    }
    let left = &ordered[kept.len()..];
    if !left.is_empty() {
        lines.push([format!("… and {} more", left.len()), String::new(), sum(left)]);
    }
    lines.push([format!("Total: {}", counted(rows)), String::new(), sum(rows)]);
    lines
}

/// The rows of a table with its sums where they are, and its total.
fn lines_of(table: &ReportTable) -> Vec<Vec<String>> {
    let mut lines = Vec::new();
    let put_sums = |lines: &mut Vec<Vec<String>>, behind: usize| {
        lines.extend(table.sums.iter().filter(|sum| sum.behind == behind).map(|sum| all_said(&sum.cells)));
    };
    put_sums(&mut lines, 0);
    for (nth, row) in table.rows.iter().enumerate() {
        lines.push(all_said(&row));
        put_sums(&mut lines, nth + 1);
    }
    lines.extend(table.total.iter().map(|total| all_said(total)));
    lines
}

proptest! {
    #![proptest_config(ProptestConfig { cases: 60, ..ProptestConfig::default() })]

    #[test]
    fn lists_are_what_they_are_by_hand(rows in any_rows(), listed in any_listed(), workers in 1..5_usize) {
        let folder = tempfile::tempdir().unwrap();
        let table = table_of(folder.path(), &rows, listed, "by = \"Customer\"", workers);
        prop_assert_eq!(&table.columns, &["Customer", "Invoice", "Amount"].map(str::to_owned));
        let expected: Vec<Vec<String>> = by_customer(&rows, listed).into_iter().map(Vec::from).collect();
        prop_assert_eq!(lines_of(&table), expected);
    }
}

#[test]
fn without_groups_the_rest_and_the_total_stand_below() {
    let folder = tempfile::tempdir().unwrap();
    let cents = [Some(5), Some(40), None, Some(40), Some(-3)];
    let rows: Vec<Row> = (0..)
        .zip(cents)
        .map(|(number, cents)| Row { number, customer: 0, mark: u8::from(number == 1), cents })
        .collect();
    let table = table_of(folder.path(), &rows, Listed::First(2), "", 2);
    let expected = [["N3", "0.40"], ["N1", "0.40"], ["… and 3 more", "0.02"], ["Total: 5 rows", "0.82"]];
    assert_eq!(lines_of(&table), expected.map(|line| line.map(str::to_owned).to_vec()));
    assert_eq!(table.sums[0].of, SumRowOf::LeftOut);
    // The rest of the total next to the first row: N1, and what the last row but one represents.
    assert_eq!(all_said(&table.rest_behind(1, "all others")), ["all others", "0.42"]);
}

#[test]
fn groups_in_groups_end_from_within() {
    let folder = tempfile::tempdir().unwrap();
    let rows: Vec<Row> = [(0, 1, 10), (0, 2, 20), (1, 1, 40), (0, 1, 80)]
        .into_iter()
        .enumerate()
        .map(|(number, (customer, mark, cents))| Row { number, customer, mark, cents: Some(cents) })
        .collect();
    let table = table_of(folder.path(), &rows, Listed::All, "by = [\"Customer\", \"Mark\"]", 3);
    let lines: Vec<String> = lines_of(&table).iter().map(|line| line.join("|")).collect();
    assert_eq!(
        lines,
        [
            "Cordage & Co.|1|N3|0.80",
            "Cordage & Co.|1|N0|0.10",
            "|1: 2 rows||0.90",
            "Cordage & Co.|2|N1|0.20",
            "|2: 1 row||0.20",
            "Cordage & Co.: 3 rows|||1.10",
            "ferry nine|1|N2|0.40",
            "|1: 1 row||0.40",
            "ferry nine: 1 row|||0.40",
            "Total: 4 rows|||1.50",
        ]
    );
}
