//! What is in a workbook besides the sheet of the records.

use crate::error::RecordsError;
use crate::source::{Parts, SheetFound};
use std::path::Path;

/// The parts of a workbook besides the sheet of the records, each kind with how many there are.
#[derive(Debug, Clone, PartialEq, Eq, Default)]
pub struct OtherParts {
    kinds: Vec<(&'static str, &'static str, usize)>,
    is_signed: bool,
}

/// Kinds of parts by the begin of their names: of one, and of several.
const KINDS: [(&str, &str, &str); 8] = [
    ("xl/worksheets/sheet", "other sheet", "other sheets"),
    ("xl/charts/chart", "chart", "charts"),
    ("xl/pivotTables/", "pivot table", "pivot tables"),
    ("xl/tables/", "table", "tables"),
    ("xl/media/", "picture", "pictures"),
    ("xl/comments", "sheet with comments", "sheets with comments"),
    ("xl/vbaProject.bin", "set of macros", "sets of macros"),
    ("xl/externalLinks/externalLink", "link to another workbook", "links to other workbooks"),
];

/// Where signatures of a package are (ISO/IEC 29500-2, 12).
const SIGNATURES: &str = "_xmlsignatures/";

impl OtherParts {
    pub(super) fn of(path: &Path, sheet: &SheetFound) -> Result<Self, RecordsError> {
        let mut parts = Parts::open(path)?;
        let mut names = Vec::new();
        for nth in 0..parts.count() {
            names.push(parts.part(nth)?.0);
        }
        names.retain(|name| *name != sheet.part && !name.contains("/_rels/"));
        let kinds = KINDS.iter().filter_map(|(begin, one, more)| {
            let count = names.iter().filter(|name| name.starts_with(begin)).count();
            (count > 0).then_some((*one, *more, count))
        });
        let is_signed = names.iter().any(|name| name.starts_with(SIGNATURES));
        Ok(Self { kinds: kinds.collect(), is_signed })
    }

    /// In words, such as `2 other sheets, 1 chart`; nothing where there is nothing else.
    #[must_use]
    pub fn in_words(&self) -> Option<String> {
        let said: Vec<String> = self
            .kinds
            .iter()
            .map(|(one, more, count)| format!("{count} {}", if *count == 1 { one } else { more }))
            .collect();
        (!said.is_empty()).then(|| said.join(", "))
    }

    /// Whether a signature is on the workbook, which holds for no other bytes than those that were signed.
    #[must_use]
    pub fn is_signed(&self) -> bool {
        self.is_signed
    }
}
