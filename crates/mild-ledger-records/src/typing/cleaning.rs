//! Texts of a batch into dates and amounts, and the rows that cannot be used.

use super::suspicion::Suspicion;
use crate::table::{
    Batch, Became, BrokenRow, CellType, Data, DateKind, Exception, ExceptionSubject, Gap, Kind, Layout,
    Missing, NumberRead, Origin, Reason, RowFault, Table, TimeKept, WrittenNumbers, date_array, moment_array,
};
use crate::zones::Zone;
use arrow_array::StringArray;
use mild_ledger::column::{DateReader, DateTally, NoDate};
use mild_ledger::{
    ClockTime, Date, DateTime, DateTimeReading, Error, ErrorKind, FinerDigits, Reading, TimeOfDay,
    WrittenDates,
};

/// Where a row of the input goes.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(crate) enum Place {
    Written,
    SetAside,
    Merged,
    NotSelected,
}

/// Reads the columns of dates and amounts of batch after batch.
pub(crate) struct Cleaner<'j> {
    layout: &'j Layout,
    readers: Vec<DateColumnReader>,
}

struct DateColumnReader {
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

impl<'j> Cleaner<'j> {
    pub(crate) fn new(layout: &'j Layout) -> Self {
        let readers = (0..layout.columns_of_file)
            .filter_map(|column| match layout.kind(column) {
                Kind::Date { source: DateKind::Read { written, missing, time, zone }, .. } => {
                    Some(DateColumnReader {
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
                _ => None,
            })
            .collect();
        Self { layout, readers }
    }

    /// The batch as a table of the file's columns, and the place of each row as far as it is known.
    pub(crate) fn clean(&mut self, batch: &Batch, exceptions: &mut Vec<Exception>) -> (Table, Vec<Place>) {
        exceptions.extend(batch.broken.iter().map(|row| broken_row(batch.origins.source, row)));
        let mut places = vec![Place::Written; batch.rows()];
        let mut readers = self.readers.iter_mut();
        let mut columns = Vec::with_capacity(self.layout.columns.len());
        let mut all_gaps = Vec::with_capacity(self.layout.columns.len());
        for nth in 0..batch.columns() {
            let as_it_is = || Data::Text(texts_of(batch, nth));
            let mut cells =
                Cells { layout: self.layout, batch, column: nth, exceptions, places: &mut places };
            let kind = self.layout.kind(nth);
            let (data, gaps) = match kind {
                Kind::Date { .. } => match readers.next() {
                    Some(reader) => reader.read(&mut cells),
                    None => (as_it_is(), Vec::new()),
                },
                Kind::Amount { .. } | Kind::Number { .. } => match self.layout.written(nth) {
                    Some(written) => read_numbers(&mut cells, written, became_unreadable(kind, written)),
                    None => (as_it_is(), Vec::new()),
                },
                _ => (as_it_is(), Vec::new()),
            };
            columns.push(data);
            all_gaps.push(gaps);
        }
        (Table { rows: batch.rows(), columns, gaps: all_gaps }, places)
    }

    /// What the columns of dates held.
    /// Takes over what another cleaner of the same columns met in other batches.
    pub(crate) fn merge(&mut self, other: &Self) {
        for (reader, other) in self.readers.iter_mut().zip(&other.readers) {
            reader.reader.merge(&other.reader);
            reader.suspicion.merge(&other.suspicion);
        }
    }

    pub(crate) fn readings(&self) -> Vec<ColumnReadings> {
        self.readers.iter().map(|reader| reader.readings(self.layout)).collect()
    }
}

/// The texts of a column as they are; of one that was not kept, a blank text a row.
fn texts_of(batch: &Batch, column: usize) -> StringArray {
    let blank = || StringArray::from_iter_values(std::iter::repeat_n("", batch.rows()));
    batch.texts(column).cloned().unwrap_or_else(blank)
}

/// The cells of one column of a batch, with what an exception needs to name them.
struct Cells<'c> {
    layout: &'c Layout,
    batch: &'c Batch,
    column: usize,
    exceptions: &'c mut Vec<Exception>,
    places: &'c mut [Place],
}

impl Cells<'_> {
    fn rows(&self) -> usize {
        self.batch.rows()
    }

    fn text(&self, row: usize) -> &str {
        self.batch.text(self.column, row)
    }

    fn list(&mut self, row: usize, reason: Reason, detail: String, became: Became) {
        if became == Became::RowSetAside {
            self.places[row] = Place::SetAside;
        }
        self.exceptions.push(Exception {
            origin: self.batch.origins.of(row),
            key: self.layout.key_text(self.batch, row),
            subject: ExceptionSubject::Column(self.column),
            text: self.text(row).to_owned(),
            reason,
            detail,
            became,
        });
    }
}

impl DateColumnReader {
    fn read(&mut self, cells: &mut Cells<'_>) -> (Data, Vec<Option<Gap>>) {
        let mut gaps: Vec<Option<Gap>> = Vec::new();
        let (mut locals, mut instants) = (Vec::new(), Vec::new());
        for row in 0..cells.rows() {
            let text = cells.text(row);
            let is_typed = cells.batch.cell_type(cells.column, row) == CellType::Date;
            let Moment { reading, local, utc, finer, fault } = self.read_one(text, is_typed);
            if self.time == TimeKept::Kept {
                locals.push(local);
                instants.push(utc);
            }
            let shown = |text: &str| text.trim().escape_debug().to_string();
            match reading {
                Ok(Reading::Date { date, time }) => {
                    if !is_typed {
                        self.suspicion.note(text, true, cells.batch.origins.of(row).row);
                    }
                    if finer == FinerDigits::Dropped {
                        let detail = format!("\"{}\" is finer than a microsecond", shown(text));
                        cells.list(row, Reason::FinerTimeDropped, detail, Became::Kept);
                    }
                    if time == TimeOfDay::Dropped && self.time == TimeKept::DroppedAndListed {
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
                    self.suspicion.note(text, false, cells.batch.origins.of(row).row);
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
        // What stands in a row without a date has no meaning.
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
        }
    }

    /// What was held, and what is doubtful: more than one value in a hundred that could not be read, or a pattern that
    /// would read them all.
    fn readings(&self, layout: &Layout) -> ColumnReadings {
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

    /// Reads a date that the format itself typed, whatever the pattern for the texts of the column.
    fn read_typed(&mut self, text: &str) -> Moment {
        let moment = |reading, at: i64| Moment {
            reading,
            local: at,
            utc: at,
            finer: FinerDigits::Absent,
            fault: None,
        };
        match self.typed.read_date_time(text) {
            Ok(DateTimeReading::DateTime { at, .. }) => {
                let utc = self.zone.as_ref().map_or(Ok(at), |zone| zone.utc_of(at));
                match utc {
                    Ok(utc) => Moment {
                        utc: utc.microseconds(),
                        ..moment(self.reader.push_known(at.date(), self.time_of(at)), at.microseconds())
                    },
                    Err(error) => {
                        let fault = Some(error.to_string());
                        Moment { fault, ..moment(self.reader.push_unreadable(), 0) }
                    }
                }
            }
            Ok(DateTimeReading::Filler(filler)) => moment(self.reader.push_filler(filler), 0),
            _ => moment(self.reader.push(text), 0),
        }
    }

    /// Reads one text into the reader's next row, with what else it tells.
    fn read_one(&mut self, text: &str, is_typed: bool) -> Moment {
        let plain = |reading| Moment { reading, local: 0, utc: 0, finer: FinerDigits::Absent, fault: None };
        if is_typed {
            return self.read_typed(text);
        }
        if self.time != TimeKept::Kept && self.zone.is_none() {
            return plain(self.reader.push(text));
        }
        let Ok(DateTimeReading::DateTime { at, finer, offset_minutes }) = self.written.read_date_time(text)
        else {
            return plain(self.reader.push(text));
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

/// What becomes of a row, or a cell, whose number cannot be read.
fn became_unreadable(kind: &Kind, written: &WrittenNumbers) -> Became {
    match (kind, written.missing) {
        (Kind::Number { .. }, Missing::LeavesCellEmpty) => Became::CellEmpty,
        _ => Became::RowSetAside,
    }
}

/// Reads the amounts or numbers of a column. A row whose amount cannot be read is set aside; a number that is no money leaves its
/// cell empty, unless the plan wants one in each row.
fn read_numbers(
    cells: &mut Cells<'_>,
    written: &WrittenNumbers,
    without: Became,
) -> (Data, Vec<Option<Gap>>) {
    let mut gaps: Vec<Option<Gap>> = Vec::new();
    let mut units = Vec::with_capacity(cells.rows());
    for row in 0..cells.rows() {
        let is_number = cells.batch.cell_type(cells.column, row) == CellType::Number;
        let read =
            if is_number { written.read_typed(cells.text(row)) } else { written.read(cells.text(row)) };
        units.push(match read {
            NumberRead::Units(units) => Some(units),
            NumberRead::Blank => {
                if written.missing == Missing::SetsRowAside {
                    cells.list(row, Reason::NoAmount, String::new(), Became::RowSetAside);
                }
                None
            }
            NumberRead::Fault(detail) => {
                if without == Became::CellEmpty {
                    gaps.resize(cells.rows(), None);
                    gaps[row] = Some(Gap::Unreadable);
                }
                cells.list(row, Reason::UnreadableAmount, detail, without);
                None
            }
        });
    }
    (Data::numbers(units, written.scale.decimals()), gaps)
}

/// A row whose cells cannot be told apart, as an exception.
pub(crate) fn broken_row(source: usize, row: &BrokenRow) -> Exception {
    let (reason, detail) = match row.fault {
        RowFault::StrayQuote => (
            Reason::StrayQuote,
            "a cell that holds a quote stands in quotes as a whole, with the quote doubled".to_owned(),
        ),
        RowFault::NotAnObject => (
            Reason::NotAnObject,
            "each line is one object in curly brackets, such as {\"Invoice\": \"QB-1001\"}".to_owned(),
        ),
        RowFault::NestedValue => {
            (Reason::NestedValue, "a column holds a text, a number, true, false or null".to_owned())
        }
        RowFault::NameTwice => (Reason::NameTwice, "each name stands once in an object".to_owned()),
        RowFault::TooManyCells { found, expected } => {
            (Reason::TooManyCells, format!("{found} cells, where the header has {expected}"))
        }
        RowFault::TooFewCells { found, expected } => {
            (Reason::TooFewCells, format!("{found} cells, where the header has {expected}"))
        }
        RowFault::NotUtf8 => {
            (Reason::NotUtf8, "save the file as UTF-8, or name its encoding under [records]".to_owned())
        }
        RowFault::HeaderAgain => (Reason::HeaderAgain, "the row repeats the header".to_owned()),
    };
    Exception {
        origin: Origin { source, row: row.number, line: row.line },
        key: String::new(),
        subject: ExceptionSubject::Row,
        text: row.beginning.clone(),
        reason,
        detail,
        became: Became::RowSetAside,
    }
}
