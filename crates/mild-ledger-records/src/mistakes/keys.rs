//! The keys that one part of a file may hold.

/// The keys of one part of a plan or a calendar.
pub(crate) struct Keys<'k> {
    /// What the part is called in messages.
    pub(crate) part: &'static str,
    pub(crate) known: &'k [&'k str],
    /// Keys of the format that this version does not do yet.
    pub(crate) later: &'k [&'k str],
}
