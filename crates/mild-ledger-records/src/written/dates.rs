//! How the dates of a column of the records are written.

use super::quoted_header::is_unquoted_dot;
use super::{DATE, DateColumnPlan, read_missing};
use crate::mistakes::{At, Value, Walk, read_date};
use crate::table::{Missing, TimeKept};
use crate::zones::Zone;
use mild_ledger::{DatePattern, Language, PatternSettings, PeriodDay, WrittenDates};
use toml::de::{DeTable, DeValue};

const EXPECTED: &str = "how its dates are written, such as \"day/month/year\" or \"iso\"";

pub(super) fn read_date_column(
    walk: &mut Walk,
    column: At<String>,
    value: &Value<'_>,
) -> Option<DateColumnPlan> {
    let DeValue::Table(table) = value.get_ref() else {
        let written = read_patterns(walk, value, PatternSettings::new())?;
        let (time, missing) = (TimeKept::DroppedAndListed, Missing::LeavesCellEmpty);
        return Some(DateColumnPlan { column, written, time, zone: None, missing });
    };
    if is_unquoted_dot(walk, &column, table, DATE.known) {
        return None;
    }
    walk.check_keys(table, &DATE);
    let settings = read_settings(walk, table)?;
    let written = walk.needed(table, "pattern", value.span(), EXPECTED)?;
    let written = read_patterns(walk, written, settings)?;
    let written = with_blanks_and_fillers(walk, table, written)?;
    let missing = read_missing(walk, table, false)?;
    let time = match table.get("time") {
        Some(value) => walk.choice(value, &[("drop", TimeKept::Dropped), ("keep", TimeKept::Kept)])?,
        None => TimeKept::DroppedAndListed,
    };
    let zone = match table.get("zone") {
        Some(value) => Some(read_zone(walk, value)?),
        None => None,
    };
    Some(DateColumnPlan { column, written, time, zone, missing })
}

/// What is next to the words of its patterns.
fn read_settings(walk: &mut Walk, table: &DeTable<'_>) -> Option<PatternSettings> {
    let mut settings = PatternSettings::new();
    if let Some(value) = table.get("language") {
        settings = settings.with_language(walk.choice_of(value, &Language::ALL, Language::word)?);
    }
    if let Some(value) = table.get("pivot") {
        let year = i32::try_from(walk.whole_number(value, 1..=9900)?).ok()?;
        if year < 100 {
            let what =
                format!("{year} is a year of two digits, and the pivot is the first of a hundred years");
            walk.mistakes.tell(value.span(), what, format!("such as pivot = {}", 1900 + year));
            return None;
        }
        settings = settings.with_pivot(year).ok()?;
    }
    if let Some(value) = table.get("day") {
        settings = settings.with_day(walk.choice_of(value, &PeriodDay::ALL, PeriodDay::word)?);
    }
    Some(settings)
}

/// One pattern, or several in the order in which they are tried.
fn read_patterns(walk: &mut Walk, value: &Value<'_>, settings: PatternSettings) -> Option<WrittenDates> {
    let mut written: Option<WrittenDates> = None;
    for text in walk.texts(value, EXPECTED)? {
        match DatePattern::with_settings(&text.value, settings) {
            Ok(pattern) => {
                written = Some(match written {
                    Some(written) => written.or(pattern),
                    None => WrittenDates::by(pattern),
                });
            }
            Err(error) => {
                let help = DatePattern::words_for_letters(&text.value);
                let help = help.map(|words| format!("nearest: \"{words}\""));
                walk.mistakes.tell_with_help(text.span, error.what(), error.allowed(), help);
                return None;
            }
        }
    }
    if written.is_none() {
        walk.mistakes.tell(value.span(), "this list has no pattern", EXPECTED);
    }
    written
}

fn with_blanks_and_fillers(
    walk: &mut Walk,
    table: &DeTable<'_>,
    mut written: WrittenDates,
) -> Option<WrittenDates> {
    const DATES: &str = "a list of dates such as [1950-01-01]";
    if let Some(value) = table.get("blank") {
        for text in walk.texts(value, "the texts that mean a blank, such as [\"-\", \"n/a\"]")? {
            written = written.with_blank(&text.value);
        }
    }
    for (key, with) in [
        ("fillers", WrittenDates::with_filler as fn(WrittenDates, mild_ledger::Date) -> WrittenDates),
        ("true_dates", WrittenDates::without_filler),
    ] {
        let Some(value) = table.get(key) else { continue };
        for item in walk.items(value, DATES)? {
            written = with(written, read_date(walk, item, DATES)?);
        }
    }
    Some(written)
}

fn read_zone(walk: &mut Walk, value: &Value<'_>) -> Option<Zone> {
    const EXPECTED: &str = "an IANA name such as \"Europe/London\", or \"UTC\"";
    let name = walk.text(value, EXPECTED)?;
    match name.value.parse() {
        Ok(zone) => Some(zone),
        Err(_) => {
            let what = format!("\"{}\" is not a time zone", name.value.escape_debug());
            walk.mistakes.tell(name.span, what, EXPECTED);
            None
        }
    }
}
