//! An aging of invoices with the payments up to its as-of date, beside the time to read the two files: all their cells told apart by the same
//! package, by one thread.
//!
//! ```text
//! cargo bench -p mild-ledger-records --bench payments_against_floor -- 5000000
//! ```
//!
//! Makes so many invoices of 20,000 customers, and as many payments in no order; without a number 20,000, which show only that it works.

mod support;

use mild_ledger_records::RunRequest;
use std::fs::{self, File};
use std::io::{BufWriter, Write};
use std::path::Path;
use std::time::Instant;
use support::{Anything, ROUNDS, each_row, median, run_plan};

const CUSTOMERS: u64 = 20_000;
const TERMS: [&str; 5] = ["net 30", "2/10 net 30", "net 30 EOM", "net 60", "15 prox"];

/// The aging, with the columns that are written of each row.
fn plan(written: &str) -> String {
    format!(
        r#"plan  = 1
title = "Receivables with payments"
as_of = 2026-09-30
[records]
file    = "invoices.csv"
key     = "Invoice"
repeats = "keep"
[records.dates]
Issued = "iso"
[records.amounts]
Amount = {{ decimals = 2 }}
[[fetch]]
file    = "payments.csv"
match   = {{ Invoice = "Invoice" }}
bring   = {{ "Paid so far" = "Paid" }}
repeats = {{ sum_up_to_as_of = "Date" }}
[fetch.dates]
Date = "iso"
[fetch.amounts]
Paid = {{ decimals = 2 }}
[[column]]
name  = "Due"
from  = "Issued"
terms = {{ column = "Terms" }}
[[column]]
name    = "Days overdue"
between = ["Due", "as-of"]
count   = "days"
[[column]]
name   = "Age band"
bucket = "Days overdue"
edges  = [0, 30, 60, 90]
[[report]]
kind     = "aging"
band     = "Age band"
amount   = "Amount"
issued   = "Issued"
payments = "Paid so far"
by       = "Customer"
[output]
rows       = "rows.csv"
exceptions = "exceptions.csv"
columns    = [{written}]
"#
    )
}

fn main() -> Result<(), Anything> {
    let given = std::env::args().skip(1).find(|argument| !argument.starts_with("--"));
    let count: u64 = given.map_or(Ok(20_000), |count| count.parse())?;
    let folder = tempfile::tempdir()?;
    let (invoices, payments) = (folder.path().join("invoices.csv"), folder.path().join("payments.csv"));
    make(count, &invoices, &payments)?;
    let bytes = fs::metadata(&invoices)?.len() + fs::metadata(&payments)?.len();
    println!("{count} invoices and as many payments, {bytes} bytes, {ROUNDS} rounds; medians");
    for (name, written) in
        [("the amounts written", "\"Amount\""), ("invoices and amounts written", "\"Invoice\", \"Amount\"")]
    {
        let (mut runs, mut floors) = (Vec::new(), Vec::new());
        for _ in 0..ROUNDS {
            let start = Instant::now();
            run_plan(folder.path(), &plan(written), RunRequest::new())?;
            runs.push(start.elapsed().as_secs_f64());
            let start = Instant::now();
            let mut cells = 0;
            for file in [&invoices, &payments] {
                each_row(file, |_, ends| cells += ends.len() as u64, || Ok(()))?;
            }
            floors.push(start.elapsed().as_secs_f64());
            // Both headers are rows to the floor.
            if cells != 8 * (count + 1) {
                return Err(format!("the floor read {cells} cells").into());
            }
        }
        let (run, floor) = (median(&mut runs), median(&mut floors));
        println!("{name}: {run:.2} s; reading {floor:.2} s; ratio {:.1}", run / floor);
    }
    Ok(())
}

fn make(count: u64, invoices: &Path, payments: &Path) -> Result<(), Anything> {
    let mut random = Random(20_260_930);
    let mut out = BufWriter::new(File::create(invoices)?);
    writeln!(out, "Invoice,Customer,Issued,Terms,Amount")?;
    for number in 0..count {
        let (customer, terms) = (random.below(CUSTOMERS), TERMS[random.below(5) as usize]);
        let (month, day) = (random.below(9) + 1, random.below(28) + 1);
        let cents = random.below(500_000) + 1_000;
        let (whole, cents) = (cents / 100, cents % 100);
        writeln!(
            out,
            "QB-{number:07},Customer {customer:05},2026-{month:02}-{day:02},{terms},{whole}.{cents:02}"
        )?;
    }
    out.flush()?;
    let mut out = BufWriter::new(File::create(payments)?);
    writeln!(out, "Invoice,Date,Paid")?;
    for _ in 0..count {
        let (number, month, day) = (random.below(count), random.below(10) + 1, random.below(28) + 1);
        let cents = random.below(90_000) + 100;
        writeln!(out, "QB-{number:07},2026-{month:02}-{day:02},{}.{:02}", cents / 100, cents % 100)?;
    }
    out.flush()?;
    Ok(())
}

/// A small generator of numbers that look random and are the same every time (xorshift, Marsaglia 2003).
struct Random(u64);

impl Random {
    fn below(&mut self, limit: u64) -> u64 {
        self.0 ^= self.0 << 13;
        self.0 ^= self.0 >> 7;
        self.0 ^= self.0 << 17;
        (self.0 >> 16) % limit
    }
}
