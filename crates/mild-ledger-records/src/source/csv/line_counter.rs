//! Physical lines of a file, however they end.

/// Counts line ends in the bytes that go by: LF, CR LF and a lone CR each end one line.
#[derive(Debug, Clone)]
pub(super) struct LineCounter {
    line: u64,
    after_return: bool,
}

impl LineCounter {
    /// Counts from this line on.
    pub(super) fn at(line: u64) -> Self {
        Self { line, after_return: false }
    }

    /// The number of the line that the next byte is on, from 1.
    pub(super) fn line(&self) -> u64 {
        self.line
    }

    /// Passes a line that is known to be one, with its end.
    pub(super) fn pass_one(&mut self) {
        self.pass_lines(1);
    }

    /// Passes so many of them.
    pub(super) fn pass_lines(&mut self, lines: u64) {
        self.line += lines;
        self.after_return &= lines == 0;
    }

    pub(super) fn pass(&mut self, bytes: &[u8]) {
        let mut next = 0;
        for at in memchr::memchr2_iter(b'\r', b'\n', bytes) {
            let joined = self.after_return && at == next;
            if bytes[at] == b'\r' {
                self.line += 1;
                self.after_return = true;
            } else {
                self.line += u64::from(!joined);
                self.after_return = false;
            }
            next = at + 1;
        }
        if next < bytes.len() {
            self.after_return = false;
        }
    }
}
