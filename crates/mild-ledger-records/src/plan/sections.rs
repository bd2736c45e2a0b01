//! The parts of a plan, from its text to the model.

mod arithmetic;
mod headers;
mod measures;
mod periods;
mod working_time;

use super::model::{
    AmountColumn, AsOf, Condition, DateColumnPlan, DateSource, Operand, Operation, Plan, PlannedColumn,
    PlannedKind, PlannedMove, PlannedReport, Repeats, Requirement, ShiftSource, Test, TestKind, Then,
    TimeKept,
};
use super::vocabulary as keys;
use crate::files::Fingerprint;
use crate::mistakes::{At, PlanMistakes, Value, Walk, kind_of, read_date, syntax_mistake};
use crate::zones::Zone;
use mild_ledger::{CountRule, Date, DatePattern, Measure, MonthEnd, Roll, Scale};
use std::ops::Range;
use std::path::Path;
use toml::de::{DeTable, DeValue};

/// The longest cell where a plan states none: 1 MiB.
const LONGEST_CELL: usize = 1 << 20;

/// Reads a plan's text; every mistake found is in the error.
pub(super) fn read(path: &Path, source: &str, fingerprint: Fingerprint) -> Result<Plan, PlanMistakes> {
    let mut walk = Walk::default();
    let plan = match DeTable::parse(source) {
        Ok(tree) => read_plan(&mut walk, path, (source, fingerprint), tree.get_ref()),
        Err(error) => {
            walk.mistakes.push(syntax_mistake(source, &error));
            None
        }
    };
    match plan {
        Some(plan) if walk.mistakes.is_empty() => Ok(plan),
        _ => Err(PlanMistakes::new(path, source, walk.mistakes)),
    }
}

fn read_plan(
    walk: &mut Walk,
    path: &Path,
    (source, fingerprint): (&str, Fingerprint),
    top: &DeTable<'_>,
) -> Option<Plan> {
    let end = source.len()..source.len();
    walk.check_keys(top, &keys::TOP);
    if let Some(version) =
        walk.needed(top, "plan", 0..0, "plan = 1, the version of the format, as the first line")
    {
        walk.whole_number(version, 1..=1);
    }
    let title = match top.get("title") {
        Some(title) => walk.text(title, "a text").map(|title| title.value),
        None => Some(path.file_stem().unwrap_or_default().to_string_lossy().into_owned()),
    };
    let as_of = top.get("as_of").and_then(|value| read_as_of(walk, value));
    let records = walk.needed(top, "records", end.clone(), "[records] with file = \"…\"");
    let records = records.and_then(|value| read_records(walk, value));
    let select = walk.tables(top, "select");
    let select = select.into_iter().filter_map(|(table, span)| read_condition(walk, table, span)).collect();
    let calendars = working_time::read_calendars(walk, top);
    let columns = walk.tables(top, "column");
    let columns = columns.into_iter().filter_map(|(table, span)| read_column(walk, table, span)).collect();
    let reports = walk.tables(top, "report");
    let reports = reports.into_iter().filter_map(|(table, span)| read_report(walk, table, span)).collect();
    let output = walk.needed(top, "output", end, "[output] with rows = \"…\"");
    let output = output.and_then(|value| read_output(walk, value, path));
    let (records, output) = (records?, output?);
    Some(Plan {
        path: path.to_owned(),
        source: source.to_owned(),
        fingerprint,
        title: title?,
        as_of,
        records_file: records.file,
        key: records.key,
        repeats: records.repeats,
        longest_cell: records.longest_cell,
        dates: records.dates,
        amounts: records.amounts,
        select,
        calendars,
        columns,
        reports,
        output_rows: output.rows,
        output_exceptions: output.exceptions,
        output_columns: output.columns,
        order_by: output.order_by,
    })
}

fn read_as_of(walk: &mut Walk, value: &Value<'_>) -> Option<AsOf> {
    const EXPECTED: &str = "a date such as 2026-09-30, or a day such as \"today\" or \"end of last month\"";
    match value.get_ref() {
        DeValue::String(_) => walk.parsed(value, EXPECTED, str::parse),
        _ => read_date(walk, value, EXPECTED).map(AsOf::Date),
    }
}

struct Records {
    file: At<String>,
    key: Vec<At<String>>,
    repeats: Option<Repeats>,
    longest_cell: usize,
    dates: Vec<DateColumnPlan>,
    amounts: Vec<AmountColumn>,
}

const REPEATS: [(&str, Repeats); 5] = [
    ("set aside", Repeats::SetAside),
    ("keep", Repeats::Keep),
    ("first", Repeats::First),
    ("last", Repeats::Last),
    ("sum", Repeats::Sum),
];

fn read_records(walk: &mut Walk, value: &Value<'_>) -> Option<Records> {
    let table = walk.table(value, "a table under [records]")?;
    walk.check_keys(table, &keys::RECORDS);
    let file = walk.needed(table, "file", value.span(), "file = \"…\", the records file");
    let file = file
        .and_then(|value| walk.text(value, "the name of the records file"))
        .and_then(|name| check_name(walk, name));
    let key = match table.get("key") {
        Some(value) => walk.texts(value, "the name of the key column, or a list of names")?,
        None => Vec::new(),
    };
    let repeats = table.get("repeats").and_then(|value| walk.choice(value, &REPEATS));
    if let (Some(value), true) = (table.get("repeats"), key.is_empty()) {
        walk.mistake(
            value.span(),
            "repeats says what happens to repeated keys, but there is no key",
            "key = \"…\" above it",
        );
    }
    let longest_cell = match table.get("longest_cell") {
        Some(value) => walk.whole_number(value, 1..=1 << 30)? as usize,
        None => LONGEST_CELL,
    };
    let mut dates = Vec::new();
    if let Some(value) = table.get("dates") {
        for (name, value) in walk.table(value, "columns with their patterns")? {
            let column = At { value: name.get_ref().to_string(), span: name.span() };
            dates.extend(read_date_column(walk, column, value));
        }
    }
    let mut amounts = Vec::new();
    if let Some(value) = table.get("amounts") {
        for (name, value) in walk.table(value, "columns with their decimals")? {
            let column = At { value: name.get_ref().to_string(), span: name.span() };
            amounts.extend(read_amount_column(walk, column, value));
        }
    }
    Some(Records { file: file?, key, repeats, longest_cell, dates, amounts })
}

/// A header with a dot that was not quoted reads as a table in a table.
fn is_unquoted_dot(walk: &mut Walk, column: &At<String>, table: &DeTable<'_>, known: &[&str]) -> bool {
    let Some(inner) = table.keys().next() else { return false };
    let word: &str = inner.get_ref();
    let is_path = table.len() == 1 && !known.contains(&word) && inner.span().start == column.span.end + 1;
    if is_path {
        let help = format!("a header with a dot wants quotes: \"{}.{word}\" = …", column.value);
        walk.mistake_with_help(
            column.span.start..inner.span().end,
            "the dot makes two keys of this header",
            "a header in quotes",
            Some(help),
        );
    }
    is_path
}

fn read_date_column(walk: &mut Walk, column: At<String>, value: &Value<'_>) -> Option<DateColumnPlan> {
    const EXPECTED: &str = "how its dates are written, such as \"day/month/year\" or \"iso\"";
    let (mut time, mut zone) = (TimeKept::Dropped, None);
    let (pattern, required) = match value.get_ref() {
        DeValue::Table(table) if is_unquoted_dot(walk, &column, table, keys::DATE.known) => return None,
        DeValue::Table(table) => {
            walk.check_keys(table, &keys::DATE);
            let written = walk.needed(table, "written", value.span(), EXPECTED);
            let required = table.get("required").and_then(|value| walk.yes_or_no(value)).unwrap_or(false);
            if let Some(value) = table.get("time") {
                time = walk.choice(value, &[("drop", TimeKept::Dropped), ("keep", TimeKept::Kept)])?;
            }
            if let Some(value) = table.get("zone") {
                zone = Some(read_zone(walk, value)?);
            }
            (written?, required)
        }
        _ => (value, false),
    };
    let pattern: DatePattern = walk.parsed(pattern, EXPECTED, str::parse)?;
    let required = if required { Requirement::Required } else { Requirement::Optional };
    Some(DateColumnPlan { column, pattern, time, zone, required })
}

fn read_zone(walk: &mut Walk, value: &Value<'_>) -> Option<Zone> {
    const EXPECTED: &str = "an IANA name such as \"Europe/London\", or \"UTC\"";
    let name = walk.text(value, EXPECTED)?;
    match name.value.parse() {
        Ok(zone) => Some(zone),
        Err(_) => {
            let what = format!("\"{}\" is not a time zone", name.value.escape_debug());
            walk.mistake(name.span, what, EXPECTED);
            None
        }
    }
}

fn read_amount_column(walk: &mut Walk, column: At<String>, value: &Value<'_>) -> Option<AmountColumn> {
    const EXPECTED: &str = "a table such as { decimals = 2 }";
    let table = walk.table(value, EXPECTED)?;
    if is_unquoted_dot(walk, &column, table, keys::AMOUNT.known) {
        return None;
    }
    walk.check_keys(table, &keys::AMOUNT);
    let decimals =
        walk.needed(table, "decimals", value.span(), "decimals = 2, or as many as its amounts have");
    let decimals =
        decimals.and_then(|value| walk.whole_number(value, 0..=i64::from(Scale::MOST_DECIMALS)))?;
    let required = table.get("required").and_then(|value| walk.yes_or_no(value)).unwrap_or(true);
    let required = if required { Requirement::Required } else { Requirement::Optional };
    Some(AmountColumn { column, scale: Scale::new(decimals as u8).ok()?, required })
}

const TESTS: [(&str, TestKind); 8] = [
    ("is", TestKind::Is),
    ("is_not", TestKind::IsNot),
    ("over", TestKind::Over),
    ("at_least", TestKind::AtLeast),
    ("under", TestKind::Under),
    ("at_most", TestKind::AtMost),
    ("blank", TestKind::Blank),
    ("within", TestKind::Within),
];

fn read_condition(walk: &mut Walk, table: &DeTable<'_>, span: Range<usize>) -> Option<Condition> {
    walk.check_keys(table, &keys::CONDITION);
    if let Some(value) = table.get("any") {
        if let Some(other) = table.keys().find(|key| key.get_ref() != "any") {
            walk.mistake(
                other.span(),
                "any stands alone in its condition",
                "the other conditions in tables of their own",
            );
        }
        return read_conditions(walk, value).map(Condition::Any);
    }
    let column = walk.needed(table, "column", span.clone(), "column = \"…\", the column to look at");
    let column = column.and_then(|value| walk.text(value, "the name of a column"));
    let mut tests = Vec::new();
    for (word, kind) in TESTS {
        if let Some(value) = table.get(word) {
            let operand = match kind {
                TestKind::Blank => {
                    walk.yes_or_no(value).map(|yes| if yes { Operand::Yes } else { Operand::No })
                }
                TestKind::Within => {
                    walk.parsed(value, "days such as \"last month\"", str::parse).map(Operand::Window)
                }
                _ => read_operand(walk, value),
            };
            tests.push(Test { kind, operand: At { value: operand?, span: value.span() } });
        }
    }
    let has_other_keys = table.keys().any(|key| key.get_ref() != "column");
    if tests.is_empty() && column.is_some() && !has_other_keys {
        let expected = "is, is_not, over, at_least, under, at_most, within or blank";
        walk.mistake(span, "this condition does not say what must hold", expected);
        return None;
    }
    Some(Condition::Column { column: column?, tests })
}

fn read_conditions(walk: &mut Walk, value: &Value<'_>) -> Option<Vec<Condition>> {
    const EXPECTED: &str = "a list of conditions such as [{ column = \"Amount\", over = 50 }]";
    let DeValue::Array(items) = value.get_ref() else {
        walk.mistake(value.span(), format!("{} stands here", kind_of(value.get_ref())), EXPECTED);
        return None;
    };
    if items.is_empty() {
        walk.mistake(value.span(), "the list is empty", EXPECTED);
        return None;
    }
    items
        .iter()
        .map(|item| {
            let table = walk.table(item, "a condition such as { column = \"Amount\", over = 50 }")?;
            read_condition(walk, table, item.span())
        })
        .collect()
}

fn read_operand(walk: &mut Walk, value: &Value<'_>) -> Option<Operand> {
    const EXPECTED: &str = "a text, a number, a date, or { column = \"…\" }";
    match value.get_ref() {
        DeValue::String(text) => Some(Operand::Text(text.to_string())),
        DeValue::Integer(_) => {
            walk.whole_number(value, i64::MIN..=i64::MAX).map(|number| Operand::Number(number.to_string()))
        }
        DeValue::Float(digits) => Some(Operand::Number(digits.as_str().replace('_', ""))),
        DeValue::Datetime(_) => read_date(walk, value, EXPECTED).map(Operand::Date),
        DeValue::Table(table) => read_reference(walk, table, value).map(Operand::Column),
        other => {
            walk.mistake(value.span(), format!("{} stands here", kind_of(other)), EXPECTED);
            None
        }
    }
}

/// `{ column = "…" }`.
fn read_reference(walk: &mut Walk, table: &DeTable<'_>, value: &Value<'_>) -> Option<String> {
    walk.check_keys(table, &keys::REFERENCE);
    let column = walk.needed(table, "column", value.span(), "{ column = \"…\" }")?;
    walk.text(column, "the name of a column").map(|name| name.value)
}

fn read_column(walk: &mut Walk, table: &DeTable<'_>, span: Range<usize>) -> Option<PlannedColumn> {
    walk.check_keys(table, &keys::COLUMN);
    let name = match table.get("name") {
        Some(value) => Some(walk.text(value, "the new column's header")?),
        None => None,
    };
    if let Some(name) = name.as_ref().filter(|name| name.value.trim().is_empty()) {
        walk.mistake(name.span.clone(), "the new column has no name", "a header");
    }
    let kinds = keys::COLUMN_KINDS;
    let stated: Vec<_> = kinds.iter().filter(|(word, _)| table.contains_key(*word)).collect();
    // A rate is over a tenure.
    let stated = match stated.as_slice() {
        [rate, tenure] if (rate.0, tenure.0) == ("rate", "tenure") => vec![*rate],
        _ => stated,
    };
    let [(kind, companions)] = stated.as_slice() else {
        let (what, place) = match stated.get(1).and_then(|(word, _)| table.get_key_value(*word)) {
            Some((key, _)) => ("the column is two things at once", key.span()),
            None => ("the column does not say what it holds", span),
        };
        walk.mistake(place, what, kinds.map(|(word, _)| word).join(", "));
        return None;
    };
    for key in table.keys() {
        let word: &str = key.get_ref();
        let of_another = word != *kind
            && kinds.iter().any(|(_, theirs)| theirs.contains(&word))
            && !companions.contains(&word);
        if of_another {
            walk.mistake(key.span(), format!("{word} does not go with {kind}"), companions.join(", "));
        }
    }
    let kind = match *kind {
        "between" => read_between(walk, table, span.clone()),
        "from" => read_move(walk, table, span.clone()),
        "bucket" => read_bucket(walk, table, span.clone()),
        "period" => periods::read_period(walk, table, span.clone()),
        "field" => periods::read_field(walk, table, span.clone()),
        "age" => measures::read_age(walk, table),
        "anniversary" => measures::read_anniversary(walk, table),
        "tenure" => measures::read_tenure(walk, table, span.clone()),
        "rate" => measures::read_rate(walk, table, span.clone()),
        "first_of" => measures::read_first_of(walk, table),
        "working_day" => working_time::read_working_day(walk, table, span.clone()),
        "sum" => arithmetic::read(walk, table, "sum", Operation::Sum),
        "difference" => arithmetic::read(walk, table, "difference", Operation::Difference),
        "product" => arithmetic::read(walk, table, "product", Operation::Product),
        "quotient" => arithmetic::read(walk, table, "quotient", Operation::Quotient),
        _ => read_choice(walk, table, span.clone()),
    }?;
    let name = match name {
        Some(name) => name,
        None => match headers::header_of(&kind) {
            Some(value) => At { value, span },
            None => {
                walk.mistake(span, "name is missing", "name = \"…\", the new column's header");
                return None;
            }
        },
    };
    Some(PlannedColumn { name, kind })
}

fn read_between(walk: &mut Walk, table: &DeTable<'_>, span: Range<usize>) -> Option<PlannedKind> {
    const EXPECTED: &str = "a start and an end, such as [\"Issued\", \"as-of\"]";
    let value = table.get("between")?;
    let ends = match value.get_ref() {
        DeValue::Array(items) if items.len() == 2 => items,
        other => {
            walk.mistake(value.span(), format!("{} stands here", kind_of(other)), EXPECTED);
            return None;
        }
    };
    let (start, end) =
        (read_date_source(walk, &ends[0], EXPECTED), read_date_source(walk, &ends[1], EXPECTED));
    if let Some(DeValue::String(text)) = table.get("count").map(|count| count.get_ref())
        && text.as_ref() == "working days"
    {
        return working_time::read_working_days(walk, table, (start?, end?), span);
    }
    if let Some((key, _)) = table.get_key_value("calendar") {
        walk.mistake(key.span(), "a calendar goes with working days only", "count = \"working days\"");
        return None;
    }
    let measuring = measures::read_measuring(walk, table, span)?;
    let within = match table.get("within") {
        Some(value) => {
            let window = walk.parsed(value, "days such as \"last month\"", str::parse)?;
            if measuring.measure != Measure::Count(CountRule::DAYS) {
                walk.mistake(
                    value.span(),
                    "only days can be counted within a stretch of days",
                    "count = \"days\"",
                );
                return None;
            }
            Some(At { value: window, span: value.span() })
        }
        None => None,
    };
    Some(PlannedKind::Between { start: start?, end: end?, within, measuring })
}

/// A date, `as-of`, or the name of a column of dates.
fn read_date_source(walk: &mut Walk, value: &Value<'_>, expected: &str) -> Option<At<DateSource>> {
    let source = match value.get_ref() {
        DeValue::Datetime(_) => DateSource::Date(read_date(walk, value, expected)?),
        DeValue::Table(table) => DateSource::Column(read_reference(walk, table, value)?),
        _ => match walk.text(value, expected)?.value {
            text if text == "as-of" => DateSource::AsOf,
            column => DateSource::Column(column),
        },
    };
    Some(At { value: source, span: value.span() })
}

fn read_move(walk: &mut Walk, table: &DeTable<'_>, span: Range<usize>) -> Option<PlannedKind> {
    const EXPECTED: &str = "an amount of time such as \"30 days\" or \"2 months\"";
    let from = table.get("from").and_then(|value| walk.text(value, "the name of a date column"));
    let month_end = match table.get("month_end") {
        Some(value) => walk.choice(value, &MonthEnd::ALL.map(|rule| (rule.word(), rule)))?,
        None => MonthEnd::default(),
    };
    let shift = match table.get("shift") {
        Some(value) => Some(read_shift_source(walk, value, EXPECTED)?),
        None => None,
    };
    let weekday = match table.get("weekday") {
        Some(value) => Some(walk.parsed(value, "a weekday such as \"on or after monday\"", str::parse)?),
        None => None,
    };
    let roll = match table.get("roll") {
        Some(value) => walk.choice(value, &Roll::ALL.map(|roll| (roll.word(), roll)))?,
        None => Roll::Unadjusted,
    };
    if shift.is_none() && weekday.is_none() && roll == Roll::Unadjusted {
        walk.mistake(span, "shift is missing", EXPECTED);
        return None;
    }
    let by_working_days =
        matches!(&shift, Some(ShiftSource::Every(shift)) if shift.number_of_working_days() != 0);
    let by_text = matches!(&shift, Some(ShiftSource::Text { .. })) && table.contains_key("calendar");
    let calendar = match table.get_key_value("calendar") {
        _ if by_working_days || by_text || roll != Roll::Unadjusted => {
            Some(working_time::read_calendar_choice(walk, table, span)?)
        }
        Some((key, _)) => {
            let expected = "shift = \"10 working days\", or roll = \"following\"";
            walk.mistake(key.span(), "nothing here asks for a calendar", expected);
            return None;
        }
        None => None,
    };
    Some(PlannedKind::Move(Box::new(PlannedMove { from: from?, shift, month_end, weekday, roll, calendar })))
}

/// `"30 days"`, `{ column = "Terms" }` with amounts in text, or `{ column = "Terms", unit = "days" }` with numbers.
fn read_shift_source(walk: &mut Walk, value: &Value<'_>, expected: &str) -> Option<ShiftSource> {
    let DeValue::Table(table) = value.get_ref() else {
        return walk.parsed(value, expected, str::parse).map(ShiftSource::Every);
    };
    walk.check_keys(table, &keys::SHIFT_BY);
    let column = walk.needed(table, "column", value.span(), "{ column = \"…\", unit = \"days\" }")?;
    let column = walk.text(column, "the name of a column")?;
    Some(match table.get("unit") {
        Some(unit) => {
            ShiftSource::NumberOf { column, unit: walk.parsed(unit, "a unit such as \"days\"", str::parse)? }
        }
        None => ShiftSource::Text { column },
    })
}

fn read_bucket(walk: &mut Walk, table: &DeTable<'_>, span: Range<usize>) -> Option<PlannedKind> {
    const EXPECTED: &str = "upper edges such as [0, 30, 60, 90]";
    let of = table.get("bucket").and_then(|value| walk.text(value, "the name of a column of numbers"));
    let value = walk.needed(table, "edges", span, EXPECTED)?;
    let DeValue::Array(items) = value.get_ref() else {
        walk.mistake(value.span(), format!("{} stands here", kind_of(value.get_ref())), EXPECTED);
        return None;
    };
    let mut edges: Vec<i64> = Vec::new();
    for item in items.iter() {
        let edge = walk.whole_number(item, i64::MIN..=i64::MAX)?;
        if let Some(before) = edges.last().filter(|before| **before >= edge) {
            walk.mistake(
                item.span(),
                format!("the edge {edge} does not lie above the edge {before} before it"),
                "edges that strictly increase",
            );
            return None;
        }
        edges.push(edge);
    }
    if edges.is_empty() || edges.len() > mild_ledger::AgingBuckets::MOST_EDGES {
        walk.mistake(value.span(), format!("there are {} edges", edges.len()), "1 to 1000 edges");
        return None;
    }
    Some(PlannedKind::Bucket { of: of?, edges: At { value: edges, span: value.span() } })
}

fn read_choice(walk: &mut Walk, table: &DeTable<'_>, span: Range<usize>) -> Option<PlannedKind> {
    const EXPECTED: &str = "a text, or { column = \"…\" }";
    let when = table.get("when").and_then(|value| read_conditions(walk, value));
    let mut read_then = |value: &Value<'_>| -> Option<At<Then>> {
        let then = match value.get_ref() {
            DeValue::Table(table) => Then::Column(read_reference(walk, table, value)?),
            _ => Then::Text(walk.text(value, EXPECTED)?.value),
        };
        Some(At { value: then, span: value.span() })
    };
    let otherwise = match table.get("else") {
        Some(value) => Some(read_then(value)?),
        None => None,
    };
    let then = table.get("then").and_then(&mut read_then);
    if !table.contains_key("then") {
        walk.mistake(span, "then is missing", EXPECTED);
    }
    Some(PlannedKind::Choice { when: when?, then: then?, otherwise })
}

fn read_report(walk: &mut Walk, table: &DeTable<'_>, span: Range<usize>) -> Option<PlannedReport> {
    walk.check_keys(table, &keys::REPORT);
    let kind = walk.needed(table, "kind", span.clone(), "kind = \"aging\"");
    let kind = kind.and_then(|value| walk.choice(value, &[("aging", ())]));
    let title = match table.get("title") {
        Some(value) => walk.text(value, "a text").map(|title| title.value),
        None => Some("Aging".to_owned()),
    };
    let mut column = |key: &str| table.get(key).and_then(|value| walk.text(value, "the name of a column"));
    let (issued, paid, by) = (column("issued"), column("paid"), column("by"));
    let (band, amount) = (column("band"), column("amount"));
    for (key, value) in [("band", &band), ("amount", &amount)] {
        if value.is_none() && !table.contains_key(key) {
            walk.mistake(
                span.clone(),
                format!("{key} is missing"),
                format!("{key} = \"…\", the name of a column"),
            );
        }
    }
    kind?;
    Some(PlannedReport { title: title?, band: band?, amount: amount?, issued, paid, by })
}

struct OutputPart {
    rows: At<String>,
    exceptions: At<String>,
    columns: Option<Vec<At<String>>>,
    order_by: Vec<At<String>>,
}

fn read_output(walk: &mut Walk, value: &Value<'_>, path: &Path) -> Option<OutputPart> {
    let table = walk.table(value, "a table under [output]")?;
    walk.check_keys(table, &keys::OUTPUT);
    let rows = walk.needed(table, "rows", value.span(), "rows = \"…\", the file to write the rows to");
    let rows =
        rows.and_then(|value| walk.text(value, "the name of a file")).and_then(|name| check_name(walk, name));
    let exceptions = match table.get("exceptions") {
        Some(value) => walk.text(value, "the name of a file").and_then(|name| check_name(walk, name)),
        None => {
            let stem = path.file_stem().unwrap_or_default().to_string_lossy();
            Some(At { value: format!("{stem}-exceptions-{{as_of}}.csv"), span: value.span() })
        }
    };
    let columns = match table.get("columns") {
        Some(value) => Some(walk.texts(value, "a list of column names")?),
        None => None,
    };
    let order_by = match table.get("order_by") {
        Some(value) => walk.texts(value, "column names, each perhaps with \", largest first\"")?,
        None => Vec::new(),
    };
    Some(OutputPart { rows: rows?, exceptions: exceptions?, columns, order_by })
}

/// A file name may hold `{as_of}`, and no other field.
fn check_name(walk: &mut Walk, name: At<String>) -> Option<At<String>> {
    let rest = name.value.replace("{as_of}", "");
    if rest.trim().is_empty() {
        walk.mistake(name.span, "the file has no name", "the name of a file");
        return None;
    }
    if rest.contains(['{', '}']) {
        walk.mistake(
            name.span,
            "a field in this file name is not known",
            "{as_of}, which is replaced by the as-of date",
        );
        return None;
    }
    Some(name)
}
