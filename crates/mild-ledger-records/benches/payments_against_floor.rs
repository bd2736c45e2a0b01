//! An aging of invoices with the payments up to its as-of date, next to the time to read the two files: by one thread that tells all their cells apart with
//! the same package; and by two runs on all cores that read their dates and amounts as the plan of the aging has them and write one column, or all.
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
duplicates = "keep"
[records.dates]
Issued = "iso"
[records.amounts]
Amount = {{ decimals = 2 }}
[[join]]
file    = "payments.csv"
match   = {{ Invoice = "Invoice" }}
columns   = {{ "Paid so far" = "Paid" }}
duplicates = {{ sum_up_to_as_of = "Date" }}
[join.dates]
Date = "iso"
[join.amounts]
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

/// What a plan says of the records of a run that only reads them.
struct OnlyRead {
    records: &'static str,
    /// The one column that is written.
    column: &'static str,
}

const INVOICES: OnlyRead = OnlyRead {
    records: "file = \"invoices.csv\"\nkey = \"Invoice\"\nduplicates = \"keep\"\n[records.dates]\nIssued = \"iso\"\n[records.amounts]\nAmount = { decimals = 2 }",
    column: "Amount",
};

const PAYMENTS: OnlyRead = OnlyRead {
    records: "file = \"payments.csv\"\n[records.dates]\nDate = \"iso\"\n[records.amounts]\nPaid = { decimals = 2 }",
    column: "Paid",
};

impl OnlyRead {
    fn plan(&self, columns: &str) -> String {
        format!(
            "plan = 1\n[records]\n{}\n[output]\nrows = \"rows.csv\"\nexceptions = \"exceptions.csv\"\n{columns}\n",
            self.records
        )
    }

    fn with_one_column(&self) -> String {
        self.plan(&format!("columns = [\"{}\"]", self.column))
    }

    fn with_all_columns(&self) -> String {
        self.plan("")
    }
}

/// Seconds that something takes.
fn seconds(what: impl FnOnce() -> Result<(), Anything>) -> Result<f64, Anything> {
    let start = Instant::now();
    what()?;
    Ok(start.elapsed().as_secs_f64())
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
        let [mut runs, mut apart, mut one_column, mut all_columns] = [const { Vec::new() }; 4];
        for _ in 0..ROUNDS {
            let run_all = |plans: &[String]| {
                let run = |plan: &String| run_plan(folder.path(), plan, RunRequest::new()).map(|_| ());
                plans.iter().try_for_each(run)
            };
            runs.push(seconds(|| run_all(&[plan(written)]))?);
            let mut cells = 0;
            apart.push(seconds(|| {
                let mut files = [&invoices, &payments].into_iter();
                files.try_for_each(|file| each_row(file, |_, ends| cells += ends.len() as u64, || Ok(())))
            })?);
            // Both headers are rows to the floor.
            if cells != 8 * (count + 1) {
                return Err(format!("the floor read {cells} cells").into());
            }
            one_column.push(seconds(|| run_all(&[INVOICES, PAYMENTS].map(|file| file.with_one_column())))?);
            all_columns.push(seconds(|| run_all(&[INVOICES, PAYMENTS].map(|file| file.with_all_columns())))?);
        }
        let run = median(&mut runs);
        println!("{name}: {run:.2} s");
        for (floor, mut times) in [
            ("cells distinguished by one thread", apart),
            ("two runs that read dates and amounts, one column written", one_column),
            ("the same, all columns written", all_columns),
        ] {
            let floor_time = median(&mut times);
            println!("    {floor}: {floor_time:.2} s; ratio {:.2}", run / floor_time);
        }
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
