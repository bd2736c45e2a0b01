//! The forms in which people get the report of a run.

use std::path::Path;

/// The form of a report that people get, by the ending of its file.
///
/// ```
/// use mild_ledger_records::DocumentFormat;
/// use std::path::Path;
/// assert_eq!(DocumentFormat::of(Path::new("aging.html")), Some(DocumentFormat::Html));
/// assert_eq!(DocumentFormat::of(Path::new("aging.csv")), None);
/// ```
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
#[non_exhaustive]
pub enum DocumentFormat {
    /// A page in one file (HTML).
    Html,
    /// Text that a message takes (Markdown, as CommonMark with tables).
    Markdown,
    /// A workbook with a sheet a table (Office Open XML, .xlsx).
    Workbook,
    /// The charts of the report below each other, as a picture of lines (SVG 1.1).
    Svg,
    /// The same in pixels (PNG).
    Png,
}

impl DocumentFormat {
    /// What the ending of a name promises; nothing where it is none of these.
    #[must_use]
    pub fn of(path: &Path) -> Option<Self> {
        let ending = path.extension()?.to_str()?.to_ascii_lowercase();
        match ending.as_str() {
            "html" | "htm" => Some(Self::Html),
            "md" => Some(Self::Markdown),
            "xlsx" => Some(Self::Workbook),
            "svg" => Some(Self::Svg),
            "png" => Some(Self::Png),
            _ => None,
        }
    }
}
