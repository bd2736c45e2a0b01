//! Dates that come round at a fixed distance: a billing plan, a review every six months.

use super::Shift;
use crate::date::Date;
use crate::error::{Error, ErrorKind};
use crate::reasoning::Working;

/// Occurrences at a fixed distance, each moved from the first date and never from the one before it, so that
/// month ends do not drift.
///
/// ```
/// use mild_ledger::{Recurrence, Shift};
///
/// let reviews = Recurrence::new("2026-01-31".parse()?, Shift::months(1));
/// let next: Vec<String> = reviews.iter().skip(1).take(3).map(|date| date.map(|date| date.to_string())).collect::<Result<_, _>>()?;
/// assert_eq!(next, ["2026-02-28", "2026-03-31", "2026-04-30"]);
/// # Ok::<(), mild_ledger::Error>(())
/// ```
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub struct Recurrence {
    first: Date,
    step: Shift,
}

impl Recurrence {
    /// The recurrence that starts on a date and goes on by a step.
    ///
    /// ```
    /// use mild_ledger::{Date, Recurrence, Shift};
    /// assert_eq!(Recurrence::new(Date::MIN, Shift::weeks(1)).occurrence(0), Ok(Date::MIN));
    /// ```
    #[must_use]
    pub fn new(first: Date, step: Shift) -> Self {
        Self { first, step }
    }

    /// The occurrence with a number: 0 is the first date, negative ones lie before it.
    ///
    /// # Errors
    /// Those of [`Shift::apply`].
    ///
    /// ```
    /// use mild_ledger::{Recurrence, Shift};
    /// let monthly = Recurrence::new("2026-03-31".parse()?, Shift::months(1));
    /// assert_eq!(monthly.occurrence(-1)?.to_string(), "2026-02-28");
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    pub fn occurrence(&self, number: i32) -> Result<Date, Error> {
        self.step.times(number)?.apply(self.first)
    }

    /// How the occurrence with a number comes about: the first date moved by a number of times the step.
    ///
    /// # Errors
    /// Those of [`occurrence`](Self::occurrence).
    ///
    /// ```
    /// use mild_ledger::{Recurrence, Shift};
    /// let working = Recurrence::new("2026-01-31".parse()?, Shift::months(1)).why(2)?;
    /// assert_eq!(working.to_string(), "months (month end: clamp): 2026-01-31 + 2 months = 2026-03-31");
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    pub fn why(&self, number: i32) -> Result<Working, Error> {
        self.step.times(number)?.why(self.first)
    }

    /// The first date.
    ///
    /// ```
    /// use mild_ledger::{Date, Recurrence, Shift};
    /// assert_eq!(Recurrence::new(Date::MIN, Shift::weeks(1)).first(), Date::MIN);
    /// ```
    #[must_use]
    pub fn first(&self) -> Date {
        self.first
    }

    /// How far each occurrence lies from the one before.
    ///
    /// ```
    /// use mild_ledger::{Date, Recurrence, Shift};
    /// assert_eq!(Recurrence::new(Date::MIN, Shift::weeks(1)).step(), Shift::weeks(1));
    /// ```
    #[must_use]
    pub fn step(&self) -> Shift {
        self.step
    }

    /// The occurrences, the first date first, as far as there are dates. Under
    /// [`MonthEnd::Refuse`](crate::MonthEnd::Refuse) an occurrence may be an error, and the next one follows. A step of
    /// nothing, and one that no date alone can take (working days ask for a calendar, hours for a time of day), gives the
    /// first date and, in the second case, the error.
    ///
    /// ```
    /// use mild_ledger::{Date, Recurrence, Shift};
    /// let years = Recurrence::new("9997-06-01".parse()?, Shift::months(12));
    /// assert_eq!(years.iter().count(), 3);
    /// assert_eq!(years.into_iter().next(), Some("9997-06-01".parse()));
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn iter(&self) -> Occurrences {
        Occurrences { recurrence: *self, next: Some(0), direction: 1 }
    }

    /// The occurrences before the first date, nearest first, as far as there are dates.
    ///
    /// ```
    /// use mild_ledger::{Date, Recurrence, Shift};
    /// let mut before = Recurrence::new("2026-07-31".parse()?, Shift::months(1)).before();
    /// assert_eq!(before.next(), Some("2026-06-30".parse()));
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn before(&self) -> Occurrences {
        let next = (!self.step.is_nothing()).then_some(-1);
        Occurrences { recurrence: *self, next, direction: -1 }
    }

    /// The occurrences from the first date to another one, both included, in the direction in which the step goes.
    ///
    /// ```
    /// use mild_ledger::{Recurrence, Shift};
    /// let reviews = Recurrence::new("2026-01-31".parse()?, Shift::months(6));
    /// assert_eq!(reviews.until("2027-07-31".parse()?).count(), 4);
    /// let back = Recurrence::new("2026-01-31".parse()?, Shift::months(-6));
    /// let back: Vec<String> = back.until("2025-01-31".parse()?).flatten().map(|date| date.to_string()).collect();
    /// assert_eq!(back, ["2026-01-31", "2025-07-31", "2025-01-31"]);
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    pub fn until(&self, last: Date) -> impl Iterator<Item = Result<Date, Error>> + use<> {
        // The second occurrence that there is tells the direction; a step that is refused goes on.
        let first = self.first;
        let second = self.iter().skip(1).find_map(|occurrence| occurrence.ok());
        let is_back = second.is_some_and(|second| second < first);
        self.iter().take_while(move |occurrence| {
            occurrence.as_ref().map_or(true, |date| if is_back { *date >= last } else { *date <= last })
        })
    }
}

impl IntoIterator for Recurrence {
    type Item = Result<Date, Error>;
    type IntoIter = Occurrences;

    fn into_iter(self) -> Occurrences {
        self.iter()
    }
}

impl IntoIterator for &Recurrence {
    type Item = Result<Date, Error>;
    type IntoIter = Occurrences;

    fn into_iter(self) -> Occurrences {
        self.iter()
    }
}

/// The dates of a [`Recurrence`], one after the other.
///
/// ```
/// use mild_ledger::{Date, Recurrence, Shift};
/// assert_eq!(Recurrence::new(Date::MAX, Shift::days(1)).iter().count(), 1);
/// ```
#[derive(Debug, Clone)]
pub struct Occurrences {
    recurrence: Recurrence,
    /// The number of the next one; `None` after the last.
    next: Option<i32>,
    direction: i32,
}

impl Iterator for Occurrences {
    type Item = Result<Date, Error>;

    fn next(&mut self) -> Option<Self::Item> {
        let number = self.next?;
        let step = &self.recurrence.step;
        // A step of nothing would come round on the same day for ever.
        self.next = number.checked_add(self.direction).filter(|_| !step.is_nothing());
        // The first date is there whatever the step asks for.
        let occurrence =
            if number == 0 { Ok(self.recurrence.first) } else { self.recurrence.occurrence(number) };
        match occurrence {
            Err(error) if error.kind() == ErrorKind::OutOfRange => {
                self.next = None;
                None
            }
            // A step that no date can take would be the same error for ever.
            Err(error) if error.kind() != ErrorKind::NoSuchDay => {
                self.next = None;
                Some(Err(error))
            }
            occurrence => Some(occurrence),
        }
    }
}
