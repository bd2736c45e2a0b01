//! Keys that are in several rows.

mod duplicates;
mod making;
mod seen;

pub(crate) use duplicates::{Decision, Decisions, DuplicateSummary, FoundDuplicates, KeyScan, row_of};
pub(crate) use making::{KeyMaker, KeySetting, MadeKeys, hash_of, put_hashed, put_key};

/// What to do with rows whose key is in an earlier row.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(crate) enum Duplicates {
    SetAside,
    Keep,
    First,
    Last,
    Sum,
}

pub(crate) const DUPLICATES: [(&str, Duplicates); 5] = [
    ("set aside", Duplicates::SetAside),
    ("keep", Duplicates::Keep),
    ("first", Duplicates::First),
    ("last", Duplicates::Last),
    ("sum", Duplicates::Sum),
];
