//! How a file is written, as far as a plan can say it.

/// The characters of a table of text, the sheet of a workbook, and where the table begins.
#[derive(Debug, Clone, PartialEq, Eq, Default)]
pub(crate) struct FileForm {
    pub(crate) signs: Signs,
    /// The line of the header, where others come before it.
    pub(crate) header_line: Option<u64>,
    /// How its bytes represent characters, where the plan says it.
    pub(crate) encoding: Option<Encoding>,
    /// The sheet of a workbook.
    pub(crate) sheet: Option<SheetChoice>,
    /// The table of a database, or the query.
    pub(crate) table: Option<TableChoice>,
}

/// What a plan can say of how a file is written, and not every format has.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(crate) enum FormPart {
    Signs,
    Encoding,
    HeaderLine,
    Sheet,
    Table,
}

impl FormPart {
    /// The keys of plans that say it.
    pub(crate) fn keys(self) -> &'static str {
        match self {
            Self::Signs => "separator and quote",
            Self::Encoding => "encoding",
            Self::HeaderLine => "header_line",
            Self::Sheet => "sheet",
            Self::Table => "table and query",
        }
    }
}

impl FileForm {
    /// What is stated of the file.
    pub(crate) fn parts(&self) -> impl Iterator<Item = FormPart> {
        let signs = (self.signs != Signs::default()).then_some(FormPart::Signs);
        let encoding = self.encoding.map(|_| FormPart::Encoding);
        let header_line = self.header_line.map(|_| FormPart::HeaderLine);
        let sheet = self.sheet.as_ref().map(|_| FormPart::Sheet);
        let table = self.table.as_ref().map(|_| FormPart::Table);
        [signs, encoding, header_line, sheet, table].into_iter().flatten()
    }
}

/// A sheet of a workbook.
#[derive(Debug, Clone, PartialEq, Eq)]
pub(crate) enum SheetChoice {
    Named(String),
    /// Counted from 1 in the order of the workbook, hidden ones among them.
    Number(usize),
}

/// The table or query that is read from a database.
#[derive(Debug, Clone, PartialEq, Eq)]
pub(crate) enum TableChoice {
    /// A table or a view, whole.
    Named(String),
    /// What a query gives.
    Query(String),
}

/// What is between the cells of a row, and around one that holds such a character.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(crate) struct Signs {
    pub(crate) separator: u8,
    pub(crate) quote: u8,
}

/// Those of RFC 4180.
impl Default for Signs {
    fn default() -> Self {
        Self { separator: b',', quote: b'"' }
    }
}

/// How bytes represent the characters of a text.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(crate) enum Encoding {
    Utf8,
    Utf16LittleEndian,
    Utf16BigEndian,
    Windows1252,
}

impl Encoding {
    pub(crate) const ALL: [Self; 4] =
        [Self::Utf8, Self::Utf16LittleEndian, Self::Utf16BigEndian, Self::Windows1252];

    /// The word for it in plans, which is its name in the IANA's registry of character sets, in small letters.
    pub(crate) fn word(self) -> &'static str {
        match self {
            Self::Utf8 => "utf-8",
            Self::Utf16LittleEndian => "utf-16le",
            Self::Utf16BigEndian => "utf-16be",
            Self::Windows1252 => "windows-1252",
        }
    }
}
