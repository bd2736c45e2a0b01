//! Column functions against their floor: the time to copy half of the bytes that a function reads and writes, on one
//! thread, over arrays several times larger than the last cache, in the same run.
//!
//! ```text
//! cargo bench -p mild-ledger --bench columns
//! cargo bench -p mild-ledger --bench columns --features dispatch
//! ```
//!
//! With `--rows N` other lengths can be tried; the default is 16 million. `--only NAME --rounds N` runs one function that
//! many times with no floor next to it, so that a counter of instructions can take the difference of two runs.

use mild_ledger::column::{
    Column, Intervals, add_working_days_into, count_working_days_into, field_into, first_days_into,
    last_days_into, shifted_into, year_month_day_into,
};
use mild_ledger::{
    Church, CountRule, Date, DateField, Ends, FiscalYear, HolidayRule, MonthEnd, Occurrence, PeriodRule,
    RestDays, Shift, WeekYear, Weekday, WorkCalendar,
};
use std::hint::black_box;
use std::time::Instant;

const ROUNDS: usize = 7;

/// What comes after a name on the command line.
fn argument(name: &str) -> Option<String> {
    std::env::args().skip_while(|argument| argument != name).nth(1)
}

fn main() {
    let rows = argument("--rows").and_then(|text| text.parse().ok()).unwrap_or(16 << 20);
    let starts = dates(rows, 20_260_930);
    let ends = dates(rows, 77);
    let build = if cfg!(feature = "dispatch") { "dispatch" } else { "plain build" };
    println!("{rows} rows, {ROUNDS} rounds, {build}; medians");
    let Ok(intervals) = Intervals::between(&starts, &ends) else {
        return;
    };
    // Two day numbers in, one figure out, a bit a row for each mask.
    let two_in = rows * 4 * 3 + rows / 8 * 3;
    let mut figures = Column::new();
    for rule in CountRule::all() {
        report(&rule.to_string(), rows, two_in, || {
            black_box(intervals.count_into(rule, figures.rows_to_write(rows)).is_ok());
        });
    }
    let (mut years, mut months, mut days) = (vec![0; rows], vec![0; rows], vec![0; rows]);
    let mut bits = vec![0; rows.div_ceil(8)];
    report("parts", rows, two_in, || {
        black_box(intervals.parts_into(&mut years, &mut months, &mut days, &mut bits).is_ok());
    });
    let one_in = rows * 4 * 2 + rows / 8 * 2;
    let mut moved = Column::new();
    report("30 days on", rows, one_in, || {
        black_box(shifted_into(&starts, &Shift::days(30), moved.rows_to_write(rows)).is_ok());
    });
    for rule in MonthEnd::ALL {
        let shift = Shift::months(7).with_month_end(rule);
        report(&format!("7 months on, {rule}"), rows, one_in, || {
            black_box(shifted_into(&starts, &shift, moved.rows_to_write(rows)).is_ok());
        });
    }
    let (mut months, mut days) = (vec![0; rows], vec![0; rows]);
    report("year, month and day", rows, one_in, || {
        let done = year_month_day_into(starts.as_slice(), &mut years, &mut months, &mut days, &mut bits);
        black_box(done.is_ok());
    });
    let mut numbers = Column::new();
    for wanted in DateField::ALL.iter().copied() {
        report(&format!("field: {wanted}"), rows, rows * 4 * 2, || {
            black_box(field_into(&starts, wanted, numbers.rows_to_write(rows)).is_ok());
        });
    }
    for rule in PeriodRule::all(Weekday::Monday, FiscalYear::default(), WeekYear::iso()).into_iter().take(5) {
        report(&format!("first day of the {}", rule.word()), rows, one_in, || {
            black_box(first_days_into(&starts, rule, moved.rows_to_write(rows)).is_ok());
        });
        report(&format!("last day of the {}", rule.word()), rows, one_in, || {
            black_box(last_days_into(&starts, rule, moved.rows_to_write(rows)).is_ok());
        });
    }
    if let Err(error) = working_time(rows, &starts, (two_in, one_in)) {
        println!("{error}");
    }
}

/// Counting and moving by working days over a century, near and far, and building its index.
fn working_time(
    rows: usize,
    starts: &Column<Date>,
    (two_in, one_in): (usize, usize),
) -> Result<(), mild_ledger::Error> {
    let new_year = HolidayRule::new("New Year", Occurrence::on_day_of_year(1, 1)?);
    let easter = HolidayRule::new("Easter Monday", Occurrence::from_easter(1, Church::Western)?);
    let build =
        || WorkCalendar::new("yard", RestDays::default(), 1920, 2040, &[new_year.clone(), easter.clone()]);
    let started = Instant::now();
    let yard = build()?;
    println!("an index of 121 years is built in {:.2} ms", started.elapsed().as_secs_f64() * 1e3);
    for (name, days) in [("10 days", 10), ("50 years", 18_262)] {
        // Every end lies so far from its start, forward from the first half of the century and back from the second.
        let ends: Column<Date> = (0..rows)
            .map(|row| {
                let start = starts.get(row)?;
                Shift::days(if start.day_number() < 2_000 { days } else { -days }).apply(start).ok()
            })
            .collect();
        for counted in [Ends::FirstAndLast, Ends::Last] {
            let mut figures = Column::new();
            report(&format!("working days over {name}, {counted}"), rows, two_in, || {
                let out = figures.rows_to_write(rows);
                black_box(count_working_days_into(starts, &ends, &yard, counted, out).is_ok());
            });
        }
        let mut moved = Column::new();
        let number = days * 5 / 7;
        report(&format!("{number} working days on"), rows, one_in, || {
            black_box(add_working_days_into(starts, number, &yard, moved.rows_to_write(rows)).is_ok());
        });
    }
    Ok(())
}

/// Prints the time a row and the ratio to the floor of a number of bytes.
fn report(name: &str, rows: usize, bytes: usize, mut work: impl FnMut()) {
    if let Some(only) = argument("--only") {
        let rounds = argument("--rounds").and_then(|text| text.parse().ok()).unwrap_or(1);
        (0..if name == only { rounds } else { 0 }).for_each(|_| work());
        return;
    }
    let source = vec![1_u8; bytes / 2];
    let mut target = vec![0_u8; bytes / 2];
    let (mut works, mut floors) = (Vec::new(), Vec::new());
    for _ in 0..ROUNDS {
        let start = Instant::now();
        work();
        works.push(start.elapsed().as_secs_f64());
        let start = Instant::now();
        target.copy_from_slice(black_box(&source));
        black_box(&mut target);
        floors.push(start.elapsed().as_secs_f64());
    }
    let (work, floor) = (median(&mut works), median(&mut floors));
    println!("{name:<42} {:>6.2} ns a row, {:>5.1} times the floor", work / rows as f64 * 1e9, work / floor);
}

fn median(times: &mut [f64]) -> f64 {
    times.sort_by(f64::total_cmp);
    times[times.len() / 2]
}

/// Dates of the last hundred years, one row in fifty empty (a linear congruential generator, Knuth 1981).
fn dates(rows: usize, seed: u64) -> Column<Date> {
    let mut state = seed;
    (0..rows)
        .map(|_| {
            state = state.wrapping_mul(6_364_136_223_846_793_005).wrapping_add(1_442_695_040_888_963_407);
            let drawn = (state >> 33) as u32;
            if drawn.is_multiple_of(50) {
                None
            } else {
                Date::from_day_number((drawn / 50 % 36_525) as i32 - 16_000).ok()
            }
        })
        .collect()
}
