//! The years in which a holiday is kept.

use alloc::vec::Vec;

/// A choice among all years: from one on, up to one, all but some, or some alone. Every year unless it is narrowed.
///
/// ```
/// use mild_ledger::KeptYears;
/// let years = KeptYears::default().since(2019).except([2027]);
/// assert!(years.has(2026) && !years.has(2018) && !years.has(2027));
/// ```
#[derive(Debug, Clone, PartialEq, Eq, Default)]
pub struct KeptYears {
    since: Option<i32>,
    until: Option<i32>,
    except: Vec<i32>,
    only: Vec<i32>,
}

impl KeptYears {
    /// The same from a year on, included.
    ///
    /// ```
    /// assert!(!mild_ledger::KeptYears::default().since(2019).has(2018));
    /// ```
    #[must_use]
    pub fn since(self, year: i32) -> Self {
        Self { since: Some(year), ..self }
    }

    /// The same up to a year, included.
    ///
    /// ```
    /// assert!(mild_ledger::KeptYears::default().until(2019).has(2019));
    /// ```
    #[must_use]
    pub fn until(self, year: i32) -> Self {
        Self { until: Some(year), ..self }
    }

    /// The same but for these years.
    ///
    /// ```
    /// assert!(!mild_ledger::KeptYears::default().except([2019]).has(2019));
    /// ```
    #[must_use]
    pub fn except(self, years: impl IntoIterator<Item = i32>) -> Self {
        Self { except: years.into_iter().collect(), ..self }
    }

    /// These years alone; every year where there are none.
    ///
    /// ```
    /// assert!(!mild_ledger::KeptYears::default().only([2019]).has(2020));
    /// ```
    #[must_use]
    pub fn only(self, years: impl IntoIterator<Item = i32>) -> Self {
        Self { only: years.into_iter().collect(), ..self }
    }

    /// Whether a year is one of them.
    ///
    /// ```
    /// assert!(mild_ledger::KeptYears::default().has(2026));
    /// ```
    #[must_use]
    pub fn has(&self, year: i32) -> bool {
        self.since.is_none_or(|since| since <= year)
            && self.until.is_none_or(|until| year <= until)
            && !self.except.contains(&year)
            && (self.only.is_empty() || self.only.contains(&year))
    }

    /// The first of them, where there is one.
    ///
    /// ```
    /// assert_eq!(mild_ledger::KeptYears::default().since(2019).first(), Some(2019));
    /// ```
    #[must_use]
    pub fn first(&self) -> Option<i32> {
        self.since
    }

    /// The last of them, where there is one.
    ///
    /// ```
    /// assert_eq!(mild_ledger::KeptYears::default().last(), None);
    /// ```
    #[must_use]
    pub fn last(&self) -> Option<i32> {
        self.until
    }

    /// Those that are left out by name, as they were given.
    ///
    /// ```
    /// assert_eq!(mild_ledger::KeptYears::default().except([2027, 2025]).left_out(), [2027, 2025]);
    /// ```
    #[must_use]
    pub fn left_out(&self) -> &[i32] {
        &self.except
    }

    /// Those that alone are meant, as they were given; every year where there are none.
    ///
    /// ```
    /// assert_eq!(mild_ledger::KeptYears::default().only([2026]).alone(), [2026]);
    /// ```
    #[must_use]
    pub fn alone(&self) -> &[i32] {
        &self.only
    }
}
