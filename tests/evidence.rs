//! Which patterns a column is found to be written by, for every candidate, from a hundred thousand values each.
#![allow(clippy::unwrap_used, clippy::expect_used, clippy::panic)] // a test fails by panicking

use mild_ledger::{Date, DateEvidence, DatePattern, PatternReadings, PatternVerdict};
use proptest::prelude::*;

const VALUES: u64 = 100_000;

/// Names in full, as people of the language write them.
fn names(language: &str) -> ([&'static str; 12], [&'static str; 7]) {
    let split = |text: &'static str| text.split(' ').collect::<Vec<_>>();
    let (months, days) = match language {
        "german" => (
            "Januar Februar März April Mai Juni Juli August September Oktober November Dezember",
            "Montag Dienstag Mittwoch Donnerstag Freitag Samstag Sonntag",
        ),
        "french" => (
            "janvier février mars avril mai juin juillet août septembre octobre novembre décembre",
            "lundi mardi mercredi jeudi vendredi samedi dimanche",
        ),
        "spanish" => (
            "enero febrero marzo abril mayo junio julio agosto septiembre octubre noviembre diciembre",
            "lunes martes miércoles jueves viernes sábado domingo",
        ),
        "italian" => (
            "gennaio febbraio marzo aprile maggio giugno luglio agosto settembre ottobre novembre dicembre",
            "lunedì martedì mercoledì giovedì venerdì sabato domenica",
        ),
        "dutch" => (
            "januari februari maart april mei juni juli augustus september oktober november december",
            "maandag dinsdag woensdag donderdag vrijdag zaterdag zondag",
        ),
        "portuguese" => (
            "janeiro fevereiro março abril maio junho julho agosto setembro outubro novembro dezembro",
            "segunda-feira terça-feira quarta-feira quinta-feira sexta-feira sábado domingo",
        ),
        _ => (
            "January February March April May June July August September October November December",
            "Monday Tuesday Wednesday Thursday Friday Saturday Sunday",
        ),
    };
    (split(months).try_into().unwrap(), split(days).try_into().unwrap())
}

/// A date as the words of a candidate write it.
fn written(pattern: &DatePattern, date: Date) -> String {
    let (year, month, day) = date.year_month_day();
    let shown = pattern.to_string();
    let language = shown.split_once(" (").map_or("", |(_, behind)| behind.trim_end_matches(')'));
    let (months, days) = names(language);
    let weekday = (date.day_number() + 3).rem_euclid(7);
    match pattern.words() {
        "iso" => date.to_string(),
        words => words
            .replace("weekday-name", "\u{1}")
            .replace("month-name", "\u{2}")
            .replace("year", &format!("{year:04}"))
            .replace("month", &format!("{month:02}"))
            .replace("day", &format!("{day:02}"))
            .replace('\u{1}', days[usize::try_from(weekday).unwrap()])
            .replace('\u{2}', months[usize::from(month) - 1]),
    }
}

/// Days from 2000 on, spread by a fixed rule.
fn some_date(nth: u64, keep: impl Fn(u8, u8) -> bool) -> Date {
    let first = 10_957;
    let spread = |nth: u64| i32::try_from(nth * 7_919 % 11_000).unwrap();
    let is_kept = |date: &Date| {
        let (_, month, day) = date.year_month_day();
        keep(month, day)
    };
    (0..).map(|more| Date::from_day_number(first + spread(nth + more * 31)).unwrap()).find(is_kept).unwrap()
}

fn is_swappable(pattern: &DatePattern) -> bool {
    ["day/month/year", "month/day/year", "day-month-year", "month-day-year"].contains(&pattern.words())
}

fn words(patterns: &[&PatternReadings]) -> Vec<String> {
    patterns.iter().map(|readings| readings.pattern().to_string()).collect()
}

fn evidence_of(texts: impl IntoIterator<Item = String>) -> DateEvidence {
    let mut evidence = DateEvidence::new();
    for (row, text) in (1..).zip(texts) {
        evidence.note(&text, row);
    }
    evidence
}

#[test]
fn every_candidate_of_numbers_is_found_and_one_mistyped_value_is_told() {
    DatePattern::candidates()
        .filter(|pattern| !pattern.words().contains("name"))
        .for_each(|pattern| is_found(&pattern, VALUES));
}

#[test]
fn every_candidate_with_names_is_found_and_one_mistyped_value_is_told() {
    for pattern in DatePattern::candidates().filter(|pattern| pattern.words().contains("name")) {
        // The other languages are read by the same code, from other tables; all values of them are read by the test below.
        let values = if pattern.to_string().ends_with(')') { VALUES / 10 } else { VALUES };
        is_found(&pattern, values);
    }
}

#[test]
#[ignore = "takes a minute: cargo test --test evidence -- --ignored"]
fn every_candidate_with_names_of_another_language_is_found_among_as_many_values() {
    DatePattern::candidates()
        .filter(|pattern| pattern.words().contains("name") && pattern.to_string().ends_with(')'))
        .for_each(|pattern| is_found(&pattern, VALUES));
}

/// A number of values of a candidate are found to be its own; one that no day has is named.
fn is_found(pattern: &DatePattern, values: u64) {
    // As many different ones as days of eight years, again and again.
    let some: Vec<String> = (0..2_999).map(|nth| written(pattern, some_date(nth, |_, _| true))).collect();
    let texts = || some.iter().cycle().take(usize::try_from(values).unwrap()).cloned();
    let evidence = evidence_of(texts());
    assert_eq!(evidence.values(), values);
    let PatternVerdict::Found(found) = evidence.verdict() else { panic!("{pattern}") };
    assert_eq!(words(&found), [pattern.to_string()]);
    assert_eq!((found[0].days().count(), found[0].reads()), (values, values));
    // One value that no day has, in the middle.
    let mistyped = written(pattern, "2026-06-30".parse().unwrap()).replace("30", "31");
    let mut with_one: Vec<String> = texts().collect();
    with_one[7_000].clone_from(&mistyped);
    let evidence = evidence_of(with_one);
    let PatternVerdict::NoneReadsAll(Some(best)) = evidence.verdict() else { panic!("{pattern}") };
    assert_eq!((best.pattern(), best.reads()), (pattern, values - 1));
    let failures = evidence.failures_of(best);
    let failed = &failures[0];
    assert_eq!((failed.row, &failed.text, failures.len()), (7_001, &mistyped, 1));
}

#[test]
fn days_and_months_that_could_be_swapped_are_ambiguous_until_three_rows_decide() {
    for pattern in DatePattern::candidates().filter(is_swappable) {
        let either = |nth| written(&pattern, some_date(nth, |_, day| day <= 12));
        let decisive = |nth| written(&pattern, some_date(nth, |_, day| day > 12));
        for decide in 0..=4_u64 {
            let texts = (0..VALUES - decide).map(either).chain((0..decide).map(decisive));
            let evidence = evidence_of(texts);
            match (decide, evidence.verdict()) {
                (0..=2, PatternVerdict::Ambiguous { patterns, both_ways }) => {
                    assert_eq!(patterns.len(), 2, "{:?}", words(&patterns));
                    let both = both_ways.unwrap();
                    // Either pattern reads the value as its date.
                    for (date, readings) in [both.one, both.other].iter().zip(&patterns) {
                        let read = readings.pattern().read(&both.value.text).unwrap();
                        assert!(
                            matches!(read, mild_ledger::Reading::Date { date: read, .. } if read == *date)
                        );
                    }
                    assert_ne!(both.one, both.other);
                    let own = patterns.iter().find(|readings| *readings.pattern() == pattern).unwrap();
                    assert_eq!((own.reads(), own.alone()), (VALUES, decide));
                }
                (3.., PatternVerdict::Found(found)) => {
                    assert_eq!(words(&found), [pattern.to_string()]);
                    assert_eq!(found[0].alone_examples()[0].row, VALUES - decide + 1);
                }
                (_, other) => panic!("{pattern}, {decide} rows decide: {other:?}"),
            }
        }
    }
}

#[test]
fn a_column_of_both_is_read_by_neither() {
    let (one, other): (DatePattern, DatePattern) =
        ("day/month/year".parse().unwrap(), "month/day/year".parse().unwrap());
    let texts = (0..VALUES).map(|nth| {
        let pattern = if nth % 4 == 0 { &other } else { &one };
        written(pattern, some_date(nth, |_, day| day > 12))
    });
    let evidence = evidence_of(texts);
    let PatternVerdict::NoneReadsAll(Some(best)) = evidence.verdict() else { panic!("neither") };
    assert_eq!((best.pattern(), best.reads()), (&one, VALUES * 3 / 4));
    assert_eq!(evidence.failures_of(best)[0].row, 1);
}

#[test]
fn where_both_read_the_same_both_are_named() {
    let evidence = evidence_of((1..=9).map(|month| format!("{month:02}/{month:02}/2026")));
    let PatternVerdict::Found(found) = evidence.verdict() else { panic!("found") };
    assert_eq!(words(&found), ["day/month/year", "month/day/year"]);
    // Names that languages share are read the same in each; what one of them lacks decides.
    let shared = evidence_of(["1 April 2026", "2 September 2026", "3 April 2026"].map(str::to_owned));
    let PatternVerdict::Found(found) = shared.verdict() else { panic!("found") };
    assert_eq!(
        words(&found),
        ["day month-name year", "day month-name year (german)", "day month-name year (dutch)"]
    );
}

#[test]
fn blanks_fillers_times_and_what_wants_something_named_are_told_apart() {
    let texts = [
        "",
        " ",
        "31/12/9999",
        "30/12/1899 00:00",
        "0/1/1900",
        "30/11/2026 14:30",
        "29/11/2026 2:30 PM",
        "28/11/2026 00:00",
        "27/11/2026",
    ];
    let evidence = evidence_of(texts.map(str::to_owned));
    assert_eq!((evidence.values(), evidence.blanks()), (4, 2));
    let fillers: Vec<(String, u64, Vec<u64>)> = evidence
        .fillers()
        .map(|(filler, met)| (format!("{filler:?}"), met.count, met.rows.clone()))
        .collect();
    assert_eq!(
        fillers,
        [
            ("SpreadsheetZero".to_owned(), 1, vec![4]),
            ("NoDayOf1900".to_owned(), 1, vec![5]),
            ("EndOfTime".to_owned(), 1, vec![3]),
        ]
    );
    let PatternVerdict::Found(found) = evidence.verdict() else { panic!("{:?}", evidence.verdict()) };
    assert_eq!((words(&found), found[0].times()), (vec!["day/month/year".to_owned()], 2));
    let wanting = |texts: &[&str]| {
        let evidence = evidence_of(texts.iter().map(|text| (*text).to_owned()));
        assert!(matches!(evidence.verdict(), PatternVerdict::NoneReadsAll(None)));
        evidence.wanting().map(|(pattern, wants)| format!("{}: {wants}", pattern.words())).collect::<Vec<_>>()
    };
    assert_eq!(
        wanting(&["30/09/26", "1/2/26"]),
        ["day/month/short-year: a pivot year for years of two digits"]
    );
    assert_eq!(
        wanting(&["2026-09", "2026-10"]),
        ["year-month: whether the period's first or last day is meant"]
    );
    assert_eq!(wanting(&["soon", "later"]), Vec::<String>::new());
}

proptest! {
    /// Parts that are noted apart and merged, in any order, say what all of them say noted one after the other.
    #[test]
    fn parts_merge_to_the_whole(
        texts in prop::collection::vec("(0?[1-9]|1[0-3]|31)/(0?[1-9]|1[0-3])/(2026|9999|0001)( 1[0-3]:30)?|2026-0[1-9]-30|[a-z ]{0,4}", 0..60),
        parts in 1_usize..5,
    ) {
        let whole = evidence_of(texts.iter().cloned());
        let mut noted: Vec<DateEvidence> = (0..parts).map(|_| DateEvidence::new()).collect();
        for (row, text) in (1_u64..).zip(&texts) {
            noted[usize::try_from(row).unwrap() % parts].note(text, row);
        }
        let mut merged = noted.pop().unwrap();
        noted.iter().for_each(|part| merged.merge(part));
        let shown = |evidence: &DateEvidence| {
            let fillers: Vec<String> = evidence.fillers().map(|filler| format!("{filler:?}")).collect();
            format!("{} {} {fillers:?} {:?}", evidence.values(), evidence.blanks(), evidence.verdict())
        };
        prop_assert_eq!(shown(&merged), shown(&whole));
    }

    /// The days are those that a plain list of them says.
    #[test]
    fn days_seen_are_those_of_a_plain_list(numbers in prop::collection::vec(-2_000_i32..60_000, 1..40)) {
        let mut days = mild_ledger::DaysSeen::default();
        numbers.iter().for_each(|number| days.note(Date::from_day_number(*number).unwrap()));
        let mut sorted = numbers;
        sorted.sort_unstable();
        prop_assert_eq!(days.earliest().map(Date::day_number), sorted.first().copied());
        prop_assert_eq!(days.latest().map(Date::day_number), sorted.last().copied());
        let weekend = sorted.iter().filter(|number| (*number + 3).rem_euclid(7) >= 5).count();
        prop_assert_eq!(days.weekend(), u64::try_from(weekend).unwrap());
        prop_assert_eq!(days.months().iter().map(|(_, count)| count).sum::<u64>(), days.count());
        sorted.dedup();
        prop_assert_eq!(days.distinct(), u64::try_from(sorted.len()).unwrap());
        let gap = sorted.windows(2).map(|pair| pair[1] - pair[0]).max();
        prop_assert_eq!(days.largest_gap().map(|(one, other)| other.day_number() - one.day_number()), gap);
    }
}
