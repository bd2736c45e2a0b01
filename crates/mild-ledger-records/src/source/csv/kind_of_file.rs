//! What a file is that is not CSV in UTF-8, told by how it begins.

/// What the first bytes of a file show it to be, with what to do about it; `None` for what may be text.
pub(super) fn other_kind(start: &[u8]) -> Option<(&'static str, &'static str)> {
    const AS_CSV: &str = "export the table as CSV in UTF-8, and name that file";
    const KINDS: [(&[u8], &str, &str); 10] = [
        (b"PK\x03\x04", "a workbook (.xlsx, .ods) or another archive", AS_CSV),
        (b"\xd0\xcf\x11\xe0\xa1\xb1\x1a\xe1", "a workbook of an old binary form (.xls)", AS_CSV),
        (b"SQLite format 3\0", "an SQLite database", AS_CSV),
        (b"PAR1", "a Parquet file", AS_CSV),
        (b"\x1f\x8b", "compressed (gzip)", "unpack it first"),
        (b"\x28\xb5\x2f\xfd", "compressed (zstd)", "unpack it first"),
        (b"BZh", "compressed (bzip2)", "unpack it first"),
        (b"%PDF-", "a PDF", AS_CSV),
        (b"\xff\xfe", "UTF-16 text", "save the file as UTF-8"),
        (b"\xfe\xff", "UTF-16 text", "save the file as UTF-8"),
    ];
    let found = KINDS.into_iter().find(|(mark, ..)| start.starts_with(mark));
    found.map(|(_, kind, help)| (kind, help)).or_else(|| {
        // Every second byte of plain words is nothing in UTF-16 without a mark.
        let odd = |from: usize| start.iter().skip(from).step_by(2).take(20).all(|byte| *byte == 0);
        (start.len() >= 8 && (odd(0) || odd(1))).then_some(("UTF-16 text", "save the file as UTF-8"))
    })
}

/// The sign that seems to stand between the cells of a header that is one cell.
pub(super) fn other_separator(header: &[String]) -> Option<(&'static str, &'static str)> {
    let [only] = header else { return None };
    [(";", "semicolons"), ("\t", "tabs"), ("|", "upright bars")]
        .into_iter()
        .find(|(sign, _)| only.contains(sign))
}
