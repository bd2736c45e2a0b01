//! Writes a large file of made-up invoices of Quillhaven Boatyard, for trying out speed and memory.
//!
//! ```text
//! cargo run --release -p mild-ledger-records --example make_invoices -- 1000000 invoices.csv
//! cargo run --release -p mild-ledger-records --example make_invoices -- 1000000 invoices.csv three-dates
//! ```
//!
//! With `three-dates` each has the day of its launch too, in ISO 8601.

use mild_ledger::{Date, Scale, Shift};
use std::fs::File;
use std::io::{BufWriter, Write};

const CUSTOMERS: [&str; 8] = [
    "Bracken Sea Survey",
    "Brise d'Été Voile",
    "Cordage & Co.",
    "Heron Charters",
    "North Spit Pilots",
    "Puffin Island Trips",
    "Saltmarsh Ferries",
    "Samphire Kayaks",
];
const WORK: [&str; 5] =
    ["Summer berth", "Haul-out and launch", "Antifoul, two coats", "Engine service", "Rigging check"];

fn main() -> Result<(), Box<dyn std::error::Error>> {
    let mut arguments = std::env::args().skip(1);
    let count: u64 = arguments.next().ok_or("how many invoices?")?.parse()?;
    let path = arguments.next().ok_or("to which file?")?;
    let launched = arguments.next().is_some_and(|word| word == "three-dates");
    let mut out = BufWriter::new(File::create(path)?);
    let (first, cents) = (Date::new(2024, 1, 1)?, Scale::new(2)?);
    let written = |date: Date| format!("{:02}/{:02}/{}", date.day(), date.month(), date.year());
    let mut random = Random(20_260_930);
    writeln!(out, "Invoice,Customer,Work,Issued,Paid,Amount{}", if launched { ",Launched" } else { "" })?;
    for number in 1..=count {
        let issued = Shift::days(random.below(1000) as i32).apply(first)?;
        let paid = match random.below(10) {
            0..=6 => written(Shift::days(random.below(90) as i32).apply(issued)?),
            _ => String::new(),
        };
        let customer = CUSTOMERS[random.below(8) as usize];
        let work = WORK[random.below(5) as usize];
        let work = if work.contains(',') { format!("\"{work}\"") } else { work.to_owned() };
        let amount = cents.amount(i128::from(random.below(2_000_000)) + 500);
        write!(out, "QB-{number:08},{customer},{work},{},{paid},{amount}", written(issued))?;
        if launched {
            write!(out, ",{}", Shift::days(-(random.below(20) as i32)).apply(issued)?)?;
        }
        writeln!(out)?;
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
