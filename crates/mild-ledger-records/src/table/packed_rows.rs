//! Rows of cells as bytes, so that they are handed on as chunks of any file are.

use super::cell_type::CellType;

/// A cell as a format that types its cells stores it.
#[derive(Debug, Clone, PartialEq, Eq)]
pub(crate) struct TypedCell {
    pub(crate) holds: CellType,
    pub(crate) text: String,
}

impl TypedCell {
    pub(crate) fn blank() -> Self {
        Self { holds: CellType::Text, text: String::new() }
    }
}

/// Appends a row: its line, the number of its cells, and each cell with its type and length.
pub(crate) fn pack(line: u64, cells: &[TypedCell], bytes: &mut Vec<u8>) {
    bytes.extend_from_slice(&line.to_le_bytes());
    bytes.extend_from_slice(&(cells.len() as u64).to_le_bytes());
    for cell in cells {
        bytes.push(cell.holds as u8);
        bytes.extend_from_slice(&(cell.text.len() as u64).to_le_bytes());
        bytes.extend_from_slice(cell.text.as_bytes());
    }
}

/// A row of packed bytes.
pub(crate) struct Unpacked<'b> {
    pub(crate) line: u64,
    pub(crate) cells: Vec<(CellType, &'b str)>,
    pub(crate) rest: &'b [u8],
}

/// The row that some bytes begin with; `None` for what [`pack`] did not make.
pub(crate) fn unpack(bytes: &[u8]) -> Option<Unpacked<'_>> {
    let number = |bytes: &mut &[u8]| {
        let (first, rest) = bytes.split_first_chunk()?;
        *bytes = rest;
        Some(u64::from_le_bytes(*first))
    };
    let mut rest = bytes;
    let line = number(&mut rest)?;
    let count = number(&mut rest)?;
    let mut cells = Vec::new();
    for _ in 0..count {
        let (holds, behind) = rest.split_first()?;
        rest = behind;
        let length = usize::try_from(number(&mut rest)?).ok()?;
        let (text, behind) = rest.split_at_checked(length)?;
        rest = behind;
        cells.push((CellType::of(*holds)?, std::str::from_utf8(text).ok()?));
    }
    Some(Unpacked { line, cells, rest })
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn rows_come_back_as_they_were() {
        let cells = [TypedCell { holds: CellType::Date, text: "2026-09-30".to_owned() }, TypedCell::blank()];
        let mut bytes = Vec::new();
        pack(7, &cells, &mut bytes);
        pack(9, &[], &mut bytes);
        let first = unpack(&bytes).unwrap();
        assert_eq!(
            (first.line, first.cells.as_slice()),
            (7, [(CellType::Date, "2026-09-30"), (CellType::Text, "")].as_slice())
        );
        let second = unpack(first.rest).unwrap();
        assert_eq!((second.line, second.cells.len(), second.rest.len()), (9, 0, 0));
        assert!(unpack(&bytes[..bytes.len() - 1]).is_some() && unpack(&bytes[..20]).is_none());
    }
}
