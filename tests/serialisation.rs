//! With the feature `serde`: everything comes back as it was written, as the text that represents it everywhere.
#![allow(clippy::unwrap_used, clippy::expect_used)] // a test fails by panicking

use mild_ledger::{
    CalendarYears, Church, ClockTime, Combination, CommonYears, Date, DateField, DateRange, DateTime,
    DayCount, DayKind, Decimal, Ends, HolidayMove, MeanMonth, Measure, Month, MonthEnd, NamedDay,
    NamedWindow, Nearness, Operation, PaymentTerms, RestDays, Roll, Rounding, Shift, Unit, WeekNumbers,
    WeekYear, Weekday, WeekdayMove,
};
use mild_ledger::{ExactSum, Headcount, Movement, Quotient, column::DateTally};
use serde::{Serialize, de::DeserializeOwned};
use std::fmt::{Debug, Display};

/// Writes a value, holds it against its text, and reads it back.
#[allow(clippy::needless_pass_by_value)] // so that it stands in `for_each`
fn there_and_back<T: Serialize + DeserializeOwned + Display + Debug + PartialEq>(value: T) {
    let written = serde_json::to_string(&value).unwrap();
    assert_eq!(written, serde_json::to_string(&value.to_string()).unwrap());
    assert_eq!(serde_json::from_str::<T>(&written).unwrap(), value, "{written}");
}

fn text<T: std::str::FromStr<Err = mild_ledger::Error>>(text: &str) -> T {
    text.parse().unwrap()
}

#[test]
fn values_come_back_from_their_text() {
    there_and_back(text::<Date>("2026-09-30"));
    there_and_back(text::<DateTime>("2026-09-30T17:00:00.5"));
    there_and_back(text::<ClockTime>("23:59"));
    there_and_back(text::<Month>("2026-09"));
    there_and_back(text::<DateRange>("2026-09-01 to 2026-09-30"));
    there_and_back(text::<CalendarYears>("2025 to 2027"));
    there_and_back(text::<Decimal>("-1250.00"));
    there_and_back(text::<Shift>("1 month (month end: keep)"));
    there_and_back(text::<RestDays>("saturday, sunday"));
    there_and_back(text::<WeekYear>("last saturday of january, 4-4-5"));
    there_and_back(WeekNumbers::iso());
    there_and_back(text::<NamedDay>("end of last month"));
    there_and_back(text::<NamedWindow>("last 12 months"));
    there_and_back(text::<WeekdayMove>("on or after friday"));
    there_and_back(text::<PaymentTerms>("2/10 15 prox cut-off 25"));
    assert_eq!(serde_json::to_string(&text::<Date>("2026-09-30")).unwrap(), "\"2026-09-30\"");
    assert_eq!(serde_json::to_string(&text::<Decimal>("-0.05")).unwrap(), "\"-0.05\"");
}

#[test]
fn every_choice_comes_back_from_its_word() {
    Measure::all().for_each(there_and_back);
    Weekday::ALL.into_iter().for_each(there_and_back);
    Unit::ALL.into_iter().for_each(there_and_back);
    MonthEnd::ALL.into_iter().for_each(there_and_back);
    Ends::ALL.into_iter().for_each(there_and_back);
    CommonYears::ALL.into_iter().for_each(there_and_back);
    Rounding::ALL.iter().copied().for_each(there_and_back);
    Operation::ALL.iter().copied().for_each(there_and_back);
    Roll::ALL.iter().copied().for_each(there_and_back);
    DayCount::ALL.iter().copied().for_each(there_and_back);
    MeanMonth::ALL.iter().copied().for_each(there_and_back);
    DateField::ALL.iter().copied().for_each(there_and_back);
    DayKind::ALL.iter().copied().for_each(there_and_back);
    Nearness::ALL.iter().copied().for_each(there_and_back);
    HolidayMove::ALL.iter().copied().for_each(there_and_back);
    Church::ALL.iter().copied().for_each(there_and_back);
    Combination::ALL.iter().copied().for_each(there_and_back);
}

#[test]
fn what_is_no_text_of_the_kind_is_refused_with_what_was_expected() {
    let wrong = serde_json::from_str::<Date>("\"2026-06-31\"").unwrap_err().to_string();
    assert!(wrong.contains("there is no day 31 in 2026-06"), "{wrong}");
    let wrong = serde_json::from_str::<Roll>("\"folowing\"").unwrap_err().to_string();
    assert!(wrong.contains("modified-following") && wrong.contains("or nearest"), "{wrong}");
    assert!(serde_json::from_str::<Date>("20260930").is_err());
}

/// Writes the counts, and reads them back.
#[allow(clippy::needless_pass_by_value)] // so that it reads as the other one does
fn as_parts<T: Serialize + DeserializeOwned + Debug + PartialEq>(value: T) {
    let written = serde_json::to_string(&value).unwrap();
    assert_eq!(serde_json::from_str::<T>(&written).unwrap(), value, "{written}");
}

#[test]
fn what_was_counted_comes_back_whole() {
    as_parts(DateTally { read: 3, blank: 2, ..DateTally::default() });
    as_parts(Quotient::of(-7, 3).unwrap());
    assert_eq!(serde_json::to_string(&Quotient::of(-7, 3).unwrap()).unwrap(), "[-7,3]");
    assert!(serde_json::from_str::<Quotient>("[1,0]").is_err());
    let day = text::<DateRange>("2026-09-01 to 2026-09-30");
    let mut headcount = Headcount::of([day]);
    headcount.add(text("2026-09-07"), Some(text("2026-09-30")));
    headcount.add(text("2020-09-07"), None);
    as_parts(headcount);
    let torn = r#"{"periods":[["2026-09-01","2026-09-30"]],"before":[0,0],"joined":[],"left":[1]}"#;
    assert!(serde_json::from_str::<Headcount>(torn).is_err());
    let movement = Movement::of(3).unwrap();
    as_parts(movement);
    assert!(serde_json::from_str::<Movement>(r#"{"buckets":3,"cells":["0"]}"#).is_err());
    // A sum whose divisor has more digits than can be held is kept by divisor, and comes back so.
    let mut sum = ExactSum::default();
    for number in (2..200_i128).filter(|number| (2..*number).all(|less| number % less != 0)) {
        sum.add(Quotient::of(1, number).unwrap()).unwrap();
    }
    assert_eq!(sum.quotient(), None);
    let back: ExactSum = serde_json::from_str(&serde_json::to_string(&sum).unwrap()).unwrap();
    let shown = |sum: &ExactSum| sum.over(1, 18, Rounding::Nearest).unwrap().to_string();
    assert_eq!(shown(&back), shown(&sum));
}
