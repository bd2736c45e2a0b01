//! The page of contributors lists the folders of the code, all of them and no others.

#![allow(clippy::unwrap_used, clippy::expect_used)] // a test fails by panicking

use std::collections::BTreeSet;
use std::path::Path;

/// The folders inside one, each behind a prefix.
fn folders(of: &str, prefix: &str) -> BTreeSet<String> {
    std::fs::read_dir(Path::new(env!("CARGO_MANIFEST_DIR")).join(of))
        .unwrap()
        .map(|entry| entry.unwrap())
        .filter(|entry| entry.file_type().unwrap().is_dir())
        .map(|entry| format!("{prefix}{}/", entry.file_name().into_string().unwrap()))
        .collect()
}

#[test]
fn the_page_of_contributors_lists_the_folders_of_the_code() {
    let page = include_str!("../CONTRIBUTING.md");
    let mut part = "";
    let mut listed = BTreeSet::new();
    for line in page.lines().filter(|line| line.starts_with("    ")) {
        let Some(word) = line.split_whitespace().next().filter(|word| word.ends_with('/')) else { continue };
        if line.starts_with("      ") {
            listed.insert(format!("{part}{word}"));
        } else {
            part = word;
        }
    }
    let mut found = folders("src", "src/");
    for name in folders("crates", "crates/") {
        found.extend(folders(&format!("{name}src"), &format!("{name}src/")));
        assert!(page.contains(&format!("    {name} ")), "{name}");
    }
    assert_eq!(listed, found);
}
