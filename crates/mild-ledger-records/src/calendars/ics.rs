//! iCalendar files (RFC 5545): all-day events in, yearly ones by their rules; holidays out.

use super::parts::CalendarParts;
use super::yearly::{RepeatedEvent, YearlyRule};
use crate::error::RecordsError;
use ical::generator::{Emitter, IcalCalendarBuilder, IcalEventBuilder, Property};
use ical::property::PropertyParser;
use mild_ledger::{Date, DateTime, HolidayRule, Occurrence, Weekday};
use std::collections::{BTreeSet, HashMap};
use std::path::Path;

/// The most days that one event may last.
const LONGEST_EVENT: i32 = 366;

/// Reads every all-day event as holidays; what is another kind of event is refused by its line.
pub(super) fn read(path: &Path, text: &str) -> Result<CalendarParts, RecordsError> {
    let broken = |line: usize, what: String, help: &str| RecordsError::BrokenFile {
        path: path.to_owned(),
        line: line as u64,
        what,
        help: help.to_owned(),
    };
    let mut events: Vec<Event> = Vec::new();
    let mut open: Vec<(String, usize)> = Vec::new();
    let mut event = Event::default();
    let mut last_line = 1;
    let mut is_calendar = false;
    for (number, line) in unfolded(text) {
        last_line = number;
        let property = match PropertyParser::from_reader(line.as_bytes()).next() {
            Some(Ok(property)) => property,
            _ => {
                let shown: String = line.chars().take(40).collect();
                let what =
                    format!("\"{}\" is not a line of an iCalendar file, at column 1", shown.escape_debug());
                return Err(broken(number, what, "a name, a colon and a value (RFC 5545)"));
            }
        };
        let value = property.value.clone().unwrap_or_default();
        match property.name.to_uppercase().as_str() {
            "BEGIN" => {
                let part = value.to_uppercase();
                is_calendar |= part == "VCALENDAR";
                if !is_calendar {
                    return Err(broken(number, format!("it begins with {part}"), "BEGIN:VCALENDAR"));
                }
                if part == "VEVENT" {
                    event = Event { line: number, ..Event::default() };
                }
                open.push((part, number));
            }
            "END" => {
                let part = value.to_uppercase();
                match open.pop() {
                    Some((opened, _)) if opened == part => {}
                    Some((opened, line)) => {
                        let what = format!("{part} ends here, and {opened} of line {line} has not ended");
                        return Err(broken(number, what, "an END for every BEGIN"));
                    }
                    None => {
                        return Err(broken(
                            number,
                            format!("{part} ends that never began"),
                            "an END for every BEGIN",
                        ));
                    }
                }
                if part == "VEVENT" {
                    events.push(std::mem::take(&mut event));
                }
            }
            name if open.last().is_some_and(|(part, _)| part == "VEVENT") => {
                event.take(name, &property, &value).map_err(|(what, help)| broken(number, what, help))?;
            }
            _ => {}
        }
    }
    if let Some((part, line)) = open.last() {
        let what = format!("the file is cut off: {part} of line {line} has no end");
        return Err(broken(last_line, what, "the whole file; nothing of it was used"));
    }
    if !is_calendar {
        return Err(broken(1, "it is not an iCalendar file".to_owned(), "BEGIN:VCALENDAR as its first line"));
    }
    put_together(events).map_or_else(
        |(line, (what, help))| Err(broken(line, what, help)),
        |(rules, named_dates, repeated)| {
            Ok(CalendarParts { repeated, ..CalendarParts::of_list(path, rules, named_dates) })
        },
    )
}

type Found = (Vec<HolidayRule>, Vec<Date>, Vec<RepeatedEvent>);

/// The days of single events, and the events that come round. An event that represents an occurrence of another takes its
/// day away from that one.
fn put_together(events: Vec<Event>) -> Result<Found, (usize, Refusal)> {
    let mut replaced: HashMap<String, Vec<Date>> = HashMap::new();
    for event in &events {
        if let (Some(uid), Some(date)) = (&event.uid, event.stands_for) {
            replaced.entry(uid.clone()).or_default().push(date);
        }
    }
    let (mut rules, mut dates, mut repeated) = (Vec::new(), Vec::new(), Vec::new());
    // A later revision of an event takes its place, be it cancelled or not.
    let mut latest: HashMap<(String, Option<Date>), u64> = HashMap::new();
    for event in &events {
        if let Some(uid) = &event.uid {
            let known = latest.entry((uid.clone(), event.stands_for)).or_default();
            *known = event.sequence.max(*known);
        }
    }
    let is_latest = |event: &Event| {
        let uid = event.uid.clone().map(|uid| (uid, event.stands_for));
        uid.and_then(|uid| latest.get(&uid)).is_none_or(|latest| event.sequence == *latest)
    };
    for event in events.into_iter().filter(|event| is_latest(event) && !event.cancelled) {
        let line = event.line;
        let uid = event.uid.clone();
        let mut found = event.repeated().map_err(|refusal| (line, refusal))?;
        match found.1 {
            true => {
                let others = uid.and_then(|uid| replaced.get(&uid));
                found.0.except.extend(others.into_iter().flatten());
                repeated.push(found.0);
            }
            false => {
                let event = found.0;
                for date in event.days_in(1, 9_999) {
                    rules.push(HolidayRule::new(event.name.clone(), Occurrence::on_date(date)));
                    dates.push(date);
                }
            }
        }
    }
    Ok((rules, dates, repeated))
}

/// What is wrong, and what is allowed.
type Refusal = (String, &'static str);

/// An event while it is read.
/// The lines of a file with the number of each, folded ones put together: an end of line and one space or tab (RFC 5545, 3.1). A space
/// before the fold belongs to the text.
fn unfolded(text: &str) -> Vec<(usize, String)> {
    let mut lines: Vec<(usize, String)> = Vec::new();
    for (nth, line) in text.split('\n').enumerate() {
        let line = line.strip_suffix('\r').unwrap_or(line);
        match (line.strip_prefix([' ', '\t']), lines.last_mut()) {
            (Some(rest), Some((_, before))) => before.push_str(rest),
            _ if line.trim().is_empty() => {}
            _ => lines.push((nth + 1, line.to_owned())),
        }
    }
    lines
}

#[derive(Default)]
struct Event {
    line: usize,
    name: String,
    start: Option<Date>,
    /// The day after the last.
    end: Option<Date>,
    days: Option<i32>,
    rule: Option<YearlyRule>,
    except: BTreeSet<Date>,
    uid: Option<String>,
    /// The occurrence of another event, of the same UID, in whose place it is.
    stands_for: Option<Date>,
    cancelled: bool,
    /// Which revision of the event it is.
    sequence: u64,
    /// Whether it begins at a midnight that is written as a time.
    begins_at_midnight: bool,
}

impl Event {
    fn take(&mut self, name: &str, property: &Property, value: &str) -> Result<(), Refusal> {
        match name {
            "SUMMARY" => self.name = unescaped(value),
            "DTSTART" => {
                self.start = Some(read_day(name, property, value)?);
                self.begins_at_midnight = value.contains('T');
            }
            "SEQUENCE" => self.sequence = value.trim().parse().unwrap_or(0),
            "DTEND" => self.end = Some(read_day(name, property, value)?),
            "DURATION" => {
                let days = value.strip_prefix('P').and_then(|rest| match rest.strip_suffix('D') {
                    Some(days) => days.parse::<i32>().ok(),
                    None => rest.strip_suffix('W')?.parse::<i32>().ok()?.checked_mul(7),
                });
                let days = days.filter(|days| (1..=LONGEST_EVENT).contains(days));
                self.days = Some(days.ok_or_else(|| {
                    (
                        format!("the duration \"{}\" is not of whole days", value.escape_debug()),
                        "P1D, P2W and the like, up to P366D",
                    )
                })?);
            }
            "RRULE" => self.rule = Some(read_rule(value)?),
            "EXDATE" => {
                for date in value.split(',') {
                    self.except.insert(read_day(name, property, date)?);
                }
            }
            "RDATE" => {
                return Err((
                    "an event has dates of its own in RDATE".to_owned(),
                    "an event for each of them",
                ));
            }
            "UID" => self.uid = Some(value.to_owned()),
            "RECURRENCE-ID" => self.stands_for = Some(read_day(name, property, value)?),
            "STATUS" => self.cancelled = value.eq_ignore_ascii_case("CANCELLED"),
            _ => {}
        }
        Ok(())
    }

    /// The event, and whether it comes round.
    fn repeated(self) -> Result<(RepeatedEvent, bool), Refusal> {
        let Some(start) = self.start else {
            return Err(("an event has no DTSTART".to_owned(), "DTSTART;VALUE=DATE:20261007"));
        };
        if self.begins_at_midnight && self.end.is_none() && self.days.is_none() {
            let what = "an event begins at a time of day and has no end".to_owned();
            return Err((what, "an event from midnight to midnight, or DTSTART;VALUE=DATE:20261007"));
        }
        let days = match (self.end, self.days) {
            (Some(end), _) => end.day_number() - start.day_number(),
            (None, Some(days)) => days,
            (None, None) => 1,
        };
        if !(1..=LONGEST_EVENT).contains(&days) {
            return Err((
                format!("an event lasts {days} days"),
                "an end after its start, and at most 366 days",
            ));
        }
        if i64::from(start.day_number()) + i64::from(days) - 1 > i64::from(Date::MAX.day_number()) {
            return Err(("an event leaves the years 0001 to 9999".to_owned(), "dates in these years"));
        }
        let name =
            if self.name.trim().is_empty() { "holiday".to_owned() } else { self.name.trim().to_owned() };
        let comes_round = self.rule.is_some();
        let once = YearlyRule { count: Some(1), ..YearlyRule::default() };
        let (rule, except) = (self.rule.unwrap_or(once), self.except);
        let event = RepeatedEvent { name, start, days, rule, except };
        if !event.begins_with_its_start() {
            return Err((
                format!("the event starts on {start}, which is not a day of its repetition"),
                "a DTSTART that its RRULE falls on",
            ));
        }
        Ok((event, comes_round))
    }
}

/// An all-day date, `20261007`; a time of day is refused.
fn read_day(name: &str, property: &Property, value: &str) -> Result<Date, Refusal> {
    let is_date = property.params.iter().flatten().any(|(key, values)| {
        key.eq_ignore_ascii_case("VALUE") && values.iter().any(|value| value.eq_ignore_ascii_case("DATE"))
    });
    let (day, time) = value.trim().split_once('T').unwrap_or((value.trim(), ""));
    let is_midnight = matches!(time.trim_end_matches('Z'), "000000" | "0000");
    if value.contains('T') && !is_date && !is_midnight {
        let what = format!("{name} has a time of day, \"{}\"", value.escape_debug());
        return Err((
            what,
            "whole days only, such as DTSTART;VALUE=DATE:20261007, or from midnight to midnight",
        ));
    }
    let day = if is_midnight && !is_date { day } else { value.trim() };
    day_of(day).ok_or_else(|| {
        (format!("{name} holds \"{}\", which is not a date", value.escape_debug()), "a date such as 20261007")
    })
}

/// `20261007`.
fn day_of(digits: &str) -> Option<Date> {
    if digits.len() != 8 || !digits.bytes().all(|byte| byte.is_ascii_digit()) {
        return None;
    }
    let part = |from: usize, to: usize| digits.get(from..to)?.parse::<u16>().ok();
    let (month, day) = (u8::try_from(part(4, 6)?).ok()?, u8::try_from(part(6, 8)?).ok()?);
    Date::new(part(0, 4)?.into(), month, day).ok()
}

const OTHER: &str = "RRULE:FREQ=YEARLY, perhaps with INTERVAL, COUNT, UNTIL, BYMONTH, BYMONTHDAY, BYYEARDAY, BYWEEKNO, BYDAY, BYSETPOS, WKST";

fn read_rule(value: &str) -> Result<YearlyRule, Refusal> {
    let mut rule = YearlyRule::default();
    let mut yearly = false;
    for part in value.split(';').filter(|part| !part.is_empty()) {
        let refused = || (format!("the repetition {} is not understood", part.escape_debug()), OTHER);
        let (key, value) = part.split_once('=').ok_or_else(refused)?;
        let numbers = |most: i32| -> Result<Vec<i32>, Refusal> {
            value
                .split(',')
                .map(|number| {
                    let number: Option<i32> = number.parse().ok();
                    number
                        .filter(|number| *number != 0 && (-most..=most).contains(number))
                        .ok_or_else(refused)
                })
                .collect()
        };
        match key.to_uppercase().as_str() {
            "FREQ" if value.eq_ignore_ascii_case("YEARLY") => yearly = true,
            "INTERVAL" => {
                let interval = value.parse().ok();
                rule.interval = interval.filter(|years| (1..=9_999).contains(years)).ok_or_else(refused)?;
            }
            "WKST" => rule.weeks_begin = weekday_of(value).ok_or_else(refused)?,
            "COUNT" => rule.count = Some(value.parse().ok().filter(|count| *count > 0).ok_or_else(refused)?),
            // By its day, whatever time comes after it.
            "UNTIL" => rule.until = Some(value.get(..8).and_then(day_of).ok_or_else(refused)?),
            "BYMONTH" => {
                let months = numbers(12)?.into_iter().map(u8::try_from).collect::<Result<_, _>>();
                rule.months = months.map_err(|_| refused())?;
            }
            "BYMONTHDAY" => rule.month_days = numbers(31)?,
            "BYYEARDAY" => rule.year_days = numbers(366)?,
            "BYWEEKNO" => rule.weeks = numbers(53)?,
            "BYSETPOS" => rule.positions = numbers(366)?,
            "BYDAY" => {
                let days = value.split(',').map(|day| read_weekday(day).ok_or_else(refused));
                rule.weekdays = days.collect::<Result<_, _>>()?;
            }
            _ => return Err(refused()),
        }
    }
    if !yearly {
        return Err(("a repetition does not say FREQ=YEARLY".to_owned(), OTHER));
    }
    if !rule.weeks.is_empty() && rule.weekdays.iter().any(|(number, _)| *number != 0) {
        return Err(("a numbered weekday is next to week numbers".to_owned(), OTHER));
    }
    Ok(rule)
}

/// `MO`, `1MO`, `-1FR`.
fn read_weekday(text: &str) -> Option<(i32, Weekday)> {
    let at = text.len().checked_sub(2)?;
    let (number, day) = (text.get(..at)?, text.get(at..)?);
    let number: i32 = match number {
        "" => 0,
        number => number.parse().ok().filter(|number: &i32| *number != 0 && (-53..=53).contains(number))?,
    };
    Some((number, weekday_of(day)?))
}

fn weekday_of(text: &str) -> Option<Weekday> {
    let days = ["MO", "TU", "WE", "TH", "FR", "SA", "SU"];
    let place = days.iter().position(|known| known.eq_ignore_ascii_case(text))?;
    Weekday::ALL.get(place).copied()
}

/// When an event is.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum EventTime {
    /// All of a day.
    Day(Date),
    /// At a time of a day, as the clock shows it.
    Moment(DateTime),
}

impl EventTime {
    fn date(self) -> Date {
        match self {
            Self::Day(date) => date,
            Self::Moment(at) => at.date(),
        }
    }
}

/// The text of days as all-day events, each with its name, for a person's calendar: holidays, or computed due dates.
#[must_use]
pub fn to_ics<'n>(name: &str, days: impl IntoIterator<Item = (EventTime, &'n str)>) -> String {
    let mut calendar =
        IcalCalendarBuilder::version("2.0").gregorian().prodid("-//Mild Ledger//working days//EN");
    for (nth, (time, title)) in days.into_iter().enumerate() {
        let date = time.date();
        let day = date.to_string().replace('-', "");
        // Two calendars of other names, and two events of other titles, are never one event.
        let of = blake3::hash(format!("{name}\0{title}").as_bytes()).to_hex();
        let mut event = IcalEventBuilder::tzid("UTC")
            .uid(format!("{day}-{nth}-{}@mild-ledger", of.get(..16).unwrap_or_default()))
            // The same days give the same file, so the stamp is the day's own.
            .changed_utc(format!("{day}T000000Z"))
            .one_day(day)
            .set(Property { name: "SUMMARY".to_owned(), params: None, value: Some(escaped(title)) })
            .set(Property { name: "TRANSP".to_owned(), params: None, value: Some("TRANSPARENT".to_owned()) })
            .build();
        if let EventTime::Moment(at) = time {
            let clock = at.time().to_string();
            let digits: String = clock.chars().take(8).filter(char::is_ascii_digit).collect();
            let start = event.properties.iter_mut().find(|property| property.name == "DTSTART");
            if let Some(start) = start {
                // A time without a zone is what the clock shows wherever the event is looked at (RFC 5545, 3.3.5).
                (start.params, start.value) =
                    (None, Some(format!("{}T{digits}", date.to_string().replace('-', ""))));
            }
        }
        calendar = calendar.add_event(event);
    }
    folded(&calendar.build().generate())
}

/// The same lines folded where they are longer than 75 octets (RFC 5545, section 3.1), never within a character.
fn folded(text: &str) -> String {
    let mut out = String::with_capacity(text.len());
    for line in text.replace("\r\n ", "").split_terminator("\r\n") {
        let mut octets = 0;
        for sign in line.chars() {
            if octets + sign.len_utf8() > 75 {
                out.push_str("\r\n ");
                octets = 1;
            }
            octets += sign.len_utf8();
            out.push(sign);
        }
        out.push_str("\r\n");
    }
    out
}

/// A text as a property holds it (RFC 5545, section 3.3.11); control characters are left out.
fn escaped(text: &str) -> String {
    let mut out = String::new();
    for sign in text.chars() {
        match sign {
            '\\' | ';' | ',' => out.extend(['\\', sign]),
            '\n' => out.push_str("\\n"),
            sign if sign.is_control() => {}
            sign => out.push(sign),
        }
    }
    out
}

fn unescaped(text: &str) -> String {
    let mut out = String::new();
    let mut signs = text.chars();
    while let Some(sign) = signs.next() {
        match (sign, if sign == '\\' { signs.next() } else { None }) {
            ('\\', Some('n' | 'N')) => out.push(' '),
            ('\\', Some(other)) => out.push(other),
            (sign, _) => out.push(sign),
        }
    }
    out
}
