//! Texts of every kind, right, nearly right and wild: nothing panics, and each value read is written as it was meant.

#![allow(clippy::unwrap_used, clippy::expect_used)] // a test fails by panicking

mod every_text;

use proptest::prelude::*;

/// Texts that are something, to be cut and joined.
const SEEDS: [&str; 47] = [
    "2026-09-30",
    "2026-W40-3",
    "2026-273",
    "2026-09-30T14:30:05.123456",
    "14:30",
    "23:59:59.999999",
    "+02:00",
    "Z",
    "30 days",
    "1 year, 2 months and 3 days",
    "45d",
    "3w",
    "2M",
    "1Y",
    "0wd",
    "1wd -1wd",
    "2y",
    "14h",
    "30min",
    "P1Y2M3DT4H5M6S",
    "-P1M",
    "−2M",
    "99999999999",
    "on or after monday",
    "before friday",
    "last 12 months",
    "quarter to date",
    "end of last month",
    "last saturday of january, 4-5-4",
    "saturday nearest end of january",
    "sunday first, at least 1 day",
    "blocks from 1 january",
    "sunday from 0",
    "apr-6",
    "monday, tuesday",
    "08:00 to 24:00",
    "complete months",
    "month starts passed",
    "fractional hours",
    "actual-actual-isda",
    "%Y-%m {quarter}",
    "{fiscal_year}",
    "day/month/year\n30/09/2026",
    "%d.%m.%Y %H:%M\n30.09.2026 14:30",
    "month-name day, year\nSep 3, 2026",
    "-1250.05",
    "٣\u{202e}\u{0}é",
];

proptest! {
    #![proptest_config(ProptestConfig::with_cases(4_000))]
    #[test]
    fn nothing_panics_and_what_is_read_is_read_again(
        pieces in prop::collection::vec((0..SEEDS.len(), 0..60_usize, 0..60_usize), 1..5), wild in "\\PC{0,12}", place in 0..5_usize,
    ) {
        let mut text = String::new();
        for (nth, (seed, from, to)) in pieces.into_iter().enumerate() {
            if nth == place {
                text.push_str(&wild);
            }
            let signs: Vec<char> = SEEDS[seed].chars().collect();
            let (from, to) = (from.min(signs.len()), to.min(signs.len()));
            text.extend(if from < to { &signs[from..to] } else { &signs[..] });
        }
        every_text::read(&text);
    }
}

#[test]
fn each_seed_is_something() {
    SEEDS.into_iter().for_each(every_text::read);
}
