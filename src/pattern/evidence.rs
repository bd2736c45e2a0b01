//! What the values of a column tell of how its dates are written.

use super::days_seen::DaysSeen;
use super::fault::Fault;
use super::shapes::{Shapes, has_long_word};
use super::verdict::{BothWays, PatternReadings, PatternVerdict};
use super::{DatePattern, Filler, Read};
use crate::date::{ClockTime, Date, ZoneText};
use crate::values_met::{FirstValues, ValueMet};
use alloc::collections::BTreeMap;
use alloc::sync::Arc;
use alloc::vec::Vec;

/// Rows that must speak against a pattern before it is out, so that one mistyped value does not turn ten thousand.
const ROWS_AGAINST: u64 = 3;
/// Rows of a filler that are named.
const ROWS_NAMED: usize = 5;

/// Finds the patterns of a column from all of its values, one by one and in any order, in bounded memory.
///
/// Blanks and fillers are set apart first. ISO 8601 is found where it reads everything else. Another candidate is found where it
/// reads everything and at least three rows speak against each rival; two that read everything and the same are found
/// together. Where they differ on a value, or too few rows decide, the column is ambiguous. The same form in a language that
/// lacks some of the names is not a rival, unless it reads a value as another date.
///
/// ```
/// use mild_ledger::{DateEvidence, PatternVerdict};
///
/// let mut evidence = DateEvidence::new();
/// for (row, text) in (1..).zip(["30/11/2026", "01/02/2026", "13/01/2026", "28/02/2026", ""]) {
///     evidence.note(text, row);
/// }
/// assert_eq!((evidence.values(), evidence.blanks()), (4, 1));
/// let PatternVerdict::Found(patterns) = evidence.verdict() else { unreachable!() };
/// assert_eq!(patterns[0].pattern().words(), "day/month/year");
/// assert_eq!(patterns[0].alone(), 3);
/// ```
#[derive(Debug, Clone)]
pub struct DateEvidence {
    values: u64,
    blanks: u64,
    fillers: BTreeMap<Filler, FillersMet>,
    /// The candidates that are known; a copy of this evidence shares them.
    known: Arc<[Arc<DatePattern>]>,
    /// What each of them read; none before the first value that one of them may read.
    candidates: Vec<PatternReadings>,
    /// Values that none of them reads.
    unread: u64,
    /// The first values of all, which those that had read none of them did not read.
    first_values: FirstValues,
    /// Of candidates that read a value as different dates: how often, and the first time.
    differences: BTreeMap<(usize, usize), Difference>,
    /// Candidates that have read a value and whose first failures are still wanted, a bit each.
    wanted_failures: u128,
    wanting: Vec<Wanting>,
    shapes: Shapes,
    /// Who read the value that is noted, and as what.
    met: Vec<(usize, Date)>,
}

/// How often a filler was met, and the first rows.
///
/// ```
/// use mild_ledger::{DateEvidence, Filler};
/// let mut evidence = DateEvidence::new();
/// evidence.note("9999-12-31", 4);
/// assert_eq!(evidence.fillers().next().map(|(filler, met)| (filler, met.count, met.rows[0])), Some((Filler::EndOfTime, 1, 4)));
/// ```
#[derive(Debug, Clone, Default, PartialEq, Eq)]
pub struct FillersMet {
    /// How often.
    pub count: u64,
    /// The first rows.
    pub rows: Vec<u64>,
}

#[derive(Debug, Clone, Default)]
struct Difference {
    count: u64,
    first: Option<(ValueMet, Date, Date)>,
}

/// A pattern that wants something named next to it, and how much it read of what no candidate did.
#[derive(Debug, Clone)]
struct Wanting {
    pattern: Arc<DatePattern>,
    wants: &'static str,
    reads: u64,
    failed: u64,
}

impl Default for DateEvidence {
    fn default() -> Self {
        Self::new()
    }
}

impl DateEvidence {
    /// Of no values yet.
    ///
    /// ```
    /// assert_eq!(mild_ledger::DateEvidence::new().values(), 0);
    /// ```
    #[must_use]
    pub fn new() -> Self {
        let wanting = DatePattern::wanting().map(|(pattern, wants)| Wanting {
            pattern: Arc::new(pattern),
            wants,
            reads: 0,
            failed: 0,
        });
        Self {
            values: 0,
            blanks: 0,
            fillers: BTreeMap::new(),
            known: DatePattern::candidates().map(Arc::new).collect(),
            candidates: Vec::new(),
            unread: 0,
            first_values: FirstValues::default(),
            differences: BTreeMap::new(),
            wanted_failures: 0,
            wanting: wanting.collect(),
            shapes: Shapes::default(),
            met: Vec::new(),
        }
    }

    /// Room for what each candidate reads.
    fn begin_candidates(&mut self) {
        if self.candidates.is_empty() {
            let readings = |(nth, pattern): (usize, &Arc<DatePattern>)| PatternReadings {
                pattern: Arc::clone(pattern),
                nth,
                reads: 0,
                alone: 0,
                alone_examples: FirstValues::default(),
                failures: FirstValues::default(),
                times: 0,
                offsets: 0,
                days: DaysSeen::default(),
            };
            self.candidates = self.known.iter().enumerate().map(readings).collect();
        }
    }

    /// Takes note of the value of a row.
    ///
    /// ```
    /// let mut evidence = mild_ledger::DateEvidence::new();
    /// evidence.note("2026-09-30", 1);
    /// assert_eq!(evidence.values(), 1);
    /// ```
    pub fn note(&mut self, text: &str, row: u64) {
        let text = text.trim();
        if text.is_empty() {
            self.blanks += 1;
            return;
        }
        let known = &self.known;
        let mask = self.shapes.mask_of(text, || {
            let has_long_word = has_long_word(text);
            let fits = |nth: usize, candidate: &DatePattern| match candidate.parts_of(text) {
                Ok(_) => 1_u128 << nth,
                Err(fault) if depends_on_the_value(fault, has_long_word) => 1 << nth,
                Err(_) => 0,
            };
            known.iter().enumerate().fold(0, |mask, (nth, candidate)| mask | fits(nth, candidate))
        });
        self.met.clear();
        let (mut read_by, mut timed, mut with_zone) = (0_u128, false, false);
        for nth in bits(mask) {
            let Some(candidate) = self.known.get(nth) else { break };
            match candidate.parts_of(text).map(Read::with_usual_fillers) {
                Ok(Read::Filler(filler)) => {
                    let met = self.fillers.entry(filler).or_default();
                    met.count += 1;
                    keep_first(&mut met.rows, row);
                    return;
                }
                Ok(Read::Day(date, clock)) => {
                    timed = clock.is_some_and(|clock| clock.time != ClockTime::MIDNIGHT);
                    with_zone = clock.is_some_and(|clock| clock.zone != ZoneText::Absent);
                    self.met.push((nth, date));
                    read_by |= 1 << nth;
                }
                _ => {}
            }
        }
        self.values += 1;
        let readings = core::mem::take(&mut self.met);
        if !readings.is_empty() {
            self.begin_candidates();
        }
        for (nth, date) in &readings {
            let Some(candidate) = self.candidates.get_mut(*nth) else { continue };
            candidate.reads += 1;
            candidate.times += u64::from(timed);
            candidate.offsets += u64::from(with_zone);
            candidate.days.note(*date);
            if readings.len() == 1 {
                candidate.alone += 1;
                candidate.alone_examples.note(text, row);
            }
        }
        if let Some((_, first)) = readings.first()
            && readings.iter().any(|(_, date)| date != first)
        {
            self.note_differences(&readings, text, row);
        }
        for nth in bits(self.wanted_failures & !read_by) {
            let Some(candidate) = self.candidates.get_mut(nth) else { break };
            candidate.failures.note(text, row);
            if candidate.failures.are_all() {
                self.wanted_failures &= !(1 << nth);
            }
        }
        for (nth, _) in &readings {
            self.begin_failures(*nth);
        }
        self.first_values.note(text, row);
        if readings.is_empty() {
            self.unread += 1;
            self.note_wanting(text);
        }
        self.met = readings;
    }

    /// What a candidate did not read before the first value that it read: the first values of all.
    fn begin_failures(&mut self, nth: usize) {
        if let Some(candidate) = self.candidates.get_mut(nth)
            && candidate.reads == 1
        {
            candidate.failures.clone_from(&self.first_values);
            self.wanted_failures |= u128::from(!candidate.failures.are_all()) << nth;
        }
    }

    fn note_differences(&mut self, readings: &[(usize, Date)], text: &str, row: u64) {
        for (place, (one, first)) in readings.iter().enumerate() {
            for (other, second) in readings.iter().skip(place + 1).filter(|(_, second)| second != first) {
                let difference = self.differences.entry((*one, *other)).or_default();
                difference.count += 1;
                if difference.first.as_ref().is_none_or(|(value, ..)| value.row > row) {
                    difference.first = Some((ValueMet::of(text, row), *first, *second));
                }
            }
        }
    }

    /// Tries what wants something named, as long as it does not fail again and again.
    fn note_wanting(&mut self, text: &str) {
        const MOST_FAILURES: u64 = 100;
        for wanting in self.wanting.iter_mut().filter(|wanting| wanting.failed < MOST_FAILURES) {
            match wanting.pattern.reads(text) {
                true => wanting.reads += 1,
                false => wanting.failed += 1,
            }
        }
    }

    /// Takes over what was noted of other values of the same column.
    ///
    /// ```
    /// use mild_ledger::DateEvidence;
    /// let (mut one, mut other) = (DateEvidence::new(), DateEvidence::new());
    /// one.note("2026-09-30", 1);
    /// other.note("2026-10-01", 2);
    /// one.merge(&other);
    /// assert_eq!(one.values(), 2);
    /// ```
    pub fn merge(&mut self, other: &Self) {
        self.values += other.values;
        self.blanks += other.blanks;
        self.unread += other.unread;
        for (filler, more) in &other.fillers {
            let met = self.fillers.entry(*filler).or_default();
            met.count += more.count;
            more.rows.iter().for_each(|row| keep_first(&mut met.rows, *row));
        }
        if !other.candidates.is_empty() {
            self.begin_candidates();
        }
        for nth in 0..self.candidates.len() {
            let has_read = |evidence: &Self| evidence.candidates.get(nth).is_some_and(|all| all.reads > 0);
            if !has_read(self) && !has_read(other) {
                continue;
            }
            let mut failures = self.failures_at(nth).clone();
            failures.merge(other.failures_at(nth));
            if let Some(candidate) = self.candidates.get_mut(nth) {
                candidate.failures = failures;
            }
        }
        self.first_values.merge(&other.first_values);
        for (candidate, more) in self.candidates.iter_mut().zip(&other.candidates) {
            candidate.reads += more.reads;
            candidate.alone += more.alone;
            candidate.times += more.times;
            candidate.offsets += more.offsets;
            candidate.days.merge(&more.days);
            candidate.alone_examples.merge(&more.alone_examples);
        }
        let wants = |(nth, candidate): (usize, &PatternReadings)| {
            u128::from(candidate.reads > 0 && !candidate.failures.are_all()) << nth
        };
        self.wanted_failures = self.candidates.iter().enumerate().map(wants).fold(0, |all, one| all | one);
        for (pair, more) in &other.differences {
            let difference = self.differences.entry(*pair).or_default();
            difference.count += more.count;
            let is_earlier = match (&difference.first, &more.first) {
                (Some((own, ..)), Some((others, ..))) => others.row < own.row,
                (own, _) => own.is_none(),
            };
            if is_earlier {
                difference.first.clone_from(&more.first);
            }
        }
        for (wanting, more) in self.wanting.iter_mut().zip(&other.wanting) {
            wanting.reads += more.reads;
            wanting.failed += more.failed;
        }
    }

    /// How many values there were, blanks and fillers left out.
    ///
    /// ```
    /// assert_eq!(mild_ledger::DateEvidence::new().values(), 0);
    /// ```
    #[must_use]
    pub fn values(&self) -> u64 {
        self.values
    }

    /// How many texts were nothing but spaces.
    ///
    /// ```
    /// assert_eq!(mild_ledger::DateEvidence::new().blanks(), 0);
    /// ```
    #[must_use]
    pub fn blanks(&self) -> u64 {
        self.blanks
    }

    /// The fillers that were met.
    ///
    /// ```
    /// assert_eq!(mild_ledger::DateEvidence::new().fillers().count(), 0);
    /// ```
    pub fn fillers(&self) -> impl Iterator<Item = (Filler, &FillersMet)> {
        self.fillers.iter().map(|(filler, met)| (*filler, met))
    }

    /// The first values that a pattern does not read.
    ///
    /// ```
    /// use mild_ledger::{DateEvidence, PatternVerdict};
    /// let mut evidence = DateEvidence::new();
    /// ["soon", "2026-09-30", "2026-02-30"].iter().zip(1..).for_each(|(text, row)| evidence.note(text, row));
    /// let PatternVerdict::NoneReadsAll(Some(best)) = evidence.verdict() else { unreachable!() };
    /// let failed: Vec<u64> = evidence.failures_of(best).iter().map(|value| value.row).collect();
    /// assert_eq!(failed, [1, 3]);
    /// ```
    #[must_use]
    pub fn failures_of(&self, readings: &PatternReadings) -> &[ValueMet] {
        self.failures_at(readings.nth).as_slice()
    }

    /// Whether nothing but this pattern could be meant, though it does not read every value: what it does not read, no candidate
    /// does, and at least three rows speak against each that reads others.
    ///
    /// ```
    /// use mild_ledger::{DateEvidence, PatternVerdict};
    /// let mut evidence = DateEvidence::new();
    /// let texts = ["31/06/2026", "30/06/2026", "29/06/2026", "28/06/2026", "01/02/2026"];
    /// texts.iter().zip(1..).for_each(|(text, row)| evidence.note(text, row));
    /// let PatternVerdict::NoneReadsAll(Some(best)) = evidence.verdict() else { unreachable!() };
    /// assert!(evidence.leaves_no_doubt_of(best));
    /// evidence.note("2026-06-30", 6);
    /// let PatternVerdict::NoneReadsAll(Some(best)) = evidence.verdict() else { unreachable!() };
    /// assert!(!evidence.leaves_no_doubt_of(best));
    /// ```
    #[must_use]
    pub fn leaves_no_doubt_of(&self, readings: &PatternReadings) -> bool {
        let rivals = self.candidates.iter().filter(|rival| {
            rival.nth != readings.nth
                && (rival.reads > 0 || self.is_twin(readings.nth, rival.nth))
                && !self.is_same_in_another_language(readings.nth, rival.nth)
        });
        readings.reads + self.unread == self.values
            && rivals.into_iter().all(|rival| rival.reads + ROWS_AGAINST <= readings.reads)
    }

    /// The first values of all, where a candidate has read none.
    fn failures_at(&self, nth: usize) -> &FirstValues {
        match self.candidates.get(nth) {
            Some(candidate) if candidate.reads > 0 => &candidate.failures,
            _ => &self.first_values,
        }
    }

    /// The pattern that reads every value once something is named next to it, and what: for columns that no candidate reads.
    ///
    /// ```
    /// use mild_ledger::DateEvidence;
    /// let mut evidence = DateEvidence::new();
    /// (1..=3).for_each(|row| evidence.note("30/09/26", row));
    /// let (pattern, wants) = evidence.wanting().next().unwrap();
    /// assert_eq!((pattern.words(), wants), ("day/month/short-year", "a pivot year for years of two digits"));
    /// ```
    pub fn wanting(&self) -> impl Iterator<Item = (&DatePattern, &'static str)> {
        let reads_all = |wanting: &&Wanting| self.values > 0 && wanting.reads == self.values;
        self.wanting.iter().filter(reads_all).map(|wanting| (&*wanting.pattern, wanting.wants))
    }

    /// What the values say.
    ///
    /// ```
    /// use mild_ledger::{DateEvidence, PatternVerdict};
    /// let mut evidence = DateEvidence::new();
    /// (1..=3).for_each(|row| evidence.note("2026-09-30", row));
    /// assert!(matches!(evidence.verdict(), PatternVerdict::Found(_)));
    /// evidence.note("30/09/2026", 4);
    /// assert!(matches!(evidence.verdict(), PatternVerdict::NoneReadsAll(Some(_))));
    /// ```
    #[must_use]
    pub fn verdict(&self) -> PatternVerdict<'_> {
        if self.values == 0 {
            return PatternVerdict::NoValues;
        }
        let reads_all = |nth: &usize| self.candidates.get(*nth).is_some_and(|all| all.reads == self.values);
        let explaining: Vec<usize> = (0..self.candidates.len()).filter(reads_all).collect();
        let Some(first) = explaining.first().copied() else {
            let some = self.candidates.iter().rev().filter(|candidate| candidate.reads > 0);
            return PatternVerdict::NoneReadsAll(some.max_by_key(|candidate| candidate.reads));
        };
        let readings = |places: &[usize]| places.iter().filter_map(|nth| self.candidates.get(*nth)).collect();
        // The forms of ISO 8601 come first among the candidates.
        if first == 0 {
            return PatternVerdict::Found(readings(&explaining[..1]));
        }
        let is_rival = |nth: &usize| {
            let Some(rival) = self.candidates.get(*nth) else { return false };
            let spoken_against = self.values - rival.reads;
            !explaining.contains(nth)
                && spoken_against < ROWS_AGAINST
                && (rival.reads > 0 || self.is_twin(first, *nth))
                && !self.is_same_in_another_language(first, *nth)
        };
        let rivals: Vec<usize> = (0..self.candidates.len()).filter(is_rival).collect();
        let differs = |pair: &(usize, usize)| self.differences.contains_key(pair);
        let all: Vec<usize> = explaining.iter().chain(&rivals).copied().collect();
        let ordered = |one: usize, other: usize| (one.min(other), one.max(other));
        let among = all.iter().skip(1).map(|other| (first, *other));
        let pair = among.clone().find(|(one, other)| differs(&ordered(*one, *other)));
        if pair.is_none() && rivals.is_empty() {
            return PatternVerdict::Found(readings(&explaining));
        }
        // The two that are shown first are two that differ, where there are such.
        let mut shown = all;
        if let Some((_, other)) = pair {
            shown.retain(|nth| *nth != first && *nth != other);
            shown.insert(0, other);
            shown.insert(0, first);
        }
        let both_ways = pair.and_then(|(one, other)| {
            let (value, first, second) = self.differences.get(&ordered(one, other))?.first.clone()?;
            let (one, other) = if one < other { (first, second) } else { (second, first) };
            Some(BothWays { value, one, other })
        });
        PatternVerdict::Ambiguous { patterns: readings(&shown), both_ways }
    }

    /// Whether one candidate is the other in another language, and both read as the same dates all that both read: whichever is
    /// meant, no date is read wrongly.
    fn is_same_in_another_language(&self, one: usize, other: usize) -> bool {
        let words = |nth: usize| self.known.get(nth).map_or("", |pattern| pattern.words());
        words(one) == words(other) && !self.differences.contains_key(&(one.min(other), one.max(other)))
    }

    /// Whether one candidate is the other with day and month swapped, so that few rows of neither tell which it is.
    fn is_twin(&self, one: usize, other: usize) -> bool {
        let words = |nth: usize| self.known.get(nth).map_or("", |pattern| pattern.words());
        let swapped = words(one).replace("day", "\0").replace("month", "day").replace('\0', "month");
        swapped == words(other) && !words(one).contains("month-name")
    }
}

/// Whether another value of the same shape may be read; short words are of the shape, so that only long ones may be names.
fn depends_on_the_value(fault: Fault, has_long_word: bool) -> bool {
    match fault {
        Fault::Shape | Fault::TooShort | Fault::Trailing | Fault::YearDigits => false,
        Fault::MonthName | Fault::WeekdayName => has_long_word,
        _ => true,
    }
}

/// The places of the bits that are set.
fn bits(mut mask: u128) -> impl Iterator<Item = usize> {
    core::iter::from_fn(move || {
        let place = mask.trailing_zeros();
        mask &= mask.checked_sub(1)?;
        Some(place as usize)
    })
}

fn keep_first(rows: &mut Vec<u64>, row: u64) {
    let place = rows.partition_point(|before| *before < row);
    if place < ROWS_NAMED {
        rows.insert(place, row);
        rows.truncate(ROWS_NAMED);
    }
}
