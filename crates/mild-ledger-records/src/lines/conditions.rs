//! `Amount over 500 and Paid is blank`: conditions in words, as the tables of a plan that say the same.

use super::values::{
    AS_OF, SlotMistake, UsedAs, UsedColumn, column_of, date_of, key, number_of, reference, text_of,
};
use super::words::{OpenQuote, Words, words_of};
use crate::mistakes::{LineText, Mistakes, nearest};
use std::ops::Range;
use toml::Spanned;
use toml::de::{DeArray, DeTable, DeValue};

/// A word of conditions: as a line has it, the key that a plan has for it, and what follows it.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(crate) struct ConditionWord {
    pub(crate) words: &'static str,
    pub(crate) key: &'static str,
    pub(crate) compares: Compares,
}

/// What a word of conditions compares a cell with.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(crate) enum Compares {
    /// A text, a number, a date or a column.
    Value,
    /// Words of a stretch of days.
    Days,
    /// The same, by their order.
    Order,
    /// Texts, with `or` between them.
    Texts,
    /// Nothing: it holds, or does not.
    Holds(Holds),
}

/// Whether what a word asks for must hold.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(crate) enum Holds {
    Yes,
    No,
}

/// The words of conditions, of which one that begins with another comes before it.
#[derive(Debug, Clone, Copy)]
pub(crate) struct LineCondition<'c> {
    pub(crate) words: &'c [ConditionWord],
}

/// What is needed to fill a slot: the place of bytes of the line in the text of the plan, and the words of conditions.
#[derive(Clone, Copy)]
pub(super) struct Filling<'f> {
    pub(super) place_of: &'f dyn Fn(Range<usize>) -> Range<usize>,
    pub(super) conditions: LineCondition<'f>,
}

/// The conditions of a line that holds nothing else, and the columns that they name; `None` where a mistake was reported.
pub(crate) fn condition_tables<'t>(
    mistakes: &mut Mistakes,
    line: &LineText<'t>,
    conditions: LineCondition<'_>,
) -> Option<(Spanned<DeValue<'t>>, Vec<UsedColumn>)> {
    let all = match words_of(line.text) {
        Ok(all) => all,
        Err(OpenQuote(at)) => {
            mistakes.tell(line.place_of(at..at + 1), "this quote is not closed", "the same quote once more");
            return None;
        }
    };
    let place_of = |bytes: Range<usize>| line.place_of(bytes);
    let filling = Filling { place_of: &place_of, conditions };
    match read_line_conditions(Words { line: line.text, words: &all }, filling) {
        Ok(read) => Some(read),
        Err(wrong) => {
            mistakes.tell_with_help(line.place_of(wrong.bytes), wrong.what, wrong.expected, wrong.help);
            None
        }
    }
}

/// Conditions with `and` between them; each may have alternatives in round brackets with `or` between them.
pub(super) fn read_line_conditions<'t>(
    words: Words<'t, '_>,
    filling: Filling<'_>,
) -> Result<(Spanned<DeValue<'t>>, Vec<UsedColumn>), SlotMistake> {
    let place = (filling.place_of)(words.bytes());
    let (mut list, mut used) = (DeArray::new(), Vec::new());
    let all = split(words, "and");
    let is_alone = all.len() == 1;
    for one in all {
        let group = group_of(one);
        let alternatives = alternatives(group.unwrap_or(one), filling);
        if let [_, ..] = alternatives.get(1..).unwrap_or_default() {
            if group.is_none() && !is_alone {
                return Err(SlotMistake {
                    bytes: one.bytes(),
                    what: "and, or: which of them goes first is not known".to_owned(),
                    expected: "alternatives in brackets, such as (Amount over 500 or Paid is blank) and Site is Quay".to_owned(),
                    help: None,
                });
            }
            let mut any = DeArray::new();
            for alternative in &alternatives {
                let (table, names) = read_one(*alternative, filling)?;
                used.extend(names);
                any.push(table);
            }
            let at = (filling.place_of)(one.bytes());
            let mut table = DeTable::new();
            table.insert(key("any", &at), Spanned::new(at.clone(), DeValue::Array(any)));
            list.push(Spanned::new(at, DeValue::Table(table)));
            continue;
        }
        let (table, names) = read_one(group.unwrap_or(one), filling)?;
        used.extend(names);
        list.push(table);
    }
    Ok((Spanned::new(place, DeValue::Array(list)), used))
}

/// Conditions with `or` between them; a text after one of several texts is one more of them.
fn alternatives<'t, 'w>(words: Words<'t, 'w>, filling: Filling<'_>) -> Vec<Words<'t, 'w>> {
    let mut all: Vec<Words<'t, 'w>> = Vec::new();
    let mut start = 0;
    for part in split(words, "or") {
        let end = part.words.len();
        match all.last_mut() {
            Some(before) if word_of(part, filling).is_none() => {
                let first = start - 1 - before.len();
                *before = words.part(first..start + end);
            }
            _ => all.push(part),
        }
        start += end + 1;
    }
    all
}

/// The first word of conditions among some words after the first, and its place.
fn word_of(words: Words<'_, '_>, filling: Filling<'_>) -> Option<(usize, ConditionWord)> {
    let known = filling.conditions.words;
    (1..words.len()).find_map(|place| {
        let is_it = |word: &&ConditionWord| words.are(place, &word.words.split(' ').collect::<Vec<_>>());
        Some((place, *known.iter().find(is_it)?))
    })
}

/// The words between those that are this one, outside round brackets.
fn split<'t, 'w>(words: Words<'t, 'w>, at: &str) -> Vec<Words<'t, 'w>> {
    let mut parts = Vec::new();
    let (mut start, mut depth) = (0, 0_usize);
    for place in 0..words.len() {
        let word = words.part(place..place + 1);
        if word.quoted().is_some() {
            continue;
        }
        match word.text() {
            "(" => depth += 1,
            ")" => depth = depth.saturating_sub(1),
            _ => {}
        }
        if depth == 0 && words.is(place, at) {
            parts.push(words.part(start..place));
            start = place + 1;
        }
    }
    parts.push(words.part(start..words.len()));
    parts
}

/// What is inside round brackets, where all of it is.
fn group_of<'t, 'w>(words: Words<'t, 'w>) -> Option<Words<'t, 'w>> {
    let text = |place: usize| words.part(place..place + 1).text();
    let last = words.len().checked_sub(1)?;
    let mut depth = 0_usize;
    for place in 0..last {
        match text(place) {
            "(" => depth += 1,
            ")" => depth = depth.saturating_sub(1),
            _ => {}
        }
        // The bracket that the first word opens is closed before the last.
        if depth == 0 {
            return None;
        }
    }
    (text(last) == ")" && depth == 1).then(|| words.part(1..last))
}

/// The key of a condition on cells that could not be read, which texts never are.
const UNREADABLE: &str = "unreadable";

/// One condition, and the columns that it compares.
fn read_one<'t>(
    words: Words<'t, '_>,
    filling: Filling<'_>,
) -> Result<(Spanned<DeValue<'t>>, Vec<UsedColumn>), SlotMistake> {
    let wrong = |bytes: Range<usize>, what: String, expected: &str| SlotMistake {
        bytes,
        what,
        expected: expected.to_owned(),
        help: None,
    };
    let known = filling.conditions.words;
    let split_words = |word: &ConditionWord| word.words.split(' ').collect::<Vec<_>>();
    let found = word_of(words, filling);
    let Some((at, word)) = found else {
        let mut all: Vec<&str> = known.iter().map(|word| word.words).collect();
        all.sort_unstable();
        let what = format!("\"{}\" is not a condition", words.text().escape_debug());
        let expected = format!("a column, and {}", all.join(", "));
        let near = (1..words.len())
            .find_map(|place| nearest(words.part(place..place + 1).text(), all.iter().copied()));
        let help = near.map(|word| format!("nearest: {word}"));
        return Err(SlotMistake { help, ..wrong(words.bytes(), what, &expected) });
    };
    let column = words.part(0..at);
    let mut operand = words.part(at + split_words(&word).len()..words.len());
    const ANY_CASE: [&str; 3] = ["in", "any", "case"];
    let compares_texts = matches!(word.compares, Compares::Texts | Compares::Value);
    let before_case = operand.len().checked_sub(ANY_CASE.len()).filter(|length| *length > 0);
    let in_any_case = before_case.filter(|length| compares_texts && operand.are(*length, &ANY_CASE));
    if let Some(length) = in_any_case {
        operand = operand.part(0..length);
    }
    let place = (filling.place_of)(words.bytes());
    let operand_place = (filling.place_of)(if operand.len() == 0 { words.bytes() } else { operand.bytes() });
    let at = |value: DeValue<'t>| Spanned::new(operand_place.clone(), value);
    let (mut used_as, mut others) = (UsedAs::Anything, Vec::new());
    if word.key == UNREADABLE {
        used_as = UsedAs::Ordered;
    }
    let value = match word.compares {
        Compares::Holds(_) if operand.len() > 0 => {
            return Err(wrong(
                operand.bytes(),
                format!("{} compares with nothing", word.words),
                "and, or nothing more",
            ));
        }
        Compares::Holds(holds) => DeValue::Boolean(holds == Holds::Yes),
        _ if operand.len() == 0 => {
            return Err(wrong(
                words.bytes(),
                format!("{} compares with nothing here", word.words),
                "a value after it",
            ));
        }
        Compares::Days => {
            used_as = UsedAs::Dates;
            DeValue::String(operand.name().to_lowercase().into())
        }
        Compares::Texts => {
            let texts = split(group_of(operand).unwrap_or(operand), "or");
            let mut list = DeArray::new();
            for text in &texts {
                list.push(Spanned::new((filling.place_of)(text.bytes()), text_of(text.name())));
            }
            match texts.as_slice() {
                [one] => text_of(one.name()),
                _ => DeValue::Array(list),
            }
        }
        Compares::Value | Compares::Order => {
            let text = operand.text();
            let plain = operand.quoted().is_none();
            if let Some(number) = number_of(text).filter(|_| plain) {
                used_as = UsedAs::Numbers;
                number
            } else if let Some(date) = date_of(text).filter(|_| plain) {
                used_as = UsedAs::Dates;
                date
            } else if plain && text.to_lowercase() == AS_OF {
                used_as = UsedAs::Dates;
                text_of(AS_OF)
            } else if let Some(other) = column_of(operand) {
                if word.compares == Compares::Order {
                    used_as = UsedAs::Ordered;
                }
                others.push(UsedColumn { name: other.name().to_owned(), used_as });
                reference(other, &operand_place)
            } else {
                text_of(operand.name())
            }
        }
    };
    let mut table = DeTable::new();
    table.insert(
        key("column", &place),
        Spanned::new((filling.place_of)(column.bytes()), text_of(column.name())),
    );
    table.insert(key(word.key, &place), at(value));
    if in_any_case.is_some() {
        table.insert(key("any_case", &place), Spanned::new(place.clone(), DeValue::Boolean(true)));
    }
    let mut used = vec![UsedColumn { name: column.name().to_owned(), used_as }];
    used.extend(others);
    Ok((Spanned::new(place, DeValue::Table(table)), used))
}
