//! `[[join]]` as a plan says it.

use super::{Counting, MissingMatch};
use crate::columns::AS_OF_FIELD;
use crate::mistakes::{At, Keys, Value, Walk};
use crate::source::FileForm;
use crate::written::{WrittenColumns, read_form, read_written};
use std::ops::Range;
use toml::de::{DeTable, DeValue};

/// A second file, and what is joined from it.
#[derive(Debug)]
pub(crate) struct PlannedJoin {
    pub(super) file: At<String>,
    pub(super) form: FileForm,
    pub(super) written: WrittenColumns,
    /// Our columns of the key, each with theirs.
    pub(super) matches: Vec<(At<String>, At<String>)>,
    /// Their columns that are brought, each with the name it gets here.
    pub(super) columns: Vec<JoinedColumn>,
    pub(super) missing: MissingMatch,
    pub(super) counting: Counting<At<String>>,
}

/// A column that is brought.
#[derive(Debug)]
pub(super) struct JoinedColumn {
    pub(super) theirs: At<String>,
    pub(super) ours: At<String>,
}

pub(crate) const JOIN: Keys<'static> = Keys {
    part: "[[join]]",
    known: &[
        "file",
        "match",
        "columns",
        "without_match",
        "duplicates",
        "separator",
        "quote",
        "encoding",
        "header_line",
        "sheet",
        "table",
        "query",
        "dates",
        "amounts",
        "numbers",
    ],
    later: &[],
};

const MISSING: [(&str, MissingMatch); 4] = [
    ("keep", MissingMatch::Keep),
    ("set aside", MissingMatch::SetAside),
    ("leave out", MissingMatch::LeaveOut),
    ("refuse", MissingMatch::Refuse),
];

const MATCH: &str = "our column and theirs, such as { Customer = \"Name\" }";
const COLUMNS: &str = "a list of their columns, or { \"our name\" = \"their column\" }";
const DUPLICATES: &str = "\"refuse\", \"first\", \"last\", \"sum\", { sum_up_to_as_of = \"…\" }, { sum_up_to_as_of = \"…\", settles = \"…\" }, { latest = \"…\" }, { earliest = \"…\" } or { valid = [\"From\", \"To\"], on = \"…\" }";

impl PlannedJoin {
    /// Whether it wants an as-of date.
    pub(crate) fn uses_as_of(&self) -> bool {
        self.file.value.contains(AS_OF_FIELD) || self.adds_up_to_as_of()
    }

    /// Whether what it brings is another sum on another as-of date.
    pub(crate) fn adds_up_to_as_of(&self) -> bool {
        self.counting.dates_up_to_as_of().is_some()
    }

    /// How the columns that it brings are called here.
    pub(crate) fn names(&self) -> impl Iterator<Item = &str> {
        self.columns.iter().map(|column| column.ours.value.trim())
    }
}

pub(crate) fn read_join(walk: &mut Walk, table: &DeTable<'_>, span: Range<usize>) -> Option<PlannedJoin> {
    let before = walk.mistakes.count();
    walk.check_keys(table, &JOIN);
    let file = walk.needed(table, "file", span.clone(), "file = \"…\", the second file");
    let file = file.and_then(|value| walk.text(value, "the name of the second file"));
    let form = read_form(walk, table);
    let written = read_written(walk, table);
    let matches = walk.needed(table, "match", span.clone(), MATCH);
    let matches = matches.and_then(|value| read_matches(walk, value));
    let columns = walk.needed(table, "columns", span, COLUMNS).and_then(|value| read_columns(walk, value));
    let missing = match table.get("without_match") {
        Some(value) => walk.choice(value, &MISSING),
        None => Some(MissingMatch::default()),
    };
    let counting = match table.get("duplicates") {
        Some(value) => read_counting(walk, value),
        None => Some(Counting::NoneOfThem),
    };
    let join = PlannedJoin {
        file: file?,
        form: form?,
        written: written?,
        matches: matches?,
        columns: columns?,
        missing: missing?,
        counting: counting?,
    };
    (walk.mistakes.count() == before).then_some(join)
}

fn read_matches(walk: &mut Walk, value: &Value<'_>) -> Option<Vec<(At<String>, At<String>)>> {
    let table = walk.table(value, MATCH)?;
    if table.is_empty() {
        walk.mistakes.tell(value.span(), "no columns are matched", MATCH);
        return None;
    }
    let pair = |(ours, theirs): (&toml::Spanned<std::borrow::Cow<'_, str>>, &Value<'_>)| {
        let ours = At { value: ours.get_ref().to_string(), span: ours.span() };
        Some((ours, walk.text(theirs, "the name of their column")?))
    };
    table.iter().map(pair).collect()
}

fn read_columns(walk: &mut Walk, value: &Value<'_>) -> Option<Vec<JoinedColumn>> {
    let columns: Vec<JoinedColumn> = match value.get_ref() {
        DeValue::Table(table) => {
            let pair = |(ours, theirs): (&toml::Spanned<std::borrow::Cow<'_, str>>, &Value<'_>)| {
                let ours = At { value: ours.get_ref().to_string(), span: ours.span() };
                Some(JoinedColumn { theirs: walk.text(theirs, "the name of their column")?, ours })
            };
            table.iter().map(pair).collect::<Option<_>>()?
        }
        _ => {
            let names = walk.texts(value, COLUMNS)?;
            names.into_iter().map(|theirs| JoinedColumn { ours: theirs.clone(), theirs }).collect()
        }
    };
    if columns.is_empty() {
        walk.mistakes.tell(value.span(), "no columns are named", COLUMNS);
        return None;
    }
    Some(columns)
}

fn read_counting(walk: &mut Walk, value: &Value<'_>) -> Option<Counting<At<String>>> {
    let DeValue::Table(table) = value.get_ref() else {
        let words = [
            ("refuse", Counting::Refused),
            ("first", Counting::First),
            ("last", Counting::Last),
            ("sum", Counting::Summed(None)),
        ];
        let text = walk.text(value, DUPLICATES)?;
        let found = words.into_iter().find(|(word, _)| *word == text.value).map(|(_, counting)| counting);
        if found.is_none() {
            let what = format!("\"{}\" is not a choice here", text.value.escape_debug());
            walk.mistakes.tell(text.span, what, DUPLICATES);
        }
        return found;
    };
    let keys: Vec<&str> = table.keys().map(|key| key.get_ref().as_ref()).collect();
    let mut column = |key: &str| table.get(key).and_then(|value| walk.text(value, "the name of a column"));
    match keys.as_slice() {
        ["latest"] => column("latest").map(Counting::Latest),
        ["earliest"] => column("earliest").map(Counting::Earliest),
        ["sum_up_to_as_of"] => column("sum_up_to_as_of").map(|dates| Counting::Summed(Some(dates))),
        ["settles", "sum_up_to_as_of"] | ["sum_up_to_as_of", "settles"] => {
            Some(Counting::Settling { dates: column("sum_up_to_as_of")?, amount: column("settles")? })
        }
        ["on", "valid"] | ["valid", "on"] => {
            let on = column("on")?;
            let both = walk.two_items(table.get("valid")?, "their columns of the first and the last day")?;
            let [from, to] = both;
            let from = walk.text(from, "the name of their column of the first day")?;
            let to = walk.text(to, "the name of their column of the last day")?;
            Some(Counting::Valid { from, to, on })
        }
        _ => {
            walk.mistakes.tell(value.span(), "this is not a rule for rows of one key", DUPLICATES);
            None
        }
    }
}
