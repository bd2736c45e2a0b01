//! Dates in text: what a pattern reads, refuses and says.
#![allow(clippy::unwrap_used, clippy::expect_used)] // a test fails by panicking

use mild_ledger::column::DateReader;
use mild_ledger::{
    Date, DatePattern, DateTimeReading, Filler, Language, PatternSettings, PeriodDay, Reading, TimeOfDay,
    WritingPattern, WrittenDates, ZoneText,
};
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
    assert!(
        read("iso", "2019-11-30T14:30Z")
            .unwrap_err()
            .contains("a time with an offset or a zone needs a named zone")
    );
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
        ("day/day/month/year", "the day is in it 2 times"),
        ("day/month/month-name/year", "the month is in it 2 times"),
        ("%d/%m/%y", "a year of two digits could be of any century"),
        ("day/month/short-year", "unless a pivot is named"),
        ("year-month", "the period's first or last day"),
        ("quarter day year", "the month is missing"),
        ("day month quarter year", "a quarter goes with a year alone"),
        ("weekday-name weekday-name day month year", "the weekday is in it twice"),
        ("day/month/year hour am/pm", "an hour and a minute"),
        ("year", "the day is missing"),
        ("%d/%m/%Q", "%Q is not understood"),
        ("%d/%m/%Y%", "a letter is missing"),
        ("day/month/year hour", "an hour and a minute"),
        ("day→month→year", "cannot be between"),
        ("", "the day is missing"),
    ] {
        let error = pattern.parse::<DatePattern>().unwrap_err();
        assert!(error.what().contains(said), "{pattern}: {error}");
    }
}

fn with(words: &str, settings: PatternSettings) -> DatePattern {
    DatePattern::with_settings(words, settings).unwrap()
}

fn read_with(words: &str, settings: PatternSettings, text: &str) -> Result<String, String> {
    match with(words, settings).read_date_time(text) {
        Ok(DateTimeReading::DateTime { at, .. }) => Ok(at.to_string()),
        Ok(other) => Ok(format!("{other:?}")),
        Err(error) => Err(error.what().to_owned()),
    }
}

#[test]
fn names_are_read_in_seven_languages() {
    for (language, words, text) in [
        (Language::German, "day. month-name year", "30. März 2026"),
        (Language::German, "day. month-name year", "30. MÄRZ 2026"),
        (Language::German, "day.month-name.year", "30.Mrz.2026"),
        (Language::German, "weekday-name, day. month-name year", "Mo., 30. Maerz 2026"),
        (Language::French, "weekday-name day month-name year", "lundi 30 mars 2026"),
        (Language::Spanish, "day month-name year", "30 de marzo de 2026"),
        (Language::Spanish, "day month-name year", "30 de marzo del 2026"),
        (Language::Italian, "weekday-name day month-name year", "lunedì 30 marzo 2026"),
        (Language::Dutch, "weekday-name day month-name year", "maandag 30 mrt. 2026"),
        (Language::Portuguese, "weekday-name, day month-name year", "segunda-feira, 30 de março de 2026"),
        (Language::English, "weekday-name, month-name day, year", "Mon, Mar. 30, 2026"),
    ] {
        let settings = PatternSettings::new().with_language(language);
        assert_eq!(read_with(words, settings, text).unwrap(), "2026-03-30T00:00:00", "{text}");
    }
    let french = PatternSettings::new().with_language(Language::French);
    assert_eq!(read_with("day month-name year", french, "1er août 2026").unwrap(), "2026-08-01T00:00:00");
    assert!(read_with("day month-name year", french, "2er août 2026").is_err());
    assert!(read_with("day month-name year", french, "1 March 2026").unwrap_err().contains("no month"));
    // A weekday that the date is not speaks against the date.
    let error = read_with("weekday-name day month-name year", french, "mardi 30 mars 2026").unwrap_err();
    assert!(error.contains("the date is a Monday"), "{error}");
}

#[test]
fn two_digits_are_a_year_from_the_pivot_on() {
    let from = |pivot| PatternSettings::new().with_pivot(pivot).unwrap();
    for (pivot, text, year) in [
        (1950, "49", 2049),
        (1950, "50", 1950),
        (1950, "99", 1999),
        (1950, "00", 2000),
        (2000, "00", 2000),
        (2000, "99", 2099),
        (1926, "25", 2025),
        (1926, "26", 1926),
    ] {
        let read = read_with("day/month/short-year", from(pivot), &format!("30/09/{text}")).unwrap();
        assert_eq!(read, format!("{year}-09-30T00:00:00"), "{text} from {pivot}");
    }
    let read = |text: &str| read_with("day/month/short-year", from(1950), text).unwrap_err();
    assert!(read("30/09/2026").contains("exactly two digits"));
    assert!(read("30/09/6").contains("exactly two digits"));
    assert_eq!(read_with("daymonthshort-year", from(1950), "300926").unwrap(), "2026-09-30T00:00:00");
    assert_eq!(read_with("short-yearmonthday", from(1950), "260930").unwrap(), "2026-09-30T00:00:00");
    assert_eq!(read_with("%d.%m.%y", from(1950), "30.09.26").unwrap(), "2026-09-30T00:00:00");
}

#[test]
fn halves_of_the_day_and_zones_stand_behind_the_time() {
    for (text, time) in [
        ("30/09/2026 12:00 AM", "00:00:00"),
        ("30/09/2026 12:30 pm", "12:30:00"),
        ("30/09/2026 1:05:09PM", "13:05:09"),
        ("30/09/2026 11:59 a.m.", "11:59:00"),
        ("30/09/2026\u{a0}\u{a0}9:15\u{202f}p.m.", "21:15:00"),
    ] {
        let at = format!("2026-09-30T{time}");
        assert_eq!(read_with("day/month/year", PatternSettings::new(), text), Ok(at.clone()), "{text}");
        if text.contains(' ') && text.matches(':').count() == 1 {
            let placed = read_with("day/month/year hour:minute am/pm", PatternSettings::new(), text);
            assert_eq!(placed, Ok(at), "{text}");
        }
    }
    for text in ["30/09/2026 0:30 PM", "30/09/2026 13:00 PM"] {
        let error = read("day/month/year", text).unwrap_err();
        assert!(error.contains("no such time of day"), "{error}");
    }
    let placed = "day/month/year hour:minute am/pm";
    assert!(read(placed, "30/09/2026 10:30").unwrap_err().contains("the text ends before"));
    assert!(read(placed, "30/09/2026 10:30 XM").unwrap_err().contains("AM or PM is missing"));
    for (text, minutes) in [
        ("2026-09-30 14:30 UTC", 0),
        ("2026-09-30T14:30Z", 0),
        ("2026-09-30 14:30 +02:00", 120),
        ("2026-09-30 14:30-0330", -210),
        ("2026-09-30 2:30 PM +02", 120),
    ] {
        let reading = DatePattern::iso().read_date_time(text).unwrap();
        let DateTimeReading::DateTime { at, zone, .. } = reading else { panic!("{text}") };
        assert_eq!(
            (at.to_string().as_str(), zone),
            ("2026-09-30T14:30:00", ZoneText::Offset { minutes }),
            "{text}"
        );
        let words: DatePattern = "year-month-day hour:minute".parse().unwrap();
        if !text.contains('T') && !text.contains("PM") {
            assert_eq!(words.read_date_time(text).unwrap(), reading, "{text}");
        }
    }
    let words: DatePattern = "%d/%m/%Y %H:%M:%S".parse().unwrap();
    let DateTimeReading::DateTime { at, .. } = words.read_date_time("30/09/2026 14:30:05,25").unwrap() else {
        panic!("a date-time")
    };
    assert_eq!(at.to_string(), "2026-09-30T14:30:05.250000");
}

#[test]
fn the_zone_behind_a_time_is_told_apart_from_what_is_no_zone() {
    let behind = |pattern: &str, text: &str| {
        let pattern: DatePattern = pattern.parse().unwrap();
        match pattern.read_date_time(text) {
            Ok(DateTimeReading::DateTime { at, zone, .. }) => {
                assert_eq!(at.to_string(), "2026-09-30T14:30:00", "{text}");
                Some(match zone {
                    ZoneText::Named { name } => name.to_string(),
                    ZoneText::OffsetAndName { minutes, name } => format!("{minutes} {name}"),
                    other => format!("{other:?}"),
                })
            }
            Ok(other) => panic!("{text}: {other:?}"),
            Err(_) => None,
        }
    };
    for (pattern, text, expected) in [
        ("iso", "2026-09-30 14:30 Europe/London", "Europe/London"),
        ("iso", "2026-09-30T14:30[Europe/London]", "Europe/London"),
        ("iso", "2026-09-30T14:30+01:00[Europe/London]", "60 Europe/London"),
        ("iso", "2026-09-30T14:30+00:00[UTC]", "Offset { minutes: 0 }"),
        ("iso", "2026-09-30T14:30Z[UTC]", "Offset { minutes: 0 }"),
        ("iso", "2026-09-30T14:30Z[GMT]", "Offset { minutes: 0 }"),
        ("iso", "2026-09-30T14:30[UTC]", "Offset { minutes: 0 }"),
        ("iso", "2026-09-30T14:30Z[Etc/GMT+5]", "0 Etc/GMT+5"),
        ("iso", "2026-09-30 14:30 CEST", "CEST"),
        ("iso", "2026-09-30 2:30 PM AEST", "AEST"),
        ("iso", "2026-09-30 14:30 PST", "PST"),
        ("iso", "2026-09-30 14:30 AMST", "AMST"),
        (
            "day/month/year",
            "30/09/2026 14:30 America/Argentina/ComodRivadavia",
            "America/Argentina/ComodRivadavia",
        ),
        ("day/month/year hour:minute", "30/09/2026 14:30 America/Port-au-Prince", "America/Port-au-Prince"),
        ("%d/%m/%Y %I:%M %p", "30/09/2026 02:30 PM CET", "CET"),
    ] {
        assert_eq!(behind(pattern, text).as_deref(), Some(expected), "{text}");
    }
    for text in [
        "2026-09-30 14:30 cest",
        "2026-09-30 14:30 ET",
        "2026-09-30 14:30 CENTRAL",
        "2026-09-30 14:30 Europe/",
        "2026-09-30 14:30 /London",
        "2026-09-30 14:30 Europe//London",
        "2026-09-30 14:30 Europe/../London",
        "2026-09-30 14:30 Europe/London Europe/London",
        "2026-09-30 14:30 [Europe/London",
        "2026-09-30 14:30 Europe/London]",
        "2026-09-30 14:30 +01:00[]",
        "2026-09-30 14:30 +01:00 Europe/London",
        "2026-09-30 14:30 A/bcdefghijklmnopqrstuvwxyzabcdefghijklmnop",
        "2026-09-30 14:30 Europe/Zürich",
        "2026-09-30 Europe/London",
    ] {
        assert_eq!(behind("iso", text), None, "{text}");
    }
    // A date alone is not known without its zone.
    let error = DatePattern::iso().read("2026-09-30 00:00 Europe/London").unwrap_err();
    assert!(error.what().contains("needs a named zone"), "{error}");
}

#[test]
fn periods_stand_for_their_first_or_last_day_where_it_is_named() {
    for (words, text, first, last) in [
        ("year-month", "2024-02", "2024-02-01", "2024-02-29"),
        ("month-name year", "Feb 2026", "2026-02-01", "2026-02-28"),
        ("yearmonth", "202612", "2026-12-01", "2026-12-31"),
        ("quarter year", "Q3 2026", "2026-07-01", "2026-09-30"),
        ("year-quarter", "2026-4", "2026-10-01", "2026-12-31"),
        ("quarter year", "1q 2026", "2026-01-01", "2026-03-31"),
    ] {
        for (day, expected) in [(PeriodDay::First, first), (PeriodDay::Last, last)] {
            let read = read_with(words, PatternSettings::new().with_day(day), text);
            assert_eq!(read, Ok(format!("{expected}T00:00:00")), "{words}: {text}");
        }
    }
    let last = PatternSettings::new().with_day(PeriodDay::Last);
    assert!(read_with("quarter year", last, "Q5 2026").unwrap_err().contains("quarters 1 to 4"));
    assert!(read_with("year-month", last, "2026-13").unwrap_err().contains("no month 13"));
    let french = last.with_language(Language::French);
    assert_eq!(read_with("quarter year", french, "T3 2026").unwrap(), "2026-09-30T00:00:00");
    assert!(read_with("quarter year", last, "T3 2026").is_err());
    assert!(DatePattern::with_settings("day/month/year", last).is_err());
    assert_eq!(with("year-month", last).to_string(), "year-month (last day)");
}

#[test]
fn numbers_stand_for_days_where_that_is_named() {
    let none = PatternSettings::new();
    for (words, text, expected) in [
        ("serial 1900", "1.5", "1900-01-01T12:00:00"),
        ("serial 1900", "59", "1900-02-28T00:00:00"),
        ("serial 1900", "61", "1900-03-01T00:00:00"),
        ("serial 1900", "46295", "2026-09-30T00:00:00"),
        ("serial 1900", "46295.75", "2026-09-30T18:00:00"),
        // A hundred-thousandth of a day is 0.864 seconds; the last half second of a day stays on its day.
        ("serial 1900", "46295.00001", "2026-09-30T00:00:01"),
        ("serial 1900", "46294.999999", "2026-09-29T23:59:59"),
        ("serial 1900", "46294.9999999999", "2026-09-30T00:00:00"),
        ("serial 1904", "44833", "2026-09-30T00:00:00"),
        ("serial 1899-12-30", "60", "1900-02-28T00:00:00"),
        ("serial 1899-12-30", "46295", "2026-09-30T00:00:00"),
        ("serial 1900", "0", "Filler(NoDayOf1900)"),
        ("serial 1904", "0", "Filler(SerialZero)"),
        ("serial 1899-12-30", "0", "Filler(SpreadsheetZero)"),
        ("seconds since 1970", "1790726400", "2026-09-30T00:00:00"),
        ("seconds since 1970", "-0.5", "1969-12-31T23:59:59.500000"),
        ("milliseconds since 1970", "1790726400250", "2026-09-30T00:00:00.250000"),
    ] {
        assert_eq!(read_with(words, none, text), Ok(expected.to_owned()), "{words}: {text}");
    }
    for (words, text, said) in [
        ("serial 1900", "60", "no day of this number"),
        ("serial 1900", "59.9999999999", "no day of this number"),
        ("serial 1900", "-1", "not a date"),
        ("serial 1900", "2958466", "outside the years"),
        ("serial 1904", "99999999999999999999", "outside the years"),
        ("serial 1900", "4.6e4", "not a date"),
        ("seconds since 1970", "99999999999999", "outside the years"),
        ("seconds since 1970", "soon", "not a date"),
    ] {
        let error = read_with(words, none, text).unwrap_err();
        assert!(error.contains(said), "{words}: {text}: {error}");
    }
    // Seconds since 1970 are an instant: whose day it is, a zone has to say.
    assert!(read("seconds since 1970", "1790726400").unwrap_err().contains("named zone"));
}

#[test]
fn several_patterns_are_tried_in_order_and_must_not_contradict() {
    let dates = WrittenDates::by("day/month/year".parse().unwrap())
        .or("day month-name year".parse().unwrap())
        .or("month/day/year".parse().unwrap())
        .with_blank("n/a")
        .with_blank("–")
        .without_filler("1970-01-01".parse().unwrap());
    let read = |text: &str| dates.read(text).map_err(|error| error.what().to_owned());
    assert_eq!(read("30 Sep 2026"), date("2026-09-30", TimeOfDay::Absent));
    assert_eq!(read("09/30/2026"), date("2026-09-30", TimeOfDay::Absent));
    // Both read it as the same.
    assert_eq!(read("09/09/2026"), date("2026-09-09", TimeOfDay::Absent));
    assert!(read("01/02/2026").unwrap_err().contains("one pattern reads it as 2026-02-01"));
    assert_eq!((read(" N/A "), read("–")), (Ok(Reading::Blank), Ok(Reading::Blank)));
    assert!(read("-").unwrap_err().contains("not a date of this pattern"));
    assert_eq!(dates.doubt_of("1970-01-01".parse().unwrap()), None);
    assert_eq!(dates.doubt_of("1900-01-01".parse().unwrap()), Some(Filler::SpreadsheetOne));
    let mut reader = DateReader::new(dates);
    for text in ["01/01/1970", "N/A", "01/02/2026"] {
        let _ = reader.push(text);
    }
    let tally = reader.tally();
    assert_eq!((tally.read, tally.blank, tally.unreadable, tally.doubtful), (1, 1, 1, 0));
}

fn zero(number: i64) -> Option<String> {
    (number == 0).then(|| "Filler(SerialZero)".to_owned())
}

#[test]
fn what_stands_beside_a_pattern_is_written_behind_it_and_read_again() {
    let all = PatternSettings::new().with_pivot(1950).unwrap().with_language(Language::German);
    for (pattern, written) in [
        (with("day. month-name short-year", all), "day. month-name short-year (german, years 1950 to 2049)"),
        (with("day/month/short-year", all), "day/month/short-year (years 1950 to 2049)"),
        (with("quarter year", PatternSettings::new().with_day(PeriodDay::Last)), "quarter year (last day)"),
        (with("day/month/year", PatternSettings::new()), "day/month/year"),
    ] {
        assert_eq!(pattern.to_string(), written);
        let again: DatePattern = written.parse().unwrap();
        assert_eq!(again.to_string(), written);
        assert_eq!(again.words(), pattern.words());
    }
    assert!("day/month/short-year (years 1950 to 2050)".parse::<DatePattern>().is_err());
    assert!("day/month/year (klingon)".parse::<DatePattern>().is_err());
}

proptest! {
    /// Serial numbers count days one by one, but for the day that 1900 did not have.
    #[test]
    fn serials_are_days_counted_one_by_one(days in 62_i64..2_900_000) {
        let march: Date = "1900-03-01".parse().unwrap();
        let date = Date::from_day_number(march.day_number() + i32::try_from(days - 61).unwrap()).unwrap();
        let expected = format!("{date}T00:00:00");
        for (words, number) in [
            ("serial 1900", days),
            ("serial 1899-12-30", days),
            ("serial 1904", days - 1_462),
        ] {
            let read = read_with(words, PatternSettings::new(), &number.to_string()).ok();
            // Serials from 1904 begin later; 0 is a filler there.
            prop_assert_eq!(read, (number > 0).then(|| expected.clone()).or_else(|| zero(number)), "{}: {}", words, number);
        }
    }

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

/// The list is published: the page of looking at a file has it, word by word.
#[test]
fn the_page_of_looking_lists_the_candidates() {
    let page = include_str!("../docs/look.md");
    let listed: Vec<&str> =
        page.lines().filter_map(|line| line.strip_prefix("| `")?.split('`').next()).collect();
    let mut candidates: Vec<String> = Vec::new();
    for candidate in DatePattern::candidates() {
        if !candidates.contains(&candidate.words().to_owned()) {
            candidates.push(candidate.words().to_owned());
        }
    }
    assert_eq!(listed, candidates);
    let languages = DatePattern::candidates().filter(|candidate| candidate.words() == "day month-name year");
    assert_eq!(languages.count(), Language::ALL.len());
}

proptest! {
    /// A date written by a pattern is read by it as the same date, placeholders aside.
    #[test]
    fn dates_come_back_as_they_were_written(day in -719_162..2_932_896, nth in 0_usize..5) {
        let pattern: DatePattern =
            ["iso", "day/month/year", "month-day-year", "year.month.day", "%d %m %Y"][nth].parse().unwrap();
        let date = Date::from_day_number(day).unwrap();
        let text = WritingPattern::of(&pattern).unwrap().write(date);
        match pattern.read(&text) {
            Ok(Reading::Date { date: read, .. }) => prop_assert_eq!(read, date),
            Ok(Reading::Filler(_)) => prop_assert!(Filler::of(date).is_some()),
            other => prop_assert!(false, "{text}: {other:?}"),
        }
    }
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(3_000))]
    /// A column is read by a quicker way where its texts have the usual form; the way of one text says whether it is right.
    #[test]
    fn a_column_is_read_as_each_of_its_texts(
        nth in 0..8_usize, numbers in prop::array::uniform3(0..40_u32), year in 0..10_030_u32, tail in "|[ x0]|\u{a0}", blank in any::<bool>(), filler in any::<bool>(),
    ) {
        let words =
            ["iso", "day/month/year", "month/day/year", "year-month-day", "yearmonthday", "day.month.year", "day month year", "%Y%d/%m"][nth];
        let [one, other, digits] = numbers;
        let texts = [
            format!("{one:02}/{other:02}/{year:04}{tail}"),
            format!("{year:04}-{one:02}-{other:02}{tail}"),
            format!("{tail}{year:04}{one:02}{other:02}"),
            format!("{one}.{other:02}.{year:04}{tail}"),
            format!("{one:02} {other:02} {year:04}"),
            format!("{year:04}{one:02}/{other:02}"),
            format!("{one:digits$}/{other:02}/{year}", digits = (digits % 5) as usize),
        ];
        let mut written = WrittenDates::by(words.parse().unwrap());
        if blank {
            written = written.with_blank(&texts[0]);
        }
        if filler {
            written = written.with_filler(Date::new(2026, 9, 30).unwrap()).without_filler(Date::MAX);
        }
        let mut reader = DateReader::new(written.clone());
        for text in texts.iter().map(String::as_str).chain(["30/09/2026", "2026-09-30", "9999-12-31", "01/01/1970", "00/00/0000"]) {
            let (of_column, alone) = (reader.push(text), written.read(text));
            prop_assert_eq!(of_column.ok(), alone.clone().ok(), "{} under {}", text, words);
            let date = match alone {
                Ok(Reading::Date { date, .. }) => Some(date),
                _ => None,
            };
            prop_assert_eq!(reader.take().get(0), date);
        }
        prop_assert_eq!(reader.tally().read + reader.tally().blank + reader.tally().filler + reader.tally().unreadable, 12);
    }
}
