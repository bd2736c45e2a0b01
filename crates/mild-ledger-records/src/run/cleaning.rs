//! Texts of a batch into dates and amounts, and the rows that cannot be used.

use super::exceptions::{Became, Exception, ExceptionSink, Reason};
use super::job::{DateKind, Job, Kind, Missing};
use super::outcome::ColumnDates;
use super::table::{ClockColumn, Data, Table};
use crate::csv::{Batch, BrokenRow, RowFault};
use crate::plan::TimeKept;
use crate::zone::Zone;
use mild_ledger::column::{DateReader, Mask, NoDate};
use mild_ledger::{
    ClockTime, DatePattern, DateTime, DateTimeReading, Error, ErrorKind, Filler, FinerDigits, Reading, Scale,
    TimeOfDay,
};

/// Where a row of the input goes.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) enum Place {
    Written,
    SetAside,
    Merged,
    NotSelected,
}

/// Reads the columns of dates and amounts of batch after batch.
pub(super) struct Cleaner<'j> {
    job: &'j Job,
    readers: Vec<DateColumnReader>,
}

struct DateColumnReader {
    column: usize,
    pattern: DatePattern,
    missing: Missing,
    time: TimeKept,
    zone: Option<Zone>,
    reader: DateReader,
}

impl<'j> Cleaner<'j> {
    pub(super) fn new(job: &'j Job) -> Self {
        let readers = (0..job.columns_of_file)
            .filter_map(|column| match job.kind(column) {
                Kind::Date { source: DateKind::Read { pattern, missing, time, zone }, .. } => {
                    Some(DateColumnReader {
                        column,
                        pattern: pattern.clone(),
                        missing: *missing,
                        time: *time,
                        zone: zone.clone(),
                        reader: DateReader::new(pattern.clone()),
                    })
                }
                _ => None,
            })
            .collect();
        Self { job, readers }
    }

    /// The batch as a table of the file's columns, and the place of each row as far as it is known.
    pub(super) fn clean<'b>(
        &mut self,
        batch: &'b Batch,
        exceptions: &mut ExceptionSink,
    ) -> (Table<'b>, Vec<Place>) {
        for row in &batch.broken {
            exceptions.add(broken_row(row));
        }
        let mut places = vec![Place::Written; batch.rows()];
        let mut readers = self.readers.iter_mut();
        let mut columns = Vec::with_capacity(self.job.columns.len());
        for (nth, texts) in batch.columns.iter().enumerate() {
            let cells = Cells { job: self.job, batch, column: nth };
            columns.push(match self.job.kind(nth) {
                Kind::Date { .. } => match readers.next() {
                    Some(reader) => reader.read(&cells, &mut places, exceptions),
                    None => Data::Text(texts),
                },
                Kind::Amount { scale, missing } => {
                    read_amounts(&cells, *scale, *missing, &mut places, exceptions)
                }
                _ => Data::Text(texts),
            });
        }
        (Table { rows: batch.rows(), columns }, places)
    }

    /// What the columns of dates held.
    pub(super) fn dates(&self) -> Vec<ColumnDates> {
        self.readers
            .iter()
            .map(|reader| ColumnDates {
                column: self.job.name(reader.column).to_owned(),
                pattern: reader.pattern.to_string(),
                tally: reader.reader.tally(),
            })
            .collect()
    }
}

/// The cells of one column of a batch, with what an exception needs to name them.
struct Cells<'b> {
    job: &'b Job,
    batch: &'b Batch,
    column: usize,
}

impl Cells<'_> {
    fn iter(&self) -> impl Iterator<Item = &str> {
        self.batch.columns[self.column].iter()
    }

    fn exception(&self, row: usize, reason: Reason, detail: String, became: Became) -> Exception {
        Exception {
            row: self.batch.numbers[row],
            line: self.batch.lines[row],
            key: key_text(self.job, self.batch, row),
            column: self.job.name(self.column).to_owned(),
            text: self.batch.columns[self.column].get(row).to_owned(),
            reason,
            detail,
            became,
        }
    }
}

/// The key of a row as a person reads it.
pub(super) fn key_text(job: &Job, batch: &Batch, row: usize) -> String {
    let parts: Vec<&str> = job
        .key
        .iter()
        .map(|column| batch.columns.get(*column).map_or("", |texts| texts.get(row).trim()))
        .collect();
    parts.join(" / ")
}

impl DateColumnReader {
    fn read<'b>(
        &mut self,
        cells: &Cells<'_>,
        places: &mut [Place],
        exceptions: &mut ExceptionSink,
    ) -> Data<'b> {
        let mut unreadable = vec![false; cells.batch.rows()];
        let mut clock = ClockColumn { local: Vec::new(), utc: self.zone.as_ref().map(|_| Vec::new()) };
        for (row, text) in cells.iter().enumerate() {
            let Moment { reading, local, utc, finer, fault } = self.read_one(text);
            clock.local.push(local);
            clock.utc.iter_mut().for_each(|instants| instants.push(utc));
            if finer == FinerDigits::Dropped {
                let detail = format!("\"{}\" is finer than a microsecond", text.trim().escape_debug());
                exceptions.add(cells.exception(row, Reason::FinerTimeDropped, detail, Became::Kept));
            }
            if let Ok(Reading::Date { date, time }) = reading {
                if time == TimeOfDay::Dropped && self.time == TimeKept::Dropped {
                    let detail = format!("\"{}\" was read as {date}", text.trim().escape_debug());
                    exceptions.add(cells.exception(row, Reason::TimeDropped, detail, Became::Kept));
                }
                if let Some(filler) = Filler::of(date) {
                    exceptions.add(cells.exception(
                        row,
                        Reason::PerhapsFiller,
                        filler.to_string(),
                        Became::Kept,
                    ));
                }
                continue;
            }
            let (reason, detail) = match reading {
                Ok(Reading::Filler(filler)) => (Reason::Filler, filler.to_string()),
                Ok(_) => (Reason::MissingDate, String::new()),
                Err(_) => {
                    unreadable[row] = true;
                    match (fault, self.reader.why_unreadable(text)) {
                        (Some(fault), _) => (Reason::UnreadableDate, fault),
                        (None, Some(error)) => in_words(&error),
                        (None, None) => (Reason::UnreadableDate, String::new()),
                    }
                }
            };
            let became = match self.missing {
                Missing::SetsRowAside => {
                    places[row] = Place::SetAside;
                    Became::RowSetAside
                }
                Missing::LeavesCellEmpty => Became::CellEmpty,
            };
            // A blank that may be blank is counted and not listed.
            if reason != Reason::MissingDate || became == Became::RowSetAside {
                exceptions.add(cells.exception(row, reason, detail, became));
            }
        }
        let clock = (self.time == TimeKept::Kept).then_some(clock);
        Data::Date { dates: self.reader.take(), unreadable, clock }
    }

    /// What became of the time of a date-time.
    fn time_of(&self, at: DateTime) -> TimeOfDay {
        match (self.time, at.time()) {
            (TimeKept::Kept, _) => TimeOfDay::Absent,
            (TimeKept::Dropped, ClockTime::MIDNIGHT) => TimeOfDay::Midnight,
            (TimeKept::Dropped, _) => TimeOfDay::Dropped,
        }
    }

    /// Reads one text into the reader's next row, with what else it tells.
    fn read_one(&mut self, text: &str) -> Moment {
        if self.time == TimeKept::Dropped && self.zone.is_none() {
            let reading = self.reader.push(text);
            return Moment { reading, local: 0, utc: 0, finer: FinerDigits::Absent, fault: None };
        }
        let Ok(DateTimeReading::DateTime { at, finer, offset_minutes }) = self.pattern.read_date_time(text)
        else {
            let reading = self.reader.push(text);
            return Moment { reading, local: 0, utc: 0, finer: FinerDigits::Absent, fault: None };
        };
        let in_zone = match (&self.zone, offset_minutes) {
            (Some(zone), Some(offset)) => zone.local_and_utc_of(at, offset).map_err(|error| error.to_string()),
            // A time without an offset is what the clock showed; it is no instant where that was none, or two.
            (Some(zone), None) if self.time == TimeKept::Kept => {
                zone.utc_of(at).map(|utc| (at, utc)).map_err(|error| error.to_string())
            }
            (None, Some(_)) => Err("a time with an offset needs a named zone to become a date (allowed: zone = \"Europe/London\" or another beside written)".to_owned()),
            (_, None) => Ok((at, at)),
        };
        match in_zone {
            Ok((local, utc)) => Moment {
                reading: self.reader.push_known(local.date(), self.time_of(local)),
                local: local.microseconds(),
                utc: utc.microseconds(),
                finer,
                fault: None,
            },
            Err(fault) => {
                let reading = self.reader.push_unreadable();
                Moment { reading, local: 0, utc: 0, finer: FinerDigits::Absent, fault: Some(fault) }
            }
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

fn read_amounts<'b>(
    cells: &Cells<'_>,
    scale: Scale,
    missing: Missing,
    places: &mut [Place],
    exceptions: &mut ExceptionSink,
) -> Data<'b> {
    let mut units = Vec::with_capacity(cells.batch.rows());
    let mut present = Mask::new();
    for (row, text) in cells.iter().enumerate() {
        let trimmed = text.trim();
        let result = match (trimmed, missing) {
            ("", Missing::LeavesCellEmpty) => None,
            ("", Missing::SetsRowAside) => Some(Err((Reason::NoAmount, String::new()))),
            _ => Some(scale.read(trimmed).map_err(|error| {
                (Reason::UnreadableAmount, format!("{} (allowed: {})", error.what(), error.allowed()))
            })),
        };
        match result {
            Some(Ok(amount)) => {
                units.push(amount.units());
                present.push_present();
                continue;
            }
            Some(Err((reason, detail))) => {
                places[row] = Place::SetAside;
                exceptions.add(cells.exception(row, reason, detail, Became::RowSetAside));
            }
            None => {}
        }
        units.push(0);
        present.push_empty();
    }
    Data::Amount { units, present, scale }
}

fn broken_row(row: &BrokenRow) -> Exception {
    let (reason, detail) = match row.fault {
        RowFault::TooManyCells { found, expected } => {
            (Reason::TooManyCells, format!("{found} cells, where the header has {expected}"))
        }
        RowFault::TooFewCells { found, expected } => {
            (Reason::TooFewCells, format!("{found} cells, where the header has {expected}"))
        }
        RowFault::NotUtf8 => (Reason::NotUtf8, "save the file as UTF-8".to_owned()),
        RowFault::HeaderAgain => (Reason::HeaderAgain, "the row repeats the header".to_owned()),
    };
    Exception {
        row: row.number,
        line: row.line,
        key: String::new(),
        column: String::new(),
        text: row.beginning.clone(),
        reason,
        detail,
        became: Became::RowSetAside,
    }
}
