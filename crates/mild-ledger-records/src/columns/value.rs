//! `value = "as-of"`, or a date, a number, a text, a column: the same thing in every row.

use super::binder::Binder;
use super::inputs::{AsOfDate, ValueSource, filled_in_text, read_value_source};
use super::rows::Rows;
use super::{ColumnKind, Planned, Step};
use crate::mistakes::{At, Walk};
use crate::table::{Data, DateKind, Dictionary, Kind};
use arrow_array::StringArray;
use arrow_array::builder::StringBuilder;
use mild_ledger::column::Column;
use mild_ledger::{ClockTime, DateTime, Decimal, Error, HoursOf, NamedDay, Quotient, Rounding};
use std::ops::Range;
use toml::de::DeTable;

pub(super) const KIND: ColumnKind = ColumnKind {
    key: "value",
    gives: "the same in each row: a text, a number, a date or a column",
    companions: &[],
    lines: &["{value:constant}"],
    read,
};

#[derive(Debug)]
struct PlannedValue {
    value: At<ValueSource>,
}

struct ValueStep {
    value: BoundValue,
    kind: ValueKind,
}
use std::sync::Arc;

/// A value bound to its column.
#[derive(Debug, Clone)]
pub(super) enum BoundValue {
    Text(String),
    Number(Decimal),
    Date(AsOfDate),
    Column(usize),
}

/// What values, or a choice of them, are.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) enum ValueKind {
    Text,
    Date { time: Option<HoursOf> },
    Number { decimals: u8 },
}

fn read(walk: &mut Walk, table: &DeTable, _: Range<usize>) -> Option<Box<dyn Planned>> {
    let value = read_value_source(walk, table.get("value")?)?;
    Some(Box::new(PlannedValue { value }))
}

impl ValueSource {
    pub(super) fn uses_as_of(&self) -> bool {
        match self {
            Self::AsOf => true,
            Self::Text(text) => text.contains("{as_of}"),
            _ => false,
        }
    }
}

impl Binder<'_> {
    pub(super) fn value(&mut self, value: &At<ValueSource>) -> Option<BoundValue> {
        match &value.value {
            ValueSource::Text(text) if text.contains("{as_of}") => {
                let as_of = self.as_of(&value.span)?;
                Some(BoundValue::Text(filled_in_text(text, Some(as_of))))
            }
            ValueSource::Text(text) => {
                let note = self.other_meaning(text);
                self.notes.extend(note.filter(|note| !self.notes.contains(note)));
                Some(BoundValue::Text(text.clone()))
            }
            ValueSource::Number(number) => Some(BoundValue::Number(*number)),
            ValueSource::Date(date) => Some(BoundValue::Date(AsOfDate { date: *date, at: None })),
            ValueSource::AsOf => self.as_of(&value.span).map(BoundValue::Date),
            ValueSource::Column(name) => {
                self.find(&At { value: name.clone(), span: value.span.clone() }).map(BoundValue::Column)
            }
        }
    }

    /// What a text may have been meant as, where it is the name of a day or of a column.
    fn other_meaning(&self, text: &str) -> Option<String> {
        let shown = text.escape_debug();
        if text.parse::<NamedDay>().is_ok() {
            return Some(format!("the value \"{shown}\" is a text here; \"as-of\" is the as-of date"));
        }
        self.has(text).then(|| {
            format!(
                "the value \"{shown}\" is a text here; {{ column = \"{shown}\" }} is what the column holds"
            )
        })
    }
}

impl BoundValue {
    pub(super) fn column(&self) -> Option<usize> {
        match self {
            Self::Column(column) => Some(*column),
            _ => None,
        }
    }

    pub(super) fn kind(&self, binder: &Binder<'_>) -> ValueKind {
        match self {
            Self::Text(_) => ValueKind::Text,
            Self::Number(number) => ValueKind::Number { decimals: number.decimals() },
            Self::Date(as_of) => ValueKind::Date { time: as_of.at.map(|_| HoursOf::Clock) },
            Self::Column(column) => match (binder.kind(*column), binder.kind(*column).decimals()) {
                (Kind::Date { time, .. }, _) => ValueKind::Date { time: *time },
                (_, Some(decimals)) => ValueKind::Number { decimals },
                _ => ValueKind::Text,
            },
        }
    }
}

impl ValueKind {
    /// What one or the other of two is.
    pub(super) fn joined(self, other: Self) -> Self {
        match (self, other) {
            (Self::Date { time: one }, Self::Date { time: other }) => {
                Self::Date { time: one.or(other).map(|_| HoursOf::Clock) }
            }
            (Self::Number { decimals: one }, Self::Number { decimals: other }) => {
                Self::Number { decimals: one.max(other) }
            }
            _ => Self::Text,
        }
    }

    pub(super) fn as_kind(self) -> Kind {
        match self {
            Self::Text => Kind::Text,
            Self::Date { time } => Kind::Date { source: DateKind::Made, time },
            Self::Number { decimals } => Kind::Number { decimals, figure: None },
        }
    }

    /// The column of the values that were chosen row by row, each by its place among those that there are.
    pub(super) fn column(self, rows: &Rows<'_>, values: &[&BoundValue], chosen: &[Option<usize>]) -> Data {
        let value_at = |place: usize| values.get(place).copied();
        let all = || chosen.iter().enumerate().map(|(row, place)| Some((row, value_at((*place)?)?)));
        let constant = |value: &&BoundValue| match value {
            BoundValue::Text(text) => Some(text.clone()),
            _ => None,
        };
        let constants: Option<Vec<String>> = values.iter().map(constant).collect();
        match self {
            Self::Text if constants.is_some() => {
                let mut texts = constants.unwrap_or_default();
                // Where nothing was chosen is the last.
                texts.push(String::new());
                let texts = Arc::new(StringArray::from_iter_values(&texts));
                let place = |place: &Option<usize>| u16::try_from(place.unwrap_or(values.len()));
                let places = chosen.iter().map(|chosen| place(chosen).unwrap_or(u16::MAX));
                Data::Choice(Dictionary::new(places, &texts))
            }
            Self::Text => {
                let mut texts = StringBuilder::new();
                for value in all() {
                    match value {
                        Some((_, BoundValue::Text(text))) => texts.append_value(text),
                        Some((_, BoundValue::Number(number))) => texts.append_value(number.to_string()),
                        Some((_, BoundValue::Date(as_of))) => texts.append_value(as_of.to_string()),
                        Some((row, BoundValue::Column(from))) => {
                            texts.append_value(&rows.table.shown(*from, row));
                        }
                        None => texts.append_value(""),
                    }
                }
                Data::Text(texts.finish())
            }
            Self::Number { decimals } => {
                let exact = all().map(|value| match value? {
                    (_, BoundValue::Number(number)) => Some(Quotient::from(*number)),
                    (row, BoundValue::Column(from)) => rows.table.exact(*from, row),
                    _ => None,
                });
                let exact: Column<Quotient> = exact.collect();
                let units = exact
                    .iter()
                    .map(|number| number?.to_decimal(decimals, Rounding::Nearest).ok().map(Decimal::units));
                Data::rounded(units.collect(), decimals, exact)
            }
            Self::Date { time } => {
                let midnight =
                    |as_of: &AsOfDate| as_of.at.unwrap_or(DateTime::new(as_of.date, ClockTime::MIDNIGHT));
                let found: Vec<Option<DateTime>> = all()
                    .map(|value| match value? {
                        (_, BoundValue::Date(as_of)) => Some(midnight(as_of)),
                        (row, BoundValue::Column(from)) => rows.table.date_time(*from, row),
                        _ => None,
                    })
                    .collect();
                match time {
                    Some(_) => Data::moments(found),
                    None => Data::dates(found.into_iter().map(|at| at.map(DateTime::date))),
                }
            }
        }
    }
}

impl Planned for PlannedValue {
    fn header(&self) -> Option<String> {
        matches!(self.value.value, ValueSource::AsOf).then(|| "As of".to_owned())
    }

    fn uses_as_of(&self) -> bool {
        self.value.value.uses_as_of()
    }

    fn stand_in(&self) -> Kind {
        Kind::Text
    }

    fn bind(&self, binder: &mut Binder<'_>) -> Option<(Kind, Box<dyn Step>)> {
        let value = binder.value(&self.value)?;
        let kind = value.kind(binder);
        Some((kind.as_kind(), Box::new(ValueStep { value, kind })))
    }
}

impl Step for ValueStep {
    fn inputs(&self) -> Vec<usize> {
        self.value.column().into_iter().collect()
    }

    fn work_out(&self, rows: &mut Rows<'_>) -> Result<Data, Error> {
        Ok(self.kind.column(rows, &[&self.value], &vec![Some(0); rows.count()]))
    }
}
