//! Column functions beside their floor: the time to copy half of the bytes that a function reads and writes, on one
//! thread, over arrays several times larger than the last cache, in the same run.
//!
//! ```text
//! cargo bench --bench columns
//! ```
//!
//! With `--rows N` other lengths can be tried; the default is 16 million.

use mild_ledger::column::{DateColumn, Dates, count_between, shifted};
use mild_ledger::{CountRule, Date, MonthEnd, Shift};
use std::hint::black_box;
use std::time::Instant;

const ROUNDS: usize = 7;

fn main() {
    let mut arguments = std::env::args().skip_while(|argument| argument != "--rows").skip(1);
    let rows = arguments.next().and_then(|text| text.parse().ok()).unwrap_or(16 << 20);
    let starts = dates(rows, 20_260_930);
    let ends = dates(rows, 77);
    println!("{rows} rows, {ROUNDS} rounds; medians");
    // Two day numbers in, one figure out, a bit a row for each mask.
    let two_in = rows * 4 * 3 + rows / 8 * 3;
    for rule in CountRule::all() {
        report(&rule.to_string(), rows, two_in, || {
            black_box(count_between(Dates::Column(&starts), Dates::Column(&ends), rule, rows).is_ok());
        });
    }
    let one_in = rows * 4 * 2 + rows / 8 * 2;
    for rule in MonthEnd::ALL {
        let shift = Shift::months(7).month_end(rule);
        report(&format!("7 months on, {rule}"), rows, one_in, || {
            black_box(shifted(&starts, &shift).len());
        });
    }
    let days = Shift::days(30);
    report("30 days on", rows, one_in, || {
        black_box(shifted(&starts, &days).len());
    });
}

/// Prints the time a row and the ratio to the floor of so many bytes.
fn report(name: &str, rows: usize, bytes: usize, mut work: impl FnMut()) {
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
    println!("{name:<26} {:>6.2} ns a row, {:>5.1} times the floor", work / rows as f64 * 1e9, work / floor);
}

fn median(times: &mut [f64]) -> f64 {
    times.sort_by(f64::total_cmp);
    times[times.len() / 2]
}

/// Dates of the last hundred years, one row in fifty empty (a linear congruential generator, Knuth 1981).
fn dates(rows: usize, seed: u64) -> DateColumn {
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
