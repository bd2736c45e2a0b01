//! `credits` of an aging: where open amounts below zero are.

use crate::columns::Binder;
use crate::mistakes::{At, Keys, Value, Walk};
use crate::reports::groups::{Level, MOST_LEVELS, PlannedLevel};
use mild_ledger::CreditsStand;

/// The key of those whose debts are set off, next to the words of the other ways.
const OFF_OLDEST_DEBT_OF: &str = "off_oldest_debt_of";
const EXPECTED: &str = "credits = \"apart\", \"by-due-date\" or { off_oldest_debt_of = \"Customer\" }";

/// Where credits are, as the plan says it.
#[derive(Debug)]
pub(super) enum PlannedCredits {
    Said(CreditsStand),
    /// Off the debts of the same, by the column that tells who that is.
    OffOldestDebtOf(At<String>),
}

/// Where credits are, and the levels by which groups are kept apart for that.
pub(super) struct BoundCredits {
    pub(super) stand: CreditsStand,
    /// The levels of the table, and after them perhaps one more, within whose groups credits are set off.
    pub(super) levels: Vec<Level>,
    /// How many of them the table shows.
    pub(super) shown: usize,
    /// The header of the column that tells whose debts they are.
    pub(super) of: Option<String>,
}

pub(super) fn read(walk: &mut Walk, value: Option<&Value<'_>>) -> Option<PlannedCredits> {
    let Some(value) = value else { return Some(PlannedCredits::Said(CreditsStand::Apart)) };
    if let Some(table) = value.get_ref().as_table() {
        walk.check_keys(table, &Keys { part: "credits", known: &[OFF_OLDEST_DEBT_OF], later: &[] });
        let column = walk.needed(table, OFF_OLDEST_DEBT_OF, value.span(), EXPECTED)?;
        return walk.text(column, "the name of a column").map(PlannedCredits::OffOldestDebtOf);
    }
    let words = [CreditsStand::Apart, CreditsStand::ByDueDate].map(|stand| (stand.word(), stand));
    match value.get_ref().as_str() {
        Some(word) if word == CreditsStand::OffOldestDebt.word() => {
            walk.mistakes.tell(
                value.span(),
                "this does not name whose debts credits are set off against",
                EXPECTED,
            );
            None
        }
        _ => walk.choice(value, &words).map(PlannedCredits::Said),
    }
}

impl PlannedCredits {
    pub(super) fn bind(&self, levels: Vec<Level>, binder: &mut Binder<'_>) -> Option<BoundCredits> {
        let shown = levels.len();
        let name = match self {
            Self::Said(stand) => return Some(BoundCredits { stand: *stand, levels, shown, of: None }),
            Self::OffOldestDebtOf(name) => name,
        };
        let of = PlannedLevel::Column(name.clone()).bind(binder)?;
        let header = of.name.clone();
        let mut levels = levels;
        if levels.iter().all(|level| level.column() != of.column()) {
            if shown == MOST_LEVELS {
                let what = format!("{MOST_LEVELS} groupings leave no room to keep \"{header}\" apart too");
                binder.mistakes.tell(
                    name.span.clone(),
                    what,
                    "one of the columns of by, or one less of these",
                );
                return None;
            }
            levels.push(of);
        }
        Some(BoundCredits { stand: CreditsStand::OffOldestDebt, levels, shown, of: Some(header) })
    }
}
