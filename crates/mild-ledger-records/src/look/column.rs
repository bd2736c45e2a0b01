//! What is noted of a column while its values go by.

use super::distinct::{Texts, ToSort};
use crate::table::CellType;
use mild_ledger::{AmountEvidence, DateEvidence, is_currency_code};

/// Values of a column that are kept as examples.
const EXAMPLES: usize = 3;

/// One column, as far as the values say that went by.
#[derive(Debug)]
pub(super) struct ColumnNotes {
    pub(super) dates: DateEvidence,
    /// Of the cells that the file itself types as dates: a run reads them whatever pattern the texts have.
    pub(super) typed_dates: DateEvidence,
    pub(super) numbers: AmountEvidence,
    pub(super) texts: Texts,
    pub(super) blanks: u64,
    /// Values that are codes of currencies.
    pub(super) currency_codes: u64,
    /// The first different values, each with its row.
    pub(super) examples: Vec<(u64, String)>,
}

impl ColumnNotes {
    /// Of a column without values yet, which shares the patterns of this evidence.
    pub(super) fn new(none: &DateEvidence) -> Self {
        Self {
            dates: none.clone(),
            typed_dates: none.clone(),
            numbers: AmountEvidence::new(),
            texts: Texts::default(),
            blanks: 0,
            currency_codes: 0,
            examples: Vec::new(),
        }
    }

    /// Takes note of the value of a row.
    pub(super) fn note(
        &mut self,
        (column, most): (usize, usize),
        (text, holds): (&str, CellType),
        row: u64,
        to_sort: &mut ToSort,
    ) {
        let text = text.trim();
        if text.is_empty() {
            self.blanks += 1;
            return;
        }
        match holds {
            CellType::Date => self.typed_dates.note(text, row),
            _ => self.dates.note(text, row),
        }
        match holds {
            CellType::Number => self.numbers.note_typed(text, row),
            _ => self.numbers.note(text, row),
        }
        self.currency_codes += u64::from(is_currency_code(text));
        self.texts.note(column, text, row, most, to_sort);
        if self.examples.len() < EXAMPLES {
            self.add_example(row, text);
        }
    }

    fn add_example(&mut self, row: u64, text: &str) {
        const SHOWN: usize = 60;
        let end = text.char_indices().nth(SHOWN).map_or(text.len(), |(end, _)| end);
        let shown = text.get(..end).unwrap_or_default();
        if self.examples.iter().all(|(_, before)| before != shown) {
            self.examples.push((row, shown.to_owned()));
        }
    }

    /// Takes over what was noted of other rows of the same column.
    pub(super) fn merge(&mut self, other: Self, column: usize, most: usize, to_sort: &mut ToSort) {
        self.dates.merge(&other.dates);
        self.typed_dates.merge(&other.typed_dates);
        self.numbers.merge(&other.numbers);
        self.texts.merge(other.texts, column, most, to_sort);
        self.blanks += other.blanks;
        self.currency_codes += other.currency_codes;
        let mut examples = std::mem::take(&mut self.examples);
        examples.extend(other.examples);
        examples.sort();
        examples.iter().for_each(|(row, text)| self.add_example(*row, text));
        self.examples.truncate(EXAMPLES);
    }
}
