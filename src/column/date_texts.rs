//! Reading a column of texts as dates.

use super::Column;
use crate::date::Date;
use crate::error::Error;
use crate::pattern::{Filler, Reading, TimeOfDay, UsualForm, WrittenDates};

/// Reads texts one by one into a column of dates, and counts what it met on the way.
///
/// ```
/// use mild_ledger::column::DateReader;
///
/// let pattern: mild_ledger::DatePattern = "day/month/year".parse()?;
/// let mut reader = DateReader::new(pattern);
/// reader.push("30/09/2026");
/// reader.push("31/06/2026");
/// reader.push("");
/// assert_eq!(reader.tally().unreadable, 1);
/// assert_eq!(reader.tally().blank, 1);
/// let dates = reader.take();
/// assert_eq!((dates.get(0), dates.get(1), dates.get(2)), (Some("2026-09-30".parse()?), None, None));
/// # Ok::<(), mild_ledger::Error>(())
/// ```
#[derive(Debug, Clone)]
pub struct DateReader {
    written: WrittenDates,
    /// What nearly all texts of the column are like.
    usual: Option<UsualForm>,
    dates: Column<Date>,
    tally: DateTally,
}

/// What a [`DateReader`] met; the first four add up to the texts read.
///
/// ```
/// assert_eq!(mild_ledger::column::DateTally::default().read, 0);
/// ```
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize))]
pub struct DateTally {
    /// Texts that were read as dates.
    pub read: u64,
    /// Texts of nothing but spaces.
    pub blank: u64,
    /// Fillers, which count as blank.
    pub filler: u64,
    /// Texts that are not dates under the pattern.
    pub unreadable: u64,
    /// Dates after which a time other than midnight was dropped.
    pub time_dropped: u64,
    /// Dates read that are often fillers and may be true (1900-01-01, 1970-01-01).
    pub doubtful: u64,
}

impl DateReader {
    /// A reader of dates that are written so, by one pattern or several.
    ///
    /// ```
    /// use mild_ledger::{DatePattern, column::DateReader};
    /// assert!(DateReader::new(DatePattern::iso()).take().is_empty());
    /// ```
    #[must_use]
    pub fn new(written: impl Into<WrittenDates>) -> Self {
        let written = written.into();
        let usual = written.usual_form();
        Self { written, usual, dates: Column::new(), tally: DateTally::default() }
    }

    /// Reads a text into the next row, and says what it was; the row of a text that is not a date is empty.
    ///
    /// # Errors
    /// [`NoDate`] where [`WrittenDates::read`] gives an error; [`why_unreadable`](Self::why_unreadable) gives that.
    ///
    /// ```
    /// use mild_ledger::{DatePattern, Reading, column::DateReader};
    /// let mut reader = DateReader::new(DatePattern::iso());
    /// assert_eq!(reader.push(" "), Ok(Reading::Blank));
    /// ```
    pub fn push(&mut self, text: &str) -> Result<Reading, NoDate> {
        let usual = self.usual.and_then(|usual| usual.read(text.as_bytes()));
        if let Some(date) = usual.filter(|date| self.written.is_plain(*date)) {
            self.tally.read += 1;
            self.dates.push(Some(date));
            return Ok(Reading::Date { date, time: TimeOfDay::Absent });
        }
        let reading = self.written.reading_of(text.trim());
        self.add(reading.map_err(|_| NoDate))
    }

    /// Puts into the next row a date that was read by other means than the pattern alone, such as a time zone.
    ///
    /// ```
    /// use mild_ledger::{Date, DatePattern, TimeOfDay, column::DateReader};
    /// let mut reader = DateReader::new(DatePattern::iso());
    /// assert!(reader.push_known(Date::MAX, TimeOfDay::Dropped).is_ok());
    /// assert_eq!(reader.tally().time_dropped, 1);
    /// ```
    ///
    /// # Errors
    /// None; the result is that of [`push`](Self::push).
    pub fn push_known(&mut self, date: Date, time: TimeOfDay) -> Result<Reading, NoDate> {
        self.add(Ok(Reading::Date { date, time }))
    }

    /// Puts into the next row a filler that was read by other means than the pattern.
    ///
    /// # Errors
    /// None; the result is that of [`push`](Self::push).
    ///
    /// ```
    /// use mild_ledger::{DatePattern, Filler, column::DateReader};
    /// let mut reader = DateReader::new(DatePattern::iso());
    /// assert!(reader.push_filler(Filler::NoDayOf1900).is_ok());
    /// assert_eq!((reader.tally().filler, reader.take().get(0)), (1, None));
    /// ```
    pub fn push_filler(&mut self, filler: Filler) -> Result<Reading, NoDate> {
        self.add(Ok(Reading::Filler(filler)))
    }

    /// Puts into the next row a text that was found to be no date by other means than the pattern.
    ///
    /// # Errors
    /// [`NoDate`], always.
    ///
    /// ```
    /// use mild_ledger::{DatePattern, column::DateReader};
    /// let mut reader = DateReader::new(DatePattern::iso());
    /// assert!(reader.push_unreadable().is_err());
    /// assert_eq!(reader.tally().unreadable, 1);
    /// ```
    pub fn push_unreadable(&mut self) -> Result<Reading, NoDate> {
        self.add(Err(NoDate))
    }

    fn add(&mut self, reading: Result<Reading, NoDate>) -> Result<Reading, NoDate> {
        let mut date: Option<Date> = None;
        match reading {
            Ok(Reading::Date { date: read, time }) => {
                date = Some(read);
                self.tally.read += 1;
                self.tally.time_dropped += u64::from(time == TimeOfDay::Dropped);
                self.tally.doubtful += u64::from(self.written.doubt_of(read).is_some());
            }
            Ok(Reading::Blank) => self.tally.blank += 1,
            Ok(Reading::Filler(_)) => self.tally.filler += 1,
            Err(_) => self.tally.unreadable += 1,
        }
        self.dates.push(date);
        reading
    }

    /// Why a text is not a date, or `None` where it is one, or blank.
    ///
    /// ```
    /// use mild_ledger::{DatePattern, column::DateReader};
    /// let reader = DateReader::new(DatePattern::iso());
    /// assert!(reader.why_unreadable("2026-02-30").is_some());
    /// ```
    #[must_use]
    pub fn why_unreadable(&self, text: &str) -> Option<Error> {
        self.written.read(text).err()
    }

    /// What it met so far, over all columns taken.
    ///
    /// ```
    /// use mild_ledger::{DatePattern, column::DateReader};
    /// assert_eq!(DateReader::new(DatePattern::iso()).tally().blank, 0);
    /// ```
    #[must_use]
    pub fn tally(&self) -> DateTally {
        self.tally
    }

    /// Adds what another reader met to the tally; the rows that it read stay with it.
    ///
    /// ```
    /// use mild_ledger::{DatePattern, column::DateReader};
    /// let mut readers = [DateReader::new(DatePattern::iso()), DateReader::new(DatePattern::iso())];
    /// readers.iter_mut().for_each(|reader| assert!(reader.push("2026-09-30").is_ok()));
    /// let [mut one, other] = readers;
    /// one.merge(&other);
    /// assert_eq!((one.tally().read, one.take().len()), (2, 1));
    /// ```
    pub fn merge(&mut self, other: &Self) {
        self.count_in(other.tally);
    }

    /// Adds the counts of another tally, such as by a reader of another process.
    ///
    /// ```
    /// use mild_ledger::{DatePattern, column::{DateReader, DateTally}};
    /// let mut reader = DateReader::new(DatePattern::iso());
    /// reader.count_in(DateTally { read: 2, ..DateTally::default() });
    /// assert_eq!(reader.tally().read, 2);
    /// ```
    pub fn count_in(&mut self, more: DateTally) {
        let tally = &mut self.tally;
        tally.read += more.read;
        tally.blank += more.blank;
        tally.filler += more.filler;
        tally.unreadable += more.unreadable;
        tally.time_dropped += more.time_dropped;
        tally.doubtful += more.doubtful;
    }

    /// The rows read since the last call; the tally runs on.
    ///
    /// ```
    /// use mild_ledger::{DatePattern, column::DateReader};
    /// let mut reader = DateReader::new(DatePattern::iso());
    /// let _ = reader.push("2026-09-30");
    /// assert_eq!((reader.take().len(), reader.take().len()), (1, 0));
    /// ```
    #[must_use]
    pub fn take(&mut self) -> Column<Date> {
        core::mem::take(&mut self.dates)
    }
}

/// The text was no date; [`DateReader::why_unreadable`] says why.
///
/// ```
/// use mild_ledger::{DatePattern, column::{DateReader, NoDate}};
/// assert_eq!(DateReader::new(DatePattern::iso()).push("soon"), Err(NoDate));
/// ```
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct NoDate;

impl core::fmt::Display for NoDate {
    fn fmt(&self, f: &mut core::fmt::Formatter<'_>) -> core::fmt::Result {
        f.pad("the text is not a date under the pattern")
    }
}

impl core::error::Error for NoDate {}
