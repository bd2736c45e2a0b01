//! What laws say of holidays: moves by weekday, both days closed, several dates, days between, half days, rest days
//! that change, calendars that build on others, and years that are not yet proclaimed. Held against walks day by day.

#![allow(clippy::unwrap_used, clippy::expect_used)] // a test fails by panicking

use mild_ledger::{
    CalendarYears, Combination, Date, DateRange, DayKind, Ends, ErrorKind, HalfDays, HolidayLength,
    HolidayMove, HolidayRule, Interval, KeptYears, Occurrence, RestDays, SubstituteCloses, Weekday,
    WeekdayMove, WorkCalendar,
};
use proptest::prelude::*;

fn date(text: &str) -> Date {
    text.parse().unwrap()
}

fn yearly(name: &str, month: u8, day: u8) -> HolidayRule {
    HolidayRule::new(name, Occurrence::on_day_of_year(month, day).unwrap())
}

fn years(first: i32, last: i32) -> CalendarYears {
    CalendarYears::of(first, last)
}

/// The days on which holidays are kept, with where each was moved from.
fn kept(calendar: &WorkCalendar) -> Vec<String> {
    let said = |day: &mild_ledger::Holiday| match day.moved_from() {
        Some(from) => format!("{} from {from}", day.date()),
        None => day.date().to_string(),
    };
    calendar.holidays().iter().map(said).collect()
}

fn of_rules(rules: &[HolidayRule], first: i32, last: i32) -> WorkCalendar {
    WorkCalendar::new("x", RestDays::default(), first, last, rules).unwrap()
}

#[test]
fn a_holiday_moves_from_the_weekdays_that_its_law_names() {
    let after = |day| WeekdayMove::After(day);
    let before = |day| WeekdayMove::Before(day);
    // A Saturday stays and a Sunday goes to Monday, as reserve banks keep it: 4 July of 2026 and of 2027.
    let bank = yearly("Independence Day", 7, 4).with_moved_on(Weekday::Sunday, after(Weekday::Monday));
    assert_eq!(kept(&of_rules(&[bank], 2026, 2027)), ["2026-07-04", "2027-07-05 from 2027-07-04"]);
    // A Saturday goes to the Friday before: 1 January 2028 is a Saturday, and closes in the year before.
    let exchange = yearly("New Year", 1, 1).with_moved_on(Weekday::Saturday, before(Weekday::Friday));
    assert_eq!(kept(&of_rules(&[exchange], 2027, 2027)), ["2027-01-01", "2027-12-31 from 2028-01-01"]);
    // A Sunday goes to the Saturday before, which is a rest day and takes no working day off.
    let king = yearly("King's Day", 4, 27).with_moved_on(Weekday::Sunday, before(Weekday::Saturday));
    assert_eq!(kept(&of_rules(&[king], 2025, 2026)), ["2025-04-26 from 2025-04-27", "2026-04-27"]);
    // Bridges: a Tuesday to the Monday before, a Thursday to the Friday after. 17 June is a Tuesday in 2025, a Wednesday in
    // 2026, a Thursday in 2027.
    let bridge = yearly("Bridge", 6, 17)
        .with_moved_on(Weekday::Tuesday, before(Weekday::Monday))
        .with_moved_on(Weekday::Thursday, after(Weekday::Friday));
    assert_eq!(
        kept(&of_rules(&[bridge], 2025, 2027)),
        ["2025-06-16 from 2025-06-17", "2026-06-17", "2027-06-18 from 2027-06-17"]
    );
    // After a move by weekday is one off rest days: 4 July 2026, a Saturday, by way of Sunday to Monday.
    let both = yearly("A", 7, 4)
        .with_moved_on(Weekday::Saturday, after(Weekday::Sunday))
        .with_moved(HolidayMove::NextFreeDay);
    assert_eq!(kept(&of_rules(&[both], 2026, 2026)), ["2026-07-06 from 2026-07-04"]);
}

#[test]
fn the_day_itself_may_stay_closed_beside_its_substitute() {
    let day = yearly("Heritage Day", 9, 24)
        .with_moved_on(Weekday::Sunday, WeekdayMove::After(Weekday::Monday))
        .with_closes(SubstituteCloses::BothDays);
    // 24 September 2023 is a Sunday.
    let land = of_rules(&[day], 2023, 2024);
    assert_eq!(kept(&land), ["2023-09-24", "2023-09-25 from 2023-09-24", "2024-09-24"]);
    // A shop that opens on Sundays is closed on both.
    let shop = land.counted_with(RestDays::NONE).unwrap();
    let days = Interval::between(date("2023-09-23"), date("2023-09-26"));
    assert_eq!(shop.count_working_days(days, Ends::FirstAndLast), Ok(2));
}

#[test]
fn days_between_two_holidays_are_found_by_the_days_that_these_are_named_for() {
    let dates = ["2026-09-21", "2026-09-23", "2026-11-03", "2026-11-06"].map(date).map(Occurrence::on_date);
    let between = HolidayRule::new("Between", Occurrence::between_holidays());
    let rules = [HolidayRule::on_all("Feast", dates), between.clone()];
    let calendar = of_rules(&rules, 2026, 2026);
    let names: Vec<_> = calendar.holidays_on(date("2026-09-22")).iter().map(|day| day.name()).collect();
    assert_eq!((names, calendar.holidays().len()), (vec!["Between"], 5));
    // Across the turn of the year, and not where the law came later.
    let turn = [yearly("Eve", 12, 31), yearly("Second", 1, 2), between.clone().with_since(2026)];
    assert_eq!(
        kept(&of_rules(&turn, 2025, 2026)),
        ["2025-01-02", "2025-12-31", "2026-01-01", "2026-01-02", "2026-12-31"]
    );
    // Half days make none, and a day that is a holiday itself is none.
    let half = yearly("Eve", 12, 31).with_length(HolidayLength::HalfDay);
    assert_eq!(of_rules(&[half, yearly("Second", 1, 2), between.clone()], 2026, 2026).holidays().len(), 2);
    let rules = [yearly("A", 5, 3), yearly("B", 5, 4), yearly("C", 5, 5), between];
    assert_eq!(of_rules(&rules, 2026, 2026).holidays().len(), 3);
}

#[test]
fn half_days_are_open_closed_or_half() {
    let eves = [
        yearly("Christmas Eve", 12, 24).with_length(HolidayLength::HalfDay),
        yearly("Christmas Day", 12, 25),
        // On a holiday and on a rest day there is no half of a working day.
        yearly("Afternoon", 12, 25).with_length(HolidayLength::HalfDay),
        yearly("Saturday", 12, 26).with_length(HolidayLength::HalfDay),
    ];
    let yard = of_rules(&eves, 2026, 2026);
    let kind = |day: &str| yard.kind_of(date(day)).unwrap();
    assert_eq!(kind("2026-12-24"), DayKind::HalfDay);
    // Half of Christmas Day is none, and is not in the list.
    assert_eq!(kept(&yard), ["2026-12-24", "2026-12-25", "2026-12-26"]);
    assert_eq!((kind("2026-12-25"), kind("2026-12-26")), (DayKind::Holiday, DayKind::HolidayOnRestDay));
    let week = Interval::between(date("2026-12-21"), date("2026-12-27"));
    let said = |half_days| {
        let counted = yard.clone().with_half_days(half_days).working_days(week, Ends::FirstAndLast).unwrap();
        (counted.to_string(), counted.amount().to_string())
    };
    let on_rest = "(another holiday falls on a rest day)";
    assert_eq!(
        said(HalfDays::Open),
        (format!("7 days - 2 rest days - 1 holiday = 4, 1 half day among them {on_rest}"), "4".to_owned())
    );
    assert_eq!(
        said(HalfDays::Half),
        (format!("7 days - 2 rest days - 1 holiday - half of 1 half day = 3.5 {on_rest}"), "3.5".to_owned())
    );
    assert_eq!(
        said(HalfDays::Closed),
        (format!("7 days - 2 rest days - 2 holidays = 3 {on_rest}"), "3".to_owned())
    );
    let back = Interval::between(week.end(), week.start());
    let halves = yard.clone().with_half_days(HalfDays::Half);
    assert_eq!(halves.working_time_in_days(back, Ends::FirstAndLast).unwrap().to_string(), "-3.5");
    let sum = halves.working_days(back, Ends::FirstAndLast).unwrap().to_string();
    assert!(sum.ends_with("= 3.5 (another holiday falls on a rest day), negated: -3.5"), "{sum}");
    // Moves know whole days: a half day that is open is one.
    assert_eq!(halves.add_working_days(date("2026-12-23"), 1), Ok(date("2026-12-24")));
    assert_eq!(
        yard.clone().with_half_days(HalfDays::Closed).add_working_days(date("2026-12-23"), 1),
        Ok(date("2026-12-28"))
    );
    // Together with another calendar: closed wins over half, half over open.
    let other = of_rules(&[yearly("Eve", 12, 24)], 2026, 2026);
    let open = WorkCalendar::rest_days_only(RestDays::default());
    let of_both = |how, one: &WorkCalendar| {
        WorkCalendar::combined(how, &[yard.clone(), one.clone()])
            .unwrap()
            .kind_of(date("2026-12-24"))
            .unwrap()
    };
    assert_eq!(of_both(Combination::ClosedIfAny, &other), DayKind::Holiday);
    assert_eq!(of_both(Combination::ClosedIfAny, &open), DayKind::HalfDay);
    assert_eq!(of_both(Combination::ClosedIfAll, &other), DayKind::HalfDay);
    assert_eq!(of_both(Combination::ClosedIfAll, &open), DayKind::Working);
}

#[test]
fn a_calendar_builds_on_another() {
    let land = WorkCalendar::builder("Land", years(2015, 2030))
        .holidays([yearly("May Day", 5, 4), yearly("Unity", 10, 3)])
        .proclaimed_to(2027);
    let region = land.clone().extended("Region", years(2019, 2029));
    let region = region.moving("May Day", 2020, date("2020-05-08")).unwrap();
    let region = region.without("Unity", &KeptYears::default().since(2021).except([2022])).unwrap();
    let town = region.extended("Town", years(2020, 2022)).holidays([yearly("Fair", 6, 1)]);
    let built = town.build().unwrap();
    assert_eq!(built.name(), "Town");
    assert_eq!(
        kept(&built),
        [
            "2020-05-08",
            "2020-06-01",
            "2020-10-03",
            "2021-05-04",
            "2021-06-01",
            "2022-05-04",
            "2022-06-01",
            "2022-10-03"
        ]
    );
    assert_eq!(built.by_rule(), None);
    let error = land.clone().without("Mayday", &KeptYears::default()).unwrap_err();
    assert_eq!((error.kind(), error.what()), (ErrorKind::NotAllowed, "\"Land\" has no holiday \"Mayday\""));
    // What is not proclaimed in one of several is not proclaimed in all.
    let land = land.build().unwrap();
    assert_eq!(land.by_rule(), Some(years(2028, 2030)));
    let both = WorkCalendar::combined(Combination::ClosedIfAny, &[land.clone(), of_rules(&[], 2020, 2029)]);
    assert_eq!(both.unwrap().by_rule(), Some(years(2028, 2029)));
    let asked =
        |first: &str, last: &str| land.by_rule_within(DateRange::new(date(first), date(last)).unwrap());
    assert_eq!(asked("2027-01-01", "2027-12-31"), None);
    assert_eq!(asked("2020-01-01", "2028-01-01"), Some(years(2028, 2028)));
    assert_eq!(land.counted_with(RestDays::NONE).unwrap().by_rule(), Some(years(2028, 2030)));
}

/// Whether a date is worked, by the rest days of its time and one holiday that moves.
fn worked(date: Date, changes: &[(Date, RestDays)], first: RestDays, closed: &[Date]) -> bool {
    let mut rest_days = first;
    for (from, days) in changes {
        if *from <= date {
            rest_days = *days;
        }
    }
    !rest_days.contains(date.weekday()) && !closed.contains(&date)
}

fn some_rest_days() -> impl Strategy<Value = RestDays> {
    proptest::sample::subsequence(Weekday::ALL.to_vec(), 0..=4).prop_map(RestDays::of)
}

proptest! {
    /// Rest days that change at dates: every day of four years, every count, against a walk.
    #[test]
    fn rest_days_change_at_a_date(
        first in some_rest_days(),
        changes in proptest::collection::btree_map(0_i32..1461, some_rest_days(), 0..4),
        from in 0_i32..1461,
        to in 0_i32..1461,
        holiday in 1_u8..=28,
    ) {
        let start = date("2023-01-01").day_number();
        let on = |day: i32| Date::from_day_number(start + day).unwrap();
        let changes: Vec<(Date, RestDays)> = changes.into_iter().map(|(day, rest)| (on(day), rest)).collect();
        let mut builder = WorkCalendar::builder("x", years(2023, 2026)).rest_days(first).holidays([yearly("A", 6, holiday)]);
        for (date, rest) in changes.iter().rev() {
            builder = builder.rest_days_from(*date, *rest);
        }
        let calendar = builder.build().unwrap();
        let closed: Vec<Date> = (2023..=2026).map(|year| Date::new(year, 6, holiday).unwrap()).collect();
        let is_worked = |day: i32| worked(on(day), &changes, first, &closed);
        for day in 0..1461 {
            prop_assert_eq!(calendar.kind_of(on(day)).unwrap().is_working(), is_worked(day), "{}", on(day));
        }
        let (low, high) = (from.min(to), from.max(to));
        let walked = (low..=high).filter(|day| is_worked(*day)).count() as i64;
        let walked = if to < from { -walked } else { walked };
        let found = calendar.count_working_days(Interval::between(on(from), on(to)), Ends::FirstAndLast);
        prop_assert_eq!(found, Ok(walked));
    }

    /// A holiday that moves by its weekday, and on off rest days, against the words of the rule.
    #[test]
    fn moves_by_weekday_against_the_rule_in_words(
        month in 1_u8..=12,
        day in 1_u8..=28,
        moves in proptest::collection::vec((0_usize..7, 0_usize..7, any::<bool>()), 0..4),
        then in proptest::sample::select(vec![HolidayMove::Stays, HolidayMove::NextFreeDay]),
    ) {
        let mut rule = yearly("A", month, day).with_moved(then);
        let mut said = [None; 7];
        for (from, to, later) in moves {
            let (from, to) = (Weekday::ALL[from], Weekday::ALL[to]);
            let by = if later { WeekdayMove::After(to) } else { WeekdayMove::Before(to) };
            rule = rule.with_moved_on(from, by);
            said[Weekday::ALL.iter().position(|day| *day == from).unwrap()] = Some((to, later));
        }
        let calendar = of_rules(&[rule], 2020, 2033);
        for year in 2021..=2032 {
            let own = Date::new(year, month, day).unwrap();
            let step = |date: Date, by: i32| Date::from_day_number(date.day_number() + by).unwrap();
            let mut kept = own;
            if let Some((to, later)) = said[Weekday::ALL.iter().position(|day| *day == own.weekday()).unwrap()] {
                let by = if later { 1 } else { -1 };
                kept = step(kept, by);
                while kept.weekday() != to {
                    kept = step(kept, by);
                }
            }
            while then == HolidayMove::NextFreeDay && RestDays::default().contains(kept.weekday()) {
                kept = step(kept, 1);
            }
            let found: Vec<Date> = calendar
                .holidays()
                .iter()
                .filter(|holiday| holiday.moved_from().unwrap_or(holiday.date()) == own)
                .map(|holiday| holiday.date())
                .collect();
            prop_assert_eq!(found, vec![kept]);
        }
    }

    /// Half days in halves, against a walk; parts of an interval sum to the whole.
    #[test]
    fn half_days_against_a_walk(days in proptest::collection::btree_set(0_i32..365, 0..30), from in 0_i32..365, to in 0_i32..365) {
        let start = date("2026-01-01").day_number();
        let on = |day: i32| Date::from_day_number(start + day).unwrap();
        let dates: Vec<Date> = days.iter().map(|day| on(*day)).collect();
        let halves = HolidayRule::on_all("Half", dates.iter().map(|date| Occurrence::on_date(*date)))
            .with_length(HolidayLength::HalfDay);
        let calendar = of_rules(&[halves], 2026, 2026).with_half_days(HalfDays::Half);
        let weight = |day: i32| match (RestDays::default().contains(on(day).weekday()), dates.contains(&on(day))) {
            (true, _) => 0,
            (false, true) => 5,
            (false, false) => 10,
        };
        let walked: i128 = (from.min(to)..=from.max(to)).map(weight).sum();
        let interval = Interval::between(on(from), on(to));
        let tenths = |found: mild_ledger::Decimal| found.with_decimals(1, mild_ledger::Rounding::Nearest).unwrap().units();
        let found = tenths(calendar.working_time_in_days(interval, Ends::FirstAndLast).unwrap());
        prop_assert_eq!(found, if to < from { -walked } else { walked });
        let counted = calendar.working_days(interval, Ends::FirstAndLast).unwrap();
        prop_assert_eq!(tenths(counted.amount()), found);
        let middle = date("2026-06-30");
        let part = |first, last| {
            let days = DateRange::new(first, last).unwrap();
            tenths(calendar.working_time_within(interval, days, Ends::FirstAndLast).unwrap())
        };
        prop_assert_eq!(part(on(0), middle) + part(date("2026-07-01"), on(364)), found);
    }
}
