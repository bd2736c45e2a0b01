//! The working of a figure: the rule by name, and the steps that lead to it.

use alloc::format;
use alloc::string::{String, ToString};
use alloc::vec::Vec;
use core::fmt;

/// How a figure came about, for a person who wants to check it.
///
/// The last step gives the figure itself. `Display` writes the rule and the steps as one sentence.
///
/// ```
/// use mild_ledger::{Interval, Unit};
///
/// let interval = Interval::between("2024-01-31".parse()?, "2024-03-01".parse()?);
/// let working = interval.why_complete(Unit::Month);
/// assert_eq!(
///     working.to_string(),
///     "complete months: 2024-01-31 + 1 month = 2024-02-29 (clamped), + 2 months = 2024-03-31, after 2024-03-01, so 1"
/// );
/// assert_eq!(working.figure(), "1");
/// # Ok::<(), mild_ledger::Error>(())
/// ```
#[derive(Debug, Clone, PartialEq, Eq, Hash)]
pub struct Working {
    rule: String,
    steps: Vec<Step>,
}

/// One step of a working: what is stated, and what it gives.
///
/// ```
/// # use mild_ledger::Shift;
/// let working = Shift::months(1).why("2026-01-31".parse()?)?;
/// assert_eq!(working.steps()[0].said(), "2026-01-31 + 1 month = 2026-02-28 (clamped: 2026-02 has 28 days)");
/// assert_eq!(working.steps()[0].gives(), "2026-02-28");
/// # Ok::<(), mild_ledger::Error>(())
/// ```
#[derive(Debug, Clone, PartialEq, Eq, Hash)]
pub struct Step {
    said: String,
    gives: String,
}

impl Working {
    pub(crate) fn of_rule(rule: impl Into<String>) -> Self {
        Self { rule: rule.into(), steps: Vec::new() }
    }

    pub(crate) fn step(mut self, said: impl Into<String>, gives: impl fmt::Display) -> Self {
        self.steps.push(Step { said: said.into(), gives: gives.to_string() });
        self
    }

    /// These steps and then another working's, under this one's rule.
    ///
    /// ```
    /// # use mild_ledger::{DateMove, PaymentTerms, Roll, WorkCalendar};
    /// let week = WorkCalendar::rest_days_only(Default::default());
    /// let due = "net 30".parse::<PaymentTerms>()?.why_due("2026-10-01".parse()?)?;
    /// let rolled = DateMove::default().rolled(Roll::Following).why("2026-10-31".parse()?, Some(&week))?;
    /// let both = due.followed_by(rolled.working().clone());
    /// assert_eq!((both.rule(), both.figure()), ("net 30, 30 days after issue", "2026-11-02"));
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn followed_by(mut self, other: Self) -> Self {
        self.steps.extend(other.steps);
        self
    }

    /// The same steps under a rule that says more.
    pub(crate) fn with_rule(mut self, said: impl FnOnce(&str) -> String) -> Self {
        self.rule = said(&self.rule);
        self
    }

    /// The rule by its name.
    ///
    /// ```
    /// # use mild_ledger::{Date, Interval, Unit};
    /// let working = Interval::between(Date::MIN, Date::MAX).why_complete(Unit::Year);
    /// assert_eq!(working.rule(), "complete years");
    /// ```
    #[must_use]
    pub fn rule(&self) -> &str {
        &self.rule
    }

    /// The steps in their order; there is at least one.
    ///
    /// ```
    /// # use mild_ledger::{Date, Interval, Unit};
    /// let working = Interval::between(Date::MIN, Date::MAX).why_complete(Unit::Year);
    /// assert_eq!(working.steps().last().map(|step| step.said()), Some("so 9998"));
    /// ```
    #[must_use]
    pub fn steps(&self) -> &[Step] {
        &self.steps
    }

    /// The figure: what the last step gives.
    ///
    /// ```
    /// # use mild_ledger::{Date, Interval, Unit};
    /// assert_eq!(Interval::between(Date::MIN, Date::MAX).why_complete(Unit::Year).figure(), "9998");
    /// ```
    #[must_use]
    pub fn figure(&self) -> &str {
        self.steps.last().map_or("", |step| step.gives.as_str())
    }
}

impl Step {
    /// The step in words.
    ///
    /// ```
    /// # use mild_ledger::{Date, Shift};
    /// assert_eq!(Shift::days(1).why(Date::MIN)?.steps()[0].said(), "0001-01-01 + 1 day = 0001-01-02");
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn said(&self) -> &str {
        &self.said
    }

    /// What it gives, as text.
    ///
    /// ```
    /// # use mild_ledger::{Date, Shift};
    /// assert_eq!(Shift::days(1).why(Date::MIN)?.steps()[0].gives(), "0001-01-02");
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn gives(&self) -> &str {
        &self.gives
    }
}

impl fmt::Display for Working {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        let said: Vec<&str> = self.steps.iter().map(Step::said).collect();
        f.pad(&format!("{}: {}", self.rule, said.join(", ")))
    }
}

/// A number as a place in an order, in English.
pub(crate) fn ordinal(number: u32) -> String {
    let ending = match (number % 100, number % 10) {
        (11..=13, _) => "th",
        (_, 1) => "st",
        (_, 2) => "nd",
        (_, 3) => "rd",
        _ => "th",
    };
    format!("{number}{ending}")
}
