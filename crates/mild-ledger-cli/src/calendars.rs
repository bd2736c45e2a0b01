//! Calendars among the arguments.

use crate::arguments::{CalendarArguments, CalendarParts};
use crate::dates::read_choice;
use crate::ending::Failure;
use mild_ledger::{Date, WorkCalendar};
use mild_ledger_records::{CalendarRequest, open_calendar};

/// The calendars that a question names: one for each `--calendar`, or the one of rest days and single dates; none where
/// nothing of the kind was asked for.
pub(crate) fn read_calendars(arguments: &CalendarArguments) -> Result<Vec<WorkCalendar>, Failure> {
    let parts = &arguments.parts;
    if arguments.calendars.is_empty() && parts.rest_days.is_none() && parts.named_holidays.is_empty() {
        return Ok(Vec::new());
    }
    if arguments.calendars.is_empty() {
        return Ok(vec![read_calendar(None, parts)?]);
    }
    arguments.calendars.iter().map(|source| read_calendar(Some(source), parts)).collect()
}

/// One calendar with what is added to it.
pub(crate) fn read_calendar(source: Option<&str>, parts: &CalendarParts) -> Result<WorkCalendar, Failure> {
    let rest_days = parts.rest_days.as_deref().map(|text| read_choice("--rest-days", text)).transpose()?;
    let holidays: Vec<Date> =
        parts.named_holidays.iter().map(|text| read_choice("--holiday", text)).collect::<Result<_, _>>()?;
    let covers = match parts.covers.as_deref().map(str::parse) {
        Some(Ok(years)) => Some(years),
        Some(Err(what)) => {
            return Err(Failure::Request {
                what: format!("--covers: {what}"),
                help: "name a first and a last year".to_owned(),
            });
        }
        None => None,
    };
    let sources = source.map(str::to_owned).into_iter().collect();
    Ok(open_calendar(&CalendarRequest { sources, rest_days, holidays, covers })?)
}
