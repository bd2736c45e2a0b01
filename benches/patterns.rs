//! Dates read by a pattern, next to the time to scan the same bytes for a date of the ISO form: ten bytes, of which eight are
//! digits that become three numbers, and nothing more.
//!
//! ```text
//! cargo bench -p mild-ledger --bench patterns
//! ```
//!
//! With `--rows N` other lengths can be tried; the default is 4 million.

use mild_ledger::column::DateReader;
use mild_ledger::{Date, DatePattern, WritingPattern, WrittenDates};
use std::hint::black_box;
use std::time::Instant;

const ROUNDS: usize = 7;

/// Texts that lie after each other, as a source gives them.
struct Texts {
    all: String,
    ends: Vec<usize>,
}

impl Texts {
    fn written(pattern: &WritingPattern, days: &[Date]) -> Self {
        let mut texts = Self { all: String::new(), ends: Vec::with_capacity(days.len()) };
        for day in days {
            texts.all.push_str(&pattern.write(*day));
            texts.ends.push(texts.all.len());
        }
        texts
    }

    fn iter(&self) -> impl Iterator<Item = &str> {
        let mut start = 0;
        self.ends.iter().filter_map(move |end| self.all.get(std::mem::replace(&mut start, *end)..*end))
    }
}

fn main() {
    let rows = std::env::args().skip_while(|argument| argument != "--rows").nth(1);
    let rows: usize = rows.and_then(|text| text.parse().ok()).unwrap_or(4 << 20);
    // Days of twenty years in no order.
    let days: Vec<Date> = (0..rows)
        .filter_map(|row| {
            let day = (row as u64).wrapping_mul(0x9e37_79b9_7f4a_7c15) >> 32;
            Date::from_day_number(14_000 + i32::try_from(day % 7_300).unwrap_or(0)).ok()
        })
        .collect();
    println!("{rows} rows, {ROUNDS} rounds; medians");
    for words in ["iso", "day/month/year", "month/day/year", "year-month-day"] {
        if let Err(error) = report(words, &days) {
            println!("{words}: {error}");
        }
    }
}

fn report(words: &str, days: &[Date]) -> Result<(), mild_ledger::Error> {
    let pattern: DatePattern = words.parse()?;
    let writing = |words: &str| WritingPattern::of(&words.parse()?);
    let iso = Texts::written(&writing("year-month-day")?, days);
    let texts = if words == "iso" { None } else { Some(Texts::written(&writing(words)?, days)) };
    let texts = texts.as_ref().unwrap_or(&iso);
    let floor =
        median(days.len(), || iso.iter().filter_map(|text| scanned(text.as_bytes())).map(u64::from).sum());
    let written = WrittenDates::by(pattern);
    let time = median(days.len(), || {
        let mut reader = DateReader::new(written.clone());
        texts.iter().filter(|text| reader.push(text).is_ok()).count() as u64 + reader.take().len() as u64
    });
    println!("{words:24} {:5.1} ns a row, floor {:4.1}: {:4.1}", time, floor, time / floor);
    Ok(())
}

/// The three numbers of a text of the ISO form as one.
fn scanned(text: &[u8]) -> Option<u32> {
    let [y1, y2, y3, y4, b'-', m1, m2, b'-', d1, d2] = *text else { return None };
    [y1, y2, y3, y4, m1, m2, d1, d2].iter().try_fold(0_u32, |number, digit| {
        digit.is_ascii_digit().then(|| number * 10 + u32::from(digit - b'0'))
    })
}

/// Nanoseconds a row.
fn median(rows: usize, mut work: impl FnMut() -> u64) -> f64 {
    let mut times: Vec<f64> = (0..ROUNDS)
        .map(|_| {
            let start = Instant::now();
            black_box(work());
            start.elapsed().as_secs_f64()
        })
        .collect();
    times.sort_by(f64::total_cmp);
    times[ROUNDS / 2] * 1e9 / rows.max(1) as f64
}
