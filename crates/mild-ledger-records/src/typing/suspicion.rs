//! Patterns that would read a column better than the one it was read by.

use crate::handover::handed_over;
use mild_ledger::{DatePattern, WrittenDates};
use serde::{Deserialize, Serialize};

/// Rows on whose values every candidate is tried; beyond them only on those that the plan's pattern could not read. By their
/// numbers, so that it does not matter who reads which of them.
const SAMPLE: u64 = 2_000;

/// How a column reads under other patterns than its own.
#[derive(Debug)]
pub(super) struct Suspicion {
    rivals: Vec<Rival>,
    /// Values tried, blanks and placeholders left out.
    sampled: u64,
    failed: u64,
    failed_in_sample: u64,
}

#[derive(Debug, Serialize, Deserialize)]
struct Rival {
    pattern: DatePattern,
    reads_of_sample: u64,
    reads_of_failed: u64,
}

handed_over!(Suspicion: rivals, sampled, failed, failed_in_sample; known:);

impl Suspicion {
    pub(super) fn of(written: &WrittenDates) -> Self {
        let rivals = DatePattern::candidates()
            .filter(|candidate| !written.patterns().contains(candidate))
            .map(|pattern| Rival { pattern, reads_of_sample: 0, reads_of_failed: 0 })
            .collect();
        Self { rivals, sampled: 0, failed: 0, failed_in_sample: 0 }
    }

    /// Takes note of a value that is neither blank nor a placeholder, of the row with this number.
    pub(super) fn note(&mut self, text: &str, was_read: bool, number: u64) {
        let is_sampled = number <= SAMPLE;
        if !is_sampled && was_read {
            return;
        }
        self.sampled += u64::from(is_sampled);
        self.failed += u64::from(!was_read);
        self.failed_in_sample += u64::from(is_sampled && !was_read);
        for rival in &mut self.rivals {
            let reads = rival.pattern.reads(text);
            rival.reads_of_sample += u64::from(reads && is_sampled);
            rival.reads_of_failed += u64::from(reads && !was_read);
        }
    }

    /// Takes over what was noted of other rows of the same column.
    pub(super) fn merge(&mut self, other: &Self) {
        self.sampled += other.sampled;
        self.failed += other.failed;
        self.failed_in_sample += other.failed_in_sample;
        for (rival, other) in self.rivals.iter_mut().zip(&other.rivals) {
            rival.reads_of_sample += other.reads_of_sample;
            rival.reads_of_failed += other.reads_of_failed;
        }
    }

    /// The first pattern that reads all that failed, and all or nearly all of the rest, with how much it reads, in words.
    pub(super) fn better(&self, values: u64) -> Option<(String, String)> {
        let explains = |rival: &&Rival| {
            // Nearly all: no more than one in a hundred of them is not read.
            self.failed > 0
                && rival.reads_of_failed == self.failed
                && (self.sampled - rival.reads_of_sample) * 100 <= self.sampled
        };
        let rival = self.rivals.iter().rev().filter(explains).max_by_key(|rival| rival.reads_of_sample)?;
        let (reads, sampled) = (rival.reads_of_sample, self.sampled);
        let how_many = match (sampled == values, reads == sampled) {
            (true, true) => format!("all {values}"),
            (true, false) => format!("{reads} of the {values}"),
            (false, true) => format!("all of these, and all of the first {sampled} values,"),
            (false, false) => format!("all of these, and {reads} of the first {sampled} values,"),
        };
        Some((rival.pattern.to_string(), how_many))
    }
}

#[cfg(test)]
mod tests {
    use super::Suspicion;

    #[test]
    fn only_what_reads_the_failed_and_nearly_all_others_is_better() {
        let pattern: mild_ledger::DatePattern = "day/month/year".parse().unwrap();
        let note = |texts: &[(&str, bool)]| {
            let mut suspicion = Suspicion::of(&pattern.clone().into());
            (1..).zip(texts).for_each(|(number, (text, was_read))| suspicion.note(text, *was_read, number));
            suspicion.better(texts.len() as u64)
        };
        let swapped =
            [("01/02/2026", true), ("01/31/2026", false), ("03/04/2026", true), ("12/25/2026", false)];
        assert_eq!(note(&swapped), Some(("month/day/year".to_owned(), "all 4".to_owned())));
        // A day that no pattern has, and a column that reads well.
        assert_eq!(note(&[("31/06/2026", false), ("01/02/2026", true)]), None);
        assert_eq!(note(&[("01/02/2026", true)]), None);
        // One value of another form explains nothing about the rest.
        assert_eq!(note(&[("2026-01-31", false), ("31/01/2026", true), ("30/01/2026", true)]), None);
    }
}
