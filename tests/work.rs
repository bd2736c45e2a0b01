//! Working time against a counter that goes day by day.

#![allow(clippy::unwrap_used, clippy::expect_used)] // a test fails by panicking

use mild_ledger::column::{Column, add_working_days, count_working_days};
use mild_ledger::{
    CalendarYears, Church, Combination, CommonYears, Date, DayKind, Ends, ErrorKind, HolidayMove,
    HolidayRule, Interval, Month, Occurrence, PeriodRule, RestDays, Roll, Shift, Weekday, WeekdaySide,
    WorkCalendar, easter_sunday,
};
use proptest::prelude::*;

fn date(text: &str) -> Date {
    text.parse().unwrap()
}

fn day(number: i32) -> Date {
    Date::from_day_number(number).unwrap()
}

fn once(dates: &[Date]) -> Vec<HolidayRule> {
    dates.iter().map(|date| HolidayRule::new("closed", Occurrence::on_date(*date))).collect()
}

fn rest_days(bits: usize) -> RestDays {
    RestDays::of(
        Weekday::ALL.into_iter().enumerate().filter(|(nth, _)| bits >> nth & 1 == 1).map(|(_, day)| day),
    )
}

fn count(calendar: &WorkCalendar, start: &str, end: &str, ends: Ends) -> i64 {
    calendar.working_days(Interval::between(date(start), date(end)), ends).unwrap().count()
}

#[test]
fn a_holiday_on_a_rest_day_is_taken_off_once() {
    let holidays = once(&[date("2026-10-07"), date("2026-10-17")]);
    for (rest, none, with) in [("saturday, sunday", 10, 9), ("sunday, monday", 11, 9)] {
        let rest: RestDays = rest.parse().unwrap();
        let weeks = WorkCalendar::rest_days_only(rest);
        assert_eq!(count(&weeks, "2026-10-03", "2026-10-18", Ends::FirstAndLast), none);
        let yard = WorkCalendar::new("Yard", rest, 2026, 2026, &holidays).unwrap();
        assert_eq!(count(&yard, "2026-10-03", "2026-10-18", Ends::FirstAndLast), with);
        assert_eq!(count(&yard, "2026-10-18", "2026-10-03", Ends::FirstAndLast), -with);
    }
    // A single day counts with first-and-last if it is worked, and is never negative.
    let week = WorkCalendar::rest_days_only(RestDays::default());
    for (ends, friday, saturday) in
        [(Ends::FirstAndLast, 1, 0), (Ends::Last, 0, 0), (Ends::First, 0, 0), (Ends::Neither, 0, 0)]
    {
        assert_eq!(count(&week, "2026-10-02", "2026-10-02", ends), friday);
        assert_eq!(count(&week, "2026-10-03", "2026-10-03", ends), saturday);
    }
}

/// A year of days with some holidays, the same in every run (a linear congruential generator, Knuth 1981).
fn drawn(seed: u64, first: i32, days: i32) -> Vec<Date> {
    let mut state = seed;
    let mut dates = Vec::new();
    for number in first..first + days {
        state = state.wrapping_mul(6_364_136_223_846_793_005).wrapping_add(1_442_695_040_888_963_407);
        if (state >> 33).is_multiple_of(19) {
            dates.push(day(number));
        }
    }
    dates
}

#[test]
fn all_pairs_of_three_years_for_every_work_week() {
    let (first, days) = (date("2023-01-01").day_number(), 365 + 366 + 365);
    for bits in 0..128 {
        let holidays = drawn(bits as u64, first, days);
        let rest = rest_days(bits);
        let calendar = WorkCalendar::new("drawn", rest, 2023, 2025, &once(&holidays)).unwrap();
        let is_worked = |number: i32| {
            !rest.contains(day(number).weekday()) && holidays.binary_search(&day(number)).is_err()
        };
        let worked: Vec<bool> = (first..first + days).map(is_worked).collect();
        for start in 0..days {
            let mut counted = 0;
            for end in start..days {
                counted += i64::from(worked[end as usize]);
                let interval = Interval::between(day(first + start), day(first + end));
                assert_eq!(calendar.count_working_days(interval, Ends::FirstAndLast), Ok(counted));
                if end > start {
                    let (at_start, at_end) =
                        (i64::from(worked[start as usize]), i64::from(worked[end as usize]));
                    assert_eq!(calendar.count_working_days(interval, Ends::Last), Ok(counted - at_start));
                    let back = Interval::between(interval.end(), interval.start());
                    assert_eq!(calendar.count_working_days(back, Ends::First), Ok(at_end - counted));
                    assert_eq!(
                        calendar.count_working_days(back, Ends::Neither),
                        Ok(at_start + at_end - counted)
                    );
                }
            }
        }
    }
}

#[test]
fn moves_of_four_hundred_working_days_either_way() {
    let (first, days) = (date("2023-01-01").day_number(), 365 + 366 + 365);
    for bits in 0..128 {
        let holidays = drawn(bits as u64 + 7, first, days);
        let rest = rest_days(bits);
        let calendar = WorkCalendar::new("drawn", rest, 2023, 2025, &once(&holidays)).unwrap();
        let worked: Vec<i32> = (first..first + days)
            .filter(|number| {
                !rest.contains(day(*number).weekday()) && holidays.binary_search(&day(*number)).is_err()
            })
            .collect();
        for start in (first..first + days).step_by(29) {
            let (mut after, mut before) = (
                worked.iter().filter(|number| **number > start),
                worked.iter().rev().filter(|number| **number < start),
            );
            for number in 1..=400 {
                for (step, expected) in [(number, after.next()), (-number, before.next())] {
                    let found = calendar.add_working_days(day(start), step);
                    assert_eq!(
                        found.clone().ok(),
                        expected.map(|number| day(*number)),
                        "{bits} {start} {step}"
                    );
                    if let Err(error) = found {
                        let kind =
                            if worked.is_empty() { ErrorKind::NoWorkingDay } else { ErrorKind::NotCovered };
                        assert_eq!(error.kind(), kind);
                    }
                }
            }
        }
    }
}

#[test]
fn without_a_working_day_counts_are_zero_and_nothing_moves() {
    let never = WorkCalendar::rest_days_only(RestDays::of(Weekday::ALL));
    let bounded = WorkCalendar::new("never", RestDays::of(Weekday::ALL), 2026, 2026, &[]).unwrap();
    for calendar in [never, bounded] {
        assert_eq!(count(&calendar, "2026-01-01", "2026-12-31", Ends::FirstAndLast), 0);
        for number in [-1, 0, 1] {
            assert_eq!(
                calendar.add_working_days(date("2026-06-01"), number).unwrap_err().kind(),
                ErrorKind::NoWorkingDay
            );
        }
        for roll in Roll::ALL.iter().copied().skip(1) {
            assert_eq!(calendar.roll(date("2026-06-01"), roll).unwrap_err().kind(), ErrorKind::NoWorkingDay);
        }
        let june = PeriodRule::Month.containing(date("2026-06-01"));
        assert_eq!(calendar.working_day_of(&june, 1).unwrap_err().kind(), ErrorKind::NoWorkingDay);
    }
}

#[test]
fn rolls_by_the_conventions_of_the_trade() {
    let week = WorkCalendar::rest_days_only(RestDays::default());
    let rolled = |day: &str| {
        Roll::ALL.iter().map(|roll| week.roll(date(day), *roll).unwrap().to_string()).collect::<Vec<_>>()
    };
    assert_eq!(
        rolled("2026-10-31"),
        ["2026-10-31", "2026-11-02", "2026-10-30", "2026-10-30", "2026-10-30", "2026-10-30"]
    );
    assert_eq!(
        rolled("2026-11-01"),
        ["2026-11-01", "2026-11-02", "2026-10-30", "2026-11-02", "2026-11-02", "2026-11-02"]
    );
    assert_eq!(rolled("2026-09-30"), ["2026-09-30"; 6]);
    // One day off alone is as far from the day before as from the day after.
    let tuesday = WorkCalendar::rest_days_only("tuesday".parse().unwrap());
    assert_eq!(tuesday.roll(date("2026-09-29"), Roll::Nearest).unwrap(), date("2026-09-30"));
    assert!(
        week.roll(Date::MIN, Roll::Preceding).is_ok()
            && week.roll(date("9999-12-31"), Roll::Following).is_ok()
    );
}

#[test]
fn outside_its_years_a_calendar_knows_nothing() {
    let yard = WorkCalendar::new("Yard", RestDays::default(), 2026, 2027, &[]).unwrap();
    let (inside, outside) = (date("2027-12-31"), date("2028-01-01"));
    for result in [
        yard.kind_of(outside).map(|_| ()),
        yard.count_working_days(Interval::between(inside, outside), Ends::First).map(|_| ()),
        yard.count_working_days(Interval::between(outside, inside), Ends::Neither).map(|_| ()),
        yard.add_working_days(inside, 1).map(|_| ()),
        yard.add_working_days(outside, -1).map(|_| ()),
        yard.add_working_days(date("2026-01-01"), -1).map(|_| ()),
        yard.add_working_days(inside, i32::MAX).map(|_| ()),
        yard.add_working_days(inside, i32::MIN).map(|_| ()),
        yard.roll(date("2026-01-03"), Roll::Following).and(yard.roll(outside, Roll::Nearest)).map(|_| ()),
        yard.number_in_month(outside).map(|_| ()),
        yard.working_day_of(&PeriodRule::Week(Weekday::Monday).containing(inside), 1).map(|_| ()),
    ] {
        let error = result.unwrap_err();
        assert_eq!(error.kind(), ErrorKind::NotCovered, "{error}");
        assert!(error.allowed().starts_with("2026 to 2027"), "{error}");
    }
    assert_eq!(yard.roll(outside, Roll::Unadjusted), Ok(outside));
    for (years, kind) in [
        ((2027, 2026), ErrorKind::NotInOrder),
        ((0, 2026), ErrorKind::OutOfRange),
        ((2026, 10_000), ErrorKind::OutOfRange),
    ] {
        let error = WorkCalendar::new("x", RestDays::default(), years.0, years.1, &[]).unwrap_err();
        assert_eq!(error.kind(), kind);
    }
}

#[test]
fn working_days_by_their_number_in_a_month_and_a_period() {
    let holidays = once(&[date("2026-01-01"), date("2026-12-31")]);
    let yard = WorkCalendar::new("Yard", RestDays::default(), 2026, 2026, &holidays).unwrap();
    for month in 1..=12 {
        let period = PeriodRule::Month.containing(Date::new(2026, month, 1).unwrap());
        let worked: Vec<Date> = (0..i64::from(Month::of(period.first_day().unwrap()).length_in_days()))
            .map(|on| day(period.first_day().unwrap().day_number() + on as i32))
            .filter(|date| yard.kind_of(*date).unwrap().is_working())
            .collect();
        let all = worked.len() as i32;
        for (place, date) in (1..).zip(&worked) {
            assert_eq!(yard.working_day_of(&period, place), Ok(*date));
            assert_eq!(yard.working_day_of(&period, place - all - 1), Ok(*date));
            let number = yard.number_in_month(*date).unwrap().unwrap();
            assert_eq!((number.from_start(), number.from_end()), (place.into(), (place - all - 1).into()));
        }
        for wrong in [0, all + 1, -all - 1, i32::MAX, i32::MIN] {
            assert_eq!(yard.working_day_of(&period, wrong).unwrap_err().kind(), ErrorKind::NoWorkingDay);
        }
    }
    let year = PeriodRule::Year.containing(date("2026-06-01"));
    assert_eq!(yard.working_day_of(&year, 1), Ok(date("2026-01-02")));
    assert_eq!(yard.working_day_of(&year, -1), Ok(date("2026-12-30")));
}

fn kept(rules: &[HolidayRule], rest: &str, years: (i32, i32)) -> Vec<String> {
    let calendar = WorkCalendar::new("x", rest.parse().unwrap(), years.0, years.1, rules).unwrap();
    let said = |holiday: &mild_ledger::Holiday| match holiday.moved_from() {
        Some(from) => format!("{} {} from {from}", holiday.date(), holiday.name()),
        None => format!("{} {}", holiday.date(), holiday.name()),
    };
    calendar.holidays().iter().map(said).collect()
}

#[test]
fn holidays_move_off_rest_days_in_their_order() {
    let on = |name: &str, month, day, moved| {
        HolidayRule::new(name, Occurrence::on_day_of_year(month, day).unwrap()).with_moved(moved)
    };
    let weekend = "saturday, sunday";
    // 25 and 26 December 2022 are a Sunday and a Monday.
    let next = HolidayMove::NextFreeDay;
    let christmas = [on("Christmas", 12, 25, next), on("Boxing", 12, 26, next)];
    assert_eq!(
        kept(&christmas, weekend, (2022, 2022)),
        ["2022-12-26 Boxing", "2022-12-27 Christmas from 2022-12-25"]
    );
    // In 2021 they are a Saturday and a Sunday, in 2020 a Friday and a Saturday.
    assert_eq!(
        kept(&christmas, weekend, (2020, 2021)),
        [
            "2020-12-25 Christmas",
            "2020-12-28 Boxing from 2020-12-26",
            "2021-12-27 Christmas from 2021-12-25",
            "2021-12-28 Boxing from 2021-12-26"
        ]
    );
    // 2022-01-01 is a Saturday: the nearest weekday lies in the year before, and is cut off or kept with its year.
    let new_year = [on("New Year", 1, 1, HolidayMove::NearestWeekday)];
    assert_eq!(
        kept(&new_year, weekend, (2021, 2021)),
        ["2021-01-01 New Year", "2021-12-31 New Year from 2022-01-01"]
    );
    assert_eq!(kept(&new_year, weekend, (2022, 2022)), Vec::<String>::new());
    assert_eq!(
        kept(&[on("New Year", 1, 1, HolidayMove::FollowingMonday)], weekend, (2022, 2022)),
        ["2022-01-03 New Year from 2022-01-01"]
    );
    // Two may fall on one day: it is closed once.
    let both = [on("A", 7, 4, HolidayMove::FollowingMonday), on("B", 7, 6, HolidayMove::Stays)];
    assert_eq!(kept(&both, weekend, (2026, 2026)), ["2026-07-06 A from 2026-07-04", "2026-07-06 B"]);
    let calendar = WorkCalendar::new("x", RestDays::default(), 2026, 2026, &both).unwrap();
    let found = calendar
        .working_days(Interval::between(date("2026-07-03"), date("2026-07-07")), Ends::FirstAndLast)
        .unwrap();
    assert_eq!((found.count(), found.holidays()), (2, 1));
    // A following Monday that is a rest day is an error; so is a move where nothing is free.
    for (rule, rest) in [
        (HolidayMove::FollowingMonday, "sunday, monday"),
        (next, "monday, tuesday, wednesday, thursday, friday, saturday, sunday"),
    ] {
        let rules = [on("A", 7, 5, rule)];
        let error = WorkCalendar::new("x", rest.parse().unwrap(), 2026, 2026, &rules).unwrap_err();
        assert_eq!(error.kind(), ErrorKind::NoWorkingDay);
        assert!(error.what().contains("\"A\" on 2026-07-05 cannot be moved"), "{error}");
    }
}

#[test]
fn every_kind_of_rule_and_its_years() {
    let one =
        |occurrence: Occurrence| kept(&[HolidayRule::new("", occurrence)], "none", (2024, 2026)).join("");
    assert_eq!(one(Occurrence::on_date(date("2025-07-03"))), "2025-07-03 ");
    assert_eq!(one(Occurrence::on_day_of_year(2, 29).unwrap()), "2024-02-29 ");
    assert_eq!(one(Occurrence::on_leap_day(CommonYears::February28)), "2024-02-29 2025-02-28 2026-02-28 ");
    assert_eq!(one(Occurrence::on_leap_day(CommonYears::MarchFirst)), "2024-02-29 2025-03-01 2026-03-01 ");
    assert_eq!(
        one(Occurrence::on_nth_weekday(1, Weekday::Monday, 5).unwrap()),
        "2024-05-06 2025-05-05 2026-05-04 "
    );
    assert_eq!(one(Occurrence::on_nth_weekday(5, Weekday::Friday, 2).unwrap()), "");
    assert_eq!(
        one(Occurrence::on_last_weekday(Weekday::Monday, 5).unwrap()),
        "2024-05-27 2025-05-26 2026-05-25 "
    );
    let beside = |side| one(Occurrence::on_weekday_beside(Weekday::Monday, side, 5, 25).unwrap());
    assert_eq!(beside(WeekdaySide::OnOrAfter), "2024-05-27 2025-05-26 2026-05-25 ");
    assert_eq!(beside(WeekdaySide::After), "2024-05-27 2025-05-26 2026-06-01 ");
    assert_eq!(beside(WeekdaySide::OnOrBefore), "2024-05-20 2025-05-19 2026-05-25 ");
    assert_eq!(beside(WeekdaySide::Before), "2024-05-20 2025-05-19 2026-05-18 ");
    assert_eq!(
        one(Occurrence::from_easter(-2, Church::Western).unwrap()),
        "2024-03-29 2025-04-18 2026-04-03 "
    );
    assert_eq!(
        one(Occurrence::from_easter(0, Church::Orthodox).unwrap()),
        "2024-05-05 2025-04-20 2026-04-12 "
    );
    let day = |rule: fn(HolidayRule) -> HolidayRule| {
        let rule = rule(HolidayRule::new("", Occurrence::on_day_of_year(9, 25).unwrap()));
        kept(&[rule], "none", (2024, 2027))
            .iter()
            .map(|said| said[..4].to_owned())
            .collect::<Vec<_>>()
            .join(" ")
    };
    assert_eq!(day(|rule| rule.with_since(2025)), "2025 2026 2027");
    assert_eq!(day(|rule| rule.with_until(2025)), "2024 2025");
    assert_eq!(day(|rule| rule.with_except([2025, 2026])), "2024 2027");
    assert_eq!(day(|rule| rule.with_only([2026, 2030])), "2026");
    // At the ends of the calendar there is no year before or after.
    assert_eq!(
        kept(&[HolidayRule::new("", Occurrence::on_day_of_year(1, 1).unwrap())], "none", (1, 1)),
        ["0001-01-01 "]
    );
    assert_eq!(
        kept(&[HolidayRule::new("", Occurrence::on_day_of_year(12, 31).unwrap())], "none", (9999, 9999)),
        ["9999-12-31 "]
    );
}

#[test]
fn easter_of_years_that_are_on_record() {
    // Western and Orthodox Easter Sundays as the churches' tables give them, the earliest and the latest among them.
    for (year, western, orthodox) in [
        (1818, "1818-03-22", "1818-04-26"),
        (1943, "1943-04-25", "1943-04-25"),
        (2000, "2000-04-23", "2000-04-30"),
        (2008, "2008-03-23", "2008-04-27"),
        (2013, "2013-03-31", "2013-05-05"),
        (2016, "2016-03-27", "2016-05-01"),
        (2017, "2017-04-16", "2017-04-16"),
        (2019, "2019-04-21", "2019-04-28"),
        (2024, "2024-03-31", "2024-05-05"),
        (2025, "2025-04-20", "2025-04-20"),
        (2026, "2026-04-05", "2026-04-12"),
        (2027, "2027-03-28", "2027-05-02"),
        (2038, "2038-04-25", "2038-04-25"),
        (2285, "2285-03-22", "2285-04-26"),
    ] {
        assert_eq!(easter_sunday(year, Church::Western), Ok(date(western)));
        assert_eq!(easter_sunday(year, Church::Orthodox), Ok(date(orthodox)));
    }
    for year in 1..=9_999 {
        let western = easter_sunday(year, Church::Western).unwrap();
        let orthodox = easter_sunday(year, Church::Orthodox).unwrap();
        assert_eq!((western.weekday(), orthodox.weekday()), (Weekday::Sunday, Weekday::Sunday));
        let of_year = (western.month(), western.day());
        assert!(((3, 22)..=(4, 25)).contains(&of_year), "{western}");
        // From 1583 on the Gregorian calendar is the one in use, and the Orthodox Easter is never the earlier one.
        assert!(year < 1_583 || orthodox >= western, "{year}");
    }
    assert!(easter_sunday(0, Church::Western).is_err());
}

#[test]
fn calendars_together() {
    let (a, b) = (once(&[date("2026-10-07")]), once(&[date("2026-10-08")]));
    let shop = WorkCalendar::builder("Shop", CalendarYears::of(2025, 2026))
        .holidays(a)
        .working_days([date("2026-10-10")])
        .build()
        .unwrap();
    let yard = WorkCalendar::new("Yard", "sunday, monday".parse().unwrap(), 2026, 2027, &b).unwrap();
    let all = [shop.clone(), yard.clone()];
    let any_closed = WorkCalendar::combined(Combination::ClosedIfAny, &all).unwrap();
    let all_closed = WorkCalendar::combined(Combination::ClosedIfAll, &all).unwrap();
    let only = Some(CalendarYears::of(2026, 2026));
    assert_eq!((any_closed.covers(), all_closed.covers()), (only, only));
    for number in date("2026-01-01").day_number()..=date("2026-12-31").day_number() {
        let works = |calendar: &WorkCalendar| calendar.kind_of(day(number)).unwrap().is_working();
        assert_eq!(works(&any_closed), works(&shop) && works(&yard));
        assert_eq!(works(&all_closed), works(&shop) || works(&yard));
    }
    // Saturday 2026-10-10 is worked in both: the shop declares it, and for the yard it is a working day.
    assert_eq!(any_closed.kind_of(date("2026-10-10")), Ok(DayKind::DeclaredWorking));
    assert_eq!(any_closed.kind_of(date("2026-10-07")), Ok(DayKind::Holiday));
    assert_eq!(any_closed.name(), "Shop + Yard (closed if any is)");
    let later = WorkCalendar::new("Later", RestDays::default(), 2030, 2031, &[]).unwrap();
    assert!(WorkCalendar::combined(Combination::ClosedIfAny, &[shop.clone(), later]).is_err());
    assert!(WorkCalendar::combined(Combination::ClosedIfAny, &[]).is_err());
    let week = WorkCalendar::rest_days_only(RestDays::default());
    assert_eq!(
        WorkCalendar::combined(Combination::ClosedIfAny, &[week, shop]).unwrap().covers(),
        Some(CalendarYears::of(2025, 2026))
    );
}

#[test]
fn the_grid_marks_every_day_and_numbers_those_counted() {
    let yard = WorkCalendar::new(
        "Yard",
        RestDays::default(),
        2026,
        2026,
        &once(&[date("2026-10-07"), date("2026-10-17")]),
    )
    .unwrap();
    let interval = Interval::between(date("2026-10-18"), date("2026-09-30"));
    for ends in Ends::ALL {
        let grid = yard.why_working_days(interval, ends).unwrap();
        let found = yard.working_days(interval, ends).unwrap();
        assert_eq!(grid.working().figure(), found.count().to_string());
        let days: Vec<_> = grid.months().iter().flat_map(|month| month.days()).collect();
        assert!([31, 61].contains(&days.len()));
        assert_eq!(days.iter().filter(|day| day.is_inside()).count() as i64, found.days());
        let numbers: Vec<i64> = days.iter().filter_map(|day| day.number()).collect();
        assert_eq!(numbers, (1..=-found.count()).collect::<Vec<_>>());
    }
    let back = yard.why_add_working_days(date("2026-10-12"), -4).unwrap();
    let numbered: Vec<_> =
        back.months()[0].days().iter().filter_map(|day| Some((day.date().day(), day.number()?))).collect();
    assert_eq!(numbered, [(5, 4), (6, 3), (8, 2), (9, 1)]);
    assert_eq!(back.working().figure(), "2026-10-05");
}

proptest! {
    #[test]
    fn counting_to_where_a_move_leads_gives_its_number(
        start in -400_000..400_000_i32, number in -3_000..3_000_i32, bits in 0..127_usize,
    ) {
        let week = WorkCalendar::rest_days_only(rest_days(bits));
        let start = week.roll(day(start), Roll::Following).unwrap();
        let end = week.add_working_days(start, number).unwrap();
        let interval = Interval::between(start, end);
        prop_assert_eq!(week.count_working_days(interval, Ends::Last), Ok(number.into()));
        let both = i64::from(number) + if number < 0 { -1 } else { 1 };
        prop_assert_eq!(week.count_working_days(interval, Ends::FirstAndLast), Ok(both));
        let found = week.working_days(interval, Ends::FirstAndLast).unwrap();
        prop_assert_eq!(found.days() - found.rest_days() - found.holidays(), found.count().abs());
    }

    #[test]
    fn columns_agree_with_the_calls_for_one_value(
        rows in prop::collection::vec((prop::option::of(-500..1_600_i32), prop::option::of(-500..1_600_i32)), 0..200),
        bits in 0..128_usize, number in -40..40_i32,
    ) {
        let first = date("2023-01-01").day_number();
        let bounded = WorkCalendar::new("drawn", rest_days(bits), 2023, 2025, &once(&drawn(3, first, 1_096))).unwrap();
        let date_of = |on: Option<i32>| on.map(|on| day(first + on));
        let starts: Column<Date> = rows.iter().map(|row| date_of(row.0)).collect();
        let ends: Column<Date> = rows.iter().map(|row| date_of(row.1)).collect();
        for calendar in [bounded, WorkCalendar::rest_days_only(rest_days(bits))] {
            for counted in Ends::ALL {
                let days = count_working_days(&starts, &ends, &calendar, counted).unwrap();
                let to_date = count_working_days(&starts, day(first + 9), &calendar, counted).unwrap();
                for row in 0..rows.len() {
                    let count = |end: Option<Date>| {
                        calendar.count_working_days(Interval::between(starts.get(row)?, end?), counted).ok().map(|count| count as i32)
                    };
                    prop_assert_eq!(days.get(row), count(ends.get(row)), "{}", counted);
                    prop_assert_eq!(to_date.get(row), count(Some(day(first + 9))));
                }
            }
            let moved = add_working_days(&starts, number, &calendar).unwrap();
            for row in 0..rows.len() {
                let expected = starts.get(row).and_then(|start| calendar.add_working_days(start, number).ok());
                prop_assert_eq!(moved.get(row), expected);
            }
            prop_assert_eq!(moved.len(), rows.len());
        }
    }

    #[test]
    fn long_columns_agree_too(seed in any::<u64>(), bits in 0..128_usize, number in prop_oneof![-40..40_i32, any::<i32>()]) {
        let first = date("2026-01-01").day_number();
        let year = WorkCalendar::new("year", rest_days(bits), 2026, 2026, &once(&drawn(seed, first, 365))).unwrap();
        // More rows than the calendar has days, some of them outside it.
        let dates: Column<Date> = (-70..900).map(|on| (on % 50 != 7).then(|| day(first + on % 437))).collect();
        let moved = add_working_days(&dates, number, &year).unwrap();
        for row in 0..dates.len() {
            let expected = dates.get(row).and_then(|date| year.add_working_days(date, number).ok());
            prop_assert_eq!(moved.get(row), expected);
        }
    }

    #[test]
    fn rest_days_alone_count_as_their_calendar_of_some_years_does(
        start in 0..7_300_i32, days in 0..7_300_i32, bits in 0..128_usize, number in -900..900_i32,
    ) {
        let first = date("2010-01-01").day_number();
        let bounded = WorkCalendar::new("some", rest_days(bits), 2010, 2049, &[]).unwrap();
        let week = WorkCalendar::rest_days_only(rest_days(bits));
        let start = day(first + start);
        let interval = Interval::between(start, Shift::days(days).apply(start).unwrap());
        for ends in Ends::ALL {
            prop_assert_eq!(bounded.working_days(interval, ends), week.working_days(interval, ends));
        }
        if let Ok(found) = bounded.add_working_days(start, number) {
            prop_assert_eq!(week.add_working_days(start, number), Ok(found));
        }
    }
}

proptest! {
    /// The shares of a split are what walking the days gives, and they sum to the whole.
    #[test]
    fn a_split_of_working_days_sums_to_the_whole(bits in 0_usize..128, start in 20_454_i32..21_000, length in 0_i32..500, back in any::<bool>(), seed in any::<u64>(), ends in 0_usize..4) {
        let holidays = once(&drawn(seed, 20_454, 1_400));
        let yard = WorkCalendar::new("Yard", rest_days(bits), 2026, 2030, &holidays).unwrap();
        let (from, to) = (day(start), day(start + length));
        let interval = if back { Interval::between(to, from) } else { Interval::between(from, to) };
        let ends = Ends::ALL[ends];
        for rule in [PeriodRule::Month, PeriodRule::Week(Weekday::Sunday), PeriodRule::Quarter] {
            let shares = yard.split(interval, rule, ends).unwrap();
            let sum: i64 = shares.iter().map(|share| share.days()).sum();
            prop_assert_eq!(sum, yard.count_working_days(interval, ends).unwrap());
            for share in shares {
                let counted = (start..=start + length).filter(|number| {
                    let inside = match ends {
                        Ends::FirstAndLast => true,
                        Ends::Last => *number > start,
                        Ends::First => *number < start + length,
                        Ends::Neither => *number > start && *number < start + length,
                    };
                    inside && share.period().contains(day(*number)) && yard.kind_of(day(*number)).unwrap().is_working()
                });
                let sign = if back && length > 0 { -1 } else { 1 };
                prop_assert_eq!(share.days(), sign * counted.count() as i64);
            }
        }
    }
}

#[test]
fn rest_days_that_a_user_declares_move_no_proclaimed_holiday() {
    // 1 January 2022 was a Saturday, the Monday after it is the day proclaimed.
    let new_year = HolidayRule::new("New Year", Occurrence::on_day_of_year(1, 1).unwrap())
        .with_moved(HolidayMove::FollowingMonday);
    let office = WorkCalendar::new("Office", RestDays::default(), 2022, 2022, &[new_year]).unwrap();
    let shop = office.counted_with("sunday".parse().unwrap()).unwrap();
    assert_eq!(shop.kind_of(date("2022-01-01")), Ok(DayKind::Working));
    assert_eq!(shop.kind_of(date("2022-01-03")), Ok(DayKind::Holiday));
    assert_eq!(shop.holidays(), office.holidays());
}

#[test]
fn years_of_a_rule_are_those_of_the_day_itself() {
    let beside = Occurrence::on_weekday_beside(Weekday::Monday, WeekdaySide::Before, 1, 1).unwrap();
    let only = HolidayRule::new("Before New Year", beside).with_only([2026]);
    let calendar = WorkCalendar::new("Yard", RestDays::NONE, 2025, 2027, &[only]).unwrap();
    let days: Vec<String> = calendar.holidays().iter().map(|holiday| holiday.date().to_string()).collect();
    assert_eq!(days, ["2026-12-28"]);
    // Orthodox Easter of 2026 is 12 April; 149 days before it is in 2025.
    let before_easter = Occurrence::from_easter(-149, Church::Orthodox).unwrap();
    let since = HolidayRule::new("Before Easter", before_easter).with_since(2026);
    let calendar = WorkCalendar::new("Yard", RestDays::NONE, 2025, 2027, &[since]).unwrap();
    let years: Vec<i32> = calendar.holidays().iter().map(|holiday| holiday.date().year()).collect();
    assert_eq!(years, [2026, 2027], "{:?}", calendar.holidays());
    // Next to the first and the last year that there are.
    let last = HolidayRule::new("Before New Year", beside);
    let all = WorkCalendar::new("Yard", RestDays::NONE, 9_998, 9_999, &[last]).unwrap();
    let days: Vec<String> = all.holidays().iter().map(|holiday| holiday.date().to_string()).collect();
    assert_eq!(days, ["9998-12-28", "9999-12-27"]);
    let first = HolidayRule::new("Early", Occurrence::from_easter(-120, Church::Western).unwrap());
    assert!(WorkCalendar::new("Yard", RestDays::NONE, 1, 2, &[first]).is_ok());
}

#[test]
fn many_holidays_in_a_row_cost_no_more_than_few() {
    let day = Occurrence::on_day_of_year(1, 1).unwrap();
    let rule = |nth: usize| HolidayRule::new(format!("Day {nth}"), day).with_moved(HolidayMove::NextFreeDay);
    let rules: Vec<HolidayRule> = (0..100).map(rule).collect();
    let year = WorkCalendar::new("Yard", RestDays::default(), 2022, 2022, &rules).unwrap();
    // 1 January 2022 is a Saturday: the hundred are kept on the first hundred weekdays.
    let kept: Vec<Date> = year.holidays().iter().map(|holiday| holiday.date()).collect();
    let weekdays: Vec<Date> = (0..)
        .map(|on| Shift::days(on).apply(date("2022-01-03")).unwrap())
        .filter(|date| !RestDays::default().contains(date.weekday()))
        .take(100)
        .collect();
    assert_eq!(kept, weekdays);
    let too_many = WorkCalendar::new("Yard", RestDays::default(), 1, 9_999, &[rules.clone(), rules].concat());
    assert_eq!(too_many.unwrap_err().kind(), ErrorKind::OutOfRange);
}
