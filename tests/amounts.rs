//! Amounts as they are written: what a notation reads, refuses and says, and which notation a column is found to have.
#![allow(clippy::unwrap_used, clippy::expect_used, clippy::panic)] // a test fails by panicking

use mild_ledger::{
    AmountEvidence, DecimalMark, NegativeForm, Notation, NotationVerdict, Scale, ThousandsMark,
};
use proptest::prelude::*;

fn notation(decimal: DecimalMark, thousands: ThousandsMark) -> Notation {
    Notation::with_marks(decimal, thousands).unwrap()
}

fn read(notation: &Notation, text: &str) -> Result<String, String> {
    match notation.read(text, Scale::new(2).unwrap()) {
        Ok(amount) => Ok(amount.to_string()),
        Err(error) => Err(error.what().to_owned()),
    }
}

#[test]
fn amounts_are_read_as_their_notation_has_them() {
    use DecimalMark::{Comma, Point};
    for (notation, text, expected) in [
        (notation(Point, ThousandsMark::Comma), "1,250.00", "1250.00"),
        (notation(Point, ThousandsMark::Comma), "1,234,567.8", "1234567.80"),
        (notation(Point, ThousandsMark::Comma), "1250", "1250.00"),
        (notation(Comma, ThousandsMark::Point), "-1.250,5", "-1250.50"),
        (notation(Comma, ThousandsMark::Space), "1 250,00", "1250.00"),
        (notation(Comma, ThousandsMark::Space), "1\u{a0}250\u{202f}000,00", "1250000.00"),
        (notation(Point, ThousandsMark::Apostrophe), "1'250.00", "1250.00"),
        (notation(Point, ThousandsMark::Apostrophe), "1’250.00", "1250.00"),
        (notation(Comma, ThousandsMark::None), "\u{2212}0,05", "-0.05"),
        (notation(Point, ThousandsMark::Comma).with_negatives(NegativeForm::Brackets), "(50.00)", "-50.00"),
        (
            notation(Point, ThousandsMark::None).with_negatives(NegativeForm::TrailingMinus),
            "50.00-",
            "-50.00",
        ),
        (notation(Point, ThousandsMark::None).with_negatives(NegativeForm::Debit), "50.00 DR", "-50.00"),
        (notation(Point, ThousandsMark::None).with_negatives(NegativeForm::Debit), "50.00c", "50.00"),
        (notation(Point, ThousandsMark::Comma).with_sign("$"), "$1,250.00", "1250.00"),
        (notation(Point, ThousandsMark::Comma).with_sign("$"), "-$ 1,250.00", "-1250.00"),
        (notation(Point, ThousandsMark::Comma).with_sign("$"), "$-1,250.00", "-1250.00"),
        (
            notation(Comma, ThousandsMark::Point).with_sign("EUR").with_negatives(NegativeForm::Brackets),
            "(eur 1.250,00)",
            "-1250.00",
        ),
    ] {
        assert_eq!(read(&notation, text), Ok(expected.to_owned()), "{notation}: {text}");
    }
}

#[test]
fn what_is_not_of_the_notation_is_refused_and_says_why() {
    use DecimalMark::{Comma, Point};
    for (notation, text, said) in [
        (Notation::plain(), "1,250.00", "it holds ','"),
        (Notation::plain(), "(50.00)", "it holds '('"),
        (notation(Point, ThousandsMark::Comma), "12,50", "thousands marks are not"),
        (notation(Point, ThousandsMark::Comma), "1,2500.00", "thousands marks are not"),
        (notation(Point, ThousandsMark::Comma), "1,250,00", "thousands marks are not"),
        (notation(Point, ThousandsMark::Comma), ",250", "thousands marks are not"),
        (notation(Point, ThousandsMark::Comma), "1234,567", "thousands marks are not"),
        (notation(Comma, ThousandsMark::Point), "1,250.00", "it holds"),
        (notation(Comma, ThousandsMark::None), "1,255", "too fine"),
        (
            notation(Point, ThousandsMark::Comma).with_negatives(NegativeForm::Brackets),
            "(-50.00)",
            "two marks state",
        ),
        (
            notation(Point, ThousandsMark::Comma).with_negatives(NegativeForm::Brackets),
            "(50.00",
            "it holds '('",
        ),
        (notation(Point, ThousandsMark::Comma).with_sign("$"), "€5.00", "it holds '€'"),
        (notation(Point, ThousandsMark::Comma).with_sign("$"), "$$5.00", "it holds '$'"),
        (notation(Point, ThousandsMark::Comma).with_sign("$"), "$", "there is no amount"),
        (notation(Point, ThousandsMark::Comma), &"9,999".repeat(20), "thousands marks are not"),
        (notation(Point, ThousandsMark::Comma), &"9".repeat(60), "too large"),
        (notation(Point, ThousandsMark::Comma), &"9".repeat(600), "too large"),
    ] {
        let what = read(&notation, text).unwrap_err();
        assert!(what.contains(said), "{notation}: {text}: {what}");
    }
}

fn evidence(texts: &[&str]) -> AmountEvidence {
    let mut evidence = AmountEvidence::new();
    (1..).zip(texts).for_each(|(row, text)| evidence.note(text, row));
    evidence
}

#[test]
fn the_notation_of_a_column_is_found_from_all_of_its_values() {
    for (texts, expected) in [
        (&["1250.00", "8", "-0.25"][..], "1234.56"),
        (&["1,250.00", "8.00", "12,000.50", "999,999.00"], "1,234.56"),
        (&["1.250,00", "8,00", "0,25"], "1.234,56"),
        (&["8,00", "0,25", "1250,00"], "1234,56"),
        (&["1 250,00", "8,00", "0,25"], "1 234,56"),
        (&["1'250.00", "8.00", "0.25"], "1'234.56"),
        (&["$1,250.00", "($50.00)", "$8.25"], "$ 1,234.56 or ($ 1,234.56)"),
        (&["50.00-", "8.25", "1.50"], "1234.56 or 1234.56-"),
        (&["12", "8", "1"], "1234.56"),
    ] {
        let found = evidence(texts);
        let NotationVerdict::Found(notation) = found.verdict() else {
            panic!("{texts:?}: {:?}", found.verdict())
        };
        assert_eq!(notation.to_string(), expected, "{texts:?}");
        // The notation found reads every value.
        for text in texts {
            assert!(notation.read(text, Scale::new(2).unwrap()).is_ok(), "{notation}: {text}");
        }
    }
    assert_eq!(evidence(&["12", "-8", "soon"]).whole_numbers(), Some(2));
    assert_eq!(evidence(&["12", "8.0"]).whole_numbers(), None);
    assert_eq!(evidence(&["12", "$8"]).whole_numbers(), None);
}

#[test]
fn what_could_be_thousands_or_decimals_is_ambiguous_until_three_rows_decide() {
    let either = ["1.250", "12.500", "8.000"];
    for (decisive, count) in [("8.25", 1), ("8.25", 2), ("1.250.000", 2), ("1.250.000,5", 1)] {
        let texts: Vec<&str> = either.iter().copied().chain(std::iter::repeat_n(decisive, count)).collect();
        let found = evidence(&texts);
        let NotationVerdict::Ambiguous { example, .. } = found.verdict() else { panic!("{texts:?}") };
        assert_eq!((example.row, example.text.as_str()), (1, "1.250"));
    }
    for (decisive, expected) in [("8.25", "1234.56"), ("1.250.000", "1.234,56")] {
        let texts: Vec<&str> = either.iter().copied().chain(std::iter::repeat_n(decisive, 3)).collect();
        let found = evidence(&texts);
        let NotationVerdict::Found(notation) = found.verdict() else { panic!("{texts:?}") };
        assert_eq!(notation.to_string(), expected);
    }
}

#[test]
fn what_no_notation_reads_is_told_with_its_rows() {
    let found = evidence(&["12.50", "soon", "", "8.25", "1,2,3"]);
    let NotationVerdict::NoneReadsAll { reads, .. } = found.verdict() else { panic!("none") };
    assert_eq!((reads, found.values(), found.blanks()), (2, 4, 1));
    let failures = found.failures();
    let failed: Vec<(u64, &str)> = failures.iter().map(|value| (value.row, value.text.as_str())).collect();
    assert_eq!(failed, [(2, "soon"), (5, "1,2,3")]);
    let mixed = evidence(&["USD 5.00", "EUR 5.00", "EUR 8.25", "50.00 CR", "8.00DR"]);
    assert_eq!(mixed.currencies().collect::<Vec<_>>(), [("EUR", 2), ("USD", 1)]);
    assert_eq!(mixed.credit_and_debit(), (1, 1));
    // Two minus marks contradict each other, when found as when read.
    let signed = evidence(&["-0-", "(-5.00)", "+1.00-", "-50.00 CR", "8.25"]);
    assert!(
        matches!(signed.verdict(), NotationVerdict::NoneReadsAll { reads: 1, .. }),
        "{:?}",
        signed.verdict()
    );
    // Both marks in turn are of no notation.
    let both = evidence(&["1,250.00", "1.250,00", "8.25", "8,25"]);
    assert!(matches!(both.verdict(), NotationVerdict::NoneReadsAll { .. }));
}

/// An amount in cents as a notation writes it.
fn written(cents: i64, decimal: DecimalMark, thousands: char) -> String {
    let (whole, rest) = (cents.unsigned_abs() / 100, cents.unsigned_abs() % 100);
    let digits = whole.to_string();
    let mut grouped = String::new();
    for (place, digit) in digits.chars().enumerate() {
        if place > 0 && (digits.len() - place) % 3 == 0 {
            grouped.push(thousands);
        }
        grouped.push(digit);
    }
    let minus = if cents < 0 { "-" } else { "" };
    format!("{minus}{grouped}{}{rest:02}", decimal.sign())
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(500))]
    #[test]
    fn every_amount_is_read_back(cents in any::<i64>()) {
        for (decimal, thousands, sign) in [
            (DecimalMark::Point, ThousandsMark::Comma, ','),
            (DecimalMark::Comma, ThousandsMark::Point, '.'),
            (DecimalMark::Comma, ThousandsMark::Space, '\u{202f}'),
            (DecimalMark::Point, ThousandsMark::Apostrophe, '’'),
        ] {
            let text = written(cents, decimal, sign);
            let amount = notation(decimal, thousands).read(&text, Scale::new(2).unwrap());
            prop_assert_eq!(amount.map(|amount| amount.units()), Ok(i128::from(cents)), "{}", text);
        }
    }

    #[test]
    fn no_text_makes_it_panic_and_parts_merge_to_the_whole(
        texts in prop::collection::vec("[-(]?[$€]?[0-9]{0,4}[.,' ]?[0-9]{0,3}[.,]?[0-9]{0,3} ?(CR|DR|EUR|-|\\))?|\\PC{0,8}", 0..30),
    ) {
        let all: Vec<&str> = texts.iter().map(String::as_str).collect();
        let whole = evidence(&all);
        let mut parts = [AmountEvidence::new(), AmountEvidence::new()];
        for (row, text) in (1_u64..).zip(&all) {
            parts[usize::try_from(row % 2).unwrap()].note(text, row);
        }
        let [mut merged, other] = parts;
        merged.merge(&other);
        prop_assert_eq!(format!("{merged:?}"), format!("{whole:?}"));
        if let NotationVerdict::Found(notation) = whole.verdict()
            && whole.credit_and_debit() == (0, 0)
        {
            let scale = Scale::new(whole.decimals()).unwrap();
            for text in all.iter().filter(|text| !text.trim().is_empty()) {
                prop_assert!(notation.read(text, scale).is_ok(), "{}: {:?}", notation, text);
            }
        }
    }
}
