//! Which rows of a column hold a value, in bits that are as the Arrow columnar format has them.

use crate::error::{Error, ErrorKind};
use alloc::format;

/// A bit a row, set where the row holds a value: the least significant bit of a byte first, from any bit on (the
/// validity bitmap of the Arrow columnar format). It is borrowed, and cheap to copy.
///
/// ```
/// use mild_ledger::column::Validity;
///
/// // Rows 0, 1 and 3 of four, from bit 2 on.
/// let rows = Validity::new(&[0b0010_1100], 2, 4)?;
/// assert!(rows.is_valid(0) && rows.is_valid(1) && !rows.is_valid(2) && rows.is_valid(3));
/// assert_eq!((rows.len(), rows.valid_rows()), (4, 3));
/// # Ok::<(), mild_ledger::Error>(())
/// ```
#[derive(Debug, Clone, Copy)]
pub struct Validity<'c> {
    bytes: &'c [u8],
    offset: usize,
    rows: usize,
}

impl<'c> Validity<'c> {
    /// The bits of a number of rows, the first of which is the bit with the number `offset`.
    ///
    /// # Errors
    /// [`ErrorKind::LengthsDiffer`] where there are fewer bits than that.
    ///
    /// ```
    /// use mild_ledger::column::Validity;
    /// assert!(Validity::new(&[0xff], 1, 7).is_ok() && Validity::new(&[0xff], 1, 8).is_err());
    /// ```
    pub fn new(bytes: &'c [u8], offset: usize, rows: usize) -> Result<Self, Error> {
        let needed = offset.checked_add(rows).map(|bits| bits.div_ceil(8));
        if needed.is_none_or(|needed| needed > bytes.len()) {
            let what =
                format!("{} bytes do not hold a bit for {rows} rows from bit {offset} on", bytes.len());
            return Err(Error::new(ErrorKind::LengthsDiffer, what, "a bit for each row"));
        }
        Ok(Self { bytes, offset, rows })
    }

    /// The bits of the rows of a column, which has one for each.
    pub(super) fn of_rows(bytes: &'c [u8], rows: usize) -> Self {
        Self { bytes, offset: 0, rows }
    }

    /// The number of rows.
    ///
    /// ```
    /// # use mild_ledger::column::Validity;
    /// assert_eq!(Validity::new(&[1], 0, 8)?.len(), 8);
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn len(self) -> usize {
        self.rows
    }

    /// Whether it has no rows at all.
    ///
    /// ```
    /// # use mild_ledger::column::Validity;
    /// assert!(Validity::new(&[], 0, 0)?.is_empty());
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn is_empty(self) -> bool {
        self.rows == 0
    }

    /// Whether a row holds a value; a row that there is none of does not.
    ///
    /// ```
    /// # use mild_ledger::column::Validity;
    /// assert!(!Validity::new(&[0xff], 0, 4)?.is_valid(4));
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn is_valid(self, row: usize) -> bool {
        let bit = self.offset + row.min(self.rows);
        row < self.rows && self.bytes[bit / 8] >> (bit % 8) & 1 == 1
    }

    /// How many rows hold a value.
    ///
    /// ```
    /// # use mild_ledger::column::Validity;
    /// assert_eq!(Validity::new(&[0b101], 0, 8)?.valid_rows(), 2);
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn valid_rows(self) -> usize {
        (0..self.rows.div_ceil(64)).map(|nth| self.word(nth).count_ones() as usize).sum()
    }

    /// The bytes that hold the bits.
    ///
    /// ```
    /// # use mild_ledger::column::Validity;
    /// assert_eq!(Validity::new(&[0b101], 0, 3)?.bytes(), [0b101]);
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn bytes(self) -> &'c [u8] {
        self.bytes
    }

    /// The bit of its bytes that is the first row's.
    ///
    /// ```
    /// # use mild_ledger::column::Validity;
    /// assert_eq!(Validity::new(&[0xff], 3, 2)?.offset(), 3);
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn offset(self) -> usize {
        self.offset
    }

    /// The bits of the rows from 64 × `nth` on, those after the last row clear.
    #[inline]
    pub(super) fn word(self, nth: usize) -> u64 {
        let first_row = 64 * nth;
        let bit = self.offset + first_row;
        let (byte, shift) = (bit / 8, bit % 8);
        let here = self.bytes.get(byte..).unwrap_or_default();
        let word = match here.first_chunk::<9>() {
            Some([eight @ .., ninth]) => {
                let word = u64::from_le_bytes(*eight) >> shift;
                // A shift by 64 in two steps, so that none is too far.
                word | (u64::from(*ninth) << 1 << (63 - shift))
            }
            None => {
                let mut bytes = [0; 16];
                bytes.iter_mut().zip(here).for_each(|(byte, from)| *byte = *from);
                (u128::from_le_bytes(bytes) >> shift) as u64
            }
        };
        match self.rows - first_row.min(self.rows) {
            64.. => word,
            rows => word & ((1 << rows) - 1),
        }
    }
}

/// Sets the bits of up to 64 rows; the bytes are those of these rows.
#[inline(always)]
pub(super) fn set_word(bytes: &mut [u8], word: u64) {
    match <&mut [u8; 8]>::try_from(&mut *bytes) {
        Ok(eight) => *eight = word.to_le_bytes(),
        Err(_) => bytes.iter_mut().zip(word.to_le_bytes()).for_each(|(byte, bits)| *byte = bits),
    }
}

/// Clears the bits of rows that are clear in a word.
#[inline(always)]
pub(super) fn and_word(bytes: &mut [u8], word: u64) {
    match <&mut [u8; 8]>::try_from(&mut *bytes) {
        Ok(eight) => *eight = (u64::from_le_bytes(*eight) & word).to_le_bytes(),
        Err(_) => bytes.iter_mut().zip(word.to_le_bytes()).for_each(|(byte, bits)| *byte &= bits),
    }
}
