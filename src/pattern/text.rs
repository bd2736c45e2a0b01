//! Patterns in words and in POSIX letters.

use super::serial::SerialSystem;
use super::settings::PatternSettings;
use super::{DatePattern, Digits, Form, Piece};
use crate::error::{Error, ErrorKind, quoted};
use alloc::borrow::ToOwned;
use alloc::format;
use alloc::string::String;
use alloc::vec::Vec;
use core::fmt;
use core::str::FromStr;

/// Reads a pattern in words, in POSIX `strftime` letters, or `iso`, with nothing next to it: names are English, and years
/// have four digits.
impl FromStr for DatePattern {
    type Err = Error;

    fn from_str(text: &str) -> Result<Self, Error> {
        Self::with_settings(text, PatternSettings::new())
    }
}

impl DatePattern {
    /// Reads a pattern in words, in POSIX `strftime` letters, or `iso`, with what is next to it.
    ///
    /// The words are `day`, `month`, `month-name`, `year`, `short-year`, `weekday-name`, `quarter`, `hour`, `minute`, `second`
    /// and `am/pm`; or the whole is one of `serial 1900`, `serial 1904`, `serial 1899-12-30`, `seconds since 1970` and
    /// `milliseconds since 1970`. What is next to them may also come after them in brackets, as `Display` writes it:
    /// `day. month-name year (german)`, `day/month/short-year (years 1950 to 2049)`, `year-month (last day)`.
    ///
    /// # Errors
    /// [`ErrorKind::Unreadable`] for a text that is not a pattern, for a short year without a pivot, and for a month or
    /// quarter without a day unless the settings name one.
    ///
    /// ```
    /// use mild_ledger::{DatePattern, PatternSettings};
    /// let settings = PatternSettings::new().with_pivot(1950)?;
    /// assert!(DatePattern::with_settings("day/month/short-year", settings)?.reads("30/09/26"));
    /// assert!("day/month/short-year".parse::<DatePattern>().is_err());
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    pub fn with_settings(text: &str, settings: PatternSettings) -> Result<Self, Error> {
        let (source, settings) = with_what_stands_behind(text.trim(), settings);
        let form = match source {
            "iso" => Form::Iso,
            "seconds since 1970" => Form::Since1970 { unit: 1_000_000 },
            "milliseconds since 1970" => Form::Since1970 { unit: 1_000 },
            _ => match source.parse::<SerialSystem>() {
                Ok(system) => Form::Serial(system),
                Err(_) => {
                    let mut pieces =
                        if source.contains('%') { from_letters(source)? } else { from_words(source)? };
                    check(source, &pieces, settings)?;
                    separate(&mut pieces);
                    Form::Pieces(pieces)
                }
            },
        };
        Ok(Self { form, settings, source: source.to_owned() })
    }

    /// The pattern in words for one in the letters that many programs use, such as `dd/mm/yyyy`; `None` for another text.
    ///
    /// ```
    /// use mild_ledger::DatePattern;
    /// assert_eq!(DatePattern::words_for_letters("DD/MM/YYYY").as_deref(), Some("day/month/year"));
    /// assert_eq!(DatePattern::words_for_letters("d mmm yyyy").as_deref(), Some("day month-name year"));
    /// assert_eq!(DatePattern::words_for_letters("dd/mm/yy hh:mm").as_deref(), Some("day/month/short-year hour:minute"));
    /// assert_eq!(DatePattern::words_for_letters("day/month/year"), None);
    /// ```
    #[must_use]
    pub fn words_for_letters(text: &str) -> Option<String> {
        let lower = text.trim().to_lowercase();
        let mut words = String::new();
        let mut rest = lower.as_str();
        while let Some(sign) = rest.chars().next() {
            let length = rest.len() - rest.trim_start_matches(sign).len();
            match (sign, length) {
                ('d', 1 | 2) => words.push_str("day"),
                ('d', 3 | 4) => words.push_str("weekday-name"),
                ('h', 1 | 2) => words.push_str("hour"),
                ('s', 2) => words.push_str("second"),
                ('m', 2) if words.ends_with("hour:") => words.push_str("minute"),
                ('m', 1 | 2) => words.push_str("month"),
                ('m', 3 | 4) => words.push_str("month-name"),
                ('y', 2) => words.push_str("short-year"),
                ('y', 4) => words.push_str("year"),
                (sign, _) if !sign.is_alphanumeric() => words.push_str(&rest[..length]),
                _ => return None,
            }
            rest = &rest[length..];
        }
        let any_century = PatternSettings { pivot: Some(1950), ..PatternSettings::new() };
        Self::with_settings(&words, any_century).ok().map(|_| words)
    }
}

/// Writes its words, and after them what is next to it, where that matters.
impl fmt::Display for DatePattern {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        let mut beside: Vec<String> = Vec::new();
        if self.has(|piece| matches!(piece, Piece::MonthName | Piece::WeekdayName))
            && self.settings.language != super::Language::English
        {
            beside.push(self.settings.language.word().to_owned());
        }
        if let (true, Some(pivot)) = (self.has(|piece| *piece == Piece::ShortYear), self.settings.pivot) {
            beside.push(format!("years {pivot} to {}", pivot + 99));
        }
        if let (false, Some(day)) = (self.has(|piece| matches!(piece, Piece::Day(_))), self.settings.day) {
            beside.push(format!("{day} day"));
        }
        if beside.is_empty() {
            return f.pad(&self.source);
        }
        f.pad(&format!("{} ({})", self.source, beside.join(", ")))
    }
}

/// The words, and the settings with those that come after the words in brackets; all as it is where nothing does.
fn with_what_stands_behind(source: &str, settings: PatternSettings) -> (&str, PatternSettings) {
    let taken_apart = || {
        let (words, behind) = source.strip_suffix(')')?.rsplit_once(" (")?;
        let mut settings = settings;
        for item in behind.split(", ") {
            let years = item.strip_prefix("years ").and_then(|years| years.split_once(" to "));
            settings = match (years, item.strip_suffix(" day")) {
                (Some((first, last)), _) => {
                    let (first, last): (i32, i32) = (first.parse().ok()?, last.parse().ok()?);
                    let with_pivot = settings.with_pivot(first).ok()?;
                    (last - first == 99).then_some(with_pivot)?
                }
                (_, Some(day)) => settings.with_day(day.parse().ok()?),
                _ => settings.with_language(item.parse().ok()?),
            };
        }
        Some((words, settings))
    };
    taken_apart().unwrap_or((source, settings))
}

/// Longest first, so that `month-name` is not taken for `month`.
const WORDS: [(&str, Piece); 11] = [
    ("weekday-name", Piece::WeekdayName),
    ("short-year", Piece::ShortYear),
    ("month-name", Piece::MonthName),
    ("quarter", Piece::Quarter),
    ("am/pm", Piece::HalfDay),
    ("month", Piece::Month(Digits::OneOrTwo)),
    ("minute", Piece::Minute),
    ("second", Piece::Second),
    ("hour", Piece::Hour(Digits::OneOrTwo)),
    ("year", Piece::Year),
    ("day", Piece::Day(Digits::OneOrTwo)),
];

fn refused(source: &str, why: impl fmt::Display) -> Error {
    Error::new(
        ErrorKind::Unreadable,
        format!("{} is not a date pattern: {why}", quoted(source)),
        "iso, or the words day, month, month-name, year and others in their order, such as day/month/year",
    )
}

fn literal(source: &str, sign: char) -> Result<Piece, Error> {
    match u8::try_from(sign) {
        Ok(sign) if sign.is_ascii_graphic() || sign == b' ' => Ok(Piece::Literal(sign)),
        _ => Err(refused(source, format!("'{}' cannot be between its parts", sign.escape_debug()))),
    }
}

fn from_words(source: &str) -> Result<Vec<Piece>, Error> {
    let mut pieces = Vec::new();
    let mut rest = source;
    while let Some(sign) = rest.chars().next() {
        if let Some((word, piece)) = WORDS.into_iter().find(|(word, _)| rest.starts_with(word)) {
            pieces.push(piece);
            rest = &rest[word.len()..];
        } else if sign.is_alphanumeric() {
            let end = rest.find(|sign: char| !sign.is_alphanumeric()).unwrap_or(rest.len());
            return Err(refused(source, format!("{} is not a part of a date", quoted(&rest[..end]))));
        } else {
            pieces.push(literal(source, sign)?);
            rest = &rest[sign.len_utf8()..];
        }
    }
    Ok(pieces)
}

fn from_letters(source: &str) -> Result<Vec<Piece>, Error> {
    let mut pieces = Vec::new();
    let mut signs = source.chars();
    while let Some(sign) = signs.next() {
        if sign != '%' {
            pieces.push(literal(source, sign)?);
            continue;
        }
        match signs.next() {
            Some('d' | 'e') => pieces.push(Piece::Day(Digits::OneOrTwo)),
            Some('m') => pieces.push(Piece::Month(Digits::OneOrTwo)),
            Some('b' | 'B' | 'h') => pieces.push(Piece::MonthName),
            Some('a' | 'A') => pieces.push(Piece::WeekdayName),
            Some('Y') => pieces.push(Piece::Year),
            Some('y') => pieces.push(Piece::ShortYear),
            Some('p') => pieces.push(Piece::HalfDay),
            Some('n' | 't') => pieces.push(Piece::Literal(b' ')),
            Some('R') => pieces.extend(from_letters("%H:%M")?),
            Some('r') => pieces.extend(from_letters("%I:%M:%S %p")?),
            Some('D') => pieces.extend(from_letters("%m/%d/%y")?),
            Some('H' | 'I') => pieces.push(Piece::Hour(Digits::OneOrTwo)),
            Some('M') => pieces.push(Piece::Minute),
            Some('S') => pieces.push(Piece::Second),
            Some('%') => pieces.push(Piece::Literal(b'%')),
            Some('F') => pieces.extend(from_letters("%Y-%m-%d")?),
            Some('T') => pieces.extend(from_letters("%H:%M:%S")?),
            Some(other) => return Err(refused(source, format!("%{other} is not understood"))),
            None => return Err(refused(source, "a letter is missing after the %")),
        }
    }
    Ok(pieces)
}

/// Each part of the date is in it once, and those of the time at most once.
fn check(source: &str, pieces: &[Piece], settings: PatternSettings) -> Result<(), Error> {
    let count = |wanted: fn(&Piece) -> bool| pieces.iter().filter(|piece| wanted(piece)).count();
    let days = count(|piece| matches!(piece, Piece::Day(_)));
    let months = count(|piece| matches!(piece, Piece::Month(_) | Piece::MonthName));
    let quarters = count(|piece| *piece == Piece::Quarter);
    let years = count(|piece| matches!(piece, Piece::Year | Piece::ShortYear));
    // Nothing but a year is not a period that a user writes a date for.
    let is_period = days == 0 && months + quarters == 1;
    let parts = match (is_period, settings.day) {
        (true, Some(_)) => [("day", 1), ("month", 1), ("year", years)],
        _ => [("day", days), ("month", months), ("year", years)],
    };
    for (part, times) in parts {
        match times {
            1 => {}
            0 if is_period => {
                let why =
                    "the day is missing, and nothing says whether the period's first or last day is meant";
                return Err(refused(source, why));
            }
            0 => return Err(refused(source, format!("the {part} is missing"))),
            _ => return Err(refused(source, format!("the {part} is in it {times} times"))),
        }
    }
    if quarters > 0 && !is_period {
        return Err(refused(source, "a quarter goes with a year alone"));
    }
    if let (false, Some(day)) = (is_period, settings.day) {
        return Err(refused(source, format!("it has a day, so none can be the {day} one")));
    }
    if count(|piece| *piece == Piece::ShortYear) > 0 && settings.pivot.is_none() {
        return Err(refused(source, "a year of two digits could be of any century, unless a pivot is named"));
    }
    if count(|piece| *piece == Piece::WeekdayName) > 1 {
        return Err(refused(source, "the weekday is in it twice"));
    }
    let hours = count(|piece| matches!(piece, Piece::Hour(_)));
    let minutes = count(|piece| matches!(piece, Piece::Minute));
    let seconds = count(|piece| matches!(piece, Piece::Second));
    let halves = count(|piece| *piece == Piece::HalfDay);
    match (hours, minutes, seconds, halves) {
        (0, 0, 0, 0) | (1, 1, 0 | 1, 0 | 1) => Ok(()),
        _ => {
            Err(refused(source, "a time of day is an hour and a minute, perhaps a second, and perhaps am/pm"))
        }
    }
}

/// Numbers with no character between them have two digits.
fn separate(pieces: &mut [Piece]) {
    let is_number = |piece: &Piece| {
        !matches!(piece, Piece::Literal(_) | Piece::MonthName | Piece::WeekdayName | Piece::HalfDay)
    };
    for at in 0..pieces.len() {
        let touches = (at > 0 && is_number(&pieces[at - 1])) || pieces.get(at + 1).is_some_and(is_number);
        if let (true, Piece::Day(digits) | Piece::Month(digits) | Piece::Hour(digits)) =
            (touches, &mut pieces[at])
        {
            *digits = Digits::Two;
        }
    }
}
