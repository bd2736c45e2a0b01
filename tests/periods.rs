//! Periods against counters that walk the calendar day by day.

#![allow(clippy::unwrap_used, clippy::expect_used)] // a test fails by panicking

mod counter;

use counter::Day;
use mild_ledger::{
    Date, DateRange, FiscalNaming, FiscalYear, LabelPattern, NamedWindow, Nearness, Period, PeriodRule,
    Shift, WeekNumbers, WeekSplit, WeekYear, Weekday, WeekdayNumbers, YearEnding,
};
use proptest::prelude::*;

fn date(text: &str) -> Date {
    text.parse().unwrap()
}

fn span(period: &Period) -> (String, String) {
    (period.first_day().unwrap().to_string(), period.last_day().unwrap().to_string())
}

#[test]
fn every_iso_week_of_a_cycle() {
    // Walked from Monday 1969-12-29, the first day of 1970-W01; a year has week 53 if it begins or, being a leap
    // year, goes on to its second day on a Thursday.
    let (mut year, mut week, mut of_week) = (1970, 1, 4);
    let weeks_of = |year: i32| {
        let first = Date::new(year, 1, 1).unwrap().weekday();
        let leap = counter::length_of(year, 2) == 29;
        if first == Weekday::Thursday || (leap && first == Weekday::Wednesday) { 53 } else { 52 }
    };
    for day in counter::days_from(1970, 1, 1, 146_097) {
        let date = day.date();
        let label = format!("{year:04}-W{week:02}");
        assert_eq!(WeekNumbers::iso().of(date).to_string(), label, "{date}");
        let period = PeriodRule::Week(Weekday::Monday).containing(date);
        assert_eq!((period.label(), period.position_of(date)), (label, Some(of_week)));
        let of_year = PeriodRule::WeekYear(WeekYear::iso()).containing(date);
        assert_eq!((of_year.year(), of_year.days()), (year, 7 * weeks_of(year)));
        let quarter = PeriodRule::WeekQuarter(WeekYear::iso()).containing(date);
        let expected = match week {
            1..=13 => 1,
            14..=26 => 2,
            27..=39 => 3,
            _ => 4,
        };
        assert_eq!((quarter.year(), quarter.number()), (year, expected));
        of_week += 1;
        if of_week == 8 {
            (of_week, week) = (1, week + 1);
            if week > weeks_of(year) {
                (year, week) = (year + 1, 1);
            }
        }
    }
}

#[test]
fn week_numbers_by_both_parameters() {
    for smallest in 1..=7_u8 {
        for first in Weekday::ALL {
            let rule = WeekNumbers::new(first, smallest).unwrap();
            let days = counter::days_from(2018, 12, 20, 2600);
            let numbers: Vec<_> = days.iter().map(|day| rule.of(day.date())).collect();
            for (nth, pair) in numbers.windows(2).enumerate() {
                let starts = days[nth + 1].date().weekday() == first;
                assert_eq!(pair[0] != pair[1], starts, "a week ends where the next one starts");
                if pair[0].year() != pair[1].year() {
                    // The week that begins here is the first with days enough in its year.
                    assert_eq!((pair[1].year(), pair[1].week()), (pair[0].year() + 1, 1));
                    let in_year = |from: usize| {
                        (from..from + 7)
                            .filter(|at| days.get(*at).is_some_and(|day| day.year == pair[1].year()))
                            .count()
                    };
                    assert!(in_year(nth + 1) >= usize::from(smallest));
                    assert!(nth < 7 || in_year(nth - 6) < usize::from(smallest));
                } else if starts {
                    assert_eq!(pair[1].week(), pair[0].week() + 1);
                }
            }
        }
    }
    // Week 1 holds 1 January whatever day it is.
    for year in 1990..2050 {
        let first = Date::new(year, 1, 1).unwrap();
        let number = WeekNumbers::new(Weekday::Sunday, 1).unwrap().of(first);
        assert_eq!((number.year(), number.week()), (year, 1));
    }
}

#[test]
fn every_rule_for_years_of_weeks_over_four_hundred_years() {
    for weekday in Weekday::ALL {
        for month in 1..=12 {
            for ending in [YearEnding::LastInMonth, YearEnding::NearestMonthEnd] {
                let rule = PeriodRule::WeekYear(WeekYear::ending(weekday, month, ending).unwrap());
                let mut year = rule.containing(Date::new(1800, 6, 15).unwrap());
                let mut name = year.year();
                for _ in 0..400 {
                    let next = year.away(1).unwrap();
                    assert_eq!(next.year(), name + 1, "no name is missing and none is there twice");
                    assert!(year.days() == 364 || year.days() == 371);
                    assert_eq!(next.first_day(), Shift::days(1).apply(year.last_day().unwrap()));
                    // The end looked for day by day.
                    let last = Date::new(year.year(), month, counter::length_of(year.year(), month)).unwrap();
                    let is_it = |days: &i32| Shift::days(*days).apply(last).unwrap().weekday() == weekday;
                    let away = match ending {
                        YearEnding::LastInMonth => (0..7).map(|days| -days).find(is_it).unwrap(),
                        YearEnding::NearestMonthEnd => (-3..=3).find(is_it).unwrap(),
                    };
                    assert_eq!(year.last_day(), Shift::days(away).apply(last));
                    (year, name) = (next, name + 1);
                }
            }
        }
    }
}

#[test]
fn periods_of_weeks_follow_their_split() {
    for (split, weeks) in [
        (WeekSplit::FourFourFive, [4, 4, 5, 4, 4, 5, 4, 4, 5, 4, 4, 6]),
        (WeekSplit::FourFiveFour, [4, 5, 4, 4, 5, 4, 4, 5, 4, 4, 5, 5]),
        (WeekSplit::FiveFourFour, [5, 4, 4, 5, 4, 4, 5, 4, 4, 5, 4, 5]),
    ] {
        // The week-year 2020 has 53 weeks, from 2019-12-30 to 2021-01-03.
        let rule = PeriodRule::WeekPeriod(WeekYear::iso().with_split(split));
        let periods: Vec<Period> =
            rule.covering(DateRange::new(date("2019-12-30"), date("2021-01-03")).unwrap()).collect();
        assert_eq!(periods.iter().map(|period| period.days() / 7).collect::<Vec<_>>(), weeks);
        assert_eq!(periods.iter().map(Period::number).collect::<Vec<_>>(), (1..=12).collect::<Vec<_>>());
        assert!(periods.iter().all(|period| period.year() == 2020));
    }
    for text in ["iso", "last saturday of january", "Saturday nearest end of January, 5-4-4"] {
        let rule: WeekYear = text.parse().unwrap();
        assert_eq!(rule.to_string().parse(), Ok(rule));
    }
    for text in [
        "",
        "saturday",
        "last saturday of janvier",
        "last saturday of january, 4-4-4",
        "first saturday of january",
    ] {
        assert!(text.parse::<WeekYear>().is_err(), "{text}");
    }
}

/// Where a fiscal year starts is known by looking at the calendar; the rest is counted from there.
#[test]
fn fiscal_years_of_every_first_month() {
    let days = counter::days_from(2023, 1, 1, 1500);
    for month in 1..=12 {
        for first_day in [1, 6, 28] {
            let fiscal = FiscalYear::starting(month, first_day).unwrap();
            let mut period = None::<(i32, i64)>;
            for day in &days {
                let Day { year, month: of_year, day: of_month } = *day;
                if of_month == first_day {
                    period = match period {
                        _ if of_year == month => Some((year, 1)),
                        Some((year, number)) => Some((year, number + 1)),
                        None => None,
                    };
                }
                let Some((begun, number)) = period else { continue };
                let date = day.date();
                let ends = begun + i32::from((month, first_day) != (1, 1));
                let found = PeriodRule::FiscalPeriod(fiscal).containing(date);
                assert_eq!((found.year(), found.number()), (ends, number), "{date}");
                let quarter = PeriodRule::FiscalQuarter(fiscal).containing(date);
                assert_eq!((quarter.year(), quarter.number()), (ends, (number + 2) / 3));
                let begin = PeriodRule::FiscalYear(fiscal.with_naming(FiscalNaming::Begin)).containing(date);
                assert_eq!(begin.year(), begun);
            }
        }
    }
}

#[test]
fn worked_examples() {
    let october = FiscalYear::starting(10, 1).unwrap();
    let quarter = |text: &str| PeriodRule::FiscalQuarter(october).containing(date(text)).label();
    assert_eq!(
        (quarter("2026-09-30"), quarter("2026-10-01")),
        ("FY2026-Q4".to_owned(), "FY2027-Q1".to_owned())
    );
    let april_6 = PeriodRule::FiscalYear(FiscalYear::starting(4, 6).unwrap()).containing(date("2026-04-05"));
    assert_eq!(span(&april_6), ("2025-04-06".to_owned(), "2026-04-05".to_owned()));
    let iso = PeriodRule::WeekYear(WeekYear::iso()).containing(date("2021-01-03"));
    assert_eq!((iso.year(), span(&iso)), (2020, ("2019-12-30".to_owned(), "2021-01-03".to_owned())));
    for (rule, label, days) in [
        (PeriodRule::Week(Weekday::Monday), "2026-W40", 7),
        (PeriodRule::Week(Weekday::Sunday), "week of 2026-09-27", 7),
        (PeriodRule::Month, "2026-09", 30),
        (PeriodRule::Quarter, "2026-Q3", 92),
        (PeriodRule::HalfYear, "2026-H2", 184),
        (PeriodRule::Year, "2026", 365),
    ] {
        let period = rule.containing(date("2026-09-30"));
        assert_eq!((period.label().as_str(), period.days()), (label, days));
    }
    let months: Vec<String> = PeriodRule::Month
        .covering(DateRange::new(date("2025-11-30"), date("2026-02-01")).unwrap())
        .map(|month| month.label())
        .collect();
    assert_eq!(months, ["2025-11", "2025-12", "2026-01", "2026-02"]);
    assert!(DateRange::new(date("2026-02-01"), date("2026-01-31")).is_err());
}

#[test]
fn nearest_starts_by_days_and_by_the_middle() {
    let nearest = |rule: PeriodRule, text: &str, nearness| {
        rule.containing(date(text)).nearest_start(date(text), nearness).unwrap().to_string()
    };
    for (rule, text, by_days, by_middle) in [
        (PeriodRule::Month, "2026-01-15", "2026-01-01", "2026-01-01"),
        (PeriodRule::Month, "2026-01-16", "2026-01-01", "2026-02-01"),
        (PeriodRule::Month, "2026-01-17", "2026-02-01", "2026-02-01"),
        (PeriodRule::Month, "2026-02-15", "2026-03-01", "2026-02-01"),
        (PeriodRule::Quarter, "2026-02-15", "2026-04-01", "2026-01-01"),
        (PeriodRule::Quarter, "2026-02-16", "2026-04-01", "2026-04-01"),
        (PeriodRule::HalfYear, "2026-03-31", "2026-01-01", "2026-01-01"),
        (PeriodRule::HalfYear, "2026-04-01", "2026-01-01", "2026-07-01"),
        (PeriodRule::Year, "2026-06-30", "2026-01-01", "2026-01-01"),
        (PeriodRule::Year, "2026-07-01", "2026-01-01", "2027-01-01"),
        (PeriodRule::Year, "2026-07-03", "2027-01-01", "2027-01-01"),
        (PeriodRule::Week(Weekday::Monday), "2026-10-01", "2026-09-28", "2026-09-28"),
        (PeriodRule::Week(Weekday::Monday), "2026-10-02", "2026-10-05", "2026-10-05"),
    ] {
        assert_eq!(nearest(rule, text, Nearness::ByDays), by_days, "{text} by days");
        assert_eq!(nearest(rule, text, Nearness::ByMiddle), by_middle, "{text} by the middle");
    }
    assert!(PeriodRule::Year.containing(Date::MAX).nearest_start(Date::MAX, Nearness::ByDays).is_err());
    assert!(PeriodRule::Year.containing(Date::MAX).nearest_start(Date::MIN, Nearness::ByDays).is_err());
}

#[test]
fn labels_by_pattern() {
    let october = FiscalYear::starting(10, 1).unwrap();
    let write =
        |pattern: &str, text: &str| pattern.parse::<LabelPattern>().unwrap().write(date(text), october);
    assert_eq!(
        write("%A %d %B %Y (%a %b, day %j, %u) 100%%", "2026-09-30"),
        "Wednesday 30 September 2026 (Wed Sep, day 273, 3) 100%"
    );
    assert_eq!(
        write("Q{quarter} H{half} FY{fiscal_year} Q{fiscal_quarter} P{fiscal_period}", "2026-10-01"),
        "Q4 H2 FY2027 Q1 P1"
    );
    assert_eq!(write("%G-W%V", "2021-01-03"), "2020-W53");
    assert_eq!(write("%F", "2021-01-03"), "2021-01-03");
    for (pattern, said) in [
        ("%Y-W%V", "which is %G and not %Y"),
        ("%G-%m", "goes with %V"),
        ("%Q", "%Q is not understood"),
        ("%", "a letter is missing"),
        ("{month}", "there is no field \"month\""),
        ("{quarter", "a } is missing"),
    ] {
        let error = pattern.parse::<LabelPattern>().unwrap_err();
        assert!(error.what().contains(said), "{error}");
    }
}

#[test]
fn named_windows_seen_from_a_date() {
    for (name, today, first, last) in [
        ("today", "2026-09-30", "2026-09-30", "2026-09-30"),
        ("Yesterday", "2026-03-01", "2026-02-28", "2026-02-28"),
        ("this week", "2026-09-30", "2026-09-28", "2026-10-04"),
        ("last week", "2026-09-30", "2026-09-21", "2026-09-27"),
        ("next month", "2026-12-31", "2027-01-01", "2027-01-31"),
        ("last quarter", "2026-09-30", "2026-04-01", "2026-06-30"),
        ("this half-year", "2026-09-30", "2026-07-01", "2026-12-31"),
        ("last year", "2026-09-30", "2025-01-01", "2025-12-31"),
        ("last 12 months", "2026-09-30", "2025-10-01", "2026-09-30"),
        ("last 12 months", "2026-09-15", "2025-09-16", "2026-09-15"),
        ("last 1 month", "2026-02-28", "2026-02-01", "2026-02-28"),
        ("last 30 days", "2026-09-30", "2026-09-01", "2026-09-30"),
        ("next 2 months", "2026-09-30", "2026-10-01", "2026-11-30"),
        ("next 2 months", "2026-12-24", "2026-12-25", "2027-02-24"),
        ("next 2 whole months", "2026-12-24", "2027-01-01", "2027-02-28"),
        ("last 1 whole month", "2026-12-24", "2026-11-01", "2026-11-30"),
        ("last 2 whole weeks", "2026-12-24", "2026-12-07", "2026-12-20"),
        ("next 1 whole year", "2026-12-31", "2027-01-01", "2027-12-31"),
        ("next 1 day", "2026-09-30", "2026-10-01", "2026-10-01"),
        ("month to date", "2026-09-15", "2026-09-01", "2026-09-15"),
        ("year to date", "2026-09-15", "2026-01-01", "2026-09-15"),
    ] {
        let window: NamedWindow = name.parse().unwrap();
        assert_eq!(
            window.seen_from(date(today)),
            DateRange::new(date(first), date(last)),
            "{name} on {today}"
        );
        assert_eq!(window.to_string(), name.to_lowercase());
    }
    for text in [
        "",
        "last",
        "last 0 days",
        "next -1 days",
        "last day",
        "fortnight to date",
        "this 3 days",
        "last 99999999999 days",
    ] {
        assert!(text.parse::<NamedWindow>().is_err(), "{text}");
    }
}

fn any_rule() -> impl Strategy<Value = PeriodRule> {
    (0_usize..11, 0_usize..7, 1_u8..=12, 1_u8..=28, any::<bool>(), 0_usize..3).prop_map(
        |(kind, weekday, month, day, last, split)| {
            let weekday = Weekday::ALL[weekday];
            let fiscal = FiscalYear::starting(month, day).unwrap();
            let ending = if last { YearEnding::LastInMonth } else { YearEnding::NearestMonthEnd };
            let weeks = WeekYear::ending(weekday, month, ending).unwrap().with_split(WeekSplit::ALL[split]);
            [
                PeriodRule::Week(weekday),
                PeriodRule::Month,
                PeriodRule::Quarter,
                PeriodRule::HalfYear,
                PeriodRule::Year,
                PeriodRule::FiscalPeriod(fiscal),
                PeriodRule::FiscalQuarter(fiscal),
                PeriodRule::FiscalYear(fiscal),
                PeriodRule::WeekPeriod(weeks),
                PeriodRule::WeekQuarter(weeks),
                PeriodRule::WeekYear(weeks),
            ][kind]
        },
    )
}

#[test]
fn no_step_from_the_period_of_number_nothing_overflows() {
    // The fiscal year 1 begins before the calendar does, and is counted as number 0.
    let year =
        PeriodRule::FiscalYear(FiscalYear::starting(4, 1).unwrap()).containing("0001-03-31".parse().unwrap());
    assert!(year.away(i64::MIN).is_err() && year.away(i64::MAX).is_err() && year.away(1).is_ok());
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(2000))]
    #[test]
    fn periods_tile_and_hold_their_days(rule in any_rule(), number in -719_162..=2_932_896, steps in -500_i64..500) {
        let date = Date::from_day_number(number).unwrap();
        let period = rule.containing(date);
        prop_assert!(period.contains(date));
        if let (Ok(first), Ok(last)) = (period.first_day(), period.last_day()) {
            prop_assert!(first <= date && date <= last);
            prop_assert_eq!(period.days(), i64::from(last.day_number() - first.day_number()) + 1);
            prop_assert_eq!(rule.containing(first), period);
            prop_assert_eq!(rule.containing(last), period);
            prop_assert_eq!(period.position_of(last), Some(period.days()));
            if let Ok(next) = Shift::days(1).apply(last) {
                let after = rule.containing(next);
                prop_assert_eq!(after.first_day(), Ok(next));
                prop_assert_eq!(period.away(1), Ok(after));
                prop_assert_eq!(after.away(-1), Ok(period));
            }
            if let Ok(away) = period.away(steps) {
                prop_assert_eq!(away.away(-steps), Ok(period));
            }
        }
        let _ = (period.label(), period.nearest_start(date, Nearness::ByDays), period.nearest_start(date, Nearness::ByMiddle));
        prop_assert!(period.away(i64::MAX).is_err() && period.away(i64::MIN).is_err());
    }

    #[test]
    fn no_text_makes_a_rule_or_a_pattern_panic(text in any::<String>(), near in "[%{}A-Za-z_ ]{0,20}") {
        let _ = (text.parse::<WeekYear>(), near.parse::<WeekYear>());
        for text in [text, near] {
            if let Ok(pattern) = text.parse::<LabelPattern>() {
                let _ = pattern.write(Date::MIN, FiscalYear::default());
            }
        }
    }
}

proptest! {
    #[test]
    fn the_last_step_of_every_working_is_the_label(
        day in -719_162..=2_932_896_i32, (month, first) in (1..=12_u8, 1..=28_u8), weekday in 0..7_usize,
    ) {
        let date = Date::from_day_number(day).unwrap();
        let fiscal = FiscalYear::starting(month, first).unwrap();
        let weeks = WeekYear::ending(Weekday::ALL[weekday], month, YearEnding::NearestMonthEnd).unwrap();
        for rule in PeriodRule::all(Weekday::ALL[weekday], fiscal, weeks) {
            let (working, period) = (rule.why(date), rule.containing(date));
            prop_assert_eq!(working.figure(), period.label());
            if let Ok(last) = period.last_day() {
                prop_assert!(working.to_string().contains(&last.to_string()), "{}", working);
            }
        }
    }
}

#[test]
fn at_the_ends_of_the_calendar_every_period_has_a_label_and_a_working() {
    for (weekday, date) in Weekday::ALL.into_iter().flat_map(|day| [(day, Date::MIN), (day, Date::MAX)]) {
        let weeks = WeekYear::ending(weekday, 6, YearEnding::LastInMonth).unwrap();
        for rule in PeriodRule::all(weekday, FiscalYear::starting(4, 6).unwrap(), weeks) {
            let period = rule.containing(date);
            assert!(!period.label().is_empty());
            assert_eq!(rule.why(date).figure(), period.label());
            // Outside the calendar a bound is an error, which names the period.
            for bound in [period.first_day(), period.last_day()] {
                assert!(
                    bound.map_or_else(
                        |error| error.what().contains(&period.label()),
                        |day| period.contains(day)
                    )
                );
            }
        }
    }
}

#[test]
fn labels_in_words_and_fiscal_quarters() {
    let fiscal = FiscalYear::starting(10, 1).unwrap();
    let label = |pattern: &str, day: &str| {
        pattern.parse::<LabelPattern>().map(|pattern| pattern.write(day.parse().unwrap(), fiscal))
    };
    assert_eq!(label("month-name year", "2026-09-05").unwrap(), "September 2026");
    assert_eq!(label("weekday, day month-name year", "2026-09-05").unwrap(), "Saturday, 5 September 2026");
    assert_eq!(label("day/month/year", "2026-09-05").unwrap(), "05/09/2026");
    for refused in ["Q3", "", "quarter year", "{}", "monthly", "100 %%", "month-names"] {
        assert!(label(refused, "2026-09-05").is_err(), "{refused}");
    }
    let pattern: LabelPattern = "Q{quarter} H{half} {fiscal_year}".parse().unwrap();
    let date = "2026-11-20".parse().unwrap();
    let of = |rule: PeriodRule| pattern.write_period(&rule.containing(date), fiscal).unwrap();
    assert_eq!(of(PeriodRule::FiscalQuarter(fiscal)), "Q1 H1 2027");
    assert_eq!(of(PeriodRule::FiscalPeriod(fiscal)), "Q1 H1 2027");
    assert_eq!(of(PeriodRule::Quarter), "Q4 H2 2027");
    assert_eq!(of(PeriodRule::WeekQuarter(WeekYear::iso())), "Q4 H2 2026");
    assert_eq!(label("%Y", "0026-09-05").unwrap(), "0026");
}

#[test]
fn weeks_and_weekdays_are_numbered_by_name() {
    let date: Date = "2022-10-03".parse().unwrap();
    for (rule, written, week) in [
        ("iso", "iso", 40),
        ("monday, 4", "iso", 40),
        ("Sunday, 1", "Sunday first, at least 1 day", 41),
        ("sunday first, at least 1 day", "Sunday first, at least 1 day", 41),
        ("saturday, 7", "Saturday first, at least 7 days", 40),
        ("blocks from 1 january", "blocks from 1 January", 40),
    ] {
        let numbers: WeekNumbers = rule.parse().unwrap();
        assert_eq!((numbers.to_string().as_str(), numbers.of(date).week()), (written, week), "{rule}");
        assert_eq!(numbers.to_string().parse(), Ok(numbers));
    }
    // Blocks, counted off: a new week every seven days of each year.
    for year in [2023, 2024] {
        for (nth, day) in counter::days_from(year, 1, 1, 365).into_iter().enumerate() {
            let week = WeekNumbers::blocks().of(day.date());
            assert_eq!((week.year(), usize::from(week.week())), (year, nth / 7 + 1));
        }
    }
    for refused in ["", "sunday", "sunday, 8", "week 1", "blocks from 2 january"] {
        assert!(refused.parse::<WeekNumbers>().is_err(), "{refused}");
    }
    // 2026-10-04 is a Sunday.
    let numbers = |rule: &str| -> Vec<u8> {
        let rule: WeekdayNumbers = rule.parse().unwrap();
        assert_eq!(rule.to_string().parse(), Ok(rule));
        counter::days_from(2026, 10, 4, 7).into_iter().map(|day| rule.of(day.date())).collect()
    };
    assert_eq!(numbers("sunday from 1"), [1, 2, 3, 4, 5, 6, 7]);
    assert_eq!(numbers("sunday from 0"), [0, 1, 2, 3, 4, 5, 6]);
    assert_eq!(numbers("monday from 1"), [7, 1, 2, 3, 4, 5, 6]);
    assert!(
        "sunday from 2".parse::<WeekdayNumbers>().is_err() && "sunday".parse::<WeekdayNumbers>().is_err()
    );
}

#[test]
fn the_number_of_a_year_is_its_year_and_years_of_weeks_may_be_named_by_their_begin() {
    let date = "2023-01-29".parse().unwrap();
    let number = |rule: PeriodRule| rule.containing(date).number();
    let fiscal = FiscalYear::starting(10, 1).unwrap();
    assert_eq!((number(PeriodRule::Year), number(PeriodRule::FiscalYear(fiscal))), (2023, 2023));
    let retail: WeekYear = "saturday nearest end of january, 4-5-4".parse().unwrap();
    let begun = retail.with_naming(FiscalNaming::Begin);
    assert_eq!((number(PeriodRule::WeekYear(retail)), number(PeriodRule::WeekYear(begun))), (2024, 2023));
    assert_eq!(begun.to_string().parse(), Ok(begun));
    for rule in [PeriodRule::WeekYear, PeriodRule::WeekQuarter, PeriodRule::WeekPeriod] {
        let (one, other) = (rule(retail).containing(date), rule(begun).containing(date));
        assert_eq!((one.first_day(), one.year() - 1), (other.first_day(), other.year()));
    }
    // 2023-01-29 to 2024-02-03 is then 2023, and the 53 weeks of it as they were.
    let year = PeriodRule::WeekYear(begun).containing("2024-02-03".parse().unwrap());
    assert_eq!((year.label().as_str(), year.days()), ("2023 week-year", 371));
    assert_eq!(year.first_day(), Ok(date));
    // A year that ends with December begins in the year that it is called by either way.
    let iso = WeekYear::iso().with_naming(FiscalNaming::Begin);
    assert_eq!(iso.year_containing("2021-01-03".parse().unwrap()), 2020);
}

#[test]
fn rules_are_read_as_they_are_written() {
    let mut texts = std::collections::BTreeSet::new();
    for (month, naming) in
        (1..=12).flat_map(|month| [(month, FiscalNaming::End), (month, FiscalNaming::Begin)])
    {
        for day in [1, 6, 28] {
            let year = FiscalYear::starting(month, day).unwrap().with_naming(naming);
            assert_eq!(year.to_string().parse(), Ok(year));
            texts.insert(year.to_string());
        }
    }
    assert_eq!(texts.len(), 72);
    // No two kinds of periods have one text.
    let kinds = PeriodRule::all(Weekday::Sunday, FiscalYear::default(), WeekYear::iso());
    let texts: std::collections::BTreeSet<String> = kinds.iter().map(PeriodRule::to_string).collect();
    assert_eq!(texts.len(), kinds.len());
    assert!(texts.contains("week from Sunday") && texts.contains("fiscal year from 1 January"), "{texts:?}");
}
