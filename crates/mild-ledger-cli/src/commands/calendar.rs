//! `mild calendar [NAME|FILE] [YEAR|FROM..TO]`.

use crate::arguments::CalendarCommandArguments;
use crate::calendars::read_calendar;
use crate::dates::{Here, Moment};
use crate::ending::{Ending, Failure};
use crate::output::{colour, to_standard_output, width};
use mild_ledger::{Decimal, Rounding, Scale, WorkCalendar};
use mild_ledger_records::{CalendarYears, to_ics, write_new_file};
use mild_ledger_report::{Target, WorkYears, json, png, svg, terminal};

pub(crate) fn calendar(arguments: &CalendarCommandArguments) -> Result<Ending, Failure> {
    let Some(source) = &arguments.source else {
        let text = match arguments.answer.json {
            true => format!("{}\n", json::shipped_calendars()),
            false => terminal::shipped_calendars(width()),
        };
        to_standard_output(&text)?;
        return Ok(Ending::Done);
    };
    let calendar =
        read_calendar(Some(source.as_str()).filter(|source| *source != "none"), &arguments.calendar)?;
    let years = read_years(arguments, &calendar)?;
    let target = arguments.target.as_deref().map(|text| read_target(text, arguments.rate_up)).transpose()?;
    let failed = |error| Failure::Argument { name: "YEAR", error, help: None };
    let found = WorkYears::of(&calendar, (years.first(), years.last()), target).map_err(failed)?;
    if let Some(path) = &arguments.ics {
        let days = found.holidays().iter().map(|holiday| (holiday.date(), holiday.name()));
        write_new_file(path, to_ics(calendar.name(), days).as_bytes())?;
    }
    if let Some(path) = &arguments.svg {
        write_new_file(path, svg::years(&found).as_bytes())?;
    }
    if let Some(path) = &arguments.png {
        let pixels = png::of_svg(&svg::years(&found)).map_err(|what| Failure::Request {
            what: format!("the picture cannot be drawn: {what}"),
            help: "name fewer years, or --svg".to_owned(),
        })?;
        write_new_file(path, &pixels)?;
    }
    let text = match (arguments.answer.json, arguments.grid, arguments.holidays) {
        (true, ..) => format!("{}\n", json::calendar(&found)),
        (false, true, false) => terminal::year_grid(&found, width(), colour()),
        (false, false, true) => terminal::holidays(&found, width()),
        (false, true, true) => {
            terminal::year_grid(&found, width(), colour()) + "\n" + &terminal::holidays(&found, width())
        }
        (false, false, false) => terminal::work_years(&found, width()),
    };
    to_standard_output(&text)?;
    Ok(Ending::Done)
}

/// The years asked for, or this one.
fn read_years(
    arguments: &CalendarCommandArguments,
    calendar: &WorkCalendar,
) -> Result<CalendarYears, Failure> {
    let text = match &arguments.years {
        Some(text) => text.clone(),
        None => {
            let here = Here::of(&arguments.answer)?;
            let Moment::Day(today) = here.read_moment("YEAR", "today")?.value else {
                return Err(wrong_years("today"));
            };
            // A calendar that ended before this year is shown as far as it goes.
            let (first, last) = calendar.covers().unwrap_or((1, 9_999));
            today.year().clamp(first, last).to_string()
        }
    };
    let years: CalendarYears = text.parse().map_err(|what: String| wrong_years(&what))?;
    if years.last() - years.first() > 99 {
        return Err(wrong_years("that is more than a hundred years"));
    }
    Ok(years)
}

fn wrong_years(what: &str) -> Failure {
    Failure::Request {
        what: format!("YEAR: {what}"),
        help: "write a year such as 2026, or 2025..2026".to_owned(),
    }
}

/// An amount with the decimals that it is written with, two at least.
fn read_target(text: &str, rate_up: bool) -> Result<Target, Failure> {
    let failed = |error| Failure::Argument { name: "--target", error, help: None };
    let decimals = text.split_once('.').map_or(0, |(_, decimals)| decimals.len()).max(2);
    let scale = Scale::new(u8::try_from(decimals).unwrap_or(u8::MAX)).map_err(failed)?;
    let amount = scale.read(&text.replace('−', "-")).map_err(failed)?;
    let total = Decimal::of_units(amount.units(), scale.decimals()).map_err(failed)?;
    Ok(Target { total, rounding: if rate_up { Rounding::Up } else { Rounding::Nearest } })
}
