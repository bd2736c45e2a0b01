//! What half days count as.

use super::day::DayKind;
use crate::choice::chosen_by_word;
use crate::date::Date;
use crate::error::Error;
use crate::number::Decimal;
use alloc::vec::Vec;

/// What a day counts as of which a holiday takes half.
///
/// Moves by working days, rolls, numbers in a month and shares of a target know whole days alone: to them a half day that is not
/// closed is a working day.
///
/// ```
/// assert_eq!(mild_ledger::HalfDays::default().word(), "open");
/// ```
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash, Default)]
pub enum HalfDays {
    /// A working day like any other. The default.
    #[default]
    Open,
    /// A holiday.
    Closed,
    /// Half a working day.
    Half,
}

impl HalfDays {
    /// All three.
    pub const ALL: [Self; 3] = [Self::Open, Self::Closed, Self::Half];

    /// The word for it.
    ///
    /// ```
    /// assert_eq!(mild_ledger::HalfDays::Half.word(), "half");
    /// ```
    #[must_use]
    pub fn word(self) -> &'static str {
        match self {
            Self::Open => "open",
            Self::Closed => "closed",
            Self::Half => "half",
        }
    }
}

chosen_by_word!(HalfDays, "what half days count as");

/// Working days, negative or not, of which some are half days, as those count.
pub(super) fn in_days(whole: i64, halves: i64, half_days_as: HalfDays) -> Result<Decimal, Error> {
    let whole_days = i128::from(whole);
    let halves = i128::from(if whole < 0 { -halves } else { halves });
    match half_days_as {
        HalfDays::Half => Decimal::of_units((whole_days * 2 - halves) * 5, 1),
        HalfDays::Open | HalfDays::Closed => Decimal::of_units(whole_days, 0),
    }
}

/// The half days among some days from a first on.
pub(super) fn half_days_of(first: i32, kinds: &[DayKind]) -> Vec<Date> {
    let days = (first..).zip(kinds).filter(|(_, kind)| **kind == DayKind::HalfDay);
    days.filter_map(|(day, _)| Date::in_range(day.into())).collect()
}
