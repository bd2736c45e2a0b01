//! The names of sheets.

use crate::shown::visible;

/// The names of the sheets so far, each once, in the characters and the length that a sheet's name may have.
#[derive(Default)]
pub(super) struct Names {
    taken: Vec<String>,
}

impl Names {
    pub(super) fn of(&mut self, name: &str) -> String {
        const MOST: usize = 31;
        let shown = visible(name);
        let allowed = |sign: char| if "[]:*?/\\'".contains(sign) { ' ' } else { sign };
        let plain: String = shown.chars().map(allowed).collect();
        let plain = if plain.trim().is_empty() { "Table" } else { plain.trim() };
        let mut number = 1;
        loop {
            let behind = if number == 1 { String::new() } else { format!(" {number}") };
            let mut called = String::new();
            // A name is measured in units of UTF-16.
            for sign in plain.chars() {
                if called.encode_utf16().count() + sign.len_utf16() + behind.len() > MOST {
                    break;
                }
                called.push(sign);
            }
            let called = format!("{}{behind}", whole_words(&called, plain).trim_end());
            // A spreadsheet keeps this name for a sheet of its own.
            let is_reserved = called.to_lowercase() == "history";
            if !is_reserved && !self.taken.iter().any(|taken| taken.to_lowercase() == called.to_lowercase()) {
                self.taken.push(called.clone());
                return called;
            }
            number += 1;
        }
    }
}

/// The beginning of a text up to its last whole word, unless its first word alone is too long.
fn whole_words<'c>(beginning: &'c str, text: &str) -> &'c str {
    let rest = text.get(beginning.len()..).unwrap_or_default();
    let ends_a_word = rest.is_empty() || rest.starts_with(' ') || beginning.ends_with(' ');
    match beginning.rfind(' ') {
        Some(end) if !ends_a_word => &beginning[..end],
        _ => beginning,
    }
}

#[cfg(test)]
mod tests {
    use super::Names;

    #[test]
    fn names_of_sheets_keep_whole_words() {
        let mut names = Names::default();
        assert_eq!(names.of("What the customers of the yard owe"), "What the customers of the yard");
        assert_eq!(names.of("What the customers of the yard owe"), "What the customers of the 2");
        assert_eq!(names.of("Receivables by customer and month"), "Receivables by customer and");
        assert_eq!(names.of("Quillhavenboatyardreceivablesbycustomer"), "Quillhavenboatyardreceivablesby");
        assert_eq!(names.of("a:b"), "a b");
        assert_eq!(names.of("History"), "History 2");
    }
}
