//! Walking a TOML tree with its positions, collecting mistakes.

use super::everyday::part_with;
use super::keys::Keys;
use super::line_text::LineText;
use super::mistake::{Expected, Mistakes, PlanMistakes};
use super::nearest::{in_quotes, nearest, nearest_words};
use mild_ledger::{Date, DatePattern, Reading};
use std::ops::Range;
use std::path::Path;
use toml::Spanned;
use toml::de::{DeTable, DeValue};

pub(crate) type Value<'i> = Spanned<DeValue<'i>>;

/// A value with the bytes of the text where it is.
#[derive(Debug, Clone, PartialEq, Eq)]
pub(crate) struct At<T> {
    pub(crate) value: T,
    pub(crate) span: Range<usize>,
}

/// The mistakes met so far; each reader gives `None` where it has added one.
#[derive(Debug, Default)]
pub(crate) struct Walk {
    pub(crate) mistakes: Mistakes,
    source: String,
}

impl Walk {
    /// What a TOML text says, read by what knows its parts; an error with every mistake that was reported, that it is not TOML among them.
    pub(crate) fn read<T>(
        mut self,
        path: &Path,
        source: &str,
        read: impl FnOnce(&mut Self, &DeTable<'_>) -> Option<T>,
    ) -> Result<T, PlanMistakes> {
        source.clone_into(&mut self.source);
        let found = match DeTable::parse(source) {
            Ok(tree) => read(&mut self, tree.get_ref()),
            Err(error) => {
                self.not_toml(source, &error);
                None
            }
        };
        match found {
            Some(found) if self.mistakes.count() == 0 => Ok(found),
            _ => Err(self.mistakes.of(path, source)),
        }
    }

    fn not_toml(&mut self, source: &str, error: &toml::de::Error) {
        let span = error.span().unwrap_or(0..0);
        let line_start =
            source.get(..span.start).and_then(|before| before.rfind('\n')).map_or(0, |at| at + 1);
        let line = source.get(line_start..).and_then(|rest| rest.lines().next()).unwrap_or("");
        let key = line.split('=').next().unwrap_or("").trim();
        let spaced = line.contains('=') && key.contains(' ') && !key.contains(['"', '\'', '[', '#', '{']);
        let value = line.split_once('=').map_or("", |(_, value)| value.trim());
        let help = match iso_of(value) {
            Some(date) => Some(format!("write {date}")),
            None => spaced.then(|| format!("a header with spaces needs quotes: \"{key}\" = …")),
        };
        let what = format!("this is not TOML: {}", error.message());
        self.mistakes.tell_with_help(span, what, "TOML 1.0 or 1.1 (toml.io)", help);
    }

    /// A string of the text, of which parts have places too.
    pub(crate) fn line_of<'t>(&self, text: &'t str, string: Range<usize>) -> LineText<'t> {
        LineText::of_string(text, &self.source, string)
    }

    /// Tells that a value is of another kind than was expected.
    pub(crate) fn other_kind(&mut self, value: &Value<'_>, expected: impl Into<String>) {
        self.mistakes.tell(value.span(), format!("this is {}", kind_of(value.get_ref())), expected.into());
    }

    /// The items of a list.
    pub(crate) fn items<'t, 'i>(&mut self, value: &'t Value<'i>, expected: &str) -> Option<&'t [Value<'i>]> {
        match value.get_ref() {
            DeValue::Array(items) => Some(items),
            _ => {
                self.other_kind(value, expected);
                None
            }
        }
    }

    /// The items of a list, or the one value that is in its place.
    pub(crate) fn items_or_one<'t, 'i>(&self, value: &'t Value<'i>) -> &'t [Value<'i>] {
        match value.get_ref() {
            DeValue::Array(items) => items,
            _ => std::slice::from_ref(value),
        }
    }

    /// The two items of a list.
    pub(crate) fn two_items<'t, 'i>(
        &mut self,
        value: &'t Value<'i>,
        expected: &str,
    ) -> Option<&'t [Value<'i>; 2]> {
        let items = self.items(value, expected)?;
        let two = items.try_into().ok();
        if two.is_none() {
            self.mistakes.tell(value.span(), "this list has another length", expected);
        }
        two
    }

    /// Takes note of every key that does not belong in a part.
    pub(crate) fn check_keys(&mut self, table: &DeTable<'_>, keys: &Keys<'_>) {
        for key in table.keys() {
            let word: &str = key.get_ref();
            if keys.known.contains(&word) {
                continue;
            }
            let (near, more) = nearest_words(word, keys.known.iter().copied());
            let expected = Expected::Words(format!("{}{}", near.join(", "), if more { " …" } else { "" }));
            if keys.later.contains(&word) {
                let what = format!("{word} belongs to {}, but this version cannot do it yet", keys.part);
                self.mistakes.tell(key.span(), what, expected);
                continue;
            }
            let elsewhere = part_with(word).filter(|part| *part != keys.part);
            let help = match elsewhere {
                Some(part) => Some(format!("{word} belongs under {part}")),
                None => nearest(word, keys.known.iter().copied()).map(|word| format!("nearest: {word}")),
            };
            let what = format!("{} has no key {}", keys.part, word.escape_debug());
            self.mistakes.tell_with_help(key.span(), what, expected, help);
        }
    }

    /// The value of a key that must be there.
    pub(crate) fn needed<'t, 'i>(
        &mut self,
        table: &'t DeTable<'i>,
        key: &str,
        part: Range<usize>,
        expected: &str,
    ) -> Option<&'t Value<'i>> {
        let value = table.get(key);
        if value.is_none() {
            self.mistakes.tell(part, format!("{key} is missing"), expected);
        }
        value
    }

    pub(crate) fn text(&mut self, value: &Value<'_>, expected: &str) -> Option<At<String>> {
        match value.get_ref() {
            DeValue::String(text) => Some(At { value: text.to_string(), span: value.span() }),
            _ => {
                self.other_kind(value, expected);
                None
            }
        }
    }

    /// A text that is read by a rule of its own, such as an enum's.
    pub(crate) fn parsed<T>(
        &mut self,
        value: &Value<'_>,
        expected: &str,
        parse: impl FnOnce(&str) -> Result<T, mild_ledger::Error>,
    ) -> Option<T> {
        let text = self.text(value, expected)?;
        match parse(&text.value) {
            Ok(parsed) => Some(parsed),
            Err(error) => {
                self.mistakes.tell(text.span, error.what(), error.allowed());
                None
            }
        }
    }

    /// One of all choices of a kind, by its word.
    pub(crate) fn choice_of<T: Copy>(
        &mut self,
        value: &Value<'_>,
        all: &[T],
        word: fn(T) -> &'static str,
    ) -> Option<T> {
        let choices: Vec<(&str, T)> = all.iter().map(|choice| (word(*choice), *choice)).collect();
        self.choice(value, &choices)
    }

    pub(crate) fn choice<T: Copy>(&mut self, value: &Value<'_>, choices: &[(&str, T)]) -> Option<T> {
        let words = || choices.iter().map(|(word, _)| *word);
        let text = self.text(value, &format!("one of {}", in_quotes(words())))?;
        let found = choices.iter().find(|(word, _)| *word == text.value).map(|(_, choice)| *choice);
        if found.is_none() {
            let help = nearest(&text.value, words()).map(|word| format!("nearest: \"{word}\""));
            let (near, more) = nearest_words(&text.value, words());
            let expected = Expected::Words(format!("{}{}", in_quotes(near), if more { " …" } else { "" }));
            let what = format!("\"{}\" is not a choice here", text.value.escape_debug());
            self.mistakes.tell_with_help(text.span, what, expected, help);
        }
        found
    }

    pub(crate) fn yes_or_no(&mut self, value: &Value<'_>) -> Option<bool> {
        match value.get_ref() {
            DeValue::Boolean(yes) => Some(*yes),
            _ => {
                self.other_kind(value, "true or false");
                None
            }
        }
    }

    pub(crate) fn whole_number(
        &mut self,
        value: &Value<'_>,
        range: std::ops::RangeInclusive<i64>,
    ) -> Option<i64> {
        let expected = match (*range.start(), *range.end()) {
            (i64::MIN, i64::MAX) => "a whole number".to_owned(),
            (low, high) => format!("a whole number from {low} to {high}"),
        };
        let number = match value.get_ref() {
            DeValue::Integer(digits) => i64::from_str_radix(digits.as_str(), digits.radix()).ok(),
            _ => {
                self.other_kind(value, expected);
                return None;
            }
        };
        let inside = number.filter(|number| range.contains(number));
        if inside.is_none() {
            self.mistakes.tell(value.span(), "this number does not fit here", expected);
        }
        inside
    }

    pub(crate) fn table<'t, 'i>(&mut self, value: &'t Value<'i>, expected: &str) -> Option<&'t DeTable<'i>> {
        match value.get_ref() {
            DeValue::Table(table) => Some(table),
            _ => {
                self.other_kind(value, expected);
                None
            }
        }
    }

    /// The tables of `[[key]]`; none where the key is not there.
    pub(crate) fn tables<'t, 'i>(
        &mut self,
        table: &'t DeTable<'i>,
        key: &str,
    ) -> Vec<(&'t DeTable<'i>, Range<usize>)> {
        let expected = format!("tables, each under [[{key}]]");
        let items = self.several(table, key);
        items.iter().filter_map(|item| Some((self.table(item, &expected)?, item.span()))).collect()
    }

    /// What is under a key of which there can be several; none where the key is not there.
    pub(crate) fn several<'t, 'i>(&mut self, table: &'t DeTable<'i>, key: &str) -> &'t [Value<'i>] {
        let Some(value) = table.get(key) else { return &[] };
        let DeValue::Array(items) = value.get_ref() else {
            let help = format!("write [[{key}]] with two brackets, since there can be several");
            self.mistakes.tell_with_help(
                value.span(),
                format!("{key} is not a list"),
                format!("[[{key}]]"),
                Some(help),
            );
            return &[];
        };
        items
    }

    /// One text or a list of texts.
    pub(crate) fn texts(&mut self, value: &Value<'_>, expected: &str) -> Option<Vec<At<String>>> {
        match value.get_ref() {
            DeValue::Array(items) => items.iter().map(|item| self.text(item, expected)).collect(),
            _ => self.text(value, expected).map(|text| vec![text]),
        }
    }
}

/// What a value is, for a message.
pub(crate) fn kind_of(value: &DeValue<'_>) -> &'static str {
    match value {
        DeValue::String(_) => "a text",
        DeValue::Integer(_) => "a whole number",
        DeValue::Float(_) => "a number with decimals",
        DeValue::Boolean(_) => "true or false",
        DeValue::Datetime(_) => "a date or time",
        DeValue::Array(_) => "a list",
        DeValue::Table(_) => "a table",
    }
}

/// A date written as a TOML date.
pub(crate) fn read_date(walk: &mut Walk, value: &Value<'_>, expected: &str) -> Option<Date> {
    let DeValue::Datetime(datetime) = value.get_ref() else {
        walk.other_kind(value, expected);
        return None;
    };
    let (Some(date), None, None) = (datetime.date, datetime.time, datetime.offset) else {
        walk.mistakes.tell(value.span(), "this is a time", expected);
        return None;
    };
    match Date::new(i32::from(date.year), date.month, date.day) {
        Ok(date) => Some(date),
        Err(error) => {
            walk.mistakes.tell(value.span(), error.what(), error.allowed());
            None
        }
    }
}

/// The date of a text in the order of a country, in the form of TOML; both where the day and the month may be exchanged.
fn iso_of(text: &str) -> Option<String> {
    let text = text.split('#').next().unwrap_or_default().trim().trim_matches(['"', '\'']);
    let patterns = ["day/month/year", "month/day/year", "day.month.year", "day-month-year", "year/month/day"];
    let mut dates: Vec<String> = Vec::new();
    for pattern in patterns {
        if let Some(Ok(Reading::Date { date, .. })) =
            pattern.parse::<DatePattern>().ok().map(|known| known.read(text))
        {
            let date = date.to_string();
            if !dates.contains(&date) {
                dates.push(date);
            }
        }
    }
    (!dates.is_empty()).then(|| dates.join(" or "))
}
