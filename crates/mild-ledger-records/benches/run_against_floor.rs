//! Whole runs of a plan against their floor: reading the same file and writing an output of the same size with the
//! same packages, in turn, so that a machine whose speed drifts does not matter.
//!
//! ```text
//! cargo run --release -p mild-ledger-records --example make_invoices -- 1000000 invoices.csv
//! cargo bench -p mild-ledger-records --bench run_against_floor -- invoices.csv
//! ```
//!
//! Without a file it makes one of 20,000 rows, which shows only that it works.

mod support;

use mild_ledger_records::RunRequest;
use std::cell::RefCell;
use std::fs::{self, File};
use std::io::{BufWriter, Write};
use std::path::{Path, PathBuf};
use std::time::Instant;
use support::{Anything, ROUNDS, each_row, median};

/// Where the demo's plan is, whose variants leave out parts of it.
const PLAN: &str = concat!(env!("CARGO_MANIFEST_DIR"), "/../mild-ledger-cli/demo/receivables.toml");

fn main() -> Result<(), Anything> {
    let folder = tempfile::tempdir()?;
    // Nothing here draws the report for people.
    let as_it_is: String = fs::read_to_string(PLAN)?
        .lines()
        .filter(|line| !line.starts_with("report "))
        .flat_map(|line| [line, "\n"])
        .collect();
    let given = std::env::args().skip(1).find(|argument| !argument.starts_with("--"));
    let records = match given {
        Some(path) => PathBuf::from(path).canonicalize()?,
        None => small_file(folder.path())?,
    };
    let rows = run_plan(folder.path(), &records, &as_it_is)?.rows.read;
    println!("{rows} rows, {} bytes, {ROUNDS} rounds; medians", fs::metadata(&records)?.len());
    let no_order: String =
        as_it_is.lines().filter(|line| !line.starts_with("order_by")).flat_map(|line| [line, "\n"]).collect();
    let no_key: String = no_order
        .lines()
        .filter(|line| !line.starts_with("key ") && !line.starts_with("duplicates"))
        .flat_map(|line| [line, "\n"])
        .collect();
    for (name, plan) in
        [("as it is", &as_it_is), ("without order_by", &no_order), ("without order_by and key", &no_key)]
    {
        let output = run_plan(folder.path(), &records, plan)?.outputs[0].bytes;
        let (mut runs, mut floors) = (Vec::new(), Vec::new());
        for _ in 0..ROUNDS {
            let start = Instant::now();
            run_plan(folder.path(), &records, plan)?;
            runs.push(start.elapsed().as_secs_f64());
            let start = Instant::now();
            floor(&records, &folder.path().join("floor.csv"), output)?;
            floors.push(start.elapsed().as_secs_f64());
        }
        let (run, floor) = (median(&mut runs), median(&mut floors));
        println!(
            "{name}: {:.0} rows/s; floor {:.0} rows/s; ratio {:.1}",
            rows as f64 / run,
            rows as f64 / floor,
            run / floor
        );
    }
    Ok(())
}

fn small_file(folder: &Path) -> Result<PathBuf, Anything> {
    let path = folder.join("small.csv");
    let mut out = BufWriter::new(File::create(&path)?);
    writeln!(out, "Invoice,Customer,Work,Issued,Paid,Amount")?;
    for number in 0..20_000 {
        let (day, month) = (number % 28 + 1, number % 9 + 1);
        writeln!(out, "QB-{number:06},Heron Charters,Summer berth,{day:02}/{month:02}/2026,,{number}.25")?;
    }
    out.flush()?;
    Ok(path)
}

fn run_plan(folder: &Path, records: &Path, plan: &str) -> Result<mild_ledger_records::RunOutcome, Anything> {
    support::run_plan(folder, plan, RunRequest::new().with_records(records))
}

/// Reads all cells of a file and writes them again, with as much next to them as makes up the size.
fn floor(records: &Path, output: &Path, size: u64) -> Result<(), Anything> {
    let mut out = File::create(output)?;
    let (lines, mut written) = (RefCell::new(Vec::with_capacity(1 << 18)), 0_u64);
    let row = |text: &[u8], ends: &[usize]| {
        let (mut line, mut start) = (lines.borrow_mut(), 0);
        for end in ends {
            line.extend_from_slice(&text[start..*end]);
            line.push(b',');
            start = *end;
        }
        line.push(b'\n');
    };
    each_row(records, row, || {
        let mut lines = lines.borrow_mut();
        out.write_all(&lines)?;
        written += lines.len() as u64;
        lines.clear();
        Ok(())
    })?;
    while written < size {
        let more = vec![b' '; (128 << 10).min((size - written) as usize)];
        out.write_all(&more)?;
        written += more.len() as u64;
    }
    out.sync_all()?;
    Ok(())
}
