//! Columns that are joined from a second file by key, before any column is added.

mod account;
mod bound;
mod build;
mod index;
mod one_key;
mod part_sums;
mod planned;
mod probe;
mod reading;
mod shared_file;
mod sum_of_cells;
mod sums;
mod values;

pub(crate) use bound::{BoundJoin, LikeRecords, OtherFile};
pub(crate) use build::HowRead;
#[cfg(test)]
pub(crate) use planned::JOIN;
pub(crate) use planned::{PlannedJoin, read_join};
pub(crate) use probe::{Join, JoinTally};

/// What becomes of a row whose key the other file does not have.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default)]
pub(crate) enum MissingMatch {
    #[default]
    Keep,
    SetAside,
    /// It is not selected: a row without a match is none that the plan means.
    LeaveOut,
    Refuse,
}

/// Which of several rows of one key counts.
#[derive(Debug, Clone, PartialEq, Eq)]
pub(crate) enum Counting<C> {
    /// None, where they differ in what is brought.
    NoneOfThem,
    /// A key may be in one row only.
    Refused,
    First,
    Last,
    /// That with the largest value of a column.
    Latest(C),
    /// That with the smallest.
    Earliest(C),
    /// That whose days, both included, hold our date; a blank day bounds nothing.
    Valid {
        from: C,
        to: C,
        on: C,
    },
    /// All of them, added up; of a column of dates only those on or before the as-of date.
    Summed(Option<C>),
    /// Those on or before the as-of date, added up, and of their dates that on which they come to our amount and stay there.
    Settling {
        dates: C,
        amount: C,
    },
}

impl<C> Counting<C> {
    /// Whether rows of one key are added up, so that a key without rows has a sum of nothing.
    fn is_sum(&self) -> bool {
        matches!(self, Self::Summed(_) | Self::Settling { .. })
    }

    /// Their column of dates, where only rows up to the as-of date are added up.
    fn dates_up_to_as_of(&self) -> Option<&C> {
        match self {
            Self::Summed(dates) => dates.as_ref(),
            Self::Settling { dates, .. } => Some(dates),
            _ => None,
        }
    }
}
