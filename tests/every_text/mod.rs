//! Every text that the library parses, read from one text; shared with the fuzzer.

use mild_ledger::{
    AmountEvidence, ClockMeasure, ClockTime, ClockUnit, CountRule, CreditsStand, Date, DateEvidence,
    DateField, DateMove, DatePattern, DateTime, DateTimeReading, DayCount, Decimal, DecimalMark, Ends,
    FiscalNaming, FiscalYear, HalfDays, HolidayLength, LabelPattern, Language, Measure, MonthEnd, NamedDay,
    NamedWindow, Nearness, NegativeForm, Notation, OpenSpan, OutlierSide, PatternSettings, PeriodDay,
    PeriodRule, Reading, RestDays, Roll, Rounding, Scale, SerialSystem, Shift, SubstituteCloses,
    ThousandsMark, Unit, WeekNumbers, WeekYear, Weekday, WeekdayMove, WeekdayNumbers, WorkCalendar,
};
use std::fmt::{Debug, Display};
use std::str::FromStr;

/// Reads a text as everything that it might be. Nothing panics, and each value read is written and read again as the same.
#[allow(unreachable_pub)] // shared by two crates
pub fn read(text: &str) {
    let days = [Date::MIN, Date::MAX, Date::from_day_number(20_726).unwrap_or(Date::MIN)];
    again::<Date>(text);
    again::<DateTime>(text);
    again::<ClockTime>(text);
    again::<DateField>(text);
    again::<Unit>(text);
    again::<ClockUnit>(text);
    again::<MonthEnd>(text);
    again::<WeekdayMove>(text);
    again::<CountRule>(text);
    again::<Measure>(text);
    again::<ClockMeasure>(text);
    again::<Ends>(text);
    again::<Rounding>(text);
    again::<DayCount>(text);
    again::<FiscalNaming>(text);
    again::<Nearness>(text);
    again::<NamedWindow>(text);
    again::<WeekNumbers>(text);
    again::<WeekdayNumbers>(text);
    again::<RestDays>(text);
    again::<HalfDays>(text);
    again::<HolidayLength>(text);
    again::<SubstituteCloses>(text);
    again::<OpenSpan>(text);
    again::<CreditsStand>(text);
    again::<OutlierSide>(text);
    again::<Decimal>(text);
    again::<Language>(text);
    again::<SerialSystem>(text);
    let _ = FiscalYear::starting_on(text);
    let _ = text.parse::<Weekday>();
    if let Ok(shift) = text.parse::<Shift>() {
        for day in days {
            let moved = shift.apply(day);
            assert_eq!(
                shift.why(day).map(|working| working.figure().to_owned()),
                moved.map(|day| day.to_string())
            );
            let at = DateTime::new(day, ClockTime::LAST);
            let moved = shift.apply_at(at);
            assert_eq!(
                shift.why_at(at).map(|working| working.figure().to_owned()),
                moved.map(|at| at.to_string())
            );
        }
        // Working days too, each move with its working, wherever the date lies.
        let week = WorkCalendar::rest_days_only(RestDays::default());
        for roll in Roll::ALL.iter().copied() {
            let by = DateMove::by(shift).rolled(roll);
            for day in days {
                let moved = by.apply(day, Some(&week)).map(|day| day.to_string());
                let why = by.why(day, Some(&week)).map(|why| why.working().figure().to_owned());
                assert_eq!(why, moved, "{text:?}");
            }
        }
        let _ = shift.times(i32::MAX);
        let _ = shift.and(shift);
    }
    if let Ok(weekday) = text.parse::<WeekdayMove>() {
        let _ = days.map(|day| weekday.apply(day));
    }
    if let Ok(rule) = text.parse::<WeekYear>() {
        let _ = days.map(|day| PeriodRule::WeekPeriod(rule).why(day));
    }
    if let Ok(label) = text.parse::<LabelPattern>() {
        let _ = days.map(|day| label.write(day, FiscalYear::default()));
    }
    if let Ok(day) = text.parse::<NamedDay>() {
        let _ = days.map(|today| day.seen_from(today));
    }
    if let Ok(window) = text.parse::<NamedWindow>() {
        let _ = days.map(|today| window.seen_from(today).map(|days| assert!(days.days() >= 1)));
    }
    for decimals in [0, 2, 18] {
        let amount = Scale::new(decimals).and_then(|scale| scale.read(text));
        if let Ok(amount) = amount {
            assert_eq!(Scale::new(decimals).and_then(|scale| scale.read(&amount.to_string())), Ok(amount));
        }
    }
    // Amounts as they may be written: what one notation reads, plainly written, is read as the same.
    for decimal in DecimalMark::ALL {
        for thousands in ThousandsMark::ALL {
            let Ok(marked) = Notation::with_marks(decimal, thousands) else { continue };
            let all = marked
                .with_negatives(NegativeForm::Brackets)
                .with_negatives(NegativeForm::Credit)
                .with_sign("€");
            let Ok(scale) = Scale::new(2) else { continue };
            if let Ok(amount) = all.read(text, scale) {
                assert_eq!(Notation::plain().read(&amount.to_string(), scale), Ok(amount));
            }
        }
    }
    let (mut dates, mut amounts) = (DateEvidence::new(), AmountEvidence::new());
    for (row, line) in (1..).zip(text.lines()) {
        dates.note(line, row);
        amounts.note(line, row);
    }
    let _ = (format!("{:?}", dates.verdict()), amounts.verdict());
    // A pattern, and after a line's end a text to read by it.
    let (pattern, dates) = text.split_once('\n').unwrap_or((text, text));
    let settings = [PatternSettings::new(), PatternSettings::new().with_language(Language::Spanish)]
        .into_iter()
        .chain(PatternSettings::new().with_pivot(1950))
        .chain([PatternSettings::new().with_day(PeriodDay::Last)]);
    let patterns = settings.filter_map(|settings| DatePattern::with_settings(pattern, settings).ok());
    for pattern in patterns.chain([DatePattern::iso()]) {
        assert_eq!(
            pattern.to_string().parse::<DatePattern>().map(|again| again.to_string()),
            Ok(pattern.to_string())
        );
        let by_date: Result<Reading, _> = pattern.read(dates);
        let by_time = pattern.read_date_time(dates);
        if let (Ok(Reading::Date { date, .. }), Ok(DateTimeReading::DateTime { at, .. })) = (by_date, by_time)
        {
            assert_eq!(date, at.date());
        }
    }
}

fn again<T: FromStr + Display + PartialEq + Debug>(text: &str) {
    if let Ok(read) = text.parse::<T>() {
        assert_eq!(read.to_string().parse().ok(), Some(read), "{text:?}");
    }
}
