//! The days that a column holds, as far as a picture of them needs.

use crate::date::{Date, Weekday};
use alloc::collections::BTreeMap;
use alloc::vec::Vec;

/// Days of a block of the map below.
const BLOCK: i32 = 1_024;
const WORDS: usize = (BLOCK / 64) as usize;

/// Which days were met, and how many of them in each month; as large as the stretch of time they lie in, however many
/// they are.
///
/// ```
/// use mild_ledger::{Date, DaysSeen};
/// let mut days = DaysSeen::default();
/// for text in ["2026-09-26", "2026-09-28", "2026-11-02"] {
///     days.note(text.parse()?);
/// }
/// assert_eq!((days.count(), days.weekend()), (3, 1));
/// assert_eq!(days.largest_gap().map(|(before, after)| after.day_number() - before.day_number()), Some(35));
/// # Ok::<(), mild_ledger::Error>(())
/// ```
#[derive(Debug, Clone, Default)]
pub struct DaysSeen {
    count: u64,
    weekend: u64,
    /// A bit a day.
    blocks: BTreeMap<i32, [u64; WORDS]>,
    /// Values of each month of a year.
    months: BTreeMap<i32, [u64; 12]>,
}

impl DaysSeen {
    /// Takes note of a day.
    ///
    /// ```
    /// let mut days = mild_ledger::DaysSeen::default();
    /// days.note("2026-09-30".parse()?);
    /// assert_eq!(days.count(), 1);
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    pub fn note(&mut self, date: Date) {
        self.count += 1;
        self.weekend += u64::from(matches!(date.weekday(), Weekday::Saturday | Weekday::Sunday));
        let (block, place) = place_of(date);
        let words = self.blocks.entry(block).or_default();
        if let Some(word) = words.get_mut(place / 64) {
            *word |= 1 << (place % 64);
        }
        let (year, month, _) = date.year_month_day();
        let months = self.months.entry(year).or_default();
        if let Some(count) = months.get_mut(usize::from(month.saturating_sub(1))) {
            *count += 1;
        }
    }

    /// Takes over what was noted of other values.
    ///
    /// ```
    /// use mild_ledger::{Date, DaysSeen};
    /// let (mut one, mut other) = (DaysSeen::default(), DaysSeen::default());
    /// one.note(Date::MIN);
    /// other.note(Date::MAX);
    /// one.merge(&other);
    /// assert_eq!((one.earliest(), one.latest()), (Some(Date::MIN), Some(Date::MAX)));
    /// ```
    pub fn merge(&mut self, other: &Self) {
        self.count += other.count;
        self.weekend += other.weekend;
        for (block, words) in &other.blocks {
            let own = self.blocks.entry(*block).or_default();
            own.iter_mut().zip(words).for_each(|(own, word)| *own |= word);
        }
        for (year, counts) in &other.months {
            let own = self.months.entry(*year).or_default();
            own.iter_mut().zip(counts).for_each(|(own, count)| *own += count);
        }
    }

    /// How many values there were.
    ///
    /// ```
    /// assert_eq!(mild_ledger::DaysSeen::default().count(), 0);
    /// ```
    #[must_use]
    pub fn count(&self) -> u64 {
        self.count
    }

    /// How many of them were Saturdays and Sundays.
    ///
    /// ```
    /// assert_eq!(mild_ledger::DaysSeen::default().weekend(), 0);
    /// ```
    #[must_use]
    pub fn weekend(&self) -> u64 {
        self.weekend
    }

    /// The first of the days, if there is any.
    ///
    /// ```
    /// assert_eq!(mild_ledger::DaysSeen::default().earliest(), None);
    /// ```
    #[must_use]
    pub fn earliest(&self) -> Option<Date> {
        self.days().next()
    }

    /// The last of the days, if there is any.
    ///
    /// ```
    /// assert_eq!(mild_ledger::DaysSeen::default().latest(), None);
    /// ```
    #[must_use]
    pub fn latest(&self) -> Option<Date> {
        let (block, words) = self.blocks.iter().next_back()?;
        let (nth, word) = words.iter().enumerate().rev().find(|(_, word)| **word != 0)?;
        day_at(*block, nth * 64 + (63 - word.leading_zeros() as usize))
    }

    /// How many days they are, each counted once.
    ///
    /// ```
    /// use mild_ledger::{Date, DaysSeen};
    /// let mut days = DaysSeen::default();
    /// (0..5).for_each(|_| days.note(Date::MIN));
    /// assert_eq!((days.count(), days.distinct()), (5, 1));
    /// ```
    #[must_use]
    pub fn distinct(&self) -> u64 {
        self.blocks.values().flatten().map(|word| u64::from(word.count_ones())).sum()
    }

    /// The two days, one after the other, that lie the furthest apart; the first such pair. `None` for fewer than two days.
    ///
    /// ```
    /// use mild_ledger::{Date, DaysSeen};
    /// let mut days = DaysSeen::default();
    /// days.note(Date::MIN);
    /// assert_eq!(days.largest_gap(), None);
    /// days.note(Date::MAX);
    /// assert_eq!(days.largest_gap(), Some((Date::MIN, Date::MAX)));
    /// ```
    #[must_use]
    pub fn largest_gap(&self) -> Option<(Date, Date)> {
        let length = |(before, after): (Date, Date)| after.day_number() - before.day_number();
        let pairs = self.days().zip(self.days().skip(1));
        pairs.fold(None, |largest, pair| match largest {
            Some(so_far) if length(so_far) >= length(pair) => largest,
            _ => Some(pair),
        })
    }

    /// The months from the first to the last, by year and month, each with its number of values; those between with none as
    /// well.
    ///
    /// ```
    /// use mild_ledger::DaysSeen;
    /// let mut days = DaysSeen::default();
    /// days.note("2025-12-31".parse()?);
    /// days.note("2026-02-01".parse()?);
    /// assert_eq!(days.months(), [((2025, 12), 1), ((2026, 1), 0), ((2026, 2), 1)]);
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn months(&self) -> Vec<((i32, u8), u64)> {
        let (Some(first), Some(last)) = (self.earliest(), self.latest()) else { return Vec::new() };
        let place = |date: Date| (date.year(), date.month());
        let months = (first.year()..=last.year()).flat_map(|year| (1..=12).map(move |month| (year, month)));
        months
            .filter(|month| (place(first)..=place(last)).contains(month))
            .map(|(year, month)| {
                let counts = self.months.get(&year).and_then(|counts| counts.get(usize::from(month) - 1));
                ((year, month), counts.copied().unwrap_or(0))
            })
            .collect()
    }

    /// The days in their order, each once.
    fn days(&self) -> impl Iterator<Item = Date> {
        self.blocks.iter().flat_map(|(block, words)| {
            let places = words.iter().enumerate().flat_map(|(nth, word)| {
                (0..64).filter(move |bit| word & (1 << bit) != 0).map(move |bit| nth * 64 + bit)
            });
            places.filter_map(|place| day_at(*block, place))
        })
    }
}

fn place_of(date: Date) -> (i32, usize) {
    let number = date.day_number();
    (number.div_euclid(BLOCK), number.rem_euclid(BLOCK) as usize)
}

fn day_at(block: i32, place: usize) -> Option<Date> {
    Date::in_range(i64::from(block) * i64::from(BLOCK) + place as i64)
}
