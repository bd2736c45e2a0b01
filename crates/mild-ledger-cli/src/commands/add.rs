//! `mild add FILE --column LINE`: a file with columns that lines of words define.

use super::looked::{amount_format, check_amounts, column_of, said_of, written};
use super::planned::{read_as_of, request_as_of, seen_from};
use super::progress::{Progress, stop_on_signals};
use super::records_found::{LookedAt, RecordsFound, read_all};
use crate::arguments_add::AddArguments;
use crate::ending::{Ending, Failure};
use crate::output::{all_to_standard_output, note, same_file, to_standard_error, to_standard_output};
use crate::terminal::{width, width_of_errors};
use mild_ledger::DecimalMark;
use mild_ledger_records::{
    Clarity, ColumnLine, ConditionLine, ExistingFiles, Holding, LineCalendar, LinesPlan, Look, LookedColumn,
    NewColumns, Plan, Presentation, RecordsError, RunOutcome, TextsKept, UsedAs, UsedColumn, Watch,
    WorkbookToWiden, write_whole_file,
};
use mild_ledger_report::{json, terminal};
use std::collections::BTreeMap;
use std::path::{Path, PathBuf};
use tempfile::TempDir;

/// How the plan of the lines is called, and its file of exceptions.
const PLAN: &str = "arguments";
const EXCEPTIONS: &str = "arguments-exceptions.csv";

/// The calendar of lines that name none, where the arguments name none either.
const WEEKDAYS: &str = "weekdays";

pub(crate) fn add(arguments: &AddArguments) -> Result<Ending, Failure> {
    let (columns, conditions) = read_lines(arguments)?;
    let records = &arguments.records;
    let as_of = records.as_of.as_deref().map(read_as_of).transpose()?;
    let mut target = Target::of(arguments)?;
    let interrupted = stop_on_signals();
    let mut looked_at = looked_at((&columns, &conditions), &target);
    let mut all = RecordsFound::of_columns(records, &looked_at, &interrupted)?;
    if all.has_column_without_evidence() {
        looked_at.wholly.get_or_insert_default().append(&mut looked_at.at_first);
        all.look_again(records, &looked_at, &interrupted)?;
    }
    let found = &all.look;
    if arguments.save_plan.is_some() {
        all.check_kept()?;
    }
    target.find_workbook(arguments, found)?;
    let file = all.name();
    let added = columns.iter().map(ColumnLine::name).collect::<Vec<_>>().join(", ");
    let mut lines = LinesPlan {
        title: Some(format!("{file} with {added}").replace(['{', '}'], "")),
        as_of: records.as_of.clone(),
        files: all.names(),
        columns: arguments.columns.clone(),
        select: records.when.clone(),
        calendars: calendars_of(arguments, &columns),
        texts: target.kind().texts(),
        rows: target.name(),
        separator: target.kind().separator(found.separator),
        ..LinesPlan::default()
    };
    let mut said = name_columns(&mut lines, found, arguments, (&columns, &conditions))?;
    all.check_alike(lines.dates.iter().map(|(name, _)| name))?;
    lines.presentation = target.kind().presentation(lines.presentation);
    let pattern = lines.presentation.dates.as_ref();
    said.extend(pattern.map(|pattern| format!("New dates are written as {pattern}, as in the file.")));
    let wrong = |error: RecordsError| of_lines(error, arguments);
    let plan = Plan::of_text(&found.plan_of_lines(&lines), Path::new(PLAN)).map_err(wrong)?;
    let request = request_as_of(&plan, as_of, records.zone.as_deref())?;
    if let Some(row) = &arguments.row {
        let bar = Progress::new();
        let progress = |read| bar.show(read);
        let explained = mild_ledger_records::explain(
            &plan.with_outputs_in(target.aside.path()),
            &request,
            row,
            Watch { interrupted: &interrupted, progress: &progress },
        );
        bar.finish();
        let explained = explained.map_err(wrong)?;
        let text = match arguments.json {
            true => format!("{}\n", json::explained(&explained)),
            false => terminal::explained(&explained, width()),
        };
        to_standard_output(&text)?;
        return Ok(Ending::Done);
    }
    let plan = plan.with_outputs_in(target.aside.path());
    let bar = Progress::new();
    let progress = |read| bar.show(read);
    let request = request.with_existing(ExistingFiles::Overwrite);
    let outcome =
        mild_ledger_records::run(&plan, &request, Watch { interrupted: &interrupted, progress: &progress });
    bar.finish();
    let mut outcome = outcome.map_err(wrong)?;
    outcome.forget_files();
    if outcome.calendars.iter().any(|used| used.name == WEEKDAYS) && arguments.calendar.is_none() {
        note("no calendar is named: working days are Monday to Friday, and no holidays are counted");
    }
    let files = target.keep(&outcome, lines.dates.first().map(|(name, _)| name.as_str()))?;
    if let Some(place) = &arguments.save_plan {
        save_plan(place, arguments, found, lines)?;
    }
    answer(&outcome, arguments, &[said, files].concat())
}

/// The lines, each read by itself; all their mistakes are reported at once.
fn read_lines(arguments: &AddArguments) -> Result<(Vec<ColumnLine>, Vec<ConditionLine>), Failure> {
    let mut wrong = Vec::new();
    let columns = read_all(&arguments.columns, ColumnLine::read, &mut wrong);
    let conditions = read_all(&arguments.records.when, ConditionLine::read, &mut wrong);
    if wrong.is_empty() { Ok((columns, conditions)) } else { Err(Failure::Lines(wrong)) }
}

/// The columns of the file that are looked at: those that lines name, and no others. Of dates whose texts are kept the first rows are enough, since the run
/// tries the pattern on every value, and lists those that it does not read.
fn looked_at((columns, conditions): (&[ColumnLine], &[ConditionLine]), target: &Target) -> LookedAt {
    let used =
        columns.iter().flat_map(ColumnLine::used).chain(conditions.iter().flat_map(ConditionLine::used));
    let mut names: BTreeMap<String, UsedAs> = BTreeMap::new();
    for used in used {
        let known = names.entry(used.name.trim().to_owned()).or_insert(used.used_as);
        *known = used.used_as.max(*known);
    }
    let is_of_dates = |(_, used_as): &(String, UsedAs)| *used_as == UsedAs::Dates;
    let are_kept = target.kind().texts() == TextsKept::All;
    let (at_first, wholly): (Vec<_>, Vec<_>) =
        names.into_iter().partition(|named| are_kept && is_of_dates(named));
    let named = |all: Vec<(String, UsedAs)>| all.into_iter().map(|(name, _)| name).collect();
    LookedAt { wholly: Some(named(wholly)), at_first: named(at_first) }
}

/// The calendars that lines count by: those that they name, then the one of lines that name none.
fn calendars_of(arguments: &AddArguments, columns: &[ColumnLine]) -> Vec<LineCalendar> {
    let mut calendars: Vec<LineCalendar> = Vec::new();
    let named = columns.iter().flat_map(|column| column.calendars());
    for name in arguments.calendar.iter().chain(named) {
        if !calendars.iter().any(|known| known.name == *name) {
            let source = (name != WEEKDAYS).then(|| name.clone());
            calendars.push(LineCalendar { name: name.clone(), source });
        }
    }
    if calendars.is_empty() {
        calendars.push(LineCalendar { name: WEEKDAYS.to_owned(), source: None });
    }
    calendars
}

/// Says in the plan what the columns of the file hold that the lines name; a sentence for each column of dates.
fn name_columns(
    lines: &mut LinesPlan,
    found: &Look,
    arguments: &AddArguments,
    (columns, conditions): (&[ColumnLine], &[ConditionLine]),
) -> Result<Vec<String>, Failure> {
    let given = written(found, &arguments.records.date_pattern)?;
    lines.amount_formats = arguments
        .records
        .amount_format
        .iter()
        .map(|format| amount_format(found, format))
        .collect::<Result<Vec<_>, _>>()?;
    for name in &arguments.records.key {
        lines.key.push(column_of(found, name)?.name.clone());
    }
    let mut used: Vec<&UsedColumn> = Vec::new();
    let mut defined: Vec<&str> = Vec::new();
    for column in columns {
        used.extend(column.used().iter().filter(|used| !defined.contains(&used.name.as_str())));
        defined.push(column.name());
    }
    let of_conditions = conditions.iter().flat_map(ConditionLine::used);
    used.extend(of_conditions.filter(|used| !defined.contains(&used.name.as_str())));
    let mut said = Vec::new();
    for used in used {
        // A column that is not there is a mistake of its line.
        let Ok(column) = column_of(found, &used.name) else { continue };
        let name = &column.name;
        let is_given = lines.amount_formats.iter().any(|format| format.column == *name);
        match (used.used_as, &column.holds) {
            (UsedAs::Dates | UsedAs::Ordered, Holding::Date(_)) | (UsedAs::Dates, _) => {
                said.extend(name_dates(lines, found, &given, name)?);
            }
            // Dates in doubt are texts here, as they are in the file.
            (UsedAs::Anything, Holding::Date(_)) => {
                said.extend(name_dates(lines, found, &given, name).ok().flatten());
            }
            (UsedAs::Numbers | UsedAs::Ordered, Holding::Amount(_) | Holding::WholeNumber { .. })
                if !lines.numbers.contains(name) =>
            {
                // A few texts among numbers stay in their rows.
                if !is_given && !are_mostly_amounts(column) {
                    check_amounts(found, column)?;
                }
                lines.numbers.push(name.clone());
            }
            // That it holds no numbers is a mistake of its line.
            _ => {}
        }
    }
    let dates: Vec<&String> = lines.dates.iter().map(|(name, _)| name).collect();
    lines.presentation = found.presentation(&dates, &lines.numbers, &given);
    Ok(said)
}

/// Whether three values in four are amounts of one notation, so that the others are slips.
fn are_mostly_amounts(column: &LookedColumn) -> bool {
    match &column.holds {
        Holding::Amount(amounts) => {
            amounts.verdict == Clarity::None
                && amounts.credit_and_debit == (0, 0)
                && amounts.currencies.len() < 2
                && amounts.failed * 4 <= column.values
        }
        _ => false,
    }
}

/// Says in the plan that a column holds dates, once; a sentence about it.
fn name_dates(
    lines: &mut LinesPlan,
    found: &Look,
    given: &[(String, String)],
    name: &str,
) -> Result<Option<String>, Failure> {
    if lines.dates.iter().any(|(known, _)| known == name) {
        return Ok(None);
    }
    let said = said_of(found, name, given)?;
    let pattern = given.iter().find(|(known, _)| known == name);
    lines.dates.push((name.to_owned(), pattern.map(|(_, pattern)| pattern.clone())));
    Ok(Some(said))
}

/// A file of rows by its ending.
enum RowsFile {
    /// CSV, as on standard output.
    Delimited,
    Tabs,
    JsonLines,
    Workbook,
    /// A format with types of its own for dates and numbers.
    Typed,
}

impl RowsFile {
    /// A text file has the texts of the records; a format with types has dates and numbers, where all can be read.
    fn texts(&self) -> TextsKept {
        match self {
            Self::Delimited | Self::Tabs | Self::JsonLines => TextsKept::All,
            Self::Workbook | Self::Typed => TextsKept::WhereUnreadable,
        }
    }

    /// How the file shows new dates and numbers, of what the records have: a format of numbers has no decimal mark, and a database its own form of dates.
    fn presentation(&self, of_records: Presentation) -> Presentation {
        match self {
            Self::Delimited | Self::Tabs => of_records,
            Self::JsonLines | Self::Workbook => {
                Presentation { decimal_mark: DecimalMark::default(), ..of_records }
            }
            Self::Typed => Presentation::default(),
        }
    }

    /// The character between cells: a tab where the name promises it, and otherwise that of the file of records.
    fn separator(&self, of_records: Option<char>) -> Option<char> {
        match self {
            Self::Delimited => of_records,
            Self::Tabs => Some('\t'),
            Self::JsonLines | Self::Workbook | Self::Typed => None,
        }
    }
}

/// Where the rows go: a file, or standard output.
struct Target {
    file: Option<PathBuf>,
    existing: ExistingFiles,
    records: PathBuf,
    /// The workbook that gets the columns, where the file is to be one like that of the records.
    workbook: Option<WorkbookToWiden>,
    /// The folder of what is not kept, where the file of rows is until it is whole; next to its place, so that it need not be copied.
    aside: TempDir,
}

impl Target {
    fn of(arguments: &AddArguments) -> Result<Self, Failure> {
        let existing = if arguments.overwrite { ExistingFiles::Overwrite } else { ExistingFiles::Keep };
        let Some(file) = &arguments.to else {
            let (records, aside) = (arguments.first_file(), tempfile::tempdir()?);
            return Ok(Self { file: None, existing, records, workbook: None, aside });
        };
        let refused = |what: &str, help: &str| Failure::Request {
            what: format!("--to: {} {what}", file.display().to_string().escape_debug()),
            help: help.to_owned(),
        };
        let is_records = arguments.records.files.iter().any(|records| same_file(file, records));
        if is_records && existing == ExistingFiles::Keep {
            let help = "another name; or --overwrite, which keeps a copy of the file";
            return Err(refused("is the file of records", help));
        }
        if file.exists() && existing == ExistingFiles::Keep {
            return Err(refused("exists already", "--overwrite replaces it; or another name"));
        }
        if file.file_name().is_none() {
            return Err(refused("has no name of a file", "such as --to orders-dated.csv"));
        }
        let folder = file.parent().filter(|folder| !folder.as_os_str().is_empty()).unwrap_or(Path::new("."));
        let aside = tempfile::Builder::new().prefix(".mild-add-").tempdir_in(folder);
        let aside = aside.map_err(|error| RecordsError::File {
            path: file.clone(),
            action: "write it".into(),
            source: error,
        })?;
        let records = arguments.first_file();
        Ok(Self { file: Some(file.clone()), existing, records, workbook: None, aside })
    }

    /// Whether the columns go into a copy of the workbook of the records; prints before anything is written which other parts stay.
    fn find_workbook(&mut self, arguments: &AddArguments, found: &Look) -> Result<(), Failure> {
        let ending = |path: &Path| path.extension().map(|ending| ending.to_string_lossy().to_lowercase());
        let Some(file) = &self.file else { return Ok(()) };
        let workbook = WorkbookToWiden::of(&self.records, found.sheet.as_deref(), found.header_line)?;
        let Some(workbook) = workbook else { return Ok(()) };
        let others = workbook.others().in_words();
        let is_whole = arguments.records.when.is_empty() && arguments.records.files.len() == 1;
        if ending(file) != ending(&self.records) || !is_whole {
            if let Some(others) = others {
                note(&format!(
                    "{} gets the rows alone, without the {others} of the workbook",
                    file.display()
                ));
            }
            return Ok(());
        }
        workbook.check_room()?;
        let kept =
            others.map_or_else(|| "as it is".to_owned(), |others| format!("as it is, {others} included"));
        note(&format!("the new columns go to the right of the table; all else of the workbook stays {kept}"));
        if workbook.others().is_signed() {
            note("the signature of the workbook is not valid for the copy");
        }
        self.workbook = Some(workbook);
        Ok(())
    }

    /// How the plan names it.
    fn name(&self) -> String {
        if self.workbook.is_some() {
            return "rows.xlsx".to_owned();
        }
        let name = self.file.as_deref().and_then(Path::file_name);
        name.map_or_else(|| "-".to_owned(), |name| name.to_string_lossy().replace(['{', '}'], "_"))
    }

    /// What kind of file gets the rows.
    fn kind(&self) -> RowsFile {
        let ending = self.file.as_deref().and_then(Path::extension);
        match ending.map(|ending| ending.to_string_lossy().to_lowercase()).as_deref() {
            None | Some("csv" | "txt") => RowsFile::Delimited,
            Some("tsv") => RowsFile::Tabs,
            Some("jsonl" | "ndjson") => RowsFile::JsonLines,
            Some("xlsx" | "xlsm") => RowsFile::Workbook,
            Some(_) => RowsFile::Typed,
        }
    }

    /// Puts the file of rows in its place, and the exceptions next to it where rows were set aside; a sentence about each.
    fn keep(&self, outcome: &RunOutcome, dates_like: Option<&str>) -> Result<Vec<String>, Failure> {
        let Some(file) = &self.file else { return Ok(Vec::new()) };
        let failed = |path: &Path, source| RecordsError::File {
            path: path.to_owned(),
            action: "write it".into(),
            source,
        };
        let mut whole = self.aside.path().join(self.name());
        if let Some(workbook) = &self.workbook {
            let widened = self.aside.path().join("widened");
            workbook.write(NewColumns { rows: &whole, dates_like }, &widened)?;
            whole = widened;
        }
        let place = |from: &Path, to: &Path| -> Result<(), Failure> {
            if to.exists() && self.existing == ExistingFiles::Keep {
                return Err(Failure::Request {
                    what: format!("{} exists already", to.display().to_string().escape_debug()),
                    help: "--overwrite replaces it; or another name".to_owned(),
                });
            }
            std::fs::rename(from, to).map_err(|error| failed(to, error))?;
            Ok(())
        };
        let mut said = Vec::new();
        if outcome.rows.set_aside > 0 {
            let stem = file.file_stem().unwrap_or_default().to_string_lossy();
            let to = file.with_file_name(format!("{stem}-exceptions.csv"));
            place(&self.aside.path().join(EXCEPTIONS), &to)?;
            said.push(format!("{} has the rows that were set aside.", to.display()));
        }
        if same_file(file, &self.records) {
            let copy = name_of_copy(file);
            std::fs::copy(file, &copy).map_err(|error| failed(&copy, error))?;
            said.push(format!("{} is a copy of the file as it was.", copy.display()));
        }
        place(&whole, file)?;
        said.push(format!("{} has {} rows.", file.display(), outcome.rows.written));
        Ok(said)
    }
}

/// A name that no file has, for a copy of one as it was.
fn name_of_copy(file: &Path) -> PathBuf {
    let stem = file.file_stem().unwrap_or_default().to_string_lossy();
    let ending = file.extension().map_or_else(String::new, |ending| format!(".{}", ending.to_string_lossy()));
    let names = std::iter::once(format!("{stem}-before{ending}"))
        .chain((2_u32..).map(|nth| format!("{stem}-before-{nth}{ending}")));
    let mut places = names.map(|name| file.with_file_name(name));
    places
        .find(|place| !place.exists())
        .unwrap_or_else(|| file.with_file_name(format!("{stem}-before{ending}")))
}

/// An error of the plan with the lines that it was made of.
fn of_lines(error: RecordsError, arguments: &AddArguments) -> Failure {
    let RecordsError::Plan(found) = error else { return error.into() };
    let (mut of_columns, others) = found.of_lines("--column", &arguments.columns);
    let (of_conditions, others) = others.of_lines("--when", &arguments.records.when);
    of_columns.extend(of_conditions);
    if others.mistakes().is_empty() { Failure::Lines(of_columns) } else { RecordsError::Plan(others).into() }
}

/// Writes the plan that adds the same columns.
fn save_plan(place: &Path, arguments: &AddArguments, found: &Look, lines: LinesPlan) -> Result<(), Failure> {
    let stem = arguments.first_file().file_stem().unwrap_or_default().to_string_lossy().into_owned();
    let rows = match &arguments.to {
        Some(file) => seen_from(place, file)?,
        None => format!("{stem}-rows.csv"),
    };
    let files = arguments.records.files.iter().map(|file| seen_from(place, file));
    let lines = LinesPlan { files: files.collect::<Result<_, _>>()?, rows, ..lines };
    write_whole_file(place, found.plan_of_lines(&lines).as_bytes(), ExistingFiles::Keep)?;
    note(&format!("{} adds the same columns: mild run {}", place.display(), place.display()));
    Ok(())
}

/// The rows where no file gets them, and what there is to know about them.
fn answer(outcome: &RunOutcome, arguments: &AddArguments, said: &[String]) -> Result<Ending, Failure> {
    let to_errors = outcome.held_rows.is_some();
    let wide = if to_errors { width_of_errors() } else { width() };
    let said: String = said.iter().map(|said| terminal::lines(said, wide)).collect();
    let text = match arguments.json {
        true => format!("{}\n", json::run(outcome)),
        false => format!("{}{said}", terminal::added(outcome, wide)),
    };
    match &outcome.held_rows {
        None => to_standard_output(&text)?,
        Some(rows) => {
            all_to_standard_output(|out| rows.copy_to(out).map(drop))?;
            to_standard_error(&text);
        }
    }
    Ok(Ending::Done)
}
