//! Forms of a definition: words that are written as they are, and slots in braces.
//!
//! `{count} from {between} to {between} [on {calendar}]` has slots for keys of a plan, and a part in brackets that may be left out. A slot may name
//! what goes into it after a colon, where its key does not tell that. A slot with `=` takes no words: it says what its key is.

use super::slot::SlotKind;
use super::words::Words;
use std::ops::Range;

/// A part of a form.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) enum Part<'f> {
    Word(&'f str),
    Slot { key: &'f str, kind: SlotKind },
    Given { key: &'f str, value: &'f str },
}

/// A form, and what may follow it.
#[derive(Debug)]
pub(super) struct Form<'f> {
    parts: Vec<Part<'f>>,
    may_follow: Vec<Part<'f>>,
}

/// What a form makes of some words: each slot with the words in it.
#[derive(Debug, Clone, PartialEq, Eq)]
pub(super) struct Fit<'f> {
    pub(super) slots: Vec<(Part<'f>, Range<usize>)>,
    /// How closely the form describes the words: its own words in them, and its slots that do not take any words.
    pub(super) closeness: (usize, usize),
}

impl<'f> Form<'f> {
    /// The form that a text describes.
    pub(super) fn of(text: &'f str) -> Self {
        let (always, sometimes) = match text.split_once('[') {
            Some((always, rest)) => (always, rest.trim_end().trim_end_matches(']')),
            None => (text, ""),
        };
        Self { parts: parts_of(always), may_follow: parts_of(sometimes) }
    }

    /// How it fits all of some words, if it does.
    pub(super) fn fit(&self, words: Words<'_, '_>) -> Option<Fit<'f>> {
        let whole: Vec<Part<'f>> = self.parts.iter().chain(&self.may_follow).copied().collect();
        let longer = (!self.may_follow.is_empty()).then(|| fit_of(&whole, words)).flatten();
        longer.or_else(|| fit_of(&self.parts, words))
    }

    /// How many of its own words are among some words, in their order.
    pub(super) fn words_met(&self, words: Words<'_, '_>) -> usize {
        let mut place = 0;
        let mut met = 0;
        for part in &self.parts {
            if let Part::Word(word) = part
                && let Some(found) = (place..words.len()).find(|place| words.is(*place, word))
            {
                met += 1;
                place = found + 1;
            }
        }
        met
    }

    /// What goes under a key of it.
    pub(super) fn kind_of(&self, key: &str) -> Option<SlotKind> {
        self.parts.iter().chain(&self.may_follow).find_map(|part| match part {
            Part::Slot { key: known, kind } if *known == key => Some(*kind),
            _ => None,
        })
    }
}

/// A form as people read it: a name in capitals for each slot.
pub(crate) fn shown(form: &str) -> String {
    let (always, sometimes) =
        form.split_once('[').map_or((form, ""), |(always, rest)| (always, rest.trim_end_matches(']')));
    let said = |parts: Vec<Part<'_>>| {
        let said = parts.into_iter().filter_map(|part| match part {
            Part::Word(word) => Some(word.to_owned()),
            Part::Slot { key, kind } => Some(kind.name().map_or_else(|| key.to_uppercase(), str::to_owned)),
            Part::Given { .. } => None,
        });
        said.collect::<Vec<_>>().join(" ")
    };
    match (said(parts_of(always)), said(parts_of(sometimes))) {
        (always, sometimes) if sometimes.is_empty() => always,
        (always, sometimes) => format!("{always} [{sometimes}]"),
    }
}

/// The parts of a form: words, and what is in braces.
fn parts_of(text: &str) -> Vec<Part<'_>> {
    let mut parts = Vec::new();
    for (nth, piece) in text.split('{').enumerate() {
        let (slot, words) = match piece.split_once('}') {
            Some((slot, words)) if nth > 0 => (Some(slot), words),
            _ => (None, piece),
        };
        parts.extend(slot.map(|slot| match (slot.split_once('='), slot.split_once(':')) {
            (Some((key, value)), _) => Part::Given { key, value },
            (None, Some((key, kind))) => Part::Slot { key, kind: SlotKind::of(key, Some(kind)) },
            (None, None) => Part::Slot { key: slot, kind: SlotKind::of(slot, None) },
        }));
        parts.extend(words.split_whitespace().map(Part::Word));
    }
    parts
}

fn fit_of<'f>(parts: &[Part<'f>], words: Words<'_, '_>) -> Option<Fit<'f>> {
    let mut slots = Vec::new();
    let mut closeness = (0, 0);
    fits(parts, (words, 0), &mut slots).then_some(())?;
    for part in parts {
        match part {
            Part::Word(_) => closeness.0 += 1,
            Part::Slot { kind, .. } if kind.is_choosy() => closeness.1 += 1,
            _ => {}
        }
    }
    slots.reverse();
    Some(Fit { slots, closeness })
}

/// Whether parts fit all words from a place on; the slots are added, the last first. A slot takes the fewest words that leave the rest of the parts their
/// own, and one that takes certain words the most of them.
fn fits<'f>(
    parts: &[Part<'f>],
    (words, place): (Words<'_, '_>, usize),
    slots: &mut Vec<(Part<'f>, Range<usize>)>,
) -> bool {
    let Some((first, rest)) = parts.split_first() else { return place == words.len() };
    match first {
        Part::Word(word) => words.is(place, word) && fits(rest, (words, place + 1), slots),
        Part::Given { .. } => {
            let fit = fits(rest, (words, place), slots);
            if fit {
                slots.push((*first, place..place));
            }
            fit
        }
        Part::Slot { kind, .. } => {
            // Each part after it takes a word at least.
            let needed = rest.iter().filter(|part| !matches!(part, Part::Given { .. })).count();
            let last = words.len().saturating_sub(needed);
            let mut ends: Vec<usize> = (place + 1..=last).collect();
            if kind.is_choosy() {
                ends.reverse();
            }
            let fitting =
                |end: &usize| kind.accepts(words.part(place..*end)) && fits(rest, (words, *end), slots);
            let found = ends.into_iter().find(fitting);
            slots.extend(found.map(|end| (*first, place..end)));
            found.is_some()
        }
    }
}

#[cfg(test)]
mod tests {
    #![allow(clippy::unwrap_used, clippy::expect_used)] // a test fails by panicking

    use super::super::words::words_of;
    use super::*;

    fn fit(form: &str, line: &str) -> Option<Vec<(String, String)>> {
        let all = words_of(line).unwrap();
        let words = Words { line, words: &all };
        let fit = Form::of(form).fit(words)?;
        let named = |(part, range): (Part<'_>, Range<usize>)| match part {
            Part::Slot { key, .. } => (key.to_owned(), words.part(range).text().to_owned()),
            Part::Given { key, value } => (key.to_owned(), value.to_owned()),
            Part::Word(word) => (word.to_owned(), String::new()),
        };
        Some(fit.slots.into_iter().map(named).collect())
    }

    #[test]
    fn slots_take_the_fewest_words_that_fit() {
        const FORM: &str = "{count} from {between} to {between} [on {calendar}]";
        let found = |line: &str| {
            let slots = fit(FORM, line).unwrap();
            slots.into_iter().map(|(_, words)| words).collect::<Vec<_>>()
        };
        assert_eq!(found("days from A to B"), ["days", "A", "B"]);
        assert_eq!(
            found("Working Days FROM Hauled out to \"Back to water\" on yard"),
            ["Working Days", "Hauled out", "\"Back to water\"", "yard"]
        );
        // What may follow is left out where nothing follows.
        assert_eq!(found("days from Issued to Paid on"), ["days", "Issued", "Paid on"]);
        for line in ["days from A", "from A to B", "days from to B", "days \"from\" A to B", ""] {
            assert_eq!(fit(FORM, line), None, "{line}");
        }
    }

    #[test]
    fn a_slot_of_an_amount_of_time_takes_no_other_words() {
        assert!(fit("{from} + {shift}", "Issued + 2 months").is_some());
        assert!(fit("{from} + {shift}", "Issued + Days in working days").is_some());
        assert!(fit("{from} + {shift}", "Amount + Fee").is_none());
        assert!(fit("{from} + {shift}", "Amount + 2").is_none());
    }

    #[test]
    fn forms_are_shown_with_a_name_for_each_slot() {
        assert_eq!(
            shown("{count} from {between} to {between} [on {calendar}]"),
            "COUNT from DATE to DATE [on CALENDAR]"
        );
        assert_eq!(shown("{count} since {between} {between=as-of}"), "COUNT since DATE");
    }
}
