//! Words that people use for ours, and keys that they look for in another part of a plan.

/// A word of everyday use, and ours.
const SAME: [(&str, &str); 50] = [
    ("average", "mean"),
    ("avg", "mean"),
    ("min", "smallest"),
    ("minimum", "smallest"),
    ("earliest", "smallest"),
    ("max", "largest"),
    ("maximum", "largest"),
    ("latest", "largest"),
    ("total", "sum"),
    ("unique", "distinct"),
    ("equals", "is"),
    ("equal", "is"),
    ("eq", "is"),
    ("not", "is_not"),
    ("not_equal", "is_not"),
    ("greater_than", "over"),
    ("more_than", "over"),
    ("above", "over"),
    ("less_than", "under"),
    ("below", "under"),
    ("minimum_of", "at_least"),
    ("maximum_of", "at_most"),
    ("empty", "blank"),
    ("if", "when"),
    ("otherwise", "else"),
    ("group_by", "by"),
    ("groups", "by"),
    ("sort", "order"),
    ("sort_by", "order_by"),
    ("filter", "select"),
    ("where", "select"),
    ("columns_across", "columns_by"),
    ("merge", "join"),
    ("lookup", "join"),
    ("both", "first-and-last"),
    ("inclusive", "first-and-last"),
    ("start", "first"),
    ("end", "last"),
    ("exclusive", "neither"),
    ("next", "following"),
    ("forward", "following"),
    ("previous", "preceding"),
    ("back", "preceding"),
    ("none", "unadjusted"),
    ("elapsed days", "days"),
    ("weekdays", "working days"),
    ("business days", "working days"),
    ("workdays", "working days"),
    ("months", "complete months"),
    ("years", "complete years"),
];

/// A key that belongs elsewhere, and the part that has it.
pub(crate) const ELSEWHERE: [(&str, &str); 14] = [
    ("rows", "[output]"),
    ("exceptions", "[output]"),
    ("receipt", "[output]"),
    ("report", "[output]"),
    ("order_by", "[output]"),
    ("dates_as", "[output]"),
    ("key", "[records]"),
    ("duplicates", "[records]"),
    ("header_line", "[records]"),
    ("separator", "[records]"),
    ("total_row", "[records]"),
    ("rest_days", "[calendar.…]"),
    ("covers", "[calendar.…]"),
    ("holidays", "[calendar.…]"),
];

/// Our word for one of everyday use, if it is among these.
pub(crate) fn ours_for<'w>(wrong: &str, mut words: impl Iterator<Item = &'w str>) -> Option<&'w str> {
    let wrong = wrong.trim().to_lowercase();
    let as_key = wrong.replace([' ', '-'], "_");
    let ours = SAME.iter().filter(|(word, _)| *word == wrong || *word == as_key).map(|(_, ours)| *ours);
    let ours: Vec<&str> = ours.collect();
    words.find(|word| ours.contains(word))
}

/// The part of a plan that has a key.
pub(crate) fn part_with(key: &str) -> Option<&'static str> {
    ELSEWHERE.iter().find(|(word, _)| *word == key).map(|(_, part)| *part)
}
