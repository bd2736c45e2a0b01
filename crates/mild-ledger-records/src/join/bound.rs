//! A second file bound to its header and to ours.

use super::planned::PlannedJoin;
use super::{Counting, MissingMatch};
use crate::columns::{Binder, NumberUse, filled_in};
use crate::error::RecordsError;
use crate::files::{FileFacts, HashKind, Remote, changed, regular};
use crate::mistakes::At;
use crate::source::{Blocks, NamedFile, Reading, SourceKind, Sources};
use crate::table::{DateKind, Kind, Layout, Table};
use mild_ledger::{Date, Scale};
use std::path::{Path, PathBuf};

/// A second file, opened, with what is to be joined from it.
pub(crate) struct BoundJoin {
    pub(super) other: OtherFile,
    pub(super) reader: Sources,
    /// What its columns are; those of the key are theirs.
    pub(super) theirs: Layout,
    /// Our columns of the key, in the order of the other file's.
    pub(super) ours: Vec<usize>,
    /// The columns that are brought, in the order in which they come after ours.
    pub(super) brought: Vec<usize>,
    /// What they hold here.
    pub(super) kinds: Vec<Kind>,
    pub(super) missing: MissingMatch,
    /// By their columns, but for the date that is ours.
    pub(super) counting: Counting<usize>,
    /// The as-of date, where only rows up to it are added up.
    pub(super) up_to: Option<Date>,
    /// Where they settle our amounts, what is paid.
    pub(super) paid: Option<Paid>,
    /// Among how many that are looked up at once the memory for sums is shared.
    pub(crate) sharing: usize,
}

/// Their column of what is paid.
#[derive(Debug, Clone, Copy)]
pub(super) struct Paid {
    column: usize,
    /// How many of our units one of its units is.
    factor: i128,
}

impl Paid {
    /// What a row pays, in its own units: nothing where it is blank. Where it could not be read, its sum is empty too.
    pub(super) fn units(self, table: &Table, row: usize) -> Option<i128> {
        table.units(self.column, row)
    }

    /// The payments in their units that settle an amount in ours: the next whole number away from zero.
    pub(super) fn settling(self, amount: i128) -> i128 {
        let whole = amount / self.factor;
        if amount % self.factor == 0 { whole } else { whole + amount.signum() }
    }
}

/// A second file by its name and its place, and how it was when the run began.
#[derive(Debug, Clone)]
pub(crate) struct OtherFile {
    pub(crate) name: String,
    pub(crate) path: PathBuf,
    /// None of a server.
    facts: Option<FileFacts>,
}

impl OtherFile {
    /// That it is still the file that was read.
    pub(crate) fn check_unchanged(&self) -> Result<(), RecordsError> {
        match &self.facts {
            Some(facts) if regular(&self.path)? != *facts => Err(changed(&self.path)),
            _ => Ok(()),
        }
    }
}

impl BoundJoin {
    pub(crate) fn other(&self) -> &OtherFile {
        &self.other
    }

    /// What was done to the file so that it can be read.
    pub(crate) fn said(&self) -> &[String] {
        self.reader.said()
    }
}

/// How files of records are read, as far as a second file is read like them.
#[derive(Debug, Clone, Copy)]
pub(crate) struct LikeRecords {
    /// The number of the file among all that are read.
    pub(crate) source: usize,
    pub(crate) longest_cell: usize,
    pub(crate) hash: HashKind,
}

impl PlannedJoin {
    /// Opens the second file and finds the columns on both sides; those that are brought are columns from here on. Nothing where the
    /// plan is mistaken, which is reported.
    pub(crate) fn bind(
        &self,
        binder: &mut Binder<'_>,
        like: LikeRecords,
    ) -> Result<Option<BoundJoin>, RecordsError> {
        let name = filled_in(&self.file.value, binder.as_of_of_the_run());
        let (path, facts) = if SourceKind::is_address(&name) {
            SourceKind::check_no_password(&name)?;
            (PathBuf::from(&name), None)
        } else {
            let path = binder.folder.join(&name);
            let facts = regular(&path)?;
            (path, Some(facts))
        };
        let LikeRecords { source, longest_cell, hash } = like;
        let (form, remote) = (self.form.clone(), Remote::default());
        let stop = binder.stop.clone();
        let reading = Reading { source, longest_cell, hash, blocks: Blocks::default(), form, remote, stop };
        let reader = Sources::open(&[NamedFile { name: &name, path: &path }], &reading, None)?;
        let mut theirs = Binder::new(binder.known_as_of(), reader.columns(), binder.folder);
        theirs.unread = reader.unread();
        let names = self.columns.iter().map(|column| (column.theirs.value.trim(), column.ours.value.trim()));
        theirs.typed_numbers = binder.typed_numbers.of_brought(names);
        // Mistakes of both are mistakes of the plan.
        std::mem::swap(&mut theirs.mistakes, &mut binder.mistakes);
        let mut written = theirs.bind_file(&self.written, reader.types());
        let key: Option<Vec<usize>> = self.matches.iter().map(|(_, name)| theirs.find(name)).collect();
        let brought: Option<Vec<usize>> =
            self.columns.iter().map(|column| theirs.find(&column.theirs)).collect();
        let counting = bind_counting(&self.counting, &mut theirs);
        std::mem::swap(&mut theirs.mistakes, &mut binder.mistakes);
        let ours: Option<Vec<usize>> = self.matches.iter().map(|(name, _)| binder.find(name)).collect();
        let up_to = match self.counting.dates_up_to_as_of() {
            Some(dates) => binder.as_of(&dates.span).map(|as_of| Some(as_of.date)),
            None => Some(None),
        };
        let settles = match &self.counting {
            Counting::Settling { amount, .. } => {
                let amounts = binder.find_amounts(amount);
                let brought = brought.as_deref().unwrap_or_default();
                let ours = ours.as_deref().unwrap_or_default();
                amounts
                    .and_then(|amounts| self.bind_paid(binder, &theirs, (amount, amounts), brought, ours))
                    .map(Some)
            }
            _ => Some(None),
        };
        let on = match &self.counting {
            Counting::Valid { on, .. } => binder.find_dates(on).map(Some),
            _ => Some(None),
        };
        if let (Some(ours), Some(key)) = (&ours, &key) {
            self.check_alike(binder, &mut theirs, ours, key);
        }
        let kinds: Vec<Kind> =
            brought.iter().flatten().map(|column| brought_kind(theirs.kind(*column))).collect();
        for (nth, column) in self.columns.iter().enumerate() {
            add_brought(binder, &column.ours, kinds.get(nth).cloned().unwrap_or(Kind::Text), &name);
            let of_theirs = brought.as_ref().and_then(|brought| theirs.columns.get(*brought.get(nth)?));
            if let (Some(ours), Some(theirs)) = (binder.columns.last_mut(), of_theirs) {
                ours.typed = theirs.typed;
            }
        }
        if self.counting.is_sum() {
            self.check_summed(binder, &kinds);
        }
        let matched = (key.as_deref().unwrap_or_default(), ours.as_deref().unwrap_or_default());
        self.bind_currencies(binder, &theirs, brought.as_deref().unwrap_or_default(), matched);
        let (Some(key), Some(brought), Some(ours), Some(on)) = (key, brought, ours, on) else {
            return Ok(None);
        };
        let (Some(counting), Some(up_to), Some(settles)) = (counting, up_to, settles) else {
            return Ok(None);
        };
        let counting = match (counting, on) {
            (Counting::Valid { from, to, .. }, Some(on)) => Counting::Valid { from, to, on },
            (other, _) => other,
        };
        let (counting, paid) = match (counting, settles) {
            (Counting::Settling { dates, .. }, Some((amount, paid))) => {
                (Counting::Settling { dates, amount }, Some(paid))
            }
            (other, _) => (other, None),
        };
        theirs.finish_typed(&mut written);
        let Binder { columns, columns_of_file, .. } = theirs;
        let sources = vec![name.clone()];
        let files_of_records = 1;
        let theirs = Layout {
            columns,
            of_views: Vec::new(),
            columns_of_file,
            key,
            written,
            sources,
            files_of_records,
            other_names: Vec::new(),
            presentation: binder.presentation.clone(),
        };
        let other = OtherFile { name, path, facts };
        let missing = self.missing;
        let sharing = 1;
        Ok(Some(BoundJoin {
            other,
            reader,
            theirs,
            ours,
            brought,
            kinds,
            missing,
            counting,
            up_to,
            paid,
            sharing,
        }))
    }

    /// Only numbers are added up, and of dates the latest counts.
    fn check_summed(&self, binder: &mut Binder<'_>, kinds: &[Kind]) {
        for (column, kind) in self.columns.iter().zip(kinds) {
            let has_latest = matches!(kind, Kind::Date { time: None, .. });
            if kind.decimals().is_none() && !has_latest {
                let what = format!(
                    "\"{}\" holds {}, which have no sum",
                    column.theirs.value.escape_debug(),
                    kind.word()
                );
                let expected = "columns named under [join.amounts] or [join.numbers], or dates under [join.dates], of which the latest counts";
                binder.mistakes.tell(column.theirs.span.clone(), what, expected);
            }
        }
    }

    /// Our amount that is settled, and their column of what is paid: the one of numbers that is brought. What is paid has no more decimals and no
    /// other currency.
    fn bind_paid(
        &self,
        binder: &mut Binder<'_>,
        theirs: &Binder<'_>,
        (name, (amount, scale)): (&At<String>, (usize, Scale)),
        brought: &[usize],
        ours: &[usize],
    ) -> Option<(usize, Paid)> {
        let numbers: Vec<(usize, u8)> =
            brought.iter().filter_map(|column| Some((*column, theirs.kind(*column).decimals()?))).collect();
        let dates =
            brought.iter().filter(|column| matches!(theirs.kind(**column), Kind::Date { .. })).count();
        let [(column, decimals)] = numbers.as_slice() else {
            let what = format!("{} columns of amounts are brought", numbers.len());
            let expected = "one column of what is paid, and one of the dates on which it was";
            binder.mistakes.tell(name.span.clone(), what, expected);
            return None;
        };
        if dates == 0 {
            let what = "no date is brought that could say when an amount was settled";
            binder.mistakes.tell(name.span.clone(), what, "their column of dates among columns = { … }");
            return None;
        }
        let places = scale.decimals().checked_sub(*decimals);
        let Some(factor) = places.and_then(|places| 10_i128.checked_pow(places.into())) else {
            let what = format!("what is paid has more decimals than \"{}\"", name.value.escape_debug());
            let expected = format!("at most {} decimals", scale.decimals());
            binder.mistakes.tell(name.span.clone(), what, expected);
            return None;
        };
        let currency = binder.currency(amount);
        let is_matched = currency.is_none_or(|currency| ours.contains(&currency));
        if !is_matched || currency.is_some() != theirs.currency(*column).is_some() {
            let what =
                format!("what is paid may be of another currency than \"{}\"", name.value.escape_debug());
            let expected = "both with a currency, or neither, and the currency among match = { … }";
            binder.mistakes.tell(name.span.clone(), what, expected);
            return None;
        }
        Some((amount, Paid { column: *column, factor }))
    }

    /// Amounts that are brought are of the currency that is brought with them; sums of them of that by which their rows are matched.
    fn bind_currencies(
        &self,
        binder: &mut Binder<'_>,
        theirs: &Binder<'_>,
        brought: &[usize],
        (key, ours): (&[usize], &[usize]),
    ) {
        let first = binder.columns.len().saturating_sub(self.columns.len());
        for (nth, (column, joined)) in brought.iter().zip(&self.columns).enumerate() {
            let Some(currency) = theirs.currency(*column) else { continue };
            if self.counting.is_sum() {
                let place = key.iter().position(|theirs| *theirs == currency);
                match (place.and_then(|place| ours.get(place)), binder.columns.get_mut(first + nth)) {
                    (Some(ours), Some(column)) => column.currency = Some(*ours),
                    _ => {
                        let name = theirs.name(currency).escape_debug().to_string();
                        let what =
                            format!("amounts of several currencies of \"{name}\" are not added together");
                        let expected = format!("\"{name}\" among match = {{ … }}");
                        binder.mistakes.tell(joined.theirs.span.clone(), what, expected);
                    }
                }
                continue;
            }
            match brought.iter().position(|other| *other == currency) {
                Some(place) => {
                    if let Some(column) = binder.columns.get_mut(first + nth) {
                        column.currency = Some(first + place);
                    }
                }
                None => {
                    let name = theirs.name(currency).escape_debug().to_string();
                    let what =
                        format!("amounts are brought, and \"{name}\", which names their currency, is not");
                    binder.mistakes.tell(
                        joined.theirs.span.clone(),
                        what,
                        format!("\"{name}\" among columns = […]"),
                    );
                }
            }
        }
    }

    /// A date is never a text, nor a number a date.
    fn check_alike(&self, binder: &mut Binder<'_>, theirs: &mut Binder<'_>, ours: &[usize], key: &[usize]) {
        for (((name, _), ours), key) in self.matches.iter().zip(ours).zip(key) {
            // What one side says are numbers are so on the other, where the format types them.
            if binder.kind(*ours).decimals().is_some() {
                theirs.take_as(*key, NumberUse::Figures);
            } else if theirs.kind(*key).decimals().is_some() {
                binder.take_as(*ours, NumberUse::Figures);
            }
            let (one, other) = (binder.kind(*ours), theirs.kind(*key));
            let have_decimals = |kind: &Kind| kind.decimals();
            let is_like = one.is_like(other) && have_decimals(one) == have_decimals(other);
            if !is_like {
                let what = format!("ours holds {}, theirs {}", in_words(one), in_words(other));
                let expected = "columns that hold the same on both sides: name theirs under [join.dates] or [join.numbers]";
                binder.mistakes.tell(name.span.clone(), what, expected);
            }
        }
    }
}

fn in_words(kind: &Kind) -> String {
    match kind.decimals() {
        Some(1) => format!("{} with 1 decimal", kind.word()),
        Some(decimals) => format!("{} with {decimals} decimals", kind.word()),
        None => kind.word().to_owned(),
    }
}

/// Amounts that are brought are numbers here: one of their rows may match several of our rows, and no proof sums them.
fn brought_kind(kind: &Kind) -> Kind {
    match kind {
        Kind::Date { time, .. } => Kind::Date { source: DateKind::Made, time: *time },
        Kind::Amount { scale } => Kind::Number { decimals: scale.decimals(), figure: None },
        other => other.clone(),
    }
}

fn add_brought(binder: &mut Binder<'_>, ours: &At<String>, kind: Kind, file: &str) {
    let mut name = ours.value.trim();
    if binder.has(name) {
        let what = format!("there is a column \"{}\" already", name.escape_debug());
        let expected = format!(
            "columns = {{ \"a name of its own\" = \"{}\" }}, for that of {file}",
            name.escape_debug()
        );
        binder.mistakes.tell(ours.span.clone(), what, expected);
        name = "";
    }
    binder.add(name.to_owned(), kind);
}

/// The rule with their columns; of a rule of days our date is found by who has our columns.
fn bind_counting(counting: &Counting<At<String>>, theirs: &mut Binder<'_>) -> Option<Counting<usize>> {
    let mut ordered = |name: &At<String>| {
        let column = theirs.find(name)?;
        if matches!(theirs.kind(column), Kind::Date { .. }) || theirs.kind(column).decimals().is_some() {
            return Some(column);
        }
        let what = format!("their \"{}\" holds {}", name.value.escape_debug(), theirs.kind(column).word());
        theirs.mistakes.tell(
            name.span.clone(),
            what,
            "a column of dates or numbers, named under [join.dates] or [join.numbers]",
        );
        None
    };
    Some(match counting {
        Counting::NoneOfThem => Counting::NoneOfThem,
        Counting::Refused => Counting::Refused,
        Counting::First => Counting::First,
        Counting::Last => Counting::Last,
        Counting::Latest(name) => Counting::Latest(ordered(name)?),
        Counting::Earliest(name) => Counting::Earliest(ordered(name)?),
        Counting::Summed(None) => Counting::Summed(None),
        Counting::Summed(Some(dates)) => Counting::Summed(Some(dates_of(theirs, dates)?)),
        Counting::Settling { dates, .. } => Counting::Settling { dates: dates_of(theirs, dates)?, amount: 0 },
        Counting::Valid { from, to, .. } => {
            let (from, to) = (dates_of(theirs, from), dates_of(theirs, to));
            Counting::Valid { from: from?, to: to?, on: 0 }
        }
    })
}

fn dates_of(theirs: &mut Binder<'_>, name: &At<String>) -> Option<usize> {
    let column = theirs.find(name)?;
    if matches!(theirs.kind(column), Kind::Date { .. }) {
        return Some(column);
    }
    let what = format!("their \"{}\" holds {}", name.value.escape_debug(), theirs.kind(column).word());
    theirs.mistakes.tell(name.span.clone(), what, "a column of dates, named under [join.dates]");
    None
}

/// Whether an output would overwrite it, by its place.
impl AsRef<Path> for OtherFile {
    fn as_ref(&self) -> &Path {
        &self.path
    }
}

#[cfg(test)]
mod tests {
    use super::Paid;

    #[test]
    fn an_amount_is_settled_by_the_next_whole_payment_away_from_zero() {
        for (amount, factor) in
            [(0, 100), (1, 100), (100, 100), (101, 100), (-1, 100), (-100, 100), (-250, 100), (7, 1)]
        {
            let settling = Paid { column: 0, factor }.settling(amount);
            let settles = |payment: i128| match amount < 0 {
                true => payment * factor <= amount,
                false => payment * factor >= amount,
            };
            let nearer = if amount < 0 { settling + 1 } else { settling - 1 };
            assert!(settles(settling) && !settles(nearer), "{amount} by {factor}: {settling}");
        }
        assert_eq!(Paid { column: 0, factor: 10 }.settling(i128::MIN), i128::MIN / 10 - 1);
    }
}
