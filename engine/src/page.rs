//! What a page says of the functions.

use crate::aggregates;
use crate::functions::KINDS;
use crate::kind::Kind;

/// What a page says of a function.
///
/// ```
/// let pages = mild_ledger_engine::functions();
/// assert!(pages.iter().any(|page| page.name == "due_date" && page.arguments == "issued, terms"));
/// ```
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct FunctionPage {
    /// What it is called.
    pub name: &'static str,
    /// Its arguments in their order; in brackets those that may be left out.
    pub arguments: String,
    /// What it gives.
    pub says: &'static str,
}

impl<P> From<&Kind<P>> for FunctionPage {
    fn from(kind: &Kind<P>) -> Self {
        Self { name: kind.name, arguments: kind.arguments(), says: kind.says }
    }
}

/// What there is to say of each function, in the order of their subjects: those of the values of a row, then those over rows.
///
/// ```
/// let names: Vec<&str> = mild_ledger_engine::functions().iter().map(|page| page.name).collect();
/// assert_eq!((names.first(), names.last()), (Some(&"elapsed_days"), Some(&"share_of_hundred")));
/// ```
#[must_use]
pub fn functions() -> Vec<FunctionPage> {
    let of_rows = KINDS.iter().map(|kind| FunctionPage::from(*kind));
    let over_rows = aggregates::KINDS.iter().map(|kind| FunctionPage::from(*kind));
    of_rows.chain(over_rows).chain([FunctionPage::from(&aggregates::SHARES)]).collect()
}
