//! `mild between START END`.

use crate::arguments::BetweenArguments;
use crate::clock;
use crate::ending::{Ending, Failure};
use crate::output::{to_standard_output, width};
use mild_ledger::{Date, DatePattern, Interval, Reading};
use mild_ledger_records::AsOf;
use mild_ledger_report::{json, terminal};

pub(crate) fn between(arguments: &BetweenArguments) -> Result<Ending, Failure> {
    let start = read_date("START", &arguments.start)?;
    let end = read_date("END", &arguments.end)?;
    let interval = Interval::between(start.date, end.date);
    if arguments.json {
        to_standard_output(&format!("{}\n", json::between(interval)))?;
        return Ok(Ending::Done);
    }
    let mut text = terminal::between(interval, width());
    if let Some(zone) = start.zone.or(end.zone) {
        text.push_str(&format!("today: the date in {zone}\n"));
    }
    to_standard_output(&text)?;
    Ok(Ending::Done)
}

/// A date of the command line, with the zone that today was taken from, where it was.
pub(crate) struct DateArgument {
    pub(crate) date: Date,
    pub(crate) zone: Option<String>,
}

/// Reads a date; one that is written in another way is refused with the ISO form that was perhaps meant.
pub(crate) fn read_date(name: &'static str, text: &str) -> Result<DateArgument, Failure> {
    let failed = |error| Failure::Argument { name, error, help: meant(text) };
    match text.parse::<AsOf>().map_err(failed)? {
        AsOf::Date(date) => Ok(DateArgument { date, zone: None }),
        named @ AsOf::Named(_) => {
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
