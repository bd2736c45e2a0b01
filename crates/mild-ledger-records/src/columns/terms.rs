//! `terms = "net 30"`: the due date of an invoice under its payment terms, or the last day of its discount.

use super::binder::Binder;
use super::calendar::{CalendarChoice, CalendarInput, read_calendar_choice};
use super::inputs::{DateInput, DateSource, needed_date, or_default, read_reference};
use super::rows::Rows;
use super::why::CellWhy;
use super::{ColumnKind, Planned, Step};
use crate::mistakes::{At, Walk};
use crate::table::{Data, Kind, date_array, date_slice};
use mild_ledger::column::{Column, due_dates};
use mild_ledger::{Date, DateMove, Error, PaymentTerms, Roll, WorkCalendar};
use std::collections::HashMap;
use std::ops::Range;
use toml::de::{DeTable, DeValue};

pub(super) const KIND: ColumnKind = ColumnKind {
    key: "terms",
    gives: "a due date under payment terms, or the last day of a discount",
    companions: &["from", "gives", "roll", "calendar"],
    lines: &["{terms} from {from}", "{gives} of {from} under {terms}", ", {roll} [on {calendar}]"],
    read,
};

/// Which of the two dates of payment terms.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
enum Gives {
    DueDate,
    DiscountDate,
}

/// Where the terms come from.
#[derive(Debug)]
enum TermsSource {
    Every(Box<PaymentTerms>),
    OfRow(At<String>),
}

#[derive(Debug)]
struct PlannedTerms {
    from: At<DateSource>,
    terms: TermsSource,
    gives: Gives,
    roll: Roll,
    calendar: Option<CalendarChoice>,
}

enum TermsInput {
    Every(Box<PaymentTerms>),
    OfRow(usize),
}

struct TermsStep {
    from: DateInput,
    terms: TermsInput,
    gives: Gives,
    roll: Roll,
    calendar: Option<CalendarInput>,
}

fn read(walk: &mut Walk, table: &DeTable, span: Range<usize>) -> Option<Box<dyn Planned>> {
    const TERMS: &str = "terms = \"net 30\", or { column = \"Terms\" }";
    let from = needed_date(walk, table, "from", span.clone());
    let value = walk.needed(table, "terms", span.clone(), TERMS)?;
    let terms = match value.get_ref() {
        DeValue::Table(reference) => {
            let column = read_reference(walk, reference, value)?;
            TermsSource::OfRow(At { value: column, span: value.span() })
        }
        _ => TermsSource::Every(Box::new(walk.parsed(value, TERMS, str::parse)?)),
    };
    let all = [("due date", Gives::DueDate), ("discount date", Gives::DiscountDate)];
    let gives = or_default(table, "gives", Gives::DueDate, |value| walk.choice(value, &all))?;
    if let (TermsSource::Every(terms), Gives::DiscountDate) = (&terms, gives)
        && terms.discount().is_none()
    {
        let what = format!("there is no discount under \"{terms}\"");
        walk.mistakes.tell(value.span(), what, "terms = \"2/10 net 30\" or the like");
        return None;
    }
    let roll =
        or_default(table, "roll", Roll::Unadjusted, |value| walk.choice_of(value, Roll::ALL, Roll::word))?;
    let calendar = match table.get_key_value("calendar") {
        _ if roll != Roll::Unadjusted => Some(read_calendar_choice(walk, table, span)?),
        Some((key, _)) => {
            let what = "nothing here asks for a calendar";
            walk.mistakes.tell(key.span(), what, "roll = \"following\" with it");
            return None;
        }
        None => None,
    };
    Some(Box::new(PlannedTerms { from: from?, terms, gives, roll, calendar }))
}

impl Planned for PlannedTerms {
    fn header(&self) -> Option<String> {
        let what = match self.gives {
            Gives::DueDate => "Due date",
            Gives::DiscountDate => "Discount date",
        };
        let terms = match &self.terms {
            TermsSource::Every(terms) => terms.to_string(),
            TermsSource::OfRow(column) => format!("the terms of {}", column.value),
        };
        let rolled = if self.roll == Roll::Unadjusted { String::new() } else { format!(", {}", self.roll) };
        let calendar = self.calendar.as_ref().map_or_else(String::new, CalendarChoice::said);
        Some(format!("{what} from {} under {terms}{rolled}{calendar}", self.from.value.said()))
    }

    fn uses_as_of(&self) -> bool {
        self.from.value == DateSource::AsOf
    }

    fn stand_in(&self) -> Kind {
        Kind::made_dates()
    }

    fn bind(&self, binder: &mut Binder<'_>) -> Option<(Kind, Box<dyn Step>)> {
        let from = binder.date_input(&self.from);
        let terms = match &self.terms {
            TermsSource::Every(terms) => Some(TermsInput::Every(terms.clone())),
            TermsSource::OfRow(name) => bind_terms(binder, name),
        };
        let calendar = match &self.calendar {
            Some(calendar) => Some(binder.calendar(calendar)?),
            None => None,
        };
        let (gives, roll) = (self.gives, self.roll);
        let step = TermsStep { from: from?, terms: terms?, gives, roll, calendar };
        Some((Kind::made_dates(), Box::new(step)))
    }
}

fn bind_terms(binder: &mut Binder<'_>, name: &At<String>) -> Option<TermsInput> {
    let column = binder.find(name)?;
    if matches!(binder.kind(column), Kind::Text) {
        return Some(TermsInput::OfRow(column));
    }
    let what = format!("\"{}\" holds {}", name.value.escape_debug(), binder.kind(column).word());
    let expected = "payment terms in text, such as \"net 30\"; for numbers of days shift = { column = \"…\", unit = \"days\" }";
    binder.mistakes.tell(name.span.clone(), what, expected);
    None
}

/// The terms of all rows, each text read once.
struct KnownTerms {
    all: Vec<Result<PaymentTerms, Error>>,
    /// For each row the place of its terms, where they are those of a column.
    of_rows: Vec<Option<usize>>,
}

/// What the date of a row is made of.
enum Input<'c> {
    /// It was worked out with those of other rows.
    Known(Date),
    ToWorkOut(Date, Result<PaymentTerms, Error>, Result<Option<&'c WorkCalendar>, Error>),
}

impl TermsStep {
    fn known(&self, rows: &Rows<'_>) -> KnownTerms {
        let mut known = KnownTerms { all: Vec::new(), of_rows: Vec::new() };
        if let TermsInput::OfRow(column) = self.terms {
            let mut places: HashMap<&str, usize, ahash::RandomState> = HashMap::default();
            for row in 0..rows.table.rows {
                let text = rows.table.text(column, row);
                let place = (!text.is_empty()).then(|| {
                    *places.entry(text).or_insert_with(|| {
                        known.all.push(text.parse());
                        known.all.len() - 1
                    })
                });
                known.of_rows.push(place);
            }
        }
        known
    }

    /// The terms of a row; `None` where there are none.
    fn terms_of(&self, known: &KnownTerms, row: usize) -> Option<Result<PaymentTerms, Error>> {
        match &self.terms {
            TermsInput::Every(terms) => Some(Ok(**terms)),
            TermsInput::OfRow(_) => known.all.get((*known.of_rows.get(row)?)?).cloned(),
        }
    }

    /// The due dates of rows that are not rolled, those of the same terms at once, by the row; nothing of rows that have none and of rows that are
    /// worked out one by one.
    fn due_by_terms(&self, rows: &Rows<'_>, known: &KnownTerms) -> Result<Vec<Option<Date>>, Error> {
        let (Gives::DueDate, Roll::Unadjusted, Some(from)) = (self.gives, self.roll, self.from.column())
        else {
            return Ok(Vec::new());
        };
        let Some(Data::Date(issued)) = rows.table.columns.get(from) else { return Ok(Vec::new()) };
        let issued = date_slice(issued)?;
        let mut rows_of: Vec<Vec<usize>> = vec![Vec::new(); known.all.len()];
        for (row, place) in known.of_rows.iter().enumerate() {
            place.and_then(|place| rows_of.get_mut(place)).into_iter().for_each(|rows| rows.push(row));
        }
        let mut all = vec![None; rows.count()];
        for (terms, rows) in known.all.iter().zip(&rows_of) {
            let Ok(terms) = terms else { continue };
            let of_terms: Column<Date> = rows.iter().map(|row| issued.get(*row)).collect();
            for (row, due) in rows.iter().zip(due_dates(&of_terms, terms).iter()) {
                all.get_mut(*row).into_iter().for_each(|date| *date = due);
            }
        }
        Ok(all)
    }

    fn day_of(&self, terms: &PaymentTerms, issued: Date) -> Result<Option<Date>, Error> {
        match self.gives {
            Gives::DueDate => terms.due(issued).map(Some),
            Gives::DiscountDate => terms.discount_date(issued),
        }
    }

    fn rolled(&self, date: Date, calendar: Option<&WorkCalendar>) -> Result<Date, Error> {
        DateMove::default().rolled(self.roll).apply(date, calendar)
    }
}

impl Step for TermsStep {
    fn inputs(&self) -> Vec<usize> {
        let terms = match &self.terms {
            TermsInput::Every(_) => None,
            TermsInput::OfRow(column) => Some(*column),
        };
        let calendar = self.calendar.and_then(CalendarInput::column);
        [self.from.column(), terms, calendar].into_iter().flatten().collect()
    }

    fn work_out(&self, rows: &mut Rows<'_>) -> Result<Data, Error> {
        // The whole column at once, where every row has the same terms.
        if let (TermsInput::Every(terms), Gives::DueDate, Roll::Unadjusted) =
            (&self.terms, self.gives, self.roll)
            && let Some(column) = self.from.column()
            && let Some(Data::Date(dates)) = rows.table.columns.get(column)
        {
            let due = due_dates(date_slice(dates)?, terms);
            rows.list_misses(self.from, &due, |date| terms.due(date));
            return Ok(Data::Date(date_array(due)));
        }
        let known = self.known(rows);
        let by_terms = self.due_by_terms(rows, &known)?;
        let due = rows.each(
            |input| {
                let (issued, terms, calendar) = match input {
                    Input::Known(due) => return Ok(Some(due)),
                    Input::ToWorkOut(issued, terms, calendar) => (issued, terms, calendar),
                };
                let (date, calendar) = (self.day_of(&terms?, issued)?, calendar?);
                // A row whose calendar is blank is not rolled by another one.
                let is_without = self.calendar.is_some() && calendar.is_none();
                date.filter(|_| !is_without).map(|date| self.rolled(date, calendar)).transpose()
            },
            |rows, row| {
                if let Some(due) = by_terms.get(row).copied().flatten() {
                    return Some(Input::Known(due));
                }
                let calendar = match self.calendar {
                    Some(calendar) => rows.calendar(calendar, row),
                    None => Ok(None),
                };
                Some(Input::ToWorkOut(rows.date(self.from, row)?, self.terms_of(&known, row)?, calendar))
            },
        );
        Ok(Data::dates(due.into_iter().map(Option::flatten)))
    }

    fn why(&self, rows: &Rows<'_>, row: usize) -> Option<CellWhy> {
        let terms = match &self.terms {
            TermsInput::Every(terms) => **terms,
            TermsInput::OfRow(column) => rows.table.text(*column, row).parse().ok()?,
        };
        let issued = rows.date(self.from, row)?;
        let calendar = self.calendar.and_then(|calendar| rows.calendar(calendar, row).ok()?);
        let working = match self.gives {
            Gives::DueDate => terms.why_due(issued).ok()?,
            Gives::DiscountDate => terms.why_discount_date(issued).ok()??,
        };
        if self.roll == Roll::Unadjusted {
            return Some(working.into());
        }
        let date = self.day_of(&terms, issued).ok()??;
        let roll = DateMove::default().rolled(self.roll).why(date, calendar).ok()?;
        Some(working.followed_by(roll.working().clone()).into())
    }
}
