//! A batch of rows as typed columns, what the columns mean, and what was wrong with single rows and cells.

mod batch;
mod data;
mod exceptions;
mod kind;
mod layout;
mod texts;

pub(crate) use batch::{Batch, BrokenRow, RowFault};
pub(crate) use data::{ClockColumn, Data, Gap, NumberColumn, Table};
pub(crate) use exceptions::{Became, Exception, ExceptionSubject, Reason};
pub(crate) use kind::{BandKind, Column, DateKind, Figure, FigureOf, Kind, Missing, TimeKept};
pub(crate) use layout::Layout;
pub(crate) use texts::TextColumn;
