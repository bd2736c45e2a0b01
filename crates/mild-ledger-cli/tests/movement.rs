//! Reports that look at the records from two dates or more: what moved in between, measures, and a report at each of several month ends.

#![allow(clippy::unwrap_used, clippy::expect_used)] // a test fails by panicking

mod support;

use insta::assert_snapshot;
use proptest::prelude::*;
use serde_json::{Value, json};
use support::Desk;
use support::quarter::{PAYMENTS, PLAN, quarter_desk};

/// The plan of the quarter with another report in place of its aging.
fn desk_with(report: &str) -> Desk {
    let desk = quarter_desk();
    let (before, rest) = PLAN.split_once("[[report]]").unwrap();
    let (_, output) = rest.split_once("[output]").unwrap();
    let before = before
        .replace("\"Paid so far\" = \"Paid\"", "\"Paid so far\" = \"Paid\", \"Last payment\" = \"Date\"");
    desk.write("plan.toml", format!("{before}[[report]]\n{report}\n[output]{output}"));
    desk
}

const INVOICES_OF: &str =
    "band = \"Age band\"\namount = \"Amount\"\nissued = \"Issued\"\npayments = \"Paid so far\"\n";

fn movement(since: &str) -> Desk {
    desk_with(&format!("kind = \"movement\"\nsince = {since}\n{INVOICES_OF}"))
}

fn measures() -> Desk {
    desk_with(&format!(
        "kind = \"measures\"\nsince = \"end of last quarter\"\ndue = \"Due\"\nsettled = \"Last payment\"\nloss_rates = [0.5, 2, 5, 10.25, 50]\n{INVOICES_OF}"
    ))
}

/// The rows of a table by their names, those of nothing left out.
fn rows(table: &Value) -> Vec<(String, Vec<String>)> {
    let text = |cell: &Value| cell.as_str().unwrap_or("").to_owned();
    let rows = table["rows"].as_array().unwrap().iter().chain([&table["total"]]);
    let rows = rows.map(|row| row.as_array().unwrap().iter().map(text).collect::<Vec<_>>());
    rows.map(|row| (row[0].clone(), row[1..].to_vec()))
        .filter(|(_, cells)| cells.iter().any(|cell| !["0.00", ""].contains(&cell.as_str())))
        .collect()
}

fn row(name: &str, cells: &[&str]) -> (String, Vec<String>) {
    (name.to_owned(), cells.iter().map(|cell| (*cell).to_owned()).collect())
}

#[test]
fn every_cell_of_the_movement_of_a_quarter() {
    let report = movement("2026-06-30").report_as_of("2026-09-30");
    let tables = report["tables"].as_array().unwrap();
    assert_eq!(tables.len(), 6, "two a currency");
    assert_eq!(
        tables[0]["columns"],
        json!([
            "Age band",
            "Opening",
            "New",
            "Credited",
            "Rolled in",
            "Rolled on",
            "Paid",
            "Closing",
            "Rate, %"
        ])
    );
    assert_eq!(
        rows(&tables[0]),
        [
            row("Not yet due", &["2760.25", "715.75", "0.00", "0.00", "360.25", "2400.00", "715.75", "13.1"]),
            row("31–60", &["0.00", "990.00", "0.00", "0.00", "0.00", "0.00", "990.00", ""]),
            row("61–90", &["500.00", "0.00", "0.00", "310.00", "0.00", "500.00", "310.00", "0.0"]),
            row("Over 90", &["0.00", "0.00", "0.00", "50.25", "0.00", "0.00", "50.25", ""]),
            row("Credits", &["0.00", "0.00", "-120.00", "0.00", "0.00", "100.00", "-220.00", ""]),
            row("Total", &["3260.25", "1705.75", "-120.00", "360.25", "360.25", "3000.00", "1846.00", ""]),
        ]
    );
    // From where to where: a column a bucket, then credits, what was paid, and the sum.
    let columns = [
        "Age band",
        "Not yet due",
        "1–30",
        "31–60",
        "61–90",
        "Over 90",
        "No date",
        "Credits",
        "Paid",
        "Total",
    ];
    assert_eq!(tables[1]["columns"], json!(columns));
    assert_eq!(
        rows(&tables[1]),
        [
            row(
                "Not yet due",
                &["0.00", "0.00", "0.00", "310.00", "50.25", "0.00", "0.00", "2400.00", "2760.25"]
            ),
            row("61–90", &["0.00", "0.00", "0.00", "0.00", "0.00", "0.00", "0.00", "500.00", "500.00"]),
            row("New", &["715.75", "0.00", "990.00", "0.00", "0.00", "0.00", "0.00", "0.00", "1705.75"]),
            row("Credited", &["0.00", "0.00", "0.00", "0.00", "0.00", "0.00", "-120.00", "0.00", "-120.00"]),
            row(
                "Nothing open",
                &["0.00", "0.00", "0.00", "0.00", "0.00", "0.00", "-100.00", "100.00", "0.00"]
            ),
            row(
                "Total",
                &["715.75", "0.00", "990.00", "310.00", "50.25", "0.00", "-220.00", "3000.00", "4846.00"]
            ),
        ]
    );
    // Dollars: Q18 went over by three days, and of Q17 1,500.00 were paid, less what was taken back.
    assert_eq!(
        rows(&tables[4]),
        [
            row("Not yet due", &["700.00", "700.00", "0.00", "0.00", "700.00", "0.00", "700.00", "100.0"]),
            row("1–30", &["0.00", "0.00", "0.00", "700.00", "0.00", "0.00", "700.00", ""]),
            row("Over 90", &["2500.00", "0.00", "0.00", "0.00", "0.00", "1500.00", "1000.00", "0.0"]),
            row("Credits", &["0.00", "0.00", "-50.00", "0.00", "0.00", "0.00", "-50.00", ""]),
            row("Total", &["3200.00", "700.00", "-50.00", "700.00", "700.00", "1500.00", "2350.00", ""]),
        ]
    );
    assert_eq!(
        report["proof"][0]["parts"],
        json!([
            {"name": "open", "value": "1846.00"},
            {"name": "paid since", "value": "3000.00"},
            {"name": "paid before", "value": "1500.50"},
            {"name": "not yet issued", "value": "500.00"},
        ])
    );
}

#[test]
fn the_measures_of_the_quarter() {
    let report = measures().report_as_of("2026-09-30");
    let tables = report["tables"].as_array().unwrap();
    let figures = |table: &Value| -> Vec<Value> {
        table["rows"].as_array().unwrap().iter().map(|row| row[1].clone()).collect()
    };
    // Worked out by hand in the library's tests: 107.10, 94.81, 0.7263; 1,350.25 ÷ 2,066.00. Q1 of 1,200.00 was 138 days late, and
    // Q4 of 2,000.00, which is over-paid, was paid on its day: 1,200 × 138 ÷ 3,200 = 51.75.
    assert_eq!(figures(&tables[0]), ["107.1", "94.8", "72.6", "65.4", "51.8"]);
    assert_eq!(tables[0]["rows"][0][3], json!("open 1,846.00 ÷ sales 1,585.75 × 92 days"));
    assert_eq!(
        tables[0]["rows"][1][3],
        json!(
            "2026-09: 30 days + 2026-08: 31 days + 2026-07: 31 days + 2026-06: 216.00 ÷ 2,310.00 × 30 days"
        )
    );
    assert_eq!(
        rows(&tables[1]),
        [
            row("Not yet due", &["715.75", "0.5", "3.58"]),
            row("1–30", &["0.00", "2", "0.00"]),
            row("31–60", &["990.00", "5", "49.50"]),
            row("61–90", &["310.00", "10.25", "31.78"]),
            row("Over 90", &["50.25", "50", "25.13"]),
            row("Credits", &["-220.00", "", ""]),
            row("Total", &["1846.00", "", "109.99"]),
        ]
    );
    // Dollars: nothing was settled, and the measure states that in place of a figure.
    assert_eq!(figures(&tables[4])[4], "(no invoice was settled in the period)");
    let shown = measures().run_plan();
    let shown: Vec<&str> = shown.out.lines().take_while(|line| !line.starts_with("Exceptions")).collect();
    assert_snapshot!(shown.join("\n"));
}

/// Days late end on the day on which nothing was open any more, not with whatever line of the payments is last.
#[test]
fn an_invoice_is_settled_when_its_payments_first_reach_it_and_stay_there() {
    let desk = measures();
    let plan = desk.read("plan.toml").replace(
        "duplicates = { sum_up_to_as_of = \"Date\" }",
        "duplicates = { sum_up_to_as_of = \"Date\", settles = \"Amount\" }",
    );
    desk.write("plan.toml", &plan);
    desk.write(
        "invoices.csv",
        "Invoice,Currency,Issued,Terms,Amount
L1,EUR,2026-06-01,net 30,100.00
L2,EUR,2026-06-01,net 30,200.00
L3,EUR,2026-06-01,net 30,300.00
L4,EUR,2026-06-01,net 30,400.00
",
    );
    // L1: a line of nothing after it was paid. L2: paid, returned and paid once more. L3: over-paid by the last line but one. L4: returned.
    desk.write(
        "payments.csv",
        "Invoice,Currency,Date,Paid
L1,EUR,2026-07-11,100.00
L1,EUR,2026-09-20,0.00
L2,EUR,2026-08-30,200.00
L2,EUR,2026-07-05,200.00
L2,EUR,2026-07-15,-200.00
L3,EUR,2026-07-21,350.00
L3,EUR,2026-09-25,-50.00
L4,EUR,2026-07-02,400.00
L4,EUR,2026-09-30,-0.01
",
    );
    let report = desk.report_as_of("2026-09-30");
    let late = report["tables"][0]["rows"][4].as_array().unwrap();
    // Due on 1 July: 10 days × 100.00, 60 × 200.00 and 20 × 300.00 over 600.00 come to 31.67. L4 is open again.
    assert_eq!(late[1], json!("31.7"), "{late:?}");
    assert_eq!(late[3], json!("3 invoices settled since with 600.00 in all"));
    // Seen from 31 August L3 is over-paid, and settled on the same day; L4 is settled too: 1 day × 400.00 more.
    let report = desk.report_as_of("2026-08-31");
    let late = report["tables"][0]["rows"][4].as_array().unwrap();
    assert_eq!(late[1], json!("19.4"), "{late:?}");
    // The sums are those of a plan that settles nothing.
    let rows = desk.read("rows.csv");
    let sums: Vec<&str> = rows.lines().skip(1).map(|line| line.split(',').nth(6).unwrap()).collect();
    assert_eq!(sums, ["100.00", "200.00", "350.00", "400.00"], "{rows}");
    // A plan that cannot state what is paid, or when, gets a message about that.
    for (from, to, expected) in [
        ("\"Last payment\" = \"Date\"", "\"Other\" = \"Paid\"", "2 columns of amounts are brought"),
        (", \"Last payment\" = \"Date\"", "", "no date is brought"),
        ("Amount = { decimals = 2, ", "Amount = { decimals = 1, ", "has more decimals"),
    ] {
        desk.write("plan.toml", plan.replace(from, to));
        let answer = desk.mild(&["run", "plan.toml", "--overwrite"]);
        assert!(answer.code == 2 && answer.err.contains(expected), "{expected}: {}", answer.err);
    }
}

/// A report that looks back on several dates says of each what a run as of that date says.
#[test]
fn a_report_at_several_dates_is_the_runs_of_these_dates() {
    let at = desk_with(&format!("kind = \"aging\"\nat = \"last 5 month ends\"\n{INVOICES_OF}"));
    let series = at.report_as_of("2026-10-14");
    assert_eq!(series["tables"][0]["columns"][0], json!("As of"));
    let single = desk_with(&format!("kind = \"aging\"\n{INVOICES_OF}"));
    let dates = ["2026-05-31", "2026-06-30", "2026-07-31", "2026-08-31", "2026-09-30"];
    for (nth, date) in dates.into_iter().enumerate() {
        let run = single.report_as_of(date);
        let of_currency = |report: &Value, title: &str| {
            let tables = report["tables"].as_array().unwrap();
            tables.iter().find(|table| table["title"].as_str().unwrap().ends_with(title)).cloned()
        };
        for currency in ["EUR", "GBP", "USD"] {
            let (dated, own) =
                (of_currency(&series, currency).unwrap(), of_currency(&run, currency).unwrap());
            let cells = dated["rows"][nth].as_array().unwrap();
            assert_eq!(cells[0], json!(date));
            assert_eq!(json!(cells[1..]), own["rows"][0], "{currency} as of {date}");
        }
    }
    // As many proofs as dates, each of all that was written.
    let of_euro = |line: &&Value| line["of"].as_str().unwrap().ends_with("EUR");
    let proofs: Vec<&Value> = series["proof"].as_array().unwrap().iter().filter(of_euro).collect();
    assert_eq!(proofs.len(), 5);
    assert!(proofs.iter().all(|line| line["value"] == json!("6846.50")), "{proofs:?}");
}

#[test]
fn a_movement_a_month_leads_from_each_month_end_to_the_next() {
    let report_of = format!(
        "kind = \"movement\"\nsince = \"end of last month\"\nat = [2026-07-31, 2026-08-31, 2026-09-30]\n{INVOICES_OF}"
    );
    let report = desk_with(&report_of).report_as_of("2026-09-30");
    let table = &report["tables"][0];
    let totals: Vec<&Value> = table["sums"].as_array().unwrap().iter().map(|sum| &sum["cells"]).collect();
    let ends: Vec<(&str, &str)> =
        totals.iter().map(|row| (row[2].as_str().unwrap(), row[8].as_str().unwrap())).collect();
    // Each closes where the next opens; the last is the quarter's.
    assert_eq!(ends[0].0, "3260.25");
    assert_eq!((ends[0].1, ends[1].1), (ends[1].0, ends[2].0));
    assert_eq!(ends[2].1, "1846.00");
}

/// The file of a report has the rows of its first table: what else is shown of the same amounts is not counted once more.
#[test]
fn the_file_of_a_movement_has_its_lines_and_no_more() {
    let desk =
        desk_with(&format!("kind = \"movement\"\nsince = 2026-06-30\nfile = \"moved.csv\"\n{INVOICES_OF}"));
    assert_eq!(desk.run_plan().code, 0);
    let file = desk.read("moved.csv");
    let lines: Vec<&str> = file.lines().collect();
    assert_eq!(
        lines[..2],
        [
            "currency,Age band,Opening,New,Credited,Rolled in,Rolled on,Paid,Closing,\"Rate, %\"",
            "EUR,Not yet due,2760.25,715.75,0.00,0.00,360.25,2400.00,715.75,13.1",
        ]
    );
    // Eight lines a currency: five buckets, no date, credits, and what was issued and paid.
    assert_eq!(lines.len(), 1 + 3 * 8);
    let by_month = desk_with(&format!(
        "kind = \"aging\"\nat = \"last 3 month ends\"\nfile = \"months.csv\"\n{INVOICES_OF}"
    ));
    assert_eq!(by_month.run_plan().code, 0);
    let file = by_month.read("months.csv");
    assert!(file.lines().nth(3).is_some_and(|line| line.starts_with("EUR,2026-09-30,715.75,")), "{file}");
}

#[test]
fn a_series_of_any_report_as_it_is_shown() {
    let by = "kind = \"summary\"\nby = [\"Age band\"]\nshow = [\"count\", { sum = \"Amount\" }]\nat = [2026-06-30, \"end of last month\", 2026-09-30]";
    let desk = desk_with(by);
    let answer = desk.run_plan();
    assert_eq!(answer.code, 0, "{}", answer.err);
    let shown: Vec<&str> = answer.out.lines().take_while(|line| !line.starts_with("Exceptions")).collect();
    assert_snapshot!(shown.join("\n"));
    // Nothing of what the other dates need is written, and nothing is listed for them.
    assert!(
        desk.read("rows.csv").starts_with(
            "Invoice,Currency,Issued,Terms,Amount,Last payment,Paid so far,Due,Days overdue,Age band\n"
        ),
        "{}",
        desk.read("rows.csv")
    );
}

#[test]
fn what_other_dates_see_is_listed_once() {
    let desk = desk_with(&format!("kind = \"aging\"\nat = \"last 12 month ends\"\n{INVOICES_OF}"));
    desk.write("payments.csv", format!("{PAYMENTS}Q99,EUR,2026-09-01,12.00\nQ8,EUR,soon,5.00\n"));
    let answer = desk.run_plan();
    assert_eq!(answer.code, 0, "{}", answer.err);
    let exceptions = desk.read("exceptions.csv");
    assert_eq!(exceptions.matches("Q99").count(), 1, "{exceptions}");
    assert_eq!(exceptions.lines().count(), 3, "{exceptions}");
}

#[test]
fn mistakes_are_told() {
    for (name, report) in [
        ("a_movement_since_a_later_date", format!("kind = \"movement\"\nsince = 2026-09-30\n{INVOICES_OF}")),
        ("a_movement_since_nothing", format!("kind = \"movement\"\n{INVOICES_OF}")),
        (
            "a_movement_since_no_day",
            format!("kind = \"movement\"\nsince = \"last month end\"\n{INVOICES_OF}"),
        ),
        ("dates_that_are_none", format!("kind = \"aging\"\nat = \"last month ends\"\n{INVOICES_OF}")),
        ("too_many_dates", format!("kind = \"aging\"\nat = \"last 61 month ends\"\n{INVOICES_OF}")),
        ("no_dates", format!("kind = \"aging\"\nat = []\n{INVOICES_OF}")),
        (
            "too_few_loss_rates",
            format!(
                "kind = \"measures\"\nsince = 2026-06-30\ndue = \"Due\"\nloss_rates = [1, 2]\n{INVOICES_OF}"
            ),
        ),
        ("measures_without_due_dates", format!("kind = \"measures\"\nsince = 2026-06-30\n{INVOICES_OF}")),
    ] {
        let answer = desk_with(&report).run_plan();
        assert_eq!(answer.code, 2, "{name}: {}", answer.out);
        assert_snapshot!(name, answer.err);
    }
}

proptest! {
    #![proptest_config(ProptestConfig { cases: 16, ..ProptestConfig::default() })]

    /// The ends of a movement are the agings of the two dates, whatever was issued and paid.
    #[test]
    fn a_movement_leads_from_one_aging_to_the_other(
        invoices in prop::collection::vec((1..28_u32, -50_i64..400), 1..12),
        payments in prop::collection::vec((0..14_usize, 1..28_u32, -100_i64..300), 0..30),
        (first, more) in (1..14_u32, 1..14_u32),
    ) {
        let money = |cents: i64| format!("{}{}.{:02}", if cents < 0 { "-" } else { "" }, cents.abs() / 100, cents.abs() % 100);
        let mut text = String::from("Invoice,Currency,Issued,Terms,Amount\n");
        for (nth, (day, cents)) in invoices.iter().enumerate() {
            text.push_str(&format!("N{nth},EUR,2026-06-{day:02},net 10,{}\n", money(*cents)));
        }
        let mut paid = String::from("Invoice,Currency,Date,Paid\n");
        for (nth, day, cents) in &payments {
            paid.push_str(&format!("N{nth},EUR,2026-06-{day:02},{}\n", money(*cents)));
        }
        let (opening, closing) = (format!("2026-06-{first:02}"), format!("2026-06-{:02}", first + more));
        let desk = movement(&opening);
        desk.write("invoices.csv", &text);
        desk.write("payments.csv", &paid);
        let moved = desk.report_as_of(&closing);
        let aging = desk_with(&format!("kind = \"aging\"\n{INVOICES_OF}"));
        aging.write("invoices.csv", &text);
        aging.write("payments.csv", &paid);
        let table = &moved["tables"][0];
        for (column, date) in [(1, &opening), (7, &closing)] {
            let aged = aging.report_as_of(date);
            let aged = &aged["tables"][0];
            let buckets = aged["columns"].as_array().unwrap();
            for (bucket, amount) in buckets.iter().zip(aged["total"].as_array().unwrap()) {
                let line = table["rows"].as_array().unwrap().iter().chain([&table["total"]]).find(|row| row[0] == *bucket);
                prop_assert_eq!(&line.unwrap()[column], amount, "{} on {}", bucket, date);
            }
        }
        // What was paid in between is what the file of the payments says, of invoices that there are.
        let between = |day: u32| day > first && day <= first + more;
        let known = payments.iter().filter(|(nth, day, _)| *nth < invoices.len() && between(*day));
        let paid = money(known.map(|(.., cents)| cents).sum());
        prop_assert_eq!(table["total"][6].as_str().unwrap(), &paid);
    }
}

#[test]
fn a_heading_over_several_movements_names_the_dates_of_the_first_and_the_last() {
    let desk = movement("\"end of last month\"\nat = \"last 3 month ends\"");
    let answer = desk.run_plan();
    let heading = answer.out.lines().find(|line| line.contains(", by ")).unwrap();
    let expected = "from 2026-06-30 … 2026-08-31 to 2026-07-31 … 2026-09-30, by";
    assert!(heading.contains(expected), "{heading}");
}
