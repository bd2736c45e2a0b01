//! Columns that measure intervals, periods, ages and stays.

use super::{Value, Walk, read_date_source};
use crate::plan::model::{At, DateSource, MeasuredEnds, Measuring, PeriodGives, PlannedKind};
use crate::plan::nearest;
use mild_ledger::{
    DayCount, Decimal, FiscalNaming, FiscalYear, LabelPattern, Measure, MonthEnd, PeriodRule, Rounding, Unit,
    WeekYear, Weekday,
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
    let ends = [("last", MeasuredEnds::Last), ("first-and-last", MeasuredEnds::FirstAndLast)];
    let decimals = match (table.get("decimals"), measure) {
        (Some(value), Measure::Count(_) | Measure::Parts) => {
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
        ends: or_default(table, "ends", MeasuredEnds::Last, |value| walk.choice(value, &ends))?,
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

const WEEKDAY: &str = "a day of the week";

/// What a key says, or the default where it is not there.
fn or_default<T>(
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
    const EXPECTED: &str = "a start and an end, such as [\"Hired\", \"Left\"], or the start alone";
    let value = table.get("tenure")?;
    let (start, end) = match value.get_ref() {
        DeValue::Array(items) if items.len() == 2 => {
            (read_date_source(walk, &items[0], EXPECTED)?, Some(read_date_source(walk, &items[1], EXPECTED)?))
        }
        DeValue::Array(_) => {
            walk.mistake(value.span(), "a list of another length stands here", EXPECTED);
            return None;
        }
        _ => (read_date_source(walk, value, EXPECTED)?, None),
    };
    Some(PlannedKind::Tenure { start, end, measuring: read_measuring(walk, table, span)? })
}

/// `age = "Born"`, on the as-of date unless `on` says otherwise.
pub(super) fn read_age(walk: &mut Walk, table: &DeTable<'_>) -> Option<PlannedKind> {
    let value = table.get("age")?;
    let of = walk.text(value, "the name of a column of birth dates")?;
    let on = match table.get("on") {
        Some(value) => read_date_source(walk, value, "a date, as-of, or the name of a date column")?,
        None => At { value: DateSource::AsOf, span: value.span() },
    };
    let rules = [MonthEnd::Clamp, MonthEnd::NextStart].map(|rule| (rule.word(), rule));
    let leap_day = or_default(table, "leap_day", MonthEnd::Clamp, |value| walk.choice(value, &rules))?;
    Some(PlannedKind::Age { of, on, leap_day })
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

#[derive(Clone, Copy)]
enum PeriodWord {
    Week,
    Month,
    Quarter,
    HalfYear,
    Year,
    FiscalPeriod,
    FiscalQuarter,
    FiscalYear,
    WeekPeriod,
    WeekQuarter,
    WeekYear,
}

const PERIODS: [(&str, PeriodWord); 11] = [
    ("week", PeriodWord::Week),
    ("month", PeriodWord::Month),
    ("quarter", PeriodWord::Quarter),
    ("half-year", PeriodWord::HalfYear),
    ("year", PeriodWord::Year),
    ("fiscal period", PeriodWord::FiscalPeriod),
    ("fiscal quarter", PeriodWord::FiscalQuarter),
    ("fiscal year", PeriodWord::FiscalYear),
    ("week period", PeriodWord::WeekPeriod),
    ("week quarter", PeriodWord::WeekQuarter),
    ("week-year", PeriodWord::WeekYear),
];

#[derive(Clone, Copy)]
enum GivesWord {
    FirstDay,
    LastDay,
    Number,
    Days,
    Label,
}

const GIVES: [(&str, GivesWord); 5] = [
    ("first day", GivesWord::FirstDay),
    ("last day", GivesWord::LastDay),
    ("number", GivesWord::Number),
    ("days", GivesWord::Days),
    ("label", GivesWord::Label),
];

/// `period = "month"` with `of`, `gives`, `away` and the rules of fiscal years and years of weeks.
pub(super) fn read_period(walk: &mut Walk, table: &DeTable<'_>, span: Range<usize>) -> Option<PlannedKind> {
    let word = walk.choice(table.get("period")?, &PERIODS);
    let of = walk.needed(table, "of", span.clone(), "of = \"…\", the name of a date column");
    let of = of.and_then(|value| walk.text(value, "the name of a date column"));
    let expected = "gives = \"first day\", \"last day\", \"number\", \"days\" or \"label\"";
    let gives = walk.needed(table, "gives", span, expected).and_then(|value| walk.choice(value, &GIVES));
    let away = or_default(table, "away", 0, |value| walk.whole_number(value, -1_000_000..=1_000_000))?;
    let fiscal = read_fiscal_year(walk, table)?;
    let weeks = or_default(table, "week_years", WeekYear::iso(), |value| {
        walk.parsed(value, "a rule for years of weeks", str::parse)
    })?;
    let first =
        or_default(table, "week_starts", Weekday::Monday, |value| walk.parsed(value, WEEKDAY, str::parse))?;
    let pattern: Option<LabelPattern> = match table.get("pattern") {
        Some(value) => Some(walk.parsed(value, "a label pattern", str::parse)?),
        None => None,
    };
    let rule = match word? {
        PeriodWord::Week => PeriodRule::Week(first),
        PeriodWord::Month => PeriodRule::Month,
        PeriodWord::Quarter => PeriodRule::Quarter,
        PeriodWord::HalfYear => PeriodRule::HalfYear,
        PeriodWord::Year => PeriodRule::Year,
        PeriodWord::FiscalPeriod => PeriodRule::FiscalPeriod(fiscal),
        PeriodWord::FiscalQuarter => PeriodRule::FiscalQuarter(fiscal),
        PeriodWord::FiscalYear => PeriodRule::FiscalYear(fiscal),
        PeriodWord::WeekPeriod => PeriodRule::WeekPeriod(weeks),
        PeriodWord::WeekQuarter => PeriodRule::WeekQuarter(weeks),
        PeriodWord::WeekYear => PeriodRule::WeekYear(weeks),
    };
    let gives = match (gives?, pattern, table.get("pattern")) {
        (GivesWord::Label, Some(pattern), _) => PeriodGives::LabelBy { pattern, fiscal },
        (_, Some(_), Some(value)) => {
            walk.mistake(value.span(), "a pattern goes with a label only", "gives = \"label\"");
            return None;
        }
        (GivesWord::FirstDay, ..) => PeriodGives::FirstDay,
        (GivesWord::LastDay, ..) => PeriodGives::LastDay,
        (GivesWord::Number, ..) => PeriodGives::Number,
        (GivesWord::Days, ..) => PeriodGives::Days,
        (GivesWord::Label, ..) => PeriodGives::Label,
    };
    Some(PlannedKind::Period { of: of?, rule, away, gives })
}

/// `fiscal_starts = "04-06"` or `"10"`, and `fiscal_named`.
fn read_fiscal_year(walk: &mut Walk, table: &DeTable<'_>) -> Option<FiscalYear> {
    const EXPECTED: &str = "a month, or month and day, in quotes, such as \"10\" or \"04-06\"";
    let starts = match table.get("fiscal_starts") {
        Some(value) => {
            let text = walk.text(value, EXPECTED)?;
            let (month, day) = text.value.split_once('-').unwrap_or((&text.value, "1"));
            match (month.parse(), day.parse()) {
                (Ok(month), Ok(day)) => match FiscalYear::starting(month, day) {
                    Ok(year) => year,
                    Err(error) => {
                        walk.mistake(text.span, error.what(), error.allowed());
                        return None;
                    }
                },
                _ => {
                    walk.mistake(text.span, "this is no month", EXPECTED);
                    return None;
                }
            }
        }
        None => FiscalYear::default(),
    };
    let naming = [FiscalNaming::End, FiscalNaming::Begin].map(|naming| (naming.word(), naming));
    let naming = or_default(table, "fiscal_named", FiscalNaming::End, |value| walk.choice(value, &naming))?;
    Some(starts.named(naming))
}
