//! The keys a plan may hold, part by part, and those it will hold later.

/// The keys of one part of a plan.
pub(crate) struct Keys {
    /// What the part is called in messages.
    pub(crate) part: &'static str,
    pub(crate) known: &'static [&'static str],
    /// Keys of the format that this version does not do yet.
    pub(crate) later: &'static [&'static str],
}

pub(super) const TOP: Keys = Keys {
    part: "the plan",
    known: &["plan", "title", "as_of", "records", "select", "calendar", "column", "report", "output"],
    later: &["expect", "lookup"],
};

pub(super) const RECORDS: Keys = Keys {
    part: "[records]",
    known: &["file", "key", "repeats", "dates", "amounts", "longest_cell"],
    later: &["numbers", "sheet"],
};

pub(super) const DATE: Keys = Keys {
    part: "a date column",
    known: &["written", "required", "time", "zone"],
    later: &["blank", "pivot", "language", "fillers", "named"],
};

pub(super) const AMOUNT: Keys =
    Keys { part: "an amount column", known: &["decimals", "required"], later: &["currency"] };

pub(super) const CALENDAR: Keys =
    Keys { part: "[calendar.…]", known: &["rest_days", "covers", "holidays"], later: &[] };

pub(super) const CONDITION: Keys = Keys {
    part: "a condition",
    known: &["column", "is", "is_not", "over", "at_least", "under", "at_most", "blank", "any", "within"],
    later: &[],
};

pub(super) const COLUMN: Keys = Keys {
    part: "[[column]]",
    known: &[
        "name",
        "between",
        "count",
        "within",
        "ends",
        "month_end",
        "decimals",
        "rounding",
        "from",
        "shift",
        "weekday",
        "bucket",
        "edges",
        "when",
        "then",
        "else",
        "period",
        "of",
        "gives",
        "nearest",
        "away",
        "pattern",
        "fiscal_starts",
        "fiscal_named",
        "week_years",
        "week_starts",
        "field",
        "age",
        "on",
        "leap_day",
        "anniversary",
        "on_or_after",
        "tenure",
        "rate",
        "per",
        "smallest",
        "first_of",
        "working_day",
        "calendar",
        "roll",
        "sum",
        "difference",
        "product",
        "quotient",
    ],
    later: &["terms", "names", "dates_as"],
};

/// What a column can be, by the key that says so, with the keys that go with it.
pub(super) const COLUMN_KINDS: [(&str, &[&str]); 16] = [
    ("between", &["count", "within", "calendar", "ends", "month_end", "week_starts", "decimals", "rounding"]),
    ("from", &["shift", "month_end", "weekday", "roll", "calendar"]),
    ("bucket", &["edges"]),
    ("when", &["then", "else"]),
    (
        "period",
        &[
            "of",
            "gives",
            "nearest",
            "away",
            "pattern",
            "fiscal_starts",
            "fiscal_named",
            "week_years",
            "week_starts",
        ],
    ),
    ("field", &["of"]),
    ("age", &["on", "leap_day"]),
    ("anniversary", &["on_or_after", "gives", "leap_day"]),
    // A rate names its tenure, so it is looked for first.
    ("rate", &["tenure", "per", "smallest", "decimals", "rounding"]),
    ("tenure", &["count", "ends", "month_end", "week_starts", "decimals", "rounding"]),
    ("first_of", &[]),
    ("working_day", &["gives", "calendar"]),
    ("sum", &["decimals", "rounding"]),
    ("difference", &["decimals", "rounding"]),
    ("product", &["decimals", "rounding"]),
    ("quotient", &["decimals", "rounding"]),
];

pub(super) const REPORT: Keys = Keys {
    part: "[[report]]",
    known: &["kind", "title", "band", "amount", "issued", "paid", "by"],
    later: &["credits"],
};

pub(super) const OUTPUT: Keys = Keys {
    part: "[output]",
    known: &["rows", "exceptions", "columns", "order_by"],
    later: &["dates_as", "report"],
};

/// `shift` from a column.
pub(super) const SHIFT_BY: Keys =
    Keys { part: "an amount of time from a column", known: &["column", "unit"], later: &[] };

pub(super) const REFERENCE: Keys =
    Keys { part: "a column in place of a text", known: &["column"], later: &[] };

/// The word of a list nearest to a wrong one, if one is near.
pub(crate) fn nearest<'w>(wrong: &str, words: impl IntoIterator<Item = &'w str>) -> Option<&'w str> {
    let lower = wrong.to_lowercase();
    words
        .into_iter()
        .map(|word| (strsim::damerau_levenshtein(&lower, &word.to_lowercase()), word))
        .min_by_key(|(distance, _)| *distance)
        .filter(|(distance, word)| *distance <= 1 + word.chars().count().min(wrong.chars().count()) / 3)
        .map(|(_, word)| word)
}
