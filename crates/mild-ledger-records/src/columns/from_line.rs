//! Columns and conditions that a plan says in lines of words.

use super::conditions::{Condition, read_conditions};
use super::period_rules::{PERIOD, read_period};
use super::{KINDS, PlannedColumn, read_column};
use crate::lines::{
    Compares, ConditionWord, DefinedColumn, Holds, LineCondition, LineKind, UsedColumn, condition_tables,
    read_definition,
};
use crate::mistakes::{LineText, Mistakes, PlanMistakes, Walk};
use crate::toml_text::{quoted, value_text};
use std::path::Path;
use toml::de::{DeTable, DeValue};

/// A column that a line of words defines, such as `Days = working days from Ordered to Shipped on yard`.
///
/// ```
/// use mild_ledger_records::{ColumnLine, UsedAs};
/// let line = ColumnLine::read("Days = working days from Ordered to Shipped on yard")?;
/// assert_eq!(line.calendars(), ["yard"]);
/// assert_eq!((line.used()[0].name.as_str(), line.used()[0].used_as), ("Ordered", UsedAs::Dates));
/// assert!(line.plan_text().contains("count = \"working days\"\nbetween = [\"Ordered\", \"Shipped\"]\n"));
/// assert!(ColumnLine::read("Days = from Ordered").is_err());
/// # Ok::<(), mild_ledger_records::PlanMistakes>(())
/// ```
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct ColumnLine {
    name: String,
    plan_text: String,
    used: Vec<UsedColumn>,
    calendars: Vec<String>,
}

/// Conditions that a line of words says, such as `Amount over 500 and Paid is blank`.
///
/// ```
/// use mild_ledger_records::ConditionLine;
/// let line = ConditionLine::read("Amount over 500 and Paid is blank")?;
/// assert_eq!(line.used().len(), 2);
/// # Ok::<(), mild_ledger_records::PlanMistakes>(())
/// ```
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct ConditionLine {
    used: Vec<UsedColumn>,
}

/// A column, or the periods of a column of dates, that rows are grouped by: `Site`, `Issued by month`.
///
/// ```
/// use mild_ledger_records::GroupLine;
/// let line = GroupLine::read("Issued by fiscal quarter, fiscal year begins april")?;
/// assert_eq!(line.plan_text(), "{ of = \"Issued\", period = \"fiscal quarter\", fiscal_year_begins = \"april\" }");
/// assert_eq!(line.dates(), Some("Issued"));
/// assert_eq!(GroupLine::read("Site")?.plan_text(), "\"Site\"");
/// # Ok::<(), mild_ledger_records::PlanMistakes>(())
/// ```
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct GroupLine {
    plan_text: String,
    dates: Option<String>,
}

impl GroupLine {
    /// Reads a line. One that has no word `by` is the name of a column.
    ///
    /// # Errors
    /// Where a period is named that there is none of.
    pub fn read(line: &str) -> Result<Self, PlanMistakes> {
        let name = line.trim();
        if !name.split_whitespace().any(|word| word.eq_ignore_ascii_case("by")) {
            return Ok(Self { plan_text: quoted(name), dates: None });
        }
        let mut walk = Walk::default();
        let text = LineText::whole(line);
        let kinds = [LineKind { forms: &["{of} by {period:words}"], companions: PERIOD.known }];
        let defined = read_definition(&mut walk.mistakes, &text, &kinds, CONDITIONS);
        let period = defined.and_then(|defined| {
            let value = toml::Spanned::new(text.place(), DeValue::Table(defined.table));
            let (_, of) = read_period(&mut walk, &value)?;
            let keys = defined.order.iter().filter_map(|key| {
                let value = value.get_ref().get(key.as_str())?;
                Some(format!("{key} = {}", value_text(value.get_ref())))
            });
            Some((format!("{{ {} }}", keys.collect::<Vec<_>>().join(", ")), of.value))
        });
        match period {
            Some((plan_text, dates)) if walk.mistakes.count() == 0 => {
                Ok(Self { plan_text, dates: Some(dates) })
            }
            _ => Err(walk.mistakes.of(Path::new("--by"), line)),
        }
    }

    /// The grouping as a plan has it.
    #[must_use]
    pub fn plan_text(&self) -> &str {
        &self.plan_text
    }

    /// The column of dates whose periods it is of; nothing where a column is the grouping.
    #[must_use]
    pub fn dates(&self) -> Option<&str> {
        self.dates.as_deref()
    }
}

impl ColumnLine {
    /// Reads a line.
    ///
    /// # Errors
    /// Where it does not define a column: the place in the line, and the forms that are nearest.
    pub fn read(line: &str) -> Result<Self, PlanMistakes> {
        let mut walk = Walk::default();
        let text = LineText::whole(line);
        let defined = define(&mut walk.mistakes, &text);
        let column =
            defined.as_ref().and_then(|defined| read_column(&mut walk, &defined.table, text.place()));
        match (defined, column) {
            (Some(defined), Some(column)) if walk.mistakes.count() == 0 => Ok(Self {
                name: column.name.value,
                plan_text: table_of(&defined),
                used: defined.used,
                calendars: defined.calendars,
            }),
            _ => Err(walk.mistakes.of(Path::new("--column"), line)),
        }
    }

    /// The header of the column.
    #[must_use]
    pub fn name(&self) -> &str {
        &self.name
    }

    /// The table of a plan that says the same.
    #[must_use]
    pub fn plan_text(&self) -> &str {
        &self.plan_text
    }

    /// The columns that it names, in the order of the line; some may be names of columns that other lines define.
    #[must_use]
    pub fn used(&self) -> &[UsedColumn] {
        &self.used
    }

    /// The calendars that it names.
    #[must_use]
    pub fn calendars(&self) -> &[String] {
        &self.calendars
    }
}

impl ConditionLine {
    /// Reads a line.
    ///
    /// # Errors
    /// Where it is not a condition: the place in the line, and the words that conditions have.
    pub fn read(line: &str) -> Result<Self, PlanMistakes> {
        let mut walk = Walk::default();
        let read = condition_tables(&mut walk.mistakes, &LineText::whole(line), CONDITIONS);
        let conditions = read.as_ref().and_then(|(value, _)| read_conditions(&mut walk, value));
        match (read, conditions) {
            (Some((_, used)), Some(_)) if walk.mistakes.count() == 0 => Ok(Self { used }),
            _ => Err(walk.mistakes.of(Path::new("--when"), line)),
        }
    }

    /// The columns that it names, in the order of the line.
    #[must_use]
    pub fn used(&self) -> &[UsedColumn] {
        &self.used
    }
}

fn table_of(defined: &DefinedColumn<'_>) -> String {
    let mut text = String::from("[[column]]\n");
    for key in &defined.order {
        if let Some(value) = defined.table.get(key.as_str()) {
            text += &format!("{key} = {}\n", value_text(value.get_ref()));
        }
    }
    text
}

/// The words of conditions, one that begins with another before it.
const CONDITION_WORDS: [ConditionWord; 22] = {
    const fn value(words: &'static str, key: &'static str) -> ConditionWord {
        ConditionWord { words, key, compares: Compares::Value }
    }
    const fn order(words: &'static str, key: &'static str) -> ConditionWord {
        ConditionWord { words, key, compares: Compares::Order }
    }
    const fn texts(words: &'static str, key: &'static str) -> ConditionWord {
        ConditionWord { words, key, compares: Compares::Texts }
    }
    const fn state(words: &'static str, key: &'static str, holds: Holds) -> ConditionWord {
        ConditionWord { words, key, compares: Compares::Holds(holds) }
    }
    [
        state("is not blank", "blank", Holds::No),
        state("is not unreadable", "unreadable", Holds::No),
        state("is blank", "blank", Holds::Yes),
        state("is unreadable", "unreadable", Holds::Yes),
        state("not blank", "blank", Holds::No),
        state("blank", "blank", Holds::Yes),
        state("unreadable", "unreadable", Holds::Yes),
        texts("is any of", "is"),
        texts("is none of", "is_not"),
        texts("contains", "contains"),
        texts("begins with", "begins"),
        texts("begins", "begins"),
        texts("ends with", "ends"),
        texts("ends", "ends"),
        texts("lacks", "lacks"),
        value("is not", "is_not"),
        value("is", "is"),
        order("over", "over"),
        order("at least", "at_least"),
        order("under", "under"),
        order("at most", "at_most"),
        ConditionWord { words: "within", key: "within", compares: Compares::Days },
    ]
};

const CONDITIONS: LineCondition<'static> = LineCondition { words: &CONDITION_WORDS };

/// The columns of `column`, each a table or a line.
pub(crate) fn read_columns(walk: &mut Walk, top: &DeTable) -> Vec<PlannedColumn> {
    walk.several(top, "column")
        .iter()
        .filter_map(|item| match item.get_ref() {
            DeValue::Table(table) => read_column(walk, table, item.span()),
            DeValue::String(text) => read_line(walk, &walk.line_of(text, item.span())),
            _ => {
                walk.other_kind(
                    item,
                    "a table under [[column]], or a line such as \"Days = days from Issued to Paid\"",
                );
                None
            }
        })
        .collect()
}

/// The conditions of `select`, each a table or a line.
pub(crate) fn read_selection(walk: &mut Walk, top: &DeTable) -> Vec<Condition> {
    walk.several(top, "select")
        .iter()
        .filter_map(|item| match item.get_ref() {
            DeValue::Table(table) => super::read_condition(walk, table, item.span()).map(|one| vec![one]),
            DeValue::String(text) => {
                let line = walk.line_of(text, item.span());
                let (value, _) = condition_tables(&mut walk.mistakes, &line, CONDITIONS)?;
                read_conditions(walk, &value)
            }
            _ => {
                walk.other_kind(item, "a table under [[select]], or a line such as \"Amount over 500\"");
                None
            }
        })
        .flatten()
        .collect()
}

fn read_line(walk: &mut Walk, line: &LineText<'_>) -> Option<PlannedColumn> {
    let defined = define(&mut walk.mistakes, line)?;
    read_column(walk, &defined.table, line.place())
}

fn define<'t>(mistakes: &mut Mistakes, line: &LineText<'t>) -> Option<DefinedColumn<'t>> {
    let kinds = KINDS.map(|kind| LineKind { forms: kind.lines, companions: kind.companions });
    read_definition(mistakes, line, &kinds, CONDITIONS)
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn each_kind_has_a_form_and_its_forms_name_its_keys() {
        for kind in KINDS {
            assert!(kind.lines.iter().any(|form| !form.starts_with(',')), "{}", kind.key);
            for form in kind.lines {
                for slot in form.split('{').skip(1) {
                    let key = slot.split(['}', ':', '=']).next().unwrap_or_default();
                    assert!(key == kind.key || kind.companions.contains(&key), "{form}: {key}");
                }
            }
        }
    }
}
