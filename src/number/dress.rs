//! What is around the number of an amount, whatever its notation.

use super::currency_code::is_currency_code;

/// What is around the number of a value.
pub(super) struct Dress<'t> {
    pub(super) digits: &'t str,
    pub(super) leading_minus: bool,
    pub(super) trailing_minus: bool,
    pub(super) brackets: bool,
    /// A plus before it.
    plus: bool,
    /// Whether letters say that it is a credit.
    pub(super) letters: Option<bool>,
    /// Whether they are a single letter without a space, such as in `12C`.
    pub(super) has_attached_letter: bool,
    pub(super) currency: Option<&'t str>,
}

impl<'t> Dress<'t> {
    /// `None` where something else is around it.
    pub(super) fn of(text: &'t str) -> Option<Self> {
        let mut dress = Self {
            digits: text,
            leading_minus: false,
            trailing_minus: false,
            brackets: false,
            plus: false,
            letters: None,
            has_attached_letter: false,
            currency: None,
        };
        let is_number = |sign: char| sign.is_ascii_digit() || matches!(sign, '.' | ',');
        loop {
            let rest = dress.digits;
            if rest.starts_with(is_number) && rest.ends_with(is_number) {
                return Some(dress);
            }
            if let Some(inside) = rest.strip_prefix('(').and_then(|rest| rest.strip_suffix(')')) {
                (dress.brackets, dress.digits) = (dress.may_be_signed()?, inside.trim());
            } else if let Some(behind) = rest.strip_prefix(['-', '\u{2212}']) {
                (dress.leading_minus, dress.digits) = (dress.may_be_signed()?, right_behind(behind)?);
            } else if let Some(behind) = rest.strip_prefix('+') {
                (dress.plus, dress.digits) = (dress.may_be_signed()?, right_behind(behind)?);
            } else if let Some(inside) = rest.strip_suffix(['-', '\u{2212}']) {
                (dress.trailing_minus, dress.digits) = (dress.may_be_signed()?, inside.trim_end());
            } else {
                let start = rest.find(|sign: char| is_number(sign) || "-+(\u{2212}".contains(sign))?;
                let end = rest.rfind(|sign: char| is_number(sign) || "-)\u{2212}".contains(sign))?;
                let before = rest.get(..start)?.trim_end();
                let behind =
                    rest.get(end..)?.get(rest.get(end..)?.chars().next()?.len_utf8()..)?.trim_start();
                match (before, behind) {
                    ("", "") => return None,
                    ("", behind) => {
                        let inside = rest.get(..rest.len() - behind.len())?;
                        dress.take_word_after(behind)?;
                        dress.has_attached_letter |=
                            behind.len() == 1 && !inside.ends_with(char::is_whitespace);
                        dress.digits = inside.trim_end();
                    }
                    (before, _) => {
                        dress.take_currency(before)?;
                        dress.digits = rest.get(before.len()..)?.trim_start();
                    }
                }
            }
        }
    }

    /// Yes, unless something says already whether the number is below zero; two signs contradict each other.
    fn may_be_signed(&self) -> Option<bool> {
        let signed = self.leading_minus || self.trailing_minus || self.brackets || self.plus;
        (!signed && self.letters.is_none()).then_some(true)
    }

    /// Takes a word after the number for what it is. A credit or debit mark comes after its number: before it, it is the
    /// beginning of a code, such as `C7`.
    fn take_word_after(&mut self, word: &'t str) -> Option<()> {
        let is = |words: [&str; 2]| words.iter().any(|one| word.eq_ignore_ascii_case(one));
        if is(["cr", "c"]) || is(["dr", "d"]) {
            self.may_be_signed()?;
            self.letters = Some(is(["cr", "c"]));
            return Some(());
        }
        self.take_currency(word)
    }

    fn take_currency(&mut self, word: &'t str) -> Option<()> {
        if self.currency.is_some() || !is_currency(word) {
            return None;
        }
        self.currency = Some(word);
        Some(())
    }

    /// Whether a minus or brackets make the number negative.
    pub(super) fn is_negative(&self) -> bool {
        self.leading_minus || self.trailing_minus || self.brackets
    }
}

/// What is right after a sign; `None` where a space is.
fn right_behind(text: &str) -> Option<&str> {
    (!text.starts_with(char::is_whitespace)).then_some(text)
}

/// Whether a word may be the symbol of a currency: a currency symbol, a code of ISO 4217, or a short word of letters
/// that is used as one.
fn is_currency(word: &str) -> bool {
    const WORDS: [&str; 8] = ["kr", "kr.", "zł", "Kč", "Ft", "Fr.", "R$", "lei"];
    const SIGNS: &str = "$€£¥₩₹₽₺₪₫₦₱฿₴₵₡₲₭₮¢₨";
    let is_sign = word.chars().count() == 1 && SIGNS.contains(word);
    // A dollar of a country, such as A$ or US$.
    let is_dollar = word.len() <= 3
        && word
            .strip_suffix('$')
            .is_some_and(|country| country.bytes().all(|byte| byte.is_ascii_uppercase()));
    is_currency_code(word) || is_sign || is_dollar || WORDS.contains(&word)
}
