//! Columns that the format types as numbers and that the plan does not name: they hold what the plan uses them as.

use super::binder::Binder;
use super::typed_numbers::NumberUse;
use crate::table::{Kind, Missing, TypedDigits, WrittenNumbers};
use mild_ledger::{Notation, Scale};

impl Binder<'_> {
    /// Takes a column as numbers, where the format types it so and the plan says nothing of it.
    pub(crate) fn take_as(&mut self, column: usize, wanted: NumberUse) {
        let Some(found) = self.columns.get(column) else { return };
        let known = self.typed_numbers.uses.get(&found.name).copied();
        if found.typed.is_none() || known >= Some(wanted) {
            return;
        }
        self.typed_numbers.uses.insert(found.name.clone(), wanted);
        self.typed_numbers.is_more_known = true;
        self.set_typed_kind(column, wanted);
    }

    /// Takes columns as numbers that were found to be used so before.
    pub(super) fn take_as_known(&mut self) {
        for column in 0..self.columns.len() {
            let known = self.columns.get(column).and_then(|found| self.typed_numbers.uses.get(&found.name));
            if let Some(known) = known.copied() {
                self.set_typed_kind(column, known);
            }
        }
    }

    /// Columns that nothing goes by are written as the numbers that they are, where each is sure to be read as one; how all that were
    /// typed are written.
    pub(crate) fn finish_typed(&mut self, written: &mut [Option<WrittenNumbers>]) {
        for column in 0..self.columns.len() {
            let typed = self.columns.get(column).and_then(|found| found.typed);
            let is_gone_by = self.typed_numbers.gone_by.contains(&column);
            if is_gone_by || !typed.is_some_and(TypedDigits::are_always_read) {
                continue;
            }
            match column < self.columns_of_file {
                true => self.set_typed_kind(column, NumberUse::Figures),
                // The second file has to be read so.
                false => self.take_as(column, NumberUse::Figures),
            }
        }
        for (column, written) in written.iter_mut().enumerate() {
            let Some(typed) = self.columns.get(column).and_then(|found| found.typed) else {
                continue;
            };
            let missing = match self.kind(column) {
                Kind::Amount { .. } => Missing::SetsRowAside,
                Kind::Number { .. } => Missing::LeavesCellEmpty,
                _ => continue,
            };
            if let Ok(scale) = Scale::new(typed.decimals) {
                let notation = Notation::default();
                *written = Some(WrittenNumbers { scale, notation, blanks: Vec::new(), missing });
            }
        }
    }

    fn set_typed_kind(&mut self, column: usize, wanted: NumberUse) {
        let is_of_file = column < self.columns_of_file;
        let Some(found) = self.columns.get_mut(column) else { return };
        let Some(TypedDigits { decimals, .. }) = found.typed else { return };
        found.kind = match (wanted, Scale::new(decimals)) {
            (NumberUse::Amounts, Ok(scale)) if is_of_file => Kind::Amount { scale },
            _ => Kind::Number { decimals, figure: None },
        };
    }
}
