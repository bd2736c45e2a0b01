//! Working days with their working: the months concerned, each day marked, and the sum under them.

use super::text::{visible, wrapped};
use super::{Colour, Width};
use crate::Detail;
use mild_ledger::{
    CountedDay, Date, DayKind, Ends, Error, Interval, Month, MonthGrid, Roll, Shift, WorkCalendar,
    WorkingGrid,
};
use std::fmt::Write;

/// Months drawn at each end of a long stretch.
const MONTHS_AT_EACH_END: usize = 6;
/// Days listed on which two calendars differ.
const MOST_DIFFERENCES: usize = 40;

/// The working days of an interval by each calendar; with two or more, also the days that make the difference.
///
/// # Errors
/// Where a calendar does not cover the interval.
pub fn working_days(
    interval: Interval,
    ends: Ends,
    calendars: &[WorkCalendar],
    (detail, colour, width): (Detail, Colour, Width),
) -> Result<String, Error> {
    let mut out = String::new();
    for calendar in calendars {
        let found = calendar.working_days(interval, ends)?;
        let name = visible(calendar.name()).into_owned();
        if detail == Detail::WithWorking {
            put_grid(
                &mut out,
                calendar,
                &calendar.why_working_days(interval, ends)?,
                Numbers::Hidden,
                (colour, width),
            );
        }
        out.push_str(&wrapped(&format!("working days: {} (ends: {ends}; {name})", found.count()), "", width));
        if detail == Detail::FiguresOnly {
            out.push_str(&wrapped(&format!("  {found}"), "  ", width));
        }
        out.push('\n');
    }
    if let [first, .., last] = calendars {
        put_differences(&mut out, interval, ends, (first, last), width)?;
    }
    Ok(out)
}

/// A date moved by an amount with working days in it, then rolled: each counted day bears its running number.
///
/// # Errors
/// Those of the move.
pub fn working_days_moved(
    date: Date,
    (shift, roll): (&Shift, Roll),
    calendar: &WorkCalendar,
    (detail, colour, width): (Detail, Colour, Width),
) -> Result<String, Error> {
    let moved = calendar.shifted(date, shift)?;
    let end = calendar.roll(moved, roll)?;
    let mut out = format!("{end} ({})\n", end.weekday());
    let (dates, grid) = calendar.why_shifted(date, shift)?;
    if detail == Detail::WithWorking {
        // A move of no months and days says nothing.
        if dates.figure() != date.to_string() {
            for step in dates.steps() {
                out.push_str(&wrapped(step.said(), "    ", width));
            }
        }
        if let Some(grid) = &grid {
            out.push('\n');
            put_grid(&mut out, calendar, grid, Numbers::Shown, (colour, width));
        }
    }
    if let Some(said) = said_of_roll(moved, end, roll) {
        out.push_str(&wrapped(&format!("{said} (by {})", visible(calendar.name())), "", width));
    }
    let rule = rule_of((shift, roll), dates.rule(), grid.as_ref());
    out.push_str(&wrapped(&format!("rule: {}", visible(&rule)), "", width));
    Ok(out)
}

/// The rule of a move and of the roll behind it.
pub(crate) fn rule_of((shift, roll): (&Shift, Roll), of_dates: &str, grid: Option<&WorkingGrid>) -> String {
    let moved = grid.map_or(of_dates, |grid| grid.working().rule());
    match (roll, *shift == Shift::days(0)) {
        (Roll::Unadjusted, _) => moved.to_owned(),
        (_, true) => format!("roll: {roll}"),
        _ => format!("{moved}, then roll: {roll}"),
    }
}

/// What a roll did; nothing where none was asked for.
pub(crate) fn said_of_roll(from: Date, to: Date, roll: Roll) -> Option<String> {
    match (roll, from == to) {
        (Roll::Unadjusted, _) => None,
        (_, true) => Some(format!("{from} is a working day, so {roll} leaves it")),
        _ => Some(format!("{from} ({}) is not a working day; {roll} gives {to}", from.weekday())),
    }
}

/// What a date is to a calendar, and its number among the working days of its month.
///
/// # Errors
/// Where the calendar does not cover it.
pub fn day_by_calendar(date: Date, calendar: &WorkCalendar, width: Width) -> Result<String, Error> {
    let kind = calendar.kind_of(date)?;
    let names: Vec<_> = calendar.holidays_on(date).iter().map(|holiday| visible(holiday.name())).collect();
    let names = if names.is_empty() { String::new() } else { format!(", {}", names.join(", ")) };
    let number = match calendar.number_in_month(date)? {
        Some((from_start, from_end)) => {
            format!("; number {from_start} of its month, {from_end} from its end")
        }
        None => String::new(),
    };
    Ok(wrapped(&format!("{}: {kind}{names}{number}", visible(calendar.name())), "", width))
}

/// Whether counted days bear their running numbers.
#[derive(Clone, Copy, PartialEq, Eq)]
enum Numbers {
    Shown,
    Hidden,
}

fn put_grid(
    out: &mut String,
    calendar: &WorkCalendar,
    grid: &WorkingGrid,
    numbers: Numbers,
    (colour, width): (Colour, Width),
) {
    let months = grid.months();
    let hidden = months.len().saturating_sub(2 * MONTHS_AT_EACH_END);
    for (nth, month) in months.iter().enumerate() {
        if hidden > 0 && nth == MONTHS_AT_EACH_END {
            let months = if hidden == 1 { "month" } else { "months" };
            let _ = writeln!(out, "… {hidden} {months} between …\n");
        }
        if hidden == 0 || nth < MONTHS_AT_EACH_END || nth >= months.len() - MONTHS_AT_EACH_END {
            let marks = Marks::Counted { grid: month, numbers: numbers == Numbers::Shown };
            for line in month_lines(calendar, month.first_day(), &marks, colour) {
                out.push_str(line.trim_end());
                out.push('\n');
            }
            out.push('\n');
        }
    }
    if !months.is_empty() {
        let counted = if numbers == Numbers::Shown { "#1 #2 … counted" } else { "* counted" };
        let legend = "  . rest day   H holiday   h holiday on a rest day   no sign: not looked at";
        out.push_str(&wrapped(&format!("{counted} {legend}"), "", width));
    }
    // Each holiday among the days by its name, as far as they can be read at a glance.
    let inside = months.iter().flat_map(MonthGrid::days).filter(|day| day.is_inside());
    let named = inside.flat_map(|day| calendar.holidays_on(day.date())).take(20);
    for holiday in named {
        let date = holiday.date();
        let moved = holiday.moved_from().map_or_else(String::new, |from| format!(", moved from {from}"));
        out.push_str(&wrapped(
            &format!("{date} ({}): {}{moved}", date.weekday(), visible(holiday.name())),
            "",
            width,
        ));
    }
    if let Some(step) = grid.working().steps().last() {
        out.push_str(&wrapped(step.said(), "", width));
    }
}

fn put_differences(
    out: &mut String,
    interval: Interval,
    ends: Ends,
    (one, other): (&WorkCalendar, &WorkCalendar),
    width: Width,
) -> Result<(), Error> {
    let mut apart = Vec::new();
    for month in one.why_working_days(interval, ends)?.months() {
        for day in month.days().iter().filter(|day| day.is_inside()) {
            let (kind, theirs) = (one.kind_of(day.date())?, other.kind_of(day.date())?);
            if kind.is_working() != theirs.is_working() {
                apart.push((day.date(), kind, theirs));
            }
        }
    }
    let (name, their_name) = (visible(one.name()).into_owned(), visible(other.name()).into_owned());
    if apart.is_empty() {
        out.push_str(&wrapped(
            &format!("{name} and {their_name} work on the same of these days."),
            "",
            width,
        ));
    } else {
        out.push_str(&wrapped(&format!("days that make the difference ({name}; {their_name}):"), "", width));
    }
    for (date, kind, theirs) in apart.iter().take(MOST_DIFFERENCES) {
        let said = |calendar: &WorkCalendar, kind: &DayKind| match calendar.holidays_on(*date) {
            [] => kind.to_string(),
            [holiday, ..] => format!("{kind}, {}", visible(holiday.name())),
        };
        let line = format!("{date} ({}): {}; {}", date.weekday(), said(one, kind), said(other, theirs));
        out.push_str(&wrapped(&line, "  ", width));
    }
    if apart.len() > MOST_DIFFERENCES {
        let _ = writeln!(out, "  … and {} more", apart.len() - MOST_DIFFERENCES);
    }
    out.push('\n');
    Ok(())
}

/// How the days of a month are marked.
pub(super) enum Marks<'g> {
    /// By what they are.
    Year,
    /// By what they are where they were looked at.
    Counted { grid: &'g MonthGrid, numbers: bool },
}

impl Marks<'_> {
    /// How wide a day is.
    fn cell(&self) -> usize {
        match self {
            Self::Counted { numbers: true, .. } => 8,
            Self::Counted { .. } => 6,
            Self::Year => 4,
        }
    }
}

/// A month: its name, the weekdays, and a line a week from Monday; each line of one width.
pub(super) fn month_lines(
    calendar: &WorkCalendar,
    first: Date,
    marks: &Marks<'_>,
    colour: Colour,
) -> Vec<String> {
    let cell = marks.cell();
    let total = 7 * cell;
    let mut lines = vec![format!("{:<total$}", format!("{} {}", month_name(first), first.year()))];
    let names = ["Mon", "Tue", "Wed", "Thu", "Fri", "Sat", "Sun"];
    lines.push(names.map(|name| format!("{name:<cell$}")).concat());
    let into_week = mild_ledger::Weekday::ALL.iter().position(|day| *day == first.weekday()).unwrap_or(0);
    let mut line = " ".repeat(into_week * cell);
    let mut place = into_week;
    for day in first.day_number()..=Month::of(first).last_day().day_number() {
        let Ok(date) = Date::from_day_number(day) else { continue };
        line.push_str(&marked(calendar, date, marks, colour));
        place += 1;
        if place == 7 {
            lines.push(std::mem::take(&mut line));
            place = 0;
        }
    }
    if place > 0 {
        line.push_str(&" ".repeat((7 - place) * cell));
        lines.push(line);
    }
    lines
}

/// One day with its sign, and in its colour.
fn marked(calendar: &WorkCalendar, date: Date, marks: &Marks<'_>, colour: Colour) -> String {
    let (kind, sign) = match marks {
        Marks::Year => {
            let kind = calendar.kind_of(date).ok();
            (kind, kind.map_or("", sign_of).to_owned())
        }
        Marks::Counted { grid, numbers } => {
            let day = grid.days().iter().find(|day| day.date() == date).filter(|day| day.is_inside());
            match day.map(|day| (day.kind(), CountedDay::number(*day))) {
                Some((kind, Some(number))) if *numbers => (kind, format!("#{number}")),
                Some((kind, Some(_))) => (kind, "*".to_owned()),
                Some((kind, None)) => (kind, kind.map_or("", sign_of).to_owned()),
                None => (None, String::new()),
            }
        }
    };
    let space = if matches!(marks, Marks::Year) { "" } else { " " };
    let text = format!("{:>2}{space}{sign}", date.day());
    let padded = format!("{text:<width$}", width = marks.cell());
    let is_counted = sign.starts_with(['#', '*']);
    match (colour, if is_counted { Some("32") } else { style_of(kind) }) {
        (Colour::Allowed, Some(style)) => format!("\u{1b}[{style}m{padded}\u{1b}[0m"),
        _ => padded,
    }
}

fn sign_of(kind: DayKind) -> &'static str {
    match kind {
        DayKind::Working => "",
        DayKind::DeclaredWorking => "+",
        DayKind::RestDay => ".",
        DayKind::Holiday => "H",
        DayKind::HolidayOnRestDay => "h",
    }
}

/// The terminal's style of a day (ECMA-48, select graphic rendition, and bright black): green, grey, red.
fn style_of(kind: Option<DayKind>) -> Option<&'static str> {
    match kind? {
        DayKind::Working => None,
        DayKind::DeclaredWorking => Some("32"),
        DayKind::RestDay => Some("90"),
        DayKind::Holiday => Some("1;31"),
        DayKind::HolidayOnRestDay => Some("31"),
    }
}

fn month_name(date: Date) -> String {
    let name = "%B".parse::<mild_ledger::LabelPattern>();
    name.map_or_else(|_| String::new(), |name| name.write(date, mild_ledger::FiscalYear::default()))
}
