//! The reader as a whole: what it finds does not depend on how many bytes it is given at a time.

use super::chunks::open_own;
use crate::files::HashKind;
use crate::source::{ChunkSize, OwnFile, Source, read_chunk};
use crate::table::{Kept, Origin};
use proptest::prelude::*;
use std::io::{self, Read};
use std::path::PathBuf;

const LARGE: ChunkSize = ChunkSize { bytes: 1 << 18, rows: 4_096 };

/// Gives a number of bytes at a time.
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
fn read(text: &[u8], step: usize, size: ChunkSize, kept: Kept) -> Result<(Vec<String>, u64), String> {
    let input = Box::new(Trickle { rest: text.to_vec(), step });
    let own = OwnFile {
        path: PathBuf::from("records.csv"),
        input,
        table: String::new(),
        signs: crate::source::Signs::default(),
        columns: Vec::new(),
        kept,
        hash: HashKind::Blake3,
    };
    let mut chunks = open_own(own).map_err(|error| error.to_string())?;
    chunks.with_chunks_of(size);
    let mut reader = chunks.chunk_reader();
    let mut rows = Vec::new();
    while let Some(chunk) = chunks.next_chunk().map_err(|error| error.to_string())? {
        let batch = read_chunk(reader.as_mut(), &chunk).map_err(|error| error.to_string())?;
        for row in 0..batch.rows() {
            let cells: Vec<&str> = (0..batch.columns()).map(|column| batch.text(column, row)).collect();
            let Origin { row: number, line, .. } = batch.origins.of(row);
            rows.push((number, format!("{number} {line} {cells:?}")));
        }
        rows.extend(batch.broken.iter().map(|row| (row.number, format!("{row:?}"))));
    }
    rows.sort();
    let end = Box::new(chunks).finish();
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
    #![proptest_config(ProptestConfig::with_cases(1_000))]
    /// A byte at a time every row is scanned piece by piece; as a whole most are taken at once. A chunk may end after any row.
    #[test]
    fn what_is_read_does_not_depend_on_the_bytes_at_a_time(
        text in texts(),
        step in 2_usize..12,
        bytes in 1_usize..40,
        rows in 1_u64..6,
    ) {
        let slowly = read(&text, 1, LARGE, Kept::All);
        let small = ChunkSize { bytes, rows };
        prop_assert_eq!(&read(&text, step, LARGE, Kept::All), &slowly);
        prop_assert_eq!(&read(&text, usize::MAX, LARGE, Kept::All), &slowly);
        prop_assert_eq!(&read(&text, step, small, Kept::All), &slowly);
        prop_assert_eq!(&read(&text, usize::MAX, small, Kept::All), &slowly);
    }
}

#[test]
fn rows_are_taken_with_their_numbers_and_lines() {
    let text = b"One,Two\na,1\r\n\nb,\"2\n3\"\nc,4,5\nd,6\n";
    let (rows, _) = read(text, usize::MAX, LARGE, Kept::All).unwrap();
    assert_eq!(rows[0], r#"1 2 ["a", "1"]"#);
    assert_eq!(rows[1], r#"2 4 ["b", "2\n3"]"#);
    assert!(rows[2].contains("TooManyCells { found: 3, expected: 2 }"), "{}", rows[2]);
    assert_eq!(rows[3], r#"4 7 ["d", "6"]"#);
}

#[test]
fn columns_that_are_not_kept_are_read_all_the_same() {
    let text = b"One,Two\na,1\nb,\"2\"\nc\n";
    let (rows, checksum) = read(text, usize::MAX, LARGE, Kept::Only(vec![1])).unwrap();
    assert_eq!(rows[..2], [r#"1 2 ["", "1"]"#, r#"2 3 ["", "2"]"#]);
    assert!(rows[2].contains("TooFewCells { found: 1, expected: 2 }"), "{}", rows[2]);
    assert_eq!(checksum, read(text, 1, LARGE, Kept::All).unwrap().1);
}

#[test]
fn rows_that_are_not_as_many_as_were_cut_are_noticed() {
    let input = Box::new(Trickle { rest: b"One,Two\na,1\nb,2\n".to_vec(), step: usize::MAX });
    let (path, kept) = (PathBuf::from("records.csv"), Kept::All);
    let own = OwnFile {
        path,
        input,
        table: String::new(),
        signs: crate::source::Signs::default(),
        columns: Vec::new(),
        kept,
        hash: HashKind::Blake3,
    };
    let mut chunks = open_own(own).unwrap();
    let mut reader = chunks.chunk_reader();
    let mut chunk = chunks.next_chunk().unwrap().unwrap();
    assert_eq!(read_chunk(reader.as_mut(), &chunk).unwrap().rows(), 2);
    chunk.rows = 3;
    let said = read_chunk(reader.as_mut(), &chunk).unwrap_err().to_string();
    assert!(said.contains("3 rows were cut from the file from line 2 on, and 2 were read"), "{said}");
}
