//! Moves of a date in several steps, against walking day by day.

#![allow(clippy::unwrap_used, clippy::expect_used)] // a test fails by panicking

use mild_ledger::{
    Date, DateMove, ErrorKind, FiscalYear, HolidayRule, Occurrence, PeriodEdge, PeriodRule, RestDays, Roll,
    Shift, WeekYear, WeekdayMove, WorkCalendar,
};
use proptest::prelude::*;

fn date(text: &str) -> Date {
    text.parse().unwrap()
}

fn week() -> WorkCalendar {
    WorkCalendar::rest_days_only(RestDays::default())
}

fn moved(from: &str, amount: &str) -> String {
    let calendar = week();
    let moved = DateMove::by(amount.parse().unwrap()).apply(date(from), Some(&calendar));
    moved.map_or_else(|error| format!("{:?}", error.kind()), |date| date.to_string())
}

#[test]
fn none_working_days_roll_and_amounts_are_done_in_turn() {
    // 2026-10-03 is a Saturday.
    for (from, amount, expected) in [
        ("2026-10-03", "0wd", "2026-10-05"),
        ("2026-10-02", "0wd", "2026-10-02"),
        ("2026-09-03", "1M 0wd", "2026-10-05"),
        ("2026-10-03", "1wd -1wd", "2026-10-02"),
        ("2026-10-03", "-1wd 1wd", "2026-10-05"),
        ("2026-10-03", "0wd 1wd", "2026-10-06"),
        ("2026-10-03", "2wd 3wd", "2026-10-09"),
        ("2026-10-03", "3wd -5wd", "2026-09-30"),
        ("2026-10-02", "1wd -1wd", "2026-10-02"),
    ] {
        assert_eq!(moved(from, amount), expected, "{from} {amount}");
        // The text of a move is read back as the same move.
        let shift: Shift = amount.parse().unwrap();
        assert_eq!(shift.to_string().parse(), Ok(shift), "{shift}");
    }
    // None of them is not a move at all where it is done no times.
    let step: Shift = "0wd".parse().unwrap();
    assert_eq!(week().shifted(date("2026-10-03"), &step.times(0).unwrap()), Ok(date("2026-10-03")));
    assert_eq!(week().shifted(date("2026-10-03"), &step.times(-2).unwrap()), Ok(date("2026-10-05")));
}

#[test]
fn only_the_result_has_to_be_a_date() {
    assert_eq!(moved("9999-12-31", "1M -30wd"), "9999-12-20");
    assert_eq!(moved("9999-12-31", "1D"), "OutOfRange");
    let back = DateMove::by("1D".parse().unwrap()).rolled(Roll::Preceding);
    // 1 January 10000 is a Saturday.
    assert_eq!(back.apply(Date::MAX, Some(&week())), Ok(Date::MAX));
    assert_eq!(
        back.rolled(Roll::Following).apply(Date::MAX, Some(&week())).unwrap_err().kind(),
        ErrorKind::OutOfRange
    );
    let monday = DateMove::by("-6M".parse().unwrap()).to_weekday("on or after monday".parse().unwrap());
    // 29 December of the year 0 is a Friday; the Monday after it is 1 January.
    assert_eq!(monday.apply(date("0001-06-29"), None), Ok(Date::MIN));
    assert!(monday.apply(date("0001-06-24"), None).is_err());
    // A calendar of some years knows nothing of a day outside them, on the way or not.
    let yard = WorkCalendar::new("Yard", RestDays::default(), 2026, 2026, &[]).unwrap();
    let over_the_end = DateMove::by("1M -30wd".parse().unwrap()).apply(date("2026-12-31"), Some(&yard));
    assert_eq!(over_the_end.unwrap_err().kind(), ErrorKind::NotCovered);
    assert_eq!(
        DateMove::by(Shift::working_days(1)).apply(date("2026-01-01"), None).unwrap_err().kind(),
        ErrorKind::NotCovered
    );
}

#[test]
fn a_roll_at_the_edge_answers_where_the_days_that_decide_are_covered() {
    // 2022-12-31 and 2023-01-01 are a Saturday and a Sunday.
    let year = |first, last| WorkCalendar::new("Yard", RestDays::default(), first, last, &[]).unwrap();
    let at_end = |roll| year(2022, 2022).roll(date("2022-12-31"), roll).ok().map(|date| date.to_string());
    assert_eq!(at_end(Roll::ModifiedFollowing).as_deref(), Some("2022-12-30"));
    assert_eq!(at_end(Roll::Preceding).as_deref(), Some("2022-12-30"));
    assert_eq!(at_end(Roll::Following), None);
    // The first day of 2023 could be worked, and a tie goes forward.
    assert_eq!(at_end(Roll::Nearest), None);
    let at_start = |roll| year(2023, 2023).roll(date("2023-01-01"), roll).ok().map(|date| date.to_string());
    assert_eq!(at_start(Roll::ModifiedPreceding).as_deref(), Some("2023-01-02"));
    assert_eq!(at_start(Roll::Nearest).as_deref(), Some("2023-01-02"));
    assert_eq!(at_start(Roll::Preceding), None);
    // Where the edge is farther away than the working day that is known, nothing beyond it can decide.
    let closed = |day| HolidayRule::new("Closed", Occurrence::on_date(date(day)));
    let rules = [closed("2022-12-29"), closed("2022-12-30")];
    let yard = WorkCalendar::new("Yard", RestDays::default(), 2022, 2022, &rules).unwrap();
    assert_eq!(yard.roll(date("2022-12-29"), Roll::Nearest), Ok(date("2022-12-28")));
}

#[test]
fn months_end_in_one_step() {
    let rules =
        PeriodRule::all(mild_ledger::Weekday::Monday, FiscalYear::starting(4, 6).unwrap(), WeekYear::iso());
    for (word, from, expected) in [
        ("month end", "2026-01-31", "2026-02-28"),
        ("month start", "2026-01-31", "2026-02-01"),
        ("quarter end", "2026-01-31", "2026-03-31"),
        ("year start", "2026-12-10", "2027-01-01"),
        ("week end", "2026-08-30", "2026-10-04"),
        ("fiscal year end", "2026-03-01", "2026-04-05"),
        ("fiscal year end", "2026-03-10", "2027-04-05"),
        ("week-year end", "2020-11-30", "2021-01-03"),
    ] {
        let edge = PeriodEdge::all(rules).find(|edge| edge.to_string() == word).unwrap();
        let moved = DateMove::by(Shift::months(1)).to_edge(edge).apply(date(from), None).unwrap();
        assert_eq!(moved, date(expected), "{word} a month after {from}");
    }
}

proptest! {
    /// Each amount in turn, one working day at a time.
    #[test]
    fn amounts_in_turn_against_walking(
        start in -200_000_i32..200_000,
        amounts in proptest::collection::vec(-12_i32..12, 1..4),
        bits in 0_u8..127,
    ) {
        let rest = RestDays::of(mild_ledger::Weekday::ALL.into_iter().filter(|day| bits >> (*day as u8) & 1 == 1));
        let calendar = WorkCalendar::rest_days_only(rest);
        let mut day = start;
        let works = |day: i32| calendar.kind_of(Date::from_day_number(day).unwrap()).unwrap().is_working();
        for amount in &amounts {
            while *amount == 0 && !works(day) {
                day += 1;
            }
            let mut left = amount.abs();
            while left > 0 {
                day += amount.signum();
                left -= i32::from(works(day));
            }
        }
        let shift = amounts.iter().map(|amount| Shift::working_days(*amount));
        let shift = shift.reduce(|all, next| all.and(next).unwrap()).unwrap();
        let found = DateMove::by(shift).apply(Date::from_day_number(start).unwrap(), Some(&calendar));
        prop_assert_eq!(found, Date::from_day_number(day));
        let why = DateMove::by(shift).why(Date::from_day_number(start).unwrap(), Some(&calendar)).unwrap();
        prop_assert_eq!(why.working().figure(), Date::from_day_number(day).unwrap().to_string());
        prop_assert_eq!(shift.to_string().parse(), Ok(shift));
    }

    /// The last step of a working is the date that it works out, whatever the steps are.
    #[test]
    fn workings_end_in_the_moved_date(
        start in -200_000_i32..200_000,
        months in -30_i32..30,
        days in -40_i32..40,
        edge in 0_usize..22,
        roll in 0_usize..6,
    ) {
        let start = Date::from_day_number(start).unwrap();
        let rules = PeriodRule::all(mild_ledger::Weekday::Sunday, FiscalYear::starting(10, 1).unwrap(), WeekYear::iso());
        let edge = PeriodEdge::all(rules).nth(edge).unwrap();
        let whole = DateMove::by(Shift::months(months).and(Shift::days(days)).unwrap())
            .to_edge(edge)
            .to_weekday(WeekdayMove::OnOrAfter(mild_ledger::Weekday::Sunday))
            .rolled(Roll::ALL[roll]);
        let found = whole.apply(start, Some(&week())).unwrap();
        let why = whole.why(start, Some(&week())).unwrap();
        prop_assert_eq!(why.working().figure(), found.to_string());
        // Step by step, each by itself.
        let by_hand = Shift::months(months).and(Shift::days(days)).unwrap().apply(start).unwrap();
        let by_hand = WeekdayMove::OnOrAfter(mild_ledger::Weekday::Sunday).apply(edge.of(by_hand).unwrap()).unwrap();
        prop_assert_eq!(found, week().roll(by_hand, Roll::ALL[roll]).unwrap());
    }
}
