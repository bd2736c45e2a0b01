//! `mild between START END`.

use crate::arguments::BetweenArguments;
use crate::calendars::read_calendars;
use crate::dates::{Here, Moment, read_choice};
use crate::ending::{Ending, Failure};
use crate::output::{colour, to_standard_output, width};
use mild_ledger::{ClockInterval, ClockTime, DateTime, Ends, Error, Interval, MonthEnd, PeriodRule, Weekday};
use mild_ledger_report::{Detail, json, terminal};

pub(crate) fn between(arguments: &BetweenArguments) -> Result<Ending, Failure> {
    let here = Here::of(&arguments.answer)?;
    let start = here.read_moment("START", &arguments.start)?;
    let end = here.read_moment("END", &arguments.end)?;
    let text = match (start.value, end.value) {
        (Moment::Day(start), Moment::Day(end)) => between_days(Interval::between(start, end), arguments)?,
        (start, end) => between_times(start, end, arguments)?,
    };
    let mut notes: Vec<String> = start.note.into_iter().chain(end.note).collect();
    notes.dedup();
    let notes = notes.iter().filter(|_| !arguments.answer.json).map(|note| format!("{note}\n"));
    to_standard_output(&(text + &notes.collect::<String>()))?;
    Ok(Ending::Done)
}

fn between_days(interval: Interval, arguments: &BetweenArguments) -> Result<String, Failure> {
    let options = Options::of(arguments)?;
    let mut interval =
        interval.month_end(options.month_end).map_err(wrong_month_end)?.week_starts(options.week_starts);
    if options.ends == Ends::FirstAndLast {
        interval = interval.through_last_day();
    }
    let calendars = read_calendars(&arguments.calendar)?;
    // Working days count both ends unless others are named.
    let working_ends = if arguments.ends.is_some() { options.ends } else { Ends::FirstAndLast };
    let failed = |error| Failure::Argument { name: "--calendar", error, help: None };
    if arguments.answer.json {
        let object = json::between(interval, options.ends, options.split, options.detail);
        return Ok(
            json::with_working_days(&object, interval, working_ends, &calendars).map_err(failed)? + "\n"
        );
    }
    let how = (options.detail, colour(), width());
    let working = terminal::working_days(interval, working_ends, &calendars, how).map_err(failed)?;
    // Where working days are asked for with their working, that of every other figure would hide it.
    let detail = if calendars.is_empty() { options.detail } else { Detail::FiguresOnly };
    Ok(working + &terminal::between(interval, options.ends, options.split, detail, width()))
}

/// A day that stands beside a date-time begins at midnight.
fn between_times(start: Moment, end: Moment, arguments: &BetweenArguments) -> Result<String, Failure> {
    let options = Options::of(arguments)?;
    if !read_calendars(&arguments.calendar)?.is_empty() {
        let what = "working days are counted between dates, and a time of day stands here".to_owned();
        return Err(Failure::Request { what, help: "leave out the times, or the calendar".to_owned() });
    }
    if options.split.is_some() {
        let what = "--split shares out days, and a time of day stands here".to_owned();
        return Err(Failure::Request { what, help: "leave out the times, or --split".to_owned() });
    }
    if options.ends != Ends::Last {
        let what = format!("--ends {} is for dates, and a time of day stands here", options.ends);
        return Err(Failure::Request { what, help: "leave out the times, or --ends".to_owned() });
    }
    let at = |moment| match moment {
        Moment::Day(date) => DateTime::new(date, ClockTime::MIDNIGHT),
        Moment::Time { at, .. } => at,
    };
    let mut interval = ClockInterval::between(at(start), at(end))
        .month_end(options.month_end)
        .map_err(wrong_month_end)?
        .week_starts(options.week_starts);
    if let (Moment::Time { instant: Some(start), .. }, Moment::Time { instant: Some(end), .. }) = (start, end)
    {
        interval = interval.with_instants(start, end);
    }
    Ok(match arguments.answer.json {
        true => format!("{}\n", json::between_times(interval, options.detail)),
        false => terminal::between_times(interval, options.detail, width()),
    })
}

struct Options {
    ends: Ends,
    month_end: MonthEnd,
    week_starts: Weekday,
    split: Option<PeriodRule>,
    detail: Detail,
}

impl Options {
    fn of(arguments: &BetweenArguments) -> Result<Self, Failure> {
        let week_starts = arguments.week_starts.as_deref();
        let week_starts =
            week_starts.map_or(Ok(Weekday::Monday), |text| read_choice("--week-starts", text))?;
        Ok(Self {
            ends: arguments.ends.as_deref().map_or(Ok(Ends::Last), |text| read_choice("--ends", text))?,
            month_end: arguments
                .month_end
                .as_deref()
                .map_or(Ok(MonthEnd::Clamp), |text| read_choice("--month-end", text))?,
            week_starts,
            split: arguments.split.as_deref().map(|word| read_period(word, week_starts)).transpose()?,
            detail: if arguments.why { Detail::WithWorking } else { Detail::FiguresOnly },
        })
    }
}

/// The periods that need no other rule than the first day of the week.
fn read_period(word: &str, week_starts: Weekday) -> Result<PeriodRule, Failure> {
    let rules = [
        PeriodRule::Week(week_starts),
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
