//! A `[[holiday]]` of a calendar file: its rule, and the mistakes in it.

use crate::mistakes::{Keys, Value, Walk, read_date};
use mild_ledger::{
    Church, CommonYears, Date, HolidayLength, HolidayMove, HolidayRule, KeptYears, Occurrence,
    SubstituteCloses, Weekday, WeekdayMove, WeekdaySide,
};
use std::ops::Range;
use toml::de::{DeTable, DeValue};

pub(super) const HOLIDAY: Keys<'static> = Keys {
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
        "between",
        "moved",
        "closes",
        "length",
        "source",
        "since",
        "until",
        "except",
        "only",
    ],
    later: &[],
};

const EASTER: Keys<'static> = Keys { part: "easter", known: &["days", "church"], later: &[] };
const DAY: Keys<'static> = Keys { part: "a day of the year", known: &["day", "month"], later: &[] };

/// One of the ways to say when a holiday occurs, and the keys that go with it.
const KINDS: [(&str, &[&str]); 5] = [
    ("date", &[]),
    ("easter", &[]),
    ("weekday", &["which", "month", "on_or_after", "after", "on_or_before", "before"]),
    ("day", &["month", "common_years"]),
    ("between", &[]),
];

/// A holiday, with the dates that it names one by one.
pub(super) fn read_holiday(walk: &mut Walk, table: &DeTable<'_>, span: Range<usize>) -> Option<HolidayRule> {
    walk.check_keys(table, &HOLIDAY);
    let name =
        walk.needed(table, "name", span.clone(), "name = \"…\"").and_then(|value| walk.text(value, "a name"));
    let stated: Vec<_> = KINDS.iter().filter(|(word, _)| table.contains_key(*word)).collect();
    let [(kind, companions)] = stated.as_slice() else {
        let (what, place) = match stated.get(1).and_then(|(word, _)| table.get_key_value(*word)) {
            Some((key, _)) => ("the holiday occurs in two ways at once", key.span()),
            None => ("the holiday does not say when it occurs", span),
        };
        walk.mistakes.tell(place, what, "date, day and month, weekday, easter, or between");
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
    let occurrences = match *kind {
        "date" => read_dates(walk, table.get("date")?)?.into_iter().map(Occurrence::on_date).collect(),
        "easter" => vec![read_easter(walk, table.get("easter")?)?],
        "weekday" => vec![read_weekday(walk, table, span)?],
        "between" => {
            walk.choice(table.get("between")?, &[("two holidays", ())])?;
            vec![Occurrence::between_holidays()]
        }
        _ => vec![read_day(walk, table, span)?],
    };
    let mut rule = HolidayRule::on_all(name?.value, occurrences).with_years(read_years_kept(walk, table)?);
    if let Some(value) = table.get("moved") {
        rule = read_moved(walk, value, rule)?;
    }
    if let Some(value) = table.get("closes") {
        rule = rule.with_closes(walk.choice_of(value, &SubstituteCloses::ALL, SubstituteCloses::word)?);
    }
    if let Some(value) = table.get("length") {
        rule = rule.with_length(walk.choice_of(value, &HolidayLength::ALL, HolidayLength::word)?);
    }
    if let Some(value) = table.get("source") {
        rule = rule.with_source(walk.text(value, "the law or order that it rests on")?.value);
    }
    Some(rule)
}

/// A date, or a list of them.
pub(super) fn read_dates(walk: &mut Walk, value: &Value<'_>) -> Option<Vec<Date>> {
    walk.items_or_one(value).iter().map(|item| read_date(walk, item, "a date such as 2026-07-03")).collect()
}

/// `since`, `until`, `except` and `only` of a table.
pub(super) fn read_years_kept(walk: &mut Walk, table: &DeTable<'_>) -> Option<KeptYears> {
    let mut years = KeptYears::default();
    if let Some(value) = table.get("since") {
        years = years.since(read_year(walk, value)?);
    }
    if let Some(value) = table.get("until") {
        years = years.until(read_year(walk, value)?);
    }
    if let Some(value) = table.get("except") {
        years = years.except(read_year_list(walk, value)?);
    }
    if let Some(value) = table.get("only") {
        years = years.only(read_year_list(walk, value)?);
    }
    Some(years)
}

const MOVED: Keys<'static> = Keys {
    part: "moved",
    known: &["monday", "tuesday", "wednesday", "thursday", "friday", "saturday", "sunday", "then"],
    later: &[],
};

/// A word for what it does on rest days, or a table of what it does on weekdays, then perhaps on rest days.
fn read_moved(walk: &mut Walk, value: &Value<'_>, rule: HolidayRule) -> Option<HolidayRule> {
    if !matches!(value.get_ref(), DeValue::Table(_)) {
        return Some(rule.with_moved(walk.choice_of(value, HolidayMove::ALL, HolidayMove::word)?));
    }
    let table =
        walk.table(value, "a table such as { saturday = \"friday before\", sunday = \"monday after\" }")?;
    walk.check_keys(table, &MOVED);
    let mut rule = rule;
    for weekday in Weekday::ALL {
        if let Some(value) = table.get(weekday.word()) {
            rule = rule.with_moved_on(weekday, read_side_of_weekday(walk, value)?);
        }
    }
    match table.get("then") {
        Some(value) => Some(rule.with_moved(walk.choice_of(value, HolidayMove::ALL, HolidayMove::word)?)),
        None => Some(rule),
    }
}

/// `"friday before"` or `"monday after"`.
fn read_side_of_weekday(walk: &mut Walk, value: &Value<'_>) -> Option<WeekdayMove> {
    const EXPECTED: &str = "a weekday with its side, such as \"friday before\" or \"monday after\"";
    let text = walk.text(value, EXPECTED)?;
    let found = text.value.split_once(' ').and_then(|(day, side)| {
        let day: Weekday = day.parse().ok()?;
        match side {
            "before" => Some(WeekdayMove::Before(day)),
            "after" => Some(WeekdayMove::After(day)),
            _ => None,
        }
    });
    if found.is_none() {
        walk.mistakes.tell(text.span, format!("\"{}\" names no weekday and side", text.value), EXPECTED);
    }
    found
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

pub(super) fn read_year(walk: &mut Walk, value: &Value<'_>) -> Option<i32> {
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
