//! The calendars of a plan: opened once, and found by the columns that count by them.

use super::super::job::{CalendarInput, Kind};
use super::{Binder, word_of};
use crate::calendars::{CalendarRequest, open_calendar, open_source};
use crate::error::RecordsError;
use crate::plan::{At, CalendarChoice, Plan, PlanMistake, PlanMistakes, nearest};
use mild_ledger::WorkCalendar;

impl Binder {
    /// Opens the plan's calendars, and notes what each of them covers.
    pub(super) fn open_calendars(&mut self, plan: &Plan) {
        for planned in &plan.calendars {
            let name = planned.name.value.clone();
            // Files stand beside the plan; names of calendars that ship are no files.
            let source = |source: &At<String>| match mild_ledger_calendars::named(&source.value) {
                Some(_) => source.value.clone(),
                None => plan.folder().join(&source.value).display().to_string(),
            };
            let request = CalendarRequest {
                sources: planned.sources.iter().map(source).collect(),
                rest_days: planned.rest_days,
                holidays: planned.dates.clone(),
                covers: planned.covers,
            };
            match open_calendar(&request) {
                Ok(calendar) => {
                    self.note_calendar(&name, &calendar);
                    self.calendars.push((name, calendar));
                }
                Err(error) => {
                    // A source that cannot be opened by itself is the one to point at.
                    let broken = planned.sources.iter().find(|named| open_source(&source(named)).is_err());
                    let place = broken.map_or(&planned.name.span, |source| &source.span);
                    let (what, expected) = match &error {
                        RecordsError::Calendar(mistakes) => {
                            (calendar_mistake(mistakes), "a calendar without mistakes".to_owned())
                        }
                        RecordsError::Request { what, help } => (what.clone(), help.clone()),
                        other => (other.to_string(), "a calendar that can be read".to_owned()),
                    };
                    self.mistake(place.clone(), what, expected);
                    self.calendars_in_error.push(name);
                }
            }
        }
    }

    fn note_calendar(&mut self, name: &str, calendar: &WorkCalendar) {
        let rest_days = calendar.rest_days();
        let Some((first, last)) = calendar.covers() else {
            self.notes.push(format!("calendar \"{name}\": every year; rest days {rest_days}; no holidays"));
            return;
        };
        let count = calendar.holidays().len();
        self.notes.push(format!(
            "calendar \"{name}\": covers {first} to {last}; rest days {rest_days}; {count} holidays"
        ));
        let in_year = |year: &i32| calendar.holidays().iter().any(|holiday| holiday.date().year() == *year);
        let without: Vec<String> =
            (first..=last).filter(|year| !in_year(year)).map(|year| year.to_string()).collect();
        if !without.is_empty() {
            self.notes.push(format!("warning: calendar \"{name}\" has no holiday in {}", without.join(", ")));
        }
    }

    pub(super) fn calendar(&mut self, choice: &CalendarChoice) -> Option<CalendarInput> {
        match choice {
            CalendarChoice::Named(name) => {
                match self.calendars.iter().position(|(known, _)| *known == name.value) {
                    Some(nth) => return Some(CalendarInput::Every(nth)),
                    None if self.calendars_in_error.contains(&name.value) => return None,
                    None => {}
                }
                let names: Vec<&str> = self.calendars.iter().map(|(known, _)| known.as_str()).collect();
                let help = nearest(&name.value, names.iter().copied())
                    .map(|near| format!("did you mean \"{near}\"?"));
                let what = format!("there is no calendar \"{}\" in the plan", name.value.escape_debug());
                let expected = format!("a calendar under [calendar.…]: {}", names.join(", "));
                self.mistakes.push(PlanMistake::new(name.span.clone(), what, expected).with_help(help));
                None
            }
            CalendarChoice::OfRow(column) => {
                let nth = self.find(column)?;
                if matches!(self.kind(nth), Kind::Text) {
                    return Some(CalendarInput::NamedBy(nth));
                }
                let what = format!(
                    "\"{}\" holds {}, not names",
                    column.value.escape_debug(),
                    word_of(self.kind(nth))
                );
                self.mistake(column.span.clone(), what, "a column of names of calendars");
                None
            }
            CalendarChoice::TheOnlyOne(_) if self.calendars.len() == 1 => Some(CalendarInput::Every(0)),
            CalendarChoice::TheOnlyOne(_) if !self.calendars_in_error.is_empty() => None,
            CalendarChoice::TheOnlyOne(span) => {
                let what = match self.calendars.len() {
                    0 => "working days want a calendar, and the plan has none",
                    _ => "the plan has several calendars, and this column names none",
                };
                self.mistake(span.clone(), what, "calendar = \"yard\", with [calendar.yard] in the plan");
                None
            }
        }
    }

    pub(super) fn calendar_words(&self, calendar: CalendarInput) -> String {
        match calendar {
            CalendarInput::Every(nth) => {
                self.calendars.get(nth).map_or_else(String::new, |(name, _)| name.clone())
            }
            CalendarInput::NamedBy(column) => format!("the calendar of \"{}\"", self.columns[column].name),
        }
    }
}

/// The first mistake of a calendar file, with its line.
fn calendar_mistake(mistakes: &PlanMistakes) -> String {
    let place = mistakes.mistakes().first().map(|mistake| (mistakes.place_of(mistake), mistake.what()));
    let more = mistakes.mistakes().len().saturating_sub(1);
    let more = if more == 0 { String::new() } else { format!(" (and {more} more)") };
    place.map_or_else(String::new, |((line, column), what)| {
        format!("{}, line {line}, column {column}: {what}{more}", mistakes.file().display())
    })
}
