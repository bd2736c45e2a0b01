//! The objects that commands print with `--json`: amounts and dates as texts, so that nothing is rounded.

use crate::figures::{clock_workings, decimal, workings};
use crate::shown::is_hidden;
use crate::{Detail, Moved, Split, Surroundings, WorkYears};
use mild_ledger::{
    ClockInterval, ClockMeasure, ClockUnit, DayCount, Ends, Fraction, Interval, PeriodRule, Unit,
    WeekNumbers, WorkCalendar,
};
use mild_ledger_records::{
    AgingGroup, AgingReport, AmountProof, ProofLine, ProofPart, ProofValue, ReportCell, ReportFigures,
    ReportTable, RunFile, RunOutcome,
};
use serde::Serialize;
use std::collections::BTreeMap;

/// The object of `mild between --json`, in one line. Where only days have a meaning under the ends asked for, the
/// other figures are null.
///
/// ```
/// use mild_ledger::{Ends, Interval};
/// use mild_ledger_report::Detail;
/// let interval = Interval::between("2026-01-31".parse()?, "2026-02-28".parse()?);
/// let text = mild_ledger_report::json::between(interval, Ends::Last, &[], Detail::FiguresOnly);
/// assert!(text.starts_with("{\"start\":\"2026-01-31\",\"end\":\"2026-02-28\",\"days\":28,"));
/// # Ok::<(), mild_ledger::Error>(())
/// ```
#[must_use]
pub fn between(interval: Interval, ends: Ends, splits: &[Split], detail: Detail) -> String {
    let days_only = matches!(ends, Ends::First | Ends::Neither);
    let parts = interval.parts();
    let why = match detail {
        Detail::FiguresOnly => None,
        Detail::WithWorking => Some(workings(interval).iter().map(working).collect()),
    };
    to_text(&Between {
        start: interval.start().to_string(),
        end: interval.end().to_string(),
        days: interval.days_counting(ends).value(),
        complete: (!days_only).then(|| units(interval, Interval::complete)),
        starts_passed: (!days_only).then(|| units(interval, Interval::starts_passed)),
        split: splits.iter().find(|split| split.calendar.is_none()).map(shares),
        working_days_split: splits
            .iter()
            .filter_map(|split| {
                Some(SplitByCalendar { calendar: split.calendar.clone()?, shares: shares(split) })
            })
            .collect(),
        calendar_months: (!days_only).then(|| exact(interval.calendar_months())),
        fractional: (!days_only).then(|| fractional(interval)),
        day_count: (!days_only).then(|| {
            DayCount::ALL
                .iter()
                .copied()
                .map(|convention| (convention.word(), exact(interval.year_fraction(convention))))
                .collect()
        }),
        parts: (!days_only).then(|| Parts {
            years: parts.years(),
            months: parts.months(),
            days: parts.days(),
        }),
        sentence: if days_only { interval.days_counting(ends).to_string() } else { parts.to_string() },
        ends: ends.word(),
        month_end: interval.month_end().word(),
        week_starts: interval.week_start().word(),
        why,
    })
}

/// The object of `mild between --json` for date-times, in one line: whole `hours`, `minutes` and `seconds` gone by,
/// what they are hours of, and the units of the calendar.
#[must_use]
pub fn between_times(interval: ClockInterval, detail: Detail) -> String {
    let whole = |measure| interval.figure(measure).whole();
    let dates = interval.dates();
    let parts = dates.parts();
    let by_clock = |unit| exact(interval.figure(ClockMeasure::Fractional(unit)));
    to_text(&BetweenTimes {
        start: interval.start().to_string(),
        end: interval.end().to_string(),
        hours: whole(ClockMeasure::Complete(ClockUnit::Hour)),
        minutes: whole(ClockMeasure::Complete(ClockUnit::Minute)),
        seconds: whole(ClockMeasure::Complete(ClockUnit::Second)),
        microseconds: interval.microseconds(),
        hours_of: interval.hours_of().to_string(),
        days: dates.days().value(),
        days_of_24_hours: whole(ClockMeasure::DaysOf24Hours),
        midnights_passed: whole(ClockMeasure::MidnightsPassed),
        complete: units(dates, Interval::complete),
        starts_passed: units(dates, Interval::starts_passed),
        fractional: ClockFractional {
            hours: by_clock(ClockUnit::Hour),
            minutes: by_clock(ClockUnit::Minute),
            seconds: by_clock(ClockUnit::Second),
            days: exact(interval.figure(ClockMeasure::FractionalDays)),
            dates: fractional(dates),
        },
        parts: Parts { years: parts.years(), months: parts.months(), days: parts.days() },
        sentence: interval.sentence(),
        ends: Ends::Last.word(),
        month_end: dates.month_end().word(),
        week_starts: dates.week_start().word(),
        why: match detail {
            Detail::FiguresOnly => None,
            Detail::WithWorking => {
                Some(clock_workings(interval).iter().chain(&workings(dates)).map(working).collect())
            }
        },
    })
}

fn units(interval: Interval, count: fn(Interval, Unit) -> mild_ledger::Count) -> Units {
    Units {
        weeks: count(interval, Unit::Week).value(),
        months: count(interval, Unit::Month).value(),
        quarters: count(interval, Unit::Quarter).value(),
        half_years: count(interval, Unit::HalfYear).value(),
        years: count(interval, Unit::Year).value(),
    }
}

fn fractional(interval: Interval) -> Fractional {
    Fractional {
        weeks: exact(interval.fractional(Unit::Week)),
        months: exact(interval.fractional(Unit::Month)),
        quarters: exact(interval.fractional(Unit::Quarter)),
        half_years: exact(interval.fractional(Unit::HalfYear)),
        years: exact(interval.fractional(Unit::Year)),
    }
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

/// What `mild between --json` adds for a calendar: `working_days`, one object, or a list of them for several.
///
/// # Errors
/// Where a calendar does not cover the interval.
pub fn with_working_days(
    object: &str,
    interval: Interval,
    ends: Ends,
    calendars: &[WorkCalendar],
) -> Result<String, mild_ledger::Error> {
    let counts = calendars
        .iter()
        .map(|calendar| {
            let found = calendar.working_days(interval, ends)?;
            Ok(CountedWorkingDays {
                calendar: calendar.name().to_owned(),
                ends: ends.word(),
                count: found.count(),
                days: found.days(),
                rest_days: found.rest_days(),
                holidays: found.holidays(),
                holidays_on_rest_days: found.holidays_on_rest_days(),
                sum: found.to_string(),
            })
        })
        .collect::<Result<Vec<_>, mild_ledger::Error>>()?;
    Ok(with_key(object, "working_days", &counts))
}

/// What `mild around --json` adds for a calendar: `working_day`, one object, or a list of them for several.
///
/// # Errors
/// Where a calendar does not cover the date.
pub fn with_days_of_calendars(
    object: &str,
    date: mild_ledger::Date,
    calendars: &[WorkCalendar],
) -> Result<String, mild_ledger::Error> {
    let days = calendars
        .iter()
        .map(|calendar| {
            let number = calendar.number_in_month(date)?;
            Ok(DayOfCalendar {
                calendar: calendar.name().to_owned(),
                kind: calendar.kind_of(date)?.word(),
                holidays: calendar
                    .holidays_on(date)
                    .iter()
                    .map(|holiday| holiday.name().to_owned())
                    .collect(),
                number_in_month: number.map(|number| number.from_start()),
                number_from_month_end: number.map(|number| number.from_end()),
            })
        })
        .collect::<Result<Vec<_>, mild_ledger::Error>>()?;
    Ok(with_key(object, "working_day", &days))
}

/// An object, which has other keys, with one more: a value, or a list of several; none for none.
fn with_key(object: &str, key: &str, values: &[impl Serialize]) -> String {
    let added = match values {
        [] => return object.to_owned(),
        [one] => to_text(one),
        all => to_text(&all),
    };
    let open = object.strip_suffix('}').unwrap_or(object);
    format!("{open},\"{key}\":{added}}}")
}

/// The object of `mild calendar NAME YEAR --json`, in one line.
#[must_use]
pub fn calendar(found: &WorkYears) -> String {
    let mut holidays: Vec<ClosedDay> = Vec::new();
    for holiday in &found.holidays {
        // A day is closed once, whatever falls on it.
        match holidays.last_mut().filter(|day| day.date == holiday.date().to_string()) {
            Some(day) => {
                day.name = format!("{} / {}", day.name, holiday.name());
                day.moved_from = day.moved_from.take().or(holiday.moved_from().map(|from| from.to_string()));
            }
            None => holidays.push(ClosedDay {
                date: holiday.date().to_string(),
                weekday: holiday.date().weekday().word(),
                name: holiday.name().to_owned(),
                moved_from: holiday.moved_from().map(|from| from.to_string()),
            }),
        }
    }
    to_text(&Calendar {
        calendar: found.calendar.name(),
        covers: found.covers.map(|years| [years.first(), years.last()]),
        rest_days: found.calendar.rest_days().days().map(mild_ledger::Weekday::word).collect(),
        months: found
            .months
            .iter()
            .map(|month| CalendarMonth {
                month: month.period.label(),
                days: month.days.days(),
                working_days: month.days.count(),
                rest_days: month.days.rest_days(),
                holidays: month.days.holidays(),
                holidays_on_rest_days: month.days.holidays_on_rest_days(),
                target: month.target.map(|target| target.to_string()),
                rate: found.rate.map(|rate| {
                    let text = |amount: Option<mild_ledger::Decimal>| amount.map(|amount| amount.to_string());
                    let of = rate.of(std::slice::from_ref(month));
                    MonthRate {
                        a_day: text(of.a_day),
                        at_the_rate: text(of.at_the_rate),
                        over: text(of.over),
                    }
                }),
            })
            .collect(),
        holidays,
        working_days: found.total.count(),
        target: found.rate.map(|rate| CalendarTarget {
            total: rate.total.to_string(),
            rate_a_day: rate.a_day.to_string(),
            rounding: rate.rounding.word(),
            overshoots_by: rate.over.to_string(),
        }),
    })
}

/// The object of `mild calendar --json`: the calendars that ship.
#[must_use]
pub fn shipped_calendars() -> String {
    let calendars = mild_ledger_calendars::SHIPPED
        .iter()
        .map(|shipped| ShippedCalendar {
            name: shipped.name(),
            title: shipped.title(),
            law: shipped.law(),
            covers: [shipped.covers().first(), shipped.covers().last()],
        })
        .collect();
    to_text(&ShippedCalendars { calendars })
}

/// The object of `mild shift --json`, in one line: `date`, or `dates` for a series, with the rule and the steps.
#[must_use]
pub fn shift(moved: &Moved) -> String {
    let dates: Vec<String> = moved.dates.iter().map(|occurrence| occurrence.date.to_string()).collect();
    to_text(&Shifted {
        start: moved.start.to_string(),
        date: dates.first().filter(|_| !moved.series).cloned(),
        steps: moved
            .dates
            .iter()
            .flat_map(|occurrence| occurrence.working.steps())
            .map(|step| step.said().to_owned())
            .collect(),
        dates: moved.series.then_some(dates),
        rule: moved.rule(),
        calendar: moved.calendar.as_ref().map(WorkCalendar::name),
    })
}

/// The object of `mild around --json`, in one line: a key for each period, and the date's own fields.
#[must_use]
pub fn around(found: &Surroundings) -> String {
    let date = found.date;
    let text = |date: Option<mild_ledger::Date>| date.map(|date| date.to_string());
    to_text(&Around {
        date: date.to_string(),
        away: found.away,
        weekday: date.weekday().word(),
        iso_week: WeekNumbers::iso().of(date).to_string(),
        week: Numbered { number: found.week.to_string(), rule: found.week_numbers.to_string() },
        weekday_number: Numbered {
            number: found.weekday_number.to_string(),
            rule: found.weekday_numbers.to_string(),
        },
        day_of_year: PeriodRule::Year.containing(date).position_of(date).unwrap_or_default(),
        periods: found
            .rows
            .iter()
            .map(|row| {
                let bounds = Bounds {
                    first: text(row.first),
                    last: text(row.last),
                    days: row.days,
                    label: row.label.clone(),
                    number: row.number,
                    position: row.position,
                    why: row.why.as_ref().map(working),
                };
                (row.rule.word().replace(['-', ' '], "_"), bounds)
            })
            .collect(),
    })
}

fn exact(fraction: Fraction) -> Exact {
    Exact {
        whole: fraction.whole(),
        numerator: fraction.numerator(),
        denominator: fraction.denominator(),
        decimal: decimal(fraction),
    }
}

fn working(working: &mild_ledger::Working) -> Why {
    Why {
        rule: working.rule().to_owned(),
        steps: working.steps().iter().map(|step| step.said().to_owned()).collect(),
        figure: working.figure().to_owned(),
    }
}

/// The object of `mild run --json`, in one line.
#[must_use]
pub fn run(outcome: &RunOutcome) -> String {
    let rows = outcome.rows;
    to_text(&Run {
        title: &outcome.title,
        as_of: outcome
            .as_of
            .map(|date| outcome.as_of_time.map_or_else(|| date.to_string(), |at| at.to_string())),
        records: &outcome.records,
        rows: Rows {
            read: rows.read,
            written: rows.written,
            set_aside: rows.set_aside,
            merged: rows.merged,
            not_selected: rows.not_selected,
        },
        amounts: outcome.amounts.iter().map(amounts).collect(),
        reports: outcome.reports.iter().map(report).collect(),
        exceptions: outcome
            .exceptions
            .iter()
            .map(|group| Exceptions {
                reason: &group.reason,
                outcome: &group.outcome,
                count: group.count,
                examples: &group.examples,
            })
            .collect(),
        doubts: &outcome.doubts,
        notes: outcome.notes.iter().chain(&outcome.repeats).map(String::as_str).collect(),
        unreadable_cells: outcome.unreadable_cells,
        dates: outcome
            .dates
            .iter()
            .map(|dates| Dates {
                column: &dates.column,
                written: &dates.pattern,
                read: dates.tally.read,
                blank: dates.tally.blank,
                placeholder: dates.tally.filler,
                unreadable: dates.tally.unreadable,
            })
            .collect(),
        figures: outcome
            .figures
            .iter()
            .map(|figures| Figures {
                column: &figures.column,
                rule: &figures.rule,
                ends: figures.ends.word(),
                negative: figures.negative,
                zero: figures.zero,
                positive: figures.positive,
                empty: figures.empty,
            })
            .collect(),
        calendars: outcome
            .calendars
            .iter()
            .map(|calendar| CountedBy {
                name: &calendar.name,
                covers: &calendar.covers,
                rest_days: &calendar.rest_days,
                holidays: calendar.holidays,
                sources: &calendar.sources,
            })
            .collect(),
        cells_behind_apostrophe: outcome.cells_behind_apostrophe,
        inputs: outcome.inputs.iter().map(file).collect(),
        outputs: outcome.outputs.iter().map(file).collect(),
        receipt: outcome.receipt.display().to_string(),
    })
}

fn file(file: &RunFile) -> File<'_> {
    File { path: file.path.display().to_string(), rows: file.rows, bytes: file.bytes, hash: &file.hash }
}

fn amounts(proof: &AmountProof) -> Amounts<'_> {
    Amounts {
        column: &proof.column,
        currency: None,
        read: proof.read.to_string(),
        written: proof.written.to_string(),
        set_aside: proof.set_aside.to_string(),
        merged: proof.merged.to_string(),
        not_selected: proof.not_selected.to_string(),
        unreadable_rows: proof.unreadable_rows,
    }
}

fn report(report: &mild_ledger_records::Report) -> Report<'_> {
    Report {
        kind: report.kind,
        title: &report.title,
        tables: report.tables().iter().map(table).collect(),
        proof: report.proof.iter().map(proof).collect(),
        notes: &report.notes,
        aging: match &report.figures {
            ReportFigures::Aging(figures) => Some(aging(figures)),
            _ => None,
        },
    }
}

fn table(table: &ReportTable) -> Table {
    let cells = |row: &Vec<ReportCell>| row.iter().map(cell).collect();
    Table {
        title: table.title.clone(),
        columns: table.columns.clone(),
        rows: table.rows.iter().map(cells).collect(),
        total: table.total.as_ref().map(cells),
    }
}

/// Decimals and dates as texts, so that no reader rounds them.
fn cell(cell: &ReportCell) -> Cell {
    match cell {
        ReportCell::Text(text) => Cell::Text(text.clone()),
        ReportCell::Count(count) => Cell::Count(*count),
        ReportCell::Decimal(number) => Cell::Text(number.to_string()),
        ReportCell::Date(date) => Cell::Text(date.to_string()),
        ReportCell::DateTime(at) => Cell::Text(at.to_string()),
        _ => Cell::Nothing,
    }
}

fn proof(line: &ProofLine) -> Proof<'_> {
    let part = |part: &ProofPart| match part.value {
        ProofValue::Rows(rows) => {
            i64::try_from(rows).map_or_else(|_| Cell::Text(rows.to_string()), Cell::Count)
        }
        ProofValue::Amount(amount) => Cell::Text(amount.to_string()),
    };
    Proof {
        of: &line.what,
        whole: &line.whole.name,
        value: part(&line.whole),
        parts: line
            .parts
            .iter()
            .map(|each| ProvedPart { name: each.name.clone(), value: part(each) })
            .collect(),
    }
}

fn aging(report: &AgingReport) -> Aging<'_> {
    let group = |group: &AgingGroup| Group {
        by: report.by.as_ref().map(|_| group.name.clone()),
        amounts: group.amounts.iter().map(ToString::to_string).collect(),
        total: group.total.to_string(),
    };
    let rows = match &report.by {
        Some(_) => report.groups().map(|each| group(&each)).collect(),
        None => vec![group(&report.total)],
    };
    Aging {
        by: report.by.as_deref(),
        amount: &report.amount_column,
        band: &report.band_column,
        buckets: &report.buckets,
        rows,
        total: Total { amounts: group(&report.total).amounts, total: report.total.total.to_string() },
        counts: &report.counts,
    }
}

/// Objects of texts and numbers always have a JSON form. Signs that would steer a terminal stand in it as escapes, which any
/// reader of JSON (RFC 8259) turns back.
fn to_text(object: &impl Serialize) -> String {
    let text = serde_json::to_string(object).unwrap_or_default();
    if !text.chars().any(is_hidden) {
        return text;
    }
    let mut out = String::with_capacity(text.len());
    for sign in text.chars() {
        if is_hidden(sign) {
            sign.encode_utf16(&mut [0; 2]).iter().for_each(|unit| out.push_str(&format!("\\u{unit:04x}")));
        } else {
            out.push(sign);
        }
    }
    out
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
    week_starts: &'static str,
    #[serde(skip_serializing_if = "Option::is_none")]
    split: Option<Vec<Share>>,
    #[serde(skip_serializing_if = "Vec::is_empty")]
    working_days_split: Vec<SplitByCalendar>,
    #[serde(skip_serializing_if = "Option::is_none")]
    why: Option<Vec<Why>>,
}

/// The days of an interval in one period.
#[derive(Serialize)]
struct Share {
    period: String,
    first: Option<String>,
    last: Option<String>,
    days: i64,
}

#[derive(Serialize)]
struct DayOfCalendar {
    calendar: String,
    kind: &'static str,
    holidays: Vec<String>,
    number_in_month: Option<i64>,
    number_from_month_end: Option<i64>,
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
    sum: String,
}

#[derive(Serialize)]
struct SplitByCalendar {
    calendar: String,
    shares: Vec<Share>,
}

#[derive(Serialize)]
struct Calendar<'c> {
    calendar: &'c str,
    covers: Option<[i32; 2]>,
    rest_days: Vec<&'static str>,
    months: Vec<CalendarMonth>,
    holidays: Vec<ClosedDay>,
    working_days: i64,
    #[serde(skip_serializing_if = "Option::is_none")]
    target: Option<CalendarTarget>,
}

#[derive(Serialize)]
struct CalendarMonth {
    month: String,
    days: i64,
    working_days: i64,
    rest_days: i64,
    holidays: i64,
    holidays_on_rest_days: i64,
    #[serde(skip_serializing_if = "Option::is_none")]
    target: Option<String>,
    #[serde(skip_serializing_if = "Option::is_none")]
    rate: Option<MonthRate>,
}

/// The month's target over its working days, and what the rate of all the years comes to in it.
#[derive(Serialize)]
struct MonthRate {
    a_day: Option<String>,
    at_the_rate: Option<String>,
    over: Option<String>,
}

#[derive(Serialize)]
struct CalendarTarget {
    total: String,
    rate_a_day: String,
    rounding: &'static str,
    overshoots_by: String,
}

#[derive(Serialize)]
struct ClosedDay {
    date: String,
    weekday: &'static str,
    name: String,
    #[serde(skip_serializing_if = "Option::is_none")]
    moved_from: Option<String>,
}

#[derive(Serialize)]
struct ShippedCalendars {
    calendars: Vec<ShippedCalendar>,
}

#[derive(Serialize)]
struct ShippedCalendar {
    name: &'static str,
    title: &'static str,
    law: &'static str,
    covers: [i32; 2],
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
    week_starts: &'static str,
    #[serde(skip_serializing_if = "Option::is_none")]
    why: Option<Vec<Why>>,
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
    weeks: Exact,
    months: Exact,
    quarters: Exact,
    half_years: Exact,
    years: Exact,
}

/// An exact number: whole + numerator ÷ denominator, in lowest terms, and its nearest decimal as a text.
#[derive(Serialize)]
struct Exact {
    whole: i64,
    numerator: i64,
    denominator: i64,
    decimal: String,
}

#[derive(Serialize)]
struct Why {
    rule: String,
    steps: Vec<String>,
    figure: String,
}

#[derive(Serialize)]
struct Around {
    date: String,
    away: i64,
    weekday: &'static str,
    iso_week: String,
    week: Numbered,
    weekday_number: Numbered,
    day_of_year: i64,
    periods: BTreeMap<String, Bounds>,
}

/// A number and how it was numbered.
#[derive(Serialize)]
struct Numbered {
    number: String,
    rule: String,
}

#[derive(Serialize)]
struct Bounds {
    first: Option<String>,
    last: Option<String>,
    days: i64,
    label: String,
    number: i64,
    position: Option<i64>,
    #[serde(skip_serializing_if = "Option::is_none")]
    why: Option<Why>,
}

#[derive(Serialize)]
struct Shifted<'m> {
    start: String,
    #[serde(skip_serializing_if = "Option::is_none")]
    date: Option<String>,
    #[serde(skip_serializing_if = "Option::is_none")]
    dates: Option<Vec<String>>,
    rule: &'m str,
    #[serde(skip_serializing_if = "Option::is_none")]
    calendar: Option<&'m str>,
    steps: Vec<String>,
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

#[derive(Serialize)]
struct Run<'o> {
    title: &'o str,
    as_of: Option<String>,
    records: &'o str,
    rows: Rows,
    amounts: Vec<Amounts<'o>>,
    reports: Vec<Report<'o>>,
    exceptions: Vec<Exceptions<'o>>,
    doubts: &'o [String],
    notes: Vec<&'o str>,
    unreadable_cells: u64,
    dates: Vec<Dates<'o>>,
    figures: Vec<Figures<'o>>,
    calendars: Vec<CountedBy<'o>>,
    cells_behind_apostrophe: u64,
    inputs: Vec<File<'o>>,
    outputs: Vec<File<'o>>,
    receipt: String,
}

#[derive(Serialize)]
struct Rows {
    read: u64,
    written: u64,
    set_aside: u64,
    merged: u64,
    not_selected: u64,
}

#[derive(Serialize)]
struct Amounts<'o> {
    column: &'o str,
    /// Always null until a plan can name a column of currencies.
    currency: Option<&'o str>,
    read: String,
    written: String,
    set_aside: String,
    merged: String,
    not_selected: String,
    unreadable_rows: u64,
}

#[derive(Serialize)]
struct Report<'o> {
    kind: &'static str,
    title: &'o str,
    tables: Vec<Table>,
    proof: Vec<Proof<'o>>,
    notes: &'o [String],
    #[serde(flatten)]
    aging: Option<Aging<'o>>,
}

#[derive(Serialize)]
struct Table {
    title: String,
    columns: Vec<String>,
    rows: Vec<Vec<Cell>>,
    total: Option<Vec<Cell>>,
}

#[derive(Serialize)]
#[serde(untagged)]
enum Cell {
    Text(String),
    Count(i64),
    Nothing,
}

#[derive(Serialize)]
struct Proof<'o> {
    of: &'o str,
    whole: &'o str,
    value: Cell,
    parts: Vec<ProvedPart>,
}

#[derive(Serialize)]
struct ProvedPart {
    name: String,
    value: Cell,
}

/// What an aging has beside its tables.
#[derive(Serialize)]
struct Aging<'o> {
    by: Option<&'o str>,
    amount: &'o str,
    band: &'o str,
    buckets: &'o [String],
    rows: Vec<Group>,
    total: Total,
    counts: &'o [u64],
}

#[derive(Serialize)]
struct Group {
    by: Option<String>,
    amounts: Vec<String>,
    total: String,
}

#[derive(Serialize)]
struct Total {
    amounts: Vec<String>,
    total: String,
}

#[derive(Serialize)]
struct Exceptions<'o> {
    reason: &'o str,
    outcome: &'o str,
    count: u64,
    examples: &'o [String],
}

#[derive(Serialize)]
struct Dates<'o> {
    column: &'o str,
    written: &'o str,
    read: u64,
    blank: u64,
    placeholder: u64,
    unreadable: u64,
}

#[derive(Serialize)]
struct Figures<'o> {
    column: &'o str,
    rule: &'o str,
    ends: &'static str,
    negative: u64,
    zero: u64,
    positive: u64,
    empty: u64,
}

#[derive(Serialize)]
struct CountedBy<'o> {
    name: &'o str,
    covers: &'o str,
    rest_days: &'o str,
    holidays: u64,
    sources: &'o [String],
}

#[derive(Serialize)]
struct File<'o> {
    path: String,
    rows: Option<u64>,
    bytes: u64,
    hash: &'o str,
}
