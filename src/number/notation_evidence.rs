//! What the values of a column tell of how its amounts are written.

use super::currency_code::is_currency_code;
use super::decimal::Decimal;
use super::dress::Dress;
use super::notation::{DecimalMark, NegativeForm, Notation, ThousandsMark};
use super::scale::Scale;
use crate::values_met::{FirstValues, ValueMet};
use alloc::borrow::ToOwned;
use alloc::collections::BTreeMap;
use alloc::string::String;
use alloc::vec::Vec;

/// Rows that must speak against a notation that reads some of them otherwise.
const ROWS_AGAINST: u64 = 3;
/// Currencies that are counted apart.
const MOST_CURRENCIES: usize = 64;

/// The marks that amounts are tried for, simplest first.
const MARKS: [(DecimalMark, ThousandsMark); 8] = [
    (DecimalMark::Point, ThousandsMark::None),
    (DecimalMark::Comma, ThousandsMark::None),
    (DecimalMark::Point, ThousandsMark::Comma),
    (DecimalMark::Comma, ThousandsMark::Point),
    (DecimalMark::Point, ThousandsMark::Space),
    (DecimalMark::Comma, ThousandsMark::Space),
    (DecimalMark::Point, ThousandsMark::Apostrophe),
    (DecimalMark::Comma, ThousandsMark::Apostrophe),
];

/// Finds the notation of a column of amounts from all of its values, one by one and in any order, in bounded memory.
///
/// ```
/// use mild_ledger::{AmountEvidence, NotationVerdict};
///
/// let mut evidence = AmountEvidence::new();
/// for (row, text) in (1..).zip(["1.250,00 €", "(50,25 €)", "8,00 €", "12.000,50 €"]) {
///     evidence.note(text, row);
/// }
/// let NotationVerdict::Found(notation) = evidence.verdict() else { unreachable!() };
/// assert_eq!(notation.to_string(), "€ 1.234,56 or (€ 1.234,56)");
/// assert_eq!(evidence.decimals(), 2);
///
/// let mut evidence = AmountEvidence::new();
/// (1..=9).for_each(|row| evidence.note("1,250", row));
/// let NotationVerdict::Ambiguous { one, other, .. } = evidence.verdict() else { unreachable!() };
/// assert_eq!((one.to_string(), other.to_string()), ("1,234.56".into(), "1234,56".into()));
/// ```
#[derive(Debug, Clone)]
pub struct AmountEvidence {
    values: u64,
    blanks: u64,
    /// Values of digits alone, which every notation reads as the same.
    whole: u64,
    leading_zeros: u64,
    /// The smallest and the largest of them.
    whole_range: Option<(i64, i64)>,
    negative: u64,
    candidates: [Readings; MARKS.len()],
    differences: BTreeMap<(usize, usize), (u64, ValueMet)>,
    brackets: u64,
    trailing_minus: u64,
    credit: u64,
    debit: u64,
    currencies: BTreeMap<String, u64>,
    /// Whole numbers with a credit or debit mark, which count as amounts only with further evidence.
    lettered: u64,
    /// Those of them whose mark is a single letter without a space, such as `12C`.
    letter_attached: u64,
    /// The first of the whole numbers with a mark.
    lettered_values: FirstValues,
    /// Whole numbers with the code of a currency.
    whole_with_code: u64,
    /// Numbers with decimals that the file itself types.
    typed_fractions: u64,
    typed_decimals: u8,
    /// The sum of the values that every notation reads as the same; none where it is too large.
    sum: Option<Decimal>,
}

#[derive(Debug, Clone)]
struct Readings {
    /// Values with marks that it reads.
    reads: u64,
    most_decimals: u8,
    /// Their sum; none where it is too large.
    sum: Option<Decimal>,
    /// The first values that it does not read.
    failures: FirstValues,
}

/// What a column's values say about how its amounts are written.
///
/// ```
/// use mild_ledger::{AmountEvidence, NotationVerdict};
/// assert!(matches!(AmountEvidence::new().verdict(), NotationVerdict::NoValues));
/// ```
#[derive(Debug, Clone, PartialEq, Eq)]
#[non_exhaustive]
pub enum NotationVerdict {
    /// There is nothing but blanks.
    NoValues,
    /// This notation reads every value, and none that reads one otherwise is left.
    Found(Notation),
    /// Two notations explain the values and read one differently, and too few rows decide between them.
    Ambiguous {
        /// The first of the two: a reading that gives thousandths comes last, the simpler one first otherwise.
        one: Notation,
        /// The other.
        other: Notation,
        /// The first value that they read differently.
        example: ValueMet,
    },
    /// No notation reads every value; how many the best one does.
    NoneReadsAll {
        /// The notation that reads the most.
        best: Notation,
        /// How many it reads.
        reads: u64,
    },
}

impl Default for Readings {
    fn default() -> Self {
        Self { reads: 0, most_decimals: 0, sum: Some(Decimal::default()), failures: FirstValues::default() }
    }
}

impl Default for AmountEvidence {
    fn default() -> Self {
        Self::new()
    }
}

impl AmountEvidence {
    /// Of no values yet.
    ///
    /// ```
    /// assert_eq!(mild_ledger::AmountEvidence::new().values(), 0);
    /// ```
    #[must_use]
    pub fn new() -> Self {
        Self {
            values: 0,
            blanks: 0,
            whole: 0,
            leading_zeros: 0,
            whole_range: None,
            negative: 0,
            candidates: Default::default(),
            differences: BTreeMap::new(),
            brackets: 0,
            trailing_minus: 0,
            credit: 0,
            debit: 0,
            currencies: BTreeMap::new(),
            lettered: 0,
            letter_attached: 0,
            lettered_values: FirstValues::default(),
            whole_with_code: 0,
            typed_fractions: 0,
            typed_decimals: 0,
            sum: Some(Decimal::default()),
        }
    }

    /// Takes note of the value of a row.
    ///
    /// ```
    /// let mut evidence = mild_ledger::AmountEvidence::new();
    /// evidence.note("12.50", 1);
    /// assert_eq!(evidence.values(), 1);
    /// ```
    pub fn note(&mut self, text: &str, row: u64) {
        let text = text.trim();
        if text.is_empty() {
            self.blanks += 1;
            return;
        }
        self.values += 1;
        let dress = if text.bytes().any(|byte| byte.is_ascii_digit()) { Dress::of(text) } else { None };
        let Some(dress) = dress else { return self.note_failure(text, row) };
        if dress.digits.bytes().all(|byte| byte.is_ascii_digit()) {
            self.whole += 1;
            self.leading_zeros += u64::from(dress.digits.len() > 1 && dress.digits.starts_with('0'));
            if dress.letters.is_some() {
                self.lettered += 1;
                self.letter_attached += u64::from(dress.has_attached_letter);
                self.lettered_values.note(text, row);
            }
            self.whole_with_code += u64::from(dress.currency.is_some_and(is_currency_code));
            return self.note_whole(&dress);
        }
        let readings = readings_of(dress.digits);
        for (reading, candidate) in readings.iter().zip(&mut self.candidates) {
            match reading {
                Some(number) => {
                    candidate.reads += 1;
                    candidate.most_decimals = candidate.most_decimals.max(number.decimals());
                    candidate.sum = added(candidate.sum, Some(*number), dress.is_negative());
                }
                None => candidate.failures.note(text, row),
            }
        }
        if readings.iter().all(Option::is_none) {
            return;
        }
        self.note_dress(&dress);
        for one in 0..MARKS.len() {
            for other in one + 1..MARKS.len() {
                let (Some(Some(first)), Some(Some(second))) = (readings.get(one), readings.get(other)) else {
                    continue;
                };
                if first.checked_sub(*second).is_none_or(|difference| difference.units() != 0) {
                    let new = || ValueMet::of(text, row);
                    let (count, example) = self.differences.entry((one, other)).or_insert_with(|| (0, new()));
                    *count += 1;
                    if row < example.row {
                        *example = new();
                    }
                }
            }
        }
    }

    /// Takes note of a number that the file itself types, whose text is plain whatever the notation of the column is.
    ///
    /// ```
    /// use mild_ledger::{AmountEvidence, Notation, NotationVerdict};
    /// let mut evidence = AmountEvidence::new();
    /// evidence.note_typed("1234.565", 1);
    /// assert_eq!((evidence.verdict(), evidence.decimals()), (NotationVerdict::Found(Notation::plain()), 3));
    /// evidence.note("1.250,00", 2);
    /// let NotationVerdict::Found(notation) = evidence.verdict() else { unreachable!() };
    /// assert_eq!(notation.to_string(), "1.234,56");
    /// ```
    pub fn note_typed(&mut self, text: &str, row: u64) {
        let digits = text.trim().trim_start_matches('-');
        let Some(number) = read_marked(digits, (DecimalMark::Point, ThousandsMark::None)) else {
            return self.note(text, row);
        };
        if number.decimals() == 0 {
            return self.note(text, row);
        }
        self.values += 1;
        self.typed_fractions += 1;
        self.typed_decimals = self.typed_decimals.max(number.decimals());
        let is_negative = text.trim().starts_with('-');
        self.negative += u64::from(is_negative);
        self.sum = added(self.sum, Some(number), is_negative);
    }

    fn note_whole(&mut self, dress: &Dress<'_>) {
        // Nothing is known of longer numbers.
        if let Ok(number) = dress.digits.parse::<i64>() {
            let number = if dress.is_negative() { -number } else { number };
            self.widen((number, number));
        }
        let number = dress.digits.parse().ok().and_then(|units| Decimal::of_units(units, 0).ok());
        self.sum = added(self.sum, number, dress.is_negative());
        self.note_dress(dress);
    }

    fn widen(&mut self, (smallest, largest): (i64, i64)) {
        let (low, high) = self.whole_range.unwrap_or((smallest, largest));
        self.whole_range = Some((low.min(smallest), high.max(largest)));
    }

    fn note_failure(&mut self, text: &str, row: u64) {
        self.candidates.iter_mut().for_each(|candidate| candidate.failures.note(text, row));
    }

    fn note_dress(&mut self, dress: &Dress<'_>) {
        self.brackets += u64::from(dress.brackets);
        self.trailing_minus += u64::from(dress.trailing_minus);
        self.credit += u64::from(dress.letters == Some(true));
        self.debit += u64::from(dress.letters == Some(false));
        self.negative += u64::from(dress.is_negative());
        if let Some(currency) = dress.currency {
            if let Some(count) = self.currencies.get_mut(currency) {
                *count += 1;
            } else if self.currencies.len() < MOST_CURRENCIES {
                self.currencies.insert(currency.to_owned(), 1);
            }
        }
    }

    /// Takes over what was noted of other values of the same column.
    ///
    /// ```
    /// use mild_ledger::AmountEvidence;
    /// let (mut one, mut other) = (AmountEvidence::new(), AmountEvidence::new());
    /// one.note("12.50", 1);
    /// other.note("USD 8.00", 2);
    /// one.merge(&other);
    /// assert_eq!((one.values(), one.currencies().next()), (2, Some(("USD", 1))));
    /// ```
    pub fn merge(&mut self, other: &Self) {
        self.values += other.values;
        self.blanks += other.blanks;
        self.whole += other.whole;
        self.leading_zeros += other.leading_zeros;
        self.negative += other.negative;
        if let Some(range) = other.whole_range {
            self.widen(range);
        }
        self.brackets += other.brackets;
        self.trailing_minus += other.trailing_minus;
        self.credit += other.credit;
        self.debit += other.debit;
        self.lettered += other.lettered;
        self.letter_attached += other.letter_attached;
        self.lettered_values.merge(&other.lettered_values);
        self.whole_with_code += other.whole_with_code;
        self.typed_fractions += other.typed_fractions;
        self.typed_decimals = self.typed_decimals.max(other.typed_decimals);
        self.sum = added(self.sum, other.sum, false);
        for (candidate, more) in self.candidates.iter_mut().zip(&other.candidates) {
            candidate.reads += more.reads;
            candidate.most_decimals = candidate.most_decimals.max(more.most_decimals);
            candidate.sum = added(candidate.sum, more.sum, false);
            candidate.failures.merge(&more.failures);
        }
        for (pair, (more, theirs)) in &other.differences {
            let (count, example) = self.differences.entry(*pair).or_insert_with(|| (0, theirs.clone()));
            *count += more;
            if theirs.row < example.row {
                example.clone_from(theirs);
            }
        }
        for (currency, more) in &other.currencies {
            if self.currencies.len() < MOST_CURRENCIES || self.currencies.contains_key(currency) {
                *self.currencies.entry(currency.clone()).or_default() += more;
            }
        }
    }

    /// How many values there were, blanks left out.
    ///
    /// ```
    /// assert_eq!(mild_ledger::AmountEvidence::new().values(), 0);
    /// ```
    #[must_use]
    pub fn values(&self) -> u64 {
        self.values
    }

    /// How many texts were nothing but spaces.
    ///
    /// ```
    /// assert_eq!(mild_ledger::AmountEvidence::new().blanks(), 0);
    /// ```
    #[must_use]
    pub fn blanks(&self) -> u64 {
        self.blanks
    }

    /// How many values are whole numbers of digits alone, perhaps with a sign, where all numbers of the column are, and none of
    /// them begins with a zero, as numbers of things that are not counted do; `None` where there are others.
    ///
    /// ```
    /// use mild_ledger::AmountEvidence;
    /// let mut evidence = AmountEvidence::new();
    /// evidence.note("12", 1);
    /// evidence.note("many", 2);
    /// assert_eq!(evidence.whole_numbers(), Some(1));
    /// evidence.note("007", 3);
    /// assert_eq!(evidence.whole_numbers(), None);
    /// ```
    #[must_use]
    pub fn whole_numbers(&self) -> Option<u64> {
        let dressed = self.brackets + self.credit + self.debit + self.currencies.values().sum::<u64>();
        let marked = self.marked() + self.typed_fractions;
        (self.whole > 0 && marked + self.leading_zeros + dressed == 0).then_some(self.whole)
    }

    /// How many values are whole numbers next to the code of a currency, such as `EUR 12`. Numbers of documents look the same.
    ///
    /// ```
    /// let mut evidence = mild_ledger::AmountEvidence::new();
    /// ["CAD1001", "CAD 12.50", "7"].iter().zip(1..).for_each(|(text, row)| evidence.note(text, row));
    /// assert_eq!(evidence.whole_with_code(), 1);
    /// ```
    #[must_use]
    pub fn whole_with_code(&self) -> u64 {
        self.whole_with_code
    }

    /// Whether some value can only be money: it has decimals or thousands, or the symbol of a currency.
    ///
    /// ```
    /// let mut evidence = mild_ledger::AmountEvidence::new();
    /// evidence.note("CAD1001", 1);
    /// assert!(!evidence.holds_money());
    /// evidence.note("$ 5", 2);
    /// assert!(evidence.holds_money());
    /// ```
    #[must_use]
    pub fn holds_money(&self) -> bool {
        let symbols = self.currencies.iter().filter(|(currency, _)| !is_currency_code(currency));
        self.marked() + self.typed_fractions + symbols.map(|(_, count)| count).sum::<u64>() > 0
    }

    /// Values with marks that some notation reads.
    fn marked(&self) -> u64 {
        self.candidates.iter().map(|candidate| candidate.reads).sum()
    }

    /// Whole numbers with a credit or debit mark for which nothing else shows that they are amounts.
    fn unproved(&self) -> u64 {
        if self.holds_money() {
            0
        } else if self.credit > 0 && self.debit > 0 {
            self.letter_attached
        } else {
            self.lettered
        }
    }

    /// The sum of the values by a notation; `None` where it is too large to hold, or letters leave open what is below zero.
    ///
    /// ```
    /// use mild_ledger::{AmountEvidence, Notation};
    /// let mut evidence = AmountEvidence::new();
    /// ["10", "20.50", "(5)"].iter().zip(1..).for_each(|(text, row)| evidence.note(text, row));
    /// assert_eq!(evidence.sum(&Notation::plain()).map(|sum| sum.to_string()), Some("25.50".to_owned()));
    /// ```
    #[must_use]
    pub fn sum(&self, notation: &Notation) -> Option<Decimal> {
        let marks = (notation.decimal_mark(), notation.thousands_mark());
        let nth = MARKS.iter().position(|known| *known == marks)?;
        let candidate = self.candidates.get(nth).filter(|_| self.credit + self.debit == 0)?;
        added(self.sum, candidate.sum, false)
    }

    /// The smallest and the largest of the values of digits alone.
    ///
    /// ```
    /// let mut evidence = mild_ledger::AmountEvidence::new();
    /// ["46295", "-3", "12.5"].iter().zip(1..).for_each(|(text, row)| evidence.note(text, row));
    /// assert_eq!(evidence.whole_range(), Some((-3, 46_295)));
    /// ```
    #[must_use]
    pub fn whole_range(&self) -> Option<(i64, i64)> {
        self.whole_range
    }

    /// How many values are digits alone that begin with a zero, as numbers of things that are not counted do.
    ///
    /// ```
    /// assert_eq!(mild_ledger::AmountEvidence::new().leading_zeros(), 0);
    /// ```
    #[must_use]
    pub fn leading_zeros(&self) -> u64 {
        self.leading_zeros
    }

    /// How many values are below zero by a minus before or after them or by brackets.
    ///
    /// ```
    /// let mut evidence = mild_ledger::AmountEvidence::new();
    /// ["-1", "(2)", "3-", "4"].iter().zip(1..).for_each(|(text, row)| evidence.note(text, row));
    /// assert_eq!(evidence.negative(), 3);
    /// ```
    #[must_use]
    pub fn negative(&self) -> u64 {
        self.negative
    }

    /// How many values have letters of credit and of debit after them; which of the two is below zero they do not tell.
    ///
    /// ```
    /// let mut evidence = mild_ledger::AmountEvidence::new();
    /// evidence.note("50.00 CR", 1);
    /// assert_eq!(evidence.credit_and_debit(), (1, 0));
    /// ```
    #[must_use]
    pub fn credit_and_debit(&self) -> (u64, u64) {
        (self.credit, self.debit)
    }

    /// The symbols and codes of currencies that are next to values, each with how many.
    ///
    /// ```
    /// assert_eq!(mild_ledger::AmountEvidence::new().currencies().count(), 0);
    /// ```
    pub fn currencies(&self) -> impl Iterator<Item = (&str, u64)> {
        self.currencies.iter().map(|(currency, count)| (currency.as_str(), *count))
    }

    /// The first values that are not read by the notation that is found, or reads the most.
    ///
    /// ```
    /// let mut evidence = mild_ledger::AmountEvidence::new();
    /// ["12.50", "8", "soon", "1.250,00"].iter().zip(1..).for_each(|(text, row)| evidence.note(text, row));
    /// let failed: Vec<u64> = evidence.failures().iter().map(|value| value.row).collect();
    /// assert_eq!(failed, [3, 4]);
    /// ```
    #[must_use]
    pub fn failures(&self) -> Vec<ValueMet> {
        let best = self.best().and_then(|nth| self.candidates.get(nth));
        let mut failures = best.map_or_else(FirstValues::default, |candidate| candidate.failures.clone());
        if self.unproved() > 0 {
            failures.merge(&self.lettered_values);
        }
        failures.as_slice().to_vec()
    }

    /// The most decimals of a value, by the notation that is found or reads the most.
    ///
    /// ```
    /// let mut evidence = mild_ledger::AmountEvidence::new();
    /// evidence.note("12.500", 1);
    /// evidence.note("8.25", 2);
    /// assert_eq!(evidence.decimals(), 3);
    /// ```
    #[must_use]
    pub fn decimals(&self) -> u8 {
        self.best().map_or(0, |nth| self.decimals_by(nth))
    }

    /// The most decimals of a value, by another notation; 0 by one that is not tried.
    ///
    /// ```
    /// use mild_ledger::{AmountEvidence, DecimalMark, Notation, ThousandsMark};
    /// let mut evidence = AmountEvidence::new();
    /// evidence.note("1,250", 1);
    /// assert_eq!(evidence.decimals(), 3);
    /// let thousands = Notation::with_marks(DecimalMark::Point, ThousandsMark::Comma)?;
    /// assert_eq!(evidence.decimals_of(&thousands), 0);
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn decimals_of(&self, notation: &Notation) -> u8 {
        let marks = (notation.decimal_mark(), notation.thousands_mark());
        MARKS.iter().position(|known| *known == marks).map_or(0, |nth| self.decimals_by(nth))
    }

    fn decimals_by(&self, nth: usize) -> u8 {
        let of_texts = self.candidates.get(nth).map_or(0, |candidate| candidate.most_decimals);
        of_texts.max(self.typed_decimals)
    }

    /// What the values say.
    ///
    /// ```
    /// use mild_ledger::{AmountEvidence, Notation, NotationVerdict};
    /// let mut evidence = AmountEvidence::new();
    /// ["12.50", "8", "-0.25"].iter().zip(1..).for_each(|(text, row)| evidence.note(text, row));
    /// assert_eq!(evidence.verdict(), NotationVerdict::Found(Notation::plain()));
    /// ```
    #[must_use]
    pub fn verdict(&self) -> NotationVerdict {
        let Some(best) = self.best().filter(|_| self.values > 0) else { return NotationVerdict::NoValues };
        let without_marks = self.whole + self.typed_fractions - self.unproved();
        let reads =
            |nth: usize| self.candidates.get(nth).map_or(0, |candidate| candidate.reads) + without_marks;
        if reads(best) < self.values {
            return NotationVerdict::NoneReadsAll { best: self.notation(best), reads: reads(best) };
        }
        let rival = self.differences.iter().filter_map(|((one, other), (_, example))| {
            let rival = match best {
                best if best == *one => *other,
                best if best == *other => *one,
                _ => return None,
            };
            (self.values - reads(rival) < ROWS_AGAINST).then_some((rival, example))
        });
        match rival.min_by_key(|(rival, _)| *rival) {
            None => NotationVerdict::Found(self.notation(best)),
            Some((rival, example)) => {
                // Money has no thousandths as a rule, so a reading that gives some comes last.
                let thousandths_last = |nth: usize| (self.decimals_by(nth) == 3, nth);
                let (one, other) = if thousandths_last(rival) < thousandths_last(best) {
                    (rival, best)
                } else {
                    (best, rival)
                };
                NotationVerdict::Ambiguous {
                    one: self.notation(one),
                    other: self.notation(other),
                    example: example.clone(),
                }
            }
        }
    }

    /// The simplest of the notations that read the most.
    fn best(&self) -> Option<usize> {
        (0..MARKS.len()).rev().max_by_key(|nth| self.candidates.get(*nth).map(|candidate| candidate.reads))
    }

    /// A notation with the marks of a candidate, and with what was around the values.
    fn notation(&self, nth: usize) -> Notation {
        let (decimal, thousands) = MARKS.get(nth).copied().unwrap_or_default();
        let mut notation = Notation::with_marks(decimal, thousands).unwrap_or_default();
        if self.brackets > 0 {
            notation = notation.with_negatives(NegativeForm::Brackets);
        }
        if self.trailing_minus > 0 {
            notation = notation.with_negatives(NegativeForm::TrailingMinus);
        }
        self.currencies.keys().fold(notation, |notation, currency| notation.with_sign(currency))
    }
}

/// A sum with another number added, or taken off; none where either is unknown, or it is too large.
fn added(sum: Option<Decimal>, number: Option<Decimal>, is_negative: bool) -> Option<Decimal> {
    if is_negative { sum?.checked_sub(number?) } else { sum?.checked_add(number?) }
}

/// The number by each of the marks.
fn readings_of(digits: &str) -> [Option<Decimal>; MARKS.len()] {
    let is_mark =
        |sign: char| matches!(sign, '.' | ',' | ' ' | '\'' | '\u{a0}' | '\u{202f}' | '\u{2009}' | '\u{2019}');
    let mut seen: Option<char> = None;
    for sign in digits.chars().filter(|sign| !sign.is_ascii_digit()) {
        if !is_mark(sign) {
            return [None; MARKS.len()];
        }
        if seen.is_some_and(|before| before != sign) {
            return MARKS.map(|marks| read_marked(digits, marks));
        }
        seen = Some(sign);
    }
    // With one kind of mark, it is the decimal mark to some, the thousands mark to others, and neither to the rest.
    let as_decimal = match seen {
        Some('.') => Some(DecimalMark::Point),
        Some(',') => Some(DecimalMark::Comma),
        _ => return MARKS.map(|marks| read_marked(digits, marks)),
    };
    let number = as_decimal.and_then(|decimal| read_marked(digits, (decimal, ThousandsMark::None)));
    MARKS.map(|(decimal, thousands)| match (Some(decimal) == as_decimal, decimal, thousands) {
        (true, ..) => number,
        (false, DecimalMark::Comma, ThousandsMark::Point)
        | (false, DecimalMark::Point, ThousandsMark::Comma) => read_marked(digits, (decimal, thousands)),
        _ => None,
    })
}

/// The number by some marks, with as many decimals as it is written with.
fn read_marked(digits: &str, (decimal, thousands): (DecimalMark, ThousandsMark)) -> Option<Decimal> {
    let notation = Notation::with_marks(decimal, thousands).ok()?;
    let decimals = digits.rsplit_once(decimal.sign()).map_or(0, |(_, decimals)| decimals.len());
    let scale = Scale::new(u8::try_from(decimals).ok()?).ok()?;
    notation.read_units(digits, scale).ok().map(|units| scale.amount(units))
}

#[cfg(test)]
mod tests {
    use super::{MARKS, read_marked, readings_of};
    use proptest::prelude::*;

    proptest! {
        #[test]
        fn readings_are_those_of_each_of_the_marks(digits in "[0-9]{0,4}([.,' /][0-9]{1,3}){0,3}") {
            let each = MARKS.map(|marks| read_marked(&digits, marks));
            prop_assert_eq!(readings_of(&digits), each);
        }
    }
}
