//! The groups of an aging one inside the other, where its credits are, and buckets with a lowest edge.

#![allow(clippy::unwrap_used, clippy::expect_used)] // a test fails by panicking

mod support;

use insta::assert_snapshot;
use proptest::prelude::*;
use serde_json::Value;
use support::Desk;

const PLAN: &str = r#"plan  = 1
title = "Yard debts"
as_of = 2026-09-30

[records]
file    = "invoices.csv"
key     = "Invoice"
duplicates = "set aside"

[records.dates]
Issued = "iso"
Due    = "iso"

[records.amounts]
Amount = { decimals = 2 }

[[column]]
name    = "Days overdue"
between = ["Due", "as-of"]
count   = "days"

[[column]]
name   = "Age band"
bucket = "Days overdue"
edges  = [0, 30]

[[report]]
kind   = "aging"
band   = "Age band"
amount = "Amount"
issued = "Issued"

[output]
rows       = "rows.csv"
exceptions = "exceptions.csv"
"#;

/// Heron owes 100 since July, 40 since mid-September and 60 that is not yet due, and has credits of 25 from August and 90 of September.
/// Lapwing's credit is more than it owes in the north, and it owes in the south. The due date of 30 of Plover is blank.
const INVOICES: &str = "Invoice,Region,Customer,Issued,Due,Amount
1,North,Heron,2026-06-15,2026-07-15,100.00
2,North,Heron,2026-08-15,2026-09-15,40.00
3,North,Heron,2026-09-20,2026-10-20,60.00
4,North,Heron,2026-08-10,2026-08-10,-25.00
5,North,Heron,2026-09-10,2026-09-10,-90.00
6,North,Lapwing,2026-08-20,2026-09-19,10.00
7,North,Lapwing,2026-09-01,2026-09-01,-35.00
8,South,Lapwing,2026-05-01,2026-05-31,80.00
9,South,Plover,2026-09-01,,30.00
10,South,Plover,2026-09-01,2026-10-15,20.00
11,South,Plover,2026-09-29,2026-09-29,-45.00
12,,Plover,2026-09-29,2026-10-29,5.00
";

fn desk(more: &str) -> Desk {
    let desk = Desk::new();
    desk.write("invoices.csv", INVOICES);
    desk.write("plan.toml", PLAN.replace("issued = \"Issued\"\n", &format!("issued = \"Issued\"\n{more}")));
    desk
}

/// The rows as one line each: names, amounts, total.
fn lines(report: &Value) -> Vec<String> {
    let table = &report["tables"][0];
    let rows = table["rows"].as_array().unwrap().iter().chain([&table["total"]]);
    let cell = |cell: &Value| cell.as_str().unwrap_or("-").to_owned();
    rows.map(|row| row.as_array().unwrap().iter().map(cell).collect::<Vec<_>>().join(" ")).collect()
}

#[test]
fn credits_apart_by_their_date_or_off_the_oldest_debt() {
    let apart = desk("by = \"Customer\"\n").report();
    assert_eq!(apart["buckets"], serde_json::json!(["Not yet due", "1–30", "Over 30", "No date", "Credits"]));
    let apart_lines = [
        "Heron 60.00 40.00 100.00 0.00 -115.00 85.00",
        "Lapwing 0.00 10.00 80.00 0.00 -35.00 55.00",
        "Plover 25.00 0.00 0.00 30.00 -45.00 10.00",
        "Total 85.00 50.00 180.00 30.00 -195.00 150.00",
    ];
    assert_eq!(lines(&apart), apart_lines);
    assert_eq!(lines(&desk("by = \"Customer\"\ncredits = \"apart\"\n").report()), apart_lines);

    // The credit of 10 August is 51 days old; 10 September 20, 1 September 29, 29 September 1.
    let dated = desk("by = \"Customer\"\ncredits = \"by-due-date\"\n").report();
    assert_eq!(dated["buckets"], serde_json::json!(["Not yet due", "1–30", "Over 30", "No date"]));
    assert_eq!(
        lines(&dated),
        [
            "Heron 60.00 -50.00 75.00 0.00 85.00",
            "Lapwing 0.00 -25.00 80.00 0.00 55.00",
            "Plover 25.00 -45.00 0.00 30.00 10.00",
            "Total 85.00 -120.00 155.00 30.00 150.00",
        ]
    );

    // Heron: 100 since July and 15 of the 40; Lapwing: 35 of the 80; Plover: 25 not yet due, then 20 of those without a date.
    let off = desk("by = \"Customer\"\ncredits = { off_oldest_debt_of = \"Customer\" }\n").report();
    assert_eq!(
        lines(&off),
        [
            "Heron 60.00 25.00 0.00 0.00 0.00 85.00",
            "Lapwing 0.00 10.00 45.00 0.00 0.00 55.00",
            "Plover 0.00 0.00 0.00 10.00 0.00 10.00",
            "Total 60.00 35.00 45.00 10.00 0.00 150.00",
        ]
    );
}

#[test]
fn credits_are_set_off_for_each_customer_whatever_the_lines_are() {
    // In the north Lapwing's credit is 25 more than its debt; in the south its 80 stay, and Plover's 45 meet 50.
    let off = |by: &str| desk(&format!("{by}credits = {{ off_oldest_debt_of = \"Customer\" }}\n")).report();
    assert_eq!(
        lines(&off("by = \"Region\"\n")),
        [
            "South 0.00 0.00 80.00 5.00 0.00 85.00",
            "North 60.00 25.00 0.00 0.00 -25.00 60.00",
            "(blank) 5.00 0.00 0.00 0.00 0.00 5.00",
            "Total 65.00 25.00 80.00 5.00 -25.00 150.00",
        ]
    );
    // Without lines of the table it is all of a customer.
    assert_eq!(lines(&off("")), ["60.00 35.00 45.00 10.00 0.00 150.00"; 2]);
    let desk = desk("by = \"Region\"\ncredits = { off_oldest_debt_of = \"Customer\" }\n");
    let answer = desk.mild(&["run", "plan.toml", "--overwrite"]);
    assert_snapshot!("credits_off_the_oldest_debt_as_shown", answer.out);
}

#[test]
fn groups_one_inside_the_other_have_their_sums() {
    let nested = desk("by = [\"Region\", \"Customer\"]\n").report();
    assert_eq!(
        lines(&nested),
        [
            "South Lapwing 0.00 0.00 80.00 0.00 0.00 80.00",
            "South Plover 20.00 0.00 0.00 30.00 -45.00 5.00",
            "North Heron 60.00 40.00 100.00 0.00 -115.00 85.00",
            "North Lapwing 0.00 10.00 0.00 0.00 -35.00 -25.00",
            "(blank) Plover 5.00 0.00 0.00 0.00 0.00 5.00",
            "Total - 85.00 50.00 180.00 30.00 -195.00 150.00",
        ]
    );
    assert_eq!(nested["rows"][2]["by"], serde_json::json!(["North", "Heron"]));
    let answer = desk("by = [\"Region\", \"Customer\"]\n").mild(&["run", "plan.toml", "--overwrite"]);
    assert_snapshot!("an_aging_one_inside_the_other", answer.out);

    // Months are in the order of the calendar, that without rows among them.
    let months = desk("by = { period = \"month\", of = \"Issued\" }\n").report();
    let names: Vec<String> =
        lines(&months).iter().map(|line| line.split(' ').next().unwrap().to_owned()).collect();
    assert_eq!(names, ["2026-05", "2026-06", "2026-07", "2026-08", "2026-09", "Total"]);
    assert_eq!(lines(&months)[2], "2026-07 0.00 0.00 0.00 0.00 0.00 0.00");
}

#[test]
fn what_is_opened_says_what_credits_took_off() {
    let desk = desk("by = \"Customer\"\ncredits = { off_oldest_debt_of = \"Customer\" }\n");
    let plan = desk.read("plan.toml").replace("[output]\n", "[output]\nreport = \"report.html\"\n");
    desk.write("plan.toml", plan);
    let answer = desk.run_plan();
    assert_eq!(answer.code, 0, "{}", answer.err);
    let page = desk.read("report.html");
    let (_, opened) = page.split_once("Heron, 1–30: 25.00 in 1 row").unwrap();
    let (opened, _) = opened.split_once("</details>").unwrap();
    for said in ["40.00", "credits taken off", "-15.00"] {
        assert!(opened.contains(said), "{said}: {opened}");
    }
}

#[test]
fn what_is_dated_behind_the_as_of_date_is_set_apart() {
    let desk = desk("by = \"Customer\"\n");
    let since_issue = |lowest: &str| {
        desk.read("plan.toml")
            .replace("between = [\"Due\"", "between = [\"Issued\"")
            .replace("issued = \"Issued\"\n", "")
            .replace("edges  = [0, 30]", lowest)
            .replace("as_of = 2026-09-30", "as_of = 2026-09-15")
    };
    let plan = since_issue("edges = [30, 60]\nlowest = 0");
    let said = |lowest: &str| since_issue(lowest).replace("by = \"Customer\"\n", "");
    let refused = [
        ("a_lowest_edge_that_leaves_no_room", said("edges = [30, 60]\nlowest = 31")),
        ("a_lowest_edge_that_is_no_number", said("edges = [30, 60]\nlowest = \"0\"")),
        (
            "too_few_names_with_a_lowest_edge",
            said("edges = [30, 60]\nlowest = 0\nlabels = [\"a\", \"b\", \"c\"]"),
        ),
    ];
    desk.write("plan.toml", plan);
    let report = desk.report();
    assert_eq!(
        report["buckets"],
        serde_json::json!(["In the future", "0–30", "31–60", "Over 60", "No date", "Credits"])
    );
    // Of the 20th: 60.00; of the 29th: 5.00. 15 August is 31 days before.
    assert_eq!(lines(&report).last().unwrap(), "Total 65.00 60.00 40.00 180.00 0.00 -195.00 150.00");
    for (name, plan) in refused {
        desk.write("plan.toml", plan);
        let answer = desk.mild(&["check", "plan.toml"]);
        assert_eq!(answer.code, 2);
        assert_snapshot!(name, answer.err);
    }
}

#[test]
fn mistakes_of_groups_and_credits() {
    for (name, more) in [
        ("credits_that_are_nearly_right", "credits = \"by due date\"\n"),
        ("credits_off_nobodys_debt", "credits = \"off-oldest-debt\"\n"),
        ("credits_of_a_column_that_is_none", "credits = { off_oldest_debt_of = \"Costumer\" }\n"),
        ("four_groups", "by = [\"Region\", \"Customer\", \"Issued\", \"Due\"]\n"),
        (
            "no_room_for_those_whose_debts_they_are",
            "by = [\"Region\", \"Issued\", \"Due\"]\ncredits = { off_oldest_debt_of = \"Customer\" }\n",
        ),
    ] {
        let answer = desk(more).mild(&["check", "plan.toml"]);
        assert_eq!(answer.code, 2);
        assert_snapshot!(name, answer.err);
    }
}

/// The cells of a row in cents: of each place, and of all.
fn cents(line: &str, names: usize) -> Vec<i64> {
    let cells = line.split(' ').skip(names);
    cells.map(|cell| cell.replace('.', "").parse().unwrap()).collect()
}

proptest! {
    #![proptest_config(ProptestConfig { cases: 16, ..ProptestConfig::default() })]

    /// Wherever credits are and however rows are grouped, each line sums to its total, the totals to all that is open, and no customer has
    /// both debts and credits once these are set off.
    #[test]
    fn credits_and_groups_change_no_total(
        rows in prop::collection::vec((0_usize..3, 0_usize..4, -90_i64..150, -5_000_i64..9_000), 1..40),
    ) {
        let mut text = String::from("Invoice,Region,Customer,Issued,Due,Amount\n");
        let as_of: mild_ledger::Date = "2026-09-30".parse().unwrap();
        let mut open = 0;
        for (nth, (region, customer, days, units)) in rows.iter().enumerate() {
            let due = as_of.days_later(-i32::try_from(*days).unwrap()).unwrap();
            let sign = if *units < 0 { "-" } else { "" };
            let amount = format!("{sign}{}.{:02}", units.abs() / 100, units.abs() % 100);
            text.push_str(&format!("{nth},R{region},C{customer},2026-01-01,{due},{amount}\n"));
            open += units;
        }
        let said = |more: &str| {
            let desk = desk(more);
            desk.write("invoices.csv", &text);
            lines(&desk.report())
        };
        const OFF: &str = "credits = { off_oldest_debt_of = \"Customer\" }\n";
        let by_customer: Vec<String> =
            ["", "credits = \"by-due-date\"\n", OFF].map(|credits| said(&format!("by = \"Customer\"\n{credits}"))).concat();
        let nested = said(&format!("by = [\"Region\", \"Customer\"]\n{OFF}"));
        for (all, names) in [(&by_customer, 1), (&nested, 2)] {
            let mut sum = 0;
            for line in all {
                let cells = cents(line, names);
                let (total, places) = cells.split_last().unwrap();
                prop_assert_eq!(places.iter().sum::<i64>(), *total, "{}", line);
                match line.starts_with("Total") {
                    true => prop_assert_eq!((*total, std::mem::take(&mut sum)), (open, open)),
                    false => sum += total,
                }
            }
        }
        let off = said(&format!("by = \"Customer\"\n{OFF}"));
        for line in off.iter().filter(|line| !line.starts_with("Total")) {
            let cells = cents(line, 1);
            let (debts, credits) = (&cells[..cells.len() - 2], cells[cells.len() - 2]);
            prop_assert!(debts.iter().all(|debt| *debt >= 0));
            prop_assert!(credits == 0 || debts.iter().all(|debt| *debt == 0), "{}", line);
        }
    }
}

/// A plan whose bucket rests on the as-of date by way of other columns: a choice by condition or by value, the first of several dates, arithmetic.
fn seen_by_way_of(columns: &str, at: &str) -> String {
    format!(
        "plan = 1\nas_of = 2026-09-30\n[records]\nfile = \"records.csv\"\nkey = \"Invoice\"\n[records.dates]\n\
         Issued = \"day/month/year\"\nPaid = {{ pattern = \"day/month/year\", required = false }}\n\
         [records.amounts]\nAmount = {{ decimals = 2 }}\n\
         [[column]]\nname = \"Age\"\nbetween = [\"Issued\", \"as-of\"]\ncount = \"days\"\n{columns}\
         [[column]]\nname = \"Band\"\nbucket = \"Figure\"\nedges = [0, 30, 60]\n\
         [[report]]\nkind = \"aging\"\nband = \"Band\"\namount = \"Amount\"\nissued = \"Issued\"\npaid = \"Paid\"\n{at}\
         [output]\nrows = \"rows.csv\"\nexceptions = \"exceptions.csv\"\n"
    )
}

#[test]
fn what_rests_on_the_as_of_date_by_way_of_other_columns_is_seen_from_each_date() {
    let records = "Invoice,Customer,Issued,Paid,Amount\nA1,Heron,01/06/2026,,100.00\nA2,Heron,15/08/2026,01/09/2026,50.00\n\
        A3,Tern,10/09/2026,,70.00\nA4,Tern,20/07/2026,,30.00\n";
    let desk = Desk::with_records(records);
    let age = |name: &str, rest: &str| format!("[[column]]\nname = \"{name}\"\n{rest}\n");
    let ways = [
        age("Figure", "when = [{ column = \"Age\", at_least = 20 }]\nthen = { column = \"Age\" }\nelse = 0"),
        age("Figure", "when = [{ column = \"Age\", at_least = 20 }]\nthen = 45\nelse = 0"),
        age(
            "Figure",
            "when = [{ any = [{ column = \"Age\", over = 40 }, { column = \"Customer\", is = \"Tern\" }] }]\nthen = 90\nelse = 1",
        ),
        age("Figure", "value = { column = \"Age\" }"),
        age("Figure", "sum = [\"Age\", \"Age\"]"),
        age("Late", "from = \"Issued\"\nshift = \"5 days\"")
            + &age("Month", "from = \"as-of\"\nto = \"month start\"")
            + &age("First", "first_of = [\"Paid\", \"Month\", \"Late\"]")
            + &age("Figure", "between = [\"Issued\", \"First\"]\ncount = \"days\""),
    ];
    for columns in ways {
        desk.write("plan.toml", seen_by_way_of(&columns, "at = [2026-07-31, 2026-08-31, 2026-09-30]\n"));
        let of_dates = desk.report()["tables"][0].clone();
        desk.write("plan.toml", seen_by_way_of(&columns, ""));
        for row in of_dates["rows"].as_array().unwrap() {
            let date = row[0].as_str().unwrap();
            let alone = desk.report_as_of(date)["tables"][0].clone();
            let columns_alone = alone["columns"].as_array().unwrap();
            for (name, cell) in columns_alone.iter().zip(alone["rows"][0].as_array().unwrap()) {
                let place =
                    of_dates["columns"].as_array().unwrap().iter().position(|other| other == name).unwrap();
                assert_eq!(&row[place], cell, "{name} as of {date}, by way of\n{columns}");
            }
        }
    }
}

#[test]
fn a_picture_of_an_aging_by_day_is_named_after_its_column() {
    let desk = desk("by = \"Issued\"\n");
    desk.write("plan.toml", desk.read("plan.toml").replace("[output]", "[output]\nreport = \"report.html\""));
    let answer = desk.run_plan();
    assert_eq!(answer.code, 0, "{}", answer.err);
    let page = desk.read("report.html");
    assert!(page.contains("by Issued") && !page.contains("by date"), "{page}");
}
