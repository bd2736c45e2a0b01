//! Columns of periods and of the fields of dates.

use super::Walk;
use super::measures::{WEEKDAY, or_default};
use crate::plan::model::{FieldOf, PeriodGives, PlannedKind};
use mild_ledger::{FiscalNaming, FiscalYear, LabelPattern, Nearness, PeriodRule, WeekYear, Weekday};
use std::ops::Range;
use toml::de::DeTable;

#[derive(Clone, Copy)]
enum GivesWord {
    FirstDay,
    LastDay,
    NearestStart,
    Number,
    Days,
    Label,
}

const GIVES: [(&str, GivesWord); 6] = [
    ("first day", GivesWord::FirstDay),
    ("last day", GivesWord::LastDay),
    ("nearest start", GivesWord::NearestStart),
    ("number", GivesWord::Number),
    ("days", GivesWord::Days),
    ("label", GivesWord::Label),
];

/// `period = "month"` with `of`, `gives`, `away` and the rules of fiscal years and years of weeks.
pub(super) fn read_period(walk: &mut Walk, table: &DeTable<'_>, span: Range<usize>) -> Option<PlannedKind> {
    let of = walk.needed(table, "of", span.clone(), "of = \"…\", the name of a date column");
    let of = of.and_then(|value| walk.text(value, "the name of a date column"));
    let expected =
        "gives = \"first day\", \"last day\", \"nearest start\", \"number\", \"days\" or \"label\"";
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
    let words = PeriodRule::all(first, fiscal, weeks).map(|rule| (rule.word(), rule));
    let rule = walk.choice(table.get("period")?, &words)?;
    let nearness = Nearness::ALL.map(|nearness| (nearness.word(), nearness));
    let nearness = match (table.get("nearest"), gives) {
        (Some(value), Some(GivesWord::NearestStart)) => walk.choice(value, &nearness)?,
        (Some(value), Some(_)) => {
            walk.mistake(value.span(), "nearest goes with a nearest start only", "gives = \"nearest start\"");
            return None;
        }
        _ => Nearness::ByDays,
    };
    let gives = match (gives?, pattern, table.get("pattern")) {
        (GivesWord::Label, Some(pattern), _) => PeriodGives::LabelBy { pattern, fiscal },
        (_, Some(_), Some(value)) => {
            walk.mistake(value.span(), "a pattern goes with a label only", "gives = \"label\"");
            return None;
        }
        (GivesWord::FirstDay, ..) => PeriodGives::FirstDay,
        (GivesWord::LastDay, ..) => PeriodGives::LastDay,
        (GivesWord::NearestStart, ..) => PeriodGives::NearestStart(nearness),
        (GivesWord::Number, ..) => PeriodGives::Number,
        (GivesWord::Days, ..) => PeriodGives::Days,
        (GivesWord::Label, ..) => PeriodGives::Label,
    };
    Some(PlannedKind::Period { of: of?, rule, away, gives })
}

/// `field = "year"` with `of`.
pub(super) fn read_field(walk: &mut Walk, table: &DeTable<'_>, span: Range<usize>) -> Option<PlannedKind> {
    let field = walk.choice(table.get("field")?, &FieldOf::all());
    let of = walk.needed(table, "of", span, "of = \"…\", the name of a date column");
    let of = of.and_then(|value| walk.text(value, "the name of a date column"));
    Some(PlannedKind::Field { of: of?, field: field? })
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
