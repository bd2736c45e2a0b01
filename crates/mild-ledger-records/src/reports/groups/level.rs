//! What rows are grouped by: a column, buckets or periods; which groups there are, how they are called, and in what order they are.

use crate::columns::{Binder, read_period};
use crate::mistakes::{At, Value, Walk};
use crate::reports::ReportCell;
use crate::reports::periods::label_as_of;
use crate::table::{BandKind, Data, Gap, Kind, Table};
use mild_ledger::{Date, Period, PeriodRule};
use serde::{Deserialize, Serialize};
use std::collections::{BTreeMap, BTreeSet};
use toml::de::DeTable;

/// The most levels that rows are grouped at.
pub(in crate::reports) const MOST_LEVELS: usize = 3;
/// The most periods from the first to the last that are shown whether rows are in them or not.
const MOST_PERIODS: usize = 100_000;

/// A grouping as the plan says it.
#[derive(Debug)]
pub(in crate::reports) enum PlannedLevel {
    Column(At<String>),
    Period { rule: PeriodRule, of: At<String> },
}

pub(in crate::reports) fn read_level(walk: &mut Walk, value: &Value<'_>) -> Option<PlannedLevel> {
    if value.get_ref().as_str().is_some() {
        return walk.text(value, "the name of a column").map(PlannedLevel::Column);
    }
    let (rule, of) = read_period(walk, value)?;
    Some(PlannedLevel::Period { rule, of })
}

/// `by` of a report that may have groups: one to three of them, or none.
pub(in crate::reports) fn read_levels(walk: &mut Walk, table: &DeTable) -> Option<Vec<PlannedLevel>> {
    const BY: &str = "by = [\"Customer\"] or { period = \"month\", of = \"Due\" }, one to three of them";
    let Some(value) = table.get("by") else { return Some(Vec::new()) };
    let items = walk.items_or_one(value);
    if items.is_empty() || items.len() > MOST_LEVELS {
        walk.mistakes.tell(value.span(), format!("there are {} groupings", items.len()), BY);
        return None;
    }
    let levels: Vec<Option<PlannedLevel>> = items.iter().map(|item| read_level(walk, item)).collect();
    levels.into_iter().collect()
}

/// What rows are grouped by.
pub(in crate::reports) struct Level {
    pub(in crate::reports) name: String,
    column: usize,
    kind: LevelKind,
    /// The day to which the records are known, so that a period that goes on after it is not finished.
    as_of: Option<Date>,
}

enum LevelKind {
    Band(BandKind),
    Period(PeriodRule),
    /// The days of a column of date-times.
    Day,
    Text,
    Value,
}

/// What is in a row for a level.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(in crate::reports) enum LevelValue<'t> {
    Text(&'t str),
    /// A bucket, a day, a number.
    Number(i128),
    Missing(Gap),
}

/// What tells a group from others at one level, in the order of the groups: values before the reasons why there is none.
#[derive(Debug, Clone, PartialEq, Eq, PartialOrd, Ord, Hash, Serialize, Deserialize)]
pub(in crate::reports) enum Key {
    /// A bucket by its place, a period by its first day, a date or a number.
    Number(i128),
    /// A text without regard to case, and as it is.
    Text(String, String),
    Missing(Gap),
}

impl<'t> LevelValue<'t> {
    /// The text, where it is one.
    pub(in crate::reports) fn text(&self) -> Option<&'t str> {
        if let Self::Text(text) = self { Some(text) } else { None }
    }
}

impl PlannedLevel {
    pub(in crate::reports) fn bind(&self, binder: &mut Binder<'_>) -> Option<Level> {
        let as_of = binder.known_as_of().map(|as_of| as_of.date);
        match self {
            Self::Column(name) => {
                let column = binder.find(name)?;
                let kind = match binder.kind(column) {
                    Kind::Band(band) => LevelKind::Band(band.clone()),
                    Kind::Text => LevelKind::Text,
                    Kind::Date { time: Some(_), .. } => LevelKind::Day,
                    _ => LevelKind::Value,
                };
                let name = binder.name(column);
                let name =
                    if matches!(kind, LevelKind::Day) { format!("{name} by day") } else { name.to_owned() };
                Some(Level { name, column, kind, as_of })
            }
            Self::Period { rule, of } => {
                let column = binder.find_dates(of)?;
                let name = format!("{} by {}", binder.name(column), rule.word());
                Some(Level { name, column, kind: LevelKind::Period(*rule), as_of })
            }
        }
    }
}

impl Level {
    /// The column whose values name its groups; none where those are periods of its dates.
    pub(in crate::reports) fn column(&self) -> Option<usize> {
        (!matches!(self.kind, LevelKind::Period(_) | LevelKind::Day)).then_some(self.column)
    }

    /// Whether its groups have an order of their own: buckets, periods, numbers, dates; texts have that of the alphabet, which says nothing.
    pub(in crate::reports) fn has_an_order(&self) -> bool {
        !matches!(self.kind, LevelKind::Text)
    }

    /// Whether its groups are buckets, which are shown whether rows are in them or not.
    pub(in crate::reports) fn is_of_buckets(&self) -> bool {
        matches!(self.kind, LevelKind::Band(_))
    }

    /// The rule of its periods, where it is of some.
    pub(in crate::reports) fn periods(&self) -> Option<PeriodRule> {
        if let LevelKind::Period(rule) = self.kind { Some(rule) } else { None }
    }

    /// What a row has at this level; rows that have the same are of one group, and so may others be.
    pub(in crate::reports) fn value_of<'t>(&self, table: &'t Table, row: usize) -> LevelValue<'t> {
        // Most are plain texts.
        if let (LevelKind::Text, Some(Data::Text(_))) = (&self.kind, table.columns.get(self.column)) {
            let text = table.text(self.column, row);
            if !text.is_empty() {
                return LevelValue::Text(text);
            }
        }
        let number = match &self.kind {
            LevelKind::Band(_) => table.order_number(self.column, row),
            LevelKind::Period(_) | LevelKind::Day => {
                table.date(self.column, row).map(|date| date.day_number().into())
            }
            LevelKind::Text | LevelKind::Value if table.is_empty(self.column, row) => None,
            LevelKind::Text | LevelKind::Value => match table.order_number(self.column, row) {
                None => return LevelValue::Text(table.text(self.column, row)),
                number => number,
            },
        };
        match number {
            Some(number) => LevelValue::Number(number),
            None => LevelValue::Missing(table.gap(self.column, row).unwrap_or(Gap::Blank)),
        }
    }

    /// What tells the group of a row, and how that is called.
    pub(in crate::reports) fn key_of(&self, table: &Table, row: usize) -> (Key, String) {
        let missing = || {
            let gap = table.gap(self.column, row).unwrap_or(Gap::Blank);
            (Key::Missing(gap), self.label_of_gap(gap))
        };
        match &self.kind {
            LevelKind::Band(band) => match table.order_number(self.column, row) {
                Some(bucket) => {
                    let label = usize::try_from(bucket).ok().and_then(|bucket| band.buckets.label(bucket));
                    (Key::Number(bucket), label.unwrap_or_default().to_owned())
                }
                None => missing(),
            },
            LevelKind::Period(rule) => match table.date(self.column, row) {
                Some(date) => {
                    let period = rule.containing(date);
                    (Key::Number(period.dates().first().day_number().into()), self.label_of(&period))
                }
                None => missing(),
            },
            LevelKind::Day => match table.date(self.column, row) {
                Some(date) => (Key::Number(date.day_number().into()), date.to_string()),
                None => missing(),
            },
            LevelKind::Text | LevelKind::Value if table.is_empty(self.column, row) => missing(),
            LevelKind::Text | LevelKind::Value => {
                let shown = table.shown(self.column, row);
                let shown = shown.trim();
                let key = match table.order_number(self.column, row) {
                    Some(number) => Key::Number(number),
                    None => Key::Text(shown.to_lowercase(), shown.to_owned()),
                };
                (key, shown.to_owned())
            }
        }
    }

    /// The name of a group as a cell: a day is a date, all else a text.
    pub(in crate::reports) fn cell_of(&self, label: &str) -> ReportCell {
        let is_by_value = matches!(self.kind, LevelKind::Day | LevelKind::Value);
        // Numbers have names too, and eight digits may be a day.
        match label.parse::<Date>() {
            Ok(date) if is_by_value && label.len() == 10 => ReportCell::Date(date),
            _ => ReportCell::Text(label.to_owned()),
        }
    }

    fn label_of(&self, period: &Period) -> String {
        label_as_of(period, self.as_of)
    }

    fn label_of_gap(&self, gap: Gap) -> String {
        match (&self.kind, gap) {
            (LevelKind::Band(band), gap) => gap.bucket(band).to_owned(),
            (LevelKind::Period(_) | LevelKind::Day, Gap::Blank) => "No date".to_owned(),
            (_, Gap::Blank) => "(blank)".to_owned(),
            (_, Gap::Unreadable) => "Unreadable".to_owned(),
            (_, Gap::NotMatched) => "Not matched".to_owned(),
            (_, Gap::SeveralMatches) => "Several matches".to_owned(),
            _ => "No result".to_owned(),
        }
    }

    /// The groups that there are whether rows are in them or not: all buckets, and every period from the first to the last.
    pub(in crate::reports) fn all(&self, seen: &BTreeSet<Key>) -> BTreeMap<Key, String> {
        match &self.kind {
            LevelKind::Band(band) => {
                let labels = band.buckets.labels().iter().enumerate();
                labels.map(|(bucket, label)| (Key::Number(bucket as i128), label.clone())).collect()
            }
            LevelKind::Period(rule) => {
                let day = |key: &Key| match key {
                    Key::Number(day) => Date::from_day_number(i32::try_from(*day).ok()?).ok(),
                    _ => None,
                };
                let mut days = seen.iter().filter_map(day);
                let Some(first) = days.next() else { return BTreeMap::new() };
                let last = days.next_back().unwrap_or(first);
                let periods = mild_ledger::DateRange::new(first, last).map(|days| rule.covering(days));
                let key = |day: Date| Key::Number(day.day_number().into());
                let named = periods.into_iter().flatten().take(MOST_PERIODS);
                named.map(|period| (key(period.dates().first()), self.label_of(&period))).collect()
            }
            LevelKind::Day | LevelKind::Text | LevelKind::Value => BTreeMap::new(),
        }
    }
}
