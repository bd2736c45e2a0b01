//! Lines, each an object or blank.

/// Whether a line has nothing to show, so that it is not a row.
pub(super) fn is_blank(line: &[u8]) -> bool {
    line.iter().all(u8::is_ascii_whitespace)
}

/// A line without its end.
pub(super) fn without_end(line: &[u8]) -> &[u8] {
    let end = line.iter().rposition(|byte| !matches!(byte, b'\r' | b'\n')).map_or(0, |last| last + 1);
    &line[..end]
}
