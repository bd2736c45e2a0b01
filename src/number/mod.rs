//! Exact numbers: decimals, how they are written, fractions, quotients, and rounding by name.

mod decimal;
mod dress;
mod exact_sum;
mod fraction;
mod notation;
mod notation_evidence;
mod operation;
mod quotient;
mod rounding;
mod scale;

pub use decimal::Decimal;
pub use exact_sum::ExactSum;
pub use fraction::Fraction;
pub use notation::{DecimalMark, NegativeForm, Notation, ThousandsMark};
pub use notation_evidence::{AmountEvidence, NotationVerdict};
pub use operation::Operation;
pub use quotient::Quotient;
pub use rounding::Rounding;
pub use scale::Scale;
