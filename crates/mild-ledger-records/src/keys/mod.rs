//! Keys that stand in several rows.

mod making;
mod repeats;
mod seen;

pub(crate) use making::{KeyMaker, KeySetting, MadeKeys, hash_of, put_hashed, put_key};
pub(crate) use repeats::{Decision, Decisions, FoundRepeats, KeyScan, RepeatSummary, row_of};

/// What to do with rows whose key stands in an earlier row.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(crate) enum Repeats {
    SetAside,
    Keep,
    First,
    Last,
    Sum,
}

pub(crate) const REPEATS: [(&str, Repeats); 5] = [
    ("set aside", Repeats::SetAside),
    ("keep", Repeats::Keep),
    ("first", Repeats::First),
    ("last", Repeats::Last),
    ("sum", Repeats::Sum),
];
