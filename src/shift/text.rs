//! Amounts of time in text: words, short forms and ISO 8601 durations.

use super::{Shift, Unit};
use crate::date::quoted;
use crate::error::{Error, ErrorKind};
use std::fmt;
use std::str::FromStr;

/// Reads `30 days`, `1 year, 2 months`, the short forms `45d 3w 2mo 1q 1hy 2y`, or an ISO 8601 duration
/// (`P1M`, `P1Y2M10D`, `P3W`). A minus in front of an amount sends it back; one in front of an ISO duration,
/// the whole.
impl FromStr for Shift {
    type Err = Error;

    fn from_str(text: &str) -> Result<Self, Error> {
        let trimmed = text.trim();
        let (negative, unsigned) = match trimmed.strip_prefix(['-', '−']) {
            Some(rest) => (true, rest),
            None => (false, trimmed),
        };
        match unsigned.strip_prefix('P') {
            Some(duration) => read_iso_duration(text, duration, negative),
            None => read_amounts(text, trimmed),
        }
    }
}

/// Writes the amounts as words, months before days: `1 month and 10 days`.
impl fmt::Display for Shift {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        match (self.months, self.days) {
            (months, 0) if months != 0 => write!(f, "{months} {}", Unit::Month.word_for(months)),
            (0, days) => write!(f, "{days} {}", Unit::Day.word_for(days)),
            (months, days) => {
                write!(f, "{months} {} and {days} {}", Unit::Month.word_for(months), Unit::Day.word_for(days))
            }
        }
    }
}

const ALLOWED: &str = "an amount such as \"30 days\", \"2 months\", 45d, 3w, 2mo, 1q, 1hy, 2y or P1M";

fn unreadable(text: &str, why: impl fmt::Display) -> Error {
    Error::new(ErrorKind::Unreadable, format!("{} is no amount of time: {why}", quoted(text)), ALLOWED)
}

fn read_amounts(whole: &str, text: &str) -> Result<Shift, Error> {
    let mut sum: Option<Shift> = None;
    let mut rest = text;
    loop {
        rest = rest.trim_start_matches([' ', ',', '\t']);
        rest = rest.strip_prefix("and ").unwrap_or(rest);
        if rest.is_empty() {
            break;
        }
        let (amount, after) = read_number(whole, rest)?;
        let after = after.trim_start();
        let end =
            after.find(|sign: char| !(sign.is_ascii_alphabetic() || sign == '-')).unwrap_or(after.len());
        let (word, after) = after.split_at(end);
        let next = Shift::of(amount, unit_of(whole, word, after)?);
        sum = Some(match sum {
            Some(sum) => sum.and(next)?,
            None => next,
        });
        rest = after;
    }
    sum.ok_or_else(|| unreadable(whole, "it is empty"))
}

/// The unit of a short form or a word; what cannot be one yet is refused with its reason.
fn unit_of(whole: &str, word: &str, after: &str) -> Result<Unit, Error> {
    match word.to_ascii_lowercase().as_str() {
        "d" => Ok(Unit::Day),
        "w" => Ok(Unit::Week),
        "mo" => Ok(Unit::Month),
        "q" => Ok(Unit::Quarter),
        "hy" => Ok(Unit::HalfYear),
        "y" => Ok(Unit::Year),
        "m" => Err(unreadable(whole, "m could be months or minutes; write mo or min")),
        "wd" => Err(unreadable(whole, "working days need a calendar and cannot be counted here")),
        "working" if after.trim_start().starts_with("day") => {
            Err(unreadable(whole, "working days need a calendar and cannot be counted here"))
        }
        "h" | "hour" | "hours" | "min" | "minute" | "minutes" | "s" | "second" | "seconds" => {
            Err(unreadable(whole, "a date has no hours, minutes or seconds to move by"))
        }
        "" => Err(unreadable(whole, "a number stands without its unit")),
        word => word.parse().map_err(|_| unreadable(whole, format!("{} is no unit", quoted(word)))),
    }
}

fn read_number<'t>(whole: &str, text: &'t str) -> Result<(i32, &'t str), Error> {
    let (negative, digits) = match text.strip_prefix(['-', '−']) {
        Some(rest) => (true, rest),
        None => (false, text.strip_prefix('+').unwrap_or(text)),
    };
    let end = digits.find(|sign: char| !sign.is_ascii_digit()).unwrap_or(digits.len());
    let (digits, rest) = digits.split_at(end);
    if digits.is_empty() {
        return Err(unreadable(whole, format!("a number was expected at {}", quoted(text))));
    }
    let magnitude: i32 = digits.parse().map_err(|_| {
        Error::new(
            ErrorKind::OutOfRange,
            format!("{} holds a number that is too large", quoted(whole)),
            "numbers up to 2147483647",
        )
    })?;
    Ok((if negative { -magnitude } else { magnitude }, rest))
}

fn read_iso_duration(whole: &str, duration: &str, negative: bool) -> Result<Shift, Error> {
    let mut sum: Option<Shift> = None;
    let mut rest = duration;
    let mut last_rank = 0;
    while !rest.is_empty() {
        if rest.starts_with('T') {
            return Err(unreadable(whole, "a date has no hours, minutes or seconds to move by"));
        }
        let (amount, after) = read_number(whole, rest)?;
        let mut signs = after.chars();
        let (rank, unit) = match signs.next() {
            Some('Y') => (1, Unit::Year),
            Some('M') => (2, Unit::Month),
            Some('W') => (3, Unit::Week),
            Some('D') => (4, Unit::Day),
            _ => return Err(unreadable(whole, "an ISO 8601 duration has the letters Y, M, W and D")),
        };
        if rank <= last_rank {
            return Err(unreadable(
                whole,
                "an ISO 8601 duration has years, months, weeks, days in this order",
            ));
        }
        last_rank = rank;
        let next = Shift::of(if negative { -amount } else { amount }, unit);
        sum = Some(match sum {
            Some(sum) => sum.and(next)?,
            None => next,
        });
        rest = signs.as_str();
    }
    sum.ok_or_else(|| unreadable(whole, "nothing follows the P"))
}
