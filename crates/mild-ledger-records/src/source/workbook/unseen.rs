//! What of a sheet does not meet the eye: rows that are hidden, and cells that are merged.

use super::ods::CONTENT;
use super::parts::Parts;
use super::tags::{attribute, count, each_tag};
use crate::error::RecordsError;
use quick_xml::events::BytesStart;
use std::path::Path;

/// Rows, and areas, that are named.
const NAMED: usize = 3;

/// The findings about a sheet.
#[derive(Debug, Default, PartialEq, Eq)]
pub(super) struct Unseen {
    hidden: u64,
    /// The first rows that are hidden.
    rows: Vec<u64>,
    merged: u64,
    /// The first areas that are merged; of .ods the cells that they begin in.
    areas: Vec<String>,
}

impl Unseen {
    /// Of a sheet by its name.
    pub(super) fn of(path: &Path, sheet: &str) -> Result<Self, RecordsError> {
        if super::is_ods(path) {
            return of_ods(path, sheet);
        }
        // A workbook whose parts are called otherwise has its rows read all the same.
        let Some(part) = part_of(path, sheet)? else { return Ok(Self::default()) };
        of_xlsx(path, &part)
    }

    /// In sentences.
    pub(super) fn said(&self) -> impl Iterator<Item = String> {
        let more = |count: u64, named: usize| if count > named as u64 { ", …" } else { "" };
        let rows: Vec<String> = self.rows.iter().map(u64::to_string).collect();
        let hidden = (self.hidden > 0).then(|| {
            let rows = format!("{}{}", rows.join(", "), more(self.hidden, rows.len()));
            match self.hidden {
                1 => format!("1 row of it is hidden (row {rows} of the sheet) and is read like the others"),
                hidden => format!(
                    "{hidden} rows of it are hidden (rows {rows} of the sheet) and are read like the others"
                ),
            }
        });
        let merged = (self.merged > 0).then(|| {
            let areas = format!("{}{}", self.areas.join(", "), more(self.merged, self.areas.len()));
            match self.merged {
                1 => format!("cells are merged ({areas}), and only the first of them holds a value"),
                merged => format!(
                    "cells are merged in {merged} places ({areas}), and only the first of each holds a value"
                ),
            }
        });
        hidden.into_iter().chain(merged)
    }

    fn hide(&mut self, row: u64, rows: u64) {
        self.hidden += rows;
        let room = NAMED.saturating_sub(self.rows.len()) as u64;
        self.rows.extend(row..row + rows.min(room));
    }

    fn merge(&mut self, area: String) {
        self.merged += 1;
        if self.areas.len() < NAMED {
            self.areas.push(area);
        }
    }
}

/// The part of an .xlsx workbook that holds a sheet: its number is tied to a name, and that to a place.
pub(super) fn part_of(path: &Path, sheet: &str) -> Result<Option<String>, RecordsError> {
    let mut parts = Parts::open(path)?;
    if !parts.has("xl/workbook.xml") || !parts.has("xl/_rels/workbook.xml.rels") {
        return Ok(None);
    }
    let mut id = None;
    each_tag(path, parts.named("xl/workbook.xml")?, |tag| {
        if tag.local_name().as_ref() == "sheet" && attribute(tag, "name").as_deref() == Some(sheet) {
            id = attribute(tag, "id");
        }
    })?;
    let Some(id) = id else { return Ok(None) };
    let mut place = None;
    each_tag(path, parts.named("xl/_rels/workbook.xml.rels")?, |tag| {
        if tag.local_name().as_ref() == "Relationship" && attribute(tag, "Id").as_ref() == Some(&id) {
            place = attribute(tag, "Target");
        }
    })?;
    let place = place.map(|target| match target.strip_prefix('/') {
        Some(whole) => whole.to_owned(),
        None => format!("xl/{target}"),
    });
    Ok(place.filter(|place| parts.has(place)))
}

fn of_xlsx(path: &Path, part: &str) -> Result<Unseen, RecordsError> {
    let mut parts = Parts::open(path)?;
    let (mut unseen, mut line) = (Unseen::default(), 0_u64);
    each_tag(path, parts.named(part)?, |tag| match tag.local_name().as_ref() {
        "row" => {
            let number = attribute(tag, "r").and_then(|text| text.parse().ok());
            line = number.unwrap_or_else(|| line.saturating_add(1));
            if is_true(tag, "hidden") {
                unseen.hide(line, 1);
            }
        }
        "mergeCell" => unseen.merge(attribute(tag, "ref").unwrap_or_default()),
        _ => {}
    })?;
    Ok(unseen)
}

fn of_ods(path: &Path, sheet: &str) -> Result<Unseen, RecordsError> {
    let mut parts = Parts::open(path)?;
    let (mut unseen, mut line, mut is_within) = (Unseen::default(), 0_u64, false);
    each_tag(path, parts.named(CONTENT)?, |tag| match tag.local_name().as_ref() {
        // Tables within cells are left out, and have other names.
        "table" => is_within = attribute(tag, "name").as_deref() == Some(sheet),
        "table-row" if is_within => {
            let rows = count(tag, "number-rows-repeated");
            if matches!(attribute(tag, "visibility").as_deref(), Some("collapse" | "filter")) {
                unseen.hide(line.saturating_add(1), rows);
            }
            line = line.saturating_add(rows);
        }
        "table-cell" if is_within => {
            let spans = ["number-columns-spanned", "number-rows-spanned"];
            if spans.iter().any(|span| count(tag, span) > 1) {
                unseen.merge(format!("in row {line}"));
            }
        }
        _ => {}
    })?;
    Ok(unseen)
}

fn is_true(tag: &BytesStart<'_>, name: &str) -> bool {
    matches!(attribute(tag, name).as_deref(), Some("1" | "true"))
}
