//! iCalendar files (RFC 5545): all-day events in, yearly ones expanded by our own rules; holidays out.

use super::CalendarParts;
use crate::error::RecordsError;
use ical::generator::{Emitter, IcalCalendarBuilder, IcalEventBuilder, Property};
use ical::line::LineReader;
use ical::property::PropertyParser;
use mild_ledger::{Date, HolidayRule, Occurrence, Shift, Weekday};
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
    let mut rules = Vec::new();
    let mut open: Vec<(String, usize)> = Vec::new();
    let mut event = Event::default();
    let mut last_line = 1;
    let mut is_calendar = false;
    for line in LineReader::new(text.as_bytes()) {
        let number = line.number();
        last_line = number;
        let property = match PropertyParser::from_reader(line.as_str().as_bytes()).next() {
            Some(Ok(property)) => property,
            _ => {
                let shown: String = line.as_str().chars().take(40).collect();
                let what =
                    format!("\"{}\" is no line of an iCalendar file, at column 1", shown.escape_debug());
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
                    let line = event.line;
                    let found = std::mem::take(&mut event).rules();
                    rules.extend(found.map_err(|(what, help)| broken(line, what, help))?);
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
        return Err(broken(1, "it is no iCalendar file".to_owned(), "BEGIN:VCALENDAR as its first line"));
    }
    let name = path.file_stem().unwrap_or_default().to_string_lossy().into_owned();
    Ok(CalendarParts { name, rest_days: None, covers: None, rules, working: Vec::new() })
}

/// What is wrong, and what is allowed.
type Refusal = (String, &'static str);

/// An event while it is read.
#[derive(Default)]
struct Event {
    line: usize,
    name: String,
    start: Option<Date>,
    /// The day after the last.
    end: Option<Date>,
    days: Option<i32>,
    repeats: Option<Repeats>,
    except: Vec<i32>,
    cancelled: bool,
}

/// A yearly repetition.
struct Repeats {
    until: Option<i32>,
    count: Option<i32>,
    /// The weekday of a month that it falls on: 1 to 5, or −1 for the last.
    weekday: Option<(i32, Weekday)>,
    month: Option<u8>,
    day: Option<u8>,
}

impl Event {
    fn take(&mut self, name: &str, property: &Property, value: &str) -> Result<(), Refusal> {
        match name {
            "SUMMARY" => self.name = unescaped(value),
            "DTSTART" => self.start = Some(read_day(name, property, value)?),
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
            "RRULE" => self.repeats = Some(read_repeats(value)?),
            "EXDATE" => {
                for date in value.split(',') {
                    self.except.push(read_day(name, property, date)?.year());
                }
            }
            "RDATE" => {
                return Err((
                    "an event has dates of its own in RDATE".to_owned(),
                    "an event for each of them",
                ));
            }
            "STATUS" => self.cancelled = value.eq_ignore_ascii_case("CANCELLED"),
            _ => {}
        }
        Ok(())
    }

    /// The holidays of a whole event: one a day.
    fn rules(self) -> Result<Vec<HolidayRule>, Refusal> {
        if self.cancelled {
            return Ok(Vec::new());
        }
        let Some(start) = self.start else {
            return Err(("an event has no DTSTART".to_owned(), "DTSTART;VALUE=DATE:20261007"));
        };
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
        let name =
            if self.name.trim().is_empty() { "holiday".to_owned() } else { self.name.trim().to_owned() };
        let too_late = |_| ("an event leaves the years 0001 to 9999".to_owned(), "dates in these years");
        let dates = (0..days)
            .map(|on| Shift::days(on).apply(start))
            .collect::<Result<Vec<_>, _>>()
            .map_err(too_late)?;
        let Some(repeats) = self.repeats else {
            return Ok(dates
                .into_iter()
                .map(|date| HolidayRule::new(name.clone(), Occurrence::on_date(date)))
                .collect());
        };
        if let Some(month) = repeats.month.filter(|month| *month != start.month()) {
            return Err((
                format!("a yearly event starts in month {} and repeats in {month}", start.month()),
                "the month of its DTSTART",
            ));
        }
        let last_year = match (repeats.until, repeats.count) {
            (Some(until), _) => until,
            (None, Some(count)) => start.year().saturating_add(count - 1).min(9_999),
            (None, None) => 9_999,
        };
        let wrong = |error: mild_ledger::Error| (error.what().to_owned(), "a day that years have");
        let yearly = |occurrence: Occurrence, name: String, skipped: i32| {
            HolidayRule::new(name, occurrence)
                .since(start.year() + skipped)
                .until(last_year + skipped)
                .except(self.except.iter().map(move |year| year + skipped))
        };
        if let Some((number, weekday)) = repeats.weekday {
            if days != 1 {
                return Err((
                    "an event of several days repeats by its weekday".to_owned(),
                    "an event for each day",
                ));
            }
            let occurrence = match number {
                -1 => Occurrence::on_last_weekday(weekday, start.month()),
                number => Occurrence::on_nth_weekday(number as u8, weekday, start.month()),
            };
            return Ok(vec![yearly(occurrence.map_err(wrong)?, name, 0)]);
        }
        if let Some(day) = repeats.day.filter(|day| *day != start.day()) {
            return Err((
                format!("a yearly event starts on day {} and repeats on {day}", start.day()),
                "the day of its DTSTART",
            ));
        }
        dates
            .into_iter()
            .map(|date| {
                let occurrence = Occurrence::on_day_of_year(date.month(), date.day()).map_err(wrong)?;
                Ok(yearly(occurrence, name.clone(), date.year() - start.year()))
            })
            .collect()
    }
}

/// An all-day date, `20261007`; a time of day is refused.
fn read_day(name: &str, property: &Property, value: &str) -> Result<Date, Refusal> {
    let is_date = property.params.iter().flatten().any(|(key, values)| {
        key.eq_ignore_ascii_case("VALUE") && values.iter().any(|value| value.eq_ignore_ascii_case("DATE"))
    });
    if value.contains('T') && !is_date {
        let what = format!("{name} has a time of day, \"{}\"", value.escape_debug());
        return Err((what, "all-day events only, such as DTSTART;VALUE=DATE:20261007"));
    }
    let digits = value.trim();
    let part = |from: usize, to: usize| digits.get(from..to).and_then(|part| part.parse::<i32>().ok());
    let all_digits = digits.len() == 8 && digits.bytes().all(|byte| byte.is_ascii_digit());
    let date = match (all_digits, part(0, 4), part(4, 6), part(6, 8)) {
        (true, Some(year), Some(month), Some(day)) => Date::new(year, month as u8, day as u8).ok(),
        _ => None,
    };
    date.ok_or_else(|| {
        (format!("{name} holds \"{}\", which is no date", value.escape_debug()), "a date such as 20261007")
    })
}

const OTHER: &str = "RRULE:FREQ=YEARLY, perhaps with COUNT, UNTIL, BYMONTH, BYMONTHDAY or one BYDAY";

fn read_repeats(value: &str) -> Result<Repeats, Refusal> {
    let mut repeats = Repeats { until: None, count: None, weekday: None, month: None, day: None };
    let mut yearly = false;
    for part in value.split(';').filter(|part| !part.is_empty()) {
        let refused = || (format!("the repetition {} is not understood", part.escape_debug()), OTHER);
        let (key, value) = part.split_once('=').ok_or_else(refused)?;
        match key.to_uppercase().as_str() {
            "FREQ" if value.eq_ignore_ascii_case("YEARLY") => yearly = true,
            "INTERVAL" if value == "1" => {}
            "WKST" => {}
            "COUNT" => {
                repeats.count = Some(value.parse().ok().filter(|count| *count > 0).ok_or_else(refused)?)
            }
            "UNTIL" => {
                repeats.until = Some(value.get(..4).and_then(|year| year.parse().ok()).ok_or_else(refused)?)
            }
            "BYMONTH" => repeats.month = Some(value.parse().ok().ok_or_else(refused)?),
            "BYMONTHDAY" => repeats.day = Some(value.parse().ok().ok_or_else(refused)?),
            "BYDAY" => repeats.weekday = Some(read_weekday(value).ok_or_else(refused)?),
            _ => return Err(refused()),
        }
    }
    if !yearly {
        return Err(("a repetition does not say FREQ=YEARLY".to_owned(), OTHER));
    }
    if repeats.weekday.is_some() && repeats.month.is_none() {
        return Err(("a weekday of the year, and not of a month, repeats".to_owned(), OTHER));
    }
    Ok(repeats)
}

/// `1MO`, `-1FR`.
fn read_weekday(text: &str) -> Option<(i32, Weekday)> {
    let at = text.len().checked_sub(2)?;
    let (number, day) = (text.get(..at)?, text.get(at..)?);
    let number: i32 = number.parse().ok().filter(|number| matches!(number, -1 | 1..=5))?;
    let days = ["MO", "TU", "WE", "TH", "FR", "SA", "SU"];
    let place = days.iter().position(|known| known.eq_ignore_ascii_case(day))?;
    Weekday::ALL.get(place).map(|weekday| (number, *weekday))
}

/// The text of days as all-day events, each with its name, for a person's calendar: holidays, or computed due dates.
#[must_use]
pub fn to_ics<'n>(name: &str, days: impl IntoIterator<Item = (Date, &'n str)>) -> String {
    let mut calendar =
        IcalCalendarBuilder::version("2.0").gregorian().prodid("-//Mild Ledger//working days//EN");
    for (nth, (date, title)) in days.into_iter().enumerate() {
        let day = date.to_string().replace('-', "");
        let event = IcalEventBuilder::tzid("UTC")
            .uid(format!(
                "{day}-{nth}-{}@mild-ledger",
                name.replace(|sign: char| !sign.is_ascii_alphanumeric(), "-")
            ))
            // The same days give the same file, so the stamp is the day's own.
            .changed_utc(format!("{day}T000000Z"))
            .one_day(day)
            .set(Property { name: "SUMMARY".to_owned(), params: None, value: Some(escaped(title)) })
            .set(Property { name: "TRANSP".to_owned(), params: None, value: Some("TRANSPARENT".to_owned()) })
            .build();
        calendar = calendar.add_event(event);
    }
    calendar.build().generate()
}

/// A text as a property holds it (RFC 5545, section 3.3.11); control signs are left out.
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
