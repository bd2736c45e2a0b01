//! What looking at a file found.

use super::distinct::Distinct;
use mild_ledger::{BothWays, Date, DaysSeen, Filler, ValueMet};

/// What a file of records holds, as far as looking at it tells.
#[derive(Debug, Clone)]
#[non_exhaustive]
pub struct Look {
    /// The file, as it was named.
    pub file: String,
    /// The format that it was read in.
    pub format: &'static str,
    /// The character between cells, where it is not a comma.
    pub separator: Option<char>,
    /// The line of the header, where others are above it.
    pub header_line: Option<u64>,
    /// The encoding that had to be named for it, in the words of plans.
    pub encoding: Option<&'static str>,
    /// The sheet of a workbook that has several.
    pub sheet: Option<String>,
    /// The table of a database that has several.
    pub table: Option<String>,
    /// The query of a database, where one was stated.
    pub query: Option<String>,
    /// What was done to the file so that it could be read, such as unpacking it.
    pub said: Vec<String>,
    /// Rows below the header, broken ones among them.
    pub rows: u64,
    /// Rows whose cells cannot be distinguished, by reason.
    pub broken: Vec<BrokenRows>,
    /// The columns in the order of the header.
    pub columns: Vec<LookedColumn>,
    /// The last row, where it seems to be the total of those above it.
    pub total_line: Option<TotalLine>,
}

/// Rows that cannot be used, for one reason.
#[derive(Debug, Clone, PartialEq, Eq)]
#[non_exhaustive]
pub struct BrokenRows {
    /// The reason.
    pub reason: String,
    /// How many there are.
    pub count: u64,
    /// The first of them.
    pub rows: Vec<u64>,
}

/// A row at the end of a file that seems to be a total.
#[derive(Debug, Clone, PartialEq, Eq)]
#[non_exhaustive]
pub struct TotalLine {
    /// Its number.
    pub row: u64,
    /// The column whose cell calls it a total, with that cell.
    pub word: Option<(String, String)>,
    /// Columns whose cell of this row is the sum of those above it, each with that cell.
    pub amounts: Vec<(String, String)>,
    /// What shows that it is a total.
    pub evidence: TotalEvidence,
}

/// What shows that the last row of a file is a total.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum TotalEvidence {
    /// Its amounts are the sums of the rows above it, and a date or a cell that no other row leaves blank is blank.
    Sum,
    /// Its amounts are those sums and it is called a total, but no such cell is blank.
    SumWithoutBlank,
    /// It is called a total and lacks a date or another cell, but its amounts are not those sums.
    WordAlone,
}

impl TotalEvidence {
    /// The word for it: `sum`, `sum without blank` or `word alone`.
    #[must_use]
    pub fn word(self) -> &'static str {
        match self {
            Self::Sum => "sum",
            Self::SumWithoutBlank => "sum without blank",
            Self::WordAlone => "word alone",
        }
    }
}

/// The rows of a column that were looked at.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum RowsSeen {
    /// Every row.
    All,
    /// As many, from the first.
    First(u64),
    /// No row: the header alone is known.
    None,
}

/// What one column holds.
#[derive(Debug, Clone)]
#[non_exhaustive]
pub struct LookedColumn {
    /// The rows that were looked at.
    pub rows_seen: RowsSeen,
    /// Its header.
    pub name: String,
    /// What its values are.
    pub holds: Holding,
    /// Whether all of them are codes of currencies (ISO 4217).
    pub are_currency_codes: bool,
    /// Values that are not blank.
    pub values: u64,
    /// Blank ones.
    pub blanks: u64,
    /// Different ones.
    pub distinct: Distinct,
    /// The first two rows that hold the same value, if any do.
    pub repeat: Option<(u64, u64)>,
    /// The first different values.
    pub examples: Vec<String>,
}

/// What the values of a column are.
#[derive(Debug, Clone)]
#[non_exhaustive]
pub enum Holding {
    /// Texts.
    Text,
    /// Whole numbers, with the smallest and the largest.
    WholeNumber {
        /// Both.
        range: Option<(i64, i64)>,
        /// What they would be as dates, where their size and the header make that likely: a pattern, and the first and the last day.
        perhaps_dates: Option<(&'static str, Date, Date)>,
        /// How many values are none.
        failed: u64,
        /// The first of them.
        failures: Vec<ValueMet>,
    },
    /// Amounts.
    Amount(Box<LookedAmounts>),
    /// Dates.
    Date(Box<LookedDates>),
}

impl Holding {
    /// The word for it: `text`, `whole number`, `amount`, `date` or `date-time`.
    #[must_use]
    pub fn word(&self) -> &'static str {
        match self {
            Self::Text => "text",
            Self::WholeNumber { .. } => "whole number",
            Self::Amount(_) => "amount",
            Self::Date(dates) if dates.times * 2 > dates.days.count() => "date-time",
            Self::Date(_) => "date",
        }
    }
}

impl Holding {
    /// Its values in words: `texts`, `whole numbers`, `amounts`, `dates` or `date-times`.
    #[must_use]
    pub fn in_plural(&self) -> String {
        format!("{}s", self.word())
    }
}

/// Whether it is clear how values are written.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Clarity {
    /// One way explains them all.
    Found,
    /// Two ways do, and too few rows decide.
    Ambiguous,
    /// None explains all of them.
    None,
}

impl Clarity {
    /// The word for it: `found`, `ambiguous` or `none`.
    #[must_use]
    pub fn word(self) -> &'static str {
        match self {
            Self::Found => "found",
            Self::Ambiguous => "ambiguous",
            Self::None => "none",
        }
    }
}

/// How the amounts of a column are written.
#[derive(Debug, Clone)]
#[non_exhaustive]
pub struct LookedAmounts {
    /// Whether that is clear.
    pub verdict: Clarity,
    /// The notation found, or the first of two, or the one that reads the most, as an example.
    pub notation: mild_ledger::Notation,
    /// The other notation and a value that both read differently.
    pub other: Option<OtherNotation>,
    /// The most decimals of a value.
    pub decimals: u8,
    /// How many values are below zero.
    pub negative: u64,
    /// Values with letters of credit and of debit after them.
    pub credit_and_debit: (u64, u64),
    /// Symbols and codes of currencies, with how many values each.
    pub currencies: Vec<(String, u64)>,
    /// How many values are not read.
    pub failed: u64,
    /// The first of them.
    pub failures: Vec<ValueMet>,
}

/// Another notation that explains all amounts of a column.
#[derive(Debug, Clone)]
#[non_exhaustive]
pub struct OtherNotation {
    /// The notation.
    pub notation: mild_ledger::Notation,
    /// The most decimals of a value by it.
    pub decimals: u8,
    /// The first value that both read differently.
    pub example: ValueMet,
}

/// How the dates of a column are written, and what they are.
#[derive(Debug, Clone)]
#[non_exhaustive]
pub struct LookedDates {
    /// Whether it is clear how they are written.
    pub verdict: Clarity,
    /// The patterns: those found, or those between which the column is ambiguous, or the one that reads the most.
    pub patterns: Vec<LookedPattern>,
    /// A value that the first two patterns read as different dates.
    pub both_ways: Option<BothWays>,
    /// How many values the first pattern does not read.
    pub failed: u64,
    /// The first of them.
    pub failures: Vec<ValueMet>,
    /// Whether nothing but the first pattern could be meant, though it does not read every value.
    pub beyond_doubt: bool,
    /// A pattern that reads every value once something is named next to it, and what.
    pub wants: Option<(String, &'static str)>,
    /// Dates that represent none, each with how many, and the first rows.
    pub fillers: Vec<(Filler, u64, Vec<u64>)>,
    /// Values with a time of day other than midnight.
    pub times: u64,
    /// Values with an offset from UTC or a zone after the time.
    pub offsets: u64,
    /// The days, by the first of the patterns.
    pub days: DaysSeen,
}

/// A pattern of a column, and the evidence for it.
#[derive(Debug, Clone, PartialEq, Eq)]
#[non_exhaustive]
pub struct LookedPattern {
    /// The pattern in words, with what is next to it.
    pub pattern: String,
    /// Values that it reads.
    pub reads: u64,
    /// Values that only it reads.
    pub alone: u64,
    /// The first of those.
    pub alone_examples: Vec<ValueMet>,
}

impl LookedColumn {
    /// Whether its header says that it holds money, in words of some languages.
    #[must_use]
    pub fn is_named_as_amount(&self) -> bool {
        const WORDS: [&str; 20] = [
            "amount", "amounts", "amt", "total", "price", "cost", "value", "balance", "net", "gross", "fee",
            "fees", "sales", "revenue", "betrag", "montant", "importe", "importo", "bedrag", "belopp",
        ];
        let name = self.name.to_lowercase();
        let mut words = name.split(|letter: char| !letter.is_alphanumeric());
        words.any(|word| WORDS.contains(&word))
    }

    /// Two rows with the same value, where so few values occur twice that a person would take the column for a key.
    #[must_use]
    pub fn rare_repeat(&self) -> Option<(u64, u64)> {
        let may_be_key = matches!(self.holds, Holding::Text | Holding::WholeNumber { .. });
        let is_rare = matches!(self.distinct, Distinct::Exactly(count) if count * 10 > self.values * 9);
        self.repeat.filter(|_| may_be_key && is_rare)
    }
}

impl Look {
    /// The first column that would tell the rows apart but for a few, and two rows that it does not.
    #[must_use]
    pub fn nearly_a_key(&self) -> Option<(&LookedColumn, (u64, u64))> {
        self.columns.iter().find_map(|column| Some((column, column.rare_repeat()?)))
    }

    /// The column of codes of currencies (ISO 4217); of several, the one whose header states that.
    #[must_use]
    pub fn currency_column(&self) -> Option<&LookedColumn> {
        const HEADERS: [&str; 8] =
            ["currency", "ccy", "curr", "cur", "währung", "devise", "moneda", "valuta"];
        let codes = || self.columns.iter().filter(|column| column.are_currency_codes);
        if codes().count() == 1 {
            return codes().next();
        }
        codes().find(|column| HEADERS.contains(&column.name.trim().to_lowercase().as_str()))
    }

    /// The columns in which no value is blank and none occurs twice, so that each tells the rows apart.
    #[must_use]
    pub fn keys(&self) -> Vec<&str> {
        let broken: u64 = self.broken.iter().map(|rows| rows.count).sum();
        let rows = self.rows - broken.min(self.rows);
        let is_key = |column: &&LookedColumn| {
            rows > 0 && column.values == rows && column.distinct == Distinct::Exactly(rows)
        };
        self.columns.iter().filter(is_key).map(|column| column.name.as_str()).collect()
    }
}
