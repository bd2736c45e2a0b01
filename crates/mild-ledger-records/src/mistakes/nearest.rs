//! The right words that are nearest to a wrong one.

use super::everyday::ours_for;

/// How many words are shown of a longer list.
const SHOWN: usize = 3;

/// The word of a list nearest to a wrong one, if one is near.
pub(crate) fn nearest<'w>(wrong: &str, words: impl IntoIterator<Item = &'w str>) -> Option<&'w str> {
    let lower = wrong.to_lowercase();
    let length = wrong.chars().count();
    let words: Vec<&str> = words.into_iter().collect();
    if let Some(ours) = ours_for(wrong, words.iter().copied()) {
        return Some(ours);
    }
    words
        .into_iter()
        .filter_map(|word| {
            let farthest = 1 + word.chars().count().min(length) / 3;
            // Words of very different lengths cannot be near, and need not be compared letter by letter.
            let apart = word.chars().count().abs_diff(length);
            (apart <= farthest)
                .then(|| (strsim::damerau_levenshtein(&lower, &word.to_lowercase()), farthest, word))
        })
        .filter(|(distance, farthest, _)| distance <= farthest)
        .min_by_key(|(distance, ..)| *distance)
        .map(|(.., word)| word)
}

/// The word of a list that a wrong one represents: of everyday use, or mistyped; `None` where none is near.
///
/// ```
/// use mild_ledger_records::nearest_word;
/// assert_eq!(nearest_word("average", ["sum", "mean", "median"]), Some("mean"));
/// assert_eq!(nearest_word("medain", ["sum", "mean", "median"]), Some("median"));
/// assert_eq!(nearest_word("keel", ["sum", "mean", "median"]), None);
/// ```
#[must_use]
pub fn nearest_word<'w>(wrong: &str, words: impl IntoIterator<Item = &'w str>) -> Option<&'w str> {
    nearest(wrong, words)
}

/// The few words of a list that are nearest to a wrong one, near or not, and whether there are more.
///
/// ```
/// let words = ["days", "complete months", "fractional years", "parts", "calendar months", "working days"];
/// assert_eq!(mild_ledger_records::nearest_words("day", words).0.first(), Some(&"days"));
/// ```
pub fn nearest_words<'w>(wrong: &str, words: impl IntoIterator<Item = &'w str>) -> (Vec<&'w str>, bool) {
    let lower = wrong.to_lowercase();
    let words: Vec<&str> = words.into_iter().collect();
    let ours = ours_for(wrong, words.iter().copied());
    let mut all: Vec<(usize, &str)> = words
        .into_iter()
        .map(|word| {
            if Some(word) == ours {
                return (0, word);
            }
            let word_lower = word.to_lowercase();
            // A word that begins like it, or holds it, is nearer than one that happens to be as long.
            let bonus =
                usize::from(!word_lower.starts_with(&lower)) + usize::from(!word_lower.contains(&lower));
            (strsim::damerau_levenshtein(&lower, &word_lower) + 3 * bonus, word)
        })
        .collect();
    if all.len() <= SHOWN + 2 {
        return (all.into_iter().map(|(_, word)| word).collect(), false);
    }
    all.sort_by_key(|(distance, _)| *distance);
    (all.into_iter().take(SHOWN).map(|(_, word)| word).collect(), true)
}

/// Words in quotes, with commas between them.
pub(crate) fn in_quotes<'w>(words: impl IntoIterator<Item = &'w str>) -> String {
    let quoted: Vec<String> = words.into_iter().map(|word| format!("\"{}\"", word.escape_debug())).collect();
    quoted.join(", ")
}
