//! The counts, as bytes: the workers on parts of the records need not share a memory, nor a machine.

mod errors;

use crate::error::RecordsError;
use serde::Serialize;
use serde::de::DeserializeOwned;

/// Something that counts, whose setting both sides know, and whose counts are handed over.
pub(crate) trait Counts {
    /// Puts what it counted after what is there.
    fn save(&self, into: &mut Saving) -> Result<(), RecordsError>;

    /// Takes the counts under the same setting in place of what it counted itself.
    fn restore(&mut self, from: &mut Saved<'_>) -> Result<(), RecordsError>;
}

/// Bytes that the counts are put into.
#[derive(Debug, Default)]
pub(crate) struct Saving {
    bytes: Vec<u8>,
}

/// Bytes that it is taken from, in the order in which it was put there.
#[derive(Debug)]
pub(crate) struct Saved<'b> {
    bytes: &'b [u8],
}

impl Saving {
    pub(crate) fn put(&mut self, value: &impl Serialize) -> Result<(), RecordsError> {
        let bytes = std::mem::take(&mut self.bytes);
        self.bytes = postcard::to_extend(value, bytes).map_err(|error| broken(&error))?;
        Ok(())
    }

    /// How many of something follow, and all of them.
    pub(crate) fn put_all<'c, C: Counts + ?Sized + 'c>(
        &mut self,
        all: impl ExactSizeIterator<Item = &'c C>,
    ) -> Result<(), RecordsError> {
        self.put(&all.len())?;
        for counts in all {
            counts.save(self)?;
        }
        Ok(())
    }

    pub(crate) fn into_bytes(self) -> Vec<u8> {
        self.bytes
    }
}

impl<'b> Saved<'b> {
    pub(crate) fn new(bytes: &'b [u8]) -> Self {
        Self { bytes }
    }

    pub(crate) fn take<T: DeserializeOwned>(&mut self) -> Result<T, RecordsError> {
        let (value, rest) = postcard::take_from_bytes(self.bytes).map_err(|error| broken(&error))?;
        self.bytes = rest;
        Ok(value)
    }

    /// As many as were put there, into as many that wait for them.
    pub(crate) fn restore_all<'c, C: Counts + ?Sized + 'c>(
        &mut self,
        all: impl ExactSizeIterator<Item = &'c mut C>,
    ) -> Result<(), RecordsError> {
        let (found, expected) = (self.take::<usize>()?, all.len());
        if found != expected {
            let what = format!("{found} counts were handed over where {expected} were expected");
            return Err(RecordsError::Proof { what });
        }
        for counts in all {
            counts.restore(self)?;
        }
        Ok(())
    }
}

fn broken(error: &postcard::Error) -> RecordsError {
    RecordsError::Proof { what: format!("the counts of another process cannot be handed over: {error}") }
}

/// Hands over the fields of a type. Those that both sides know are named too, so that none can be forgotten: the compiler misses it.
macro_rules! handed_over {
    ($counting:ty: $($field:ident),* $(,)?; known: $($known:ident),* $(,)?) => {
        impl $crate::handover::Counts for $counting {
            fn save(&self, into: &mut $crate::handover::Saving) -> Result<(), $crate::error::RecordsError> {
                let Self { $($field,)* $($known: _,)* } = self;
                $(into.put($field)?;)*
                Ok(())
            }

            fn restore(&mut self, from: &mut $crate::handover::Saved<'_>) -> Result<(), $crate::error::RecordsError> {
                $(self.$field = from.take()?;)*
                Ok(())
            }
        }
    };
}

pub(crate) use handed_over;

#[cfg(test)]
mod tests {
    use super::{Saved, Saving};

    struct Counter {
        rows: u64,
        names: Vec<String>,
        title: &'static str,
    }

    handed_over!(Counter: rows, names; known: title);

    #[test]
    fn counts_come_over_and_what_is_known_stays() {
        let one = Counter { rows: 3, names: vec!["Beaufort".to_owned()], title: "one" };
        let mut saving = Saving::default();
        saving.put_all([&one].into_iter()).unwrap();
        let bytes = saving.into_bytes();
        let mut other = Counter { rows: 0, names: Vec::new(), title: "other" };
        Saved::new(&bytes).restore_all([&mut other].into_iter()).unwrap();
        assert_eq!((other.rows, other.names.as_slice(), other.title), (3, one.names.as_slice(), "other"));
        // Fewer than were handed over, and bytes that end too soon, are reported.
        assert!(Saved::new(&bytes).restore_all(std::iter::empty::<&mut Counter>()).is_err());
        assert!(Saved::new(&bytes[..2]).restore_all([&mut other].into_iter()).is_err());
    }
}
