//! What looking at a file found: a paragraph a column.

use super::{Block, Document};
use crate::numbers::grouped;
use mild_ledger::{Date, ValueMet};
use mild_ledger_records::{
    Clarity, Distinct, Holding, Look, LookedAmounts, LookedColumn, LookedDates, LookedPattern, TotalEvidence,
    TotalLine,
};

/// The file in a line; what is wrong with it as a whole; a paragraph a column; which columns tell the rows apart.
pub(crate) fn look(found: &Look) -> Document {
    let mut out = Document::default();
    out.push(Block::Heading(found.file.clone()));
    out.paragraph(of_the_file(found));
    for broken in &found.broken {
        let rows = many(broken.count, "row", "rows");
        out.push(Block::Doubt(format!(
            "{rows} cannot be used: {} ({})",
            broken.reason,
            row_list(&broken.rows, broken.count)
        )));
    }
    if let Some(total) = &found.total_line {
        out.push(Block::Doubt(total_line(total)));
    }
    for column in &found.columns {
        out.end_part();
        put_column(&mut out, column);
    }
    out.end_part();
    out.paragraph(keys(found));
    out
}

fn total_line(total: &TotalLine) -> String {
    let word = total.word.as_ref().map(|(column, text)| format!("called \"{text}\" in {column}"));
    let sums: Vec<String> = total.amounts.iter().map(|(column, text)| format!("{column} {text}")).collect();
    let of_rows = format!("{} the sum of the rows above", if sums.len() == 1 { "is" } else { "are" });
    let sums = format!("{} {of_rows}", sums.join(" and "));
    let evidence = match total.evidence {
        TotalEvidence::Sum => sums,
        TotalEvidence::SumWithoutBlank => format!("{sums}, though no key or date of it is blank"),
        TotalEvidence::WordAlone => "its amounts are not the sums of the rows above".to_owned(),
    };
    let all: Vec<String> = word.into_iter().chain([evidence]).collect();
    format!("row {}, the last one, seems to be a total: {}", total.row, all.join("; "))
}

fn of_the_file(found: &Look) -> String {
    let mut said = vec![format!(
        "{}, {}, {}",
        found.format,
        many(found.rows, "row", "rows"),
        many(found.columns.len() as u64, "column", "columns")
    )];
    if let Some(separator) = found.separator {
        said.push(format!(
            "cells separated by {}",
            match separator {
                ';' => "semicolons".to_owned(),
                '\t' => "tabs".to_owned(),
                '|' => "upright bars".to_owned(),
                other => format!("\"{other}\""),
            }
        ));
    }
    if let Some(line) = found.header_line {
        said.push(format!("the header is line {line}, below what seem to be titles"));
    }
    said.extend(found.encoding.map(|encoding| format!("not UTF-8, read as {encoding}")));
    said.extend(found.said.iter().cloned());
    said.join("; ")
}

fn keys(found: &Look) -> String {
    let keys = found.keys();
    match keys.as_slice() {
        [] if found.rows == 0 => "The file has no rows.".to_owned(),
        [] => "No column is a key: each has blanks, or a value that comes twice.".to_owned(),
        [one] => format!("{one} is a key: none of its values is blank or comes twice."),
        many => format!("These tell the rows apart, each by itself: {}.", many.join(", ")),
    }
}

fn put_column(out: &mut Document, column: &LookedColumn) {
    let distinct = match column.distinct {
        Distinct::Exactly(count) => format!("{} different", grouped(&count.to_string())),
        Distinct::MoreThan(count) => format!("more than {} different", grouped(&count.to_string())),
    };
    let values = many(column.values, "value", "values");
    let blanks = match column.blanks {
        0 => "none blank".to_owned(),
        blanks => format!("{} blank", grouped(&blanks.to_string())),
    };
    out.paragraph(format!("{}: {}, {values}, {blanks}, {distinct}", column.name, column.holds.word()));
    match &column.holds {
        Holding::Text => put_examples(out, column),
        Holding::WholeNumber { range, perhaps_dates, failed, failures } => {
            if let Some((low, high)) = range {
                out.push(Block::Item(format!("from {low} to {high}")));
            }
            if *failed > 0 {
                let said = many(*failed, "value is not a number", "values are not numbers");
                out.push(Block::Item(format!("{said}: {}", examples(failures, *failed))));
            }
            if let Some((pattern, first, last)) = perhaps_dates {
                let said = format!("perhaps dates: as \"{pattern}\" they run from {first} to {last}");
                out.push(Block::Item(said));
            }
        }
        Holding::Amount(amounts) => put_amounts(out, amounts, column.values),
        Holding::Date(dates) => put_dates(out, dates),
        _ => {}
    }
    if column.are_currency_codes {
        out.push(Block::Item(
            "codes of currencies: amounts of one are never added to those of another".to_owned(),
        ));
    }
    if let Some((first, second)) = column.rare_repeat() {
        out.push(Block::Item(format!(
            "rows {first} and {second} have the same value; a report needs --duplicates \"set aside\", keep, first or last"
        )));
    }
}

fn put_examples(out: &mut Document, column: &LookedColumn) {
    if !column.examples.is_empty() {
        let shown: Vec<String> = column.examples.iter().map(|text| format!("\"{text}\"")).collect();
        let more = if matches!(column.distinct, Distinct::Exactly(count) if count == shown.len() as u64) {
            ""
        } else {
            " …"
        };
        out.push(Block::Item(format!("{}{more}", shown.join(", "))));
    }
}

fn put_amounts(out: &mut Document, amounts: &LookedAmounts, values: u64) {
    match (amounts.verdict, &amounts.other) {
        (Clarity::Found, _) => {
            let negative = match amounts.negative {
                0 => String::new(),
                count => format!(", {} below zero", grouped(&count.to_string())),
            };
            out.push(Block::Item(format!(
                "read as {}, with at most {}{negative}",
                amounts.notation,
                many(u64::from(amounts.decimals), "decimal", "decimals")
            )));
        }
        (Clarity::Ambiguous, Some(other)) => {
            out.push(Block::Item(format!(
                "ambiguous: {} or {}; \"{}\" in row {} could be either, and fewer than three rows decide",
                amounts.notation, other.notation, other.example.text, other.example.row
            )));
        }
        _ => out.push(Block::Item(format!(
            "no notation reads them all; {} of {} {} not written {}: {}",
            grouped(&amounts.failed.to_string()),
            grouped(&values.to_string()),
            if amounts.failed == 1 { "is" } else { "are" },
            amounts.notation,
            examples(&amounts.failures, amounts.failed)
        ))),
    }
    if amounts.currencies.len() > 1 {
        let signs: Vec<String> = amounts
            .currencies
            .iter()
            .map(|(sign, count)| format!("{sign} ({})", grouped(&count.to_string())))
            .collect();
        out.push(Block::Item(format!(
            "more than one currency, never to be added together: {}",
            signs.join(", ")
        )));
    }
    let (credit, debit) = amounts.credit_and_debit;
    if credit + debit > 0 {
        out.push(Block::Item(format!(
            "{} with CR and {} with DR after them; the plan must state which of the two is below zero",
            grouped(&credit.to_string()),
            grouped(&debit.to_string())
        )));
    }
}

fn put_dates(out: &mut Document, dates: &LookedDates) {
    put_patterns(out, dates);
    if let (Some(first), Some(last)) = (dates.days.earliest(), dates.days.latest()) {
        out.push(Block::Item(format!("from {} to {}{}", day(first), day(last), gap(dates))));
        let (count, weekend) = (dates.days.count(), dates.days.weekend());
        if weekend > 0 {
            let share = (weekend * 1_000 / count.max(1) + 5) / 10;
            out.push(Block::Item(format!(
                "{} of {} on a Saturday or Sunday ({share} %)",
                grouped(&weekend.to_string()),
                grouped(&count.to_string())
            )));
        }
        if first.month() != last.month() || first.year() != last.year() {
            out.push(Block::Item(over_months(dates)));
        }
    }
    for (filler, count, rows) in &dates.fillers {
        let times = many(*count, "value is a filler", "values are fillers");
        out.push(Block::Item(format!("{times}: {filler} ({})", row_list(rows, *count))));
    }
    if dates.times > 0 {
        out.push(Block::Item(many(
            dates.times,
            "value has a time of day other than midnight",
            "values have a time of day other than midnight",
        )));
    }
    if dates.offsets > 0 {
        let said = many(dates.offsets, "value has an offset or a zone", "values have an offset or a zone");
        out.push(Block::Item(format!(
            "{said} after the time: a plan must name the zone whose dates are meant"
        )));
    }
}

fn best_reads(dates: &LookedDates) -> u64 {
    dates.patterns.first().map_or(0, |best| best.reads)
}

fn put_patterns(out: &mut Document, dates: &LookedDates) {
    let names: Vec<&str> = dates.patterns.iter().map(|pattern| pattern.pattern.as_str()).collect();
    match (dates.verdict, names.as_slice()) {
        (Clarity::Found, [one]) => {
            out.push(Block::Item(format!("written {one}{}", evidence(dates.patterns.first()))))
        }
        (Clarity::Found, several) => {
            out.push(Block::Item(format!(
                "written {}, which read all of them as the same dates",
                several.join(" or ")
            )));
        }
        (Clarity::Ambiguous, several) => {
            out.push(Block::Item(format!("ambiguous: written {}", several.join(" or "))));
            if let Some(both) = &dates.both_ways {
                out.push(Block::Example(format!(
                    "row {}: \"{}\" is {} or {}",
                    both.value.row,
                    both.value.text,
                    day(both.one),
                    day(both.other)
                )));
            }
            for pattern in dates.patterns.iter().filter(|pattern| pattern.alone > 0) {
                let said = many(pattern.alone, "value speaks", "values speak");
                let rows = examples(&pattern.alone_examples, pattern.alone);
                out.push(Block::Example(format!(
                    "{said} for {}, and three are wanted: {rows}",
                    pattern.pattern
                )));
            }
        }
        (Clarity::None, []) => {
            if let Some((pattern, wants)) = &dates.wants {
                out.push(Block::Item(format!("all can be read as {pattern}, once {wants} is named")));
            }
        }
        (Clarity::None, [best, ..]) => {
            out.push(Block::Item(format!(
                "no pattern reads them all; {} of {} {} not written {best}: {}",
                grouped(&dates.failed.to_string()),
                grouped(&(best_reads(dates) + dates.failed).to_string()),
                if dates.failed == 1 { "is" } else { "are" },
                examples(&dates.failures, dates.failed)
            )));
        }
    }
}

/// How many values speak for a pattern, and for no other.
fn evidence(pattern: Option<&LookedPattern>) -> String {
    match pattern {
        Some(pattern) if pattern.alone > 0 && pattern.pattern != "iso" => {
            let said = many(pattern.alone, "value", "values");
            format!(
                ": {said} can be read in no other way ({})",
                examples(&pattern.alone_examples[..pattern.alone_examples.len().min(2)], pattern.alone)
            )
        }
        _ => String::new(),
    }
}

/// The longest stretch without a date, where it is long compared with the others.
fn gap(dates: &LookedDates) -> String {
    match dates.days.largest_gap() {
        Some((before, after)) if after.day_number() - before.day_number() > 1 => {
            let days = after.day_number() - before.day_number();
            format!("; the largest gap is {days} days, from {before} to {after}")
        }
        _ => String::new(),
    }
}

/// A bar a month, or a quarter or a year where there are many months.
fn over_months(dates: &LookedDates) -> String {
    const BARS: [char; 8] = ['▁', '▂', '▃', '▄', '▅', '▆', '▇', '█'];
    const MOST: usize = 48;
    let months = dates.days.months();
    let each = [1, 3, 12, 120].into_iter().find(|each| months.len() <= MOST * each).unwrap_or(1_200);
    // Stretches begin where those of the calendar do.
    let stretch =
        |(year, month): (i32, u8)| (i64::from(year) * 12 + i64::from(month) - 1).div_euclid(each as i64);
    let mut counts: Vec<(i64, u64)> = Vec::new();
    for (month, count) in &months {
        match counts.last_mut() {
            Some((last, sum)) if *last == stretch(*month) => *sum += count,
            _ => counts.push((stretch(*month), *count)),
        }
    }
    let most = counts.iter().map(|(_, count)| *count).max().unwrap_or(0);
    let bar = |count: u64| match (count, most) {
        (0, _) | (_, 0) => '·',
        (count, most) => {
            let place = usize::try_from(u128::from(count) * 8 / u128::from(most)).unwrap_or(7);
            BARS.get(place.saturating_sub(1)).copied().unwrap_or('█')
        }
    };
    let bars: String = counts.iter().map(|(_, count)| bar(*count)).collect();
    let name = |month: Option<&((i32, u8), u64)>| {
        month.map_or(String::new(), |((year, month), _)| format!("{year:04}-{month:02}"))
    };
    let of = match each {
        1 => "a month",
        3 => "a quarter",
        12 => "a year",
        120 => "ten years",
        _ => "a hundred years",
    };
    format!(
        "{} {bars} {} (a bar {of}, the highest {})",
        name(months.first()),
        name(months.last()),
        grouped(&most.to_string())
    )
}

fn day(date: Date) -> String {
    date.to_string()
}

fn examples(values: &[ValueMet], count: u64) -> String {
    let shown: Vec<String> =
        values.iter().map(|value| format!("row {} \"{}\"", value.row, value.text)).collect();
    let more = if count > shown.len() as u64 { " …" } else { "" };
    format!("{}{more}", shown.join(", "))
}

fn row_list(rows: &[u64], count: u64) -> String {
    let shown: Vec<String> = rows.iter().map(u64::to_string).collect();
    let word = if count == 1 { "row" } else { "rows" };
    let more = if count > rows.len() as u64 { " …" } else { "" };
    format!("{word} {}{more}", shown.join(", "))
}

fn many(count: u64, one: &str, more: &str) -> String {
    format!("{} {}", grouped(&count.to_string()), if count == 1 { one } else { more })
}
