//! Exceptions counted by reason, with the first of each as a person reads them.

use super::outcome::ExceptionGroup;
use crate::table::{Became, Exception, ExceptionSubject, Layout, Reason};
use std::collections::BTreeMap;

/// Exceptions by reason and by what became of them.
pub(super) struct ExceptionGroups<'j> {
    layout: &'j Layout,
    key_name: String,
    groups: BTreeMap<(Reason, Became), Group>,
    pub(super) rows_set_aside: u64,
    /// Cells left empty because their text could not be read.
    pub(super) unreadable_cells: u64,
}

#[derive(Default)]
struct Group {
    count: u64,
    examples: Vec<String>,
}

/// Exceptions of a reason that are shown in full; the file has them all.
const EXAMPLES: usize = 3;

impl<'j> ExceptionGroups<'j> {
    pub(super) fn new(layout: &'j Layout) -> Self {
        let names: Vec<&str> = layout.key.iter().map(|column| layout.name(*column)).collect();
        let key_name = names.join(" / ");
        Self { layout, key_name, groups: BTreeMap::new(), rows_set_aside: 0, unreadable_cells: 0 }
    }

    /// The names of the columns of the key.
    pub(super) fn key_name(&self) -> &str {
        &self.key_name
    }

    /// Takes what came of one batch, in the order of its rows.
    pub(super) fn take(&mut self, exceptions: &[Exception]) {
        let mut last_set_aside = None;
        for exception in exceptions {
            // A row that is set aside for two reasons is one row.
            if exception.became == Became::RowSetAside && last_set_aside != Some(exception.origin.id()) {
                self.rows_set_aside += 1;
                last_set_aside = Some(exception.origin.id());
            }
            let is_unreadable = matches!(
                exception.reason,
                Reason::UnreadableDate | Reason::NoSuchDay | Reason::UnreadableNumber
            );
            let has_no_value = matches!(exception.became, Became::CellEmpty | Became::TextKept);
            self.unreadable_cells += u64::from(is_unreadable && has_no_value);
            let is_wanted = {
                let group = self.groups.entry((exception.reason, exception.became)).or_default();
                group.count += 1;
                group.examples.len() < EXAMPLES
            };
            if is_wanted {
                let shown = self.shown(exception);
                let group = self.groups.entry((exception.reason, exception.became)).or_default();
                group.examples.push(shown);
            }
        }
    }

    /// What was wrong, and what became of it, of a row whose place is known.
    pub(super) fn in_words(&self, exception: &Exception) -> String {
        let (column, what) = (name_of(exception.subject, &self.key_name, self.layout), self.what(exception));
        let column = if column.is_empty() { String::new() } else { format!("{column}: ") };
        format!("{column}{}, {}: {what}", exception.reason, exception.became)
    }

    /// One line for a person: where, whose, and what.
    fn shown(&self, exception: &Exception) -> String {
        let part = |text: &str| match text {
            "" => String::new(),
            text => format!(", {}", shortened(text)),
        };
        let key = if exception.subject == ExceptionSubject::Key { "" } else { exception.key.as_str() };
        let what = self.what(exception);
        format!(
            "{}{}{}: {what}",
            self.layout.place_in_words(exception.origin),
            part(key),
            part(name_of(exception.subject, &self.key_name, self.layout))
        )
    }

    /// What was there, or what was wrong with it.
    fn what(&self, exception: &Exception) -> String {
        let what = match (exception.detail.as_str(), exception.subject) {
            ("", _) => shortened(&exception.text),
            (detail, ExceptionSubject::Key) => {
                format!("{}, {}", shortened(&exception.text), shortened(detail))
            }
            (detail, _) if matches!(exception.reason, Reason::NoMatch | Reason::SeveralMatches) => {
                format!("\"{}\": {}", shortened(&exception.text), shortened(detail))
            }
            (detail, _) => shortened(detail),
        };
        match exception.expected.as_str() {
            // A reason in words says what was expected too.
            expected if expected.is_empty() || !exception.detail.is_empty() => what,
            expected => format!("{what}, where {} was expected", shortened(expected)),
        }
    }

    /// The groups, rows set aside first.
    pub(super) fn finish(self) -> Vec<ExceptionGroup> {
        let mut groups: Vec<_> = self.groups.into_iter().collect();
        groups.sort_by_key(|((reason, became), group)| (*became, std::cmp::Reverse(group.count), *reason));
        let group = |((reason, became), group): ((Reason, Became), Group)| ExceptionGroup {
            reason: reason.to_string(),
            outcome: became.to_string(),
            count: group.count,
            examples: group.examples,
        };
        groups.into_iter().map(group).collect()
    }
}

/// The name of the column, or columns, that an exception is about.
pub(super) fn name_of<'n>(subject: ExceptionSubject, key_name: &'n str, layout: &'n Layout) -> &'n str {
    match subject {
        ExceptionSubject::Row => "",
        ExceptionSubject::Key => key_name,
        ExceptionSubject::Column(column) => layout.name(column),
        ExceptionSubject::OtherColumn(nth) => layout.other_names.get(nth).map_or("", String::as_str),
    }
}

/// A text as far as a line for a person needs it.
fn shortened(text: &str) -> String {
    const MOST: usize = 200;
    match text.char_indices().nth(MOST) {
        Some((end, _)) => format!("{}…", text.get(..end).unwrap_or(text)),
        None => text.to_owned(),
    }
}
