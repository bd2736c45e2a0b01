//! Numbers that a format holds in binary, as texts.

/// The shortest decimal text that gives the same number again.
pub(super) fn number_text(number: f64) -> String {
    let text = number.to_string();
    if text == "-0" { "0".to_owned() } else { text }
}

/// How many decimals a number in binary is meant to have: the fewest that differ from it by no more than arithmetic in binary does. So
/// 0.30000000000000004, the sum of 0.1 and 0.2, has one; 12345678901234.56 has two.
pub(super) fn decimals_meant(text: &str) -> usize {
    /// What arithmetic changes, of a number and at the most.
    const OF_NUMBER: f64 = 1e-14;
    const AT_MOST: f64 = 1e-6;
    let written = text.split_once('.').map_or(0, |(_, decimals)| decimals.len());
    let Ok(number) = text.parse::<f64>() else { return written };
    let most = (number.abs() * OF_NUMBER).min(AT_MOST);
    let is_meant = |decimals: &usize| {
        let rounded = format!("{number:.decimals$}", decimals = *decimals).parse::<f64>();
        rounded.is_ok_and(|rounded| (rounded - number).abs() <= most)
    };
    (0..written).find(is_meant).unwrap_or(written)
}

#[cfg(test)]
mod tests {
    use super::{decimals_meant, number_text};
    use proptest::prelude::*;

    #[test]
    fn noise_is_told_from_cents() {
        for (number, decimals) in [
            (0.1 + 0.2, 1),
            (0.1 + 0.7, 1),
            (1.1 * 1.1, 2),
            (12_345_678_901_234.56, 2),
            (99_999_999_999_999.98, 2),
            (1e-12, 12),
            (46_295.5, 1),
            (7.0, 0),
        ] {
            assert_eq!(decimals_meant(&number_text(number)), decimals, "{number}");
        }
    }

    proptest! {
        #[test]
        fn texts_give_the_same_number_again(bits in any::<u64>()) {
            let number = f64::from_bits(bits);
            if number.is_finite() {
                prop_assert_eq!(number_text(number).parse::<f64>(), Ok(number));
            }
        }
    }
}
