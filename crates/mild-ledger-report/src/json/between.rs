//! The objects of `mild between --json`.

use super::{Exact, OneOrMany, Why, exact, to_text, working};
use crate::facts::{CountByCalendar, UnitParts, UnitRow};
use crate::{Between as BetweenFacts, BetweenTimes as BetweenTimesFacts, Split};
use mild_ledger::{Ends, Rounding, Unit};
use serde::Serialize;
use std::collections::BTreeMap;

/// The object of `mild between --json`, in one line. Where only days have a meaning under the ends asked for, the
/// other figures are null.
///
/// ```
/// use mild_ledger::{Ends, Interval};
/// use mild_ledger_report::{Between, Detail};
/// let interval = Interval::between("2026-01-31".parse()?, "2026-02-28".parse()?);
/// let text = mild_ledger_report::json::between(&Between::of(interval, Ends::Last, Detail::FiguresOnly));
/// assert!(text.starts_with("{\"start\":\"2026-01-31\",\"end\":\"2026-02-28\",\"days\":28,"));
/// # Ok::<(), mild_ledger::Error>(())
/// ```
#[must_use]
pub fn between(found: &BetweenFacts) -> String {
    let figures = found.figures.as_ref();
    to_text(&Between {
        start: found.start.to_string(),
        end: found.end.to_string(),
        days: found.days.value(),
        complete: figures.map(|figures| complete(&figures.units)),
        starts_passed: figures.map(|figures| starts_passed(&figures.units)),
        fractional: figures.map(|figures| fractional(&figures.units)),
        calendar_months: figures.map(|figures| exact(figures.calendar_months)),
        day_count: figures.map(|figures| {
            let by_word =
                |(convention, fraction): &(mild_ledger::DayCount, _)| (convention.word(), exact(*fraction));
            figures.day_counts.iter().map(by_word).collect()
        }),
        parts: figures.map(|figures| parts(figures.parts)),
        sentence: figures.map_or_else(|| found.days.to_string(), |figures| figures.parts.to_string()),
        ends: found.ends.word(),
        month_end: found.month_end.word(),
        weeks_begin: found.weeks_begin.word(),
        split: found.splits.iter().find(|split| split.calendar.is_none()).map(shares),
        working_days_split: found
            .splits
            .iter()
            .filter_map(|split| {
                Some(SplitByCalendar { calendar: split.calendar.clone()?, shares: shares(split) })
            })
            .collect(),
        why: found.workings.as_ref().map(|all| all.iter().map(working).collect()),
        working_days: OneOrMany::of(found.working_days.counts.iter().map(counted)),
    })
}

/// The object of `mild between --json` for date-times, in one line: whole `hours`, `minutes` and `seconds` elapsed,
/// what they are hours of, and the units of the calendar.
#[must_use]
pub fn between_times(found: &BetweenTimesFacts) -> String {
    let [hours, minutes, seconds, days] = &found.clock;
    to_text(&BetweenTimes {
        start: found.start.to_string(),
        end: found.end.to_string(),
        hours: hours.complete,
        minutes: minutes.complete,
        seconds: seconds.complete,
        microseconds: found.microseconds,
        hours_of: found.hours_of.to_string(),
        days: found.days,
        days_of_24_hours: days.complete,
        midnights_passed: found.midnights_passed,
        complete: complete(&found.units),
        starts_passed: starts_passed(&found.units),
        fractional: ClockFractional {
            hours: exact(hours.fractional),
            minutes: exact(minutes.fractional),
            seconds: exact(seconds.fractional),
            days: exact(days.fractional),
            dates: fractional(&found.units),
        },
        parts: parts(found.parts),
        sentence: found.sentence.clone(),
        ends: Ends::Last.word(),
        month_end: found.month_end.word(),
        weeks_begin: found.weeks_begin.word(),
        working_hours: found
            .working_hours
            .iter()
            .map(|by| WorkingHours {
                calendar: by.calendar.clone(),
                open: by.open.clone(),
                hours: by
                    .time
                    .hours()
                    .to_decimal(4, Rounding::Nearest)
                    .map_or_else(|_| String::new(), |hours| hours.to_string()),
                microseconds: by.time.microseconds(),
                by_rule: by.by_rule.map(|years| [years.first(), years.last()]),
                why: by.working.as_ref().map(working),
            })
            .collect(),
        why: found.workings.as_ref().map(|all| all.iter().flatten().map(working).collect()),
    })
}

fn complete(rows: &[UnitRow]) -> Units {
    units(rows, |row| row.complete)
}

fn starts_passed(rows: &[UnitRow]) -> Units {
    units(rows, |row| row.parts.map_or(row.complete, |parts| parts.starts_passed))
}

fn row_of(rows: &[UnitRow], unit: Unit) -> Option<&UnitRow> {
    rows.iter().find(|row| row.unit == unit)
}

fn units(rows: &[UnitRow], figure: fn(&UnitRow) -> i64) -> Units {
    let of = |unit| row_of(rows, unit).map_or(0, figure);
    Units {
        weeks: of(Unit::Week),
        months: of(Unit::Month),
        quarters: of(Unit::Quarter),
        half_years: of(Unit::HalfYear),
        years: of(Unit::Year),
    }
}

fn fractional(rows: &[UnitRow]) -> Fractional {
    let of = |unit| {
        let parts: Option<UnitParts> = row_of(rows, unit).and_then(|row| row.parts);
        parts.map(|parts| exact(parts.fractional))
    };
    Fractional {
        weeks: of(Unit::Week),
        months: of(Unit::Month),
        quarters: of(Unit::Quarter),
        half_years: of(Unit::HalfYear),
        years: of(Unit::Year),
    }
}

fn parts(parts: mild_ledger::Parts) -> Parts {
    Parts { years: parts.years(), months: parts.months(), days: parts.days() }
}

fn shares(split: &Split) -> Vec<Share> {
    let day = |date: Result<mild_ledger::Date, mild_ledger::Error>| date.ok().map(|date| date.to_string());
    let share = |share: &mild_ledger::Share| Share {
        period: share.period().label(),
        first: day(share.period().first_day()),
        last: day(share.period().last_day()),
        days: share.days(),
    };
    split.shares.iter().map(share).collect()
}

fn counted(by: &CountByCalendar) -> CountedWorkingDays {
    CountedWorkingDays {
        calendar: by.calendar.clone(),
        ends: by.ends.word(),
        count: by.days.count(),
        days: by.days.days(),
        rest_days: by.days.rest_days(),
        holidays: by.days.holidays(),
        holidays_on_rest_days: by.days.holidays_on_rest_days(),
        half_days: (by.days.half_days() > 0)
            .then(|| HalfDaysCounted { days: by.days.half_days(), counted: by.days.amount().to_string() }),
        by_rule: by.by_rule.map(|years| [years.first(), years.last()]),
        sum: by.days.to_string(),
    }
}

#[derive(Serialize)]
struct Between {
    start: String,
    end: String,
    days: i64,
    complete: Option<Units>,
    starts_passed: Option<Units>,
    fractional: Option<Fractional>,
    calendar_months: Option<Exact>,
    day_count: Option<BTreeMap<&'static str, Exact>>,
    parts: Option<Parts>,
    sentence: String,
    ends: &'static str,
    month_end: &'static str,
    weeks_begin: &'static str,
    #[serde(skip_serializing_if = "Option::is_none")]
    split: Option<Vec<Share>>,
    #[serde(skip_serializing_if = "Vec::is_empty")]
    working_days_split: Vec<SplitByCalendar>,
    #[serde(skip_serializing_if = "Option::is_none")]
    why: Option<Vec<Why>>,
    #[serde(skip_serializing_if = "Option::is_none")]
    working_days: Option<OneOrMany<CountedWorkingDays>>,
}

/// The days of an interval in one period.
#[derive(Serialize)]
struct Share {
    period: String,
    first: Option<String>,
    last: Option<String>,
    days: i64,
}

/// Half days among those counted, and what all of them count as.
#[derive(Serialize)]
struct HalfDaysCounted {
    days: i64,
    counted: String,
}

#[derive(Serialize)]
struct CountedWorkingDays {
    calendar: String,
    ends: &'static str,
    count: i64,
    days: i64,
    rest_days: i64,
    holidays: i64,
    holidays_on_rest_days: i64,
    #[serde(skip_serializing_if = "Option::is_none")]
    half_days: Option<HalfDaysCounted>,
    #[serde(skip_serializing_if = "Option::is_none")]
    by_rule: Option<[i32; 2]>,
    sum: String,
}

#[derive(Serialize)]
struct SplitByCalendar {
    calendar: String,
    shares: Vec<Share>,
}

#[derive(Serialize)]
struct BetweenTimes {
    start: String,
    end: String,
    hours: i64,
    minutes: i64,
    seconds: i64,
    microseconds: i64,
    hours_of: String,
    days: i64,
    days_of_24_hours: i64,
    midnights_passed: i64,
    complete: Units,
    starts_passed: Units,
    fractional: ClockFractional,
    parts: Parts,
    sentence: String,
    ends: &'static str,
    month_end: &'static str,
    weeks_begin: &'static str,
    #[serde(skip_serializing_if = "Vec::is_empty")]
    working_hours: Vec<WorkingHours>,
    #[serde(skip_serializing_if = "Option::is_none")]
    why: Option<Vec<Why>>,
}

#[derive(Serialize)]
struct WorkingHours {
    calendar: String,
    open: String,
    hours: String,
    microseconds: i64,
    #[serde(skip_serializing_if = "Option::is_none")]
    by_rule: Option<[i32; 2]>,
    #[serde(skip_serializing_if = "Option::is_none")]
    why: Option<Why>,
}

#[derive(Serialize)]
struct ClockFractional {
    hours: Exact,
    minutes: Exact,
    seconds: Exact,
    days: Exact,
    #[serde(flatten)]
    dates: Fractional,
}

#[derive(Serialize)]
struct Fractional {
    weeks: Option<Exact>,
    months: Option<Exact>,
    quarters: Option<Exact>,
    half_years: Option<Exact>,
    years: Option<Exact>,
}

#[derive(Serialize)]
struct Units {
    weeks: i64,
    months: i64,
    quarters: i64,
    half_years: i64,
    years: i64,
}

#[derive(Serialize)]
struct Parts {
    years: i32,
    months: i32,
    days: i32,
}
