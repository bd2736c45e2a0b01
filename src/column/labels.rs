//! Labels of the periods that a column's dates lie in, and dates as text.

use super::{ColumnSlice, Values};
use crate::date::Date;
use crate::period::{FiscalYear, LabelPattern, PeriodRule};
use alloc::string::String;
use alloc::vec::Vec;
use core::fmt::Write;

/// Texts one after the other in a string of the caller's, with the end of each: what a column of texts is made of in
/// the Arrow columnar format.
///
/// ```
/// use mild_ledger::column::Texts;
/// let mut texts = Texts::default();
/// texts.push("Launch");
/// texts.push("Day");
/// assert_eq!((texts.get(0), texts.get(1), texts.get(2)), (Some("Launch"), Some("Day"), None));
/// assert_eq!((texts.text(), texts.ends()), ("LaunchDay", [6, 9].as_slice()));
/// ```
#[derive(Debug, Clone, PartialEq, Eq, Default)]
pub struct Texts {
    text: String,
    ends: Vec<usize>,
}

impl Texts {
    /// Appends a text.
    ///
    /// ```
    /// let mut texts = mild_ledger::column::Texts::default();
    /// texts.push("");
    /// assert_eq!(texts.len(), 1);
    /// ```
    pub fn push(&mut self, text: &str) {
        self.write(|room| room.push_str(text));
    }

    /// The text of a row; `None` beyond the last row.
    ///
    /// ```
    /// assert_eq!(mild_ledger::column::Texts::default().get(0), None);
    /// ```
    #[must_use]
    pub fn get(&self, row: usize) -> Option<&str> {
        let start = row.checked_sub(1).map_or(Some(0), |before| self.ends.get(before).copied())?;
        self.text.get(start..*self.ends.get(row)?)
    }

    /// The number of texts.
    ///
    /// ```
    /// assert_eq!(mild_ledger::column::Texts::default().len(), 0);
    /// ```
    #[must_use]
    pub fn len(&self) -> usize {
        self.ends.len()
    }

    /// Whether there are none.
    ///
    /// ```
    /// assert!(mild_ledger::column::Texts::default().is_empty());
    /// ```
    #[must_use]
    pub fn is_empty(&self) -> bool {
        self.ends.is_empty()
    }

    /// All of them, one after the other.
    ///
    /// ```
    /// assert_eq!(mild_ledger::column::Texts::default().text(), "");
    /// ```
    #[must_use]
    pub fn text(&self) -> &str {
        &self.text
    }

    /// Where each ends, in bytes.
    ///
    /// ```
    /// assert!(mild_ledger::column::Texts::default().ends().is_empty());
    /// ```
    #[must_use]
    pub fn ends(&self) -> &[usize] {
        &self.ends
    }

    /// Takes all of them out; the memory is used again.
    ///
    /// ```
    /// let mut texts = mild_ledger::column::Texts::default();
    /// texts.push("Yard");
    /// texts.clear();
    /// assert!(texts.is_empty());
    /// ```
    pub fn clear(&mut self) {
        self.text.clear();
        self.ends.clear();
    }

    /// Appends a text that a function writes.
    pub(super) fn write(&mut self, write: impl FnOnce(&mut String)) {
        write(&mut self.text);
        self.ends.push(self.text.len());
    }
}

/// Appends the label of the period that each date lies in, as [`Period::label`](crate::Period::label) gives it; an empty
/// text where the date is empty.
///
/// ```
/// use mild_ledger::{Date, PeriodRule, column::{Texts, period_labels_into}};
/// let mut labels = Texts::default();
/// let date: Date = "2026-09-30".parse()?;
/// period_labels_into(date, PeriodRule::Quarter, &mut labels);
/// assert_eq!(labels.get(0), Some("2026-Q3"));
/// # Ok::<(), mild_ledger::Error>(())
/// ```
pub fn period_labels_into<'c>(dates: impl Into<Values<'c, Date>>, rule: PeriodRule, out: &mut Texts) {
    let dates = dates.into();
    for row in 0..dates.rows().unwrap_or(1) {
        out.write(|text| {
            if let Some(date) = dates.get(row) {
                // Writing to memory does not fail.
                let _ = write!(text, "{}", rule.containing(date));
            }
        });
    }
}

/// Appends the label that a pattern makes of each date, as [`LabelPattern::write`] gives it; an empty text where the date
/// is empty.
///
/// ```
/// use mild_ledger::{Date, FiscalYear, column::{Texts, labels_into}};
/// let mut labels = Texts::default();
/// let date: Date = "2026-09-30".parse()?;
/// labels_into(date, &"month-name year".parse()?, FiscalYear::default(), &mut labels);
/// assert_eq!(labels.get(0), Some("September 2026"));
/// # Ok::<(), mild_ledger::Error>(())
/// ```
pub fn labels_into<'c>(
    dates: impl Into<Values<'c, Date>>,
    pattern: &LabelPattern,
    fiscal: FiscalYear,
    out: &mut Texts,
) {
    let dates = dates.into();
    for row in 0..dates.rows().unwrap_or(1) {
        out.write(|text| {
            if let Some(date) = dates.get(row) {
                pattern.write_into(date, fiscal, text);
            }
        });
    }
}

/// Appends each date in ISO 8601; an empty text where it is empty.
///
/// ```
/// use mild_ledger::{Date, column::{Column, Texts, iso_dates_into}};
/// let dates: Column<Date> = [Some("2026-09-30".parse()?), None].into_iter().collect();
/// let mut texts = Texts::default();
/// iso_dates_into(dates.as_slice(), &mut texts);
/// assert_eq!((texts.get(0), texts.get(1)), (Some("2026-09-30"), Some("")));
/// # Ok::<(), mild_ledger::Error>(())
/// ```
pub fn iso_dates_into(dates: ColumnSlice<'_, Date>, out: &mut Texts) {
    for row in 0..dates.len() {
        out.write(|text| {
            if let Some(date) = dates.get(row) {
                // Writing to memory does not fail.
                let _ = write!(text, "{date}");
            }
        });
    }
}
