//! Calendars among the arguments.

use crate::arguments::{CalendarArguments, CalendarParts};
use crate::dates::read_choice;
use crate::ending::Failure;
use crate::output::note;
use mild_ledger::{CalendarYears, Date, HalfDays, WorkCalendar};
use mild_ledger_records::{CalendarRequest, OpenedCalendar, open_calendar};

/// The word for a calendar of rest days alone.
const NONE: &str = "none";

/// The calendars that a question names: one for each `--calendar`, or the one of rest days and single dates; none where
/// nothing of the kind was asked for. Only the years asked are worked out.
pub(crate) fn read_calendars(
    arguments: &CalendarArguments,
    asked: Option<CalendarYears>,
) -> Result<Vec<WorkCalendar>, Failure> {
    let parts = &arguments.parts;
    if !is_asked_for(arguments)? {
        return Ok(Vec::new());
    }
    let each = |sources: &[String]| Ok(read_calendar(sources, parts, asked)?.calendar().clone());
    if arguments.calendars.is_empty() {
        return Ok(vec![each(&[])?]);
    }
    arguments.calendars.iter().map(|source| each(std::slice::from_ref(source))).collect()
}

/// The one calendar of a move: closed on each day that any of those named closes.
pub(crate) fn read_one_calendar(arguments: &CalendarArguments) -> Result<Option<WorkCalendar>, Failure> {
    if !is_asked_for(arguments)? {
        return Ok(None);
    }
    Ok(Some(read_calendar(&arguments.calendars, &arguments.parts, None)?.calendar().clone()))
}

fn is_asked_for(arguments: &CalendarArguments) -> Result<bool, Failure> {
    let parts = &arguments.parts;
    if parts.covers.is_some() && arguments.calendars.is_empty() && parts.named_holidays.is_empty() {
        return Err(Failure::Request {
            what: "--covers says which years a calendar covers, and no calendar is named".to_owned(),
            help: "name one with --calendar, or leave it out".to_owned(),
        });
    }
    if parts.half_days.is_some() && arguments.calendars.is_empty() {
        return Err(Failure::Request {
            what: "--half-days says what a calendar's half days count as, and no calendar is named"
                .to_owned(),
            help: "name one with --calendar, or leave it out".to_owned(),
        });
    }
    Ok(!arguments.calendars.is_empty() || parts.rest_days.is_some() || !parts.named_holidays.is_empty())
}

/// One calendar of some sources, with its additions. Doubts about it are printed.
pub(crate) fn read_calendar(
    sources: &[String],
    parts: &CalendarParts,
    asked: Option<CalendarYears>,
) -> Result<OpenedCalendar, Failure> {
    let rest_days = parts.rest_days.as_deref().map(|text| read_choice("--rest-days", text)).transpose()?;
    let holidays: Vec<Date> =
        parts.named_holidays.iter().map(|text| read_choice("--holiday", text)).collect::<Result<_, _>>()?;
    let half_days = match &parts.half_days {
        Some(text) => read_choice("--half-days", text)?,
        None => HalfDays::Open,
    };
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
    let sources: Vec<String> = sources.iter().filter(|source| *source != NONE).cloned().collect();
    if covers.is_some() && sources.is_empty() && holidays.is_empty() {
        return Err(Failure::Request {
            what: "--covers says which years a calendar covers, and rest days alone cover every year"
                .to_owned(),
            help: "name a calendar, or leave it out".to_owned(),
        });
    }
    let opened = open_calendar(&CalendarRequest { sources, rest_days, holidays, covers, half_days, asked })?;
    opened.warnings().iter().for_each(|warning| note(warning));
    Ok(opened)
}
