//! Words that call a row a total.

/// Whether a cell calls its row a total, in words of some languages. A customer may have such a name, so it proves nothing.
pub(crate) fn says_total(text: &str) -> bool {
    const WORDS: [&str; 13] = [
        "total",
        "totals",
        "grand total",
        "sum",
        "subtotal",
        "sub-total",
        "sub total",
        "summe",
        "gesamt",
        "somme",
        "totale",
        "totaal",
        "suma",
    ];
    const LONGEST: usize = 60;
    let text = text.trim().trim_end_matches(':').trim_end();
    if text.is_empty() || text.len() > LONGEST {
        return false;
    }
    let text = text.to_lowercase();
    WORDS.contains(&text.as_str()) || text.starts_with("total ") || text.ends_with(" total")
}

#[cfg(test)]
mod tests {
    use super::says_total;

    #[test]
    fn totals_are_called_so_in_whole_words() {
        for text in ["Total", " TOTAL: ", "Grand total", "Total of March", "Heron Charters Total", "Summe"] {
            assert!(says_total(text), "{text}");
        }
        for text in ["", "Totally Afloat", "Totalis", "12.50", "Summer"] {
            assert!(!says_total(text), "{text}");
        }
    }
}
