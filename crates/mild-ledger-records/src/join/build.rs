//! The second file read by several, and one entry made of each key.

use super::Counting;
use super::account::Account;
use super::bound::BoundJoin;
use super::index::{HELD, IndexBuilder, SUMS_HELD};
use super::one_key::{Candidate, Counts, candidate_of};
use super::probe::{Found, Join, Keys};
use super::reading::{Hand, OfChunk, Wanted};
use super::sums::{Summed, SumsByKey};
use crate::error::RecordsError;
use crate::sorting::Sorter;
use crate::source::{Chunk, ChunkSize, by_several};
use crate::table::{Became, Exception, ExceptionSubject, Layout, Origin};
use crate::typing::expected_of;
use mild_ledger::Scale;
use std::num::NonZeroUsize;
use std::path::Path;

/// Exceptions of a second file that are listed one by one.
const MOST_LISTED: usize = 100_000;

/// How second files are read.
#[derive(Clone, Copy)]
pub(crate) struct HowRead<'h> {
    /// A folder for what is more than memory should hold.
    pub(crate) scratch: &'h Path,
    pub(crate) workers: NonZeroUsize,
    /// How large chunks of them are, where that does not follow from their columns.
    pub(crate) chunks: Option<ChunkSize>,
    /// How many bytes of what is joined are held in memory, where that is not as much as usual.
    pub(crate) most_held: Option<usize>,
    /// Asked now and then whether to go on.
    pub(crate) check: &'h dyn Fn() -> Result<(), RecordsError>,
}

/// What is listed of the rows of a second file.
#[derive(Default)]
struct Listed {
    exceptions: Vec<Exception>,
    /// Those that are not listed.
    more: u64,
}

impl BoundJoin {
    /// Reads the second file. What is looked for later is held in memory while it is small, and is in a file of a folder where
    /// it is not.
    pub(crate) fn build(mut self, layout: &mut Layout, how: HowRead<'_>) -> Result<Join, RecordsError> {
        let HowRead { scratch, check, .. } = how;
        let failed = |error| RecordsError::file(scratch, "sort what is joined there")(error);
        let chunk_size = how.chunks.unwrap_or_else(|| ChunkSize::of_rows_with(self.theirs.columns.len()));
        self.reader.with_chunks_of(chunk_size);
        let source = layout.sources.len();
        layout.sources.push(self.other.name.clone());
        // What is settled needs the dates of all payments, not their sum alone.
        let is_sum = matches!(self.counting, Counting::Summed(_));
        let usual = if is_sum { SUMS_HELD / self.sharing.max(1) } else { HELD };
        let most_held = how.most_held.unwrap_or(usual);
        let sums = is_sum.then(|| SumsByKey::new(&self.brought, most_held, scratch));
        let wanted = Wanted {
            theirs: &self.theirs,
            brought: &self.brought,
            counting: &self.counting,
            up_to: self.up_to,
            paid: self.paid,
            sums: sums.as_ref(),
            scratch,
        };
        let hand = |reader| Hand::new(wanted, reader, self.account());
        let mut all = hand(self.reader.chunk_reader());
        let hands = (0..how.workers.get()).map(|_| hand(self.reader.chunk_reader())).collect();
        let (mut listed, mut sorter) = (Listed::default(), Sorter::new(scratch));
        let reader = &mut self.reader;
        let (next, read) =
            (move || reader.next_chunk(), |hand: &mut Hand<'_>, chunk: Chunk| hand.read(&chunk));
        let hands = by_several(hands, next, read, |left: OfChunk| {
            check()?;
            listed.take(left.exceptions, &self.theirs, (layout, source));
            sorter.push_all(&left.keys, &left.candidates).map_err(failed)
        })?;
        hands.iter().for_each(|hand| all.counted.merge(&hand.counted));
        let counted = all.counted;
        let keys = match sums.map(SumsByKey::finish).transpose().map_err(failed)? {
            Some(Summed::InMemory(sums)) => Keys::Sums(sums),
            Some(Summed::Beyond(sorter)) => self.entries_of(sorter, most_held, how)?,
            None => self.entries_of(sorter, most_held, how)?,
        };
        let Self { other, reader, ours, kinds, missing, counting, paid, .. } = self;
        let end = reader.finish().pop();
        let end =
            end.ok_or_else(|| RecordsError::Proof { what: "the second file was not read".to_owned() })?;
        Ok(Join::new(
            Found {
                keys,
                source,
                end,
                blank_keys: counted.blank_keys,
                usable: counted.usable,
                exceptions: listed.exceptions,
                more_exceptions: listed.more,
                not_added: counted.not_added,
                account: counted.account,
            },
            (other, ours, kinds, missing, counting, paid),
        ))
    }

    /// An account of no rows, where they are added up.
    fn account(&self) -> Option<Account> {
        self.counting.is_sum().then(|| {
            let scale = |nth: usize| self.kinds.get(nth)?.decimals().and_then(|count| Scale::new(count).ok());
            Account::of(&self.theirs, &self.brought, scale)
        })
    }

    /// The entries of all keys, of rows that are sorted by key.
    fn entries_of(
        &self,
        sorter: Sorter,
        most_held: usize,
        HowRead { scratch, check, .. }: HowRead<'_>,
    ) -> Result<Keys, RecordsError> {
        let failed = |error| RecordsError::file(scratch, "sort what is joined there")(error);
        let mut merge = sorter.finish().map_err(failed)?;
        let mut index = IndexBuilder::new(scratch, most_held);
        let mut keys = 0;
        let mut current: Option<(Vec<u8>, Counts)> = None;
        let mut seen = 0_u64;
        while let Some((key, payload)) = merge.next().map_err(failed)? {
            seen += 1;
            if seen.is_multiple_of(1 << 16) {
                check()?;
            }
            let candidate = candidate_of(payload).map_err(failed)?;
            current = Some(match current.take() {
                Some((same, counts)) if same == key => {
                    if self.counting == Counting::Refused {
                        return Err(self.stands_twice(&counts, &candidate));
                    }
                    (same, counts.take(&self.counting, candidate).map_err(failed)?)
                }
                before => {
                    if let Some((key, counts)) = before {
                        let entry = counts.entry(keys).map_err(failed)?;
                        index.push(&key, &entry).map_err(failed)?;
                        keys += 1;
                    }
                    (key.to_vec(), Counts::begin(&self.counting, candidate))
                }
            });
        }
        if let Some((key, counts)) = current {
            let entry = counts.entry(keys).map_err(failed)?;
            index.push(&key, &entry).map_err(failed)?;
            keys += 1;
        }
        Ok(Keys::Entries(index.finish().map_err(failed)?, keys))
    }

    fn stands_twice(&self, before: &Counts, next: &Candidate) -> RecordsError {
        let first = match before {
            Counts::One(first) | Counts::Neither(first, _) => first.row,
            Counts::OnDays(all) | Counts::Payments(all) => all.first().map_or(0, |first| first.row),
        };
        RecordsError::request(
            format!("\"{}\" is twice in {}, in rows {first} and {}", next.key, self.other.name, next.row),
            "say in the plan under [[join]] which counts, such as duplicates = \"last\" or { latest = \"…\" }",
        )
    }
}

impl Listed {
    /// Lists exceptions of some of their rows, in the order of these, as they are among our rows: their columns have no numbers here, and no row
    /// of ours is set aside for them.
    fn take(&mut self, mut found: Vec<Exception>, theirs: &Layout, (layout, source): (&mut Layout, usize)) {
        found.sort_by_key(|exception| exception.origin.row);
        for exception in found {
            if self.exceptions.len() == MOST_LISTED {
                self.more += 1;
                continue;
            }
            let expected = expected_of(&exception, theirs);
            let subject = match exception.subject {
                ExceptionSubject::Column(column) => layout.other_column(theirs.name(column)),
                other => other,
            };
            let became = match exception.became {
                Became::RowSetAside => Became::RowNotUsed,
                other => other,
            };
            let origin = Origin { source, ..exception.origin };
            self.exceptions.push(Exception { origin, subject, expected, became, ..exception });
        }
    }
}
