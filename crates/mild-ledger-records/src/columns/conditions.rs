//! Conditions on the cells of a row.

use super::binder::Binder;
use super::inputs::{AS_OF, read_reference};
use super::typed_numbers::NumberUse;
use crate::mistakes::{At, Keys, Value, Walk, in_quotes, nearest_words, read_date};
use crate::table::{Data, Kind, Table};
use mild_ledger::{Date, Decimal, NamedWindow, Quotient};
use std::borrow::Cow;
use std::cmp::Ordering;
use std::ops::Range;
use toml::de::{DeTable, DeValue};

/// One condition as the plan says it, or alternatives of which one must hold.
#[derive(Debug)]
pub(crate) enum Condition {
    Column { column: At<String>, tests: Vec<Test> },
    Any(Vec<Condition>),
}

#[derive(Debug)]
pub(crate) struct Test {
    kind: TestKind,
    operand: At<Operand>,
}

#[derive(Debug, Clone, Copy, PartialEq, Eq)]
enum TestKind {
    Is,
    IsNot,
    Over,
    AtLeast,
    Under,
    AtMost,
    Blank,
    Unreadable,
    Within,
    Contains,
    Begins,
    Ends,
    Lacks,
}

/// Whether capitals and small letters are the same.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
enum LetterCase {
    AsWritten,
    Any,
}

impl TestKind {
    /// Whether it looks into a text.
    fn is_of_texts(self) -> bool {
        matches!(self, Self::Contains | Self::Begins | Self::Ends | Self::Lacks)
    }
}

/// What a column is compared with.
#[derive(Debug, Clone, PartialEq, Eq)]
enum Operand {
    Text(String),
    /// A text whose capitals and small letters do not matter.
    AnyCase(String),
    /// A number as it is in the plan, so that it stays exact.
    Number(String),
    Date(Date),
    Column(String),
    Window(NamedWindow),
    Yes,
    No,
}

/// A condition on column numbers.
pub(crate) enum BoundCondition {
    Test(BoundTest),
    Any(Vec<BoundCondition>),
    All(Vec<BoundCondition>),
}

impl BoundCondition {
    /// The columns that it compares.
    pub(crate) fn columns(&self) -> Vec<usize> {
        match self {
            Self::Any(conditions) | Self::All(conditions) => {
                conditions.iter().flat_map(Self::columns).collect()
            }
            Self::Test(BoundTest { column, operand: BoundOperand::Column(other), .. }) => {
                vec![*column, *other]
            }
            Self::Test(BoundTest { column, .. }) => vec![*column],
        }
    }
}

pub(crate) struct BoundTest {
    column: usize,
    kind: TestKind,
    operand: BoundOperand,
}

enum BoundOperand {
    Text(String),
    /// A text in small letters, for cells in whichever letters.
    AnyCase(String),
    /// A date's day number, or the number of a bucket.
    Place(i128),
    Number(Quotient),
    Column(usize),
    /// A stretch of days by day number, both ends included.
    Window(i128, i128),
    Yes,
    No,
}

pub(crate) const CONDITION: Keys<'static> = Keys {
    part: "a condition",
    known: &[
        "column",
        "is",
        "is_not",
        "over",
        "at_least",
        "under",
        "at_most",
        "blank",
        "unreadable",
        "within",
        "contains",
        "begins",
        "ends",
        "lacks",
        "any_case",
        "any",
    ],
    later: &[],
};

/// The key of tests of texts for which capitals and small letters are the same.
const ANY_CASE: &str = "any_case";

const TESTS: [(&str, TestKind); 13] = [
    ("is", TestKind::Is),
    ("is_not", TestKind::IsNot),
    ("over", TestKind::Over),
    ("at_least", TestKind::AtLeast),
    ("under", TestKind::Under),
    ("at_most", TestKind::AtMost),
    ("blank", TestKind::Blank),
    ("unreadable", TestKind::Unreadable),
    ("within", TestKind::Within),
    ("contains", TestKind::Contains),
    ("begins", TestKind::Begins),
    ("ends", TestKind::Ends),
    ("lacks", TestKind::Lacks),
];

pub(crate) fn read_condition(walk: &mut Walk, table: &DeTable, span: Range<usize>) -> Option<Condition> {
    walk.check_keys(table, &CONDITION);
    if let Some(value) = table.get("any") {
        if let Some(other) = table.keys().find(|key| key.get_ref() != "any") {
            walk.mistakes.tell(
                other.span(),
                "any is alone in its condition",
                "the other conditions in tables of their own",
            );
        }
        return read_conditions(walk, value).map(Condition::Any);
    }
    let column = walk.needed(table, "column", span.clone(), "column = \"…\", the column to look at");
    let column = column.and_then(|value| walk.text(value, "the name of a column"));
    let case = match table.get(ANY_CASE) {
        Some(value) if walk.yes_or_no(value)? => LetterCase::Any,
        _ => LetterCase::AsWritten,
    };
    let (mut tests, mut either) = (Vec::new(), Vec::new());
    for (word, kind) in TESTS {
        let Some(value) = table.get(word) else { continue };
        let is_list = matches!(value.get_ref(), DeValue::Array(_));
        let lists = [
            TestKind::Is,
            TestKind::IsNot,
            TestKind::Contains,
            TestKind::Begins,
            TestKind::Ends,
            TestKind::Lacks,
        ];
        let values = match is_list && lists.contains(&kind) {
            true => walk.items_or_one(value),
            false => std::slice::from_ref(value),
        };
        if values.is_empty() {
            walk.mistakes.tell(value.span(), "the list is empty", "one value or several");
            return None;
        }
        let mut of_word = Vec::new();
        for value in values {
            let operand = match kind {
                TestKind::Blank | TestKind::Unreadable => {
                    walk.yes_or_no(value).map(|yes| if yes { Operand::Yes } else { Operand::No })
                }
                TestKind::Within => {
                    walk.parsed(value, "days such as \"last month\"", str::parse).map(Operand::Window)
                }
                TestKind::Contains | TestKind::Begins | TestKind::Ends | TestKind::Lacks => {
                    walk.text(value, "a text, or a list of them").map(|text| Operand::Text(text.value))
                }
                _ => read_operand(walk, value),
            };
            let operand = match operand? {
                Operand::Text(text) if case == LetterCase::Any => Operand::AnyCase(text),
                other => other,
            };
            of_word.push(Test { kind, operand: At { value: operand, span: value.span() } });
        }
        match (kind, of_word.len()) {
            // None of several is each of them not; one of several is an alternative.
            (TestKind::IsNot | TestKind::Lacks, _) | (_, 1) => tests.extend(of_word),
            _ => either.push((value.span(), of_word)),
        }
    }
    if let Some((span, _)) = either.first().filter(|_| either.len() + usize::from(!tests.is_empty()) > 1) {
        let what = "a list of alternatives is alone in its condition";
        walk.mistakes.tell(span.clone(), what, "the other tests in conditions of their own");
        return None;
    }
    if let (Some((_, of_word)), Some(column)) = (either.pop(), &column) {
        let one = |test| Condition::Column { column: column.clone(), tests: vec![test] };
        return Some(Condition::Any(of_word.into_iter().map(one).collect()));
    }
    let has_other_keys = table.keys().any(|key| key.get_ref() != "column");
    if tests.is_empty() && column.is_some() && !has_other_keys {
        let expected = "is, is_not, over, at_least, under, at_most, within, blank or unreadable";
        walk.mistakes.tell(span, "this condition does not say what must hold", expected);
        return None;
    }
    Some(Condition::Column { column: column?, tests })
}

pub(crate) fn read_conditions(walk: &mut Walk, value: &Value<'_>) -> Option<Vec<Condition>> {
    const EXPECTED: &str = "a list of conditions such as [{ column = \"Amount\", over = 50 }]";
    let items = walk.items(value, EXPECTED)?;
    if items.is_empty() {
        walk.mistakes.tell(value.span(), "the list is empty", EXPECTED);
        return None;
    }
    items
        .iter()
        .map(|item| {
            let table = walk.table(item, "a condition such as { column = \"Amount\", over = 50 }")?;
            read_condition(walk, table, item.span())
        })
        .collect()
}

fn read_operand(walk: &mut Walk, value: &Value<'_>) -> Option<Operand> {
    const EXPECTED: &str = "a text, a number, a date, or { column = \"…\" }";
    match value.get_ref() {
        DeValue::String(text) => Some(Operand::Text(text.to_string())),
        DeValue::Integer(_) => {
            walk.whole_number(value, i64::MIN..=i64::MAX).map(|number| Operand::Number(number.to_string()))
        }
        DeValue::Float(digits) => Some(Operand::Number(digits.as_str().replace('_', ""))),
        DeValue::Datetime(_) => read_date(walk, value, EXPECTED).map(Operand::Date),
        DeValue::Table(table) => read_reference(walk, table, value).map(Operand::Column),
        _ => {
            walk.other_kind(value, EXPECTED);
            None
        }
    }
}

impl Condition {
    /// The column that it compares; of alternatives the first.
    pub(super) fn column(&self) -> Option<&At<String>> {
        match self {
            Self::Column { column, .. } => Some(column),
            Self::Any(conditions) => conditions.first()?.column(),
        }
    }

    /// What must hold, in words: `at most 3650`, `at least 0 and under 120`, `is Quay or is Mill`.
    pub(super) fn words(&self) -> String {
        let tests = match self {
            Self::Column { tests, .. } => tests,
            Self::Any(conditions) => {
                return conditions.iter().map(Self::words).collect::<Vec<_>>().join(" or ");
            }
        };
        let word =
            |kind: TestKind| TESTS.iter().find(|(_, other)| *other == kind).map_or("", |(word, _)| *word);
        let words = |test: &Test| match &test.operand.value {
            Operand::Text(text) => format!("{} {text}", word(test.kind)),
            Operand::AnyCase(text) => format!("{} {text} in any case", word(test.kind)),
            Operand::Number(number) => format!("{} {number}", word(test.kind)),
            Operand::Date(date) => format!("{} {date}", word(test.kind)),
            Operand::Column(column) => format!("{} the {column}", word(test.kind)),
            Operand::Window(window) => format!("{} {window}", word(test.kind)),
            Operand::Yes => word(test.kind).to_owned(),
            Operand::No => format!("not {}", word(test.kind)),
        };
        let all: Vec<String> = tests.iter().map(words).collect();
        all.join(" and ").replace('_', " ")
    }

    /// It in words, its column first.
    pub(crate) fn in_words(&self) -> String {
        match self {
            Self::Column { column, .. } => format!("{} {}", column.value, self.words()),
            Self::Any(conditions) => conditions.iter().map(Self::in_words).collect::<Vec<_>>().join(", or "),
        }
    }

    /// Whether it wants an as-of date.
    pub(crate) fn uses_as_of(&self) -> bool {
        match self {
            Self::Any(conditions) => conditions.iter().any(Self::uses_as_of),
            Self::Column { tests, .. } => tests.iter().any(|test| match &test.operand.value {
                Operand::Window(_) => true,
                Operand::Text(text) => text == AS_OF && !test.kind.is_of_texts(),
                _ => false,
            }),
        }
    }
}

impl Binder<'_> {
    pub(crate) fn conditions(&mut self, conditions: &[Condition]) -> Option<Vec<BoundCondition>> {
        // All of them are looked at, so that each mistake is reported.
        let bound: Vec<_> = conditions.iter().map(|condition| self.condition(condition)).collect();
        bound.into_iter().collect()
    }

    fn condition(&mut self, condition: &Condition) -> Option<BoundCondition> {
        match condition {
            Condition::Any(conditions) => self.conditions(conditions).map(BoundCondition::Any),
            Condition::Column { column, tests } => {
                let nth = self.find(column)?;
                let bound: Vec<_> = tests
                    .iter()
                    .map(|test| {
                        let operand = self.operand(nth, test)?;
                        Some(BoundCondition::Test(BoundTest { column: nth, kind: test.kind, operand }))
                    })
                    .collect();
                bound.into_iter().collect::<Option<_>>().map(BoundCondition::All)
            }
        }
    }

    /// What a column is compared with, turned into what its cells are.
    fn operand(&mut self, column: usize, test: &Test) -> Option<BoundOperand> {
        let span = test.operand.span.clone();
        let orders = !matches!(test.kind, TestKind::Is | TestKind::IsNot) && !test.kind.is_of_texts();
        let asks_for_a_number = match &test.operand.value {
            Operand::Number(_) => true,
            // Whether a cell is blank says nothing of what the others are.
            Operand::Yes | Operand::No => false,
            Operand::Column(name) => {
                let other = self.find(&At { value: name.clone(), span: span.clone() })?;
                orders || self.kind(other).decimals().is_some()
            }
            _ => orders,
        };
        if asks_for_a_number {
            self.take_as(column, NumberUse::Figures);
        }
        let kind = self.kind(column).clone();
        let is_nothing = matches!(&test.operand.value, Operand::Text(text) | Operand::AnyCase(text) if text.trim().is_empty());
        let refused = match (&kind, &test.operand.value) {
            _ if is_nothing && test.kind.is_of_texts() => "every text has nothing in it".to_owned(),
            (_, Operand::Yes) => return Some(BoundOperand::Yes),
            (_, Operand::No) => return Some(BoundOperand::No),
            (Kind::Date { .. }, Operand::Window(window)) => {
                let of = format!("\"{}\" ", self.name(column));
                let days = self.window(window, &span, &of)?;
                let place = |date: Date| i128::from(date.day_number());
                return Some(BoundOperand::Window(place(days.first()), place(days.last())));
            }
            (_, Operand::Column(name)) => {
                let other = self.find(&At { value: name.clone(), span: span.clone() })?;
                if kind.decimals().is_some() {
                    self.take_as(other, NumberUse::Figures);
                }
                if kind.is_like(self.kind(other)) && !(orders && matches!(kind, Kind::Text)) {
                    return Some(BoundOperand::Column(other));
                }
                format!("{} cannot be compared with {} so", kind.word(), self.kind(other).word())
            }
            (Kind::Text, Operand::Text(text)) if !orders => {
                return Some(BoundOperand::Text(text.trim().to_owned()));
            }
            (Kind::Text, Operand::AnyCase(text)) if !orders => {
                return Some(BoundOperand::AnyCase(text.trim().to_lowercase()));
            }
            (kind, _) if test.kind.is_of_texts() => {
                format!("{} hold no texts to look into", kind.word())
            }
            (Kind::Date { .. }, Operand::Date(date)) => {
                return Some(BoundOperand::Place(i128::from(date.day_number())));
            }
            (Kind::Date { .. }, Operand::Text(text)) if text == AS_OF => {
                let date = self.as_of(&span)?.date;
                return Some(BoundOperand::Place(i128::from(date.day_number())));
            }
            (
                Kind::Amount { .. } | Kind::Number { .. } | Kind::Place,
                Operand::Number(digits) | Operand::Text(digits),
            ) => match (digits.parse::<Decimal>(), kind.decimals()) {
                (Ok(number), Some(0)) if number.decimals() > 0 => {
                    format!("{digits} is not a whole number, and the column holds whole numbers")
                }
                (Ok(number), Some(decimals)) if number.decimals() > decimals => {
                    format!("{digits} has more decimals than the column, which has {decimals}")
                }
                (Ok(number), _) => return Some(BoundOperand::Number(number.into())),
                (Err(error), _) => format!("{} (allowed: {})", error.what(), error.allowed()),
            },
            (Kind::Band(band), Operand::Text(label)) => {
                let labels = || band.buckets.labels().iter().map(String::as_str);
                match labels().position(|known| known == label) {
                    Some(bucket) => return Some(BoundOperand::Place(bucket as i128)),
                    None => {
                        let (near, more) = nearest_words(label, labels());
                        format!(
                            "no bucket is called \"{}\"; there are {}{}",
                            label.escape_debug(),
                            in_quotes(near),
                            if more { " …" } else { "" }
                        )
                    }
                }
            }
            (kind, _) => format!("{} cannot be compared with this", kind.word()),
        };
        let expected = match kind {
            Kind::Text => {
                "is or is_not with a text, blank, or { column = \"…\" }; a column of numbers is named under [records.amounts]"
            }
            Kind::Date { .. } => "a date such as 2026-09-30, \"as-of\", or { column = \"…\" }",
            Kind::Amount { .. } => "an amount, or { column = \"…\" }",
            Kind::Number { .. } | Kind::Place => "a number, or { column = \"…\" }",
            Kind::Parts(_) => "{ column = \"…\" }, another column of parts",
            Kind::Band(_) => "the name of a bucket in quotes",
        };
        let help =
            is_nothing.then(|| "a blank cell: blank = true, or blank = false for all others".to_owned());
        self.mistakes.tell_with_help(span, refused, expected, help);
        None
    }
}

/// Whether all conditions hold for a row.
pub(crate) fn all_hold(conditions: &[BoundCondition], table: &Table, row: usize) -> bool {
    conditions.iter().all(|condition| holds(condition, table, row))
}

/// The first column that a condition compares and that the plan made and left empty in a row: the condition does not hold there, whatever
/// the figure would have been.
pub(crate) fn empty_figure(
    conditions: &[BoundCondition],
    (table, columns_of_file): (&Table, usize),
    row: usize,
) -> Option<usize> {
    conditions.iter().find_map(|condition| match condition {
        BoundCondition::All(conditions) | BoundCondition::Any(conditions) => {
            empty_figure(conditions, (table, columns_of_file), row)
        }
        BoundCondition::Test(BoundTest { kind: TestKind::Blank | TestKind::Unreadable, .. }) => None,
        BoundCondition::Test(BoundTest { column, operand, .. }) => {
            let other = if let BoundOperand::Column(other) = operand { Some(other) } else { None };
            let mut both = std::iter::once(column).chain(other);
            both.find(|column| **column >= columns_of_file && table.is_empty(**column, row)).copied()
        }
    })
}

fn holds(condition: &BoundCondition, table: &Table, row: usize) -> bool {
    match condition {
        BoundCondition::All(conditions) => all_hold(conditions, table, row),
        BoundCondition::Any(conditions) => conditions.iter().any(|condition| holds(condition, table, row)),
        BoundCondition::Test(BoundTest { column, kind, operand }) => {
            let wanted = !matches!(operand, BoundOperand::No);
            match kind {
                TestKind::Blank => table.is_blank(*column, row) == wanted,
                TestKind::Unreadable => table.is_unreadable(*column, row) == wanted,
                TestKind::Within => match operand {
                    BoundOperand::Window(first, last) => {
                        place(table, *column, row).is_some_and(|day| (*first..=*last).contains(&day))
                    }
                    _ => false,
                },
                TestKind::Contains | TestKind::Begins | TestKind::Ends | TestKind::Lacks => {
                    reads(*kind, table.text(*column, row), operand)
                }
                TestKind::IsNot => differs(table, *column, row, operand),
                kind => compare(table, *column, row, operand).is_some_and(|order| match kind {
                    TestKind::Over => order.is_gt(),
                    TestKind::AtLeast => order.is_ge(),
                    TestKind::Under => order.is_lt(),
                    TestKind::AtMost => order.is_le(),
                    _ => order.is_eq(),
                }),
            }
        }
    }
}

/// Whether a text has another in it, where its kind of test asks for that; a blank has none.
fn reads(kind: TestKind, cell: &str, operand: &BoundOperand) -> bool {
    let (cell, wanted): (Cow<'_, str>, &str) = match operand {
        BoundOperand::Text(wanted) => (cell.into(), wanted),
        BoundOperand::AnyCase(wanted) => (cell.to_lowercase().into(), wanted),
        _ => return false,
    };
    match kind {
        TestKind::Lacks => !cell.contains(wanted),
        _ if cell.is_empty() => false,
        TestKind::Begins => cell.starts_with(wanted),
        TestKind::Ends => cell.ends_with(wanted),
        _ => cell.contains(wanted),
    }
}

/// Whether a cell is another than what it is compared with. A blank differs from every value, and from no other blank.
fn differs(table: &Table, column: usize, row: usize, operand: &BoundOperand) -> bool {
    if let BoundOperand::Column(other) = operand
        && table.is_empty(column, row)
        && table.is_empty(*other, row)
    {
        // What could not be read represented something.
        return table.is_unreadable(column, row) != table.is_unreadable(*other, row);
    }
    compare(table, column, row, operand).is_none_or(Ordering::is_ne)
}

/// How a cell compares; `None` where it, or the cell it is compared with, is empty.
fn compare(table: &Table, column: usize, row: usize, operand: &BoundOperand) -> Option<Ordering> {
    match operand {
        BoundOperand::Place(number) => Some(place(table, column, row)?.cmp(number)),
        // As for buckets and arithmetic, what a figure is, and not what it is rounded to.
        BoundOperand::Number(number) => Some(table.exact(column, row)?.cmp(number)),
        BoundOperand::Text(text) => {
            Some(table.text(column, row)).filter(|cell| !cell.is_empty()).map(|cell| cell.cmp(text))
        }
        BoundOperand::AnyCase(text) => Some(table.text(column, row).to_lowercase())
            .filter(|cell| !cell.is_empty())
            .map(|cell| cell.as_str().cmp(text)),
        BoundOperand::Column(other) => compare_columns(table, column, *other, row),
        BoundOperand::Window(..) | BoundOperand::Yes | BoundOperand::No => None,
    }
}

fn compare_columns(table: &Table, one: usize, other: usize, row: usize) -> Option<Ordering> {
    if table.is_empty(one, row) || table.is_empty(other, row) {
        return None;
    }
    match (table.columns.get(one), table.columns.get(other)) {
        // Dates with their times, where they keep them; a date alone begins at midnight.
        (Some(Data::Date(_) | Data::Moment { .. }), Some(Data::Date(_) | Data::Moment { .. })) => {
            Some(table.date_time(one, row)?.cmp(&table.date_time(other, row)?))
        }
        (Some(Data::Text(_) | Data::Choice(_) | Data::Made { .. }), _) => {
            Some(table.text(one, row).cmp(table.text(other, row)))
        }
        (Some(Data::Number(_) | Data::Count(_)), _) => {
            Some(table.exact(one, row)?.cmp(&table.exact(other, row)?))
        }
        _ => Some(place(table, one, row)?.cmp(&place(table, other, row)?)),
    }
}

/// The day of a date, the number of a bucket, the length of parts.
fn place(table: &Table, column: usize, row: usize) -> Option<i128> {
    match table.date(column, row) {
        Some(date) => Some(i128::from(date.day_number())),
        None => table.order_number(column, row),
    }
}
