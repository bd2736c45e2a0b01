//! A sum of cells that may come in any order, held as words.

use super::values::{MOST, Part, part_of, put_part, tag, units_of};
use crate::table::Table;

/// The sum of the cells of one key in a column, of dates the latest, in whatever order they come.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) struct SumOfCells {
    /// What they come to so far, or the latest date.
    units: i128,
    /// How often the sum went round the end of what it can hold, upwards or downwards: the whole is exact whatever comes first.
    rounds: i64,
    has: Has,
}

/// What the cells of a sum hold so far.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
enum Has {
    Nothing,
    Units,
    Date,
    /// One of them has no part in a sum, for the reason of this byte.
    Gap(u8),
}

impl SumOfCells {
    /// No cell so far.
    pub(super) const NONE: Self = Self { units: 0, rounds: 0, has: Has::Nothing };

    /// Words that it is held in.
    pub(super) const WORDS: usize = 4;

    /// As it is held.
    pub(super) fn words(&self) -> [u64; Self::WORDS] {
        let units = self.units as u128;
        let has = match self.has {
            Has::Nothing => 0,
            Has::Units => 1,
            Has::Date => 2,
            Has::Gap(gap) => 1 << 8 | u64::from(gap),
        };
        [units as u64, (units >> 64) as u64, self.rounds.cast_unsigned(), has]
    }

    /// The sum that is held as these words.
    pub(super) fn of_words(words: &[u64]) -> Self {
        let Some([low, high, rounds, has]) = words.first_chunk() else { return Self::NONE };
        let units = (u128::from(*high) << 64 | u128::from(*low)).cast_signed();
        let has = match has {
            0 => Has::Nothing,
            1 => Has::Units,
            2 => Has::Date,
            // The last byte tells the gap.
            gap => Has::Gap(gap.to_le_bytes()[0]),
        };
        Self { units, rounds: rounds.cast_signed(), has }
    }

    /// Adds a cell.
    pub(super) fn add(&mut self, table: &Table, column: usize, row: usize) {
        match (part_of(table, column, row), self.has) {
            (Err(tag::EMPTY), _) => {}
            (Err(gap), Has::Gap(before)) => self.has = Has::Gap(gap.max(before)),
            (Err(gap), _) => self.has = Has::Gap(gap),
            (Ok(_), Has::Gap(_)) => {}
            (Ok(Part::Units(units)), _) => {
                let (sum, has_gone_round) = self.units.overflowing_add(units);
                self.units = sum;
                self.rounds += if has_gone_round { units.signum() as i64 } else { 0 };
                self.has = Has::Units;
            }
            (Ok(Part::Date(date)), Has::Date) => self.units = self.units.max(date.into()),
            (Ok(Part::Date(date)), _) => {
                self.units = date.into();
                self.has = Has::Date;
            }
        }
    }

    /// What it comes to, or why it comes to nothing, by the byte of a cell that states that.
    pub(super) fn part(&self) -> Result<Part, u8> {
        let is_too_large = self.rounds != 0 || self.units.unsigned_abs() > MOST;
        match self.has {
            Has::Nothing => Err(tag::EMPTY),
            Has::Gap(gap) => Err(gap),
            Has::Units if is_too_large => Err(tag::TOO_LARGE),
            Has::Units => Ok(Part::Units(self.units)),
            Has::Date => Ok(Part::Date(i32::try_from(self.units).unwrap_or_default())),
        }
    }

    /// Puts it as a cell after other bytes.
    pub(super) fn put(&self, into: &mut Vec<u8>) {
        match self.part() {
            Ok(part) => put_part(part, into),
            Err(gap) => into.push(gap),
        }
    }

    /// Its units: none of a blank and of a date; an error where there is no sum.
    pub(super) fn units(&self) -> Result<Option<i128>, ()> {
        units_of(self.part())
    }
}
