//! The keys of the parts of a plan that stand alone, and those that they will hold later.

use crate::mistakes::Keys;

pub(super) const TOP: Keys<'static> = Keys {
    part: "the plan",
    known: &["plan", "title", "as_of", "records", "select", "calendar", "column", "report", "output"],
    later: &["fetch", "bound", "control"],
};

pub(super) const RECORDS: Keys<'static> = Keys {
    part: "[records]",
    known: &["file", "key", "repeats", "dates", "amounts", "longest_cell"],
    later: &["numbers", "sheet"],
};

pub(super) const DATE: Keys<'static> = Keys {
    part: "a date column",
    known: &["written", "required", "time", "zone"],
    later: &["blank", "pivot", "language", "fillers"],
};

pub(super) const AMOUNT: Keys<'static> =
    Keys { part: "an amount column", known: &["decimals", "required"], later: &["currency"] };

pub(super) const OUTPUT: Keys<'static> = Keys {
    part: "[output]",
    known: &["rows", "exceptions", "columns", "order_by"],
    later: &["dates_as", "fingerprint"],
};
