//! Dates in text: what a pattern reads, refuses and says.
#![allow(clippy::unwrap_used, clippy::expect_used)] // a test fails by panicking

use mild_ledger::column::DateReader;
use mild_ledger::{Date, DatePattern, Filler, Reading, TimeOfDay};
use proptest::prelude::*;

fn read(pattern: &str, text: &str) -> Result<Reading, String> {
    pattern.parse::<DatePattern>().unwrap().read(text).map_err(|error| error.what().to_owned())
}

fn date(text: &str, time: TimeOfDay) -> Result<Reading, String> {
    Ok(Reading::Date { date: text.parse().unwrap(), time })
}

#[test]
fn texts_that_match() {
    for (pattern, text, expected) in [
        ("day/month/year", "30/11/2019", "2019-11-30"),
        ("day/month/year", "3/1/2019", "2019-01-03"),
        ("day/month/year", "  03/01/2019\u{a0}", "2019-01-03"),
        ("month/day/year", "11/30/2019", "2019-11-30"),
        ("year-month-day", "2019-11-30", "2019-11-30"),
        ("day.month.year", "30.11.2019", "2019-11-30"),
        ("day month-name year", "30 NOV 2019", "2019-11-30"),
        ("day month-name year", "1 Sept 2019", "2019-09-01"),
        ("month-name day, year", "November 30, 2019", "2019-11-30"),
        ("day-month-name-year", "30-Nov-2019", "2019-11-30"),
        ("yearmonthday", "20191130", "2019-11-30"),
        ("daymonthyear", "30112019", "2019-11-30"),
        ("%d/%m/%Y", "30/11/2019", "2019-11-30"),
        ("%e %b %Y", "3 jan 2019", "2019-01-03"),
        ("%F", "2019-11-30", "2019-11-30"),
        ("iso", "2019-11-30", "2019-11-30"),
        ("iso", "2019-334", "2019-11-30"),
        ("iso", "2019-W48-6", "2019-11-30"),
    ] {
        assert_eq!(read(pattern, text), date(expected, TimeOfDay::Absent), "{pattern}: {text}");
    }
}

#[test]
fn a_time_of_day_is_dropped_and_told() {
    for (pattern, text, time) in [
        ("day/month/year", "30/11/2019 00:00", TimeOfDay::Midnight),
        ("day/month/year", "30/11/2019 0:00:00", TimeOfDay::Midnight),
        ("day/month/year", "30/11/2019 00:00:00.000", TimeOfDay::Midnight),
        ("day/month/year", "30/11/2019 00:00:00.001", TimeOfDay::Dropped),
        ("day/month/year", "30/11/2019 14:30", TimeOfDay::Dropped),
        ("day/month/year hour:minute", "30/11/2019 14:30", TimeOfDay::Dropped),
        ("%d/%m/%Y %T", "30/11/2019 00:00:00", TimeOfDay::Midnight),
        ("iso", "2019-11-30T14:30:05.25", TimeOfDay::Dropped),
        ("iso", "2019-11-30 00:00", TimeOfDay::Midnight),
    ] {
        assert_eq!(read(pattern, text), date("2019-11-30", time), "{pattern}: {text}");
    }
    assert!(read("iso", "2019-11-30T14:30Z").unwrap_err().contains("offset needs a named zone"));
    assert!(read("day/month/year", "30/11/2019 14:30+02:00").unwrap_err().contains("offset"));
    assert!(read("day/month/year", "30/11/2019 24:00").unwrap_err().contains("no such time of day"));
}

#[test]
fn texts_that_are_no_date_say_why() {
    for (pattern, text, said) in [
        ("day/month/year", "31/06/2026", "\"31/06/2026\": there is no day 31 in 2026-06"),
        ("day/month/year", "29/02/2026", "there is no day 29 in 2026-02"),
        ("day/month/year", "06/13/2026", "there is no month 13"),
        ("day/month/year", "01/01/0000", "there is no year 0"),
        ("day/month/year", "01/01/10000", "a year has exactly four digits"),
        ("day/month/year", "01/01/26", "a year has exactly four digits"),
        ("day/month/year", "2026-09-30", "not a date of this pattern"),
        ("day/month/year", "soon", "not a date of this pattern"),
        ("day/month/year", "30/09", "the text ends before the date does"),
        ("day/month/year", "30/09/2026x", "something follows the date"),
        ("day/month/year", "30/09/2026 noon", "something follows the date"),
        ("day month-name year", "30 Septem 2026", "no month has this name"),
        ("iso", "30/09/2026", "not a date of this pattern"),
        ("iso", "2026-06-31", "there is no day 31 in 2026-06"),
        ("iso", "2025-W53-1", "there is no week 53 in week-year 2025"),
        ("iso", "2026-366", "there is no day 366 in the year 2026"),
        ("iso", "10000-01-01", "not a date of this pattern"),
    ] {
        let what = read(pattern, text).unwrap_err();
        assert!(what.contains(said), "{pattern}: {text}: {what}");
    }
}

#[test]
fn fillers_count_as_blank() {
    for (text, filler) in [
        ("30/12/1899", Filler::SpreadsheetZero),
        ("31/12/1899", Filler::SpreadsheetZero),
        ("00/01/1900", Filler::NoDayOf1900),
        ("0/1/1900 00:00", Filler::NoDayOf1900),
        ("01/01/0001", Filler::StartOfTime),
        ("31/12/9999", Filler::EndOfTime),
    ] {
        assert_eq!(read("day/month/year", text), Ok(Reading::Filler(filler)), "{text}");
    }
    assert_eq!(read("iso", "1900-01-00"), Ok(Reading::Filler(Filler::NoDayOf1900)));
    assert_eq!(read("iso", "1900-01-01"), date("1900-01-01", TimeOfDay::Absent));
    let mut reader = DateReader::new(DatePattern::iso());
    for text in ["1970-01-01", "1900-01-01", "9999-12-31", "", " ", "2026-09-30T07:00", "x"] {
        let _ = reader.push(text);
    }
    let tally = reader.tally();
    assert_eq!((tally.read, tally.filler, tally.blank, tally.unreadable), (3, 1, 2, 1));
    assert_eq!((tally.doubtful, tally.time_dropped), (2, 1));
}

#[test]
fn patterns_that_are_none_say_why() {
    for (pattern, said) in [
        ("dd/mm/yyyy", "\"dd\" is not a part of a date"),
        ("day/month", "the year is missing"),
        ("day/day/month/year", "the day stands in it 2 times"),
        ("day/month/month-name/year", "the month stands in it 2 times"),
        ("%d/%m/%y", "a year of two digits could be of any century"),
        ("%d/%m/%Q", "%Q is not understood"),
        ("%d/%m/%Y%", "a letter is missing"),
        ("day/month/year hour", "an hour and a minute"),
        ("day→month→year", "cannot stand between"),
        ("", "the day is missing"),
    ] {
        let error = pattern.parse::<DatePattern>().unwrap_err();
        assert!(error.what().contains(said), "{pattern}: {error}");
    }
}

proptest! {
    #[test]
    fn every_date_is_read_back(number in Date::MIN.day_number() + 1..Date::MAX.day_number()) {
        let expected = Date::from_day_number(number).unwrap();
        prop_assume!(Filler::of(expected).is_none());
        let (year, month, day) = expected.year_month_day();
        for (pattern, text) in [
            ("day/month/year", format!("{day}/{month:02}/{year:04}")),
            ("month/day/year", format!("{month}/{day}/{year:04}")),
            ("yearmonthday", format!("{year:04}{month:02}{day:02}")),
            ("iso", expected.to_string()),
        ] {
            prop_assert_eq!(read(pattern, &text), Ok(Reading::Date { date: expected, time: TimeOfDay::Absent }));
        }
    }

    #[test]
    fn no_text_makes_a_pattern_panic(pattern in "[a-z%/ .-]{0,30}|(day|month|year|month-name|hour|:|/){0,8}", text in any::<String>(), near in "[0-9/ :.TZ+-]{0,24}") {
        if let Ok(pattern) = pattern.parse::<DatePattern>() {
            let _ = (pattern.read(&text), pattern.read(&near));
        }
        for pattern in ["iso", "day/month/year", "yearmonthday", "day month-name year"] {
            let pattern: DatePattern = pattern.parse().unwrap();
            let _ = (pattern.read(&text), pattern.read(&near));
        }
    }
}
