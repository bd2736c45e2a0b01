//! What a server sends, as bytes that are read as they come.

use super::connection::{connect, failed};
use crate::error::RecordsError;
use std::io::{self, Read};
use std::path::{Path, PathBuf};
use std::sync::mpsc::{Receiver, SyncSender, sync_channel};
use std::thread::Builder;

/// Bytes that wait to be read at most, this many pieces of them.
const WAITING: usize = 4;
const PIECE: usize = 64 << 10;

/// The bytes of a table, until the server has sent them all.
pub(super) struct ServerBytes {
    pieces: Receiver<Sent>,
    piece: Vec<u8>,
    at: usize,
    is_at_end: bool,
}

/// A piece; none at the end; or what went wrong.
type Sent = io::Result<Option<Vec<u8>>>;

impl ServerBytes {
    /// What a `COPY … TO STDOUT` sends, by a thread of its own with a connection of its own.
    pub(super) fn of(address: &Path, copy: String) -> Result<Self, RecordsError> {
        let (give, pieces) = sync_channel(WAITING);
        let address: PathBuf = address.to_owned();
        let send = move || {
            let sent = send_all(&address, &copy, &give);
            // Nobody is left to be told where the other side has gone.
            let _ = give.send(sent.map(|()| None));
        };
        let thread = Builder::new().name("server".to_owned()).spawn(send);
        thread.map_err(|error| RecordsError::no_thread(&error))?;
        Ok(Self { pieces, piece: Vec::new(), at: 0, is_at_end: false })
    }
}

fn send_all(address: &Path, copy: &str, give: &SyncSender<Sent>) -> io::Result<()> {
    let other = |error: RecordsError| io::Error::other(error.to_string());
    let mut client = connect(address).map_err(other)?;
    let mut reader = client.copy_out(copy).map_err(|error| other(failed(address, &error)))?;
    // What is behind the end may not be asked for.
    let mut is_at_end = false;
    while !is_at_end {
        let mut piece = vec![0; PIECE];
        let mut filled = 0;
        while filled < PIECE && !is_at_end {
            let read = reader.read(&mut piece[filled..])?;
            is_at_end = read == 0;
            filled += read;
        }
        piece.truncate(filled);
        if filled > 0 && give.send(Ok(Some(piece))).is_err() {
            break;
        }
    }
    Ok(())
}

impl Read for ServerBytes {
    fn read(&mut self, buffer: &mut [u8]) -> io::Result<usize> {
        while self.at == self.piece.len() && !self.is_at_end {
            let stopped = |_| io::Error::other("the thread that reads from the server stopped");
            // A server that has gone is no end of its table.
            match self.pieces.recv().map_err(stopped)?? {
                Some(piece) => (self.piece, self.at) = (piece, 0),
                None => self.is_at_end = true,
            }
        }
        let waiting = self.piece.get(self.at..).unwrap_or_default();
        let read = waiting.len().min(buffer.len());
        buffer[..read].copy_from_slice(&waiting[..read]);
        self.at += read;
        Ok(read)
    }
}
