//! The page of contributors lists the folders of the code, all of them and no others.

#![allow(clippy::unwrap_used, clippy::expect_used)] // a test fails by panicking

use std::collections::{BTreeMap, BTreeSet};
use std::path::Path;

/// The folders inside one, each after a prefix.
fn folders(of: &str, prefix: &str) -> BTreeSet<String> {
    std::fs::read_dir(Path::new(env!("CARGO_MANIFEST_DIR")).join(of))
        .unwrap()
        .map(|entry| entry.unwrap())
        .filter(|entry| entry.file_type().unwrap().is_dir())
        .map(|entry| format!("{prefix}{}/", entry.file_name().into_string().unwrap()))
        .collect()
}

/// The files of code that are directly inside a folder, but for the one that names them all.
fn files(of: &str, prefix: &str) -> BTreeSet<String> {
    std::fs::read_dir(Path::new(env!("CARGO_MANIFEST_DIR")).join(of))
        .unwrap()
        .map(|entry| entry.unwrap().file_name().into_string().unwrap())
        .filter(|name| name.ends_with(".rs") && name != "lib.rs")
        .map(|name| format!("{prefix}{name}"))
        .collect()
}

/// The folders inside one, and those inside them.
fn all_folders(of: &str, prefix: &str) -> BTreeSet<String> {
    let mut all = BTreeSet::new();
    for name in folders(of, "") {
        all.extend(all_folders(&format!("{of}/{name}"), &format!("{prefix}{name}")));
        all.insert(format!("{prefix}{name}"));
    }
    all
}

#[test]
fn the_page_of_contributors_lists_the_folders_of_the_code() {
    let page = include_str!("../CONTRIBUTING.md");
    let mut part = "";
    let mut listed = BTreeSet::new();
    for line in page.lines().filter(|line| line.starts_with("    ")) {
        let is_listed = |word: &&str| word.ends_with('/') || word.ends_with(".rs");
        let Some(word) = line.split_whitespace().next().filter(is_listed) else { continue };
        if line.starts_with("      ") {
            listed.insert(format!("{part}{word}"));
        } else {
            part = word;
        }
    }
    let mut found = all_folders("src", "src/");
    found.extend(files("src", "src/"));
    for name in folders("crates", "crates/") {
        let inside = format!("{name}src");
        found.extend(all_folders(&inside, &format!("{inside}/")));
        // A package of data, and the command, are lists of files.
        if name.ends_with("records/") || name.ends_with("report/") {
            found.extend(files(&inside, &format!("{inside}/")));
        }
        assert!(page.contains(&format!("    {name} ")), "{name}");
    }
    // The engine is a workspace of its own, with the command in a folder of it.
    found.extend(all_folders("engine/src", "engine/src/"));
    found.insert("engine/command/".to_owned());
    assert_eq!(listed, found);
}

/// What the code of a folder, or of a file, names of its own package, tests left out.
fn named_in(place: &Path) -> BTreeSet<String> {
    let mut names = BTreeSet::new();
    let inside =
        || -> Vec<_> { std::fs::read_dir(place).unwrap().map(|entry| entry.unwrap().path()).collect() };
    let paths: Vec<_> = if place.is_dir() { inside() } else { vec![place.with_extension("rs")] };
    for path in paths {
        if path.is_dir() {
            names.extend(named_in(&path));
        } else if path.file_name().is_some_and(|name| name != "tests.rs") {
            let text = std::fs::read_to_string(&path).unwrap();
            let code = text.split("#[cfg(test)]\nmod ").next().unwrap_or_default();
            let lines = code.lines().filter(|line| !line.trim_start().starts_with("//"));
            for rest in lines.flat_map(|line| line.split("crate::").skip(1)) {
                names.insert(
                    rest.split(|sign: char| !sign.is_alphanumeric() && sign != '_')
                        .next()
                        .unwrap()
                        .to_owned(),
                );
            }
        }
    }
    names
}

#[test]
fn each_folder_uses_only_those_above_it() {
    let page = include_str!("../CONTRIBUTING.md");
    let of = |package: &str, prefix: &str| -> Vec<String> {
        let (_, rest) = page.split_once(&format!("\n    {package} ")).unwrap();
        let lines = rest.lines().skip(1).take_while(|line| line.starts_with("      "));
        lines
            .filter_map(|line| {
                let word = line.trim().strip_prefix(prefix)?.split(' ').next()?;
                let name = word.strip_suffix(".rs").or_else(|| word.strip_suffix('/'))?;
                // A folder inside one belongs to it.
                (!name.contains('/')).then(|| name.to_owned())
            })
            .collect()
    };
    let root = Path::new(env!("CARGO_MANIFEST_DIR"));
    for (package, prefix, folder) in [
        ("src/", "", "src"),
        ("crates/mild-ledger-records/", "src/", "crates/mild-ledger-records/src"),
        ("crates/mild-ledger-report/", "src/", "crates/mild-ledger-report/src"),
    ] {
        let order = of(package, prefix);
        assert!(order.len() > 4, "{order:?}");
        for (nth, name) in order.iter().enumerate() {
            let used = named_in(&root.join(folder).join(name));
            let below: Vec<&String> = order[nth + 1..].iter().filter(|other| used.contains(*other)).collect();
            assert!(below.is_empty(), "{folder}/{name} uses {below:?}, which are below it");
        }
    }
}

/// The other files of its folder that a file of code names, tests left out.
fn siblings_named_in(file: &Path, siblings: &BTreeSet<String>) -> BTreeSet<String> {
    let text = std::fs::read_to_string(file).unwrap();
    let code = text.split("#[cfg(test)]\nmod ").next().unwrap_or_default();
    let lines = code.lines().filter(|line| !line.trim_start().starts_with("//"));
    let code: String = lines.flat_map(|line| [line, "\n"]).collect();
    let mut named = BTreeSet::new();
    for rest in code.split("super::").skip(1) {
        let list = match rest.strip_prefix('{') {
            Some(list) => list.split('}').next().unwrap_or_default(),
            None => {
                rest.split(|sign: char| !sign.is_alphanumeric() && sign != '_').next().unwrap_or_default()
            }
        };
        let words = list.split(|sign: char| !sign.is_alphanumeric() && sign != '_');
        named.extend(words.filter(|word| siblings.contains(*word)).map(str::to_owned));
    }
    named
}

/// Takes out the files that name none of those left, again and again; what remains names each other in a circle.
fn circle_among(mut named: BTreeMap<String, BTreeSet<String>>) -> Vec<String> {
    loop {
        let left: BTreeSet<String> = named.keys().cloned().collect();
        let free: Vec<String> = named
            .iter()
            .filter(|(_, others)| others.is_disjoint(&left))
            .map(|(name, _)| name.clone())
            .collect();
        if free.is_empty() {
            return left.into_iter().collect();
        }
        free.iter().for_each(|name| {
            named.remove(name);
        });
    }
}

#[test]
fn no_files_of_a_folder_use_each_other_in_a_circle() {
    let root = Path::new(env!("CARGO_MANIFEST_DIR"));
    let mut places: Vec<_> = all_folders("src", "src/").into_iter().collect();
    places.extend(all_folders("engine/src", "engine/src/"));
    places.extend(["src/", "engine/src/"].map(str::to_owned));
    for name in folders("crates", "crates/") {
        places.extend(all_folders(&format!("{name}src"), &format!("{name}src/")));
        places.push(format!("{name}src/"));
    }
    let mut arrows = 0;
    for place in &places {
        let siblings: BTreeSet<String> = files(place, "")
            .into_iter()
            .filter_map(|name| name.strip_suffix(".rs").filter(|name| *name != "mod").map(str::to_owned))
            .collect();
        let named = |name: &String| {
            let mut others = siblings_named_in(&root.join(place).join(format!("{name}.rs")), &siblings);
            others.remove(name);
            (name.clone(), others)
        };
        let named: BTreeMap<String, BTreeSet<String>> = siblings.iter().map(named).collect();
        arrows += named.values().map(BTreeSet::len).sum::<usize>();
        let circle = circle_among(named);
        assert!(circle.is_empty(), "{place}: {circle:?} use each other");
    }
    assert!(places.len() > 30 && arrows > 150, "{} folders, {arrows} arrows", places.len());
}

/// What figures could be worked out of again.
const CALCULATED_FROM: [&str; 4] = ["Interval", "ClockInterval", "WorkCalendar", "OpenedCalendar"];

/// Renderers show facts: they know nothing of each other, of nothing that a figure could be worked out of again, and of no kind of
/// report.
#[test]
fn renderers_know_nothing_of_each_other() {
    let folder = Path::new(env!("CARGO_MANIFEST_DIR")).join("crates/mild-ledger-report/src");
    let renderers = ["terminal", "json", "picture"];
    for name in ["facts", "document"].into_iter().chain(renderers) {
        let mut used = named_in(&folder.join(name));
        assert!(!used.is_empty(), "{name}");
        let mut others: Vec<String> =
            renderers.iter().filter(|other| **other != name).map(|other| (*other).into()).collect();
        if name == "facts" {
            others.push("document".to_owned());
        } else {
            others.extend(CALCULATED_FROM.map(str::to_owned));
            used.extend(imported_of("mild_ledger", &folder.join(name)));
            used.extend(imported_of("mild_ledger_records", &folder.join(name)));
        }
        let known: Vec<String> = others.into_iter().filter(|other| used.contains(other)).collect();
        assert!(known.is_empty(), "{name} knows {known:?}");
    }
    for kind in ["aging", "summary"] {
        for name in ["facts", "document"].into_iter().chain(renderers) {
            let code = code_in(&folder.join(name));
            assert!(!code.to_lowercase().contains(kind), "{name} knows of the kind {kind}");
        }
    }
}

/// The code of a folder without its comments.
fn code_in(folder: &Path) -> String {
    let texts = std::fs::read_dir(folder)
        .unwrap()
        .map(|entry| std::fs::read_to_string(entry.unwrap().path()).unwrap());
    let mut code = String::new();
    for text in texts {
        for line in text.lines().filter(|line| !line.trim_start().starts_with("//")) {
            code.push_str(line);
            code.push('\n');
        }
    }
    code
}

/// What the code of a folder imports of another package.
fn imported_of(package: &str, folder: &Path) -> BTreeSet<String> {
    let code = code_in(folder);
    let import = format!("use {package}::");
    let lists = code.split(&import).skip(1).filter_map(|part| part.split(';').next());
    let words = lists.flat_map(|list| list.split(|sign: char| !sign.is_alphanumeric()));
    words.filter(|word| !word.is_empty()).map(str::to_owned).collect()
}

/// A snapshot is called what it shows, not by its place among those of a test.
#[test]
fn snapshots_are_named_by_what_they_show() {
    let root = Path::new(env!("CARGO_MANIFEST_DIR")).join("crates");
    let mut count = 0;
    for package in ["mild-ledger-cli", "mild-ledger-report"] {
        for entry in std::fs::read_dir(root.join(package).join("tests/snapshots")).unwrap() {
            let name = entry.unwrap().file_name().into_string().unwrap();
            let (name, ending) = name.split_once('.').unwrap();
            assert_eq!(ending, "snap", "{name} waits to be read");
            assert!(!name.ends_with(|sign: char| sign.is_ascii_digit()), "{name}");
            count += 1;
        }
    }
    assert!(count > 50, "{count}");
}
