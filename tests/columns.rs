//! Columns give what the calls for one value give.
#![allow(clippy::unwrap_used, clippy::expect_used)] // a test fails by panicking

use mild_ledger::column::{
    DateColumn, Dates, Intervals, field, first_days, into_buckets, last_days, shifted, shifted_into,
    year_month_day,
};
use mild_ledger::{
    AgingBuckets, BucketMeasure, ClockUnit, CountRule, Date, DateField, DayCount, Ends, ErrorKind,
    FiscalYear, Interval, MonthEnd, PeriodRule, Shift, Unit, WeekYear, Weekday,
};
use proptest::prelude::*;

fn dates() -> impl Strategy<Value = Option<Date>> {
    prop::option::weighted(
        0.8,
        (-719_162..=2_932_896).prop_map(|number| Date::from_day_number(number).unwrap()),
    )
}

proptest! {
    #[test]
    fn parts_fractions_and_options_agree(rows in prop::collection::vec((dates(), dates()), 0..150), weekday in 0..7_usize) {
        let (starts, ends): (Vec<_>, Vec<_>) = rows.iter().copied().unzip();
        let (starts, ends): (DateColumn, DateColumn) = (starts.into_iter().collect(), ends.into_iter().collect());
        let all = Intervals::between(Dates::Column(&starts), Dates::Column(&ends), rows.len()).unwrap();
        let all = all.week_starts(Weekday::ALL[weekday]);
        for month_end in [MonthEnd::Clamp, MonthEnd::Keep, MonthEnd::NextStart] {
            for counted in Ends::ALL {
                let column = all.month_end(month_end).unwrap().counting(counted);
                let one = |row: usize| -> Option<Interval> {
                    let (start, end): (Option<Date>, Option<Date>) = rows[row];
                    let interval = Interval::between(start?, end?).month_end(month_end).unwrap();
                    let interval = interval.week_starts(Weekday::ALL[weekday]);
                    Some(if counted == Ends::FirstAndLast { interval.through_last_day() } else { interval })
                };
                let days = column.count(CountRule::DAYS);
                let for_days_only = matches!(counted, Ends::First | Ends::Neither);
                let figures: Vec<_> = CountRule::all().skip(1).map(|rule| (rule, column.count(rule))).collect();
                let (parts, months) = (column.parts(), column.calendar_months());
                let (years, isda) = (column.fractional(Unit::Year), column.year_fraction(DayCount::ActualActualIsda));
                for row in 0..rows.len() {
                    let one = one(row);
                    prop_assert_eq!(days.get(row), one.map(|one| one.days_counting(counted).value()));
                    for (rule, figures) in &figures {
                        let expected = one.filter(|_| !for_days_only).map(|one| one.count(*rule).value());
                        prop_assert_eq!(figures.get(row), expected, "{}", rule);
                    }
                    if for_days_only {
                        continue;
                    }
                    prop_assert_eq!(column.get(row), one);
                    prop_assert_eq!(parts.get(row), one.map(Interval::parts));
                    prop_assert_eq!(months.get(row), one.map(Interval::calendar_months));
                    prop_assert_eq!(years.get(row), one.map(|one| one.fractional(Unit::Year)));
                    prop_assert_eq!(isda.get(row), one.map(|one| one.year_fraction(DayCount::ActualActualIsda)));
                }
                prop_assert_eq!((parts.len(), parts.get(rows.len())), (rows.len(), None));
            }
        }
    }

    #[test]
    fn fields_and_periods_agree(rows in prop::collection::vec(dates(), 0..300), weekday in 0..7_usize, month in 1..=12_u8) {
        let column: DateColumn = rows.iter().copied().collect();
        let civil = year_month_day(&column);
        for (row, date) in rows.iter().enumerate() {
            let expected = date.map(|date| (i16::try_from(date.year()).unwrap(), date.month(), date.day()));
            prop_assert_eq!(civil.get(row), expected);
        }
        for wanted in DateField::ALL {
            let numbers = field(&column, wanted);
            for (row, date) in rows.iter().enumerate() {
                if let Some(date) = date {
                    prop_assert_eq!(numbers[row], date.field(wanted));
                }
            }
        }
        let (fiscal, weeks) = (FiscalYear::starting(month, 6).unwrap(), WeekYear::iso());
        for rule in PeriodRule::all(Weekday::ALL[weekday], fiscal, weeks) {
            let (first, last) = (first_days(&column, rule), last_days(&column, rule));
            for (row, date) in rows.iter().enumerate() {
                let period = date.map(|date| rule.containing(date));
                prop_assert_eq!(first.get(row), period.and_then(|period| period.first_day().ok()));
                prop_assert_eq!(last.get(row), period.and_then(|period| period.last_day().ok()));
            }
        }
    }

    #[test]
    fn moves_agree_near_and_far(
        rows in prop::collection::vec(dates(), 0..200), months in prop_oneof![-500..500_i32, -40_000..40_000_i32, any::<i32>()],
        days in prop_oneof![Just(0), -500..500_i32, any::<i32>()],
    ) {
        let column: DateColumn = rows.iter().copied().collect();
        // The memory of a column that is there is used again, whatever it held.
        let mut moved: DateColumn = std::iter::repeat_n(Some(Date::MAX), 130).collect();
        for rule in MonthEnd::ALL {
            let shift = Shift::months(months).and(Shift::days(days)).unwrap().month_end(rule);
            shifted_into(&column, &shift, &mut moved);
            for (row, date) in rows.iter().enumerate() {
                prop_assert_eq!(moved.get(row), date.and_then(|date| shift.apply(date).ok()));
            }
            prop_assert_eq!((moved.len(), moved.get(rows.len())), (rows.len(), None));
        }
        let by_clock = Shift::of_clock(1, ClockUnit::Hour);
        prop_assert_eq!(shifted(&column, &by_clock).mask().present(), 0);
    }

    #[test]
    fn a_column_agrees_with_its_values(rows in prop::collection::vec((dates(), dates()), 0..200), months in -40_000..40_000, as_of in dates()) {
        let (starts, ends): (Vec<_>, Vec<_>) = rows.iter().copied().unzip();
        let (starts, ends): (DateColumn, DateColumn) = (starts.into_iter().collect(), ends.into_iter().collect());
        let buckets = AgingBuckets::from_upper_edges(&[-30, 0, 30], BucketMeasure::WholeNumber).unwrap();
        let as_of = as_of.unwrap_or(Date::MIN);
        for rule in CountRule::all() {
            let between = Intervals::between(Dates::Column(&starts), Dates::Column(&ends), rows.len()).unwrap().count(rule);
            let to_date = Intervals::between(Dates::Column(&starts), Dates::Every(as_of), rows.len()).unwrap().count(rule);
            let sorted = into_buckets(&between, &buckets);
            for (row, (start, end)) in rows.iter().enumerate() {
                let expected = start.zip(*end).map(|(start, end)| Interval::between(start, end).count(rule).value());
                prop_assert_eq!(between.get(row), expected);
                prop_assert_eq!(sorted.get(row), expected.map(|value| buckets.bucket_of(value)));
                let expected = start.map(|start| Interval::between(start, as_of).count(rule).value());
                prop_assert_eq!(to_date.get(row), expected);
            }
            prop_assert_eq!(between.get(rows.len()), None);
        }
        for rule in MonthEnd::ALL {
            let shift = Shift::months(months).month_end(rule);
            let moved = shifted(&starts, &shift);
            for (row, (start, _)) in rows.iter().enumerate() {
                prop_assert_eq!(moved.get(row), start.and_then(|start| shift.apply(start).ok()));
            }
            prop_assert_eq!(moved.len(), rows.len());
        }
    }
}

#[test]
fn columns_of_different_lengths_are_refused() {
    let two: DateColumn = [Some(Date::MIN), None].into_iter().collect();
    let error = Intervals::between(Dates::Column(&two), Dates::Every(Date::MAX), 3).unwrap_err();
    assert_eq!(error.kind(), ErrorKind::OutOfRange);
}

#[test]
fn at_the_ends_of_the_calendar_no_row_wraps() {
    let ends: DateColumn = [Some(Date::MIN), Some(Date::MAX), None].into_iter().collect();
    let monday = last_days(&ends, PeriodRule::Week(Weekday::Monday));
    assert_eq!((monday.get(0), monday.get(1)), (Some("0001-01-07".parse().unwrap()), None));
    let sunday = first_days(&ends, PeriodRule::Week(Weekday::Sunday));
    assert_eq!((sunday.get(0), sunday.get(1)), (None, Some("9999-12-26".parse().unwrap())));
    // A day on the way may leave the calendar.
    let there_and_back = Shift::months(12).and(Shift::days(-366)).unwrap();
    assert_eq!(shifted(&ends, &there_and_back).get(1), Some(Date::MAX));
    assert_eq!(shifted(&ends, &Shift::months(i32::MAX)).mask().present(), 0);
    let all = Intervals::between(Dates::Every(Date::MIN), Dates::Every(Date::MAX), 1).unwrap();
    let through = all.counting(Ends::FirstAndLast);
    assert_eq!(through.count(CountRule::COMPLETE_YEARS).get(0), Some(9_999));
    assert_eq!(through.parts().get(0).unwrap().to_string(), "9999 years");
}
