//! What is next to a pattern, so that its words mean one thing only.

use super::language::Language;
use crate::choice::chosen_by_word;
use crate::error::{Error, ErrorKind};
use alloc::format;

/// What is next to the words of a pattern: the language of names, the first year of years of two digits, and the day that
/// a month or quarter without one means.
///
/// ```
/// use mild_ledger::{Date, DatePattern, PatternSettings, PeriodDay, Reading, TimeOfDay};
/// let settings = PatternSettings::new().with_pivot(1960)?.with_day(PeriodDay::Last);
/// let pattern = DatePattern::with_settings("month/short-year", settings)?;
/// let reading = pattern.read("2/59")?;
/// assert_eq!(reading, Reading::Date { date: Date::new(2059, 2, 28)?, time: TimeOfDay::Absent });
/// # Ok::<(), mild_ledger::Error>(())
/// ```
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default)]
pub struct PatternSettings {
    pub(super) language: Language,
    pub(super) pivot: Option<i32>,
    pub(super) day: Option<PeriodDay>,
}

/// The day that a month or a quarter represents where it is written without one.
///
/// ```
/// assert_eq!("last".parse(), Ok(mild_ledger::PeriodDay::Last));
/// ```
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash)]
pub enum PeriodDay {
    /// The period's first day.
    First,
    /// The period's last day.
    Last,
}

impl PeriodDay {
    /// Both of them.
    pub const ALL: [Self; 2] = [Self::First, Self::Last];

    /// The word for it in plans.
    ///
    /// ```
    /// assert_eq!(mild_ledger::PeriodDay::First.word(), "first");
    /// ```
    #[must_use]
    pub fn word(self) -> &'static str {
        match self {
            Self::First => "first",
            Self::Last => "last",
        }
    }
}

chosen_by_word!(PeriodDay, "a day of a period");

impl PatternSettings {
    /// English names, no years of two digits, no periods in place of dates.
    ///
    /// ```
    /// assert_eq!(mild_ledger::PatternSettings::new(), mild_ledger::PatternSettings::default());
    /// ```
    #[must_use]
    pub fn new() -> Self {
        Self::default()
    }

    /// Names of months and weekdays in this language.
    ///
    /// ```
    /// use mild_ledger::{Language, PatternSettings};
    /// assert_ne!(PatternSettings::new().with_language(Language::Dutch), PatternSettings::new());
    /// ```
    #[must_use]
    pub fn with_language(self, language: Language) -> Self {
        Self { language, ..self }
    }

    /// The first of the hundred years that two digits can mean: with 1950, `49` is 2049 and `50` is 1950.
    ///
    /// # Errors
    /// [`ErrorKind::OutOfRange`] unless all hundred lie in the years 1 to 9999.
    ///
    /// ```
    /// use mild_ledger::PatternSettings;
    /// assert!(PatternSettings::new().with_pivot(1950).is_ok());
    /// assert!(PatternSettings::new().with_pivot(9950).is_err());
    /// ```
    pub fn with_pivot(self, first_year: i32) -> Result<Self, Error> {
        if (1..=9900).contains(&first_year) {
            return Ok(Self { pivot: Some(first_year), ..self });
        }
        let what = format!("{first_year} cannot be the first of a hundred years");
        Err(Error::new(ErrorKind::OutOfRange, what, "a year from 1 to 9900"))
    }

    /// The day that a month or a quarter without one represents.
    ///
    /// ```
    /// use mild_ledger::{DatePattern, PatternSettings, PeriodDay};
    /// let first = PatternSettings::new().with_day(PeriodDay::First);
    /// assert!(DatePattern::with_settings("quarter year", first)?.reads("Q3 2026"));
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn with_day(self, day: PeriodDay) -> Self {
        Self { day: Some(day), ..self }
    }
}
