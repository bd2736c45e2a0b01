//! Values read back from bytes that this program stored, in a folder of the run or in memory.
//!
//! Bytes that end too soon are an error, never a zero: the disk or the program is at fault.

use std::io;

/// The error of bytes that are not what was stored.
pub(crate) fn broken() -> io::Error {
    let what =
        "bytes stored during the run came back incomplete; this is a defect of the program or of the disk";
    io::Error::new(io::ErrorKind::InvalidData, what)
}

/// Takes the first bytes off the front.
pub(crate) fn take_bytes<const N: usize>(bytes: &mut &[u8]) -> io::Result<[u8; N]> {
    let (taken, rest) = bytes.split_first_chunk().ok_or_else(broken)?;
    *bytes = rest;
    Ok(*taken)
}

/// Takes a number off the front.
pub(crate) fn take_number(bytes: &mut &[u8]) -> io::Result<u64> {
    take_bytes(bytes).map(u64::from_le_bytes)
}

/// Takes a number and as many bytes after it off the front.
pub(crate) fn take_with_length<'b>(bytes: &mut &'b [u8]) -> io::Result<&'b [u8]> {
    let length = usize::try_from(take_number(bytes)?).map_err(|_| broken())?;
    let (taken, rest) = bytes.split_at_checked(length).ok_or_else(broken)?;
    *bytes = rest;
    Ok(taken)
}

/// Bytes as the text that they were.
pub(crate) fn text_of(bytes: &[u8]) -> io::Result<&str> {
    std::str::from_utf8(bytes).map_err(|_| broken())
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn every_cut_is_an_error() {
        let mut stored = 4_u64.to_le_bytes().to_vec();
        stored.extend_from_slice(b"Gull");
        let whole = take_with_length(&mut stored.as_slice()).and_then(text_of).map(str::to_owned);
        assert_eq!(whole.unwrap(), "Gull");
        for length in 0..stored.len() {
            let cut = take_with_length(&mut &stored[..length]);
            assert_eq!(cut.unwrap_err().kind(), io::ErrorKind::InvalidData, "{length}");
        }
        assert!(text_of(&[0xff]).is_err());
    }
}
