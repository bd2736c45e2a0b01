//! `mild between START END`.

use crate::arguments::BetweenArguments;
use crate::calendars::read_calendars;
use crate::dates::{Here, Moment, read_choice};
use crate::ending::{Ending, Failure};
use crate::output::{note, to_standard_output};
use crate::terminal::{colour, width};
use mild_ledger::{
    CalendarYears, ClockInterval, ClockTime, DateTime, Ends, Error, Interval, Measure, MonthEnd, PeriodRule,
    Rounding, Weekday, WorkCalendar,
};
use mild_ledger_records::nearest_words;
use mild_ledger_report::{Between, BetweenTimes, Detail, Split, figures, json, terminal};

pub(crate) fn between(arguments: &BetweenArguments) -> Result<Ending, Failure> {
    let here = Here::of(&arguments.answer)?;
    let start = here.read_moment("START", &arguments.start)?;
    let end = here.read_moment("END", &arguments.end)?;
    let mut notes: Vec<String> = start.note.into_iter().chain(end.note).collect();
    let text = match (start.value, end.value) {
        (start @ Moment::Time { .. }, end @ Moment::Time { .. }) => between_times(start, end, arguments)?,
        (start, end) => {
            if let (Moment::Time { .. }, _) | (_, Moment::Time { .. }) = (start, end) {
                notes.push(
                    "only one of the two has a time of day, so the dates alone were counted".to_owned(),
                );
            }
            between_days(Interval::between(start.date(), end.date()), arguments)?
        }
    };
    notes.dedup();
    to_standard_output(&text)?;
    match arguments.answer.json || arguments.count.is_some() {
        // A figure alone is read by programs: nothing comes with it.
        true => notes.iter().for_each(|said| note(said)),
        false => to_standard_output(&notes.iter().map(|said| format!("{said}\n")).collect::<String>())?,
    }
    Ok(Ending::Done)
}

fn between_days(interval: Interval, arguments: &BetweenArguments) -> Result<String, Failure> {
    let options = Options::of(arguments)?;
    let mut interval = interval
        .with_month_end(options.month_end)
        .map_err(wrong_month_end)?
        .with_weeks_beginning(options.weeks_begin);
    // The others are for days, and have their own rows.
    if let Ok(with_ends) = interval.with_ends(options.ends) {
        interval = with_ends;
    }
    let asked = CalendarYears::of(interval.start().year(), interval.end().year());
    let calendars = read_calendars(&arguments.calendar, Some(asked))?;
    // Working days count both ends unless others are named.
    let working_ends = if arguments.ends.is_some() { options.ends } else { Ends::OF_WORKING_DAYS };
    let failed = |error| Failure::Argument { name: "--calendar", error, help: None };
    if let Some(name) = &arguments.count {
        return one_figure(interval, (options.ends, working_ends), name, (&calendars, options.detail));
    }
    let mut splits = Vec::new();
    if let Some(rule) = options.split {
        splits.push(Split::of_days(interval, rule, options.ends));
        for calendar in &calendars {
            splits.push(Split::of_working_days(interval, rule, working_ends, calendar).map_err(failed)?);
        }
    }
    // For people the working of working days, where asked for, replaces that of every other figure.
    let (detail, of_working_days) = match (arguments.answer.json, calendars.is_empty()) {
        (true, _) => (options.detail, Detail::FiguresOnly),
        (false, true) => (options.detail, options.detail),
        (false, false) => (Detail::FiguresOnly, options.detail),
    };
    let found = Between::of(interval, options.ends, detail)
        .with_splits(splits)
        .with_working_days(interval, working_ends, &calendars, of_working_days)
        .map_err(failed)?;
    Ok(match arguments.answer.json {
        true => json::between(&found) + "\n",
        false => terminal::between(&found, width(), colour()),
    })
}

/// The word for the figure that a calendar gives.
const WORKING_DAYS: &str = "working days";
/// The word for the one that a calendar with opening hours gives.
const WORKING_HOURS: &str = "working hours";

fn one_figure(
    interval: Interval,
    (ends, working_ends): (Ends, Ends),
    name: &str,
    (calendars, detail): (&[WorkCalendar], Detail),
) -> Result<String, Failure> {
    if name == WORKING_DAYS {
        let [calendar] = calendars else {
            return Err(Failure::Request {
                what: "working days are counted by one calendar".to_owned(),
                help: "name it with --calendar, or --calendar none for rest days alone".to_owned(),
            });
        };
        let failed = |error| Failure::Argument { name: "--calendar", error, help: None };
        let grid = calendar.why_working_days(interval, working_ends).map_err(failed)?;
        return Ok(figures::in_lines(grid.working().figure(), grid.working(), None, detail));
    }
    if !calendars.is_empty() {
        return Err(Failure::Request {
            what: format!("a calendar decides on working days, and --count asks for {}", name.escape_debug()),
            help: "leave out the calendar, or --count \"working days\"".to_owned(),
        });
    }
    let figure = figures::of_days(interval, ends, read_measure(name)?, detail);
    figure.ok_or_else(|| Failure::Request {
        what: match matches!(ends, Ends::First | Ends::Neither) {
            true => format!("--ends {ends} is for days, and --count asks for {name}"),
            false => format!("{name} are counted between times of day, and these are dates"),
        },
        help: "count days, or write both times, such as 2026-09-30T16:00".to_owned(),
    })
}

fn read_measure(name: &str) -> Result<Measure, Failure> {
    name.parse().map_err(|_| {
        let all: Vec<String> = Measure::all().map(|measure| measure.to_string()).collect();
        let (near, _) = nearest_words(name, all.iter().map(String::as_str).chain([WORKING_DAYS]));
        Failure::Request {
            what: format!("--count: \"{}\" is not a figure", name.escape_debug()),
            help: format!("the nearest are {}", near.join(", ")),
        }
    })
}

fn between_times(start: Moment, end: Moment, arguments: &BetweenArguments) -> Result<String, Failure> {
    let options = Options::of(arguments)?;
    let without =
        |what: &str, help: &str| Err(Failure::Request { what: what.to_owned(), help: help.to_owned() });
    let calendars = read_calendars(&arguments.calendar, None)?;
    if calendars.iter().any(|calendar| calendar.hours().is_none()) {
        let what = "these are times of day, and a calendar without opening hours counts days";
        return without(what, "leave out the times, or name a calendar file with [hours]");
    }
    let failed = |error| Failure::Argument { name: "--calendar", error, help: None };
    if options.split.is_some() {
        let what = "--split gives the days of each period, and these are times of day";
        return without(what, "leave out the times, or --split");
    }
    if options.ends != Ends::Last {
        let what = format!("--ends {} is for dates, and these are times of day", options.ends);
        return without(&what, "leave out the times, or --ends");
    }
    let at = |moment| match moment {
        Moment::Day(date) => DateTime::new(date, ClockTime::MIDNIGHT),
        Moment::Time { at, .. } => at,
    };
    let mut interval = ClockInterval::between(at(start), at(end))
        .with_month_end(options.month_end)
        .map_err(wrong_month_end)?
        .with_weeks_beginning(options.weeks_begin);
    if let (Moment::Time { instant: Some(start), .. }, Moment::Time { instant: Some(end), .. }) = (start, end)
    {
        interval = interval.with_instants(start, end);
    }
    if arguments.count.as_deref() == Some(WORKING_HOURS) {
        let [calendar] = calendars.as_slice() else {
            return without("working hours are counted by one calendar", "name it with --calendar");
        };
        let (start, end) = (interval.start(), interval.end());
        let hours = calendar.working_time(start, end).map_err(failed)?.hours();
        let working = calendar.why_working_time(start, end).map_err(failed)?;
        let hours = hours.to_decimal(4, Rounding::Nearest).map_err(failed)?;
        return Ok(figures::in_lines(&hours.to_string(), &working, None, options.detail));
    }
    if let (Some(name), false) = (&arguments.count, calendars.is_empty()) {
        let what =
            format!("a calendar decides on working hours, and --count asks for {}", name.escape_debug());
        return without(&what, "leave out the calendar, or --count \"working hours\"");
    }
    if let Some(name) = &arguments.count {
        let figure = figures::of_times(interval, read_measure(name)?, options.detail);
        return figure.map_or_else(|| without("this figure is for dates", "leave out the times"), Ok);
    }
    let found = BetweenTimes::of(interval, options.detail);
    let found = found.with_working_hours(&calendars, options.detail).map_err(failed)?;
    Ok(match arguments.answer.json {
        true => format!("{}\n", json::between_times(&found)),
        false => terminal::between_times(&found, width()),
    })
}

struct Options {
    ends: Ends,
    month_end: MonthEnd,
    weeks_begin: Weekday,
    split: Option<PeriodRule>,
    detail: Detail,
}

impl Options {
    fn of(arguments: &BetweenArguments) -> Result<Self, Failure> {
        let weeks_begin = arguments.weeks_begin.as_deref();
        let weeks_begin =
            weeks_begin.map_or(Ok(Weekday::Monday), |text| read_choice("--weeks-begin", text))?;
        Ok(Self {
            ends: arguments
                .ends
                .as_deref()
                .map_or(Ok(Ends::OF_ELAPSED_TIME), |text| read_choice("--ends", text))?,
            month_end: arguments
                .month_end
                .as_deref()
                .map_or(Ok(MonthEnd::Clamp), |text| read_choice("--month-end", text))?,
            weeks_begin,
            split: arguments.split.as_deref().map(|word| read_period(word, weeks_begin)).transpose()?,
            detail: if arguments.why { Detail::WithWorking } else { Detail::FiguresOnly },
        })
    }
}

/// The periods that need no other rule than the first day of the week.
fn read_period(word: &str, weeks_begin: Weekday) -> Result<PeriodRule, Failure> {
    let rules = [
        PeriodRule::Week(weeks_begin),
        PeriodRule::Month,
        PeriodRule::Quarter,
        PeriodRule::HalfYear,
        PeriodRule::Year,
    ];
    rules.into_iter().find(|rule| rule.word() == word).ok_or_else(|| Failure::Request {
        what: format!("--split: \"{}\" is not a period here", word.escape_debug()),
        help: format!("it may be {}", rules.map(PeriodRule::word).join(", ")),
    })
}

fn wrong_month_end(error: Error) -> Failure {
    Failure::Argument { name: "--month-end", error, help: None }
}
