//! The time between two dates, and why "two years" is three different figures.
//!
//! ```text
//! cargo run --example intervals
//! ```

use mild_ledger::{CountRule, Date, Interval, MonthEnd, Shift};

fn main() -> Result<(), mild_ledger::Error> {
    let (start, end): (Date, Date) = ("2019-11-30".parse()?, "2022-01-02".parse()?);
    let interval = Interval::between(start, end);
    println!("From {start} ({}) to {end} ({}):", start.weekday(), end.weekday());
    for rule in CountRule::all() {
        println!("  {}", interval.count(rule));
    }
    println!("  {}", interval.parts());

    println!("\nA service every month, from 2026-01-31:");
    let first: Date = "2026-01-31".parse()?;
    for rule in MonthEnd::ALL {
        // Each date is moved from the first, never from the one before it, or month ends would drift.
        let dates: Vec<String> = (1..=4)
            .map(|months| match Shift::months(months).with_month_end(rule).apply(first) {
                Ok(date) => date.to_string(),
                Err(error) => format!("none ({})", error.allowed()),
            })
            .collect();
        println!("  {:<10}  {}", rule.word(), dates.join("  "));
    }
    Ok(())
}
