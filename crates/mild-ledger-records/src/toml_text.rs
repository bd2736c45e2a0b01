//! Texts, keys and values as TOML writes them.

use toml::de::{DeTable, DeValue};

/// A key as TOML writes it: bare where it may be, and quoted where it may not.
///
/// ```
/// use mild_ledger_records::plan_key;
/// assert_eq!((plan_key("yard").as_str(), plan_key("the yard").as_str()), ("yard", "\"the yard\""));
/// ```
#[must_use]
pub fn plan_key(name: &str) -> String {
    let is_bare = |sign: char| sign.is_ascii_alphanumeric() || matches!(sign, '-' | '_');
    if !name.is_empty() && name.chars().all(is_bare) { name.to_owned() } else { quoted(name) }
}

/// A text as TOML writes it.
///
/// ```
/// assert_eq!(mild_ledger_records::quoted("12\" pipe"), "\"12\\\" pipe\"");
/// ```
#[must_use]
pub fn quoted(text: &str) -> String {
    let mut out = String::from("\"");
    for sign in text.chars() {
        match sign {
            '"' | '\\' => out.extend(['\\', sign]),
            '\t' => out.push_str("\\t"),
            sign if sign.is_control() => out.push_str(&format!("\\u{:04X}", u32::from(sign))),
            sign => out.push(sign),
        }
    }
    out + "\""
}

/// A line of words as TOML writes it: in those quotes that leave it as it is, where some do.
pub(crate) fn line_text(line: &str) -> String {
    let is_plain = !line.chars().any(char::is_control);
    match is_plain {
        true if !line.contains(['"', '\\']) => format!("\"{line}\""),
        true if !line.contains('\'') => format!("'{line}'"),
        true if !line.contains("'''") && !line.ends_with('\'') => format!("'''{line}'''"),
        _ => quoted(line),
    }
}

/// A value, a table in braces with the column that it is about before its other keys.
pub(crate) fn value_text(value: &DeValue<'_>) -> String {
    match value {
        DeValue::String(text) => quoted(text),
        DeValue::Integer(digits) => digits.as_str().to_owned(),
        DeValue::Float(digits) => digits.as_str().to_owned(),
        DeValue::Boolean(yes) => yes.to_string(),
        DeValue::Datetime(at) => at.to_string(),
        DeValue::Array(items) => {
            let items: Vec<String> = items.iter().map(|item| value_text(item.get_ref())).collect();
            format!("[{}]", items.join(", "))
        }
        DeValue::Table(table) => table_text(table),
    }
}

fn table_text(table: &DeTable<'_>) -> String {
    let pair = |(key, value): (&toml::Spanned<_>, &toml::Spanned<DeValue<'_>>)| {
        let key: &toml::de::DeString<'_> = key.get_ref();
        format!("{} = {}", plan_key(key), value_text(value.get_ref()))
    };
    let (column, others): (Vec<_>, Vec<_>) = table.iter().partition(|(key, _)| key.get_ref() == "column");
    let pairs: Vec<String> = column.into_iter().chain(others).map(pair).collect();
    format!("{{ {} }}", pairs.join(", "))
}
