//! The keys that say which periods are meant.

use super::inputs::or_default;
use super::measuring::WEEKDAY;
use crate::mistakes::{At, Keys, Value, Walk};
use mild_ledger::{FiscalNaming, FiscalYear, PeriodRule, WeekYear, Weekday};
use toml::de::{DeTable, DeValue};

/// The rules of periods that a column states, or their defaults.
pub(super) struct PeriodRules {
    pub(super) fiscal: FiscalYear,
    weeks: WeekYear,
    weeks_begin: Weekday,
}

impl PeriodRules {
    /// Each period by its word.
    pub(super) fn all(&self) -> [PeriodRule; 11] {
        PeriodRule::all(self.weeks_begin, self.fiscal, self.weeks)
    }
}

/// `{ period = "month", of = "Issued" }`, with the keys that say more of it.
pub(crate) fn read_period(walk: &mut Walk, value: &Value<'_>) -> Option<(PeriodRule, At<String>)> {
    const EXPECTED: &str = "the name of a column, or { period = \"month\", of = \"…\" }";
    let table = walk.table(value, EXPECTED)?;
    walk.check_keys(table, &PERIOD);
    let rules = read_period_rules(walk, table)?;
    let words = rules.all().map(|rule| (rule.word(), rule));
    let rule =
        walk.needed(table, "period", value.span(), EXPECTED).and_then(|value| walk.choice(value, &words));
    let of = walk.needed(table, "of", value.span(), EXPECTED);
    let of = of.and_then(|value| walk.text(value, "the name of a column of dates"));
    Some((rule?, of?))
}

/// The keys of a period that rows are grouped by.
pub(crate) const PERIOD: Keys<'static> = Keys {
    part: "a period",
    known: &["period", "of", "fiscal_year_begins", "fiscal_named", "week_years", "weeks_begin"],
    later: &[],
};

/// `fiscal_year_begins`, `fiscal_named`, `week_years` and `weeks_begin`.
pub(super) fn read_period_rules(walk: &mut Walk, table: &DeTable) -> Option<PeriodRules> {
    let starts = read_fiscal_start(walk, table)?;
    let naming = [FiscalNaming::End, FiscalNaming::Begin].map(|naming| (naming.word(), naming));
    let naming = or_default(table, "fiscal_named", FiscalNaming::End, |value| walk.choice(value, &naming))?;
    let weeks = or_default(table, "week_years", WeekYear::iso(), |value| {
        walk.parsed(value, "a rule for years of weeks", str::parse)
    })?;
    let weeks_begin =
        or_default(table, "weeks_begin", Weekday::Monday, |value| walk.parsed(value, WEEKDAY, str::parse))?;
    let weeks = if table.contains_key("fiscal_named") { weeks.with_naming(naming) } else { weeks };
    Some(PeriodRules { fiscal: starts.with_naming(naming), weeks, weeks_begin })
}

/// `fiscal_year_begins = "april"`, `"apr-6"`, `"04-06"`, `"10"` or `4`.
fn read_fiscal_start(walk: &mut Walk, table: &DeTable) -> Option<FiscalYear> {
    const EXPECTED: &str = "a month, perhaps with a day, such as \"april\", \"apr-6\", \"04-06\" or 4";
    let Some(value) = table.get("fiscal_year_begins") else { return Some(FiscalYear::default()) };
    if let DeValue::Integer(_) = value.get_ref() {
        let month = walk.whole_number(value, 1..=12)?;
        return FiscalYear::starting(u8::try_from(month).ok()?, 1).ok();
    }
    walk.parsed(value, EXPECTED, FiscalYear::starting_on)
}
