//! A quarter-end of receivables at Quillhaven Boatyard, every figure worked out by hand: 20 invoices and 12 payments in three
//! currencies, part payments, over-payments, a payment that was taken back and credit notes, seen from two dates.

#![allow(clippy::unwrap_used, clippy::panic)] // a test fails by panicking

use mild_ledger::{
    Account, AgingBuckets, BucketMeasure, BucketMovement, Collections, Date, Decimal, ErrorKind, MonthSales,
    MovedFrom, MovedTo, Movement, Payment, PaymentTerms, Position, Rounding, Scale, average_days_late,
    days_sales_by_count_back, days_sales_outstanding, loss_allowance,
};
use proptest::prelude::*;
use std::collections::BTreeMap;

/// Number, currency, day of issue, terms, amount.
const INVOICES: [(&str, &str, &str, &str, &str); 20] = [
    ("Q1", "EUR", "2026-03-31", "net 30", "1200.00"),
    ("Q2", "EUR", "2026-04-15", "net 30", "800.50"),
    ("Q3", "EUR", "2026-05-20", "net 30 EOM", "450.25"),
    ("Q4", "EUR", "2026-06-01", "net 60", "2000.00"),
    ("Q5", "EUR", "2026-06-30", "net 30", "310.00"),
    ("Q6", "EUR", "2026-07-31", "15 prox", "990.00"),
    ("Q7", "EUR", "2026-08-31", "net 30", "75.75"),
    ("Q8", "EUR", "2026-09-30", "net 30", "640.00"),
    ("Q9", "EUR", "2026-10-01", "net 30", "500.00"),
    ("Q10", "EUR", "2026-08-10", "COD", "-120.00"),
    ("Q11", "GBP", "2026-05-31", "net 30 to EOM", "1500.00"),
    ("Q12", "GBP", "2026-06-15", "net 30", "260.40"),
    ("Q13", "GBP", "2026-07-01", "net 30", "333.33"),
    ("Q14", "GBP", "2026-07-02", "net 60", "333.33"),
    ("Q15", "GBP", "2026-09-01", "net 30", "333.34"),
    ("Q16", "GBP", "2026-09-15", "COD", "88.00"),
    ("Q17", "USD", "2026-02-28", "net 30", "5000.00"),
    ("Q18", "USD", "2026-06-29", "net 90", "700.00"),
    ("Q19", "USD", "2026-07-02", "net 90", "700.00"),
    ("Q20", "USD", "2026-09-29", "COD", "-50.00"),
];

const PAYMENTS: [(&str, &str, &str); 12] = [
    ("Q1", "2026-04-30", "700.00"),
    ("Q1", "2026-09-15", "500.00"),
    ("Q2", "2026-05-15", "800.50"),
    ("Q3", "2026-07-15", "400.00"),
    ("Q4", "2026-07-31", "2100.00"),
    ("Q7", "2026-10-01", "75.75"),
    ("Q11", "2026-07-30", "1500.00"),
    ("Q12", "2026-06-30", "60.40"),
    ("Q12", "2026-08-14", "200.00"),
    ("Q17", "2026-03-30", "2500.00"),
    ("Q17", "2026-07-10", "2000.00"),
    ("Q17", "2026-08-01", "-500.00"),
];

fn amount(text: &str) -> Decimal {
    Scale::new(2).unwrap().read(text).unwrap()
}

fn date(text: &str) -> Date {
    text.parse().unwrap()
}

fn account(number: &str, of: &str) -> Account {
    let payments = PAYMENTS.iter().filter(|(invoice, ..)| *invoice == number);
    Account::new(amount(of), payments.map(|(_, on, paid)| Payment { on: date(on), amount: amount(paid) }))
}

/// What is open in each currency and bucket, credits by themselves; invoices issued later are none of it.
fn aging(as_of: &str) -> BTreeMap<(&'static str, String), String> {
    let as_of = date(as_of);
    let buckets = AgingBuckets::from_upper_edges(&[0, 30, 60, 90], BucketMeasure::DaysOverdue).unwrap();
    let mut sums: BTreeMap<(&str, String), Decimal> = BTreeMap::new();
    for (number, currency, issued, terms, of) in INVOICES {
        if date(issued) > as_of {
            continue;
        }
        let open = account(number, of).open_on(as_of).unwrap();
        let due = terms.parse::<PaymentTerms>().unwrap().due(date(issued)).unwrap();
        let overdue = i64::from(as_of.day_number()) - i64::from(due.day_number());
        let bucket = match open.cmp(&Decimal::ZERO) {
            std::cmp::Ordering::Equal => continue,
            std::cmp::Ordering::Less => "Credits".to_owned(),
            std::cmp::Ordering::Greater => buckets.label(buckets.bucket_of(overdue)).unwrap().to_owned(),
        };
        let sum = sums.entry((currency, bucket)).or_insert(amount("0.00"));
        *sum = sum.checked_add(open).unwrap();
    }
    sums.into_iter().map(|(key, sum)| (key, sum.to_string())).collect()
}

fn expected(cells: &[(&'static str, &str, &str)]) -> BTreeMap<(&'static str, String), String> {
    cells
        .iter()
        .map(|(currency, bucket, sum)| ((*currency, (*bucket).to_owned()), (*sum).to_owned()))
        .collect()
}

#[test]
fn every_cell_of_the_aging_at_two_dates() {
    assert_eq!(
        aging("2026-06-30"),
        expected(&[
            // Q3 and Q11 are due that day; Q4 and Q5 in July.
            ("EUR", "Not yet due", "2760.25"),
            // Q1, due on 30 April: 61 days.
            ("EUR", "61–90", "500.00"),
            ("GBP", "Not yet due", "1700.00"),
            ("USD", "Not yet due", "700.00"),
            // Q17, due on 30 March: 92 days.
            ("USD", "Over 90", "2500.00"),
        ])
    );
    assert_eq!(
        aging("2026-09-30"),
        expected(&[
            // Q7 is due that day, and its payment comes the day after; Q8.
            ("EUR", "Not yet due", "715.75"),
            // Q6, due on 15 August: 46 days. Q5, due on 30 July: 62. Q3, due on 30 June: 92.
            ("EUR", "31–60", "990.00"),
            ("EUR", "61–90", "310.00"),
            ("EUR", "Over 90", "50.25"),
            // Q4 was over-paid by 100; Q10 is a credit note.
            ("EUR", "Credits", "-220.00"),
            ("GBP", "Not yet due", "333.34"),
            // Q14, due on 31 August: 30 days; Q16: 15.
            ("GBP", "1–30", "421.33"),
            // Q13, due on 31 July: 61 days.
            ("GBP", "61–90", "333.33"),
            ("USD", "Not yet due", "700.00"),
            ("USD", "1–30", "700.00"),
            // Q17: 5,000 less 2,500 less 2,000, of which 500 were taken back.
            ("USD", "Over 90", "1000.00"),
            ("USD", "Credits", "-50.00"),
        ])
    );
}

#[test]
fn the_measures_of_the_quarter() {
    let shown = |figure: Result<mild_ledger::Quotient, mild_ledger::Error>, decimals: u8| {
        figure.unwrap().to_decimal(decimals, Rounding::Nearest).unwrap().to_string()
    };
    // Euro, July to September: 990.00 + 75.75 + 640.00 - 120.00 issued, 1,846.00 open at its end.
    let (open, sales) = (amount("1846.00"), amount("1585.75"));
    // 1,846.00 × 92 ÷ 1,585.75.
    assert_eq!(shown(days_sales_outstanding(open, sales, 92), 2), "107.10");
    // September's 640.00 (30 days) and July's 990.00 (31) are used up; August had 75.75 less 120.00, and counts with its 31 days; of June's
    // 2,310.00 the 216.00 that are left are 216 × 30 ÷ 2,310 days.
    let months = [("640.00", 30), ("-44.25", 31), ("990.00", 31), ("2310.00", 30)];
    let months = months.map(|(sales, days)| MonthSales { sales: amount(sales), days });
    assert_eq!(shown(days_sales_by_count_back(open, &months), 2), "94.81");
    let error = days_sales_by_count_back(open, &months[..3]).unwrap_err();
    assert_eq!(
        (error.kind(), error.what()),
        (ErrorKind::NotCovered, "the sales of 3 months do not use up the open balance")
    );
    assert_eq!(shown(days_sales_by_count_back(amount("-5.00"), &months), 1), "0.0");
    // (3,260.25 + 1,585.75 - 1,846.00) ÷ (3,260.25 + 1,585.75 - 715.75) = 3,000.00 ÷ 4,130.25.
    let quarter = Collections {
        opening: amount("3260.25"),
        sales,
        closing: open,
        closing_not_yet_due: amount("715.75"),
    };
    assert_eq!(shown(quarter.effectiveness_index(), 4), "0.7263");
    // Settled by the end of September, in euro: Q1 on 15 September, 138 days after 30 April; Q2 on the day.
    let late = |number: &str| {
        let (_, _, issued, terms, of) = INVOICES.into_iter().find(|(known, ..)| *known == number).unwrap();
        let settled = account(number, of).settled_by(date("2026-09-30")).unwrap().unwrap();
        let due = terms.parse::<PaymentTerms>().unwrap().due(date(issued)).unwrap();
        (amount(of), settled.day_number() - due.day_number())
    };
    assert_eq!([late("Q1").1, late("Q2").1, late("Q11").1, late("Q12").1], [138, 0, 30, 30]);
    // 1,200.00 × 138 ÷ 2,000.50.
    assert_eq!(shown(average_days_late(["Q1", "Q2"].map(late)), 2), "82.78");
    assert_eq!(shown(average_days_late(["Q11", "Q12"].map(late)), 2), "30.00");
    // Of the euro buckets in their order.
    let open = ["715.75", "0.00", "990.00", "310.00", "50.25"].map(amount);
    let rates = ["0.5", "2", "5", "10.25", "50"].map(|rate| rate.parse::<Decimal>().unwrap());
    let allowance: Vec<String> =
        loss_allowance(&open, &rates).unwrap().iter().map(ToString::to_string).collect();
    // 3.57875, 0, 49.50, 31.775, 25.125.
    assert_eq!(allowance, ["3.58", "0.00", "49.50", "31.78", "25.13"]);
}

/// The state of an invoice on a date.
fn position(as_of: Date, issued: Date, due: Date, account: &Account) -> Position {
    let buckets = AgingBuckets::from_upper_edges(&[0, 30, 60, 90], BucketMeasure::DaysOverdue).unwrap();
    let open = account.open_on(as_of).unwrap();
    if issued > as_of {
        return Position::NotYetIssued;
    }
    match open.cmp(&Decimal::ZERO) {
        std::cmp::Ordering::Equal => Position::Settled,
        std::cmp::Ordering::Less => Position::Credit { open },
        std::cmp::Ordering::Greater => {
            let overdue = i64::from(as_of.day_number()) - i64::from(due.day_number());
            Position::Open { bucket: buckets.bucket_of(overdue), open }
        }
    }
}

/// The third quarter of a currency.
fn movement(wanted: &str) -> Movement {
    let mut movement = Movement::of(5).unwrap();
    for (number, currency, issued, terms, of) in INVOICES {
        if currency != wanted {
            continue;
        }
        let due = terms.parse::<PaymentTerms>().unwrap().due(date(issued)).unwrap();
        let account = account(number, of);
        let on = |as_of: &str| position(date(as_of), date(issued), due, &account);
        movement.add(amount(of), on("2026-06-30"), on("2026-09-30")).unwrap();
    }
    movement
}

#[test]
fn every_cell_of_the_movement_of_the_quarter() {
    let line = |[opening, new, credited, rolled_in, rolled_on, paid, closing]: [&str; 7]| BucketMovement {
        opening: amount(opening),
        new: amount(new),
        credited: amount(credited),
        rolled_in: amount(rolled_in),
        rolled_on: amount(rolled_on),
        paid: amount(paid),
        closing: amount(closing),
    };
    let euro = movement("EUR");
    let buckets: Vec<BucketMovement> = (0..5).map(|bucket| euro.bucket(bucket).unwrap()).collect();
    assert_eq!(
        buckets,
        [
            // Q3 (450.25), Q4 (2,000.00) and Q5 (310.00) were there. Q7 and Q8 are new. Of Q3 50.25 are over 90 now, Q5 is 62 days late. Q3 was
            // paid with 400.00, and Q4 in full.
            line(["2760.25", "715.75", "0.00", "0.00", "360.25", "2400.00", "715.75"]),
            line(["0.00"; 7]),
            // Q6 is new, and 46 days late already.
            line(["0.00", "990.00", "0.00", "0.00", "0.00", "0.00", "990.00"]),
            // Q1 was paid, Q5 came.
            line(["500.00", "0.00", "0.00", "310.00", "0.00", "500.00", "310.00"]),
            line(["0.00", "0.00", "0.00", "50.25", "0.00", "0.00", "50.25"]),
        ]
    );
    // Q10 is a new credit note, Q4 was over-paid by 100.00.
    assert_eq!(
        euro.credits().unwrap(),
        line(["0.00", "0.00", "-120.00", "0.00", "0.00", "100.00", "-220.00"])
    );
    assert_eq!(euro.issued_and_paid().unwrap(), line(["0.00"; 7]));
    assert_eq!(
        euro.total().unwrap(),
        line(["3260.25", "1705.75", "-120.00", "360.25", "360.25", "3000.00", "1846.00"])
    );
    assert_eq!(euro.moved(MovedFrom::Bucket(0), MovedTo::Bucket(4)), amount("50.25"));
    assert_eq!(euro.moved(MovedFrom::Bucket(0), MovedTo::Bucket(3)), amount("310.00"));
    // 360.25 ÷ 2,760.25.
    let rate = buckets[0].roll_rate().unwrap();
    assert_eq!(rate.to_decimal(4, Rounding::Nearest).unwrap().to_string(), "0.1305");
    assert_eq!(buckets[1].roll_rate().unwrap_err().kind(), ErrorKind::DivisionByZero);
    let pound = movement("GBP");
    // Q11 and the rest of Q12 were paid; Q15 is new.
    assert_eq!(
        pound.bucket(0).unwrap(),
        line(["1700.00", "333.34", "0.00", "0.00", "0.00", "1700.00", "333.34"])
    );
    assert_eq!(pound.bucket(1).unwrap(), line(["0.00", "421.33", "0.00", "0.00", "0.00", "0.00", "421.33"]));
    let dollar = movement("USD");
    // Q18 went three days over, Q19 is new and due that day. Of Q17 2,000.00 were paid and 500.00 taken back.
    assert_eq!(
        dollar.bucket(0).unwrap(),
        line(["700.00", "700.00", "0.00", "0.00", "700.00", "0.00", "700.00"])
    );
    assert_eq!(
        dollar.bucket(4).unwrap(),
        line(["2500.00", "0.00", "0.00", "0.00", "0.00", "1500.00", "1000.00"])
    );
}

#[test]
fn a_movement_refuses_what_cannot_have_moved() {
    let mut movement = Movement::of(2).unwrap();
    let open = |bucket, open: i32| Position::Open { bucket, open: open.into() };
    let one = Decimal::from(1);
    for (opening, closing) in
        [(open(2, 1), open(0, 1)), (open(0, 1), open(2, 1)), (open(0, 1), Position::NotYetIssued)]
    {
        assert_eq!(movement.add(one, opening, closing).unwrap_err().kind(), ErrorKind::OutOfRange);
    }
    assert_eq!(movement, Movement::of(2).unwrap(), "what is refused adds nothing");
    assert_eq!(movement.merge(&Movement::of(3).unwrap()).unwrap_err().kind(), ErrorKind::LengthsDiffer);
    let most = Position::Open { bucket: 0, open: Decimal::of_units(i128::MAX, 0).unwrap() };
    movement.add(one, most, most).unwrap();
    let before = movement.clone();
    assert_eq!(movement.add(one, most, most).unwrap_err().kind(), ErrorKind::OutOfRange);
    assert!(movement.merge(&before).is_err());
    assert_eq!(movement, before);
}

#[test]
fn a_measure_of_nothing_is_an_error_with_the_reason() {
    let zero = Decimal::ZERO;
    let nothing = Collections { opening: zero, sales: zero, closing: zero, closing_not_yet_due: zero };
    for (error, what) in [
        (days_sales_outstanding(amount("5.00"), zero, 92), "no sales were issued in the period"),
        (average_days_late([(amount("-5.00"), 3)]), "no invoice was settled"),
        (nothing.effectiveness_index(), "nothing was to be collected in the period"),
    ] {
        let error = error.unwrap_err();
        assert_eq!((error.kind(), error.what()), (ErrorKind::DivisionByZero, what));
    }
    assert_eq!(loss_allowance(&[zero], &[]).unwrap_err().kind(), ErrorKind::LengthsDiffer);
    assert_eq!(loss_allowance(&[zero], &[Decimal::from(-1)]).unwrap_err().kind(), ErrorKind::OutOfRange);
    let most = Decimal::of_units(i128::MAX, 0).unwrap();
    let account = Account::new(most, [Payment { on: Date::MIN, amount: Decimal::from(-1) }]);
    assert_eq!(account.open_on(Date::MAX).unwrap_err().kind(), ErrorKind::OutOfRange);
    assert!(account.settled_by(Date::MAX).is_err());
    assert!(average_days_late([(most, i32::MAX), (most, i32::MAX)]).is_err());
    assert!(days_sales_outstanding(most, Decimal::of_units(1, 18).unwrap(), 92).is_err());
}

proptest! {
    /// Against a walk over the days, with the payments of each taken off at its end.
    #[test]
    fn balances_are_those_of_a_walk_over_the_days(
        cents in -40_i64..40,
        payments in prop::collection::vec((0..12_i32, -20_i64..40), 0..8),
        as_of in 0..14_i32,
    ) {
        let day = |number: i32| Date::from_day_number(20_000 + number).unwrap();
        let money = |cents: i64| Decimal::of_units(cents.into(), 2).unwrap();
        let account = Account::new(
            money(cents),
            payments.iter().map(|(on, cents)| Payment { on: day(*on), amount: money(*cents) }),
        );
        let (mut open, mut settled) = (cents, None);
        for today in 0..=as_of {
            let mut of_today = payments.iter().filter(|(on, _)| *on == today).peekable();
            if of_today.peek().is_none() {
                continue;
            }
            open -= of_today.map(|(_, cents)| cents).sum::<i64>();
            // Over-paid is paid, and so is a credit note of which more was paid back.
            let is_settled = if cents < 0 { open >= 0 } else { open <= 0 };
            settled = if is_settled { settled.or(Some(day(today))) } else { None };
        }
        prop_assert_eq!(account.open_on(day(as_of)).unwrap(), money(open));
        prop_assert_eq!(account.settled_by(day(as_of)).unwrap(), settled);
        prop_assert_eq!(account.amount().checked_sub(account.paid_by(day(as_of)).unwrap()), Some(money(open)));
    }

    /// Opening + new + credited − paid = closing, bucket by bucket and in all, and the ends are agings of their own. Halves that are merged come to
    /// the whole.
    #[test]
    fn a_movement_closes_whatever_was_paid(
        ledger in prop::collection::vec(
            (-60_i64..200, 0..120_i32, 0..90_i32, prop::collection::vec((0..160_i32, -80_i64..150), 0..4)),
            0..25,
        ),
        (from, days) in (0..100_i32, 1..60_i32),
    ) {
        let day = |number: i32| Date::from_day_number(20_000 + number).unwrap();
        let money = |cents: i64| Decimal::of_units(cents.into(), 2).unwrap();
        let (first, last) = (day(from), day(from + days));
        let (mut whole, mut halves) = (Movement::of(5).unwrap(), [Movement::of(5).unwrap(), Movement::of(5).unwrap()]);
        let (mut ends, mut issued_since) = ([[0_i128; 6]; 2], [0_i128; 2]);
        let mut paid_of_all = 0_i128;
        for (nth, (cents, issued, terms, payments)) in ledger.iter().enumerate() {
            let payments = payments.iter().map(|(on, cents)| Payment { on: day(*on), amount: money(*cents) });
            let account = Account::new(money(*cents), payments);
            let (issued, due) = (day(*issued), day(issued + terms));
            let [opening, closing] = [first, last].map(|as_of| position(as_of, issued, due, &account));
            whole.add(account.amount(), opening, closing).unwrap();
            halves[nth % 2].add(account.amount(), opening, closing).unwrap();
            for (end, position) in ends.iter_mut().zip([opening, closing]) {
                match position {
                    Position::Open { bucket, open } => end[bucket] += open.units(),
                    Position::Credit { open } => end[5] += open.units(),
                    _ => {}
                }
            }
            if opening == Position::NotYetIssued && closing != Position::NotYetIssued {
                issued_since[usize::from(*cents < 0)] += account.amount().units();
            }
            if closing != Position::NotYetIssued {
                let opened = if opening == Position::NotYetIssued { account.amount() } else { opening.open() };
                paid_of_all += opened.units() - closing.open().units();
            }
        }
        let [mut one, other] = halves;
        one.merge(&other).unwrap();
        prop_assert_eq!(&one, &whole);
        let units = |amount: Decimal| amount.with_decimals(2, Rounding::Nearest).unwrap().units();
        let lines: Vec<BucketMovement> = (0..5).map(|bucket| whole.bucket(bucket).unwrap()).chain([whole.credits().unwrap()]).collect();
        for (nth, line) in lines.iter().enumerate() {
            prop_assert_eq!([units(line.opening), units(line.closing)], [ends[0][nth], ends[1][nth]]);
            let moved = units(line.new) + units(line.credited) + units(line.rolled_in) - units(line.rolled_on) - units(line.paid);
            prop_assert_eq!(units(line.opening) + moved, units(line.closing));
        }
        let total = whole.total().unwrap();
        prop_assert_eq!([units(total.new), units(total.credited)], issued_since);
        prop_assert_eq!(units(total.rolled_in), units(total.rolled_on));
        prop_assert_eq!(units(total.paid), paid_of_all);
        prop_assert_eq!(units(total.opening), ends[0].iter().sum::<i128>());
        prop_assert_eq!(units(total.closing), ends[1].iter().sum::<i128>());
    }
}
