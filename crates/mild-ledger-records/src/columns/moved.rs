//! `from = DATE`: a date so far from another, then to an edge of its period, to a weekday, rolled to a working day.

use super::binder::Binder;
use super::calendar::{CalendarChoice, CalendarInput, read_calendar_choice};
use super::inputs::{DateInput, DateSource, needed_date, or_default};
use super::period_rules::read_period_rules;
use super::rows::{Moment, Rows};
use super::why::{CellWhy, CountedDays, LeadTo};
use super::{ColumnKind, Planned, Step};
use crate::mistakes::{At, Keys, Value, Walk};
use crate::table::{Data, DateKind, Kind, date_array, date_slice};
use crate::zones::{Zone, ZoneError};
use mild_ledger::column::shifted;
use mild_ledger::{
    Date, DateMove, DateTime, Error, ErrorKind, HoursOf, MonthEnd, PeriodEdge, Roll, Shift, Unit,
    WeekdayMove, WorkCalendar, Working,
};
use std::ops::Range;
use toml::de::{DeTable, DeValue};

pub(super) const KIND: ColumnKind = ColumnKind {
    key: "from",
    gives: "a date moved from another, to an end of its period, a weekday or a working day",
    companions: &[
        "shift",
        "month_end",
        "to",
        "fiscal_year_begins",
        "fiscal_named",
        "week_years",
        "weeks_begin",
        "weekday",
        "roll",
        "calendar",
    ],
    lines: &[
        "{from} + {shift} [on {calendar}]",
        "{from} - {shift:back} [on {calendar}]",
        "{shift} after {from} [on {calendar}]",
        "{shift:back} before {from} [on {calendar}]",
        "{to} of {from}",
        "{weekday} from {from}",
        "{from} rolled {roll} [on {calendar}]",
        ", {to}",
        ", {weekday}",
        ", {roll} [on {calendar}]",
    ],
    read,
};

const SHIFT_BY: Keys<'static> =
    Keys { part: "an amount of time from a column", known: &["column", "unit", "back"], later: &[] };

/// Where the amount of a move comes from.
#[derive(Debug)]
enum ShiftSource {
    Every(At<Shift>),
    /// Whole numbers of a unit.
    NumberOf {
        column: At<String>,
        unit: ShiftUnit,
        direction: Direction,
    },
    /// Amounts such as "30 days" in text.
    Text {
        column: At<String>,
        direction: Direction,
    },
}

/// Which way the amounts of a column go.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
enum Direction {
    On,
    Back,
}

/// What the numbers of a column are.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
enum ShiftUnit {
    Calendar(Unit),
    WorkingDay,
}

#[derive(Debug)]
struct PlannedMove {
    from: At<DateSource>,
    shift: Option<ShiftSource>,
    month_end: MonthEnd,
    edge: Option<PeriodEdge>,
    weekday: Option<WeekdayMove>,
    roll: Roll,
    times: TimesOf,
    /// The calendar that a move of every row needs, or that a text may need.
    calendar: Option<CalendarChoice>,
}

/// What becomes of the times of a column that keeps them.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
enum TimesOf {
    Kept,
    /// The move is one of days.
    Dropped,
}

enum ShiftInput {
    Every(Shift),
    NumberOf { column: usize, unit: ShiftUnit, direction: Direction },
    Text { column: usize, direction: Direction },
}

struct MoveStep {
    from: DateInput,
    shift: ShiftInput,
    month_end: MonthEnd,
    edge: Option<PeriodEdge>,
    weekday: Option<WeekdayMove>,
    roll: Roll,
    times: TimesOf,
    /// The zone whose clock shows the times, where one was named: hours elapse on it.
    zone: Option<Zone>,
    calendar: Option<CalendarInput>,
}

fn read(walk: &mut Walk, table: &DeTable, span: Range<usize>) -> Option<Box<dyn Planned>> {
    const EXPECTED: &str = "an amount of time such as \"30 days\" or \"2 months\"";
    let from = needed_date(walk, table, "from", span.clone());
    let month_ends = MonthEnd::ALL.map(|rule| (rule.word(), rule));
    let month_end =
        or_default(table, "month_end", MonthEnd::default(), |value| walk.choice(value, &month_ends))?;
    let shift = match table.get("shift") {
        Some(value) => Some(read_shift_source(walk, value, EXPECTED)?),
        None => None,
    };
    let rules = read_period_rules(walk, table)?;
    let edge = match table.get("to") {
        Some(value) => {
            let edges: Vec<(String, PeriodEdge)> =
                PeriodEdge::all(rules.all()).map(|edge| (edge.to_string(), edge)).collect();
            let choices: Vec<(&str, PeriodEdge)> =
                edges.iter().map(|(word, edge)| (word.as_str(), *edge)).collect();
            Some(walk.choice(value, &choices)?)
        }
        None => None,
    };
    let weekday = match table.get_key_value("weekday") {
        Some((key, value)) => {
            let to = walk.parsed(value, "a weekday such as \"on or after monday\"", str::parse)?;
            Some((key.span(), to))
        }
        None => None,
    };
    let roll =
        or_default(table, "roll", Roll::Unadjusted, |value| walk.choice_of(value, Roll::ALL, Roll::word))?;
    if shift.is_none() && edge.is_none() && weekday.is_none() && roll == Roll::Unadjusted {
        walk.mistakes.tell(span, "shift is missing", EXPECTED);
        return None;
    }
    let by_working_days = match &shift {
        Some(ShiftSource::Every(shift)) => shift.value.needs_calendar(),
        Some(ShiftSource::NumberOf { unit, .. }) => *unit == ShiftUnit::WorkingDay,
        _ => false,
    };
    if let (Some((span, _)), true, Roll::Unadjusted) = (&weekday, by_working_days, roll) {
        let what = "a weekday after working days may be a holiday again";
        walk.mistakes.tell(span.clone(), what, "roll = \"following\" with it, or no working days");
        return None;
    }
    let by_text = matches!(&shift, Some(ShiftSource::Text { .. }));
    let calendar = match table.get_key_value("calendar") {
        _ if by_working_days || roll != Roll::Unadjusted => Some(read_calendar_choice(walk, table, span)?),
        Some(_) if by_text => Some(read_calendar_choice(walk, table, span)?),
        Some((key, _)) => {
            let expected = "shift = \"10 working days\", or roll = \"following\"";
            walk.mistakes.tell(key.span(), "nothing here asks for a calendar", expected);
            return None;
        }
        None => None,
    };
    let weekday = weekday.map(|(_, to)| to);
    let times = TimesOf::Kept;
    Some(Box::new(PlannedMove { from: from?, shift, month_end, edge, weekday, roll, times, calendar }))
}

/// The day so long after another, by the calendar that the keys next to it name where it is of working days.
pub(super) fn read_day_after(
    walk: &mut Walk,
    table: &DeTable,
    (from, shift): (At<DateSource>, At<Shift>),
    span: Range<usize>,
) -> Option<Box<dyn Planned>> {
    let calendar = match shift.value.needs_calendar() {
        true => Some(read_calendar_choice(walk, table, span)?),
        false => None,
    };
    let shift = Some(ShiftSource::Every(shift));
    let (month_end, roll) = (MonthEnd::default(), Roll::Unadjusted);
    let times = TimesOf::Dropped;
    Some(Box::new(PlannedMove { from, shift, month_end, edge: None, weekday: None, roll, times, calendar }))
}

/// `"30 days"`, `{ column = "Terms" }` with amounts in text, or `{ column = "Terms", unit = "days" }` with numbers.
fn read_shift_source(walk: &mut Walk, value: &Value<'_>, expected: &str) -> Option<ShiftSource> {
    let DeValue::Table(table) = value.get_ref() else {
        let shift = walk.parsed(value, expected, str::parse)?;
        return Some(ShiftSource::Every(At { value: shift, span: value.span() }));
    };
    walk.check_keys(table, &SHIFT_BY);
    let column = walk.needed(table, "column", value.span(), "{ column = \"…\", unit = \"days\" }")?;
    let column = walk.text(column, "the name of a column")?;
    let direction = match table.get("back") {
        Some(value) if walk.yes_or_no(value)? => Direction::Back,
        _ => Direction::On,
    };
    let Some(unit) = table.get("unit") else { return Some(ShiftSource::Text { column, direction }) };
    let units: Vec<(&str, ShiftUnit)> = Unit::ALL
        .iter()
        .map(|unit| (unit.plural(), ShiftUnit::Calendar(*unit)))
        .chain([("working days", ShiftUnit::WorkingDay)])
        .collect();
    Some(ShiftSource::NumberOf { column, unit: walk.choice(unit, &units)?, direction })
}

impl Direction {
    /// The sign before the amounts, for a header.
    fn sign(self) -> char {
        match self {
            Self::On => '+',
            Self::Back => '-',
        }
    }

    fn of(self, shift: Shift) -> Shift {
        match self {
            Self::On => shift,
            Self::Back => -shift,
        }
    }
}

impl ShiftUnit {
    fn word(self) -> &'static str {
        match self {
            Self::Calendar(unit) => unit.plural(),
            Self::WorkingDay => "working days",
        }
    }

    /// So many of it; a number that no shift holds leads as far out of the calendar as the largest one.
    fn amount(self, number: i128) -> Shift {
        let number = i32::try_from(number.clamp(i32::MIN.into(), i32::MAX.into())).unwrap_or(i32::MAX);
        match self {
            Self::Calendar(unit) => Shift::of(number, unit),
            Self::WorkingDay => Shift::working_days(number),
        }
    }
}

impl Planned for PlannedMove {
    fn header(&self) -> Option<String> {
        let rule = match self.month_end {
            MonthEnd::Clamp => String::new(),
            rule => format!(" (month end: {rule})"),
        };
        let amount = match &self.shift {
            Some(ShiftSource::Every(shift)) => match shift.value.to_string() {
                back if back.starts_with('-') => format!(" - {}{rule}", back.trim_start_matches('-')),
                on => format!(" + {on}{rule}"),
            },
            Some(ShiftSource::NumberOf { column, unit, direction }) => {
                format!(" {} {} {}{rule}", direction.sign(), column.value, unit.word())
            }
            Some(ShiftSource::Text { column, direction }) => {
                format!(" {} {}{rule}", direction.sign(), column.value)
            }
            None => String::new(),
        };
        let edge = self.edge.map_or_else(String::new, |edge| format!(", {edge}"));
        let weekday = self.weekday.map_or_else(String::new, |to| format!(", {to}"));
        let rolled = if self.roll == Roll::Unadjusted { String::new() } else { format!(", {}", self.roll) };
        let calendar = self.calendar.as_ref().map_or_else(String::new, CalendarChoice::said);
        Some(format!("{}{amount}{edge}{weekday}{rolled}{calendar}", self.from.value.said()))
    }

    fn uses_as_of(&self) -> bool {
        self.from.value == DateSource::AsOf
    }

    fn stand_in(&self) -> Kind {
        Kind::made_dates()
    }

    fn bind(&self, binder: &mut Binder<'_>) -> Option<(Kind, Box<dyn Step>)> {
        let from = binder.date_input(&self.from)?;
        let kept = from.column().and(binder.time_of(from)).filter(|_| self.times == TimesOf::Kept);
        let kept = kept.map(|_| HoursOf::Clock);
        // An edge of a period is a day, whatever time the date has that it is found from.
        let time = kept.filter(|_| self.edge.is_none());
        let shift = match &self.shift {
            Some(shift) => bind_shift(binder, shift, kept, &self.from)?,
            None => ShiftInput::Every(Shift::days(0)),
        };
        let calendar = match (&self.calendar, &shift) {
            (Some(calendar), _) => Some(binder.calendar(calendar)?),
            // A text may turn out to hold working days.
            (None, ShiftInput::Text { .. }) => binder.only_calendar(),
            (None, _) => None,
        };
        if self.calendar.is_some() && kept.is_some() {
            let what = format!("\"{}\" keeps times of day", self.from.value.said().escape_debug());
            binder.mistakes.tell(self.from.span.clone(), what, "dates, for working days and rolls");
            return None;
        }
        let step = MoveStep {
            from,
            shift,
            month_end: self.month_end,
            edge: self.edge,
            weekday: self.weekday,
            roll: self.roll,
            times: self.times,
            zone: from.column().and_then(|column| zone_of(binder.kind(column))),
            calendar,
        };
        Some((Kind::Date { source: DateKind::Made, time }, Box::new(step)))
    }
}

fn bind_shift(
    binder: &mut Binder<'_>,
    shift: &ShiftSource,
    time: Option<HoursOf>,
    from: &At<DateSource>,
) -> Option<ShiftInput> {
    match shift {
        ShiftSource::Every(shift) if shift.value.needs_time_of_day() && time.is_none() => {
            let what = format!("{} keeps no times of day to move by {}", from.value.said(), shift.value);
            binder.mistakes.tell(shift.span.clone(), what, "days, weeks, months and longer");
            None
        }
        ShiftSource::Every(shift) => Some(ShiftInput::Every(shift.value)),
        ShiftSource::NumberOf { column, unit, direction } => match binder.find_number(column)? {
            (column, 0) => Some(ShiftInput::NumberOf { column, unit: *unit, direction: *direction }),
            (_, decimals) => {
                let what = format!("\"{}\" has {decimals} decimals", column.value.escape_debug());
                binder.mistakes.tell(column.span.clone(), what, format!("whole numbers of {}", unit.word()));
                None
            }
        },
        ShiftSource::Text { column, direction } => {
            let nth = binder.find(column)?;
            if matches!(binder.kind(nth), Kind::Text) {
                return Some(ShiftInput::Text { column: nth, direction: *direction });
            }
            let what = format!("\"{}\" holds {}", column.value.escape_debug(), binder.kind(nth).word());
            let expected = "amounts of time in text, or { column = \"…\", unit = \"days\" } for numbers";
            binder.mistakes.tell(column.span.clone(), what, expected);
            None
        }
    }
}

/// The zone whose clock shows the times of a column.
fn zone_of(kind: &Kind) -> Option<Zone> {
    match kind {
        Kind::Date { source: DateKind::Read { zone, .. }, .. } => zone.clone(),
        _ => None,
    }
}

impl MoveStep {
    /// Whether the times of its dates are moved with them.
    fn keeps_times(&self, rows: &Rows<'_>) -> bool {
        self.times == TimesOf::Kept && self.from.column().is_some() && rows.keeps_times(self.from)
    }

    fn date_move(&self, shift: Shift) -> DateMove {
        let mut moved = DateMove::by(shift.with_month_end(self.month_end)).rolled(self.roll);
        if let Some(edge) = self.edge {
            moved = moved.to_edge(edge);
        }
        if let Some(weekday) = self.weekday {
            moved = moved.to_weekday(weekday);
        }
        moved
    }

    /// The amount of a row; `None` where it is blank.
    fn shift_of(&self, rows: &Rows<'_>, row: usize) -> Option<Result<Shift, Error>> {
        match &self.shift {
            ShiftInput::Every(shift) => Some(Ok(*shift)),
            ShiftInput::NumberOf { column, unit, direction } => {
                Some(Ok(direction.of(unit.amount(rows.table.units(*column, row)?))))
            }
            ShiftInput::Text { column, direction } => match rows.table.text(*column, row) {
                "" => None,
                text => Some(text.parse().map(|shift| direction.of(shift))),
            },
        }
    }

    /// The whole column at once, where every row is moved by the same months and days.
    fn at_once(&self, rows: &mut Rows<'_>) -> Option<Data> {
        let ShiftInput::Every(shift) = &self.shift else { return None };
        let is_plain = self.edge.is_none() && self.weekday.is_none() && self.roll == Roll::Unadjusted;
        if !is_plain || shift.needs_calendar() {
            return None;
        }
        let shift = shift.with_month_end(self.month_end);
        let Some(Data::Date(dates)) = rows.table.columns.get(self.from.column()?) else {
            return None;
        };
        let moved = shifted(date_slice(dates).ok()?, &shift);
        rows.list_misses(self.from, &moved, |date| shift.apply(date));
        Some(Data::Date(date_array(moved)))
    }

    /// A moment moved on the clock of its zone.
    fn elapsed(
        &self,
        by: &DateMove,
        zone: &Zone,
        (at, instant): Moment,
    ) -> Result<(DateTime, Working), Error> {
        let in_words =
            |error: &ZoneError| Error::new(ErrorKind::OutOfRange, error.to_string(), "another time");
        by.apply_at_by(at, |local, microseconds| {
            if microseconds == 0 {
                return Ok(local);
            }
            let known = instant.filter(|_| local == at);
            let utc = known.map_or_else(|| zone.utc_of(local), Ok).map_err(|error| in_words(&error))?;
            let after = utc.microseconds().saturating_add(microseconds);
            zone.local_of(DateTime::from_microseconds(after)?).map_err(|error| in_words(&error))
        })
    }

    /// Date-times, their times kept; a zone's instants are not those of the result.
    fn by_the_clock(&self, rows: &mut Rows<'_>) -> Data {
        let moved = rows.each(
            |(moment, shift): (Moment, Result<Shift, Error>)| {
                let by = self.date_move(shift?);
                match &self.zone {
                    Some(zone) => self.elapsed(&by, zone, moment).map(|(at, _)| at),
                    None => by.apply_at(moment.0),
                }
            },
            |rows, row| rows.moment(self.from, row).zip(self.shift_of(rows, row)),
        );
        match self.edge {
            Some(_) => Data::dates(moved.into_iter().map(|at| at.map(DateTime::date))),
            None => Data::moments(moved),
        }
    }
}

impl Step for MoveStep {
    fn inputs(&self) -> Vec<usize> {
        let amount = match &self.shift {
            ShiftInput::Every(_) => None,
            ShiftInput::NumberOf { column, .. } | ShiftInput::Text { column, .. } => Some(*column),
        };
        let calendar = self.calendar.and_then(CalendarInput::column);
        [self.from.column(), amount, calendar].into_iter().flatten().collect()
    }

    fn work_out(&self, rows: &mut Rows<'_>) -> Result<Data, Error> {
        if self.keeps_times(rows) {
            return Ok(self.by_the_clock(rows));
        }
        if let Some(moved) = self.at_once(rows) {
            return Ok(moved);
        }
        type Input<'c> = (Date, Result<Shift, Error>, Result<Option<&'c WorkCalendar>, Error>);
        let moved = rows.each(
            |(date, shift, calendar): Input<'_>| {
                let (whole, calendar) = (self.date_move(shift?), calendar?);
                // A row whose calendar is blank is not moved by another one.
                if self.calendar.and_then(CalendarInput::column).is_some() && calendar.is_none() {
                    return Ok(None);
                }
                whole.apply(date, calendar).map(Some)
            },
            |rows, row| {
                let calendar = match self.calendar {
                    Some(calendar) => rows.calendar(calendar, row),
                    None => Ok(None),
                };
                Some((rows.date(self.from, row)?, self.shift_of(rows, row)?, calendar))
            },
        );
        Ok(Data::dates(moved.into_iter().map(Option::flatten)))
    }

    fn why(&self, rows: &Rows<'_>, row: usize) -> Option<CellWhy> {
        let whole = self.date_move(self.shift_of(rows, row)?.ok()?);
        if self.keeps_times(rows) {
            let moment = rows.moment(self.from, row)?;
            let why = match &self.zone {
                Some(zone) => self.elapsed(&whole, zone, moment).map(|(_, why)| why),
                None => whole.why_at(moment.0),
            };
            return why.ok().map(CellWhy::from);
        }
        let calendar = self.calendar.and_then(|calendar| rows.calendar(calendar, row).ok()?);
        let from = rows.date(self.from, row)?;
        let why = whole.why(from, calendar).ok()?;
        let working = CellWhy::from(why.working().clone());
        Some(match (calendar, why.grid()) {
            (Some(calendar), Some(grid)) => {
                let (calendar, grid) = (calendar.clone(), grid.clone());
                working.with_days(CountedDays { calendar, grid, from, lead_to: LeadTo::Date })
            }
            _ => working,
        })
    }
}
