//! Working hours against a walk minute by minute.

#![allow(clippy::unwrap_used, clippy::expect_used)] // a test fails by panicking

use mild_ledger::{
    CalendarYears, ClockTime, Combination, Date, DateTime, ErrorKind, HolidayRule, Occurrence, OpenSpan,
    OpeningHours, RestDays, Weekday, WorkCalendar,
};
use proptest::prelude::*;

fn date(text: &str) -> Date {
    text.parse().unwrap()
}

fn at(text: &str) -> DateTime {
    text.parse().unwrap()
}

/// Weekdays from 08:00 to 17:00 with an hour off, Fridays in the morning; a Saturday that is worked has hours too.
fn yard() -> WorkCalendar {
    let mut hours = OpeningHours::default();
    let whole = ["08:00 to 12:00".parse().unwrap(), "13:00 to 17:00".parse().unwrap()];
    for day in [Weekday::Monday, Weekday::Tuesday, Weekday::Wednesday, Weekday::Thursday] {
        hours = hours.on(day, &whole).unwrap();
    }
    for day in [Weekday::Friday, Weekday::Saturday] {
        hours = hours.on(day, &whole[..1]).unwrap();
    }
    let closed = HolidayRule::new("Slip repair", Occurrence::on_date(date("2026-10-07")));
    WorkCalendar::builder("Yard", CalendarYears::of(2026, 2026))
        .holidays([closed])
        .working_days([date("2026-10-10")])
        .build()
        .unwrap()
        .with_hours(hours)
        .unwrap()
}

#[test]
fn a_week_by_hand() {
    let yard = yard();
    for (from, to, said) in [
        // Thursday 1 October, through lunch.
        ("2026-10-01T11:30", "2026-10-01T13:30", "1 h"),
        ("2026-10-01T06:00", "2026-10-01T23:59", "8 h"),
        // Friday noon is the end of the week.
        ("2026-10-02T11:45", "2026-10-05T08:00:30", "15 min 30 s"),
        ("2026-10-02T12:00", "2026-10-04T23:00", "0 h"),
        // The Wednesday off, and the Saturday that is worked.
        ("2026-10-06T16:00", "2026-10-08T09:00", "2 h"),
        ("2026-10-09T12:00", "2026-10-12T08:00", "4 h"),
        ("2026-10-05T00:00", "2026-10-12T00:00", "32 h"),
        ("2026-10-05T10:15", "2026-10-05T10:15", "0 h"),
        ("2026-10-05T08:00", "2026-10-02T11:45", "-15 min"),
    ] {
        assert_eq!(yard.working_time(at(from), at(to)).unwrap().to_string(), said, "{from} {to}");
    }
    let error = yard.working_time(at("2026-12-31T10:00"), at("2027-01-01T10:00")).unwrap_err();
    assert_eq!(error.kind(), ErrorKind::NotCovered);
    let why = yard.why_working_time(at("2026-10-12T08:30"), at("2026-10-09T11:00")).unwrap();
    assert_eq!(
        why.to_string(),
        "working hours (Yard; Monday to Thursday 08:00 to 12:00 and 13:00 to 17:00, Friday 08:00 to 12:00): 2026-10-09 (Friday) from 11:00 on: 1 h, 1 working day between: 4 h, 2026-10-12 (Monday) up to 08:30: 30 min, so -5 h 30 min, negated since the end lies before the start"
    );
}

#[test]
fn hours_that_are_none_are_refused() {
    for text in [
        "",
        "8 to 17",
        "08:00-17:00",
        "17:00 to 08:00",
        "08:00 to 08:00",
        "08:60 to 09:00",
        "24:01 to 24:02",
        "08:00 to 25:00",
    ] {
        assert!(text.parse::<OpenSpan>().is_err(), "{text}");
    }
    assert_eq!("8:00 to 24:00".parse::<OpenSpan>().unwrap().to_string(), "08:00 to 24:00");
    let half_an_hour = ClockTime::new(0, 30, 0).unwrap();
    assert!(OpenSpan::new(half_an_hour, half_an_hour).is_err());
    // A Saturday is worked and no one said when.
    let saturday = WorkCalendar::builder("Yard", CalendarYears::of(2026, 2026))
        .working_days([date("2026-10-10")])
        .build()
        .unwrap();
    let mut weekdays = OpeningHours::default();
    for day in Weekday::ALL.into_iter().filter(|day| !RestDays::default().contains(*day)) {
        weekdays = weekdays.on(day, &["08:00 to 17:00".parse().unwrap()]).unwrap();
    }
    let error = saturday.with_hours(weekdays.clone()).unwrap_err();
    assert!(error.what().contains("2026-10-10, a Saturday"), "{error}");
    // Counted with another rest day, a Saturday has none either.
    let open = WorkCalendar::rest_days_only(RestDays::default()).with_hours(weekdays).unwrap();
    assert!(open.counted_with(RestDays::of([Weekday::Sunday])).is_err());
    assert_eq!(open.counted_with(RestDays::default()).unwrap().hours(), open.hours());
}

fn minute(days: i32, minute: i32) -> DateTime {
    let day = date("2026-09-21").days_later(days).unwrap();
    DateTime::new(day, ClockTime::after_midnight(i64::from(minute) * 60_000_000).unwrap())
}

/// Hours of a day as pairs of stretches of ten minutes.
fn hours_of(ends: &[[u8; 2]]) -> OpeningHours {
    let time = |tens: u8| ClockTime::new(tens / 6, tens % 6 * 10, 0).unwrap();
    let mut hours = OpeningHours::default();
    for (day, [one, other]) in Weekday::ALL.into_iter().zip(ends) {
        let (from, until) = (one.min(other), one.max(other));
        if from != until {
            hours = hours.on(day, &[OpenSpan::new(time(*from), time(*until)).unwrap()]).unwrap();
        }
    }
    hours
}

fn is_open(calendar: &WorkCalendar, hours: &OpeningHours, moment: DateTime) -> bool {
    let time = moment.time();
    let minute = u16::from(time.hour()) * 60 + u16::from(time.minute());
    let within = |span: &OpenSpan| {
        let text = span.to_string();
        let minutes = |text: &str| -> u16 {
            let (hour, minute) = text.split_once(':').unwrap();
            hour.parse::<u16>().unwrap() * 60 + minute.parse::<u16>().unwrap()
        };
        let (from, until) = text.split_once(" to ").unwrap();
        (minutes(from)..minutes(until)).contains(&minute)
    };
    calendar.kind_of(moment.date()).unwrap().is_working()
        && hours.of(moment.date().weekday()).iter().any(within)
}

proptest! {
    #![proptest_config(ProptestConfig { cases: 48, ..ProptestConfig::default() })]

    /// Working time against a walk over the minutes, by calendars of some years, by rest days alone, and by two together.
    #[test]
    fn working_time_against_a_walk_over_the_minutes(
        ends in prop::collection::vec([0_u8..144, 0_u8..144], 7),
        others in prop::collection::vec([0_u8..144, 0_u8..144], 7),
        holidays in prop::collection::vec(0_i32..21, 0..4),
        (start, end) in ((0_i32..21, 0_i32..1440), (0_i32..21, 0_i32..1440)),
    ) {
        let (hours, other_hours) = (hours_of(&ends), hours_of(&others));
        let rest = |hours: &OpeningHours| RestDays::of(Weekday::ALL.into_iter().filter(|day| hours.of(*day).is_empty()));
        let rules: Vec<HolidayRule> = holidays
            .iter()
            .map(|day| HolidayRule::new("Closed", Occurrence::on_date(minute(*day, 0).date())))
            .collect();
        let week = WorkCalendar::rest_days_only(rest(&other_hours)).with_hours(other_hours.clone()).unwrap();
        let yard = WorkCalendar::new("Yard", rest(&hours), 2026, 2026, &rules).unwrap().with_hours(hours.clone()).unwrap();
        let both = WorkCalendar::combined(Combination::ClosedIfAny, &[yard.clone(), week.clone()]).unwrap();
        let (start, end) = (minute(start.0, start.1), minute(end.0, end.1));
        let (mut in_yard, mut in_week, mut in_both) = (0, 0, 0);
        let mut moment = start.min(end);
        while moment < start.max(end) {
            let (here, there) = (is_open(&yard, &hours, moment), is_open(&week, &other_hours, moment));
            in_yard += i64::from(here);
            in_week += i64::from(there);
            in_both += i64::from(here && there);
            moment = DateTime::from_microseconds(moment.microseconds() + 60_000_000).unwrap();
        }
        let sign = if end < start { -60_000_000 } else { 60_000_000 };
        for (calendar, minutes) in [(&yard, in_yard), (&week, in_week), (&both, in_both)] {
            let time = calendar.working_time(start, end).unwrap();
            prop_assert_eq!(time.microseconds(), sign * minutes, "{}", calendar.name());
            let why = calendar.why_working_time(start, end).unwrap();
            prop_assert_eq!(why.figure(), time.to_string());
        }
    }
}
