//! The reader as a whole: what it finds does not depend on how many bytes it is given at a time.

use super::reader::CsvReader;
use crate::files::HashKind;
use crate::source::{OwnFile, Source};
use crate::table::Kept;
use proptest::prelude::*;
use std::io::{self, Read};
use std::path::PathBuf;

/// Gives so many bytes at a time.
struct Trickle {
    rest: Vec<u8>,
    step: usize,
}

impl Read for Trickle {
    fn read(&mut self, buffer: &mut [u8]) -> io::Result<usize> {
        let some = self.step.min(self.rest.len()).min(buffer.len());
        buffer[..some].copy_from_slice(&self.rest[..some]);
        self.rest.drain(..some);
        Ok(some)
    }
}

/// All rows with their numbers and lines, the broken ones in their places, and the checksum; or that the file is broken.
fn read(text: &[u8], step: usize, kept: Kept) -> Result<(Vec<String>, u64), String> {
    let input = Box::new(Trickle { rest: text.to_vec(), step });
    let own = OwnFile {
        path: PathBuf::from("records.csv"),
        input,
        columns: Vec::new(),
        kept,
        hash: HashKind::Blake3,
    };
    let mut reader = CsvReader::open_own(own).map_err(|error| error.to_string())?;
    let mut rows = Vec::new();
    while let Some(batch) = reader.next_batch().map_err(|error| error.to_string())? {
        for (row, (number, line)) in batch.numbers.iter().zip(&batch.lines).enumerate() {
            let cells: Vec<&str> = (0..batch.columns.len()).map(|column| batch.text(column, row)).collect();
            rows.push((*number, format!("{number} {line} {cells:?}")));
        }
        rows.extend(batch.broken.iter().map(|row| (row.number, format!("{row:?}"))));
    }
    rows.sort();
    let end = Box::new(reader).finish();
    assert_eq!(end.rows, rows.len() as u64);
    Ok((rows.into_iter().map(|(_, row)| row).collect(), end.checksum))
}

/// Rows as people write them, and as they should not.
fn texts() -> impl Strategy<Value = Vec<u8>> {
    let piece = prop_oneof![
        4 => Just(b"ab,cd\n".to_vec()),
        2 => Just(b"ab,\xc3\xa9\r\n".to_vec()),
        2 => Just(b"\"a\"\"b\",\"c\nd\"\n".to_vec()),
        1 => prop::sample::select(vec![b"a,b,c\n".to_vec(), b"a\n".to_vec(), b"\n\r\n\r".to_vec(), b"One,Two\n".to_vec(), b"a,\xff\n".to_vec(), b"a\"b,c\n".to_vec(), b"x,y\r".to_vec()]),
        1 => prop::collection::vec(prop::sample::select(b"a,\"\n\r ".to_vec()), 0..6),
    ];
    prop::collection::vec(piece, 0..40).prop_map(|pieces| [b"One,Two\n".to_vec(), pieces.concat()].concat())
}

proptest! {
    /// A byte at a time every row is scanned piece by piece; as a whole most are taken at once.
    #[test]
    fn what_is_read_does_not_depend_on_the_bytes_at_a_time(text in texts(), step in 2_usize..12) {
        let slowly = read(&text, 1, Kept::All);
        prop_assert_eq!(&read(&text, step, Kept::All), &slowly);
        prop_assert_eq!(&read(&text, usize::MAX, Kept::All), &slowly);
    }
}

#[test]
fn rows_are_taken_with_their_numbers_and_lines() {
    let text = b"One,Two\na,1\r\n\nb,\"2\n3\"\nc,4,5\nd,6\n";
    let (rows, _) = read(text, usize::MAX, Kept::All).unwrap();
    assert_eq!(rows[0], r#"1 2 ["a", "1"]"#);
    assert_eq!(rows[1], r#"2 4 ["b", "2\n3"]"#);
    assert!(rows[2].contains("TooManyCells { found: 3, expected: 2 }"), "{}", rows[2]);
    assert_eq!(rows[3], r#"4 7 ["d", "6"]"#);
}

#[test]
fn columns_that_are_not_kept_are_read_all_the_same() {
    let text = b"One,Two\na,1\nb,\"2\"\nc\n";
    let (rows, checksum) = read(text, usize::MAX, Kept::Only(vec![1])).unwrap();
    assert_eq!(rows[..2], [r#"1 2 ["", "1"]"#, r#"2 3 ["", "2"]"#]);
    assert!(rows[2].contains("TooFewCells { found: 1, expected: 2 }"), "{}", rows[2]);
    assert_eq!(checksum, read(text, 1, Kept::All).unwrap().1);
}
