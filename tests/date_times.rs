//! Date-times: their text, their moves and the time between them.

#![allow(clippy::unwrap_used, clippy::expect_used)] // a test fails by panicking

mod counter;

use counter::days_from;
use mild_ledger::{
    ClockInterval, ClockMeasure, ClockTime, ClockUnit, Date, DatePattern, DateTime, DateTimeReading,
    FinerDigits, Interval, Shift, ZoneText,
};
use proptest::prelude::*;

const DAY: i64 = 86_400_000_000;

fn at(text: &str) -> DateTime {
    text.parse().unwrap()
}

fn any_date_time() -> impl Strategy<Value = DateTime> {
    (Date::MIN.day_number()..=Date::MAX.day_number(), 0..DAY).prop_map(|(day, time)| {
        DateTime::new(Date::from_day_number(day).unwrap(), ClockTime::after_midnight(time).unwrap())
    })
}

#[test]
fn a_time_is_read_to_the_microsecond_and_what_is_finer_is_said() {
    for (text, written) in [
        ("2026-09-30T14:30", "2026-09-30T14:30:00"),
        ("2026-09-30 4:05:09", "2026-09-30T04:05:09"),
        ("2026-W40-3T00:00:00.5", "2026-09-30T00:00:00.500000"),
        ("2026-273T23:59:59,999999", "2026-09-30T23:59:59.999999"),
        ("2026-09-30T00:00:00.1234560", "2026-09-30T00:00:00.123456"),
    ] {
        assert_eq!(at(text).to_string(), written);
    }
    for text in [
        "2026-09-30",
        "2026-09-30T",
        "2026-09-30T24:00",
        "2026-09-30T23:60",
        "2026-09-30T23:59:60",
        "2026-09-30T1430",
        "2026-09-30T14:3",
        "2026-09-30T14:30:05.",
        "2026-09-30T14:30:05.1234567",
        "2026-09-30T14:30Z",
        "2026-09-30T14:30+02:00",
        "2026-09-31T14:30",
        "2026-09-30T14:30 ",
        "2026-09-30TT14:30",
        "T14:30",
        "",
        "٣T14:30",
    ] {
        assert!(text.parse::<DateTime>().is_err(), "{text}");
    }
    let read = |text: &str| DatePattern::iso().read_date_time(text).unwrap();
    let reading =
        |finer, zone| DateTimeReading::DateTime { at: at("2026-09-30T14:30:05.123456"), finer, zone };
    assert_eq!(read("2026-09-30T14:30:05.1234567"), reading(FinerDigits::Dropped, ZoneText::Absent));
    assert_eq!(
        read("2026-09-30T14:30:05.1234560Z"),
        reading(FinerDigits::Absent, ZoneText::Offset { minutes: 0 })
    );
    assert_eq!(
        read("2026-09-30 14:30:05.123456-0330"),
        reading(FinerDigits::Absent, ZoneText::Offset { minutes: -210 })
    );
    assert_eq!(
        read(" 2026-09-30T14:30:05.123456+14 "),
        reading(FinerDigits::Absent, ZoneText::Offset { minutes: 840 })
    );
    assert_eq!(read(" "), DateTimeReading::Blank);
    assert!(DatePattern::iso().read_date_time("2026-09-30T14:30+24:00").is_err());
}

#[test]
fn every_day_of_a_cycle_has_its_week_date_and_ordinal_date() {
    // 0001-01-01 is a Monday, so the weeks are counted from it; a week is of the year of its Thursday.
    let (mut of_year, mut week) = (0, 0);
    let days = days_from(1, 1, 1, 146_097 + 400);
    for (nth, day) in days[..days.len() - 3].iter().enumerate() {
        of_year = if (day.month, day.day) == (1, 1) { 1 } else { of_year + 1 };
        let weekday = nth % 7 + 1;
        let thursday = days[nth / 7 * 7 + 3];
        if weekday == 1 {
            week = if thursday.month == 1 && thursday.day <= 7 { 1 } else { week + 1 };
        }
        let (date, year) = (day.date(), thursday.year);
        assert_eq!(date.day_of_year(), of_year);
        assert_eq!(date.ordinal_text(), format!("{:04}-{of_year:03}", day.year));
        assert_eq!(date.week_text(), format!("{year:04}-W{week:02}-{weekday}"));
        assert_eq!(date.ordinal_text().parse(), Ok(date));
        assert_eq!(date.week_text().parse(), Ok(date));
    }
}

#[test]
fn hours_move_a_date_time_over_midnights_and_a_date_not_at_all() {
    let moved =
        |from: &str, by: &str| by.parse::<Shift>().unwrap().apply_at(at(from)).map(|at| at.to_string());
    assert_eq!(moved("2024-02-28T23:30", "45min").unwrap(), "2024-02-29T00:15:00");
    assert_eq!(moved("2026-01-31T12:00", "1M -36h").unwrap(), "2026-02-27T00:00:00");
    assert_eq!(moved("2026-01-31T12:00", "PT14H30M").unwrap(), "2026-02-01T02:30:00");
    assert_eq!(moved("2026-01-31T12:00", "-P1DT1S").unwrap(), "2026-01-30T11:59:59");
    assert!(moved("9999-12-31T23:59:59", "1s").is_err());
    assert!(moved("0001-01-01T00:00", "-1s").is_err());
    // The day on the way lies outside the calendar, and the end does not.
    assert_eq!(moved("9999-12-31T23:59", "1d -24h").unwrap(), "9999-12-31T23:59:00");
    let error = "2h".parse::<Shift>().unwrap().apply(Date::MIN).unwrap_err();
    assert_eq!(error.kind(), mild_ledger::ErrorKind::NoTimeOfDay);
    for text in ["PT", "P1DT", "PT1D", "P1H", "PT1M1H", "PT1HT1M", "1m", "h", "2147483648h"] {
        assert!(text.parse::<Shift>().is_err(), "{text}");
    }
}

#[test]
fn a_change_of_the_clock_is_seen_between_instants_only() {
    let (start, end) = (at("2026-10-25T00:30"), at("2026-10-25T03:30"));
    let clock = ClockInterval::between(start, end);
    let elapsed = clock.with_instants(at("2026-10-24T23:30"), at("2026-10-25T03:30"));
    let hours = ClockMeasure::Complete(ClockUnit::Hour);
    assert_eq!((clock.figure(hours).whole(), elapsed.figure(hours).whole()), (3, 4));
    assert_eq!(
        (clock.hours_of().to_string(), elapsed.hours_of().to_string()),
        ("clock hours".into(), "elapsed hours".into())
    );
    assert_eq!(elapsed.dates(), clock.dates());
}

#[test]
fn extremes_have_figures() {
    let all = ClockInterval::between(DateTime::MIN, DateTime::MAX);
    assert_eq!(all.microseconds(), 3_652_059 * DAY - 1);
    assert_eq!(all.sentence(), "87649415 hours, 59 minutes and 59.999999 seconds");
    assert_eq!(all.dates().parts().to_string(), "9998 years, 11 months and 30 days");
    for measure in ClockMeasure::all() {
        assert_eq!(all.why(measure).figure(), all.figure(measure).to_string());
        let back = ClockInterval::between(DateTime::MAX, DateTime::MIN).figure(measure);
        let figure = all.figure(measure);
        assert_eq!((back.whole(), back.numerator()), (-figure.whole(), -figure.numerator()));
    }
}

proptest! {
    #[test]
    fn text_and_microseconds_come_back(at in any_date_time()) {
        prop_assert_eq!(at.to_string().parse(), Ok(at));
        prop_assert_eq!(DateTime::from_microseconds(at.microseconds()), Ok(at));
        prop_assert_eq!(DateTime::new(at.date(), at.time()), at);
    }

    /// Whatever the clock shows, days and the units of the calendar are those of the dates.
    #[test]
    fn the_clock_changes_no_figure_of_the_calendar(a in any_date_time(), b in any_date_time()) {
        let midnight = |at: DateTime| DateTime::new(at.date(), ClockTime::MIDNIGHT);
        let dates = Interval::between(a.date(), b.date());
        prop_assert_eq!(ClockInterval::between(a, b).dates(), dates);
        prop_assert_eq!(ClockInterval::between(midnight(a), midnight(b)).dates(), dates);
        let midnights = ClockInterval::between(a, b).figure(ClockMeasure::MidnightsPassed);
        prop_assert_eq!(midnights.whole(), dates.days().value());
    }

    #[test]
    fn the_last_step_of_every_working_is_the_figure(a in any_date_time(), b in any_date_time(), by in -9_000_000..9_000_000_i32) {
        let interval = ClockInterval::between(a, b);
        for measure in ClockMeasure::all() {
            let (working, figure) = (interval.why(measure), interval.figure(measure));
            prop_assert_eq!(working.figure(), figure.to_string());
        }
        let shift = Shift::of_clock(by, ClockUnit::Minute).and(Shift::months(by / 1_000)).unwrap();
        if let Ok(end) = shift.apply_at(a) {
            let working = shift.why_at(a).unwrap();
            prop_assert_eq!(working.figure(), end.to_string());
            prop_assert_eq!(shift.times(-1).unwrap().times(-1), Ok(shift));
        }
    }
}
