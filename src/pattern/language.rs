//! The languages in which months and weekdays are read by name.

use crate::choice::chosen_by_word;

/// A language of the names of months and weekdays.
///
/// ```
/// use mild_ledger::{DatePattern, Language, PatternSettings};
/// let german = PatternSettings::new().with_language(Language::German);
/// assert!(DatePattern::with_settings("day. month-name year", german)?.reads("30. März 2026"));
/// assert_eq!("german".parse(), Ok(Language::German));
/// # Ok::<(), mild_ledger::Error>(())
/// ```
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash, Default)]
#[non_exhaustive]
pub enum Language {
    /// The language where none is named.
    #[default]
    English,
    /// With the names of Austria.
    German,
    /// `1er` is read as a first day.
    French,
    /// `de` may be between the parts.
    Spanish,
    /// Italian.
    Italian,
    /// Dutch.
    Dutch,
    /// `de` may be between the parts.
    Portuguese,
}

impl Language {
    /// Every language, in the order in which messages list them.
    pub const ALL: [Self; 7] = [
        Self::English,
        Self::German,
        Self::French,
        Self::Spanish,
        Self::Italian,
        Self::Dutch,
        Self::Portuguese,
    ];

    /// The word for it in plans and messages.
    ///
    /// ```
    /// assert_eq!(mild_ledger::Language::Portuguese.word(), "portuguese");
    /// ```
    #[must_use]
    pub fn word(self) -> &'static str {
        match self {
            Self::English => "english",
            Self::German => "german",
            Self::French => "french",
            Self::Spanish => "spanish",
            Self::Italian => "italian",
            Self::Dutch => "dutch",
            Self::Portuguese => "portuguese",
        }
    }

    /// Whether a short word such as "de" may come after the spaces of a date.
    pub(super) fn has_linking_word(self) -> bool {
        matches!(self, Self::Spanish | Self::Portuguese)
    }

    /// Whether a quarter is written with a T, for trimestre.
    pub(super) fn has_trimesters(self) -> bool {
        matches!(self, Self::French | Self::Spanish | Self::Italian | Self::Portuguese)
    }
}

chosen_by_word!(Language, "a language of names");
