//! `mild shift DATE AMOUNT…`.

use crate::arguments::ShiftArguments;
use crate::calendars::read_calendars;
use crate::dates::{Here, Moment, read_choice};
use crate::ending::{Ending, Failure};
use crate::output::{colour, to_standard_output, width};
use mild_ledger::{Combination, Date, DatePattern, Roll, Shift, WeekdayMove, WorkCalendar};
use mild_ledger_records::{AsOf, to_ics, write_new_file};
use mild_ledger_report::{Detail, Moved, MovedFrom, json, terminal};

pub(crate) fn shift(arguments: &ShiftArguments) -> Result<Ending, Failure> {
    let here = Here::of(&arguments.answer)?;
    let weekday: Option<WeekdayMove> =
        arguments.weekday.as_deref().map(|text| read_choice("--weekday", text)).transpose()?;
    let (date, amounts) = date_and_amounts(&arguments.words);
    let start = here.read_moment("DATE", date)?;
    let failed = |error| Failure::Argument { name: "AMOUNT", error, help: None };
    let shift: Option<Shift> = match amounts.join(" ") {
        text if text.is_empty() && (weekday.is_some() || arguments.roll.is_some()) => None,
        text => Some(text.parse().map_err(failed)?),
    };
    let rule = arguments
        .month_end
        .as_deref()
        .map_or(Ok(Default::default()), |text| read_choice("--month-end", text))?;
    let calendars = read_calendars(&arguments.calendar)?;
    let roll: Roll =
        arguments.roll.as_deref().map_or(Ok(Roll::Unadjusted), |text| read_choice("--roll", text))?;
    let asks_for_calendar = shift.is_some_and(|shift| shift.number_of_working_days() != 0);
    if asks_for_calendar || arguments.roll.is_some() {
        let shift = shift.unwrap_or(Shift::days(0)).month_end(rule);
        let text = by_calendar(arguments, start.value, (&shift, roll), &calendars)?;
        to_standard_output(&text)?;
        if let Some(note) = start.note.filter(|_| !arguments.answer.json) {
            to_standard_output(&format!("{note}\n"))?;
        }
        return Ok(Ending::Done);
    }
    let from = match start.value {
        Moment::Day(date) => MovedFrom::Date(date),
        Moment::Time { at, .. } => MovedFrom::DateTime(at),
    };
    let moved = Moved::of(from, shift.map(|shift| shift.month_end(rule)), weekday, arguments.times)
        .map_err(failed)?;
    write_events(arguments, &moved.dates())?;
    let detail = if arguments.why { Detail::WithWorking } else { Detail::FiguresOnly };
    let text = match arguments.answer.json {
        true => format!("{}\n", json::shift(&moved)),
        false => terminal::shift(&moved, detail, width()),
    };
    to_standard_output(&text)?;
    if let Some(note) = start.note.filter(|_| !arguments.answer.json) {
        to_standard_output(&format!("{note}\n"))?;
    }
    Ok(Ending::Done)
}

/// Writes the dates as events, where a file is named for them.
fn write_events(arguments: &ShiftArguments, dates: &[Date]) -> Result<(), Failure> {
    if let Some(path) = &arguments.ics {
        let title = arguments.title.as_str();
        write_new_file(path, to_ics(title, dates.iter().map(|date| (*date, title))).as_bytes())?;
    }
    Ok(())
}

/// A move with working days in it; without a calendar, by rest days alone, and it says so.
fn by_calendar(
    arguments: &ShiftArguments,
    start: Moment,
    (shift, roll): (&Shift, Roll),
    calendars: &[WorkCalendar],
) -> Result<String, Failure> {
    let request = |what: &str, help: &str| Failure::Request { what: what.to_owned(), help: help.to_owned() };
    let Moment::Day(date) = start else {
        return Err(request(
            "working days are moved by from a date, and a time of day stands here",
            "leave out the time",
        ));
    };
    if arguments.times.is_some() || arguments.weekday.is_some() {
        return Err(request("--times and --weekday do not go with working days and rolls", "leave them out"));
    }
    let calendar =
        match calendars {
            [] => WorkCalendar::rest_days_only(Default::default()),
            [one] => one.clone(),
            all => WorkCalendar::combined(Combination::ClosedIfAny, all)
                .map_err(|error| Failure::Argument { name: "--calendar", error, help: None })?,
        };
    let moved = calendar.shifted(date, shift).and_then(|moved| calendar.roll(moved, roll));
    let moved = moved.map_err(|error| Failure::Argument { name: "AMOUNT", error, help: None })?;
    write_events(arguments, &[moved])?;
    let detail = if arguments.why { Detail::WithWorking } else { Detail::FiguresOnly };
    let text = match arguments.answer.json {
        true => json::shift_by_working_days(date, (shift, roll), &calendar).map(|object| object + "\n"),
        false => terminal::working_days_moved(date, (shift, roll), &calendar, (detail, colour(), width())),
    };
    text.map_err(|error| Failure::Argument { name: "AMOUNT", error, help: None })
}

/// The date among the words, and the rest of them: the first word that is no amount.
fn date_and_amounts(words: &[String]) -> (&str, Vec<&str>) {
    let is_amount = |word: &&String| word.parse::<Shift>().is_ok();
    let is_date =
        |word: &str| word.parse::<AsOf>().is_ok() || DatePattern::iso().read_date_time(word).is_ok();
    let at = words.iter().position(|word| !is_amount(&word) && is_date(word)).unwrap_or(0);
    let amounts =
        words.iter().enumerate().filter(|(nth, _)| *nth != at).map(|(_, word)| word.as_str()).collect();
    (words.get(at).map_or("", String::as_str), amounts)
}
