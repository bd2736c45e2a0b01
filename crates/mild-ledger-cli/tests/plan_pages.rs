//! The pages of plans list every key of the schema, with its type, default and words; `MILD_WRITE_PAGES=1` writes their tables.

#![allow(clippy::unwrap_used, clippy::panic)] // a test fails by panicking

use serde_json::Value;
use std::path::Path;

const PAGES: [&str; 6] = ["README", "records", "joins", "columns", "reports", "output"];
/// The most words of a page, and of a paragraph.
const MOST_WORDS: usize = 2_000;
const MOST_OF_A_PARAGRAPH: usize = 80;

fn schema() -> Value {
    serde_json::from_str(include_str!("../../../docs/schemas/plan.schema.json")).unwrap()
}

/// The part of the schema that has the keys of a table.
fn part<'s>(schema: &'s Value, name: &str) -> &'s Value {
    let properties = &schema["properties"];
    match name {
        "top" => schema,
        "records" | "output" => &properties[name],
        "join" | "bound" | "cross_check" => &properties[name]["items"],
        "condition" | "column" => &schema["$defs"][name],
        "dates" => &schema["$defs"]["dates"]["additionalProperties"]["anyOf"][1],
        "numbers" => &schema["$defs"]["numbers"]["additionalProperties"],
        kind => {
            let kinds = properties["report"]["items"]["oneOf"].as_array().unwrap();
            kinds.iter().find(|one| one["properties"]["kind"]["const"] == kind).unwrap()
        }
    }
}

/// What a value may be, in a word or two.
fn type_of(schema: &Value, value: &Value) -> String {
    if let Some(name) = value["$ref"].as_str() {
        let name = name.rsplit('/').next().unwrap();
        return match name {
            "day" => "date or named day".to_owned(),
            "groupings" => "column, period, or list".to_owned(),
            "dates" | "numbers" => "table of columns".to_owned(),
            _ => type_of(schema, &schema["$defs"][name]),
        };
    }
    let either = ["anyOf", "oneOf"].iter().find_map(|key| value[*key].as_array());
    if let Some(either) = either {
        let mut types: Vec<String> = Vec::new();
        for one in either {
            let one = type_of(schema, one);
            if !types.contains(&one) {
                types.push(one);
            }
        }
        return types.join(" or ");
    }
    match value["type"].as_str() {
        Some("array") => "list".to_owned(),
        Some("object") => "table".to_owned(),
        Some("string") => "text".to_owned(),
        Some("boolean") => "true or false".to_owned(),
        Some("integer") => "whole number".to_owned(),
        Some("number") => "number".to_owned(),
        _ if value["enum"].is_array() => "word".to_owned(),
        _ if value["const"].is_string() => "word".to_owned(),
        _ if value["const"].is_number() => "whole number".to_owned(),
        _ => "value".to_owned(),
    }
}

/// The words that a value may be, where they are few enough for a table.
fn words_of(value: &Value) -> String {
    let mut words: Vec<String> = Vec::new();
    let mut take = |value: &Value| {
        let listed = value["enum"].as_array().into_iter().flatten().chain(value.get("const"));
        words.extend(listed.filter_map(Value::as_str).map(|word| format!("`{word}`")));
    };
    take(value);
    for one in ["anyOf", "oneOf"].iter().filter_map(|key| value[*key].as_array()).flatten() {
        take(one);
        take(&one["items"]);
    }
    words.join(", ")
}

fn table_of_keys(schema: &Value, name: &str) -> String {
    let part = part(schema, name);
    let required: Vec<&str> =
        part["required"].as_array().into_iter().flatten().filter_map(Value::as_str).collect();
    let mut lines = vec!["| key | type | default | what it is |".to_owned(), "|---|---|---|---|".to_owned()];
    let of_every_report = ["title", "file", "when", "at", "kind"];
    let is_kind = part["properties"]["kind"]["const"].is_string();
    for (key, value) in part["properties"].as_object().unwrap() {
        if is_kind && of_every_report.contains(&key.as_str()) {
            continue;
        }
        let what = value["description"].as_str().unwrap_or_else(|| panic!("{name}.{key} has no description"));
        let default = match (&value["default"], value["$comment"].as_str()) {
            (Value::Null, Some(comment)) => comment.strip_prefix("default: ").unwrap().to_owned(),
            (Value::Null, None) if required.contains(&key.as_str()) => "needed".to_owned(),
            (Value::Null, None) => "–".to_owned(),
            (Value::String(word), _) => format!("`{word}`"),
            (other, _) => format!("`{other}`"),
        };
        let words = words_of(value);
        let words = if words.is_empty() { String::new() } else { format!(": {words}") };
        lines.push(format!("| `{key}` | {} | {default} | {what}{words} |", type_of(schema, value)));
    }
    lines.join("\n")
}

/// A page with its tables as the schema has them.
fn filled(schema: &Value, page: &str) -> String {
    let mut out = String::new();
    let mut rest = page;
    while let Some((before, after)) = rest.split_once("<!-- keys: ") {
        let (name, after) = after.split_once(" -->").unwrap();
        let (_, after) = after.split_once("<!-- end -->").unwrap();
        out += &format!("{before}<!-- keys: {name} -->\n{}\n<!-- end -->", table_of_keys(schema, name));
        rest = after;
    }
    out + rest
}

#[test]
fn the_pages_have_the_keys_of_the_schema() {
    let schema = schema();
    let mut listed = Vec::new();
    for name in PAGES {
        let path = Path::new(env!("CARGO_MANIFEST_DIR")).join(format!("../../docs/plan/{name}.md"));
        let page = std::fs::read_to_string(&path).unwrap();
        let expected = filled(&schema, &page);
        if std::env::var_os("MILD_WRITE_PAGES").is_some() {
            std::fs::write(&path, &expected).unwrap();
        } else {
            assert!(page == expected, "{name}: MILD_WRITE_PAGES=1 cargo test --test plan_pages writes it");
        }
        listed
            .extend(page.split("<!-- keys: ").skip(1).map(|rest| rest.split(' ').next().unwrap().to_owned()));
    }
    // Every part of a plan has its table.
    let kinds = schema["properties"]["report"]["items"]["oneOf"].as_array().unwrap();
    let kinds = kinds.iter().map(|kind| kind["properties"]["kind"]["const"].as_str().unwrap());
    let parts = [
        "top",
        "records",
        "dates",
        "numbers",
        "join",
        "column",
        "condition",
        "bound",
        "cross_check",
        "output",
    ];
    for part in parts.into_iter().chain(kinds) {
        assert!(listed.iter().any(|name| name == part), "{part} has no table");
    }
}

#[test]
fn no_page_is_a_wall() {
    for name in PAGES {
        let path = Path::new(env!("CARGO_MANIFEST_DIR")).join(format!("../../docs/plan/{name}.md"));
        let page = std::fs::read_to_string(&path).unwrap();
        let words = page.split_whitespace().filter(|word| word.contains(char::is_alphanumeric)).count();
        // The tables are looked up, not read; a page of them may be longer.
        let prose: usize = page
            .lines()
            .filter(|line| !line.starts_with('|'))
            .map(|line| line.split_whitespace().count())
            .sum();
        assert!(prose <= MOST_WORDS, "{name} has {prose} words of prose, {words} in all");
        for part in page.split("\n\n").filter(|part| !part.starts_with(['|', '`', '<', '-', '#'])) {
            let count = part.split_whitespace().count();
            assert!(count <= MOST_OF_A_PARAGRAPH, "{name}, {count} words: {part}");
        }
    }
}
