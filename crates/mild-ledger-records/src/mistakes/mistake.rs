//! Mistakes of a plan, each with its place.

use super::line_text::LineText;
use crate::toml_text::line_text;
use std::collections::BTreeSet;
use std::fmt;
use std::ops::Range;
use std::path::{Path, PathBuf};

/// All mistakes found in one plan, in the order of the text; there is at least one.
#[derive(Debug)]
pub struct PlanMistakes {
    file: PathBuf,
    source: String,
    mistakes: Vec<PlanMistake>,
}

/// One mistake: its place, what is wrong, what is right there, and what may help.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct PlanMistake {
    span: Range<usize>,
    what: String,
    expected: Expected,
    help: Option<String>,
    /// The name of a column that the records do not have, where that is the mistake.
    missing_column: Option<String>,
}

/// What is right at the place of a mistake. Its text begins with `expected:` or `allowed:`.
#[derive(Debug, Clone, PartialEq, Eq)]
pub enum Expected {
    /// A description, such as `the name of a column of numbers`.
    Described(String),
    /// A list of words, such as `aging, list, movement …`.
    Words(String),
}

impl fmt::Display for Expected {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        match self {
            Self::Described(what) => write!(f, "expected: {what}"),
            Self::Words(words) => write!(f, "allowed: {words}"),
        }
    }
}

impl From<String> for Expected {
    fn from(what: String) -> Self {
        Self::Described(what)
    }
}

impl From<&str> for Expected {
    fn from(what: &str) -> Self {
        Self::Described(what.to_owned())
    }
}

/// Mistakes as they are met; whoever reads gives `None` where one was reported.
#[derive(Debug, Default)]
pub(crate) struct Mistakes {
    told: Vec<PlanMistake>,
}

impl Mistakes {
    pub(crate) fn tell(
        &mut self,
        span: Range<usize>,
        what: impl Into<String>,
        expected: impl Into<Expected>,
    ) {
        self.tell_with_help(span, what, expected, None);
    }

    pub(crate) fn tell_with_help(
        &mut self,
        span: Range<usize>,
        what: impl Into<String>,
        expected: impl Into<Expected>,
        help: Option<String>,
    ) {
        let (what, expected) = (what.into(), expected.into());
        self.told.push(PlanMistake { span, what, expected, help, missing_column: None });
    }

    /// A column that the records do not have.
    pub(crate) fn tell_of_missing(
        &mut self,
        span: Range<usize>,
        column: &str,
        what: String,
        expected: impl Into<Expected>,
        help: Option<String>,
    ) {
        self.told.push(PlanMistake {
            span,
            what,
            expected: expected.into(),
            help,
            missing_column: Some(column.to_owned()),
        });
    }

    pub(crate) fn count(&self) -> usize {
        self.told.len()
    }

    /// All of them with the text that they are about.
    pub(crate) fn of(self, file: &Path, source: &str) -> PlanMistakes {
        PlanMistakes::new(file, source, self.told)
    }
}

impl PlanMistakes {
    fn new(file: &Path, source: &str, mut mistakes: Vec<PlanMistake>) -> Self {
        mistakes.sort_by_key(|mistake| mistake.span.start);
        Self { file: file.to_owned(), source: source.to_owned(), mistakes }
    }

    /// The names of columns that the records do not have, each once.
    pub(crate) fn missing_columns(&self) -> BTreeSet<String> {
        self.mistakes.iter().filter_map(|mistake| mistake.missing_column.clone()).collect()
    }

    /// The mistakes with one in place of all missing columns of some names; at a place, or at the first of these columns.
    pub(crate) fn with_one_cause(
        self,
        is_explained: impl Fn(&str) -> bool,
        place: Option<Range<usize>>,
        what: String,
        expected: String,
    ) -> Self {
        let (explained, mut others): (Vec<_>, Vec<_>) = self
            .mistakes
            .into_iter()
            .partition(|mistake| mistake.missing_column.as_deref().is_some_and(&is_explained));
        if let Some(span) = place.or_else(|| explained.first().map(PlanMistake::span)) {
            let expected = Expected::Described(expected);
            others.push(PlanMistake { span, what, expected, help: None, missing_column: None });
        }
        Self::new(&self.file, &self.source, others)
    }

    /// The mistakes in some lines of the text, each of the line that it is in, and the others. A line is a string of the text, and its mistakes have their
    /// places in it.
    ///
    /// ```
    /// use mild_ledger_records::{Plan, RecordsError};
    /// let text = "plan = 1\ncolumn = [\"Days = days from Issued\"]\n[records]\nfile = \"a.csv\"\n[output]\nrows = \"b.csv\"\n";
    /// let Err(RecordsError::Plan(wrong)) = Plan::of_text(text, "days.toml".as_ref()) else { panic!() };
    /// let (of_lines, others) = wrong.of_lines("--column", &["Days = days from Issued"]);
    /// assert_eq!((of_lines[0].mistakes()[0].span(), others.mistakes().len()), (7..23, 0));
    /// ```
    #[must_use]
    pub fn of_lines(self, name: &str, lines: &[impl AsRef<str>]) -> (Vec<Self>, Self) {
        let mut others = self.mistakes;
        let mut of_lines = Vec::new();
        for line in lines.iter().map(AsRef::as_ref) {
            let written = line_text(line);
            let Some(start) = self.source.find(&written) else { continue };
            let place = start..start + written.len();
            let inside = LineText::of_string(line, &self.source, place.clone());
            let (of_line, rest): (Vec<_>, Vec<_>) =
                others.into_iter().partition(|mistake| place.contains(&mistake.span.start));
            others = rest;
            if !of_line.is_empty() {
                let moved = of_line
                    .into_iter()
                    .map(|mistake| PlanMistake { span: inside.part_at(&mistake.span), ..mistake });
                of_lines.push(Self::new(Path::new(name), line, moved.collect()));
            }
        }
        (of_lines, Self { mistakes: others, ..self })
    }

    /// The plan's file.
    #[must_use]
    pub fn file(&self) -> &Path {
        &self.file
    }

    /// The plan's text, which the places of the mistakes count into.
    #[must_use]
    pub fn source(&self) -> &str {
        &self.source
    }

    /// The mistakes in the order of the text.
    #[must_use]
    pub fn mistakes(&self) -> &[PlanMistake] {
        &self.mistakes
    }

    /// The line and the column, both from 1 and the column in characters, of a mistake.
    #[must_use]
    pub fn place_of(&self, mistake: &PlanMistake) -> (usize, usize) {
        let before = self.source.get(..mistake.span.start).unwrap_or(&self.source);
        let line = before.matches('\n').count() + 1;
        let column = before.rsplit('\n').next().map_or(0, |rest| rest.chars().count()) + 1;
        (line, column)
    }
}

impl PlanMistake {
    /// The bytes of the plan's text that are wrong.
    #[must_use]
    pub fn span(&self) -> Range<usize> {
        self.span.clone()
    }

    /// What is wrong.
    #[must_use]
    pub fn what(&self) -> &str {
        &self.what
    }

    /// What is right there.
    #[must_use]
    pub fn expected(&self) -> &Expected {
        &self.expected
    }

    /// What to do about it, where there is something to say.
    #[must_use]
    pub fn help(&self) -> Option<&str> {
        self.help.as_deref()
    }
}

impl fmt::Display for PlanMistakes {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        for (nth, mistake) in self.mistakes.iter().enumerate() {
            let (line, column) = self.place_of(mistake);
            let separator = if nth == 0 { "" } else { "\n" };
            write!(f, "{separator}{}, line {line}, column {column}: {}", self.file.display(), mistake.what)?;
            write!(f, "; {}", mistake.expected)?;
            if let Some(help) = &mistake.help {
                write!(f, "; {help}")?;
            }
        }
        Ok(())
    }
}

impl std::error::Error for PlanMistakes {}
