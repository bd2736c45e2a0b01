//! Names become column numbers, and the mistakes that only the header shows are found.

use super::Step;
use super::inputs::{AS_OF, AsOfDate, DateInput, DateSource, NumberInput, NumberSource};
use super::typed_numbers::{NumberUse, TypedNumbers};
use crate::calendars::OpenedCalendar;
use crate::mistakes::{At, Expected, Mistakes, in_quotes, nearest, nearest_words};
use crate::source::{Stop, UnreadColumn};
use crate::table::{Column, Kind, Presentation};
use mild_ledger::{Date, DateRange, DateTime, HoursOf, NamedWindow};
use std::collections::HashMap;
use std::ops::Range;

/// Mistakes of names for which near ones are looked for; a plan with more has another fault.
const MOST_LOOKED_UP: usize = 25;

/// What a plan is bound to.
pub(crate) struct Binder<'p> {
    as_of: Option<AsOfDate>,
    as_of_of_the_run: Option<AsOfDate>,
    /// What names represent where they are seen from other dates.
    scopes: Vec<Scope>,
    /// That from which they are seen now; none is the as-of date of the run.
    within: Option<usize>,
    pub(crate) columns: Vec<Column>,
    by_name: HashMap<String, Vec<usize>>,
    pub(crate) columns_of_file: usize,
    pub(crate) calendars: Vec<BoundCalendar>,
    /// Names of calendars with mistakes, which are reported once.
    pub(crate) calendars_in_error: Vec<String>,
    /// Those that were met by what is bound now.
    pub(super) calendars_met: Vec<CalendarMet>,
    /// A calendar, and the one that represents it while a column is bound once more.
    pub(super) calendar_instead: Option<(usize, usize)>,
    pub(crate) mistakes: Mistakes,
    /// What named stretches of days were resolved to, and what was noticed.
    pub(crate) notes: Vec<String>,
    /// The folder that the plan's paths start from.
    pub(crate) folder: &'p std::path::Path,
    /// Whether people may open a figure of a report to its rows.
    pub(crate) figures: Figures,
    /// How columns that only reports look at are worked out, after all others and in their order.
    pub(crate) hidden_steps: Vec<Box<dyn Step>>,
    /// Columns that the format types as numbers and the plan uses so.
    pub(crate) typed_numbers: TypedNumbers,
    /// Asked where the run is interrupted, for second files.
    pub(crate) stop: Stop,
    /// The columns that rows are written with, which a list without columns of its own shows.
    pub(crate) written_columns: Vec<usize>,
    /// How numbers and dates are shown to people.
    pub(crate) presentation: Presentation,
    /// Columns of the file that are left out, since nothing here has values of their type.
    pub(crate) unread: Vec<UnreadColumn>,
}

/// What names represent, seen from a date.
struct Scope {
    from: Date,
    as_of: Option<AsOfDate>,
    by_name: HashMap<String, Vec<usize>>,
}

/// Whether the figures of reports can be opened to their rows.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(crate) enum Figures {
    /// There is a report for people that opens them.
    Opened,
    Closed,
}

/// A calendar of the plan.
pub(crate) struct BoundCalendar {
    pub(crate) name: String,
    pub(crate) opened: OpenedCalendar,
    /// Whether a column counts by it.
    pub(crate) is_used: bool,
    /// The calendars by which its figures are worked out too, to tell how many would differ.
    pub(crate) beside: Vec<usize>,
    pub(crate) part: CalendarPart,
}

/// A calendar that a column was bound to.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(crate) struct CalendarMet {
    pub(crate) nth: usize,
    /// The column whose rows name it, where not all rows go by it.
    pub(crate) named_by: Option<usize>,
}

/// What a calendar is to its plan.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(crate) enum CalendarPart {
    /// Columns count by it.
    CountedBy,
    /// It is next to another, and columns that mean it name it.
    Beside,
}

impl<'p> Binder<'p> {
    pub(crate) fn new(as_of: Option<AsOfDate>, header: &[String], folder: &'p std::path::Path) -> Self {
        let mut binder = Self {
            as_of,
            as_of_of_the_run: as_of,
            scopes: Vec::new(),
            within: None,
            columns: Vec::new(),
            by_name: HashMap::new(),
            columns_of_file: header.len(),
            calendars: Vec::new(),
            calendars_in_error: Vec::new(),
            calendars_met: Vec::new(),
            calendar_instead: None,
            mistakes: Mistakes::default(),
            notes: Vec::new(),
            folder,
            figures: Figures::Closed,
            hidden_steps: Vec::new(),
            typed_numbers: TypedNumbers::default(),
            stop: Stop::default(),
            written_columns: Vec::new(),
            unread: Vec::new(),
            presentation: Presentation::default(),
        };
        header.iter().for_each(|name| binder.add(name.clone(), Kind::Text));
        binder
    }

    /// Takes a column into account from here on.
    pub(crate) fn add(&mut self, name: String, kind: Kind) {
        self.by_name.entry(name.clone()).or_default().push(self.columns.len());
        self.columns.push(Column { name, kind, currency: None, typed: None });
    }

    /// Takes a column into account that no name represents, and gives its number.
    pub(crate) fn add_unnamed(&mut self, name: String, kind: Kind) -> usize {
        self.columns.push(Column { name, kind, currency: None, typed: None });
        self.columns.len() - 1
    }

    pub(crate) fn has(&self, name: &str) -> bool {
        self.by_name.contains_key(name)
    }

    /// The as-of date of the run, from wherever its columns are seen.
    pub(crate) fn as_of_of_the_run(&self) -> Option<AsOfDate> {
        self.as_of_of_the_run
    }

    /// From here on names may be seen from this date too; so far they represent what they do now.
    pub(crate) fn open_scope(&mut self, from: Date) {
        // A time of day of the as-of date is that of the other one too.
        let time = self.as_of.and_then(|as_of| as_of.at).map(DateTime::time);
        let as_of = Some(AsOfDate { date: from, at: time.map(|time| DateTime::new(from, time)) });
        self.scopes.push(Scope { from, as_of, by_name: self.by_name.clone() });
    }

    /// What is bound here goes by that date instead of the as-of date, if names may be seen from it.
    pub(crate) fn seen_from<R>(&mut self, from: Date, bind: impl FnOnce(&mut Self) -> R) -> R {
        let (before, notes) = (self.within, self.notes.len());
        let scope = self.scopes.iter().position(|scope| scope.from == from);
        let is_of_the_run = self.as_of_of_the_run.is_some_and(|as_of| as_of.date == from);
        if scope.is_some() || is_of_the_run {
            self.look_from(scope);
        }
        let bound = bind(self);
        self.look_from(before);
        // What is noticed from there was noticed from the as-of date.
        if scope.is_some() {
            self.notes.truncate(notes);
        }
        bound
    }

    fn look_from(&mut self, scope: Option<usize>) {
        for nth in [self.within, scope].into_iter().flatten() {
            if let Some(scope) = self.scopes.get_mut(nth) {
                std::mem::swap(&mut self.as_of, &mut scope.as_of);
                std::mem::swap(&mut self.by_name, &mut scope.by_name);
            }
        }
        self.within = scope;
    }

    /// The name represents nothing from here on; for what it represented is returned, to be put back by [`Binder::name_again`].
    pub(crate) fn forget_name(&mut self, name: &str) -> Option<Vec<usize>> {
        self.by_name.remove(name)
    }

    pub(crate) fn name_again(&mut self, name: &str, stood_for: Option<Vec<usize>>) {
        match stood_for {
            Some(columns) => self.by_name.insert(name.to_owned(), columns),
            None => self.by_name.remove(name),
        };
    }

    /// The as-of date, if there is one.
    pub(crate) fn known_as_of(&self) -> Option<AsOfDate> {
        self.as_of
    }

    /// The as-of date, which a plan need not state unless something in it asks for it.
    pub(crate) fn as_of(&mut self, span: &Range<usize>) -> Option<AsOfDate> {
        if self.as_of.is_none() {
            let what = "this needs an as-of date, and the plan states none";
            let expected =
                "as_of = 2026-09-30 (or \"today\", \"end of last month\" …) at the top, or --as-of DATE";
            self.mistakes.tell(span.clone(), what, expected);
        }
        self.as_of
    }

    pub(crate) fn kind(&self, column: usize) -> &Kind {
        self.columns.get(column).map_or(&Kind::Text, |column| &column.kind)
    }

    /// The column that names the currency of a column's amounts, where it has one.
    pub(crate) fn currency(&self, column: usize) -> Option<usize> {
        self.columns.get(column)?.currency
    }

    /// The number of the column with a name, which something goes by.
    pub(crate) fn find(&mut self, name: &At<String>) -> Option<usize> {
        let column = self.find_to_write(name)?;
        self.typed_numbers.note_use(column);
        Some(column)
    }

    /// The number of the column with a name, which is written and no more.
    pub(crate) fn find_to_write(&mut self, name: &At<String>) -> Option<usize> {
        let wanted = name.value.trim();
        match self.by_name.get(wanted).map(Vec::as_slice) {
            Some([one]) => return Some(*one),
            Some([first, second, ..]) => {
                let what = format!(
                    "the header names \"{}\" twice, as columns {} and {}",
                    wanted.escape_debug(),
                    first + 1,
                    second + 1
                );
                self.mistakes.tell(name.span.clone(), what, "a name that one column alone has");
                return None;
            }
            _ => {}
        }
        // A header of several lines may be named with spaces between its words.
        let words = |name: &str| name.split_whitespace().map(str::to_owned).collect::<Vec<_>>();
        let wanted_words = words(wanted);
        let mut same = (0..self.columns.len()).filter(|nth| {
            let name = &self.columns[*nth].name;
            !wanted_words.is_empty() && name.contains(char::is_whitespace) && words(name) == wanted_words
        });
        if let (Some(column), None) = (same.next(), same.next()) {
            return Some(column);
        }
        if let Some(column) = self.unread.iter().find(|column| column.name == wanted) {
            let what =
                format!("the column \"{}\" holds {}, which is not read", wanted.escape_debug(), column.holds);
            self.mistakes.tell(name.span.clone(), what, "a column of texts, numbers, dates or times");
            return None;
        }
        let what = format!("there is no column \"{}\"", wanted.escape_debug());
        if self.mistakes.count() > MOST_LOOKED_UP {
            self.mistakes.tell_of_missing(name.span.clone(), wanted, what, "the name of a column", None);
            return None;
        }
        let names = || self.columns.iter().map(|column| column.name.as_str()).filter(|name| !name.is_empty());
        let help = match wanted.to_lowercase().as_str() {
            "today" | "as of" | "as_of" | "asof" => Some(format!("write \"{AS_OF}\" for the as-of date")),
            turned if turned.ends_with(" desc") || turned.ends_with(" asc") => {
                let (column, direction) = wanted.rsplit_once(' ').unwrap_or((wanted, ""));
                let first =
                    if direction.eq_ignore_ascii_case("desc") { "largest first" } else { "smallest first" };
                Some(format!("an order has a comma: \"{}, {first}\"", column.escape_debug()))
            }
            _ => nearest(wanted, names()).map(|near| format!("nearest: \"{}\"", near.escape_debug())),
        };
        let (near, more) = nearest_words(wanted, names());
        let shown: Vec<String> = near.into_iter().map(shortened).collect();
        let names = in_quotes(shown.iter().map(String::as_str));
        let expected = Expected::Words(format!("{names}{}", if more { " …" } else { "" }));
        self.mistakes.tell_of_missing(name.span.clone(), wanted, what, expected, help);
        None
    }

    /// A column that must hold dates.
    pub(crate) fn find_dates(&mut self, name: &At<String>) -> Option<usize> {
        let column = self.find(name)?;
        if matches!(self.kind(column), Kind::Date { .. }) {
            return Some(column);
        }
        let shown = name.value.escape_debug().to_string();
        let what = format!("\"{shown}\" holds {}, not dates", self.kind(column).word());
        let is_of_file = column < self.columns_of_file;
        let help = (is_of_file && matches!(self.kind(column), Kind::Text)).then(|| {
            format!("say how its dates are written: under [records.dates], \"{shown}\" = \"day/month/year\"")
        });
        self.mistakes.tell_with_help(name.span.clone(), what, "a column of dates", help);
        None
    }

    /// A column of amounts or numbers, and its decimals.
    pub(crate) fn find_number(&mut self, name: &At<String>) -> Option<(usize, u8)> {
        let column = self.find(name)?;
        self.take_as(column, NumberUse::Figures);
        if let Some(decimals) = self.kind(column).decimals() {
            return Some((column, decimals));
        }
        let shown = name.value.escape_debug().to_string();
        let what = format!("\"{shown}\" holds {}, not numbers", self.kind(column).word());
        let is_of_file = column < self.columns_of_file;
        let help = match self.kind(column) {
            Kind::Date { .. } => {
                Some("between = [\"…\", \"…\"] counts the time between two dates".to_owned())
            }
            Kind::Text if is_of_file => {
                Some(format!("name its decimals: under [records.amounts], \"{shown}\" = {{ decimals = 2 }}"))
            }
            _ => None,
        };
        self.mistakes.tell_with_help(name.span.clone(), what, "a column of amounts or numbers", help);
        None
    }

    /// What the times of day of an input are, where it keeps them.
    pub(crate) fn time_of(&self, input: DateInput) -> Option<HoursOf> {
        match input {
            DateInput::Every(as_of) => as_of.at.map(|_| HoursOf::Clock),
            DateInput::Column(column) => match self.kind(column) {
                Kind::Date { time, .. } => *time,
                _ => None,
            },
        }
    }

    /// A stretch of days seen from the as-of date, noted as the dates that it came to.
    pub(crate) fn window(
        &mut self,
        window: &NamedWindow,
        span: &Range<usize>,
        of: &str,
    ) -> Option<DateRange> {
        match window.seen_from(self.as_of(span)?.date) {
            Ok(days) => {
                let shown = &self.presentation;
                let (first, last) = (shown.date(days.first()), shown.date(days.last()));
                let note = format!("{of}within {window}: {first} to {last}");
                if !self.notes.contains(&note) {
                    self.notes.push(note);
                }
                Some(days)
            }
            Err(error) => {
                self.mistakes.tell(span.clone(), error.what(), error.allowed());
                None
            }
        }
    }

    /// The column's name, or a word for it, in a message.
    pub(crate) fn name(&self, column: usize) -> &str {
        self.columns.get(column).map_or("", |column| &column.name)
    }
}

/// A header as far as a message needs it.
fn shortened(name: &str) -> String {
    const MOST: usize = 60;
    match name.char_indices().nth(MOST) {
        Some((end, _)) => format!("{}…", name.get(..end).unwrap_or(name)),
        None => name.to_owned(),
    }
}

impl Binder<'_> {
    /// A date as a plan says it, bound to its column.
    pub(crate) fn date_input(&mut self, source: &At<DateSource>) -> Option<DateInput> {
        match &source.value {
            DateSource::AsOf => self.as_of(&source.span).map(DateInput::Every),
            DateSource::Date(date) => Some(DateInput::every(*date)),
            DateSource::Column(name) => {
                let name = At { value: name.clone(), span: source.span.clone() };
                self.find_dates(&name).map(DateInput::Column)
            }
        }
    }

    /// A number as a plan says it, and its decimals.
    pub(crate) fn number_input(&mut self, source: &At<NumberSource>) -> Option<(NumberInput, u8)> {
        match &source.value {
            NumberSource::Number(number) => Some((NumberInput::Number(*number), number.decimals())),
            NumberSource::Column(name) => {
                let name = At { value: name.clone(), span: source.span.clone() };
                self.find_number(&name).map(|(column, decimals)| (NumberInput::Column(column), decimals))
            }
        }
    }
}
