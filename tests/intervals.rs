//! Intervals against a counter that goes day by day and month by month.
#![allow(clippy::unwrap_used, clippy::expect_used)] // a test fails by panicking

mod counter;

use counter::Day;
use mild_ledger::{
    CountRule, Date, DayCount, Decimal, Ends, FiscalYear, Interval, MonthEnd, PeriodRule, Quotient, Rounding,
    Share, Shift, Unit, Way, WeekYear, Weekday,
};
use proptest::prelude::*;

fn between(start: &str, end: &str) -> Interval {
    Interval::between(start.parse().unwrap(), end.parse().unwrap())
}

/// Days from one to a later one, counted.
fn days_between(mut day: Day, later: Day) -> i64 {
    let mut days = 0;
    while day != later {
        day = day.next();
        days += 1;
    }
    days
}

/// All pairs of a span, walked: months are counted by moving the start on a month at a time.
fn agree_on_all_pairs(days: &[Day]) {
    for (at, start) in days.iter().enumerate() {
        let start_date = start.date();
        let (mut months, mut reached_at) = (0_i64, at);
        let mut next_start = start.next_month(start.day);
        let mut running = days_between(*start, next_start);
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
                running = days_between(*day, next_start);
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
            let fraction = there.fractional(Unit::Month);
            assert_eq!(fraction.whole(), months, "{there:?}");
            // In lowest terms, so compared without dividing.
            assert_eq!(fraction.numerator() * running, left_over * fraction.denominator(), "{there:?}");
            assert!((1..=running).contains(&fraction.denominator()), "{there:?}");
            let negated = back.fractional(Unit::Month);
            assert_eq!((negated.whole(), negated.numerator()), (-fraction.whole(), -fraction.numerator()));
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
fn all_pairs_of_nine_years_around_the_leap_century_2000() {
    agree_on_all_pairs(&counter::days_from(1996, 1, 1, 9 * 366));
}

#[test]
fn all_pairs_of_nine_years_around_the_common_century_1900() {
    agree_on_all_pairs(&counter::days_from(1896, 1, 1, 9 * 366));
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

#[test]
fn fractions_and_the_rule_for_month_ends() {
    for (start, end, unit, clamp, keep) in [
        ("2019-11-30", "2022-01-02", Unit::Month, "25 + 3/31", "25 + 2/31"),
        ("2015-06-30", "2016-12-31", Unit::Month, "18 + 1/31", "18"),
        ("2026-02-28", "2026-08-31", Unit::Month, "6 + 3/31", "6"),
        ("2026-02-28", "2026-08-31", Unit::Quarter, "2 + 3/92", "2"),
        ("2026-01-01", "2026-01-01", Unit::Year, "0", "0"),
        ("2026-01-01", "2026-07-02", Unit::Year, "182/365", "182/365"),
        ("2026-07-02", "2026-01-01", Unit::Year, "-182/365", "-182/365"),
        ("2022-01-02", "2019-11-30", Unit::Month, "-25 - 3/31", "-25 - 2/31"),
        ("2026-01-01", "2026-01-10", Unit::Week, "1 + 2/7", "1 + 2/7"),
        ("2026-01-01", "2026-01-10", Unit::Day, "9", "9"),
    ] {
        let interval = between(start, end);
        assert_eq!(interval.fractional(unit).to_string(), clamp, "{start} {end}");
        assert_eq!(
            interval.with_month_end(MonthEnd::Keep).unwrap().fractional(unit).to_string(),
            keep,
            "{start} {end}"
        );
    }
    let leap_day = between("2004-02-29", "2026-02-28");
    assert_eq!(leap_day.complete(Unit::Year).value(), 22);
    let next_start = leap_day.with_month_end(MonthEnd::NextStart).unwrap();
    assert_eq!(next_start.complete(Unit::Year).value(), 21);
    assert_eq!(next_start.parts().to_string(), "21 years, 11 months and 30 days");
    assert_eq!(next_start.fractional(Unit::Year).to_string(), "21 + 364/365");
    assert!(leap_day.with_month_end(MonthEnd::Refuse).is_err());
}

#[test]
fn first_and_last_count_every_unit_to_the_day_after() {
    let contract = between("2026-01-01", "2026-12-31").with_ends(Ends::FirstAndLast).unwrap();
    assert_eq!(contract.complete(Unit::Year).to_string(), "1 complete year");
    assert_eq!(contract.days().value(), 365);
    assert_eq!(contract.parts().to_string(), "1 year");
    assert_eq!(contract.fractional(Unit::Month).to_string(), "12");
    assert_eq!(contract.complete(Unit::Year).ends(), Ends::FirstAndLast);
    let back = between("2026-12-31", "2026-01-01").with_ends(Ends::FirstAndLast).unwrap();
    assert_eq!((back.complete(Unit::Year).value(), back.days().value()), (-1, -365));
    assert_eq!(between("2026-05-05", "2026-05-05").with_ends(Ends::FirstAndLast).unwrap().days().value(), 1);
    // The day after the last date there is, is only counted to.
    let all = Interval::between(Date::MIN, Date::MAX).with_ends(Ends::FirstAndLast).unwrap();
    assert_eq!((all.complete(Unit::Year).value(), all.days().value()), (9999, 3_652_059));
    assert_eq!(all.parts().to_string(), "9999 years");
}

#[test]
fn day_counts_of_the_trade() {
    let by = |start, end, convention| Quotient::from(between(start, end).year_fraction(convention));
    let figure = |text: &str| {
        let (over, of) = text.split_once('/').unwrap_or((text, "1"));
        Quotient::of(over.parse().unwrap(), of.parse().unwrap()).unwrap()
    };
    for (convention, expected) in [
        (DayCount::Actual365Fixed, "764/365"),
        (DayCount::Actual360, "764/360"),
        (DayCount::Thirty360Bond, "752/360"),
        (DayCount::Thirty360European, "752/360"),
        (DayCount::MeanJulianYear, "3056/1461"),
        (DayCount::MeanGregorianYear, "305600/146097"),
    ] {
        assert_eq!(by("2019-11-30", "2022-01-02", convention), figure(expected), "{convention}");
        assert_eq!(convention.word().parse(), Ok(convention));
    }
    assert_eq!(by("2023-12-01", "2024-03-01", DayCount::ActualActualIsda), figure("5541/22265"));
    assert_eq!(by("2024-03-01", "2023-12-01", DayCount::ActualActualIsda), figure("-5541/22265"));
    assert_eq!(by("2024-05-05", "2024-05-05", DayCount::ActualActualIsda), figure("0"));
    for (start, end, bond, european) in [
        ("2026-02-28", "2026-03-31", "33/360", "32/360"),
        ("2026-01-31", "2026-03-31", "60/360", "60/360"),
        ("2026-01-30", "2026-03-31", "60/360", "60/360"),
        ("2026-01-29", "2026-03-31", "62/360", "61/360"),
        ("2024-02-29", "2025-02-28", "359/360", "359/360"),
    ] {
        assert_eq!(by(start, end, DayCount::Thirty360Bond), figure(bond), "{start} {end}");
        assert_eq!(by(start, end, DayCount::Thirty360European), figure(european), "{start} {end}");
    }
}

#[test]
fn actual_actual_against_counting_each_day() {
    let days = counter::days_from(1898, 11, 5, 2200);
    for start in (0..days.len()).step_by(53) {
        let (mut leap, mut common) = (0_i64, 0_i64);
        for (nth, day) in days[start..].iter().enumerate() {
            if nth % 17 == 0 {
                let found = Interval::between(days[start].date(), day.date())
                    .year_fraction(DayCount::ActualActualIsda);
                // leap ÷ 366 + common ÷ 365, compared without dividing.
                let expected = leap * 365 + common * 366;
                let improper = found.whole() * found.denominator() + found.numerator();
                assert_eq!(
                    i128::from(improper) * 133_590,
                    i128::from(expected) * i128::from(found.denominator())
                );
            }
            if counter::length_of(day.year, 2) == 29 { leap += 1 } else { common += 1 }
        }
    }
}

#[test]
fn decimals_are_rounded_once_by_name() {
    let third = between("2026-01-01", "2026-05-01").year_fraction(DayCount::Actual360);
    let minus = between("2026-05-01", "2026-01-01").year_fraction(DayCount::Actual360);
    let written = |fraction: mild_ledger::Fraction, decimals| {
        Rounding::ALL
            .iter()
            .map(|rule| fraction.to_decimal(decimals, *rule).unwrap().to_string())
            .collect::<Vec<_>>()
    };
    assert_eq!(written(third, 2), ["0.33", "0.33", "0.33", "0.34"]);
    assert_eq!(written(minus, 2), ["-0.33", "-0.33", "-0.33", "-0.34"]);
    assert_eq!(written(third, 0), ["0", "0", "0", "1"]);
    let half = between("2026-01-01", "2026-06-30").year_fraction(DayCount::Actual360);
    assert_eq!(written(half, 0), ["1", "0", "0", "1"]);
    assert_eq!(
        written(between("2019-11-30", "2022-01-02").fractional(Unit::Month), 4),
        ["25.0968", "25.0968", "25.0967", "25.0968"]
    );
    assert_eq!(
        written(between("2019-11-30", "2022-01-02").fractional(Unit::Month), 18)[2],
        "25.096774193548387096"
    );
    assert!(third.to_decimal(19, Rounding::Nearest).is_err());
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

    #[test]
    fn under_every_rule_complete_is_the_largest_move(a in any_date(), months in -700_i32..700, near in -40_i32..40, back in any::<bool>()) {
        // Ends near a shifted start, where the rules differ.
        let end = Shift::months(months).apply(a).and_then(|date| Shift::days(near).apply(date)).unwrap_or(Date::MAX);
        let (a, b) = if back { (end, a) } else { (a, end) };
        let (start, end) = if a <= b { (a, b) } else { (b, a) };
        for rule in [MonthEnd::Clamp, MonthEnd::Keep, MonthEnd::NextStart] {
            let interval = Interval::between(a, b).with_month_end(rule).unwrap();
            let sign = if a <= b { 1 } else { -1 };
            for unit in [Unit::Month, Unit::Quarter, Unit::HalfYear, Unit::Year] {
                let count = sign * interval.complete(unit).value() as i32;
                let moved = |count| Shift::of(count, unit).with_month_end(rule).apply(start);
                let reached = moved(count).unwrap();
                prop_assert!(reached <= end, "{rule} {unit}");
                let fraction = interval.fractional(unit);
                prop_assert_eq!(fraction.whole(), i64::from(sign * count));
                prop_assert!(0 <= fraction.numerator() * i64::from(sign) && fraction.numerator() * i64::from(sign) < fraction.denominator());
                if let Ok(next) = moved(count + 1) {
                    prop_assert!(next > end, "{rule} {unit}");
                    let running = i64::from(next.day_number() - reached.day_number());
                    let left_over = i64::from(end.day_number() - reached.day_number());
                    prop_assert_eq!(fraction.numerator() * i64::from(sign) * running, left_over * fraction.denominator());
                }
            }
            let parts = interval.parts();
            let whole = Shift::months(sign * (12 * parts.years() + parts.months())).with_month_end(rule);
            prop_assert_eq!(whole.and(Shift::days(sign * parts.days())).unwrap().apply(start), Ok(end));
        }
    }

    #[test]
    fn through_the_last_day_is_to_the_day_after(a in any_date(), b in any_date()) {
        prop_assume!(a.max(b) < Date::MAX);
        let (start, end) = (a.min(b), a.max(b));
        let after = Shift::days(1).apply(end).unwrap();
        for rule in CountRule::all() {
            let through = Interval::between(a, b).with_ends(Ends::FirstAndLast).unwrap().count(rule).value();
            let expected = Interval::between(start, after).count(rule).value();
            prop_assert_eq!(through, if a <= b { expected } else { -expected });
        }
    }

    #[test]
    fn the_last_step_of_a_working_is_the_figure(a in any_date(), b in any_date(), near in -800_i32..800, close in any::<bool>(), weekday in 0_usize..7, through in any::<bool>()) {
        let b = if close { Shift::days(near).apply(a).unwrap_or(b) } else { b };
        for rule in [MonthEnd::Clamp, MonthEnd::Keep, MonthEnd::NextStart] {
            let interval = Interval::between(a, b).with_month_end(rule).unwrap().with_weeks_beginning(Weekday::ALL[weekday]);
            let interval = if through { interval.with_ends(Ends::FirstAndLast).unwrap() } else { interval };
            for count in CountRule::all() {
                prop_assert_eq!(interval.why(count).figure().to_owned(), interval.count(count).value().to_string());
            }
            prop_assert_eq!(interval.why_parts().figure().to_owned(), interval.parts().to_string());
            for unit in Unit::ALL {
                prop_assert_eq!(interval.why_fractional(unit).figure().to_owned(), interval.fractional(unit).to_string());
            }
            for convention in DayCount::ALL.iter().copied() {
                prop_assert_eq!(
                    interval.why_year_fraction(convention).figure().to_owned(),
                    interval.year_fraction(convention).to_string()
                );
            }
        }
    }

    #[test]
    fn the_days_of_a_working_add_up(a in any_date(), b in any_date()) {
        prop_assume!(a.year() != b.year());
        let working = Interval::between(a.min(b), a.max(b)).why_days();
        let (last, parts) = working.steps().split_last().unwrap();
        let sum: i64 = parts.iter().map(|step| step.gives().parse::<i64>().unwrap()).sum();
        prop_assert_eq!(sum.to_string(), last.gives());
    }

    #[test]
    fn weeks_of_any_first_day_are_counted(a in any_date(), days in 0_i32..60, weekday in 0_usize..7) {
        let first = Weekday::ALL[weekday];
        let Ok(b) = Shift::days(days).apply(a) else { return Ok(()) };
        let walked = (1..=days).filter(|on| Shift::days(*on).apply(a).unwrap().weekday() == first).count() as i64;
        prop_assert_eq!(Interval::between(a, b).with_weeks_beginning(first).starts_passed(Unit::Week).value(), walked);
    }
}

#[test]
fn a_calendar_month_fraction_is_the_sum_over_its_months() {
    // Day by day: each counted day is one over the days of its month.
    let all = counter::days_from(1999, 11, 20, 500);
    for (at, start) in all.iter().enumerate().step_by(7) {
        let mut sums = [0_i64; 4];
        for (on, day) in all[at..].iter().enumerate() {
            let of = i64::from(counter::length_of(day.year, day.month)) - 28;
            sums[of as usize] += 1;
            let interval = Interval::between(start.date(), day.date()).with_ends(Ends::FirstAndLast).unwrap();
            let scale = 28 * 29 * 30 * 31;
            let sum: i64 = sums.iter().zip(28..).map(|(days, of)| days * (scale / of)).sum();
            let figure = interval.calendar_months();
            assert_eq!(
                (figure.whole(), figure.numerator() * (scale / figure.denominator())),
                (sum / scale, sum % scale),
                "{on}"
            );
            let back = Interval::between(day.date(), start.date())
                .with_ends(Ends::FirstAndLast)
                .unwrap()
                .calendar_months();
            let sign = if on == 0 { 1 } else { -1 };
            assert_eq!((back.whole(), back.numerator()), (sign * figure.whole(), sign * figure.numerator()));
            assert_eq!(interval.why_calendar_months().figure(), figure.to_string());
        }
    }
}

proptest! {
    #[test]
    fn a_split_sums_to_the_whole(start in any_date(), days in -3_000..3_000_i32, weekday in 0..7_usize) {
        let Ok(end) = Shift::days(days).apply(start) else { return Ok(()) };
        let interval = Interval::between(start, end);
        let fiscal = FiscalYear::starting(4, 6).unwrap();
        let weeks = WeekYear::iso();
        for rule in [
            PeriodRule::Week(Weekday::ALL[weekday]), PeriodRule::Month, PeriodRule::Quarter, PeriodRule::HalfYear,
            PeriodRule::Year, PeriodRule::FiscalPeriod(fiscal), PeriodRule::FiscalYear(fiscal),
            PeriodRule::WeekPeriod(weeks), PeriodRule::WeekQuarter(weeks),
        ] {
            for ends in Ends::ALL {
                let shares = interval.split(rule, ends);
                let sum: i64 = shares.iter().map(Share::days).sum();
                prop_assert_eq!(sum, interval.days_counting(ends).value(), "{:?} {}", rule, ends);
                for share in &shares {
                    prop_assert!(share.days().abs() <= share.period().days());
                }
                for pair in shares.windows(2) {
                    prop_assert_eq!(pair[0].period().away(1).unwrap(), *pair[1].period());
                }
            }
        }
    }
}

proptest! {
    #[test]
    fn arithmetic_of_decimals_is_exact(a in -1_000_000_000..1_000_000_000_i128, b in -1_000_000..1_000_000_i128, (da, db) in (0..6_u8, 0..6_u8), decimals in 0..8_u8) {
        let (left, right) = (Decimal::of_units(a, da).unwrap(), Decimal::of_units(b, db).unwrap());
        // Over a common denominator of 10^12, in whole numbers.
        let at = |units: i128, decimals: u8| units * 10_i128.pow(u32::from(12 - decimals));
        let (x, y) = (at(a, da), at(b, db));
        let one = 10_i128.pow(12);
        let half_away = |over: i128, of: i128| {
            let doubled = (over.abs() * 2 + of.abs()) / (2 * of.abs());
            if (over < 0) == (of < 0) { doubled } else { -doubled }
        };
        let scale = 10_i128.pow(u32::from(decimals));
        let rounded = |number: Option<Quotient>| number.unwrap().to_decimal(decimals, Rounding::Nearest).unwrap().units();
        let (l, r) = (Quotient::from(left), Quotient::from(right));
        prop_assert_eq!(rounded(l.checked_add(r)), half_away((x + y) * scale, one));
        prop_assert_eq!(rounded(l.checked_sub(r)), half_away((x - y) * scale, one));
        prop_assert_eq!(rounded(l.checked_mul(r)), half_away(a * b * scale, 10_i128.pow(u32::from(da + db))));
        prop_assert_eq!(left.checked_add(right).unwrap().with_decimals(decimals, Rounding::Nearest).unwrap().units(), half_away((x + y) * scale, one));
        prop_assert_eq!(l.checked_div(r).is_none(), b == 0);
        if b != 0 {
            prop_assert_eq!(rounded(l.checked_div(r)), half_away(x * scale, y));
            // What was divided is there again once it is multiplied.
            prop_assert_eq!(l.checked_div(r).unwrap().checked_mul(r), Some(l));
        }
        prop_assert_eq!(l.cmp(&r), x.cmp(&y));
        prop_assert_eq!(left.cmp(&right), x.cmp(&y));
        // Half to even: up from an odd digit only.
        let even = l.to_decimal(0, Rounding::NearestEven).unwrap().units();
        let (low, rest) = (x.div_euclid(one), x.rem_euclid(one));
        let expected = low + i128::from(rest * 2 > one || (rest * 2 == one && low % 2 != 0));
        prop_assert_eq!(even, expected);
    }

    /// Near the largest numbers, where no product of two of them fits.
    #[test]
    fn quotients_of_large_numbers_are_rounded_right(over in i128::MAX / 2..i128::MAX, of in i128::MAX / 4..i128::MAX / 2, decimals in 0..9_u8) {
        let found = Quotient::of(over, of).unwrap().to_decimal(decimals, Rounding::Truncate).unwrap();
        // Digit by digit, as on paper.
        let (mut digits, mut rest) = (over / of, over % of);
        for _ in 0..decimals {
            let mut digit = 0;
            let mut next = 0_u128;
            for _ in 0..10 {
                next += rest.unsigned_abs();
                if next >= of.unsigned_abs() {
                    next -= of.unsigned_abs();
                    digit += 1;
                }
            }
            digits = digits * 10 + digit;
            rest = i128::try_from(next).unwrap();
        }
        prop_assert_eq!(found.units(), digits);
        let (one, two) = (Quotient::of(over, of).unwrap(), Quotient::of(over - 1, of).unwrap());
        prop_assert!(two < one);
    }
}

#[test]
fn results_too_large_to_hold_are_none_and_steps_on_the_way_are_not() {
    let whole = |units| Quotient::of(units, 1).unwrap();
    let (largest, one) = (whole(i128::MAX), whole(1));
    assert_eq!(largest.checked_add(one), None);
    assert_eq!(whole(i128::MIN).checked_sub(one), None);
    assert_eq!(largest.checked_mul(largest), None);
    assert_eq!(whole(i128::MIN).checked_div(whole(-1)), None);
    assert_eq!(one.checked_div(whole(0)), None);
    assert!(largest.to_decimal(1, Rounding::Nearest).is_err());
    assert!(one.to_decimal(19, Rounding::Nearest).is_err());
    // 10^20 with eighteen decimals each: the product in units has 76 digits, the result 23.
    let (left, right) = (Decimal::of_units(10_i128.pow(36), 18), Decimal::of_units(10_i128.pow(22), 18));
    let product = Quotient::from(left.unwrap()).checked_mul(right.unwrap().into()).unwrap();
    assert_eq!(product.to_decimal(2, Rounding::Nearest).unwrap().to_string(), "10000000000000000000000.00");
    // Two large numbers of different decimals whose difference is small.
    let (left, right) = (Decimal::of_units(10_i128.pow(37), 0), Decimal::of_units(-(10_i128.pow(37)), 0));
    let small = Quotient::from(left.unwrap()).checked_add(right.unwrap().into());
    let small = small.and_then(|sum| sum.checked_add(Decimal::of_units(1, 18).unwrap().into()));
    assert_eq!(small.unwrap().to_decimal(18, Rounding::Nearest), Decimal::of_units(1, 18));
    assert_eq!(Decimal::of_units(i128::MAX, 2).unwrap().checked_add(Decimal::of_units(1, 2).unwrap()), None);
    assert_eq!(Decimal::of_units(i128::MIN, 2).unwrap().checked_neg(), None);
}

#[test]
fn equal_numbers_have_one_hash() {
    use std::hash::{BuildHasher, BuildHasherDefault, DefaultHasher};
    let hash = BuildHasherDefault::<DefaultHasher>::default();
    let decimal = |text: &str| text.parse::<Decimal>().unwrap();
    assert_eq!(decimal("1.0"), decimal("1.00"));
    assert_eq!(hash.hash_one(decimal("1.0")), hash.hash_one(decimal("1.00")));
    assert!(decimal("-0.5") < decimal("-0.49") && decimal("2") > decimal("1.999"));
    // 15/30 and 14/28 of a month.
    let halves = [("2026-04-10", "2026-04-25"), ("2026-02-10", "2026-02-24")];
    let [one, two] = halves.map(|(start, end)| between(start, end).fractional(Unit::Month));
    assert_eq!((one, one.to_string()), (two, "1/2".to_owned()));
    assert_eq!((one.cmp(&two), hash.hash_one(one)), (std::cmp::Ordering::Equal, hash.hash_one(two)));
}
