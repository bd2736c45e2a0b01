//! Moving by an amount of which working days are a part.

use super::calendar::WorkCalendar;
use super::why::WorkingGrid;
use crate::date::Date;
use crate::error::{Error, ErrorKind};
use crate::reasoning::Working;
use crate::shift::Shift;

impl WorkCalendar {
    /// The date so far away: months first, then weeks and days, then working days.
    ///
    /// # Errors
    /// Those of [`Shift::apply`] and [`working_days_on`](Self::working_days_on).
    ///
    /// ```
    /// use mild_ledger::WorkCalendar;
    /// let week = WorkCalendar::rest_days_only(Default::default());
    /// // 2026-02-28 is a Saturday.
    /// assert_eq!(week.shifted("2026-01-31".parse()?, &"1mo 2wd".parse()?)?.to_string(), "2026-03-03");
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    pub fn shifted(&self, date: Date, shift: &Shift) -> Result<Date, Error> {
        let moved = shift.without_working_days().apply(date)?;
        match number_of(shift)? {
            0 => Ok(moved),
            number => self.working_days_on(moved, number),
        }
    }

    /// How it comes about: the working of the months and days, then the grid of the working days, if there are any.
    ///
    /// # Errors
    /// Those of [`shifted`](Self::shifted).
    ///
    /// ```
    /// use mild_ledger::WorkCalendar;
    /// let week = WorkCalendar::rest_days_only(Default::default());
    /// let (dates, grid) = week.why_shifted("2026-01-31".parse()?, &"1mo 2wd".parse()?)?;
    /// assert_eq!(dates.figure(), "2026-02-28");
    /// assert_eq!(grid.map(|grid| grid.working().figure().to_owned()), Some("2026-03-03".into()));
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    pub fn why_shifted(&self, date: Date, shift: &Shift) -> Result<(Working, Option<WorkingGrid>), Error> {
        let by_dates = shift.without_working_days();
        let (working, moved) = (by_dates.why(date)?, by_dates.apply(date)?);
        match number_of(shift)? {
            0 => Ok((working, None)),
            number => Ok((working, Some(self.why_working_days_on(moved, number)?))),
        }
    }
}

fn number_of(shift: &Shift) -> Result<i32, Error> {
    i32::try_from(shift.number_of_working_days()).map_err(|_| {
        let what = format!("{shift} is too far to move");
        Error::new(ErrorKind::OutOfRange, what, "at most 2147483647 working days")
    })
}
