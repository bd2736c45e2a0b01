//! What a line says in a slot of a form, as a value of a plan.

use super::conditions::{Filling, read_line_conditions};
use super::values::{
    AS_OF, SlotMistake, UsedAs, UsedColumn, column_of, date_of, key, number_of, reference, reference_table,
    text_of,
};
use super::words::Words;
use mild_ledger::{
    Date, DateField, Decimal, FiscalYear, PaymentTerms, PeriodEdge, PeriodRule, Roll, Shift, Unit, WeekYear,
    Weekday, WeekdayMove,
};
use std::borrow::Cow;
use std::ops::Range;
use toml::Spanned;
use toml::de::{DeTable, DeValue};

/// What may be in a slot of a form, or under a key.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) enum SlotKind {
    /// A column of dates, a date, or as-of.
    Date,
    /// A column of numbers.
    Numbers,
    /// A column of numbers, or a number.
    Operand,
    /// A text, a number, a date, as-of, or `column` and its name.
    Value,
    /// The same, but for a text without quotes.
    Constant,
    Number,
    /// An amount of time: in words, or of a column.
    Shift,
    /// The same, to go back by.
    ShiftBack,
    Edge,
    /// A kind of period, and what a column takes of it.
    Period,
    OfPeriod,
    /// A field of a date or of a time of day.
    Field,
    Weekday,
    Roll,
    Terms,
    /// A calendar, or `column` and the name of the column that names it.
    Calendar,
    Conditions,
    /// Words of a plan, which the reader of the key knows.
    Words,
    Text,
    /// Yes, where the key alone is there.
    Flag,
}

/// A value, with what it names.
pub(super) struct Filled<'t> {
    pub(super) value: Spanned<DeValue<'t>>,
    pub(super) used: Vec<UsedColumn>,
    pub(super) calendar: Option<String>,
}

impl SlotKind {
    /// The kind of a slot by the word after its colon, or by its key.
    pub(super) fn of(key: &str, word: Option<&str>) -> Self {
        match word.unwrap_or(key) {
            "between" | "tenure" | "of" | "on" | "on_or_after" | "age" | "anniversary" | "first_of"
            | "working_day" | "from" | "dates" => Self::Date,
            "bucket" | "rate" => Self::Numbers,
            "sum" | "difference" | "product" | "quotient" => Self::Operand,
            "then" | "else" | "value" => Self::Value,
            "constant" => Self::Constant,
            "edges" | "lowest" | "smallest" | "decimals" | "away" | "numbers" => Self::Number,
            "shift" => Self::Shift,
            "back" => Self::ShiftBack,
            "to" => Self::Edge,
            "period" => Self::Period,
            "of period" => Self::OfPeriod,
            "field" => Self::Field,
            "weekday" => Self::Weekday,
            "roll" => Self::Roll,
            "terms" => Self::Terms,
            "calendar" => Self::Calendar,
            "when" => Self::Conditions,
            "name" | "labels" | "pattern" => Self::Text,
            "hidden" => Self::Flag,
            _ => Self::Words,
        }
    }

    /// What people read in its place; nothing where its key says it.
    pub(super) fn name(self) -> Option<&'static str> {
        Some(match self {
            Self::Date => "DATE",
            Self::Numbers => "COLUMN",
            Self::Operand | Self::Number => "NUMBER",
            Self::Value | Self::Constant => "VALUE",
            Self::Shift | Self::ShiftBack => "AMOUNT",
            Self::Edge => "EDGE",
            Self::Conditions => "CONDITIONS",
            _ => return None,
        })
    }

    /// Whether some words can be in it; those that take any words leave the rest to the reader of their key.
    pub(super) fn accepts(self, words: Words<'_, '_>) -> bool {
        let text = words.text();
        let is_quoted = words.quoted().is_some();
        match self {
            Self::Number => text.parse::<Decimal>().is_ok(),
            Self::Shift | Self::ShiftBack => {
                shift_of(text).is_some()
                    || number_of_units(words).is_some()
                    || column_of(words).is_some()
                    || begins_as_amount(words)
            }
            Self::Edge => PeriodEdge::all(periods()).any(|edge| edge.to_string() == text.to_lowercase()),
            Self::Period => periods().iter().any(|period| period.word() == text.to_lowercase()),
            Self::OfPeriod => OF_PERIOD.contains(&text.to_lowercase().as_str()),
            Self::Field => {
                let text = text.to_lowercase();
                DateField::ALL.iter().any(|field| field.word() == text)
                    || OTHER_FIELDS.contains(&text.as_str())
            }
            Self::Weekday => text.to_lowercase().parse::<WeekdayMove>().is_ok(),
            Self::Roll => Roll::ALL.iter().any(|roll| roll.word() == text.to_lowercase()),
            Self::Terms => text.parse::<PaymentTerms>().is_ok() || column_of(words).is_some(),
            Self::Constant => {
                is_quoted
                    || text == AS_OF
                    || text.parse::<Date>().is_ok()
                    || text.parse::<Decimal>().is_ok()
                    || column_of(words).is_some()
            }
            _ => true,
        }
    }

    /// Whether it takes some words and no others.
    pub(super) fn is_choosy(self) -> bool {
        matches!(
            self,
            Self::Number
                | Self::Shift
                | Self::ShiftBack
                | Self::Edge
                | Self::Period
                | Self::OfPeriod
                | Self::Field
                | Self::Weekday
                | Self::Roll
                | Self::Terms
                | Self::Constant
        )
    }

    /// The value that some words are in it.
    pub(super) fn fill<'t>(
        self,
        words: Words<'t, '_>,
        filling: Filling<'_>,
    ) -> Result<Filled<'t>, SlotMistake> {
        let used = |name: &str, used_as: UsedAs| vec![UsedColumn { name: name.to_owned(), used_as }];
        let place = (filling.place_of)(words.bytes());
        let at = |value: DeValue<'t>| Spanned::new(place.clone(), value);
        let filled =
            |value: DeValue<'t>, used: Vec<UsedColumn>| Ok(Filled { value: at(value), used, calendar: None });
        let plain = words.quoted().is_none();
        let (text, name) = (words.text(), words.name());
        match self {
            Self::Date => match date_of(text).filter(|_| plain) {
                Some(date) => filled(date, Vec::new()),
                None if text.to_lowercase() == AS_OF => filled(text_of(AS_OF), Vec::new()),
                None => filled(text_of(name), used(name, UsedAs::Dates)),
            },
            Self::Numbers => filled(text_of(name), used(name, UsedAs::Numbers)),
            Self::Operand => match number_of(text).filter(|_| plain) {
                Some(number) => filled(number, Vec::new()),
                None => filled(text_of(name), used(name, UsedAs::Numbers)),
            },
            Self::Value | Self::Constant => {
                let constant = number_of(text).or_else(|| date_of(text)).filter(|_| plain);
                match (constant, column_of(words)) {
                    (Some(constant), _) => filled(constant, Vec::new()),
                    (None, Some(column)) => {
                        filled(reference(column, &place), used(column.name(), UsedAs::Anything))
                    }
                    (None, None) => filled(text_of(name), Vec::new()),
                }
            }
            Self::Number => match number_of(text) {
                Some(number) => filled(number, Vec::new()),
                None => Err(SlotMistake {
                    bytes: words.bytes(),
                    what: format!("\"{}\" is not a number", text.escape_debug()),
                    expected: "a number such as 30 or 62.50".to_owned(),
                    help: None,
                }),
            },
            Self::Shift | Self::ShiftBack => {
                let back = self == Self::ShiftBack;
                if let Some((column, unit)) = number_of_units(words) {
                    let mut table = reference_table(column, &place);
                    table.insert(key("unit", &place), at(text_of(unit)));
                    put_back(&mut table, back, &place);
                    return filled(DeValue::Table(table), used(column.name(), UsedAs::Numbers));
                }
                if let Some(column) = column_of(words) {
                    let mut table = reference_table(column, &place);
                    put_back(&mut table, back, &place);
                    return filled(DeValue::Table(table), used(column.name(), UsedAs::Anything));
                }
                match shift_of(text).filter(|_| back) {
                    Some(shift) => filled(DeValue::String(Cow::Owned((-shift).to_string())), Vec::new()),
                    None => filled(text_of(text), Vec::new()),
                }
            }
            Self::Terms | Self::Calendar => match column_of(words) {
                Some(column) => filled(reference(column, &place), used(column.name(), UsedAs::Anything)),
                None => {
                    let calendar = (self == Self::Calendar).then(|| name.to_owned());
                    Ok(Filled { value: at(text_of(name)), used: Vec::new(), calendar })
                }
            },
            Self::Conditions => {
                let (value, used) = read_line_conditions(words, filling)?;
                Ok(Filled { value, used, calendar: None })
            }
            Self::Edge
            | Self::Period
            | Self::OfPeriod
            | Self::Field
            | Self::Weekday
            | Self::Roll
            | Self::Words => filled(DeValue::String(Cow::Owned(name.to_lowercase())), Vec::new()),
            Self::Text => filled(text_of(name), Vec::new()),
            Self::Flag => filled(DeValue::Boolean(true), Vec::new()),
        }
    }
}

/// What a column takes of a period.
const OF_PERIOD: [&str; 6] = ["first day", "last day", "nearest start", "number", "days", "label"];

/// The fields besides those that are numbers of a date.
const OTHER_FIELDS: [&str; 11] = [
    "week",
    "year of the week",
    "weekday number",
    "weekday",
    "month name",
    "week date",
    "ordinal date",
    "hour",
    "minute",
    "second",
    "time",
];

/// The periods, whose words do not depend on where they begin.
fn periods() -> [PeriodRule; 11] {
    PeriodRule::all(Weekday::Monday, FiscalYear::default(), WeekYear::iso())
}

fn put_back(table: &mut DeTable<'_>, back: bool, place: &Range<usize>) {
    if back {
        table.insert(key("back", place), Spanned::new(place.clone(), DeValue::Boolean(true)));
    }
}

/// An amount of time; a number alone is none.
fn shift_of(text: &str) -> Option<Shift> {
    text.parse().ok()
}

/// Whether some words are a number and more, as an amount of time is that has a slip in it; a column of such a name needs quotes.
fn begins_as_amount(words: Words<'_, '_>) -> bool {
    words.len() > 1 && words.part(0..1).text().parse::<Decimal>().is_ok()
}

/// A column of numbers and their unit: `Days in working days`.
fn number_of_units<'t, 'w>(words: Words<'t, 'w>) -> Option<(Words<'t, 'w>, &'static str)> {
    let mut units: Vec<&'static str> = Unit::ALL.iter().map(|unit| unit.plural()).collect();
    units.push("working days");
    let place = (1..words.len()).rev().find(|place| words.is(*place, "in"))?;
    let unit = words.part(place + 1..words.len()).text().to_lowercase();
    let unit = units.into_iter().find(|known| *known == unit)?;
    let column = words.part(0..place);
    Some((column_of(column).unwrap_or(column), unit))
}
