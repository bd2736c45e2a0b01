//! Labels by a pattern.

use super::{FiscalYear, PeriodRule, WeekNumbers};
use crate::date::month_names::MONTHS;
use crate::date::{Date, quoted};
use crate::error::{Error, ErrorKind};
use std::fmt;
use std::str::FromStr;

/// A pattern that writes a date as a label: POSIX `strftime` letters, and fields in braces.
///
/// Letters: `%Y` `%m` `%d` `%b` `%B` `%j` `%a` `%A` `%u` `%G` `%V` `%F` `%%`. Fields: `{quarter}`, `{half}`,
/// `{fiscal_year}`, `{fiscal_quarter}`, `{fiscal_period}`. `%V` with `%Y`, or `%G` with `%m`, is refused: it
/// would print weeks that do not exist.
///
/// ```
/// use mild_ledger::{FiscalYear, LabelPattern};
///
/// let pattern: LabelPattern = "FY{fiscal_year} Q{fiscal_quarter}, %b %Y".parse()?;
/// let label = pattern.write("2026-10-01".parse()?, FiscalYear::starting(10, 1)?);
/// assert_eq!(label, "FY2027 Q1, Oct 2026");
/// assert!("%Y-W%V".parse::<LabelPattern>().is_err());
/// # Ok::<(), mild_ledger::Error>(())
/// ```
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct LabelPattern {
    pieces: Vec<Piece>,
    source: String,
}

#[derive(Debug, Clone, PartialEq, Eq)]
enum Piece {
    Literal(char),
    Letter(char),
    Quarter,
    Half,
    FiscalYear,
    FiscalQuarter,
    FiscalPeriod,
}

const LETTERS: &str = "YmdbBjaAuGVF";
const FIELDS: [(&str, Piece); 5] = [
    ("quarter", Piece::Quarter),
    ("half", Piece::Half),
    ("fiscal_year", Piece::FiscalYear),
    ("fiscal_quarter", Piece::FiscalQuarter),
    ("fiscal_period", Piece::FiscalPeriod),
];

impl LabelPattern {
    /// The label of a date; the fiscal fields go by this fiscal year.
    ///
    /// ```
    /// use mild_ledger::{FiscalYear, LabelPattern};
    /// let pattern: LabelPattern = "%G-W%V-%u".parse()?;
    /// assert_eq!(pattern.write("2021-01-03".parse()?, FiscalYear::default()), "2020-W53-7");
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn write(&self, date: Date, fiscal: FiscalYear) -> String {
        let (year, month, day) = date.year_month_day();
        let number = |rule: PeriodRule| rule.containing(date).number().to_string();
        let month_name = || {
            let name = MONTHS[usize::from(month - 1)];
            name[..1].to_uppercase() + &name[1..]
        };
        self.pieces
            .iter()
            .map(|piece| match piece {
                Piece::Literal(sign) => sign.to_string(),
                Piece::Quarter => number(PeriodRule::Quarter),
                Piece::Half => number(PeriodRule::HalfYear),
                Piece::FiscalYear => PeriodRule::FiscalYear(fiscal).containing(date).year().to_string(),
                Piece::FiscalQuarter => number(PeriodRule::FiscalQuarter(fiscal)),
                Piece::FiscalPeriod => number(PeriodRule::FiscalPeriod(fiscal)),
                Piece::Letter('Y') => format!("{year:04}"),
                Piece::Letter('m') => format!("{month:02}"),
                Piece::Letter('d') => format!("{day:02}"),
                Piece::Letter('b') => month_name()[..3].to_owned(),
                Piece::Letter('B') => month_name(),
                Piece::Letter('j') => {
                    format!("{:03}", PeriodRule::Year.containing(date).position_of(date).unwrap_or_default())
                }
                Piece::Letter('a') => date.weekday().to_string()[..3].to_owned(),
                Piece::Letter('A') => date.weekday().to_string(),
                Piece::Letter('u') => (date.weekday().days_from_monday() + 1).to_string(),
                Piece::Letter('G') => format!("{:04}", WeekNumbers::iso().of(date).year()),
                Piece::Letter('V') => format!("{:02}", WeekNumbers::iso().of(date).week()),
                Piece::Letter(_) => date.to_string(),
            })
            .collect()
    }
}

impl FromStr for LabelPattern {
    type Err = Error;

    fn from_str(text: &str) -> Result<Self, Error> {
        let refused = |why: String| {
            Error::new(
                ErrorKind::Unreadable,
                format!("{} is no label pattern: {why}", quoted(text)),
                "%Y %m %d %b %B %j %a %A %u %G %V %F, {quarter} {half} {fiscal_year} {fiscal_quarter} {fiscal_period}",
            )
        };
        let mut pieces = Vec::new();
        let mut rest = text;
        while let Some(sign) = rest.chars().next() {
            rest = &rest[sign.len_utf8()..];
            match sign {
                '%' => {
                    let letter = rest
                        .chars()
                        .next()
                        .ok_or_else(|| refused("a letter is missing behind the %".to_owned()))?;
                    rest = &rest[letter.len_utf8()..];
                    pieces.push(match letter {
                        '%' => Piece::Literal('%'),
                        letter if LETTERS.contains(letter) => Piece::Letter(letter),
                        other => return Err(refused(format!("%{} is not understood", other.escape_debug()))),
                    });
                }
                '{' => {
                    let (name, after) =
                        rest.split_once('}').ok_or_else(|| refused("a } is missing".to_owned()))?;
                    let field = FIELDS.iter().find(|(known, _)| *known == name);
                    pieces.push(
                        field
                            .ok_or_else(|| refused(format!("there is no field {}", quoted(name))))?
                            .1
                            .clone(),
                    );
                    rest = after;
                }
                sign => pieces.push(Piece::Literal(sign)),
            }
        }
        let has = |letter| pieces.contains(&Piece::Letter(letter));
        if has('V') && has('Y') && !has('G') {
            return Err(refused("%V counts weeks of the week-year, which is %G and not %Y".to_owned()));
        }
        if has('G') && has('m') {
            return Err(refused(
                "%G is the year of a week and goes with %V; the year of a month is %Y".to_owned(),
            ));
        }
        Ok(Self { pieces, source: text.to_owned() })
    }
}

impl fmt::Display for LabelPattern {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        f.pad(&self.source)
    }
}
