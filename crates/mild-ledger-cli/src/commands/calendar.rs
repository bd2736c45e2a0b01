//! `mild calendar [NAME|FILE [NAME|FILE]] [YEAR|FROM..TO]`.

use crate::arguments::CalendarCommandArguments;
use crate::calendars::read_calendar;
use crate::dates::Here;
use crate::ending::{Ending, Failure};
use crate::output::{note, to_file, to_standard_output};
use crate::terminal::{colour, width};
use mild_ledger::{CalendarYears, Decimal, Error, HolidayLength, Rounding};
use mild_ledger_calendars::{SHIPPED, Shipped};
use mild_ledger_records::{EventTime, ExistingFiles, to_ics};
use mild_ledger_report::png::PngFault;
use mild_ledger_report::{CalendarSources, Target, TwoCalendars, WorkYears, json, png, svg, terminal};
use std::path::Path;

pub(crate) fn calendar(arguments: &CalendarCommandArguments) -> Result<Ending, Failure> {
    let (sources, years) = sources_and_years(arguments)?;
    let text = match sources {
        [] => list(arguments)?,
        [only] if arguments.sources => stands_on(only, arguments)?,
        [only] => one_calendar(only, years, arguments)?,
        [one, other] => two_calendars([one, other], years, arguments)?,
        _ => {
            return Err(Failure::Request {
                what: format!("{} calendars are named, and at most two are compared", sources.len()),
                help: "name one or two, then the year".to_owned(),
            });
        }
    };
    to_standard_output(&text)?;
    Ok(Ending::Done)
}

/// Whether the last word is years: it reads as years, or it follows a calendar, begins with a digit and is not a file.
fn is_meant_as_years(last: &str, before: &[String]) -> bool {
    let begins_so = last.starts_with(|sign: char| sign.is_ascii_digit()) && !before.is_empty();
    (begins_so || last.parse::<CalendarYears>().is_ok()) && !Path::new(last).exists()
}

/// The calendars that are named, and after them the years.
fn sources_and_years(arguments: &CalendarCommandArguments) -> Result<(&[String], Option<&str>), Failure> {
    match arguments.words.split_last() {
        Some((last, before)) if is_meant_as_years(last, before) => {
            if before.is_empty() {
                return Err(Failure::Request {
                    what: format!("{last} is a year, and no calendar is named before it"),
                    help: "name one, such as england-wales, a file, or \"none\" for rest days alone"
                        .to_owned(),
                });
            }
            Ok((before, Some(last)))
        }
        _ => Ok((&arguments.words, None)),
    }
}

/// The calendars that ship, or those about a word.
fn list(arguments: &CalendarCommandArguments) -> Result<String, Failure> {
    refuse_options_without_calendar(arguments)?;
    let listed: Vec<&Shipped> = match &arguments.find {
        Some(word) => SHIPPED.iter().filter(|shipped| shipped.is_about(word)).collect(),
        None => SHIPPED.iter().collect(),
    };
    if let (Some(word), true) = (&arguments.find, listed.is_empty()) {
        return Err(Failure::Request {
            what: format!("no calendar is about \"{}\"", word.escape_debug()),
            help: "mild calendar lists them all; names and regions are in English".to_owned(),
        });
    }
    Ok(match arguments.answer.json {
        true => format!("{}\n", json::shipped_calendars(&listed)),
        false => terminal::shipped_calendars(&listed, width()),
    })
}

/// The law of a calendar, and what should be known of it.
fn stands_on(source: &String, arguments: &CalendarCommandArguments) -> Result<String, Failure> {
    let opened = read_calendar(std::slice::from_ref(source), &arguments.calendar, None)?;
    let found = CalendarSources::of(source, &opened);
    Ok(match arguments.answer.json {
        true => format!("{}\n", json::sources(&found)),
        false => terminal::sources(&found, width()),
    })
}

fn one_calendar(
    source: &String,
    years: Option<&str>,
    arguments: &CalendarCommandArguments,
) -> Result<String, Failure> {
    // Only the years asked for are worked out, where they are named.
    let asked = years.and_then(|text| text.parse().ok());
    let opened = read_calendar(std::slice::from_ref(source), &arguments.calendar, asked)?;
    let years = read_years(years, arguments, opened.covers())?;
    let target = arguments.target.as_deref().map(|text| read_target(text, arguments)).transpose()?;
    let found = WorkYears::of(&opened, (years.first(), years.last()), target).map_err(wrong_year)?;
    write_files(arguments, &found, years)?;
    Ok(match (arguments.answer.json, arguments.grid, arguments.holidays) {
        (true, ..) => format!("{}\n", json::calendar(&found)),
        (false, true, false) => terminal::year_grid(&found, width(), colour()),
        (false, false, true) => terminal::holidays(&found, width()),
        (false, true, true) => {
            terminal::year_grid(&found, width(), colour()) + "\n" + &terminal::holidays(&found, width())
        }
        (false, false, false) => terminal::work_years(&found, width()),
    })
}

fn wrong_year(error: Error) -> Failure {
    Failure::Argument { name: "YEAR", error, help: None }
}

/// Two calendars side by side.
fn two_calendars(
    sources: [&String; 2],
    years: Option<&str>,
    arguments: &CalendarCommandArguments,
) -> Result<String, Failure> {
    refuse_options(arguments, &["--rest-days", "--holiday", "--covers", "--half-days"], |name| {
        Failure::Request {
            what: format!("{name} is about one calendar, and two are named"),
            help: "leave it out, or name one calendar".to_owned(),
        }
    })?;
    let [one, other] =
        sources.map(|source| read_calendar(std::slice::from_ref(source), &arguments.calendar, None));
    let (one, other) = (one?, other?);
    let covers = match (one.covers(), other.covers()) {
        (Some(one), Some(other)) => one.overlap(other),
        (one, other) => one.or(other),
    };
    let years = read_years(years, arguments, covers)?;
    let found = TwoCalendars::of([&one, &other], years).map_err(wrong_year)?;
    Ok(match arguments.answer.json {
        true => format!("{}\n", json::two_calendars(&found)),
        false => terminal::two_calendars(&found, width()),
    })
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
        // Whoever reads the events takes each for a closed day.
        let (days, halves): (Vec<_>, Vec<_>) =
            found.holidays().iter().partition(|holiday| holiday.length() == HolidayLength::WholeDay);
        let days = days.into_iter().map(|holiday| (EventTime::Day(holiday.date()), holiday.name()));
        to_file(path, to_ics(found.name(), days).as_bytes(), ExistingFiles::Keep)?;
        if !halves.is_empty() {
            let have = if halves.len() == 1 { "half day has" } else { "half days have" };
            note(&format!("{} {have} no event, because an event is a whole day off", halves.len()));
        }
    }
    if let Some(path) = &arguments.svg {
        to_file(path, svg::years(found).as_bytes(), ExistingFiles::Keep)?;
    }
    if let Some(path) = &arguments.png {
        let pixels = png::of_svg(&svg::years(found)).map_err(no_png)?;
        to_file(path, &pixels, ExistingFiles::Keep)?;
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
    refuse_options(arguments, &[], |name| Failure::Request {
        what: format!("{name} is about a calendar's years, and no calendar is named"),
        help: "name one, such as england-wales, a file, or \"none\" for rest days alone".to_owned(),
    })
}

/// Refuses the first option that is given, but for those that are allowed.
fn refuse_options(
    arguments: &CalendarCommandArguments,
    allowed: &[&str],
    refused: impl FnOnce(&str) -> Failure,
) -> Result<(), Failure> {
    let parts = &arguments.calendar;
    let given = [
        ("--grid", arguments.grid),
        ("--holidays", arguments.holidays),
        ("--sources", arguments.sources),
        ("--target", arguments.target.is_some()),
        ("--ics", arguments.ics.is_some()),
        ("--svg", arguments.svg.is_some()),
        ("--png", arguments.png.is_some()),
        ("--rest-days", parts.rest_days.is_some()),
        ("--holiday", !parts.named_holidays.is_empty()),
        ("--covers", parts.covers.is_some()),
        ("--half-days", parts.half_days.is_some()),
    ];
    match given.into_iter().find(|(name, given)| *given && !allowed.contains(name)) {
        Some((name, _)) => Err(refused(name)),
        None => Ok(()),
    }
}

/// The years asked for, or this one. Where the calendar does not cover this year, the nearest year that it covers, with a note.
fn read_years(
    years: Option<&str>,
    arguments: &CalendarCommandArguments,
    covers: Option<CalendarYears>,
) -> Result<CalendarYears, Failure> {
    let text = match years {
        Some(text) => text.to_owned(),
        None => {
            let here = Here::of(&arguments.answer)?;
            let today = here.read_moment("YEAR", "today")?.value.date().year();
            let (first, last) = covers.map_or((1, 9_999), |years| (years.first(), years.last()));
            let shown = today.clamp(first, last);
            if shown != today {
                note(&format!("it does not cover {today}; this is {shown}, the nearest year that it covers"));
            }
            shown.to_string()
        }
    };
    let years: CalendarYears = text.parse().map_err(|error: Error| wrong_years(error.what()))?;
    if years.last() < 100 {
        let century = |year: i32| if year < 70 { 2_000 + year } else { 1_900 + year };
        return Err(Failure::Request {
            what: format!("YEAR: {text} is a year of the first century"),
            help: format!("{} perhaps; a year has four digits", century(years.first())),
        });
    }
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
