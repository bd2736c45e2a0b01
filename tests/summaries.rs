//! Figures over several rows: spreading a total, parts of a hundred, percentiles.

#![allow(clippy::unwrap_used, clippy::expect_used)] // a test fails by panicking

use mild_ledger::{
    AllocationBasis, Date, DateRange, Decimal, ErrorKind, ExactSum, PercentilePlace, PeriodRule, Quotient,
    Rounding, TargetAmount, TargetProgress, WorkCalendar, allocate, even_edges, percentile,
    percentile_of_counted, rate_a_day, shares_of_hundred, target_by_period,
};
use proptest::prelude::*;

proptest! {
    #[test]
    fn shares_sum_to_the_total(
        units in -1_000_000_000_000..1_000_000_000_000_i128, weights in prop::collection::vec(0..40_u32, 1..40), decimals in 0..6_u8,
    ) {
        let total = Decimal::of_units(units, decimals).unwrap();
        let sum: i128 = weights.iter().map(|weight| i128::from(*weight)).sum();
        let shares = allocate(total, &weights, decimals);
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
    assert!(allocate(cents, &[1, 2], 1).is_err());
    assert_eq!(allocate(Decimal::of_units(12_300, 2).unwrap(), &[1], 0).unwrap()[0].to_string(), "123");
    assert!(allocate(Decimal::of_units(i128::MAX, 0).unwrap(), &[1, 2], 0).is_err());
    assert!(rate_a_day(cents, 0, 2, Rounding::Up).is_err());
}

proptest! {
    #[test]
    fn parts_of_a_hundred_add_up_to_it(
        units in prop::collection::vec(-1_000_000..1_000_000_i128, 0..40), decimals in 0..5_u8,
    ) {
        let parts: Vec<Decimal> = units.iter().map(|units| Decimal::of_units(*units, 2).unwrap()).collect();
        let sum: i128 = units.iter().sum();
        let shares = shares_of_hundred(&parts, decimals);
        if sum == 0 {
            prop_assert_eq!(shares.unwrap_err().kind(), ErrorKind::OutOfRange);
            return Ok(());
        }
        let hundred = 100 * 10_i128.pow(decimals.into());
        let shares = shares.unwrap();
        prop_assert_eq!(shares.iter().map(|share| share.units()).sum::<i128>(), hundred);
        for (share, units) in shares.iter().zip(&units) {
            // |share − part · 100 ÷ sum| is less than one unit of the last decimal.
            prop_assert!((share.units() * sum - units * hundred).abs() < sum.abs(), "{share}");
        }
        // Equal parts are within a unit of each other, the larger first.
        for ((one, share), (other, later)) in units.iter().zip(&shares).zip(units.iter().zip(&shares).skip(1)) {
            prop_assert!(one != other || (0..=1).contains(&(share.units() - later.units())));
        }
    }

    #[test]
    fn a_percentile_lies_between_the_closest_ranks(
        mut values in prop::collection::vec(-1_000..1_000_i64, 0..30), tenths in 0..=1_000_i64,
    ) {
        values.sort_unstable();
        let numbers: Vec<Decimal> = values.iter().map(|value| Decimal::from(*value)).collect();
        let found = percentile(&numbers, Decimal::of_units(tenths.into(), 1).unwrap()).unwrap();
        let Some(last) = values.len().checked_sub(1) else {
            prop_assert_eq!(found, None);
            return Ok(());
        };
        // In thousandths of a rank, and of the way from one value to the next.
        let place = i64::try_from(last).unwrap() * tenths;
        let (rank, beyond) = (place / 1_000, place % 1_000);
        let at = |rank: i64| values[usize::try_from(rank).unwrap()];
        let next = if beyond == 0 { rank } else { rank + 1 };
        let thousandths = at(rank) * 1_000 + (at(next) - at(rank)) * beyond;
        prop_assert_eq!(found, Quotient::of(thousandths.into(), 1_000));
        // The same from each value once, with how often it was met; some are met more than once.
        let per_cent = Decimal::of_units(tenths.into(), 1).unwrap();
        let mut counted: Vec<(Decimal, u64)> = Vec::new();
        for (nth, value) in numbers.iter().enumerate() {
            match counted.last_mut() {
                Some((known, count)) if known == value && nth % 5 != 0 => *count += 1,
                _ => counted.push((*value, 1)),
            }
        }
        prop_assert_eq!(percentile_of_counted(&counted, per_cent).unwrap(), found);
    }
}

#[test]
fn percentiles_that_are_none_are_refused_and_extremes_are_no_panic() {
    for per_cent in ["-0.1", "100.1"] {
        let error = percentile(&[Decimal::from(1)], per_cent.parse().unwrap()).unwrap_err();
        assert!(error.what().contains("there is no such percentile"), "{error}");
    }
    let place = PercentilePlace::of(u64::MAX, "99.9".parse().unwrap()).unwrap().unwrap();
    assert_eq!(place.lower(), 18_428_297_329_635_842_062);
    // Whatever can be held is; what cannot is an error.
    let widest = [i128::MIN / 4, i128::MAX / 4].map(|units| Decimal::of_units(units, 0).unwrap());
    assert!(percentile(&widest, Decimal::from(50)).is_ok());
    let twice_too_many = [(Decimal::from(1), u64::MAX), (Decimal::from(2), 1)];
    assert!(percentile_of_counted(&twice_too_many, Decimal::from(50)).is_err());
    assert_eq!(percentile_of_counted(&[(Decimal::from(1), 0)], Decimal::from(50)), Ok(None));
    assert!(shares_of_hundred(&widest, 18).is_err());
    assert!(shares_of_hundred(&[], 1).is_err());
    assert!(shares_of_hundred(&[Decimal::from(1)], 200).is_err());
}

proptest! {
    /// What falls to each month of a target, and to the days of it that are gone, against a walk over the days.
    #[test]
    fn a_target_by_month_against_a_walk_over_the_days(
        first in 20_000_i32..21_000, length in 0_i32..400, seen in -30_i32..430, units in 0_i128..10_000_000,
        by_weekdays in any::<bool>(),
    ) {
        let day = |number: i32| Date::from_day_number(number).unwrap();
        let (span, as_of) = (DateRange::new(day(first), day(first + length)).unwrap(), day(first + seen));
        let week_days = WorkCalendar::rest_days_only(mild_ledger::RestDays::default());
        let by = if by_weekdays { AllocationBasis::WorkingDays(&week_days) } else { AllocationBasis::Days };
        let counts = |date: Date| !by_weekdays || !mild_ledger::RestDays::default().contains(date.weekday());
        let mut months: std::collections::BTreeMap<(i32, u8), [i128; 2]> = std::collections::BTreeMap::new();
        for number in first..=first + length {
            let date = day(number);
            let month = months.entry((date.year(), date.month())).or_default();
            month[0] += i128::from(counts(date));
            month[1] += i128::from(counts(date) && date <= as_of);
        }
        let all: i128 = months.values().map(|days| days[0]).sum();
        let gone: i128 = months.values().map(|days| days[1]).sum();
        let target = Decimal::of_units(units, 2).unwrap();
        let found = target_by_period(TargetAmount::OfTheWhole(target), span, PeriodRule::Month, as_of, by, 2);
        if all == 0 {
            prop_assert_eq!(found.unwrap_err().kind(), ErrorKind::OutOfRange);
            return Ok(());
        }
        let found = found.unwrap();
        let days: Vec<[i128; 2]> = found.iter().map(|month| [month.days.into(), month.gone.into()]).collect();
        prop_assert_eq!(days, months.values().copied().collect::<Vec<_>>());
        let sum = |part: fn(&mild_ledger::TargetPeriod) -> Decimal| {
            found.iter().map(|month| part(month).units()).sum::<i128>()
        };
        prop_assert_eq!(sum(|month| month.target), units);
        // Rounded once, half away from zero.
        prop_assert_eq!(sum(|month| month.so_far), (2 * units * gone + all) / (2 * all));
        // Each by itself: the sum is rounded month by month.
        let targets = vec![target; found.len()];
        let each = target_by_period(TargetAmount::OfEachPeriod(&targets), span, PeriodRule::Month, as_of, by, 2);
        match months.values().find(|days| days[0] == 0) {
            Some(_) => prop_assert_eq!(each.unwrap_err().kind(), ErrorKind::OutOfRange),
            None => for (month, days) in each.unwrap().iter().zip(months.values()) {
                prop_assert_eq!(month.target, target);
                prop_assert_eq!(month.so_far.units(), (2 * units * days[1] + days[0]) / (2 * days[0]));
            },
        }
        // From the first day on the rates lead back to the sums.
        let pace = TargetProgress { target, target_so_far: Decimal::ZERO, actual: target, days: all as u32, gone: gone as u32 };
        prop_assert_eq!(pace.rate_so_far().is_ok(), gone > 0);
        if let Ok(rate) = pace.rate_so_far() {
            let back = rate.checked_mul(Quotient::of(gone, 1).unwrap()).unwrap();
            prop_assert_eq!(back, Quotient::from(target));
        }
    }
}

proptest! {
    /// The exact sum of fractions with any divisors, against sums over a common one that long numbers would have.
    #[test]
    fn sums_of_many_divisors_are_rounded_right(parts in prop::collection::vec((-500_i128..500, 1_i128..400), 1..60), values in 1_u64..50) {
        let mut sum = ExactSum::default();
        let (mut first, mut second) = (ExactSum::default(), ExactSum::default());
        for (nth, (over, of)) in parts.iter().enumerate() {
            let number = Quotient::of(*over, *of).unwrap();
            sum.add(number).unwrap();
            let half = if nth % 2 == 0 { &mut first } else { &mut second };
            half.add(number).unwrap();
        }
        // In halves, and backwards, it is the same.
        first.add_sum(&second).unwrap();
        let mut backwards = ExactSum::default();
        parts.iter().rev().for_each(|(over, of)| backwards.add(Quotient::of(*over, *of).unwrap()).unwrap());
        // Each in units of 10^-24, rounded down: together too small by at most one for each.
        let units = |over: i128, of: i128| {
            let scale = 10_i128.pow(24);
            over.div_euclid(of) * scale + over.rem_euclid(of) * scale / of
        };
        let low: i128 = parts.iter().map(|(over, of)| units(*over, *of)).sum();
        let high = low + parts.len() as i128;
        for decimals in [0, 2, 4] {
            let rounded = |units: i128| {
                let step = 10_i128.pow(24 - u32::from(decimals)) * i128::from(values);
                let up = (2 * units.abs() + step) / (2 * step);
                if units < 0 { -up } else { up }
            };
            let found = sum.over(values, decimals, Rounding::Nearest).unwrap();
            prop_assert!((rounded(low)..=rounded(high)).contains(&found.units()), "{found}");
            prop_assert_eq!(first.over(values, decimals, Rounding::Nearest).unwrap(), found);
            prop_assert_eq!(backwards.over(values, decimals, Rounding::Nearest).unwrap(), found);
        }
    }

    /// Edges are even, few, and between the ends.
    #[test]
    fn even_edges_lie_between_the_ends(from in -100_000_i64..100_000, length in 0_i64..200_000, most in 1_u32..20, decimals in 0_u8..4) {
        let number = |units: i64| Decimal::of_units(units.into(), 2).unwrap();
        let (low, high) = (number(from), number(from + length));
        let edges = even_edges(low.into(), high.into(), most, decimals).unwrap();
        prop_assert!(edges.len() <= most as usize);
        prop_assert!(edges.iter().all(|edge| *edge > low && *edge <= high && edge.decimals() <= decimals));
        for trio in edges.windows(3) {
            prop_assert_eq!(trio[1].checked_sub(trio[0]), trio[2].checked_sub(trio[1]));
        }
    }
}

#[test]
fn a_sum_that_no_quotient_holds_is_rounded_at_a_tie() {
    // Pairs that sum to nothing, and a half.
    let primes = (2..400_i128).filter(|number| (2..*number).all(|less| number % less != 0));
    let mut sum = ExactSum::default();
    for prime in primes.clone() {
        sum.add(Quotient::of(1, prime).unwrap()).unwrap();
    }
    assert_eq!(sum.quotient(), None);
    for prime in primes {
        sum.add(Quotient::of(-1, prime).unwrap()).unwrap();
    }
    sum.add(Quotient::of(1, 2).unwrap()).unwrap();
    assert_eq!(sum.quotient(), Quotient::of(1, 2));
    assert_eq!(sum.over(1, 0, Rounding::Nearest).unwrap().to_string(), "1");
    assert!(sum.over(0, 0, Rounding::Nearest).is_err());
    // Pairs that sum to one each, whose divisors together no quotient holds, and a half.
    let mut tie = ExactSum::default();
    let large = [1_000_000_007_i128, 1_000_000_009, 1_000_000_021, 1_000_000_033, 1_000_000_087];
    for prime in large {
        tie.add(Quotient::of(1, prime).unwrap()).unwrap();
        tie.add(Quotient::of(prime - 1, prime).unwrap()).unwrap();
    }
    tie.add(Quotient::of(1, 2).unwrap()).unwrap();
    assert_eq!(tie.over(1, 0, Rounding::Nearest).unwrap().to_string(), "6");
    assert_eq!(tie.over(1, 0, Rounding::Truncate).unwrap().to_string(), "5");
    // Three fractions that sum to 1, over the products of three primes two by two; no number holds the product of all.
    let (p, q, r) = (6_000_000_000_023_i128, 6_000_000_000_101_i128, 6_000_000_000_107_i128);
    let (b, c) = (36_000_000_000_778_153_846_156_299_i128, 1_846_153_846_185_i128);
    let mut one = ExactSum::default();
    for (over, of) in [(1, p * q), (b, p * r), (c, q * r)] {
        one.add(Quotient::of(over, of).unwrap()).unwrap();
    }
    assert_eq!(one.quotient(), None);
    // Half of it is rounded away from zero or cut off, and the whole is what it is.
    assert_eq!(one.over(2, 0, Rounding::Nearest).unwrap().to_string(), "1");
    assert_eq!(one.over(2, 0, Rounding::Truncate).unwrap().to_string(), "0");
    assert_eq!(one.over(1, 0, Rounding::Truncate).unwrap().to_string(), "1");
    assert_eq!(one.over(1, 2, Rounding::Nearest).unwrap().to_string(), "1.00");
}
