//! How rows are written, as far as a plan can say it.

use crate::table::Presentation;
use mild_ledger::{DecimalMark, Notation, ThousandsMark, WritingPattern};

/// How rows are written; in text as RFC 4180 and ISO 8601 have it, where the plan says nothing.
#[derive(Debug, Clone, PartialEq, Eq)]
pub(crate) struct SinkForm {
    pub(crate) separator: u8,
    pub(crate) decimal_mark: DecimalMark,
    /// How dates are written, where not in ISO 8601.
    pub(crate) dates: Option<WritingPattern>,
    pub(crate) mark: ByteOrderMark,
    /// The table of a database that they go to, where it is named.
    pub(crate) table: Option<String>,
}

/// The table of a database that rows go to where none is named.
const TABLE: &str = "rows";

/// Whether a file of text begins with the mark of UTF-8, by which some programs know it.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default)]
pub(crate) enum ByteOrderMark {
    #[default]
    Absent,
    AtTheStart,
}

/// What a plan can say of how rows are written, and not every format has.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(crate) enum SinkPart {
    Separator,
    DecimalMark,
    Dates,
    ByteOrderMark,
    Table,
}

impl Default for SinkForm {
    fn default() -> Self {
        Self {
            separator: b',',
            decimal_mark: DecimalMark::default(),
            dates: None,
            mark: ByteOrderMark::default(),
            table: None,
        }
    }
}

impl SinkForm {
    /// What is stated of the file, each with its key.
    pub(crate) fn parts(&self) -> impl Iterator<Item = SinkPart> {
        let plain = Self::default();
        let separator = (self.separator != plain.separator).then_some(SinkPart::Separator);
        let decimal_mark = (self.decimal_mark != plain.decimal_mark).then_some(SinkPart::DecimalMark);
        let dates = self.dates.as_ref().map(|_| SinkPart::Dates);
        let mark = (self.mark != plain.mark).then_some(SinkPart::ByteOrderMark);
        let table = self.table.as_ref().map(|_| SinkPart::Table);
        [separator, decimal_mark, dates, mark, table].into_iter().flatten()
    }

    /// The table that rows go to.
    pub(crate) fn table(&self) -> &str {
        self.table.as_deref().unwrap_or(TABLE)
    }

    /// How figures are shown to people: as in the file.
    pub(crate) fn presentation(&self) -> Presentation {
        Presentation { decimal_mark: self.decimal_mark, dates: self.dates.clone() }
    }

    /// How numbers are in the file.
    pub(crate) fn notation(&self) -> Notation {
        Notation::with_marks(self.decimal_mark, ThousandsMark::default()).unwrap_or_default()
    }
}

impl SinkPart {
    /// The key of plans that says it.
    pub(crate) fn key(self) -> &'static str {
        match self {
            Self::Separator => "separator",
            Self::DecimalMark => "decimal_mark",
            Self::Dates => "dates_as",
            Self::ByteOrderMark => "byte_order_mark",
            Self::Table => "table",
        }
    }
}
