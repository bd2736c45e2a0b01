//! What each command answers, as plain text.

use super::blocks::rendered;
use super::text::wrapped;
use super::{Colour, Width};
use crate::document::{self, RunDetail};
use crate::shown::visible;
use crate::{
    Between, BetweenTimes, CalendarSources, Detail, Due, Moved, Surroundings, TwoCalendars, WorkYears,
};
use mild_ledger_calendars::Shipped;
use mild_ledger_records::{Look, PlanCheck, RowsExplained, RunAgain, RunOutcome, Verified};

/// The dates; the days, with the ends that they count; the working days by each calendar asked for. Then a table of every unit
/// (complete, by starts passed, fractional), the parts, the day counts, and what each means; the days shared out over periods, and
/// the working of every figure, where they are asked for.
#[must_use]
pub fn between(found: &Between, width: Width, colour: Colour) -> String {
    rendered(&document::between(found), width, colour)
}

/// The date-times, and the time between them by the clock; a table of every unit of the clock and of the calendar, and what each
/// means; with the working of every figure where it is asked for.
#[must_use]
pub fn between_times(found: &BetweenTimes, width: Width) -> String {
    rendered(&document::between_times(found), width, Colour::Off)
}

/// The due date with its weekday, the last day of a discount, and how the terms were read; with the working, the steps of each.
#[must_use]
pub fn due(found: &Due, detail: Detail, width: Width) -> String {
    rendered(&document::due(found, detail), width, Colour::Off)
}

/// The date with its weekday, or a numbered list of a series, and the rule; with the working, the steps of each, and the months
/// in which working days were counted, each of them under its number.
#[must_use]
pub fn shift(found: &Moved, detail: Detail, width: Width, colour: Colour) -> String {
    rendered(&document::moved(found, detail), width, colour)
}

/// What the date is to each calendar asked for; a table of the periods with their first and last days, and what they were counted
/// by.
#[must_use]
pub fn periods(found: &Surroundings, width: Width) -> String {
    rendered(&document::periods(found), width, Colour::Off)
}

/// Calendars that ship, by region, with the years that each covers.
#[must_use]
pub fn shipped_calendars(listed: &[&Shipped], width: Width) -> String {
    rendered(&document::shipped_calendars(listed), width, Colour::Off)
}

/// The law of a calendar, its notes, and the days with an order or a publication of their own.
#[must_use]
pub fn sources(found: &CalendarSources, width: Width) -> String {
    rendered(&document::sources(found), width, Colour::Off)
}

/// Two calendars side by side: working days by month, and the days closed in one of them or in both.
#[must_use]
pub fn two_calendars(found: &TwoCalendars, width: Width) -> String {
    rendered(&document::two_calendars(found), width, Colour::Off)
}

/// Working days by month, with quarters and the year, and the excluded days.
#[must_use]
pub fn work_years(found: &WorkYears, width: Width) -> String {
    rendered(&document::work_years(found), width, Colour::Off)
}

/// The months of the years, three next to each other where they fit, with each day marked.
#[must_use]
pub fn year_grid(found: &WorkYears, width: Width, colour: Colour) -> String {
    rendered(&document::year_grid(found), width, colour)
}

/// The holidays by date, with weekday and where each was moved from.
#[must_use]
pub fn holidays(found: &WorkYears, width: Width) -> String {
    rendered(&document::holidays(found), width, Colour::Off)
}

/// How each cell of the rows of a key comes about: what was in the file and what it was read as, then the working of every
/// cell that the plan adds.
#[must_use]
pub fn explained(found: &RowsExplained, width: Width) -> String {
    rendered(&document::explained(found), width, Colour::Off)
}

/// What a plan would do with its records: the columns, the reports, the outputs and the calendars, what is wrong with the rows that were
/// looked at, and in the last line how many they were.
#[must_use]
pub fn check(found: &PlanCheck, width: Width) -> String {
    rendered(&document::check(found), width, Colour::Off)
}

/// What a file of records holds: the file in a line, what is wrong with it as a whole, a paragraph a column, and which columns tell
/// the rows apart.
#[must_use]
pub fn look(found: &Look, width: Width) -> String {
    rendered(&document::look(found), width, Colour::Off)
}

/// What makes the figures doubtful, then the title and as-of date, the reports, the exceptions, the proof and the files of a run;
/// in the last lines the answer: a line for each report, the rows, and whether the proof agrees.
#[must_use]
pub fn run(outcome: &RunOutcome, detail: RunDetail, width: Width) -> String {
    rendered(&document::run(outcome, document::FileNames::WithFolder, detail), width, Colour::Off)
}

/// The files of each run of a receipt, what they were and are, and in the last line how many are not what was recorded.
#[must_use]
pub fn verified(found: &Verified, again: Option<&[RunAgain]>, width: Width) -> String {
    rendered(&document::verified(found, again), width, Colour::Off)
}

/// A run among several, in short: its plan, the file that people open, and its answer.
#[must_use]
pub fn in_short(plan: &str, outcome: &RunOutcome, width: Width) -> String {
    let page = outcome.outputs.iter().find(|file| file.rows.is_none());
    let page = page.map_or_else(String::new, |file| format!(", {}", file.path.display()));
    let lines =
        document::answer_lines(outcome).into_iter().map(|line| wrapped(&visible(&line), "    ", width));
    wrapped(&visible(&format!("{plan}{page}")), "  ", width) + &lines.collect::<String>()
}

/// What is in the new columns of a run that adds columns and no more, its exceptions, and in the last line its answer.
#[must_use]
pub fn added(outcome: &RunOutcome, width: Width) -> String {
    rendered(&document::with_columns(outcome), width, Colour::Off)
}

/// The reports and the exceptions of a run that leaves no files, and in the last line its answer.
#[must_use]
pub fn brief(outcome: &RunOutcome, width: Width) -> String {
    rendered(&document::brief(outcome), width, Colour::Off)
}
