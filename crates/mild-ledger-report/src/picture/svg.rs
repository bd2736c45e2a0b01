//! Pictures (SVG 1.1), in one file with nothing fetched from elsewhere.

use crate::WorkYears;
use crate::facts::MarkedMonth;
use crate::shown::{month_name, shortened, visible};
use mild_ledger::{DayKind, Holiday, PeriodRule};
use std::fmt::Write;

const MONTH_WIDTH: i64 = 292;
/// From the left of a month's Monday to the right of its Sunday.
const WEEK_WIDTH: i64 = 6 * CELL + 2 * HALF_DAY;
const HALF_DAY: i64 = 14;
const MONTH_HEIGHT: i64 = 232;
const CELL: i64 = 36;
const ROW: i64 = 26;
const MARGIN: i64 = 28;
const HEAD: i64 = 92;
const FOOT: i64 = 56;
const INK: &str = "#22303c";
/// Quieter than the ink, and read against the paper as well as the tiles (contrast above 4.5).
const PALE: &str = "#56636f";
const RED: &str = "#a3352c";
/// Holidays named next to each other, and the height of their lines.
const NAMES_BESIDE: i64 = 3;
const NAME_HEIGHT: i64 = 20;
/// Characters that such a column has room for.
const NAME_LENGTH: usize = 58;

/// The most years of one picture.
pub const MOST_YEARS: usize = 10;

/// The months of the years, four next to each other, each day marked by its colour and by a character: a rest day on a
/// tile, a holiday on a filled tile with a corner cut, a holiday on a rest day on one that is only outlined, a declared working
/// day underlined. The holidays are named below. More than ten years are drawn as far as the tenth.
#[must_use]
pub fn years(found: &WorkYears) -> String {
    let all = &found.months.months;
    let months = all.get(..MOST_YEARS * 12).unwrap_or(all);
    let rows = (months.len() as i64 + 3) / 4;
    let named = named_days(months);
    let lines_of_names = (named.len() as i64 + NAMES_BESIDE - 1) / NAMES_BESIDE;
    let names_top = HEAD + rows * MONTH_HEIGHT;
    let width = 2 * MARGIN + 3 * MONTH_WIDTH + WEEK_WIDTH;
    let height = names_top + lines_of_names * NAME_HEIGHT + FOOT;
    let mut out = format!(
        "<svg xmlns=\"http://www.w3.org/2000/svg\" viewBox=\"0 0 {width} {height}\" width=\"{width}\" height=\"{height}\" \
         font-family=\"DejaVu Sans, Verdana, sans-serif\" font-size=\"13\" fill=\"{INK}\">\n\
         <rect width=\"{width}\" height=\"{height}\" fill=\"#fbfaf7\"/>\n"
    );
    let span = match (months.first(), months.last()) {
        (Some(first), Some(last)) if first.first.year() != last.first.year() => {
            format!("{:04} to {:04}", first.first.year(), last.first.year())
        }
        (Some(first), _) => format!("{:04}", first.first.year()),
        _ => String::new(),
    };
    let title = format!("{}, {span}", found.calendar);
    let _ = writeln!(out, "<title>{}</title>", escaped(&title));
    put_text(&mut out, (MARGIN, 40), &title, "font-size=\"22\" font-weight=\"bold\"");
    let rest = format!("{}; rest days: {}", found.total, found.rest_days);
    put_text(&mut out, (MARGIN, 64), &rest, &format!("fill=\"{PALE}\""));
    let rows = found.rows.iter().filter(|row| row.of == PeriodRule::Month);
    for (nth, (month, row)) in (0_i64..).zip(months.iter().zip(rows)) {
        let place = (MARGIN + nth % 4 * MONTH_WIDTH, HEAD + nth / 4 * MONTH_HEIGHT);
        put_month(&mut out, month, place, row.working_days);
    }
    let columns = lines_of_names.max(1);
    let name_width = (width - 2 * MARGIN) / NAMES_BESIDE;
    for (nth, name) in named.iter().enumerate() {
        let (column, line) = (nth as i64 / columns, nth as i64 % columns);
        let place = (MARGIN + column * name_width, names_top + 14 + line * NAME_HEIGHT);
        put_text(&mut out, place, name, "font-size=\"12\"");
    }
    let y = height - 24;
    let mut x = MARGIN + HALF_DAY;
    let kinds: Vec<DayKind> =
        months.iter().flat_map(|month| &month.days).filter_map(|day| day.kind).collect();
    for (kind, said) in [
        (DayKind::Working, "working day"),
        (DayKind::RestDay, "rest day"),
        (DayKind::Holiday, "holiday"),
        (DayKind::HolidayOnRestDay, "holiday on a rest day"),
        (DayKind::HalfDay, "half a working day"),
        (DayKind::DeclaredWorking, "declared a working day"),
    ]
    .into_iter()
    .filter(|(kind, _)| kinds.contains(kind))
    {
        put_day(&mut out, (x, y), "7", kind);
        put_text(&mut out, (x + 22, y), said, "");
        x += 60 + 8 * said.len() as i64;
    }
    out.push_str("</svg>\n");
    out
}

fn put_month(out: &mut String, month: &MarkedMonth, (left, top): (i64, i64), working: i64) {
    let first = month.first;
    let name = format!("{} {:04}", month_name(first), first.year());
    put_text(out, (left, top + 14), &name, "font-weight=\"bold\" font-size=\"15\"");
    let end = left + WEEK_WIDTH;
    put_text(
        out,
        (end, top + 14),
        &format!("{working} working"),
        &format!("text-anchor=\"end\" fill=\"{PALE}\" font-size=\"12\""),
    );
    for (place, day) in ["Mo", "Tu", "We", "Th", "Fr", "Sa", "Su"].into_iter().enumerate() {
        let style = format!("text-anchor=\"middle\" fill=\"{PALE}\" font-size=\"11\"");
        put_text(out, (left + place as i64 * CELL + HALF_DAY, top + 38), day, &style);
    }
    let into_week =
        mild_ledger::Weekday::ALL.iter().position(|day| *day == first.weekday()).unwrap_or(0) as i64;
    for (place, day) in (into_week..).zip(&month.days) {
        let (x, y) = (left + place % 7 * CELL + HALF_DAY, top + 62 + place / 7 * ROW);
        let kind = day.kind.unwrap_or(DayKind::Working);
        let names: Vec<&str> = day.holidays.iter().map(Holiday::name).collect();
        let day = day.date.day().to_string();
        if names.is_empty() {
            put_day(out, (x, y), &day, kind);
        } else {
            let _ = write!(out, "<g><title>{}</title>", escaped(&names.join(", ")));
            put_day(out, (x, y), &day, kind);
            out.push_str("</g>\n");
        }
    }
}

/// Each day with a holiday, and the names of what falls on it, cut to their column.
fn named_days(months: &[MarkedMonth]) -> Vec<String> {
    let several_years = months.len() > 12;
    let named = months.iter().flat_map(|month| &month.days).filter_map(|day| {
        let date = day.date;
        let names: Vec<&str> = day.holidays.iter().map(Holiday::name).collect();
        if names.is_empty() {
            return None;
        }
        let weekday = date.weekday().to_string();
        let year = if several_years { format!(" {:04}", date.year()) } else { String::new() };
        let day =
            format!("{} {} {}{year}", weekday.get(..3).unwrap_or_default(), date.day(), month_name(date));
        Some(shortened(&format!("{day}: {}", names.join(", ")), NAME_LENGTH))
    });
    named.collect()
}

/// A day around a point on its baseline.
fn put_day(out: &mut String, (x, y): (i64, i64), day: &str, kind: DayKind) {
    let (left, top) = (x - HALF_DAY, y - 17);
    let tile = || format!("<rect x=\"{left}\" y=\"{top}\" width=\"28\" height=\"24\" fill=\"#eeebe3\"/>");
    // The corner that is cut tells a holiday where colours do not.
    let cut = |style: &str| {
        format!("<path d=\"M{left} {top}h20l8 8v16h-28z\" stroke=\"{RED}\" stroke-width=\"1.5\" {style}/>")
    };
    let (shape, ink, extra) = match kind {
        DayKind::Working => (String::new(), INK, ""),
        DayKind::RestDay => (tile(), PALE, ""),
        DayKind::Holiday => (cut(&format!("fill=\"{RED}\"")), "#ffffff", " font-weight=\"bold\""),
        DayKind::HolidayOnRestDay => (cut("fill=\"#eeebe3\""), RED, ""),
        DayKind::HalfDay => (cut("fill=\"none\" stroke-dasharray=\"4 2\""), INK, ""),
        DayKind::DeclaredWorking => {
            (String::new(), "#2a6446", " font-weight=\"bold\" text-decoration=\"underline\"")
        }
    };
    out.push_str(&shape);
    put_text(out, (x, y), day, &format!("text-anchor=\"middle\" fill=\"{ink}\"{extra}"));
}

fn put_text(out: &mut String, (x, y): (i64, i64), text: &str, style: &str) {
    let _ = writeln!(out, "<text x=\"{x}\" y=\"{y}\" {style}>{}</text>", escaped(text));
}

/// A text that is not markup, with its control characters made visible.
pub(super) fn escaped(text: &str) -> String {
    visible(text).replace('&', "&amp;").replace('<', "&lt;").replace('>', "&gt;").replace('"', "&quot;")
}
