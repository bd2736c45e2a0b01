//! Intervals against a counter that goes day by day and month by month.
#![allow(clippy::unwrap_used, clippy::expect_used)] // a test fails by panicking

mod counter;

use counter::Day;
use mild_ledger::{CountRule, Date, Ends, Interval, Shift, Unit, Way};
use proptest::prelude::*;

fn between(start: &str, end: &str) -> Interval {
    Interval::between(start.parse().unwrap(), end.parse().unwrap())
}

/// All pairs of a span, walked: months are counted by moving the start on a month at a time.
fn agree_on_all_pairs(days: &[Day]) {
    for (at, start) in days.iter().enumerate() {
        let start_date = start.date();
        let (mut months, mut reached_at) = (0_i64, at);
        let mut next_start = start.next_month(start.day);
        let mut starts = [0_i64; 5];
        for (days_on, day) in days[at..].iter().enumerate() {
            if days_on > 0 {
                let first = day.day == 1;
                starts[0] += i64::from(day.date().weekday() == mild_ledger::Weekday::Monday);
                starts[1] += i64::from(first);
                starts[2] += i64::from(first && [1, 4, 7, 10].contains(&day.month));
                starts[3] += i64::from(first && [1, 7].contains(&day.month));
                starts[4] += i64::from(first && day.month == 1);
            }
            if *day == next_start {
                months += 1;
                reached_at = at + days_on;
                next_start = day.next_month(start.day);
            }
            let days_on = days_on as i64;
            let left_over = days_on - (reached_at - at) as i64;
            let there = Interval::between(start_date, day.date());
            let back = Interval::between(day.date(), start_date);
            let complete = [days_on / 7, months, months / 3, months / 6, months / 12];
            for (nth, unit) in Unit::ALL.into_iter().skip(1).enumerate() {
                assert_eq!(there.complete(unit).value(), complete[nth], "{unit} {there:?}");
                assert_eq!(there.starts_passed(unit).value(), starts[nth], "{unit} {there:?}");
                assert_eq!(back.complete(unit).value(), -complete[nth]);
                assert_eq!(back.starts_passed(unit).value(), -starts[nth]);
            }
            assert_eq!(there.days().value(), days_on);
            assert_eq!(back.days().value(), -days_on);
            for (sign, parts) in [(1, there.parts()), (-1, back.parts())] {
                let parts = [parts.years(), parts.months(), parts.days()].map(i64::from);
                assert_eq!(parts, [months / 12, months % 12, left_over].map(|part| sign * part), "{there:?}");
            }
        }
    }
}

#[test]
fn all_pairs_around_the_leap_century_2000() {
    agree_on_all_pairs(&counter::days_from(1999, 6, 1, 800));
}

#[test]
fn all_pairs_around_the_common_century_1900() {
    agree_on_all_pairs(&counter::days_from(1899, 6, 1, 800));
}

#[test]
fn worked_examples() {
    let interval = between("2019-11-30", "2022-01-02");
    let figures: Vec<String> = CountRule::all().map(|rule| interval.count(rule).to_string()).collect();
    assert_eq!(
        figures,
        [
            "764 days",
            "109 complete weeks",
            "25 complete months",
            "8 complete quarters",
            "4 complete half-years",
            "2 complete years",
            "109 week starts passed",
            "26 month starts passed",
            "9 quarter starts passed",
            "5 half-year starts passed",
            "3 year starts passed",
        ]
    );
    for (start, end, months) in [
        ("2026-01-31", "2026-02-28", 1),
        ("2024-01-31", "2024-02-28", 0),
        ("2026-03-15", "2026-05-14", 1),
        ("2026-02-28", "2026-08-31", 6),
        ("2026-05-14", "2026-03-15", -1),
    ] {
        assert_eq!(between(start, end).complete(Unit::Month).value(), months, "{start} {end}");
    }
    for (start, end, parts) in [
        ("2012-05-20", "2021-07-04", "9 years, 1 month and 14 days"),
        ("2024-01-31", "2024-03-01", "1 month and 1 day"),
        ("2016-02-29", "2026-11-23", "10 years, 8 months and 25 days"),
        ("2026-02-28", "2026-08-31", "6 months and 3 days"),
        ("2026-11-23", "2026-11-23", "0 days"),
        ("2026-11-23", "2025-11-23", "-1 year"),
    ] {
        assert_eq!(between(start, end).parts().to_string(), parts, "{start} {end}");
    }
}

#[test]
fn ends_of_an_interval() {
    for (start, end, [both, last, first, neither]) in [
        ("2026-09-01", "2026-09-30", [30, 29, 29, 28]),
        ("2026-09-30", "2026-09-01", [-30, -29, -29, -28]),
        ("2026-09-01", "2026-09-02", [2, 1, 1, 0]),
        ("2026-09-01", "2026-09-01", [1, 0, 0, 0]),
    ] {
        let counted = |ends| between(start, end).days_counting(ends).value();
        assert_eq!(counted(Ends::FirstAndLast), both);
        assert_eq!(counted(Ends::Last), last);
        assert_eq!(counted(Ends::First), first);
        assert_eq!(counted(Ends::Neither), neither);
    }
}

#[test]
fn rules_are_read_as_they_are_written() {
    for rule in CountRule::all() {
        assert_eq!(rule.to_string().parse(), Ok(rule));
    }
    assert_eq!(CountRule::new(Way::StartsPassed, Unit::Day), CountRule::DAYS);
    assert!("months".parse::<CountRule>().unwrap_err().allowed().contains("\"complete months\""));
}

fn any_date() -> impl Strategy<Value = Date> {
    (Date::MIN.day_number()..=Date::MAX.day_number())
        .prop_map(|number| Date::from_day_number(number).unwrap())
}

proptest! {
    #[test]
    fn the_start_moved_by_its_parts_is_the_end(a in any_date(), b in any_date()) {
        let (start, end) = if a <= b { (a, b) } else { (b, a) };
        let parts = Interval::between(start, end).parts();
        prop_assert!((0..12).contains(&parts.months()) && (0..31).contains(&parts.days()));
        let shift = Shift::months(12 * parts.years() + parts.months()).and(Shift::days(parts.days())).unwrap();
        prop_assert_eq!(shift.apply(start), Ok(end));
    }

    #[test]
    fn complete_is_the_largest_move_that_does_not_pass_the_end(a in any_date(), b in any_date()) {
        let (start, end) = if a <= b { (a, b) } else { (b, a) };
        for unit in Unit::ALL {
            let count = Interval::between(start, end).complete(unit).value() as i32;
            prop_assert!(Shift::of(count, unit).apply(start).unwrap() <= end);
            if let Ok(next) = Shift::of(count + 1, unit).apply(start) {
                prop_assert!(next > end);
            }
        }
    }

    #[test]
    fn swapping_changes_only_the_sign(a in any_date(), b in any_date()) {
        for rule in CountRule::all() {
            let (there, back) = (Interval::between(a, b).count(rule), Interval::between(b, a).count(rule));
            prop_assert_eq!(there.value(), -back.value());
        }
    }
}
