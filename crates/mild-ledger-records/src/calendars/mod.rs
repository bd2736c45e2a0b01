//! Calendars by name or file, and what may be added to them.

mod by_rule;
mod calendar_file;
mod dates;
mod holidays;
mod ics;
mod parts;
mod sources;
mod yearly;

pub(crate) use by_rule::{FiguresByRule, Resting, YearsByRule};
pub(crate) use calendar_file::{read_rest_days, read_years};
pub use ics::{EventTime, to_ics};
pub(crate) use sources::open_source;

use crate::error::RecordsError;
use crate::files::InputFile;
use mild_ledger::{
    CalendarYears, Combination, Date, HalfDays, HolidayRule, Occurrence, RestDays, WorkCalendar,
};
use parts::{CalendarParts, OTHER_REST_DAYS, RestDaysStated, refused, why_not_with};

/// Days told of at most on which holidays of one source coincide.
const MOST_COINCIDENCES: usize = 5;

/// What a calendar is made of.
#[derive(Debug, Clone, Default)]
pub struct CalendarRequest {
    /// Names of calendars that ship, or files: `.toml` calendars, `.ics` events, `.csv` or `.txt` lists of dates. Each is
    /// resolved by itself, by its own rest days; a day is closed if any of them closes it.
    pub sources: Vec<String>,
    /// Rest days in place of those that the sources state. They change which days are counted, never where a holiday is.
    pub rest_days: Option<RestDays>,
    /// Single dates that are closed too; they push nothing.
    pub holidays: Vec<Date>,
    /// The years it is to cover; not more than its sources do. Lists of dates state none, and take these.
    pub covers: Option<CalendarYears>,
    /// What half days count as.
    pub half_days: HalfDays,
    /// The years that will be asked of it, where they are known: only their days are worked out, if all of them are covered.
    pub asked: Option<CalendarYears>,
}

/// A calendar that was put together, with what a person should know of it.
///
/// ```
/// use mild_ledger_records::{CalendarRequest, open_calendar};
/// let request = CalendarRequest { sources: vec!["france".into()], ..CalendarRequest::default() };
/// let opened = open_calendar(&request)?;
/// assert_eq!(opened.covers().map(|years| years.to_string()), Some("2015 to 2040".into()));
/// assert!(opened.warnings().is_empty());
/// # Ok::<(), mild_ledger_records::RecordsError>(())
/// ```
#[derive(Debug, Clone)]
pub struct OpenedCalendar {
    calendar: WorkCalendar,
    covers: Option<CalendarYears>,
    warnings: Vec<String>,
    coincidences: Vec<String>,
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

    /// Sentences on holidays of one source that were moved onto a day which another closes too, so that they close one day together.
    pub(crate) fn coincidences(&self) -> &[String] {
        &self.coincidences
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
    let is_stated = parts.iter().any(|part| part.rest_days == RestDaysStated::Stated);
    let rest_days = request.rest_days.or((!is_stated).then(RestDays::default));
    let sources = request.sources.clone();
    if parts.is_empty() && request.holidays.is_empty() {
        return Ok(OpenedCalendar {
            calendar: WorkCalendar::rest_days_only(rest_days.unwrap_or_default()),
            covers: None,
            warnings: Vec::new(),
            coincidences: Vec::new(),
            sources,
            files: Vec::new(),
        });
    }
    if let Some(rest_days) = request.rest_days
        && let Some(why) = parts.iter().find_map(|part| why_not_with(part.shipped?, rest_days))
    {
        return Err(RecordsError::request(why, OTHER_REST_DAYS));
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
    let (mut warnings, mut coincidences) = (Vec::new(), Vec::new());
    for part in &parts {
        warnings.extend(part.warning_of_dates(covers));
        let own = part.calendar(years)?;
        warnings.extend(warning_of_years(part.name(), &own, years));
        coincidences.extend(coincidences_of(part.name(), &own));
        calendars.push(match rest_days {
            Some(rest_days) => own.counted_with(rest_days).map_err(|error| refused(&error))?,
            None => own,
        });
    }
    let mut names: Vec<String> = parts.iter().map(|part| part.name().to_owned()).collect();
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
    }
    .with_half_days(request.half_days);
    let files = parts.into_iter().flat_map(|part| part.files).collect();
    Ok(OpenedCalendar { calendar, covers: Some(covers), warnings, coincidences, sources, files })
}

/// The calendar of the dates that were named one by one: it closes them, and nothing else where it is next to another.
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

/// Holidays that were moved onto a day on which another is.
fn coincidences_of(name: &str, calendar: &WorkCalendar) -> Vec<String> {
    let moved = calendar.holidays().iter().filter_map(|holiday| Some((holiday, holiday.moved_from()?)));
    let mut told: Vec<String> = moved
        .filter_map(|(holiday, from)| {
            let date = holiday.date();
            let other = calendar.holidays_on(date).iter().find(|other| *other != holiday)?;
            Some(format!(
                "\"{name}\": \"{}\" of {from} is kept on {date}, as \"{}\" is: one closed day",
                holiday.name(),
                other.name()
            ))
        })
        .collect();
    let more = told.len().saturating_sub(MOST_COINCIDENCES);
    if more > 0 {
        told.truncate(MOST_COINCIDENCES);
        told.push(format!("\"{name}\": {more} more holidays are kept on a day on which another is"));
    }
    told
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
            part.covers.filter(|covers| !covers.contains(asked)).map(|covers| (part.name(), covers))
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
        // Dates named for this one question cover the years that they are in.
        (true, Some(first), Some(last)) => Ok(CalendarYears::of(first, last)),
        _ => refused(
            "a list of dates does not say which years it covers".to_owned(),
            "name them, such as \"2025 to 2027\"",
        ),
    }
}
