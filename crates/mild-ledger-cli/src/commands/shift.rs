//! `mild shift DATE AMOUNT…`.

use crate::arguments::ShiftArguments;
use crate::dates::{Here, Moment, read_choice};
use crate::ending::{Ending, Failure};
use crate::output::{to_standard_output, width};
use mild_ledger::{DatePattern, Shift, WeekdayMove};
use mild_ledger_records::AsOf;
use mild_ledger_report::{Detail, Moved, MovedFrom, json, terminal};

pub(crate) fn shift(arguments: &ShiftArguments) -> Result<Ending, Failure> {
    let here = Here::of(&arguments.answer)?;
    let weekday: Option<WeekdayMove> =
        arguments.weekday.as_deref().map(|text| read_choice("--weekday", text)).transpose()?;
    let (date, amounts) = date_and_amounts(&arguments.words);
    let start = here.read_moment("DATE", date)?;
    let failed = |error| Failure::Argument { name: "AMOUNT", error, help: None };
    let shift: Option<Shift> = match amounts.join(" ") {
        text if text.is_empty() && weekday.is_some() => None,
        text => Some(text.parse().map_err(failed)?),
    };
    let rule = arguments
        .month_end
        .as_deref()
        .map_or(Ok(Default::default()), |text| read_choice("--month-end", text))?;
    let from = match start.value {
        Moment::Day(date) => MovedFrom::Date(date),
        Moment::Time { at, .. } => MovedFrom::DateTime(at),
    };
    let moved = Moved::of(from, shift.map(|shift| shift.month_end(rule)), weekday, arguments.times)
        .map_err(failed)?;
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
