//! Random records with all the faults people meet, run and added up again by a naive model.

#![allow(clippy::unwrap_used, clippy::expect_used, clippy::panic)] // a test fails by panicking

mod support;

use mild_ledger_records::{Plan, ProofAgainst, ProofValue, ReportCell, ReportTable, RunOutcome};
use proptest::prelude::*;
use std::collections::BTreeMap;
use std::fs;
use std::path::Path;
use support::{by_workers, run_with};

const CUSTOMERS: [&str; 4] = ["Heron Charters", "Cordage & Co.", "", "Brise d'Été, \"Voile\""];

/// One row of made-up records, as the model knows it.
#[derive(Debug, Clone)]
struct Row {
    key: u8,
    customer: usize,
    /// Days before the as-of date, 2026-09-30; outside −20 to 120 the cell is not a date.
    issued: i32,
    paid: Option<i32>,
    cents: i64,
    fault: Fault,
}

#[derive(Debug, Clone, Copy, PartialEq)]
enum Fault {
    None,
    TooManyCells,
    AmountUnreadable,
    Spaces,
}

fn any_row() -> impl Strategy<Value = Row> {
    let fault = prop_oneof![
        8 => Just(Fault::None),
        1 => Just(Fault::TooManyCells),
        1 => Just(Fault::AmountUnreadable),
        1 => Just(Fault::Spaces),
    ];
    (any::<u8>(), 0..4_usize, -25..125, prop::option::of(-20..120), -10_000..100_000_i64, fault).prop_map(
        |(key, customer, issued, paid, cents, fault)| Row { key, customer, issued, paid, cents, fault },
    )
}

/// The date a number of days before 2026-09-30, stepped to one by one.
fn date(days_before: i32) -> String {
    let length = |year: i32, month: usize| {
        [31, 28 + i32::from(year % 4 == 0), 31, 30, 31, 30, 31, 31, 30, 31, 30, 31][month - 1]
    };
    let (mut year, mut month, mut day) = (2026, 9, 30);
    for _ in 0..days_before.abs() {
        if days_before > 0 {
            day -= 1;
            if day == 0 {
                (year, month) = if month == 1 { (year - 1, 12) } else { (year, month - 1) };
                day = length(year, month);
            }
        } else {
            day += 1;
            if day > length(year, month) {
                (year, month) = if month == 12 { (year + 1, 1) } else { (year, month + 1) };
                day = 1;
            }
        }
    }
    format!("{day:02}/{month:02}/{year}")
}

fn is_date(days: i32) -> bool {
    (-20..=120).contains(&days)
}

/// The currency of a row, which its key decides; the last is none.
const CURRENCIES: [&str; 4] = ["EUR", "USD", "kr", ""];

fn currency(row: &Row) -> &'static str {
    CURRENCIES[usize::from(row.key) % CURRENCIES.len()]
}

/// The same as people write it.
fn currency_written(row: &Row) -> String {
    match currency(row) {
        code if code.len() == 3 && row.cents % 2 == 0 => format!(" {}", code.to_lowercase()),
        text => text.to_owned(),
    }
}

fn written(rows: &[Row]) -> String {
    let mut text = String::from("Key,Customer,Issued,Paid,Currency,Amount\r\n");
    for row in rows {
        let issued = if is_date(row.issued) { date(row.issued) } else { "31/06/2026".to_owned() };
        let paid = row.paid.map_or_else(String::new, date);
        let sign = if row.cents < 0 { "-" } else { "" };
        let mut amount = format!("{sign}{}.{:02}", row.cents.abs() / 100, row.cents.abs() % 100);
        let mut customer = CUSTOMERS[row.customer].replace('"', "\"\"");
        match row.fault {
            Fault::AmountUnreadable => amount.push('x'),
            Fault::TooManyCells => amount.push_str(",more"),
            Fault::Spaces => customer.push(' '),
            Fault::None => {}
        }
        let currency = currency_written(row);
        text.push_str(&format!("K{},\"{customer}\",{issued},{paid},{currency},{amount}\r\n", row.key));
    }
    text
}

/// What the model expects of a run.
#[derive(Debug, Default, PartialEq)]
struct Sums {
    rows: [u64; 5],
    /// read, written, set aside, merged, not selected
    cents: [i64; 5],
    unreadable: u64,
    /// Cents by customer and bucket; bucket 4 is "Unreadable", 5 "Credits".
    aged: BTreeMap<(String, usize), i64>,
    settled: i64,
    not_yet_issued: i64,
}

fn expected(rows: &[Row], duplicates: &str) -> Sums {
    let mut sums = Sums::default();
    sums.rows[0] = rows.len() as u64;
    let usable = |row: &Row| matches!(row.fault, Fault::None | Fault::Spaces);
    for (nth, row) in rows.iter().enumerate() {
        if !usable(row) {
            sums.unreadable += 1;
            sums.rows[2] += 1;
            continue;
        }
        sums.cents[0] += row.cents;
        let earlier = rows[..nth].iter().any(|other| usable(other) && other.key == row.key);
        let later = rows[nth + 1..].iter().any(|other| usable(other) && other.key == row.key);
        let place = match duplicates {
            "set aside" if earlier => 2,
            "first" if earlier => 3,
            "last" if later => 3,
            _ if row.cents > 50_000 => 4,
            _ => 1,
        };
        sums.rows[place] += 1;
        sums.cents[place] += row.cents;
        if place != 1 {
            continue;
        }
        if is_date(row.issued) && row.issued < 0 {
            sums.not_yet_issued += row.cents;
            // What is paid ahead is a credit until the invoice is issued.
            if row.paid.is_some_and(|paid| paid >= 0) && row.cents != 0 {
                sums.settled += row.cents;
                *sums.aged.entry((customer_of(row), 5)).or_default() -= row.cents;
            }
        } else if row.paid.is_some_and(|paid| paid >= 0) || row.cents == 0 {
            sums.settled += row.cents;
        } else {
            let bucket = match row.issued {
                _ if row.cents < 0 => 5,
                days if !is_date(days) => 4,
                ..=0 => 0,
                1..=30 => 1,
                31..=60 => 2,
                _ => 3,
            };
            *sums.aged.entry((customer_of(row), bucket)).or_default() += row.cents;
        }
    }
    sums.aged.retain(|_, cents| *cents != 0);
    sums
}

fn customer_of(row: &Row) -> String {
    Some(CUSTOMERS[row.customer]).filter(|name| !name.is_empty()).unwrap_or("(blank)").to_owned()
}

fn found(outcome: &RunOutcome) -> Sums {
    let rows = outcome.rows;
    Sums {
        rows: [rows.read, rows.written, rows.set_aside, rows.merged, rows.not_selected],
        unreadable: outcome.amounts[0].unreadable_rows,
        ..found_of(outcome, None)
    }
}

/// Of one currency, where the plan names a column of them; without the rows, which are counted over all.
fn found_of(outcome: &RunOutcome, currency: Option<&str>) -> Sums {
    let is_it = |of: &Option<String>| of.as_deref() == currency;
    let cents = |amount: mild_ledger::Decimal| amount.units() as i64;
    let report = &outcome.reports[0];
    // A currency that no row has comes nowhere.
    let amounts = outcome.amounts.iter().find(|amount| is_it(&amount.currency));
    let table = report.tables.iter().find(|table| is_it(&table.currency));
    let against = ProofAgainst::AmountWritten("Amount".to_owned(), currency.map(ToOwned::to_owned));
    let proof = report.proof.iter().find(|line| line.against == against);
    let part = |name: &str| {
        proof.map_or(0, |proof| {
            match proof.parts.iter().find(|part| part.name == name).map(|part| part.value) {
                Some(ProofValue::Amount(amount)) => cents(amount),
                other => panic!("no amount of {name}: {other:?}"),
            }
        })
    };
    Sums {
        cents: amounts
            .map_or([0; 5], |of| [of.read, of.written, of.set_aside, of.merged, of.not_selected].map(cents)),
        aged: table.map_or_else(BTreeMap::new, aged),
        settled: part("settled"),
        not_yet_issued: part("not yet issued"),
        ..Sums::default()
    }
}

/// The amounts of an aging that are not zero, by customer and bucket.
fn aged(table: &ReportTable) -> BTreeMap<(String, usize), i64> {
    let mut aged = BTreeMap::new();
    let buckets = &table.columns[1..table.columns.len() - 1];
    for row in table.rows.iter() {
        let ReportCell::Text(name) = &row[0] else { panic!("no name: {row:?}") };
        for (bucket, cell) in row[1..=buckets.len()].iter().enumerate() {
            let ReportCell::Decimal(amount) = cell else { panic!("no amount: {row:?}") };
            let bucket = match buckets[bucket].as_str() {
                "Unreadable" => 4,
                "Credits" => 5,
                _ => bucket,
            };
            if amount.units() != 0 {
                aged.insert((name.clone(), bucket), amount.units() as i64);
            }
        }
    }
    aged
}

fn run_on(folder: &Path, rows: &[Row], duplicates: &str) -> RunOutcome {
    run_saying(folder, rows, duplicates, "decimals = 2")
}

/// With this said of the amounts.
fn run_saying(folder: &Path, rows: &[Row], duplicates: &str, amount: &str) -> RunOutcome {
    let plan = format!(
        r#"plan = 1
as_of = 2026-09-30
[records]
file = "records.csv"
key = "Key"
duplicates = "{duplicates}"
[records.dates]
Issued = "day/month/year"
Paid = "day/month/year"
[records.amounts]
Amount = {{ {amount} }}
[[select]]
column = "Amount"
at_most = 500
[[column]]
name = "Days"
between = ["Issued", "as-of"]
count = "days"
[[column]]
name = "Band"
bucket = "Days"
edges = [0, 30, 60]
[[report]]
kind = "aging"
band = "Band"
amount = "Amount"
issued = "Issued"
paid = "Paid"
by = "Customer"
[output]
rows = "rows.csv"
exceptions = "exceptions.csv"
order_by = ["Customer", "Days, largest first"]
"#
    );
    fs::write(folder.join("plan.toml"), plan).unwrap();
    fs::write(folder.join("records.csv"), written(rows)).unwrap();
    run_with(folder, &by_workers(2)).unwrap()
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(60))]
    #[test]
    fn rows_and_amounts_are_where_the_model_has_them(rows in prop::collection::vec(any_row(), 0..120)) {
        let folder = tempfile::tempdir().unwrap();
        for duplicates in ["keep", "set aside", "first", "last"] {
            let outcome = run_on(folder.path(), &rows, duplicates);
            let mut model = expected(&rows, duplicates);
            model.aged.retain(|_, cents| *cents != 0);
            prop_assert_eq!(found(&outcome), model, "{}", duplicates);
        }
    }

    /// The rows of a currency come to what they would come to in a file of their own.
    #[test]
    fn each_currency_is_what_the_model_has_of_its_rows(rows in prop::collection::vec(any_row(), 0..120)) {
        let folder = tempfile::tempdir().unwrap();
        for duplicates in ["keep", "set aside", "last"] {
            let said = "decimals = 2, currency = \"Currency\"";
            let outcome = run_saying(folder.path(), &rows, duplicates, said);
            for name in CURRENCIES {
                let own: Vec<Row> = rows.iter().filter(|row| currency(row) == name).cloned().collect();
                let mut model = Sums { rows: [0; 5], unreadable: 0, ..expected(&own, duplicates) };
                model.aged.retain(|_, cents| *cents != 0);
                prop_assert_eq!(found_of(&outcome, Some(name)), model, "{} {}", name, duplicates);
            }
        }
    }
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(60))]
    #[test]
    fn no_bytes_at_all_break_a_run(bytes in prop::collection::vec(prop_oneof![
        any::<u8>(), Just(b','), Just(b'"'), Just(b'\n'), Just(b'\r'), Just(b'='), b'0'..=b'9', Just(b'/'),
    ], 0..3000)) {
        let folder = tempfile::tempdir().unwrap();
        run_on(folder.path(), &[], "keep");
        let mut records = b"Key,Customer,Issued,Paid,Currency,Amount\n".to_vec();
        records.extend_from_slice(&bytes);
        fs::write(folder.path().join("records.csv"), &records).unwrap();
        match run_with(folder.path(), &by_workers(2)) {
            Ok(outcome) => prop_assert_eq!(
                outcome.rows.read,
                outcome.rows.written + outcome.rows.set_aside + outcome.rows.merged + outcome.rows.not_selected
            ),
            // The only thing that can be wrong with the file as a whole.
            Err(error) => prop_assert!(error.to_string().contains("never closed"), "{}", error),
        }
    }

    #[test]
    fn no_text_breaks_the_reading_of_a_plan(text in "([a-z_]{1,8} = [\"\\[{0-9a-z ,}\\]-]{0,12}\n|\\[{1,2}(records|column|report|output|select|records.dates)\\]{1,2}\n){0,12}") {
        let folder = tempfile::tempdir().unwrap();
        fs::write(folder.path().join("plan.toml"), format!("plan = 1\n{text}")).unwrap();
        if let Err(error) = Plan::read(&folder.path().join("plan.toml")) {
            prop_assert!(error.to_string().contains("plan.toml, line "));
        }
    }
}
