//! A file on a disk or at an address, as the reader of the format asks for its bytes.

use crate::files::OpenedFile;
use bytes::Bytes;
use parquet::errors::{ParquetError, Result};
use parquet::file::reader::{ChunkReader, Length};
use std::io::{BufReader, Read};

impl Length for OpenedFile {
    fn len(&self) -> u64 {
        match self {
            Self::Here(file) => Length::len(file),
            Self::There(file) => file.bytes(),
            Self::Compared(file) => file.bytes(),
        }
    }
}

impl ChunkReader for OpenedFile {
    type T = BufReader<Self>;

    fn get_read(&self, from: u64) -> Result<Self::T> {
        Ok(BufReader::new(match self {
            Self::Here(file) => Self::Here(file.get_read(from)?.into_inner()),
            Self::There(file) => Self::There(file.at(from)),
            Self::Compared(file) => Self::Compared(file.at(from)),
        }))
    }

    fn get_bytes(&self, from: u64, count: usize) -> Result<Bytes> {
        match self {
            Self::Here(file) => file.get_bytes(from, count),
            Self::There(file) => bytes_of(file.at(from), from, count),
            Self::Compared(file) => bytes_of(file.at(from), from, count),
        }
    }
}

/// The bytes that a reader gives from a place on.
fn bytes_of(reader: impl Read, from: u64, count: usize) -> Result<Bytes> {
    let mut bytes = Vec::new();
    let read = reader.take(count as u64).read_to_end(&mut bytes)?;
    if read != count {
        return Err(ParquetError::EOF(format!(
            "only {read} of {count} bytes could be read from byte {from} on"
        )));
    }
    Ok(bytes.into())
}
