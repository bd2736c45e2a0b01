//! Exact numbers: decimals, how they are written, fractions, quotients, and rounding by name.

mod currency_code;
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

pub use currency_code::is_currency_code;
pub use decimal::Decimal;
pub use exact_sum::ExactSum;
pub use fraction::Fraction;
pub use notation::{DecimalMark, NegativeForm, Notation, ThousandsMark};
pub use notation_evidence::{AmountEvidence, NotationVerdict};
pub use operation::Operation;
pub use quotient::Quotient;
pub use rounding::Rounding;
pub use scale::Scale;
