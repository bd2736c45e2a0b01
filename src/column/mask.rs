//! Which rows of a column hold a value.

/// A bit a row: set where the row holds a value, clear where it is empty.
///
/// ```
/// use mild_ledger::column::Mask;
///
/// let mut mask = Mask::new();
/// mask.push_present();
/// mask.push_empty();
/// assert!(mask.is_present(0) && !mask.is_present(1));
/// assert_eq!((mask.len(), mask.present()), (2, 1));
/// ```
#[derive(Debug, Clone, PartialEq, Eq, Default)]
pub struct Mask {
    words: Vec<u64>,
    length: usize,
}

impl Mask {
    /// A mask of no rows.
    ///
    /// ```
    /// assert!(mild_ledger::column::Mask::new().is_empty());
    /// ```
    #[must_use]
    pub fn new() -> Self {
        Self::default()
    }

    /// The number of rows.
    ///
    /// ```
    /// assert_eq!(mild_ledger::column::Mask::new().len(), 0);
    /// ```
    #[must_use]
    pub fn len(&self) -> usize {
        self.length
    }

    /// Whether it has no rows at all.
    ///
    /// ```
    /// assert!(mild_ledger::column::Mask::new().is_empty());
    /// ```
    #[must_use]
    pub fn is_empty(&self) -> bool {
        self.length == 0
    }

    /// Appends a row that holds a value.
    ///
    /// ```
    /// let mut mask = mild_ledger::column::Mask::new();
    /// mask.push_present();
    /// assert!(mask.is_present(0));
    /// ```
    pub fn push_present(&mut self) {
        let bit = self.length % 64;
        if bit == 0 {
            self.words.push(0);
        }
        if let Some(word) = self.words.last_mut() {
            *word |= 1 << bit;
        }
        self.length += 1;
    }

    /// Appends an empty row.
    ///
    /// ```
    /// let mut mask = mild_ledger::column::Mask::new();
    /// mask.push_empty();
    /// assert!(!mask.is_present(0));
    /// ```
    pub fn push_empty(&mut self) {
        if self.length.is_multiple_of(64) {
            self.words.push(0);
        }
        self.length += 1;
    }

    /// A mask of so many rows that are all empty.
    pub(super) fn all_empty(length: usize) -> Self {
        Self { words: vec![0; length.div_ceil(64)], length }
    }

    /// A mask of so many rows that all hold a value.
    pub(super) fn all_present(length: usize) -> Self {
        let mut words = vec![u64::MAX; length.div_ceil(64)];
        if let (Some(last), 1..) = (words.last_mut(), length % 64) {
            *last = (1 << (length % 64)) - 1;
        }
        Self { words, length }
    }

    /// The rows that hold a value in both of two masks of one length.
    pub(super) fn and(&self, other: &Self) -> Self {
        let words = self.words.iter().zip(&other.words).map(|(a, b)| a & b).collect();
        Self { words, length: self.length }
    }

    /// Takes the rows of this mask that hold a value in words of 64 rows worked out elsewhere as well; the words'
    /// memory becomes its own.
    pub(super) fn and_words(&self, mut words: Vec<u64>) -> Self {
        words.iter_mut().zip(&self.words).for_each(|(word, own)| *word &= own);
        Self { words, length: self.length }
    }

    /// Its words, for a loop that fills them anew.
    pub(super) fn take_words(&mut self) -> Vec<u64> {
        self.length = 0;
        std::mem::take(&mut self.words)
    }

    /// Whether a row holds a value; a row that there is none of does not.
    ///
    /// ```
    /// assert!(!mild_ledger::column::Mask::new().is_present(7));
    /// ```
    #[must_use]
    pub fn is_present(&self, row: usize) -> bool {
        row < self.length && self.words[row / 64] >> (row % 64) & 1 == 1
    }

    /// How many rows hold a value.
    ///
    /// ```
    /// assert_eq!(mild_ledger::column::Mask::new().present(), 0);
    /// ```
    #[must_use]
    pub fn present(&self) -> usize {
        self.words.iter().map(|word| word.count_ones() as usize).sum()
    }
}
