//! Amounts of time in text: words, short forms and ISO 8601 durations.

use super::{ClockUnit, MonthEnd, Shift, Unit, WorkingMove, clock_amounts};
use crate::error::{Error, ErrorKind, quoted};
use alloc::format;
use alloc::vec::Vec;
use core::fmt;
use core::str::FromStr;

/// Reads `30 days`, `1 year, 2 months`, the tenors of the trade (FpML's period letters) `45D 3W 2M 1Y`, of which `d`, `w` and
/// `y` may be small, `10wd` for working days, and `14h 30min 15s` for the clock. Also reads an ISO 8601 duration (`P1M`, `P1Y2M10D`, `P3W`,
/// `PT14H30M`). A minus in front of an amount sends it back; one in front of an ISO duration, the whole. A small `m` is refused:
/// it could be months or minutes.
impl FromStr for Shift {
    type Err = Error;

    fn from_str(text: &str) -> Result<Self, Error> {
        let named = text.trim_end().strip_suffix(')').and_then(|text| text.split_once(MONTH_END));
        let (amounts, rule) = match named {
            Some((amounts, rule)) => (amounts, rule.parse()?),
            None => (text, MonthEnd::default()),
        };
        let trimmed = amounts.trim();
        let (negative, unsigned) = match trimmed.strip_prefix(['-', '−']) {
            Some(rest) => (true, rest),
            None => (false, trimmed),
        };
        let shift = match unsigned.strip_prefix('P') {
            Some(duration) => read_iso_duration(text, duration, negative),
            None => read_amounts(text, trimmed),
        };
        Ok(shift?.with_month_end(rule))
    }
}

/// What is between the amounts and the rule for month ends, where that is another than clamp.
const MONTH_END: &str = " (month end: ";

/// Writes the amounts as words, months before days: `1 month and 10 days`, and after months the rule for month ends where
/// it is another than clamp: `1 month (month end: keep)`.
impl fmt::Display for Shift {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        let mut said = Vec::new();
        if self.months != 0 {
            said.push(format!("{} {}", self.months, Unit::Month.word_for(self.months)));
        }
        if self.days != 0 || (self.months == 0 && self.working.is_none() && self.microseconds == 0) {
            said.push(format!("{} {}", self.days, Unit::Day.word_for(self.days)));
        }
        for number in self.working.into_iter().flat_map(WorkingMove::amounts) {
            said.push(format!("{number} working {}", Unit::Day.word_for(number)));
        }
        said.extend(clock_amounts(self.microseconds));
        let mut text = match said.as_slice() {
            [before @ .., last] if !before.is_empty() => format!("{} and {last}", before.join(", ")),
            all => all.concat(),
        };
        if self.month_end != MonthEnd::Clamp {
            text += &format!("{MONTH_END}{})", self.month_end);
        }
        f.pad(&text)
    }
}

const ALLOWED: &str = "an amount such as \"30 days\", \"2 months\", 45D, 3W, 2M, 1Y, 10wd, 14h, 30min or P1M";

fn unreadable(text: &str, why: impl fmt::Display) -> Error {
    Error::new(ErrorKind::Unreadable, format!("{} is not an amount of time: {why}", quoted(text)), ALLOWED)
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
        // The one unit of two words.
        let after_working = after.strip_prefix("working").map(str::trim_start);
        if let Some(rest_of_it) =
            after_working.and_then(|text| text.strip_prefix("days").or(text.strip_prefix("day")))
        {
            let next = Shift::working_days(amount);
            sum = Some(match sum {
                Some(sum) => sum.and(next)?,
                None => next,
            });
            rest = rest_of_it;
            continue;
        }
        let end =
            after.find(|sign: char| !(sign.is_ascii_alphabetic() || sign == '-')).unwrap_or(after.len());
        let (word, after) = after.split_at(end);
        let next = unit_of(whole, word)?.shift(amount);
        sum = Some(match sum {
            Some(sum) => sum.and(next)?,
            None => next,
        });
        rest = after;
    }
    sum.ok_or_else(|| unreadable(whole, "it is empty"))
}

/// A unit of the calendar or of the clock.
enum AnyUnit {
    Calendar(Unit),
    Clock(ClockUnit),
    WorkingDay,
}

impl AnyUnit {
    fn shift(self, amount: i32) -> Shift {
        match self {
            Self::Calendar(unit) => Shift::of(amount, unit),
            Self::Clock(unit) => Shift::of_clock(amount, unit),
            Self::WorkingDay => Shift::working_days(amount),
        }
    }
}

/// The unit of a short form or a word; what cannot be one yet is refused with its reason.
fn unit_of(whole: &str, word: &str) -> Result<AnyUnit, Error> {
    // The one letter whose case distinguishes it.
    match word {
        "M" => return Ok(AnyUnit::Calendar(Unit::Month)),
        "m" => return Err(unreadable(whole, "m could be months or minutes; write M or min")),
        _ => {}
    }
    let calendar = match word.to_ascii_lowercase().as_str() {
        "d" => Unit::Day,
        "w" => Unit::Week,
        "y" => Unit::Year,
        "h" => return Ok(AnyUnit::Clock(ClockUnit::Hour)),
        "min" => return Ok(AnyUnit::Clock(ClockUnit::Minute)),
        "s" => return Ok(AnyUnit::Clock(ClockUnit::Second)),
        "wd" => return Ok(AnyUnit::WorkingDay),
        "" => return Err(unreadable(whole, "a number is without its unit")),
        word => match (word.parse(), word.parse()) {
            (Ok(unit), _) => unit,
            (_, Ok(unit)) => return Ok(AnyUnit::Clock(unit)),
            _ => return Err(unreadable(whole, format!("{} is not a unit", quoted(word)))),
        },
    };
    Ok(AnyUnit::Calendar(calendar))
}

fn read_number<'t>(whole: &str, text: &'t str) -> Result<(i32, &'t str), Error> {
    let (negative, digits) = match text.strip_prefix(['-', '−']) {
        Some(rest) => (true, rest),
        None => (false, text.strip_prefix('+').unwrap_or(text)),
    };
    let end = digits.find(|sign: char| !sign.is_ascii_digit()).unwrap_or(digits.len());
    let (digits, rest) = digits.split_at(end);
    if rest.strip_prefix(['.', ',']).is_some_and(|rest| rest.starts_with(|sign: char| sign.is_ascii_digit()))
    {
        return Err(unreadable(whole, "its numbers are whole"));
    }
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
    let mut in_time = false;
    while !rest.is_empty() {
        if let Some(time) = rest.strip_prefix('T').filter(|time| !time.is_empty() && !in_time) {
            (in_time, rest) = (true, time);
        }
        let (amount, after) = read_number(whole, rest)?;
        let mut signs = after.chars();
        let calendar = |rank, unit| (rank, AnyUnit::Calendar(unit));
        let (rank, unit) = match (in_time, signs.next()) {
            (false, Some('Y')) => calendar(1, Unit::Year),
            (false, Some('M')) => calendar(2, Unit::Month),
            (false, Some('W')) => calendar(3, Unit::Week),
            (false, Some('D')) => calendar(4, Unit::Day),
            (true, Some('H')) => (5, AnyUnit::Clock(ClockUnit::Hour)),
            (true, Some('M')) => (6, AnyUnit::Clock(ClockUnit::Minute)),
            (true, Some('S')) => (7, AnyUnit::Clock(ClockUnit::Second)),
            _ => {
                let why = "an ISO 8601 duration has the letters Y, M, W and D, and after a T the letters H, M and S";
                return Err(unreadable(whole, why));
            }
        };
        if rank <= last_rank {
            return Err(unreadable(
                whole,
                "an ISO 8601 duration has years, months, weeks, days, T, hours, minutes, seconds in this order",
            ));
        }
        last_rank = rank;
        let next = unit.shift(if negative { -amount } else { amount });
        sum = Some(match sum {
            Some(sum) => sum.and(next)?,
            None => next,
        });
        rest = signs.as_str();
    }
    sum.ok_or_else(|| unreadable(whole, "nothing follows the P"))
}
