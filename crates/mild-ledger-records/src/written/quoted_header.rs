//! Headers with a dot, which TOML takes for a path unless they are in quotes.

use crate::mistakes::{At, Walk};
use toml::de::DeTable;

/// Whether a header with a dot that was not quoted reads as a table in a table; that is reported.
pub(super) fn is_unquoted_dot(
    walk: &mut Walk,
    column: &At<String>,
    table: &DeTable<'_>,
    known: &[&str],
) -> bool {
    let Some(inner) = table.keys().next() else { return false };
    let word: &str = inner.get_ref();
    let is_path = table.len() == 1 && !known.contains(&word) && inner.span().start == column.span.end + 1;
    if is_path {
        let help = format!("a header with a dot wants quotes: \"{}.{word}\" = …", column.value);
        walk.mistakes.tell_with_help(
            column.span.start..inner.span().end,
            "the dot makes two keys of this header",
            "a header in quotes",
            Some(help),
        );
    }
    is_path
}
