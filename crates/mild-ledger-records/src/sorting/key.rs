//! Values as bytes that order as the values do.

/// Which end of a column comes first; empty values come last in either.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(crate) enum Direction {
    SmallestFirst,
    LargestFirst,
}

impl Direction {
    /// What may come after the name of what is ordered by.
    pub(crate) const WORDS: [(&str, Self); 4] = [
        ("smallest first", Self::SmallestFirst),
        ("largest first", Self::LargestFirst),
        ("oldest first", Self::SmallestFirst),
        ("newest first", Self::LargestFirst),
    ];
}

/// A key of several values, each compared only where those before it are the same.
#[derive(Debug, Default)]
pub(crate) struct SortKey {
    bytes: Vec<u8>,
}

impl SortKey {
    pub(crate) fn clear(&mut self) {
        self.bytes.clear();
    }

    pub(crate) fn as_bytes(&self) -> &[u8] {
        &self.bytes
    }

    /// Empty values come after all others, whatever the direction.
    pub(crate) fn push_empty(&mut self) {
        self.bytes.push(1);
    }

    pub(crate) fn push_number(&mut self, number: i128, direction: Direction) {
        // With the sign bit turned over, the bytes of numbers order as the numbers do.
        let ordered = (number as u128 ^ (1 << 127)).to_be_bytes();
        self.push_value(ordered.into_iter(), direction);
    }

    /// Texts order without regard to case, and those that differ in it alone by their characters; a text comes before its
    /// own continuations.
    pub(crate) fn push_text(&mut self, text: &str, direction: Direction) {
        if !text.is_ascii() {
            self.push_characters(text.to_lowercase().as_bytes(), direction);
            self.push_number_of_kind(1, direction);
            self.push_characters(text.as_bytes(), direction);
            return;
        }
        // Most texts: their letters in one case, and after them a bit a letter for its own, which is shorter than the text
        // once more and orders as it does; never zero, so that nothing of it is escaped.
        let from = self.bytes.len() + 1;
        self.push_plain(text.as_bytes());
        self.bytes[from..].make_ascii_lowercase();
        if self.bytes[from..].contains(&0) {
            self.bytes.truncate(from - 1);
            self.push_characters(text.to_ascii_lowercase().as_bytes(), direction);
        } else {
            self.turn(from, direction);
            self.end_text(direction);
        }
        self.push_number_of_kind(0, direction);
        let cases = text.as_bytes().chunks(7).map(|letters| {
            letters.iter().enumerate().fold(128_u8, |cases, (nth, letter)| {
                cases | u8::from(!letter.is_ascii_uppercase()) << (6 - nth)
            })
        });
        self.push_value(cases.chain([0, 0]), direction);
    }

    fn push_number_of_kind(&mut self, kind: u8, direction: Direction) {
        self.push_value(std::iter::once(kind), direction);
    }

    /// Texts that are to be distinguished, in no order that matters.
    pub(crate) fn push_exact_text(&mut self, text: &str) {
        self.push_characters(text.as_bytes(), Direction::SmallestFirst);
    }

    fn push_characters(&mut self, text: &[u8], direction: Direction) {
        if !text.contains(&0) {
            let from = self.bytes.len() + 1;
            self.push_plain(text);
            self.turn(from, direction);
            self.end_text(direction);
            return;
        }
        let escaped = text.iter().copied().flat_map(|byte| match byte {
            0 => [Some(0), Some(255)],
            byte => [Some(byte), None],
        });
        self.push_value(escaped.flatten().chain([0, 0]), direction);
    }

    /// A value that is these bytes.
    fn push_plain(&mut self, text: &[u8]) {
        self.bytes.push(0);
        self.bytes.extend_from_slice(text);
    }

    /// Turns the bytes from a place on over where the largest come first.
    fn turn(&mut self, from: usize, direction: Direction) {
        if direction == Direction::LargestFirst {
            self.bytes[from..].iter_mut().for_each(|byte| *byte = !*byte);
        }
    }

    fn end_text(&mut self, direction: Direction) {
        let end = if direction == Direction::SmallestFirst { [0, 0] } else { [255, 255] };
        self.bytes.extend_from_slice(&end);
    }

    fn push_value(&mut self, bytes: impl Iterator<Item = u8>, direction: Direction) {
        self.bytes.push(0);
        match direction {
            Direction::SmallestFirst => self.bytes.extend(bytes),
            Direction::LargestFirst => self.bytes.extend(bytes.map(|byte| !byte)),
        }
    }
}

#[cfg(test)]
mod tests {
    use super::{Direction, SortKey};
    use proptest::prelude::*;

    proptest! {
        #[test]
        fn keys_order_as_their_values(
            a in (prop::option::of("[aA\0éÉ]{0,4}"), prop::option::of(any::<i128>())),
            b in (prop::option::of("[aA\0éÉ]{0,4}"), prop::option::of(any::<i128>())),
        ) {
            let key = |value: &(Option<String>, Option<i128>), direction| {
                let mut key = SortKey::default();
                match &value.0 {
                    Some(text) => key.push_text(text, direction),
                    None => key.push_empty(),
                }
                match value.1 {
                    Some(number) => key.push_number(number, direction),
                    None => key.push_empty(),
                }
                key.bytes
            };
            let cased = |text: &Option<String>| text.clone().map(|text| (text.to_lowercase(), text));
            // `None` last is the order of (is none, value).
            let up = |value: &(Option<String>, Option<i128>)| {
                (value.0.is_none(), cased(&value.0), value.1.is_none(), value.1)
            };
            let smallest = key(&a, Direction::SmallestFirst).cmp(&key(&b, Direction::SmallestFirst));
            prop_assert_eq!(smallest, up(&a).cmp(&up(&b)));
            let down = |value: &(Option<String>, Option<i128>)| {
                (value.0.is_none(), std::cmp::Reverse(cased(&value.0)), value.1.is_none(), std::cmp::Reverse(value.1))
            };
            let largest = key(&a, Direction::LargestFirst).cmp(&key(&b, Direction::LargestFirst));
            prop_assert_eq!(largest, down(&a).cmp(&down(&b)));
        }
    }
}
