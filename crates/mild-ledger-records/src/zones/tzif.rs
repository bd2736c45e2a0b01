//! The changes of a zone's clock as compiled zone files hold them (RFC 9636).

use super::posix_rule::{ClockOffset, PosixRule};

/// What a zone's clock showed, and when that changed.
#[derive(Debug, Clone, PartialEq, Eq)]
pub(super) struct ClockChanges {
    /// Before the first change.
    first: ClockOffset,
    /// Seconds since 1970-01-01T00:00:00 UTC, increasing, each with what the clock showed from then on.
    changes: Vec<(i64, ClockOffset)>,
    /// The rule from the last change on.
    rule: Option<PosixRule>,
}

impl ClockChanges {
    /// A clock that follows a rule from the beginning.
    pub(super) fn of_rule(rule: PosixRule) -> Self {
        Self { first: rule.standard().clone(), changes: Vec::new(), rule: Some(rule) }
    }

    /// Reads the second block of a file of version 2 or later, in which times have 64 bits; `None` where it is not such a
    /// file.
    pub(super) fn read(bytes: &[u8]) -> Option<Self> {
        let (first_block, rest) = Block::read(bytes, 4)?;
        if first_block.version < b'2' {
            return None;
        }
        let (block, footer) = Block::read(rest, 8)?;
        let clock_of = |kind: u8| -> Option<ClockOffset> {
            let [seconds @ .., _, place] = block.kinds.get(usize::from(kind) * 6..)?.first_chunk::<6>()?;
            let letters = block.letters.get(usize::from(*place)..)?.split(|byte| *byte == 0).next()?;
            let seconds = i32::from_be_bytes(*seconds.first_chunk::<4>()?);
            Some(ClockOffset { seconds, letters: std::str::from_utf8(letters).ok()?.to_owned() })
        };
        let times = block.times.chunks_exact(8).map(|time| time.first_chunk::<8>());
        let changes = times
            .zip(block.time_kinds)
            .map(|(time, kind)| Some((i64::from_be_bytes(*time?), clock_of(*kind)?)))
            .collect::<Option<Vec<_>>>()?;
        let text = std::str::from_utf8(footer.strip_prefix(b"\n")?).ok()?;
        let rule = match text.split('\n').next()? {
            "" => None,
            rule => Some(PosixRule::read(rule)?),
        };
        Some(Self { first: clock_of(0)?, changes, rule })
    }

    /// What the clock shows at a time in seconds since 1970-01-01T00:00:00 UTC.
    pub(super) fn clock_at(&self, seconds: i64) -> &ClockOffset {
        let before = self.changes.partition_point(|(from, _)| *from <= seconds);
        match (&self.rule, before.checked_sub(1)) {
            (Some(rule), _) if before == self.changes.len() => rule.clock_at(seconds),
            (_, Some(last)) => self.changes.get(last).map_or(&self.first, |(_, clock)| clock),
            (_, None) => &self.first,
        }
    }
}

/// A header and the parts after it.
struct Block<'b> {
    version: u8,
    times: &'b [u8],
    time_kinds: &'b [u8],
    /// Records of six bytes: the offset, whether it is daylight saving time, and the place of its name.
    kinds: &'b [u8],
    /// The letters of the clocks, each ended by a zero.
    letters: &'b [u8],
}

impl<'b> Block<'b> {
    fn read(bytes: &'b [u8], time_size: usize) -> Option<(Self, &'b [u8])> {
        let header = bytes.first_chunk::<44>()?;
        if !header.starts_with(b"TZif") {
            return None;
        }
        let counts: Vec<usize> = header[20..44]
            .chunks_exact(4)
            .filter_map(|count| count.first_chunk::<4>())
            .map(|count| u32::from_be_bytes(*count) as usize)
            .collect();
        let [ut_indicators, standard_indicators, leap_seconds, times, kinds, names] = counts.as_slice()
        else {
            return None;
        };
        let mut rest = bytes.get(44..)?;
        let mut take = |length: usize| {
            let (part, after) = rest.split_at_checked(length)?;
            rest = after;
            Some(part)
        };
        let block = Self {
            version: header[4],
            times: take(times.checked_mul(time_size)?)?,
            time_kinds: take(*times)?,
            kinds: take(kinds.checked_mul(6)?)?,
            letters: take(*names)?,
        };
        take(leap_seconds.checked_mul(time_size + 4)?)?;
        take(*standard_indicators)?;
        take(*ut_indicators)?;
        Some((block, rest))
    }
}
