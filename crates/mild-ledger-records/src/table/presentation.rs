//! How numbers and dates are shown to people.

use mild_ledger::{Date, DateTime, Decimal, DecimalMark, WritingPattern};
use std::fmt::Display;

/// How numbers and dates are shown to people: as the rows of the plan have them.
///
/// ```
/// use mild_ledger::{DatePattern, DecimalMark, WritingPattern};
/// use mild_ledger_records::Presentation;
/// let pattern: DatePattern = "day.month.year".parse()?;
/// let dates = Some(WritingPattern::of(&pattern)?);
/// let german = Presentation { decimal_mark: DecimalMark::Comma, dates };
/// assert_eq!(german.amount("-1234.50".parse()?), "-1.234,50");
/// assert_eq!(german.date("2026-11-30".parse()?), "30.11.2026");
/// // A point and ISO 8601 where the plan says nothing.
/// let plain = Presentation::default();
/// assert_eq!(plain.amount("-1234.50".parse()?), "-1,234.50");
/// assert_eq!(plain.date("2026-11-30".parse()?), "2026-11-30");
/// # Ok::<(), mild_ledger::Error>(())
/// ```
#[derive(Debug, Clone, PartialEq, Eq, Default)]
pub struct Presentation {
    /// The mark between whole units and decimals; thousands are grouped by the other one.
    pub decimal_mark: DecimalMark,
    /// The pattern of dates; none for ISO 8601.
    pub dates: Option<WritingPattern>,
}

impl Presentation {
    /// An amount with its thousands grouped.
    ///
    /// ```
    /// # use mild_ledger_records::Presentation;
    /// assert_eq!(Presentation::default().amount("1250.00".parse()?), "1,250.00");
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn amount(&self, amount: Decimal) -> String {
        self.grouped(&amount.to_string())
    }

    /// A count with its thousands grouped.
    ///
    /// ```
    /// # use mild_ledger_records::Presentation;
    /// assert_eq!(Presentation::default().count(12_345), "12,345");
    /// ```
    #[must_use]
    pub fn count(&self, count: impl Display) -> String {
        self.grouped(&count.to_string())
    }

    /// The digits of a number, with a point before its decimals, with their thousands grouped.
    ///
    /// ```
    /// # use mild_ledger_records::Presentation;
    /// assert_eq!(Presentation::default().grouped("-1234567.5"), "-1,234,567.5");
    /// ```
    #[must_use]
    pub fn grouped(&self, digits: &str) -> String {
        let (sign, rest) = digits.strip_prefix('-').map_or(("", digits), |rest| ("-", rest));
        let (whole, decimals) =
            rest.split_once('.').map_or((rest, None), |(whole, decimals)| (whole, Some(decimals)));
        let (mark, group) = match self.decimal_mark {
            DecimalMark::Point => ('.', ','),
            DecimalMark::Comma => (',', '.'),
        };
        let mut out = String::from(sign);
        for (nth, digit) in whole.chars().enumerate() {
            if nth > 0 && (whole.len() - nth).is_multiple_of(3) {
                out.push(group);
            }
            out.push(digit);
        }
        if let Some(decimals) = decimals {
            out.push(mark);
            out.push_str(decimals);
        }
        out
    }

    /// A number without marks between its thousands, as years and numbers of documents are.
    ///
    /// ```
    /// # use mild_ledger_records::Presentation;
    /// assert_eq!(Presentation::default().number("2026".parse()?), "2026");
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn number(&self, number: Decimal) -> String {
        let text = number.to_string();
        match self.decimal_mark {
            DecimalMark::Point => text,
            DecimalMark::Comma => text.replace('.', ","),
        }
    }

    /// A date.
    ///
    /// ```
    /// # use mild_ledger_records::Presentation;
    /// assert_eq!(Presentation::default().date("2026-09-30".parse()?), "2026-09-30");
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn date(&self, date: Date) -> String {
        match &self.dates {
            Some(pattern) => pattern.write(date),
            None => date.to_string(),
        }
    }

    /// A date and its time; after a date of another form than ISO 8601 the time comes after a space.
    ///
    /// ```
    /// # use mild_ledger_records::Presentation;
    /// assert_eq!(Presentation::default().date_time("2026-09-30 07:30".parse()?), "2026-09-30T07:30:00");
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn date_time(&self, at: DateTime) -> String {
        match &self.dates {
            Some(pattern) => format!("{} {}", pattern.write(at.date()), at.time()),
            None => at.to_string(),
        }
    }
}
