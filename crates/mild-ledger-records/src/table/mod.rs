//! A batch of rows as typed columns, what the columns mean, and what was wrong with single rows and cells.

mod arranged;
mod batch;
mod byte_rows;
mod cell_type;
mod columns;
mod currency;
mod data;
mod dictionary;
mod exceptions;
mod gap;
mod kind;
mod layout;
mod origins;
mod packed_rows;
mod presentation;
mod records;
mod typed_digits;
mod written_numbers;

pub(crate) use arranged::{Arranged, ColumnFrom};
pub(crate) use batch::{Batch, BatchBuilder, BrokenRow, Kept, RowFault};
pub(crate) use byte_rows::ByteRows;
pub(crate) use cell_type::CellType;
pub(crate) use columns::{Bands, Data, date_array, date_slice, moment_array};
pub(crate) use currency::{MOST_CURRENCIES, called, currency_of, too_many_currencies};
pub(crate) use data::{ReplacedAmount, Table};
pub(crate) use dictionary::{Dictionary, LabelCount};
pub(crate) use exceptions::{Became, Exception, ExceptionSubject, Reason};
pub(crate) use gap::Gap;
pub(crate) use kind::{BandKind, Column, DateKind, Figure, FigureOf, Kind, Missing, TimeKept};
pub(crate) use layout::Layout;
pub(crate) use origins::{Origin, Origins, RowId};
pub(crate) use packed_rows::{TypedCell, pack, unpack};
pub use presentation::Presentation;
pub(crate) use records::{meaning, plain_schema};
pub(crate) use typed_digits::TypedDigits;
pub(crate) use written_numbers::{NumberRead, WrittenNumbers};
