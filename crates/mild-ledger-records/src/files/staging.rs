//! Outputs that appear all or not at all.
//!
//! Every output is written into a folder of the run's own next to its place, with a name that no one can foresee, and from
//! there all are renamed together at the end, the receipt last. If one rename fails, those before it are taken back. If the
//! program is killed among the renames, each file is whole, old or new; the finished receipt still is in the run's folder
//! then, and the next run knows the new files by it and clears up.

use super::input::FileFacts;
use super::receipt::{Author, Receipt, RunEntry};
use super::{Fingerprint, HashKind, workshop};
use crate::error::RecordsError;
use std::ffi::OsString;
use std::fs::{self, File, OpenOptions};
use std::io;
use std::path::{Path, PathBuf};
use workshop::Workshop;

/// The outputs of one run on their way to their places.
#[derive(Debug)]
pub(crate) struct Staging {
    plan: String,
    receipt_place: PathBuf,
    /// The first is next to the receipt.
    workshops: Vec<Workshop>,
    earlier: Receipt,
    /// Receipts of runs that were killed among their renames.
    pending: Vec<Receipt>,
    outputs: Vec<Output>,
}

#[derive(Debug)]
struct Output {
    form: OutputForm,
    place: PathBuf,
    part: PathBuf,
    backup: PathBuf,
    /// What was at the place when the run began: a file, or those of a folder by their names.
    before: Before,
}

/// What is at a place: for a file its facts, for a folder those of its files by their names, and nothing of nothing.
type Before = Option<Vec<(OsString, FileFacts)>>;

/// What an output is.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
enum OutputForm {
    File,
    /// Files of rows, one after the other.
    Folder,
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

/// Where the receipt of a plan is: next to the outputs, named after the plan.
pub(crate) fn receipt_path(plan: &Path, first_output: &Path) -> PathBuf {
    let mut name = plan.file_stem().map_or_else(|| OsString::from("plan"), OsString::from);
    name.push(".receipt.toml");
    first_output.with_file_name(name)
}

impl Staging {
    /// Opens a folder of its own next to the receipt and reads the earlier receipt, while no other run does either.
    pub(crate) fn begin(
        plan: &Path,
        receipt_place: &Path,
        existing: ExistingFiles,
    ) -> Result<Self, RecordsError> {
        let failed = || RecordsError::file(receipt_place, "write it");
        let folder = folder_of(receipt_place);
        let _guard = workshop::lock(folder);
        let found = workshop::left_behind(folder, receipt_place).map_err(failed())?;
        if found.is_at_work {
            return Err(RecordsError::request(
                format!("another run of this plan is writing {}", receipt_place.display()),
                "wait until it has ended",
            ));
        }
        let plan = plan_name(plan, folder);
        let mut staging = Self {
            earlier: earlier_receipt(receipt_place, &plan, existing)?,
            plan,
            receipt_place: receipt_place.to_owned(),
            workshops: vec![Workshop::open(folder, receipt_place).map_err(failed())?],
            pending: Vec::new(),
            outputs: Vec::new(),
        };
        for left in found.abandoned {
            // A receipt is still needed to know files by; whether they are taken over or not, it is kept until then.
            if let Ok(receipt) = Receipt::read(&left.receipt()) {
                staging.pending.push(receipt);
            }
            staging.workshops[0].inherit(left);
        }
        Ok(staging)
    }

    /// Opens the part file of an output, if nothing is in its place that must not be overwritten.
    pub(crate) fn create(
        &mut self,
        name: &str,
        place: &Path,
        existing: ExistingFiles,
    ) -> Result<File, RecordsError> {
        let number = self.make_room(OutputForm::File, (name, place), existing)?;
        self.reopen(number)
    }

    /// Makes the folder that the files of an output are written to, if nothing is in its place that must not be overwritten.
    pub(crate) fn create_folder(
        &mut self,
        name: &str,
        place: &Path,
        existing: ExistingFiles,
    ) -> Result<PathBuf, RecordsError> {
        if fs::symlink_metadata(place).is_ok_and(|facts| facts.is_symlink()) {
            let what =
                io::Error::other("it is a link, and a folder of rows takes the place of what is there");
            return Err(RecordsError::file(place, "write it")(what));
        }
        let number = self.make_room(OutputForm::Folder, (name, place), existing)?;
        let part = self.part(number).to_owned();
        fs::create_dir(&part).map_err(RecordsError::file(place, "write it"))?;
        Ok(part)
    }

    /// Takes note of an output that is about to be written; its number.
    fn make_room(
        &mut self,
        form: OutputForm,
        (name, place): (&str, &Path),
        existing: ExistingFiles,
    ) -> Result<usize, RecordsError> {
        let place = followed(place)?;
        let before = self.may_be_overwritten(form, (name, &place), existing)?;
        let folder = folder_of(&place).to_owned();
        let failed = || RecordsError::file(&place, "write it");
        let workshop = match self.workshops.iter().position(|workshop| workshop.is_in(&folder)) {
            Some(nth) => nth,
            None => {
                let left = workshop::left_behind(&folder, &self.receipt_place).map_err(failed())?;
                let mut workshop = Workshop::open(&folder, &self.receipt_place).map_err(failed())?;
                left.abandoned.into_iter().for_each(|left| workshop.inherit(left));
                self.workshops.push(workshop);
                self.workshops.len() - 1
            }
        };
        let number = self.outputs.len();
        let workshop = &self.workshops[workshop];
        self.outputs.push(Output {
            form,
            part: workshop.path().join(format!("new-{number}")),
            backup: workshop.path().join(format!("old-{number}")),
            place,
            before,
        });
        Ok(number)
    }

    /// Opens the part files of all outputs anew, for a second pass over the records.
    pub(crate) fn reopen(&self, nth: usize) -> Result<File, RecordsError> {
        match self.outputs.get(nth) {
            Some(output) => create_part(output),
            None => Err(RecordsError::Proof { what: format!("there is no output number {nth}") }),
        }
    }

    /// Where the part file of an output is, to be read back.
    pub(crate) fn part(&self, nth: usize) -> &Path {
        self.outputs.get(nth).map_or(Path::new(""), |output| &output.part)
    }

    /// Makes everything durable and moves it to its place, the receipt last. The receipt is read again first, since another
    /// run may have written it since.
    pub(crate) fn commit(mut self, entry: RunEntry, existing: ExistingFiles) -> Result<(), RecordsError> {
        let failed = |path: &Path| RecordsError::file(path, "write it");
        for output in &self.outputs {
            output.sync().map_err(failed(&output.place))?;
        }
        let _guard = workshop::lock(folder_of(&self.receipt_place));
        let mut receipt = earlier_receipt(&self.receipt_place, &self.plan, existing)?;
        receipt.record(entry);
        let new_receipt = self.workshops[0].receipt();
        write_synced(&new_receipt, receipt.to_text()?.as_bytes()).map_err(failed(&self.receipt_place))?;
        for output in &self.outputs {
            if output.before != before(output.form, &output.place)? {
                return Err(RecordsError::InTheWay {
                    path: output.place.clone(),
                    why: "was written by another process during this run".to_owned(),
                });
            }
        }
        if let Err((place, error)) = self.rename_all(&new_receipt) {
            let kept = self.take_back();
            let error = failed(&place)(error);
            if kept.is_empty() {
                return Err(error);
            }
            self.workshops.iter_mut().for_each(Workshop::keep);
            return Err(RecordsError::request(
                format!("{error}; and the file that was there before could not be put back"),
                format!("the earlier files are kept as {}", kept.join(", ")),
            ));
        }
        self.workshops.iter_mut().for_each(Workshop::close);
        sync_folder(folder_of(&self.receipt_place));
        Ok(())
    }

    fn rename_all(&self, new_receipt: &Path) -> Result<(), (PathBuf, io::Error)> {
        for output in &self.outputs {
            let step = || -> io::Result<()> {
                if output.before.is_some() && output.form == OutputForm::Folder {
                    // A folder takes the place of nothing by itself.
                    fs::rename(&output.place, &output.backup)?;
                } else if output.before.is_some() {
                    fs::hard_link(&output.place, &output.backup)
                        .or_else(|_| fs::copy(&output.place, &output.backup).map(drop))?;
                }
                fs::rename(&output.part, &output.place)
            };
            step().map_err(|error| (output.place.clone(), error))?;
        }
        fs::rename(new_receipt, &self.receipt_place).map_err(|error| (self.receipt_place.clone(), error))
    }

    /// Puts back what was in the places of outputs already renamed; the backups of those that it could not.
    fn take_back(&self) -> Vec<String> {
        let mut kept = Vec::new();
        // A folder may have been moved out of the way for one that did not come.
        let is_touched = |output: &&Output| {
            !output.part.exists() || output.form == OutputForm::Folder && output.backup.exists()
        };
        for output in self.outputs.iter().filter(is_touched) {
            let cleared = match output.form {
                OutputForm::Folder if !output.part.exists() => fs::rename(&output.place, &output.part),
                OutputForm::File | OutputForm::Folder => Ok(()),
            };
            let result = match output.before {
                Some(_) => cleared.and_then(|()| fs::rename(&output.backup, &output.place)),
                None if output.form == OutputForm::Folder => cleared,
                None => fs::remove_file(&output.place),
            };
            if result.is_err() && output.before.is_some() {
                kept.push(format!("{} (of {})", output.backup.display(), output.place.display()));
            }
        }
        kept
    }

    fn may_be_overwritten(
        &self,
        form: OutputForm,
        (name, place): (&str, &Path),
        existing: ExistingFiles,
    ) -> Result<Before, RecordsError> {
        let before = before(form, place)?;
        let Some(files) = &before else { return Ok(before) };
        for (file, _) in files {
            let is_in_folder = !file.is_empty();
            if existing == ExistingFiles::Overwrite && !is_in_folder {
                return Ok(before);
            }
            let (name, path) = match is_in_folder {
                false => (name.to_owned(), place.to_owned()),
                true => (name_in(name, file), place.join(file)),
            };
            if existing == ExistingFiles::Overwrite {
                // The folder goes as a whole, and with it what a person put there.
                if !self.is_of_a_run(&name) {
                    return Err(RecordsError::request(
                        format!(
                            "{} is in the folder of rows, and no run of this plan wrote it",
                            path.display()
                        ),
                        "move it elsewhere: the folder is replaced as a whole, also with --overwrite",
                    ));
                }
                continue;
            }
            if let Some(why) = self.why_not_ours(&name, &path)? {
                return Err(RecordsError::InTheWay { path, why });
            }
        }
        Ok(before)
    }

    /// Whether some run of this plan wrote a file of this name, changed since or not.
    fn is_of_a_run(&self, name: &str) -> bool {
        let mut receipts = self.pending.iter().chain([&self.earlier]);
        receipts.any(|receipt| HashKind::ALL.iter().any(|(_, kind)| receipt.has_hash(name, *kind)))
    }

    /// Why a file is not what this plan wrote, as of any date; nothing where it is.
    fn why_not_ours(&self, name: &str, path: &Path) -> Result<Option<String>, RecordsError> {
        let mut hashes = Vec::new();
        for (_, kind) in HashKind::ALL {
            // Only by functions that a receipt has a hash of it by, since the file may be large.
            if self.pending.iter().chain([&self.earlier]).any(|receipt| receipt.has_hash(name, kind)) {
                let fingerprint = Fingerprint::of_file(path, kind);
                hashes.push(fingerprint.map_err(RecordsError::file(path, "read it"))?.hash);
            }
        }
        if self.pending.iter().any(|receipt| receipt.author_of(name, &hashes) == Author::ThisPlan) {
            return Ok(None);
        }
        Ok(match self.earlier.author_of(name, &hashes) {
            Author::ThisPlan => None,
            Author::ChangedSince => Some("was changed after this plan wrote it".to_owned()),
            Author::Unknown => Some("was not written by an earlier run of this plan".to_owned()),
        })
    }
}

/// A file of an output that is a folder, as receipts name it.
pub(crate) fn name_in(folder: &str, file: impl AsRef<Path>) -> String {
    format!("{folder}/{}", file.as_ref().display())
}

impl Output {
    /// Makes the written files durable.
    fn sync(&self) -> io::Result<()> {
        if self.form == OutputForm::Folder {
            for entry in fs::read_dir(&self.part)? {
                File::open(entry?.path()).and_then(|file| file.sync_all())?;
            }
            sync_folder(&self.part);
            return Ok(());
        }
        File::open(&self.part).and_then(|part| part.sync_all())
    }
}

/// The receipt that is there, if it is this plan's; what is not a receipt at all may be overwritten where that was asked.
fn earlier_receipt(
    receipt_place: &Path,
    plan: &str,
    existing: ExistingFiles,
) -> Result<Receipt, RecordsError> {
    let mut receipt = match (Receipt::read(receipt_place), existing) {
        (Err(RecordsError::InTheWay { .. }), ExistingFiles::Overwrite) => Receipt::empty(),
        (result, _) => result?,
    };
    receipt.claim(receipt_place, plan)?;
    Ok(receipt)
}

/// The plan as a path from the receipt's folder, so that both may be moved together.
fn plan_name(plan: &Path, folder: &Path) -> String {
    // A plan that is in no file has a folder all the same.
    let in_folder =
        |_| folder_of(plan).canonicalize().map(|real| real.join(plan.file_name().unwrap_or_default()));
    let (Ok(plan), Ok(folder)) = (plan.canonicalize().or_else(in_folder), folder.canonicalize()) else {
        return plan.display().to_string();
    };
    let shared = plan.components().zip(folder.components()).take_while(|(one, other)| one == other).count();
    let up = folder.components().skip(shared).map(|_| "..".to_owned());
    let down = plan.components().skip(shared).map(|part| part.as_os_str().to_string_lossy().into_owned());
    up.chain(down).collect::<Vec<_>>().join("/")
}

pub(super) fn folder_of(place: &Path) -> &Path {
    place.parent().filter(|folder| !folder.as_os_str().is_empty()).unwrap_or(Path::new("."))
}

/// A link is followed, so that it still leads to the file afterwards; one that leads nowhere is refused.
fn followed(place: &Path) -> Result<PathBuf, RecordsError> {
    match fs::canonicalize(place) {
        Ok(real) => Ok(real),
        Err(_) if fs::symlink_metadata(place).is_ok_and(|facts| facts.is_symlink()) => {
            let what = io::Error::other("it is a link that leads nowhere; remove it, or mend where it leads");
            Err(RecordsError::file(place, "write it")(what))
        }
        Err(_) => Ok(place.to_owned()),
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

fn write_synced(path: &Path, bytes: &[u8]) -> io::Result<()> {
    let mut file = OpenOptions::new().create_new(true).write(true).open(path)?;
    io::Write::write_all(&mut file, bytes)?;
    file.sync_all()
}

/// What is at a place. A folder is an error there where a file is to be written, and one that has folders within.
fn before(form: OutputForm, place: &Path) -> Result<Before, RecordsError> {
    let facts = match fs::metadata(place) {
        Ok(facts) => facts,
        Err(error) if error.kind() == io::ErrorKind::NotFound => return Ok(None),
        Err(error) => return Err(RecordsError::file(place, "write it")(error)),
    };
    if form == OutputForm::Folder && facts.is_dir() {
        return files_within(place).map(Some);
    }
    if facts.is_file() && facts.permissions().readonly() {
        let denied = io::ErrorKind::PermissionDenied.into();
        return Err(RecordsError::file(place, "write it, for it is read-only")(denied));
    }
    if facts.is_file() {
        return Ok(Some(vec![(OsString::new(), FileFacts::of(&facts))]));
    }
    if facts.is_dir() {
        return Err(RecordsError::file(place, "write it")(io::ErrorKind::IsADirectory.into()));
    }
    Err(RecordsError::InTheWay {
        path: place.to_owned(),
        why: "is a device or a pipe, which cannot be replaced as a whole".to_owned(),
    })
}

/// The files of a folder of rows, by their names.
fn files_within(folder: &Path) -> Result<Vec<(OsString, FileFacts)>, RecordsError> {
    let failed = || RecordsError::file(folder, "look into it");
    let mut files = Vec::new();
    for entry in fs::read_dir(folder).map_err(failed())? {
        let entry = entry.map_err(failed())?;
        let facts = entry.metadata().map_err(failed())?;
        if !facts.is_file() {
            let why = "is not a file, and is in a folder of rows that would be replaced".to_owned();
            return Err(RecordsError::InTheWay { path: entry.path(), why });
        }
        files.push((entry.file_name(), FileFacts::of(&facts)));
    }
    files.sort_by(|(one, _), (other, _)| one.cmp(other));
    Ok(files)
}

/// Makes renames durable where the system lets a folder be synced.
fn sync_folder(folder: &Path) {
    let _ = File::open(folder).and_then(|folder| folder.sync_all());
}

#[cfg(test)]
mod tests {
    use super::*;
    use std::io::Write;

    /// A staging of two outputs over an earlier file each, both written.
    fn staged(folder: &Path) -> Staging {
        let place = |name: &str| folder.join(name);
        fs::write(place("rows.csv"), "old rows\n").unwrap();
        fs::write(place("exceptions.csv"), "old exceptions\n").unwrap();
        fs::write(place("plan.toml"), "").unwrap();
        let begun =
            Staging::begin(&place("plan.toml"), &place("plan.receipt.toml"), ExistingFiles::Overwrite);
        let mut staging = begun.unwrap();
        for name in ["rows.csv", "exceptions.csv"] {
            let part = staging.create(name, &place(name), ExistingFiles::Overwrite);
            part.unwrap().write_all(b"new\n").unwrap();
        }
        staging
    }

    #[test]
    fn a_rename_that_fails_is_taken_back() {
        let folder = tempfile::tempdir().unwrap();
        let mut staging = staged(folder.path());
        // The second output finds no folder any more.
        staging.outputs[1].place = folder.path().join("gone/exceptions.csv");
        let receipt = staging.workshops[0].receipt();
        assert_eq!(staging.rename_all(&receipt).unwrap_err().0, folder.path().join("gone/exceptions.csv"));
        assert_eq!(fs::read_to_string(folder.path().join("rows.csv")).unwrap(), "new\n");
        assert_eq!(staging.take_back(), Vec::<String>::new());
        assert_eq!(fs::read_to_string(folder.path().join("rows.csv")).unwrap(), "old rows\n");
    }

    #[test]
    fn what_cannot_be_put_back_is_kept_and_named() {
        let folder = tempfile::tempdir().unwrap();
        let rows = folder.path().join("rows.csv");
        let mut staging = staged(folder.path());
        staging.outputs[1].place = folder.path().join("gone/exceptions.csv");
        let receipt = staging.workshops[0].receipt();
        staging.rename_all(&receipt).unwrap_err();
        // A user puts a folder there meanwhile, which no file takes the place of.
        fs::remove_file(&rows).unwrap();
        fs::create_dir_all(rows.join("theirs")).unwrap();
        let kept = staging.take_back();
        let backup = staging.outputs[0].backup.clone();
        assert_eq!(kept, [format!("{} (of {})", backup.display(), rows.display())]);
        staging.workshops.iter_mut().for_each(Workshop::keep);
        drop(staging);
        assert_eq!(fs::read_to_string(&backup).unwrap(), "old rows\n");
        // A later run leaves it alone.
        drop(
            Staging::begin(
                &folder.path().join("plan.toml"),
                &folder.path().join("plan.receipt.toml"),
                ExistingFiles::Keep,
            )
            .unwrap(),
        );
        assert_eq!(fs::read_to_string(&backup).unwrap(), "old rows\n");
    }
}
