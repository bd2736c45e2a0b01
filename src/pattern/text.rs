//! Patterns in words and in POSIX letters.

use super::{DatePattern, Digits, Form, Piece};
use crate::error::{Error, ErrorKind, quoted};
use alloc::borrow::ToOwned;
use alloc::format;
use alloc::string::String;
use alloc::vec::Vec;
use core::fmt;
use core::str::FromStr;

/// Reads a pattern in words, in POSIX `strftime` letters, or `iso`.
impl FromStr for DatePattern {
    type Err = Error;

    fn from_str(text: &str) -> Result<Self, Error> {
        let source = text.trim();
        if source == "iso" {
            return Ok(Self::iso());
        }
        let mut pieces = if source.contains('%') { from_letters(source)? } else { from_words(source)? };
        check(source, &pieces)?;
        separate(&mut pieces);
        Ok(Self { form: Form::Pieces(pieces), source: source.to_owned() })
    }
}

/// Version 1 of the candidates: the forms of dates that a column is tried for.
const CANDIDATES: [&str; 15] = [
    "iso",
    "day/month/year",
    "month/day/year",
    "year/month/day",
    "day.month.year",
    "year.month.day",
    "day-month-year",
    "month-day-year",
    "yearmonthday",
    "day month-name year",
    "day-month-name-year",
    "month-name day, year",
    "month-name day year",
    "day. month-name year",
    "year month-name day",
];

impl DatePattern {
    /// The fixed list of patterns (version 1) that a column of dates is tried for, ISO forms first. A year followed by a day
    /// and then a month is not among them.
    ///
    /// ```
    /// use mild_ledger::DatePattern;
    /// assert_eq!(DatePattern::candidates().next(), Some(DatePattern::iso()));
    /// assert_eq!(DatePattern::candidates().count(), 15);
    /// ```
    pub fn candidates() -> impl Iterator<Item = Self> {
        CANDIDATES.into_iter().filter_map(|pattern| pattern.parse().ok())
    }

    /// The pattern in words for one in the letters that many programs use, such as `dd/mm/yyyy`; `None` for another text.
    ///
    /// ```
    /// use mild_ledger::DatePattern;
    /// assert_eq!(DatePattern::words_for_letters("DD/MM/YYYY").as_deref(), Some("day/month/year"));
    /// assert_eq!(DatePattern::words_for_letters("d mmm yyyy").as_deref(), Some("day month-name year"));
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
                ('m', 1 | 2) => words.push_str("month"),
                ('m', 3 | 4) => words.push_str("month-name"),
                ('y', 4) => words.push_str("year"),
                (sign, _) if !sign.is_alphanumeric() => words.push_str(&rest[..length]),
                _ => return None,
            }
            rest = &rest[length..];
        }
        words.parse::<Self>().ok().map(|_| words)
    }
}

impl fmt::Display for DatePattern {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        f.pad(&self.source)
    }
}

/// Longest first, so that `month-name` is not taken for `month`.
const WORDS: [(&str, Piece); 7] = [
    ("month-name", Piece::MonthName),
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
        "iso, or the words day, month, month-name and year in their order, such as day/month/year",
    )
}

fn literal(source: &str, sign: char) -> Result<Piece, Error> {
    match u8::try_from(sign) {
        Ok(sign) if sign.is_ascii_graphic() || sign == b' ' => Ok(Piece::Literal(sign)),
        _ => Err(refused(source, format!("'{}' cannot stand between its parts", sign.escape_debug()))),
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
            Some('Y') => pieces.push(Piece::Year),
            Some('H') => pieces.push(Piece::Hour(Digits::OneOrTwo)),
            Some('M') => pieces.push(Piece::Minute),
            Some('S') => pieces.push(Piece::Second),
            Some('%') => pieces.push(Piece::Literal(b'%')),
            Some('F') => pieces.extend(from_letters("%Y-%m-%d")?),
            Some('T') => pieces.extend(from_letters("%H:%M:%S")?),
            Some('y' | 'D') => {
                return Err(refused(source, "a year of two digits could be of any century"));
            }
            Some(other) => return Err(refused(source, format!("%{other} is not understood"))),
            None => return Err(refused(source, "a letter is missing behind the %")),
        }
    }
    Ok(pieces)
}

/// Each part of the date stands in it once, and those of the time at most once.
fn check(source: &str, pieces: &[Piece]) -> Result<(), Error> {
    let count = |wanted: fn(&Piece) -> bool| pieces.iter().filter(|piece| wanted(piece)).count();
    let parts = [
        ("day", count(|piece| matches!(piece, Piece::Day(_)))),
        ("month", count(|piece| matches!(piece, Piece::Month(_) | Piece::MonthName))),
        ("year", count(|piece| matches!(piece, Piece::Year))),
    ];
    for (part, times) in parts {
        match times {
            1 => {}
            0 => return Err(refused(source, format!("the {part} is missing"))),
            _ => return Err(refused(source, format!("the {part} stands in it {times} times"))),
        }
    }
    let hours = count(|piece| matches!(piece, Piece::Hour(_)));
    let minutes = count(|piece| matches!(piece, Piece::Minute));
    let seconds = count(|piece| matches!(piece, Piece::Second));
    match (hours, minutes, seconds) {
        (0, 0, 0) | (1, 1, 0 | 1) => Ok(()),
        _ => Err(refused(source, "a time of day is an hour and a minute, and perhaps a second")),
    }
}

/// Numbers with no sign between them have two digits.
fn separate(pieces: &mut [Piece]) {
    let is_number = |piece: &Piece| !matches!(piece, Piece::Literal(_) | Piece::MonthName);
    for at in 0..pieces.len() {
        let touches = (at > 0 && is_number(&pieces[at - 1])) || pieces.get(at + 1).is_some_and(is_number);
        if let (true, Piece::Day(digits) | Piece::Month(digits) | Piece::Hour(digits)) =
            (touches, &mut pieces[at])
        {
            *digits = Digits::Two;
        }
    }
}
