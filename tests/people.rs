//! Ages, anniversaries and tenure, against walking the calendar.

#![allow(clippy::unwrap_used, clippy::expect_used)] // a test fails by panicking

mod counter;

use mild_ledger::{
    Anniversaries, Date, DateRange, Decimal, ErrorKind, Measure, MonthEnd, Rounding, Shift, Tenure, Unit,
    rate_per, why_rate_per,
};
use proptest::prelude::*;

fn date(text: &str) -> Date {
    text.parse().unwrap()
}

#[test]
fn ages_against_walking_from_birthday_to_birthday() {
    let days = counter::days_from(1996, 2, 20, 3300);
    for (at, born) in days
        .iter()
        .enumerate()
        .step_by(7)
        .chain((0..days.len()).zip(&days).filter(|(_, day)| day.month == 2 && day.day == 29))
    {
        for rule in [MonthEnd::Clamp, MonthEnd::NextStart] {
            let person = Anniversaries::of(born.date()).with_leap_day(rule).unwrap();
            let mut age = 0;
            for today in &days[at..] {
                let leap = counter::length_of(today.year, 2) == 29;
                let birthday = match (born.month, born.day, rule) {
                    (2, 29, MonthEnd::Clamp) if !leap => (2, 28),
                    (2, 29, _) if !leap => (3, 1),
                    (month, day, _) => (month, day),
                };
                let is_birthday = (today.month, today.day) == birthday && today.year > born.year;
                age += i64::from(is_birthday);
                assert_eq!(person.age_on(today.date()).unwrap().value(), age, "born {born:?}, on {today:?}");
                let found = person.next_on_or_after(today.date()).unwrap();
                let (number, next) = (found.number(), found.date());
                assert_eq!(i64::from(number), if is_birthday { age } else { age + 1 });
                assert_eq!(next == today.date(), is_birthday);
            }
        }
    }
}

#[test]
fn worked_examples() {
    let window = DateRange::months_from(date("2026-11-12"), 3).unwrap();
    let within = |day: &str| {
        Anniversaries::of(date(day))
            .within(window)
            .map(|found| format!("{}: {}", found.number(), found.date()))
            .collect::<Vec<_>>()
    };
    assert_eq!(within("2020-01-04"), ["7: 2027-01-04"]);
    assert_eq!(within("2020-02-11"), ["7: 2027-02-11"]);
    assert_eq!(within("2020-11-12"), ["6: 2026-11-12"]);
    assert!(within("2020-02-12").is_empty() && within("2020-11-11").is_empty());
    // Not yet one year there: the first anniversary is number 1.
    assert!(within("2026-12-01").is_empty());
    assert_eq!(within("2026-01-01"), ["1: 2027-01-01"]);
    // Every one of a long window is listed.
    let years = DateRange::months_from(date("2026-11-12"), 36).unwrap();
    assert_eq!(Anniversaries::of(date("2020-01-04")).within(years).count(), 3);
    let calendar = DateRange::calendar_months(date("2026-11-12"), 2).unwrap();
    assert!(calendar.contains(date("2026-11-01")) && calendar.contains(date("2026-12-31")));
    assert!(!calendar.contains(date("2027-01-01")));
}

#[test]
fn tenure_runs_to_its_end_or_to_the_as_of_date() {
    let as_of = date("2026-09-30");
    let days = |tenure: Tenure| tenure.as_of(as_of).map(|interval| interval.days().value());
    let start = Tenure::from(date("2026-09-01"));
    assert_eq!(days(start), Ok(29));
    assert_eq!(days(start.until(date("2026-09-11"))), Ok(10));
    // An end that has not come yet is not counted to.
    assert_eq!(days(start.until(date("2026-12-31"))), Ok(29));
    assert_eq!(days(Tenure::from(as_of)), Ok(0));
    assert_eq!(days(Tenure::from(date("2026-10-01"))).unwrap_err().kind(), ErrorKind::NotBegun);
    assert_eq!(days(start.until(date("2026-08-31"))).unwrap_err().kind(), ErrorKind::NotInOrder);
}

#[test]
fn rates_have_no_infinity() {
    let months =
        |start: &str| Tenure::from(date(start)).as_of(date("2026-09-30")).unwrap().fractional(Unit::Month);
    let decimal = |units: i128| Decimal::of_units(units, 2).unwrap();
    let rate = |start: &str, smallest: Option<Decimal>| {
        rate_per(decimal(120_000).into(), months(start), smallest)
            .and_then(|rate| rate.to_decimal(2, Rounding::Nearest))
            .map(|rate| rate.to_string())
    };
    assert_eq!(rate("2025-09-30", None).as_deref(), Ok("100.00"));
    assert_eq!(rate("2026-09-15", None).as_deref(), Ok("2400.00"));
    assert_eq!(rate("2026-09-30", None).unwrap_err().what(), "there is no rate over a time of 0");
    assert_eq!(rate("2026-09-15", Some(decimal(51))).unwrap_err().allowed(), "0.51 or more");
    assert_eq!(rate("2026-09-15", Some(decimal(50))).as_deref(), Ok("2400.00"));
    assert!(rate_per(decimal(10_i128.pow(30)).into(), months("2025-09-30"), None).is_ok());
    let huge = rate_per(decimal(i128::MAX).into(), months("2026-09-15"), None);
    assert!(huge.and_then(|rate| rate.to_decimal(2, Rounding::Nearest)).is_err());
}

proptest! {
    #[test]
    fn windows_tile(start in -719_162..2_900_000, from in -719_162..2_900_000, months in 1..40) {
        let (start, from) = (Date::from_day_number(start).unwrap(), Date::from_day_number(from).unwrap());
        let first = DateRange::months_from(from, months).unwrap();
        // The next one begins where a move by as many months leads, so that both tile.
        let next = Shift::months(months).apply(from).unwrap();
        let second = DateRange::months_from(next, months).unwrap();
        let both = |date| usize::from(first.contains(date)) + usize::from(second.contains(date));
        prop_assert_eq!((both(first.first()), both(first.last()), both(next), both(second.last())), (1, 1, 1, 1));
        let behind = Shift::days(1).apply(second.last()).unwrap();
        prop_assert_eq!((both(behind), first.days() + second.days()), (0, DateRange::new(from, second.last()).unwrap().days()));
        for rule in [MonthEnd::Clamp, MonthEnd::NextStart] {
            let anniversaries = Anniversaries::of(start).with_leap_day(rule).unwrap();
            for found in anniversaries.within(first) {
                let (years, date) = (found.number(), found.date());
                prop_assert!(first.contains(date) && years >= 1);
                prop_assert_eq!(anniversaries.number(years), Ok(date));
                prop_assert_eq!(anniversaries.age_on(date).unwrap().value(), i64::from(years));
                prop_assert_eq!(anniversaries.next_on_or_after(date), Ok(found));
                if let Ok(before) = Shift::days(-1).apply(date) {
                    prop_assert_eq!(anniversaries.age_on(before).unwrap().value(), i64::from(years) - 1);
                }
            }
        }
    }
}

proptest! {
    #[test]
    fn the_last_step_of_every_working_is_the_figure(
        (start, days) in (-700_000..2_900_000_i32, 0..60_000_i32), quantity in -1_000_000..1_000_000_i128,
    ) {
        let start = Date::from_day_number(start).unwrap();
        let Ok(on) = Shift::days(days).apply(start) else { return Ok(()) };
        for rule in [MonthEnd::Clamp, MonthEnd::NextStart] {
            let all = Anniversaries::of(start).with_leap_day(rule).unwrap();
            let age = all.why_age_on(on).unwrap();
            prop_assert_eq!(age.figure(), all.age_on(on).unwrap().value().to_string());
            if let Ok(next) = all.next_on_or_after(on) {
                let working = all.why_next_on_or_after(on).unwrap();
                prop_assert_eq!(working.figure(), next.date().to_string());
            }
        }
        let interval = Tenure::from(start).as_of(on).unwrap();
        for measure in Measure::all().filter(|measure| !matches!(measure, Measure::Clock(_))) {
            let figure = match measure {
                Measure::Count(rule) => interval.count(rule).value().to_string(),
                Measure::Fractional(unit) => interval.fractional(unit).to_string(),
                Measure::YearFraction(convention) => interval.year_fraction(convention).to_string(),
                Measure::MeanMonths(mean) => interval.mean_months(mean).to_string(),
                Measure::CalendarMonths => interval.calendar_months().to_string(),
                _ => interval.parts().to_string(),
            };
            for stay in [Tenure::from(start), Tenure::from(start).until(on)] {
                let working = stay.why(on, measure).unwrap();
                prop_assert_eq!(working.figure(), &figure);
            }
        }
        let months = interval.fractional(Unit::Month);
        if let Ok(rate) = rate_per(Decimal::of_units(quantity, 2).unwrap().into(), months, None).and_then(|rate| rate.to_decimal(2, Rounding::Nearest)) {
            let working = why_rate_per(Decimal::of_units(quantity, 2).unwrap(), months, None, 2, Rounding::Nearest).unwrap();
            prop_assert_eq!(working.figure(), rate.to_string());
        }
    }
}
