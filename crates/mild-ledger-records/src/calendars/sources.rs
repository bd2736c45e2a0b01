//! Sources of calendars: those that ship by their names, and files.

use super::parts::{CalendarParts, RestDaysStated};
use super::{calendar_file, dates, ics};
use crate::error::RecordsError;
use crate::files::read_whole;
use std::path::{Path, PathBuf};

/// How many calendar files may build on each other, one after the other.
const DEEPEST: usize = 16;

/// A calendar that ships, or a file.
pub(crate) fn open_source(source: &str) -> Result<CalendarParts, RecordsError> {
    open_within(source, &[])
}

/// The same for a source that other files build on, the one that was asked for first.
fn open_within(source: &str, built_on_it: &[PathBuf]) -> Result<CalendarParts, RecordsError> {
    if let Some(shipped) = mild_ledger_calendars::named(source) {
        let builder = shipped.builder().map_err(|error| RecordsError::Proof { what: error.to_string() })?;
        return Ok(CalendarParts {
            builder,
            rest_days: RestDaysStated::Stated,
            shipped: Some(shipped.name()),
            covers: Some(shipped.covers()),
            hours: None,
            repeated: Vec::new(),
            named_dates: Vec::new(),
            files: Vec::new(),
        });
    }
    let path = Path::new(source);
    let extension = path.extension().map(|extension| extension.to_string_lossy().to_lowercase());
    let form = match extension.as_deref() {
        Some("toml") => Form::Calendar,
        Some("csv" | "txt") => Form::Dates,
        Some("ics") => Form::Events,
        _ if path.exists() => {
            return Err(RecordsError::request(
                format!("{}: what this file holds is not clear", path.display()),
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
    let text = text.strip_prefix('\u{feff}').unwrap_or(&text);
    let mut parts = match form {
        Form::Calendar => calendar_file::read(path, text, |named| open_base(named, path, built_on_it))?,
        Form::Dates => dates::read(path, text)?,
        Form::Events => ics::read(path, text)?,
    };
    parts.files.insert(0, input);
    Ok(parts)
}

enum Form {
    Calendar,
    Dates,
    Events,
}

/// The calendar that one in a file builds on: one that ships, or a file next to it.
fn open_base(named: &str, file: &Path, built_on_it: &[PathBuf]) -> Result<CalendarParts, RecordsError> {
    if mild_ledger_calendars::named(named).is_some() {
        return open_within(named, &[]);
    }
    let path = match file.parent() {
        Some(folder) => folder.join(named),
        None => PathBuf::from(named),
    };
    let same = |path: &Path| path.canonicalize().unwrap_or_else(|_| path.to_owned());
    let mut chain = built_on_it.to_vec();
    chain.push(same(file));
    if chain.contains(&same(&path)) {
        return Err(RecordsError::request(
            format!("{}: the calendar builds on itself", path.display()),
            "a calendar that does not build on this one",
        ));
    }
    if chain.len() > DEEPEST {
        return Err(RecordsError::request(
            format!("{}: more than {DEEPEST} calendars build on each other", path.display()),
            "fewer of them",
        ));
    }
    open_within(&path.to_string_lossy(), &chain)
}

/// An error that names the calendars which may be meant.
fn unknown(source: &str) -> RecordsError {
    let shipped = &mild_ledger_calendars::SHIPPED;
    let names = || shipped.iter().map(|shipped| shipped.name());
    let about: Vec<&str> =
        shipped.iter().filter(|shipped| shipped.is_about(source)).map(|shipped| shipped.name()).collect();
    // Many are about a word such as "europe": the one that begins with it, or else the nearest, says more.
    let meant = match about.len() {
        0 => crate::mistakes::nearest(source, names()).into_iter().collect(),
        1..=MOST_MEANT => about,
        _ => names().find(|name| !source.is_empty() && name.starts_with(source)).into_iter().collect(),
    };
    let meant = if meant.is_empty() { String::new() } else { format!("perhaps {}; or ", meant.join(", ")) };
    RecordsError::request(
        format!("there is no calendar \"{}\"", source.escape_debug()),
        format!("{meant}a file, or one of the {} that `mild calendar` lists", shipped.len()),
    )
}

/// The most calendars that an error names.
const MOST_MEANT: usize = 4;
