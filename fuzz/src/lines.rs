//! Lines of words that define columns, say conditions or name groups.

use mild_ledger_records::{ColumnLine, ConditionLine, GroupLine, Plan, PlanMistakes};
use std::path::Path;

/// A line that is a definition is a table that a plan takes; a mistake has a place in the line.
pub fn lines(text: &str) {
    for line in text.lines().take(4) {
        match ColumnLine::read(line) {
            Ok(read) => {
                let plan = format!(
                    "plan = 1\nas_of = 2026-09-30\n[records]\nfile = \"a.csv\"\n{}[output]\nrows = \"b.csv\"\n",
                    read.plan_text()
                );
                if let Err(error) = Plan::of_text(&plan, Path::new("plan.toml")) {
                    panic!("{line:?} is\n{plan}\n{error}");
                }
            }
            Err(mistakes) => has_places(&mistakes, line),
        }
        if let Err(mistakes) = ConditionLine::read(line) {
            has_places(&mistakes, line);
        }
        if let Err(mistakes) = GroupLine::read(line) {
            has_places(&mistakes, line);
        }
    }
}

fn has_places(mistakes: &PlanMistakes, line: &str) {
    assert!(!mistakes.mistakes().is_empty(), "{line:?}");
    for mistake in mistakes.mistakes() {
        assert!(line.get(mistake.span()).is_some(), "{line:?}: {mistake:?}");
    }
}
