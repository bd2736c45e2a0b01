//! `period = "month"` with `of` and `gives`: something of the period that a date lies in.

use super::binder::Binder;
use super::inputs::{DateInput, DateSource, needed_date, or_default};
use super::period_rules::read_period_rules;
use super::rows::{Days, Rows, ordered_texts, whole_numbers};
use super::{ColumnKind, Planned, Step};
use crate::mistakes::{At, Walk};
use crate::table::{Data, Kind, date_array, date_slice};
use mild_ledger::column::{Column, ColumnSlice, first_days, last_days};
use mild_ledger::{Date, Error, FiscalYear, LabelPattern, Nearness, Period, PeriodRule};
use std::ops::Range;
use toml::de::DeTable;

pub(super) const KIND: ColumnKind = ColumnKind {
    key: "period",
    gives: "the first or last day, the number or the label of the period that a date lies in",
    companions: &[
        "of",
        "gives",
        "nearest",
        "away",
        "pattern",
        "fiscal_year_begins",
        "fiscal_named",
        "week_years",
        "weeks_begin",
    ],
    lines: &[
        "{gives:of period} of {period} of {of}",
        "{gives:of period} of the {period} of {of}",
        "{of} by {period} {gives=label}",
    ],
    read,
};

/// What a column takes from a period.
#[derive(Debug, Clone)]
enum Gives {
    FirstDay,
    LastDay,
    NearestStart(Nearness),
    Number,
    Days,
    /// By a pattern, or the period's own.
    Label(Option<(LabelPattern, FiscalYear)>),
}

#[derive(Clone, Copy)]
enum GivesWord {
    FirstDay,
    LastDay,
    NearestStart,
    Number,
    Days,
    Label,
}

const GIVES: [(&str, GivesWord); 6] = [
    ("first day", GivesWord::FirstDay),
    ("last day", GivesWord::LastDay),
    ("nearest start", GivesWord::NearestStart),
    ("number", GivesWord::Number),
    ("days", GivesWord::Days),
    ("label", GivesWord::Label),
];

#[derive(Debug)]
struct PlannedPeriod {
    of: At<DateSource>,
    rule: PeriodRule,
    away: i64,
    gives: Gives,
}

struct PeriodStep {
    of: DateInput,
    rule: PeriodRule,
    away: i64,
    gives: Gives,
}

fn read(walk: &mut Walk, table: &DeTable, span: Range<usize>) -> Option<Box<dyn Planned>> {
    let of = needed_date(walk, table, "of", span.clone());
    let expected =
        "gives = \"first day\", \"last day\", \"nearest start\", \"number\", \"days\" or \"label\"";
    let gives = walk.needed(table, "gives", span, expected).and_then(|value| walk.choice(value, &GIVES));
    let away = or_default(table, "away", 0, |value| walk.whole_number(value, -1_000_000..=1_000_000))?;
    let rules = read_period_rules(walk, table)?;
    let pattern: Option<LabelPattern> = match table.get("pattern") {
        Some(value) => Some(walk.parsed(value, "a label pattern", str::parse)?),
        None => None,
    };
    let words = rules.all().map(|rule| (rule.word(), rule));
    let rule = walk.choice(table.get("period")?, &words)?;
    let nearness = match (table.get("nearest"), gives) {
        (Some(value), Some(GivesWord::NearestStart)) => {
            walk.choice_of(value, Nearness::ALL, Nearness::word)?
        }
        (Some(value), Some(_)) => {
            walk.mistakes.tell(
                value.span(),
                "nearest goes with a nearest start only",
                "gives = \"nearest start\"",
            );
            return None;
        }
        _ => Nearness::ByDays,
    };
    let gives = match (gives?, pattern, table.get("pattern")) {
        (GivesWord::Label, pattern, _) => Gives::Label(pattern.map(|pattern| (pattern, rules.fiscal))),
        (_, Some(_), Some(value)) => {
            walk.mistakes.tell(value.span(), "a pattern goes with a label only", "gives = \"label\"");
            return None;
        }
        (GivesWord::FirstDay, ..) => Gives::FirstDay,
        (GivesWord::LastDay, ..) => Gives::LastDay,
        (GivesWord::NearestStart, ..) => Gives::NearestStart(nearness),
        (GivesWord::Number, ..) => Gives::Number,
        (GivesWord::Days, ..) => Gives::Days,
    };
    Some(Box::new(PlannedPeriod { of: of?, rule, away, gives }))
}

impl Planned for PlannedPeriod {
    fn header(&self) -> Option<String> {
        let what = match &self.gives {
            Gives::FirstDay => ": first day of the ".to_owned(),
            Gives::LastDay => ": last day of the ".to_owned(),
            Gives::NearestStart(nearness) => format!(": nearest start ({nearness}) of a "),
            Gives::Number => ": number of the ".to_owned(),
            Gives::Days => ": days of the ".to_owned(),
            Gives::Label(_) => " by ".to_owned(),
        };
        let away = match self.away {
            0 => String::new(),
            away => format!(" {away:+} on from that"),
        };
        Some(super::titled(&format!("{}{what}{}{away}", self.of.value.said(), self.rule.word())))
    }

    fn uses_as_of(&self) -> bool {
        self.of.value == DateSource::AsOf
    }

    fn stand_in(&self) -> Kind {
        match self.gives {
            Gives::FirstDay | Gives::LastDay | Gives::NearestStart(_) => Kind::made_dates(),
            Gives::Number => Kind::Place,
            Gives::Days => Kind::Number { decimals: 0, figure: None },
            Gives::Label(_) => Kind::Text,
        }
    }

    fn bind(&self, binder: &mut Binder<'_>) -> Option<(Kind, Box<dyn Step>)> {
        let of = binder.date_input(&self.of)?;
        let step = PeriodStep { of, rule: self.rule, away: self.away, gives: self.gives.clone() };
        Some((self.stand_in(), Box::new(step)))
    }
}

impl PeriodStep {
    fn period(&self, date: Date) -> Result<Period, Error> {
        self.rule.containing(date).away(self.away)
    }

    /// The bounds of the periods themselves, by a column function where the dates are in a column.
    fn bounds(
        &self,
        rows: &mut Rows<'_>,
        of_column: fn(ColumnSlice<'_, Date>, PeriodRule) -> Column<Date>,
        of_one: fn(&Period) -> Result<Date, Error>,
    ) -> Data {
        let column = self.of.column().map(|_| rows.days(self.of));
        let column = match &column {
            Some(Days::Each(dates)) => Some(date_slice(dates)),
            _ => None,
        };
        let (Some(Ok(found)), 0) = (column, self.away) else {
            let days = rows.each(|date| of_one(&self.period(date)?), |rows, row| rows.date(self.of, row));
            return Data::dates(days);
        };
        let found = of_column(found, self.rule);
        rows.list_misses(self.of, &found, |date| of_one(&self.rule.containing(date)));
        Data::Date(date_array(found))
    }
}

impl Step for PeriodStep {
    fn inputs(&self) -> Vec<usize> {
        self.of.column().into_iter().collect()
    }

    fn work_out(&self, rows: &mut Rows<'_>) -> Result<Data, Error> {
        let of = self.of;
        let date = |rows: &Rows<'_>, row: usize| rows.date(of, row);
        Ok(match &self.gives {
            Gives::FirstDay => self.bounds(rows, |dates, rule| first_days(dates, rule), Period::first_day),
            Gives::LastDay => self.bounds(rows, |dates, rule| last_days(dates, rule), Period::last_day),
            Gives::NearestStart(nearness) => {
                // The start nearest to the date itself, then so many periods on from there.
                let start = |date: Date| {
                    let start = self.rule.containing(date).nearest_start(date, *nearness)?;
                    self.rule.containing(start).away(self.away)?.first_day()
                };
                Data::dates(rows.each(start, date))
            }
            Gives::Number => {
                whole_numbers(rows.each(|date| Ok(i128::from(self.period(date)?.number())), date))
            }
            Gives::Days => whole_numbers(rows.each(|date| Ok(i128::from(self.period(date)?.days())), date)),
            Gives::Label(pattern) => {
                let label = |date: Date| {
                    let period = self.period(date)?;
                    let label = match pattern {
                        Some((pattern, fiscal)) => pattern.write_period(&period, *fiscal)?,
                        None => period.label(),
                    };
                    Ok((label, Some(period.dates().first().day_number().into())))
                };
                ordered_texts(rows.each(label, date))
            }
        })
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::ColumnLine;

    #[test]
    fn each_part_of_a_period_can_be_in_a_line() {
        for (word, _) in GIVES {
            let line = ColumnLine::read(&format!("Part = {word} of month of Issued")).expect(word);
            assert!(line.plan_text().contains(&format!("gives = \"{word}\"")), "{}", line.plan_text());
        }
    }
}
