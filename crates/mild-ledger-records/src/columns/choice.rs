//! `when` with `then` and perhaps `else`: one value where conditions hold, and another where they do not.

use super::binder::Binder;
use super::conditions::{BoundCondition, Condition, all_hold, empty_figure, read_conditions};
use super::inputs::{ValueSource, read_value_source};
use super::rows::Rows;
use super::typed_numbers::NumberUse;
use super::value::{BoundValue, ValueKind};
use super::why::CellWhy;
use super::{ColumnKind, Planned, Step};
use crate::mistakes::{At, Walk};
use crate::table::{Data, Gap, Kind, Reason};
use mild_ledger::Error;
use std::ops::Range;
use toml::de::DeTable;

pub(super) const KIND: ColumnKind = ColumnKind {
    key: "when",
    gives: "one of two values, by conditions",
    companions: &["then", "else"],
    lines: &[
        "{then} when {when}",
        "{then} when {when} else {else}",
        "when {when} then {then}",
        "when {when} then {then} else {else}",
    ],
    read,
};

#[derive(Debug)]
struct PlannedChoice {
    when: Vec<Condition>,
    then: At<ValueSource>,
    otherwise: Option<At<ValueSource>>,
}

struct ChoiceStep {
    when: Vec<BoundCondition>,
    /// The conditions in words.
    when_words: Vec<String>,
    then: BoundValue,
    otherwise: Option<BoundValue>,
    kind: ValueKind,
}

fn read(walk: &mut Walk, table: &DeTable, span: Range<usize>) -> Option<Box<dyn Planned>> {
    let when = table.get("when").and_then(|value| read_conditions(walk, value));
    let otherwise = match table.get("else") {
        Some(value) => Some(read_value_source(walk, value)?),
        None => None,
    };
    let then = table.get("then").and_then(|value| read_value_source(walk, value));
    if !table.contains_key("then") {
        walk.mistakes.tell(
            span,
            "then is missing",
            "a text, a number, a date, \"as-of\", or { column = \"…\" }",
        );
    }
    Some(Box::new(PlannedChoice { when: when?, then: then?, otherwise }))
}

impl Planned for PlannedChoice {
    fn header(&self) -> Option<String> {
        None
    }

    fn uses_as_of(&self) -> bool {
        let values = std::iter::once(&self.then).chain(&self.otherwise);
        self.when.iter().any(Condition::uses_as_of)
            || values.into_iter().any(|value| value.value.uses_as_of())
    }

    fn stand_in(&self) -> Kind {
        Kind::Text
    }

    fn bind(&self, binder: &mut Binder<'_>) -> Option<(Kind, Box<dyn Step>)> {
        let when = binder.conditions(&self.when);
        let then = binder.value(&self.then);
        let otherwise = match &self.otherwise {
            Some(value) => Some(binder.value(value)?),
            None => None,
        };
        let (when, then) = (when?, then?);
        // Next to a number, what the format types as numbers is one.
        for (one, other) in [(Some(&then), otherwise.as_ref()), (otherwise.as_ref(), Some(&then))] {
            let is_number = one.is_some_and(|one| matches!(one.kind(binder), ValueKind::Number { .. }));
            if let (true, Some(column)) = (is_number, other.and_then(BoundValue::column)) {
                binder.take_as(column, NumberUse::Figures);
            }
        }
        let when_words = self.when.iter().map(Condition::in_words).collect();
        // Two dates stay a date, two numbers a number; anything else is shown as text.
        let kind = match &otherwise {
            Some(otherwise) => then.kind(binder).joined(otherwise.kind(binder)),
            None => then.kind(binder),
        };
        Some((kind.as_kind(), Box::new(ChoiceStep { when, when_words, then, otherwise, kind })))
    }
}

impl Step for ChoiceStep {
    /// What could not be read is taken over from the value that was chosen only.
    fn inputs(&self) -> Vec<usize> {
        Vec::new()
    }

    fn depends_on(&self) -> Vec<usize> {
        self.when.iter().flat_map(BoundCondition::columns).chain(self.amounts()).collect()
    }

    fn amounts(&self) -> Vec<usize> {
        std::iter::once(&self.then).chain(&self.otherwise).filter_map(BoundValue::column).collect()
    }

    fn work_out(&self, rows: &mut Rows<'_>) -> Result<Data, Error> {
        let values: Vec<&BoundValue> = std::iter::once(&self.then).chain(&self.otherwise).collect();
        let chosen: Vec<Option<usize>> = (0..rows.count())
            .map(|row| match all_hold(&self.when, rows.table, row) {
                true => Some(0),
                false => self.otherwise.as_ref().map(|_| 1),
            })
            .collect();
        let gaps = chosen.iter().enumerate().map(|(row, place)| {
            let column = values.get((*place)?)?.column()?;
            rows.table.gap(column, row).filter(|gap| *gap != Gap::Blank)
        });
        rows.gaps = gaps.collect();
        for (row, _) in chosen.iter().enumerate().filter(|(_, chosen)| **chosen != Some(0)) {
            let layout = &rows.setting.layout;
            if let Some(column) = empty_figure(&self.when, (rows.table, layout.columns_of_file), row) {
                let becomes =
                    if self.otherwise.is_some() { "the value of else is used" } else { "the cell is empty" };
                rows.list_kept(
                    row,
                    Reason::EmptyFigure,
                    format!("\"{}\" is empty, so {becomes}", layout.name(column)),
                );
            }
        }
        Ok(self.kind.column(rows, &values, &chosen))
    }

    fn why(&self, rows: &Rows<'_>, row: usize) -> Option<CellWhy> {
        let steps = self.when.iter().zip(&self.when_words).map(|(condition, words)| {
            let holds = all_hold(std::slice::from_ref(condition), rows.table, row);
            format!("{words}: {}", if holds { "holds" } else { "does not hold" })
        });
        let said = if all_hold(&self.when, rows.table, row) {
            "all hold, so the value of then"
        } else {
            "not all hold, so the value of else"
        };
        Some(CellWhy::said("when all of these hold", steps.chain([said.to_owned()])))
    }
}
