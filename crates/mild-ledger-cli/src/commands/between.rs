//! `mild between START END`.

use crate::arguments::BetweenArguments;
use crate::dates::{read_as_of, read_choice, read_date};
use crate::ending::{Ending, Failure};
use crate::output::{to_standard_output, width};
use mild_ledger::{Ends, Interval, MonthEnd};
use mild_ledger_report::{Detail, json, terminal};

pub(crate) fn between(arguments: &BetweenArguments) -> Result<Ending, Failure> {
    let as_of = read_as_of(arguments.answer.as_of.as_deref())?;
    let start = read_date("START", &arguments.start, as_of)?;
    let end = read_date("END", &arguments.end, as_of)?;
    let ends = arguments.ends.as_deref().map_or(Ok(Ends::Last), |text| read_choice("--ends", text))?;
    let rule: MonthEnd = arguments
        .month_end
        .as_deref()
        .map_or(Ok(MonthEnd::Clamp), |text| read_choice("--month-end", text))?;
    let mut interval = Interval::between(start.date, end.date)
        .month_end(rule)
        .map_err(|error| Failure::Argument { name: "--month-end", error, help: None })?;
    if let Some(text) = &arguments.week_starts {
        interval = interval.week_starts(read_choice("--week-starts", text)?);
    }
    if ends == Ends::FirstAndLast {
        interval = interval.through_last_day();
    }
    let detail = if arguments.why { Detail::WithWorking } else { Detail::FiguresOnly };
    if arguments.answer.json {
        to_standard_output(&format!("{}\n", json::between(interval, ends, detail)))?;
        return Ok(Ending::Done);
    }
    let mut text = terminal::between(interval, ends, detail, width());
    if let Some(zone) = start.zone.or(end.zone) {
        text.push_str(&format!("today: the date in {zone}\n"));
    }
    to_standard_output(&text)?;
    Ok(Ending::Done)
}
