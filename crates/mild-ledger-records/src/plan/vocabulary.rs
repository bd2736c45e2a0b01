//! The keys of the parts of a plan that are alone, and those that they will hold later.

use crate::mistakes::Keys;

pub(super) const TOP: Keys<'static> = Keys {
    part: "the plan",
    known: &[
        "plan",
        "title",
        "as_of",
        "control",
        "records",
        "join",
        "select",
        "calendar",
        "column",
        "bound",
        "cross_check",
        "report",
        "output",
    ],
    later: &[],
};

pub(super) const RECORDS: Keys<'static> = Keys {
    part: "[records]",
    known: &[
        "file",
        "file_column",
        "key",
        "duplicates",
        "total_row",
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
        "longest_cell",
    ],
    later: &[],
};

pub(super) const COMPARE: Keys<'static> =
    Keys { part: "[[cross_check]]", known: &["column", "ours"], later: &[] };

pub(super) const OUTPUT: Keys<'static> = Keys {
    part: "[output]",
    known: &[
        "rows",
        "exceptions",
        "receipt",
        "report",
        "merged_rows",
        "columns",
        "order_by",
        "separator",
        "decimal_mark",
        "dates_as",
        "byte_order_mark",
        "table",
        "fingerprint",
    ],
    later: &[],
};

#[cfg(test)]
mod tests {
    use super::*;
    use crate::columns::{self, BOUND, CALENDAR, CONDITION, PERIOD, keys};
    use crate::join::JOIN;
    use crate::lines::shown;
    use crate::reports;
    use crate::written::{AMOUNT, DATE};
    use std::collections::BTreeSet;

    /// The schema that is published, and the keys that a plan may hold, cannot drift apart.
    #[test]
    fn the_schema_of_plans_has_the_keys_that_plans_may_hold() {
        let schema: serde_json::Value =
            serde_json::from_str(include_str!("../../../../docs/schemas/plan.schema.json")).unwrap();
        let columns = keys();
        let column = Keys { part: "[[column]]", known: &columns, later: &[] };
        let kinds = schema["properties"]["report"]["items"]["oneOf"].as_array().unwrap();
        let published: BTreeSet<&str> =
            kinds.iter().map(|kind| kind["properties"]["kind"]["const"].as_str().unwrap()).collect();
        assert_eq!(published, reports::KINDS.iter().map(|kind| kind.word).collect());
        for (kind, part) in reports::KINDS.iter().flat_map(|kind| kinds.iter().map(move |part| (kind, part)))
        {
            let properties = part["properties"].as_object().unwrap();
            if properties["kind"]["const"] == kind.word {
                let published: BTreeSet<&str> = properties.keys().map(String::as_str).collect();
                assert_eq!(published, reports::keys(kind).into_iter().collect(), "{}", kind.word);
            }
        }
        for (keys, part) in [
            (&TOP, &schema),
            (&RECORDS, &schema["properties"]["records"]),
            (&DATE, &schema["$defs"]["dates"]["additionalProperties"]["anyOf"][1]),
            (&AMOUNT, &schema["$defs"]["numbers"]["additionalProperties"]),
            (&OUTPUT, &schema["properties"]["output"]),
            (&CALENDAR, &schema["properties"]["calendar"]["additionalProperties"]),
            (&PERIOD, &schema["$defs"]["period"]),
            (&CONDITION, &schema["$defs"]["condition"]),
            (&JOIN, &schema["properties"]["join"]["items"]),
            (&BOUND, &schema["properties"]["bound"]["items"]),
            (&COMPARE, &schema["properties"]["cross_check"]["items"]),
            (&column, &schema["$defs"]["column"]),
        ] {
            let published: BTreeSet<&str> =
                part["properties"].as_object().unwrap().keys().map(String::as_str).collect();
            assert_eq!(published, keys.known.iter().copied().collect(), "{}", keys.part);
        }
    }

    /// The pages of plans list the kinds of columns and reports as the registries do; `MILD_WRITE_PAGES=1` writes their tables.
    #[test]
    fn the_pages_of_plans_list_the_kinds_of_columns_and_reports() {
        let quoted = |keys: &[&str]| keys.iter().map(|key| format!("`{key}`")).collect::<Vec<_>>().join(", ");
        let mut columns = vec![
            "| key | what the column holds | keys that go with it |".to_owned(),
            "|---|---|---|".to_owned(),
        ];
        columns.extend(
            columns::KINDS
                .iter()
                .map(|kind| format!("| `{}` | {} | {} |", kind.key, kind.gives, quoted(kind.companions))),
        );
        let mut reports = vec!["| kind | what it gives |".to_owned(), "|---|---|".to_owned()];
        reports.extend(reports::KINDS.iter().map(|kind| format!("| `{}` | {} |", kind.word, kind.gives)));
        let mut lines = vec!["| form | its key in a plan |".to_owned(), "|---|---|".to_owned()];
        for kind in columns::KINDS {
            let heads = kind.lines.iter().filter(|form| !form.starts_with(','));
            lines.extend(heads.map(|form| format!("| `{}` | `{}` |", shown(form), kind.key)));
            // Two forms that read the same differ in the words that they take.
            lines.dedup();
        }
        for (name, table) in [
            ("docs/plan/columns", columns),
            ("docs/plan/reports", reports),
            ("crates/mild-ledger-cli/help/glossary", lines),
        ] {
            let path = std::path::Path::new(env!("CARGO_MANIFEST_DIR")).join(format!("../../{name}.md"));
            let page = std::fs::read_to_string(&path).unwrap();
            let mark = format!("<!-- kinds: {} -->", name.rsplit('/').next().unwrap());
            let (before, rest) = page.split_once(&mark).unwrap();
            let (_, after) = rest.split_once("<!-- end -->").unwrap();
            let expected = format!("{before}{mark}\n{}\n<!-- end -->{after}", table.join("\n"));
            if std::env::var_os("MILD_WRITE_PAGES").is_some() {
                std::fs::write(&path, &expected).unwrap();
            } else {
                assert_eq!(page, expected, "{name}: MILD_WRITE_PAGES=1 writes it");
            }
        }
    }
}
