//! Days named from today: `today`, `end of last month`.

use super::Month;
use crate::date::Date;
use crate::error::{Error, ErrorKind, quoted};
use crate::shift::{Shift, Unit};
use alloc::format;
use alloc::vec::Vec;
use core::fmt;
use core::str::FromStr;

/// A day named relative to today, which the caller supplies: the library reads no clock.
///
/// Read from `today`, `yesterday`, `tomorrow`, or `start of` / `end of`, then `last` / `this` / `next`, then
/// `month`, `quarter`, `half-year` or `year`, in any case.
///
/// ```
/// use mild_ledger::{Date, NamedDay};
///
/// let day: NamedDay = "end of last month".parse()?;
/// assert_eq!(day.seen_from("2026-03-05".parse()?)?.to_string(), "2026-02-28");
/// # Ok::<(), mild_ledger::Error>(())
/// ```
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub struct NamedDay {
    name: Name,
}

#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
enum Name {
    DaysAway(i32),
    EdgeOf { edge: Edge, away: i32, unit: Unit },
}

#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
enum Edge {
    Start,
    End,
}

impl NamedDay {
    /// The date that the name means when today is this date.
    ///
    /// # Errors
    /// [`ErrorKind::OutOfRange`] where it lies outside the years 0001 to 9999.
    ///
    /// ```
    /// use mild_ledger::NamedDay;
    /// let day: NamedDay = "start of this quarter".parse()?;
    /// assert_eq!(day.seen_from("2026-03-05".parse()?)?.to_string(), "2026-01-01");
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    pub fn seen_from(self, today: Date) -> Result<Date, Error> {
        match self.name {
            Name::DaysAway(days) => Shift::days(days).apply(today),
            Name::EdgeOf { edge, away, unit } => {
                let months = match unit {
                    Unit::Quarter => 3,
                    Unit::HalfYear => 6,
                    Unit::Year => 12,
                    Unit::Day | Unit::Week | Unit::Month => 1,
                };
                let (year, month, _) = today.year_month_day();
                let first_month = (month - 1) / months * months + 1;
                let first = Month::new(year, first_month)?.first_day();
                match edge {
                    Edge::Start => Shift::of(away, unit).apply(first),
                    Edge::End => {
                        let last_month = Month::new(year, first_month + months - 1)?.first_day();
                        Shift::of(away, unit).apply(last_month).map(|day| Month::of(day).last_day())
                    }
                }
            }
        }
    }
}

impl FromStr for NamedDay {
    type Err = Error;

    fn from_str(text: &str) -> Result<Self, Error> {
        let lower = text.to_lowercase();
        let words: Vec<&str> = lower.split_whitespace().collect();
        let name = match words.as_slice() {
            ["today"] => Name::DaysAway(0),
            ["yesterday"] => Name::DaysAway(-1),
            ["tomorrow"] => Name::DaysAway(1),
            [edge @ ("start" | "end"), "of", which @ ("last" | "this" | "next"), period] => {
                let unit = match *period {
                    "month" => Unit::Month,
                    "quarter" => Unit::Quarter,
                    "half-year" => Unit::HalfYear,
                    "year" => Unit::Year,
                    _ => return Err(unknown(text)),
                };
                let away = match *which {
                    "last" => -1,
                    "next" => 1,
                    _ => 0,
                };
                Name::EdgeOf { edge: if *edge == "start" { Edge::Start } else { Edge::End }, away, unit }
            }
            _ => return Err(unknown(text)),
        };
        Ok(Self { name })
    }
}

fn unknown(text: &str) -> Error {
    Error::new(
        ErrorKind::Unreadable,
        format!("{} is not a named day", quoted(text)),
        "today, yesterday, tomorrow, or start|end of last|this|next month|quarter|half-year|year",
    )
}

impl fmt::Display for NamedDay {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        match self.name {
            Name::DaysAway(0) => f.pad("today"),
            Name::DaysAway(days) => f.pad(if days < 0 { "yesterday" } else { "tomorrow" }),
            Name::EdgeOf { edge, away, unit } => {
                let edge = match edge {
                    Edge::Start => "start",
                    Edge::End => "end",
                };
                let which = match away {
                    -1 => "last",
                    1 => "next",
                    _ => "this",
                };
                f.pad(&format!("{edge} of {which} {unit}"))
            }
        }
    }
}
