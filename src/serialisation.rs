//! The feature `serde`: dates, amounts of time, numbers and choices as the text that they are written with everywhere,
//! ISO 8601 for dates and times, decimals as text, and the words of choices; and what was counted as what it is made of, so that another
//! process may count on.

use crate::{Date, DateRange, Decimal, ExactSum, Headcount, Movement, Quotient};
use alloc::vec::Vec;
use core::fmt;
use core::marker::PhantomData;
use core::str::FromStr;
use serde::de::{Deserialize, Deserializer, Error, Visitor};
use serde::ser::{Serialize, Serializer};

/// Reads a text by its `FromStr`.
struct FromText<T>(PhantomData<T>);

impl<T: FromStr<Err = crate::Error>> Visitor<'_> for FromText<T> {
    type Value = T;

    fn expecting(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        f.write_str("a text")
    }

    fn visit_str<E: Error>(self, text: &str) -> Result<T, E> {
        text.parse().map_err(E::custom)
    }
}

/// Types that are written and read as text.
macro_rules! as_text {
    ($($named:ident),* $(,)?) => {$(
        /// As text, with the feature `serde`.
        impl Serialize for crate::$named {
            fn serialize<S: Serializer>(&self, serializer: S) -> Result<S::Ok, S::Error> {
                serializer.collect_str(self)
            }
        }

        /// From text, with the feature `serde`.
        impl<'de> Deserialize<'de> for crate::$named {
            fn deserialize<D: Deserializer<'de>>(deserializer: D) -> Result<Self, D::Error> {
                deserializer.deserialize_str(FromText(PhantomData))
            }
        }
    )*};
}

as_text! {
    CalendarYears, Church, ClockMeasure, ClockTime, ClockUnit, Combination, CommonYears, CountRule, Date, DateField,
    DatePattern, DateRange, DateTime, DayCount, DayKind, Decimal, DecimalMark, Ends, FiscalNaming, HalfDays, HolidayLength, HolidayMove, LabelPattern, Language,
    MeanMonth, Measure, Month, MonthEnd, NamedDay, NamedWindow, Nearness, NegativeForm, Operation, PaymentTerms, PeriodDay, RestDays, Roll, Rounding, SerialSystem, Shift, SubstituteCloses, ThousandsMark,
    Unit, WeekNumbers, WeekYear, Weekday, WeekdayMove, WeekdayNumbers,
}

/// A quotient by its number and its divisor.
#[derive(serde::Serialize, serde::Deserialize)]
pub(crate) struct OverParts(i128, i128);

impl From<Quotient> for OverParts {
    fn from(number: Quotient) -> Self {
        Self(number.numerator(), number.denominator())
    }
}

impl TryFrom<OverParts> for Quotient {
    type Error = &'static str;

    fn try_from(OverParts(over, of): OverParts) -> Result<Self, Self::Error> {
        Self::of(over, of).ok_or("a number over one that is not zero was expected")
    }
}

/// A sum by quotients that add up to it.
#[derive(serde::Serialize, serde::Deserialize)]
pub(crate) struct SumParts(Vec<Quotient>);

impl From<ExactSum> for SumParts {
    fn from(sum: ExactSum) -> Self {
        Self(sum.parts().collect())
    }
}

impl TryFrom<SumParts> for ExactSum {
    type Error = crate::Error;

    fn try_from(SumParts(parts): SumParts) -> Result<Self, Self::Error> {
        let mut sum = Self::default();
        parts.into_iter().try_for_each(|part| sum.add(part))?;
        Ok(sum)
    }
}

/// A headcount: its stretches of days by their ends, who came and went before them, and in each.
#[derive(serde::Serialize, serde::Deserialize)]
pub(crate) struct CountParts {
    pub(crate) periods: Vec<(Date, Date)>,
    pub(crate) before: [u64; 2],
    pub(crate) joined: Vec<u64>,
    pub(crate) left: Vec<u64>,
}

impl From<Headcount> for CountParts {
    fn from(count: Headcount) -> Self {
        count.into_parts()
    }
}

impl TryFrom<CountParts> for Headcount {
    type Error = &'static str;

    fn try_from(parts: CountParts) -> Result<Self, Self::Error> {
        let periods = parts.periods.iter().map(|(first, last)| DateRange::new(*first, *last));
        let periods: Vec<DateRange> =
            periods.collect::<Result<_, _>>().map_err(|_| "a stretch of days was expected")?;
        if parts.joined.len() != periods.len() || parts.left.len() != periods.len() {
            return Err("a number for each stretch of days was expected");
        }
        Ok(Self::of_parts(periods, parts.before, (parts.joined, parts.left)))
    }
}

/// A movement by its buckets and its cells.
#[derive(serde::Serialize, serde::Deserialize)]
pub(crate) struct MovementParts {
    pub(crate) buckets: usize,
    pub(crate) cells: Vec<Decimal>,
}

impl From<Movement> for MovementParts {
    fn from(movement: Movement) -> Self {
        movement.into_parts()
    }
}

impl TryFrom<MovementParts> for Movement {
    type Error = crate::Error;

    fn try_from(parts: MovementParts) -> Result<Self, Self::Error> {
        Self::of_parts(parts.buckets, parts.cells)
    }
}
