//! Calendars by name or file, and what may be added to them.

mod calendar_file;
mod dates;
mod ics;
mod yearly;

pub(crate) use calendar_file::{read_rest_days, read_years};
pub use ics::to_ics;

use crate::error::RecordsError;
use crate::files::{InputFile, read_whole};
use mild_ledger::{
    CalendarYears, Combination, Date, HolidayRule, Occurrence, OpeningHours, RestDays, WorkCalendar,
};
use std::path::Path;
use yearly::RepeatedEvent;

/// What a calendar is made of.
#[derive(Debug, Clone, Default)]
pub struct CalendarRequest {
    /// Names of calendars that ship, or files: `.toml` calendars, `.ics` events, `.csv` or `.txt` lists of dates. Each is
    /// resolved by itself, by its own rest days; a day is closed if any of them closes it.
    pub sources: Vec<String>,
    /// Rest days in place of those that the sources state. They change which days are counted, never where a holiday stands.
    pub rest_days: Option<RestDays>,
    /// Single dates that are closed too; they push nothing.
    pub holidays: Vec<Date>,
    /// The years it is to cover; not more than its sources do. Lists of dates state none, and take these.
    pub covers: Option<CalendarYears>,
    /// The years that will be asked of it, where they are known: only their days are worked out, if all of them are covered.
    pub asked: Option<CalendarYears>,
}

/// A calendar that was put together, with what a person should know of it.
///
/// ```
/// use mild_ledger_records::{CalendarRequest, open_calendar};
/// let request = CalendarRequest { sources: vec!["france".into()], ..CalendarRequest::default() };
/// let opened = open_calendar(&request)?;
/// assert_eq!(opened.covers().map(|years| years.to_string()), Some("2015 to 2030".into()));
/// assert!(opened.warnings().is_empty());
/// # Ok::<(), mild_ledger_records::RecordsError>(())
/// ```
#[derive(Debug, Clone)]
pub struct OpenedCalendar {
    calendar: WorkCalendar,
    covers: Option<CalendarYears>,
    warnings: Vec<String>,
    pub(crate) sources: Vec<String>,
    pub(crate) files: Vec<InputFile>,
}

impl OpenedCalendar {
    /// The calendar.
    ///
    /// ```
    /// # use mild_ledger_records::{CalendarRequest, open_calendar};
    /// assert!(open_calendar(&CalendarRequest::default())?.calendar().has_working_days());
    /// # Ok::<(), mild_ledger_records::RecordsError>(())
    /// ```
    #[must_use]
    pub fn calendar(&self) -> &WorkCalendar {
        &self.calendar
    }

    /// The years that it covers, be they worked out or not; `None` for every year.
    ///
    /// ```
    /// # use mild_ledger_records::{CalendarRequest, open_calendar};
    /// assert!(open_calendar(&CalendarRequest::default())?.covers().is_none());
    /// # Ok::<(), mild_ledger_records::RecordsError>(())
    /// ```
    #[must_use]
    pub fn covers(&self) -> Option<CalendarYears> {
        self.covers
    }

    /// Sentences on what is doubtful about it: covered years without a holiday, dates outside the years that it covers.
    ///
    /// ```
    /// # use mild_ledger_records::{CalendarRequest, open_calendar};
    /// assert!(open_calendar(&CalendarRequest::default())?.warnings().is_empty());
    /// # Ok::<(), mild_ledger_records::RecordsError>(())
    /// ```
    #[must_use]
    pub fn warnings(&self) -> &[String] {
        &self.warnings
    }
}

/// What one source gives.
pub(crate) struct CalendarParts {
    pub(crate) name: String,
    pub(crate) rest_days: Option<RestDays>,
    pub(crate) covers: Option<CalendarYears>,
    pub(crate) hours: Option<OpeningHours>,
    pub(crate) rules: Vec<HolidayRule>,
    pub(crate) working: Vec<Date>,
    /// Events that come round, worked out for the years that are wanted.
    pub(crate) repeated: Vec<RepeatedEvent>,
    /// The dates that the source names one by one, to tell of those outside the years covered.
    pub(crate) named_dates: Vec<Date>,
    pub(crate) file: Option<InputFile>,
}

/// Puts a calendar together; with no source and no holiday, that of rest days alone.
///
/// # Errors
/// [`RecordsError::File`] for a file that cannot be read, [`RecordsError::Calendar`] and [`RecordsError::BrokenFile`]
/// for what is wrong in one, [`RecordsError::Request`] for a name that no calendar has, or years that a source does not
/// cover.
///
/// ```
/// use mild_ledger::{Ends, Interval};
/// use mild_ledger_records::{CalendarRequest, open_calendar};
/// let days = |sources: &[&str]| -> Result<i64, Box<dyn std::error::Error>> {
///     let sources = sources.iter().map(|source| source.to_string()).collect();
///     let opened = open_calendar(&CalendarRequest { sources, ..CalendarRequest::default() })?;
///     let interval = Interval::between("2022-01-01".parse()?, "2022-01-09".parse()?);
///     Ok(opened.calendar().count_working_days(interval, Ends::FirstAndLast)?)
/// };
/// assert_eq!(days(&["england-wales"])?, 4);
/// assert_eq!(days(&["scotland"])?, 3);
/// assert_eq!(days(&["england-wales", "scotland"])?, 3);
/// # Ok::<(), Box<dyn std::error::Error>>(())
/// ```
pub fn open_calendar(request: &CalendarRequest) -> Result<OpenedCalendar, RecordsError> {
    let parts = request.sources.iter().map(|source| open_source(source)).collect::<Result<Vec<_>, _>>()?;
    // Where nothing states rest days, those that most people have.
    let is_stated = parts.iter().any(|part| part.rest_days.is_some());
    let rest_days = request.rest_days.or((!is_stated).then(RestDays::default));
    let sources = request.sources.clone();
    if parts.is_empty() && request.holidays.is_empty() {
        return Ok(OpenedCalendar {
            calendar: WorkCalendar::rest_days_only(rest_days.unwrap_or_default()),
            covers: None,
            warnings: Vec::new(),
            sources,
            files: Vec::new(),
        });
    }
    let covers = years_of(request, &parts)?;
    if let Some(date) = request.holidays.iter().find(|date| !covers.has(date.year())) {
        return Err(RecordsError::request(
            format!("the holiday {date} lies outside the years {covers} that are covered"),
            "leave it out, or name a calendar that covers its year",
        ));
    }
    let years = request.asked.filter(|asked| covers.contains(*asked)).unwrap_or(covers);
    let mut calendars = Vec::new();
    let mut warnings = Vec::new();
    for part in &parts {
        warnings.extend(part.warning_of_dates(covers));
        let own = part.calendar(years)?;
        warnings.extend(warning_of_years(&part.name, &own, years));
        calendars.push(match rest_days {
            Some(rest_days) => own.counted_with(rest_days).map_err(|error| refused(&error))?,
            None => own,
        });
    }
    let mut names: Vec<String> = parts.iter().map(|part| part.name.clone()).collect();
    if !request.holidays.is_empty() {
        let count = request.holidays.len();
        let name = format!("{count} named holiday{}", if count == 1 { "" } else { "s" });
        let own = by_hand(&name, request, rest_days.filter(|_| parts.is_empty()), years)?;
        // Where the named days are all that there is, years were claimed for them.
        if parts.is_empty() {
            warnings.extend(warning_of_years(&name, &own, years));
        }
        calendars.push(own);
        names.push(name);
    }
    let name = names.join(" + ");
    let calendar = match calendars.as_slice() {
        [only] => only.clone().with_name(name),
        all => WorkCalendar::combined(Combination::ClosedIfAny, all)
            .map_err(|error| refused(&error))?
            .with_name(name),
    };
    let files = parts.into_iter().filter_map(|part| part.file).collect();
    Ok(OpenedCalendar { calendar, covers: Some(covers), warnings, sources, files })
}

/// The calendar of the dates that were named one by one: it closes them, and nothing else where it stands beside another.
fn by_hand(
    name: &str,
    request: &CalendarRequest,
    rest_days: Option<RestDays>,
    years: CalendarYears,
) -> Result<WorkCalendar, RecordsError> {
    let rules: Vec<HolidayRule> = request
        .holidays
        .iter()
        .map(|date| HolidayRule::new("named holiday", Occurrence::on_date(*date)))
        .collect();
    let rest_days = rest_days.unwrap_or(RestDays::NONE);
    WorkCalendar::new(name, rest_days, years.first(), years.last(), &rules).map_err(|error| refused(&error))
}

fn refused(error: &mild_ledger::Error) -> RecordsError {
    RecordsError::request(error.what(), format!("allowed: {}", error.allowed()))
}

/// Days that are tried at most for the repetitions of one source: some seconds of work.
const MOST_TRIED: u64 = 100_000_000;

impl CalendarParts {
    /// A source that states neither rest days nor years.
    pub(crate) fn of_list(path: &Path, rules: Vec<HolidayRule>, named_dates: Vec<Date>) -> Self {
        let name = path.file_stem().unwrap_or_default().to_string_lossy().into_owned();
        let (rest_days, covers) = (None, None);
        Self {
            name,
            rest_days,
            covers,
            hours: None,
            rules,
            working: Vec::new(),
            repeated: Vec::new(),
            named_dates,
            file: None,
        }
    }

    /// The source by itself: its movers look at its own rest days and its own holidays.
    fn calendar(&self, years: CalendarYears) -> Result<WorkCalendar, RecordsError> {
        let rest_days = self.rest_days.unwrap_or(RestDays::NONE);
        let mut rules = self.rules.clone();
        let work: u64 = self
            .repeated
            .iter()
            .map(|event| event.work_in(years.first(), years.last()))
            .fold(0, u64::saturating_add);
        if work > MOST_TRIED {
            return Err(RecordsError::request(
                format!("the repetitions of \"{}\" are too many to follow from their starts", self.name),
                "fewer events, a later DTSTART, or UNTIL in place of COUNT",
            ));
        }
        for event in &self.repeated {
            let days = event.days_in(years.first(), years.last()).into_iter();
            rules.extend(days.map(|date| HolidayRule::new(event.name.as_str(), Occurrence::on_date(date))));
        }
        WorkCalendar::builder(&self.name, years)
            .rest_days(rest_days)
            .holidays(rules)
            .working_days(self.working.iter().copied())
            .build()
            .and_then(|calendar| match &self.hours {
                Some(hours) => calendar.with_hours(hours.clone()),
                None => Ok(calendar),
            })
            .map_err(|error| refused(&error))
    }

    fn warning_of_dates(&self, covered: CalendarYears) -> Option<String> {
        let covered = self.covers.unwrap_or(covered);
        let mut outside = self.named_dates.iter().filter(|date| !covered.has(date.year()));
        let first = outside.next()?;
        let more = match outside.count() {
            0 => String::new(),
            more => format!(", and {more} more,"),
        };
        Some(format!(
            "\"{}\" names {first}{more} outside the years {covered}, which counts for nothing",
            self.name
        ))
    }
}

/// Covered years in which a source of holidays has none.
fn warning_of_years(name: &str, calendar: &WorkCalendar, years: CalendarYears) -> Option<String> {
    let mut with: Vec<i32> = calendar.holidays().iter().map(|holiday| holiday.date().year()).collect();
    with.dedup();
    let without: Vec<String> = (years.first()..=years.last())
        .filter(|year| with.binary_search(year).is_err())
        .map(|year| format!("{year:04}"))
        .collect();
    let shown = match without.as_slice() {
        [] => return None,
        [first, .., last] if without.len() > 12 => {
            format!("{} of the years {first} to {last}", without.len())
        }
        all => all.join(", "),
    };
    Some(format!("\"{}\" has no holiday in {shown}", name))
}

/// The years that all sources cover, or those asked for, which may not be more.
fn years_of(request: &CalendarRequest, parts: &[CalendarParts]) -> Result<CalendarYears, RecordsError> {
    let refused = |what: String, help: &str| Err(RecordsError::request(what, help));
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
    let stated: Vec<CalendarYears> = parts.iter().filter_map(|part| part.covers).collect();
    if let Some((first, rest)) = stated.split_first() {
        let common = rest.iter().try_fold(*first, |common, other| common.overlap(*other));
        return match common {
            Some(years) => Ok(years),
            None => refused("the calendars cover no year together".to_owned(), "name calendars that do"),
        };
    }
    let years = request.holidays.iter().map(|date| date.year());
    match (parts.is_empty(), years.clone().min(), years.max()) {
        // Dates named for this one question cover the years that they stand in.
        (true, Some(first), Some(last)) => Ok(CalendarYears::of(first, last)),
        _ => refused(
            "a list of dates does not say which years it covers".to_owned(),
            "name them, such as \"2025 to 2027\"",
        ),
    }
}

/// A calendar that ships, or a file.
pub(crate) fn open_source(source: &str) -> Result<CalendarParts, RecordsError> {
    if let Some(shipped) = mild_ledger_calendars::named(source) {
        let rules = shipped.rules().map_err(|error| RecordsError::Proof { what: error.to_string() })?;
        return Ok(CalendarParts {
            name: shipped.name().to_owned(),
            rest_days: Some(RestDays::default()),
            covers: Some(shipped.covers()),
            hours: None,
            rules,
            working: Vec::new(),
            repeated: Vec::new(),
            named_dates: Vec::new(),
            file: None,
        });
    }
    let path = Path::new(source);
    let extension = path.extension().map(|extension| extension.to_string_lossy().to_lowercase());
    let read: fn(&Path, &str) -> Result<CalendarParts, RecordsError> = match extension.as_deref() {
        Some("toml") => calendar_file::read,
        Some("csv" | "txt") => dates::read,
        Some("ics") => ics::read,
        _ if path.exists() => {
            return Err(RecordsError::request(
                format!("{}: what this file holds cannot be told", path.display()),
                "name it .toml for a calendar, .ics for events, .csv or .txt for a list of dates",
            ));
        }
        _ => return Err(unknown(source)),
    };
    let (bytes, input) = read_whole(path)?;
    let text = String::from_utf8(bytes).map_err(|error| {
        let before = error.as_bytes().get(..error.utf8_error().valid_up_to()).unwrap_or_default();
        RecordsError::BrokenFile {
            path: path.to_owned(),
            line: before.iter().filter(|byte| **byte == b'\n').count() as u64 + 1,
            what: "it holds bytes that are not UTF-8".to_owned(),
            help: "save the file as UTF-8".to_owned(),
        }
    })?;
    let parts = read(path, text.strip_prefix('\u{feff}').unwrap_or(&text))?;
    Ok(CalendarParts { file: Some(input), ..parts })
}

fn unknown(source: &str) -> RecordsError {
    let names: Vec<&str> = mild_ledger_calendars::SHIPPED.iter().map(|shipped| shipped.name()).collect();
    let longer = names.iter().copied().find(|name| !source.is_empty() && name.starts_with(source));
    let near = longer
        .or_else(|| crate::mistakes::nearest(source, names.iter().copied()))
        .map_or_else(String::new, |near| format!("did you mean {near}? "));
    RecordsError::request(
        format!("there is no calendar \"{}\"", source.escape_debug()),
        format!("{near}give a file, or one of {}", names.join(", ")),
    )
}
