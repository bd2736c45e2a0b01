//! Exact amounts, buckets, and the states of invoices.
#![allow(clippy::unwrap_used, clippy::expect_used)] // a test fails by panicking

use mild_ledger::{
    AgingBuckets, BucketMeasure, Date, Decimal, ErrorKind, Invoice, Quotient, Scale, SetOff, Standing,
};
use proptest::prelude::*;

fn cents() -> Scale {
    Scale::new(2).unwrap()
}

#[test]
fn amounts_are_read_exactly_or_not_at_all() {
    for (text, units) in [
        ("0", 0),
        ("-0.00", 0),
        ("1250", 125_000),
        ("1250.5", 125_050),
        ("+7.25", 725),
        ("-12.50", -1250),
        (".5", 50),
        ("5.", 500),
        ("12.340000", 1234),
        ("00000000000000000000000000000000000000000012.34", 1234),
        ("1701411834604692317316873037158841057.27", 170_141_183_460_469_231_731_687_303_715_884_105_727),
        ("-1701411834604692317316873037158841057.28", i128::MIN),
    ] {
        assert_eq!(cents().read(text).map(|amount| amount.units()), Ok(units), "{text}");
    }
    for (text, said) in [
        ("", "there is no amount"),
        ("-", "there is no amount"),
        (".", "there is no amount"),
        ("12.345", "\"12.345\" is too fine an amount"),
        ("0000000000000000000012.345", "is too fine an amount"),
        ("1,250.00", "it holds ','"),
        ("€12", "it holds '€'"),
        ("12 ", "it holds a space"),
        ("1.2.3", "it holds a second point"),
        ("1e3", "it holds 'e'"),
        ("twelve", "it holds 't'"),
        ("--5", "it holds '-'"),
        ("1701411834604692317316873037158841057.28", "is too large an amount"),
    ] {
        let error = cents().read(text).unwrap_err();
        assert!(error.what().contains(said), "{text}: {error}");
    }
}

#[test]
fn amounts_are_written_with_all_their_decimals() {
    let written = |units| cents().amount(units).to_string();
    assert_eq!(
        [written(0), written(5), written(-5), written(-123_456)],
        ["0.00", "0.05", "-0.05", "-1234.56"]
    );
    assert_eq!(written(i128::MIN), "-1701411834604692317316873037158841057.28");
    assert_eq!(Scale::new(0).unwrap().amount(-7).to_string(), "-7");
    assert_eq!(format!("{:.0}", cents().amount(1250)), "13");
    assert_eq!(format!("{:.0}", cents().amount(-1249)), "-12");
    assert_eq!(format!("{:.0}", cents().amount(-49)), "0");
    assert_eq!(format!("{:>8}", cents().amount(1250)), "   12.50");
}

#[test]
fn sums_refuse_what_they_cannot_hold() {
    let three = Scale::new(3).unwrap();
    assert_eq!(cents().amount(1).checked_add(three.amount(1)), Some(three.amount(11)));
    assert_eq!(cents().amount(i128::MIN).checked_add(cents().amount(-1)), None);
    assert_eq!(
        format!("{:+.1}|{:<7}|{:07}", cents().amount(125), cents().amount(5), cents().amount(-5)),
        "+1.3|0.05   |-000.05"
    );
}

#[test]
fn buckets_have_their_edges_inside() {
    let buckets = AgingBuckets::from_upper_edges(&[0, 30, 60, 90], BucketMeasure::DaysOverdue).unwrap();
    for (days, label) in [
        (i64::MIN, "Not yet due"),
        (0, "Not yet due"),
        (1, "1–30"),
        (30, "1–30"),
        (31, "31–60"),
        (60, "31–60"),
        (61, "61–90"),
        (90, "61–90"),
        (91, "Over 90"),
        (i64::MAX, "Over 90"),
    ] {
        assert_eq!(buckets.label(buckets.bucket_of(days)), Some(label), "{days}");
    }
    let labels =
        |edges: &[i64], measure| AgingBuckets::from_upper_edges(edges, measure).unwrap().labels().to_vec();
    assert_eq!(labels(&[30, 31], BucketMeasure::DaysOverdue), ["Up to 30", "31", "Over 31"]);
    assert_eq!(
        labels(&[-10, -5, 0], BucketMeasure::WholeNumber),
        ["Up to -10", "-9 to -5", "-4 to 0", "Over 0"]
    );
    assert_eq!(labels(&[i64::MIN, i64::MAX], BucketMeasure::WholeNumber).len(), 3);
}

#[test]
fn what_lies_below_the_lowest_edge_is_set_apart() {
    let upper = |edges: &[i64], measure| AgingBuckets::from_upper_edges(edges, measure).unwrap();
    let labels = |buckets: AgingBuckets, lowest: i32| {
        buckets.with_lowest(lowest.into()).map(|buckets| buckets.labels().to_vec()).unwrap_or_default()
    };
    assert_eq!(
        labels(upper(&[0, 30], BucketMeasure::DaysOverdue), -60),
        ["Under -60", "Not yet due", "1–30", "Over 30"]
    );
    assert_eq!(
        labels(upper(&[0, 30], BucketMeasure::DaysOverdue), 0),
        ["In the future", "Not yet due", "1–30", "Over 30"]
    );
    assert_eq!(labels(upper(&[30], BucketMeasure::WholeNumber), 30), ["Under 30", "30", "Over 30"]);
    assert_eq!(labels(upper(&[30], BucketMeasure::WholeNumber), -7), ["Under -7", "-7 to 30", "Over 30"]);
    assert_eq!(labels(upper(&[1], BucketMeasure::Fractional), 0), ["Under 0", "0 to 1", "Over 1"]);
    // No room: the first bucket would be empty for good.
    assert!(labels(upper(&[1], BucketMeasure::Fractional), 1).is_empty());
    assert!(labels(upper(&[30], BucketMeasure::WholeNumber), 31).is_empty());
    assert!(labels(AgingBuckets::from_lower_edges(&[1]).unwrap(), 1).is_empty());
    let once = upper(&[30], BucketMeasure::WholeNumber).with_lowest(Decimal::ZERO).unwrap();
    assert_eq!(once.with_lowest(Decimal::ZERO).unwrap_err().kind(), ErrorKind::NotInOrder);
}

#[test]
fn edges_that_do_not_increase_are_refused() {
    let made = |edges: &[i64]| AgingBuckets::from_upper_edges(edges, BucketMeasure::DaysOverdue);
    assert_eq!(
        made(&[0, 30, 30]).unwrap_err().what(),
        "the edge 30 does not lie above the edge 30 before it"
    );
    assert_eq!(made(&[0, 60, 30]).unwrap_err().kind(), ErrorKind::NotInOrder);
    assert!(made(&[]).is_err());
    assert!(made(&(0..1001).collect::<Vec<_>>()).is_err());
}

#[test]
fn an_invoice_stands_in_one_way() {
    let as_of: Date = "2026-09-30".parse().unwrap();
    let day = |text: &str| (!text.is_empty()).then(|| text.parse().unwrap());
    for (units, issued, paid, standing) in [
        (100, "2026-09-30", "", Standing::Open),
        (100, "2026-10-01", "", Standing::NotYetIssued),
        (100, "2026-10-01", "2026-09-01", Standing::NotYetIssued),
        (100, "2026-09-01", "2026-09-30", Standing::Settled),
        (100, "2026-09-01", "2026-10-01", Standing::Open),
        (100, "", "", Standing::Open),
        (-100, "2026-09-01", "", Standing::Credit),
        (-100, "2026-09-01", "2026-09-02", Standing::Settled),
        (0, "2026-09-01", "", Standing::Settled),
    ] {
        let invoice = Invoice { amount: cents().amount(units), issued: day(issued), paid: day(paid) };
        assert_eq!(invoice.standing_on(as_of), standing, "{units} {issued} {paid}");
    }
}

proptest! {
    /// A lowest edge moves every number one bucket on, but for those below it.
    #[test]
    fn a_lowest_edge_changes_no_other_bucket(
        edges in prop::collection::btree_set(-50_i64..50, 1..5),
        below in 0_i64..20,
        value in -90_i64..90,
    ) {
        let edges: Vec<i64> = edges.into_iter().collect();
        let lowest = edges[0] - below;
        let plain = AgingBuckets::from_upper_edges(&edges, BucketMeasure::WholeNumber).unwrap();
        let apart = plain.clone().with_lowest(lowest.into()).unwrap();
        let wanted = if value < lowest { 0 } else { plain.bucket_of(value) + 1 };
        prop_assert_eq!(apart.bucket_of(value), wanted);
        prop_assert_eq!(apart.bucket_of_exact(Quotient::from(Decimal::from(value))), wanted);
        prop_assert_eq!(apart.labels().len(), plain.labels().len() + 1);
        prop_assert_eq!(&apart.labels()[2..], &plain.labels()[1..]);
    }

    /// Credits go off debts one unit at a time, each off the oldest debt that there still is.
    #[test]
    fn credits_go_off_the_oldest_debts(debts in prop::collection::vec(0_i64..40, 0..6), credits in 0_i64..150) {
        let decimals = |units: &[i64]| -> Vec<Decimal> { units.iter().map(|units| Decimal::from(*units)).collect() };
        let after = SetOff::oldest_first(&decimals(&debts), Decimal::from(-credits)).unwrap();
        let (mut debts, mut left) = (debts, credits);
        while left > 0 && let Some(oldest) = debts.iter_mut().rev().find(|debt| **debt > 0) {
            *oldest -= 1;
            left -= 1;
        }
        prop_assert_eq!(after.debts, decimals(&debts));
        prop_assert_eq!(after.credits, Decimal::from(-left));
    }

    #[test]
    fn amounts_come_back_as_they_were_written(units in any::<i128>(), decimals in 0_u8..=18) {
        let scale = Scale::new(decimals).unwrap();
        let text = scale.amount(units).to_string();
        prop_assert_eq!(scale.read(&text).map(|amount| amount.units()), Ok(units));
    }

    #[test]
    fn short_and_long_texts_are_read_alike(units in any::<i32>(), zeros in 0_usize..40) {
        let text = cents().amount(i128::from(units)).to_string();
        let (sign, digits) = text.strip_prefix('-').map_or(("", text.as_str()), |rest| ("-", rest));
        let padded = format!("{sign}{}{digits}", "0".repeat(zeros));
        prop_assert_eq!(cents().read(&padded).map(|amount| amount.units()), Ok(i128::from(units)));
    }

    #[test]
    fn no_text_makes_an_amount_panic(text in any::<String>(), decimals in 0_u8..=18) {
        let _ = Scale::new(decimals).unwrap().read(&text);
    }

    #[test]
    fn a_value_lies_between_the_edges_of_its_bucket(mut edges in prop::collection::vec(any::<i64>(), 1..20), value in any::<i64>()) {
        edges.sort_unstable();
        edges.dedup();
        let buckets = AgingBuckets::from_upper_edges(&edges, BucketMeasure::WholeNumber).unwrap();
        let bucket = buckets.bucket_of(value);
        prop_assert!(bucket == 0 || edges[bucket - 1] < value);
        prop_assert!(bucket == edges.len() || value <= edges[bucket]);
        prop_assert_eq!(buckets.labels().len(), edges.len() + 1);
    }
}

#[test]
fn lower_edges_belong_to_the_bucket_they_open() {
    let ages = AgingBuckets::from_lower_edges(&[25, 35, 45]).unwrap();
    assert_eq!(ages.labels(), ["Under 25", "25 to under 35", "35 to under 45", "45 and over"]);
    let found = [24, 25, 34, 35, 44, 45, i64::MAX, i64::MIN].map(|age| ages.bucket_of(age));
    assert_eq!(found, [0, 1, 1, 2, 2, 3, 3, 0]);
    assert!(AgingBuckets::from_lower_edges(&[25, 25]).is_err());
    assert!(AgingBuckets::from_lower_edges::<i64>(&[]).is_err());
}

#[test]
fn fractional_numbers_have_buckets_of_their_own_labels() {
    let decimal = |text: &str| text.parse::<Decimal>().unwrap();
    let edges = [decimal("0.5"), decimal("1"), decimal("2.25")];
    let buckets = AgingBuckets::from_upper_edges(&edges, BucketMeasure::Fractional).unwrap();
    assert_eq!(buckets.labels(), ["Up to 0.5", "over 0.5 to 1", "over 1 to 2.25", "Over 2.25"]);
    for (number, bucket) in
        [("0.5", 0), ("0.500001", 1), ("1.00", 1), ("1.01", 2), ("2.2500", 2), ("3", 3), ("-9", 0)]
    {
        assert_eq!(buckets.bucket_of_exact(decimal(number).into()), bucket, "{number}");
    }
    assert_eq!((buckets.bucket_of(1), buckets.bucket_of(2), buckets.bucket_of(3)), (1, 2, 3));
    // A third is below 0.34 and above 0.33, whatever it is shown as.
    let third = mild_ledger::Quotient::of(1, 3).unwrap();
    let around = [decimal("0.33"), decimal("0.34")];
    assert_eq!(AgingBuckets::from_lower_edges(&around).unwrap().bucket_of_exact(third), 1);
}
