//! Ages, service anniversaries and a quantity per month of tenure.
//!
//! ```text
//! cargo run --example tenure
//! ```

use mild_ledger::{Anniversaries, Date, DateRange, Decimal, Rounding, Tenure, Unit, rate_per};

/// Name, born, hired, left, boats launched.
const STAFF: [(&str, &str, &str, Option<&str>, i64); 4] = [
    ("Ada Fenwick", "1984-02-29", "2009-05-18", None, 412),
    ("Bo Larch", "1991-12-03", "2018-01-04", None, 176),
    ("Cleo Marsh", "2001-07-30", "2024-02-12", Some("2026-06-30"), 61),
    ("Dov Quay", "1999-10-11", "2026-10-05", None, 0),
];

fn main() -> Result<(), mild_ledger::Error> {
    let as_of: Date = "2026-09-30".parse()?;
    let window = DateRange::months_from("2026-11-12".parse()?, 3)?;
    println!("As of {as_of}; anniversaries from {window}:");
    for (name, born, hired, left, launched) in STAFF {
        let age = Anniversaries::of(born.parse()?).age_on(as_of)?;
        let hired: Date = hired.parse()?;
        let tenure = match left {
            Some(left) => Tenure::from(hired).until(left.parse()?),
            None => Tenure::from(hired),
        };
        let said = match tenure.as_of(as_of) {
            Ok(stay) => {
                let launched = Decimal::from(launched).into();
                let rate = rate_per(launched, stay.fractional(Unit::Month), None)?;
                let rate = rate.to_decimal(2, Rounding::Nearest)?;
                format!("{}, {rate} launches a month", stay.parts())
            }
            Err(error) => error.what().to_owned(),
        };
        println!("  {name:<12} {} years old; {said}", age.value());
        for coming in Anniversaries::of(hired).within(window).filter(|_| left.is_none()) {
            println!("  {:<12} {}: {} years there", "", coming.date(), coming.number());
        }
    }
    Ok(())
}
