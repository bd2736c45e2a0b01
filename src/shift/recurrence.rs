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
/// let next: Vec<String> = reviews.after().take(3).map(|date| date.map(|date| date.to_string())).collect::<Result<_, _>>()?;
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

    /// How the occurrence with a number comes about: the first date moved by so many times the step.
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

    /// The occurrences after the first date, nearest first, as far as there are dates. Under
    /// [`MonthEnd::Refuse`](crate::MonthEnd::Refuse) an occurrence may be an error, and the next one follows.
    ///
    /// ```
    /// use mild_ledger::{Date, Recurrence, Shift};
    /// let years = Recurrence::new("9997-06-01".parse()?, Shift::months(12));
    /// assert_eq!(years.after().count(), 2);
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    pub fn after(&self) -> impl Iterator<Item = Result<Date, Error>> + use<> {
        Occurrences { recurrence: *self, number: 0, direction: 1 }
    }

    /// The occurrences before the first date, nearest first, as far as there are dates.
    ///
    /// ```
    /// use mild_ledger::{Date, Recurrence, Shift};
    /// let mut before = Recurrence::new("2026-07-31".parse()?, Shift::months(1)).before();
    /// assert_eq!(before.next(), Some("2026-06-30".parse()));
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    pub fn before(&self) -> impl Iterator<Item = Result<Date, Error>> + use<> {
        Occurrences { recurrence: *self, number: 0, direction: -1 }
    }

    /// The occurrences after the first date up to and with another one.
    ///
    /// ```
    /// use mild_ledger::{Recurrence, Shift};
    /// let reviews = Recurrence::new("2026-01-31".parse()?, Shift::months(6));
    /// assert_eq!(reviews.until("2027-07-31".parse()?).count(), 3);
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    pub fn until(&self, last: Date) -> impl Iterator<Item = Result<Date, Error>> + use<> {
        self.after().take_while(move |occurrence| occurrence.as_ref().map_or(true, |date| *date <= last))
    }
}

struct Occurrences {
    recurrence: Recurrence,
    number: i32,
    direction: i32,
}

impl Iterator for Occurrences {
    type Item = Result<Date, Error>;

    fn next(&mut self) -> Option<Self::Item> {
        // A step of nothing would come round on the same day for ever.
        if self.recurrence.step.is_nothing() {
            return None;
        }
        self.number = self.number.checked_add(self.direction)?;
        match self.recurrence.occurrence(self.number) {
            Err(error) if error.kind() == ErrorKind::OutOfRange => {
                // Stay at the end.
                self.number -= self.direction;
                None
            }
            occurrence => Some(occurrence),
        }
    }
}
