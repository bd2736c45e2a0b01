//! Amounts of several currencies, which are never added together.

#![allow(clippy::unwrap_used, clippy::expect_used)] // a test fails by panicking

mod support;

use serde_json::{Value, json};
use support::{Answer, Desk, PLAN};

/// Two customers, two currencies and a row without one: by hand, EUR 100.00 + 50.25 - 20.00 = 130.25, USD 70.00 + 9.75 = 79.75.
const RECORDS: &str = "Invoice,Customer,Issued,Paid,Amount,Currency
A1,Heron Charters,30/09/2026,,100.00,EUR
A2,Heron Charters,31/08/2026,,50.25,eur
A3,Cordage & Co.,30/08/2026,01/09/2026,70.00,USD
A4,Cordage & Co.,01/08/2026,,9.75, USD
A5,Cordage & Co.,01/08/2026,,-20.00,EUR
A6,Heron Charters,01/08/2026,,7.00,
A7,Heron Charters,01/08/2026,,x,USD
";

fn desk(more: impl Fn(String) -> String) -> Desk {
    let desk = Desk::with_records(RECORDS);
    desk.write("plan.toml", more(PLAN.replace("decimals = 2 }", "decimals = 2, currency = \"Currency\" }")));
    desk
}

fn json_of(answer: &Answer) -> Value {
    assert_eq!(answer.code, 0, "{}", answer.err);
    serde_json::from_str(&answer.out).unwrap()
}

#[test]
fn each_currency_is_proved_and_reported_by_itself() {
    let desk = desk(|plan| plan);
    let answer = desk.run_plan();
    assert_eq!(answer.code, 0, "{}", answer.err);
    insta::assert_snapshot!("an_aging_of_two_currencies", answer.out);
    let found = json_of(&desk.mild(&["run", "plan.toml", "--json"]));
    let sums: Vec<(&Value, &Value, &Value)> = found["amounts"]
        .as_array()
        .unwrap()
        .iter()
        .map(|amount| (&amount["currency"], &amount["read"], &amount["written"]))
        .collect();
    let [eur, usd, none] =
        [("EUR", "130.25"), ("USD", "79.75"), ("", "7.00")].map(|(name, sum)| (json!(name), json!(sum)));
    assert_eq!(sums, [(&eur.0, &eur.1, &eur.1), (&usd.0, &usd.1, &usd.1), (&none.0, &none.1, &none.1)]);
    let report = &found["reports"][0];
    assert_eq!(report["tables"].as_array().unwrap().len(), 3);
    // Of USD the paid 70.00 is settled; 9.75 is 60 days old on 30 September: 30 to 31 August, and 30 in September.
    assert_eq!(report["by_currency"][1]["currency"], "USD");
    assert_eq!(report["by_currency"][1]["total"]["total"], "9.75");
    assert_eq!(report["by_currency"][0]["total"]["total"], "130.25");
    let listed = desk.read("exceptions.csv");
    assert!(listed.contains(",A6,Currency,,\"no currency: of 7.00 of \"\"Amount\"\"\","), "{listed}");
    let receipt = desk.read("plan.receipt.toml");
    assert!(receipt.contains("currency = \"USD\""), "{receipt}");
}

#[test]
fn a_summary_has_a_table_a_currency_and_sums_of_what_is_made_of_amounts() {
    let desk = desk(|plan| {
        plan + "columns = [\"Invoice\", \"Amount\", \"Tax\"]\n\n[[column]]\nname = \"Tax\"\nproduct = [\"Amount\", 0.2]\ndecimals = 2\n\n\
                [[report]]\nkind = \"summary\"\nby = [\"Customer\"]\nshow = [\"count\", { sum = \"Tax\" }, { mean = \"Amount\" }]\n\n\
                [[report]]\nkind = \"summary\"\ntitle = \"Rows\"\nby = [\"Customer\"]\n"
    });
    let found = json_of(&desk.mild(&["run", "plan.toml", "--json"]));
    let table = |nth: usize| &found["reports"][1]["tables"][nth];
    assert_eq!(table(0)["title"], "Summary, EUR");
    // A fifth of 100.00 + 50.25, and of -20.00.
    assert_eq!(
        table(0)["rows"],
        json!([["Cordage & Co.", 1, "-4.00", "-20.00"], ["Heron Charters", 2, "30.05", "75.13"]])
    );
    assert_eq!(table(0)["total"][2], "26.05");
    assert_eq!(table(1)["rows"], json!([["Cordage & Co.", 2, "15.95", "39.88"]]));
    // Rows are rows, of any currency.
    assert_eq!(found["reports"][2]["tables"].as_array().unwrap().len(), 1);
    assert_eq!(
        found["reports"][2]["tables"][0]["rows"],
        json!([["Cordage & Co.", 3], ["Heron Charters", 3]])
    );
    let tax = found["added"].as_array().unwrap().iter().find(|column| column["column"] == "Tax").unwrap();
    assert_eq!((&tax["mean"], &tax["median"]), (&Value::Null, &Value::Null));
    // Without the currencies in the output its digits are checked, and that is stated.
    assert_eq!(found["amounts"][0]["read_back"], json!(false));
    let told = desk.mild(&["run", "plan.toml"]).out;
    assert!(
        told.contains("the digits alone, since its currencies are not among the columns written"),
        "{told}"
    );
}

#[test]
fn what_would_add_currencies_is_refused() {
    let cases: [(&str, &str, &str); 6] = [
        (
            "duplicates = \"set aside\"",
            "duplicates = \"sum\"",
            "may be of several currencies of \"Currency\"",
        ),
        (
            "title = \"Aging\"",
            "title = \"Aging\"\ncontrol = { Amount = \"217.00\" }",
            "\"Amount\" is of several currencies",
        ),
        ("currency = \"Currency\"", "currency = \"Issued\"", "\"Issued\" holds dates"),
        ("currency = \"Currency\"", "currency = \"Money\"", "there is no column \"Money\""),
        (
            "[records.amounts]",
            "[records.numbers]\nInvoice = { decimals = 0, currency = \"Currency\" }\n[records.amounts]",
            "plain numbers are of no currency",
        ),
        (
            "[[report]]",
            "[[column]]\nname = \"Both\"\nsum = [\"Amount\", \"Fee\"]\n\n[[report]]",
            "amounts of the currencies of \"Currency\" and of \"Fee in\" are not put together",
        ),
    ];
    for (from, to, error) in cases {
        let desk = desk(|plan| plan.replacen(from, to, 1));
        if error.contains("Fee in") {
            let rows: String = RECORDS
                .lines()
                .enumerate()
                .map(|(nth, line)| format!("{line},{}\n", if nth == 0 { "Fee,Fee in" } else { "1.00,USD" }))
                .collect();
            desk.write("records.csv", rows);
            desk.write(
                "plan.toml",
                desk.read("plan.toml").replace(
                    "[records.amounts]\n",
                    "[records.amounts]\nFee = { decimals = 2, currency = \"Fee in\" }\n",
                ),
            );
        }
        let answer = desk.run_plan();
        assert_eq!(answer.code, 2, "{from}: {}", answer.out);
        assert!(answer.err.contains(error), "{}", answer.err);
    }
    // The key tells the currencies apart, and totals are stated of each.
    let desk = desk(|plan| {
        plan.replace("key     = \"Invoice\"", "key = [\"Customer\", \"Currency\"]")
            .replace("title = \"Aging\"", "control = { Amount = { EUR = \"130.25\", usd = 79.75, GBP = 1 } }")
            .replace("\"set aside\"", "\"sum\"")
    });
    let answer = desk.run_plan();
    assert_eq!(answer.code, 4, "{}", answer.err);
    assert!(answer.err.contains("Amount GBP") && !answer.err.contains("EUR"), "{}", answer.err);
}

#[test]
fn a_column_of_too_many_currencies_is_no_column_of_currencies() {
    let rows: String = (0..400).map(|nth| format!("B{nth},Heron,01/02/2026,,1.00,K{nth}\n")).collect();
    let desk = desk(|plan| plan);
    desk.write("records.csv", format!("{RECORDS}{rows}"));
    let answer = desk.run_plan();
    assert_eq!(answer.code, 2, "{}", answer.out);
    assert!(
        answer.err.contains("the currencies of \"Amount\" are more than 300")
            || answer.err.contains("the currencies of \"Currency\" are more than 300"),
        "{}",
        answer.err
    );
}

#[test]
fn a_currency_of_nothing_is_no_defect() {
    // No row at all; none that is written; and one currency whose only row has no amount.
    let header = RECORDS.lines().next().unwrap();
    let gone = format!("{header}\nA1,Heron Charters,30/09/2026,,x,EUR\n");
    let blank =
        format!("{header}\nA1,Heron Charters,30/09/2026,,5.00,EUR\nA2,Cordage & Co.,31/08/2026,,,GBP\n");
    for (records, written) in [(format!("{header}\n"), 0), (gone, 0), (blank, 2)] {
        let desk = desk(|plan| plan.replace("\"Currency\" }", "\"Currency\", required = false }"));
        desk.write("records.csv", &records);
        let found = json_of(&desk.mild(&["run", "plan.toml", "--json"]));
        assert_eq!(found["rows"]["written"], written, "{records}");
    }
}

#[test]
fn a_column_that_holds_something_else_names_no_currency() {
    for (part, holds) in [("numbers", "numbers"), ("dates", "dates")] {
        let said = match part {
            "numbers" => "[records.numbers]\nCurrency = { decimals = 0 }\n\n[[column]]",
            _ => "[[column]]",
        };
        let desk = desk(|plan| {
            let plan = plan.replacen("[[column]]", said, 1);
            if part == "dates" {
                plan.replace("Issued = \"day", "Currency = \"iso\"\nIssued = \"day")
            } else {
                plan
            }
        });
        let answer = desk.run_plan();
        assert_eq!(answer.code, 2, "{}", answer.out);
        assert!(answer.err.contains(&format!("\"Currency\" holds {holds}")), "{}", answer.err);
    }
}
