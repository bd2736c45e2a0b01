//! Payment terms: when an invoice is due, and until when a discount is given.

use crate::date::Date;
use crate::error::{Error, ErrorKind};
use crate::number::Decimal;
use crate::period::Month;
use crate::shift::Shift;
use alloc::format;
use alloc::string::String;

/// The most days that terms may give.
const MOST_DAYS: u16 = 9_999;

/// Payment terms in the trade's notation: what is due when, perhaps with a discount for who pays early.
///
/// Day 1 is the day after issue. The text is read in any case; `Display` writes it in one form.
///
/// | written | due |
/// |---|---|
/// | `net 30`, `n/30`, `30 days` | 30 days after issue |
/// | `2/10 net 30` | the same; 2 % off within 10 days |
/// | `net 30 EOM` | 30 days after the last day of the month of issue |
/// | `net 30 to EOM` | the last day of the month in which the 30th day after issue lies |
/// | `15 prox`, `15 MFI` | day 15 of the month after, or its last day |
/// | `15 prox cut-off 25` | the same; issued on day 25 or later counts as the month after |
/// | `due on receipt`, `COD` | the day of issue |
///
/// A bare `EOM` or `30 EOM` has two readings and is refused.
///
/// ```
/// use mild_ledger::PaymentTerms;
///
/// let terms: PaymentTerms = "2/10, n/30 EOM".parse()?;
/// let issued = "2026-01-15".parse()?;
/// assert_eq!(terms.to_string(), "2/10 net 30 EOM");
/// assert_eq!(terms.due(issued)?.to_string(), "2026-03-02");
/// let discount = terms.discount().ok_or("no discount")?;
/// assert_eq!(discount.per_cent().to_string(), "2");
/// assert_eq!(terms.discount_date(issued)?.map(|date| date.to_string()).as_deref(), Some("2026-01-25"));
/// assert!("30 EOM".parse::<PaymentTerms>().is_err());
/// # Ok::<(), Box<dyn std::error::Error>>(())
/// ```
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub struct PaymentTerms {
    pub(super) net: PayBy,
    pub(super) discount: Option<EarlyDiscount>,
    pub(super) cut_off: Option<u8>,
}

/// By when something is to be paid, from the day of issue.
///
/// ```
/// use mild_ledger::{PayBy, PaymentTerms};
/// let terms = PaymentTerms::net(PayBy::MonthEndAfterDays(30))?;
/// assert_eq!(terms.due("2026-01-15".parse()?)?.to_string(), "2026-02-28");
/// # Ok::<(), mild_ledger::Error>(())
/// ```
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash)]
#[non_exhaustive]
pub enum PayBy {
    /// On the day of issue.
    Receipt,
    /// A number of days after issue.
    Days(u16),
    /// A number of days after the last day of the month of issue.
    DaysAfterMonthEnd(u16),
    /// On the last day of the month in which the day a number of days after issue lies.
    MonthEndAfterDays(u16),
    /// On a day, 1 to 31, of the month after that of issue; on its last day where it has no such day.
    DayOfNextMonth(u8),
}

/// So many per cent off for who pays by a day.
///
/// ```
/// # use mild_ledger::{PayBy, PaymentTerms};
/// let terms: PaymentTerms = "1.5/10 net 60".parse()?;
/// assert_eq!(terms.discount().map(|discount| discount.until()), Some(PayBy::Days(10)));
/// # Ok::<(), mild_ledger::Error>(())
/// ```
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub struct EarlyDiscount {
    pub(super) per_cent: Decimal,
    pub(super) until: PayBy,
}

impl PaymentTerms {
    /// Terms without a discount.
    ///
    /// # Errors
    /// [`ErrorKind::OutOfRange`] for more than 9,999 days and for a day of the month that is not 1 to 31.
    ///
    /// ```
    /// # use mild_ledger::{PayBy, PaymentTerms};
    /// assert_eq!(PaymentTerms::net(PayBy::Days(30))?.to_string(), "net 30");
    /// assert!(PaymentTerms::net(PayBy::DayOfNextMonth(32)).is_err());
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    pub fn net(by: PayBy) -> Result<Self, Error> {
        Ok(Self { net: by.checked()?, discount: None, cut_off: None })
    }

    /// The same terms with so many per cent off until a day.
    ///
    /// # Errors
    /// [`ErrorKind::OutOfRange`] where it is not more than 0 and at most 100 per cent, and for days as in [`net`](Self::net).
    /// [`ErrorKind::NotAllowed`] where it ends after the invoice is due.
    ///
    /// ```
    /// # use mild_ledger::{PayBy, PaymentTerms};
    /// let terms = PaymentTerms::net(PayBy::Days(30))?.with_discount(2.into(), PayBy::Days(10))?;
    /// assert_eq!(terms.to_string(), "2/10 net 30");
    /// assert!("2/40 net 30".parse::<PaymentTerms>().is_err());
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    pub fn with_discount(self, per_cent: Decimal, until: PayBy) -> Result<Self, Error> {
        if per_cent <= Decimal::ZERO || per_cent > Decimal::from(100) {
            let what = format!("there is no discount of {per_cent} %");
            return Err(Error::new(ErrorKind::OutOfRange, what, "more than 0 % and at most 100 %"));
        }
        let until = until.checked()?;
        if until.ends_after(self.net) {
            let what =
                format!("the discount ends {}, and payment is due {}", until.in_words(), self.net.in_words());
            return Err(Error::new(
                ErrorKind::NotAllowed,
                what,
                "a discount that ends when payment is due, or before",
            ));
        }
        Ok(Self { discount: Some(EarlyDiscount { per_cent, until }), ..self })
    }

    /// The same terms, where an invoice issued on that day of its month or later counts as issued in the month after. Only
    /// terms that count from months heed it.
    ///
    /// # Errors
    /// [`ErrorKind::OutOfRange`] for a day that is not 1 to 31.
    ///
    /// ```
    /// # use mild_ledger::{PayBy, PaymentTerms};
    /// let terms = PaymentTerms::net(PayBy::DayOfNextMonth(15))?.with_cut_off(25)?;
    /// assert_eq!(terms.due("2026-01-24".parse()?)?.to_string(), "2026-02-15");
    /// assert_eq!(terms.due("2026-01-25".parse()?)?.to_string(), "2026-03-15");
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    pub fn with_cut_off(self, day: u8) -> Result<Self, Error> {
        Ok(Self { cut_off: Some(day_of_month(day)?), ..self })
    }

    /// By when all of it is due.
    ///
    /// ```
    /// # use mild_ledger::{PayBy, PaymentTerms};
    /// assert_eq!("COD".parse::<PaymentTerms>()?.pay_by(), PayBy::Receipt);
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn pay_by(&self) -> PayBy {
        self.net
    }

    /// The discount for who pays early, if there is one.
    ///
    /// ```
    /// # use mild_ledger::PaymentTerms;
    /// assert!("net 30".parse::<PaymentTerms>()?.discount().is_none());
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn discount(&self) -> Option<EarlyDiscount> {
        self.discount
    }

    /// From which day of a month on an invoice counts as issued in the month after, where one is stated.
    ///
    /// ```
    /// # use mild_ledger::PaymentTerms;
    /// assert_eq!("15 prox cut-off 25".parse::<PaymentTerms>()?.cut_off(), Some(25));
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn cut_off(&self) -> Option<u8> {
        self.cut_off
    }

    /// The due date of an invoice, not rolled to a working day.
    ///
    /// # Errors
    /// [`ErrorKind::OutOfRange`] where it lies outside the years 0001 to 9999.
    ///
    /// ```
    /// # use mild_ledger::PaymentTerms;
    /// let due = |terms: &str| terms.parse::<PaymentTerms>()?.due("2026-01-31".parse()?).map(|due| due.to_string());
    /// assert_eq!(due("net 30")?, "2026-03-02");
    /// assert_eq!(due("31 prox")?, "2026-02-28");
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    pub fn due(&self, issued: Date) -> Result<Date, Error> {
        self.day_of(self.net, issued)
    }

    /// The last day of the discount, not rolled to a working day; `None` where there is none.
    ///
    /// # Errors
    /// Those of [`due`](Self::due).
    ///
    /// ```
    /// # use mild_ledger::PaymentTerms;
    /// let terms: PaymentTerms = "2/10 net 30".parse()?;
    /// assert_eq!(terms.discount_date("2026-02-20".parse()?)?, Some("2026-03-02".parse()?));
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    pub fn discount_date(&self, issued: Date) -> Result<Option<Date>, Error> {
        self.discount.map(|discount| self.day_of(discount.until, issued)).transpose()
    }

    /// How the terms were understood, in words.
    ///
    /// ```
    /// # use mild_ledger::PaymentTerms;
    /// let said = |terms: &str| terms.parse().map(|terms: PaymentTerms| terms.in_words());
    /// assert_eq!(said("2/10 net 30")?, "30 days after issue; 2 % off within 10 days after issue");
    /// assert_eq!(said("net 30 EOM")?, "30 days after the last day of the month of issue");
    /// assert_eq!(said("net 30 to EOM")?, "the last day of the month that holds the 30th day after issue");
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn in_words(&self) -> String {
        let mut words = self.net.in_words();
        if let Some(EarlyDiscount { per_cent, until }) = self.discount {
            let until = match until {
                PayBy::Receipt | PayBy::Days(0) => "on the day of issue".into(),
                PayBy::Days(_) | PayBy::DaysAfterMonthEnd(_) => format!("within {}", until.in_words()),
                _ => format!("by {}", until.in_words()),
            };
            words.push_str(&format!("; {per_cent} % off {until}"));
        }
        if let Some(day) = self.cut_off_heeded() {
            words.push_str(&format!("; issued on day {day} or later counts as the month after"));
        }
        words
    }

    /// The cut-off day, where anything counts from months.
    pub(super) fn cut_off_heeded(&self) -> Option<u8> {
        let until = self.discount.map(EarlyDiscount::until);
        let counts = self.net.counts_from_month() || until.is_some_and(PayBy::counts_from_month);
        self.cut_off.filter(|_| counts)
    }

    /// The month that an invoice counts as issued in.
    pub(super) fn month_of(&self, issued: Date) -> Result<Month, Error> {
        let is_late = self.cut_off.is_some_and(|day| issued.day() >= day);
        Month::of(issued).away(i32::from(is_late))
    }

    pub(super) fn day_of(&self, by: PayBy, issued: Date) -> Result<Date, Error> {
        let days = |days: u16| Shift::days(i32::from(days));
        match by {
            PayBy::Receipt => Ok(issued),
            PayBy::Days(number) => days(number).apply(issued),
            PayBy::DaysAfterMonthEnd(number) => days(number).apply(self.month_of(issued)?.last_day()),
            PayBy::MonthEndAfterDays(number) => {
                days(number).apply(issued).map(|date| Month::of(date).last_day())
            }
            PayBy::DayOfNextMonth(day) => {
                let month = self.month_of(issued)?.away(1)?;
                month.day(day.min(month.length_in_days()))
            }
        }
    }
}

impl PayBy {
    /// Whether it is later than another for some days of issue and before it for none. Of two kinds of days neither is.
    fn ends_after(self, other: Self) -> bool {
        match (self, other) {
            (Self::Days(days), Self::Days(other))
            | (Self::DaysAfterMonthEnd(days), Self::DaysAfterMonthEnd(other))
            | (Self::MonthEndAfterDays(days), Self::MonthEndAfterDays(other)) => days > other,
            (Self::DayOfNextMonth(day), Self::DayOfNextMonth(other)) => day > other,
            (Self::Days(days), Self::Receipt) => days > 0,
            _ => false,
        }
    }

    fn checked(self) -> Result<Self, Error> {
        match self {
            Self::Receipt => {}
            Self::DayOfNextMonth(day) => {
                day_of_month(day)?;
            }
            Self::Days(days) | Self::DaysAfterMonthEnd(days) | Self::MonthEndAfterDays(days) => {
                if days > MOST_DAYS {
                    let what = format!("{days} days are too many for payment terms");
                    return Err(Error::new(ErrorKind::OutOfRange, what, "0 to 9999 days"));
                }
            }
        }
        Ok(self)
    }

    /// Whether it counts from the month of issue, so that a cut-off day makes a difference.
    pub(super) fn counts_from_month(self) -> bool {
        matches!(self, Self::DaysAfterMonthEnd(_) | Self::DayOfNextMonth(_))
    }

    /// In words, such as `30 days after issue`.
    ///
    /// ```
    /// # use mild_ledger::PayBy;
    /// assert_eq!(PayBy::Days(1).in_words(), "1 day after issue");
    /// assert_eq!(PayBy::DayOfNextMonth(31).in_words(), "day 31 of the month after that of issue, or its last day");
    /// ```
    #[must_use]
    pub fn in_words(self) -> String {
        let counted = |days: u16| format!("{days} {}", if days == 1 { "day" } else { "days" });
        match self {
            Self::Receipt | Self::Days(0) => "the day of issue".into(),
            Self::Days(days) => format!("{} after issue", counted(days)),
            Self::DaysAfterMonthEnd(0) => "the last day of the month of issue".into(),
            Self::DaysAfterMonthEnd(days) => {
                format!("{} after the last day of the month of issue", counted(days))
            }
            Self::MonthEndAfterDays(0) => "the last day of the month of issue".into(),
            Self::MonthEndAfterDays(days) => {
                format!("the last day of the month that holds the {}{} day after issue", days, ordinal(days))
            }
            Self::DayOfNextMonth(day) if day <= 28 => {
                format!("day {day} of the month after that of issue")
            }
            Self::DayOfNextMonth(day) => {
                format!("day {day} of the month after that of issue, or its last day")
            }
        }
    }
}

impl EarlyDiscount {
    /// How much is off, in per cent.
    ///
    /// ```
    /// # use mild_ledger::PaymentTerms;
    /// let terms: PaymentTerms = "2/10 net 30".parse()?;
    /// assert_eq!(terms.discount().map(|discount| discount.per_cent()), Some(2.into()));
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn per_cent(self) -> Decimal {
        self.per_cent
    }

    /// By when it is to be paid for that.
    ///
    /// ```
    /// # use mild_ledger::{PayBy, PaymentTerms};
    /// let terms: PaymentTerms = "2/10 prox net 30".parse()?;
    /// assert_eq!(terms.discount().map(|discount| discount.until()), Some(PayBy::DayOfNextMonth(10)));
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn until(self) -> PayBy {
        self.until
    }
}

fn day_of_month(day: u8) -> Result<u8, Error> {
    if (1..=31).contains(&day) {
        return Ok(day);
    }
    Err(Error::new(ErrorKind::OutOfRange, format!("no month has a day {day}"), "1 to 31"))
}

/// `st`, `nd`, `rd` or `th`.
fn ordinal(number: u16) -> &'static str {
    match (number % 100, number % 10) {
        (11..=13, _) => "th",
        (_, 1) => "st",
        (_, 2) => "nd",
        (_, 3) => "rd",
        _ => "th",
    }
}
