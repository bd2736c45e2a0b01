//! The page on the query engine: it lists every function, and each of its examples gives what is below it.

#![allow(clippy::unwrap_used, clippy::expect_used, clippy::panic)] // a test fails by panicking

use datafusion::arrow::util::pretty::pretty_format_batches;
use datafusion::prelude::SessionContext;
use mild_ledger_engine::{functions, register};

const PAGE: &str = include_str!("../../docs/engine.md");

/// After a change of the functions, `MILD_WRITE_PAGES=1 cargo test --test page` writes the table and what the examples give; read them.
fn written(page: &str) -> String {
    let (before, rest) = page.split_once("| function | gives |\n|---|---|\n").unwrap();
    let rest = rest.lines().skip_while(|line| line.starts_with('|')).collect::<Vec<_>>().join("\n");
    let table: String = functions()
        .iter()
        .map(|page| format!("| `{}({})` | {} |\n", page.name, page.arguments, page.says))
        .collect();
    let mut out = format!("{before}| function | gives |\n|---|---|\n{table}");
    let mut parts = rest.split("```sql\n");
    out += parts.next().unwrap();
    for part in parts {
        let (sql, rest) = part.split_once("```").unwrap();
        let (between, rest) = rest.split_once("```text\n").unwrap();
        let (_, behind) = rest.split_once("```").unwrap();
        out += &format!("```sql\n{sql}```{between}```text\n{}\n```{behind}", given(sql));
    }
    out.trim_end().to_owned() + "\n"
}

/// What a query gives, as a table.
fn given(sql: &str) -> String {
    let runtime = tokio::runtime::Builder::new_current_thread().build().unwrap();
    let context = SessionContext::new();
    register(&context).unwrap();
    let batches = runtime
        .block_on(async { context.sql(sql).await?.collect().await })
        .unwrap_or_else(|error| panic!("{sql}: {error}"));
    pretty_format_batches(&batches).unwrap().to_string()
}

#[test]
fn the_page_is_what_the_code_says() {
    let path = concat!(env!("CARGO_MANIFEST_DIR"), "/../docs/engine.md");
    let page = std::fs::read_to_string(path).unwrap();
    let written = written(&page);
    if std::env::var_os("MILD_WRITE_PAGES").is_some() {
        std::fs::write(path, &written).unwrap();
    } else {
        assert_eq!(page, written);
    }
}

#[test]
fn every_function_has_an_example() {
    let used = |name: &str| {
        PAGE.split("```sql").skip(1).any(|part| part.split("```").next().unwrap().contains(name))
    };
    let unused: Vec<&str> = functions().iter().map(|page| page.name).filter(|name| !used(name)).collect();
    assert!(unused.is_empty(), "no example of {unused:?}");
}
