//! Every day of the calendar's cycle, and ISO 8601 text.
#![allow(clippy::unwrap_used, clippy::expect_used)] // a test fails by panicking

mod counter;

use mild_ledger::{Date, DateTime, ErrorKind, Month, NamedDay, Weekday};
use proptest::prelude::*;

#[test]
fn every_day_of_the_cycle_there_and_back() {
    // 146,097 days from 1970-01-01: day number, parts, weekday, month end and text of each.
    let mut weekday = 3;
    for (number, day) in counter::days_from(1970, 1, 1, 146_097).into_iter().enumerate() {
        let date = Date::from_day_number(number as i32).unwrap();
        assert_eq!(date.year_month_day(), (day.year, day.month, day.day));
        assert_eq!(Date::new(day.year, day.month, day.day), Ok(date));
        assert_eq!(date.weekday(), Weekday::ALL[weekday]);
        assert_eq!(date.to_string(), format!("{:04}-{:02}-{:02}", day.year, day.month, day.day));
        assert_eq!(date.to_string().parse(), Ok(date));
        let last = Month::of(date).last_day();
        assert_eq!(last.year_month_day(), (day.year, day.month, counter::length_of(day.year, day.month)));
        weekday = (weekday + 1) % 7;
    }
    assert_eq!(weekday, 3, "the cycle is a whole number of weeks");
}

#[test]
fn the_whole_range_runs_without_a_gap() {
    let mut day = counter::Day { year: 1, month: 1, day: 1 };
    for number in Date::MIN.day_number()..=Date::MAX.day_number() {
        let date = Date::from_day_number(number).unwrap();
        assert_eq!(date.year_month_day(), (day.year, day.month, day.day));
        assert_eq!(day.date(), date);
        day = day.next();
    }
    assert_eq!(day, counter::Day { year: 10_000, month: 1, day: 1 });
}

#[test]
fn ordinal_and_week_dates_agree_with_counting() {
    // Week 1 holds the first Thursday; count weeks on from the Monday of week 1 of 1970, 1969-12-29.
    let (mut week_year, mut week, mut of_week) = (1970, 1, 4);
    let mut ordinal = 1;
    let days = counter::days_from(1970, 1, 1, 146_097);
    for day in &days {
        if day.month == 1 && day.day == 1 {
            ordinal = 1;
        }
        let date = day.date();
        assert_eq!(format!("{:04}-{ordinal:03}", day.year).parse(), Ok(date));
        assert_eq!(format!("{week_year:04}-W{week:02}-{of_week}").parse(), Ok(date), "{date}");
        ordinal += 1;
        of_week += 1;
        if of_week == 8 {
            of_week = 1;
            // The week that begins tomorrow is week 1 if its Thursday is among the first seven of January.
            let tomorrow = day.next();
            let mut thursday = tomorrow;
            (0..3).for_each(|_| thursday = thursday.next());
            if thursday.month == 1 && thursday.day <= 7 {
                (week_year, week) = (thursday.year, 1);
            } else {
                week += 1;
            }
        }
    }
}

#[test]
fn days_that_do_not_exist_are_refused_with_what_is_allowed() {
    let said = |text: &str| text.parse::<Date>().unwrap_err().to_string();
    assert_eq!(said("2026-06-31"), "there is no day 31 in 2026-06 (allowed: day 1 to 30)");
    assert_eq!(said("2026-02-29"), "there is no day 29 in 2026-02 (allowed: day 1 to 28)");
    assert_eq!(said("2026-13-01"), "there is no month 13 (allowed: month 1 to 12)");
    assert_eq!(said("0000-01-01"), "there is no year 0 (allowed: year 1 to 9999)");
    assert_eq!(said("2026-366"), "there is no day 366 in the year 2026 (allowed: day 1 to 365)");
    assert_eq!(said("2025-W53-1"), "there is no week 53 in week-year 2025 (allowed: week 1 to 52)");
    assert_eq!(said("2026-W01-8"), "there is no day 8 in a week (allowed: day 1 (Monday) to 7 (Sunday))");
    assert_eq!(
        said("30/09/2026"),
        "\"30/09/2026\" is not an ISO 8601 date (allowed: a date such as 2026-09-30, 2026-W40-3 or 2026-273)"
    );
    for text in ["10000-01-01", "2026-9-30", "+2026-09-30", "2026-09-30 ", "", "２０２６-09-30", "\u{1b}[31m"]
    {
        let error = text.parse::<Date>().unwrap_err();
        assert_eq!(error.kind(), ErrorKind::Unreadable, "{text:?}");
        assert!(!error.to_string().contains('\u{1b}'), "no control character reaches a message");
    }
    // The last week of 9999 runs into a year that there is no date of.
    assert_eq!("9999-W52-7".parse::<Date>().unwrap_err().kind(), ErrorKind::OutOfRange);
    assert_eq!("9999-W52-5".parse::<Date>(), Ok(Date::MAX));
}

#[test]
fn named_days_seen_from_a_date() {
    let on = |name: &str, today: &str| {
        name.parse::<NamedDay>().unwrap().seen_from(today.parse().unwrap()).map(|date| date.to_string())
    };
    for (name, today, expected) in [
        ("today", "2026-11-23", "2026-11-23"),
        ("Yesterday", "2026-03-01", "2026-02-28"),
        ("tomorrow", "2024-02-28", "2024-02-29"),
        ("end of last month", "2026-03-31", "2026-02-28"),
        ("end of this month", "2024-02-01", "2024-02-29"),
        ("end of next month", "2026-12-31", "2027-01-31"),
        ("start of last month", "2026-01-15", "2025-12-01"),
        ("end of last quarter", "2026-11-23", "2026-09-30"),
        ("end of this quarter", "2026-11-23", "2026-12-31"),
        ("start of next quarter", "2026-11-23", "2027-01-01"),
        ("end of last half-year", "2026-11-23", "2026-06-30"),
        ("start of this half-year", "2026-06-30", "2026-01-01"),
        ("end of last year", "2026-11-23", "2025-12-31"),
        ("start of next year", "2026-11-23", "2027-01-01"),
    ] {
        assert_eq!(on(name, today).as_deref(), Ok(expected), "{name} on {today}");
        assert_eq!(name.parse::<NamedDay>().unwrap().to_string(), name.to_lowercase());
    }
    assert!(on("start of last year", "0001-05-05").is_err());
    assert!(on("tomorrow", "9999-12-31").is_err());
    assert!("end of the month".parse::<NamedDay>().is_err());
}

proptest! {
    #[test]
    fn no_text_makes_the_reader_panic(text in any::<String>()) {
        if let Ok(date) = text.parse::<Date>() {
            prop_assert!((Date::MIN..=Date::MAX).contains(&date));
        }
        let _ = text.parse::<NamedDay>();
    }

    #[test]
    fn no_number_makes_a_date_outside_the_range(number in any::<i32>(), month in any::<u8>(), day in any::<u8>()) {
        let inside = (-719_162..=2_932_896).contains(&number);
        prop_assert_eq!(Date::from_day_number(number).is_ok(), inside);
        if let Ok(date) = Date::new(number, month, day) {
            prop_assert_eq!(date.year_month_day(), (number, month, day));
        }
    }
}

#[test]
fn dates_in_rust() {
    let (from, to): (Date, Date) = ("2026-09-30".parse().unwrap(), "2026-10-02".parse().unwrap());
    assert_eq!((to - from, from - to, Date::MAX - Date::MIN), (2, -2, 3_652_058));
    assert_eq!((from.days_later(2), to.days_later(-2)), (Some(to), Some(from)));
    assert_eq!((Date::MAX.days_later(1), Date::MIN.days_later(i32::MIN)), (None, None));
    const NEW_YEAR: Date = match Date::of_parts(2027, 1, 1) {
        Some(date) => date,
        None => Date::MIN,
    };
    assert_eq!(
        format!("{NEW_YEAR:?} {:>12} {:<12}|", NEW_YEAR, NEW_YEAR),
        "2027-01-01   2027-01-01 2027-01-01  |"
    );
    for (year, month, day) in [
        (0, 1, 1),
        (10_000, 1, 1),
        (2026, 0, 1),
        (2026, 13, 1),
        (2026, 2, 29),
        (2026, 4, 31),
        (2026, 1, 0),
        (i32::MIN, 255, 255),
    ] {
        assert_eq!(Date::of_parts(year, month, day), Date::try_from((year, month, day)).ok());
        assert_eq!(Date::of_parts(year, month, day), None);
    }
    assert_eq!(DateTime::from(from).to_string(), "2026-09-30T00:00:00");
}
