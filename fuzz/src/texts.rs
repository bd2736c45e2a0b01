//! Texts that the library reads.

use mild_ledger::{
    AmountEvidence, DateEvidence, DatePattern, Language, Notation, NotationVerdict, PatternSettings,
    PatternVerdict, Reading, Scale, WritingPattern,
};
use std::sync::LazyLock;

/// Amounts, one a line. A notation that is found reads each of them, and what it reads is read as the same where it is written plainly.
pub fn amounts(text: &str) {
    let mut evidence = AmountEvidence::new();
    (1..).zip(text.lines()).for_each(|(row, line)| evidence.note(line, row));
    let scale = Scale::new(evidence.decimals().min(18)).expect("18 decimals are held");
    let verdict = evidence.verdict();
    if let NotationVerdict::Found(notation) = &verdict {
        for line in text.lines().filter(|line| !line.trim().is_empty()) {
            // The notation found reads all values, but for those that are too large to hold.
            if let Ok(amount) = notation.read(line, scale) {
                assert_eq!(Notation::plain().read(&amount.to_string(), scale), Ok(amount), "{line:?}");
            }
        }
    }
    // Parts of a column, merged, tell the same as the whole.
    let (mut odd, mut even) = (AmountEvidence::new(), AmountEvidence::new());
    for (row, line) in (1..).zip(text.lines()) {
        if row % 2 == 1 { odd.note(line, row) } else { even.note(line, row) }
    }
    odd.merge(&even);
    assert_eq!(format!("{:?}", odd.verdict()), format!("{verdict:?}"));
}

/// A pattern in the first line, and dates in those after it.
pub fn dates(text: &str) {
    let (pattern, dates) = text.split_once('\n').unwrap_or((text, ""));
    let languages = [Language::English, Language::Portuguese];
    let settings = languages.map(|language| PatternSettings::new().with_language(language));
    let with_pivot = settings.into_iter().filter_map(|settings| settings.with_pivot(1950).ok());
    for settings in settings.into_iter().chain(with_pivot) {
        let Ok(pattern) = DatePattern::with_settings(pattern, settings) else { continue };
        let writer = WritingPattern::of(&pattern);
        for line in dates.lines() {
            let Ok(Reading::Date { date, .. }) = pattern.read(line) else { continue };
            assert!(pattern.reads(line), "{line:?}");
            if let Ok(writer) = &writer {
                let written = writer.write(date);
                let Ok(Reading::Date { date: again, .. }) = pattern.read(&written) else {
                    // The years that two digits represent are those from the pivot on, which are the only ones that were read.
                    panic!("{written:?} is not read by {pattern}");
                };
                assert_eq!(again, date, "{written:?} by {pattern}");
            }
        }
    }
    // The candidates are worked out once.
    static NONE: LazyLock<DateEvidence> = LazyLock::new(DateEvidence::new);
    let mut evidence = NONE.clone();
    (1..).zip(dates.lines()).for_each(|(row, line)| evidence.note(line, row));
    if let PatternVerdict::Found(found) = evidence.verdict() {
        let reads =
            dates.lines().filter(|line| found.iter().all(|found| found.pattern().reads(line))).count();
        // A value with an offset or a zone becomes a date where a zone is named, and so counts as evidence. Here none is named.
        let are_all_in_zones = found.iter().all(|found| found.offsets() == found.reads());
        assert!(reads > 0 || are_all_in_zones, "a pattern was found that reads nothing");
    }
}
