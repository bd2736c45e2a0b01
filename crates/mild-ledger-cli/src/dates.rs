//! Dates among the arguments.

use crate::clock;
use crate::ending::Failure;
use mild_ledger::{Date, DatePattern, Reading};
use mild_ledger_records::AsOf;
use std::str::FromStr;

/// A date of the command line, with the zone that today was taken from, where it was.
pub(crate) struct DateArgument {
    pub(crate) date: Date,
    pub(crate) zone: Option<String>,
}

/// Reads a date; one that is written in another way is refused with the ISO form that was perhaps meant.
pub(crate) fn read_date(
    name: &'static str,
    text: &str,
    today: Option<Date>,
) -> Result<DateArgument, Failure> {
    let failed = |error| Failure::Argument { name, error, help: meant(text) };
    match text.parse::<AsOf>().map_err(failed)? {
        AsOf::Date(date) => Ok(DateArgument { date, zone: None }),
        named @ AsOf::Named(_) => {
            if let Some(today) = today {
                return Ok(DateArgument { date: named.on(today).map_err(failed)?, zone: None });
            }
            let today = clock::today();
            let date = named.on(today.date).map_err(failed)?;
            Ok(DateArgument { date, zone: Some(today.zone) })
        }
    }
}

/// The ISO forms that a date written in another way may have meant.
fn meant(text: &str) -> Option<String> {
    const WRITTEN: [&str; 8] = [
        "day/month/year",
        "month/day/year",
        "day.month.year",
        "day-month-year",
        "year/month/day",
        "yearmonthday",
        "day month-name year",
        "month-name day, year",
    ];
    let mut dates: Vec<String> = WRITTEN
        .into_iter()
        .filter_map(|written| match written.parse::<DatePattern>().ok()?.read(text) {
            Ok(Reading::Date { date, .. }) => Some(format!("{date} ({written})")),
            _ => None,
        })
        .collect();
    dates.dedup();
    (!dates.is_empty()).then(|| format!("perhaps {} was meant", dates.join(" or ")))
}

/// The date that `--as-of` fixes as today, if it is given.
pub(crate) fn read_as_of(text: Option<&str>) -> Result<Option<Date>, Failure> {
    text.map(|text| read_date("--as-of", text, None).map(|argument| argument.date)).transpose()
}

/// A choice of a fixed set of words, such as a rule for month ends.
pub(crate) fn read_choice<T: FromStr<Err = mild_ledger::Error>>(
    name: &'static str,
    text: &str,
) -> Result<T, Failure> {
    text.parse().map_err(|error| Failure::Argument { name, error, help: None })
}
