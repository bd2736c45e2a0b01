//! Sums of the columns of amounts, each by currency.

use super::job::Job;
use crate::error::RecordsError;
use crate::table::{MOST_CURRENCIES, Origin, Origins, Table, too_many_currencies};
use serde::{Deserialize, Serialize};

/// A sum for each column of amounts of a job and each of its currencies; of a column without currencies one by no name.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
pub(super) struct Sums {
    columns: Vec<Vec<(String, i128)>>,
}

impl Sums {
    pub(super) fn new(columns: usize) -> Self {
        Self { columns: vec![Vec::new(); columns] }
    }

    /// Adds to the sum of a column and a currency.
    pub(super) fn add(
        &mut self,
        job: &Job,
        (nth, currency): (usize, &str),
        units: i128,
        origin: Origin,
    ) -> Result<(), RecordsError> {
        let too_large = || job.too_large(job.amounts.get(nth).copied().unwrap_or_default(), origin);
        let sum = self.sum_of(job, nth, currency)?;
        *sum = sum.checked_add(units).ok_or_else(too_large)?;
        Ok(())
    }

    /// Adds the amounts of rows of a table, whose origins are those of all its rows.
    pub(super) fn add_rows(
        &mut self,
        job: &Job,
        table: &Table,
        rows: &[usize],
        origins: &Origins,
    ) -> Result<(), RecordsError> {
        for (nth, column) in job.amounts.iter().enumerate() {
            for row in rows {
                if let Some(units) = table.units(*column, *row) {
                    let currency = job.currency_in(*column, table, *row);
                    self.add(job, (nth, &currency), units, origins.of(*row))?;
                }
            }
        }
        Ok(())
    }

    /// Takes over sums of other rows.
    pub(super) fn merge(&mut self, job: &Job, other: &Self) -> Result<(), RecordsError> {
        for (nth, sums) in other.columns.iter().enumerate() {
            for (currency, more) in sums {
                let column = job.amounts.get(nth).copied().unwrap_or_default();
                let sum = self.sum_of(job, nth, currency)?;
                let too_large = || RecordsError::too_large_in_all(job.name(column));
                *sum = sum.checked_add(*more).ok_or_else(too_large)?;
            }
        }
        Ok(())
    }

    fn sum_of(&mut self, job: &Job, nth: usize, currency: &str) -> Result<&mut i128, RecordsError> {
        let lacks = || RecordsError::Proof { what: format!("there is no column of amounts {nth}") };
        let sums = self.columns.get_mut(nth).ok_or_else(lacks)?;
        // Most columns have no currencies, and texts of nothing need not be compared.
        let is_it = |known: &str| known.is_empty() && currency.is_empty() || known == currency;
        let place = match sums.iter().position(|(known, _)| is_it(known)) {
            Some(place) => place,
            None if sums.len() >= MOST_CURRENCIES => {
                let column = job.amounts.get(nth).copied().unwrap_or_default();
                return Err(too_many_currencies(job.name(column)));
            }
            None => {
                sums.push((currency.to_owned(), 0));
                sums.len() - 1
            }
        };
        sums.get_mut(place).map(|(_, sum)| sum).ok_or_else(lacks)
    }

    /// The currencies of a column.
    pub(super) fn currencies(&self, nth: usize) -> impl Iterator<Item = &str> {
        self.columns.get(nth).into_iter().flatten().map(|(currency, _)| currency.as_str())
    }

    /// A sum; nothing of a currency that no row has.
    pub(super) fn of(&self, nth: usize, currency: &str) -> i128 {
        let mut sums = self.columns.get(nth).into_iter().flatten();
        sums.find(|(known, _)| known == currency).map_or(0, |(_, sum)| *sum)
    }
}
