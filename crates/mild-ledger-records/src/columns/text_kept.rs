//! The texts of a column of the file as they were read, next to the dates or numbers that they are.

use super::Step;
use super::binder::Binder;
use super::rows::Rows;
use crate::table::{Data, Kind};
use crate::written::WrittenColumns;
use mild_ledger::Error;

struct TextStep {
    column: usize,
}

impl Step for TextStep {
    fn inputs(&self) -> Vec<usize> {
        vec![self.column]
    }

    fn work_out(&self, rows: &mut Rows<'_>) -> Result<Data, Error> {
        let texts = rows.batch.texts(self.column).cloned();
        Ok(Data::Text(texts.unwrap_or_else(|| vec![""; rows.count()].into())))
    }
}

impl Binder<'_> {
    /// The column that is written for one of the file: its text where the plan keeps that, and the column itself otherwise.
    pub(crate) fn written_for(&mut self, column: usize, said: &WrittenColumns) -> usize {
        let Some(found) = self.columns.get(column).filter(|_| column < self.columns_of_file) else {
            return column;
        };
        if !said.keeps_text(&found.name) {
            return column;
        }
        let name = found.name.clone();
        self.hidden_steps.push(Box::new(TextStep { column }));
        self.add_unnamed(name, Kind::Text)
    }
}
