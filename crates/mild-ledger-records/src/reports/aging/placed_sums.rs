//! The sums of a group by place, of which most groups have few.

use serde::{Deserialize, Serialize};

/// Sums that are with the group itself, so that no one looks for them elsewhere.
const AT_HAND: usize = 6;

/// The amounts of those places that have any.
#[derive(Debug, Clone, Default, PartialEq, Eq, Serialize, Deserialize)]
pub(super) struct PlacedSums {
    /// How many of those at hand are there.
    known: u8,
    places: [u16; AT_HAND],
    sums: [i128; AT_HAND],
    further: Vec<(u16, i128)>,
}

impl PlacedSums {
    /// Adds to the sum of a place; `None` where it is too large to hold.
    pub(super) fn add(&mut self, place: u16, units: i128) -> Option<()> {
        let known = usize::from(self.known).min(AT_HAND);
        let at_hand = self.places.iter().take(known).position(|known| *known == place);
        let at_hand = match at_hand {
            None if known < AT_HAND && self.further.is_empty() => {
                *self.places.get_mut(known)? = place;
                self.known += 1;
                Some(known)
            }
            at_hand => at_hand,
        };
        match at_hand {
            Some(nth) => {
                let sum = self.sums.get_mut(nth)?;
                *sum = sum.checked_add(units)?;
            }
            None => match self.further.iter_mut().find(|(known, _)| *known == place) {
                Some((_, sum)) => *sum = sum.checked_add(units)?,
                None => self.further.push((place, units)),
            },
        }
        Some(())
    }

    /// Something of those at hand, to have them near.
    pub(super) fn near(&self) -> u64 {
        let [first, .., last] = self.sums;
        u64::from(self.known) ^ first as u64 ^ last as u64
    }

    /// The places with their sums, each once.
    pub(super) fn all(&self) -> Vec<(u16, i128)> {
        let at_hand = self.places.iter().copied().zip(self.sums).take(self.known.into());
        at_hand.chain(self.further.iter().copied()).collect()
    }
}

#[cfg(test)]
mod tests {
    use super::PlacedSums;
    use proptest::prelude::*;
    use std::collections::BTreeMap;

    proptest! {
        #[test]
        fn sums_are_those_of_a_plain_map(added in prop::collection::vec((0_u16..12, -5_i128..5), 0..60)) {
            let (mut plain, mut sums) = (BTreeMap::new(), PlacedSums::default());
            for (place, units) in added {
                *plain.entry(place).or_insert(0) += units;
                sums.add(place, units).unwrap();
            }
            let all = sums.all();
            prop_assert_eq!(all.len(), plain.len());
            prop_assert_eq!(all.into_iter().collect::<BTreeMap<_, _>>(), plain);
        }
    }

    #[test]
    fn what_is_too_large_is_told_wherever_it_stands() {
        let mut sums = PlacedSums::default();
        (0..8).for_each(|place| sums.add(place, i128::MAX).unwrap());
        assert_eq!((sums.add(0, 1), sums.add(7, 1), sums.add(7, -1)), (None, None, Some(())));
    }
}
