//! Spreading a total: the shares sum to it, and none is further from its part than rounding takes it.

#![allow(clippy::unwrap_used, clippy::expect_used)] // a test fails by panicking

use mild_ledger::{Decimal, ErrorKind, Rounding, rate_a_day, spread};
use proptest::prelude::*;

proptest! {
    #[test]
    fn shares_sum_to_the_total(
        units in -1_000_000_000_000..1_000_000_000_000_i128, weights in prop::collection::vec(0..40_u32, 1..40), decimals in 0..6_u8,
    ) {
        let total = Decimal::of_units(units, decimals).unwrap();
        let sum: i128 = weights.iter().map(|weight| i128::from(*weight)).sum();
        let shares = spread(total, &weights, decimals);
        if sum == 0 {
            prop_assert_eq!(shares.unwrap_err().kind(), ErrorKind::OutOfRange);
            return Ok(());
        }
        let shares = shares.unwrap();
        prop_assert_eq!(shares.iter().map(|share| share.units()).sum::<i128>(), units);
        for (share, weight) in shares.iter().zip(&weights) {
            // |share − total · weight ÷ sum| is at most one unit of the last decimal.
            let apart = (share.units() * sum - units * i128::from(*weight)).abs();
            prop_assert!(apart <= sum, "{share} of {total}");
            prop_assert!(*weight > 0 || share.units() == 0);
        }
    }

    #[test]
    fn a_rate_rounded_up_never_falls_short(units in 0..1_000_000_000_i128, days in 1..400_u32) {
        let total = Decimal::of_units(units, 2).unwrap();
        let (rate, over) = rate_a_day(total, days, 2, Rounding::Up).unwrap();
        prop_assert_eq!(rate.units() * i128::from(days) - units, over.units());
        prop_assert!((0..i128::from(days)).contains(&over.units()));
    }
}

#[test]
fn what_cannot_be_spread_is_refused() {
    let cents = Decimal::of_units(12_345, 2).unwrap();
    assert!(spread(cents, &[1, 2], 1).is_err());
    assert_eq!(spread(Decimal::of_units(12_300, 2).unwrap(), &[1], 0).unwrap()[0].to_string(), "123");
    assert!(spread(Decimal::of_units(i128::MAX, 0).unwrap(), &[1, 2], 0).is_err());
    assert!(rate_a_day(cents, 0, 2, Rounding::Up).is_err());
}
