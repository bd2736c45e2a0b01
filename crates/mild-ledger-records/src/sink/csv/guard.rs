//! Texts that a spreadsheet would run as a formula.

/// Whether a spreadsheet would take a text for a formula: its first character, perhaps after spaces, is `=`, `+`,
/// `-`, `@` or the full-width form of one, or it begins with a tab or a carriage return. Plain numbers are
/// none.
pub(super) fn is_formula(text: &str) -> bool {
    match text.as_bytes().first() {
        // What most texts begin with.
        None | Some(b'0'..=b'9' | b'A'..=b'Z' | b'a'..=b'z') => return false,
        Some(b'\t' | b'\r') => return true,
        _ => {}
    }
    let start =
        text.trim_start_matches(|sign: char| sign.is_whitespace() || sign.is_control() || sign == '\u{feff}');
    start.starts_with(['=', '+', '-', '@', '＝', '＋', '－', '＠']) && !is_plain_number(text.trim())
}

fn is_plain_number(text: &str) -> bool {
    let unsigned = text.strip_prefix(['+', '-']).unwrap_or(text);
    let (mantissa, exponent) = match unsigned.split_once(['e', 'E']) {
        Some((mantissa, exponent)) => (mantissa, Some(exponent.strip_prefix(['+', '-']).unwrap_or(exponent))),
        None => (unsigned, None),
    };
    let (whole, decimals) = mantissa.split_once('.').unwrap_or((mantissa, ""));
    let digits = |part: &str| part.bytes().all(|byte| byte.is_ascii_digit());
    digits(whole)
        && digits(decimals)
        && !(whole.is_empty() && decimals.is_empty())
        && exponent.is_none_or(|exponent| !exponent.is_empty() && digits(exponent))
}

#[cfg(test)]
mod tests {
    use super::is_formula;

    #[test]
    fn formulas_are_told_from_plain_numbers() {
        for text in [
            "=1+1",
            "+1-555-0100",
            "-",
            "-A1",
            "@SUM(A1)",
            "  =1",
            "\u{a0}=1",
            "\t=1",
            "\tplain",
            "\rplain",
            "\n=1",
            "＝1",
            "＋1",
            "－1",
            "＠x",
            "-1,5",
            "+",
            "-1e",
            "- 5",
            "\u{feff}=1",
            "--1",
            "-1=2",
        ] {
            assert!(is_formula(text), "{text:?}");
        }
        for text in
            ["", "plain", "5", "-5", "-5.25", "+7", " -5 ", "-.5", "-1e5", "-1.5E-3", "a=1", "1-2", "'=1"]
        {
            assert!(!is_formula(text), "{text:?}");
        }
    }
}
