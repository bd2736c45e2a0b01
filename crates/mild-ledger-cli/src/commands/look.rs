//! `mild look FILE…`.

use super::progress::{Progress, stop_on_signals};
use crate::arguments::LookArguments;
use crate::ending::{Ending, Failure};
use crate::output::to_standard_output;
use crate::terminal::width;
use mild_ledger_records::{Look, LookPart, Watch, look_at_part};
use mild_ledger_report::{json, terminal};

pub(crate) fn look(arguments: &LookArguments) -> Result<Ending, Failure> {
    let interrupted = stop_on_signals();
    let mut found: Vec<Look> = Vec::new();
    for file in &arguments.files {
        let bar = Progress::new();
        let progress = |read| bar.show(read);
        let watch = Watch { interrupted: &interrupted, progress: &progress };
        let part = LookPart {
            part: arguments.sheet.as_deref().or(arguments.table.as_deref()),
            header_line: arguments.header_line,
            ..LookPart::default()
        };
        let looked = look_at_part(file, part, watch);
        bar.finish();
        found.push(looked?);
    }
    let text = if arguments.json {
        format!("{}\n", json::look(&found))
    } else if arguments.plan {
        found.iter().map(Look::plan_text).collect::<Vec<_>>().join("\n")
    } else {
        found.iter().map(|looked| terminal::look(looked, width())).collect::<Vec<_>>().join("\n")
    };
    to_standard_output(&text)?;
    Ok(Ending::Done)
}
