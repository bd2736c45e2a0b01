//! `mild aging|tenure|upcoming|turnaround|summary FILE`: common reports of a file. Each command makes a plan of its arguments and
//! runs it.

mod plan_body;
mod report_files;
mod wrong_options;

use super::looked::{amount_format, check_amounts, column_of, said_of, shown_as, written};
use super::planned::{read_as_of, request_as_of, seen_from};
use super::progress::{Progress, stop_on_signals};
use super::records_found::{RecordsFound, read_all};
use crate::arguments_quick::{
    AgingArguments, QuickArguments, SummaryArguments, TenureArguments, TurnaroundArguments, UpcomingArguments,
};
use crate::ending::{Ending, Failure};
use crate::output::{note, to_standard_output};
use crate::terminal::width;
use mild_ledger_records::{
    ConditionLine, ExistingFiles, Look, Plan, PlanParts, Watch, look, quoted, write_whole_file,
};
use mild_ledger_report::{json, terminal};
use plan_body::{Payments, PlanBody};
use report_files::{ReportFiles, name_of_any_month};
use std::path::{Path, PathBuf};
use wrong_options::of_options;

pub(crate) fn aging(arguments: &AgingArguments) -> Result<Ending, Failure> {
    report(&arguments.quick, |mut body| {
        if let Some(calendar) = &arguments.calendar {
            body.option("--calendar", calendar);
            body.calendar(calendar);
        }
        let due = match (&arguments.due, &arguments.issued) {
            (Some(due), _) => body.dates(due)?,
            (None, Some(issued)) => {
                let issued = body.dates(issued)?;
                let due = body.new_name("Due");
                body.column(&due, &[("from", &issued)]);
                match arguments.terms.trim().strip_prefix("column ") {
                    Some(column) => {
                        let column = body.any(column)?;
                        body.raw("terms", &format!("{{ column = {} }}", quoted(&column)));
                    }
                    None => body.key("terms", &arguments.terms),
                }
                body.option("--terms", &arguments.terms);
                if let Some(roll) = &arguments.roll {
                    body.option("--roll", roll);
                    body.key("roll", roll);
                }
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
        let groups = body.groups("--by", &arguments.by)?;
        let payments = payments(&mut body, arguments)?;
        body.report("aging", &[("band", &band), ("amount", &amount)]);
        payments.iter().for_each(|payments| body.key("payments", payments));
        for (key, value) in [("issued", issued), ("paid", paid)] {
            value.iter().for_each(|value| body.key(key, value));
        }
        body.put_groups(&groups);
        Ok(body)
    })
}

/// The column of what was paid by a file of payments; nothing where no file is named.
fn payments(body: &mut PlanBody<'_>, arguments: &AgingArguments) -> Result<Option<String>, Failure> {
    let (Some(file), Some(date), Some(paid)) =
        (&arguments.payments, &arguments.payment_date, &arguments.payment_amount)
    else {
        return Ok(None);
    };
    let Some(matched) = arguments.payment_match.as_deref().or(body.only_key()) else {
        return Err(Failure::Request {
            what: "--payments: which row a payment is for is not known".to_owned(),
            help: "--payment-match Invoice, or \"Invoice=Invoice no\"".to_owned(),
        });
    };
    let (ours, theirs) = matched.split_once('=').unwrap_or((matched, matched));
    let ours = body.any(ours)?;
    let interrupted = stop_on_signals();
    let found = look(file, Watch { interrupted: &interrupted, progress: &|_| {} })?;
    let (theirs, date) = (column_of(&found, theirs)?.name.clone(), column_of(&found, date)?.name.clone());
    said_of(&found, &date, &[])?;
    let paid = column_of(&found, paid)?;
    check_amounts(&found, paid)?;
    body.option("--payments", &file.display().to_string());
    let paid = paid.name.clone();
    Ok(Some(body.joined_payments(&Payments { found: &found, file, ours, theirs, date, paid })))
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
        let groups = body.groups("--by", &arguments.by)?;
        let count = arguments.count.to_lowercase();
        body.report("tenure", &[("start", &start), ("count", &count)]);
        body.option("--count", &count);
        body.option("--months", &arguments.months.to_string());
        body.number("last_periods", arguments.months.into());
        left.iter().for_each(|left| body.key("left", left));
        body.put_groups(&groups);
        Ok(body)
    })
}

pub(crate) fn upcoming(arguments: &UpcomingArguments) -> Result<Ending, Failure> {
    report(&arguments.quick, |mut body| {
        let of = body.dates(&arguments.of)?;
        let show = arguments.show.iter().map(|name| body.any(name)).collect::<Result<Vec<_>, _>>()?;
        let groups = body.groups("--by", &arguments.by)?;
        body.option("--every", &arguments.every);
        let (key, days) = match &arguments.within {
            Some(within) => ("within", within),
            None => ("window", &arguments.window),
        };
        body.option(if key == "within" { "--within" } else { "--window" }, days);
        body.report("upcoming", &[("of", &of), ("every", &arguments.every), (key, days)]);
        body.put_groups(&groups);
        if !show.is_empty() {
            body.list("columns", &show);
        }
        Ok(body)
    })
}

pub(crate) fn turnaround(arguments: &TurnaroundArguments) -> Result<Ending, Failure> {
    report(&arguments.quick, |mut body| {
        let (start, end) = (body.dates(&arguments.start)?, body.dates(&arguments.end)?);
        let groups = body.groups("--by", &arguments.by)?;
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
        arguments.promise.iter().for_each(|promise| body.key("promise", promise));
        if let Some(ends) = &arguments.ends {
            body.option("--ends", ends);
            body.key("ends", ends);
        }
        body.put_groups(&groups);
        Ok(body)
    })
}

pub(crate) fn summary(arguments: &SummaryArguments) -> Result<Ending, Failure> {
    report(&arguments.quick, |mut body| {
        let groups = body.groups("--by", &arguments.by)?;
        let across =
            arguments.columns_by.as_ref().map(|line| body.group("--columns-by", line)).transpose()?;
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
        body.put_groups(&groups);
        across.iter().for_each(|across| body.raw("columns_by", across));
        body.figures(&figures);
        Ok(body)
    })
}

/// Looks at the file, makes the plan, runs it in a folder of its own, and shows and writes its report.
fn report(
    arguments: &QuickArguments,
    body: impl FnOnce(PlanBody<'_>) -> Result<PlanBody<'_>, Failure>,
) -> Result<Ending, Failure> {
    let records = &arguments.records;
    let as_of = records.as_of.as_deref().map(read_as_of).transpose()?;
    let mut wrong = Vec::new();
    let conditions = read_all(&records.when, ConditionLine::read, &mut wrong);
    if !wrong.is_empty() {
        return Err(Failure::Lines(wrong));
    }
    let existing = if arguments.overwrite { ExistingFiles::Overwrite } else { ExistingFiles::Keep };
    let files = ReportFiles::of(&arguments.to, &records.files, existing)?;
    let interrupted = stop_on_signals();
    let all = RecordsFound::of(records, &interrupted)?;
    let found = &all.look;
    if arguments.save_plan.is_some() {
        all.check_kept()?;
    }
    let mut written = written(found, &records.date_pattern)?;
    let name_of = |name: &String| column_of(found, name).map(|column| column.name.clone());
    let key = records.key.iter().map(name_of).collect::<Result<Vec<_>, _>>()?;
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
    let formats = records.amount_format.iter().map(|format| amount_format(found, format));
    let formats = formats.collect::<Result<Vec<_>, _>>()?;
    let mut body = body(PlanBody::of(found, &formats))?;
    for used in conditions.iter().flat_map(ConditionLine::used) {
        body.condition(used)?;
    }
    if let Some(name) = files.table_name() {
        body.key("file", &name);
        body.option("--to", &name);
    }
    let used = body.dates_used().to_vec();
    let (amounts, figures) = body.amounts_used();
    // A column without a value yet is one of dates because an option names it so.
    let is_unwritten = |name: &&String| !written.iter().any(|(known, _)| known == *name);
    let blank = |name: &&String| column_of(found, name).is_ok_and(|column| column.values == 0);
    let blanks: Vec<String> = used.iter().filter(is_unwritten).filter(blank).cloned().collect();
    let mut said =
        used.iter().map(|column| said_of(found, column, &written)).collect::<Result<Vec<_>, _>>()?;
    all.check_alike(used.iter())?;
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
        title: Some(body.title(&all.name())),
        as_of: records.as_of.clone(),
        files: all.names(),
        select: records.when.clone(),
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
    let wrong = |error| of_options(error, &records.when, &options);
    let plan = Plan::of_text(&found.plan_text_with(&parts), Path::new("arguments")).map_err(wrong)?;
    let aside = tempfile::tempdir()?;
    let plan = plan.with_reports_alone(aside.path());
    let plan = if files.document_names().is_empty() { plan } else { plan.with_figures_opened() };
    let request =
        request_as_of(&plan, as_of, records.zone.as_deref())?.with_existing(ExistingFiles::Overwrite);
    let bar = Progress::new();
    let progress = |read| bar.show(read);
    let outcome =
        mild_ledger_records::run(&plan, &request, Watch { interrupted: &interrupted, progress: &progress });
    bar.finish();
    let mut outcome = outcome.map_err(wrong)?;
    outcome.forget_files();
    files.write(&outcome, aside.path())?;
    if let Some(place) = &arguments.save_plan {
        save_plan(place, arguments, found, (parts, &files))?;
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
    let as_of = arguments.records.as_of.as_deref().filter(|text| text.parse::<mild_ledger::Date>().is_ok());
    let names = arguments.records.files.iter().map(|file| seen_from(place, file));
    let names = names.collect::<Result<Vec<String>, Failure>>()?;
    let has_its_date = as_of
        .is_some_and(|as_of| names.iter().all(|name| name.contains(as_of) && !name.contains(['{', '}'])));
    let names = names.into_iter().map(|name| match as_of.filter(|_| has_its_date) {
        Some(as_of) => name.replace(as_of, "{as_of}"),
        None => name,
    });
    let names: Vec<String> = names.collect();
    let is_dated = parts.as_of.is_some();
    let dated = |name: &str| if is_dated { name_of_any_month(name, as_of) } else { name.to_owned() };
    let first = arguments.records.files.first().map(PathBuf::as_path).unwrap_or(Path::new("records"));
    let stem = first.file_stem().unwrap_or_default().to_string_lossy();
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
    let parts = PlanParts { title, files: names, rows: Some(rows), documents, body, ..parts };
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
