//! Shares of a whole, over the rows of a window.

use super::{DIGITS, too_large, units};
use crate::columns::scale_of;
use crate::kind::Kind;
use crate::kind::Takes::{Exact, MayNumber};
use arrow::array::{Array, ArrayRef, Decimal128Array};
use arrow::datatypes::{DataType, Field, FieldRef};
use datafusion::error::Result;
use datafusion::logical_expr::function::{PartitionEvaluatorArgs, WindowUDFFieldArgs};
use datafusion::logical_expr::{PartitionEvaluator, Signature, Volatility, WindowUDFImpl};
use mild_ledger::{Decimal, shares_of_hundred};
use std::sync::Arc;

/// The shares, with a number of decimals.
pub(crate) const SHARES: Kind<u8> = Kind {
    name: "share_of_hundred",
    says: "over a window: each row's part of the window's sum in per cent, with the given decimals (1 unless named); the figures shown add up to 100; empty where the sum is nothing",
    takes: &[Exact, MayNumber],
    called: &["number", "decimals"],
    plan: |literals| if literals.all.len() > 1 { literals.decimals(1) } else { Ok(DECIMALS) },
};

/// Unless others are named.
const DECIMALS: u8 = 1;

/// The window function with its constant.
#[derive(Debug, PartialEq, Eq, Hash)]
pub(crate) struct Shares {
    /// None before a call with its constant was seen.
    decimals: Option<u8>,
    signature: Signature,
}

impl Shares {
    /// That of a call.
    pub(crate) fn of_call(decimals: u8) -> Self {
        Self { decimals: Some(decimals), ..Self::default() }
    }

    fn decimals(&self) -> u8 {
        self.decimals.unwrap_or(DECIMALS)
    }
}

impl Default for Shares {
    fn default() -> Self {
        Self { decimals: None, signature: Signature::user_defined(Volatility::Immutable) }
    }
}

impl WindowUDFImpl for Shares {
    fn name(&self) -> &str {
        SHARES.name
    }

    fn signature(&self) -> &Signature {
        &self.signature
    }

    fn coerce_types(&self, given: &[DataType]) -> Result<Vec<DataType>> {
        SHARES.taken(given).map_err(|what| SHARES.wrong(&what))
    }

    fn field(&self, of: WindowUDFFieldArgs<'_>) -> Result<FieldRef> {
        if self.decimals.is_none() && of.input_fields().len() > 1 {
            return Err(SHARES.wrong("it is in SQL, so that its constants are seen"));
        }
        let gives = DataType::Decimal128(DIGITS, scale_of(self.decimals()));
        Ok(Arc::new(Field::new(of.name(), gives, true)))
    }

    fn partition_evaluator(&self, _: PartitionEvaluatorArgs<'_>) -> Result<Box<dyn PartitionEvaluator>> {
        Ok(Box::new(OfWindow { decimals: self.decimals() }))
    }
}

/// Gives the rows of one window their shares.
#[derive(Debug)]
struct OfWindow {
    decimals: u8,
}

impl PartitionEvaluator for OfWindow {
    fn evaluate_all(&mut self, columns: &[ArrayRef], rows: usize) -> Result<ArrayRef> {
        let parts = units(columns, 0)?;
        // Shares of numbers and of their units are the same.
        let there: Vec<Decimal> = parts
            .iter()
            .flatten()
            .map(|units| Decimal::of_units(units, 0))
            .collect::<std::result::Result<_, _>>()
            .map_err(|error| too_large(&error))?;
        let sum = there.iter().try_fold(0_i128, |sum, part| sum.checked_add(part.units()));
        let shares = match sum {
            Some(0) => None,
            _ => Some(shares_of_hundred(&there, self.decimals).map_err(|error| too_large(&error))?),
        };
        let mut shares = shares.into_iter().flatten().map(Decimal::units);
        let found: Decimal128Array =
            (0..rows).map(|row| if parts.is_null(row) { None } else { shares.next() }).collect();
        Ok(Arc::new(found.with_precision_and_scale(DIGITS, scale_of(self.decimals))?))
    }
}
