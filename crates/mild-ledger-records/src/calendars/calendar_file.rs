//! The calendar file: TOML, its mistakes shown by their places.

use super::CalendarParts;
use crate::error::RecordsError;
use crate::mistakes::{Keys, Value, Walk, read_date};
use mild_ledger::{
    CalendarYears, Church, CommonYears, Date, HolidayMove, HolidayRule, Occurrence, OpenSpan, OpeningHours,
    RestDays, Weekday, WeekdaySide,
};
use std::ops::Range;
use std::path::Path;
use toml::de::{DeTable, DeValue};

const TOP: Keys<'static> = Keys {
    part: "the calendar",
    known: &["calendar", "name", "covers", "rest_days", "hours", "holiday", "working"],
    later: &[],
};

const HOLIDAY: Keys<'static> = Keys {
    part: "[[holiday]]",
    known: &[
        "name",
        "date",
        "day",
        "month",
        "common_years",
        "weekday",
        "which",
        "easter",
        "on_or_after",
        "after",
        "on_or_before",
        "before",
        "moved",
        "since",
        "until",
        "except",
        "only",
    ],
    later: &[],
};

const WORKING: Keys<'static> = Keys { part: "[[working]]", known: &["date"], later: &[] };
const HOURS: Keys<'static> = Keys {
    part: "[hours]",
    known: &[EACH_DAY, "monday", "tuesday", "wednesday", "thursday", "friday", "saturday", "sunday"],
    later: &[],
};
/// The hours of the weekdays that are not named.
const EACH_DAY: &str = "each_day";
const EASTER: Keys<'static> = Keys { part: "easter", known: &["days", "church"], later: &[] };
const DAY: Keys<'static> = Keys { part: "a day of the year", known: &["day", "month"], later: &[] };

/// Reads a calendar; every mistake found is in the error.
pub(super) fn read(path: &Path, source: &str) -> Result<CalendarParts, RecordsError> {
    let parts = Walk::default().read(path, source, |walk, tree| read_calendar(walk, tree, source.len()));
    parts.map_err(RecordsError::Calendar)
}

fn read_calendar(walk: &mut Walk, top: &DeTable<'_>, end: usize) -> Option<CalendarParts> {
    walk.check_keys(top, &TOP);
    let place = 0..end.min(1);
    if let Some(version) =
        walk.needed(top, "calendar", place.clone(), "calendar = 1, the version of the format")
    {
        walk.whole_number(version, 1..=1);
    }
    let name =
        walk.needed(top, "name", place.clone(), "name = \"…\"").and_then(|value| walk.text(value, "a name"));
    let covers =
        walk.needed(top, "covers", place, "covers = \"2025 to 2027\", the years it knows of, both included");
    let covers = covers.and_then(|value| read_years(walk, value));
    let rest_days = match top.get("rest_days") {
        Some(value) => read_rest_days(walk, value),
        None => Some(RestDays::default()),
    };
    let mut rules = Vec::new();
    for (table, span) in walk.tables(top, "holiday") {
        rules.extend(read_holiday(walk, table, span));
    }
    let mut working = Vec::new();
    for (table, span) in walk.tables(top, "working") {
        walk.check_keys(table, &WORKING);
        let date = walk.needed(table, "date", span, "date = 2026-12-05");
        working.extend(date.and_then(|value| read_date(walk, value, "a date such as 2026-12-05")));
    }
    let hours = match (top.get("hours"), rest_days) {
        (Some(value), Some(rest_days)) => Some(read_hours(walk, value, rest_days, &working)?),
        _ => None,
    };
    let dates = walk.tables(top, "holiday").into_iter().filter_map(|(table, _)| table.get("date"));
    let dates: Vec<_> = dates.filter_map(|value| read_date(walk, value, "a date")).collect();
    Some(CalendarParts {
        name: name?.value,
        rest_days: Some(rest_days?),
        covers: Some(covers?),
        hours,
        rules,
        named_dates: dates.into_iter().chain(working.iter().copied()).collect(),
        working,
        repeated: Vec::new(),
        file: None,
    })
}

/// `[hours]`: opening hours by weekday, for each day that is worked.
fn read_hours(
    walk: &mut Walk,
    value: &Value<'_>,
    rest_days: RestDays,
    working: &[Date],
) -> Option<OpeningHours> {
    const EXPECTED: &str = "hours such as \"08:00 to 17:00\", or [\"08:00 to 12:00\", \"13:00 to 17:00\"]";
    let table = walk.table(value, "a table such as each_day = \"08:00 to 17:00\"")?;
    walk.check_keys(table, &HOURS);
    let mut hours = OpeningHours::default();
    for day in Weekday::ALL {
        let Some(value) = table.get(day.word()).or_else(|| table.get(EACH_DAY)) else { continue };
        let spans: Option<Vec<OpenSpan>> =
            walk.items_or_one(value).iter().map(|item| walk.parsed(item, EXPECTED, str::parse)).collect();
        hours = match hours.on(day, &spans?) {
            Ok(hours) => hours,
            Err(error) => {
                walk.mistakes.tell(value.span(), error.what(), error.allowed());
                return None;
            }
        };
    }
    let is_closed = |day: Weekday| hours.of(day).is_empty();
    let by_week = Weekday::ALL.into_iter().find(|day| !rest_days.contains(*day) && is_closed(*day));
    let declared = working.iter().find(|date| is_closed(date.weekday()));
    let without = by_week.map(|day| format!("{day}, which is no rest day,"));
    if let Some(day) = without.or_else(|| declared.map(|date| format!("{date}, a {},", date.weekday()))) {
        let what = format!("{day} is worked and has no opening hours");
        walk.mistakes.tell(value.span(), what, "each_day = \"08:00 to 17:00\", or a line for that weekday");
        return None;
    }
    Some(hours)
}

/// `"2020 to 2030"`.
pub(crate) fn read_years(walk: &mut Walk, value: &Value<'_>) -> Option<CalendarYears> {
    let text = walk.text(value, "years such as \"2025 to 2027\"")?;
    match text.value.parse::<CalendarYears>() {
        Ok(years) => Some(years),
        Err(error) => {
            walk.mistakes.tell(text.span, error.what(), "years such as \"2025 to 2027\", or \"2026\"");
            None
        }
    }
}

/// `["saturday", "sunday"]`, or none.
pub(crate) fn read_rest_days(walk: &mut Walk, value: &Value<'_>) -> Option<RestDays> {
    const EXPECTED: &str = "weekdays such as [\"saturday\", \"sunday\"]";
    let items = walk.items(value, EXPECTED)?;
    let days: Option<Vec<Weekday>> =
        items.iter().map(|item| walk.parsed(item, EXPECTED, str::parse)).collect();
    days.map(RestDays::of)
}

/// One of the ways to say when a holiday occurs, and the keys that go with it.
const KINDS: [(&str, &[&str]); 4] = [
    ("date", &[]),
    ("easter", &[]),
    ("weekday", &["which", "month", "on_or_after", "after", "on_or_before", "before"]),
    ("day", &["month", "common_years"]),
];

fn read_holiday(walk: &mut Walk, table: &DeTable<'_>, span: Range<usize>) -> Option<HolidayRule> {
    walk.check_keys(table, &HOLIDAY);
    let name =
        walk.needed(table, "name", span.clone(), "name = \"…\"").and_then(|value| walk.text(value, "a name"));
    let stated: Vec<_> = KINDS.iter().filter(|(word, _)| table.contains_key(*word)).collect();
    let [(kind, companions)] = stated.as_slice() else {
        let (what, place) = match stated.get(1).and_then(|(word, _)| table.get_key_value(*word)) {
            Some((key, _)) => ("the holiday occurs in two ways at once", key.span()),
            None => ("the holiday does not say when it occurs", span),
        };
        walk.mistakes.tell(place, what, "date, day and month, weekday, or easter");
        return None;
    };
    for key in table.keys() {
        let word: &str = key.get_ref();
        let of_another =
            KINDS.iter().any(|(_, theirs)| theirs.contains(&word)) && !companions.contains(&word);
        if of_another {
            walk.mistakes.tell(key.span(), format!("{word} does not go with {kind}"), companions.join(", "));
            return None;
        }
    }
    let occurrence = match *kind {
        "date" => table
            .get("date")
            .and_then(|value| read_date(walk, value, "a date such as 2026-07-03"))
            .map(Occurrence::on_date),
        "easter" => read_easter(walk, table.get("easter")?),
        "weekday" => read_weekday(walk, table, span),
        _ => read_day(walk, table, span),
    };
    let moved = match table.get("moved") {
        Some(value) => walk.choice_of(value, HolidayMove::ALL, HolidayMove::word)?,
        None => HolidayMove::Stays,
    };
    let mut rule = HolidayRule::new(name?.value, occurrence?).with_moved(moved);
    if let Some(value) = table.get("since") {
        rule = rule.with_since(read_year(walk, value)?);
    }
    if let Some(value) = table.get("until") {
        rule = rule.with_until(read_year(walk, value)?);
    }
    if let Some(value) = table.get("except") {
        rule = rule.with_except(read_year_list(walk, value)?);
    }
    if let Some(value) = table.get("only") {
        rule = rule.with_only(read_year_list(walk, value)?);
    }
    Some(rule)
}

/// `day` and `month`, and for a 29 February perhaps `common_years`.
fn read_day(walk: &mut Walk, table: &DeTable<'_>, span: Range<usize>) -> Option<Occurrence> {
    let (month, day, place) = read_day_of_year(walk, table, span)?;
    let Some(value) = table.get("common_years") else {
        return made(walk, place, Occurrence::on_day_of_year(month, day));
    };
    let common_years = walk.choice(value, &CommonYears::ALL.map(|years| (years.word(), years)))?;
    if (month, day) == (2, 29) {
        return Some(Occurrence::on_leap_day(common_years));
    }
    walk.mistakes.tell(value.span(), "common years have this day too", "day = 29 and month = \"february\"");
    None
}

fn read_year(walk: &mut Walk, value: &Value<'_>) -> Option<i32> {
    walk.whole_number(value, 1..=9_999).and_then(|year| i32::try_from(year).ok())
}

fn read_year_list(walk: &mut Walk, value: &Value<'_>) -> Option<Vec<i32>> {
    match value.get_ref() {
        DeValue::Array(items) => items.iter().map(|item| read_year(walk, item)).collect(),
        _ => read_year(walk, value).map(|year| vec![year]),
    }
}

fn read_easter(walk: &mut Walk, value: &Value<'_>) -> Option<Occurrence> {
    const EXPECTED: &str = "a table such as { days = -2, church = \"western\" }";
    let table = walk.table(value, EXPECTED)?;
    walk.check_keys(table, &EASTER);
    let days =
        walk.needed(table, "days", value.span(), "days = 0 for Easter Sunday, -2 for the Friday before")?;
    let days = walk.whole_number(days, -400..=400)?;
    let church = match table.get("church") {
        Some(church) => walk.choice_of(church, Church::ALL, Church::word)?,
        None => {
            walk.mistakes.tell(value.span(), "church is missing", "church = \"western\" or \"orthodox\"");
            return None;
        }
    };
    let days = i16::try_from(days).ok()?;
    made(walk, value.span(), Occurrence::from_easter(days, church))
}

const WHICH: [(&str, u8); 6] =
    [("first", 1), ("second", 2), ("third", 3), ("fourth", 4), ("fifth", 5), ("last", 0)];

fn read_weekday(walk: &mut Walk, table: &DeTable<'_>, span: Range<usize>) -> Option<Occurrence> {
    let weekday: Weekday = walk.parsed(table.get("weekday")?, "a day of the week", str::parse)?;
    let sides = [
        ("on_or_after", WeekdaySide::OnOrAfter),
        ("after", WeekdaySide::After),
        ("on_or_before", WeekdaySide::OnOrBefore),
        ("before", WeekdaySide::Before),
    ];
    let stated: Vec<_> =
        sides.iter().filter_map(|(word, side)| Some((*word, *side, table.get(*word)?))).collect();
    match (stated.as_slice(), table.get("which")) {
        ([(_, side, value)], None) => {
            const EXPECTED: &str = "a day such as { day = 24, month = \"may\" }";
            let day = walk.table(value, EXPECTED)?;
            walk.check_keys(day, &DAY);
            let (month, day, place) = read_day_of_year(walk, day, value.span())?;
            made(walk, place, Occurrence::on_weekday_beside(weekday, *side, month, day))
        }
        ([], Some(which)) => {
            let which = walk.choice(which, &WHICH)?;
            let value = walk.needed(table, "month", span, "month = \"may\"")?;
            let month = read_month(walk, value)?;
            made(
                walk,
                value.span(),
                match which {
                    0 => Occurrence::on_last_weekday(weekday, month),
                    number => Occurrence::on_nth_weekday(number, weekday, month),
                },
            )
        }
        _ => {
            let expected = "which = \"first\" and month = \"may\", or on_or_after, after, on_or_before or before = { day = 24, month = \"may\" }";
            walk.mistakes.tell(
                span,
                "it does not say which of these weekdays is meant, or says it twice",
                expected,
            );
            None
        }
    }
}

/// `day` and `month`, with the place of the day.
fn read_day_of_year(
    walk: &mut Walk,
    table: &DeTable<'_>,
    span: Range<usize>,
) -> Option<(u8, u8, Range<usize>)> {
    let month = walk
        .needed(table, "month", span.clone(), "month = \"may\"")
        .and_then(|value| read_month(walk, value));
    let value = walk.needed(table, "day", span, "day = 25")?;
    let day = walk.whole_number(value, 1..=31)?;
    Some((month?, u8::try_from(day).ok()?, value.span()))
}

const MONTHS: [(&str, u8); 12] = [
    ("january", 1),
    ("february", 2),
    ("march", 3),
    ("april", 4),
    ("may", 5),
    ("june", 6),
    ("july", 7),
    ("august", 8),
    ("september", 9),
    ("october", 10),
    ("november", 11),
    ("december", 12),
];

/// A month by its name, or by its number.
fn read_month(walk: &mut Walk, value: &Value<'_>) -> Option<u8> {
    match value.get_ref() {
        DeValue::Integer(_) => walk.whole_number(value, 1..=12).and_then(|month| u8::try_from(month).ok()),
        _ => walk.choice(value, &MONTHS),
    }
}

/// A rule that the library made, or its error as a mistake.
fn made(
    walk: &mut Walk,
    place: Range<usize>,
    rule: Result<Occurrence, mild_ledger::Error>,
) -> Option<Occurrence> {
    match rule {
        Ok(rule) => Some(rule),
        Err(error) => {
            walk.mistakes.tell(place, error.what(), error.allowed());
            None
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use std::collections::BTreeSet;

    /// The schema that is published, and the keys that a calendar file may hold, cannot drift apart.
    #[test]
    fn the_schema_of_calendar_files_has_the_keys_that_they_may_hold() {
        let schema: serde_json::Value =
            serde_json::from_str(include_str!("../../../../docs/schemas/calendar-file.schema.json")).unwrap();
        for (keys, part) in [
            (&TOP, &schema),
            (&HOLIDAY, &schema["properties"]["holiday"]["items"]),
            (&HOURS, &schema["properties"]["hours"]),
            (&WORKING, &schema["properties"]["working"]["items"]),
        ] {
            let published: BTreeSet<&str> =
                part["properties"].as_object().unwrap().keys().map(String::as_str).collect();
            assert_eq!(published, keys.known.iter().copied().collect(), "{}", keys.part);
        }
    }
}
