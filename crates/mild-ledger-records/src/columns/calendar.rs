//! The calendars of a plan: opened once, and found by the columns that count by them.

use super::binder::{Binder, BoundCalendar, CalendarMet, CalendarPart};
use super::inputs::read_reference;
use super::rows::Rows;
use crate::calendars::{
    CalendarRequest, YearsByRule, open_calendar, open_source, read_rest_days, read_years,
};
use crate::error::RecordsError;
use crate::mistakes::{At, Expected, Keys, PlanMistakes, Value, Walk, in_quotes, nearest, read_date};
use crate::table::{Kind, Table};
use mild_ledger::{CalendarYears, Date, Error, ErrorKind, HalfDays, RestDays, WorkCalendar};
use std::ops::Range;
use toml::de::{DeTable, DeValue};

/// A calendar of working days that the plan names.
#[derive(Debug)]
pub(crate) struct PlannedCalendar {
    pub(crate) name: At<String>,
    rest_days: Option<RestDays>,
    covers: Option<CalendarYears>,
    /// Names of calendars that ship, and files.
    sources: Vec<At<String>>,
    dates: Vec<Date>,
    half_days: HalfDays,
    /// Other calendars of the plan by which it is counted too, to tell how many figures would differ.
    beside: Vec<At<String>>,
}

/// Which calendar a column counts by.
#[derive(Debug)]
pub(super) enum CalendarChoice {
    /// The plan's only one.
    TheOnlyOne(Range<usize>),
    Named(At<String>),
    /// The one that a column of each row names.
    OfRow(At<String>),
}

/// The calendar of a row, by its number among the plan's.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) enum CalendarInput {
    Every(usize),
    NamedBy(usize),
}

pub(crate) const CALENDAR: Keys<'static> = Keys {
    part: "[calendar.…]",
    known: &["rest_days", "covers", "holidays", "half_days", "beside"],
    later: &[],
};

/// `[calendar.yard]` and its like.
pub(crate) fn read_calendar(walk: &mut Walk, name: At<String>, value: &Value<'_>) -> Option<PlannedCalendar> {
    const EXPECTED: &str = "a list of files, of calendars that ship, and of dates";
    let table = walk.table(value, "a table with rest_days, covers and holidays")?;
    walk.check_keys(table, &CALENDAR);
    let rest_days = match table.get("rest_days") {
        Some(value) => Some(read_rest_days(walk, value)?),
        None => None,
    };
    let covers = match table.get("covers") {
        Some(value) => Some(read_years(walk, value)?),
        None => None,
    };
    let half_days = match table.get("half_days") {
        Some(value) => walk.choice_of(value, &HalfDays::ALL, HalfDays::word)?,
        None => HalfDays::Open,
    };
    let beside = match table.get("beside") {
        Some(value) => walk.texts(value, "names of other calendars of the plan")?,
        None => Vec::new(),
    };
    let (mut sources, mut dates) = (Vec::new(), Vec::new());
    if let Some(value) = table.get("holidays") {
        let items = match value.get_ref() {
            DeValue::Array(items) => items.iter().collect(),
            _ => vec![value],
        };
        for item in items {
            match item.get_ref() {
                DeValue::Datetime(_) => dates.push(read_date(walk, item, EXPECTED)?),
                _ => sources.push(walk.text(item, EXPECTED)?),
            }
        }
    }
    Some(PlannedCalendar { name, rest_days, covers, sources, dates, half_days, beside })
}

/// `calendar = "yard"`, `{ column = "Site" }`, or nothing where the plan has one.
pub(super) fn read_calendar_choice(
    walk: &mut Walk,
    table: &DeTable,
    span: Range<usize>,
) -> Option<CalendarChoice> {
    let Some(value) = table.get("calendar") else { return Some(CalendarChoice::TheOnlyOne(span)) };
    match value.get_ref() {
        DeValue::Table(reference) => {
            let column = read_reference(walk, reference, value)?;
            Some(CalendarChoice::OfRow(At { value: column, span: value.span() }))
        }
        _ => walk.text(value, "the name of a calendar, or { column = \"…\" }").map(CalendarChoice::Named),
    }
}

impl CalendarChoice {
    /// Where the plan names it.
    pub(super) fn place(&self) -> Option<&Range<usize>> {
        match self {
            Self::TheOnlyOne(_) => None,
            Self::Named(name) | Self::OfRow(name) => Some(&name.span),
        }
    }

    /// In words, for a header: nothing for the plan's only one.
    pub(super) fn said(&self) -> String {
        match self {
            Self::TheOnlyOne(_) => String::new(),
            Self::Named(name) => format!(" ({})", name.value),
            Self::OfRow(column) => format!(" (calendar of {})", column.value),
        }
    }
}

impl CalendarInput {
    /// The column that it looks at, if there is one.
    pub(super) fn column(self) -> Option<usize> {
        match self {
            Self::Every(_) => None,
            Self::NamedBy(column) => Some(column),
        }
    }
}

/// A calendar that figures are counted by and of which some years are by rule.
#[derive(Debug, Clone)]
pub(crate) struct CalendarByRule {
    pub(crate) years: YearsByRule,
    /// The column whose rows name it, where not all rows go by it.
    named_by: Option<usize>,
}

impl CalendarByRule {
    /// Whether a row goes by it.
    pub(crate) fn is_of(&self, table: &Table, row: usize) -> bool {
        self.named_by.is_none_or(|names| table.text(names, row) == self.years.calendar())
    }
}

impl Binder<'_> {
    /// Opens the plan's calendars, and notes what each of them covers.
    pub(crate) fn open_calendars(&mut self, planned: &[PlannedCalendar]) {
        for planned in planned {
            let name = planned.name.value.clone();
            // Files are next to the plan; names of calendars that ship are not files.
            let source = |source: &At<String>| match mild_ledger_calendars::named(&source.value) {
                Some(_) => source.value.clone(),
                None => self.folder.join(&source.value).display().to_string(),
            };
            let request = CalendarRequest {
                sources: planned.sources.iter().map(source).collect(),
                rest_days: planned.rest_days,
                holidays: planned.dates.clone(),
                covers: planned.covers,
                half_days: planned.half_days,
                asked: None,
            };
            match open_calendar(&request) {
                Ok(opened) => {
                    let warnings = opened.warnings().iter();
                    self.notes.extend(warnings.map(|warning| format!("calendar \"{name}\": {warning}")));
                    let (beside, part) = (Vec::new(), CalendarPart::CountedBy);
                    self.calendars.push(BoundCalendar { name, opened, is_used: false, beside, part });
                }
                Err(error) => {
                    // A source that cannot be opened by itself is the one to point at.
                    let broken = planned.sources.iter().find(|named| open_source(&source(named)).is_err());
                    let place = broken.map_or(&planned.name.span, |source| &source.span);
                    let (what, expected) = match &error {
                        RecordsError::Calendar(mistakes) => {
                            (first_of(mistakes), "a calendar without mistakes".to_owned())
                        }
                        RecordsError::Request { what, help } => (what.clone(), help.clone()),
                        other => (other.to_string(), "a calendar that can be read".to_owned()),
                    };
                    self.mistakes.tell(place.clone(), what, expected);
                    self.calendars_in_error.push(name);
                }
            }
        }
    }

    /// Finds the calendars that are next to others, once all are opened.
    pub(crate) fn find_calendars_beside(&mut self, planned: &[PlannedCalendar]) {
        for own in planned {
            let Some(nth) = self.calendars.iter().position(|known| known.name == own.name.value) else {
                continue;
            };
            for beside in &own.beside {
                match self.calendars.iter().position(|known| known.name == beside.value) {
                    Some(other) if other != nth => {
                        self.calendars[nth].beside.push(other);
                        self.calendars[other].part = CalendarPart::Beside;
                    }
                    None if self.calendars_in_error.contains(&beside.value) => {}
                    _ => {
                        let others = self.calendars.iter().map(|known| known.name.as_str());
                        let others = in_quotes(others.filter(|name| *name != own.name.value));
                        let what = format!(
                            "\"{}\" is not another calendar of the plan",
                            beside.value.escape_debug()
                        );
                        self.mistakes.tell(
                            beside.span.clone(),
                            what,
                            format!("another under [calendar.…]: {others}"),
                        );
                    }
                }
            }
        }
    }

    /// The only calendar that columns may mean without naming it: those that are only next to others are not meant.
    fn the_only_calendar(&self) -> Option<usize> {
        let mut meant =
            self.calendars.iter().enumerate().filter(|(_, known)| known.part == CalendarPart::CountedBy);
        match (meant.next(), meant.next(), self.calendars.len()) {
            (Some((only, _)), None, _) => Some(only),
            _ => None,
        }
    }

    /// A calendar for what knows whole days alone, to which half days that count half are working days: that is reported.
    pub(super) fn calendar(&mut self, choice: &CalendarChoice) -> Option<CalendarInput> {
        let found = self.calendar_with_halves(choice)?;
        for known in self.halved_calendars(found) {
            let note = format!(
                "calendar \"{known}\": half days count half in columns of working days, and are working days elsewhere"
            );
            if !self.notes.contains(&note) {
                self.notes.push(note);
            }
        }
        Some(found)
    }

    /// The names of those calendars that a column may go by which count half days half.
    pub(super) fn halved_calendars(&self, calendar: CalendarInput) -> Vec<String> {
        let may_be_meant = |nth: usize| match calendar {
            CalendarInput::Every(every) => nth == every,
            CalendarInput::NamedBy(_) => true,
        };
        let known = self.calendars.iter().enumerate().filter(|(nth, _)| may_be_meant(*nth));
        let halved = known.filter(|(_, known)| known.opened.calendar().half_days_as() == HalfDays::Half);
        halved.map(|(_, known)| known.name.clone()).collect()
    }

    /// A calendar for what counts half days as the calendar does.
    pub(super) fn calendar_with_halves(&mut self, choice: &CalendarChoice) -> Option<CalendarInput> {
        match choice {
            CalendarChoice::Named(name) => {
                match self.calendars.iter().position(|known| known.name == name.value) {
                    Some(nth) => return Some(self.use_calendar(nth)),
                    None if self.calendars_in_error.contains(&name.value) => return None,
                    None => {}
                }
                let names = || self.calendars.iter().map(|known| known.name.as_str());
                let help = nearest(&name.value, names()).map(|near| format!("nearest: \"{near}\""));
                let name_shown = name.value.escape_debug();
                let what = format!("the plan has no [calendar.{name_shown}]");
                let expected = match names().next() {
                    Some(_) => Expected::Words(in_quotes(names())),
                    None => Expected::from(format!("[calendar.{name_shown}] with holidays = [ … ]")),
                };
                self.mistakes.tell_with_help(name.span.clone(), what, expected, help);
                None
            }
            CalendarChoice::OfRow(column) => {
                let nth = self.find(column)?;
                if matches!(self.kind(nth), Kind::Text) {
                    self.calendars.iter_mut().for_each(|calendar| calendar.is_used = true);
                    for other in 0..self.calendars.len() {
                        self.meet(CalendarMet { nth: other, named_by: Some(nth) });
                    }
                    return Some(CalendarInput::NamedBy(nth));
                }
                let what =
                    format!("\"{}\" holds {}, not names", column.value.escape_debug(), self.kind(nth).word());
                self.mistakes.tell(column.span.clone(), what, "a column of names of calendars");
                None
            }
            CalendarChoice::TheOnlyOne(_) if self.the_only_calendar().is_some() => self.only_calendar(),
            CalendarChoice::TheOnlyOne(_) if !self.calendars_in_error.is_empty() => None,
            CalendarChoice::TheOnlyOne(span) => {
                let what = match self.calendars.len() {
                    0 => "working days want a calendar, and the plan has none",
                    _ => "the plan has several calendars, and this column names none",
                };
                self.mistakes.tell(
                    span.clone(),
                    what,
                    "calendar = \"yard\", with [calendar.yard] in the plan",
                );
                None
            }
        }
    }

    /// The plan's only calendar, where it has just one.
    pub(super) fn only_calendar(&mut self) -> Option<CalendarInput> {
        self.the_only_calendar().map(|nth| self.use_calendar(nth))
    }

    /// The calendar that all rows go by.
    pub(super) fn opened_calendar(&self, calendar: CalendarInput) -> Option<&WorkCalendar> {
        match calendar {
            CalendarInput::Every(nth) => self.calendars.get(nth).map(|known| known.opened.calendar()),
            CalendarInput::NamedBy(_) => None,
        }
    }

    fn use_calendar(&mut self, nth: usize) -> CalendarInput {
        if let Some((_, other)) = self.calendar_instead.filter(|(own, _)| *own == nth) {
            return CalendarInput::Every(other);
        }
        self.calendars[nth].is_used = true;
        self.meet(CalendarMet { nth, named_by: None });
        CalendarInput::Every(nth)
    }

    /// Binds something, and gives the calendars that it met.
    pub(crate) fn meeting_calendars<R>(
        &mut self,
        bind: impl FnOnce(&mut Self) -> R,
    ) -> (R, Vec<CalendarMet>) {
        let before = std::mem::take(&mut self.calendars_met);
        let bound = bind(self);
        (bound, std::mem::replace(&mut self.calendars_met, before))
    }

    /// Those calendars of which some years are by rule.
    pub(crate) fn by_rule(&self, met: &[CalendarMet]) -> Vec<CalendarByRule> {
        let of_calendar = |met: &CalendarMet| {
            let known = self.calendars.get(met.nth)?;
            let years = YearsByRule::of(&known.name, known.opened.calendar())?;
            Some(CalendarByRule { years, named_by: met.named_by })
        };
        met.iter().filter_map(of_calendar).collect()
    }

    /// Notes a calendar once, however often a column asks for it.
    fn meet(&mut self, met: CalendarMet) {
        if !self.calendars_met.contains(&met) {
            self.calendars_met.push(met);
        }
    }

    /// Binds something to which one calendar represents another.
    pub(crate) fn with_calendar_instead<R>(
        &mut self,
        own: usize,
        other: usize,
        bind: impl FnOnce(&mut Self) -> R,
    ) -> R {
        self.calendar_instead = Some((own, other));
        let bound = bind(self);
        self.calendar_instead = None;
        bound
    }

    pub(super) fn calendar_words(&self, calendar: CalendarInput) -> String {
        match calendar {
            CalendarInput::Every(nth) => {
                self.calendars.get(nth).map_or_else(String::new, |known| known.name.clone())
            }
            CalendarInput::NamedBy(column) => format!("the calendar of \"{}\"", self.name(column)),
        }
    }
}

/// The first mistake of a calendar file, with its line.
fn first_of(mistakes: &PlanMistakes) -> String {
    let place = mistakes.mistakes().first().map(|mistake| (mistakes.place_of(mistake), mistake.what()));
    let more = mistakes.mistakes().len().saturating_sub(1);
    let more = if more == 0 { String::new() } else { format!(" (and {more} more)") };
    place.map_or_else(String::new, |((line, column), what)| {
        format!("{}, line {line}, column {column}: {what}{more}", mistakes.file().display())
    })
}

impl<'r> Rows<'r> {
    /// The calendar of a row; `None` where the column that names it is blank.
    pub(super) fn calendar(
        &self,
        calendar: CalendarInput,
        row: usize,
    ) -> Result<Option<&'r WorkCalendar>, Error> {
        let calendars = &self.setting.calendars;
        match calendar {
            CalendarInput::Every(nth) => Ok(calendars.get(nth).map(|known| known.opened.calendar())),
            CalendarInput::NamedBy(column) => match self.table.text(column, row) {
                "" => Ok(None),
                name => match calendars.iter().find(|known| known.name == name) {
                    Some(known) => Ok(Some(known.opened.calendar())),
                    None => {
                        let known = || calendars.iter().map(|known| known.name.as_str());
                        let near = nearest(name, known())
                            .map_or_else(String::new, |near| format!(", perhaps {near}"));
                        let names: Vec<&str> = known().collect();
                        let what = format!("there is no \"{}\"", name.escape_debug());
                        let allowed = format!("{}{near}", names.join(", "));
                        Err(Error::new(ErrorKind::Unreadable, what, allowed))
                    }
                },
            },
        }
    }
}
