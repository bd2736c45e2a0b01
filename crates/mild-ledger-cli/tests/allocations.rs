//! Amounts spread over the periods of the days that each is for, to the cent.

#![allow(clippy::unwrap_used, clippy::expect_used)] // a test fails by panicking

mod support;

use insta::assert_snapshot;
use proptest::prelude::*;
use serde_json::{Value, json};
use std::collections::BTreeMap;
use support::Desk;

const PLAN: &str = r#"plan  = 1
title = "Prepaid"
as_of = 2026-12-15

[records]
file    = "prepaid.csv"
key     = "Contract"
duplicates = "set aside"

[records.dates]
From = "iso"
To   = "iso"

[records.amounts]
Amount = { decimals = 2 }

[calendar.yard]
rest_days = ["saturday", "sunday"]
covers    = "2026"
holidays  = [2026-02-02]

[[report]]
kind   = "allocation"
amount = "Amount"
from   = "From"
to     = "To"
by     = "Kind"

[output]
rows       = "rows.csv"
exceptions = "exceptions.csv"
"#;

/// A year's insurance at 10.00 a day, a quarter's at 1,000.00, a licence, and what cannot be spread.
const PREPAID: &str = "Contract,Kind,Amount,From,To
P1,Insurance,3650.00,2026-11-10,2027-11-09
P2,Insurance,1000.00,2026-10-01,2026-12-31
P3,Licence,90.00,2026-12-31,2027-01-02
P4,Licence,99.99,2026-12-31,2026-12-01
P5,Licence,,2026-12-01,2026-12-31
P6,Licence,5.00,,2026-12-31
";

fn desk(plan: &str, records: &str) -> Desk {
    let desk = Desk::new();
    desk.write("plan.toml", plan);
    desk.write("prepaid.csv", records);
    desk
}

#[test]
fn every_part_by_days() {
    let report = desk(PLAN, PREPAID).report();
    let rows = report["tables"][0]["rows"].as_array().unwrap();
    let part = |kind: &str, month: &str| -> Vec<Value> {
        let row = rows.iter().find(|row| row[0] == kind && row[1].as_str().unwrap().starts_with(month));
        row.unwrap().as_array().unwrap()[2..].to_vec()
    };
    // October: 1,000 × 31 ÷ 92. November: 21 days at 10.00, and 1,000 × 61 ÷ 92 less 336.96.
    assert_eq!(part("Insurance", "2026-10"), [json!("336.96"), json!("336.96"), json!("4313.04")]);
    assert_eq!(part("Insurance", "2026-11"), [json!("536.08"), json!("873.04"), json!("3776.96")]);
    assert_eq!(part("Insurance", "2027-02"), [json!("280.00"), json!("2110.00"), json!("2540.00")]);
    assert_eq!(part("Insurance", "2027-11"), [json!("90.00"), json!("4650.00"), json!("0.00")]);
    // The last day of the one year and two of the next.
    assert_eq!(part("Licence", "2026-12"), [json!("30.00"), json!("30.00"), json!("60.00")]);
    assert_eq!(part("Licence", "2027-01"), [json!("60.00"), json!("90.00"), json!("0.00")]);
    assert_eq!(report["tables"][0]["total"][2], json!("4740.00"));
    assert_eq!(
        report["proof"][0]["parts"],
        json!([{"name": "allocated", "value": "4740.00"}, {"name": "not allocated", "value": "104.99"}])
    );
    assert_eq!(
        report["notes"],
        json!([
            "1 row is not allocated: no \"From\" or no \"To\"",
            "1 row is not allocated: \"To\" lies before \"From\""
        ])
    );
}

#[test]
fn a_target_over_working_days_in_whole_units() {
    let plan = PLAN.replace("by     = \"Kind\"", "over = \"working days\"\ndecimals = 0");
    let target = "Contract,Kind,Amount,From,To\nT1,Target,100000.00,2026-01-01,2026-03-31\n";
    let report = desk(&plan, target).report();
    // 22, 19 (a holiday on the 2nd) and 22 working days: 100,000 × 22 ÷ 63, × 41 ÷ 63.
    assert_eq!(
        report["tables"][0]["rows"],
        json!([
            ["2026-01", "34921", "34921", "65079"],
            ["2026-02", "30158", "65079", "34921"],
            ["2026-03", "34921", "100000", "0"],
        ])
    );
    // What the calendar does not know is not spread, and neither are cents over whole units.
    let beyond = "Contract,Kind,Amount,From,To\nT1,Target,100.00,2026-12-01,2027-01-31\nT2,Target,0.50,2026-03-01,2026-03-31\n";
    let answer = desk(&plan, beyond).mild(&["run", "plan.toml", "--json"]).json();
    assert_eq!(
        answer["reports"][0]["notes"],
        json!([
            "1 row is not allocated: the calendar does not cover the days",
            "1 row is not allocated: no day to allocate over, or an amount with more decimals than its parts"
        ])
    );
}

#[test]
fn months_weigh_the_same_and_quarters_hold_theirs() {
    let plan = PLAN.replace("by     = \"Kind\"", "over = \"months\"\nperiod = \"quarter\"");
    let rent = "Contract,Kind,Amount,From,To\nR1,Rent,700.00,2026-02-15,2026-08-01\n";
    let report = desk(&plan, rent).report();
    // February to August are seven months.
    assert_eq!(
        report["tables"][0]["rows"],
        json!([
            ["2026-Q1", "200.00", "200.00", "500.00"],
            ["2026-Q2", "300.00", "500.00", "200.00"],
            ["2026-Q3", "200.00", "700.00", "0.00"],
        ])
    );
}

#[test]
fn an_allocation_as_it_is_shown() {
    let answer = desk(PLAN, PREPAID).run_plan();
    assert_eq!(answer.code, 0, "{}", answer.err);
    let shown: Vec<&str> = answer.out.lines().take_while(|line| !line.starts_with("Dates")).collect();
    assert_snapshot!(shown.join("\n"));
}

#[test]
fn mistakes_are_told() {
    for (name, from, to) in [
        ("an_allocation_of_texts", "amount = \"Amount\"", "amount = \"Kind\""),
        ("an_allocation_without_an_end", "to     = \"To\"\n", ""),
        ("an_allocation_over_years", "by     = \"Kind\"", "over = \"years\""),
        ("a_calendar_for_days", "by     = \"Kind\"", "calendar = \"yard\""),
        ("an_allocation_in_more_decimals", "by     = \"Kind\"", "decimals = 3"),
        ("an_allocation_in_three_groups", "by     = \"Kind\"", "by = [\"Kind\", \"Contract\", \"From\"]"),
    ] {
        let answer = desk(&PLAN.replace(from, to), PREPAID).run_plan();
        assert_eq!(answer.code, 2, "{name}: {}", answer.out);
        assert_snapshot!(name, answer.err);
    }
}

proptest! {
    #![proptest_config(ProptestConfig { cases: 24, ..ProptestConfig::default() })]

    /// Each amount dealt out day by day: what has fallen to the days so far is rounded, half away from zero.
    #[test]
    fn parts_are_those_of_a_walk_over_the_days(rows in prop::collection::vec((-5_000_i64..5_000, 1..28_u32, 0..60_u32), 1..12)) {
        let mut text = String::from("Contract,Kind,Amount,From,To\n");
        let mut by_hand: BTreeMap<u32, i64> = BTreeMap::new();
        for (nth, (cents, first, long)) in rows.iter().enumerate() {
            // From April on: 30, 31, 30 days.
            let month_of = |day: u32| match day { ..=30 => (4, day), 31..=61 => (5, day - 30), _ => (6, day - 61) };
            let date = |day: u32| { let (month, day) = month_of(day); format!("2026-{month:02}-{day:02}") };
            let sign = if *cents < 0 { "-" } else { "" };
            text.push_str(&format!("N{nth},A,{sign}{}.{:02},{},{}\n", cents.abs() / 100, cents.abs() % 100, date(*first), date(first + long)));
            let days = i64::from(long + 1);
            let mut before = 0;
            for day in 0..days {
                let so_far = cents * (day + 1);
                let rounded = (so_far.abs() * 2 + days) / (2 * days) * so_far.signum();
                *by_hand.entry(month_of(first + u32::try_from(day).unwrap()).0).or_default() += rounded - before;
                before = rounded;
            }
        }
        let report = desk(&PLAN.replace("by     = \"Kind\"\n", ""), &text).report();
        let cents = |cell: &Value| cell.as_str().unwrap().replace('.', "").parse::<i64>().unwrap();
        let counted: BTreeMap<u32, i64> = report["tables"][0]["rows"]
            .as_array()
            .unwrap()
            .iter()
            .map(|row| (row[0].as_str().unwrap()[5..7].parse().unwrap(), cents(&row[1])))
            .collect();
        prop_assert_eq!(counted, by_hand);
    }
}

#[test]
fn a_span_of_too_many_periods_says_so() {
    // 9,997 years have 119,964 months.
    let text = "Contract,Kind,Amount,From,To\nP1,Licence,100.00,0002-01-01,9998-12-31\nP2,Licence,10.00,2026-01-01,2026-12-31\n";
    let report = desk(PLAN, text).report();
    let note = "1 row is not allocated: from \"From\" to \"To\" are more than 100,000 periods, the most for one amount";
    assert_eq!(report["notes"], json!([note]));
    assert_eq!(report["tables"][0]["total"][2], "10.00");
}
