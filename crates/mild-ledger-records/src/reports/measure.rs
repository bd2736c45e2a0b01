//! Measures: figures by name, each besides what it is worked out from.

use super::{ReportCell, ReportRows, ReportTable, TableRank};
use mild_ledger::{Decimal, Error, ErrorKind, Quotient, Rounding};

/// A measure by its name, with the figures that it is worked out from.
pub(super) struct Measure {
    name: &'static str,
    pub(super) figure: ReportCell,
    unit: String,
    from: String,
}

impl Measure {
    /// A measure with a number of decimals, or without a figure, and the reason for that.
    pub(super) fn of(
        name: &'static str,
        unit: &str,
        (figure, decimals): (Result<Quotient, Error>, u8),
        why_not: &'static str,
        from: String,
    ) -> Self {
        let shown = figure.and_then(|figure| figure.to_decimal(decimals, Rounding::Nearest));
        let figure = shown.map_or(ReportCell::Missing(why_not.into()), ReportCell::Decimal);
        Self { name, figure, unit: unit.to_owned(), from }
    }

    /// The table of some measures.
    pub(super) fn table(title: &str, rank: TableRank, shows: String, measures: Vec<Self>) -> ReportTable {
        let text = |text: &str| ReportCell::Text(text.to_owned());
        let row = |it: Self| vec![text(it.name), it.figure, text(&it.unit), text(&it.from)];
        ReportTable {
            title: title.to_owned(),
            rank,
            shows: Some(shows),
            columns: ["Measure", "Figure", "Unit", "Worked out as"].map(str::to_owned).into(),
            names: 1,
            rows: ReportRows::from_iter(measures.into_iter().map(row)),
            ..ReportTable::default()
        }
    }
}

/// A part as so many of a hundred.
pub(super) fn per_cent(part: Quotient) -> Result<Quotient, Error> {
    let hundred = Quotient::from(Decimal::from(100));
    let too_large = || Error::new(ErrorKind::OutOfRange, "the figures are too large", "at most 38 digits");
    part.checked_mul(hundred).ok_or_else(too_large)
}
