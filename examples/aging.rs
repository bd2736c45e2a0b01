//! A few invoices aged by hand: due dates, days overdue, buckets and exact sums.
//!
//! ```text
//! cargo run --example aging
//! ```

use mild_ledger::{AgingBuckets, BucketMeasure, Date, Decimal, Interval, Invoice, Scale, Shift, Standing};

/// Number, issued, paid, amount.
const INVOICES: [(&str, &str, Option<&str>, &str); 6] = [
    ("QB-2001", "2026-05-20", None, "18.40"),
    ("QB-2002", "2026-07-31", None, "1250.00"),
    ("QB-2003", "2026-08-12", Some("2026-09-02"), "310.75"),
    ("QB-2004", "2026-08-31", None, "96.10"),
    ("QB-2005", "2026-09-14", None, "-40.00"),
    ("QB-2006", "2026-10-01", None, "702.00"),
];

fn main() -> Result<(), Box<dyn std::error::Error>> {
    let as_of: Date = "2026-09-30".parse()?;
    let cents = Scale::new(2)?;
    let buckets = AgingBuckets::from_upper_edges(&[0, 30, 60, 90], BucketMeasure::DaysOverdue)?;
    let mut sums: Vec<Decimal> = buckets.labels().iter().map(|_| cents.amount(0)).collect();

    println!("As of {as_of}, due 30 days after issue:");
    for (number, issued, paid, amount) in INVOICES {
        let issued: Date = issued.parse()?;
        let paid = paid.map(str::parse).transpose()?;
        let invoice = Invoice { amount: cents.read(amount)?, issued: Some(issued), paid };
        let due = Shift::days(30).apply(issued)?;
        let overdue = Interval::between(due, as_of).days();
        let said = match invoice.standing_on(as_of) {
            Standing::Open => {
                let bucket = buckets.bucket_of(overdue.value());
                sums[bucket] = sums[bucket].checked_add(invoice.amount).ok_or("too much is owed")?;
                format!("due {due}, overdue {overdue}: {}", buckets.label(bucket).unwrap_or_default())
            }
            Standing::Settled => "settled".to_owned(),
            Standing::Credit => "a credit, netted in the total only".to_owned(),
            Standing::NotYetIssued => "not yet issued".to_owned(),
        };
        println!("  {number}  {:>8}  {said}", invoice.amount);
    }
    println!();
    for (label, sum) in buckets.labels().iter().zip(&sums) {
        println!("  {label:<12}{sum:>9}");
    }
    Ok(())
}
