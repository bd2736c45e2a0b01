//! Exact numbers: decimals, fractions, quotients, and rounding by name.

mod decimal;
mod fraction;
mod operation;
mod quotient;
mod rounding;
mod scale;

pub use decimal::Decimal;
pub use fraction::Fraction;
pub use operation::Operation;
pub use quotient::Quotient;
pub use rounding::Rounding;
pub use scale::Scale;
