//! The help: topics, words, completions, and its size.

#![allow(clippy::unwrap_used, clippy::panic)] // a test fails by panicking

mod support;

use serde_json::Value;
use std::collections::BTreeSet;
use support::Desk;

const GLOSSARY: &str = include_str!("../help/glossary.md");

/// Every word that a schema allows, of plans, calendar files and printed JSON.
fn words_of_schemas() -> BTreeSet<String> {
    fn walk(value: &Value, words: &mut BTreeSet<String>) {
        match value {
            Value::Object(keys) => {
                let listed = keys.get("enum").and_then(Value::as_array).into_iter().flatten();
                words.extend(listed.chain(keys.get("const")).filter_map(Value::as_str).map(str::to_owned));
                keys.values().for_each(|value| walk(value, words));
            }
            Value::Array(values) => values.iter().for_each(|value| walk(value, words)),
            _ => {}
        }
    }
    let folder = std::path::Path::new(env!("CARGO_MANIFEST_DIR")).join("../../docs/schemas");
    let mut words = BTreeSet::new();
    for entry in std::fs::read_dir(folder).unwrap() {
        let text = std::fs::read_to_string(entry.unwrap().path()).unwrap();
        walk(&serde_json::from_str(&text).unwrap(), &mut words);
    }
    assert!(words.len() > 150, "{}", words.len());
    words
}

#[test]
fn the_glossary_has_every_word_of_the_schemas() {
    let missing: Vec<String> =
        words_of_schemas().into_iter().filter(|word| !GLOSSARY.contains(&format!("`{word}`"))).collect();
    assert_eq!(missing, Vec::<String>::new());
}

#[test]
fn every_topic_prints_its_section() {
    let desk = Desk::new();
    let topics: Vec<&str> =
        GLOSSARY.split("\n## ").skip(1).map(|section| section.lines().next().unwrap()).collect();
    assert!(topics.len() > 40);
    let all = desk.mild(&["help"]);
    for topic in topics {
        let answer = desk.mild(&["help", topic]);
        assert_eq!(answer.code, 0, "{topic}: {}", answer.err);
        let section =
            GLOSSARY.split(&format!("\n## {topic}\n")).nth(1).unwrap().split("\n## ").next().unwrap();
        for line in section.lines().filter(|line| line.starts_with("| `")) {
            let word = line.split('`').nth(1).unwrap();
            assert!(answer.out.contains(word), "{topic}, {word}: {}", answer.out);
        }
        assert!(!answer.out.contains(['|', '`']), "{}", answer.out);
        assert!(all.out.replace('\n', " ").contains(&topic.to_lowercase()), "{topic}: {}", all.out);
    }
}

#[test]
fn a_topic_may_be_a_command_a_part_of_a_title_or_mistyped() {
    let desk = Desk::new();
    let of = |topic: &[&str]| desk.mild(&[&["help"], topic].concat());
    assert!(
        of(&["aging"]).out.contains("mild aging [OPTIONS] --amount <COLUMN> <FILE>"),
        "{}",
        of(&["aging"]).out
    );
    assert!(of(&["patterns"]).out.starts_with("patterns of dates\n"));
    assert!(of(&["exit", "codes"]).out.contains("130   interrupted"));
    let wrong = of(&["rols"]);
    assert_eq!(wrong.code, 2);
    assert!(wrong.err.contains("mild help rolls"), "{}", wrong.err);
}

/// The commands, as the help lists them.
fn commands(desk: &Desk) -> Vec<String> {
    let help = desk.mild(&["-h"]).out;
    let (_, rest) = help.split_once("Commands:\n").unwrap();
    let lines = rest.lines().take_while(|line| !line.is_empty());
    let names = lines.filter(|line| line.starts_with("  ") && !line.starts_with("   "));
    names.map(|line| line.split_whitespace().next().unwrap().to_owned()).collect()
}

#[test]
fn the_short_help_fits_on_a_screen() {
    let desk = Desk::new();
    let names = commands(&desk);
    assert_eq!(names.len(), 18, "{names:?}");
    for name in names {
        let help = desk.mild(&[&name, "-h"]);
        assert_eq!(help.code, 0);
        let lines = help.out.lines().count();
        assert!(lines <= 50, "{name}: {lines} lines\n{}", help.out);
    }
    // What a person needs first comes first.
    let aging = desk.mild(&["aging", "-h"]).out;
    let place = |option: &str| aging.find(option).unwrap();
    assert!(place("--amount") < place("--as-of") && place("--by") < place("--save-plan"), "{aging}");
}

#[test]
fn completions_know_every_command() {
    let desk = Desk::new();
    for shell in ["bash", "elvish", "fish", "powershell", "zsh", "man"] {
        let answer = desk.mild(&["completions", shell]);
        assert_eq!(answer.code, 0, "{}", answer.err);
        for name in commands(&desk) {
            assert!(answer.out.contains(&name), "{shell}: {name}");
        }
    }
    assert_eq!(desk.mild(&["completions", "teletype"]).code, 2);
}

/// A page with the short help of each command that it names; `MILD_WRITE_PAGES=1` writes it.
#[test]
fn the_page_of_commands_has_every_command_with_its_options() {
    let desk = Desk::new();
    let path = std::path::Path::new(env!("CARGO_MANIFEST_DIR")).join("../../docs/commands.md");
    let page = std::fs::read_to_string(&path).unwrap();
    let (mut expected, mut rest, mut named) = (String::new(), page.as_str(), Vec::new());
    while let Some((before, after)) = rest.split_once("<!-- help: ") {
        let (name, after) = after.split_once(" -->").unwrap();
        let (_, after) = after.split_once("<!-- end -->").unwrap();
        let help = desk.mild(&[name, "-h"]).out;
        expected +=
            &format!("{before}<!-- help: {name} -->\n```text\n{}\n```\n<!-- end -->", help.trim_end());
        named.push(name.to_owned());
        rest = after;
    }
    expected += rest;
    if std::env::var_os("MILD_WRITE_PAGES").is_some() {
        std::fs::write(&path, &expected).unwrap();
    } else {
        assert!(page == expected, "MILD_WRITE_PAGES=1 cargo test --test help writes docs/commands.md");
    }
    assert_eq!(named, commands(&desk));
}
