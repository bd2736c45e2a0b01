//! Dates and numbers as their digits, put straight into bytes: the same as their `Display`, which takes several times as
//! long.

use mild_ledger::{Date, Decimal};
use std::io::Write;

/// The date in ISO 8601.
pub(super) fn put_date(bytes: &mut Vec<u8>, date: Date) {
    bytes.extend_from_slice(&date.iso_digits());
}

/// The number with all its decimals.
pub(super) fn put_number(bytes: &mut Vec<u8>, number: Decimal) {
    /// Digits of the largest number here, and a point and a sign.
    const MOST: usize = 20 + 2;
    let decimals = usize::from(number.decimals());
    let (Ok(mut rest), true) = (u64::try_from(number.units().unsigned_abs()), decimals < 19) else {
        // Numbers as long as these are rare. Writing to memory does not fail.
        let _ = write!(bytes, "{number}");
        return;
    };
    let mut text = [0; MOST];
    let mut start = MOST;
    let mut put = |byte: u8| {
        start -= 1;
        text[start] = byte;
    };
    for _ in 0..decimals {
        put(b'0' + (rest % 10) as u8);
        rest /= 10;
    }
    if decimals > 0 {
        put(b'.');
    }
    loop {
        put(b'0' + (rest % 10) as u8);
        rest /= 10;
        if rest == 0 {
            break;
        }
    }
    if number.units() < 0 {
        put(b'-');
    }
    bytes.extend_from_slice(&text[start..]);
}

#[cfg(test)]
mod tests {
    use super::{put_date, put_number};
    use mild_ledger::{Date, Decimal};
    use proptest::prelude::*;

    fn digits_of(number: Decimal) -> String {
        let mut bytes = Vec::new();
        put_number(&mut bytes, number);
        String::from_utf8(bytes).unwrap()
    }

    #[test]
    fn digits_of_the_largest_numbers_fit() {
        for units in [i128::MAX, i128::MIN, 0, 1, -1, 5, -9, 10, 99, 100, i128::from(u64::MAX), 1 << 64] {
            for decimals in [0, 1, 2, 18] {
                let number = Decimal::of_units(units, decimals).unwrap();
                assert_eq!(digits_of(number), number.to_string());
            }
        }
    }

    proptest! {
        #[test]
        fn digits_are_those_of_the_text(units in any::<i128>(), shift in 0_u32..127, decimals in 0_u8..19, day in -719_162..2_932_896) {
            let number = Decimal::of_units(units >> shift, decimals).unwrap();
            prop_assert_eq!(digits_of(number), number.to_string());
            let date = Date::from_day_number(day).unwrap();
            let mut bytes = Vec::new();
            put_date(&mut bytes, date);
            prop_assert_eq!(String::from_utf8(bytes).unwrap(), date.to_string());
        }
    }
}
