//! Stretches of days named from today: `last month`, `last 12 months`, `quarter to date`.

use super::{DateRange, PeriodRule};
use crate::date::{Date, Weekday};
use crate::error::{Error, ErrorKind, quoted};
use crate::shift::{Shift, Unit};
use alloc::format;
use alloc::vec::Vec;
use core::fmt;
use core::str::FromStr;

/// Days named relative to today, which the caller supplies: the library reads no clock.
///
/// Read from `today`, `yesterday`, `tomorrow`; from `last`, `this` or `next` and `week`, `month`, `quarter`,
/// `half-year` or `year` (the whole calendar period; weeks start on Monday); from `last N` or `next N` and days,
/// weeks, months and so on (that many, ending today or beginning tomorrow); from `last N whole` or `next N whole` and weeks,
/// months and so on (calendar periods before or after the one that holds today); and from a period `to date` (from its
/// first day to today, included). In any case.
///
/// ```
/// use mild_ledger::NamedWindow;
///
/// let today = "2026-09-30".parse()?;
/// let days = |name: &str| -> Result<String, mild_ledger::Error> {
///     Ok(name.parse::<NamedWindow>()?.seen_from(today)?.to_string())
/// };
/// assert_eq!(days("last month")?, "2026-08-01 to 2026-08-31");
/// assert_eq!(days("last 12 months")?, "2025-10-01 to 2026-09-30");
/// assert_eq!(days("next 2 weeks")?, "2026-10-01 to 2026-10-14");
/// assert_eq!(days("next 2 whole months")?, "2026-10-01 to 2026-11-30");
/// assert_eq!(days("last 2 whole weeks")?, "2026-09-14 to 2026-09-27");
/// assert_eq!(days("quarter to date")?, "2026-07-01 to 2026-09-30");
/// # Ok::<(), mild_ledger::Error>(())
/// ```
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub struct NamedWindow {
    name: Name,
}

#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
enum Name {
    /// The calendar period so many away, of days too.
    Whole { away: i32, unit: Unit },
    /// Some whole calendar periods: those before the one that today lies in, or after it.
    WholePeriods { first_away: i32, count: i32, unit: Unit },
    /// A number of units up to and including today.
    Last { count: i32, unit: Unit },
    /// A number of units after today.
    Next { count: i32, unit: Unit },
    /// From the period's first day up to and including today.
    ToDate(Unit),
}

impl NamedWindow {
    /// The days that are meant when today is this date.
    ///
    /// # Errors
    /// [`ErrorKind::OutOfRange`] where one lies outside the years 0001 to 9999.
    ///
    /// ```
    /// use mild_ledger::{Date, NamedWindow};
    /// assert!("next week".parse::<NamedWindow>()?.seen_from(Date::MAX).is_err());
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    pub fn seen_from(self, today: Date) -> Result<DateRange, Error> {
        let day = |days| Shift::days(days);
        match self.name {
            Name::Whole { away, unit: Unit::Day } => {
                let date = day(away).apply(today)?;
                DateRange::new(date, date)
            }
            Name::Whole { away, unit } => {
                let period = rule_of(unit).containing(today).away(i64::from(away))?;
                DateRange::new(period.first_day()?, period.last_day()?)
            }
            Name::WholePeriods { first_away, count, unit } => {
                let last_away = i64::from(first_away) + i64::from(count) - 1;
                let period = rule_of(unit).containing(today);
                DateRange::new(
                    period.away(i64::from(first_away))?.first_day()?,
                    period.away(last_away)?.last_day()?,
                )
            }
            Name::Last { count, unit } => {
                // From the day after today moved back, so that a year back from a month end is twelve whole months.
                let tomorrow = day(1).apply(today)?;
                DateRange::new(Shift::of(-count, unit).apply(tomorrow)?, today)
            }
            Name::Next { count, unit } => {
                let tomorrow = day(1).apply(today)?;
                let end = Shift::of(count, unit).apply(tomorrow)?;
                DateRange::new(tomorrow, day(-1).apply(end)?)
            }
            Name::ToDate(unit) => DateRange::new(rule_of(unit).containing(today).first_day()?, today),
        }
    }
}

fn rule_of(unit: Unit) -> PeriodRule {
    match unit {
        Unit::Day | Unit::Week => PeriodRule::Week(Weekday::Monday),
        Unit::Month => PeriodRule::Month,
        Unit::Quarter => PeriodRule::Quarter,
        Unit::HalfYear => PeriodRule::HalfYear,
        Unit::Year => PeriodRule::Year,
    }
}

impl FromStr for NamedWindow {
    type Err = Error;

    fn from_str(text: &str) -> Result<Self, Error> {
        let unknown = || {
            Error::new(
                ErrorKind::Unreadable,
                format!("{} is not a named stretch of days", quoted(text)),
                "today, yesterday, tomorrow, last|this|next week|month|quarter|half-year|year, last|next N days|weeks|months…, last|next N whole weeks|months…, month|quarter|year to date",
            )
        };
        let lower = text.to_lowercase();
        let words: Vec<&str> = lower.split_whitespace().collect();
        let period = |word: &str| {
            Unit::ALL
                .into_iter()
                .find(|unit| *unit != Unit::Day && unit.singular() == word)
                .ok_or_else(unknown)
        };
        let count = |word: &str| word.parse().ok().filter(|count: &i32| *count >= 1).ok_or_else(unknown);
        let whole = |away, unit| Name::Whole { away, unit };
        let name = match words.as_slice() {
            ["today"] => whole(0, Unit::Day),
            ["yesterday"] => whole(-1, Unit::Day),
            ["tomorrow"] => whole(1, Unit::Day),
            ["last", unit] => whole(-1, period(unit)?),
            ["this", unit] => whole(0, period(unit)?),
            ["next", unit] => whole(1, period(unit)?),
            ["last", number, unit] => {
                Name::Last { count: count(number)?, unit: unit.parse().map_err(|_| unknown())? }
            }
            ["next", number, unit] => {
                Name::Next { count: count(number)?, unit: unit.parse().map_err(|_| unknown())? }
            }
            [which @ ("last" | "next"), number, "whole", unit] => {
                let unit: Unit = unit.parse().map_err(|_| unknown())?;
                let count = count(number)?;
                if unit == Unit::Day {
                    return Err(unknown());
                }
                let first_away = if *which == "last" { -count } else { 1 };
                Name::WholePeriods { first_away, count, unit }
            }
            [unit, "to", "date"] => Name::ToDate(period(unit)?),
            _ => return Err(unknown()),
        };
        Ok(Self { name })
    }
}

impl fmt::Display for NamedWindow {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        match self.name {
            Name::Whole { away, unit: Unit::Day } => f.pad(match away {
                0 => "today",
                ..0 => "yesterday",
                _ => "tomorrow",
            }),
            Name::Whole { away, unit } => {
                let which = match away {
                    0 => "this",
                    ..0 => "last",
                    _ => "next",
                };
                f.pad(&format!("{which} {unit}"))
            }
            Name::WholePeriods { first_away, count, unit } => {
                let which = if first_away < 0 { "last" } else { "next" };
                f.pad(&format!("{which} {count} whole {}", unit.word_for(i64::from(count))))
            }
            Name::Last { count, unit } => f.pad(&format!("last {count} {}", unit.word_for(i64::from(count)))),
            Name::Next { count, unit } => f.pad(&format!("next {count} {}", unit.word_for(i64::from(count)))),
            Name::ToDate(unit) => f.pad(&format!("{unit} to date")),
        }
    }
}
