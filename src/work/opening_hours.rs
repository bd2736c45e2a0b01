//! The hours of the week in which a place is open.

use super::rest_days::RestDays;
use crate::date::{ClockTime, Weekday};
use crate::error::{Error, ErrorKind, quoted};
use alloc::borrow::ToOwned;
use alloc::format;
use alloc::string::{String, ToString};
use alloc::vec::Vec;
use core::fmt;
use core::str::FromStr;

/// The microseconds of a day of 24 hours.
pub(super) const DAY: i64 = 86_400_000_000;

/// A stretch of a day in which a place is open, from a time of day up to a later one, which does not belong to it.
///
/// It is written and read as `08:00 to 17:00`, on whole minutes; `24:00` is the end of the day.
///
/// ```
/// use mild_ledger::OpenSpan;
/// let morning: OpenSpan = "08:00 to 12:30".parse()?;
/// assert_eq!((morning.to_string(), morning.minutes()), ("08:00 to 12:30".into(), 270));
/// assert_eq!("18:00 to 24:00".parse::<OpenSpan>()?.minutes(), 360);
/// assert!("17:00 to 08:00".parse::<OpenSpan>().is_err());
/// # Ok::<(), mild_ledger::Error>(())
/// ```
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash)]
pub struct OpenSpan {
    /// In minutes of the day.
    from: u16,
    until: u16,
}

impl OpenSpan {
    /// From one time of day up to a later one, by their hours and minutes; midnight as the later one is the end of the day.
    ///
    /// # Errors
    /// [`ErrorKind::NotInOrder`] where the second does not lie after the first.
    ///
    /// ```
    /// use mild_ledger::{ClockTime, OpenSpan};
    /// let evening = OpenSpan::new(ClockTime::new(20, 0, 0)?, ClockTime::MIDNIGHT)?;
    /// assert_eq!(evening.to_string(), "20:00 to 24:00");
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    pub fn new(from: ClockTime, until: ClockTime) -> Result<Self, Error> {
        let minutes = |time: ClockTime| u16::from(time.hour()) * 60 + u16::from(time.minute());
        let until = if minutes(until) == 0 { 24 * 60 } else { minutes(until) };
        Self::of_minutes(minutes(from), until)
    }

    fn of_minutes(from: u16, until: u16) -> Result<Self, Error> {
        let span = Self { from, until };
        if until <= from {
            let what = format!("{span} ends before it begins");
            return Err(Error::new(ErrorKind::NotInOrder, what, "a later time at the end, the last 24:00"));
        }
        Ok(span)
    }

    /// How long it is.
    ///
    /// ```
    /// assert_eq!("08:00 to 17:00".parse::<mild_ledger::OpenSpan>()?.minutes(), 540);
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn minutes(self) -> u16 {
        self.until - self.from
    }

    /// The microseconds of it before a moment of the day.
    fn before(self, moment: i64) -> i64 {
        const MINUTE: i64 = 60_000_000;
        let (from, until) = (i64::from(self.from) * MINUTE, i64::from(self.until) * MINUTE);
        moment.clamp(from, until) - from
    }

    fn overlap(self, other: Self) -> Option<Self> {
        let (from, until) = (self.from.max(other.from), self.until.min(other.until));
        (from < until).then_some(Self { from, until })
    }
}

impl fmt::Display for OpenSpan {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        let time = |minutes: u16| format!("{:02}:{:02}", minutes / 60, minutes % 60);
        f.pad(&format!("{} to {}", time(self.from), time(self.until)))
    }
}

impl FromStr for OpenSpan {
    type Err = Error;

    fn from_str(text: &str) -> Result<Self, Error> {
        let unread = || {
            let what = format!("{} are not opening hours", quoted(text));
            Error::new(ErrorKind::Unreadable, what, "hours and minutes such as 08:00 to 17:00")
        };
        let time = |text: &str| -> Option<u16> {
            let (hour, minute) = text.trim().split_once(':')?;
            let number = |text: &str| -> Option<u16> {
                let is_number =
                    (1..=2).contains(&text.len()) && text.bytes().all(|byte| byte.is_ascii_digit());
                if is_number { text.parse().ok() } else { None }
            };
            let (hour, minute) = (number(hour)?, number(minute).filter(|_| minute.len() == 2)?);
            let is_time = minute < 60 && (hour < 24 || hour == 24 && minute == 0);
            is_time.then_some(hour * 60 + minute)
        };
        let (from, until) = text.split_once(" to ").ok_or_else(unread)?;
        let (from, until) = (time(from).ok_or_else(unread)?, time(until).ok_or_else(unread)?);
        Self::of_minutes(from, until)
    }
}

/// The stretches of each weekday in which a place is open; closed where there are none.
///
/// ```
/// use mild_ledger::{OpeningHours, Weekday};
/// let weekdays = [Weekday::Monday, Weekday::Tuesday, Weekday::Wednesday, Weekday::Thursday, Weekday::Friday];
/// let mut hours = OpeningHours::default();
/// for day in weekdays {
///     hours = hours.on(day, &["08:00 to 12:00".parse()?, "13:00 to 17:00".parse()?])?;
/// }
/// let hours = hours.on(Weekday::Friday, &["08:00 to 12:00".parse()?])?;
/// assert_eq!(hours.to_string(), "Monday to Thursday 08:00 to 12:00 and 13:00 to 17:00, Friday 08:00 to 12:00");
/// # Ok::<(), mild_ledger::Error>(())
/// ```
#[derive(Debug, Clone, PartialEq, Eq, Default)]
pub struct OpeningHours {
    /// From Monday.
    days: [Vec<OpenSpan>; 7],
}

impl OpeningHours {
    /// The same with the hours of a weekday, in their order, in place of those that it had.
    ///
    /// # Errors
    /// [`ErrorKind::NotInOrder`] where one begins before the one in front of it ends.
    ///
    /// ```
    /// use mild_ledger::{OpeningHours, Weekday};
    /// let overlap = ["08:00 to 12:00".parse()?, "11:00 to 17:00".parse()?];
    /// assert!(OpeningHours::default().on(Weekday::Monday, &overlap).is_err());
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    pub fn on(mut self, day: Weekday, spans: &[OpenSpan]) -> Result<Self, Error> {
        if let Some(pair) = spans.windows(2).find(|pair| pair[1].from < pair[0].until) {
            let what = format!("{} begins before {} ends", pair[1], pair[0]);
            return Err(Error::new(ErrorKind::NotInOrder, what, "hours one after the other"));
        }
        if let Some(of_day) = self.days.get_mut(place_of(day)) {
            *of_day = spans.to_vec();
        }
        Ok(self)
    }

    /// The hours of a weekday, in their order.
    ///
    /// ```
    /// use mild_ledger::{OpeningHours, Weekday};
    /// assert!(OpeningHours::default().of(Weekday::Sunday).is_empty());
    /// ```
    #[must_use]
    pub fn of(&self, day: Weekday) -> &[OpenSpan] {
        self.days.get(place_of(day)).map_or(&[], Vec::as_slice)
    }

    /// The hours of those weekdays that are not rest days.
    ///
    /// ```
    /// use mild_ledger::{OpeningHours, RestDays, Weekday};
    /// let sunday = OpeningHours::default().on(Weekday::Sunday, &["09:00 to 12:00".parse()?])?;
    /// assert_eq!(sunday.to_string(), "Sunday 09:00 to 12:00");
    /// assert_eq!(sunday.without(RestDays::default()).to_string(), "never open");
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn without(&self, rest_days: RestDays) -> Self {
        let mut hours = self.clone();
        for (day, spans) in Weekday::ALL.into_iter().zip(&mut hours.days) {
            if rest_days.contains(day) {
                spans.clear();
            }
        }
        hours
    }

    /// The microseconds of a weekday's hours before a moment of it.
    pub(super) fn before(&self, day: Weekday, moment: i64) -> i64 {
        self.of(day).iter().map(|span| span.before(moment)).sum()
    }

    /// The hours in which both are open.
    pub(super) fn overlap(&self, other: &Self) -> Self {
        let mut both = Self::default();
        for ((one, other), both) in self.days.iter().zip(&other.days).zip(&mut both.days) {
            both.extend(one.iter().flat_map(|span| other.iter().filter_map(|other| span.overlap(*other))));
            both.sort_unstable();
        }
        both
    }
}

impl fmt::Display for OpeningHours {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        let mut said: Vec<String> = Vec::new();
        let mut days = Weekday::ALL.into_iter().peekable();
        while let Some(first) = days.next() {
            let spans = self.of(first);
            let mut last = first;
            while let Some(next) = days.next_if(|next| self.of(*next) == spans) {
                last = next;
            }
            if spans.is_empty() {
                continue;
            }
            let named = if last == first { first.to_string() } else { format!("{first} to {last}") };
            let spans: Vec<String> = spans.iter().map(ToString::to_string).collect();
            said.push(format!("{named} {}", spans.join(" and ")));
        }
        let text = if said.is_empty() { "never open".to_owned() } else { said.join(", ") };
        f.pad(&text)
    }
}

fn place_of(day: Weekday) -> usize {
    Weekday::ALL.iter().position(|known| *known == day).unwrap_or(0)
}
