//! A billing plan from a month end, and a review every six months on a Monday.
//!
//! ```text
//! cargo run --example recurrence
//! ```

use mild_ledger::{Date, MonthEnd, Recurrence, Shift, Weekday, WeekdayMove};

fn main() -> Result<(), mild_ledger::Error> {
    let signed: Date = "2026-01-31".parse()?;
    println!("Berth fees from {signed}, month ends kept:");
    let monthly = Recurrence::new(signed, Shift::months(1).with_month_end(MonthEnd::Keep));
    for date in monthly.until("2026-06-30".parse()?) {
        println!("  {}", date?);
    }
    println!("\nReviews every six months, on the Monday on or after:");
    let reviews = Recurrence::new(signed, Shift::months(6));
    for number in 1..=4 {
        let due = reviews.occurrence(number)?;
        println!("  {}  ({})", WeekdayMove::OnOrAfter(Weekday::Monday).apply(due)?, reviews.why(number)?);
    }
    Ok(())
}
