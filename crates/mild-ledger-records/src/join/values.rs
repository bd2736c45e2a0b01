//! Cells that are brought, as bytes and back.

use crate::stored_bytes::{broken, take_bytes, text_of};
use crate::table::{Data, Gap, Kind, Table, moment_array};
use arrow_array::StringArray;
use mild_ledger::column::Cell;
use mild_ledger::{Date, DateTime};
use std::io;

/// What is in a cell, by the byte that it begins with.
pub(super) mod tag {
    pub(in crate::join) const EMPTY: u8 = 0;
    pub(in crate::join) const UNREADABLE: u8 = 1;
    pub(in crate::join) const TOO_LARGE: u8 = 2;
    pub(in crate::join) const TEXT: u8 = 16;
    pub(in crate::join) const DATE: u8 = 17;
    pub(in crate::join) const MOMENT: u8 = 18;
    pub(in crate::join) const INSTANT: u8 = 19;
    pub(in crate::join) const UNITS: u8 = 20;
}

/// Puts the cells of a row after other bytes.
pub(super) fn put_cells(table: &Table, columns: &[usize], row: usize, into: &mut Vec<u8>) {
    for column in columns {
        put_cell(table, *column, row, into);
    }
}

fn put_cell(table: &Table, column: usize, row: usize, into: &mut Vec<u8>) {
    if table.is_empty(column, row) {
        into.push(tag::EMPTY + u8::from(table.is_unreadable(column, row)));
        return;
    }
    match table.columns.get(column) {
        Some(Data::Date(_)) => {
            into.push(tag::DATE);
            let date = table.date(column, row).map_or(0, Date::stored);
            into.extend_from_slice(&date.to_le_bytes());
        }
        Some(Data::Moment { .. }) => {
            let stored = |at: Option<DateTime>| at.map_or(0, DateTime::stored).to_le_bytes();
            let instant = table.instant(column, row);
            into.push(if instant.is_some() { tag::INSTANT } else { tag::MOMENT });
            into.extend_from_slice(&stored(table.date_time(column, row)));
            if instant.is_some() {
                into.extend_from_slice(&stored(instant));
            }
        }
        Some(Data::Number(_) | Data::Count(_)) => {
            into.push(tag::UNITS);
            into.extend_from_slice(&table.units(column, row).unwrap_or(0).to_le_bytes());
        }
        _ => {
            let text = table.shown(column, row);
            into.push(tag::TEXT);
            into.extend_from_slice(&u32::try_from(text.len()).unwrap_or(u32::MAX).to_le_bytes());
            into.extend_from_slice(text.as_bytes());
        }
    }
}

/// Why a cell is empty that begins with this byte.
fn gap_of(byte: u8) -> Gap {
    match byte {
        tag::EMPTY => Gap::Blank,
        tag::TOO_LARGE => Gap::NoResult,
        _ => Gap::Unreadable,
    }
}

/// A column that is brought while it is filled, row by row.
pub(super) struct BroughtColumn {
    cells: Cells,
    gaps: Vec<Option<Gap>>,
}

enum Cells {
    Texts(Vec<String>),
    Dates(Vec<Option<Date>>),
    Moments { local: Vec<Option<DateTime>>, utc: Vec<Option<DateTime>> },
    Units(Vec<Option<i128>>, u8),
}

impl BroughtColumn {
    /// Of a number of rows.
    pub(super) fn of(kind: &Kind, rows: usize) -> Self {
        let cells = match (kind, kind.decimals()) {
            (_, Some(decimals)) => Cells::Units(Vec::with_capacity(rows), decimals),
            (Kind::Date { time: None, .. }, _) => Cells::Dates(Vec::with_capacity(rows)),
            (Kind::Date { .. }, _) => {
                Cells::Moments { local: Vec::with_capacity(rows), utc: Vec::with_capacity(rows) }
            }
            _ => Cells::Texts(Vec::with_capacity(rows)),
        };
        Self { cells, gaps: Vec::with_capacity(rows) }
    }

    /// A row that nothing is brought to, and why.
    pub(super) fn push_gap(&mut self, gap: Gap) {
        match &mut self.cells {
            Cells::Texts(texts) => texts.push(String::new()),
            Cells::Dates(dates) => dates.push(None),
            Cells::Moments { local, utc } => {
                local.push(None);
                utc.push(None);
            }
            Cells::Units(units, _) => units.push(None),
        }
        self.gaps.push(Some(gap));
    }

    /// A row that nothing is added up for.
    pub(super) fn push_zero(&mut self) {
        match &mut self.cells {
            Cells::Units(units, _) => units.push(Some(0)),
            // There is no latest date.
            _ => return self.push_gap(Gap::Blank),
        }
        self.gaps.push(None);
    }

    /// The next cell of some bytes, which is a sum: a blank is nothing.
    pub(super) fn push_sum(&mut self, bytes: &mut &[u8]) -> io::Result<()> {
        self.push_part(taken_part(bytes)?);
        Ok(())
    }

    /// What a sum comes to, or why it comes to nothing: of blanks alone it is nothing.
    pub(super) fn push_part(&mut self, part: Result<Part, u8>) {
        match (part, &mut self.cells) {
            (Ok(Part::Units(sum)), Cells::Units(units, _)) => units.push(Some(sum)),
            (Ok(Part::Date(date)), Cells::Dates(dates)) => dates.push(Date::of_stored(date)),
            (Err(tag::EMPTY), _) => return self.push_zero(),
            (Err(gap), _) => return self.push_gap(gap_of(gap)),
            // A column holds one or the other.
            (Ok(_), _) => return self.push_gap(Gap::Unreadable),
        }
        self.gaps.push(None);
    }

    /// The next cell of some bytes, which are left after it.
    pub(super) fn push_cell(&mut self, bytes: &mut &[u8]) -> io::Result<()> {
        let [first] = take_bytes(bytes)?;
        match (first, &mut self.cells) {
            (tag::TEXT, Cells::Texts(texts)) => {
                let length = u32::from_le_bytes(take_bytes(bytes)?) as usize;
                let (text, rest) = bytes.split_at_checked(length).ok_or_else(broken)?;
                *bytes = rest;
                texts.push(text_of(text)?.to_owned());
            }
            (tag::DATE, Cells::Dates(dates)) => {
                dates.push(Date::of_stored(i32::from_le_bytes(take_bytes(bytes)?)))
            }
            (first @ (tag::MOMENT | tag::INSTANT), Cells::Moments { local, utc }) => {
                local.push(DateTime::of_stored(i64::from_le_bytes(take_bytes(bytes)?)));
                utc.push(match first {
                    tag::INSTANT => DateTime::of_stored(i64::from_le_bytes(take_bytes(bytes)?)),
                    _ => None,
                });
            }
            (tag::UNITS, Cells::Units(units, _)) => units.push(Some(i128::from_le_bytes(take_bytes(bytes)?))),
            (empty @ (tag::EMPTY | tag::UNREADABLE | tag::TOO_LARGE), _) => {
                self.push_gap(gap_of(empty));
                return Ok(());
            }
            _ => return Err(broken()),
        }
        self.gaps.push(None);
        Ok(())
    }

    /// The column, and why its empty cells are.
    pub(super) fn finish(self) -> (Data, Vec<Option<Gap>>) {
        let data = match self.cells {
            Cells::Texts(texts) => Data::Text(StringArray::from_iter_values(texts)),
            Cells::Dates(dates) => Data::dates(dates),
            Cells::Moments { local, utc } => {
                let utc = utc.iter().any(Option::is_some).then(|| moment_array(utc));
                Data::Moment { local: moment_array(local), utc }
            }
            Cells::Units(units, decimals) => Data::numbers(units, decimals),
        };
        (data, self.gaps)
    }
}

/// When an amount is settled by the payments of a key.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) enum Settled {
    /// On this day it was reached, and nothing was open since.
    On(i32),
    NotYet,
    /// Some sum of payments is too large to hold.
    NotKnown,
}

/// Brings the sums of payments, and as their date that on which they settled our amount; none where nothing is to be settled or
/// what was paid is not known.
pub(super) fn push_settled(
    columns: &mut [BroughtColumn],
    cells: &mut &[u8],
    settled: Option<Settled>,
) -> io::Result<()> {
    let parts: Vec<Result<Part, u8>> =
        columns.iter().map(|_| taken_part(cells)).collect::<io::Result<_>>()?;
    let unknown = parts.iter().find_map(|part| part.err().filter(|gap| *gap != tag::EMPTY));
    for (column, part) in columns.iter_mut().zip(parts) {
        match (&column.cells, settled, unknown) {
            (Cells::Units(..), ..) => column.push_part(part),
            (_, _, Some(gap)) => column.push_gap(gap_of(gap)),
            (_, Some(Settled::On(day)), None) => column.push_part(Ok(Part::Date(day))),
            (_, Some(Settled::NotKnown), None) => column.push_gap(Gap::NoResult),
            (_, Some(Settled::NotYet) | None, None) => column.push_gap(Gap::Blank),
        }
    }
    Ok(())
}

/// What a cell comes to that is added to others.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) enum Part {
    Units(i128),
    /// Of dates the latest counts.
    Date(i32),
}

/// What a cell comes to that is added to others, or why it comes to nothing, by the byte of a cell that states that.
pub(super) fn part_of(table: &Table, column: usize, row: usize) -> Result<Part, u8> {
    match table.columns.get(column) {
        Some(Data::Date(_)) => table.date(column, row).map(|date| Part::Date(date.stored())),
        _ => table.units(column, row).map(Part::Units),
    }
    .ok_or_else(|| tag::EMPTY + u8::from(table.is_unreadable(column, row)))
}

/// The most units that a column of decimals holds, of 38 digits.
pub(super) const MOST: u128 = 10_u128.pow(38) - 1;

/// Puts what a cell comes to after other bytes, as a cell.
pub(super) fn put_part(part: Part, into: &mut Vec<u8>) {
    match part {
        Part::Units(units) => {
            into.push(tag::UNITS);
            into.extend_from_slice(&units.to_le_bytes());
        }
        Part::Date(date) => {
            into.push(tag::DATE);
            into.extend_from_slice(&date.to_le_bytes());
        }
    }
}

/// The cells of two rows added up, each column by itself; of dates the latest. A blank is nothing; what could not be read leaves no sum, and
/// neither does what no column of decimals holds.
pub(super) fn added(mut one: &[u8], mut other: &[u8]) -> io::Result<Vec<u8>> {
    let mut sums = Vec::with_capacity(one.len().max(other.len()));
    while !one.is_empty() || !other.is_empty() {
        let sum = match (taken_part(&mut one)?, taken_part(&mut other)?) {
            (Err(gap), Err(other)) => Err(gap.max(other)),
            (Err(tag::EMPTY), Ok(part)) | (Ok(part), Err(tag::EMPTY)) => Ok(part),
            (Err(gap), Ok(_)) | (Ok(_), Err(gap)) => Err(gap),
            (Ok(Part::Units(one)), Ok(Part::Units(other))) => {
                let sum = one.checked_add(other).filter(|sum| sum.unsigned_abs() <= MOST);
                sum.map(Part::Units).ok_or(tag::TOO_LARGE)
            }
            (Ok(Part::Date(one)), Ok(Part::Date(other))) => Ok(Part::Date(one.max(other))),
            // A column holds one or the other.
            (Ok(_), Ok(_)) => return Err(broken()),
        };
        match sum {
            Ok(part) => put_part(part, &mut sums),
            Err(gap) => sums.push(gap),
        }
    }
    Ok(sums)
}

/// What the first cell of some bytes comes to, which are left after it, or why it comes to nothing.
fn taken_part(bytes: &mut &[u8]) -> io::Result<Result<Part, u8>> {
    let [first] = take_bytes(bytes)?;
    Ok(match first {
        tag::UNITS => Ok(Part::Units(i128::from_le_bytes(take_bytes(bytes)?))),
        tag::DATE => Ok(Part::Date(i32::from_le_bytes(take_bytes(bytes)?))),
        gap @ (tag::EMPTY | tag::UNREADABLE | tag::TOO_LARGE) => Err(gap),
        _ => return Err(broken()),
    })
}

/// How many rows a sum is of, as a cell after those that are summed.
pub(super) fn put_rows(rows: u64, into: &mut Vec<u8>) {
    put_part(Part::Units(rows.into()), into);
}

/// The units of the first cell of some bytes, which are left after it: none of a blank and of a date; an error where there is no sum.
pub(super) fn taken_units(bytes: &mut &[u8]) -> io::Result<Result<Option<i128>, ()>> {
    taken_part(bytes).map(units_of)
}

/// The units of what a cell comes to: none of a blank and of a date; an error where there is no sum.
pub(super) fn units_of(part: Result<Part, u8>) -> Result<Option<i128>, ()> {
    match part {
        Ok(Part::Units(units)) => Ok(Some(units)),
        Ok(Part::Date(_)) | Err(tag::EMPTY) => Ok(None),
        Err(_) => Err(()),
    }
}

#[cfg(test)]
mod tests {
    use super::{added, tag};

    fn cell(units: i128) -> Vec<u8> {
        [&[tag::UNITS][..], &units.to_le_bytes()].concat()
    }

    #[test]
    fn cells_are_added_each_by_itself() {
        let blank = vec![tag::EMPTY];
        let two = |one: &[u8], other: &[u8]| [one, other].concat();
        assert_eq!(
            added(&two(&cell(5), &blank), &two(&cell(-7), &cell(3))).unwrap(),
            two(&cell(-2), &cell(3))
        );
        assert_eq!(added(&blank, &blank).unwrap(), blank);
        assert!(added(&cell(5), &[]).is_err(), "cells that are not there are not zeros");
        assert!(added(&cell(5)[..9], &cell(5)).is_err());
        // What could not be read leaves no sum, whatever else there is; and so does what is too large to be held.
        assert_eq!(added(&[tag::UNREADABLE], &cell(3)).unwrap(), [tag::UNREADABLE]);
        assert_eq!(added(&cell(3), &[tag::UNREADABLE]).unwrap(), [tag::UNREADABLE]);
        let most = 10_i128.pow(38) - 1;
        assert_eq!(added(&cell(most), &cell(1)).unwrap(), [tag::TOO_LARGE]);
        assert_eq!(added(&[tag::TOO_LARGE], &cell(-1)).unwrap(), [tag::TOO_LARGE]);
        assert_eq!(added(&cell(most), &cell(-1)).unwrap(), cell(most - 1));
        assert_eq!(added(&cell(i128::MAX), &cell(i128::MAX)).unwrap(), [tag::TOO_LARGE]);
    }
}
