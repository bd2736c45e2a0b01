//! `mild due DATE TERMS…`.

use crate::arguments::DueArguments;
use crate::calendars::read_one_calendar;
use crate::dates::{Here, Moment, read_choice};
use crate::ending::{Ending, Failure};
use crate::output::to_standard_output;
use crate::terminal::width;
use mild_ledger::{PaymentTerms, Roll, WorkCalendar};
use mild_ledger_report::{Detail, Due, RolledDates, json, terminal};

pub(crate) fn due(arguments: &DueArguments) -> Result<Ending, Failure> {
    let here = Here::of(&arguments.answer)?;
    let issued = here.read_moment("DATE", &arguments.issued)?;
    // Days of terms are counted from a date, whatever the time of day.
    let day = match issued.value {
        Moment::Day(date) => date,
        Moment::Time { at, .. } => at.date(),
    };
    let terms: PaymentTerms = read_choice("TERMS", &arguments.terms.join(" "))?;
    let roll = match &arguments.roll {
        Some(text) => read_choice("--roll", text)?,
        None => Roll::Unadjusted,
    };
    let calendar = match read_one_calendar(&arguments.calendar)? {
        Some(_) if roll == Roll::Unadjusted => {
            return Err(Failure::Request {
                what: "a calendar decides where --roll is asked for, and it is not".to_owned(),
                help: "leave out the calendar, or add --roll following".to_owned(),
            });
        }
        Some(calendar) => calendar,
        // Rest days alone, which the answer states.
        None => WorkCalendar::rest_days_only(Default::default()),
    };
    let rolled = if arguments.roll_discount { RolledDates::DueAndDiscount } else { RolledDates::Due };
    let found = Due::of(day, terms, (roll, rolled), &calendar).map_err(|error| Failure::Argument {
        name: "DATE",
        error,
        help: None,
    })?;
    let detail = if arguments.why { Detail::WithWorking } else { Detail::FiguresOnly };
    let mut text = match arguments.answer.json {
        true => format!("{}\n", json::due(&found)),
        false => terminal::due(&found, detail, width()),
    };
    if let Some(note) = issued.note.filter(|_| !arguments.answer.json) {
        text.push_str(&format!("{note}\n"));
    }
    to_standard_output(&text)?;
    Ok(Ending::Done)
}
