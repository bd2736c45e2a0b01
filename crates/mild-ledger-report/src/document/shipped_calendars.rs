//! The calendars that ship.

use super::{Block, Document, Table};

/// The calendars that ship, with the years that each covers.
pub(crate) fn shipped_calendars() -> Document {
    let mut table = Table::new(["calendar", "covers", "whose days"], 0..3);
    for shipped in mild_ledger_calendars::SHIPPED {
        let years = shipped.covers();
        let (first, last) = (years.first(), years.last());
        table.row([shipped.name().to_owned(), format!("{first} to {last}"), shipped.title().to_owned()]);
    }
    let mut out = Document::default();
    out.push(Block::Table(table));
    out.end_part();
    out.paragraph(
        "Rest days are Saturday and Sunday; --rest-days names others. Outside its years a calendar answers nothing.",
    );
    out.paragraph(
        "Holidays of your own: a calendar file (.toml), or a list of dates (.csv, .txt) with --covers.",
    );
    out
}
