//! Decimals as the binary numbers (IEEE 754, 64 bits) that some formats have in their place.

use mild_ledger::Decimal;

/// Digits that a binary number keeps, whatever they are.
const MOST_DIGITS: usize = 15;

/// The binary number nearest to a decimal, from whose digits the decimal can be made again; nothing for one of too many digits.
pub(super) fn binary_of(number: Decimal) -> Option<f64> {
    if digits_of(number) > MOST_DIGITS {
        return None;
    }
    // Both are exact in binary, so that their quotient is the nearest there is.
    let units = number.units() as f64;
    Some(units / 10_f64.powi(i32::from(number.decimals())))
}

/// Digits of a decimal from the first that is not zero, zeros at its end among them.
pub(super) fn digits_of(number: Decimal) -> usize {
    number.units().unsigned_abs().checked_ilog10().map_or(0, |digits| digits as usize + 1)
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    #[test]
    fn numbers_of_fifteen_digits_are_kept_and_no_longer_ones() {
        let binary = |text: &str| binary_of(text.parse().unwrap());
        assert_eq!(binary("-10.50"), Some(-10.5));
        assert_eq!(binary("0.00"), Some(0.0));
        assert_eq!(binary("999999999999999"), Some(999_999_999_999_999.0));
        assert_eq!(binary("1000000000000000"), None);
        assert_eq!(binary("9999999999999.999"), None);
    }

    proptest! {
        #[test]
        fn the_binary_number_is_the_one_that_its_text_is_read_as(
            units in -999_999_999_999_999_i128..=999_999_999_999_999, decimals in 0_u8..=18,
        ) {
            let number = Decimal::of_units(units, decimals).unwrap();
            prop_assert_eq!(binary_of(number), number.to_string().parse().ok());
        }
    }
}
