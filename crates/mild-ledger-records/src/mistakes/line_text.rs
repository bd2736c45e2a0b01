//! A text that is read by a grammar of its own, and where it is in the text around it.

use std::ops::Range;

/// A line, and its place in the text around it.
#[derive(Debug, Clone)]
pub(crate) struct LineText<'t> {
    pub(crate) text: &'t str,
    place: LinePlace,
}

/// Where a line is.
#[derive(Debug, Clone)]
enum LinePlace {
    /// Its bytes begin here and are the same there.
    From(usize),
    /// Its bytes are written otherwise there, with escapes, so that no part of it has a place of its own.
    Within(Range<usize>),
}

impl<'t> LineText<'t> {
    /// A line that is the whole text.
    pub(crate) fn whole(text: &'t str) -> Self {
        Self { text, place: LinePlace::From(0) }
    }

    /// A line that is a string of a TOML text.
    pub(crate) fn of_string(text: &'t str, source: &str, string: Range<usize>) -> Self {
        let written = source.get(string.clone()).unwrap_or_default();
        let marks = ["\"\"\"", "'''", "\"", "'"];
        let mark = marks.into_iter().find(|mark| written.starts_with(mark)).map_or(0, str::len);
        let inside = written.get(mark..written.len().saturating_sub(mark));
        let place = match inside == Some(text) {
            true => LinePlace::From(string.start + mark),
            false => LinePlace::Within(string),
        };
        Self { text, place }
    }

    /// The place of a part of the line.
    pub(crate) fn place_of(&self, part: Range<usize>) -> Range<usize> {
        match &self.place {
            LinePlace::From(start) => start + part.start..start + part.end,
            LinePlace::Within(string) => string.clone(),
        }
    }

    /// The part of the line at a place; all of it where parts have no places.
    pub(crate) fn part_at(&self, place: &Range<usize>) -> Range<usize> {
        let end = self.text.len();
        match &self.place {
            LinePlace::From(start) => {
                place.start.saturating_sub(*start).min(end)..place.end.saturating_sub(*start).min(end)
            }
            LinePlace::Within(_) => 0..end,
        }
    }

    /// The place of all of it.
    pub(crate) fn place(&self) -> Range<usize> {
        self.place_of(0..self.text.len())
    }
}
