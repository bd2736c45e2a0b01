//! The shapes of texts, so that a pattern that does not fit a shape is not tried on every text of it.

use alloc::collections::BTreeMap;

/// Shapes that are remembered; beyond them each text is tried as if it were the first of its shape.
const MOST: usize = 512;
/// No date is longer.
const LONGEST: usize = 96;

/// For each shape that was met, the patterns that may read a text of it.
#[derive(Debug, Clone, Default)]
pub(super) struct Shapes {
    masks: BTreeMap<u64, u128>,
}

impl Shapes {
    /// The patterns that may read a text, a bit each; `find` finds those for the first text of a shape.
    pub(super) fn mask_of(&mut self, text: &str, find: impl FnOnce() -> u128) -> u128 {
        let Some(shape) = shape_of(text) else { return 0 };
        if let Some(mask) = self.masks.get(&shape) {
            return *mask;
        }
        let mask = find();
        if self.masks.len() < MOST {
            self.masks.insert(shape, mask);
        }
        mask
    }
}

/// Whether a word is so long that it is not of the shape.
pub(super) fn has_long_word(text: &str) -> bool {
    text.split(|sign: char| !is_letter(sign)).any(|word| word.len() > OF_SHAPE)
}

/// The most bytes of a word that is of the shape itself, such as T, PM and de.
const OF_SHAPE: usize = 3;

fn is_letter(sign: char) -> bool {
    sign.is_alphabetic() || matches!(sign, '\u{300}'..='\u{36f}')
}

/// A number for the shape of a text: where its digits, long words and other characters are. `None` for what no candidate reads: it
/// has no year of four digits in it.
fn shape_of(text: &str) -> Option<u64> {
    if text.len() > LONGEST {
        return None;
    }
    let mut shape = 0xcbf2_9ce4_8422_2325_u64;
    let mut take = |byte: u8| shape = (shape ^ u64::from(byte)).wrapping_mul(0x0100_0000_01b3);
    let mut has_year = false;
    let mut rest = text;
    while let Some(first) = rest.chars().next() {
        let length = |is: fn(char) -> bool| rest.find(|sign| !is(sign)).unwrap_or(rest.len());
        let length = if first.is_ascii_digit() {
            let count = length(|sign| sign.is_ascii_digit());
            has_year |= count == 4 || count == 8;
            take(b'0');
            take(count as u8);
            count
        } else if is_letter(first) {
            let count = length(is_letter);
            // Long ones may be names.
            match count {
                0..=OF_SHAPE => rest.bytes().take(count).for_each(&mut take),
                _ => take(b'a'),
            }
            count
        } else {
            // Spaces of any width are alike.
            let sign = if first.is_whitespace() { b' ' } else { first as u32 as u8 };
            take(sign);
            first.len_utf8()
        };
        rest = rest.get(length..).unwrap_or_default();
    }
    has_year.then_some(shape)
}

#[cfg(test)]
mod tests {
    use super::shape_of;

    #[test]
    fn shapes_are_those_of_digits_and_signs() {
        assert_eq!(shape_of("30/09/2026"), shape_of("01/12/1999"));
        assert_ne!(shape_of("30/09/2026"), shape_of("1/12/1999"));
        assert_ne!(shape_of("30/09/2026"), shape_of("30-09-2026"));
        assert_eq!(shape_of("3 September 2026"), shape_of("3 November 1999"));
        assert_ne!(shape_of("2026-09-30T10:00"), shape_of("2026-09-30 10:00"));
        assert_eq!(shape_of("Heron Charters"), None);
        assert_eq!(shape_of("30/09/26"), None);
    }
}
