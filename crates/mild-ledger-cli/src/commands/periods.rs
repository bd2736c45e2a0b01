//! `mild periods DATE`.

use crate::arguments::PeriodsArguments;
use crate::calendars::read_calendars;
use crate::dates::{Here, read_choice};
use crate::ending::{Ending, Failure};
use crate::output::to_standard_output;
use crate::terminal::width;
use mild_ledger::{CalendarYears, FiscalYear, LabelPattern, PeriodRule, WeekYear, Weekday};
use mild_ledger_report::{Detail, PeriodFigure, Surroundings, SurroundingsRequest, json, terminal};
use std::str::FromStr;

pub(crate) fn periods(arguments: &PeriodsArguments) -> Result<Ending, Failure> {
    let around = Here::of(&arguments.answer)?.read_date("DATE", &arguments.date)?;
    let request = request(arguments)?;
    let failed = |error| Failure::Argument { name: "--away", error, help: None };
    let found = Surroundings::of(around.value, &request).map_err(failed)?;
    let year = around.value.year();
    let calendars = read_calendars(&arguments.calendar, Some(CalendarYears::of(year, year)))?;
    if let (Some(period), Some(gives)) = (&arguments.period, &arguments.gives) {
        if !calendars.is_empty() {
            let what = "--period gives one figure, and none of them asks for a calendar".to_owned();
            return Err(Failure::Request { what, help: "leave out the calendar, or --period".to_owned() });
        }
        to_standard_output(&one_figure(&found, &request, (period, gives))?)?;
        return Ok(Ending::Done);
    }
    let uncovered = |error| Failure::Argument { name: "--calendar", error, help: None };
    let found = found.with_calendars(&calendars).map_err(uncovered)?;
    if arguments.answer.json {
        to_standard_output(&format!("{}\n", json::periods(&found)))?;
        return Ok(Ending::Done);
    }
    let mut text = terminal::periods(&found, width());
    if let Some(note) = around.note {
        text.push_str(&format!("{note}\n"));
    }
    to_standard_output(&text)?;
    Ok(Ending::Done)
}

fn request(arguments: &PeriodsArguments) -> Result<SurroundingsRequest, Failure> {
    let mut fiscal = match &arguments.fiscal_year_begins {
        Some(text) => FiscalYear::starting_on(text).map_err(|error| Failure::Argument {
            name: "--fiscal-year-begins",
            error,
            help: None,
        })?,
        None => FiscalYear::default(),
    };
    let mut weeks = choice_or("--week-years", &arguments.week_years, WeekYear::iso())?;
    if let Some(text) = &arguments.fiscal_named {
        let naming = read_choice("--fiscal-named", text)?;
        fiscal = fiscal.with_naming(naming);
        weeks = weeks.with_naming(naming);
    }
    Ok(SurroundingsRequest {
        away: arguments.away,
        fiscal,
        weeks,
        weeks_begin: choice_or("--weeks-begin", &arguments.weeks_begin, Weekday::Monday)?,
        week_numbers: choice_or("--weeks", &arguments.weeks, mild_ledger::WeekNumbers::iso())?,
        weekday_numbers: choice_or("--weekdays", &arguments.weekdays, Default::default())?,
        detail: if arguments.why { Detail::WithWorking } else { Detail::FiguresOnly },
        pattern: arguments
            .pattern
            .as_deref()
            .map(|text| read_choice::<LabelPattern>("--pattern", text))
            .transpose()?,
    })
}

fn choice_or<T: FromStr<Err = mild_ledger::Error>>(
    name: &'static str,
    text: &Option<String>,
    otherwise: T,
) -> Result<T, Failure> {
    text.as_deref().map_or(Ok(otherwise), |text| read_choice(name, text))
}

fn one_figure(
    found: &Surroundings,
    request: &SurroundingsRequest,
    (period, gives): (&str, &str),
) -> Result<String, Failure> {
    let rules = PeriodRule::all(request.weeks_begin, request.fiscal, request.weeks);
    let rule = rules.into_iter().find(|rule| rule.word() == period).ok_or_else(|| Failure::Request {
        what: format!("--period: \"{}\" is not a period", period.escape_debug()),
        help: format!("it may be {}", rules.map(PeriodRule::word).join(", ")),
    })?;
    let gives =
        PeriodFigure::ALL.into_iter().find(|(word, _)| *word == gives).ok_or_else(|| Failure::Request {
            what: format!("--gives: \"{}\" is not what a period gives", gives.escape_debug()),
            help: format!("it may be {}", PeriodFigure::ALL.map(|(word, _)| word).join(", ")),
        })?;
    found.one(rule, gives.1).ok_or_else(|| Failure::Request {
        what: format!("that day of the {period} lies outside the years 0001 to 9999"),
        help: "name a date farther from the ends of the calendar".to_owned(),
    })
}
