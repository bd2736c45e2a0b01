//! Walking a text along a pattern.

use super::fault::Fault;
use super::{Digits, Piece};
use crate::date::clock_time::{ClockFault, ClockText, read_clock};
use crate::date::{ClockTime, Date, FinerDigits, month_names};
use crate::error::ErrorKind;

/// What was read: a finished date, or three numbers that may not make one.
pub(super) enum Parts {
    Known(Date),
    Civil { year: i32, month: u8, day: u8 },
}

/// Reads a text by the pieces of a pattern; a time of day may follow where the pattern has none.
pub(super) fn pieces(pieces: &[Piece], text: &[u8]) -> Result<(Parts, Option<ClockText>), Fault> {
    let (mut year, mut month, mut day) = (0, 0, 0);
    let mut time: Option<[u8; 3]> = None;
    let mut rest = text;
    for piece in pieces {
        match piece {
            Piece::Day(digits) => day = number(&mut rest, *digits)?,
            Piece::Month(digits) => month = number(&mut rest, *digits)?,
            Piece::MonthName => month = month_name(&mut rest)?,
            Piece::Year => year = four_digits(&mut rest)?,
            Piece::Hour(digits) => time.get_or_insert([0; 3])[0] = number(&mut rest, *digits)?,
            Piece::Minute => time.get_or_insert([0; 3])[1] = number(&mut rest, Digits::Two)?,
            Piece::Second => time.get_or_insert([0; 3])[2] = number(&mut rest, Digits::Two)?,
            Piece::Literal(sign) => match rest.split_first() {
                Some((first, after)) if first == sign => rest = after,
                Some(_) => return Err(Fault::Shape),
                None => return Err(Fault::TooShort),
            },
        }
    }
    let time = match time {
        Some(time) if rest.is_empty() => Some(clock_of(time)?),
        Some(_) => return Err(Fault::Trailing),
        None => time_behind(rest)?,
    };
    Ok((Parts::Civil { year, month, day }, time))
}

/// Reads an ISO 8601 date of any form; a time of day may follow.
pub(super) fn iso(text: &str) -> Result<(Parts, Option<ClockText>), Fault> {
    let end = text.find(['T', ' ']).unwrap_or(text.len());
    let (day, behind) = text.split_at(end);
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

fn four_digits(rest: &mut &[u8]) -> Result<i32, Fault> {
    let count = rest.iter().take_while(|sign| sign.is_ascii_digit()).count();
    match (count, rest.is_empty()) {
        (4, _) => {}
        (_, true) => return Err(Fault::TooShort),
        (0, _) => return Err(Fault::Shape),
        // Where another number follows without a sign between, four of the digits are the year's.
        (5.., _) if count >= 8 => {}
        _ => return Err(Fault::YearDigits),
    }
    let (year, after) = rest.split_at(4);
    *rest = after;
    Ok(year.iter().fold(0, |sum, sign| sum * 10 + i32::from(sign - b'0')))
}

fn month_name(rest: &mut &[u8]) -> Result<u8, Fault> {
    if rest.is_empty() {
        return Err(Fault::TooShort);
    }
    let count = rest.iter().take_while(|sign| sign.is_ascii_alphabetic()).count();
    let (name, after) = rest.split_at(count);
    *rest = after;
    month_names::month_of_name(name).ok_or(Fault::MonthName)
}

/// A time of day behind a date, after a space or a T; nothing is no time.
fn time_behind(text: &[u8]) -> Result<Option<ClockText>, Fault> {
    match text {
        [] => Ok(None),
        [b'T' | b' ', clock @ ..] if clock.first().is_some_and(u8::is_ascii_digit) => {
            read_clock(clock).map(Some).map_err(|fault| match fault {
                ClockFault::Shape => Fault::Trailing,
                ClockFault::NoSuchTime => Fault::TimeOfDay,
            })
        }
        _ => Err(Fault::Trailing),
    }
}

/// The time of three numbers that stood in their places of a pattern.
fn clock_of([hour, minute, second]: [u8; 3]) -> Result<ClockText, Fault> {
    let time = ClockTime::new(hour, minute, second).map_err(|_| Fault::TimeOfDay)?;
    Ok(ClockText { time, finer: FinerDigits::Absent, offset_minutes: None })
}
