//! Whether a query states the order of its rows.

/// Whether `ORDER BY` occurs in a query outside its comments, texts and quoted names.
pub(super) fn states_order(query: &str) -> bool {
    let words: Vec<String> = code_of(query).split_whitespace().map(str::to_ascii_lowercase).collect();
    words.windows(2).any(|pair| matches!(pair, [order, by] if order == "order" && by == "by"))
}

/// A query with its comments, texts and quoted names replaced by spaces, and its parentheses set apart.
fn code_of(query: &str) -> String {
    let mut code = String::with_capacity(query.len());
    let mut rest = query;
    while let Some(first) = rest.chars().next() {
        let end = match first {
            '-' if rest.starts_with("--") => rest.find('\n'),
            '/' if rest.starts_with("/*") => rest.find("*/").map(|at| at + 2),
            '\'' | '"' | '`' => rest.get(1..).and_then(|behind| behind.find(first)).map(|at| at + 2),
            '(' | ')' | ',' | ';' => {
                code.extend([' ', first, ' ']);
                Some(1)
            }
            other => {
                code.push(other);
                Some(other.len_utf8())
            }
        };
        if "-/'\"`".contains(first) && end != Some(1) {
            code.push(' ');
        }
        rest = rest.get(end.unwrap_or(rest.len())..).unwrap_or_default();
    }
    code
}

#[cfg(test)]
mod tests {
    use super::states_order;

    #[test]
    fn an_order_is_one_of_the_query_itself() {
        for query in [
            "SELECT * FROM t ORDER BY a",
            "select a - b / c from t order\n  by(a)",
            "SELECT '--' FROM t ORDER BY 1",
            "SELECT 'it''s' FROM t /* all */ ORDER BY \"a\"",
        ] {
            assert!(states_order(query), "{query}");
        }
        for query in [
            "SELECT * FROM t -- ORDER BY a",
            "SELECT * FROM t /* ORDER BY a */",
            "SELECT 'ORDER BY' FROM t",
            "SELECT \"order by\" FROM t",
            "SELECT order_by FROM t",
            "SELECT * FROM t /* ORDER BY",
        ] {
            assert!(!states_order(query), "{query}");
        }
    }
}
