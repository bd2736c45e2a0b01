//! Dates written by a pattern.

use super::{DatePattern, Form, Piece};
use crate::date::Date;
use crate::error::{Error, ErrorKind};
use alloc::format;
use alloc::string::{String, ToString};

/// A pattern that can write dates as well as read them: its day, month and year are numbers, each in it once.
///
/// ```
/// use mild_ledger::{DatePattern, WritingPattern};
/// let german: DatePattern = "day.month.year".parse()?;
/// assert_eq!(WritingPattern::of(&german)?.write("2026-09-03".parse()?), "03.09.2026");
/// assert!(WritingPattern::of(&"day/month/year hour:minute".parse()?).is_err());
/// # Ok::<(), mild_ledger::Error>(())
/// ```
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct WritingPattern {
    pattern: DatePattern,
}

impl WritingPattern {
    /// The pattern, where every date has one text under it that is read as that date.
    ///
    /// # Errors
    /// [`ErrorKind::NotAllowed`] for a pattern with a time of day, with names, with a year of two digits, or without a day: under
    /// those a date has several texts, or is not told by any.
    ///
    /// ```
    /// # use mild_ledger::{DatePattern, WritingPattern};
    /// let error = WritingPattern::of(&"year-month (last day)".parse()?).unwrap_err();
    /// assert_eq!(error.what(), "dates are not written year-month (last day)");
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    pub fn of(pattern: &DatePattern) -> Result<Self, Error> {
        let is_written = match &pattern.form {
            Form::Iso => true,
            Form::Pieces(pieces) => {
                let count = |wanted: fn(&Piece) -> bool| pieces.iter().filter(|piece| wanted(piece)).count();
                count(|piece| matches!(piece, Piece::Day(_))) == 1
                    && count(|piece| matches!(piece, Piece::Month(_))) == 1
                    && count(|piece| matches!(piece, Piece::Year)) == 1
                    && count(|piece| matches!(piece, Piece::Literal(_))) + 3 == pieces.len()
            }
            Form::Serial(_) | Form::Since1970 { .. } => false,
        };
        if is_written {
            return Ok(Self { pattern: pattern.clone() });
        }
        let what = format!("dates are not written {pattern}");
        Err(Error::new(ErrorKind::NotAllowed, what, "iso, or a pattern of day, month and year in numbers"))
    }

    /// The text of a date: two digits of day and month, four of the year.
    ///
    /// ```
    /// # use mild_ledger::{Date, DatePattern, Reading, WritingPattern};
    /// let pattern: DatePattern = "month/day/year".parse()?;
    /// let text = WritingPattern::of(&pattern)?.write(Date::MIN);
    /// assert_eq!(text, "01/01/0001");
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn write(&self, date: Date) -> String {
        let Form::Pieces(pieces) = &self.pattern.form else { return date.to_string() };
        let mut out = String::with_capacity(16);
        for piece in pieces {
            match piece {
                Piece::Day(_) => out += &format!("{:02}", date.day()),
                Piece::Month(_) => out += &format!("{:02}", date.month()),
                Piece::Year => out += &format!("{:04}", date.year()),
                Piece::Literal(sign) => out.push(char::from(*sign)),
                _ => {}
            }
        }
        out
    }
}

impl core::fmt::Display for WritingPattern {
    fn fmt(&self, f: &mut core::fmt::Formatter<'_>) -> core::fmt::Result {
        core::fmt::Display::fmt(&self.pattern, f)
    }
}
