//! Each function in SQL gives what the call for one value gives, for columns, single values and empty ones; the reasons of empty
//! figures; wrong constants.

#![allow(clippy::unwrap_used, clippy::expect_used, clippy::panic)] // a test fails by panicking

#[path = "../../crates/mild-ledger-records/tests/support/defaults.rs"]
mod defaults;

use datafusion::arrow::array::{Array, ArrayRef, AsArray, Date32Array, Int32Array, RecordBatch, StringArray};
use datafusion::arrow::datatypes::{Date32Type, Decimal128Type, Int32Type, Int64Type};
use datafusion::arrow::util::display::array_value_to_string;
use datafusion::error::Result;
use datafusion::prelude::{SessionContext, col, lit};
use mild_ledger::{
    AgingBuckets, Anniversaries, BucketMeasure, CountRule, Date, DayCount, Ends, Interval, MonthEnd,
    PaymentTerms, PeriodRule, Roll, Rounding, Shift, Tenure, Unit, WeekdayMove, WorkCalendar,
};
use mild_ledger_engine::{Calendars, register, register_with};
use proptest::prelude::*;
use std::sync::Arc;

fn run<T>(work: impl Future<Output = T>) -> T {
    tokio::runtime::Builder::new_current_thread().build().unwrap().block_on(work)
}

fn session() -> SessionContext {
    let context = SessionContext::new();
    register(&context).unwrap();
    context
}

/// The one column of a query.
fn column(context: &SessionContext, sql: &str) -> Result<ArrayRef> {
    run(async {
        let batches = context.sql(sql).await?.collect().await?;
        let columns: Vec<ArrayRef> = batches.iter().map(|batch| Arc::clone(batch.column(0))).collect();
        let columns: Vec<&dyn Array> = columns.iter().map(AsRef::as_ref).collect();
        Ok(datafusion::arrow::compute::concat(&columns)?)
    })
}

/// The one cell of a query, as text; nothing where it is empty.
fn cell(sql: &str) -> Option<String> {
    let found = column(&session(), sql).unwrap_or_else(|error| panic!("{sql}: {error}"));
    assert_eq!(found.len(), 1, "{sql}");
    found.is_valid(0).then(|| array_value_to_string(&found, 0).unwrap())
}

fn with_table(a: &[Option<Date>], b: &[Option<Date>], n: &[Option<i32>]) -> SessionContext {
    let context = session();
    let days = |dates: &[Option<Date>]| -> ArrayRef {
        Arc::new(dates.iter().map(|date| date.map(Date::day_number)).collect::<Date32Array>())
    };
    let numbers: ArrayRef = Arc::new(n.iter().copied().collect::<Int32Array>());
    let batch = RecordBatch::try_from_iter_with_nullable([
        ("a", days(a), true),
        ("b", days(b), true),
        ("n", numbers, true),
    ]);
    context.register_batch("t", batch.unwrap()).unwrap();
    context
}

fn date_of(found: &ArrayRef, row: usize) -> Option<Date> {
    let days = found.as_primitive::<Date32Type>();
    days.is_valid(row).then(|| Date::from_day_number(days.value(row)).unwrap())
}

fn whole_of(found: &ArrayRef, row: usize) -> Option<i64> {
    match found.as_primitive_opt::<Int32Type>() {
        Some(whole) => whole.is_valid(row).then(|| whole.value(row).into()),
        None => {
            let large = found.as_primitive::<Int64Type>();
            large.is_valid(row).then(|| large.value(row))
        }
    }
}

fn text_of(found: &ArrayRef, row: usize) -> Option<String> {
    let texts = found.as_any().downcast_ref::<StringArray>().unwrap();
    texts.is_valid(row).then(|| texts.value(row).to_owned())
}

fn units_of(found: &ArrayRef, row: usize) -> Option<i128> {
    let decimals = found.as_primitive::<Decimal128Type>();
    decimals.is_valid(row).then(|| decimals.value(row))
}

/// Dates around today, at the ends of the calendar, and none.
fn some_date() -> impl Strategy<Value = Option<Date>> {
    let around = 10_000_i32..30_000;
    let ends = proptest::sample::select(vec![Date::MIN.day_number(), Date::MAX.day_number(), 19_782, 19_781]);
    let day = prop_oneof![8 => around, 1 => ends];
    proptest::option::weighted(0.9, day.prop_map(|day| Date::from_day_number(day).unwrap()))
}

fn calendar() -> WorkCalendar {
    mild_ledger_calendars::named("england-wales").unwrap().calendar().unwrap()
}

/// A call, and what the call for one value gives in a row.
type Held<'t, T> = (&'static str, &'t dyn Fn(usize) -> Option<T>);

proptest! {
    #![proptest_config(ProptestConfig::with_cases(48))]

    #[test]
    fn columns_agree_with_the_calls_for_one_value(
        rows in proptest::collection::vec((some_date(), some_date(), proptest::option::weighted(0.9, -400_i32..400)), 1..40)
    ) {
        let (a, (b, n)): (Vec<_>, (Vec<_>, Vec<_>)) = rows.iter().map(|(a, b, n)| (*a, (*b, *n))).unzip();
        let context = with_table(&a, &b, &n);
        let found = |call: &str| column(&context, &format!("select {call} from t")).unwrap_or_else(|error| panic!("{call}: {error}"));
        let both = |row: usize| a[row].zip(b[row]).map(|(a, b)| Interval::between(a, b));
        let yard = calendar();
        let whole: [Held<'_, i64>; 9] = [
            ("elapsed_days(a, b)", &|row| Some(both(row)?.days().value())),
            ("elapsed_days(a, b, 'first-and-last')", &|row| Some(both(row)?.days_counting(Ends::FirstAndLast).value())),
            ("count_between(a, b, 'complete months')", &|row| {
                Some(both(row)?.count("complete months".parse::<CountRule>().unwrap()).value())
            }),
            ("count_between(a, b, 'complete months', 'keep')", &|row| {
                let kept = both(row)?.with_month_end(MonthEnd::Keep).unwrap();
                Some(kept.count("complete months".parse::<CountRule>().unwrap()).value())
            }),
            ("count_between(a, b, 'quarter starts passed')", &|row| {
                Some(both(row)?.count("quarter starts passed".parse::<CountRule>().unwrap()).value())
            }),
            ("working_days(a, b, 'england-wales')", &|row| {
                yard.count_working_days(both(row)?, Ends::FirstAndLast).ok()
            }),
            ("working_days(a, date '2026-09-30', 'none', 'last')", &|row| {
                let week = WorkCalendar::rest_days_only(Default::default());
                week.count_working_days(Interval::between(a[row]?, "2026-09-30".parse().unwrap()), Ends::Last).ok()
            }),
            ("age_on(a, b, 'next-start')", &|row| {
                Some(Anniversaries::of(a[row]?).with_leap_day(MonthEnd::NextStart).unwrap().age_on(b[row]?).ok()?.value())
            }),
            ("tenure(a, b, '2026-09-30', 'complete months')", &|row| {
                let stay = Tenure::from(a[row]?);
                let stay = b[row].map_or(stay, |end| stay.until(end));
                let interval = stay.as_of("2026-09-30".parse().unwrap()).ok()?;
                Some(interval.count("complete months".parse::<CountRule>().unwrap()).value())
            }),
        ];
        for (call, one) in whole {
            let found = found(call);
            for row in 0..rows.len() {
                prop_assert_eq!(whole_of(&found, row), one(row), "{} of {:?} {:?}", call, a[row], b[row]);
            }
        }
        let dates: [Held<'_, Date>; 9] = [
            ("shifted(a, '2 months')", &|row| Shift::months(2).apply(a[row]?).ok()),
            ("shifted(a, '-1M', 'keep')", &|row| Shift::months(-1).with_month_end(MonthEnd::Keep).apply(a[row]?).ok()),
            ("moved_to_weekday(a, 'before monday')", &|row| {
                "before monday".parse::<WeekdayMove>().unwrap().apply(a[row]?).ok()
            }),
            ("add_working_days(a, n, 'england-wales')", &|row| yard.add_working_days(a[row]?, n[row]?).ok()),
            ("rolled(a, 'modified-following', 'england-wales')", &|row| yard.roll(a[row]?, Roll::ModifiedFollowing).ok()),
            ("period_first(a, 'quarter')", &|row| PeriodRule::Quarter.containing(a[row]?).first_day().ok()),
            ("period_last(a, 'month')", &|row| PeriodRule::Month.containing(a[row]?).last_day().ok()),
            ("next_anniversary(a, b)", &|row| Anniversaries::of(a[row]?).next_on_or_after(b[row]?).ok().map(|next| next.date())),
            ("due_date(a, 'net 30 EOM')", &|row| "net 30 EOM".parse::<PaymentTerms>().unwrap().due(a[row]?).ok()),
        ];
        for (call, one) in dates {
            let found = found(call);
            for row in 0..rows.len() {
                prop_assert_eq!(date_of(&found, row), one(row), "{} of {:?} {:?} {:?}", call, a[row], b[row], n[row]);
            }
        }
        let buckets = AgingBuckets::from_upper_edges(&[0, 30, 60, 90], BucketMeasure::DaysOverdue).unwrap();
        let texts: [Held<'_, String>; 2] = [
            ("period_label(a, 'week')", &|row| Some(PeriodRule::Week(mild_ledger::Weekday::Monday).containing(a[row]?).label())),
            ("bucket_label(n, '0, 30, 60, 90')", &|row| Some(buckets.label(buckets.bucket_of(n[row]?.into()))?.to_owned())),
        ];
        for (call, one) in texts {
            let found = found(call);
            for row in 0..rows.len() {
                prop_assert_eq!(text_of(&found, row), one(row), "{} of {:?} {:?}", call, a[row], n[row]);
            }
        }
        let units = |fraction: mild_ledger::Fraction| fraction.to_decimal(6, Rounding::Nearest).unwrap().units();
        let fractions: [Held<'_, i128>; 2] = [
            ("fractional_between(a, b, 'month', 6)", &|row| Some(units(both(row)?.fractional(Unit::Month)))),
            ("day_count(a, b, 'actual-actual-isda', 6)", &|row| {
                Some(units(both(row)?.year_fraction(DayCount::ActualActualIsda)))
            }),
        ];
        for (call, one) in fractions {
            let found = found(call);
            for row in 0..rows.len() {
                prop_assert_eq!(units_of(&found, row), one(row), "{} of {:?} {:?}", call, a[row], b[row]);
            }
        }
        let found = found("parts_between(a, b)");
        let parts = found.as_struct();
        for row in 0..rows.len() {
            let one = both(row).map(|interval| interval.parts());
            let all: Option<[i32; 3]> = parts.is_valid(row).then(|| {
                [0, 1, 2].map(|nth| parts.column(nth).as_primitive::<Int32Type>().value(row))
            });
            prop_assert_eq!(all, one.map(|parts| [parts.years(), parts.months(), parts.days()]));
        }
    }
}

#[test]
fn single_values_and_empty_ones() {
    for (sql, expected) in [
        ("select working_days(date '2022-01-01', date '2022-01-09', 'scotland')", Some("3")),
        ("select count_between(date '2019-11-30', date '2022-01-02', 'complete years')", Some("2")),
        ("select count_between(date '2019-11-30', date '2022-01-02', 'year starts passed')", Some("3")),
        ("select fractional_between(date '2019-11-30', date '2022-01-02', 'month')", Some("25.0968")),
        ("select day_count(date '2026-02-28', date '2026-03-31', '30e-360', 6)", Some("0.088889")),
        (
            "select parts_between(date '2012-05-20', date '2021-07-04')",
            Some("{years: 9, months: 1, days: 14}"),
        ),
        ("select get_field(parts_between(date '2012-05-20', date '2021-07-04'), 'days')", Some("14")),
        ("select shifted(date '2026-01-31', '1 month')", Some("2026-02-28")),
        ("select shifted('2026-01-31', '1 month', 'next-start')", Some("2026-03-01")),
        ("select rolled(date '2026-10-31', 'modified-following', 'none')", Some("2026-10-30")),
        ("select period_label(date '2026-09-30', 'fiscal quarter', 'october')", Some("FY2026-Q4")),
        ("select period_number(date '2026-09-30', 'fiscal quarter', 'october')", Some("4")),
        ("select age_on(date '2004-02-29', date '2026-02-28')", Some("22")),
        ("select age_on(date '2004-02-29', date '2026-02-28', 'next-start')", Some("21")),
        ("select due_date(date '2026-01-15', '15 MFI')", Some("2026-02-15")),
        ("select bucket_label(31, '0, 30, 60, 90')", Some("31–60")),
        ("select bucket_label(elapsed_days(date '2026-08-30', date '2026-09-30'), '0, 30')", Some("Over 30")),
        ("select tenure(date '2021-07-31', null, '2026-09-30', 'complete months')", Some("62")),
        // Empty in, empty out.
        ("select working_days(null, date '2022-01-09', 'scotland')", None),
        ("select shifted(cast(null as date), '1 month')", None),
        ("select bucket_label(cast(null as int), '0, 30')", None),
        ("select tenure(null, date '2026-01-01', '2026-09-30', 'complete months')", None),
        // No figure: outside the years of the calendar, and of the calendar of dates.
        ("select working_days(date '2022-01-01', date '2035-01-09', 'scotland')", None),
        ("select shifted(date '9999-12-31', '1 day')", None),
    ] {
        assert_eq!(cell(sql).as_deref(), expected, "{sql}");
    }
}

#[test]
fn a_call_without_a_figure_says_why() {
    for (sql, expected) in [
        (
            "select why_empty(working_days(date '2022-01-01', date '2035-01-09', 'scotland'))",
            Some("2035-01-09 lies outside the years that the calendar \"scotland\" covers"),
        ),
        ("select why_empty(shifted(date '9999-12-31', '1 day'))", Some("outside the years 0001 to 9999")),
        (
            "select why_empty(shifted(date '2026-01-31', '1 month', 'refuse'))",
            Some("would be day 31 of 2026-02, which has none"),
        ),
        ("select why_empty(age_on(date '2027-01-01', date '2026-01-01'))", Some("2027-01-01")),
        (
            "select why_empty(tenure(date '2027-01-01', null, '2026-09-30', 'complete months'))",
            Some("2027-01-01"),
        ),
        // A figure has no reason, and an empty input gives none.
        ("select why_empty(shifted(date '2026-01-31', '1 month'))", None),
        ("select why_empty(age_on(null, date '2026-01-01'))", None),
    ] {
        let found = cell(sql);
        match expected {
            Some(part) => {
                assert!(found.as_deref().is_some_and(|found| found.contains(part)), "{sql}: {found:?}")
            }
            None => assert_eq!(found, None, "{sql}"),
        }
    }
    // Over a column: a reason where there is no figure, and nowhere else.
    let date = |text: &str| Some(text.parse().unwrap());
    let context = with_table(
        &[date("2014-12-31"), date("2026-09-30"), None, date("2031-01-01")],
        &[date("2026-09-30"); 4],
        &[None; 4],
    );
    let found =
        column(&context, "select why_empty(working_days(a, b, 'england-wales')) is null from t").unwrap();
    let empty: Vec<bool> = found.as_boolean().values().iter().collect();
    assert_eq!(empty, [false, true, true, false]);
}

#[test]
fn what_is_wrong_is_told_when_the_query_is_planned() {
    let context = session();
    for (sql, expected) in [
        (
            "select working_days(date '2022-01-01', date '2022-01-09', 'atlantis')",
            "there is no calendar \"atlantis\"",
        ),
        (
            "select count_between(date '2022-01-01', date '2022-01-09', 'complete moons')",
            "count_between, argument 3",
        ),
        ("select shifted(date '2022-01-01', '1m')", "months or minutes"),
        ("select shifted(date '2022-01-01', '1 month', 'nearest')", "shifted, argument 3"),
        ("select due_date(date '2022-01-01', '30 EOM')", "due_date, argument 2"),
        ("select bucket_label(1, '30, 0')", "bucket_label, argument 2"),
        ("select period_first(date '2022-01-01', 'fortnight')", "\"fortnight\" is not a period"),
        (
            "select fractional_between(date '2022-01-01', date '2022-01-09', 'month', 40)",
            "40 decimals are too many",
        ),
        ("select age_on(date '2022-01-01', date '2022-01-09', 'keep')", "age_on, argument 3"),
        (
            "select count_between(date '2022-01-01', date '2022-01-09', 'complete months', 'refuse')",
            "count_between, argument 4",
        ),
        ("select working_days(date '2022-01-01')", "1 arguments are given"),
        ("select shifted(1.5, '1 month')", "not a date"),
        (
            "select shifted(date '2022-01-01', c) from (values ('1 month')) as v(c)",
            "it is not a constant text",
        ),
        ("select why_empty(1 + 1)", "why_empty(…) is around a call"),
        ("select why_empty(abs(1))", "why_empty(…) is around a call"),
    ] {
        let error = run(async { context.sql(sql).await?.into_optimized_plan() }).expect_err(sql).to_string();
        assert!(error.contains(expected), "{sql}: {error}");
    }
}

#[test]
fn calendars_of_ones_own_and_the_expression_interface() {
    let context = SessionContext::new();
    let yard = WorkCalendar::rest_days_only("sunday, monday".parse().unwrap()).with_name("yard");
    register_with(&context, Calendars::default().with(yard)).unwrap();
    let found =
        column(&context, "select working_days(date '2026-10-03', date '2026-10-18', 'yard')").unwrap();
    assert_eq!(whole_of(&found, 0), Some(11));
    let days: ArrayRef = Arc::new(Date32Array::from(vec![Some(20_726), None]));
    let batch = RecordBatch::try_from_iter([("issued", days)]).unwrap();
    let due = context.state().scalar_functions()["due_date"].call(vec![col("issued"), lit("net 30")]);
    let batches = run(async { context.read_batch(batch)?.select(vec![due])?.collect().await }).unwrap();
    assert_eq!(date_of(batches[0].column(0), 0), Some("2026-10-30".parse().unwrap()));
    assert_eq!(date_of(batches[0].column(0), 1), None);
}

/// The command, a plan and the library are held against the same table in the workspace of `mild`.
#[test]
fn without_a_stated_choice_sql_chooses_what_all_do() {
    let mut held = 0;
    for default in &defaults::DEFAULTS {
        let Some(sql) = default.sql else { continue };
        held += 1;
        assert_eq!(
            cell(&format!("select {sql}")).as_deref(),
            Some(default.gives),
            "{}: {}",
            default.figure,
            default.choice
        );
    }
    assert!(held > 5, "{held}");
}
