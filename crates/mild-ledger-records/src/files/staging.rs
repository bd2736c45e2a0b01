//! Outputs that appear all or not at all.
//!
//! Every output is written to a part file beside its place, and the part files are renamed together at the
//! end, the receipt last. If one rename fails, those before it are taken back. If the program is killed among
//! the renames, each file is whole, old or new; the finished receipt still stands as a part file then, and the
//! next run knows the new files by it.

use super::Fingerprint;
use super::receipt::{Author, Receipt};
use crate::error::RecordsError;
use std::ffi::OsString;
use std::fs::{self, File, OpenOptions, TryLockError};
use std::io::{self, Write};
use std::path::{Path, PathBuf};

/// The outputs of one run on their way to their places.
#[derive(Debug)]
pub(crate) struct Staging {
    receipt_place: PathBuf,
    receipt_part: PathBuf,
    /// Held, with its lock, as long as the run lasts.
    receipt_file: File,
    earlier: Receipt,
    pending: Receipt,
    outputs: Vec<Output>,
    committed: bool,
}

#[derive(Debug)]
struct Output {
    /// As the plan names it, relative to the plan's folder.
    name: String,
    place: PathBuf,
    part: PathBuf,
    backup: PathBuf,
    /// What stood at the place when the run began.
    before: Option<Before>,
}

#[derive(Debug, PartialEq, Eq)]
struct Before {
    bytes: u64,
    modified: Option<std::time::SystemTime>,
}

/// Whether a file that is not an earlier output of the same plan may be overwritten.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default)]
pub enum ExistingFiles {
    /// It stays, and the run is refused. The default.
    #[default]
    Keep,
    /// It is overwritten.
    Overwrite,
}

/// Where the receipt of a plan stands: beside the outputs, named after the plan.
pub(crate) fn receipt_path(plan: &Path, first_output: &Path) -> PathBuf {
    let mut name = plan.file_stem().map_or_else(|| OsString::from("plan"), OsString::from);
    name.push(".receipt.toml");
    first_output.with_file_name(name)
}

impl Staging {
    /// Locks the outputs' folder against another run of the plan and reads the earlier receipt.
    pub(crate) fn begin(receipt_place: &Path, existing: ExistingFiles) -> Result<Self, RecordsError> {
        let earlier = match (Receipt::read(receipt_place), existing) {
            (Err(RecordsError::InTheWay { .. }), ExistingFiles::Overwrite) => Receipt::empty(),
            (result, _) => result?,
        };
        let receipt_part = beside(receipt_place, "part");
        let pending = Receipt::read(&receipt_part).unwrap_or_else(|_| Receipt::empty());
        let receipt_file = OpenOptions::new()
            .create(true)
            .truncate(false)
            .write(true)
            .open(&receipt_part)
            .map_err(RecordsError::file(receipt_place, "write it"))?;
        match receipt_file.try_lock() {
            Ok(()) => {}
            Err(TryLockError::WouldBlock) => {
                return Err(RecordsError::request(
                    format!("another run of this plan is writing {}", receipt_place.display()),
                    "wait until it has ended",
                ));
            }
            Err(TryLockError::Error(error)) => {
                return Err(RecordsError::file(receipt_place, "lock it")(error));
            }
        }
        Ok(Self {
            receipt_place: receipt_place.to_owned(),
            receipt_part,
            receipt_file,
            earlier,
            pending,
            outputs: Vec::new(),
            committed: false,
        })
    }

    /// Opens the part file of an output, if nothing stands in its place that must not be overwritten.
    pub(crate) fn create(
        &mut self,
        name: &str,
        place: &Path,
        as_of: &str,
        existing: ExistingFiles,
    ) -> Result<File, RecordsError> {
        // A link is followed, so that it still leads to the file afterwards.
        let place = fs::canonicalize(place).unwrap_or_else(|_| place.to_owned());
        let before = self.may_be_overwritten(name, &place, as_of, existing)?;
        let output = Output {
            name: name.to_owned(),
            part: beside(&place, "part"),
            backup: beside(&place, "old"),
            place,
            before,
        };
        let file = create_part(&output)?;
        self.outputs.push(output);
        Ok(file)
    }

    /// Opens the part files of all outputs anew, for a second pass over the records.
    pub(crate) fn reopen(&self, nth: usize) -> Result<File, RecordsError> {
        match self.outputs.get(nth) {
            Some(output) => create_part(output),
            None => Err(RecordsError::Proof { what: format!("there is no output number {nth}") }),
        }
    }

    /// Where the part file of an output stands, to be read back.
    pub(crate) fn part(&self, nth: usize) -> &Path {
        self.outputs.get(nth).map_or(Path::new(""), |output| &output.part)
    }

    /// Where an output will stand.
    pub(crate) fn place(&self, nth: usize) -> &Path {
        self.outputs.get(nth).map_or(Path::new(""), |output| &output.place)
    }

    /// What an output is called in the plan.
    pub(crate) fn name(&self, nth: usize) -> &str {
        self.outputs.get(nth).map_or("", |output| &output.name)
    }

    /// The receipt so far, to add this run to.
    pub(crate) fn earlier_receipt(&self) -> &Receipt {
        &self.earlier
    }

    /// Makes everything durable and moves it to its place, the receipt last.
    pub(crate) fn commit(mut self, receipt: &str) -> Result<(), RecordsError> {
        let failed = |path: &Path| RecordsError::file(path, "write it");
        self.receipt_file.set_len(0).map_err(failed(&self.receipt_place))?;
        self.receipt_file.write_all(receipt.as_bytes()).map_err(failed(&self.receipt_place))?;
        self.receipt_file.sync_all().map_err(failed(&self.receipt_place))?;
        for output in &self.outputs {
            let part = File::open(&output.part).and_then(|part| part.sync_all());
            part.map_err(failed(&output.place))?;
            if output.before != before(&output.place)? {
                return Err(RecordsError::InTheWay {
                    path: output.place.clone(),
                    why: "was changed while this run was going on".to_owned(),
                });
            }
        }
        if let Err((place, error)) = self.rename_all() {
            self.take_back();
            return Err(failed(&place)(error));
        }
        self.committed = true;
        for output in &self.outputs {
            let _ = fs::remove_file(&output.backup);
        }
        sync_folder(&self.receipt_place);
        Ok(())
    }

    fn rename_all(&self) -> Result<(), (PathBuf, io::Error)> {
        for output in &self.outputs {
            let step = || -> io::Result<()> {
                if output.before.is_some() {
                    let _ = fs::remove_file(&output.backup);
                    fs::hard_link(&output.place, &output.backup)
                        .or_else(|_| fs::copy(&output.place, &output.backup).map(drop))?;
                }
                fs::rename(&output.part, &output.place)
            };
            step().map_err(|error| (output.place.clone(), error))?;
        }
        fs::rename(&self.receipt_part, &self.receipt_place)
            .map_err(|error| (self.receipt_place.clone(), error))
    }

    /// Puts back what stood in the places of outputs already renamed.
    fn take_back(&self) {
        for output in self.outputs.iter().filter(|output| !output.part.exists()) {
            let _ = match output.before {
                Some(_) => fs::rename(&output.backup, &output.place),
                None => fs::remove_file(&output.place),
            };
        }
    }

    fn may_be_overwritten(
        &self,
        name: &str,
        place: &Path,
        as_of: &str,
        existing: ExistingFiles,
    ) -> Result<Option<Before>, RecordsError> {
        let before = before(place)?;
        if before.is_none() || existing == ExistingFiles::Overwrite {
            return Ok(before);
        }
        let sha256 = Fingerprint::of_file(place).map_err(RecordsError::file(place, "read it"))?.sha256;
        if self.pending.author_of(name, &sha256, as_of) == Author::ThisAsOf {
            return Ok(before);
        }
        let why = match self.earlier.author_of(name, &sha256, as_of) {
            Author::ThisAsOf => return Ok(before),
            Author::OtherAsOf(other) => format!("is the output as of {other}"),
            Author::ChangedSince => "was changed after this plan wrote it".to_owned(),
            Author::Unknown => "was not written by an earlier run of this plan".to_owned(),
        };
        Err(RecordsError::InTheWay { path: place.to_owned(), why })
    }
}

impl Drop for Staging {
    /// Removes what is not to be kept.
    fn drop(&mut self) {
        if self.committed {
            return;
        }
        for output in &self.outputs {
            let _ = fs::remove_file(&output.part);
            let _ = fs::remove_file(&output.backup);
        }
        // A receipt left by a run that was killed among its renames is still needed to know its files by.
        let _ = match self.pending.to_text() {
            Ok(text) if self.pending != Receipt::empty() => fs::write(&self.receipt_part, text),
            _ => fs::remove_file(&self.receipt_part),
        };
    }
}

fn create_part(output: &Output) -> Result<File, RecordsError> {
    let failed = || RecordsError::file(&output.place, "write it");
    let _ = fs::remove_file(&output.part);
    let file = OpenOptions::new().create_new(true).write(true).open(&output.part).map_err(failed())?;
    if let Ok(facts) = fs::metadata(&output.place) {
        file.set_permissions(facts.permissions()).map_err(failed())?;
    }
    Ok(file)
}

/// What stands at a place; a folder there is an error.
fn before(place: &Path) -> Result<Option<Before>, RecordsError> {
    match fs::metadata(place) {
        Ok(facts) if facts.is_file() && facts.permissions().readonly() => {
            Err(RecordsError::file(place, "write it, for it is read-only")(
                io::ErrorKind::PermissionDenied.into(),
            ))
        }
        Ok(facts) if facts.is_file() => {
            Ok(Some(Before { bytes: facts.len(), modified: facts.modified().ok() }))
        }
        Ok(facts) if facts.is_dir() => {
            Err(RecordsError::file(place, "write it")(io::ErrorKind::IsADirectory.into()))
        }
        Ok(_) => Err(RecordsError::InTheWay {
            path: place.to_owned(),
            why: "is a device or a pipe, which cannot be replaced as a whole".to_owned(),
        }),
        Err(error) if error.kind() == io::ErrorKind::NotFound => Ok(None),
        Err(error) => Err(RecordsError::file(place, "write it")(error)),
    }
}

/// A hidden name in the same folder.
fn beside(place: &Path, ending: &str) -> PathBuf {
    let mut name = OsString::from(".");
    name.push(place.file_name().unwrap_or_default());
    name.push(".mild-");
    name.push(ending);
    place.with_file_name(name)
}

/// Makes renames durable where the system lets a folder be synced.
fn sync_folder(file: &Path) {
    if let Some(folder) = file.parent() {
        let folder = if folder.as_os_str().is_empty() { Path::new(".") } else { folder };
        let _ = File::open(folder).and_then(|folder| folder.sync_all());
    }
}
