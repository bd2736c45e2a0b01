//! How the figures of a file are shown to its readers: as in the file.

use super::{Holding, Look};
use crate::table::Presentation;
use mild_ledger::{DatePattern, DecimalMark, WritingPattern};

impl Look {
    /// The decimal mark that all of these columns of amounts have, and the pattern that all of these columns of dates have. A pattern given for a column
    /// comes before the one found. Where columns differ, or their pattern cannot be written, the answer is the usual one: a point, ISO 8601.
    ///
    /// ```
    /// use mild_ledger::DecimalMark;
    /// use mild_ledger_records::{Watch, look};
    /// # use std::sync::atomic::AtomicBool;
    /// # let folder = tempfile::tempdir()?;
    /// let file = folder.path().join("rechnungen.csv");
    /// std::fs::write(&file, "Nr;Datum;Betrag\nR1;31.08.2026;1.250,00\nR2;17.09.2026;80,50\n")?;
    /// let watch = Watch { interrupted: &AtomicBool::new(false), progress: &|_| {} };
    /// let shown = look(&file, watch)?.presentation(&["Datum"], &["Betrag"], &[]);
    /// assert_eq!(shown.decimal_mark, DecimalMark::Comma);
    /// assert_eq!(shown.date("2026-11-30".parse()?), "30.11.2026");
    /// # Ok::<(), Box<dyn std::error::Error>>(())
    /// ```
    #[must_use]
    pub fn presentation(
        &self,
        dates: &[impl AsRef<str>],
        amounts: &[impl AsRef<str>],
        given: &[(String, String)],
    ) -> Presentation {
        let column = |name: &str| self.columns.iter().find(|column| column.name == name);
        let mark = |name: &str| match &column(name)?.holds {
            Holding::Amount(amounts) => Some(amounts.notation.decimal_mark()),
            _ => None,
        };
        let pattern = |name: &str| {
            if let Some((_, pattern)) = given.iter().find(|(known, _)| known == name) {
                return Some(pattern.clone());
            }
            match &column(name)?.holds {
                Holding::Date(dates) => dates.patterns.first().map(|first| first.pattern.clone()),
                _ => None,
            }
        };
        let marks = amounts.iter().filter_map(|name| mark(name.as_ref()));
        let patterns = dates.iter().filter_map(|name| pattern(name.as_ref()));
        let dates = common(patterns).and_then(|pattern| pattern.parse::<DatePattern>().ok());
        let dates = dates.filter(|pattern| pattern.to_string() != "iso");
        Presentation {
            decimal_mark: common(marks).unwrap_or(DecimalMark::default()),
            dates: dates.and_then(|pattern| WritingPattern::of(&pattern).ok()),
        }
    }
}

/// What all are; nothing where two differ.
fn common<T: PartialEq>(mut all: impl Iterator<Item = T>) -> Option<T> {
    let first = all.next()?;
    all.all(|other| other == first).then_some(first)
}
