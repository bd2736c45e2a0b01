//! Random ledgers in several currencies, with prepayments, returned payments, credit notes and lines of nothing, at twelve month ends: agings,
//! movements, measures and the payments of each month against a plain walk over all invoices and payments.

#![allow(clippy::unwrap_used)] // a test fails by panicking

mod support;

use mild_ledger::Date;
use proptest::prelude::*;
use serde_json::Value;
use std::fmt::Write as _;
use support::Desk;
use support::quarter::PLAN;

const CURRENCIES: [&str; 3] = ["EUR", "GBP", "NOK"];
const BUCKETS: [&str; 7] = ["Not yet due", "1–30", "31–60", "61–90", "Over 90", "Credits", "Total"];
/// Where a bucket is in a row of sums.
const CREDITS: usize = 5;
const TOTAL: usize = 6;

#[derive(Debug, Clone)]
struct Invoice {
    currency: usize,
    issued: i32,
    net: i32,
    cents: i64,
}

#[derive(Debug, Clone)]
struct Payment {
    invoice: usize,
    day: i32,
    cents: i64,
}

/// 1 August 2025, some months before the first of twelve month ends.
fn start() -> i32 {
    "2025-08-01".parse::<Date>().unwrap().day_number()
}

fn invoice() -> impl Strategy<Value = Invoice> {
    let cents = prop_oneof![1 => Just(0_i64), 2 => -90_000_i64..0, 7 => 1..200_000_i64];
    let net = prop::sample::select(vec![0, 10, 30, 60]);
    (0..CURRENCIES.len(), 0..470_i32, net, cents).prop_map(|(currency, day, net, cents)| Invoice {
        currency,
        issued: start() + day,
        net,
        cents,
    })
}

/// What is paid before an invoice is issued is never taken back before that: there is no invoice to owe it.
fn payment(invoices: usize) -> impl Strategy<Value = (usize, i32, i64)> {
    let cents = prop_oneof![1 => Just(0_i64), 2 => -40_000_i64..0, 7 => 1..150_000_i64];
    (0..invoices + 1, -40..200_i32, cents)
}

/// The sums of a date, in cents: each bucket, credits, and all of them.
fn walk(invoices: &[Invoice], payments: &[Payment], currency: usize, at: i32) -> [i64; 7] {
    let mut sums = [0; 7];
    for (nth, invoice) in invoices.iter().enumerate().filter(|(_, invoice)| invoice.currency == currency) {
        let paid = payments.iter().filter(|paid| paid.invoice == nth && paid.day <= at);
        let paid: i64 = paid.map(|paid| paid.cents).sum();
        let open = if invoice.issued <= at { invoice.cents - paid } else { -paid };
        let place = match at - (invoice.issued + invoice.net) {
            _ if open < 0 => CREDITS,
            ..=0 => 0,
            1..=30 => 1,
            31..=60 => 2,
            61..=90 => 3,
            _ => 4,
        };
        sums[place] += open;
        sums[TOTAL] += open;
    }
    sums
}

fn money(cents: i64) -> String {
    format!("{}{}.{:02}", if cents < 0 { "-" } else { "" }, cents.abs() / 100, cents.abs() % 100)
}

fn date(day: i32) -> String {
    Date::from_day_number(day).unwrap().to_string()
}

/// The table of a report in a currency, with this many from the first on left out.
fn table<'r>(reports: &'r Value, report: usize, currency: &str, nth: usize) -> Option<&'r Value> {
    let tables = reports[report]["tables"].as_array()?.iter();
    tables.filter(|table| table["title"].as_str().unwrap().ends_with(&format!(", {currency}"))).nth(nth)
}

fn place(table: &Value, column: &str) -> usize {
    table["columns"].as_array().unwrap().iter().position(|name| name == column).unwrap()
}

/// What a figure over some others comes to with one decimal, half away from zero.
fn with_one_decimal(number: i128, over: i128) -> String {
    let tenths = (number * 10 * 2 + over * if (number < 0) == (over < 0) { 1 } else { -1 }) / (over * 2);
    format!("{}{}.{}", if tenths < 0 { "-" } else { "" }, tenths.abs() / 10, tenths.abs() % 10)
}

fn plan() -> String {
    const OF: &str =
        "band = \"Age band\"\namount = \"Amount\"\nissued = \"Issued\"\npayments = \"Paid so far\"\n";
    let (before, rest) = PLAN.split_once("[[report]]").unwrap();
    let (_, output) = rest.split_once("[output]").unwrap();
    let before = before
        .replace("\"Paid so far\" = \"Paid\"", "\"Paid so far\" = \"Paid\", \"Last payment\" = \"Date\"");
    let at = "at = \"last 12 month ends\"\n";
    format!(
        "{before}[[report]]\nkind = \"aging\"\n{at}{OF}[[report]]\nkind = \"movement\"\nsince = \"end of last month\"\n{at}{OF}\
         [[report]]\nkind = \"measures\"\nsince = \"end of last month\"\n{at}due = \"Due\"\nsettled = \"Last payment\"\n{OF}[output]{output}"
    )
}

proptest! {
    #![proptest_config(ProptestConfig { cases: 24, ..ProptestConfig::default() })]

    #[test]
    fn twelve_month_ends_are_those_of_a_plain_walk(
        (invoices, payments) in prop::collection::vec(invoice(), 1..14).prop_flat_map(|invoices| {
            let payments = prop::collection::vec(payment(invoices.len()), 0..40);
            (Just(invoices), payments)
        }),
    ) {
        let payments: Vec<Payment> = payments
            .into_iter()
            .map(|(nth, day, cents)| {
                let issued = invoices.get(nth).map_or(start() + 100, |invoice| invoice.issued);
                let cents = if day < 0 { cents.abs() } else { cents };
                Payment { invoice: nth, day: issued + day, cents }
            })
            .collect();
        let mut text = String::from("Invoice,Currency,Issued,Terms,Amount\n");
        for (nth, Invoice { currency, issued, net, cents }) in invoices.iter().enumerate() {
            writeln!(text, "N{nth},{},{},net {net},{}", CURRENCIES[*currency], date(*issued), money(*cents)).unwrap();
        }
        let mut paid = String::from("Invoice,Currency,Date,Paid\n");
        for Payment { invoice, day, cents } in &payments {
            // The last one belongs to an invoice that does not exist.
            let currency = invoices.get(*invoice).map_or(0, |invoice| invoice.currency);
            writeln!(paid, "N{invoice},{},{},{}", CURRENCIES[currency], date(*day), money(*cents)).unwrap();
        }
        let desk = Desk::new();
        desk.write("plan.toml", plan());
        desk.write("invoices.csv", &text);
        desk.write("payments.csv", &paid);
        let answer = desk.mild(&["run", "plan.toml", "--json"]);
        prop_assert_eq!(answer.code, 0, "{}", answer.err);
        let reports = answer.json()["reports"].clone();
        // The last day of September 2025, and twelve after it.
        let ends: Vec<i32> = (0..13)
            .map(|nth| {
                let (year, month) = (2025 + (9 + nth) / 12, (9 + nth) % 12 + 1);
                format!("{year}-{month:02}-01").parse::<Date>().unwrap().day_number() - 1
            })
            .collect();
        let in_use = (0..CURRENCIES.len()).filter(|nth| invoices.iter().any(|invoice| invoice.currency == *nth));
        for nth in in_use {
            let currency = CURRENCIES[nth];
            let Some(aging) = table(&reports, 0, currency, 0).or_else(|| Some(&reports[0]["tables"][0])) else { unreachable!() };
            let moved = table(&reports, 1, currency, 0).unwrap_or(&reports[1]["tables"][0]);
            let measured = table(&reports, 2, currency, 0).unwrap_or(&reports[2]["tables"][0]);
            for pair in ends.windows(2) {
                let (since, at) = (pair[0], pair[1]);
                let (opening, closing) = (walk(&invoices, &payments, nth, since), walk(&invoices, &payments, nth, at));
                let row = aging["rows"].as_array().unwrap().iter().find(|row| row[0] == date(at).as_str()).unwrap();
                for (bucket, sum) in BUCKETS.iter().zip(closing) {
                    prop_assert_eq!(&row[place(aging, bucket)], &money(sum), "{} in {} on {}", bucket, currency, date(at));
                }
                let total = format!("{}: total", date(at));
                let sums = moved["sums"].as_array().unwrap().iter().find(|sum| sum["cells"][0] == total.as_str()).unwrap();
                let of_month = |day: i32| since < day && day <= at;
                let own = |payment: &&Payment| invoices.get(payment.invoice).is_some_and(|invoice| invoice.currency == nth);
                let paid: i64 = payments.iter().filter(own).filter(|paid| of_month(paid.day)).map(|paid| paid.cents).sum();
                let issued = invoices.iter().filter(|invoice| invoice.currency == nth && of_month(invoice.issued));
                let sales: i64 = issued.map(|invoice| invoice.cents).sum();
                for (column, cents) in [("Opening", opening[TOTAL]), ("Paid", paid), ("Closing", closing[TOTAL])] {
                    prop_assert_eq!(&sums["cells"][place(moved, column)], &money(cents), "{} in {} to {}", column, currency, date(at));
                }
                let cents = |column: &str| sums["cells"][place(moved, column)].as_str().unwrap().replace('.', "").parse::<i64>().unwrap();
                prop_assert_eq!(cents("Opening") + cents("New") + cents("Credited") + cents("Rolled in") - cents("Rolled on") - cents("Paid"), cents("Closing"));
                prop_assert_eq!(cents("New") + cents("Credited"), sales, "sales in {} to {}", currency, date(at));
                let figure = |name: &str| {
                    let rows = measured["rows"].as_array().unwrap().iter();
                    rows.clone().find(|row| row[0] == date(at).as_str() && row[1] == name).unwrap()[2].clone()
                };
                if sales > 0 {
                    let days = i128::from(at - since);
                    let expected = with_one_decimal(i128::from(closing[TOTAL]) * days, i128::from(sales));
                    prop_assert_eq!(figure("Days sales outstanding"), expected, "{} to {}", currency, date(at));
                }
                let owed: i64 = closing[..CREDITS].iter().sum();
                if owed > 0 {
                    let expected = with_one_decimal(i128::from(owed - closing[0]) * 100, i128::from(owed));
                    prop_assert_eq!(figure("Share overdue"), expected, "{} on {}", currency, date(at));
                }
            }
        }
    }
}
