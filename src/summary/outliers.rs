//! Outliers by the quartiles, and even bands for the values of a distribution.

use crate::choice::chosen_by_word;
use crate::error::{Error, ErrorKind};
use crate::number::{Decimal, Quotient};
use alloc::borrow::ToOwned;
use alloc::vec::Vec;

/// The bounds after which values are outliers: outside the quartiles by more than 1.5 times their distance from each other. A value on a bound is
/// none. Outliers are marked and never taken out.
///
/// ```
/// use mild_ledger::{Decimal, OutlierBounds, OutlierSide, Quotient};
/// let number = |number: i64| Quotient::from(Decimal::from(number));
/// let bounds = OutlierBounds::of_quartiles(number(10), number(14))?;
/// assert_eq!((bounds.lower(), bounds.upper()), (number(4), number(20)));
/// let sides = [3, 4, 12, 20, 21].map(|value| bounds.side_of(number(value)));
/// use OutlierSide::{Above, Below, Within};
/// assert_eq!(sides, [Below, Within, Within, Within, Above]);
/// # Ok::<(), mild_ledger::Error>(())
/// ```
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct OutlierBounds {
    lower: Quotient,
    upper: Quotient,
}

/// Where a value lies to the bounds of outliers.
///
/// ```
/// assert_eq!(mild_ledger::OutlierSide::Above.word(), "above");
/// ```
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash)]
pub enum OutlierSide {
    /// An outlier below the others.
    Below,
    /// None.
    Within,
    /// An outlier above the others.
    Above,
}

impl OutlierSide {
    /// All of them.
    pub const ALL: [Self; 3] = [Self::Below, Self::Within, Self::Above];

    /// The word for it.
    ///
    /// ```
    /// assert_eq!("below".parse(), Ok(mild_ledger::OutlierSide::Below));
    /// ```
    #[must_use]
    pub fn word(self) -> &'static str {
        match self {
            Self::Below => "below",
            Self::Within => "within",
            Self::Above => "above",
        }
    }
}

chosen_by_word!(OutlierSide, "a side of the bounds of outliers");

impl OutlierBounds {
    /// The bounds from the first quartile and the third.
    ///
    /// # Errors
    /// [`ErrorKind::NotInOrder`] where the third lies below the first, [`ErrorKind::OutOfRange`] where a bound is too large to hold.
    ///
    /// ```
    /// use mild_ledger::{Decimal, OutlierBounds};
    /// assert!(OutlierBounds::of_quartiles(Decimal::from(2).into(), Decimal::from(1).into()).is_err());
    /// ```
    pub fn of_quartiles(first: Quotient, third: Quotient) -> Result<Self, Error> {
        if third < first {
            let what = "the third quartile lies below the first".to_owned();
            return Err(Error::new(ErrorKind::NotInOrder, what, "quartiles in their order"));
        }
        let bounds = third.checked_sub(first).and_then(|distance| {
            let far = distance.checked_mul(Quotient::of(3, 2)?)?;
            Some(Self { lower: first.checked_sub(far)?, upper: third.checked_add(far)? })
        });
        bounds.ok_or_else(too_large)
    }

    /// Below it values are outliers.
    ///
    /// ```
    /// # use mild_ledger::{Decimal, OutlierBounds};
    /// let bounds = OutlierBounds::of_quartiles(Decimal::from(7).into(), Decimal::from(7).into())?;
    /// assert_eq!((bounds.lower(), bounds.upper()), (Decimal::from(7).into(), Decimal::from(7).into()));
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn lower(self) -> Quotient {
        self.lower
    }

    /// Above it values are outliers.
    ///
    /// ```
    /// # use mild_ledger::{Decimal, OutlierBounds};
    /// let bounds = OutlierBounds::of_quartiles(Decimal::from(0).into(), Decimal::from(2).into())?;
    /// assert_eq!(bounds.upper(), Decimal::from(5).into());
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn upper(self) -> Quotient {
        self.upper
    }

    /// Where a value lies to them.
    ///
    /// ```
    /// # use mild_ledger::{Decimal, OutlierBounds, OutlierSide};
    /// let bounds = OutlierBounds::of_quartiles(Decimal::from(0).into(), Decimal::from(2).into())?;
    /// assert_eq!(bounds.side_of(Decimal::from(-4).into()), OutlierSide::Below);
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn side_of(self, value: Quotient) -> OutlierSide {
        match value {
            value if value < self.lower => OutlierSide::Below,
            value if value > self.upper => OutlierSide::Above,
            _ => OutlierSide::Within,
        }
    }
}

/// Edges of even bands between two numbers: multiples of 1, 2 or 5 of a power of ten with at most a number of decimals, from the first above the smaller
/// number to the last not above the larger; so few that there are at most that many of them. None where the two are equal or too close.
///
/// # Errors
/// [`ErrorKind::OutOfRange`] for numbers that are too large to work with.
///
/// ```
/// use mild_ledger::{Decimal, even_edges};
/// let edges = |from: i64, to: i64, most: u32| -> Result<Vec<String>, mild_ledger::Error> {
///     let edges = even_edges(Decimal::from(from).into(), Decimal::from(to).into(), most, 0)?;
///     Ok(edges.iter().map(ToString::to_string).collect())
/// };
/// assert_eq!(edges(3, 42, 8)?, ["5", "10", "15", "20", "25", "30", "35", "40"]);
/// assert_eq!(edges(3, 42, 7)?, ["10", "20", "30", "40"]);
/// assert_eq!(edges(-150, 220, 4)?, ["-100", "0", "100", "200"]);
/// assert!(edges(7, 7, 8)?.is_empty());
/// # Ok::<(), mild_ledger::Error>(())
/// ```
pub fn even_edges(from: Quotient, to: Quotient, most: u32, decimals: u8) -> Result<Vec<Decimal>, Error> {
    if to <= from || most == 0 {
        return Ok(Vec::new());
    }
    let low = units_below(from, decimals)?;
    let high = units_below(to, decimals)?;
    let mut power: i128 = 1;
    loop {
        for step in [1, 2, 5] {
            let step = power.checked_mul(step).ok_or_else(too_large)?;
            let first = low.div_euclid(step) + 1;
            let last = high.div_euclid(step);
            if last - first < i128::from(most) {
                // No more decimals than all of them need.
                let (mut step, mut fewer) = (step, decimals);
                while fewer > 0 && step % 10 == 0 {
                    (step, fewer) = (step / 10, fewer - 1);
                }
                let edge = |place: i128| {
                    let units = place.checked_mul(step).ok_or_else(too_large)?;
                    Decimal::of_units(units, fewer)
                };
                return (first..=last).map(edge).collect();
            }
        }
        power = power.checked_mul(10).ok_or_else(too_large)?;
    }
}

/// The units of a number of decimals that lie at a number or next below it.
fn units_below(number: Quotient, decimals: u8) -> Result<i128, Error> {
    let scale = 10_i128.checked_pow(decimals.into()).ok_or_else(too_large)?;
    let scaled = Quotient::of(scale, 1).and_then(|scale| number.checked_mul(scale)).ok_or_else(too_large)?;
    Ok(scaled.numerator().div_euclid(scaled.denominator()))
}

fn too_large() -> Error {
    Error::new(
        ErrorKind::OutOfRange,
        "the numbers are too large to hold".to_owned(),
        "numbers of fewer digits",
    )
}
