//! The page on the engine names every option of the command, and none that there is not.

#![allow(clippy::unwrap_used)] // a test fails by panicking

use std::collections::BTreeSet;
use std::process::Command;

const PAGE: &str = include_str!("../../../docs/engine-operation.md");

/// The options in a text.
fn options(text: &str) -> BTreeSet<String> {
    let words = text.split(|sign: char| !(sign.is_ascii_lowercase() || sign == '-'));
    let is_option = |word: &&str| word.starts_with("--") && word.len() > 3;
    words.filter(is_option).map(str::to_owned).collect()
}

fn of_help(command: &str) -> BTreeSet<String> {
    let output = Command::new(env!("CARGO_BIN_EXE_mild-engine")).args([command, "--help"]).output().unwrap();
    let mut options = options(&String::from_utf8(output.stdout).unwrap());
    assert!(options.remove("--help"), "{command}");
    options
}

#[test]
fn the_page_lists_every_option_of_each_command() {
    let (_, table) = PAGE.split_once("| option | of | what it says |").unwrap();
    let lines: Vec<&str> = table.lines().skip(2).take_while(|line| line.starts_with('|')).collect();
    for command in ["run", "scheduler", "executor"] {
        let listed = lines.iter().filter(|line| {
            let of = line.split('|').nth(2).unwrap();
            of.split(',').any(|name| name.trim() == command)
        });
        let listed: BTreeSet<String> =
            listed.flat_map(|line| options(line.split('|').nth(1).unwrap())).collect();
        assert_eq!(listed, of_help(command), "{command}");
    }
}
