//! How the values of a figure lie: bands, quartiles, outliers that are marked and counted with the others.

#![allow(clippy::unwrap_used, clippy::expect_used)] // a test fails by panicking

mod support;

use insta::assert_snapshot;
use proptest::prelude::*;
use serde_json::json;
use support::Desk;

const PLAN: &str = r#"plan  = 1
title = "Repairs"
as_of = 2026-09-30

[records]
file    = "crew.csv"
key     = "Number"
duplicates = "set aside"

[records.dates]
Start = "iso"

[records.numbers]
Repairs = { decimals = 1 }

[[column]]
name   = "Repair band"
bucket = "Repairs"
edges  = [10, 20]

[[report]]
kind = "distribution"
of   = "Repairs"

[output]
rows       = "rows.csv"
exceptions = "exceptions.csv"
"#;

/// Quartiles of eleven values: the 3rd, 6th and 9th from both ends; here 12.0, 14.0 and 16.0, so that outliers lie below 6 and above 22.
const CREW: &str = "Number,Start,Repairs
C1,2020-01-15,14
C2,2020-01-31,12
C3,2020-02-29,16
C4,2019-07-01,22
C5,2019-07-02,6
C6,2018-03-15,5.9
C7,2017-05-05,40
C8,2016-08-20,13
C9,2015-11-30,15
C10,2015-12-31,12
C11,2026-09-01,16
C12,2026-09-02,
C13,2026-09-03,none
";

fn desk(plan: &str) -> Desk {
    let desk = Desk::new();
    desk.write("plan.toml", plan);
    desk.write("crew.csv", CREW);
    desk
}

#[test]
fn quartiles_and_outliers_by_hand() {
    let report = desk(PLAN).report();
    let [bands, measures, outliers] =
        [0, 1, 2].map(|nth| report["tables"][nth]["rows"].as_array().unwrap().clone());
    let figure = |name: &str| measures.iter().find(|row| row[0] == name).unwrap().clone();
    for (name, value) in [
        ("Smallest", "5.9"),
        ("First quartile", "12.00"),
        ("Median", "14.00"),
        // 171.9 ÷ 11.
        ("Mean", "15.63"),
        ("Third quartile", "16.00"),
        ("Largest", "40.0"),
        ("Outliers below", "6.00"),
        ("Outliers above", "22.00"),
    ] {
        assert_eq!(figure(name)[1], value, "{name}");
    }
    assert_eq!([&figure("Smallest")[3], &figure("Largest")[3]], ["C6", "C7"]);
    // What lies on a bound is none.
    assert_eq!(json!(outliers), json!([["C6", "5.9", "below"], ["C7", "40.0", "above"]]));
    let counts = bands.iter().map(|row| row[1].as_u64().unwrap());
    assert_eq!(counts.sum::<u64>(), 11);
    assert_snapshot!("a_distribution_as_it_is_shown", desk(PLAN).run_plan().out);
}

#[test]
fn bands_of_the_plan_with_the_empty_ones() {
    let report = desk(
        &PLAN
            .replace("of   = \"Repairs\"", "of   = \"Repairs\"\nband = \"Repair band\"")
            .replace("[10, 20]", "[5, 10, 20]"),
    )
    .report();
    assert_eq!(
        report["tables"][0]["rows"],
        json!([
            ["Up to 5", 0, "0.0"],
            ["over 5 to 10", 2, "18.2"],
            ["over 10 to 20", 7, "63.6"],
            ["Over 20", 2, "18.2"]
        ])
    );
}

#[test]
fn a_distribution_of_one_value_and_of_none() {
    let one = desk(PLAN);
    one.write("crew.csv", "Number,Start,Repairs\nC1,2020-01-15,14\nC2,2020-01-15,14\n");
    assert_eq!(one.report()["tables"][0]["rows"], json!([["14.0", 2, "100.0"]]));
    one.write("crew.csv", "Number,Start,Repairs\nC1,2020-01-15,\n");
    let none = one.report();
    assert_eq!(none["tables"], json!([]));
}

#[test]
fn of_many_rows_of_one_value_the_first_is_named() {
    let desk = desk(PLAN);
    // 300 rows of the smallest and 300 of the largest, of which 200 each are known.
    let rows = (1..=900).map(|nth| format!("C{nth:03},,{}\n", [1, 50, 99][nth % 3]));
    desk.write("crew.csv", format!("Number,Start,Repairs\n{}", rows.collect::<String>()));
    let report = desk.report();
    let measures = report["tables"][1]["rows"].as_array().unwrap();
    let key = |name: &str| measures.iter().find(|row| row[0] == name).unwrap()[3].clone();
    assert_eq!((key("Smallest"), key("Largest")), (json!("C003"), json!("C002")));
    // Those of several outliers of one value are in the order of their rows.
    let rows = (1..=300).map(|nth| format!("C{nth:03},,{}\n", if nth % 100 == 50 { 99 } else { nth % 5 }));
    desk.write("crew.csv", format!("Number,Start,Repairs\n{}", rows.collect::<String>()));
    let outliers = json!([["C050", "99.0", "above"], ["C150", "99.0", "above"], ["C250", "99.0", "above"]]);
    assert_eq!(desk.report()["tables"][2]["rows"], outliers);
}

/// Rates by months of tenure have divisors of which no two are alike: their mean is one all the same.
#[test]
fn the_mean_of_rates_by_months_of_tenure() {
    let rate = "[[column]]\nname = \"A month\"\nrate = \"Repairs\"\ntenure = \"Start\"\nper = \"month\"\ndecimals = 6\n\n";
    let plan = PLAN
        .replace("[[report]]\n", &format!("{rate}[[report]]\n"))
        .replace("kind = \"distribution\"\nof   = \"Repairs\"", "kind = \"summary\"\nby = \"Start\"\nshow = [\"count\", { mean = \"A month\" }, { sum = \"A month\" }]");
    let desk = desk(&plan);
    let mut text = String::from("Number,Start,Repairs\n");
    for nth in 0..120 {
        text.push_str(&format!(
            "C{nth},20{:02}-{:02}-{:02},{}\n",
            5 + nth % 19,
            nth % 12 + 1,
            nth % 28 + 1,
            7 + nth * 3
        ));
    }
    desk.write("crew.csv", text);
    let report = desk.report();
    // The single rates, with six decimals each, come within as many millionths of their sum.
    let rows = desk.read("rows.csv");
    let cents = |cell: &str| cell.replace('.', "").parse::<i64>().unwrap();
    let sum: i64 = rows.lines().skip(1).map(|line| cents(line.rsplit(',').next().unwrap())).sum();
    let total = &report["tables"][0]["total"];
    assert!((cents(total[3].as_str().unwrap()) - sum).abs() <= 120, "{total}");
    assert!((cents(total[2].as_str().unwrap()) * 120 - sum).abs() <= 240, "{total}");
}

#[test]
fn mistakes_of_a_distribution() {
    for (name, was, is) in [
        ("a_distribution_of_nothing", "of   = \"Repairs\"\n", ""),
        ("a_distribution_of_dates", "of   = \"Repairs\"", "of   = \"Start\""),
        ("bands_that_are_none", "of   = \"Repairs\"", "of   = \"Repairs\"\nband = \"Repairs\""),
    ] {
        let answer = desk(&PLAN.replace(was, is)).mild(&["check", "plan.toml"]);
        assert_eq!(answer.code, 2);
        assert_snapshot!(name, answer.err);
    }
}

proptest! {
    #![proptest_config(ProptestConfig { cases: 16, ..ProptestConfig::default() })]

    /// Quartiles and outliers against a sorted list of all values.
    #[test]
    fn outliers_against_a_sorted_list(values in prop::collection::vec(-400_i64..400, 1..60)) {
        let desk = desk(PLAN);
        let tenths = |units: i64| format!("{}{}.{}", if units < 0 { "-" } else { "" }, units.abs() / 10, units.abs() % 10);
        let mut text = String::from("Number,Start,Repairs\n");
        values.iter().enumerate().for_each(|(nth, units)| text.push_str(&format!("C{nth},,{}\n", tenths(*units))));
        desk.write("crew.csv", text);
        let report = desk.report();
        let mut sorted = values.clone();
        sorted.sort_unstable();
        // In eighths of the tenths: quartiles lie at quarters of ranks, their distance is taken one and a half times.
        let quartile = |place: i64| {
            let rank = (sorted.len() as i64 - 1) * place;
            let (at, part) = ((rank / 4) as usize, rank % 4);
            let next = sorted.get(at + 1).copied().unwrap_or(sorted[at]);
            2 * (sorted[at] * 4 + (next - sorted[at]) * part)
        };
        let (first, third) = (quartile(1), quartile(3));
        let far = (third - first) / 2 * 3;
        let out = |units: &&i64| **units * 8 < first - far || **units * 8 > third + far;
        let wanted: usize = values.iter().filter(out).count();
        let tables = report["tables"].as_array().unwrap();
        let found = tables.get(2).map_or(0, |table| table["rows"].as_array().unwrap().len());
        prop_assert_eq!(found, wanted);
        let counts = tables[0]["rows"].as_array().unwrap().iter().map(|row| row[1].as_u64().unwrap());
        prop_assert_eq!(counts.sum::<u64>(), values.len() as u64);
    }
}
