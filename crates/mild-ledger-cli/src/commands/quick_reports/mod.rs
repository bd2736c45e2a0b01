//! `mild aging|tenure|upcoming|turnaround|summary FILE`: common reports of a file. Each command makes a plan of its arguments and
//! runs it.

mod plan_body;
mod report_files;
mod wrong_options;

use super::looked::{amount_format, column_of, said_of, shown_as, written};
use super::planned::{read_as_of, request_as_of, seen_from};
use super::progress::{Progress, stop_on_signals};
use crate::arguments_quick::{
    AgingArguments, QuickArguments, SummaryArguments, TenureArguments, TurnaroundArguments, UpcomingArguments,
};
use crate::ending::{Ending, Failure};
use crate::output::{note, to_standard_output};
use crate::terminal::width;
use mild_ledger_records::{ExistingFiles, Look, Plan, PlanParts, Watch, look, quoted, write_whole_file};
use mild_ledger_report::{json, terminal};
use plan_body::PlanBody;
use report_files::{ReportFiles, name_of_any_month};
use std::path::Path;
use wrong_options::of_options;

pub(crate) fn aging(arguments: &AgingArguments) -> Result<Ending, Failure> {
    report(&arguments.quick, |mut body| {
        let due = match (&arguments.due, &arguments.issued) {
            (Some(due), _) => body.dates(due)?,
            (None, Some(issued)) => {
                let issued = body.dates(issued)?;
                let due = body.new_name("Due");
                body.column(&due, &[("from", &issued), ("terms", &arguments.terms)]);
                body.option("--terms", &arguments.terms);
                due
            }
            (None, None) => {
                return Err(Failure::Request {
                    what: "the command needs due dates, or days of issue and terms".to_owned(),
                    help: "--due COLUMN, or --issued COLUMN with --terms".to_owned(),
                });
            }
        };
        let days = body.new_name("Days overdue");
        body.counted(&days, &due, "as-of", "days");
        let band = body.new_name("Age band");
        let edges = edges(&arguments.edges)?;
        body.option("--edges", &edges);
        body.bucket(&band, &days, &edges);
        let amount = body.money(&arguments.amount)?;
        let issued = arguments.issued.as_ref().map(|name| body.dates(name)).transpose()?;
        let paid = arguments.paid.as_ref().map(|name| body.dates(name)).transpose()?;
        let by = arguments.by.as_ref().map(|name| body.any(name)).transpose()?;
        body.report("aging", &[("band", &band), ("amount", &amount)]);
        for (key, value) in [("issued", issued), ("paid", paid), ("by", by)] {
            value.iter().for_each(|value| body.key(key, value));
        }
        Ok(body)
    })
}

/// Whole numbers, as a list of a plan has them.
fn edges(said: &[String]) -> Result<String, Failure> {
    let number = |text: &String| -> Result<i64, Failure> {
        // Such as the command line hands a number below zero on.
        text.trim().replace('\u{2212}', "-").parse().map_err(|_| Failure::Request {
            what: format!("--edges: \"{}\" is not a whole number", text.escape_debug()),
            help: "--edges 0,30,60,90".to_owned(),
        })
    };
    let mut edges = said.iter().map(number).collect::<Result<Vec<_>, _>>()?;
    if edges.first().is_some_and(|first| *first > 0) {
        edges.insert(0, 0);
        note(
            "--edges begins above 0: an edge of 0 was added, so that amounts not yet due have a bucket of their own",
        );
    }
    Ok(edges.iter().map(i64::to_string).collect::<Vec<_>>().join(", "))
}

pub(crate) fn tenure(arguments: &TenureArguments) -> Result<Ending, Failure> {
    report(&arguments.quick, |mut body| {
        let start = body.dates(&arguments.start)?;
        let left = arguments.left.as_ref().map(|name| body.dates(name)).transpose()?;
        let by = arguments.by.as_ref().map(|name| body.any(name)).transpose()?;
        let count = arguments.count.to_lowercase();
        body.report("tenure", &[("start", &start), ("count", &count)]);
        body.option("--count", &count);
        body.option("--months", &arguments.months.to_string());
        body.number("last_periods", arguments.months.into());
        for (key, value) in [("left", left), ("by", by)] {
            value.iter().for_each(|value| body.key(key, value));
        }
        Ok(body)
    })
}

pub(crate) fn upcoming(arguments: &UpcomingArguments) -> Result<Ending, Failure> {
    report(&arguments.quick, |mut body| {
        let of = body.dates(&arguments.of)?;
        let show = arguments.show.iter().map(|name| body.any(name)).collect::<Result<Vec<_>, _>>()?;
        body.option("--every", &arguments.every);
        body.option("--window", &arguments.window);
        body.report("upcoming", &[("of", &of), ("every", &arguments.every), ("window", &arguments.window)]);
        if !show.is_empty() {
            body.list("columns", &show);
        }
        Ok(body)
    })
}

pub(crate) fn turnaround(arguments: &TurnaroundArguments) -> Result<Ending, Failure> {
    report(&arguments.quick, |mut body| {
        let (start, end) = (body.dates(&arguments.start)?, body.dates(&arguments.end)?);
        let by = arguments.by.as_ref().map(|name| body.any(name)).transpose()?;
        if let Some(calendar) = &arguments.calendar {
            body.option("--calendar", calendar);
            body.calendar(calendar);
        }
        body.option("--count", &arguments.count.to_lowercase());
        if let Some(promise) = &arguments.promise {
            body.option("--promise", promise);
        }
        let count = arguments.count.to_lowercase();
        body.report("turnaround", &[("count", &count)]);
        body.list("between", &[start, end]);
        for (key, value) in [("promise", arguments.promise.clone()), ("by", by)] {
            value.iter().for_each(|value| body.key(key, value));
        }
        Ok(body)
    })
}

pub(crate) fn summary(arguments: &SummaryArguments) -> Result<Ending, Failure> {
    report(&arguments.quick, |mut body| {
        let by = arguments.by.iter().map(|name| body.any(name)).collect::<Result<Vec<_>, _>>()?;
        let mut figures = Vec::new();
        for (word, names) in [
            ("sum", &arguments.sum),
            ("mean", &arguments.mean),
            ("median", &arguments.median),
            ("smallest", &arguments.smallest),
            ("largest", &arguments.largest),
            ("distinct", &arguments.distinct),
        ] {
            for name in names {
                let is_of_numbers = matches!(word, "sum" | "mean" | "median");
                figures.push((word, if is_of_numbers { body.numbers(name)? } else { body.any(name)? }));
            }
        }
        body.report("summary", &[]);
        body.list("by", &by);
        body.figures(&figures);
        Ok(body)
    })
}

/// Looks at the file, makes the plan, runs it in a folder of its own, and shows and writes its report.
fn report(
    arguments: &QuickArguments,
    body: impl FnOnce(PlanBody<'_>) -> Result<PlanBody<'_>, Failure>,
) -> Result<Ending, Failure> {
    let as_of = arguments.as_of.as_deref().map(read_as_of).transpose()?;
    let existing = if arguments.overwrite { ExistingFiles::Overwrite } else { ExistingFiles::Keep };
    let files = ReportFiles::of(&arguments.to, &arguments.file, existing)?;
    let interrupted = stop_on_signals();
    let bar = Progress::new();
    let progress = |read| bar.show(read);
    let found = look(&arguments.file, Watch { interrupted: &interrupted, progress: &progress });
    bar.finish();
    let found = found?;
    let mut written = written(&found, &arguments.date_pattern)?;
    let name_of = |name: &String| column_of(&found, name).map(|column| column.name.clone());
    let key = arguments.key.iter().map(name_of).collect::<Result<Vec<_>, _>>()?;
    let currency = arguments.currency.as_ref().map(name_of).transpose()?;
    if let (Some((column, (first, second))), None, true) =
        (found.nearly_a_key(), &arguments.duplicates, found.keys().is_empty() && key.is_empty())
    {
        return Err(Failure::Request {
            what: format!(
                "\"{}\" is nearly a key, but rows {first} and {second} have the same: are they duplicates?",
                column.name.escape_debug()
            ),
            help: "--duplicates \"set aside\", keep, first or last".to_owned(),
        });
    }
    let formats = arguments.amount_format.iter().map(|format| amount_format(&found, format));
    let formats = formats.collect::<Result<Vec<_>, _>>()?;
    let mut body = body(PlanBody::of(&found, &formats))?;
    if let Some(name) = files.table_name() {
        body.key("file", &name);
        body.option("--to", &name);
    }
    let used = body.dates_used().to_vec();
    let (amounts, figures) = body.amounts_used();
    // A column without a value yet is one of dates because an option names it so.
    let is_unwritten = |name: &&String| !written.iter().any(|(known, _)| known == *name);
    let blank = |name: &&String| column_of(&found, name).is_ok_and(|column| column.values == 0);
    let blanks: Vec<String> = used.iter().filter(is_unwritten).filter(blank).cloned().collect();
    let mut said =
        used.iter().map(|column| said_of(&found, column, &written)).collect::<Result<Vec<_>, _>>()?;
    let mut presentation = found.presentation(&used, &[amounts.as_slice(), &figures].concat(), &written);
    if let Some(format) = formats.first() {
        presentation.decimal_mark = format.notation.decimal_mark();
    }
    said.extend(shown_as(&presentation));
    written.extend(blanks.into_iter().map(|name| (name, "iso".to_owned())));
    let mut options = body.options().to_vec();
    options.extend(written.iter().map(|(_, pattern)| ("--date-pattern", pattern.clone())));
    options.extend(arguments.duplicates.iter().map(|word| ("--duplicates", word.clone())));
    let parts = PlanParts {
        title: Some(body.title(&arguments.file)),
        as_of: arguments.as_of.clone(),
        key,
        amounts,
        figures,
        currency,
        duplicates: arguments.duplicates.clone(),
        written,
        amount_formats: formats.clone(),
        presentation,
        body: body.text(),
        ..PlanParts::default()
    };
    if parts.duplicates.is_some() && !found.has_key_with(&parts) {
        return Err(Failure::Request {
            what: "--duplicates decides about rows of one key, and no column of the file is a key".to_owned(),
            help: "--key COLUMN names it".to_owned(),
        });
    }
    let wrong = |error| of_options(error, &options);
    let plan = Plan::of_text(&found.plan_text_with(&parts), Path::new("arguments")).map_err(wrong)?;
    let aside = tempfile::tempdir()?;
    let plan = plan.with_reports_alone(aside.path());
    let plan = if files.document_names().is_empty() { plan } else { plan.with_figures_opened() };
    let request =
        request_as_of(&plan, as_of, arguments.zone.as_deref())?.with_existing(ExistingFiles::Overwrite);
    let bar = Progress::new();
    let progress = |read| bar.show(read);
    let outcome =
        mild_ledger_records::run(&plan, &request, Watch { interrupted: &interrupted, progress: &progress });
    bar.finish();
    let mut outcome = outcome.map_err(wrong)?;
    outcome.forget_files();
    files.write(&outcome, aside.path())?;
    if let Some(place) = &arguments.save_plan {
        save_plan(place, arguments, &found, (parts, &files))?;
    }
    let text = match arguments.json {
        true => format!("{}\n", json::run(&outcome)),
        false => {
            let said = said.iter().map(|said| terminal::lines(said, width())).collect::<String>();
            format!("{}{}{said}", terminal::brief(&outcome, width()), if said.is_empty() { "" } else { "\n" })
        }
    };
    to_standard_output(&text)?;
    Ok(Ending::Done)
}

/// Writes the plan that gives the same report, this month and every other, and prints which of its lines change.
fn save_plan(
    place: &Path,
    arguments: &QuickArguments,
    found: &Look,
    (parts, files): (PlanParts, &ReportFiles),
) -> Result<(), Failure> {
    // A named day such as "end of last month" has no text to find in the names of files.
    let as_of = arguments.as_of.as_deref().filter(|text| text.parse::<mild_ledger::Date>().is_ok());
    let file = seen_from(place, &arguments.file)?;
    let has_its_date = as_of.is_some_and(|as_of| file.contains(as_of)) && !file.contains(['{', '}']);
    let file = match as_of.filter(|_| has_its_date) {
        Some(as_of) => file.replace(as_of, "{as_of}"),
        None => file,
    };
    let is_dated = parts.as_of.is_some();
    let dated = |name: &str| if is_dated { name_of_any_month(name, as_of) } else { name.to_owned() };
    let stem = arguments.file.file_stem().unwrap_or_default().to_string_lossy();
    let documents = files.document_names().iter().map(|name| dated(name)).collect();
    let mut body = parts.body.clone();
    if let Some(name) = files.table_name() {
        body = body
            .replace(&format!("file = {}\n", quoted(&name)), &format!("file = {}\n", quoted(&dated(&name))));
    }
    let rows = match as_of {
        Some(as_of) => stem.replace(as_of, ""),
        None => stem.into_owned(),
    };
    let rows = dated(&format!("{}-rows.csv", rows.trim_matches('-')));
    let title = parts.title.map(|title| match as_of {
        Some(as_of) => title.replace(as_of, "{as_of}"),
        None => title,
    });
    let parts = PlanParts { title, file: Some(file), rows: Some(rows), documents, body, ..parts };
    let text = found.plan_text_with(&parts);
    write_whole_file(place, text.as_bytes(), ExistingFiles::Keep)?;
    note(&format!("{} gives the same report: mild run {}", place.display(), place.display()));
    let line_of = |key: &str| text.lines().position(|line| line.starts_with(key)).map(|at| at + 1);
    let next = match (line_of("as_of = ").filter(|_| as_of.is_some()), line_of("file = ")) {
        (Some(as_of), _) if has_its_date => format!("next month, change line {as_of}: as_of"),
        (Some(as_of), Some(file)) => {
            format!(
                "next month, change line {as_of}: as_of; and line {file}, where the file of records has another name"
            )
        }
        (_, Some(file)) => {
            format!("next month, change line {file}, where the file of records has another name")
        }
        _ => return Ok(()),
    };
    note(&next);
    Ok(())
}
