//! The objects that commands print with `--json`: amounts and dates as texts, so that nothing is rounded.

mod between;
mod calendar;
mod check;
mod due;
mod exceptions;
mod explained;
mod look;
mod periods;
mod run;
mod shift;
mod verified;

pub use between::{between, between_times};
pub use calendar::{calendar, shipped_calendars, sources, two_calendars};
pub use check::check;
pub use due::due;
pub use explained::explained;
pub use look::look;
pub use periods::periods;
pub use run::run;
pub use shift::shift;
pub use verified::verified;

use crate::facts::decimal;
use crate::shown::is_hidden;
use mild_ledger::{Fraction, Working};
use serde::Serialize;

/// Objects of texts and numbers always have a JSON form. Characters that would steer a terminal are in it as escapes, which any
/// reader of JSON (RFC 8259) turns back.
fn to_text(object: &impl Serialize) -> String {
    let text = serde_json::to_string(object).unwrap_or_default();
    if !text.chars().any(is_hidden) {
        return text;
    }
    let mut out = String::with_capacity(text.len());
    for sign in text.chars() {
        if is_hidden(sign) {
            sign.encode_utf16(&mut [0; 2]).iter().for_each(|unit| out.push_str(&format!("\\u{unit:04x}")));
        } else {
            out.push(sign);
        }
    }
    out
}

/// One value as it is, several as a list, and no key where there is none.
#[derive(Serialize)]
#[serde(untagged)]
enum OneOrMany<T> {
    One(T),
    Many(Vec<T>),
}

impl<T> OneOrMany<T> {
    fn of(values: impl IntoIterator<Item = T>) -> Option<Self> {
        let mut values: Vec<T> = values.into_iter().collect();
        match values.len() {
            0 | 1 => values.pop().map(Self::One),
            _ => Some(Self::Many(values)),
        }
    }
}

/// An exact number: whole + numerator ÷ denominator, in lowest terms, and its nearest decimal as a text.
#[derive(Serialize)]
struct Exact {
    whole: i64,
    numerator: i64,
    denominator: i64,
    decimal: String,
}

fn exact(fraction: Fraction) -> Exact {
    Exact {
        whole: fraction.whole(),
        numerator: fraction.numerator(),
        denominator: fraction.denominator(),
        decimal: decimal(fraction),
    }
}

#[derive(Serialize)]
struct Why {
    rule: String,
    steps: Vec<String>,
    figure: String,
}

fn working(working: &Working) -> Why {
    Why {
        rule: working.rule().to_owned(),
        steps: working.steps().iter().map(|step| step.said().to_owned()).collect(),
        figure: working.figure().to_owned(),
    }
}
