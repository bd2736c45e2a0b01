//! Columns of the file besides those that the plan adds: where they agree, and what would explain it where they do not.

use super::job::{Job, Pair};
use super::outcome::{ComparedColumns, ComparedRow};
use crate::columns::{CountsBetween, OtherWay, other_ways};
use crate::error::RecordsError;
use crate::handover::{Counts, Saved, Saving};
use crate::table::{Batch, Kind, RowId, Table};
use mild_ledger::{Interval, Quotient, Rounding};
use serde::{Deserialize, Serialize};

/// Rows that are shown of each pair of columns.
const EXAMPLES: usize = 5;

/// Ways of counting that are shown where several explain the same.
const WAYS: usize = 3;
/// The rows of a file, its first ones, of which those that agree are held against the other ways too.
const ROWS_TRIED: u64 = 10_000;

/// The findings about all pairs.
pub(super) struct Comparisons {
    pairs: Vec<PairTally>,
}

struct PairTally {
    pair: Pair,
    equal: u64,
    different: u64,
    only_theirs: u64,
    only_ours: u64,
    neither: u64,
    /// The first rows that differ.
    examples: Vec<(RowId, ComparedRow)>,
    /// By how much theirs is more than ours, where that is always the same; nothing once it was not.
    apart: Option<Option<Quotient>>,
    between: Option<CountsBetween>,
    /// Each way with what rows say of it.
    ways: Vec<(Way, Votes)>,
}

/// How theirs may have come about.
enum Way {
    /// Ours with fewer decimals.
    Rounded(Rounding),
    /// Ours with its sign turned.
    Turned,
    Counted(OtherWay),
}

/// Whether theirs is ours in a row.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
enum Row {
    Agrees,
    Differs,
}

/// Rows that a way gives theirs for, though ours is another, and rows that it does not give theirs for, though ours does.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default, Serialize, Deserialize)]
struct Votes {
    explained: u64,
    contradicted: u64,
}

impl Way {
    fn of(&self, our: Quotient, decimals: u8, interval: Option<Interval>) -> Option<Quotient> {
        match self {
            Self::Rounded(rounding) => our.to_decimal(decimals, *rounding).ok().map(Quotient::from),
            Self::Turned => Quotient::ZERO.checked_sub(our),
            Self::Counted(way) => way.of(interval?),
        }
    }

    fn said(&self) -> String {
        match self {
            Self::Rounded(rounding) => format!("rounding to its decimals ({rounding})"),
            Self::Turned => "start and end exchanged".to_owned(),
            Self::Counted(way) => way.said.clone(),
        }
    }
}

impl Counts for Comparisons {
    fn save(&self, into: &mut Saving) -> Result<(), RecordsError> {
        into.put_all(self.pairs.iter())
    }

    fn restore(&mut self, from: &mut Saved<'_>) -> Result<(), RecordsError> {
        from.restore_all(self.pairs.iter_mut())
    }
}

impl Comparisons {
    pub(super) fn new(job: &Job) -> Self {
        Self { pairs: job.compare.iter().map(|pair| PairTally::new(job, *pair)).collect() }
    }

    /// Takes the rows of a batch that are written.
    pub(super) fn count(&mut self, job: &Job, (batch, table): (&Batch, &Table), written: &[usize]) {
        for pair in &mut self.pairs {
            written.iter().for_each(|row| pair.count(job, (batch, table), *row));
        }
    }

    /// Takes over what another worker found.
    pub(super) fn merge(&mut self, other: Self) {
        for (pair, other) in self.pairs.iter_mut().zip(other.pairs) {
            pair.merge(other);
        }
    }

    pub(super) fn finish(self, job: &Job) -> Vec<ComparedColumns> {
        self.pairs.into_iter().map(|pair| pair.finish(job)).collect()
    }
}

impl Counts for PairTally {
    fn save(&self, into: &mut Saving) -> Result<(), RecordsError> {
        let Self {
            equal,
            different,
            only_theirs,
            only_ours,
            neither,
            examples,
            apart,
            ways,
            pair: _,
            between: _,
        } = self;
        into.put(&[equal, different, only_theirs, only_ours, neither])?;
        into.put(&(examples, apart))?;
        into.put(&ways.iter().map(|(_, votes)| *votes).collect::<Vec<_>>())
    }

    fn restore(&mut self, from: &mut Saved<'_>) -> Result<(), RecordsError> {
        [self.equal, self.different, self.only_theirs, self.only_ours, self.neither] = from.take()?;
        (self.examples, self.apart) = from.take()?;
        let votes: Vec<Votes> = from.take()?;
        self.ways.iter_mut().zip(votes).for_each(|((_, votes), counted)| *votes = counted);
        Ok(())
    }
}

impl PairTally {
    fn new(job: &Job, pair: Pair) -> Self {
        let between = job.counts_between(pair.ours);
        let decimals = job.setting.layout.kind(pair.theirs).decimals().unwrap_or(0);
        let ways = between.map_or_else(Vec::new, |between| other_ways(&between, &job.setting, decimals));
        Self {
            pair,
            equal: 0,
            different: 0,
            only_theirs: 0,
            only_ours: 0,
            neither: 0,
            examples: Vec::new(),
            apart: None,
            between,
            ways: [Rounding::Nearest, Rounding::Truncate, Rounding::Up]
                .map(Way::Rounded)
                .into_iter()
                .chain([Way::Turned])
                .chain(ways.into_iter().map(Way::Counted))
                .map(|way| (way, Votes::default()))
                .collect(),
        }
    }

    fn count(&mut self, job: &Job, (batch, table): (&Batch, &Table), row: usize) {
        let Pair { theirs, ours } = self.pair;
        match (table.is_empty(theirs, row), table.is_empty(ours, row)) {
            (true, true) => self.neither += 1,
            (true, false) => self.only_ours += 1,
            (false, true) => self.only_theirs += 1,
            (false, false) if are_equal(job, table, self.pair, row) => {
                self.equal += 1;
                if batch.origins.of(row).row <= ROWS_TRIED {
                    self.vote(job, table, row, Row::Agrees);
                }
            }
            (false, false) => {
                self.different += 1;
                self.note_apart(table, row);
                self.vote(job, table, row, Row::Differs);
                if self.examples.len() < EXAMPLES {
                    let layout = &job.setting.layout;
                    let example = ComparedRow {
                        key: layout.key_text(batch, row).into_owned(),
                        place: layout.place_in_words(batch.origins.of(row)),
                        theirs: table.shown(theirs, row).into_owned(),
                        ours: table.shown(ours, row).into_owned(),
                    };
                    self.examples.push((batch.origins.of(row).id(), example));
                }
            }
        }
    }

    /// By how much theirs is more than ours.
    fn note_apart(&mut self, table: &Table, row: usize) {
        let [their, our] = [self.pair.theirs, self.pair.ours].map(|column| value_of(table, column, row));
        let apart = their.zip(our).and_then(|(their, our)| their.checked_sub(our));
        self.apart = Some(match self.apart.take() {
            None => apart,
            Some(known) => known.filter(|known| apart == Some(*known)),
        });
    }

    /// What a row says of the ways in which theirs may have been worked out. A date has none.
    fn vote(&mut self, job: &Job, table: &Table, row: usize, which: Row) {
        let Pair { theirs, ours } = self.pair;
        let Some(decimals) = job.setting.layout.kind(theirs).decimals() else { return };
        let (Some(their), Some(our)) = (table.exact(theirs, row), table.exact(ours, row)) else { return };
        let interval = self.between.as_ref().and_then(|between| between.of(table, row));
        for (way, votes) in &mut self.ways {
            match (which, way.of(our, decimals, interval) == Some(their)) {
                (Row::Differs, true) => votes.explained += 1,
                (Row::Agrees, false) => votes.contradicted += 1,
                _ => {}
            }
        }
    }

    fn merge(&mut self, other: Self) {
        self.equal += other.equal;
        self.different += other.different;
        self.only_theirs += other.only_theirs;
        self.only_ours += other.only_ours;
        self.neither += other.neither;
        self.examples.extend(other.examples);
        self.examples.sort_by_key(|(row, _)| *row);
        self.examples.truncate(EXAMPLES);
        self.apart = match (self.apart.take(), other.apart) {
            (Some(one), Some(other)) => Some(one.filter(|one| other == Some(*one))),
            (one, other) => one.or(other),
        };
        for ((_, votes), (_, more)) in self.ways.iter_mut().zip(other.ways) {
            votes.explained += more.explained;
            votes.contradicted += more.contradicted;
        }
    }

    fn finish(self, job: &Job) -> ComparedColumns {
        let layout = &job.setting.layout;
        let most = self.ways.iter().map(|(_, votes)| votes.explained).max().unwrap_or(0);
        // What explains less than half of them explains nothing; of several those that fit the other rows best.
        let explaining: Vec<(Way, Votes)> = self
            .ways
            .into_iter()
            .filter(|(_, votes)| votes.explained == most && most * 2 > self.different)
            .collect();
        let fewest = explaining.iter().map(|(_, votes)| votes.contradicted).min().unwrap_or(0);
        let explained = explaining.iter().filter(|(_, votes)| votes.contradicted == fewest);
        let explained = explained.map(|(way, votes)| (way.said(), votes.explained)).take(WAYS).collect();
        let apart = self.apart.flatten().filter(|apart| *apart != Quotient::ZERO && self.different > 1);
        let is_of_dates = matches!(layout.kind(self.pair.ours), Kind::Date { .. });
        ComparedColumns {
            column: layout.name(self.pair.theirs).to_owned(),
            with: layout.name(self.pair.ours).to_owned(),
            equal: self.equal,
            different: self.different,
            only_in_file: self.only_theirs,
            only_added: self.only_ours,
            neither: self.neither,
            examples: self.examples.into_iter().map(|(_, example)| example).collect(),
            explained,
            apart: apart.and_then(|apart| {
                let decimals = |column: usize| layout.kind(column).decimals().unwrap_or(0);
                let most = decimals(self.pair.theirs).max(decimals(self.pair.ours));
                let number = apart.to_decimal(most, Rounding::Nearest).ok()?;
                Some(format!("{number}{}", if is_of_dates { " days" } else { "" }))
            }),
        }
    }
}

/// Numbers by what they are worth as they are shown, dates by their days, all else by its text.
fn are_equal(job: &Job, table: &Table, Pair { theirs, ours }: Pair, row: usize) -> bool {
    let layout = &job.setting.layout;
    match (layout.kind(theirs).decimals(), layout.kind(ours).decimals()) {
        (Some(_), Some(_)) => {
            let [their, our] = [theirs, ours].map(|column| table.decimal(column, row).map(Quotient::from));
            their == our
        }
        _ => match (table.date(theirs, row), table.date(ours, row)) {
            (Some(their), Some(our)) => their == our,
            _ => table.shown(theirs, row).trim() == table.shown(ours, row).trim(),
        },
    }
}

/// A number exactly, a date as its day number.
fn value_of(table: &Table, column: usize, row: usize) -> Option<Quotient> {
    let date =
        table.date(column, row).map(|date| mild_ledger::Decimal::from(i64::from(date.day_number())).into());
    date.or_else(|| table.exact(column, row))
}
