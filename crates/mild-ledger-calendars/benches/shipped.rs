//! Every calendar that ships, made from its rules and expanded over all of its years, against their floor: the time to
//! copy the bytes of their days (a byte for what each day is, eight for the running counts), in the same run.
//!
//! ```text
//! cargo bench -p mild-ledger-calendars --bench shipped
//! ```

use mild_ledger_calendars::SHIPPED;
use std::hint::black_box;
use std::time::{Duration, Instant};

const ROUNDS: usize = 21;
/// Of each day: what it is, how many working days lie before it, and its number where it is one.
const BYTES_A_DAY: usize = 9;

fn main() {
    let days: usize = SHIPPED
        .iter()
        .map(|shipped| (shipped.covers().last() - shipped.covers().first() + 1) as usize * 365)
        .sum();
    let bytes = vec![1_u8; days * BYTES_A_DAY];
    let mut copied = vec![0_u8; bytes.len()];
    let floor = median(|| copied.copy_from_slice(black_box(&bytes)));
    black_box(&copied);
    let built = median(|| {
        for shipped in SHIPPED {
            let _ = black_box(shipped.calendar());
        }
    });
    let calendars = SHIPPED.len();
    println!("{calendars} calendars, {days} days, {ROUNDS} rounds; medians");
    println!("made and expanded  {:.2} ms", built.as_secs_f64() * 1_000.0);
    println!("floor              {:.2} ms", floor.as_secs_f64() * 1_000.0);
    println!("times the floor    {:.0}", built.as_secs_f64() / floor.as_secs_f64());
}

fn median(mut work: impl FnMut()) -> Duration {
    let mut times: Vec<Duration> = (0..ROUNDS)
        .map(|_| {
            let start = Instant::now();
            work();
            start.elapsed()
        })
        .collect();
    times.sort_unstable();
    times.get(ROUNDS / 2).copied().unwrap_or_default()
}
