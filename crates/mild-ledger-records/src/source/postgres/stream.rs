//! What a server sends, as bytes that are read as they come.

use super::connection::{cancel, connect, failed, words_of};
use crate::error::RecordsError;
use crate::source::Stop;
use postgres::CancelToken;
use std::io::{self, Read};
use std::path::{Path, PathBuf};
use std::sync::mpsc::{Receiver, RecvTimeoutError, SyncSender, sync_channel};
use std::thread::Builder;
use std::time::Duration;

/// Bytes that wait to be read at most, this many pieces of them.
const WAITING: usize = 4;
const PIECE: usize = 64 << 10;
/// How often it is looked whether reading is to stop.
const LOOK_EVERY: Duration = Duration::from_millis(100);

/// The bytes of a table, until the server has sent them all.
pub(super) struct ServerBytes {
    address: PathBuf,
    pieces: Receiver<Sent>,
    piece: Vec<u8>,
    at: usize,
    is_at_end: bool,
    stop: Stop,
    /// By which the server is asked to end the query, once it runs.
    running: Receiver<CancelToken>,
}

/// A piece; none at the end; or what went wrong.
type Sent = io::Result<Option<Vec<u8>>>;

impl ServerBytes {
    /// What a `COPY … TO STDOUT` sends, by a thread of its own with a connection of its own.
    pub(super) fn of(address: &Path, copy: String, stop: Stop) -> Result<Self, RecordsError> {
        let (give, pieces) = sync_channel(WAITING);
        let (give_token, running) = sync_channel(1);
        let server = address.to_owned();
        let send = move || {
            let sent = send_all(&server, &copy, (&give_token, &give));
            // A reader that has stopped does not need the error.
            let _ = give.send(sent.map(|()| None));
        };
        let thread = Builder::new().name("server".to_owned()).spawn(send);
        thread.map_err(|error| RecordsError::no_thread(&error))?;
        Ok(Self {
            address: address.to_owned(),
            pieces,
            piece: Vec::new(),
            at: 0,
            is_at_end: false,
            stop,
            running,
        })
    }

    /// The next piece, as soon as it comes; an error where reading is to stop before that.
    fn next_piece(&self) -> Sent {
        loop {
            match self.pieces.recv_timeout(LOOK_EVERY) {
                Ok(sent) => return sent,
                Err(RecvTimeoutError::Disconnected) => {
                    return Err(io::Error::other("the thread that reads from the server stopped"));
                }
                Err(RecvTimeoutError::Timeout) if self.stop.is_asked() => {
                    if let Ok(token) = self.running.try_recv() {
                        cancel(&self.address, &token);
                    }
                    return Err(io::Error::other("reading was to stop"));
                }
                Err(RecvTimeoutError::Timeout) => {}
            }
        }
    }
}

fn send_all(
    address: &Path,
    copy: &str,
    (give_token, give): (&SyncSender<CancelToken>, &SyncSender<Sent>),
) -> io::Result<()> {
    let other = |error: RecordsError| io::Error::other(error.to_string());
    let mut client = connect(address).map_err(other)?;
    // A reader that has stopped does not need it.
    let _ = give_token.try_send(client.cancel_token());
    let mut reader = client.copy_out(copy).map_err(|error| other(failed(address, &error)))?;
    // The client must not be asked for bytes after the end.
    let mut is_at_end = false;
    while !is_at_end {
        let mut piece = vec![0; PIECE];
        let mut filled = 0;
        while filled < PIECE && !is_at_end {
            let read = reader.read(&mut piece[filled..]).map_err(|error| match said_by_server(&error) {
                Some(said) => io::Error::other(said),
                None => error,
            })?;
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

/// The words of a server in the error of a stream, which has none of its own.
fn said_by_server(error: &io::Error) -> Option<String> {
    error.get_ref()?.downcast_ref::<postgres::Error>().map(words_of)
}

impl Read for ServerBytes {
    fn read(&mut self, buffer: &mut [u8]) -> io::Result<usize> {
        while self.at == self.piece.len() && !self.is_at_end {
            // A lost server is an error, not the end of its table.
            match self.next_piece()? {
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
