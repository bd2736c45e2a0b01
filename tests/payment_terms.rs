//! Payment terms: dates against a walk over the days, and texts against what they are written as.

#![allow(clippy::unwrap_used, clippy::panic)] // a test fails by panicking

use mild_ledger::column::{Column, due_dates};
use mild_ledger::{Date, Decimal, ErrorKind, PayBy, PaymentTerms};
use proptest::prelude::*;

fn terms(text: &str) -> PaymentTerms {
    text.parse().unwrap_or_else(|error| panic!("{text}: {error}"))
}

fn due(text: &str, issued: &str) -> String {
    terms(text).due(issued.parse().unwrap()).unwrap().to_string()
}

/// A year as a list of its days, counted without the library's calendar.
fn days_from(year: i32, years: i32) -> Vec<(i32, u8, u8)> {
    let lengths = |year: i32| {
        let leap = year % 4 == 0 && (year % 100 != 0 || year % 400 == 0);
        [31, if leap { 29 } else { 28 }, 31, 30, 31, 30, 31, 31, 30, 31, 30, 31]
    };
    let of_year = |year: i32| {
        let months = (1..=12).zip(lengths(year));
        months.flat_map(move |(month, length)| (1..=length).map(move |day| (year, month, day)))
    };
    (year..year + years).flat_map(of_year).collect()
}

fn date((year, month, day): (i32, u8, u8)) -> Date {
    Date::new(year, month, day).unwrap()
}

#[test]
fn worked_out_on_a_calendar() {
    for (text, issued, expected) in [
        ("net 30", "2026-01-31", "2026-03-02"),
        ("n/30", "2024-01-31", "2024-03-01"),
        ("net 30 EOM", "2026-01-15", "2026-03-02"),
        ("net 30 to EOM", "2026-01-15", "2026-02-28"),
        ("net 30 to EOM", "2026-01-31", "2026-03-31"),
        ("net 0 EOM", "2026-02-03", "2026-02-28"),
        ("15 MFI", "2026-01-31", "2026-02-15"),
        ("31 prox", "2026-01-31", "2026-02-28"),
        ("31 prox", "2024-01-01", "2024-02-29"),
        ("15 prox", "2026-12-31", "2027-01-15"),
        ("15 prox cut-off 25", "2026-01-24", "2026-02-15"),
        ("15 prox cut-off 25", "2026-01-25", "2026-03-15"),
        ("15 prox cut-off 25", "2026-11-30", "2027-01-15"),
        ("net 10 EOM cut-off 20", "2026-01-20", "2026-03-10"),
        ("due on receipt", "2026-01-31", "2026-01-31"),
        ("COD", "2026-01-31", "2026-01-31"),
    ] {
        assert_eq!(due(text, issued), expected, "{text} from {issued}");
    }
}

#[test]
fn every_day_of_some_years_against_a_walk_over_the_days() {
    let days = days_from(2023, 4);
    // Two years to be issued in, and two more to be due in.
    for (nth, issued) in days.iter().enumerate().take(731) {
        let (_, month, day) = *issued;
        let month_end = |from: usize| (from..).find(|at| days[*at].1 != days[at + 1].1).unwrap();
        let next_month = |from: usize| month_end(from) + 1;
        let nth_of_month = |first: usize, day: usize| (first + day - 1).min(month_end(first));
        let late = if day >= 25 { next_month(nth) } else { nth };
        for (text, at) in [
            ("net 45", nth + 45),
            ("net 45 EOM", month_end(nth) + 45),
            ("net 45 to EOM", month_end(nth + 45)),
            ("10 prox", nth_of_month(next_month(nth), 10)),
            ("30 mfi", nth_of_month(next_month(nth), 30)),
            ("30 prox cut-off 25", nth_of_month(next_month(late), 30)),
            ("net 45 EOM cut-off 25", month_end(late) + 45),
            ("cod", nth),
        ] {
            let found = terms(text).due(date(*issued)).unwrap();
            assert_eq!(found, date(days[at]), "{text} from {issued:?} of month {month}");
            let working = terms(text).why_due(date(*issued)).unwrap();
            assert_eq!(working.figure(), found.to_string(), "{working}");
        }
    }
}

#[test]
fn one_reading_has_many_forms() {
    for (text, written) in [
        ("Net 30", "net 30"),
        (" NET  30 days ", "net 30"),
        ("n/30", "net 30"),
        ("net30", "net 30"),
        ("30 days", "net 30"),
        ("30 days net", "net 30"),
        ("2/10, n/30", "2/10 net 30"),
        ("2%/10 net 30", "2/10 net 30"),
        ("1.5/10; net 60", "1.5/10 net 60"),
        ("2/10 EOM net 30 EOM", "2/10 EOM net 30 EOM"),
        ("2/10 prox net 30", "2/10 prox net 30"),
        ("10th prox", "10 prox"),
        ("15 proximo", "15 prox"),
        ("15 MFI cutoff 25", "15 prox cut-off 25"),
        ("net 15 prox cut off 25th", "15 prox cut-off 25"),
        ("Due upon receipt", "due on receipt"),
        ("cash on delivery", "due on receipt"),
        ("2/0 net 0", "2/0 net 0"),
        ("2/30 net 30", "2/30 net 30"),
    ] {
        assert_eq!(terms(text).to_string(), written, "{text}");
    }
}

#[test]
fn what_has_two_readings_or_none_is_refused() {
    for text in ["EOM", "eom", "30 EOM", "net EOM", "30 days EOM"] {
        let error = text.parse::<PaymentTerms>().unwrap_err();
        assert!(error.what().ends_with("has two readings"), "{error}");
        // Both are shown with what they mean.
        let allowed = error.allowed();
        assert!(
            allowed.contains("net 30 EOM (30 days after the last day of the month of issue)"),
            "{allowed}"
        );
        assert!(allowed.contains("net 30 to EOM (the last day of the month that holds"), "{allowed}");
    }
    for text in [
        "",
        "net",
        "30",
        "net thirty",
        "net -30",
        "net 30 net 30",
        "2/10",
        "2/ net 30",
        "/10 net 30",
        "net 30 prox 25",
        "15 prox cut-off",
        "n/",
        "2/10 net",
        "-2/10 net 30",
        "net 30 to",
        "prox",
        "on receipt 30",
        "net 30.5",
        "net ٣٠",
    ] {
        let error = text.parse::<PaymentTerms>().unwrap_err();
        assert_eq!(error.kind(), ErrorKind::Unreadable, "{text}: {error}");
    }
    for text in [
        "net 10000",
        "net 99999999999999999999",
        "32 prox",
        "0 prox",
        "15 prox cut-off 0",
        "0/10 net 30",
        "101/10 net 30",
    ] {
        let error = text.parse::<PaymentTerms>().unwrap_err();
        assert_eq!(error.kind(), ErrorKind::OutOfRange, "{text}: {error}");
    }
    for text in ["net 30 cut-off 25", "2/40 net 30", "2/20 prox 15 prox"] {
        let error = text.parse::<PaymentTerms>().unwrap_err();
        assert_eq!(error.kind(), ErrorKind::NotAllowed, "{error}");
    }
}

fn any_by() -> impl Strategy<Value = PayBy> {
    prop_oneof![
        (0..=9_999_u16).prop_map(PayBy::Days),
        (0..=9_999_u16).prop_map(PayBy::DaysAfterMonthEnd),
        (0..=9_999_u16).prop_map(PayBy::MonthEndAfterDays),
        (1..=31_u8).prop_map(PayBy::DayOfNextMonth),
    ]
}

fn any_terms() -> impl Strategy<Value = PaymentTerms> {
    let discount = prop::option::of((1..=10_000_i128, any_by()));
    (prop_oneof![Just(PayBy::Receipt), any_by()], discount, prop::option::of(1..=31_u8)).prop_map(
        |(net, discount, cut_off)| {
            let mut terms = PaymentTerms::net(net).unwrap();
            if let Some((hundredths, until)) = discount {
                // One that ends after payment is due is refused.
                let per_cent = Decimal::of_units(hundredths, 2).unwrap();
                terms = terms.with_discount(per_cent, until).unwrap_or(terms);
            }
            match cut_off {
                Some(day) => terms.with_cut_off(day).unwrap(),
                None => terms,
            }
        },
    )
}

proptest! {
    #[test]
    fn a_discount_is_refused_where_it_ends_after_payment_is_due(net in any_by(), until in any_by()) {
        let discount = PaymentTerms::net(net).unwrap().with_discount(2.into(), until);
        // 48 days of issue, some of each length of month.
        let issued = (0..48).map(|nth| Date::from_day_number(20_454 + 7 * nth).unwrap());
        let dates = issued.map(|issued| {
            let due = |by| PaymentTerms::net(by).unwrap().due(issued).unwrap();
            (due(until), due(net))
        });
        let is_later = dates.map(|(until, due)| until.cmp(&due)).collect::<Vec<_>>();
        let is_of_one_kind = std::mem::discriminant(&net) == std::mem::discriminant(&until);
        match discount {
            Ok(_) => prop_assert!(!is_of_one_kind || is_later.iter().all(|order| order.is_le())),
            Err(_) => prop_assert!(is_later.iter().all(|order| order.is_ge())),
        }
    }

    #[test]
    fn what_is_written_is_read_as_the_same_dates(terms in any_terms(), day in -719_162..2_932_897_i32) {
        let issued = Date::from_day_number(day).unwrap();
        let text = terms.to_string();
        let read: PaymentTerms = text.parse().unwrap();
        prop_assert_eq!(read.due(issued), terms.due(issued), "{}", &text);
        prop_assert_eq!(read.discount_date(issued), terms.discount_date(issued), "{}", &text);
        prop_assert_eq!(read.in_words(), terms.in_words());
        prop_assert_eq!(read.to_string(), text);
        let column: Column<Date> = [Some(issued), None].into_iter().collect();
        let dates = due_dates(&column, &terms);
        prop_assert_eq!((dates.get(0), dates.get(1)), (terms.due(issued).ok(), None));
    }

    #[test]
    fn no_text_is_too_much(text in "([0-9nN/%. ]|net |eom|prox|cut-off |to |\\PC){0,20}") {
        if let Ok(terms) = text.parse::<PaymentTerms>() {
            let _ = (terms.due(Date::MAX), terms.due(Date::MIN), terms.in_words());
            let _ = terms.why_due(Date::MAX);
        }
    }
}
