//! The feature `serde`: dates, amounts of time, numbers and choices as the text that they are written with everywhere,
//! ISO 8601 for dates and times, decimals as text, and the words of choices.

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
