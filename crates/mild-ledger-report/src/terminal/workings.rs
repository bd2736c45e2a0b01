//! How figures came about.

use super::Width;
use super::text::wrapped;
use crate::shown::visible;
use mild_ledger::{Step, Working};

/// Each working in a line of its own, after the steps that all of them begin with.
pub(super) fn put_workings(out: &mut String, all: &[Working], width: Width) {
    let Some((first, rest)) = all.split_first() else { return };
    let shared = first
        .steps()
        .iter()
        .enumerate()
        .take_while(|(nth, step)| {
            !rest.is_empty() && rest.iter().all(|working| working.steps().get(*nth) == Some(*step))
        })
        .count();
    out.push_str("why\n");
    for step in &first.steps()[..shared] {
        out.push_str(&wrapped(&visible(step.said()), "  ", width));
    }
    for working in all {
        let said: Vec<&str> = working.steps()[shared..].iter().map(Step::said).collect();
        let said = format!("{}: {}", working.rule(), said.join(", "));
        out.push_str(&wrapped(&visible(&said), "  ", width));
    }
    out.push('\n');
}
