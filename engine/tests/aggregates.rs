//! Figures over the rows of a group in SQL: exact, rounded once, the same however the rows are shared out, and held against the
//! library's calls over all values at once.

#![allow(clippy::unwrap_used, clippy::expect_used, clippy::panic)] // a test fails by panicking

use datafusion::arrow::array::{ArrayRef, Decimal128Array, Int32Array, RecordBatch};
use datafusion::arrow::util::display::array_value_to_string;
use datafusion::datasource::MemTable;
use datafusion::error::Result;
use datafusion::logical_expr::ExprFunctionExt;
use datafusion::prelude::{SessionConfig, SessionContext, col, lit};
use mild_ledger::{Decimal, Quotient, Rounding, average_days_late, percentile, shares_of_hundred};
use mild_ledger_engine::{aggregate, register};
use proptest::prelude::*;
use std::collections::BTreeMap;
use std::sync::Arc;

fn run<T>(work: impl Future<Output = T>) -> T {
    tokio::runtime::Builder::new_current_thread().build().unwrap().block_on(work)
}

fn session() -> SessionContext {
    let context = SessionContext::new_with_config(SessionConfig::new().with_target_partitions(3));
    register(&context).unwrap();
    context
}

/// The cells of a query as texts, row by row; an empty one is an empty text.
fn cells(context: &SessionContext, sql: &str) -> Result<Vec<Vec<String>>> {
    let batches = run(async { context.sql(sql).await?.collect().await })?;
    let rows = batches.iter().flat_map(|batch| {
        (0..batch.num_rows()).map(|row| {
            let cells = batch.columns().iter().map(|column| array_value_to_string(column, row).unwrap());
            cells.collect()
        })
    });
    Ok(rows.collect())
}

fn cell(sql: &str) -> String {
    let found = cells(&session(), sql).unwrap_or_else(|error| panic!("{sql}: {error}"));
    assert_eq!((found.len(), found[0].len()), (1, 1), "{sql}");
    found[0][0].clone()
}

/// An invoice: whose, its amount in cents, and its days late.
type Row = (i32, Option<i64>, Option<i32>);

/// The rows in several partitions of several batches, so that the engine puts parts of groups together.
fn with_rows(rows: &[Row]) -> SessionContext {
    let context = session();
    let batch = |rows: &[Row]| {
        let customers: ArrayRef = Arc::new(rows.iter().map(|row| row.0).collect::<Int32Array>());
        let amounts: Decimal128Array = rows.iter().map(|row| row.1.map(i128::from)).collect();
        let amounts: ArrayRef = Arc::new(amounts.with_precision_and_scale(20, 2).unwrap());
        let late: ArrayRef = Arc::new(rows.iter().map(|row| row.2).collect::<Int32Array>());
        let columns = [("customer", customers, true), ("amount", amounts, true), ("late", late, true)];
        RecordBatch::try_from_iter_with_nullable(columns).unwrap()
    };
    let schema = batch(&[]).schema();
    let partitions = rows.chunks(7).map(|part| part.chunks(3).map(batch).collect()).collect();
    context.register_table("t", Arc::new(MemTable::try_new(schema, partitions).unwrap())).unwrap();
    context
}

fn shown(figure: Option<Quotient>, decimals: u8) -> String {
    figure.map_or(String::new(), |figure| figure.to_decimal(decimals, Rounding::Nearest).unwrap().to_string())
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(64))]

    #[test]
    fn groups_agree_with_the_library_over_all_their_values(
        rows in prop::collection::vec(
            (0..4, prop::option::weighted(0.9, -50_000_i64..900_000), prop::option::weighted(0.9, -40..400_i32)), 1..60
        )
    ) {
        let context = with_rows(&rows);
        let found = cells(&context, "select customer, exact_sum(amount), exact_mean(amount, 3), weighted_mean(late, amount, 2), \
            exact_median(late, 1), exact_percentile(amount, 99.9, 5), exact_percentile(late, '12.5', 4, 'truncate') \
            from t group by customer order by customer").unwrap();
        let mut groups: BTreeMap<i32, Vec<Row>> = BTreeMap::new();
        rows.iter().for_each(|row| groups.entry(row.0).or_default().push(*row));
        let expected: Vec<Vec<String>> = groups.into_iter().map(|(customer, rows)| {
            let mut amounts: Vec<Decimal> = rows.iter().filter_map(|row| row.1).map(|cents| Decimal::of_units(cents.into(), 2).unwrap()).collect();
            let mut late: Vec<Decimal> = rows.iter().filter_map(|row| row.2).map(|days| Decimal::from(i64::from(days))).collect();
            let sum = amounts.iter().map(|amount| amount.units()).sum::<i128>();
            let sum_shown = if amounts.is_empty() { String::new() } else { Decimal::of_units(sum, 2).unwrap().to_string() };
            let mean = Quotient::of(sum, 100 * i128::try_from(amounts.len()).unwrap());
            let both = rows.iter().filter_map(|row| Some((Decimal::of_units(row.1?.into(), 2).unwrap(), row.2?)));
            // The library leaves credits out of its average; here the weights are all that there are.
            let weight: i128 = both.clone().map(|(amount, _)| amount.units()).sum();
            let weighted: i128 = both.clone().map(|(amount, days)| amount.units() * i128::from(days)).sum();
            if both.clone().all(|(amount, _)| amount.units() > 0) && weight > 0 {
                assert_eq!(average_days_late(both).ok(), Quotient::of(weighted, weight));
            }
            amounts.sort_unstable();
            late.sort_unstable();
            let of = |values: &[Decimal], place: &str| percentile(values, place.parse().unwrap()).unwrap();
            let eighth = of(&late, "12.5").map(|figure| figure.to_decimal(4, Rounding::Truncate).unwrap().to_string());
            vec![
                customer.to_string(), sum_shown, shown(mean, 3), shown(Quotient::of(weighted, weight), 2), shown(of(&late, "50"), 1),
                shown(of(&amounts, "99.9"), 5), eighth.unwrap_or_default(),
            ]
        }).collect();
        prop_assert_eq!(found, expected);
    }

    #[test]
    fn shares_add_up_to_a_hundred(parts in prop::collection::vec(prop::option::weighted(0.9, 0..1_000_000_i64), 1..30)) {
        let rows: Vec<Row> = parts.iter().enumerate().map(|(nth, part)| (i32::try_from(nth).unwrap(), *part, None)).collect();
        let found = cells(&with_rows(&rows), "select share_of_hundred(amount, 2) over (order by customer) as share from t order by customer").unwrap();
        let there: Vec<Decimal> = parts.iter().flatten().map(|cents| Decimal::of_units((*cents).into(), 2).unwrap()).collect();
        let mut shares = shares_of_hundred(&there, 2).unwrap_or_default().into_iter();
        let has_sum = there.iter().any(|part| part.units() != 0);
        for (found, part) in found.iter().zip(&parts) {
            let expected = part.filter(|_| has_sum).and_then(|_| shares.next()).map_or(String::new(), |share| share.to_string());
            prop_assert_eq!(&found[0], &expected);
        }
        let sum: Decimal = found.iter().filter(|row| !row[0].is_empty()).try_fold(Decimal::ZERO, |sum, row| {
            sum.checked_add(row[0].parse().unwrap())
        }).unwrap();
        prop_assert_eq!(sum, Decimal::from(if has_sum { 100 } else { 0 }));
    }
}

#[test]
fn figures_worked_out_by_hand() {
    for (sql, expected) in [
        // 0.1 + 0.2 as binary fractions is not 0.3; as decimals it is.
        ("select exact_sum(x) from (values (0.1::decimal(5,1)), (0.2::decimal(5,1))) as v(x)", "0.3"),
        // 2 ÷ 3, and the half that is rounded away from zero, to even, and not at all.
        ("select exact_mean(x) from (values (1), (0), (1)) as v(x)", "0.6667"),
        ("select exact_mean(x, 0) from (values (1), (2), (null)) as v(x)", "2"),
        ("select exact_mean(x, 0, 'nearest-even') from (values (2), (3)) as v(x)", "2"),
        ("select exact_mean(x, 0, 'truncate') from (values (-1), (-2)) as v(x)", "-1"),
        ("select exact_mean(x, 0, 'up') from (values (-1), (-2)) as v(x)", "-2"),
        // (10 × 100.00 + 40 × 50.00) ÷ 150.00 = 3000 ÷ 150 = 20.
        (
            "select weighted_mean(d, a, 2) from (values (10, 100.00::decimal(9,2)), (40, 50.00)) as v(d, a)",
            "20.00",
        ),
        ("select exact_median(x) from (values (1), (2), (4), (8)) as v(x)", "3.0000"),
        ("select exact_percentile(x, 90, 1) from (values (1), (2), (4), (8)) as v(x)", "6.8"),
        ("select exact_percentile(x, 0, 0) from (values (7), (2)) as v(x)", "2"),
        ("select exact_percentile(x, 100, 0) from (values (7), (2)) as v(x)", "7"),
        // Of nothing there is a count of none, and no figure.
        ("select exact_sum(x) from (values (1)) as v(x) where x > 1", ""),
        ("select exact_mean(x) from (values (cast(null as int))) as v(x)", ""),
        ("select exact_median(x) from (values (cast(null as int))) as v(x)", ""),
        ("select weighted_mean(d, a) from (values (10, 5), (40, -5)) as v(d, a)", ""),
        // Over a window, and next to each other with other decimals.
        ("select max(s) from (select exact_sum(x) over () as s from (values (1), (2)) as v(x)) as t", "3"),
        ("select exact_mean(x, 1) * 10 - exact_mean(x, 2) * 10 from (values (1), (1), (2)) as v(x)", "-0.30"),
        ("select exact_mean(x) filter (where x > 1) from (values (1), (2), (5)) as v(x)", "3.5000"),
        (
            "select exact_mean(x) filter (where x > 1) from (values (7, 1), (7, 2), (7, 5)) as v(g, x) group by g",
            "3.5000",
        ),
    ] {
        assert_eq!(cell(sql), expected, "{sql}");
    }
    let thirds = "select share_of_hundred(x) over () from (values (1), (1), (1), (null)) as v(x)";
    let mut found = cells(&session(), thirds).unwrap().concat();
    found.sort();
    assert_eq!(found, ["", "33.3", "33.3", "33.4"]);
    let by_group = "select share_of_hundred(x, 0) over (partition by g) from (values (1, 1), (1, 3), (2, 0), (2, 0)) as v(g, x) order by g, x";
    assert_eq!(cells(&session(), by_group).unwrap().concat(), ["25", "75", "", ""]);
}

#[test]
fn what_is_wrong_is_told_when_the_query_is_planned() {
    let context = session();
    for (sql, expected) in [
        (
            "select exact_percentile(x, 101) from (values (1)) as v(x)",
            "exact_percentile, argument 2: it is \"101\"; expected a per cent from 0 to 100",
        ),
        ("select exact_percentile(x, -1) from (values (1)) as v(x)", "exact_percentile, argument 2"),
        ("select exact_percentile(x, x) from (values (1)) as v(x)", "it is not a constant number"),
        ("select exact_percentile(x) from (values (1)) as v(x)", "exact_percentile, argument 2"),
        ("select exact_mean(x, 19) from (values (1)) as v(x)", "19 decimals are too many"),
        ("select exact_mean(x, 2, 'half') from (values (1)) as v(x)", "exact_mean, argument 3"),
        ("select exact_mean(distinct x) from (values (1)) as v(x)", "leave DISTINCT out"),
        (
            "select exact_sum(x) from (values (1.5::double)) as v(x)",
            "argument 1 is Float64, not a decimal or a whole number",
        ),
        ("select exact_sum(x, 2) from (values (1)) as v(x)", "2 arguments are given"),
        ("select weighted_mean(x) from (values (1)) as v(x)", "weighted_mean"),
        ("select share_of_hundred(x, 40) over () from (values (1)) as v(x)", "40 decimals are too many"),
        ("select exact_mean(x, 19) over () from (values (1)) as v(x)", "19 decimals are too many"),
    ] {
        let error = run(async { context.sql(sql).await?.into_optimized_plan() }).expect_err(sql).to_string();
        assert!(error.contains(expected), "{sql}: {error}");
    }
    assert!(aggregate("mode", vec![col("x")]).unwrap_err().to_string().contains("exact_sum, exact_mean"));
    assert!(aggregate("exact_percentile", vec![col("x"), lit("all")]).is_err());
    // One that has not seen its constants gives no figure instead of a wrong one.
    let unseen = context.state().aggregate_functions()["exact_mean"].call(vec![col("x"), lit(2)]);
    let table = run(context.sql("select * from (values (1)) as v(x)")).unwrap();
    let error = table.clone().aggregate(vec![], vec![unseen]).unwrap_err().to_string();
    assert!(error.contains("its constants are seen"), "{error}");
    let shares = &context.state().window_functions()["share_of_hundred"].clone();
    let error = table.clone().window(vec![shares.call(vec![col("x"), lit(3)])]).unwrap_err().to_string();
    assert!(error.contains("its constants are seen"), "{error}");
    assert!(table.clone().window(vec![shares.call(vec![col("x")])]).is_ok());
    // Different values alone, asked for outside SQL, next to one of all values.
    let of_all = aggregate("exact_sum", vec![col("x")]).unwrap();
    let different = aggregate("exact_mean", vec![col("x")]).unwrap().distinct().build().unwrap();
    let found = table.aggregate(vec![], vec![of_all, different]).unwrap();
    let error = run(found.collect()).unwrap_err().to_string();
    assert!(error.contains("leave DISTINCT out"), "{error}");
}

#[test]
fn a_sum_that_is_too_large_is_an_error() {
    let nines = "9".repeat(38);
    let two = format!("from (values ('{nines}'::decimal(38,0)), ('{nines}'::decimal(38,0))) as v(x)");
    let error = cells(&session(), &format!("select exact_sum(x) {two}")).unwrap_err().to_string();
    assert!(error.contains("too large") || error.contains("more than 38 digits"), "{error}");
    // Its mean would be there, but has no room for decimals.
    let error = cells(&session(), &format!("select exact_mean(x, 4) {two}")).unwrap_err().to_string();
    assert!(error.contains("too large") || error.contains("digits"), "{error}");
    let error = cells(&session(), &format!("select weighted_mean(x, x) {two}")).unwrap_err().to_string();
    assert!(error.contains("too large"), "{error}");
}
