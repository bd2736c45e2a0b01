//! A line as words: plain ones, names in quotes, and commas.

use std::ops::Range;

/// A word of a line with the bytes where it is.
#[derive(Debug, Clone, PartialEq, Eq)]
pub(super) struct Word {
    pub(super) kind: WordKind,
    pub(super) bytes: Range<usize>,
}

/// What a word is.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) enum WordKind {
    Plain,
    /// Between quotes, which its bytes include.
    Quoted,
    Comma,
    /// The first `=` outside quotes, after the name of a column.
    Equals,
}

/// A quote that is never closed, by its place.
#[derive(Debug, PartialEq, Eq)]
pub(super) struct OpenQuote(pub(super) usize);

/// The words of a line. A quote opens at the begin of a word, and the same quote closes it; a round bracket before or after a word is one of its own.
pub(super) fn words_of(line: &str) -> Result<Vec<Word>, OpenQuote> {
    let mut words: Vec<Word> = Vec::new();
    let mut rest = line.char_indices().peekable();
    while let Some((start, sign)) = rest.next() {
        let ends_after = |sign: char| start + sign.len_utf8();
        let (kind, end) = match sign {
            sign if sign.is_whitespace() => continue,
            ',' => (WordKind::Comma, ends_after(sign)),
            '=' if !words.iter().any(|word| word.kind == WordKind::Equals) => {
                (WordKind::Equals, ends_after(sign))
            }
            '"' | '\'' => match rest.find(|(_, other)| *other == sign) {
                Some((end, _)) => (WordKind::Quoted, end + sign.len_utf8()),
                None => return Err(OpenQuote(start)),
            },
            '(' => (WordKind::Plain, ends_after(sign)),
            sign => {
                let mut end = ends_after(sign);
                while let Some((at, next)) = rest.next_if(|(_, next)| !ends_a_word(*next)) {
                    end = at + next.len_utf8();
                }
                let word = line.get(start..end).unwrap_or_default();
                // A bracket that closes what another word opened is a word of its own.
                if word.len() > 1 && word.ends_with(')') && !word.contains('(') {
                    words.push(Word { kind: WordKind::Plain, bytes: start..end - 1 });
                    words.push(Word { kind: WordKind::Plain, bytes: end - 1..end });
                    continue;
                }
                (WordKind::Plain, end)
            }
        };
        words.push(Word { kind, bytes: start..end });
    }
    Ok(words)
}

fn ends_a_word(sign: char) -> bool {
    sign.is_whitespace() || matches!(sign, ',' | '=')
}

/// Some words of a line that follow each other.
#[derive(Debug, Clone, Copy)]
pub(super) struct Words<'t, 'w> {
    pub(super) line: &'t str,
    pub(super) words: &'w [Word],
}

impl<'t, 'w> Words<'t, 'w> {
    pub(super) fn len(self) -> usize {
        self.words.len()
    }

    /// Those from one place to another, the latter not included.
    pub(super) fn part(self, part: Range<usize>) -> Self {
        Self { words: self.words.get(part).unwrap_or_default(), ..self }
    }

    /// The bytes from the first to the last.
    pub(super) fn bytes(self) -> Range<usize> {
        match (self.words.first(), self.words.last()) {
            (Some(first), Some(last)) => first.bytes.start..last.bytes.end,
            _ => self.line.len()..self.line.len(),
        }
    }

    /// Their text as it is in the line.
    pub(super) fn text(self) -> &'t str {
        self.line.get(self.bytes()).unwrap_or_default()
    }

    /// What is inside the quotes, where they are one name in quotes.
    pub(super) fn quoted(self) -> Option<&'t str> {
        let [word] = self.words else { return None };
        let inside = self.text();
        (word.kind == WordKind::Quoted).then(|| inside.get(1..inside.len().saturating_sub(1)))?
    }

    /// The text, without the quotes of a name.
    pub(super) fn name(self) -> &'t str {
        self.quoted().unwrap_or_else(|| self.text())
    }

    /// Whether the word in a place is a plain one, in any case.
    pub(super) fn is(self, place: usize, word: &str) -> bool {
        let found = self.part(place..place.saturating_add(1));
        let is_plain = found.words.first().is_some_and(|word| word.kind == WordKind::Plain);
        is_plain && found.text().to_lowercase() == word
    }

    /// Whether the words from a place on are these.
    pub(super) fn are(self, place: usize, words: &[&str]) -> bool {
        words.iter().enumerate().all(|(nth, word)| self.is(place + nth, word))
    }
}
