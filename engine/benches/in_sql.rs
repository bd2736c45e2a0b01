//! Functions over 10 million rows in SQL, next to the library's column functions over the same arrays, on one thread.
//!
//! ```text
//! cargo bench --bench in_sql
//! ```

use datafusion::arrow::array::{Array, ArrayRef, Date32Array, RecordBatch};
use datafusion::arrow::datatypes::{DataType, Field, Schema};
use datafusion::datasource::MemTable;
use datafusion::error::Result;
use datafusion::execution::context::SessionConfig;
use datafusion::prelude::SessionContext;
use mild_ledger::column::{Column, ColumnSlice, Intervals, Validity, Values, count_working_days, shifted};
use mild_ledger::{Date, Ends, Shift};
use std::hint::black_box;
use std::sync::Arc;
use std::time::{Duration, Instant};

const ROWS: usize = 10_000_000;
const ROUNDS: usize = 5;
/// What the engine takes at a time unless a setting differs.
const BATCH: usize = 8_192;

fn main() -> Result<()> {
    let runtime = tokio::runtime::Builder::new_current_thread().build()?;
    let schema =
        Schema::new(vec![Field::new("a", DataType::Date32, true), Field::new("b", DataType::Date32, true)]);
    let schema = Arc::new(schema);
    let batches: Vec<RecordBatch> = (0..ROWS / BATCH)
        .map(|nth| {
            let column = |salt: usize| -> ArrayRef {
                let day = |row: usize| {
                    let mixed = (nth * BATCH + row).wrapping_mul(2_654_435_761).wrapping_add(salt * 97);
                    (!mixed.is_multiple_of(50)).then_some(18_262 + (mixed % 3_000) as i32)
                };
                Arc::new((0..BATCH).map(day).collect::<Date32Array>())
            };
            RecordBatch::try_new(Arc::clone(&schema), vec![column(1), column(2)])
        })
        .collect::<std::result::Result<_, _>>()?;
    let context = SessionContext::new_with_config(SessionConfig::new().with_target_partitions(1));
    mild_ledger_engine::register(&context)?;
    context.register_table("t", Arc::new(MemTable::try_new(schema, vec![batches.clone()])?))?;
    let calendar = mild_ledger_calendars::named("england-wales").and_then(|shipped| shipped.calendar().ok());
    let Some(calendar) = calendar else { return Ok(()) };
    println!("{} rows in batches of {BATCH}, {ROUNDS} rounds; medians", batches.len() * BATCH);
    let months = Shift::months(2);
    let calculations: [Calculation<'_>; 3] = [
        ("working_days", "select working_days(a, b, 'england-wales') from t", &|a, b| {
            drop(black_box(count_working_days(a, b, &calendar, Ends::FirstAndLast)));
        }),
        ("count_between", "select count_between(a, b, 'complete months') from t", &|a, b| {
            if let (Ok(between), Ok(rule)) = (Intervals::between(a, b), "complete months".parse()) {
                drop(black_box(between.count(rule)));
            }
        }),
        ("shifted", "select shifted(a, '2 months') from t", &|a, _| {
            let moved: Column<Date> = shifted(a, &months);
            drop(black_box(moved));
        }),
    ];
    for (name, sql, alone) in calculations {
        let scanned = median(|| runtime.block_on(all_of(&context, "select a, b from t")))?;
        let in_sql = median(|| runtime.block_on(all_of(&context, sql)))?;
        let alone = median(|| {
            for batch in &batches {
                alone(dates(batch.column(0)), dates(batch.column(1)));
            }
            Ok(())
        })?;
        let of = |time: Duration| time.as_secs_f64() * 1_000.0;
        println!(
            "{name:<14} in SQL {:>7.1} ms, alone {:>7.1} ms: {:.2} times; a query that only scans {:.1} ms",
            of(in_sql),
            of(alone),
            in_sql.as_secs_f64() / alone.as_secs_f64(),
            of(scanned),
        );
    }
    Ok(())
}

type Dates<'a> = Values<'a, Date>;
/// Its name, a query, and the column function alone.
type Calculation<'c> = (&'static str, &'static str, &'c dyn Fn(Dates<'_>, Dates<'_>));

/// An array as the library reads it, none of whose rows are empty where that cannot be.
fn dates(array: &ArrayRef) -> Dates<'_> {
    let days = array.as_any().downcast_ref::<Date32Array>();
    let slice = days.and_then(|days| {
        let nulls = days.nulls();
        let validity =
            nulls.and_then(|nulls| Validity::new(nulls.validity(), nulls.offset(), nulls.len()).ok());
        ColumnSlice::new(days.values(), validity).ok()
    });
    slice.map_or(Values::from(Date::MIN), Values::from)
}

/// Runs a query, and lets each batch go as it comes.
async fn all_of(context: &SessionContext, sql: &str) -> Result<()> {
    let plan = context.sql(sql).await?.create_physical_plan().await?;
    let mut stream = plan.execute(0, context.task_ctx())?;
    while let Some(batch) = std::future::poll_fn(|context| stream.as_mut().poll_next(context)).await {
        black_box(batch?);
    }
    Ok(())
}

fn median(mut work: impl FnMut() -> Result<()>) -> Result<Duration> {
    let mut times = Vec::with_capacity(ROUNDS);
    for _ in 0..ROUNDS {
        let start = Instant::now();
        work()?;
        times.push(start.elapsed());
    }
    times.sort_unstable();
    Ok(times.get(ROUNDS / 2).copied().unwrap_or_default())
}
