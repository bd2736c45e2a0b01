//! Texts of which there are few, such as the labels of buckets, and the two of a choice.

use arrow_array::types::UInt16Type;
use arrow_array::{Array, ArrayRef, DictionaryArray, StringArray, UInt16Array};
use arrow_schema::ArrowError;
use std::sync::Arc;

/// A label, and how many rows have it.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(crate) struct LabelCount<'t> {
    pub(crate) label: &'t str,
    pub(crate) rows: u64,
    /// Whether nothing is in those rows, and the label says why.
    pub(crate) is_empty: bool,
}

/// A text for each row, by its place among those that there are.
#[derive(Debug, Clone)]
pub(crate) struct Dictionary {
    places: UInt16Array,
    texts: Arc<StringArray>,
}

impl Dictionary {
    pub(crate) fn new(places: impl IntoIterator<Item = u16>, texts: &Arc<StringArray>) -> Self {
        Self { places: UInt16Array::from_iter_values(places), texts: Arc::clone(texts) }
    }

    /// The place of a row's text among those that there are.
    pub(crate) fn place(&self, row: usize) -> Option<u16> {
        self.places.values().get(row).copied()
    }

    /// The text of a row; empty for one that there is none of.
    pub(crate) fn text(&self, row: usize) -> &str {
        match self.place(row).map(usize::from) {
            Some(place) if place < self.texts.len() => self.texts.value(place),
            _ => "",
        }
    }

    /// The texts that some of these rows have, and how many have each; `is_empty` says it of a text and its place.
    pub(crate) fn counts(&self, rows: &[usize], is_empty: impl Fn(u16, &str) -> bool) -> Vec<LabelCount<'_>> {
        let mut counts = vec![0_u64; self.texts.len()];
        for place in rows.iter().filter_map(|row| self.place(*row)) {
            counts.get_mut(usize::from(place)).into_iter().for_each(|count| *count += 1);
        }
        let counted = (0_u16..).zip(self.texts.iter().map(Option::unwrap_or_default)).zip(counts);
        let had = counted.filter(|(_, rows)| *rows > 0);
        had.map(|((place, label), rows)| LabelCount { label, rows, is_empty: is_empty(place, label) })
            .collect()
    }

    /// The same as an array of the columnar format.
    pub(crate) fn array(&self) -> Result<ArrayRef, ArrowError> {
        let texts: ArrayRef = Arc::<StringArray>::clone(&self.texts);
        Ok(Arc::new(DictionaryArray::<UInt16Type>::try_new(self.places.clone(), texts)?))
    }
}
