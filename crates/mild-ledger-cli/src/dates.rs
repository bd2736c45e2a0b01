//! Dates among the arguments.

use crate::arguments::AnswerArguments;
use crate::clock::{self, Now};
use crate::ending::Failure;
use mild_ledger::{ClockTime, Date, DatePattern, DateTime, DateTimeReading, FinerDigits, Reading, ZoneText};
use mild_ledger_records::{AsOf, Zone, nearest_word};
use std::cell::OnceCell;
use std::str::FromStr;

/// What today is, and where times with an offset are taken to.
pub(crate) struct Here {
    as_of: Option<Moment>,
    zone: Option<Zone>,
    /// Read once, so that a question asked around midnight has one today.
    now: OnceCell<Now>,
}

/// A day of the command line, perhaps with a time of it.
#[derive(Debug, Clone, Copy)]
pub(crate) enum Moment {
    Day(Date),
    Time {
        at: DateTime,
        /// The same in UTC, where a zone tells.
        instant: Option<DateTime>,
    },
}

/// An argument that was read, with what a person should know of it.
#[derive(Debug)]
pub(crate) struct Noted<T> {
    pub(crate) value: T,
    pub(crate) note: Option<String>,
}

enum NamedFailure {
    Clock(Failure),
    Date(mild_ledger::Error),
}

impl Moment {
    pub(crate) fn date(self) -> Date {
        match self {
            Self::Day(date) => date,
            Self::Time { at, .. } => at.date(),
        }
    }
}

impl Here {
    /// What `--as-of` and `--zone` say.
    pub(crate) fn of(answer: &AnswerArguments) -> Result<Self, Failure> {
        let zone = read_zone(answer.zone.as_deref())?;
        let mut here = Self { as_of: None, zone, now: OnceCell::new() };
        if let Some(text) = &answer.as_of {
            here.as_of = Some(here.read_moment("--as-of", text)?.value);
        }
        Ok(here)
    }

    fn now(&self) -> Result<&Now, Failure> {
        if let Some(now) = self.now.get() {
            return Ok(now);
        }
        let now = clock::now(self.zone.as_ref())?;
        Ok(self.now.get_or_init(|| now))
    }

    /// Reads a date or a date-time; one that is written in another way is refused with the ISO form that was
    /// perhaps meant.
    pub(crate) fn read_moment(&self, name: &'static str, text: &str) -> Result<Noted<Moment>, Failure> {
        if let Some((_, time)) = text.trim().split_once(['T', ' '])
            && time.starts_with(|sign: char| sign.is_ascii_digit())
            && time.contains(':')
        {
            return self.read_time(name, text);
        }
        let failed = |error| Failure::Argument { name, error, help: meant(text) };
        match text.parse::<AsOf>().map_err(failed)? {
            AsOf::Date(date) => Ok(Noted { value: Moment::Day(date), note: None }),
            named => self.read_named(named).map_err(|failure| match failure {
                NamedFailure::Clock(failure) => failure,
                NamedFailure::Date(error) => failed(error),
            }),
        }
    }

    /// A day named from today, or now.
    fn read_named(&self, named: AsOf) -> Result<Noted<Moment>, NamedFailure> {
        let (now, note) = match self.as_of {
            Some(Moment::Day(date)) => (DateTime::new(date, ClockTime::MIDNIGHT), None),
            Some(Moment::Time { at, .. }) => (at, None),
            None => {
                let now = self.now().map_err(NamedFailure::Clock)?;
                (now.at, Some(format!("today: the date in {}", now.zone)))
            }
        };
        let value = match (named, self.as_of) {
            (AsOf::Now, Some(Moment::Day(date))) => Moment::Day(date),
            (AsOf::Now, _) => Moment::Time { at: now, instant: None },
            (named, _) => Moment::Day(named.on(now).map_err(NamedFailure::Date)?),
        };
        Ok(Noted { value, note })
    }

    fn read_time(&self, name: &'static str, text: &str) -> Result<Noted<Moment>, Failure> {
        let in_zone = |error| Failure::Zone { name, error };
        let value = match (text.trim().parse::<DateTime>(), &self.zone) {
            (Ok(at), None) => Moment::Time { at, instant: None },
            (Ok(at), Some(zone)) => Moment::Time { at, instant: Some(zone.utc_of(at).map_err(in_zone)?) },
            (Err(error), zone) => match (DatePattern::iso().read_date_time(text), zone) {
                (
                    Ok(DateTimeReading::DateTime { at, finer: FinerDigits::Absent, zone: written }),
                    Some(zone),
                ) => {
                    let (at, utc) = zone.local_and_utc_of(at, written).map_err(in_zone)?;
                    Moment::Time { at, instant: Some(utc) }
                }
                (Ok(DateTimeReading::DateTime { zone, .. }), None) if zone != ZoneText::Absent => {
                    let help =
                        Some("name the zone whose dates are meant, such as --zone Europe/London".to_owned());
                    return Err(Failure::Argument { name, error, help });
                }
                (Ok(DateTimeReading::Filler(filler)), Some(_)) => {
                    return Err(Failure::Argument { name, error, help: Some(filler.to_string()) });
                }
                _ => return Err(Failure::Argument { name, error, help: meant(text) }),
            },
        };
        let note = self.zone.as_ref().map(|zone| format!("times: as the clock shows them in {zone}"));
        Ok(Noted { value, note })
    }

    /// Reads a date; a time of day is dropped, with a note.
    pub(crate) fn read_date(&self, name: &'static str, text: &str) -> Result<Noted<Date>, Failure> {
        let Noted { value, note } = self.read_moment(name, text)?;
        let dropped = match (value, &self.zone) {
            (Moment::Day(_), _) => note,
            (Moment::Time { at, .. }, None) => Some(format!("the time {} was dropped", at.time())),
            (Moment::Time { at, .. }, Some(zone)) => {
                Some(format!("the date in {zone}; its time {} was dropped", at.time()))
            }
        };
        Ok(Noted { value: value.date(), note: dropped })
    }
}

/// The zone that `--zone` names, if it is given.
pub(crate) fn read_zone(name: Option<&str>) -> Result<Option<Zone>, Failure> {
    name.map(str::parse).transpose().map_err(|error| Failure::Zone { name: "--zone", error })
}

/// The ISO forms that a date written in another way may have meant.
pub(crate) fn meant(text: &str) -> Option<String> {
    let words = text.trim().to_lowercase();
    for period in ["month", "quarter", "year"] {
        if [format!("{period} end"), format!("{period}-end"), format!("end of {period}")].contains(&words) {
            return Some(format!("\"end of this {period}\" or \"end of last {period}\""));
        }
    }
    const WRITTEN: [&str; 8] = [
        "day/month/year",
        "month/day/year",
        "day.month.year",
        "day-month-year",
        "year/month/day",
        "yearmonthday",
        "day month-name year",
        "month-name day, year",
    ];
    let mut dates: Vec<String> = WRITTEN
        .into_iter()
        .filter_map(|written| match written.parse::<DatePattern>().ok()?.read(text) {
            Ok(Reading::Date { date, .. }) => Some(format!("{date} ({written})")),
            _ => None,
        })
        .collect();
    dates.dedup();
    (!dates.is_empty()).then(|| format!("perhaps {} was meant", dates.join(" or ")))
}

/// A choice of a fixed set of words, such as a rule for month ends.
pub(crate) fn read_choice<T: FromStr<Err = mild_ledger::Error>>(
    name: &'static str,
    text: &str,
) -> Result<T, Failure> {
    // An option is typed by hand, in any case.
    text.parse().or_else(|error: mild_ledger::Error| text.to_lowercase().parse().map_err(|_| error)).map_err(
        |error: mild_ledger::Error| {
            let words = error.allowed().to_owned();
            let listed = words.split(',').flat_map(|part| part.split(" or ")).map(str::trim);
            let help = nearest_word(text, listed).map(|near| format!("nearest: {near}"));
            Failure::Argument { name, error, help }
        },
    )
}
