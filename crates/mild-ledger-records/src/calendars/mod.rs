//! Calendars by name or file, and what may be added to them.

mod dates;
mod file;
mod ics;

pub(crate) use file::{read_rest_days, read_years};
pub use ics::to_ics;

use crate::error::RecordsError;
use mild_ledger::{Date, HolidayRule, Occurrence, RestDays, WorkCalendar};
use std::fs;
use std::path::Path;
use std::str::FromStr;

/// What a calendar is made of.
#[derive(Debug, Clone, Default)]
pub struct CalendarRequest {
    /// Names of calendars that ship, or files: `.toml` calendars, `.ics` events, `.csv` or `.txt` lists of dates. Their holidays are
    /// put together.
    pub sources: Vec<String>,
    /// Rest days in place of those that the sources state.
    pub rest_days: Option<RestDays>,
    /// Single dates that are holidays too.
    pub holidays: Vec<Date>,
    /// The years it is to cover; not more than its sources do. Lists of dates state none, and take these.
    pub covers: Option<CalendarYears>,
}

/// Years from a first to a last, both included.
///
/// ```
/// use mild_ledger_records::CalendarYears;
/// let years: CalendarYears = "2025 to 2027".parse()?;
/// assert_eq!((years.first(), years.last()), (2025, 2027));
/// assert!("2027 to 2025".parse::<CalendarYears>().is_err());
/// # Ok::<(), String>(())
/// ```
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct CalendarYears {
    first: i32,
    last: i32,
}

impl CalendarYears {
    /// The first year.
    #[must_use]
    pub fn first(self) -> i32 {
        self.first
    }

    /// The last year.
    #[must_use]
    pub fn last(self) -> i32 {
        self.last
    }

    pub(crate) fn of(first: i32, last: i32) -> Self {
        Self { first, last }
    }

    fn contains(self, other: Self) -> bool {
        self.first <= other.first && other.last <= self.last
    }
}

impl std::fmt::Display for CalendarYears {
    fn fmt(&self, f: &mut std::fmt::Formatter<'_>) -> std::fmt::Result {
        match self.first == self.last {
            true => write!(f, "{:04}", self.first),
            false => write!(f, "{:04} to {:04}", self.first, self.last),
        }
    }
}

/// Reads `2025 to 2027`, `2025..2027` or `2026`.
impl FromStr for CalendarYears {
    type Err = String;

    fn from_str(text: &str) -> Result<Self, String> {
        const ALLOWED: &str = "years such as \"2025 to 2027\", or 2026";
        let (first, last) = text.split_once(" to ").or_else(|| text.split_once("..")).unwrap_or((text, text));
        let year = |text: &str| text.trim().parse::<i32>().ok().filter(|year| (1..=9_999).contains(year));
        match (year(first), year(last)) {
            (Some(first), Some(last)) if first <= last => Ok(Self { first, last }),
            (Some(first), Some(last)) => {
                Err(format!("{first} to {last} ends before it begins (allowed: {ALLOWED})"))
            }
            _ => Err(format!("\"{}\" are no years (allowed: {ALLOWED})", text.escape_debug())),
        }
    }
}

/// What one source gives.
pub(crate) struct CalendarParts {
    pub(crate) name: String,
    pub(crate) rest_days: Option<RestDays>,
    pub(crate) covers: Option<CalendarYears>,
    pub(crate) rules: Vec<HolidayRule>,
    pub(crate) working: Vec<Date>,
}

/// Puts a calendar together; with no source and no holiday, that of rest days alone.
///
/// # Errors
/// [`RecordsError::File`] for a file that cannot be read, [`RecordsError::Calendar`] and [`RecordsError::BrokenFile`]
/// for what is wrong in one, [`RecordsError::Request`] for a name that no calendar has, or years that a source does not
/// cover.
///
/// ```
/// use mild_ledger_records::{CalendarRequest, open_calendar};
/// let request = CalendarRequest { sources: vec!["france".into()], ..CalendarRequest::default() };
/// assert_eq!(open_calendar(&request)?.covers(), Some((2015, 2030)));
/// # Ok::<(), mild_ledger_records::RecordsError>(())
/// ```
pub fn open_calendar(request: &CalendarRequest) -> Result<WorkCalendar, RecordsError> {
    let parts = request.sources.iter().map(|source| open_source(source)).collect::<Result<Vec<_>, _>>()?;
    let rest_days = match request.rest_days {
        Some(days) => days,
        None => agreed_rest_days(&parts)?,
    };
    if parts.is_empty() && request.holidays.is_empty() {
        return Ok(WorkCalendar::rest_days_only(rest_days));
    }
    let years = years_of(request, &parts)?;
    if let Some(date) =
        request.holidays.iter().find(|date| !(years.first..=years.last).contains(&date.year()))
    {
        return Err(RecordsError::Request {
            what: format!("the holiday {date} lies outside the years {years} that are covered"),
            help: "leave it out, or name a calendar that covers its year".to_owned(),
        });
    }
    let mut name = parts.iter().map(|part| part.name.as_str()).collect::<Vec<_>>().join(" + ");
    let mut rules: Vec<HolidayRule> = parts.iter().flat_map(|part| part.rules.iter().cloned()).collect();
    let working: Vec<Date> = parts.iter().flat_map(|part| part.working.iter().copied()).collect();
    for date in &request.holidays {
        rules.push(HolidayRule::new("named holiday", Occurrence::on_date(*date)));
    }
    if !request.holidays.is_empty() {
        let count = request.holidays.len();
        let named = format!("{count} named holiday{}", if count == 1 { "" } else { "s" });
        name = if name.is_empty() { named } else { format!("{name} + {named}") };
    }
    WorkCalendar::with_working_days(name, rest_days, (years.first, years.last), &rules, &working).map_err(
        |error| RecordsError::Request {
            what: error.what().to_owned(),
            help: format!("allowed: {}", error.allowed()),
        },
    )
}

/// The rest days that the sources state; they may not differ.
fn agreed_rest_days(parts: &[CalendarParts]) -> Result<RestDays, RecordsError> {
    let mut stated = parts.iter().filter_map(|part| Some((part.name.as_str(), part.rest_days?)));
    let Some((first, days)) = stated.next() else { return Ok(RestDays::default()) };
    match stated.find(|(_, other)| *other != days) {
        None => Ok(days),
        Some((other, theirs)) => Err(RecordsError::Request {
            what: format!("\"{first}\" rests on {days} and \"{other}\" on {theirs}"),
            help: "say which with rest days of your own".to_owned(),
        }),
    }
}

/// The years that all sources cover, or those asked for, which may not be more.
fn years_of(request: &CalendarRequest, parts: &[CalendarParts]) -> Result<CalendarYears, RecordsError> {
    let refused = |what: String, help: &str| Err(RecordsError::Request { what, help: help.to_owned() });
    if let Some(asked) = request.covers {
        let less = parts.iter().find_map(|part| {
            part.covers.filter(|covers| !covers.contains(asked)).map(|covers| (part.name.as_str(), covers))
        });
        return match less {
            None => Ok(asked),
            Some((name, covers)) => refused(
                format!("the years {asked} are claimed, and \"{name}\" covers {covers}"),
                "claim no more years than every calendar covers",
            ),
        };
    }
    let stated = parts.iter().filter_map(|part| part.covers);
    let common =
        stated.reduce(|one, other| CalendarYears::of(one.first.max(other.first), one.last.min(other.last)));
    match common {
        Some(years) if years.first <= years.last => Ok(years),
        Some(_) => refused("the calendars cover no year together".to_owned(), "name calendars that do"),
        None => match (parts.is_empty(), request.holidays.iter().map(|date| date.year())) {
            // Dates named for this one question cover the years that they stand in.
            (true, years) => {
                let (first, last) = (years.clone().min().unwrap_or(1), years.max().unwrap_or(9_999));
                Ok(CalendarYears::of(first, last))
            }
            (false, _) => refused(
                "a list of dates does not say which years it covers".to_owned(),
                "name them, such as \"2025 to 2027\"",
            ),
        },
    }
}

/// A calendar that ships, or a file.
pub(crate) fn open_source(source: &str) -> Result<CalendarParts, RecordsError> {
    if let Some(shipped) = mild_ledger_calendars::named(source) {
        let rules = shipped.rules().map_err(|error| RecordsError::Proof { what: error.to_string() })?;
        let (first, last) = shipped.covers();
        return Ok(CalendarParts {
            name: shipped.name().to_owned(),
            rest_days: Some(RestDays::default()),
            covers: Some(CalendarYears::of(first, last)),
            rules,
            working: Vec::new(),
        });
    }
    let path = Path::new(source);
    let extension = path.extension().map(|extension| extension.to_string_lossy().to_lowercase());
    let is_file = path.exists();
    match extension.as_deref() {
        Some("toml") => file::read(path, &read(path)?),
        Some("csv" | "txt") => dates::read(path, &read(path)?),
        Some("ics") => ics::read(path, &read(path)?),
        _ if is_file => Err(RecordsError::Request {
            what: format!("{}: what this file holds cannot be told", path.display()),
            help: "name it .toml for a calendar, .ics for events, .csv or .txt for a list of dates"
                .to_owned(),
        }),
        _ => {
            let names = mild_ledger_calendars::SHIPPED.map(|shipped| shipped.name());
            let longer = names.into_iter().find(|name| !source.is_empty() && name.starts_with(source));
            let near = longer
                .or_else(|| crate::plan::nearest(source, names))
                .map_or_else(String::new, |near| format!("; did you mean {near}?"));
            Err(RecordsError::Request {
                what: format!("there is no calendar \"{}\"", source.escape_debug()),
                help: format!("a file, or one of {}{near}", names.join(", ")),
            })
        }
    }
}

fn read(path: &Path) -> Result<String, RecordsError> {
    let bytes = fs::read(path).map_err(RecordsError::file(path, "read it"))?;
    let text = String::from_utf8(bytes).map_err(|error| {
        let before = error.as_bytes().get(..error.utf8_error().valid_up_to()).unwrap_or_default();
        RecordsError::BrokenFile {
            path: path.to_owned(),
            line: before.iter().filter(|byte| **byte == b'\n').count() as u64 + 1,
            what: "it holds bytes that are not UTF-8".to_owned(),
            help: "save the file as UTF-8".to_owned(),
        }
    })?;
    Ok(text.strip_prefix('\u{feff}').map_or_else(|| text.clone(), str::to_owned))
}
