//! `mild around DATE`.

use crate::arguments::AroundArguments;
use crate::calendars::read_calendars;
use crate::dates::{Here, read_choice};
use crate::ending::{Ending, Failure};
use crate::output::{to_standard_output, width};
use mild_ledger::{FiscalYear, LabelPattern, WeekYear, Weekday};
use mild_ledger_report::{Detail, Surroundings, SurroundingsRequest, json, terminal};

pub(crate) fn around(arguments: &AroundArguments) -> Result<Ending, Failure> {
    let around = Here::of(&arguments.answer)?.read_date("DATE", &arguments.date)?;
    let mut fiscal = match &arguments.fiscal_starts {
        Some(text) => read_fiscal_start(text)?,
        None => FiscalYear::default(),
    };
    if let Some(text) = &arguments.fiscal_named {
        fiscal = fiscal.named(read_choice("--fiscal-named", text)?);
    }
    let request = SurroundingsRequest {
        away: arguments.away,
        fiscal,
        weeks: arguments
            .week_years
            .as_deref()
            .map_or(Ok(WeekYear::iso()), |text| read_choice("--week-years", text))?,
        week_starts: arguments
            .week_starts
            .as_deref()
            .map_or(Ok(Weekday::Monday), |text| read_choice("--week-starts", text))?,
        detail: if arguments.why { Detail::WithWorking } else { Detail::FiguresOnly },
        pattern: arguments
            .pattern
            .as_deref()
            .map(|text| read_choice::<LabelPattern>("--pattern", text))
            .transpose()?,
    };
    let failed = |error| Failure::Argument { name: "--away", error, help: None };
    let found = Surroundings::of(around.value, &request).map_err(failed)?;
    let calendars = read_calendars(&arguments.calendar)?;
    let uncovered = |error| Failure::Argument { name: "--calendar", error, help: None };
    if arguments.answer.json {
        let object = json::with_days_of_calendars(&json::around(&found), around.value, &calendars)
            .map_err(uncovered)?;
        to_standard_output(&format!("{object}\n"))?;
        return Ok(Ending::Done);
    }
    let mut text = terminal::around(&found, width());
    for calendar in &calendars {
        text.push_str(&terminal::day_by_calendar(around.value, calendar, width()).map_err(uncovered)?);
    }
    if let Some(note) = around.note {
        text.push_str(&format!("{note}\n"));
    }
    to_standard_output(&text)?;
    Ok(Ending::Done)
}

/// `10`, `04-06`: the month, and perhaps the day, that fiscal years begin on.
fn read_fiscal_start(text: &str) -> Result<FiscalYear, Failure> {
    let (month, day) = text.split_once('-').unwrap_or((text, "1"));
    // What is no number becomes one that no month has, and is refused with what is allowed.
    let number = |text: &str| text.parse().unwrap_or(0);
    FiscalYear::starting(number(month), number(day)).map_err(|error| {
        let help = Some("write MONTH or MONTH-DAY, such as 10 or 04-06".to_owned());
        Failure::Argument { name: "--fiscal-starts", error, help }
    })
}
