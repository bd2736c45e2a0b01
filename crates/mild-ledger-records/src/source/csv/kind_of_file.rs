//! What a file is that is not CSV in UTF-8, told by how it begins.

/// What the first bytes of a file show it to be, with what to do about it; `None` for what may be text.
pub(super) fn other_kind(start: &[u8]) -> Option<(&'static str, &'static str)> {
    const AS_CSV: &str = "export the table as CSV in UTF-8, and name that file";
    const KINDS: [(&[u8], &str, &str); 6] = [
        (b"PK\x03\x04", "a workbook (.xlsx, .ods) or another archive", AS_CSV),
        (b"\xd0\xcf\x11\xe0\xa1\xb1\x1a\xe1", "a workbook of an old binary form (.xls)", AS_CSV),
        (b"SQLite format 3\0", "an SQLite database", "name it so that it ends in .sqlite or .db"),
        (b"PAR1", "a Parquet file", "name it so that it ends in .parquet"),
        (b"BZh", "compressed (bzip2)", "unpack it first"),
        (b"%PDF-", "a PDF", AS_CSV),
    ];
    let found = KINDS.into_iter().find(|(mark, ..)| start.starts_with(mark));
    found.map(|(_, kind, help)| (kind, help))
}

/// The character that seems to be between the cells of a header that is one cell under this separator, as a plan writes it, and in
/// words.
pub(super) fn other_separator(header: &[String], separator: u8) -> Option<(&'static str, &'static str)> {
    let [only] = header else { return None };
    [(",", ",", "commas"), (";", ";", "semicolons"), ("\t", "\\t", "tabs"), ("|", "|", "upright bars")]
        .into_iter()
        .find(|(sign, ..)| sign.as_bytes() != [separator] && only.contains(sign))
        .map(|(_, written, words)| (written, words))
}
