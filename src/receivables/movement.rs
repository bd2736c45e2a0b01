//! How receivables moved between two dates: from bucket to bucket, new, paid and credited, closing to the last cent.

use crate::error::{Error, ErrorKind};
use crate::number::{Decimal, Quotient};
use alloc::borrow::ToOwned;
use alloc::format;
use alloc::vec;
use alloc::vec::Vec;

/// Where an invoice is on one of the two dates, and how much of it is open.
///
/// ```
/// use mild_ledger::{Decimal, Position};
/// // 40 are open, in the second bucket.
/// let position = Position::Open { bucket: 1, open: Decimal::from(40) };
/// assert_eq!(position.open(), Decimal::from(40));
/// assert_eq!(Position::Settled.open(), Decimal::ZERO);
/// ```
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub enum Position {
    /// It is issued after the date.
    NotYetIssued,
    /// More than nothing is open, in the bucket of this number, from 0.
    Open {
        /// The number of the bucket.
        bucket: usize,
        /// How much is open.
        open: Decimal,
    },
    /// Less than nothing is open: a credit note or an over-payment.
    Credit {
        /// How much, below zero.
        open: Decimal,
    },
    /// Nothing is open.
    Settled,
}

impl Position {
    /// How much is open; nothing of what is not issued.
    ///
    /// ```
    /// # use mild_ledger::{Decimal, Position};
    /// assert_eq!(Position::Credit { open: Decimal::from(-5) }.open(), Decimal::from(-5));
    /// ```
    #[must_use]
    pub fn open(self) -> Decimal {
        match self {
            Self::NotYetIssued | Self::Settled => Decimal::ZERO,
            Self::Open { open, .. } | Self::Credit { open } => open,
        }
    }
}

/// Where an amount of a movement comes from.
///
/// ```
/// use mild_ledger::{Decimal, MovedFrom, MovedTo, Movement};
/// assert_eq!(Movement::of(5)?.moved(MovedFrom::New, MovedTo::Bucket(4)), Decimal::ZERO);
/// # Ok::<(), mild_ledger::Error>(())
/// ```
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash)]
pub enum MovedFrom {
    /// It was in this bucket, from 0.
    Bucket(usize),
    /// It was among the credits.
    Credits,
    /// It was issued in between.
    New,
    /// It is a credit note that was issued in between.
    Credited,
    /// Nothing was open: what was over-paid since, and what is open again since a payment was taken back.
    NothingOpen,
}

/// Where an amount of a movement went.
///
/// ```
/// use mild_ledger::{Decimal, MovedFrom, MovedTo, Movement};
/// assert_eq!(Movement::of(5)?.moved(MovedFrom::Bucket(0), MovedTo::Paid), Decimal::ZERO);
/// # Ok::<(), mild_ledger::Error>(())
/// ```
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash)]
pub enum MovedTo {
    /// It is in this bucket, from 0.
    Bucket(usize),
    /// It is among the credits.
    Credits,
    /// It was paid, or a credit of it was used up or paid back.
    Paid,
}

/// What moved between two dates, each amount from where it was to where it is.
///
/// What is open of an invoice moves on to its bucket on the later date, and the rest was paid. An invoice that was over-paid was paid in full,
/// and what is too much is among the credits. So every line and every column closes to the last cent.
///
/// ```
/// use mild_ledger::{Decimal, MovedFrom, MovedTo, Movement, Position};
///
/// let mut movement = Movement::of(3)?;
/// let open = |bucket, open: i32| Position::Open { bucket, open: open.into() };
/// // 100 of the first bucket: 30 were paid, 70 are in the second now. 50 are new.
/// movement.add(Decimal::from(100), open(0, 100), open(1, 70))?;
/// movement.add(Decimal::from(50), Position::NotYetIssued, open(0, 50))?;
/// let first = movement.bucket(0)?;
/// assert_eq!((first.opening, first.new, first.rolled_on, first.paid, first.closing), (100.into(), 50.into(), 70.into(), 30.into(), 50.into()));
/// assert_eq!(movement.moved(MovedFrom::Bucket(0), MovedTo::Bucket(1)), Decimal::from(70));
/// # Ok::<(), mild_ledger::Error>(())
/// ```
#[derive(Debug, Clone, PartialEq, Eq)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize))]
#[cfg_attr(feature = "serde", serde(into = "MovementParts", try_from = "MovementParts"))]
pub struct Movement {
    buckets: usize,
    /// A line for each bucket, then credits, new, credited and nothing open; in each a cell for each bucket, then credits and paid.
    cells: Vec<Decimal>,
}

/// The movement of one bucket, or of the credits: opening + new + credited + rolled in − rolled on − paid = closing.
///
/// ```
/// # use mild_ledger::{Decimal, Movement};
/// let bucket = Movement::of(3)?.bucket(2)?;
/// assert_eq!(bucket.closing, Decimal::ZERO);
/// # Ok::<(), mild_ledger::Error>(())
/// ```
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub struct BucketMovement {
    /// What was there on the earlier date.
    pub opening: Decimal,
    /// Of invoices that were issued in between, what is there.
    pub new: Decimal,
    /// Of credit notes that were issued in between, what is there; below zero.
    pub credited: Decimal,
    /// What came from other buckets.
    pub rolled_in: Decimal,
    /// What went to other buckets.
    pub rolled_on: Decimal,
    /// What was paid, less what was taken back; below zero where credits were used up.
    pub paid: Decimal,
    /// What is there on the later date.
    pub closing: Decimal,
}

impl BucketMovement {
    /// The part of the opening amount that rolled on to other buckets.
    ///
    /// # Errors
    /// [`ErrorKind::DivisionByZero`] where nothing was there, [`ErrorKind::OutOfRange`] where the figure is too large to hold.
    ///
    /// ```
    /// # use mild_ledger::{Decimal, Movement, Position, Rounding};
    /// let mut movement = Movement::of(2)?;
    /// let open = |bucket, open: i32| Position::Open { bucket, open: open.into() };
    /// movement.add(Decimal::from(80), open(0, 80), open(1, 20))?;
    /// assert_eq!(movement.bucket(0)?.roll_rate()?.to_decimal(2, Rounding::Nearest)?.to_string(), "0.25");
    /// assert!(movement.bucket(1)?.roll_rate().is_err());
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    pub fn roll_rate(&self) -> Result<Quotient, Error> {
        if self.opening == Decimal::ZERO {
            let what = "nothing was there that could roll on".to_owned();
            return Err(Error::new(ErrorKind::DivisionByZero, what, "an opening amount other than 0"));
        }
        Quotient::from(self.rolled_on).checked_div(self.opening.into()).ok_or_else(too_large)
    }
}

/// The most buckets that there are movements between.
const MOST_BUCKETS: usize = 1_000;

#[cfg(feature = "serde")]
impl Movement {
    fn into_parts(self) -> MovementParts {
        MovementParts { buckets: self.buckets, cells: self.cells }
    }

    fn of_parts(buckets: usize, cells: Vec<Decimal>) -> Result<Self, Error> {
        let known = Self::of(buckets)?;
        if cells.len() != known.cells.len() {
            let found = alloc::format!("{} cells of a movement", cells.len());
            return Err(Error::new(ErrorKind::LengthsDiffer, found, "a cell for each way there is"));
        }
        Ok(Self { buckets, cells })
    }
}

impl Movement {
    /// Nothing has moved yet between so many buckets.
    ///
    /// # Errors
    /// [`ErrorKind::OutOfRange`] for more than 1,000 buckets.
    ///
    /// ```
    /// # use mild_ledger::Movement;
    /// assert!(Movement::of(5).is_ok() && Movement::of(1_001).is_err());
    /// ```
    pub fn of(buckets: usize) -> Result<Self, Error> {
        if buckets > MOST_BUCKETS {
            let what = format!("there are {buckets} buckets");
            return Err(Error::new(ErrorKind::OutOfRange, what, "at most 1,000"));
        }
        Ok(Self { buckets, cells: vec![Decimal::ZERO; (buckets + 4) * (buckets + 2)] })
    }

    /// Adds an invoice of this amount by how it was on the earlier date and is on the later one. One that is not issued yet on the later date
    /// moves nothing.
    ///
    /// # Errors
    /// [`ErrorKind::OutOfRange`] for an unknown bucket. The same for an invoice that was issued on the earlier date and is not on the
    /// later one, and for a sum too large to hold. Nothing is added then.
    ///
    /// ```
    /// # use mild_ledger::{Decimal, MovedFrom, MovedTo, Movement, Position};
    /// let mut movement = Movement::of(1)?;
    /// // 100 were open and 120 are paid: 100 were paid in full, and 20 are a credit.
    /// let opening = Position::Open { bucket: 0, open: 100.into() };
    /// movement.add(Decimal::from(100), opening, Position::Credit { open: Decimal::from(-20) })?;
    /// assert_eq!(movement.moved(MovedFrom::Bucket(0), MovedTo::Paid), Decimal::from(100));
    /// assert_eq!(movement.credits()?.paid, Decimal::from(20));
    /// assert!(movement.add(Decimal::from(100), opening, Position::NotYetIssued).is_err());
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    pub fn add(&mut self, amount: Decimal, opening: Position, closing: Position) -> Result<(), Error> {
        let (from, stood) = match opening {
            Position::NotYetIssued if amount < Decimal::ZERO => (MovedFrom::Credited, amount),
            Position::NotYetIssued => (MovedFrom::New, amount),
            Position::Open { bucket, open } => (MovedFrom::Bucket(bucket), open),
            Position::Credit { open } => (MovedFrom::Credits, open),
            Position::Settled => (MovedFrom::NothingOpen, Decimal::ZERO),
        };
        let to = match closing {
            Position::NotYetIssued if opening == Position::NotYetIssued => return Ok(()),
            Position::NotYetIssued => {
                let what = "an invoice that was issued on the earlier date is not issued on the later one";
                return Err(Error::new(ErrorKind::OutOfRange, what.to_owned(), "the earlier date first"));
            }
            Position::Open { bucket, .. } => MovedTo::Bucket(bucket),
            Position::Credit { .. } => MovedTo::Credits,
            Position::Settled => MovedTo::Paid,
        };
        let stands = closing.open();
        // From one side of nothing to the other, all of the one was paid, and all of the other was made by payments.
        let turned = stood != Decimal::ZERO
            && stands != Decimal::ZERO
            && (stood > Decimal::ZERO) != (stands > Decimal::ZERO);
        let moved = match turned {
            true => [
                (from, MovedTo::Paid, stood),
                (MovedFrom::NothingOpen, to, stands),
                (MovedFrom::NothingOpen, MovedTo::Paid, negative(stands)?),
            ],
            false => [
                (from, to, stands),
                (from, MovedTo::Paid, stood.checked_sub(stands).ok_or_else(too_large)?),
                (from, to, Decimal::ZERO),
            ],
        };
        let mut sums = [(0, Decimal::ZERO); 3];
        for (nth, (from, to, part)) in moved.into_iter().enumerate() {
            let cell = self.cell(from, to).ok_or_else(no_such_bucket)?;
            // A cell that two of the parts go to gets both.
            let known = sums.iter().take(nth).rev().find(|(known, _)| *known == cell).map(|(_, sum)| *sum);
            let sum = known.unwrap_or(self.cells[cell]).checked_add(part).ok_or_else(too_large)?;
            sums[nth] = (cell, sum);
        }
        for (cell, sum) in sums {
            self.cells[cell] = sum;
        }
        Ok(())
    }

    /// Takes over what another movement between as many buckets added.
    ///
    /// # Errors
    /// [`ErrorKind::LengthsDiffer`] where it has others, [`ErrorKind::OutOfRange`] where a sum is too large to hold.
    ///
    /// ```
    /// # use mild_ledger::{Decimal, Movement, Position};
    /// let (mut one, mut other) = (Movement::of(1)?, Movement::of(1)?);
    /// other.add(Decimal::from(5), Position::NotYetIssued, Position::Open { bucket: 0, open: 5.into() })?;
    /// one.merge(&other)?;
    /// assert_eq!(one, other);
    /// assert!(one.merge(&Movement::of(2)?).is_err());
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    pub fn merge(&mut self, other: &Self) -> Result<(), Error> {
        if self.buckets != other.buckets {
            let what = format!("there are {} buckets and {}", self.buckets, other.buckets);
            return Err(Error::new(ErrorKind::LengthsDiffer, what, "movements between the same buckets"));
        }
        let sums = self.cells.iter().zip(&other.cells).map(|(sum, more)| sum.checked_add(*more));
        self.cells = sums.collect::<Option<_>>().ok_or_else(too_large)?;
        Ok(())
    }

    /// What went from one place to another; nothing for a bucket that there is not.
    ///
    /// ```
    /// # use mild_ledger::{Decimal, MovedFrom, MovedTo, Movement, Position};
    /// let mut movement = Movement::of(1)?;
    /// movement.add(Decimal::from(5), Position::NotYetIssued, Position::Settled)?;
    /// assert_eq!(movement.moved(MovedFrom::New, MovedTo::Paid), Decimal::from(5));
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn moved(&self, from: MovedFrom, to: MovedTo) -> Decimal {
        self.cell(from, to).map_or(Decimal::ZERO, |cell| self.cells[cell])
    }

    /// The movement of a bucket.
    ///
    /// # Errors
    /// [`ErrorKind::OutOfRange`] for a bucket that there is not, and where a sum is too large to hold.
    ///
    /// ```
    /// # use mild_ledger::{Decimal, Movement};
    /// assert_eq!(Movement::of(1)?.bucket(0)?.opening, Decimal::ZERO);
    /// assert!(Movement::of(1)?.bucket(1).is_err());
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    pub fn bucket(&self, bucket: usize) -> Result<BucketMovement, Error> {
        if bucket >= self.buckets {
            return Err(no_such_bucket());
        }
        self.line(MovedFrom::Bucket(bucket), MovedTo::Bucket(bucket))
    }

    /// The movement of the credits.
    ///
    /// # Errors
    /// [`ErrorKind::OutOfRange`] where a sum is too large to hold.
    ///
    /// ```
    /// # use mild_ledger::{Decimal, Movement, Position};
    /// let mut movement = Movement::of(1)?;
    /// movement.add(Decimal::from(-5), Position::NotYetIssued, Position::Credit { open: Decimal::from(-5) })?;
    /// assert_eq!(movement.credits()?.credited, Decimal::from(-5));
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    pub fn credits(&self) -> Result<BucketMovement, Error> {
        self.line(MovedFrom::Credits, MovedTo::Credits)
    }

    /// What was issued and paid in between, and so comes nowhere on either date.
    ///
    /// ```
    /// # use mild_ledger::{Decimal, Movement, Position};
    /// let mut movement = Movement::of(1)?;
    /// movement.add(Decimal::from(9), Position::NotYetIssued, Position::Open { bucket: 0, open: 4.into() })?;
    /// let paid_at_once = movement.issued_and_paid()?;
    /// assert_eq!((paid_at_once.new, paid_at_once.paid), (Decimal::from(5), Decimal::from(5)));
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    ///
    /// # Errors
    /// [`ErrorKind::OutOfRange`] where a sum is too large to hold.
    pub fn issued_and_paid(&self) -> Result<BucketMovement, Error> {
        let new = self.moved(MovedFrom::New, MovedTo::Paid);
        let credited = self.moved(MovedFrom::Credited, MovedTo::Paid);
        let zero = Decimal::ZERO;
        let paid = new.checked_add(credited).ok_or_else(too_large)?;
        Ok(BucketMovement {
            opening: zero,
            new,
            credited,
            rolled_in: zero,
            rolled_on: zero,
            paid,
            closing: zero,
        })
    }

    /// The movement of all together; what rolled in there is what rolled on elsewhere.
    ///
    /// # Errors
    /// [`ErrorKind::OutOfRange`] where a sum is too large to hold.
    ///
    /// ```
    /// # use mild_ledger::{Decimal, Movement, Position};
    /// let mut movement = Movement::of(2)?;
    /// let open = |bucket, open: i32| Position::Open { bucket, open: open.into() };
    /// movement.add(Decimal::from(80), open(0, 80), open(1, 20))?;
    /// let all = movement.total()?;
    /// assert_eq!((all.opening, all.paid, all.closing), (Decimal::from(80), Decimal::from(60), Decimal::from(20)));
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    pub fn total(&self) -> Result<BucketMovement, Error> {
        let buckets = (0..self.buckets).map(|bucket| self.bucket(bucket));
        let lines = buckets.chain([self.credits(), self.issued_and_paid()]);
        let lines = lines.collect::<Result<Vec<_>, _>>()?;
        let sum = |part: fn(&BucketMovement) -> Decimal| {
            Decimal::checked_sum(lines.iter().map(part)).ok_or_else(too_large)
        };
        Ok(BucketMovement {
            opening: sum(|line| line.opening)?,
            new: sum(|line| line.new)?,
            credited: sum(|line| line.credited)?,
            rolled_in: sum(|line| line.rolled_in)?,
            rolled_on: sum(|line| line.rolled_on)?,
            paid: sum(|line| line.paid)?,
            closing: sum(|line| line.closing)?,
        })
    }

    fn line(&self, own: MovedFrom, here: MovedTo) -> Result<BucketMovement, Error> {
        let buckets = || (0..self.buckets).map(MovedFrom::Bucket).chain([MovedFrom::Credits]);
        let others_from = buckets().filter(|from| *from != own);
        let to = (0..self.buckets).map(MovedTo::Bucket).chain([MovedTo::Credits]);
        let others_to = to.filter(|to| *to != here);
        let sum =
            |parts: &mut dyn Iterator<Item = Decimal>| Decimal::checked_sum(parts).ok_or_else(too_large);
        let rolled_in = sum(&mut others_from.map(|from| self.moved(from, here)))?;
        let rolled_on = sum(&mut others_to.map(|to| self.moved(own, to)))?;
        let stayed = self.moved(own, here);
        let paid_of_it = self.moved(own, MovedTo::Paid);
        let made = self.moved(MovedFrom::NothingOpen, here);
        let (new, credited) = (self.moved(MovedFrom::New, here), self.moved(MovedFrom::Credited, here));
        Ok(BucketMovement {
            opening: sum(&mut [stayed, rolled_on, paid_of_it].into_iter())?,
            new,
            credited,
            rolled_in,
            rolled_on,
            paid: paid_of_it.checked_sub(made).ok_or_else(too_large)?,
            closing: sum(&mut [stayed, rolled_in, new, credited, made].into_iter())?,
        })
    }

    fn cell(&self, from: MovedFrom, to: MovedTo) -> Option<usize> {
        let known = |bucket: usize| Some(bucket).filter(|bucket| *bucket < self.buckets);
        let line = match from {
            MovedFrom::Bucket(bucket) => known(bucket)?,
            MovedFrom::Credits => self.buckets,
            MovedFrom::New => self.buckets + 1,
            MovedFrom::Credited => self.buckets + 2,
            MovedFrom::NothingOpen => self.buckets + 3,
        };
        let column = match to {
            MovedTo::Bucket(bucket) => known(bucket)?,
            MovedTo::Credits => self.buckets,
            MovedTo::Paid => self.buckets + 1,
        };
        Some(line * (self.buckets + 2) + column)
    }
}

fn negative(amount: Decimal) -> Result<Decimal, Error> {
    Decimal::ZERO.checked_sub(amount).ok_or_else(too_large)
}

fn no_such_bucket() -> Error {
    Error::new(
        ErrorKind::OutOfRange,
        "there is no such bucket".to_owned(),
        "one of the buckets of the movement",
    )
}

fn too_large() -> Error {
    Error::new(ErrorKind::OutOfRange, "the sums are too large to hold".to_owned(), "at most 38 digits")
}

/// A movement by its buckets and its cells.
#[cfg(feature = "serde")]
#[derive(serde::Serialize, serde::Deserialize)]
struct MovementParts {
    buckets: usize,
    cells: Vec<Decimal>,
}

#[cfg(feature = "serde")]
impl From<Movement> for MovementParts {
    fn from(movement: Movement) -> Self {
        movement.into_parts()
    }
}

#[cfg(feature = "serde")]
impl TryFrom<MovementParts> for Movement {
    type Error = Error;

    fn try_from(parts: MovementParts) -> Result<Self, Self::Error> {
        Self::of_parts(parts.buckets, parts.cells)
    }
}
