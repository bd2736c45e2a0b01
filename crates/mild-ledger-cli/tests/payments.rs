//! Invoices and a file of payments: what is open at any date, aged. The same ledger as in the library's tests, every cell worked out
//! by hand.

#![allow(clippy::unwrap_used, clippy::expect_used)] // a test fails by panicking

mod support;

use insta::assert_snapshot;
use proptest::prelude::*;
use serde_json::{Value, json};
use std::collections::BTreeMap;
use support::quarter::{PAYMENTS, PLAN, quarter_desk as desk};

/// The cells that are not zero, by currency and column.
fn cells(report: &Value) -> Vec<String> {
    let mut cells = Vec::new();
    for table in report["tables"].as_array().unwrap() {
        let columns = table["columns"].as_array().unwrap();
        for (column, cell) in columns.iter().zip(table["total"].as_array().unwrap()) {
            if cell != "0.00" {
                let title = table["title"].as_str().unwrap().trim_start_matches("Aging, ");
                cells.push(format!("{title} {}: {}", column.as_str().unwrap(), cell.as_str().unwrap()));
            }
        }
    }
    cells
}

#[test]
fn every_cell_at_two_dates() {
    let desk = desk();
    assert_eq!(
        cells(&desk.report_as_of("2026-09-30")),
        [
            "EUR Not yet due: 715.75",
            "EUR 31–60: 990.00",
            "EUR 61–90: 310.00",
            "EUR Over 90: 50.25",
            "EUR Credits: -220.00",
            "EUR Total: 1846.00",
            "GBP Not yet due: 333.34",
            "GBP 1–30: 421.33",
            "GBP 61–90: 333.33",
            "GBP Total: 1088.00",
            "USD Not yet due: 700.00",
            "USD 1–30: 700.00",
            "USD Over 90: 1000.00",
            "USD Credits: -50.00",
            "USD Total: 2350.00",
        ]
    );
    assert_eq!(
        cells(&desk.report_as_of("2026-06-30")),
        [
            "EUR Not yet due: 2760.25",
            "EUR 61–90: 500.00",
            "EUR Total: 3260.25",
            "GBP Not yet due: 1700.00",
            "GBP Total: 1700.00",
            "USD Not yet due: 700.00",
            "USD Over 90: 2500.00",
            "USD Total: 3200.00",
        ]
    );
}

#[test]
fn what_was_reported_is_open_paid_and_set_apart() {
    let report = desk().report_as_of("2026-09-30");
    // Euro: 6,846.50 of invoices and credit notes; 1,200 + 800.50 + 400 + 2,100 paid of them; Q9 is of October.
    let euro = &report["proof"][0];
    assert_eq!(euro["of"], json!("Amount, EUR"));
    assert_eq!(euro["value"], json!("6846.50"));
    assert_eq!(
        euro["parts"],
        json!([
            {"name": "in buckets", "value": "2066.00"},
            {"name": "credits", "value": "-220.00"},
            {"name": "paid", "value": "4500.50"},
            {"name": "not yet issued", "value": "500.00"},
        ])
    );
}

#[test]
fn a_payment_without_an_invoice_is_listed_and_one_after_the_as_of_date_is_counted() {
    let desk = desk();
    desk.write(
        "payments.csv",
        format!("{PAYMENTS}Q99,EUR,2026-09-01,12.00\nQ1,GBP,2026-09-01,1.00\nQ8,EUR,soon,5.00\n"),
    );
    let answer = desk.run_plan();
    assert_eq!(answer.code, 0, "{}", answer.err);
    let listed = desk.read("exceptions.csv");
    assert!(listed.contains("Q99") && listed.contains("no row has this Currency / Invoice"), "{listed}");
    // A payment in another currency is none of that invoice.
    assert!(listed.contains("GBP / Q1"), "{listed}");
    assert!(answer.out.contains("1 row of payments.csv after the as-of date not added"), "{}", answer.out);
    assert!(
        answer.out.contains("1 row of payments.csv without a date that could be read not added"),
        "{}",
        answer.out
    );
    // An invoice without payments is nothing to be listed, and nothing is in doubt for it.
    assert!(!listed.contains("Q13") && !answer.out.contains("have no match"), "{listed}");
    assert!(
        desk.read("rows.csv").contains("Q13,GBP,2026-07-01,net 30,333.33,0.00,"),
        "{}",
        desk.read("rows.csv")
    );
}

#[test]
fn every_payment_of_the_file_is_somewhere() {
    let desk = desk();
    let plan = PLAN
        .replace(", currency = \"Currency\" }\n\n[[join]]", " }\n\n[[join]]")
        .replace("Paid = { decimals = 2, currency = \"Currency\" }", "Paid = { decimals = 2 }");
    desk.write("plan.toml", plan);
    // A key that no invoice has, one without a date, one without a key, one whose amount cannot be read, one broken.
    let more =
        "Q99,EUR,2026-09-01,10.00\nQ2,EUR,,5.00\n,EUR,2026-09-01,2.50\nQ3,EUR,2026-09-02,much\nQ4,EUR\n";
    desk.write("payments.csv", format!("{PAYMENTS}{more}"));
    let answer = desk.mild(&["run", "plan.toml", "--overwrite", "--json"]);
    assert_eq!(answer.code, 0, "{}", answer.err);
    let account = &answer.json()["joined"][0]["account"];
    let parts = |of: usize| -> Vec<(String, String)> {
        let text = |value: &Value| value.as_str().map_or_else(|| value.to_string(), str::to_owned);
        let parts = account[of]["parts"].as_array().unwrap();
        parts.iter().map(|part| (part["name"].as_str().unwrap().to_owned(), text(&part["value"]))).collect()
    };
    let named = |values: [&str; 6]| -> Vec<(String, String)> {
        let names = [
            "added to rows",
            "of keys that no row has",
            "after the as-of date",
            "without a date",
            "without a key",
            "set aside",
        ];
        names.iter().zip(values).map(|(name, value)| ((*name).to_owned(), value.to_owned())).collect()
    };
    // 17 rows, of which those with the amount or the cells amiss are set aside.
    assert_eq!((&account[0]["of"], &account[0]["read"]), (&json!("rows"), &json!(17)));
    assert_eq!(parts(0), named(["11", "1", "1", "1", "1", "2"]));
    // All payments of the ledger are 10,336.65, 75.75 of them on 1 October; with 10.00, 5.00 and 2.50.
    assert_eq!((&account[1]["of"], &account[1]["read"]), (&json!("Paid"), &json!("10354.15")));
    assert_eq!(parts(1), named(["10260.90", "10.00", "75.75", "5.00", "2.50", "0.00"]));
    let shown = desk.mild(&["run", "plan.toml", "--overwrite", "--details"]).out;
    let line = "payments.csv, Paid: read 10,354.15 = added to rows 10,260.90 + of keys that no row has 10.00 + after the as-of date 75.75 + without a date 5.00 + without a key 2.50.";
    assert!(shown.contains(line), "{shown}");
}

#[test]
fn a_blank_amount_is_no_payment_however_many_stand_beside_it() {
    let desk = desk();
    desk.write(
        "plan.toml",
        PLAN.replace(
            "[join.amounts]\nPaid = { decimals = 2, currency = \"Currency\" }",
            "[join.numbers]\nPaid = { decimals = 2 }",
        ),
    );
    desk.write("payments.csv", format!("{PAYMENTS}Q8,EUR,2026-09-30,\nQ1,EUR,2026-09-30,\n"));
    let report = desk.report_as_of("2026-09-30");
    assert_eq!(cells(&report)[0], "EUR Not yet due: 715.75");
    assert_eq!(report["notes"], json!([]));
    let rows = desk.read("rows.csv");
    assert!(
        rows.contains("Q8,EUR,2026-09-30,net 30,640.00,0.00,")
            && rows.contains("Q1,EUR,2026-03-31,net 30,1200.00,1200.00,"),
        "{rows}"
    );
}

#[test]
fn a_run_as_it_is_shown() {
    let answer = desk().run_plan();
    let shown: Vec<&str> = answer.out.lines().take_while(|line| !line.starts_with("Dates")).collect();
    assert_snapshot!(shown.join("\n"));
}

#[test]
fn mistakes_are_told() {
    for (name, from, to) in [
        (
            "a_sum_of_texts_of_payments",
            "columns   = { \"Paid so far\" = \"Paid\" }",
            "columns   = { \"Paid so far\" = \"Invoice\" }",
        ),
        ("sums_up_to_what_is_no_date", "sum_up_to_as_of = \"Date\"", "sum_up_to_as_of = \"Paid\""),
        ("payments_of_several_currencies", ", Currency = \"Currency\" }", " }"),
        (
            "payments_and_a_date_of_payment",
            "payments = \"Paid so far\"",
            "payments = \"Paid so far\"\npaid     = \"Issued\"",
        ),
        ("payments_in_more_decimals", "Paid = { decimals = 2,", "Paid = { decimals = 3,"),
        ("payments_that_are_texts", "payments = \"Paid so far\"", "payments = \"Terms\""),
    ] {
        let desk = desk();
        desk.write("plan.toml", PLAN.replace(from, to));
        let answer = desk.run_plan();
        assert_eq!(answer.code, 2, "{name}: {}", answer.out);
        assert_snapshot!(name, answer.err);
    }
}

proptest! {
    #![proptest_config(ProptestConfig { cases: 24, ..ProptestConfig::default() })]

    /// The aging at a date in the past is that of the payments as they were then, and its buckets sum to what is open.
    #[test]
    fn an_aging_in_the_past_is_that_of_the_files_as_they_stood(
        invoices in prop::collection::vec((1..28_u32, -50_i64..400), 1..12),
        payments in prop::collection::vec((0..14_usize, 1..28_u32, -100_i64..300), 0..30),
        as_of in 1..28_u32,
    ) {
        let desk = desk();
        let money = |cents: i64| format!("{}{}.{:02}", if cents < 0 { "-" } else { "" }, cents.abs() / 100, cents.abs() % 100);
        let mut text = String::from("Invoice,Currency,Issued,Terms,Amount\n");
        for (nth, (day, cents)) in invoices.iter().enumerate() {
            text.push_str(&format!("N{nth},EUR,2026-06-{day:02},net 10,{}\n", money(*cents)));
        }
        desk.write("invoices.csv", &text);
        let file = |upto: u32| {
            let lines = payments.iter().filter(|(_, day, _)| *day <= upto);
            lines.fold(String::from("Invoice,Currency,Date,Paid\n"), |text, (nth, day, cents)| {
                text + &format!("N{nth},EUR,2026-06-{day:02},{}\n", money(*cents))
            })
        };
        let date = format!("2026-06-{as_of:02}");
        desk.write("payments.csv", file(31));
        let seen_back = cells(&desk.report_as_of(&date));
        desk.write("payments.csv", file(as_of));
        prop_assert_eq!(&seen_back, &cells(&desk.report_as_of(&date)));
        // By hand: what is issued less what was paid of it, by invoice.
        let mut sums: BTreeMap<&str, i64> = BTreeMap::new();
        for (nth, (day, cents)) in invoices.iter().enumerate() {
            let paid: i64 = payments.iter().filter(|(of, on, _)| *of == nth && *on <= as_of).map(|(.., cents)| cents).sum();
            if *day > as_of {
                // What was paid ahead is a credit until the invoice is issued.
                *sums.entry("Credits").or_default() -= paid;
                *sums.entry("Total").or_default() -= paid;
                continue;
            }
            let late = i64::from(as_of) - i64::from(*day) - 10;
            let bucket = match cents - paid {
                open if open < 0 => "Credits",
                _ if late <= 0 => "Not yet due",
                _ => "1–30",
            };
            *sums.entry(bucket).or_default() += cents - paid;
            *sums.entry("Total").or_default() += cents - paid;
        }
        let order = ["Not yet due", "1–30", "Credits", "Total"];
        let by_hand: Vec<String> = order
            .iter()
            .filter_map(|bucket| Some((bucket, *sums.get(bucket).filter(|cents| **cents != 0)?)))
            .map(|(bucket, cents)| format!("EUR {bucket}: {}", money(cents)))
            .collect();
        prop_assert_eq!(seen_back, by_hand);
    }
}

#[test]
fn what_is_paid_ahead_is_a_credit_until_the_invoice_is_issued() {
    let desk = desk();
    desk.write("payments.csv", format!("{PAYMENTS}Q9,EUR,2026-09-20,150.00\n"));
    let report = desk.report_as_of("2026-09-30");
    let cells = cells(&report);
    // Q10 is a credit note of 120.00, Q4 is over-paid by 100.00, and Q9 is issued on the next day.
    assert!(cells.contains(&"EUR Credits: -370.00".to_owned()), "{cells:?}");
    assert_eq!(
        report["proof"][0]["parts"],
        json!([
            {"name": "in buckets", "value": "2066.00"},
            {"name": "credits", "value": "-370.00"},
            {"name": "paid", "value": "4650.50"},
            {"name": "not yet issued", "value": "500.00"},
        ])
    );
    let notes = report["notes"].to_string();
    assert!(
        notes.contains("1 row was paid ahead: it is issued after the as-of date, and the 150.00"),
        "{notes}"
    );
    // On the day of its issue it is an invoice of which 350.00 are open.
    let next = self::cells(&desk.report_as_of("2026-10-01"));
    assert!(next.contains(&"EUR Credits: -220.00".to_owned()), "{next:?}");
}

#[test]
fn buckets_have_names_of_their_own() {
    let by_issue = |labels: &str| {
        let desk = desk();
        let plan = PLAN.replace("between = [\"Due\", \"as-of\"]", "between = [\"Issued\", \"as-of\"]");
        let edges = format!("edges  = [-1, 30, 90]\nlabels = {labels}");
        desk.write(
            "plan.toml",
            plan.replace("edges  = [0, 30, 60, 90]", &edges).replace("issued   = \"Issued\"\n", ""),
        );
        desk
    };
    let desk = by_issue("[\"In the future\", \"Fresh\", \"Due\", \"Aged\"]");
    // In the order of the edges, not of the alphabet. Q9 is of October; Q7 and Q8 are 30 days old and of the day.
    let euro: Vec<String> =
        cells(&desk.report_as_of("2026-09-30")).into_iter().filter(|cell| cell.starts_with("EUR")).collect();
    assert_eq!(
        euro,
        [
            "EUR In the future: 500.00",
            "EUR Fresh: 715.75",
            "EUR Due: 990.00",
            "EUR Aged: 360.25",
            "EUR Credits: -220.00",
            "EUR Total: 2346.00"
        ]
    );
    for (name, labels) in [
        ("too_few_names_of_buckets", "[\"Fresh\", \"Aged\"]"),
        ("a_name_of_two_buckets", "[\"Future\", \"Fresh\", \"Due\", \"Due\"]"),
        ("a_bucket_called_as_a_column_of_reports", "[\"Future\", \"Fresh\", \"Due\", \"Credits\"]"),
        ("a_bucket_without_a_name", "[\"Future\", \" \", \"Due\", \"Aged\"]"),
    ] {
        let answer = by_issue(labels).run_plan();
        assert_eq!(answer.code, 2, "{name}: {}", answer.out);
        assert_snapshot!(name, answer.err);
    }
}
