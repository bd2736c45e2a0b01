//! Columns give what the calls for one value give.
#![allow(clippy::unwrap_used, clippy::expect_used)] // a test fails by panicking

use mild_ledger::column::{DateColumn, Dates, count_between, into_buckets, shifted};
use mild_ledger::{AgingBuckets, BucketMeasure, CountRule, Date, ErrorKind, Interval, MonthEnd, Shift};
use proptest::prelude::*;

fn dates() -> impl Strategy<Value = Option<Date>> {
    prop::option::weighted(
        0.8,
        (-719_162..=2_932_896).prop_map(|number| Date::from_day_number(number).unwrap()),
    )
}

proptest! {
    #[test]
    fn a_column_agrees_with_its_values(rows in prop::collection::vec((dates(), dates()), 0..200), months in -40_000..40_000, as_of in dates()) {
        let (starts, ends): (Vec<_>, Vec<_>) = rows.iter().copied().unzip();
        let (starts, ends): (DateColumn, DateColumn) = (starts.into_iter().collect(), ends.into_iter().collect());
        let buckets = AgingBuckets::from_upper_edges(&[-30, 0, 30], BucketMeasure::WholeNumber).unwrap();
        let as_of = as_of.unwrap_or(Date::MIN);
        for rule in CountRule::all() {
            let between = count_between(Dates::Column(&starts), Dates::Column(&ends), rule, rows.len()).unwrap();
            let to_date = count_between(Dates::Column(&starts), Dates::Every(as_of), rule, rows.len()).unwrap();
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
    let error = count_between(Dates::Column(&two), Dates::Every(Date::MAX), CountRule::DAYS, 3).unwrap_err();
    assert_eq!(error.kind(), ErrorKind::OutOfRange);
}
