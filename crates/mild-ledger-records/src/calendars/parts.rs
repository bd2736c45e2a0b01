//! What one source of a calendar gives, and the calendar that it is by itself.

use super::yearly::RepeatedEvent;
use crate::error::RecordsError;
use crate::files::InputFile;
use mild_ledger::{
    CalendarBuilder, CalendarYears, Date, HolidayRule, Occurrence, OpeningHours, RestDays, WorkCalendar,
};
use std::path::Path;

/// What one source gives.
#[derive(Clone)]
pub(crate) struct CalendarParts {
    /// Its name, rest days, rules and declared working days; its years are those covered, where it states some.
    pub(crate) builder: CalendarBuilder,
    pub(crate) rest_days: RestDaysStated,
    /// The shipped calendar that it is, or builds on.
    pub(crate) shipped: Option<&'static str>,
    pub(crate) covers: Option<CalendarYears>,
    pub(crate) hours: Option<OpeningHours>,
    /// Events that come round, worked out for the years that are wanted.
    pub(crate) repeated: Vec<RepeatedEvent>,
    /// The dates that the source names one by one, to tell of those outside the years covered.
    pub(crate) named_dates: Vec<Date>,
    /// The files that it was read from, those that it builds on among them.
    pub(crate) files: Vec<InputFile>,
}

/// Whether a source says what its rest days are.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(crate) enum RestDaysStated {
    Stated,
    Unsaid,
}

pub(super) fn refused(error: &mild_ledger::Error) -> RecordsError {
    RecordsError::request(error.what(), format!("allowed: {}", error.allowed()))
}

/// Why holidays of a shipped calendar cannot be counted with other rest days: its law moves some of them off its own rest days, and what it
/// does under others is not recorded. Nothing where they are its own, or it moves none.
pub(crate) fn why_not_with(shipped: &str, rest_days: RestDays) -> Option<String> {
    let calendar = mild_ledger_calendars::named(shipped)?.calendar().ok()?;
    let moves = calendar.holidays().iter().any(|holiday| holiday.moved_from().is_some());
    if !moves || calendar.rest_days_said() == WorkCalendar::rest_days_only(rest_days).rest_days_said() {
        return None;
    }
    Some(format!(
        "holidays of \"{shipped}\" move off its own rest days ({}), and what its law does with other rest days is not recorded",
        calendar.rest_days_said()
    ))
}

/// What to do where holidays cannot be counted with other rest days.
pub(crate) const OTHER_REST_DAYS: &str =
    "the calendar's own rest days, or a calendar file with your rest days and the holidays that you keep";

/// Days that the events of one source close at most: each is held by itself.
const MOST_CLOSED: usize = 200_000;
/// Days that are tried at most for the repetitions of one source: some seconds of work.
const MOST_TRIED: u64 = 100_000_000;

impl CalendarParts {
    /// A source that states neither rest days nor years.
    pub(crate) fn of_list(path: &Path, rules: Vec<HolidayRule>, named_dates: Vec<Date>) -> Self {
        let name = path.file_stem().unwrap_or_default().to_string_lossy().into_owned();
        let every_year = CalendarYears::of(1, 9_999);
        Self {
            builder: WorkCalendar::builder(name, every_year).rest_days(RestDays::NONE).holidays(rules),
            rest_days: RestDaysStated::Unsaid,
            shipped: None,
            covers: None,
            hours: None,
            repeated: Vec::new(),
            named_dates,
            files: Vec::new(),
        }
    }

    /// What it is called.
    pub(super) fn name(&self) -> &str {
        self.builder.name()
    }

    /// The source by itself: its movers look at its own rest days and its own holidays.
    pub(super) fn calendar(&self, years: CalendarYears) -> Result<WorkCalendar, RecordsError> {
        let mut builder = self.builder.clone().extended(self.name(), years);
        let work: u64 = self
            .repeated
            .iter()
            .map(|event| event.work_in(years.first(), years.last()))
            .fold(0, u64::saturating_add);
        if work > MOST_TRIED {
            return Err(RecordsError::request(
                format!("the repetitions of \"{}\" are too many to follow from their starts", self.name()),
                "fewer events, a later DTSTART, or UNTIL in place of COUNT",
            ));
        }
        let mut closed = 0;
        for event in &self.repeated {
            let days = event.days_in(years.first(), years.last());
            closed += days.len();
            if closed > MOST_CLOSED {
                return Err(RecordsError::request(
                    format!("the events of \"{}\" close more than {MOST_CLOSED} days", self.name()),
                    "covers = … of fewer years, or fewer events",
                ));
            }
            let days = days.into_iter();
            builder = builder
                .holidays(days.map(|date| HolidayRule::new(event.name.as_str(), Occurrence::on_date(date))));
        }
        builder
            .build()
            .and_then(|calendar| match &self.hours {
                Some(hours) => calendar.with_hours(hours.clone()),
                None => Ok(calendar),
            })
            .map_err(|error| refused(&error))
    }

    pub(super) fn warning_of_dates(&self, covered: CalendarYears) -> Option<String> {
        let covered = self.covers.unwrap_or(covered);
        let mut outside = self.named_dates.iter().filter(|date| !covered.has(date.year()));
        let first = outside.next()?;
        let more = match outside.count() {
            0 => String::new(),
            more => format!(", and {more} more,"),
        };
        Some(format!(
            "\"{}\" names {first}{more} outside the years {covered}, which counts for nothing",
            self.name()
        ))
    }
}
