//! `mild calendar [NAME|FILE] [YEAR|FROM..TO]`.

use crate::arguments::CalendarCommandArguments;
use crate::calendars::read_calendar;
use crate::dates::Here;
use crate::ending::{Ending, Failure};
use crate::output::{to_new_file, to_standard_output};
use crate::terminal::{colour, width};
use mild_ledger::{CalendarYears, Decimal, Error, Rounding};
use mild_ledger_records::to_ics;
use mild_ledger_report::png::PngFault;
use mild_ledger_report::{Target, WorkYears, json, png, svg, terminal};

pub(crate) fn calendar(arguments: &CalendarCommandArguments) -> Result<Ending, Failure> {
    let Some(source) = &arguments.source else {
        refuse_options_without_calendar(arguments)?;
        let text = match arguments.answer.json {
            true => format!("{}\n", json::shipped_calendars()),
            false => terminal::shipped_calendars(width()),
        };
        to_standard_output(&text)?;
        return Ok(Ending::Done);
    };
    let sources = std::slice::from_ref(source);
    // Only the years asked for are worked out, where they are named.
    let asked = arguments.years.as_deref().and_then(|text| text.parse().ok());
    let opened = read_calendar(sources, &arguments.calendar, asked)?;
    let years = read_years(arguments, opened.covers())?;
    let target = arguments.target.as_deref().map(|text| read_target(text, arguments)).transpose()?;
    let failed = |error| Failure::Argument { name: "YEAR", error, help: None };
    let found = WorkYears::of(&opened, (years.first(), years.last()), target).map_err(failed)?;
    write_files(arguments, &found, years)?;
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

/// The files that options name.
fn write_files(
    arguments: &CalendarCommandArguments,
    found: &WorkYears,
    years: CalendarYears,
) -> Result<(), Failure> {
    let many = usize::try_from(years.last() - years.first()).unwrap_or(usize::MAX) >= svg::MOST_YEARS;
    if many && (arguments.svg.is_some() || arguments.png.is_some()) {
        return Err(Failure::Request {
            what: format!("a picture shows at most {} years, and {years} are more", svg::MOST_YEARS),
            help: "name fewer years".to_owned(),
        });
    }
    if let Some(path) = &arguments.ics {
        let days = found.holidays().iter().map(|holiday| (holiday.date(), holiday.name()));
        to_new_file(path, to_ics(found.name(), days).as_bytes())?;
    }
    if let Some(path) = &arguments.svg {
        to_new_file(path, svg::years(found).as_bytes())?;
    }
    if let Some(path) = &arguments.png {
        let pixels = png::of_svg(&svg::years(found)).map_err(no_png)?;
        to_new_file(path, &pixels)?;
    }
    Ok(())
}

fn no_png(fault: PngFault) -> Failure {
    match fault {
        PngFault::NotDrawn(what) => Failure::Request {
            what: format!("the picture cannot be drawn: {what}"),
            help: "name fewer years, or --svg".to_owned(),
        },
        PngFault::NotBuilt => Failure::Request {
            what: "--png needs the feature \"png\", which this build was made without".to_owned(),
            help: "install it with --all-features, or ask for --svg".to_owned(),
        },
    }
}

/// Options that say something of a calendar's years do nothing where none is named.
fn refuse_options_without_calendar(arguments: &CalendarCommandArguments) -> Result<(), Failure> {
    let parts = &arguments.calendar;
    let given = [
        ("--grid", arguments.grid),
        ("--holidays", arguments.holidays),
        ("--target", arguments.target.is_some()),
        ("--ics", arguments.ics.is_some()),
        ("--svg", arguments.svg.is_some()),
        ("--png", arguments.png.is_some()),
        ("--rest-days", parts.rest_days.is_some()),
        ("--holiday", !parts.named_holidays.is_empty()),
        ("--covers", parts.covers.is_some()),
        ("--half-days", parts.half_days.is_some()),
    ];
    match given.into_iter().find(|(_, given)| *given) {
        Some((name, _)) => Err(Failure::Request {
            what: format!("{name} is about a calendar's years, and no calendar is named"),
            help: "name one, such as england-wales, a file, or \"none\" for rest days alone".to_owned(),
        }),
        None => Ok(()),
    }
}

/// The years asked for, or this one.
fn read_years(
    arguments: &CalendarCommandArguments,
    covers: Option<CalendarYears>,
) -> Result<CalendarYears, Failure> {
    let text = match &arguments.years {
        Some(text) => text.clone(),
        None => {
            let here = Here::of(&arguments.answer)?;
            let today = here.read_moment("YEAR", "today")?.value.date();
            // A calendar that ended before this year is shown as far as it goes.
            let (first, last) = covers.map_or((1, 9_999), |years| (years.first(), years.last()));
            today.year().clamp(first, last).to_string()
        }
    };
    let years: CalendarYears = text.parse().map_err(|error: Error| wrong_years(error.what()))?;
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

/// An amount with the decimals that it is written with, two at least; none where whole units are asked for.
fn read_target(text: &str, arguments: &CalendarCommandArguments) -> Result<Target, Failure> {
    let failed = |error| Failure::Argument { name: "--target", error, help: None };
    let total: Decimal = text.replace('−', "-").parse().map_err(failed)?;
    let rounding = if arguments.rate_up { Rounding::Up } else { Rounding::Nearest };
    if arguments.whole {
        return Ok(Target { total, rounding, decimals: 0 });
    }
    let decimals = total.decimals().max(2);
    let total = total.with_decimals(decimals, Rounding::Nearest).map_err(failed)?;
    Ok(Target { total, rounding, decimals })
}
