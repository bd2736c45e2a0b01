//! How long a user has been there.

use crate::date::Date;
use crate::error::{Error, ErrorKind};
use crate::interval::Interval;
use alloc::format;

/// A stay from a start to an end, or to the as-of date while there is none.
///
/// ```
/// use mild_ledger::{Tenure, Unit};
///
/// let as_of = "2026-09-30".parse()?;
/// let running = Tenure::from("2021-07-31".parse()?).as_of(as_of)?;
/// assert_eq!(running.parts().to_string(), "5 years and 2 months");
/// let ended = Tenure::from("2021-07-31".parse()?).until("2022-07-31".parse()?).as_of(as_of)?;
/// assert_eq!(ended.complete(Unit::Month).value(), 12);
/// # Ok::<(), mild_ledger::Error>(())
/// ```
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub struct Tenure {
    start: Date,
    end: Option<Date>,
}

impl Tenure {
    /// A stay that began on a date and has no end yet.
    ///
    /// ```
    /// use mild_ledger::{Date, Tenure};
    /// assert_eq!(Tenure::from(Date::MIN).as_of(Date::MIN)?.days().value(), 0);
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn from(start: Date) -> Self {
        Self { start, end: None }
    }

    /// The same stay, ended on a date.
    ///
    /// ```
    /// use mild_ledger::{Date, Tenure};
    /// let day = "2026-09-30".parse()?;
    /// assert_eq!(Tenure::from(day).until(day).as_of(Date::MAX)?.days().value(), 0);
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn until(self, end: Date) -> Self {
        Self { end: Some(end), ..self }
    }

    /// The day it began.
    ///
    /// ```
    /// use mild_ledger::{Date, Tenure};
    /// assert_eq!(Tenure::from(Date::MIN).start(), Date::MIN);
    /// ```
    #[must_use]
    pub fn start(self) -> Date {
        self.start
    }

    /// The end of the stay, if it has one.
    ///
    /// ```
    /// use mild_ledger::{Date, Tenure};
    /// assert_eq!(Tenure::from(Date::MIN).end(), None);
    /// ```
    #[must_use]
    pub fn end(self) -> Option<Date> {
        self.end
    }

    /// The interval of the stay as it is on a date: to its end, or to the date where the end lies after it
    /// and has not come yet. Months, years, parts and fractions are asked of the interval.
    ///
    /// # Errors
    /// [`ErrorKind::NotBegun`] where the stay has not begun on the date, [`ErrorKind::NotInOrder`] where it
    /// ends before it begins.
    ///
    /// ```
    /// use mild_ledger::{Date, Tenure};
    /// let start = "2026-10-01".parse()?;
    /// assert!(Tenure::from(start).as_of("2026-09-30".parse()?).is_err());
    /// assert!(Tenure::from(start).until("2026-09-30".parse()?).as_of(Date::MAX).is_err());
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    pub fn as_of(self, as_of: Date) -> Result<Interval, Error> {
        if let Some(end) = self.end.filter(|end| *end < self.start) {
            return Err(Error::new(
                ErrorKind::NotInOrder,
                format!("the end {end} lies before the start {}", self.start),
                format!("{} or later", self.start),
            ));
        }
        if as_of < self.start {
            return Err(Error::new(
                ErrorKind::NotBegun,
                format!("on {as_of} it had not begun; it begins on {}", self.start),
                format!("{} or later", self.start),
            ));
        }
        Ok(Interval::between(self.start, self.end.map_or(as_of, |end| end.min(as_of))))
    }
}
