//! How many are in service at the start and the end of periods, and how many joined and left in between.

use crate::date::Date;
use crate::period::DateRange;
use alloc::vec;
use alloc::vec::Vec;

/// Joiners, leavers and headcounts over stretches of days that follow each other. Who leaves on a day is in service until its end, and is among the leavers who
/// left in the stretch that holds it.
///
/// ```
/// use mild_ledger::{DateRange, Headcount};
/// let month = |first: &str, last: &str| DateRange::new(first.parse()?, last.parse()?);
/// let mut count = Headcount::of([month("2026-08-01", "2026-08-31")?, month("2026-09-01", "2026-09-30")?]);
/// count.add("2020-05-01".parse()?, Some("2026-09-30".parse()?));
/// count.add("2026-08-15".parse()?, None);
/// let lines = count.lines();
/// assert_eq!((lines[0].opening, lines[0].joined, lines[0].left, lines[0].closing), (1, 1, 0, 2));
/// assert_eq!((lines[1].opening, lines[1].joined, lines[1].left, lines[1].closing), (2, 0, 1, 1));
/// # Ok::<(), mild_ledger::Error>(())
/// ```
#[derive(Debug, Clone, PartialEq, Eq)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize))]
#[cfg_attr(feature = "serde", serde(into = "CountParts", try_from = "CountParts"))]
pub struct Headcount {
    periods: Vec<DateRange>,
    /// Joined and left before the first.
    before: [u64; 2],
    joined: Vec<u64>,
    left: Vec<u64>,
}

/// The headcount of one stretch of days: opening + joined − left = closing.
///
/// ```
/// # use mild_ledger::{DateRange, Headcount};
/// let day = DateRange::new("2026-09-30".parse()?, "2026-09-30".parse()?)?;
/// assert_eq!(Headcount::of([day]).lines()[0].closing, 0);
/// # Ok::<(), mild_ledger::Error>(())
/// ```
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub struct HeadcountLine {
    /// In service when it begins.
    pub opening: u64,
    /// First days in it.
    pub joined: u64,
    /// Last days in it.
    pub left: u64,
    /// In service when it ends.
    pub closing: u64,
}

#[cfg(feature = "serde")]
impl Headcount {
    fn into_parts(self) -> CountParts {
        let periods = self.periods.iter().map(|period| (period.first(), period.last())).collect();
        let Self { before, joined, left, .. } = self;
        CountParts { periods, before, joined, left }
    }

    /// Of so many stretches as there are numbers.
    fn of_parts(periods: Vec<DateRange>, before: [u64; 2], (joined, left): (Vec<u64>, Vec<u64>)) -> Self {
        Self { periods, before, joined, left }
    }
}

impl Headcount {
    /// No one yet, over stretches of days in their order.
    ///
    /// ```
    /// # use mild_ledger::Headcount;
    /// assert!(Headcount::of([]).lines().is_empty());
    /// ```
    #[must_use]
    pub fn of(periods: impl IntoIterator<Item = DateRange>) -> Self {
        let periods: Vec<DateRange> = periods.into_iter().collect();
        let none = vec![0; periods.len()];
        Self { periods, before: [0; 2], joined: none.clone(), left: none }
    }

    /// Takes a service from its first day to its last one, which has none where it goes on. Days after all stretches are not seen.
    ///
    /// ```
    /// # use mild_ledger::{DateRange, Headcount};
    /// let day = DateRange::new("2026-09-30".parse()?, "2026-09-30".parse()?)?;
    /// let mut count = Headcount::of([day]);
    /// count.add("2026-09-30".parse()?, None);
    /// count.add("2026-10-01".parse()?, None);
    /// assert_eq!(count.lines()[0].joined, 1);
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    pub fn add(&mut self, first: Date, last: Option<Date>) {
        match self.place_of(first) {
            Place::Before => self.before[0] += 1,
            Place::In(period) => self.joined[period] += 1,
            Place::Behind => return,
        }
        match last.map(|last| self.place_of(last)) {
            Some(Place::Before) => self.before[1] += 1,
            Some(Place::In(period)) => self.left[period] += 1,
            Some(Place::Behind) | None => {}
        }
    }

    /// Takes over what another count over the same stretches took; one over others is left alone.
    ///
    /// ```
    /// # use mild_ledger::{DateRange, Headcount};
    /// let day = DateRange::new("2026-09-30".parse()?, "2026-09-30".parse()?)?;
    /// let (mut one, mut other) = (Headcount::of([day]), Headcount::of([day]));
    /// other.add("2020-01-01".parse()?, None);
    /// one.merge(&other);
    /// assert_eq!(one.lines()[0].opening, 1);
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    pub fn merge(&mut self, other: &Self) {
        if self.periods != other.periods {
            return;
        }
        let add =
            |sums: &mut [u64], more: &[u64]| sums.iter_mut().zip(more).for_each(|(sum, more)| *sum += more);
        add(&mut self.before, &other.before);
        add(&mut self.joined, &other.joined);
        add(&mut self.left, &other.left);
    }

    /// A line for each stretch, in their order.
    ///
    /// ```
    /// # use mild_ledger::{DateRange, Headcount};
    /// let day = DateRange::new("2026-09-30".parse()?, "2026-09-30".parse()?)?;
    /// assert_eq!(Headcount::of([day]).lines().len(), 1);
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn lines(&self) -> Vec<HeadcountLine> {
        let mut opening = self.before[0].saturating_sub(self.before[1]);
        let counts = self.joined.iter().zip(&self.left);
        counts
            .map(|(joined, left)| {
                let closing = (opening + joined).saturating_sub(*left);
                let line = HeadcountLine { opening, joined: *joined, left: *left, closing };
                opening = closing;
                line
            })
            .collect()
    }

    fn place_of(&self, day: Date) -> Place {
        let behind = self.periods.partition_point(|period| period.first() <= day);
        match behind.checked_sub(1) {
            None => Place::Before,
            Some(period) if day <= self.periods[period].last() => Place::In(period),
            Some(period) if period + 1 == self.periods.len() => Place::Behind,
            // Between two stretches: it counts with the next one.
            Some(period) => Place::In(period + 1),
        }
    }
}

/// Where a day lies among stretches of days.
enum Place {
    Before,
    In(usize),
    Behind,
}

/// A headcount: its stretches of days by their ends, who came and went before them, and in each.
#[cfg(feature = "serde")]
#[derive(serde::Serialize, serde::Deserialize)]
struct CountParts {
    periods: Vec<(Date, Date)>,
    before: [u64; 2],
    joined: Vec<u64>,
    left: Vec<u64>,
}

#[cfg(feature = "serde")]
impl From<Headcount> for CountParts {
    fn from(count: Headcount) -> Self {
        count.into_parts()
    }
}

#[cfg(feature = "serde")]
impl TryFrom<CountParts> for Headcount {
    type Error = &'static str;

    fn try_from(parts: CountParts) -> Result<Self, Self::Error> {
        let periods = parts.periods.iter().map(|(first, last)| DateRange::new(*first, *last));
        let periods: Vec<DateRange> =
            periods.collect::<Result<_, _>>().map_err(|_| "a stretch of days was expected")?;
        if parts.joined.len() != periods.len() || parts.left.len() != periods.len() {
            return Err("a number for each stretch of days was expected");
        }
        Ok(Self::of_parts(periods, parts.before, (parts.joined, parts.left)))
    }
}
