//! Amounts as people and programs write them, read by a notation that a user named.

use super::decimal::Decimal;
use super::scale::{Fault, Scale};
use crate::choice::chosen_by_word;
use crate::error::{Error, ErrorKind, quoted};
use alloc::string::{String, ToString};
use alloc::vec::Vec;
use alloc::{format, vec};
use core::fmt;

/// The mark between the whole units and the decimals.
///
/// ```
/// assert_eq!("comma".parse(), Ok(mild_ledger::DecimalMark::Comma));
/// ```
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash, Default)]
pub enum DecimalMark {
    /// `1250.00`
    #[default]
    Point,
    /// `1250,00`
    Comma,
}

impl DecimalMark {
    /// Both of them.
    pub const ALL: [Self; 2] = [Self::Point, Self::Comma];

    /// The word for it in plans.
    ///
    /// ```
    /// assert_eq!(mild_ledger::DecimalMark::Point.word(), "point");
    /// ```
    #[must_use]
    pub fn word(self) -> &'static str {
        match self {
            Self::Point => "point",
            Self::Comma => "comma",
        }
    }

    /// The character itself.
    ///
    /// ```
    /// assert_eq!(mild_ledger::DecimalMark::Comma.sign(), ',');
    /// ```
    #[must_use]
    pub fn sign(self) -> char {
        match self {
            Self::Point => '.',
            Self::Comma => ',',
        }
    }
}

chosen_by_word!(DecimalMark, "a decimal mark");

/// The mark between groups of three digits; where one is named, it may be there or not, but is at every third digit
/// or at none.
///
/// ```
/// assert_eq!("apostrophe".parse(), Ok(mild_ledger::ThousandsMark::Apostrophe));
/// ```
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash, Default)]
pub enum ThousandsMark {
    /// `1250000`
    #[default]
    None,
    /// `1,250,000`
    Comma,
    /// `1.250.000`
    Point,
    /// `1 250 000`, with spaces that break or do not, wide or narrow.
    Space,
    /// `1'250'000`, with a straight apostrophe or a curved one.
    Apostrophe,
}

impl ThousandsMark {
    /// All of them.
    pub const ALL: [Self; 5] = [Self::None, Self::Comma, Self::Point, Self::Space, Self::Apostrophe];

    /// The word for it in plans.
    ///
    /// ```
    /// assert_eq!(mild_ledger::ThousandsMark::Space.word(), "space");
    /// ```
    #[must_use]
    pub fn word(self) -> &'static str {
        match self {
            Self::None => "none",
            Self::Comma => "comma",
            Self::Point => "point",
            Self::Space => "space",
            Self::Apostrophe => "apostrophe",
        }
    }

    fn is(self, sign: char) -> bool {
        match self {
            Self::None => false,
            Self::Comma => sign == ',',
            Self::Point => sign == '.',
            Self::Space => matches!(sign, ' ' | '\u{a0}' | '\u{202f}' | '\u{2009}'),
            Self::Apostrophe => matches!(sign, '\'' | '\u{2019}'),
        }
    }

    fn shown(self) -> &'static str {
        match self {
            Self::None => "",
            Self::Comma => ",",
            Self::Point => ".",
            Self::Space => " ",
            Self::Apostrophe => "'",
        }
    }
}

chosen_by_word!(ThousandsMark, "a thousands mark");

/// A way to write an amount below zero other than a minus before it, which is read always.
///
/// ```
/// assert_eq!("trailing minus".parse(), Ok(mild_ledger::NegativeForm::TrailingMinus));
/// ```
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash)]
pub enum NegativeForm {
    /// `(50.00)`
    Brackets,
    /// `50.00-`
    TrailingMinus,
    /// `50.00 CR` is below zero, `50.00 DR` above it; C and D alone are read too.
    Credit,
    /// `50.00 DR` is below zero, `50.00 CR` above it; C and D alone are read too.
    Debit,
}

impl NegativeForm {
    /// All of them.
    pub const ALL: [Self; 4] = [Self::Brackets, Self::TrailingMinus, Self::Credit, Self::Debit];

    /// The word for it in plans.
    ///
    /// ```
    /// assert_eq!(mild_ledger::NegativeForm::Credit.word(), "credit");
    /// ```
    #[must_use]
    pub fn word(self) -> &'static str {
        match self {
            Self::Brackets => "brackets",
            Self::TrailingMinus => "trailing minus",
            Self::Credit => "credit",
            Self::Debit => "debit",
        }
    }
}

chosen_by_word!(NegativeForm, "a way to write amounts below zero");

/// How the amounts of a column are written: their marks, how those below zero are marked, and the symbols of currencies that may
/// be next to them.
///
/// ```
/// use mild_ledger::{DecimalMark, NegativeForm, Notation, Scale, ThousandsMark};
///
/// let cents = Scale::new(2)?;
/// let notation = Notation::with_marks(DecimalMark::Comma, ThousandsMark::Point)?
///     .with_negatives(NegativeForm::Brackets)
///     .with_sign("€");
/// assert_eq!(notation.read("1.250,50 €", cents)?.to_string(), "1250.50");
/// assert_eq!(notation.read("(50,-)", cents).is_err(), true);
/// assert_eq!(notation.read("(€ 50,00)", cents)?.to_string(), "-50.00");
/// assert!(notation.read("1,250.50", cents).is_err());
/// assert_eq!(Notation::plain().read("1250.5", cents)?.to_string(), "1250.50");
/// # Ok::<(), mild_ledger::Error>(())
/// ```
#[derive(Debug, Clone, PartialEq, Eq, Default)]
pub struct Notation {
    decimal: DecimalMark,
    thousands: ThousandsMark,
    negatives: Vec<NegativeForm>,
    signs: Vec<String>,
}

impl Notation {
    /// A point, no thousands marks, a minus before the number, and nothing else: what [`Scale::read`] reads.
    ///
    /// ```
    /// use mild_ledger::{Notation, Scale};
    /// assert!(Notation::plain().read("$5", Scale::new(2)?).is_err());
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn plain() -> Self {
        Self::default()
    }

    /// With these marks.
    ///
    /// # Errors
    /// [`ErrorKind::Unreadable`] where one sign would be both.
    ///
    /// ```
    /// use mild_ledger::{DecimalMark, Notation, ThousandsMark};
    /// assert!(Notation::with_marks(DecimalMark::Comma, ThousandsMark::Space).is_ok());
    /// assert!(Notation::with_marks(DecimalMark::Comma, ThousandsMark::Comma).is_err());
    /// ```
    pub fn with_marks(decimal: DecimalMark, thousands: ThousandsMark) -> Result<Self, Error> {
        if thousands.is(decimal.sign()) {
            let what = format!("a {decimal} cannot be the decimal mark and the thousands mark");
            return Err(Error::new(ErrorKind::Unreadable, what, "two different marks"));
        }
        Ok(Self { decimal, thousands, ..Self::default() })
    }

    /// With another way to write amounts below zero.
    ///
    /// ```
    /// use mild_ledger::{NegativeForm, Notation, Scale};
    /// let notation = Notation::plain().with_negatives(NegativeForm::Credit);
    /// assert_eq!(notation.read("50.00CR", Scale::new(2)?)?.to_string(), "-50.00");
    /// assert_eq!(notation.read("50.00 Dr", Scale::new(2)?)?.to_string(), "50.00");
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn with_negatives(mut self, form: NegativeForm) -> Self {
        self.negatives.push(form);
        self
    }

    /// With a symbol or code that may come before or after the number, such as `$` or `EUR`, in any case.
    ///
    /// ```
    /// use mild_ledger::{Notation, Scale};
    /// let notation = Notation::plain().with_sign("EUR").with_sign("€");
    /// assert_eq!(notation.read("EUR 12.50", Scale::new(2)?)?.to_string(), "12.50");
    /// assert!(notation.read("USD 12.50", Scale::new(2)?).is_err());
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn with_sign(mut self, sign: &str) -> Self {
        let sign = sign.trim();
        if !sign.is_empty() {
            self.signs.push(sign.to_string());
        }
        self
    }

    /// The mark before the decimals.
    ///
    /// ```
    /// use mild_ledger::{DecimalMark, Notation};
    /// assert_eq!(Notation::plain().decimal_mark(), DecimalMark::Point);
    /// ```
    #[must_use]
    pub fn decimal_mark(&self) -> DecimalMark {
        self.decimal
    }

    /// The mark between groups of three digits.
    ///
    /// ```
    /// use mild_ledger::{Notation, ThousandsMark};
    /// assert_eq!(Notation::plain().thousands_mark(), ThousandsMark::None);
    /// ```
    #[must_use]
    pub fn thousands_mark(&self) -> ThousandsMark {
        self.thousands
    }

    /// The ways to write amounts below zero other than a minus before them.
    ///
    /// ```
    /// assert!(mild_ledger::Notation::plain().negatives().is_empty());
    /// ```
    #[must_use]
    pub fn negatives(&self) -> &[NegativeForm] {
        &self.negatives
    }

    /// The symbols and codes that may be next to the number.
    ///
    /// ```
    /// assert_eq!(mild_ledger::Notation::plain().with_sign("kr").signs(), ["kr"]);
    /// ```
    #[must_use]
    pub fn signs(&self) -> &[String] {
        &self.signs
    }

    /// Reads one amount into a number of decimals. Spaces around it do not count.
    ///
    /// # Errors
    /// [`ErrorKind::Unreadable`] for a text that is not of the notation and for decimals finer than the scale;
    /// [`ErrorKind::OutOfRange`] where it is too large to hold.
    ///
    /// ```
    /// use mild_ledger::{DecimalMark, Notation, Scale, ThousandsMark};
    /// let notation = Notation::with_marks(DecimalMark::Point, ThousandsMark::Comma)?;
    /// let error = notation.read("12,50", Scale::new(2)?).unwrap_err();
    /// assert_eq!(error.to_string(), "\"12,50\" is not an amount: its thousands marks are not at every third digit (allowed: amounts written 1,234.56)");
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    pub fn read(&self, text: &str, scale: Scale) -> Result<Decimal, Error> {
        let trimmed = trimmed(text);
        self.read_units(trimmed, scale).map(|units| scale.amount(units)).map_err(|fault| {
            let written = || format!("amounts written {self}");
            let why = match fault {
                NotationFault::Digits(fault) if *self == Self::plain() => {
                    return fault.into_error(trimmed, scale);
                }
                NotationFault::Digits(Fault::Sign(sign)) => format!("it holds {sign}"),
                NotationFault::Digits(fault) => return fault.into_error(trimmed, scale),
                NotationFault::Groups => "its thousands marks are not at every third digit".to_string(),
                NotationFault::ZeroGroup => "no group of thousands begins an amount with a zero".to_string(),
                NotationFault::TwiceNegative => "two marks state whether it is below zero".to_string(),
            };
            let what = format!("{} is not an amount: {why}", quoted(trimmed));
            Error::new(ErrorKind::Unreadable, what, written())
        })
    }

    /// [`read`](Self::read) of a trimmed text, without the words of an error.
    pub(crate) fn read_units(&self, text: &str, scale: Scale) -> Result<i128, NotationFault> {
        let is_plain = self.decimal == DecimalMark::Point && self.thousands == ThousandsMark::None;
        if is_plain && self.negatives.is_empty() && self.signs.is_empty() {
            return scale.read_units(text.as_bytes()).map_err(NotationFault::Digits);
        }
        let core = self.without_signs(text)?;
        let plain = self.plain_digits(core.digits)?;
        let units = scale.read_units(plain.bytes()).map_err(NotationFault::Digits)?;
        if core.is_negative {
            units.checked_neg().ok_or(NotationFault::Digits(Fault::TooLarge))
        } else {
            Ok(units)
        }
    }

    /// The number between the symbols around it, and whether they state that it is below zero.
    fn without_signs<'t>(&self, text: &'t str) -> Result<Core<'t>, NotationFault> {
        let mut rest = text.trim();
        let (mut negative, mut has_currency): (Option<bool>, bool) = (None, false);
        let mut tell = |is_negative: bool| match negative.replace(is_negative) {
            Some(_) => Err(NotationFault::TwiceNegative),
            None => Ok(()),
        };
        loop {
            let before = rest.len();
            if self.negatives.contains(&NegativeForm::Brackets)
                && let Some(inside) = rest.strip_prefix('(').and_then(|rest| rest.strip_suffix(')'))
            {
                tell(true)?;
                rest = inside.trim();
            }
            if let Some(behind) = rest.strip_prefix(['-', '\u{2212}']) {
                tell(true)?;
                rest = behind.trim_start();
            } else if let Some(behind) = rest.strip_prefix('+') {
                tell(false)?;
                rest = behind.trim_start();
            }
            if self.negatives.contains(&NegativeForm::TrailingMinus)
                && let Some(inside) = rest.strip_suffix(['-', '\u{2212}'])
            {
                tell(true)?;
                rest = inside.trim_end();
            }
            if let Some((inside, letters)) = self.letters_behind(rest) {
                tell(letters == Letters::BelowZero)?;
                rest = inside;
            }
            if !has_currency && let Some(inside) = self.without_currency(rest) {
                has_currency = true;
                rest = inside.trim();
            }
            if rest.len() == before {
                return Ok(Core { digits: rest, is_negative: negative == Some(true) });
            }
        }
    }

    /// The text before letters of debit or credit, where the notation has them.
    fn letters_behind<'t>(&self, text: &'t str) -> Option<(&'t str, Letters)> {
        let credit_is_negative = self.negatives.contains(&NegativeForm::Credit);
        if !credit_is_negative && !self.negatives.contains(&NegativeForm::Debit) {
            return None;
        }
        let digits_end = text.trim_end_matches(|sign: char| sign.is_ascii_alphabetic());
        let letters = text.get(digits_end.len()..)?;
        let is = |words: [&str; 2]| words.iter().any(|word| letters.eq_ignore_ascii_case(word));
        let is_credit = match letters {
            _ if is(["cr", "c"]) => true,
            _ if is(["dr", "d"]) => false,
            _ => return None,
        };
        let letters = if is_credit == credit_is_negative { Letters::BelowZero } else { Letters::AboveZero };
        Some((digits_end.trim_end(), letters))
    }

    /// The text without a symbol of a currency before or after it.
    fn without_currency<'t>(&self, text: &'t str) -> Option<&'t str> {
        let is = |part: Option<&str>, sign: &str| {
            part.is_some_and(|part| part.eq_ignore_ascii_case(sign) || part == sign)
        };
        self.signs.iter().find_map(|sign| {
            let at_end = text.len().checked_sub(sign.len())?;
            if is(text.get(..sign.len()), sign) {
                text.get(sign.len()..)
            } else if is(text.get(at_end..), sign) {
                text.get(..at_end)
            } else {
                None
            }
        })
    }

    /// The digits with a point before the decimals, as plain amounts have them.
    fn plain_digits(&self, text: &str) -> Result<PlainDigits, NotationFault> {
        let mut plain = PlainDigits { bytes: [0; LONGEST], length: 0 };
        let too_large = NotationFault::Digits(Fault::TooLarge);
        // Digits since the last thousands mark, and whether there was one.
        let (mut in_group, mut has_groups, mut is_behind_mark) = (0_usize, false, false);
        for sign in text.chars() {
            match sign {
                '0'..='9' => {
                    in_group += 1;
                    // The first character of the match is one byte.
                    plain.push(sign as u8).ok_or(too_large)?;
                }
                _ if sign == self.decimal.sign() && !is_behind_mark => {
                    if has_groups && in_group != 3 {
                        return Err(NotationFault::Groups);
                    }
                    is_behind_mark = true;
                    plain.push(b'.').ok_or(too_large)?;
                }
                _ if self.thousands.is(sign) && !is_behind_mark => {
                    let fits = if has_groups { in_group == 3 } else { (1..=3).contains(&in_group) };
                    if !fits {
                        return Err(NotationFault::Groups);
                    }
                    if !has_groups && plain.bytes().first() == Some(&b'0') {
                        return Err(NotationFault::ZeroGroup);
                    }
                    (has_groups, in_group) = (true, 0);
                }
                _ => return Err(NotationFault::Digits(Fault::of_char(sign))),
            }
        }
        if has_groups && !is_behind_mark && in_group != 3 {
            return Err(NotationFault::Groups);
        }
        Ok(plain)
    }
}

/// A text without spaces around it, which most texts have none of.
fn trimmed(text: &str) -> &str {
    match text.as_bytes() {
        [first, .., last] if first.is_ascii_graphic() && last.is_ascii_graphic() => text,
        _ => text.trim(),
    }
}

/// Writes an amount of the notation as an example, and those below zero where they are written another way.
impl fmt::Display for Notation {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        let number = format!("1{}234{}56", self.thousands.shown(), self.decimal.sign());
        let number = match self.signs.as_slice() {
            [] => number,
            [sign, ..] => format!("{sign} {number}"),
        };
        let mut written = vec![number.clone()];
        written.extend(self.negatives.iter().map(|form| match form {
            NegativeForm::Brackets => format!("({number})"),
            NegativeForm::TrailingMinus => format!("{number}-"),
            NegativeForm::Credit => format!("{number} CR below zero"),
            NegativeForm::Debit => format!("{number} DR below zero"),
        }));
        f.pad(&written.join(" or "))
    }
}

#[derive(Clone, Copy, PartialEq, Eq)]
enum Letters {
    BelowZero,
    AboveZero,
}

/// The number of an amount, without what is around it.
struct Core<'t> {
    digits: &'t str,
    is_negative: bool,
}

/// No amount that can be held has more characters, zeros that say nothing included.
const LONGEST: usize = 96;

struct PlainDigits {
    bytes: [u8; LONGEST],
    length: usize,
}

impl PlainDigits {
    fn push(&mut self, byte: u8) -> Option<()> {
        *self.bytes.get_mut(self.length)? = byte;
        self.length += 1;
        Some(())
    }

    fn bytes(&self) -> &[u8] {
        self.bytes.get(..self.length).unwrap_or_default()
    }
}

/// Why a text is not an amount of a notation.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(crate) enum NotationFault {
    Digits(Fault),
    /// Thousands marks in other places than before every third digit.
    Groups,
    /// A first group that begins with a zero, such as `0,123`: what looks like its thousands mark is a decimal mark.
    ZeroGroup,
    /// A minus and brackets, for example.
    TwiceNegative,
}
