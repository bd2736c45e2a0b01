//! One column of texts.

/// Texts one behind the other in one string, with the end of each cell.
#[derive(Debug, Default)]
pub(crate) struct TextColumn {
    text: String,
    ends: Vec<u32>,
}

impl TextColumn {
    pub(crate) fn push(&mut self, cell: &str) {
        self.text.push_str(cell);
        // A batch is bounded far below 4 GiB, so the end fits; a cell beyond would read as empty, not panic.
        self.ends.push(u32::try_from(self.text.len()).unwrap_or(u32::MAX));
    }

    pub(crate) fn get(&self, row: usize) -> &str {
        let end = self.ends.get(row).map_or(0, |end| *end as usize);
        let start = if row == 0 { 0 } else { self.ends.get(row - 1).map_or(0, |end| *end as usize) };
        self.text.get(start..end).unwrap_or("")
    }

    pub(crate) fn len(&self) -> usize {
        self.ends.len()
    }

    pub(crate) fn iter(&self) -> impl Iterator<Item = &str> {
        (0..self.len()).map(|row| self.get(row))
    }

    pub(crate) fn clear(&mut self) {
        self.text.clear();
        self.ends.clear();
    }
}

impl<'t> FromIterator<&'t str> for TextColumn {
    fn from_iter<I: IntoIterator<Item = &'t str>>(cells: I) -> Self {
        let mut column = Self::default();
        cells.into_iter().for_each(|cell| column.push(cell));
        column
    }
}
