//! The rows of the other file that have one key, and which of them counts.

use super::Counting;
use super::values::{Settled, added};
use crate::stored_bytes::{broken, take_bytes, take_number, take_with_length, text_of};
use std::cmp::Ordering;
use std::collections::BTreeMap;
use std::io;

/// A row of the other file, as far as it can be brought.
#[derive(Debug, Clone, PartialEq, Eq, Default)]
pub(super) struct Candidate {
    /// Its number, and its line.
    pub(super) row: u64,
    pub(super) line: u64,
    /// What it is preferred by; nothing where that is blank.
    pub(super) order: Option<i128>,
    /// The days from which and to which it counts.
    pub(super) days: [Option<i32>; 2],
    /// The key as a person reads it.
    pub(super) key: String,
    /// The cells that are brought.
    pub(super) cells: Vec<u8>,
}

/// One row of a key that counts, or the sum of several, by its kept cells.
#[derive(Debug, Clone, Copy)]
pub(super) struct OneRow<'c> {
    pub(super) row: u64,
    pub(super) line: u64,
    /// The key as a person reads it.
    pub(super) key: &'c [u8],
    pub(super) cells: &'c [u8],
}

impl OneRow<'_> {
    /// Puts it after other bytes as the entry of its key, with its number among all keys.
    pub(super) fn put_as_entry(self, ordinal: u64, into: &mut Vec<u8>) {
        put_head([ordinal, self.row, self.line], self.key, into);
        into.push(ONE);
        into.extend_from_slice(self.cells);
    }

    /// Puts it after other bytes as a row that may have others of its key next to it, and is preferred by nothing.
    pub(super) fn put_as_candidate(self, into: &mut Vec<u8>) {
        let Self { row, line, key, cells } = self;
        put_candidate((row, line, key), None, [None, None], into);
        into.extend_from_slice(cells);
    }
}

/// Puts a row of a key after other bytes, up to its cells: where it is and its key as a person reads it, what it is preferred by, and the
/// days from which and to which it counts.
pub(super) fn put_candidate(
    (row, line, key): (u64, u64, &[u8]),
    order: Option<i128>,
    days: [Option<i32>; 2],
    into: &mut Vec<u8>,
) {
    put_head([row, line], key, into);
    into.push(u8::from(order.is_some()));
    into.extend_from_slice(&order.unwrap_or(0).to_le_bytes());
    for day in days {
        into.push(u8::from(day.is_some()));
        into.extend_from_slice(&day.unwrap_or(0).to_le_bytes());
    }
}

/// The row that [`put_candidate`] put there, with its cells.
pub(super) fn candidate_of(mut payload: &[u8]) -> io::Result<Candidate> {
    let row = take_number(&mut payload)?;
    let line = take_number(&mut payload)?;
    let key = text_of(take_with_length(&mut payload)?)?.to_owned();
    let order = take_flagged(&mut payload)?.map(i128::from_le_bytes);
    let from = take_flagged(&mut payload)?.map(i32::from_le_bytes);
    let to = take_flagged(&mut payload)?.map(i32::from_le_bytes);
    Ok(Candidate { row, line, order, days: [from, to], key, cells: payload.to_vec() })
}

/// Numbers, and a key as a person reads it, after other bytes.
fn put_head<const N: usize>(numbers: [u64; N], key: &[u8], into: &mut Vec<u8>) {
    numbers.iter().for_each(|number| into.extend_from_slice(&number.to_le_bytes()));
    into.extend_from_slice(&(key.len() as u64).to_le_bytes());
    into.extend_from_slice(key);
}

/// The next value of a number of bytes, if a byte before them says that there is one.
fn take_flagged<const N: usize>(bytes: &mut &[u8]) -> io::Result<Option<[u8; N]>> {
    let [flag] = take_bytes(bytes)?;
    let value = take_bytes(bytes)?;
    Ok((flag == 1).then_some(value))
}

/// What counts of the rows of one key.
#[derive(Debug, Clone, PartialEq, Eq)]
pub(super) enum Counts {
    /// One row.
    One(Candidate),
    /// None, since these two differ and neither is preferred.
    Neither(Candidate, Candidate),
    /// Each on its days.
    OnDays(Vec<Candidate>),
    /// All of them, of which each pays so much on its day.
    Payments(Vec<Candidate>),
}

impl Counts {
    pub(super) fn begin(counting: &Counting<usize>, first: Candidate) -> Self {
        match counting {
            Counting::Valid { .. } => Self::OnDays(vec![first]),
            Counting::Settling { .. } => Self::Payments(vec![first]),
            _ => Self::One(first),
        }
    }

    /// Takes the next row of the key, in the order of the file.
    pub(super) fn take(self, counting: &Counting<usize>, next: Candidate) -> io::Result<Self> {
        Ok(match (self, counting) {
            (Self::OnDays(mut all), _) => {
                all.push(next);
                Self::OnDays(all)
            }
            (Self::Payments(mut all), _) => {
                all.push(next);
                Self::Payments(all)
            }
            (_, Counting::Last) => Self::One(next),
            (before, Counting::First) => before,
            (Self::One(before), Counting::Summed(_)) => {
                let cells = added(&before.cells, &next.cells)?;
                // Sums of some rows come in any order, and the first row is that of the file.
                let first = if next.row < before.row { next } else { before };
                Self::One(Candidate { cells, ..first })
            }
            (before @ (Self::One(_) | Self::Neither(..)), Counting::Latest(_)) => {
                before.prefer(next, Ordering::Greater)
            }
            (before @ (Self::One(_) | Self::Neither(..)), Counting::Earliest(_)) => {
                before.prefer(next, Ordering::Less)
            }
            (Self::One(before), _) if before.cells != next.cells => Self::Neither(before, next),
            (before, _) => before,
        })
    }

    fn prefer(self, next: Candidate, better: Ordering) -> Self {
        let best = match &self {
            Self::One(best) | Self::Neither(best, _) => best,
            Self::OnDays(_) | Self::Payments(_) => return self,
        };
        let next_is = match (next.order, best.order) {
            (Some(next), Some(best)) if next == best => Ordering::Equal,
            (Some(next), Some(best)) if next.cmp(&best) == better => Ordering::Greater,
            (Some(_), None) => Ordering::Greater,
            (None, None) => Ordering::Equal,
            _ => Ordering::Less,
        };
        match next_is {
            Ordering::Greater => Self::One(next),
            Ordering::Less => self,
            Ordering::Equal => match self {
                Self::One(best) if best.cells != next.cells => Self::Neither(best, next),
                other => other,
            },
        }
    }

    /// The entry of the key, with its number among all keys.
    pub(super) fn entry(&self, ordinal: u64) -> io::Result<Vec<u8>> {
        let mut entry = Vec::new();
        let head = |first: &Candidate, entry: &mut Vec<u8>| {
            put_head([ordinal, first.row, first.line], first.key.as_bytes(), entry);
        };
        match self {
            Self::One(Candidate { row, line, key, cells, .. }) => {
                let one = OneRow { row: *row, line: *line, key: key.as_bytes(), cells };
                one.put_as_entry(ordinal, &mut entry);
            }
            Self::Neither(first, other) => {
                head(first, &mut entry);
                entry.push(NEITHER);
                entry.extend_from_slice(&other.row.to_le_bytes());
            }
            Self::Payments(all) => {
                let first = all.first().ok_or_else(broken)?;
                head(first, &mut entry);
                let (_, others) = all.split_at(1);
                let cells =
                    others.iter().try_fold(first.cells.clone(), |sum, next| added(&sum, &next.cells))?;
                let timeline = paid_by_day(all);
                entry.push(if timeline.is_some() { PAYMENTS } else { TOO_LARGE_PAYMENTS });
                entry.extend_from_slice(&(cells.len() as u64).to_le_bytes());
                entry.extend_from_slice(&cells);
                for (day, paid) in timeline.unwrap_or_default() {
                    entry.extend_from_slice(&day.to_le_bytes());
                    entry.extend_from_slice(&paid.to_le_bytes());
                }
            }
            Self::OnDays(all) => {
                let first = all.first().ok_or_else(broken)?;
                head(first, &mut entry);
                entry.push(ON_DAYS);
                for one in all {
                    let [from, to] = one.days;
                    for number in [
                        one.row,
                        stored(from.unwrap_or(i32::MIN)),
                        stored(to.unwrap_or(i32::MAX)),
                        one.cells.len() as u64,
                    ] {
                        entry.extend_from_slice(&number.to_le_bytes());
                    }
                    entry.extend_from_slice(&one.cells);
                }
            }
        }
        Ok(entry)
    }
}

const ONE: u8 = 0;
const NEITHER: u8 = 1;
const ON_DAYS: u8 = 2;
const PAYMENTS: u8 = 3;
/// Payments of which some sum up to a day is too large to hold.
const TOO_LARGE_PAYMENTS: u8 = 4;

/// What is paid up to the end of each day, in the order of the days; nothing where a sum is too large to hold.
fn paid_by_day(all: &[Candidate]) -> Option<Vec<(i32, i128)>> {
    let mut of_days: BTreeMap<i32, i128> = BTreeMap::new();
    for payment in all {
        let Some(day) = payment.days[0] else { continue };
        let sum = of_days.entry(day).or_insert(0);
        *sum = sum.checked_add(payment.order.unwrap_or(0))?;
    }
    let mut paid = 0_i128;
    let up_to = of_days.into_iter().map(|(day, of_day)| {
        paid = paid.checked_add(of_day)?;
        Some((day, paid))
    });
    up_to.collect()
}

/// A day among numbers without a sign.
fn stored(day: i32) -> u64 {
    u64::from(day.cast_unsigned())
}

fn day_of(stored: u64) -> io::Result<i32> {
    u32::try_from(stored).map(u32::cast_signed).map_err(|_| broken())
}

/// The entry of a key as it is found.
pub(super) struct Entry<'e> {
    /// The number of the key among all.
    pub(super) ordinal: u64,
    /// The first row of it.
    pub(super) row: u64,
    pub(super) line: u64,
    key: &'e str,
    counts: &'e [u8],
}

/// What an entry brings on a day.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) enum Brings<'e> {
    Cells(&'e [u8]),
    /// These two rows, of which neither is preferred.
    Neither(u64, u64),
    /// No row counts on the day.
    NoneOnThatDay,
}

impl<'e> Entry<'e> {
    pub(super) fn of(mut bytes: &'e [u8]) -> io::Result<Self> {
        let ordinal = take_number(&mut bytes)?;
        let row = take_number(&mut bytes)?;
        let line = take_number(&mut bytes)?;
        let key = text_of(take_with_length(&mut bytes)?)?;
        Ok(Self { ordinal, row, line, key, counts: bytes })
    }

    /// The key as a person reads it.
    pub(super) fn key(&self) -> &'e str {
        self.key
    }

    /// When its payments settle an amount: on the day on which their sum first reaches it and stays there.
    pub(super) fn settles(&self, amount: i128) -> io::Result<Settled> {
        let Some((&PAYMENTS, mut rest)) = self.counts.split_first() else { return Ok(Settled::NotKnown) };
        take_with_length(&mut rest)?;
        let mut settled = Settled::NotYet;
        while !rest.is_empty() {
            let day = i32::from_le_bytes(take_bytes(&mut rest)?);
            let paid = i128::from_le_bytes(take_bytes(&mut rest)?);
            // Over-paid is paid, and so is a credit note of which more was paid back.
            let is_settled = if amount < 0 { paid <= amount } else { paid >= amount };
            settled = match (is_settled, settled) {
                (false, _) => Settled::NotYet,
                (true, Settled::On(first)) => Settled::On(first),
                (true, _) => Settled::On(day),
            };
        }
        Ok(settled)
    }

    /// What it brings to our row, on a day where the rule asks for one.
    pub(super) fn on(&self, day: Option<i32>) -> io::Result<Brings<'e>> {
        let (tag, mut rest) = self.counts.split_first().ok_or_else(broken)?;
        Ok(match *tag {
            ONE => Brings::Cells(rest),
            NEITHER => Brings::Neither(self.row, take_number(&mut rest)?),
            PAYMENTS | TOO_LARGE_PAYMENTS => Brings::Cells(take_with_length(&mut rest)?),
            ON_DAYS => {
                let Some(day) = day else { return Ok(Brings::NoneOnThatDay) };
                let mut found: Option<(u64, &[u8])> = None;
                while !rest.is_empty() {
                    let row = take_number(&mut rest)?;
                    let from = day_of(take_number(&mut rest)?)?;
                    let to = day_of(take_number(&mut rest)?)?;
                    let cells = take_with_length(&mut rest)?;
                    if !(from..=to).contains(&day) {
                        continue;
                    }
                    match found {
                        Some((before, other)) if other != cells => return Ok(Brings::Neither(before, row)),
                        Some(_) => {}
                        None => found = Some((row, cells)),
                    }
                }
                found.map_or(Brings::NoneOnThatDay, |(_, cells)| Brings::Cells(cells))
            }
            _ => return Err(broken()),
        })
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    /// A row that counts from one day to another, either of which may be open, and brings one of three things.
    fn any_candidate() -> impl Strategy<Value = Candidate> {
        let day = || prop::option::of(-6_i32..6);
        (day(), day(), 0_u8..3, prop::option::of(0_i128..4)).prop_map(|(from, to, brings, order)| Candidate {
            order,
            days: [from, to],
            key: "Heron".to_owned(),
            cells: vec![brings; 3],
            ..Candidate::default()
        })
    }

    fn candidates() -> impl Strategy<Value = Vec<Candidate>> {
        prop::collection::vec(any_candidate(), 1..8).prop_map(|rows| {
            (1..).zip(rows).map(|(row, candidate)| Candidate { row, line: row + 1, ..candidate }).collect()
        })
    }

    fn entry(counting: &Counting<usize>, rows: &[Candidate]) -> Vec<u8> {
        let (first, others) = rows.split_first().unwrap();
        let begun = Counts::begin(counting, first.clone());
        others
            .iter()
            .cloned()
            .try_fold(begun, |counts, next| counts.take(counting, next))
            .unwrap()
            .entry(7)
            .unwrap()
    }

    proptest! {
        #[test]
        fn on_each_day_counts_the_row_that_a_plain_search_finds(rows in candidates()) {
            let bytes = entry(&Counting::Valid { from: 0, to: 1, on: 2 }, &rows);
            let entry = Entry::of(&bytes).unwrap();
            prop_assert_eq!((entry.ordinal, entry.row, entry.line, entry.key()), (7, 1, 2, "Heron"));
            for day in -8..8 {
                let holds = |row: &&Candidate| {
                    let [from, to] = row.days;
                    from.is_none_or(|from| from <= day) && to.is_none_or(|to| day <= to)
                };
                let valid: Vec<&Candidate> = rows.iter().filter(holds).collect();
                let other = valid.iter().find(|row| row.cells != valid[0].cells);
                let expected = match (valid.first(), other) {
                    (None, _) => Brings::NoneOnThatDay,
                    (Some(one), None) => Brings::Cells(&one.cells),
                    (Some(one), Some(other)) => Brings::Neither(one.row, other.row),
                };
                prop_assert_eq!(entry.on(Some(day)).unwrap(), expected, "day {}", day);
            }
            prop_assert_eq!(entry.on(None).unwrap(), Brings::NoneOnThatDay);
        }

        #[test]
        fn the_latest_and_the_earliest_are_those_of_a_plain_search(rows in candidates()) {
            for (counting, sign) in [(Counting::Latest(0), 1), (Counting::Earliest(0), -1)] {
                let bytes = entry(&counting, &rows);
                // A row without what it is preferred by comes after all others.
                let rank = |row: &Candidate| row.order.map(|order| order * sign);
                let best = rows.iter().map(rank).max().unwrap();
                let alike: Vec<&Candidate> = rows.iter().filter(|row| rank(row) == best).collect();
                let is_one = alike.iter().all(|row| row.cells == alike[0].cells);
                match Entry::of(&bytes).unwrap().on(None).unwrap() {
                    Brings::Cells(cells) => prop_assert!(is_one && cells == alike[0].cells, "{:?}", rows),
                    Brings::Neither(one, other) => {
                        let cells = |number: u64| &rows[usize::try_from(number - 1).unwrap()].cells;
                        prop_assert!(!is_one && cells(one) != cells(other), "{:?}", rows);
                    }
                    Brings::NoneOnThatDay => prop_assert!(false, "nothing counts of {:?}", rows),
                }
            }
        }

        #[test]
        fn an_amount_is_settled_where_a_walk_over_the_days_finds_it(
            payments in prop::collection::vec((-4_i32..8, prop::option::of(-6_i128..9)), 1..8),
            amount in -9_i128..12,
        ) {
            let rows: Vec<Candidate> = (1..)
                .zip(&payments)
                .map(|(row, (day, paid))| Candidate { row, line: row, order: *paid, days: [Some(*day), None], ..Candidate::default() })
                .collect();
            let bytes = entry(&Counting::Settling { dates: 0, amount: 0 }, &rows);
            let (mut paid, mut settled) = (0, Settled::NotYet);
            for day in -4..8 {
                let mut of_day = payments.iter().filter(|(on, _)| *on == day).peekable();
                if of_day.peek().is_none() {
                    continue;
                }
                paid += of_day.filter_map(|(_, paid)| *paid).sum::<i128>();
                let open = amount - paid;
                if (amount < 0 && open < 0) || (amount >= 0 && open > 0) {
                    settled = Settled::NotYet;
                } else if settled == Settled::NotYet {
                    settled = Settled::On(day);
                }
            }
            prop_assert_eq!(Entry::of(&bytes).unwrap().settles(amount).unwrap(), settled);
        }

        #[test]
        fn the_first_and_the_last_are_that(rows in candidates()) {
            for (counting, which) in [(Counting::First, rows.first()), (Counting::Last, rows.last())] {
                let bytes = entry(&counting, &rows);
                prop_assert_eq!(Entry::of(&bytes).unwrap().on(None).unwrap(), Brings::Cells(&which.unwrap().cells));
            }
        }
    }
}
