//! The rows of a report's tables as one table of typed columns, to be written as a file.

use super::tables::{ReportTable, TableRank};
use super::{Report, ReportCell};
use crate::table::plain_schema;
use arrow_array::{
    ArrayRef, Date32Array, Decimal128Array, Int64Array, RecordBatch, StringArray, TimestampMicrosecondArray,
};
use arrow_schema::{ArrowError, DataType, SchemaRef, TimeUnit};
use mild_ledger::{Decimal, Rounding, Scale};
use std::sync::Arc;

/// How the column is called that names the currency of each row.
const CURRENCY: &str = "currency";

/// Rows without the sums that are between and below them, so that whoever takes them up counts nothing twice.
pub(crate) struct FlatTable {
    columns: Vec<String>,
    kinds: Vec<CellKind>,
    rows: Vec<Vec<ReportCell>>,
    /// The columns whose figures sum to something.
    summed: Vec<usize>,
}

/// What all cells of a column are.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
enum CellKind {
    Text,
    Count,
    Decimals(u8),
    Date,
    DateTime,
}

/// A column whose numbers sum to that.
pub(crate) struct SummedColumn {
    pub(crate) place: usize,
    pub(crate) name: String,
    pub(crate) scale: Scale,
    pub(crate) sum: Decimal,
}

impl FlatTable {
    /// The first tables of a report below each other, one a currency, with the currency of each in front where they have currencies.
    pub(crate) fn of(report: &Report) -> Self {
        let by_currency = report.tables.iter().any(|table| table.currency.is_some());
        let front = usize::from(by_currency);
        let mut out = Self { columns: Vec::new(), kinds: Vec::new(), rows: Vec::new(), summed: Vec::new() };
        if by_currency {
            out.columns.push(CURRENCY.to_owned());
        }
        for table in first_tables(report) {
            let mut own: Vec<usize> = Vec::with_capacity(table.columns.len());
            for name in &table.columns {
                own.push(out.column(name, front, &own));
            }
            for summed in table.summed.iter().filter_map(|place| own.get(*place)) {
                if !out.summed.contains(summed) {
                    out.summed.push(*summed);
                }
            }
            for row in table.rows.iter() {
                let mut cells = vec![ReportCell::Empty; out.columns.len()];
                if let (true, Some(cell)) = (by_currency, cells.first_mut()) {
                    *cell = ReportCell::Text(currency_of(table));
                }
                for (place, cell) in own.iter().zip(row) {
                    if let Some(into) = cells.get_mut(*place) {
                        *into = cell;
                    }
                }
                out.rows.push(cells);
            }
        }
        let width = out.columns.len();
        out.rows.iter_mut().for_each(|row| row.resize(width, ReportCell::Empty));
        out.kinds = (0..width).map(|column| out.kind(column)).collect();
        out
    }

    /// The place of a column that is none of those `taken`; it is added where no table before has it, under a name of its own.
    fn column(&mut self, name: &str, front: usize, taken: &[usize]) -> usize {
        let mut called = name.to_owned();
        let mut number = 1;
        loop {
            match self.columns.iter().position(|known| *known == called) {
                None => {
                    self.columns.push(called);
                    return self.columns.len() - 1;
                }
                Some(place) if place >= front && !taken.contains(&place) => return place,
                Some(_) => {
                    number += 1;
                    called = format!("{name} ({number})");
                }
            }
        }
    }

    fn kind(&self, column: usize) -> CellKind {
        let mut kind = None;
        for cell in self.rows.iter().filter_map(|row| row.get(column)) {
            let of_cell = match cell {
                ReportCell::Empty | ReportCell::Missing(_) => continue,
                ReportCell::Text(_) => CellKind::Text,
                ReportCell::Count(_) => CellKind::Count,
                ReportCell::Number(number) if number.decimals() == 0 => CellKind::Count,
                ReportCell::Decimal(number) | ReportCell::Number(number) => {
                    CellKind::Decimals(number.decimals())
                }
                ReportCell::Date(_) => CellKind::Date,
                ReportCell::DateTime(_) => CellKind::DateTime,
            };
            kind = Some(match (kind, of_cell) {
                (None, one) => one,
                (Some(one), other) if one == other => one,
                (Some(CellKind::Decimals(one)), CellKind::Decimals(other)) => {
                    CellKind::Decimals(one.max(other))
                }
                (Some(CellKind::Count), CellKind::Decimals(decimals))
                | (Some(CellKind::Decimals(decimals)), CellKind::Count) => CellKind::Decimals(decimals),
                _ => return CellKind::Text,
            });
        }
        kind.unwrap_or(CellKind::Text)
    }

    pub(crate) fn columns(&self) -> &[String] {
        &self.columns
    }

    pub(crate) fn rows(&self) -> usize {
        self.rows.len()
    }

    /// Those of the summed columns that hold numbers; `None` where a sum is too large to hold.
    pub(crate) fn sums(&self) -> Option<Vec<SummedColumn>> {
        let mut sums = Vec::new();
        for place in &self.summed {
            let decimals = match self.kinds.get(*place) {
                Some(CellKind::Decimals(decimals)) => *decimals,
                Some(CellKind::Count) => 0,
                _ => continue,
            };
            let numbers = self.rows.iter().filter_map(|row| number_of(row.get(*place)?));
            sums.push(SummedColumn {
                place: *place,
                name: self.columns.get(*place)?.clone(),
                scale: Scale::new(decimals).ok()?,
                sum: Decimal::checked_sum(numbers)?,
            });
        }
        Some(sums)
    }

    /// How its columns are stored.
    pub(crate) fn schema(&self) -> SchemaRef {
        let named = |(name, kind): (&String, &CellKind)| {
            let kind = match kind {
                CellKind::Text => DataType::Utf8,
                CellKind::Count => DataType::Int64,
                CellKind::Decimals(decimals) => DataType::Decimal128(38, decimals.cast_signed()),
                CellKind::Date => DataType::Date32,
                CellKind::DateTime => DataType::Timestamp(TimeUnit::Microsecond, None),
            };
            (name.clone(), kind)
        };
        let named: Vec<(String, DataType)> = self.columns.iter().zip(&self.kinds).map(named).collect();
        let named: Vec<(&str, DataType)> =
            named.iter().map(|(name, kind)| (name.as_str(), kind.clone())).collect();
        plain_schema(&named)
    }

    /// All of it as a record batch.
    pub(crate) fn records(&self) -> Result<RecordBatch, ArrowError> {
        let arrays = self.kinds.iter().enumerate().map(|(column, kind)| self.array(column, *kind));
        RecordBatch::try_new(self.schema(), arrays.collect::<Result<_, _>>()?)
    }

    fn array(&self, column: usize, kind: CellKind) -> Result<ArrayRef, ArrowError> {
        let cells = || self.rows.iter().map(move |row| row.get(column).unwrap_or(&ReportCell::Empty));
        Ok(match kind {
            CellKind::Text => Arc::new(StringArray::from_iter_values(cells().map(text_of))),
            CellKind::Count => Arc::new(cells().map(count_of).collect::<Int64Array>()),
            CellKind::Decimals(decimals) => {
                let units = cells().map(|cell| {
                    number_of(cell)?.with_decimals(decimals, Rounding::Nearest).ok().map(Decimal::units)
                });
                let units: Decimal128Array = units.collect();
                Arc::new(units.with_precision_and_scale(38, decimals.cast_signed())?)
            }
            CellKind::Date => Arc::new(
                cells()
                    .map(
                        |cell| if let ReportCell::Date(date) = cell { Some(date.day_number()) } else { None },
                    )
                    .collect::<Date32Array>(),
            ),
            CellKind::DateTime => Arc::new(
                cells()
                    .map(
                        |cell| {
                            if let ReportCell::DateTime(at) = cell { Some(at.microseconds()) } else { None }
                        },
                    )
                    .collect::<TimestampMicrosecondArray>(),
            ),
        })
    }
}

/// The tables whose rows are in the file of a report.
fn first_tables(report: &Report) -> impl Iterator<Item = &ReportTable> {
    report.tables.iter().filter(|table| table.rank == TableRank::First)
}

/// A table of no currency in particular is of rows that name none.
fn currency_of(table: &ReportTable) -> String {
    table.currency.clone().unwrap_or_default()
}

fn count_of(cell: &ReportCell) -> Option<i64> {
    match cell {
        ReportCell::Count(count) => Some(*count),
        ReportCell::Number(number) if number.decimals() == 0 => i64::try_from(number.units()).ok(),
        _ => None,
    }
}

fn number_of(cell: &ReportCell) -> Option<Decimal> {
    match cell {
        ReportCell::Count(count) => Some(Decimal::from(*count)),
        ReportCell::Decimal(number) | ReportCell::Number(number) => Some(*number),
        _ => None,
    }
}

/// A cell of a column that holds several kinds.
fn text_of(cell: &ReportCell) -> String {
    match cell {
        ReportCell::Text(text) => text.clone(),
        ReportCell::Count(count) => count.to_string(),
        ReportCell::Decimal(number) | ReportCell::Number(number) => number.to_string(),
        ReportCell::Date(date) => date.to_string(),
        ReportCell::DateTime(at) => at.to_string(),
        ReportCell::Empty | ReportCell::Missing(_) => String::new(),
    }
}
