//! The rows of a monthly report, the empty ones too, and the same days in a year of weeks.
//!
//! ```text
//! cargo run --example periods
//! ```

use mild_ledger::{Date, DateRange, FiscalYear, PeriodRule, WeekYear};

fn main() -> Result<(), mild_ledger::Error> {
    let haul_outs = ["2026-01-14", "2026-01-29", "2026-04-02", "2026-05-20", "2026-05-22"];
    let dates = haul_outs.iter().map(|text| text.parse()).collect::<Result<Vec<Date>, _>>()?;
    let fiscal = FiscalYear::starting(4, 1)?;
    println!("Haul-outs by month:");
    if let (Some(first), Some(last)) = (dates.iter().min(), dates.iter().max()) {
        for month in PeriodRule::Month.covering(DateRange::new(*first, *last)?) {
            let count = dates.iter().filter(|date| month.contains(**date)).count();
            let quarter = PeriodRule::FiscalQuarter(fiscal).containing(month.first_day()?);
            println!("  {month}  {count}  ({quarter})");
        }
    }
    println!("\nThe periods of a year of weeks that ends on the last Saturday of January, split 4-4-5:");
    let rule: WeekYear = "last saturday of january, 4-4-5".parse()?;
    let year = PeriodRule::WeekYear(rule).containing("2026-06-01".parse()?);
    for period in PeriodRule::WeekPeriod(rule).covering(year.dates()) {
        println!(
            "  {:>2}  {} to {}  {} weeks",
            period.number(),
            period.first_day()?,
            period.last_day()?,
            period.days() / 7
        );
    }
    Ok(())
}
