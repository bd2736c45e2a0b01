//! What a day is to a calendar.

use crate::choice::chosen_by_word;

/// Whether a day is worked, and why not.
///
/// ```
/// use mild_ledger::{DayKind, WorkCalendar};
/// let week = WorkCalendar::rest_days_only(Default::default());
/// assert_eq!(week.kind_of("2026-10-03".parse()?)?, DayKind::RestDay);
/// # Ok::<(), mild_ledger::Error>(())
/// ```
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash)]
pub enum DayKind {
    /// A working day.
    Working,
    /// A working day because it was declared one: a rest day or a holiday otherwise.
    DeclaredWorking,
    /// A working day of which a holiday takes half.
    HalfDay,
    /// A rest day of the week.
    RestDay,
    /// A holiday.
    Holiday,
    /// A holiday that falls on a rest day and takes no working day off.
    HolidayOnRestDay,
}

impl DayKind {
    /// All six.
    pub const ALL: &'static [Self] = &[
        Self::Working,
        Self::DeclaredWorking,
        Self::HalfDay,
        Self::RestDay,
        Self::Holiday,
        Self::HolidayOnRestDay,
    ];

    /// Whether it is worked, be it half a day.
    ///
    /// ```
    /// assert!(mild_ledger::DayKind::DeclaredWorking.is_working());
    /// ```
    #[must_use]
    pub fn is_working(self) -> bool {
        matches!(self, Self::Working | Self::DeclaredWorking | Self::HalfDay)
    }

    /// The words for it.
    ///
    /// ```
    /// assert_eq!(mild_ledger::DayKind::HolidayOnRestDay.word(), "holiday on a rest day");
    /// ```
    #[must_use]
    pub fn word(self) -> &'static str {
        match self {
            Self::Working => "working day",
            Self::DeclaredWorking => "declared a working day",
            Self::HalfDay => "half a working day",
            Self::RestDay => "rest day",
            Self::Holiday => "holiday",
            Self::HolidayOnRestDay => "holiday on a rest day",
        }
    }
}

chosen_by_word!(DayKind, "a kind of day");
