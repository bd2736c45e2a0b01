//! Columns that measure intervals, ages and stays.

use super::arithmetic::{read_number, read_rounded};
use super::{Value, Walk, read_date_source};
use crate::plan::model::{AnniversaryGives, At, DateSource, Measuring, PlannedKind, PlannedRate, RatePer};
use crate::plan::nearest;
use mild_ledger::{
    ClockMeasure, CountRule, DayCount, Decimal, Ends, MeanMonth, Measure, MonthEnd, Rounding, Unit, Weekday,
};
use std::ops::Range;
use toml::de::{DeTable, DeValue};

/// Decimals of fractions where the plan states none: months and years to the second, day counts to the fourth.
const DECIMALS: (u8, u8) = (2, 4);

/// `count` with `ends`, `month_end`, `week_starts`, `decimals` and `rounding`.
pub(super) fn read_measuring(walk: &mut Walk, table: &DeTable<'_>, span: Range<usize>) -> Option<Measuring> {
    const RULES: &str = "a way of counting, such as \"days\", \"complete months\" or \"month starts passed\"";
    let count = walk.needed(table, "count", span, RULES);
    let measure = count.and_then(|value| read_measure(walk, value, RULES))?;
    let month_ends = [MonthEnd::Clamp, MonthEnd::Keep, MonthEnd::NextStart].map(|rule| (rule.word(), rule));
    let ends = match table.get("ends") {
        Some(value) => {
            let ends = walk.choice(value, &Ends::ALL.map(|ends| (ends.word(), ends)))?;
            if matches!(ends, Ends::First | Ends::Neither) && measure != Measure::Count(CountRule::DAYS) {
                let what = format!("{ends} is for days only");
                walk.mistake(value.span(), what, "last or first-and-last, or count = \"days\"");
                return None;
            }
            if ends != Ends::Last && matches!(measure, Measure::Clock(_)) {
                walk.mistake(
                    value.span(),
                    format!("{measure} have no days to count or leave out"),
                    "no ends",
                );
                return None;
            }
            ends
        }
        None => Ends::Last,
    };
    let decimals = match (table.get("decimals"), measure) {
        (Some(value), measure) if is_whole(measure) => {
            walk.mistake(
                value.span(),
                format!("{measure} have no decimals"),
                "count = \"fractional months\" or a day count",
            );
            return None;
        }
        (Some(value), _) => walk.whole_number(value, 0..=i64::from(Decimal::MOST_DECIMALS))? as u8,
        (None, Measure::YearFraction(_)) => DECIMALS.1,
        (None, _) => DECIMALS.0,
    };
    Some(Measuring {
        measure,
        ends,
        month_end: or_default(table, "month_end", MonthEnd::Clamp, |value| walk.choice(value, &month_ends))?,
        week_starts: or_default(table, "week_starts", Weekday::Monday, |value| {
            walk.parsed(value, WEEKDAY, str::parse)
        })?,
        decimals,
        rounding: or_default(table, "rounding", Rounding::Nearest, |value| {
            walk.choice(value, &Rounding::ALL.map(|rule| (rule.word(), rule)))
        })?,
    })
}

pub(super) const WEEKDAY: &str = "a day of the week";

/// Whether a measure's figures never have decimals.
fn is_whole(measure: Measure) -> bool {
    match measure {
        Measure::Count(_) | Measure::Parts => true,
        Measure::Clock(measure) => ClockMeasure::is_whole(measure),
        _ => false,
    }
}

/// What a key says, or the default where it is not there.
pub(super) fn or_default<T>(
    table: &DeTable<'_>,
    key: &str,
    default: T,
    read: impl FnOnce(&Value<'_>) -> Option<T>,
) -> Option<T> {
    table.get(key).map_or(Some(default), read)
}

/// A measure; a bare unit is refused with the rules that it could mean.
fn read_measure(walk: &mut Walk, value: &Value<'_>, expected: &str) -> Option<Measure> {
    let text = walk.text(value, expected)?;
    let error: mild_ledger::Error = match text.value.parse() {
        Ok(measure) => return Some(measure),
        Err(error) => error,
    };
    let help = match text.value.parse::<Unit>() {
        Ok(unit) => Some(format!(
            "\"complete {}\" counts whole {} gone by, \"{unit} starts passed\" the first days of a {unit}",
            unit.plural(),
            unit.plural()
        )),
        Err(_) => {
            let measures: Vec<String> = Measure::all().map(|measure| measure.to_string()).collect();
            nearest(&text.value, measures.iter().map(String::as_str))
                .map(|word| format!("did you mean \"{word}\"?"))
        }
    };
    let words = Measure::all().filter(|measure| !matches!(measure, Measure::YearFraction(_)));
    let words: Vec<String> = words.map(|measure| format!("\"{measure}\"")).collect();
    let conventions: Vec<&str> = DayCount::ALL.iter().map(|convention| convention.word()).collect();
    let expected = format!("{}, or a day count: {}", words.join(", "), conventions.join(", "));
    walk.mistake_with_help(text.span, error.what(), expected, help);
    None
}

/// `tenure = ["Hired", "Left"]`, or the start alone.
pub(super) fn read_tenure(walk: &mut Walk, table: &DeTable<'_>, span: Range<usize>) -> Option<PlannedKind> {
    let (start, end) = read_stay(walk, table.get("tenure")?)?;
    Some(PlannedKind::Tenure { start, end, measuring: read_measuring(walk, table, span)? })
}

/// A start and an end, or a start alone.
fn read_stay(walk: &mut Walk, value: &Value<'_>) -> Option<(At<DateSource>, Option<At<DateSource>>)> {
    const EXPECTED: &str = "a start and an end, such as [\"Hired\", \"Left\"], or the start alone";
    match value.get_ref() {
        DeValue::Array(items) if items.len() == 2 => Some((
            read_date_source(walk, &items[0], EXPECTED)?,
            Some(read_date_source(walk, &items[1], EXPECTED)?),
        )),
        DeValue::Array(_) => {
            walk.mistake(value.span(), "a list of another length stands here", EXPECTED);
            None
        }
        _ => Some((read_date_source(walk, value, EXPECTED)?, None)),
    }
}

/// `rate = "Sales"` with `tenure`, `per` and perhaps `smallest`.
pub(super) fn read_rate(walk: &mut Walk, table: &DeTable<'_>, span: Range<usize>) -> Option<PlannedKind> {
    let quantity = walk.text(table.get("rate")?, "the name of a column of amounts or numbers")?;
    let tenure = walk.needed(table, "tenure", span.clone(), "tenure = [\"Hired\", \"Left\"]")?;
    let (start, end) = read_stay(walk, tenure)?;
    let per: Vec<(String, RatePer)> = [Unit::Month, Unit::Quarter, Unit::Year]
        .map(|unit| (unit.singular().to_owned(), RatePer::Fractional(unit)))
        .into_iter()
        .chain(MeanMonth::ALL.map(|mean| (mean.word().replace("months", "month"), RatePer::MeanMonths(mean))))
        .chain([
            ("mean year of 365.25 days".to_owned(), RatePer::MeanYears(DayCount::MeanJulianYear)),
            ("mean year of 365.2425 days".to_owned(), RatePer::MeanYears(DayCount::MeanGregorianYear)),
        ])
        .collect();
    let choices: Vec<(&str, RatePer)> = per.iter().map(|(word, per)| (word.as_str(), *per)).collect();
    let value = walk.needed(table, "per", span, "per = \"month\"")?;
    let per = walk.choice(value, &choices)?;
    let smallest = match table.get("smallest") {
        Some(value) => {
            Some(read_number(walk, value, "the smallest tenure that has a rate, in what it is per")?)
        }
        None => None,
    };
    let rounded = read_rounded(walk, table)?;
    Some(PlannedKind::Rate(Box::new(PlannedRate { quantity, start, end, per, smallest, rounded })))
}

/// `age = "Born"`, on the as-of date unless `on` says otherwise.
pub(super) fn read_age(walk: &mut Walk, table: &DeTable<'_>) -> Option<PlannedKind> {
    let value = table.get("age")?;
    let of = walk.text(value, "the name of a column of birth dates")?;
    let on = match table.get("on") {
        Some(value) => read_date_source(walk, value, "a date, as-of, or the name of a date column")?,
        None => At { value: DateSource::AsOf, span: value.span() },
    };
    Some(PlannedKind::Age { of, on, leap_day: read_leap_day(walk, table)? })
}

fn read_leap_day(walk: &mut Walk, table: &DeTable<'_>) -> Option<MonthEnd> {
    let rules = [MonthEnd::Clamp, MonthEnd::NextStart].map(|rule| (rule.word(), rule));
    or_default(table, "leap_day", MonthEnd::Clamp, |value| walk.choice(value, &rules))
}

/// `anniversary = "Hired"`: the first on or after the as-of date, unless `on_or_after` says otherwise.
pub(super) fn read_anniversary(walk: &mut Walk, table: &DeTable<'_>) -> Option<PlannedKind> {
    let value = table.get("anniversary")?;
    let of = walk.text(value, "the name of a column of dates")?;
    let on_or_after = match table.get("on_or_after") {
        Some(value) => read_date_source(walk, value, "a date, as-of, or the name of a date column")?,
        None => At { value: DateSource::AsOf, span: value.span() },
    };
    let all = [("date", AnniversaryGives::Date), ("number", AnniversaryGives::Number)];
    let gives = or_default(table, "gives", AnniversaryGives::Date, |value| walk.choice(value, &all))?;
    Some(PlannedKind::Anniversary { of, on_or_after, leap_day: read_leap_day(walk, table)?, gives })
}

/// `first_of = ["Shipped", "Planned"]`: the first of several dates that is not blank.
pub(super) fn read_first_of(walk: &mut Walk, table: &DeTable<'_>) -> Option<PlannedKind> {
    const EXPECTED: &str = "the names of two or more date columns";
    let value = table.get("first_of")?;
    let names = walk.texts(value, EXPECTED)?;
    if names.len() < 2 {
        walk.mistake(value.span(), "there is nothing to choose from", EXPECTED);
        return None;
    }
    Some(PlannedKind::FirstOf(names))
}
