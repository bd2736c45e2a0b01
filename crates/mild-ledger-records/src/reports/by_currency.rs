//! A report over amounts of several currencies: made once for each, since they are never added together.

use super::{
    BoundReport, Heading, ProofAgainst, ProofLine, ProofPart, ProofValue, Report, ReportCell, Tally,
    of_one_report,
};
use crate::columns::Binder;
use crate::error::RecordsError;
use crate::handover::{Counts, Saved, Saving};
use crate::table::{Layout, MOST_CURRENCIES, Origins, Table, called, currency_of, too_many_currencies};
use mild_ledger::Decimal;
use std::any::Any;
use std::collections::BTreeMap;
use std::sync::Arc;

/// The report itself where its amounts have no currencies, else one for each of them; what is wrong with them is reported.
pub(crate) fn by_currency(
    report: Box<dyn BoundReport>,
    heading: &Heading,
    binder: &mut Binder<'_>,
) -> Option<Box<dyn BoundReport>> {
    let mut currencies: Vec<usize> =
        report.amounts().into_iter().filter_map(|amount| binder.currency(amount)).collect();
    currencies.sort_unstable();
    currencies.dedup();
    match currencies.as_slice() {
        [] => Some(report),
        [currency] => Some(Box::new(ByCurrency { report: Arc::from(report), currency: *currency })),
        [one, other, ..] => {
            let what = format!(
                "its amounts are of the currencies of \"{}\" and of \"{}\"",
                binder.name(*one).escape_debug(),
                binder.name(*other).escape_debug()
            );
            binder.mistakes.tell(heading.span.clone(), what, "a report for each of the two");
            None
        }
    }
}

struct ByCurrency {
    report: Arc<dyn BoundReport>,
    /// The column that names the currency.
    currency: usize,
}

impl BoundReport for ByCurrency {
    fn amounts(&self) -> Vec<usize> {
        self.report.amounts()
    }

    fn tally(&self) -> Box<dyn Tally> {
        let (report, currency) = (Arc::clone(&self.report), self.currency);
        Box::new(CurrencyTallies { report, currency, tallies: BTreeMap::new() })
    }
}

/// A tally for each currency that a row has.
struct CurrencyTallies {
    report: Arc<dyn BoundReport>,
    currency: usize,
    tallies: BTreeMap<String, Box<dyn Tally>>,
}

impl CurrencyTallies {
    fn of(&mut self, currency: &str, layout: &Layout) -> Result<&mut Box<dyn Tally>, RecordsError> {
        if !self.tallies.contains_key(currency) && self.tallies.len() >= MOST_CURRENCIES {
            return Err(too_many_currencies(layout.name(self.currency)));
        }
        Ok(self.tallies.entry(currency.to_owned()).or_insert_with(|| self.report.tally()))
    }
}

impl Counts for CurrencyTallies {
    fn save(&self, into: &mut Saving) -> Result<(), RecordsError> {
        into.put(&self.tallies.len())?;
        for (currency, tally) in &self.tallies {
            into.put(currency)?;
            tally.save(into)?;
        }
        Ok(())
    }

    fn restore(&mut self, from: &mut Saved<'_>) -> Result<(), RecordsError> {
        self.tallies.clear();
        for _ in 0..from.take::<usize>()? {
            let (currency, mut tally) = (from.take()?, self.report.tally());
            tally.restore(from)?;
            self.tallies.insert(currency, tally);
        }
        Ok(())
    }
}

impl Tally for CurrencyTallies {
    fn add(
        &mut self,
        layout: &Layout,
        table: &Table,
        rows: &[usize],
        origins: &Origins,
    ) -> Result<(), RecordsError> {
        let mut of_currency: BTreeMap<String, Vec<usize>> = BTreeMap::new();
        for row in rows {
            let currency = currency_of(table.text(self.currency, *row));
            match of_currency.get_mut(currency.as_ref()) {
                Some(rows) => rows.push(*row),
                None => {
                    of_currency.insert(currency.into_owned(), vec![*row]);
                }
            }
        }
        for (currency, rows) in of_currency {
            self.of(&currency, layout)?.add(layout, table, &rows, origins)?;
        }
        Ok(())
    }

    fn merge(&mut self, other: Box<dyn Tally>, layout: &Layout) -> Result<(), RecordsError> {
        let other = of_one_report::<Self>(other)?;
        for (currency, tally) in other.tallies {
            self.of(&currency, layout)?.merge(tally, layout)?;
        }
        Ok(())
    }

    fn finish(mut self: Box<Self>, layout: &Layout) -> Result<Report, RecordsError> {
        // A report over nothing is made all the same.
        let Some((first, tally)) = self.tallies.pop_first() else {
            return self.report.tally().finish(layout);
        };
        // A row without a currency comes last.
        let mut tallies = vec![(first, tally)];
        tallies.extend(self.tallies);
        tallies.sort_by(|(one, _), (other, _)| (one.is_empty(), one).cmp(&(other.is_empty(), other)));
        let mut whole: Option<Report> = None;
        for (currency, tally) in tallies {
            let part = of_currency(tally.finish(layout)?, &currency, layout);
            match &mut whole {
                None => whole = Some(part),
                Some(whole) => join(whole, part)?,
            }
        }
        whole.ok_or_else(|| RecordsError::Proof { what: "a report of no currency was made".to_owned() })
    }

    fn into_any(self: Box<Self>) -> Box<dyn Any> {
        self
    }
}

/// The report of one currency, which states that.
fn of_currency(mut report: Report, currency: &str, layout: &Layout) -> Report {
    let name = called(currency);
    for table in &mut report.tables {
        table.title = format!("{}, {name}", table.title);
        table.currency = Some(currency.to_owned());
    }
    report.behind.iter_mut().for_each(|cell| cell.currency = Some(currency.to_owned()));
    report.answer.insert(0, ReportCell::Text(format!("{name} ")));
    for line in &mut report.proof {
        if let ProofAgainst::AmountWritten(column, of) = &mut line.against
            && layout.columns.iter().any(|known| known.name == *column && known.currency.is_some())
        {
            *of = Some(currency.to_owned());
            line.what = format!("{}, {name}", line.what);
            line.whole.name = format!("{} {name}", line.whole.name);
        }
    }
    report.notes.iter_mut().for_each(|note| *note = format!("{name}: {note}"));
    report
}

/// Takes the report of another currency in; lines of a proof that are held against the same are added.
fn join(whole: &mut Report, part: Report) -> Result<(), RecordsError> {
    whole.tables.extend(part.tables);
    whole.behind.extend(part.behind);
    whole.answer.push(ReportCell::Text("; ".to_owned()));
    whole.answer.extend(part.answer);
    whole.notes.extend(part.notes);
    for line in part.proof {
        match whole.proof.iter_mut().find(|known| known.what == line.what && known.against == line.against) {
            Some(known) => {
                add_line(known, &line).ok_or_else(|| RecordsError::too_large_in_all(&line.what))?
            }
            None => whole.proof.push(line),
        }
    }
    Ok(())
}

fn add_line(line: &mut ProofLine, more: &ProofLine) -> Option<()> {
    let add = |part: &mut ProofPart, more: ProofValue| -> Option<()> {
        part.value = match (part.value, more) {
            (ProofValue::Rows(rows), ProofValue::Rows(more)) => ProofValue::Rows(rows.checked_add(more)?),
            (ProofValue::Amount(amount), ProofValue::Amount(more)) => {
                ProofValue::Amount(Decimal::checked_add(amount, more)?)
            }
            _ => return None,
        };
        Some(())
    };
    add(&mut line.whole, more.whole.value)?;
    for part in &more.parts {
        match line.parts.iter_mut().find(|known| known.name == part.name) {
            Some(known) => add(known, part.value)?,
            None => line.parts.push(part.clone()),
        }
    }
    Some(())
}
