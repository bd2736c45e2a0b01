//! `Days = working days from Ordered to Shipped on yard`: the table of a column that a line defines.

use super::conditions::{Filling, LineCondition};
use super::form::{Form, Part, shown};
use super::slot::{Filled, SlotKind};
use super::values::{SlotMistake, UsedColumn, with_one_more};
use super::words::{OpenQuote, WordKind, Words, words_of};
use crate::mistakes::{Expected, LineText, Mistakes, nearest, nearest_words};
use std::ops::Range;
use toml::Spanned;
use toml::de::{DeTable, DeValue};

/// A kind of column, for the lines that define one.
#[derive(Debug, Clone, Copy)]
pub(crate) struct LineKind<'k> {
    /// Its forms; one that begins with a comma is of a part after the first.
    pub(crate) forms: &'k [&'k str],
    /// The keys that go with it.
    pub(crate) companions: &'k [&'k str],
}

/// What a line defines.
#[derive(Debug)]
pub(crate) struct DefinedColumn<'t> {
    /// As a plan has it.
    pub(crate) table: DeTable<'t>,
    /// Its keys in the order of the line.
    pub(crate) order: Vec<String>,
    pub(crate) used: Vec<UsedColumn>,
    pub(crate) calendars: Vec<String>,
}

/// More words than a definition has; a longer line is not a slip.
const MOST_WORDS: usize = 100;

/// The key of a column of any kind that is not written.
const HIDDEN: &str = "hidden";

/// What follows the name and its `=`.
const AN_EXAMPLE: &str = "a definition such as Days = working days from Ordered to Shipped on yard";

/// The column that a line defines; `None` where a mistake was reported.
pub(crate) fn read_definition<'t>(
    mistakes: &mut Mistakes,
    line: &LineText<'t>,
    kinds: &[LineKind<'_>],
    conditions: LineCondition<'_>,
) -> Option<DefinedColumn<'t>> {
    let all = match words_of(line.text) {
        Ok(all) if all.len() <= MOST_WORDS => all,
        Ok(all) => {
            let what = format!("the line has {} words, which is not a definition", all.len());
            mistakes.tell(line.place(), what, AN_EXAMPLE);
            return None;
        }
        Err(OpenQuote(at)) => {
            mistakes.tell(line.place_of(at..at + 1), "this quote is not closed", "the same quote once more");
            return None;
        }
    };
    let words = Words { line: line.text, words: &all };
    let place_of = |bytes: Range<usize>| line.place_of(bytes);
    let filling = Filling { place_of: &place_of, conditions };
    let mut reading = Reading {
        filling,
        table: DeTable::new(),
        order: Vec::new(),
        used: Vec::new(),
        calendars: Vec::new(),
    };
    let equals = all.iter().position(|word| word.kind == WordKind::Equals);
    let (named, defined) = match equals {
        Some(at) => (Some(words.part(0..at)), words.part(at + 1..all.len())),
        None => (None, words),
    };
    if let Some(name) = named {
        reading.put("name", SlotKind::Text, name).map_err(|wrong| tell(mistakes, line, wrong)).ok()?;
    }
    match reading.read(defined, kinds) {
        Ok(()) => Some(DefinedColumn {
            table: reading.table,
            order: reading.order,
            used: reading.used,
            calendars: reading.calendars,
        }),
        Err(wrong) => {
            tell(mistakes, line, wrong);
            None
        }
    }
}

fn tell(mistakes: &mut Mistakes, line: &LineText<'_>, wrong: LineMistake) {
    let place = line.place_of(wrong.bytes);
    mistakes.tell_with_help(place, wrong.what, wrong.expected, wrong.help);
}

struct LineMistake {
    bytes: Range<usize>,
    what: String,
    expected: Expected,
    help: Option<String>,
}

impl From<SlotMistake> for LineMistake {
    fn from(wrong: SlotMistake) -> Self {
        Self { bytes: wrong.bytes, what: wrong.what, expected: wrong.expected.into(), help: wrong.help }
    }
}

struct Reading<'t, 'f> {
    filling: Filling<'f>,
    table: DeTable<'t>,
    order: Vec<String>,
    used: Vec<UsedColumn>,
    calendars: Vec<String>,
}

impl<'t> Reading<'t, '_> {
    /// Reads a definition: what it is first, and more of it after commas.
    fn read(&mut self, defined: Words<'t, '_>, kinds: &[LineKind<'_>]) -> Result<(), LineMistake> {
        let mut parts = parts_of(defined);
        let head = parts.next().unwrap_or(defined);
        if head.len() == 0 {
            let what = "the line does not say what the column holds".to_owned();
            return Err(LineMistake {
                bytes: defined.bytes(),
                what,
                expected: AN_EXAMPLE.into(),
                help: None,
            });
        }
        let mut best = None;
        for kind in kinds {
            for text in kind.forms.iter().filter(|form| !form.starts_with(',')) {
                let form = Form::of(text);
                let Some(fit) = form.fit(head) else { continue };
                let is_closer = best.as_ref().is_none_or(|(_, _, known): &(_, _, super::form::Fit<'_>)| {
                    fit.closeness > known.closeness
                });
                if is_closer {
                    best = Some((kind, form, fit));
                }
            }
        }
        let Some((kind, form, fit)) = best else { return Err(no_form(head, kinds)) };
        let mut last = None;
        for (part, words) in fit.slots {
            last = self.take(part, head.part(words))?;
        }
        let of_form = |key: &str| form.kind_of(key).unwrap_or_else(|| SlotKind::of(key, None));
        let options: Vec<Form<'_>> =
            kind.forms.iter().filter_map(|form| form.strip_prefix(',')).map(Form::of).collect();
        for part in parts {
            if part.len() == 0 {
                let what = "nothing is between two commas, or after the last".to_owned();
                let expected = with_it(kind).into();
                return Err(LineMistake { bytes: part.bytes(), what, expected, help: None });
            }
            if let Some(fit) = options.iter().find_map(|form| form.fit(part)) {
                for (slot, words) in fit.slots {
                    last = self.take(slot, part.part(words))?;
                }
                continue;
            }
            let named = kind.companions.iter().chain(&[HIDDEN]).find_map(|key| {
                let words: Vec<&str> = key.split('_').collect();
                let is_key = part.are(0, &words);
                let written = part.is(0, key).then_some(1);
                is_key.then_some(words.len()).or(written).map(|length| (*key, length))
            });
            match (named, last.as_deref()) {
                (Some((key, length)), _) => {
                    let rest = part.part(length..part.len());
                    let slot = of_form(key);
                    if rest.len() == 0 && slot != SlotKind::Flag {
                        let what = format!("{} has no value", part.text());
                        let expected = format!("{} and what it is", key.replace('_', " ")).into();
                        return Err(LineMistake { bytes: part.bytes(), what, expected, help: None });
                    }
                    self.put(key, slot, if rest.len() == 0 { part } else { rest })?;
                    last = Some(key.to_owned());
                }
                (None, Some(key)) if is_list(key, of_form(key)) => {
                    let key = key.to_owned();
                    self.put(&key, of_form(&key), part)?;
                    last = Some(key);
                }
                _ => {
                    let keys: Vec<String> = kind.companions.iter().map(|key| key.replace('_', " ")).collect();
                    let first = part.part(0..1).text();
                    let near =
                        nearest(first, keys.iter().map(String::as_str)).map(|key| format!("nearest: {key}"));
                    let help = near.or_else(|| Some("a value with a comma in it needs quotes".to_owned()));
                    let what = format!("\"{}\" does not go with this column", part.text().escape_debug());
                    let expected = with_it(kind).into();
                    return Err(LineMistake { bytes: part.bytes(), what, expected, help });
                }
            }
        }
        Ok(())
    }

    /// Takes a slot of a form; the key that it is of.
    fn take(&mut self, part: Part<'_>, words: Words<'t, '_>) -> Result<Option<String>, LineMistake> {
        match part {
            Part::Word(_) => Ok(None),
            Part::Slot { key, kind } => {
                self.put(key, kind, words)?;
                Ok(Some(key.to_owned()))
            }
            Part::Given { key, value } => {
                let place = (self.filling.place_of)(words.bytes());
                let value = DeValue::String(value.to_owned().into());
                self.insert(key, Spanned::new(place, value), SlotKind::Words);
                Ok(Some(key.to_owned()))
            }
        }
    }

    /// Puts what some words say under a key.
    fn put(&mut self, key: &str, kind: SlotKind, words: Words<'t, '_>) -> Result<(), LineMistake> {
        let is_more_of_it = is_list(key, kind) || matches!(kind, SlotKind::Date | SlotKind::Operand);
        if self.table.contains_key(key) && !is_more_of_it {
            let what = format!("{} is there twice", key.replace('_', " "));
            return Err(LineMistake { bytes: words.bytes(), what, expected: "it once".into(), help: None });
        }
        let Filled { value, used, calendar } = kind.fill(words, self.filling)?;
        self.used.extend(used);
        self.calendars.extend(calendar);
        self.insert(key, value, kind);
        Ok(())
    }

    fn insert(&mut self, word: &str, value: Spanned<DeValue<'t>>, kind: SlotKind) {
        let known = self.table.remove(word);
        let value = match known {
            None if !is_list(word, kind) => value,
            known => with_one_more(known, value),
        };
        if !self.order.iter().any(|known| known == word) {
            self.order.push(word.to_owned());
        }
        let place = value.span();
        self.table.insert(Spanned::new(place, word.to_owned().into()), value);
    }
}

/// What goes with a kind, after a comma.
fn with_it(kind: &LineKind<'_>) -> String {
    let forms = kind.forms.iter().filter_map(|form| form.strip_prefix(", ")).map(shown);
    let keys = kind.companions.iter().map(|key| key.replace('_', " "));
    let all: Vec<String> = forms.chain(keys).collect();
    match all.is_empty() {
        true => "nothing after a comma".to_owned(),
        false => format!("after a comma {}", all.join(", ")),
    }
}

/// Whether a key has a list of what follows it, comma after comma.
fn is_list(key: &str, kind: SlotKind) -> bool {
    matches!((key, kind), ("edges" | "labels" | "first_of", _) | ("from", SlotKind::Number))
}

/// The parts of a definition, between commas.
fn parts_of<'t, 'w>(words: Words<'t, 'w>) -> impl Iterator<Item = Words<'t, 'w>> {
    let mut start = 0;
    let mut is_over = false;
    std::iter::from_fn(move || {
        if is_over {
            return None;
        }
        let comma = (start..words.len())
            .find(|place| words.words.get(*place).is_some_and(|word| word.kind == WordKind::Comma));
        let part = words.part(start..comma.unwrap_or(words.len()));
        is_over = comma.is_none();
        start = comma.map_or(words.len(), |comma| comma + 1);
        Some(part)
    })
}

/// The mistake of a definition that has no form, with the forms that are nearest.
fn no_form(head: Words<'_, '_>, kinds: &[LineKind<'_>]) -> LineMistake {
    const SHOWN: usize = 3;
    let forms = || kinds.iter().flat_map(|kind| kind.forms).filter(|form| !form.starts_with(','));
    let mut met: Vec<(usize, &str)> = forms().map(|form| (Form::of(form).words_met(head), *form)).collect();
    met.sort_by_key(|(met, _)| std::cmp::Reverse(*met));
    met.retain(|(met, _)| *met > 0);
    let shown_forms: Vec<String> = met.iter().take(SHOWN).map(|(_, form)| shown(form)).collect();
    let what = format!("\"{}\" is no definition of a column", head.text().escape_debug());
    let expected = match shown_forms.is_empty() {
        true => {
            let own: Vec<String> = forms().map(|form| shown(form)).collect();
            let (near, _) = nearest_words(head.text(), own.iter().map(String::as_str));
            Expected::Words(format!("{} …", near.join("; ")))
        }
        false => Expected::Words(shown_forms.join("; ")),
    };
    let help = "mild help lines lists the forms; a name with such words in it needs quotes".to_owned();
    LineMistake { bytes: head.bytes(), what, expected, help: Some(help) }
}
