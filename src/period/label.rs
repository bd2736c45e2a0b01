//! Labels by a pattern.

use super::{FiscalYear, Period, PeriodRule, WeekNumbers};
use crate::date::month_names::MONTHS;
use crate::date::{Date, Weekday};
use crate::error::{Error, ErrorKind, quoted};
use alloc::borrow::ToOwned;
use alloc::format;
use alloc::string::String;
use alloc::vec::Vec;
use core::fmt::{self, Write};
use core::str::FromStr;

/// A pattern that writes a date as a label: in the words that dates are read by, or in POSIX `strftime` letters and fields
/// in braces.
///
/// Words: `day`, `month`, `month-name`, `year`, `weekday`, with characters between them. Letters: `%Y` `%m` `%d` `%b` `%B` `%j`
/// `%a` `%A` `%u` `%G` `%V` `%F` `%%`. Fields: `{quarter}`, `{half}`, `{fiscal_year}`, `{fiscal_quarter}`,
/// `{fiscal_period}`. A pattern that names no field is refused, and so is `%V` with `%Y`, or `%G` with `%m`, which would
/// print weeks that do not exist.
///
/// ```
/// use mild_ledger::{FiscalYear, LabelPattern};
///
/// let pattern: LabelPattern = "FY{fiscal_year} Q{fiscal_quarter}, %b %Y".parse()?;
/// let label = pattern.write("2026-10-01".parse()?, FiscalYear::starting(10, 1)?);
/// assert_eq!(label, "FY2027 Q1, Oct 2026");
/// let words: LabelPattern = "month-name year".parse()?;
/// assert_eq!(words.write("2026-10-01".parse()?, FiscalYear::default()), "October 2026");
/// assert!("%Y-W%V".parse::<LabelPattern>().is_err());
/// assert!("Q3".parse::<LabelPattern>().is_err());
/// # Ok::<(), mild_ledger::Error>(())
/// ```
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct LabelPattern {
    pieces: Vec<Piece>,
    source: String,
}

#[derive(Debug, Clone, Copy, PartialEq, Eq)]
enum Piece {
    Literal(char),
    Year,
    Month,
    MonthName(Length),
    Day(Zero),
    DayOfYear,
    Weekday(Length),
    WeekdayNumber,
    IsoWeekYear,
    IsoWeek,
    IsoDate,
    Quarter,
    Half,
    FiscalYear,
    FiscalQuarter,
    FiscalPeriod,
}

#[derive(Debug, Clone, Copy, PartialEq, Eq)]
enum Length {
    Short,
    Full,
}

/// Whether a day below ten has two digits.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
enum Zero {
    InFront,
    LeftOut,
}

const LETTERS: [(char, Piece); 11] = [
    ('Y', Piece::Year),
    ('m', Piece::Month),
    ('d', Piece::Day(Zero::InFront)),
    ('b', Piece::MonthName(Length::Short)),
    ('B', Piece::MonthName(Length::Full)),
    ('j', Piece::DayOfYear),
    ('a', Piece::Weekday(Length::Short)),
    ('A', Piece::Weekday(Length::Full)),
    ('u', Piece::WeekdayNumber),
    ('G', Piece::IsoWeekYear),
    ('V', Piece::IsoWeek),
];
const FIELDS: [(&str, Piece); 5] = [
    ("quarter", Piece::Quarter),
    ("half", Piece::Half),
    ("fiscal_year", Piece::FiscalYear),
    ("fiscal_quarter", Piece::FiscalQuarter),
    ("fiscal_period", Piece::FiscalPeriod),
];
/// Longer words before those that they begin with.
const WORDS: [(&str, Piece); 5] = [
    ("month-name", Piece::MonthName(Length::Full)),
    ("month", Piece::Month),
    ("weekday", Piece::Weekday(Length::Full)),
    ("year", Piece::Year),
    ("day", Piece::Day(Zero::InFront)),
];

impl LabelPattern {
    /// The label of a date; fiscal fields count by the fiscal year given, the others by the calendar.
    ///
    /// ```
    /// use mild_ledger::{FiscalYear, LabelPattern};
    /// let pattern: LabelPattern = "%A %d %B %Y, week %G-W%V, H{half}".parse()?;
    /// let label = pattern.write("2026-09-30".parse()?, FiscalYear::default());
    /// assert_eq!(label, "Wednesday 30 September 2026, week 2026-W40, H2");
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn write(&self, date: Date, fiscal: FiscalYear) -> String {
        let mut out = String::with_capacity(self.source.len());
        self.write_into(date, fiscal, &mut out);
        out
    }

    /// [`write`](Self::write) after what is in a string already.
    ///
    /// ```
    /// use mild_ledger::{FiscalYear, LabelPattern};
    /// let mut text = "Week of ".to_owned();
    /// "%F".parse::<LabelPattern>()?.write_into("2026-09-28".parse()?, FiscalYear::default(), &mut text);
    /// assert_eq!(text, "Week of 2026-09-28");
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    pub fn write_into(&self, date: Date, fiscal: FiscalYear, out: &mut String) {
        self.write_by(date, PeriodRule::FiscalYear(fiscal), PeriodRule::Year, out);
    }

    /// The label of a period, written from its first day. In that of a fiscal period, or of one of a year of weeks, the
    /// quarter and the half are those of its own year; fiscal fields of other periods count by the fiscal year given.
    ///
    /// # Errors
    /// [`ErrorKind::OutOfRange`] where the period begins before 0001-01-01.
    ///
    /// ```
    /// use mild_ledger::{FiscalYear, LabelPattern, PeriodRule};
    /// let fiscal = FiscalYear::starting(10, 1)?;
    /// let quarter = PeriodRule::FiscalQuarter(fiscal).containing("2026-10-20".parse()?);
    /// assert_eq!("Q{quarter} of {fiscal_year}".parse::<LabelPattern>()?.write_period(&quarter, fiscal)?, "Q1 of 2027");
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    pub fn write_period(&self, period: &Period, fiscal: FiscalYear) -> Result<String, Error> {
        let date = period.first_day()?;
        let own = match period.rule() {
            PeriodRule::FiscalPeriod(year)
            | PeriodRule::FiscalQuarter(year)
            | PeriodRule::FiscalYear(year) => PeriodRule::FiscalYear(year),
            PeriodRule::WeekPeriod(weeks) | PeriodRule::WeekQuarter(weeks) | PeriodRule::WeekYear(weeks) => {
                PeriodRule::WeekYear(weeks)
            }
            _ => return Ok(self.write(date, fiscal)),
        };
        let mut out = String::with_capacity(self.source.len());
        self.write_by(date, own, own, &mut out);
        Ok(out)
    }

    /// Fiscal fields count by one year, quarter and half by another.
    fn write_by(&self, date: Date, fiscal: PeriodRule, parts: PeriodRule, out: &mut String) {
        let (year, month, day) = date.year_month_day();
        let number = |rule: PeriodRule| rule.containing(date).number();
        let iso = WeekNumbers::iso();
        for piece in &self.pieces {
            // Writing to memory does not fail.
            let _ = match piece {
                Piece::Literal(sign) => {
                    out.push(*sign);
                    Ok(())
                }
                Piece::Year => write!(out, "{year:04}"),
                Piece::Month => write!(out, "{month:02}"),
                Piece::MonthName(length) => {
                    put_name(out, MONTHS[usize::from(month - 1)], *length);
                    Ok(())
                }
                Piece::Day(Zero::InFront) => write!(out, "{day:02}"),
                Piece::Day(Zero::LeftOut) => write!(out, "{day}"),
                Piece::DayOfYear => {
                    let day = PeriodRule::Year.containing(date).position_of(date);
                    write!(out, "{:03}", day.unwrap_or_default())
                }
                Piece::Weekday(length) => {
                    put_name(out, Weekday::word(date.weekday()), *length);
                    Ok(())
                }
                Piece::WeekdayNumber => write!(out, "{}", date.weekday().days_from_monday() + 1),
                Piece::IsoWeekYear => write!(out, "{:04}", iso.of(date).year()),
                Piece::IsoWeek => write!(out, "{:02}", iso.of(date).week()),
                Piece::IsoDate => write!(out, "{date}"),
                Piece::Quarter => write!(out, "{}", number(parts.quarter_of_year())),
                Piece::Half => write!(out, "{}", (number(parts.quarter_of_year()) + 1) / 2),
                Piece::FiscalYear => write!(out, "{:04}", number(fiscal)),
                Piece::FiscalQuarter => write!(out, "{}", number(fiscal.quarter_of_year())),
                Piece::FiscalPeriod => write!(out, "{}", number(fiscal.month_of_year())),
            };
        }
    }
}

/// A name with a capital.
fn put_name(out: &mut String, name: &str, length: Length) {
    let end = match length {
        Length::Short => 3,
        Length::Full => name.len(),
    };
    let (first, rest) = name.split_at(1);
    out.push_str(&first.to_uppercase());
    out.push_str(&rest[..end - 1]);
}

fn refused(text: &str, why: impl fmt::Display) -> Error {
    Error::new(
        ErrorKind::Unreadable,
        format!("{} is not a label pattern: {why}", quoted(text)),
        "words such as \"month-name year\", or %Y %m %d %b %B %j %a %A %u %G %V %F, {quarter} {half} {fiscal_year} {fiscal_quarter} {fiscal_period}",
    )
}

impl FromStr for LabelPattern {
    type Err = Error;

    fn from_str(text: &str) -> Result<Self, Error> {
        let pieces = if text.contains(['%', '{']) { from_letters(text)? } else { from_words(text)? };
        if pieces.iter().all(|piece| matches!(piece, Piece::Literal(_))) {
            return Err(refused(text, "it names no field, so every label would be the same"));
        }
        let has = |wanted| pieces.contains(&wanted);
        if has(Piece::IsoWeek) && has(Piece::Year) && !has(Piece::IsoWeekYear) {
            return Err(refused(text, "%V counts weeks of the week-year, which is %G and not %Y"));
        }
        if has(Piece::IsoWeekYear) && has(Piece::Month) {
            return Err(refused(
                text,
                "%G is the year of a week and goes with %V; the year of a month is %Y",
            ));
        }
        Ok(Self { pieces, source: text.to_owned() })
    }
}

fn from_letters(text: &str) -> Result<Vec<Piece>, Error> {
    let mut pieces = Vec::new();
    let mut rest = text;
    while let Some(sign) = rest.chars().next() {
        rest = &rest[sign.len_utf8()..];
        match sign {
            '%' => {
                let letter =
                    rest.chars().next().ok_or_else(|| refused(text, "a letter is missing after the %"))?;
                rest = &rest[letter.len_utf8()..];
                pieces.push(match (letter, LETTERS.iter().find(|(known, _)| *known == letter)) {
                    ('%', _) => Piece::Literal('%'),
                    ('F', _) => Piece::IsoDate,
                    (_, Some((_, piece))) => *piece,
                    (other, None) => {
                        return Err(refused(text, format!("%{} is not understood", other.escape_debug())));
                    }
                });
            }
            '{' => {
                let (name, after) = rest.split_once('}').ok_or_else(|| refused(text, "a } is missing"))?;
                let field = FIELDS.iter().find(|(known, _)| *known == name);
                pieces.push(
                    field.ok_or_else(|| refused(text, format!("there is no field {}", quoted(name))))?.1,
                );
                rest = after;
            }
            sign => pieces.push(Piece::Literal(sign)),
        }
    }
    Ok(pieces)
}

/// Other words than those of dates are refused, since they are most often misspelt ones.
fn from_words(text: &str) -> Result<Vec<Piece>, Error> {
    let mut pieces = Vec::new();
    let mut rest = text;
    while let Some(sign) = rest.chars().next() {
        let end = rest.find(|sign: char| !(sign.is_alphanumeric() || sign == '-')).unwrap_or(rest.len());
        let word = &rest[..end];
        let known = WORDS.iter().find(|(known, _)| word.starts_with(known));
        if let Some((known, piece)) = known {
            pieces.push(*piece);
            rest = &rest[known.len()..];
        } else if sign.is_alphanumeric() {
            let end = rest.find(|sign: char| !sign.is_alphanumeric()).unwrap_or(rest.len());
            let why = format!("{} is not a part of a date", quoted(&rest[..end]));
            return Err(refused(text, why));
        } else {
            pieces.push(Piece::Literal(sign));
            rest = &rest[sign.len_utf8()..];
        }
    }
    // Next to a month's name a day is written as it is spoken.
    if pieces.contains(&Piece::MonthName(Length::Full)) {
        let days = pieces.iter_mut().filter(|piece| matches!(piece, Piece::Day(_)));
        days.for_each(|day| *day = Piece::Day(Zero::LeftOut));
    }
    Ok(pieces)
}

impl fmt::Display for LabelPattern {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        f.pad(&self.source)
    }
}
