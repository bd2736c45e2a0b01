//! Walking a text along a pattern.

use super::fault::Fault;
use super::language::Language;
use super::names::{month_before, weekday_before};
use super::settings::{PatternSettings, PeriodDay};
use super::{Digits, Piece};
use crate::date::clock_time::{ClockText, read_clock};
use crate::date::year_month_day::month_length;
use crate::date::zone_text::{ClockFault, ZoneText, read_zone_text};
use crate::date::{ClockTime, Date, FinerDigits, Weekday};
use crate::error::ErrorKind;

/// The text read: a finished date, or three numbers that may not make one.
pub(super) enum Parts {
    Known(Date),
    Civil { year: i32, month: u8, day: u8 },
}

/// A text taken apart by pieces.
pub(super) struct PiecesRead {
    pub(super) parts: Parts,
    pub(super) time: Option<ClockText>,
    /// The day of the week that the text says it is.
    pub(super) weekday: Option<Weekday>,
}

/// A time of day whose numbers are in their places of a pattern.
#[derive(Default)]
struct PlacedTime {
    hour: u8,
    minute: u8,
    second: u8,
    /// Of the second.
    microseconds: i64,
    is_finer: bool,
    half: Option<HalfDay>,
}

/// The half of a day that an hour from 1 to 12 belongs to.
#[derive(Clone, Copy)]
enum HalfDay {
    BeforeNoon,
    AfterNoon,
}

/// Reads a text by the pieces of a pattern; a time of day may follow where the pattern has none.
pub(super) fn pieces(pieces: &[Piece], settings: PatternSettings, text: &[u8]) -> Result<PiecesRead, Fault> {
    let (mut year, mut month, mut day, mut weekday) = (0, 0, 0, None);
    let mut time: Option<PlacedTime> = None;
    let mut rest = text;
    for (nth, piece) in pieces.iter().enumerate() {
        match piece {
            Piece::Day(digits) => {
                day = number(&mut rest, *digits)?;
                pass_ordinal(&mut rest, settings.language, day);
            }
            Piece::Month(digits) => month = number(&mut rest, *digits)?,
            Piece::MonthName => {
                month = name(&mut rest, |text| month_before(text, settings.language), Fault::MonthName)?;
                pass_short_point(&mut rest, pieces.get(nth + 1));
            }
            Piece::WeekdayName => {
                let found =
                    name(&mut rest, |text| weekday_before(text, settings.language), Fault::WeekdayName)?;
                weekday = Some(found);
                pass_short_point(&mut rest, pieces.get(nth + 1));
            }
            Piece::Quarter => month = quarter(&mut rest, settings)?,
            Piece::Year => year = four_digits(&mut rest)?,
            Piece::ShortYear => year = two_digits(&mut rest, settings.pivot.unwrap_or(1))?,
            Piece::Hour(digits) => {
                time.get_or_insert_default().hour = number(&mut rest, *digits)?;
            }
            Piece::Minute => time.get_or_insert_default().minute = number(&mut rest, Digits::Two)?,
            Piece::Second => {
                let time = time.get_or_insert_default();
                time.second = number(&mut rest, Digits::Two)?;
                (time.microseconds, time.is_finer) = fraction(&mut rest);
            }
            Piece::HalfDay => {
                time.get_or_insert_default().half = Some(half_day(&mut rest).ok_or(Fault::HalfDay)?);
            }
            Piece::Literal(b' ') => pass_spaces(&mut rest, settings.language)?,
            Piece::Literal(sign) => match rest.split_first() {
                Some((first, after)) if first == sign => rest = after,
                Some(_) => return Err(Fault::Shape),
                None => return Err(Fault::TooShort),
            },
        }
    }
    let time = match time {
        Some(time) => Some(clock_of(&time, rest)?),
        None => time_behind(rest)?,
    };
    if let (0, Some(edge)) = (day, settings.day) {
        day = edge_day(year, month, edge)?;
    }
    Ok(PiecesRead { parts: Parts::Civil { year, month, day }, time, weekday })
}

/// Reads an ISO 8601 date of any form; a time of day may follow.
pub(super) fn iso(text: &str) -> Result<(Parts, Option<ClockText>), Fault> {
    // Letters and characters of a day are single bytes; what else there is belongs to a wide space.
    let is_end = |byte: u8| matches!(byte, b'T' | b' ' | 0x80..);
    let (day, behind) = match text.as_bytes().get(10) {
        // What nearly all have: a calendar date with nothing after it.
        None if !text.bytes().any(is_end) => (text, ""),
        _ => text.split_at(text.bytes().position(is_end).unwrap_or(text.len())),
    };
    let time = time_behind(behind.as_bytes())?;
    let bytes = day.as_bytes();
    if let [_, _, _, _, b'-', m1, m2, b'-', d1, d2] = bytes
        && [m1, m2, d1, d2].into_iter().chain(&bytes[..4]).all(u8::is_ascii_digit)
    {
        let two = |tens: u8, ones: u8| (tens - b'0') * 10 + (ones - b'0');
        let year = i32::from(two(bytes[0], bytes[1])) * 100 + i32::from(two(bytes[2], bytes[3]));
        return Ok((Parts::Civil { year, month: two(*m1, *m2), day: two(*d1, *d2) }, time));
    }
    match day.parse() {
        Ok(date) => Ok((Parts::Known(date), time)),
        Err(error) if error.kind() != ErrorKind::Unreadable => Err(Fault::Iso),
        Err(_) => Err(Fault::Shape),
    }
}

fn number(rest: &mut &[u8], digits: Digits) -> Result<u8, Fault> {
    match (digits, *rest) {
        (_, [tens @ b'0'..=b'9', ones @ b'0'..=b'9', after @ ..]) => {
            *rest = after;
            Ok((tens - b'0') * 10 + (ones - b'0'))
        }
        (Digits::OneOrTwo, [ones @ b'0'..=b'9', after @ ..]) => {
            *rest = after;
            Ok(ones - b'0')
        }
        (_, []) => Err(Fault::TooShort),
        _ => Err(Fault::Shape),
    }
}

/// French writes the first day of a month as `1er`.
fn pass_ordinal(rest: &mut &[u8], language: Language, day: u8) {
    if let (Language::French, 1, [b'e' | b'E', b'r' | b'R', after @ ..]) = (language, day, *rest) {
        *rest = after;
    }
}

/// A short name may have a point after it, unless the pattern has one there itself.
fn pass_short_point(rest: &mut &[u8], next: Option<&Piece>) {
    if let ([b'.', after @ ..], true) = (*rest, next != Some(&Piece::Literal(b'.'))) {
        *rest = after;
    }
}

/// One space or several, of any width, and a linking word where the language has one.
fn pass_spaces(rest: &mut &[u8], language: Language) -> Result<(), Fault> {
    let before = rest.len();
    *rest = without_spaces(rest);
    if rest.len() == before {
        return Err(if rest.is_empty() { Fault::TooShort } else { Fault::Shape });
    }
    if let (true, [b'd' | b'D', b'e' | b'E', after @ ..]) = (language.has_linking_word(), *rest) {
        let behind = match after {
            [b'l' | b'L', behind @ ..] if language == Language::Spanish => behind,
            behind => behind,
        };
        let trimmed = without_spaces(behind);
        if trimmed.len() < behind.len() {
            *rest = trimmed;
        }
    }
    Ok(())
}

/// The text after the spaces that it begins with.
fn without_spaces(text: &[u8]) -> &[u8] {
    match text {
        [b' ', next @ 0x21..=0x7f, ..] if !next.is_ascii_whitespace() => text.get(1..).unwrap_or_default(),
        [first, ..] if first.is_ascii_whitespace() || *first >= 0x80 => {
            core::str::from_utf8(text).map_or(text, |text| text.trim_start().as_bytes())
        }
        _ => text,
    }
}

fn two_digits(rest: &mut &[u8], pivot: i32) -> Result<i32, Fault> {
    let count = rest.iter().take_while(|sign| sign.is_ascii_digit()).count();
    match (count, *rest) {
        (2, [tens, ones, after @ ..]) => {
            *rest = after;
            let year = i32::from(tens - b'0') * 10 + i32::from(ones - b'0');
            Ok(pivot + (year - pivot).rem_euclid(100))
        }
        (_, []) => Err(Fault::TooShort),
        (0, _) => Err(Fault::Shape),
        // Where another number follows without a character between, two of the digits are the year's.
        (6.., [tens, ones, after @ ..]) => {
            *rest = after;
            let year = i32::from(tens - b'0') * 10 + i32::from(ones - b'0');
            Ok(pivot + (year - pivot).rem_euclid(100))
        }
        _ => Err(Fault::ShortYearDigits),
    }
}

fn four_digits(rest: &mut &[u8]) -> Result<i32, Fault> {
    let count = rest.iter().take_while(|sign| sign.is_ascii_digit()).count();
    match (count, rest.is_empty()) {
        (4, _) => {}
        (_, true) => return Err(Fault::TooShort),
        (0, _) => return Err(Fault::Shape),
        // Where another number follows without a character between, four of the digits are the year's.
        (6.., _) if count == 6 || count >= 8 => {}
        _ => return Err(Fault::YearDigits),
    }
    let (year, after) = rest.split_at(4);
    *rest = after;
    Ok(year.iter().fold(0, |sum, sign| sum * 10 + i32::from(sign - b'0')))
}

fn name<T>(rest: &mut &[u8], before: impl Fn(&str) -> Option<(T, &str)>, fault: Fault) -> Result<T, Fault> {
    match rest.first() {
        None => return Err(Fault::TooShort),
        Some(sign) if !sign.is_ascii_alphabetic() && *sign < 0x80 => return Err(Fault::Shape),
        Some(_) => {}
    }
    // The text was text, and was cut between whole characters.
    let text = core::str::from_utf8(rest).map_err(|_| fault)?;
    let (value, after) = before(text).ok_or(fault)?;
    *rest = after.as_bytes();
    Ok(value)
}

/// The quarter, with or without its letter, as its first or last month.
fn quarter(rest: &mut &[u8], settings: PatternSettings) -> Result<u8, Fault> {
    let behind = match *rest {
        [b'Q' | b'q', after @ ..] => after,
        [b'T' | b't', after @ ..] if settings.language.has_trimesters() => after,
        [] => return Err(Fault::TooShort),
        other => other,
    };
    let (quarter, after) = match behind {
        [digit @ b'1'..=b'4', after @ ..] => (digit - b'0', after),
        [b'0'..=b'9', ..] => return Err(Fault::Quarter),
        _ => return Err(Fault::Shape),
    };
    *rest = match after {
        [b'Q' | b'q', after @ ..] => after,
        [b'T' | b't', after @ ..] if settings.language.has_trimesters() => after,
        after => after,
    };
    Ok(match settings.day {
        Some(PeriodDay::Last) => quarter * 3,
        _ => quarter * 3 - 2,
    })
}

/// The first or the last day of a month.
fn edge_day(year: i32, month: u8, edge: PeriodDay) -> Result<u8, Fault> {
    super::fault::date_of(year, month, 1)?;
    Ok(match edge {
        PeriodDay::First => 1,
        PeriodDay::Last => month_length(year, month),
    })
}

/// A fraction of a second after it, in microseconds, and whether it is finer than those.
fn fraction(rest: &mut &[u8]) -> (i64, bool) {
    let [b'.' | b',', digits @ ..] = *rest else { return (0, false) };
    let count = digits.iter().take_while(|sign| sign.is_ascii_digit()).count();
    if count == 0 {
        return (0, false);
    }
    let (digits, after) = digits.split_at(count);
    *rest = after;
    let digit = |nth: usize| digits.get(nth).map_or(0, |sign| i64::from(sign - b'0'));
    let is_finer = digits.iter().skip(6).any(|sign| *sign != b'0');
    ((0..6).fold(0, |sum, nth| sum * 10 + digit(nth)), is_finer)
}

/// AM or PM, in any case, with points or without.
fn half_day(rest: &mut &[u8]) -> Option<HalfDay> {
    let (half, after) = match *rest {
        [b'a' | b'A', after @ ..] => (HalfDay::BeforeNoon, after),
        [b'p' | b'P', after @ ..] => (HalfDay::AfterNoon, after),
        _ => return None,
    };
    let after = match after {
        [b'm' | b'M', after @ ..] | [b'.', b'm' | b'M', b'.', after @ ..] => after,
        _ => return None,
    };
    // The letters of a zone's clock may begin so too.
    if after.first().is_some_and(u8::is_ascii_alphabetic) {
        return None;
    }
    *rest = after;
    Some(half)
}

/// The hour from 0 to 23 of one from 1 to 12.
fn hour_of(hour: u8, half: Option<HalfDay>) -> Result<u8, Fault> {
    match (half, hour) {
        (None, hour) => Ok(hour),
        (Some(HalfDay::BeforeNoon), 1..=12) => Ok(hour % 12),
        (Some(HalfDay::AfterNoon), 1..=12) => Ok(hour % 12 + 12),
        (Some(_), _) => Err(Fault::TimeOfDay),
    }
}

/// A time of day after a date, after a space or a T; nothing is not a time.
fn time_behind(text: &[u8]) -> Result<Option<ClockText>, Fault> {
    let clock = match text {
        [] => return Ok(None),
        [b'T', clock @ ..] => clock,
        [b' ' | 0x80.., ..] => without_spaces(text),
        _ => return Err(Fault::Trailing),
    };
    let is_number = |sign: &u8| sign.is_ascii_digit() || matches!(sign, b':' | b'.' | b',');
    let end = clock.iter().position(|sign| !is_number(sign)).unwrap_or(clock.len());
    let (numbers, behind) = clock.split_at(end);
    let mut behind = without_spaces(behind);
    let half = half_day(&mut behind);
    let read = read_clock(numbers).map_err(|fault| match fault {
        ClockFault::Shape => Fault::Trailing,
        ClockFault::NoSuchTime => Fault::TimeOfDay,
    })?;
    let hour = hour_of(read.time.hour(), half)?;
    let moved = (i64::from(hour) - i64::from(read.time.hour())) * 3_600_000_000;
    let time = ClockTime::of_known(read.time.microseconds() + moved);
    Ok(Some(ClockText { time, zone: zone_behind(behind)?, ..read }))
}

/// Nothing, an offset, a word for UTC or the name of a zone, perhaps after spaces.
fn zone_behind(text: &[u8]) -> Result<ZoneText, Fault> {
    read_zone_text(without_spaces(text)).map_err(|fault| match fault {
        ClockFault::Shape => Fault::Trailing,
        ClockFault::NoSuchTime => Fault::TimeOfDay,
    })
}

/// The time of numbers that were in their places of a pattern, and what comes after it.
fn clock_of(placed: &PlacedTime, behind: &[u8]) -> Result<ClockText, Fault> {
    let hour = hour_of(placed.hour, placed.half)?;
    let time = ClockTime::new(hour, placed.minute, placed.second).map_err(|_| Fault::TimeOfDay)?;
    let finer = if placed.is_finer { FinerDigits::Dropped } else { FinerDigits::Absent };
    let time = ClockTime::of_known(time.microseconds() + placed.microseconds);
    Ok(ClockText { time, finer, zone: zone_behind(behind)? })
}
