//! The glossary lists the words of the code, all of them and no others, in the code's order.

#![allow(clippy::unwrap_used, clippy::expect_used)] // a test fails by panicking

use mild_ledger::{
    ClockUnit, CreditsStand, DateField, DayKind, DecimalMark, Ends, FiscalNaming, FiscalYear, HalfDays,
    HolidayLength, HolidayMove, Language, Measure, MonthEnd, Nearness, NegativeForm, PeriodDay, PeriodEdge,
    PeriodRule, Roll, Rounding, SerialSystem, Shift, SubstituteCloses, ThousandsMark, Unit, WeekNumbers,
    WeekYear, Weekday, WeekdayNumbers, YearEnding,
};
use std::fmt::Display;
use std::str::FromStr;

/// The words of a section: the first cell of each row of its table.
fn listed(section: &str) -> Vec<String> {
    let page = include_str!("../crates/mild-ledger-cli/help/glossary.md");
    let (_, rest) = page.split_once(&format!("\n## {section}\n")).unwrap();
    let body = rest.split("\n## ").next().unwrap();
    body.lines()
        .filter_map(|line| line.strip_prefix("| `"))
        .map(|line| line.split('`').next().unwrap().to_owned())
        .collect()
}

/// Each word is written as the page has it, and read back as the same choice.
fn held<T: Display + FromStr + PartialEq + std::fmt::Debug>(
    section: &str,
    choices: impl IntoIterator<Item = T>,
    word: impl Fn(&T) -> String,
) {
    let mut words = Vec::new();
    for choice in choices {
        words.push(word(&choice));
        assert_eq!(word(&choice).parse::<T>().ok(), Some(choice));
    }
    assert_eq!(listed(section), words, "{section}");
}

#[test]
fn the_glossary_has_the_words_of_the_code() {
    held("Units", Unit::ALL, ToString::to_string);
    held("Measures of an interval", Measure::all(), ToString::to_string);
    held("Ends", Ends::ALL, ToString::to_string);
    held("Month ends", MonthEnd::ALL, ToString::to_string);
    held("Places of credits", CreditsStand::ALL, ToString::to_string);
    held("Rounding", Rounding::ALL.iter().copied(), ToString::to_string);
    held("Languages of names", Language::ALL, ToString::to_string);
    held("Days of a period", PeriodDay::ALL, ToString::to_string);
    held("Serial numbers", SerialSystem::ALL, ToString::to_string);
    held("Decimal marks", DecimalMark::ALL, ToString::to_string);
    held("Thousands marks", ThousandsMark::ALL, ToString::to_string);
    held("Amounts below zero", NegativeForm::ALL, ToString::to_string);
    held("Weekdays", Weekday::ALL, |day| day.word().to_owned());
    held("Fields of a date", DateField::ALL.iter().copied(), ToString::to_string);
    let weeks = [WeekNumbers::iso(), WeekNumbers::new(Weekday::Sunday, 1).unwrap(), WeekNumbers::blocks()];
    held("Numbers of weeks", weeks, ToString::to_string);
    let weekdays = [WeekdayNumbers::default(), WeekdayNumbers::new(Weekday::Sunday, 0).unwrap()];
    held("Numbers of weekdays", weekdays, ToString::to_string);
    let rules = [
        PeriodRule::Week(Weekday::Monday),
        PeriodRule::Month,
        PeriodRule::Quarter,
        PeriodRule::HalfYear,
        PeriodRule::Year,
    ];
    let edges: Vec<String> = PeriodEdge::all(rules).map(|edge| edge.to_string()).collect();
    assert_eq!(listed("Starts and ends of periods"), edges);
    // Each short amount is read as the words in full are.
    let amounts = [
        "45 days",
        "3 weeks",
        "2 months",
        "1 year",
        "10 working days",
        "14 hours",
        "30 minutes",
        "15 seconds",
    ];
    let short = listed("Amounts of time");
    assert_eq!(short.len(), amounts.len());
    for (short, full) in short.iter().zip(amounts) {
        assert_eq!(short.parse::<Shift>(), full.parse(), "{short}");
    }
    held("Nearest starts", Nearness::ALL.iter().copied(), ToString::to_string);
    held("Units of the clock", ClockUnit::ALL, ToString::to_string);
    let periods =
        PeriodRule::all(Weekday::Monday, FiscalYear::default(), WeekYear::iso()).map(PeriodRule::word);
    assert_eq!(listed("Kinds of periods"), periods);
    held("Rolls", Roll::ALL.iter().copied(), ToString::to_string);
    held("What a moved holiday closes", SubstituteCloses::ALL, ToString::to_string);
    held("Lengths of a holiday", HolidayLength::ALL, ToString::to_string);
    held("Half days", HalfDays::ALL, ToString::to_string);
    assert_eq!(
        listed("Holidays on rest days"),
        HolidayMove::ALL.iter().map(|choice| choice.word()).collect::<Vec<_>>()
    );
    assert_eq!(
        listed("Days of a calendar"),
        DayKind::ALL.iter().map(|choice| choice.word()).collect::<Vec<_>>()
    );
    let naming = [FiscalNaming::End, FiscalNaming::Begin].map(|naming| naming.word());
    let ending = [YearEnding::LastInMonth, YearEnding::NearestMonthEnd].map(|ending| ending.word());
    assert_eq!(listed("Fiscal years and years of weeks"), [naming, ending].concat());
}
