//! `docs/calendars/` has one page a calendar, made of the data and held to it here. After a change of the data:
//!
//! ```text
//! MILD_WRITE_PAGES=1 cargo test -p mild-ledger-calendars --test pages
//! ```

#![allow(clippy::unwrap_used, clippy::expect_used)] // a test fails by panicking

use mild_ledger::{Date, DateRange, DayKind, Ends, Holiday, HolidayLength, Interval};
use mild_ledger_calendars::{Region, SHIPPED, Shipped};
use std::collections::BTreeMap;
use std::fmt::Write as _;
use std::path::PathBuf;

fn folder() -> PathBuf {
    PathBuf::from(env!("CARGO_MANIFEST_DIR")).join("../../docs/calendars")
}

/// The law of a calendar, what it covers, and every day that it closes, year by year.
fn page(shipped: &Shipped) -> String {
    let calendar = shipped.calendar().unwrap();
    let mut out = format!("# {}\n\n{}\n\n", shipped.name(), shipped.title());
    writeln!(out, "- Law: {}.", shipped.law().trim_end_matches('.')).unwrap();
    writeln!(out, "- Covers {}, rest days {}.", shipped.covers(), calendar.rest_days_said()).unwrap();
    match shipped.by_rule() {
        Some(years) => writeln!(out, "- By rule, not yet proclaimed: {years}.").unwrap(),
        None => writeln!(out, "- No year of it is by rule alone.").unwrap(),
    }
    if let Some(base) = shipped.base() {
        writeln!(out, "- Builds on [{0}]({0}.md).", base.name()).unwrap();
    }
    for note in shipped.notes() {
        writeln!(out, "- {note}").unwrap();
    }
    let sourced: Vec<&Holiday> =
        calendar.holidays().iter().filter(|holiday| holiday.source().is_some()).collect();
    if !sourced.is_empty() {
        out += "\n## Days with a basis of their own\n\n| date | holiday | basis |\n|---|---|---|\n";
        for holiday in sourced {
            let (date, source) = (holiday.date(), holiday.source().unwrap());
            writeln!(out, "| {date} | {} | {source} |", holiday.name()).unwrap();
        }
    }
    out += "\n## Closed days\n\nDays from Monday to Friday, then what falls on a rest day.\n";
    for year in shipped.covers().first()..=shipped.covers().last() {
        let (first, last) = (Date::new(year, 1, 1).unwrap(), Date::new(year, 12, 31).unwrap());
        let counted = calendar.working_days(Interval::between(first, last), Ends::FirstAndLast).unwrap();
        let by_rule = if shipped.by_rule().is_some_and(|years| years.has(year)) { ", by rule" } else { "" };
        write!(out, "\n**{year}**, {} working days{by_rule}: ", counted.count()).unwrap();
        let mut days: BTreeMap<Date, Vec<String>> = BTreeMap::new();
        let inside = |holiday: &&Holiday| DateRange::new(first, last).unwrap().contains(holiday.date());
        for holiday in calendar.holidays().iter().filter(inside) {
            let moved =
                holiday.moved_from().map_or_else(String::new, |from| format!(", from {}", month_day(from)));
            let half = if holiday.length() == HolidayLength::HalfDay { ", half a day" } else { "" };
            days.entry(holiday.date()).or_default().push(format!("{}{moved}{half}", holiday.name()));
        }
        let said = |on_rest_days: bool| {
            let of_kind = days.iter().filter(|(date, _)| {
                (calendar.kind_of(**date).unwrap() == DayKind::HolidayOnRestDay) == on_rest_days
            });
            of_kind
                .map(|(date, names)| {
                    let weekday = date.weekday().to_string();
                    format!("{} {} {}", month_day(*date), &weekday[..3], names.join(" / "))
                })
                .collect::<Vec<_>>()
        };
        out += &said(false).join("; ");
        out += ".\n";
        let on_rest_days = said(true);
        if !on_rest_days.is_empty() {
            writeln!(out, "On rest days: {}.", on_rest_days.join("; ")).unwrap();
        }
    }
    out
}

fn month_day(date: Date) -> String {
    format!("{:02}-{:02}", date.month(), date.day())
}

/// The list of the pages, by region.
fn index() -> String {
    let mut out = "# The calendars that ship\n\nOne page each: the law, the years that are covered, every closed day of them, \
                   and the days that stand on an order or a publication of their own. These pages are made of the data, and a \
                   test holds them to it. `mild calendar NAME --sources` says the same of one.\n"
        .to_owned();
    for region in Region::ALL {
        write!(
            out,
            "\n## {}\n\n| calendar | covers | by rule | whose days |\n|---|---|---|---|\n",
            region.word()
        )
        .unwrap();
        for shipped in SHIPPED.iter().filter(|shipped| shipped.region() == region) {
            let by_rule = shipped.by_rule().map_or_else(String::new, |years| years.to_string());
            let (name, covers, title) = (shipped.name(), shipped.covers(), shipped.title());
            writeln!(out, "| [{name}]({name}.md) | {covers} | {by_rule} | {title} |").unwrap();
        }
    }
    out
}

#[test]
fn the_pages_of_calendars_are_held_to_the_data() {
    let mut pages: BTreeMap<String, String> =
        SHIPPED.iter().map(|shipped| (format!("{}.md", shipped.name()), page(shipped))).collect();
    pages.insert("README.md".to_owned(), index());
    if std::env::var_os("MILD_WRITE_PAGES").is_some() {
        std::fs::create_dir_all(folder()).unwrap();
        for (name, text) in &pages {
            std::fs::write(folder().join(name), text).unwrap();
        }
    }
    for (name, text) in &pages {
        let found = std::fs::read_to_string(folder().join(name)).unwrap_or_default();
        assert!(
            found == *text,
            "docs/calendars/{name} is not what the data says: MILD_WRITE_PAGES=1 writes it anew"
        );
    }
    let names = std::fs::read_dir(folder()).unwrap();
    let names: Vec<String> = names.map(|entry| entry.unwrap().file_name().into_string().unwrap()).collect();
    assert_eq!(names.len(), pages.len(), "a page of a calendar that does not ship");
}
