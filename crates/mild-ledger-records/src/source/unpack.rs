//! Packed files, and texts in other encodings, as UTF-8 that streams by.

use super::file_form::Encoding;
use super::raw_bytes::RawBytes;
use encoding_rs::{Decoder, DecoderResult, UTF_16BE, UTF_16LE, WINDOWS_1252};
use flate2::bufread::GzDecoder;
use ruzstd::decoding::StreamingDecoder;
use std::io::{self, BufRead, BufReader, Cursor, Read};

/// A text as it streams by, and what was done to it on the way, in words.
pub(super) struct Unpacked {
    pub(super) text: Box<dyn Read + Send>,
    pub(super) said: Vec<String>,
}

/// The text of a file: unpacked where its first bytes say that it is packed, and in UTF-8 whatever it was in. A mark or, without
/// one, the zeros between the letters of UTF-16 tell its encoding; another is read only where the plan names it.
pub(super) fn unpack(raw: RawBytes, named: Option<Encoding>) -> io::Result<Unpacked> {
    let mut said = Vec::new();
    let (start, file) = peeked(raw.clone())?;
    let unpacked: Box<dyn Read + Send> = if start.starts_with(b"\x1f\x8b") {
        said.push("unpacked from gzip".to_owned());
        let members = GzipMembers { rest: Some(BufReader::new(file)), member: None };
        Box::new(Inflating { inside: members, raw, unpacked: 0 })
    } else if start.starts_with(ZSTD) || is_skippable(&start) {
        said.push("unpacked from zstd".to_owned());
        let frames = ZstdFrames { rest: Some(BufReader::new(file)), frame: None };
        Box::new(Inflating { inside: frames, raw, unpacked: 0 })
    } else {
        file
    };
    let (start, text) = peeked(unpacked)?;
    let encoding = match (encoding_of(&start), named) {
        (Some(found), Some(named)) if found != named => {
            let what = format!("it is {}, not {} as the plan says", found.word(), named.word());
            return Err(io::Error::new(io::ErrorKind::InvalidData, what));
        }
        (Some(found), _) => found,
        (None, named) => named.unwrap_or(Encoding::Utf8),
    };
    let decoder = match encoding {
        Encoding::Utf8 => return Ok(Unpacked { text, said }),
        Encoding::Utf16LittleEndian => UTF_16LE.new_decoder_with_bom_removal(),
        Encoding::Utf16BigEndian => UTF_16BE.new_decoder_with_bom_removal(),
        Encoding::Windows1252 => WINDOWS_1252.new_decoder_without_bom_handling(),
    };
    said.push(format!("read as {}", encoding.word()));
    let text = Decoding { input: BufReader::new(text), decoder, name: encoding.word(), is_done: false };
    Ok(Unpacked { text: Box::new(text), said })
}

/// The first bytes of a reader, and the whole of it again.
fn peeked(mut input: impl Read + Send + 'static) -> io::Result<(Vec<u8>, Box<dyn Read + Send>)> {
    let mut start = Vec::new();
    input.by_ref().take(64).read_to_end(&mut start)?;
    let whole = Cursor::new(start.clone()).chain(input);
    Ok((start, Box::new(whole)))
}

/// The encoding that a mark, or zeros in every other byte, show.
fn encoding_of(start: &[u8]) -> Option<Encoding> {
    match start {
        [0xff, 0xfe, ..] => return Some(Encoding::Utf16LittleEndian),
        [0xfe, 0xff, ..] => return Some(Encoding::Utf16BigEndian),
        [0xef, 0xbb, 0xbf, ..] => return Some(Encoding::Utf8),
        _ => {}
    }
    // Plain words are every second byte nothing in UTF-16.
    let zeros_from = |from: usize| start.iter().skip(from).step_by(2).take(20).all(|byte| *byte == 0);
    match start.len() >= 8 {
        true if zeros_from(1) && !zeros_from(0) => Some(Encoding::Utf16LittleEndian),
        true if zeros_from(0) && !zeros_from(1) => Some(Encoding::Utf16BigEndian),
        _ => None,
    }
}

/// Unpacked bytes, counted against those that they come from.
struct Inflating<R> {
    inside: R,
    raw: RawBytes,
    unpacked: u64,
}

/// Bytes that a packed file may become whatever it holds, and those that each of its bytes may become beyond them.
const ALWAYS: u64 = 64 << 20;
const FOR_EACH: u64 = 2_000;

impl<R: Read> Read for Inflating<R> {
    fn read(&mut self, buffer: &mut [u8]) -> io::Result<usize> {
        let read = self.inside.read(buffer)?;
        self.unpacked += read as u64;
        if self.unpacked > ALWAYS && self.unpacked / FOR_EACH > self.raw.count() {
            let what = format!(
                "it becomes more than {FOR_EACH} times as large when it is unpacked, which no table of records does"
            );
            return Err(io::Error::new(io::ErrorKind::InvalidData, what));
        }
        Ok(read)
    }
}

/// The members of a gzip file, one after the other (RFC 1952, 2.2). Zeros after the last fill a block, as tapes and some writers do.
struct GzipMembers<R: Read> {
    /// The file between two members.
    rest: Option<BufReader<R>>,
    member: Option<GzDecoder<BufReader<R>>>,
}

impl<R: Read> Read for GzipMembers<R> {
    fn read(&mut self, buffer: &mut [u8]) -> io::Result<usize> {
        loop {
            if let Some(member) = &mut self.member {
                let read = member.read(buffer)?;
                if read > 0 || buffer.is_empty() {
                    return Ok(read);
                }
                self.rest = self.member.take().map(GzDecoder::into_inner);
                if let Some(rest) = &mut self.rest {
                    skip_zeros(rest)?;
                }
            }
            let Some(mut rest) = self.rest.take() else { return Ok(0) };
            if rest.fill_buf()?.is_empty() {
                self.rest = Some(rest);
                return Ok(0);
            }
            self.member = Some(GzDecoder::new(rest));
        }
    }
}

fn skip_zeros(input: &mut impl BufRead) -> io::Result<()> {
    loop {
        let bytes = input.fill_buf()?;
        let zeros = bytes.iter().take_while(|byte| **byte == 0).count();
        let is_at_end = zeros < bytes.len() || bytes.is_empty();
        input.consume(zeros);
        if is_at_end {
            return Ok(());
        }
    }
}

/// How a frame of zstd begins (RFC 8878, 3.1.1), and one of other data that is to be skipped (3.1.2), after its first byte.
const ZSTD: &[u8] = b"\x28\xb5\x2f\xfd";
const SKIPPABLE: &[u8] = b"\x2a\x4d\x18";

fn is_skippable(start: &[u8]) -> bool {
    start.split_first().is_some_and(|(first, rest)| *first & 0xf0 == 0x50 && rest.starts_with(SKIPPABLE))
}

/// Skips frames of other data.
fn skip_frames(input: &mut BufReader<impl Read>) -> io::Result<()> {
    let broken = || {
        io::Error::new(io::ErrorKind::InvalidData, "its zstd data is broken: a skippable frame ends too soon")
    };
    loop {
        let start = input.fill_buf()?;
        // Four bytes may come in pieces; a frame of zstd itself begins otherwise with its first byte.
        if start.first().is_none_or(|first| first & 0xf0 != 0x50) {
            return Ok(());
        }
        let mut head = [0; 8];
        input.read_exact(&mut head).map_err(|_| broken())?;
        if !is_skippable(&head) {
            return Err(io::Error::new(
                io::ErrorKind::InvalidData,
                "its zstd data is broken: no frame begins after the last",
            ));
        }
        let [.., a, b, c, d] = head;
        let length = u64::from(u32::from_le_bytes([a, b, c, d]));
        if io::copy(&mut input.by_ref().take(length), &mut io::sink())? < length {
            return Err(broken());
        }
    }
}

/// The frames of a zstd file, one after the other.
struct ZstdFrames<R: Read> {
    /// The file between two frames.
    rest: Option<BufReader<R>>,
    frame: Option<StreamingDecoder<BufReader<R>, ruzstd::decoding::FrameDecoder>>,
}

impl<R: Read> Read for ZstdFrames<R> {
    fn read(&mut self, buffer: &mut [u8]) -> io::Result<usize> {
        loop {
            if let Some(frame) = &mut self.frame {
                let read = frame.read(buffer)?;
                if read > 0 || buffer.is_empty() {
                    return Ok(read);
                }
                self.rest = self.frame.take().map(StreamingDecoder::into_inner);
            }
            let Some(mut rest) = self.rest.take() else { return Ok(0) };
            skip_frames(&mut rest)?;
            if rest.fill_buf()?.is_empty() {
                self.rest = Some(rest);
                return Ok(0);
            }
            let broken = |error: ruzstd::decoding::errors::FrameDecoderError| {
                io::Error::new(io::ErrorKind::InvalidData, format!("its zstd data is broken: {error}"))
            };
            self.frame = Some(StreamingDecoder::new(rest).map_err(broken)?);
        }
    }
}

/// A text in another encoding as UTF-8.
struct Decoding<R> {
    input: BufReader<R>,
    decoder: Decoder,
    name: &'static str,
    is_done: bool,
}

impl<R: Read> Read for Decoding<R> {
    fn read(&mut self, buffer: &mut [u8]) -> io::Result<usize> {
        // Readers of texts give far more room than a character needs.
        if buffer.len() < 8 && !self.is_done {
            return Err(io::Error::new(io::ErrorKind::InvalidInput, "there is no room for a character"));
        }
        while !self.is_done {
            let bytes = self.input.fill_buf()?;
            let is_last = bytes.is_empty();
            let (result, read, written) =
                self.decoder.decode_to_utf8_without_replacement(bytes, buffer, is_last);
            self.input.consume(read);
            match result {
                DecoderResult::Malformed(..) => {
                    let what = format!("it holds bytes that are not {}", self.name);
                    return Err(io::Error::new(io::ErrorKind::InvalidData, what));
                }
                DecoderResult::InputEmpty => self.is_done = is_last,
                DecoderResult::OutputFull => {}
            }
            if written > 0 {
                return Ok(written);
            }
        }
        Ok(0)
    }
}
