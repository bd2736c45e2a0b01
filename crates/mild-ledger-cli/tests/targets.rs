//! What came in so far against a target, by the days that are gone.

#![allow(clippy::unwrap_used, clippy::expect_used)] // a test fails by panicking

mod support;

use insta::assert_snapshot;
use proptest::prelude::*;
use serde_json::{Value, json};
use support::Desk;

const PLAN: &str = r#"plan  = 1
title = "Sail loft"
as_of = 2026-08-14

[records]
file    = "sales.csv"
key     = "Sale"
duplicates = "set aside"

[records.dates]
Sold = "iso"

[records.amounts]
Amount = { decimals = 2 }

[calendar.yard]
rest_days = ["saturday", "sunday"]
covers    = "2026"
holidays  = [2026-08-03]

[[report]]
kind     = "target"
amount   = "Amount"
of       = "Sold"
within   = "this quarter"
planned   = 65000
over     = "working days"
calendar = "yard"

[output]
rows       = "rows.csv"
exceptions = "exceptions.csv"
"#;

/// The third quarter of 2026 has 23, 20 (the 3rd of August is off) and 22 working days: a target of 1,000.00 a working day.
const SALES: &str = "Sale,Currency,Sold,Amount
1,EUR,2026-06-30,700.00
2,EUR,2026-07-01,20000.00
3,EUR,2026-07-31,1500.50
4,EUR,2026-08-14,9000.00
5,EUR,2026-08-15,4000.00
6,EUR,2026-10-01,50.00
7,EUR,,25.00
8,EUR,2026-08-01,
9,GBP,2026-07-04,10.00
";

fn desk(plan: &str) -> Desk {
    let desk = Desk::new();
    desk.write("plan.toml", plan);
    desk.write("sales.csv", SALES);
    desk
}

/// The figures of the second table by their names.
fn measure(report: &Value, name: &str) -> Value {
    let rows = report["tables"][1]["rows"].as_array().unwrap();
    rows.iter().find(|row| row[0] == name).unwrap()[1].clone()
}

#[test]
fn a_quarter_by_working_days() {
    let report = desk(PLAN).report();
    let table = &report["tables"][0];
    assert_eq!(
        table["rows"],
        json!([
            ["2026-07", 23, 23, "23000.00", "23000.00", "21510.50", "-1489.50"],
            ["2026-08, unfinished", 20, 9, "20000.00", "9000.00", "9000.00", "0.00"],
            ["2026-09", 22, 0, "22000.00", "0.00", "0.00", "0.00"],
        ])
    );
    assert_eq!(table["total"], json!(["Total", 65, 32, "65000.00", "32000.00", "30510.50", "-1489.50"]));
    // 32 of 65 days; 34,489.50 over the 33 that are left; 30,510.50 ÷ 32 × 65.
    for (name, figure) in [
        ("Share of the days gone", "49.2"),
        ("Ahead of the target so far", "-1489.50"),
        ("Still to come in", "34489.50"),
        ("Rate so far", "953.45"),
        ("Rate needed", "1045.14"),
        ("In the end, at the rate so far", "61974.45"),
    ] {
        assert_eq!(measure(&report, name), figure, "{name}");
    }
    let answer = desk(PLAN).run_plan();
    assert_snapshot!("a_target_as_it_is_shown", answer.out);
}

#[test]
fn a_target_of_each_month_by_days_and_before_and_behind_its_span() {
    let by_month = PLAN
        .replace("planned   = 65000", "planned   = [31000, 62000.50, 30000]")
        .replace("over     = \"working days\"\ncalendar = \"yard\"\n", "");
    let seen_from = |as_of: &str| {
        let desk = desk(&by_month);
        let answer = desk.mild(&["run", "plan.toml", "--overwrite", "--json", "--as-of", as_of]);
        assert_eq!(answer.code, 0, "{}", answer.err);
        answer.json()["reports"][0].clone()
    };
    let middle = seen_from("2026-08-14");
    // August: 62,000.50 × 14 ÷ 31.
    assert_eq!(
        middle["tables"][0]["rows"][1],
        json!(["2026-08, unfinished", 31, 14, "62000.50", "28000.23", "9000.00", "-19000.23"])
    );
    let spans =
        by_month.replace("within   = \"this quarter\"", "from = 2026-07-01\nto = \"end of this quarter\"");
    assert_eq!(desk(&spans).report()["tables"][0], middle["tables"][0]);
    // Before its first day, after its last, and once it is reached.
    let fixed = by_month.replace("within   = \"this quarter\"", "from = 2026-07-01\nto = 2026-09-30");
    let seen = |as_of: &str| desk(&fixed.replace("as_of = 2026-08-14", &format!("as_of = {as_of}"))).report();
    let before = seen("2026-06-29");
    assert_eq!(measure(&before, "Rate so far"), "(no day of the span is gone)");
    assert_eq!(measure(&before, "Rate needed"), "1336.96");
    let behind = seen("2026-12-31");
    assert_eq!(measure(&behind, "Rate needed"), "(no day of the span is left)");
    assert_eq!(measure(&behind, "Still to come in"), "88490.00");
    let reached = fixed.replace("[31000, 62000.50, 30000]", "30510.50");
    let reached = desk(&reached).report();
    assert_eq!([measure(&reached, "Still to come in"), measure(&reached, "Rate needed")], ["0.00", "0.00"]);
}

#[test]
fn targets_by_currency() {
    let plan = PLAN
        .replace("Amount = { decimals = 2 }", "Amount = { decimals = 2, currency = \"Currency\" }")
        .replace("planned   = 65000", "planned   = { EUR = 65000, USD = 1 }");
    let report = desk(&plan).report();
    let tables = report["tables"].as_array().unwrap();
    assert_eq!(tables[0]["total"], json!(["Total", 65, 32, "65000.00", "32000.00", "30500.50", "-1499.50"]));
    let pounds = tables.iter().find(|table| table["title"] == "Target, GBP").unwrap();
    let why = "(the plan states no target of this currency)";
    assert_eq!(pounds["total"], json!(["Total", why, why, why, why, "10.00", why]));
}

#[test]
fn a_currency_in_any_case_has_its_target() {
    let plan = PLAN
        .replace("Amount = { decimals = 2 }", "Amount = { decimals = 2, currency = \"Currency\" }")
        .replace("planned   = 65000", "planned   = { eur = 65000, GBP = 100 }");
    let desk = desk(&plan);
    desk.write("sales.csv", SALES.replace("1,EUR", "1,eur").replace("9,GBP", "9,gbp"));
    let report = desk.report();
    for (table, target) in [("Target, EUR", "65000.00"), ("Target, GBP", "100.00")] {
        let tables = report["tables"].as_array().unwrap();
        let table = tables.iter().find(|known| known["title"] == table).unwrap();
        assert_eq!(table["total"][3], target);
    }
}

#[test]
fn mistakes_of_a_target() {
    for (name, was, is) in [
        ("a_target_without_days", "within   = \"this quarter\"\n", ""),
        ("a_target_of_days_and_days", "within   = ", "from = 2026-07-01\nto = 2026-07-31\nwithin   = "),
        ("a_target_backwards", "within   = \"this quarter\"\n", "from = 2026-07-01\nto = 2026-06-30\n"),
        ("too_few_targets", "65000", "[65000, 100]"),
        ("a_target_in_words", "65000", "\"much\""),
        ("a_target_finer_than_the_amounts", "65000", "65000.005"),
        ("a_target_of_a_currency_that_no_amount_has", "65000", "{ EUR = 65000 }"),
        ("a_target_without_a_currency", "{ decimals = 2 }", "{ decimals = 2, currency = \"Currency\" }"),
        ("a_target_in_a_year_that_is_not_covered", "this quarter", "next 12 months"),
    ] {
        let answer = desk(&PLAN.replace(was, is)).mild(&["check", "plan.toml"]);
        assert_eq!(answer.code, 2, "{name}: {}", answer.out);
        assert_snapshot!(name, answer.err);
    }
}

proptest! {
    #![proptest_config(ProptestConfig { cases: 12, ..ProptestConfig::default() })]

    /// Whatever is sold when, each row is in one place, and the months sum to what came in.
    #[test]
    fn a_target_against_a_walk_over_the_rows(
        sales in prop::collection::vec((0_i32..200, -9_999_i64..10_000), 1..30), back in 0_i32..120,
    ) {
        let first: mild_ledger::Date = "2026-06-01".parse().unwrap();
        let day = |number: i32| first.days_later(number).unwrap();
        let mut text = String::from("Sale,Currency,Sold,Amount\n");
        let as_of = day(back);
        let (mut so_far, mut after) = (0_i64, 0_i64);
        let quarter = mild_ledger::DateRange::new(day(30), day(121)).unwrap();
        for (nth, (number, units)) in sales.iter().enumerate() {
            let sign = if *units < 0 { "-" } else { "" };
            let amount = format!("{sign}{}.{:02}", units.abs() / 100, units.abs() % 100);
            text.push_str(&format!("{nth},EUR,{},{amount}\n", day(*number)));
            if quarter.contains(day(*number)) {
                *(if day(*number) <= as_of { &mut so_far } else { &mut after }) += units;
            }
        }
        let plan = PLAN
            .replace("within   = \"this quarter\"", "from = 2026-07-01\nto = 2026-09-30")
            .replace("as_of = 2026-08-14", &format!("as_of = {as_of}"));
        let desk = desk(&plan);
        desk.write("sales.csv", text);
        let report = desk.report();
        let units = |cell: &Value| cell.as_str().unwrap().replace('.', "").parse::<i64>().unwrap();
        let table = &report["tables"][0];
        prop_assert_eq!(units(&table["total"][5]), so_far);
        let months = table["rows"].as_array().unwrap().iter().map(|row| units(&row[5]));
        prop_assert_eq!(months.sum::<i64>(), so_far);
    }
}
