//! The calendars that ship.

use super::{Block, Cell, Document, Narrowing, Table};
use mild_ledger_calendars::{Region, Shipped};

/// The fewest characters that titles are cut to.
const SHORTEST_TITLE: usize = 14;

/// Calendars that ship, by region, with the years that each covers.
pub(crate) fn shipped_calendars(listed: &[&Shipped]) -> Document {
    let mut table = Table::new(["calendar", "covers", "by rule", "whose days"], 0..4)
        .narrowed_by([Narrowing::CutTexts(3, SHORTEST_TITLE)]);
    for region in Region::ALL {
        let of_region: Vec<&&Shipped> = listed.iter().filter(|shipped| shipped.region() == region).collect();
        if of_region.is_empty() {
            continue;
        }
        if !table.rows.is_empty() {
            table.line();
        }
        let head = [region.word(), "", "", ""];
        table.row(head.map(|text| Cell::from(text.to_owned())));
        for shipped in of_region {
            let years = shipped.covers();
            table.row([
                shipped.name().to_owned(),
                format!("{} to {}", years.first(), years.last()),
                shipped.by_rule().map_or_else(String::new, |years| format!("{} on", years.first())),
                shipped.title().to_owned(),
            ]);
        }
    }
    let mut out = Document::default();
    out.push(Block::Table(table));
    out.end_part();
    if listed.iter().any(|shipped| shipped.by_rule().is_some()) {
        out.paragraph("by rule: from that year on the days follow from the law and are not yet proclaimed.");
    }
    out.paragraph(
        "Rest days are Saturday and Sunday; --rest-days names others. Outside its years a calendar answers nothing.",
    );
    out.paragraph(
        "mild calendar NAME --sources shows its law and notes; --find WORD lists calendars by a word.",
    );
    out.paragraph(
        "Holidays of your own: a calendar file (.toml), or a list of dates (.csv, .txt) with --covers.",
    );
    out
}
