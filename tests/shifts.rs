//! Moving dates, against a counter that walks the months.
#![allow(clippy::unwrap_used, clippy::expect_used)] // a test fails by panicking

mod counter;

use mild_ledger::{
    ClockUnit, Date, DateRange, ErrorKind, MonthEnd, NthWeekday, Recurrence, Shift, Unit, Weekday,
    WeekdayMove,
};
use proptest::prelude::*;

fn moved(start: &str, amount: &str, rule: MonthEnd) -> String {
    match amount.parse::<Shift>().unwrap().with_month_end(rule).apply(start.parse().unwrap()) {
        Ok(date) => date.to_string(),
        Err(error) => error.to_string(),
    }
}

#[test]
fn the_table_of_month_end_rules() {
    let moves = [
        ("2026-01-31", "1M"),
        ("2026-01-31", "2M"),
        ("2026-01-31", "3M"),
        ("2026-02-28", "1M"),
        ("2026-04-30", "1M"),
    ];
    let under = |rule| moves.map(|(date, amount)| moved(date, amount, rule));
    assert_eq!(
        under(MonthEnd::Clamp),
        ["2026-02-28", "2026-03-31", "2026-04-30", "2026-03-28", "2026-05-30"]
    );
    assert_eq!(under(MonthEnd::Keep), ["2026-02-28", "2026-03-31", "2026-04-30", "2026-03-31", "2026-05-31"]);
    assert_eq!(
        under(MonthEnd::NextStart),
        ["2026-03-01", "2026-03-31", "2026-05-01", "2026-03-28", "2026-05-30"]
    );
    let refused = under(MonthEnd::Refuse);
    assert_eq!(
        refused[0],
        "2026-01-31 moved by 1 month (month end: refuse) would be day 31 of 2026-02, which has none (allowed: day 1 to 28)"
    );
    assert!(refused[2].contains("day 31 of 2026-04"));
    assert_eq!([&refused[1], &refused[3], &refused[4]], ["2026-03-31", "2026-03-28", "2026-05-30"]);
}

#[test]
fn every_day_of_a_cycle_by_thirty_months_either_way() {
    for day in counter::days_from(1800, 1, 1, 146_097) {
        let date = day.date();
        let is_last = day.day == counter::length_of(day.year, day.month);
        let (mut year, mut month) = (day.year - 3, day.month);
        for months in -36..=30 {
            if months > -36 {
                (year, month) = if month == 12 { (year + 1, 1) } else { (year, month + 1) };
            }
            if months < -30 {
                continue;
            }
            let length = counter::length_of(year, month);
            let on = |day| Date::new(year, month, day).unwrap();
            let by = |rule| Shift::months(months).with_month_end(rule).apply(date);
            assert_eq!(by(MonthEnd::Clamp), Ok(on(day.day.min(length))));
            assert_eq!(by(MonthEnd::Keep), Ok(on(if is_last { length } else { day.day.min(length) })));
            if day.day <= length {
                assert_eq!(by(MonthEnd::NextStart), Ok(on(day.day)));
                assert_eq!(by(MonthEnd::Refuse), Ok(on(day.day)));
            } else {
                let (next_year, next_month) = if month == 12 { (year + 1, 1) } else { (year, month + 1) };
                assert_eq!(by(MonthEnd::NextStart), Date::new(next_year, next_month, 1));
                assert_eq!(by(MonthEnd::Refuse).unwrap_err().kind(), ErrorKind::NoSuchDay);
            }
        }
    }
}

#[test]
fn several_amounts_move_months_first() {
    assert_eq!(moved("2024-02-29", "1 year 1 month", MonthEnd::Clamp), "2025-03-29");
    assert_eq!(moved("2026-01-31", "1 day, 1 month", MonthEnd::Clamp), "2026-03-01");
    assert_eq!(moved("2026-01-31", "1 month and 1 week", MonthEnd::Clamp), "2026-03-07");
    // The month goes past the last year there is, and the days bring it back.
    assert_eq!(moved("9999-12-15", "1M -31d", MonthEnd::Clamp), "9999-12-15");
    assert_eq!(moved("0001-01-10", "-1000000y 365242500d", MonthEnd::Clamp), "0001-01-10");
}

#[test]
fn amounts_in_words_short_forms_and_iso() {
    let read = |text: &str| text.parse::<Shift>();
    for (text, shift) in [
        ("30 days", Shift::days(30)),
        ("1 day", Shift::days(1)),
        ("45d", Shift::days(45)),
        ("3w", Shift::weeks(3)),
        ("2 months", Shift::months(2)),
        ("2M", Shift::months(2)),
        ("-2M", Shift::months(-2)),
        ("−2M", Shift::months(-2)),
        ("45D 3W 1Y", Shift::days(66).and(Shift::months(12)).unwrap()),
        ("0wd", Shift::working_days(0)),
        ("2 quarters", Shift::months(6)),
        ("1 half-year", Shift::of(1, Unit::HalfYear)),
        ("2y", Shift::months(24)),
        ("P1M", Shift::months(1)),
        ("-P1Y2M", Shift::months(-14)),
        ("P3W", Shift::weeks(3)),
        ("10wd", Shift::working_days(10)),
        ("-10 working days", Shift::working_days(-10)),
        ("1 working day and 2 months", Shift::months(2).and(Shift::working_days(1)).unwrap()),
        ("14h", Shift::of_clock(14, ClockUnit::Hour)),
        ("PT14H", Shift::of_clock(14, ClockUnit::Hour)),
        ("-PT90S", Shift::of_clock(-90, ClockUnit::Second)),
        ("30 minutes", Shift::of_clock(30, ClockUnit::Minute)),
        ("2Y 1D", Shift::months(24).and(Shift::days(1)).unwrap()),
    ] {
        assert_eq!(read(text), Ok(shift), "{text}");
    }
    let why = |text: &str| read(text).unwrap_err().what().to_owned();
    assert!(why("2m").contains("m could be months or minutes; write M or min"));
    assert!(why("PT").contains("a number was expected"));
    assert!(why("30").contains("without its unit"));
    assert!(why("3 fortnights").contains("\"fortnights\" is not a unit"));
    assert!(why("P1D1Y").contains("in this order"));
    assert!(why("").contains("empty") && why("P").contains("nothing follows"));
    // Short forms that were here once have no alias.
    for old in ["2mo", "1q", "1hy"] {
        assert!(why(old).contains("is not a unit"), "{old}");
    }
    assert_eq!(read("99999999999d").unwrap_err().kind(), ErrorKind::OutOfRange);
}

#[test]
fn a_recurrence_is_always_moved_from_its_first_date() {
    let dates = |recurrence: Recurrence, count| -> Vec<String> {
        recurrence
            .iter()
            .skip(1)
            .take(count)
            .map(|date| date.map_or_else(|error| error.allowed().to_owned(), |date| date.to_string()))
            .collect()
    };
    let monthly =
        |rule| Recurrence::new("2026-01-31".parse().unwrap(), Shift::months(1).with_month_end(rule));
    assert_eq!(dates(monthly(MonthEnd::Clamp), 3), ["2026-02-28", "2026-03-31", "2026-04-30"]);
    assert_eq!(dates(monthly(MonthEnd::Refuse), 3), ["day 1 to 28", "2026-03-31", "day 1 to 30"]);
    let back: Vec<_> =
        monthly(MonthEnd::Clamp).before().take(3).map(|date| date.unwrap().to_string()).collect();
    assert_eq!(back, ["2025-12-31", "2025-11-30", "2025-10-31"]);
    assert_eq!(monthly(MonthEnd::Clamp).until("2026-12-31".parse().unwrap()).count(), 12);
    // The ends of the calendar end a series, and a step of nothing has no series.
    let to_the_end = Recurrence::new(Date::MAX, Shift::days(1));
    assert_eq!((to_the_end.iter().count(), to_the_end.before().take(2).count()), (1, 2));
    assert_eq!(Recurrence::new(Date::MIN, Shift::days(0)).iter().count(), 1);
    assert_eq!(Recurrence::new(Date::MIN, Shift::days(0)).before().count(), 0);
    assert!(Recurrence::new(Date::MIN, Shift::weeks(i32::MAX)).occurrence(i32::MAX).is_err());
    assert_eq!(Recurrence::new("9000-01-01".parse().unwrap(), Shift::months(1)).iter().count(), 12_000);
}

#[test]
fn weekday_moves_against_walking() {
    for day in counter::days_from(2026, 1, 1, 800) {
        let date = day.date();
        for weekday in Weekday::ALL {
            let walk = |from: i32, step: i32| {
                let mut days = from;
                while Shift::days(days).apply(date).unwrap().weekday() != weekday {
                    days += step;
                }
                Shift::days(days).apply(date)
            };
            for (to, expected) in [
                (WeekdayMove::OnOrAfter(weekday), walk(0, 1)),
                (WeekdayMove::After(weekday), walk(1, 1)),
                (WeekdayMove::OnOrBefore(weekday), walk(0, -1)),
                (WeekdayMove::Before(weekday), walk(-1, -1)),
            ] {
                assert_eq!(to.apply(date), expected);
                assert_eq!(to.to_string().parse(), Ok(to));
            }
            let of_month = |nth: NthWeekday| nth.of_month(date).ok();
            let all: Vec<Date> = (1..=counter::length_of(day.year, day.month))
                .map(|number| Date::new(day.year, day.month, number).unwrap())
                .filter(|date| date.weekday() == weekday)
                .collect();
            for number in 0..7_u8 {
                let expected = usize::from(number).checked_sub(1).and_then(|nth| all.get(nth).copied());
                assert_eq!(of_month(NthWeekday::Nth(number, weekday)), expected);
            }
            assert_eq!(of_month(NthWeekday::Last(weekday)), all.last().copied());
        }
    }
    assert!(WeekdayMove::Before(Weekday::Monday).apply(Date::MIN).is_err());
    assert!("monday".parse::<WeekdayMove>().is_err() && "after noon".parse::<WeekdayMove>().is_err());
}

proptest! {
    #[test]
    fn there_and_back_differs_only_by_the_clamp(number in -680_000..2_900_000, months in -1000..1000) {
        let date = Date::from_day_number(number).unwrap();
        let there = Shift::months(months).apply(date).unwrap();
        let back = Shift::months(-months).apply(there).unwrap();
        prop_assert_eq!((back.year(), back.month()), (date.year(), date.month()));
        prop_assert_eq!(back.day(), date.day().min(there.day()));
    }

    #[test]
    fn no_amount_panics_or_leaves_the_range(number in any::<i32>(), amount in any::<i32>(), text in any::<String>(), day in -719_162..=2_932_896) {
        let date = Date::from_day_number(day).unwrap();
        for unit in Unit::ALL {
            let shift = Shift::of(amount, unit).and(Shift::of(number, Unit::Week)).unwrap();
            for rule in MonthEnd::ALL {
                if let Ok(moved) = shift.with_month_end(rule).apply(date) {
                    prop_assert!((Date::MIN..=Date::MAX).contains(&moved));
                }
            }
        }
        if let Ok(shift) = text.parse::<Shift>() {
            let _ = shift.apply(date);
        }
    }

    #[test]
    fn the_last_step_of_a_working_is_the_date(day in -719_162..=2_932_896, months in -2000..2000, days in -800_000..800_000) {
        let date = Date::from_day_number(day).unwrap();
        for rule in MonthEnd::ALL {
            for shift in [Shift::months(months), Shift::days(days), Shift::months(months).and(Shift::days(days)).unwrap()] {
                let shift = shift.with_month_end(rule);
                match (shift.apply(date), shift.why(date)) {
                    (Ok(moved), Ok(working)) => prop_assert_eq!(working.figure(), moved.to_string()),
                    (moved, working) => prop_assert_eq!(moved.err(), working.err()),
                }
            }
        }
    }
}

#[test]
fn a_recurrence_begins_with_its_first_date_in_either_direction() {
    let first: Date = "2026-01-31".parse().unwrap();
    let dates = |step: Shift, last: &str| -> Vec<String> {
        let last = last.parse().unwrap();
        Recurrence::new(first, step).until(last).map(|date| date.unwrap().to_string()).collect()
    };
    assert_eq!(dates(Shift::months(1), "2026-03-31"), ["2026-01-31", "2026-02-28", "2026-03-31"]);
    assert_eq!(dates(Shift::months(-1), "2025-11-30"), ["2026-01-31", "2025-12-31", "2025-11-30"]);
    assert_eq!(dates(Shift::months(1), "2026-01-31"), ["2026-01-31"]);
    assert!(dates(Shift::months(1), "2026-01-30").is_empty());
    // A step of working days asks for a calendar: said once, not for ever.
    let steps: Vec<_> = Recurrence::new(first, Shift::working_days(1)).iter().collect();
    assert_eq!(steps.len(), 2);
    assert_eq!(steps[0], Ok(first));
    assert_eq!(steps[1].as_ref().unwrap_err().kind(), ErrorKind::NotCovered);
    // A day that a month lacks is an error under "refuse", and the next one follows.
    let refuse = Recurrence::new(first, Shift::months(1).with_month_end(MonthEnd::Refuse));
    let kinds: Vec<bool> = refuse.iter().take(4).map(|date| date.is_ok()).collect();
    assert_eq!(kinds, [true, false, true, false]);
}

#[test]
fn the_text_of_a_shift_keeps_its_rule_for_month_ends() {
    for rule in MonthEnd::ALL {
        for amounts in ["1 month", "1 month and 10 days", "-2 months", "3 days", "1 month and 2 working days"]
        {
            let shift = amounts.parse::<Shift>().unwrap().with_month_end(rule);
            assert_eq!(shift.to_string().parse::<Shift>(), Ok(shift), "{shift}");
        }
    }
    let keep = Shift::months(1).with_month_end(MonthEnd::Keep);
    assert_eq!(keep.to_string(), "1 month (month end: keep)");
    let february = "2026-02-28".parse().unwrap();
    assert_eq!("P1M (month end: keep)".parse::<Shift>().unwrap().apply(february), "2026-03-31".parse());
    assert!("1 month (month end: )".parse::<Shift>().is_err());
    assert!("1 month (month end: kept)".parse::<Shift>().is_err());
}

#[test]
fn a_shift_and_its_negation_cancel_out() {
    for text in ["3 days", "2 months", "1 month and 10 days", "5 working days", "2 hours"] {
        let shift: Shift = text.parse().unwrap();
        assert_eq!(-shift, shift.times(-1).unwrap());
        assert_eq!(-(-shift), shift);
    }
}

proptest! {
    /// Against a walk over all occurrences.
    #[test]
    fn occurrences_in_a_stretch_are_those_of_a_walk(
        first in 10_000..30_000_i32,
        (months, days) in (0..14_i32, -10..40_i32),
        (from, length) in (9_000..40_000_i32, 0..900_i32),
        rule in prop::sample::select(MonthEnd::ALL.to_vec()),
    ) {
        let day = |number: i32| Date::from_day_number(number).unwrap();
        let step = Shift::months(months).and(Shift::days(days)).unwrap().with_month_end(rule);
        prop_assume!(months * 28 + days > 0);
        let recurrence = Recurrence::new(day(first), step);
        let stretch = DateRange::new(day(from), day(from + length)).unwrap();
        let found: Vec<(i32, Date)> = stretch.occurrences_of(recurrence).collect();
        let walked: Vec<(i32, Date)> = (0..40_000)
            .map_while(|number| match recurrence.occurrence(number) {
                Ok(date) if date > stretch.last().days_later(400).unwrap() => None,
                date => Some((number, date)),
            })
            .filter_map(|(number, date)| date.ok().map(|date| (number, date)))
            .filter(|(_, date)| stretch.contains(*date))
            .collect();
        prop_assert_eq!(found, walked);
    }
}

#[test]
fn a_step_that_leads_nowhere_has_no_occurrences_in_a_stretch() {
    let stretch = DateRange::new(Date::MIN, Date::MAX).unwrap();
    for step in [Shift::days(0), Shift::days(-1), Shift::months(-1), Shift::working_days(1)] {
        assert_eq!(stretch.occurrences_of(Recurrence::new(Date::MIN, step)).count(), 0, "{step}");
    }
    assert_eq!(stretch.occurrences_of(Recurrence::new(Date::MIN, Shift::months(12))).count(), 9_999);
}
