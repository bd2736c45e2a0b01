//! Reading a file while another process writes it.

use std::fs::File;
use std::io::{self, Read};
use std::sync::{Arc, Condvar, Mutex, MutexGuard, PoisonError};

/// How far a file is written, as its writer tells and its follower asks.
#[derive(Debug, Clone, Default)]
pub(crate) struct Progress {
    shared: Arc<(Mutex<Reached>, Condvar)>,
}

#[derive(Debug, Clone, Copy, PartialEq, Eq)]
enum Reached {
    /// So many bytes are in the file, and more may come.
    Bytes(u64),
    /// All do.
    All,
    /// They are not needed any more.
    GivenUp,
}

impl Default for Reached {
    fn default() -> Self {
        Self::Bytes(0)
    }
}

impl Progress {
    /// So many bytes are in the file.
    pub(crate) fn reached(&self, bytes: u64) {
        let mut reached = self.lock();
        if let Reached::Bytes(before) = *reached {
            *reached = Reached::Bytes(bytes.max(before));
            self.shared.1.notify_all();
        }
    }

    /// The file is whole; the follower reads it to its end, wherever that is.
    pub(crate) fn finished(&self) {
        let mut reached = self.lock();
        if *reached != Reached::GivenUp {
            *reached = Reached::All;
        }
        self.shared.1.notify_all();
    }

    /// The file will not be used; its follower gets an error.
    pub(crate) fn given_up(&self) {
        *self.lock() = Reached::GivenUp;
        self.shared.1.notify_all();
    }

    fn lock(&self) -> MutexGuard<'_, Reached> {
        // What it guards is whole whoever stopped.
        self.shared.0.lock().unwrap_or_else(PoisonError::into_inner)
    }

    /// Waits for bytes after the first that many; the most that may be read, none where there is no bound.
    fn beyond(&self, read: u64) -> io::Result<Option<u64>> {
        let waiting = |reached: &mut Reached| matches!(*reached, Reached::Bytes(bytes) if bytes <= read);
        let reached = self.shared.1.wait_while(self.lock(), waiting).unwrap_or_else(PoisonError::into_inner);
        match *reached {
            Reached::Bytes(bytes) => Ok(Some(bytes - read)),
            Reached::All => Ok(None),
            Reached::GivenUp => Err(io::Error::other("the file was given up by its writer")),
        }
    }
}

/// Reads what its writer has written, and waits for the rest.
#[derive(Debug)]
pub(crate) struct Follower {
    file: File,
    read: u64,
    progress: Progress,
}

impl Follower {
    /// Of a file from its beginning.
    pub(crate) fn new(file: File, progress: Progress) -> Self {
        Self { file, read: 0, progress }
    }
}

impl Read for Follower {
    fn read(&mut self, buffer: &mut [u8]) -> io::Result<usize> {
        if buffer.is_empty() {
            return Ok(0);
        }
        let most = self.progress.beyond(self.read)?;
        let most = most.map_or(buffer.len(), |most| usize::try_from(most).unwrap_or(usize::MAX));
        let room = buffer.len().min(most);
        let read = self.file.read(&mut buffer[..room])?;
        self.read += read as u64;
        if read == 0 && most > 0 && !matches!(*self.progress.lock(), Reached::All) {
            return Err(io::Error::from(io::ErrorKind::UnexpectedEof));
        }
        Ok(read)
    }
}

#[cfg(test)]
mod tests {
    use super::{Follower, Progress};
    use std::fs::File;
    use std::io::{Read, Write};

    #[test]
    fn a_follower_reads_all_in_order_and_waits_for_it() {
        let folder = tempfile::tempdir().unwrap();
        let path = folder.path().join("file");
        let mut file = File::create(&path).unwrap();
        let progress = Progress::default();
        let mut follower = Follower::new(File::open(&path).unwrap(), progress.clone());
        let reading = std::thread::spawn(move || {
            let mut text = String::new();
            follower.read_to_string(&mut text).map(|_| text)
        });
        let mut written = 0;
        for part in ["one ", "two ", "three"] {
            file.write_all(part.as_bytes()).unwrap();
            written += part.len() as u64;
            progress.reached(written);
        }
        // Bytes beyond the reported ones are read as well, since they are there.
        file.write_all(b" four").unwrap();
        progress.finished();
        assert_eq!(reading.join().unwrap().unwrap(), "one two three four");
    }

    #[test]
    fn a_follower_of_a_file_given_up_or_cut_off_ends_with_an_error() {
        let folder = tempfile::tempdir().unwrap();
        let path = folder.path().join("file");
        File::create(&path).unwrap();
        for (progress, is_told) in [(Progress::default(), false), (Progress::default(), true)] {
            let mut follower = Follower::new(File::open(&path).unwrap(), progress.clone());
            let reading = std::thread::spawn(move || follower.read_to_end(&mut Vec::new()));
            // Told of bytes that are not there, or given up.
            if is_told {
                progress.reached(10)
            } else {
                progress.given_up()
            }
            assert!(reading.join().unwrap().is_err());
        }
    }
}
