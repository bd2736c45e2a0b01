//! What the values of a column are, from all that was noted of them.

use super::column::ColumnNotes;
use super::distinct::Distinct;
use super::findings::{Clarity, Holding, LookedAmounts, LookedDates, LookedPattern, OtherNotation};
use mild_ledger::{
    AmountEvidence, Date, DateEvidence, NotationVerdict, PatternReadings, PatternVerdict, SerialSystem,
};

/// Dates where a pattern reads them all, or most of them; then amounts; whole numbers; texts else.
pub(super) fn holding_of(name: &str, notes: &ColumnNotes, distinct: Distinct) -> Holding {
    if let Some(dates) = dates_of_both(notes) {
        return Holding::Date(Box::new(dates));
    }
    let numbers = &notes.numbers;
    if let Some(whole) = numbers.whole_numbers().filter(|whole| whole * 2 > numbers.values()) {
        let failed = numbers.values() - whole;
        return Holding::WholeNumber {
            range: numbers.whole_range(),
            perhaps_dates: perhaps_dates(name, numbers.whole_range()).filter(|_| failed == 0),
            failed,
            failures: numbers.failures(),
        };
    }
    if are_codes(numbers, distinct) {
        return Holding::Text;
    }
    amounts_of(numbers).map_or(Holding::Text, |amounts| Holding::Amount(Box::new(amounts)))
}

/// Whether whole numbers next to letters, such as CAD1001, are the numbers of documents: nearly each is another, and nothing else shows that
/// they are money.
fn are_codes(numbers: &AmountEvidence, distinct: Distinct) -> bool {
    let nearly_all_differ = match distinct {
        Distinct::Exactly(count) => count * 10 > numbers.values() * 9,
        Distinct::MoreThan(_) => true,
    };
    numbers.whole_with_code() > 0 && !numbers.holds_money() && nearly_all_differ
}

/// The dates of a column whose cells are texts, or dates by the type that the file gives them, or some of each.
fn dates_of_both(notes: &ColumnNotes) -> Option<LookedDates> {
    let (texts, typed) = (&notes.dates, &notes.typed_dates);
    match (texts.values() + fillers_in(texts), typed.values() + fillers_in(typed)) {
        (_, 0) => return dates_of(texts),
        (0, _) => return dates_of(typed),
        _ => {}
    }
    let of_file = dates_of(typed)?;
    let mut dates = match dates_of(texts).filter(|dates| !dates.patterns.is_empty()) {
        Some(dates) => dates,
        // The texts are what is wrong with the column, unless they are most of it.
        None if of_file.days.count() > texts.values() => {
            let failures = match texts.verdict() {
                PatternVerdict::NoneReadsAll(Some(best)) => texts.failures_of(best).to_vec(),
                _ => Vec::new(),
            };
            let failed = of_file.failed + texts.values();
            return Some(LookedDates {
                verdict: Clarity::None,
                failed,
                failures,
                beyond_doubt: false,
                ..of_file
            });
        }
        None => return None,
    };
    if let Some(first) = dates.patterns.first_mut() {
        first.reads += of_file.days.count();
    }
    dates.times += of_file.times;
    dates.offsets += of_file.offsets;
    dates.fillers.extend(of_file.fillers);
    dates.days.merge(&of_file.days);
    Some(dates)
}

fn fillers_in(evidence: &DateEvidence) -> u64 {
    evidence.fillers().map(|(_, met)| met.count).sum()
}

fn dates_of(evidence: &DateEvidence) -> Option<LookedDates> {
    let of = |verdict, patterns: &[&PatternReadings]| -> Option<LookedDates> {
        let first = *patterns.first()?;
        Some(LookedDates {
            verdict,
            patterns: patterns.iter().map(|readings| pattern_of(readings)).collect(),
            both_ways: None,
            failed: evidence.values() - first.reads(),
            failures: evidence.failures_of(first).to_vec(),
            beyond_doubt: evidence.leaves_no_doubt_of(first),
            wants: None,
            fillers: fillers_of(evidence),
            times: first.times(),
            offsets: first.offsets(),
            days: first.days().clone(),
        })
    };
    match evidence.verdict() {
        PatternVerdict::Found(patterns) => of(Clarity::Found, &patterns),
        PatternVerdict::Ambiguous { patterns, both_ways } => {
            let mut dates = of(Clarity::Ambiguous, &patterns)?;
            dates.both_ways = both_ways;
            Some(dates)
        }
        // Where most values are dates, the others are what is wrong with the column.
        PatternVerdict::NoneReadsAll(Some(best)) if best.reads() * 2 > evidence.values() => {
            of(Clarity::None, &[best])
        }
        PatternVerdict::NoneReadsAll(_) => {
            let (pattern, wants) = evidence.wanting().next()?;
            let words = pattern.words().to_owned();
            let mut dates = LookedDates {
                verdict: Clarity::None,
                patterns: Vec::new(),
                both_ways: None,
                failed: evidence.values(),
                failures: Vec::new(),
                beyond_doubt: false,
                wants: None,
                fillers: fillers_of(evidence),
                times: 0,
                offsets: 0,
                days: Default::default(),
            };
            dates.wants = Some((words, wants));
            Some(dates)
        }
        // Nothing but fillers is a column of dates as well.
        PatternVerdict::NoValues if evidence.fillers().next().is_some() => {
            let fillers = fillers_of(evidence);
            Some(LookedDates {
                verdict: Clarity::None,
                patterns: Vec::new(),
                both_ways: None,
                failed: 0,
                failures: Vec::new(),
                beyond_doubt: false,
                wants: None,
                fillers,
                times: 0,
                offsets: 0,
                days: Default::default(),
            })
        }
        _ => None,
    }
}

fn fillers_of(evidence: &DateEvidence) -> Vec<(mild_ledger::Filler, u64, Vec<u64>)> {
    evidence.fillers().map(|(filler, met)| (filler, met.count, met.rows.clone())).collect()
}

fn pattern_of(readings: &PatternReadings) -> LookedPattern {
    LookedPattern {
        pattern: readings.pattern().to_string(),
        reads: readings.reads(),
        alone: readings.alone(),
        alone_examples: readings.alone_examples().to_vec(),
    }
}

fn amounts_of(evidence: &AmountEvidence) -> Option<LookedAmounts> {
    // Digits alone with a zero before them name things and count none.
    if evidence.leading_zeros() > 0 {
        return None;
    }
    let (verdict, notation, other, failed) = match evidence.verdict() {
        NotationVerdict::Found(notation) => (Clarity::Found, notation, None, 0),
        NotationVerdict::Ambiguous { one, other, example } => {
            let decimals = evidence.decimals_of(&other);
            (Clarity::Ambiguous, one, Some(OtherNotation { notation: other, decimals, example }), 0)
        }
        NotationVerdict::NoneReadsAll { best, reads } if reads * 2 > evidence.values() => {
            (Clarity::None, best, None, evidence.values() - reads)
        }
        _ => return None,
    };
    let decimals = evidence.decimals_of(&notation);
    Some(LookedAmounts {
        verdict,
        notation,
        other,
        decimals,
        negative: evidence.negative(),
        credit_and_debit: evidence.credit_and_debit(),
        currencies: evidence.currencies().map(|(sign, count)| (sign.to_owned(), count)).collect(),
        failed,
        failures: evidence.failures(),
    })
}

/// What whole numbers of a column would be as dates, where its header speaks of one and they lie where dates of people's lives do.
fn perhaps_dates(name: &str, range: Option<(i64, i64)>) -> Option<(&'static str, Date, Date)> {
    const WORDS: [&str; 20] = [
        "date", "day", "datum", "fecha", "data", "issued", "due", "paid", "start", "end", "begin", "hired",
        "left", "born", "birth", "since", "until", "at", "on", "time",
    ];
    let name = name.to_lowercase();
    let speaks_of_one = name.split(|sign: char| !sign.is_alphanumeric()).any(|word| WORDS.contains(&word));
    let (low, high) = range.filter(|_| speaks_of_one)?;
    let since_1970 = |number: i64, unit: i64| {
        let day = i32::try_from((number * unit).div_euclid(86_400_000)).ok()?;
        Date::from_day_number(day).ok()
    };
    match (low, high) {
        (10_000..=80_000, 10_000..=80_000) => Some((
            SerialSystem::From1900.word(),
            SerialSystem::From1900.date_of(low).ok()?,
            SerialSystem::From1900.date_of(high).ok()?,
        )),
        (100_000_000..=4_200_000_000, 100_000_000..=4_200_000_000) => {
            Some(("seconds since 1970", since_1970(low, 1_000)?, since_1970(high, 1_000)?))
        }
        (100_000_000_000..=4_200_000_000_000, 100_000_000_000..=4_200_000_000_000) => {
            Some(("milliseconds since 1970", since_1970(low, 1)?, since_1970(high, 1)?))
        }
        _ => None,
    }
}
