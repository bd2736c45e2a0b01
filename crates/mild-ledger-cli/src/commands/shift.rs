//! `mild shift DATE AMOUNT…`.

use crate::arguments::ShiftArguments;
use crate::calendars::read_one_calendar;
use crate::dates::{Here, Moment, read_choice, read_zone};
use crate::ending::{Ending, Failure};
use crate::output::{to_file, to_standard_output};
use crate::terminal::{colour, width};
use mild_ledger::{DateMove, DatePattern, NamedDay, PeriodEdge, PeriodRule, Roll, Shift, WorkCalendar};
use mild_ledger_records::{AsOf, EventTime, ExistingFiles, to_ics};
use mild_ledger_report::{Detail, MoveFailure, MoveSetting, Moved, MovedFrom, ZoneClock, json, terminal};
use std::str::FromStr;

pub(crate) fn shift(arguments: &ShiftArguments) -> Result<Ending, Failure> {
    let here = Here::of(&arguments.answer)?;
    let (date, amounts) = date_and_amounts(&arguments.words)?;
    let start = here.read_moment("DATE", date)?;
    let by = read_move(arguments, date, &amounts)?;
    let calendar = match read_one_calendar(&arguments.calendar)? {
        Some(_) if !by.needs_calendar() => {
            let what =
                "a calendar decides where working days or --roll are asked for, and neither is".to_owned();
            return Err(Failure::Request {
                what,
                help: "leave out the calendar, or add --roll following".to_owned(),
            });
        }
        Some(calendar) => calendar,
        // Rest days alone, which the rule states.
        None => WorkCalendar::rest_days_only(Default::default()),
    };
    let from = match start.value {
        Moment::Day(date) => MovedFrom::Date(date),
        Moment::Time { at, .. } => MovedFrom::DateTime(at),
    };
    let zone = read_zone(arguments.answer.zone.as_deref())?;
    let instant = if let Moment::Time { instant, .. } = start.value { instant } else { None };
    let clock = zone.as_ref().map(|zone| ZoneClock { zone, instant });
    let setting = MoveSetting { calendar: Some(&calendar), clock };
    let moved = Moved::of(from, &by, arguments.times, setting);
    let moved = moved.map_err(|failure| match failure {
        MoveFailure::Move(error) => Failure::Argument { name: "AMOUNT", error, help: None },
        MoveFailure::Zone(error) => Failure::Zone { name: "AMOUNT", error },
    })?;
    if let Some(path) = &arguments.ics {
        let title = arguments.title.as_str();
        let time = |moved: MovedFrom| match moved {
            MovedFrom::Date(date) => EventTime::Day(date),
            MovedFrom::DateTime(at) => EventTime::Moment(at),
        };
        let events = to_ics(title, moved.moved_to().into_iter().map(|moved| (time(moved), title)));
        to_file(path, events.as_bytes(), ExistingFiles::Keep)?;
    }
    let detail = if arguments.why { Detail::WithWorking } else { Detail::FiguresOnly };
    let mut text = match arguments.answer.json {
        true => format!("{}\n", json::shift(&moved)),
        false => terminal::shift(&moved, detail, width(), colour()),
    };
    if let Some(note) = start.note.filter(|_| !arguments.answer.json) {
        text.push_str(&format!("{note}\n"));
    }
    to_standard_output(&text)?;
    Ok(Ending::Done)
}

/// How far, and then where to.
fn read_move(arguments: &ShiftArguments, date: &str, amounts: &[String]) -> Result<DateMove, Failure> {
    let mut by = DateMove::default();
    if !amounts.is_empty() {
        let failed = |error| Failure::Argument { name: "AMOUNT", error, help: None };
        let shift: Shift = amounts.join(" ").parse().map_err(failed)?;
        let rule = arguments.month_end.as_deref();
        let rule = rule.map_or(Ok(Default::default()), |text| read_choice("--month-end", text))?;
        by = DateMove::by(shift.with_month_end(rule));
    }
    if let Some(text) = &arguments.to {
        by = by.to_edge(read_edge(text)?);
    }
    if let Some(text) = &arguments.weekday {
        if by.needs_calendar() && arguments.roll.is_none() {
            return Err(Failure::Request {
                what: "a weekday after working days may be a holiday again".to_owned(),
                help: "add --roll following, or another roll, or leave out --weekday".to_owned(),
            });
        }
        by = by.to_weekday(read_choice("--weekday", text)?);
    }
    if let Some(text) = &arguments.roll {
        by = by.rolled(read_choice::<Roll>("--roll", text)?);
    }
    // A day that is named from today is moved by its name.
    if by == DateMove::default() && amounts.is_empty() && NamedDay::from_str(date).is_err() {
        return Err(Failure::Request {
            what: format!("how far to move {} is missing", date.escape_debug()),
            help: "add an amount such as 30D, 2M or 10wd, or --to, --weekday or --roll".to_owned(),
        });
    }
    Ok(by)
}

fn read_edge(text: &str) -> Result<PeriodEdge, Failure> {
    let rules = [
        PeriodRule::Week(mild_ledger::Weekday::Monday),
        PeriodRule::Month,
        PeriodRule::Quarter,
        PeriodRule::HalfYear,
        PeriodRule::Year,
    ];
    PeriodEdge::all(rules).find(|edge| edge.to_string() == text).ok_or_else(|| Failure::Request {
        what: format!("--to: \"{}\" is not the start or end of a period", text.escape_debug()),
        help: format!(
            "it may be {}",
            PeriodEdge::all(rules).map(|edge| edge.to_string()).collect::<Vec<_>>().join(", ")
        ),
    })
}

/// The date among the words, and the rest of them: the first word that is a date and no amount.
fn date_and_amounts(words: &[String]) -> Result<(&str, Vec<String>), Failure> {
    let is_amount = |word: &str| word.parse::<Shift>().is_ok();
    let is_date =
        |word: &str| word.parse::<AsOf>().is_ok() || DatePattern::iso().read_date_time(word).is_ok();
    if words.iter().all(|word| is_amount(word)) {
        return Err(Failure::Request {
            what: "the date to start from is missing".to_owned(),
            help: "write a date with the amount, such as 2026-09-30, or today".to_owned(),
        });
    }
    let at = words.iter().position(|word| !is_amount(word) && is_date(word)).unwrap_or(0);
    let amounts = words.iter().enumerate().filter(|(nth, _)| *nth != at);
    // The character that replaced a minus, so that no option begins with it.
    let amounts = amounts.map(|(_, word)| word.replace('−', "-")).collect();
    Ok((words.get(at).map_or("", String::as_str), amounts))
}
