//! Payment terms in the trade's notation.

use super::terms::{EarlyDiscount, PayBy, PaymentTerms};
use crate::error::{Error, ErrorKind, quoted};
use crate::number::Decimal;
use alloc::format;
use alloc::string::String;
use alloc::vec::Vec;
use core::fmt;
use core::str::FromStr;

const FORMS: &str = "net 30, n/30, 2/10 net 30, net 30 EOM, net 30 to EOM, 15 prox, 15 MFI, 15 prox cut-off 25, due on receipt or COD";

/// Reads them in any case, with or without commas between the parts.
impl FromStr for PaymentTerms {
    type Err = Error;

    fn from_str(text: &str) -> Result<Self, Error> {
        let lower = text.to_lowercase();
        let words: Vec<&str> =
            lower.split(|sign: char| sign.is_whitespace() || matches!(sign, ',' | ';')).collect();
        let words: Vec<&str> = words.into_iter().filter(|word| !word.is_empty()).collect();
        let unreadable =
            || Error::new(ErrorKind::Unreadable, format!("{} are not payment terms", quoted(text)), FORMS);
        let Some((terms, rest)) = read_terms(&words, text)? else { return Err(unreadable()) };
        if rest.is_empty() { Ok(terms) } else { Err(unreadable()) }
    }
}

/// Words that were not read yet.
type Rest<'w, 't> = &'w [&'t str];

fn read_terms<'w, 't>(
    words: Rest<'w, 't>,
    text: &str,
) -> Result<Option<(PaymentTerms, Rest<'w, 't>)>, Error> {
    if matches!(
        words,
        ["due", "on" | "upon", "receipt"] | ["on" | "upon", "receipt"] | ["cod"] | ["cash", "on", "delivery"]
    ) {
        return Ok(Some((PaymentTerms::net(PayBy::Receipt)?, &[])));
    }
    let (discount, words) = match read_discount(words) {
        Some((discount, rest)) => (Some(discount), rest),
        None => (None, words),
    };
    let Some((net, mut words)) = read_net(words) else { return two_readings(words, text) };
    let mut terms = PaymentTerms::net(net)?;
    if let Some((per_cent, until)) = discount {
        terms = terms.with_discount(per_cent, until)?;
    }
    let cut_off = match words {
        ["cut-off" | "cutoff", day, rest @ ..] | ["cut", "off", day, rest @ ..] => Some((day, rest)),
        _ => None,
    };
    if let Some((day, rest)) = cut_off {
        let Some(day) = number_in(day).and_then(|day| u8::try_from(day).ok()) else { return Ok(None) };
        let with_cut_off = terms.with_cut_off(day)?;
        if with_cut_off.cut_off_heeded().is_none() {
            let what = format!("{} names a cut-off day, and counts from no month", quoted(text));
            return Err(Error::new(ErrorKind::NotAllowed, what, "a cut-off after 15 prox or net 30 EOM"));
        }
        (terms, words) = (with_cut_off, rest);
    }
    Ok(Some((terms, words)))
}

/// `2/10`, with what is due when after it.
fn read_discount<'w, 't>(words: Rest<'w, 't>) -> Option<((Decimal, PayBy), Rest<'w, 't>)> {
    let (first, rest) = words.split_first()?;
    let (per_cent, days) = first.split_once('/')?;
    let per_cent = per_cent.strip_suffix('%').unwrap_or(per_cent);
    let is_number = per_cent.starts_with(|sign: char| sign.is_ascii_digit());
    let per_cent: Decimal = per_cent.parse().ok().filter(|_| is_number)?;
    let (days, rest) = read_days(days, rest)?;
    Some(((per_cent, days), rest))
}

/// `net 30`, `n/30`, `30 days`, `15 prox`.
fn read_net<'w, 't>(words: Rest<'w, 't>) -> Option<(PayBy, Rest<'w, 't>)> {
    let (first, rest) = words.split_first()?;
    if *first == "net" {
        let (number, rest) = rest.split_first()?;
        return read_days(number, rest);
    }
    if let Some(number) = first.strip_prefix("n/").or_else(|| first.strip_prefix("net")) {
        return read_days(number, rest);
    }
    number_in(first)?;
    // A bare number says not what it is.
    match rest {
        ["days" | "day", "eom", ..] => None,
        ["days" | "day", "net", behind @ ..] => read_days(first, behind),
        ["days" | "day" | "prox" | "prox." | "proximo" | "mfi", ..] => read_days(first, rest),
        _ => None,
    }
}

/// A number with what is stated of it after it.
fn read_days<'w, 't>(number: &str, rest: Rest<'w, 't>) -> Option<(PayBy, Rest<'w, 't>)> {
    let number = number_in(number)?;
    let behind = match rest {
        ["days" | "day", behind @ ..] => behind,
        _ => rest,
    };
    match behind {
        ["eom", rest @ ..] => Some((PayBy::DaysAfterMonthEnd(number), rest)),
        ["to", "eom", rest @ ..] => Some((PayBy::MonthEndAfterDays(number), rest)),
        ["prox" | "prox." | "proximo" | "mfi", after @ ..] if behind.len() == rest.len() => {
            Some((PayBy::DayOfNextMonth(u8::try_from(number).unwrap_or(u8::MAX)), after))
        }
        _ => Some((PayBy::Days(number), behind)),
    }
}

/// A number of days, perhaps as an ordinal; too large a one is refused with the terms.
fn number_in(word: &str) -> Option<u16> {
    let digits = ["st", "nd", "rd", "th"].iter().find_map(|ending| word.strip_suffix(ending)).unwrap_or(word);
    let is_number = !digits.is_empty() && digits.bytes().all(|digit| digit.is_ascii_digit());
    is_number.then(|| digits.parse().unwrap_or(u16::MAX))
}

/// `EOM` alone or after a bare number.
fn two_readings<'w, 't>(
    words: Rest<'w, 't>,
    text: &str,
) -> Result<Option<(PaymentTerms, Rest<'w, 't>)>, Error> {
    let days = match words {
        ["eom"] | ["net", "eom"] => None,
        [number, "eom"] => number_in(number),
        [number, "days" | "day", "eom"] => number_in(number),
        _ => return Ok(None),
    };
    let days = days.unwrap_or(30);
    let both = [PayBy::DaysAfterMonthEnd(days), PayBy::MonthEndAfterDays(days)];
    let both = both.map(|by| format!("{} ({})", by.written(), by.in_words()));
    Err(Error::new(ErrorKind::Unreadable, format!("{} has two readings", quoted(text)), both.join(" or ")))
}

impl PayBy {
    /// As it comes after `net`, or after the stroke of a discount.
    fn behind(self) -> String {
        match self {
            Self::Receipt => String::from("0"),
            Self::Days(days) => format!("{days}"),
            Self::DaysAfterMonthEnd(days) => format!("{days} EOM"),
            Self::MonthEndAfterDays(days) => format!("{days} to EOM"),
            Self::DayOfNextMonth(day) => format!("{day} prox"),
        }
    }

    fn written(self) -> String {
        match self {
            Self::Receipt => String::from("due on receipt"),
            Self::DayOfNextMonth(_) => self.behind(),
            _ => format!("net {}", self.behind()),
        }
    }
}

/// Writes them in one form, which is read as the same terms.
impl fmt::Display for PaymentTerms {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        let mut text = String::new();
        if let Some(EarlyDiscount { per_cent, until }) = self.discount {
            text.push_str(&format!("{per_cent}/{} ", until.behind()));
        }
        match (self.net, self.discount) {
            (PayBy::Receipt, Some(_)) => text.push_str("net 0"),
            (net, _) => text.push_str(&net.written()),
        }
        if let Some(day) = self.cut_off_heeded() {
            text.push_str(&format!(" cut-off {day}"));
        }
        f.pad(&text)
    }
}
