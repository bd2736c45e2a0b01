//! The files of records of a run: which they are, and how they were when it began.

use super::RunRequest;
use super::job::RecordsShape;
use crate::columns::{AS_OF_FIELD, AsOfDate, filled_in};
use crate::error::RecordsError;
use crate::files::{FileFacts, Remote, RemoteFile, changed, is_address, is_child, name_in, regular};
use crate::mistakes::At;
use crate::plan::Plan;
use crate::source::{NamedFile, Reading, SourceKind, Sources, Stop};
use std::io::{self, IsTerminal, Write};
use std::path::{Component, Path, PathBuf};
use tempfile::TempPath;

/// The files of records, and how each was when the run began.
pub(super) struct Records {
    /// As the plan or the caller named them.
    pub(super) name: String,
    pub(super) files: Vec<RecordsFile>,
    file_column: Option<String>,
    /// Who reads those that are at addresses.
    remote: Remote,
    stop: Stop,
    /// What came through standard input, which is gone with this.
    _piped: Option<TempPath>,
}

/// A file of records.
pub(super) struct RecordsFile {
    pub(super) name: String,
    pub(super) path: PathBuf,
    stood: Stood,
}

impl RecordsFile {
    /// Where its address led, if it led to another.
    pub(super) fn led_to(&self) -> Option<&str> {
        match &self.stood {
            Stood::AtAddress(file) => file.led_to.as_deref(),
            Stood::InFile(_) | Stood::OnServer => None,
        }
    }
}

/// How records were when the run began.
enum Stood {
    InFile(FileFacts),
    AtAddress(RemoteFile),
    /// A server, which reads for one query what is at one moment.
    OnServer,
}

impl Stood {
    fn bytes(&self) -> u64 {
        match self {
            Self::InFile(facts) => facts.bytes,
            Self::AtAddress(file) => file.bytes,
            Self::OnServer => 0,
        }
    }
}

/// What represents standard input where a file of records is named.
const STANDARD_INPUT: &str = "-";

/// The most files that are read as one: the number of a file has twenty bits, and second files have some of them.
const MOST_FILES: usize = 1_000_000;

impl Records {
    pub(super) fn of(
        plan: &Plan,
        request: &RunRequest,
        as_of: Option<AsOfDate>,
    ) -> Result<Self, RecordsError> {
        let named: Vec<(String, PathBuf)> = if request.records.is_empty() {
            let name = |file: &At<String>| filled_in(&file.value, as_of);
            let of_plan = plan.records_files.iter().map(name);
            of_plan.map(|name| (name.clone(), plan.folder().join(&name))).collect()
        } else {
            request.records.iter().map(|path| (path.display().to_string(), path.clone())).collect()
        };
        let mut records = Self {
            name: named.iter().map(|(name, _)| name.as_str()).collect::<Vec<_>>().join(", "),
            files: Vec::new(),
            file_column: plan.file_column.as_ref().map(|column| column.value.clone()),
            remote: request.remote.clone(),
            stop: request.stop.clone(),
            _piped: None,
        };
        for (name, path) in named {
            records.add(plan, (name, path)).map_err(|error| in_the_plan(plan, request, as_of, error))?;
        }
        if records.files.len() > MOST_FILES {
            let what = format!("{} files of records are named", records.files.len());
            return Err(RecordsError::request(what, format!("at most {MOST_FILES} are read as one")));
        }
        records.check_each_once()?;
        if let ([only], true) = (records.files.as_slice(), plan.records_files.len() <= 1) {
            records.name.clone_from(&only.name);
        }
        Ok(records)
    }

    /// Adds the file of a name, or all those that a name with `*` or `?` in it represents, in the order of their names.
    fn add(&mut self, plan: &Plan, (name, path): (String, PathBuf)) -> Result<(), RecordsError> {
        if name == STANDARD_INPUT {
            let piped = spooled()?;
            let stood = Stood::InFile(regular(&piped)?);
            self.name = "standard input".to_owned();
            self.files.push(RecordsFile { name: self.name.clone(), path: piped.to_path_buf(), stood });
            self._piped = Some(piped);
            return Ok(());
        }
        if SourceKind::is_address(&name) {
            SourceKind::check_no_password(&name)?;
            self.files.push(RecordsFile { path: PathBuf::from(&name), name, stood: Stood::OnServer });
            return Ok(());
        }
        if is_address(&name) {
            return self.add_address(&name);
        }
        if path.is_dir() {
            return self.add_folder(plan, (&name, &path));
        }
        let found = regular(&path);
        if found.is_ok() || !name.contains(['*', '?']) {
            self.files.push(RecordsFile { name, path, stood: Stood::InFile(found?) });
            return Ok(());
        }
        let matching = records_like(plan, &path)?;
        if matching.is_empty() {
            let help = format!("nothing is like {name}; * means any characters, ? means one");
            return Err(RecordsError::Missing { path, help });
        }
        for path in matching {
            let name = path.strip_prefix(plan.folder()).unwrap_or(&path).display().to_string();
            let stood = Stood::InFile(regular(&path)?);
            self.files.push(RecordsFile { name, path, stood });
        }
        Ok(())
    }

    /// Adds the file at an address, or all files at one that ends as that of a folder does and are read as records, in the order of their names.
    fn add_address(&mut self, name: &str) -> Result<(), RecordsError> {
        let place = Path::new(name);
        // What comes before an @ or after a ? may let any user in, and would be shown with the address.
        if name.contains(['@', '?', '#']) {
            return Err(RecordsError::request(
                "the address of the records holds @, ? or #, and is not used",
                "leave out who may read them, which is not part of an address; docs/engine-operation.md says how that is given",
            ));
        }
        let Some(files) = self.remote.reader_of(name) else {
            let what = format!("{name} is an address that is not read here");
            let help = "mild-engine run reads http://, https:// and s3://; or copy the file, and name that";
            return Err(RecordsError::request(what, help));
        };
        let mut addresses = vec![name.to_owned()];
        if name.ends_with('/') {
            addresses = files.names_in(name).map_err(RecordsError::file(place, "look for files there"))?;
            // Names are looked at before any file is asked for.
            addresses.retain(|file| is_child(name, file) && SourceKind::is_named_so(Path::new(file)));
            addresses.sort();
            addresses.dedup();
            if addresses.is_empty() {
                let what = format!("{name} is a folder, and no file in it ends as records do");
                return Err(RecordsError::request(what, "such as .csv, .jsonl or .parquet; or name a file"));
            }
        }
        // What a folder says of a file's version need not be what the file says.
        let found = addresses.iter().map(|address| files.file(address));
        let found = found.collect::<io::Result<Vec<_>>>().map_err(RecordsError::file(place, "find it"))?;
        let of_file = |file: RemoteFile| RecordsFile {
            name: file.address.clone(),
            path: PathBuf::from(&file.address),
            stood: Stood::AtAddress(file),
        };
        self.files.extend(found.into_iter().map(of_file));
        Ok(())
    }

    /// Adds all files of a folder that are read as records, in the order of their names.
    fn add_folder(&mut self, plan: &Plan, (name, folder): (&str, &Path)) -> Result<(), RecordsError> {
        let mut files = records_like(plan, &folder.join("*"))?;
        files.retain(|path| SourceKind::is_named_so(path));
        if files.is_empty() {
            let what = format!("{} is a folder, and no file in it ends as records do", folder.display());
            return Err(RecordsError::request(what, "such as .csv, .jsonl or .parquet; or name a file"));
        }
        for path in files {
            let file = path.file_name().unwrap_or_default().to_string_lossy().into_owned();
            let stood = Stood::InFile(regular(&path)?);
            self.files.push(RecordsFile { name: name_in(name.trim_end_matches('/'), file), path, stood });
        }
        Ok(())
    }

    /// Rows of a file that is named twice would be counted twice.
    fn check_each_once(&self) -> Result<(), RecordsError> {
        let mut places: Vec<_> = self
            .files
            .iter()
            .map(|file| (file.path.canonicalize().unwrap_or_else(|_| file.path.clone()), file))
            .collect();
        places.sort_by(|(one, _), (other, _)| one.cmp(other));
        match places.windows(2).find(|pair| pair[0].0 == pair[1].0) {
            None => Ok(()),
            Some(pair) => Err(RecordsError::request(
                format!("{} is among the files of records twice", pair[1].1.name),
                "name each once, or its rows are counted twice",
            )),
        }
    }

    /// Their bytes.
    pub(super) fn bytes(&self) -> u64 {
        self.files.iter().map(|file| file.stood.bytes()).sum()
    }

    pub(super) fn open(&self, reading: &Reading) -> Result<Sources, RecordsError> {
        let files = self.files.iter().map(|file| NamedFile { name: &file.name, path: &file.path });
        let files: Vec<NamedFile<'_>> = files.collect();
        let reading = Reading { remote: self.remote.clone(), stop: self.stop.clone(), ..reading.clone() };
        Sources::open(&files, &reading, self.file_column.as_deref())
    }

    /// The data of them once they are open.
    pub(super) fn shape<'r>(&self, reader: &'r Sources) -> RecordsShape<'r> {
        RecordsShape {
            sources: self.names(),
            header: reader.columns(),
            types: reader.types(),
            unread: reader.unread(),
            stop: self.stop.clone(),
        }
    }

    /// How the files are called, in their order.
    pub(super) fn names(&self) -> Vec<String> {
        self.files.iter().map(|file| file.name.clone()).collect()
    }

    /// The records and the plan are still the files that were read.
    pub(super) fn check_unchanged(&self, plan: &Plan) -> Result<(), RecordsError> {
        for file in &self.files {
            let is_changed = match &file.stood {
                Stood::InFile(facts) => regular(&file.path)? != *facts,
                Stood::AtAddress(stood) => match self.remote.reader_of(&stood.address) {
                    Some(files) => {
                        let now = files.file(&stood.address);
                        now.map_err(RecordsError::file(&file.path, "find it"))? != *stood
                    }
                    None => true,
                },
                Stood::OnServer => false,
            };
            if is_changed {
                return Err(changed(&file.path));
            }
        }
        plan.input.check_unchanged()
    }
}

/// Whether a file is an output of a plan, of any as-of date.
fn is_output(path: &Path, output: &Path) -> bool {
    let name = output.file_name().unwrap_or_default().to_string_lossy();
    let like = name.replace(['[', '*', '?'], "?").replace(AS_OF_FIELD, "????-??-??");
    let pattern = glob::Pattern::new(&like);
    // A folder may be named as the one that the plan is in.
    let folder = |path: &Path| -> PathBuf {
        let parts = path.parent().into_iter().flat_map(Path::components);
        parts.filter(|part| *part != Component::CurDir).collect()
    };
    folder(path) == folder(output)
        && pattern.is_ok_and(|like| like.matches(&path.file_name().unwrap_or_default().to_string_lossy()))
}

/// The files whose names are like a path, but for what an earlier run of the plan wrote next to its records, though its name may be like theirs.
fn records_like(plan: &Plan, path: &Path) -> Result<Vec<PathBuf>, RecordsError> {
    let outputs = [&plan.output_rows, &plan.output_exceptions];
    let outputs = outputs.into_iter().chain(plan.report_files.iter().flatten()).chain(&plan.output_documents);
    let outputs: Vec<PathBuf> = outputs.map(|output| plan.folder().join(&output.value)).collect();
    let mut matching = matching(path)?;
    matching.retain(|path| !outputs.iter().any(|output| is_output(path, output)));
    Ok(matching)
}

/// The files of a folder whose names are like the last part of a path, in the order of their names.
fn matching(path: &Path) -> Result<Vec<PathBuf>, RecordsError> {
    let folder = path.parent().filter(|folder| !folder.as_os_str().is_empty()).unwrap_or(Path::new("."));
    let pattern = path.file_name().unwrap_or_default().to_string_lossy();
    // Brackets are characters of names here, as they are of files that were saved twice.
    let pattern = glob::Pattern::new(&pattern.replace('[', "[[]"));
    let pattern = pattern
        .map_err(|error| RecordsError::request(error.to_string(), "* means any characters, ? means one"))?;
    let failed = || RecordsError::file(folder, "look for files there");
    let mut found = Vec::new();
    for entry in std::fs::read_dir(folder).map_err(failed())? {
        let name = entry.map_err(failed())?.file_name();
        let place = if path.parent().is_some_and(|folder| !folder.as_os_str().is_empty()) {
            folder.join(&name)
        } else {
            PathBuf::from(&name)
        };
        let is_hidden = name.to_string_lossy().starts_with('.');
        if !is_hidden && pattern.matches(&name.to_string_lossy()) && place.is_file() {
            found.push(place);
        }
    }
    found.sort();
    Ok(found)
}

/// A file of another month, or no file for the as-of date, is the commonest reason.
fn in_the_plan(
    plan: &Plan,
    request: &RunRequest,
    as_of: Option<AsOfDate>,
    error: RecordsError,
) -> RecordsError {
    let path = match error {
        RecordsError::File { path, source, .. } if source.kind() == io::ErrorKind::NotFound => path,
        other => return other,
    };
    let dated = plan.records_files.iter().find(|name| name.value.contains(AS_OF_FIELD));
    match (dated, as_of) {
        (Some(name), Some(as_of)) if request.records.is_empty() => RecordsError::Missing {
            path,
            help: format!(
                "the plan's \"{}\" with the as-of date {} makes this name; --as-of names another date, --records another file",
                name.value, as_of.date
            ),
        },
        _ => RecordsError::file(&path, "read it")(io::ErrorKind::NotFound.into()),
    }
}

/// All that comes through standard input in a file, since records may be read more than once; of the ending that its first byte
/// tells.
fn spooled() -> Result<TempPath, RecordsError> {
    let mut input = io::stdin().lock();
    if input.is_terminal() {
        let what = "the records are to come through standard input, and nothing is piped there";
        return Err(RecordsError::request(what, "mild run PLAN --records - < FILE, or name a file"));
    }
    let failed = || RecordsError::file(Path::new("standard input"), "read it");
    let mut begin = Vec::new();
    io::Read::read_to_end(&mut io::Read::take(&mut input, 64), &mut begin).map_err(failed())?;
    let first = begin.iter().find(|byte| !byte.is_ascii_whitespace());
    let ending = if first == Some(&b'{') { ".jsonl" } else { ".csv" };
    let mut builder = tempfile::Builder::new();
    let mut file = builder.prefix("mild-records-").suffix(ending).tempfile().map_err(failed())?;
    file.write_all(&begin).map_err(failed())?;
    io::copy(&mut input, file.as_file_mut()).map_err(failed())?;
    Ok(file.into_temp_path())
}
