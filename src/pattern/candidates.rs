//! The fixed list of patterns that a column of dates is tried for.

use super::DatePattern;
use super::language::Language;
use super::settings::PatternSettings;

/// Version 2 of the candidates: forms of numbers alone, ISO 8601 first. A year followed by a day and then a month is none.
const NUMBERS: [&str; 9] = [
    "iso",
    "day/month/year",
    "month/day/year",
    "year/month/day",
    "day.month.year",
    "year.month.day",
    "day-month-year",
    "month-day-year",
    "yearmonthday",
];

/// Forms with names, each of which is tried in every language.
const NAMES: [&str; 11] = [
    "day month-name year",
    "day-month-name-year",
    "day/month-name/year",
    "day.month-name.year",
    "day. month-name year",
    "month-name day, year",
    "month-name day year",
    "year month-name day",
    "weekday-name day month-name year",
    "weekday-name, day month-name year",
    "weekday-name, month-name day, year",
];

/// What is tried next to them once none of them reads a column: forms that want something to be named with them.
const WANTING: [(&str, &str); 9] = [
    ("day/month/short-year", PIVOT),
    ("month/day/short-year", PIVOT),
    ("day.month.short-year", PIVOT),
    ("day-month-short-year", PIVOT),
    ("day-month-name-short-year", PIVOT),
    ("day month-name short-year", PIVOT),
    ("year-month", PERIOD),
    ("month-name year", PERIOD),
    ("quarter year", PERIOD),
];

const PIVOT: &str = "a pivot year for years of two digits";
const PERIOD: &str = "whether the period's first or last day is meant";

impl DatePattern {
    /// The fixed list of patterns (version 2) that a column of dates is tried for: forms of numbers with the ISO ones first,
    /// then forms with names, each in every language. A year followed by a day and then a month is not among them.
    ///
    /// ```
    /// use mild_ledger::DatePattern;
    /// assert_eq!(DatePattern::candidates().next(), Some(DatePattern::iso()));
    /// assert_eq!(DatePattern::candidates().count(), 9 + 7 * 11);
    /// ```
    pub fn candidates() -> impl Iterator<Item = Self> {
        let numbers = NUMBERS.into_iter().map(|words| (words, Language::English));
        let named = |language: Language| NAMES.into_iter().map(move |words| (words, language));
        numbers.chain(Language::ALL.into_iter().flat_map(named)).filter_map(|(words, language)| {
            Self::with_settings(words, PatternSettings::new().with_language(language)).ok()
        })
    }

    /// Patterns that want something named next to them, each with what: they are never found, only told of where no
    /// candidate reads a column.
    ///
    /// ```
    /// use mild_ledger::DatePattern;
    /// let (pattern, wants) = DatePattern::wanting().next().unwrap();
    /// assert!(pattern.reads("30/09/26"));
    /// assert_eq!(wants, "a pivot year for years of two digits");
    /// ```
    pub fn wanting() -> impl Iterator<Item = (Self, &'static str)> {
        let settings = |wants: &str| match wants {
            PIVOT => PatternSettings::new().with_pivot(1950).ok(),
            _ => Some(PatternSettings::new().with_day(super::PeriodDay::First)),
        };
        WANTING.into_iter().filter_map(move |(words, wants)| {
            let pattern = Self::with_settings(words, settings(wants)?).ok()?;
            Some((pattern, wants))
        })
    }
}
