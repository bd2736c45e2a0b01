//! Texts of a column into dates.

use super::cells::Cells;
use super::suspicion::Suspicion;
use crate::error::RecordsError;
use crate::handover::{Counts, Saved, Saving};
use crate::table::{
    Became, CellType, Data, DateKind, Gap, Kind, Layout, Missing, Reason, TimeKept, date_array, moment_array,
};
use crate::zones::Zone;
use mild_ledger::column::{DateReader, DateTally, NoDate};
use mild_ledger::{
    ClockTime, Date, DateTime, DateTimeReading, Error, ErrorKind, Filler, FinerDigits, Reading, TimeOfDay,
    WrittenDates, ZoneText,
};

/// Reads a column of dates, batch after batch.
pub(super) struct DateColumnReader {
    column: usize,
    written: WrittenDates,
    missing: Missing,
    time: TimeKept,
    zone: Option<Zone>,
    reader: DateReader,
    /// How dates are written that the format typed.
    typed: WrittenDates,
    suspicion: Suspicion,
}

/// What a column of dates held.
pub(crate) struct ColumnReadings {
    pub(crate) column: usize,
    pub(crate) pattern: String,
    pub(crate) tally: DateTally,
    /// What is doubtful about it, as a sentence, where there is something.
    pub(crate) doubt: Option<String>,
}

impl Counts for DateColumnReader {
    fn save(&self, into: &mut Saving) -> Result<(), RecordsError> {
        into.put(&self.reader.tally())?;
        self.suspicion.save(into)
    }

    fn restore(&mut self, from: &mut Saved<'_>) -> Result<(), RecordsError> {
        let mut reader = DateReader::new(self.written.clone());
        reader.count_in(from.take()?);
        self.reader = reader;
        self.suspicion.restore(from)
    }
}

impl DateColumnReader {
    /// The reader of a column that holds dates as the plan says they are written.
    pub(super) fn of(column: usize, kind: &Kind) -> Option<Self> {
        let Kind::Date { source: DateKind::Read { written, missing, time, zone }, .. } = kind else {
            return None;
        };
        Some(Self {
            column,
            written: written.clone(),
            missing: *missing,
            time: *time,
            zone: zone.clone(),
            reader: DateReader::new(written.clone()),
            typed: written.as_iso(),
            suspicion: Suspicion::of(written),
        })
    }

    /// Takes over what another reader of the same column met in other batches.
    pub(super) fn merge(&mut self, other: &Self) {
        self.reader.merge(&other.reader);
        self.suspicion.merge(&other.suspicion);
    }

    /// The dates of a batch, and why cells are empty where that is not because they are blank.
    pub(super) fn read(&mut self, cells: &mut Cells<'_>) -> (Data, Vec<Option<Gap>>) {
        let mut gaps: Vec<Option<Gap>> = Vec::new();
        let (mut locals, mut instants) = (Vec::new(), Vec::new());
        for row in 0..cells.rows() {
            let text = cells.text(row);
            let holds = cells.holds(row);
            let Moment { reading, local, utc, finer, fault } = self.read_cell(text, holds);
            if self.time == TimeKept::Kept {
                locals.push(local);
                instants.push(utc);
            }
            let shown = |text: &str| text.trim().escape_debug().to_string();
            match reading {
                Ok(Reading::Date { date, time }) => {
                    if holds == CellType::Text {
                        self.suspicion.note(text, true, cells.number(row));
                    }
                    if finer == FinerDigits::Dropped {
                        let detail = format!("\"{}\" is finer than a microsecond", shown(text));
                        cells.list(row, Reason::FinerTimeDropped, detail, Became::Kept);
                    }
                    if time == TimeOfDay::Dropped && self.time == TimeKept::DroppedAndListed {
                        let date = cells.layout.presentation.date(date);
                        let detail = format!("\"{}\" was read as {date}", shown(cells.text(row)));
                        cells.list(row, Reason::TimeDropped, detail, Became::DateKept);
                    }
                    if let Some(filler) = self.written.doubt_of(date) {
                        cells.list(row, Reason::PerhapsFiller, filler.to_string(), Became::Kept);
                    }
                }
                Ok(Reading::Filler(filler)) => {
                    cells.list(row, Reason::Filler, filler.to_string(), self.became());
                }
                Ok(_) => {
                    // A blank that may be blank is counted and not listed.
                    if self.missing == Missing::SetsRowAside {
                        cells.list(row, Reason::MissingDate, String::new(), self.became());
                    }
                }
                Err(_) => {
                    self.suspicion.note(text, false, cells.number(row));
                    gaps.resize(cells.rows(), None);
                    gaps[row] = Some(Gap::Unreadable);
                    let (reason, detail) = match (fault, self.reader.why_unreadable(text)) {
                        (Some(fault), _) => (Reason::UnreadableDate, fault),
                        (None, Some(error)) => in_words(&error),
                        (None, None) => (Reason::UnreadableDate, String::new()),
                    };
                    cells.list(row, reason, detail, self.became());
                }
            }
        }
        let dates = self.reader.take();
        if self.time != TimeKept::Kept {
            return (Data::Date(date_array(dates)), gaps);
        }
        // What is in a row without a date has no meaning.
        let there = |clock: Vec<i64>| {
            let known = |(date, at): (Option<Date>, i64)| date.and(DateTime::from_microseconds(at).ok());
            moment_array(dates.iter().zip(clock).map(known))
        };
        let utc = self.zone.is_some().then(|| there(instants));
        (Data::Moment { local: there(locals), utc }, gaps)
    }

    /// What becomes of a row or a cell without a date.
    fn became(&self) -> Became {
        match self.missing {
            Missing::SetsRowAside => Became::RowSetAside,
            Missing::LeavesCellEmpty => Became::CellEmpty,
            Missing::KeepsText => Became::TextKept,
        }
    }

    /// The values found, and what is doubtful: more than one value in a hundred that could not be read, or a pattern that
    /// would read them all.
    pub(super) fn readings(&self, layout: &Layout) -> ColumnReadings {
        let tally = self.reader.tally();
        let values = tally.read + tally.unreadable;
        let better = self.suspicion.better(values);
        let many = tally.unreadable > 0 && tally.unreadable * 100 > values;
        let doubt = (many || better.is_some()).then(|| {
            let column = layout.name(self.column);
            let values_word = if values == 1 { "value" } else { "values" };
            let base = format!(
                "{} of {values} {values_word} of {column} could not be read as {}",
                tally.unreadable, self.written
            );
            match better {
                Some((pattern, how_many)) => format!("{base}; {how_many} can as {pattern}"),
                None => base,
            }
        });
        ColumnReadings { column: self.column, pattern: self.written.to_string(), tally, doubt }
    }

    /// What became of the time of a date-time.
    fn time_of(&self, at: DateTime) -> TimeOfDay {
        match (self.time, at.time()) {
            (TimeKept::Kept, _) => TimeOfDay::Absent,
            (_, ClockTime::MIDNIGHT) => TimeOfDay::Midnight,
            _ => TimeOfDay::Dropped,
        }
    }

    /// Reads a cell into the reader's next row, with what else it tells: by the pattern for the texts of the column, or as the date
    /// that the format says it is.
    fn read_cell(&mut self, text: &str, holds: CellType) -> Moment {
        let is_date = matches!(holds, CellType::Date | CellType::ZeroOf1904);
        let plain = |reading| Moment { reading, local: 0, utc: 0, finer: FinerDigits::Absent, fault: None };
        if holds == CellType::ZeroOf1904 && !Date::new(1904, 1, 1).is_ok_and(|zero| self.written.keeps(zero))
        {
            return plain(self.reader.push_filler(Filler::SerialZero));
        }
        if !is_date && self.time != TimeKept::Kept && self.zone.is_none() {
            return plain(self.reader.push(text));
        }
        let read = if is_date { self.typed.read_date_time(text) } else { self.written.read_date_time(text) };
        let (at, finer, behind) = match read {
            Ok(DateTimeReading::DateTime { at, finer, zone }) => (at, finer, zone),
            Ok(DateTimeReading::Filler(filler)) => return plain(self.reader.push_filler(filler)),
            _ => return plain(self.reader.push(text)),
        };
        let in_zone = match (&self.zone, behind) {
            // A time with nothing after it is what the clock showed; where times are dropped, its date is as it is written.
            (Some(_), ZoneText::Absent) if self.time != TimeKept::Kept => Ok((at, at)),
            (None, ZoneText::Absent) => Ok((at, at)),
            (Some(zone), behind) => zone.local_and_utc_of(at, behind).map_err(|error| error.to_string()),
            (None, _) => Err("a time with an offset or a zone needs a named zone to become a date (allowed: zone = \"Europe/London\" or another next to pattern)".to_owned()),
        };
        match in_zone {
            Ok((local, utc)) => Moment {
                reading: self.reader.push_known(local.date(), self.time_of(local)),
                local: local.microseconds(),
                utc: utc.microseconds(),
                finer,
                fault: None,
            },
            Err(fault) => Moment { fault: Some(fault), ..plain(self.reader.push_unreadable()) },
        }
    }
}

/// A text as a date, and as a date-time where times are kept.
struct Moment {
    reading: Result<Reading, NoDate>,
    local: i64,
    utc: i64,
    finer: FinerDigits,
    /// Why a zone has no date for it.
    fault: Option<String>,
}

fn in_words(error: &Error) -> (Reason, String) {
    let reason =
        if error.kind() == ErrorKind::NoSuchDay { Reason::NoSuchDay } else { Reason::UnreadableDate };
    (reason, format!("{} (allowed: {})", error.what(), error.allowed()))
}
