//! The calendar file: TOML, its mistakes shown by their places.

use super::holidays::{read_dates, read_holiday, read_year, read_years_kept};
use super::parts::{CalendarParts, OTHER_REST_DAYS, RestDaysStated, why_not_with};
use crate::error::RecordsError;
use crate::mistakes::{Keys, Value, Walk, read_date};
use mild_ledger::{
    CalendarBuilder, CalendarYears, Date, OpenSpan, OpeningHours, RestDays, Weekday, WorkCalendar,
};
use std::ops::Range;
use std::path::Path;
use toml::de::DeTable;

const TOP: Keys<'static> = Keys {
    part: "the calendar",
    known: &[
        "calendar",
        "name",
        "extends",
        "covers",
        "proclaimed_to",
        "rest_days",
        "rest_days_from",
        "hours",
        "holiday",
        "dropped",
        "moved",
        "working",
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

const DROPPED: Keys<'static> =
    Keys { part: "[[dropped]]", known: &["name", "since", "until", "except", "only"], later: &[] };
const MOVED: Keys<'static> = Keys { part: "[[moved]]", known: &["name", "to", "year"], later: &[] };
const REST_DAYS_FROM: Keys<'static> =
    Keys { part: "[[rest_days_from]]", known: &["date", "rest_days"], later: &[] };

/// Reads a calendar; every mistake found is in the error. `open` opens the one that it builds on.
pub(super) fn read(
    path: &Path,
    source: &str,
    open: impl FnOnce(&str) -> Result<CalendarParts, RecordsError>,
) -> Result<CalendarParts, RecordsError> {
    let mut base_is_broken = None;
    let parts = Walk::default().read(path, source, |walk, tree| {
        let base = match read_base(walk, tree, open)? {
            Ok(base) => base,
            Err(error) => {
                base_is_broken = Some(error);
                return None;
            }
        };
        read_calendar(walk, tree, source.len(), base)
    });
    match base_is_broken {
        Some(error) => Err(error),
        None => parts.map_err(RecordsError::Calendar),
    }
}

/// The calendar that `extends` names, if it does. What is wrong with the name is a mistake here, what is wrong in its file an error of that.
fn read_base(
    walk: &mut Walk,
    top: &DeTable<'_>,
    open: impl FnOnce(&str) -> Result<CalendarParts, RecordsError>,
) -> Option<Result<Option<CalendarParts>, RecordsError>> {
    let Some(value) = top.get("extends") else { return Some(Ok(None)) };
    let named = walk.text(value, "a calendar that ships, or a file next to this one")?;
    match open(&named.value) {
        Ok(base) => Some(Ok(Some(base))),
        Err(RecordsError::Request { what, help }) => {
            walk.mistakes.tell(named.span, what, help);
            None
        }
        Err(error) => Some(Err(error)),
    }
}

fn read_calendar(
    walk: &mut Walk,
    top: &DeTable<'_>,
    end: usize,
    base: Option<CalendarParts>,
) -> Option<CalendarParts> {
    walk.check_keys(top, &TOP);
    let place = 0..end.min(1);
    if let Some(version) =
        walk.needed(top, "calendar", place.clone(), "calendar = 1, the version of the format")
    {
        walk.whole_number(version, 1..=1);
    }
    let name =
        walk.needed(top, "name", place.clone(), "name = \"…\"").and_then(|value| walk.text(value, "a name"));
    let covers = read_coverage(walk, top, place, base.as_ref());
    let rest_days = top.get("rest_days").and_then(|value| read_rest_days(walk, value));
    // What is missing was reported: the rest is read on for its own mistakes.
    let name = name.map(|name| name.value).unwrap_or_default();
    let covers = covers.unwrap_or(CalendarYears::of(1, 9_999));
    let (mut builder, inherited) = match base {
        Some(base) => (base.builder.clone().extended(name, covers), Some(base)),
        None => (WorkCalendar::builder(name, covers), None),
    };
    // A list of dates says nothing of rest days: what builds on it has those that most have, unless it states its own.
    let has_inherited = inherited.as_ref().is_some_and(|base| base.rest_days == RestDaysStated::Stated);
    let rest_days = rest_days.or((!has_inherited).then(RestDays::default));
    let shipped = inherited.as_ref().and_then(|base| base.shipped);
    if let (Some(shipped), Some(stated), Some(value)) = (shipped, rest_days, top.get("rest_days"))
        && let Some(why) = why_not_with(shipped, stated)
    {
        walk.mistakes.tell(value.span(), why, OTHER_REST_DAYS);
        return None;
    }
    if let Some(rest_days) = rest_days {
        builder = builder.rest_days(rest_days);
    }
    let mut rest_days_met = Vec::from_iter(rest_days);
    for (table, span) in walk.tables(top, "rest_days_from") {
        walk.check_keys(table, &REST_DAYS_FROM);
        let date = walk.needed(table, "date", span.clone(), "date = 2013-06-29");
        let date = date.and_then(|value| read_date(walk, value, "a date such as 2013-06-29"));
        let days = walk.needed(table, "rest_days", span, "rest_days = [\"friday\", \"saturday\"]");
        let days = days.and_then(|value| read_rest_days(walk, value));
        if let (Some(date), Some(days)) = (date, days) {
            builder = builder.rest_days_from(date, days);
            rest_days_met.push(days);
        }
    }
    if let Some(year) = top.get("proclaimed_to").and_then(|value| read_year(walk, value)) {
        builder = builder.proclaimed_to(year);
    }
    builder = read_changes(walk, top, builder);
    let mut named_dates = Vec::new();
    for (table, span) in walk.tables(top, "holiday") {
        if let Some(rule) = read_holiday(walk, table, span) {
            named_dates.extend(rule.occurrences().iter().filter_map(|way| way.only_date()));
            builder = builder.holidays([rule]);
        }
    }
    let mut working = Vec::new();
    for (table, span) in walk.tables(top, "working") {
        walk.check_keys(table, &WORKING);
        let date = walk.needed(table, "date", span, "date = 2026-12-05");
        working.extend(date.and_then(|value| read_dates(walk, value)).into_iter().flatten());
    }
    let hours = match top.get("hours") {
        Some(value) => Some(read_hours(walk, value, &rest_days_met, &working)?),
        None => inherited.as_ref().and_then(|base| base.hours.clone()),
    };
    let (repeated, files) = inherited.map_or_else(Default::default, |base| (base.repeated, base.files));
    Some(CalendarParts {
        builder: builder.working_days(working.iter().copied()),
        rest_days: RestDaysStated::Stated,
        shipped,
        covers: Some(covers),
        hours,
        named_dates: named_dates.into_iter().chain(working).collect(),
        repeated,
        files,
    })
}

/// The years that are covered: those stated, which may be no more than those of the calendar that it builds on.
fn read_coverage(
    walk: &mut Walk,
    top: &DeTable<'_>,
    place: Range<usize>,
    base: Option<&CalendarParts>,
) -> Option<CalendarYears> {
    let of_base = base.and_then(|base| base.covers);
    let Some(value) = top.get("covers") else {
        if of_base.is_none() {
            walk.needed(
                top,
                "covers",
                place,
                "covers = \"2025 to 2027\", the years it knows of, both included",
            );
        }
        return of_base;
    };
    let covers = read_years(walk, value)?;
    match (of_base.filter(|of_base| !of_base.contains(covers)), base) {
        (Some(of_base), Some(base)) => {
            let what =
                format!("the years {covers} are claimed, and \"{}\" covers {of_base}", base.builder.name());
            walk.mistakes.tell(value.span(), what, "no more years than the calendar that this one builds on");
            None
        }
        _ => Some(covers),
    }
}

/// What becomes of the holidays of the calendar that this one builds on: `[[dropped]]` and `[[moved]]`.
fn read_changes(walk: &mut Walk, top: &DeTable<'_>, mut builder: CalendarBuilder) -> CalendarBuilder {
    for (table, span) in walk.tables(top, "dropped") {
        walk.check_keys(table, &DROPPED);
        let name = walk.needed(table, "name", span, "name = \"…\", of a holiday that it builds on");
        let name = name.and_then(|value| walk.text(value, "a holiday's name"));
        if let (Some(name), Some(years)) = (name, read_years_kept(walk, table)) {
            builder = changed(walk, name.span, builder, |builder| builder.without(&name.value, &years));
        }
    }
    for (table, span) in walk.tables(top, "moved") {
        walk.check_keys(table, &MOVED);
        let name = walk.needed(table, "name", span.clone(), "name = \"…\", of a holiday that it builds on");
        let name = name.and_then(|value| walk.text(value, "a holiday's name"));
        let to = walk.needed(table, "to", span, "to = 2020-05-08");
        let to = to.and_then(|value| read_date(walk, value, "a date such as 2020-05-08"));
        let year = match table.get("year") {
            Some(value) => read_year(walk, value),
            None => to.map(Date::year),
        };
        if let (Some(name), Some(to), Some(year)) = (name, to, year) {
            builder = changed(walk, name.span, builder, |builder| builder.moving(&name.value, year, to));
        }
    }
    builder
}

/// A calendar changed; as it was where that is a mistake.
fn changed(
    walk: &mut Walk,
    span: Range<usize>,
    builder: CalendarBuilder,
    change: impl FnOnce(CalendarBuilder) -> Result<CalendarBuilder, mild_ledger::Error>,
) -> CalendarBuilder {
    match change(builder.clone()) {
        Ok(changed) => changed,
        Err(error) => {
            walk.mistakes.tell(span, error.what(), error.allowed());
            builder
        }
    }
}

/// `[hours]`: opening hours by weekday, for each day that is worked.
fn read_hours(
    walk: &mut Walk,
    value: &Value<'_>,
    rest_days: &[RestDays],
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
    let by_week = Weekday::ALL
        .into_iter()
        .find(|day| rest_days.iter().any(|rest| !rest.contains(*day)) && is_closed(*day));
    let declared = working.iter().find(|date| is_closed(date.weekday()));
    let without = by_week.map(|day| format!("{day}, which is not a rest day,"));
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

#[cfg(test)]
mod tests {
    use super::super::holidays::HOLIDAY;
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
            (&DROPPED, &schema["properties"]["dropped"]["items"]),
            (&MOVED, &schema["properties"]["moved"]["items"]),
            (&REST_DAYS_FROM, &schema["properties"]["rest_days_from"]["items"]),
            (&HOURS, &schema["properties"]["hours"]),
            (&WORKING, &schema["properties"]["working"]["items"]),
        ] {
            let published: BTreeSet<&str> =
                part["properties"].as_object().unwrap().keys().map(String::as_str).collect();
            assert_eq!(published, keys.known.iter().copied().collect(), "{}", keys.part);
        }
    }
}
