//! The mistakes of a plan, each with its line and a caret under the word.

use super::Width;
use super::text::wrapped;
use crate::shown::{is_hidden, visible, width_of};
use mild_ledger_records::{PlanMistake, PlanMistakes};
use std::ops::Range;

/// Whether a message may be coloured.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Colour {
    /// To a terminal that accepts it.
    Allowed,
    /// To a file, a pipe, or where `NO_COLOR` is set.
    Off,
}

/// What comes before a line of the plan and before the words about it.
const INDENT: &str = "    ";
/// What shows that the beginning or the end of a line is left out.
const LEFT_OUT: &str = "…";
/// A piece of a line that is shown where the whole is wider than the terminal has room for.
const NARROWEST: usize = 20;

/// Every mistake: its file and line, what is wrong, the line with a caret under the word, what is right there, and what may
/// help. Words are broken at the width. Only the caret is coloured.
#[must_use]
pub fn mistakes(found: &PlanMistakes, (colour, width): (Colour, Width)) -> String {
    let file = found.file().display().to_string();
    let mut out = String::new();
    for mistake in found.mistakes() {
        let (line, _) = found.place_of(mistake);
        let title = format!("{}, line {line}: {}", visible(&file), visible(mistake.what()));
        out.push_str(&wrapped(&title, "", width));
        out.push_str(&pointed_at(found.source(), mistake, (colour, width)));
        let help = mistake.help().map(str::to_owned);
        for words in std::iter::once(mistake.expected().to_string()).chain(help) {
            out.push_str(&wrapped(&visible(&words), INDENT, width));
        }
        out.push('\n');
    }
    out
}

/// The line of a mistake, and a caret under each column of what is wrong; of a whole section, its first line.
fn pointed_at(source: &str, mistake: &PlanMistake, (colour, width): (Colour, Width)) -> String {
    let span = mistake.span();
    let from = span.start.min(source.len());
    let before = source.get(..from).unwrap_or(source);
    let begins = before.rfind('\n').map_or(0, |at| at + 1);
    let rest = source.get(begins..).unwrap_or_default();
    let line = rest.split('\n').next().unwrap_or_default().trim_end_matches('\r');
    let harmless: String = line.chars().map(harmless).collect();
    // The replaced characters are as many as before, so that a place is counted in characters.
    let characters = |bytes: usize| line.get(..bytes.min(line.len())).map_or(0, |text| text.chars().count());
    let wrong = characters(from - begins)..characters(span.end.saturating_sub(begins));
    let room = match width {
        Width::Columns(columns) => columns.saturating_sub(INDENT.len()).max(NARROWEST),
        Width::Unlimited => usize::MAX,
    };
    let (shown, before, marked) = piece(&harmless, wrong, room);
    let carets = "^".repeat(marked.max(1));
    let carets = match colour {
        Colour::Allowed => format!("\u{1b}[1;31m{carets}\u{1b}[0m"),
        Colour::Off => carets,
    };
    format!("{INDENT}{shown}\n{INDENT}{}{carets}\n", " ".repeat(before))
}

/// A line, or the piece of it around what is wrong, with the columns before that and the columns of it.
fn piece(line: &str, wrong: Range<usize>, room: usize) -> (String, usize, usize) {
    let characters: Vec<char> = line.trim_end().chars().collect();
    let text = |range: Range<usize>| -> String {
        characters
            .get(range.start.min(characters.len())..range.end.min(characters.len()))
            .unwrap_or_default()
            .iter()
            .collect()
    };
    let wrong = wrong.start..wrong.end.max(wrong.start);
    let (mut first, mut last) = (0, characters.len());
    if width_of(line) > room {
        // A few characters before the word keep it readable.
        first = wrong.start.saturating_sub(room / 3).min(characters.len());
        last = first;
        let mut taken = 2 * width_of(LEFT_OUT);
        while let Some(next) = characters.get(last) {
            taken += width_of(next.encode_utf8(&mut [0; 4]));
            if taken > room {
                break;
            }
            last += 1;
        }
    }
    let begin = if first > 0 { LEFT_OUT } else { "" };
    let end = if last < characters.len() { LEFT_OUT } else { "" };
    let before = width_of(begin) + width_of(&text(first..wrong.start));
    let marked = width_of(&text(wrong.start.min(last)..wrong.end.min(last)));
    (format!("{begin}{}{end}", text(first..last)), before, marked)
}

/// A character that would steer the terminal, or has no width of its own, becomes one that does neither.
fn harmless(character: char) -> char {
    match character {
        '\t' => ' ',
        hidden if is_hidden(hidden) => '?',
        shown => shown,
    }
}
