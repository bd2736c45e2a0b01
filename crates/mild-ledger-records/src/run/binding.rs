//! From a plan and a header to a job, with the mistakes that only the header shows.

mod calendars;

use super::job::{
    BoundCondition, BoundMove, BoundOperand, BoundQuantity, BoundRate, BoundReport, BoundShift, ChoiceValue,
    Column, DateInput, DateKind, Job, Kind, Measures, Missing, Stay, Step,
};
use crate::error::RecordsError;
use crate::plan::{
    AnniversaryGives, At, Condition, DateSource, FieldOf, Measuring, Operand, Operation, PeriodGives, Plan,
    PlanMistake, PlannedColumn, PlannedKind, PlannedMove, PlannedReport, Quantity, Requirement, ShiftSource,
    Test, TestKind, Then, TimeKept, WorkingDayGives, nearest,
};
use crate::sorting::Direction;
use mild_ledger::{
    AgingBuckets, BucketMeasure, CountRule, Date, Ends, HoursOf, Measure, MonthEnd, Scale, WorkCalendar,
};
use std::ops::Range;

impl Job {
    /// Binds a plan to the header of its records.
    pub(super) fn bind(plan: &Plan, as_of: Date, header: &[String]) -> Result<Self, RecordsError> {
        let mut binder = Binder::new(as_of, header);
        let job = binder.bind(plan);
        match job {
            Some(job) if binder.mistakes.is_empty() => Ok(job),
            _ => Err(plan.mistakes(binder.mistakes)),
        }
    }
}

struct Binder {
    as_of: Date,
    columns: Vec<Column>,
    columns_of_file: usize,
    calendars: Vec<(String, WorkCalendar)>,
    /// Names of calendars with mistakes, which are told once.
    calendars_in_error: Vec<String>,
    mistakes: Vec<PlanMistake>,
    notes: Vec<String>,
}

impl Binder {
    fn new(as_of: Date, header: &[String]) -> Self {
        let columns = header.iter().map(|name| Column { name: name.clone(), kind: Kind::Text }).collect();
        Self {
            as_of,
            columns,
            columns_of_file: header.len(),
            calendars: Vec::new(),
            calendars_in_error: Vec::new(),
            mistakes: Vec::new(),
            notes: Vec::new(),
        }
    }

    fn bind(&mut self, plan: &Plan) -> Option<Job> {
        self.bind_dates_and_amounts(plan);
        self.open_calendars(plan);
        let key: Vec<_> = plan.key.iter().map(|name| self.find(name)).collect();
        let steps: Vec<_> = plan.columns.iter().map(|column| self.add_column(column)).collect();
        let select: Vec<_> = plan.select.iter().map(|condition| self.condition(condition)).collect();
        let reports: Vec<_> = plan.reports.iter().map(|report| self.report(report)).collect();
        let output: Vec<_> = match &plan.output_columns {
            Some(names) => names.iter().map(|name| self.find(name)).collect(),
            None => (0..self.columns.len()).map(Some).collect(),
        };
        if let (Some([]), span) = (plan.output_columns.as_deref(), &plan.output_rows.span) {
            self.mistake(
                span.clone(),
                "no columns are to be written",
                "columns = [\"…\"], or no such line to write all",
            );
        }
        let order_by: Vec<_> = plan.order_by.iter().map(|name| self.order(name)).collect();
        let amounts = (0..self.columns_of_file)
            .filter(|nth| matches!(self.columns[*nth].kind, Kind::Amount { .. }))
            .collect();
        Some(Job {
            as_of: self.as_of,
            columns_of_file: self.columns_of_file,
            longest_cell: plan.longest_cell,
            key: key.into_iter().collect::<Option<_>>()?,
            repeats: plan.repeats,
            amounts,
            calendars: std::mem::take(&mut self.calendars),
            steps: steps.into_iter().collect::<Option<_>>()?,
            select: select.into_iter().collect::<Option<_>>()?,
            reports: reports.into_iter().collect::<Option<_>>()?,
            output: output.into_iter().collect::<Option<_>>()?,
            order_by: order_by.into_iter().collect::<Option<_>>()?,
            columns: std::mem::take(&mut self.columns),
            notes: std::mem::take(&mut self.notes),
        })
    }

    fn mistake(&mut self, span: Range<usize>, what: impl Into<String>, expected: impl Into<String>) {
        self.mistakes.push(PlanMistake::new(span, what, expected));
    }

    /// The number of the column with a name.
    fn find(&mut self, name: &At<String>) -> Option<usize> {
        let wanted = name.value.trim();
        let found: Vec<usize> = self
            .columns
            .iter()
            .enumerate()
            .filter(|(_, column)| column.name == wanted)
            .map(|(nth, _)| nth)
            .collect();
        match found.as_slice() {
            [one] => Some(*one),
            [] => {
                let names =
                    self.columns.iter().map(|column| column.name.as_str()).filter(|name| !name.is_empty());
                let separator =
                    names.clone().next().and_then(|name| name.chars().find(|sign| ";\t|".contains(*sign)));
                let one_cell = separator.filter(|_| self.columns_of_file == 1).map(|sign| {
                    format!(
                        "the header is one cell with '{}' in it: cells are separated by commas here",
                        sign.escape_default()
                    )
                });
                let help = one_cell.or_else(|| {
                    nearest(wanted, names.clone())
                        .map(|near| format!("did you mean \"{}\"?", near.escape_debug()))
                });
                let known: Vec<String> =
                    names.take(40).map(|name| format!("\"{}\"", name.escape_debug())).collect();
                let what = format!("there is no column \"{}\"", wanted.escape_debug());
                let expected = format!("one of {}", known.join(", "));
                self.mistakes.push(PlanMistake::new(name.span.clone(), what, expected).with_help(help));
                None
            }
            [first, second, ..] => {
                let what = format!(
                    "the header names \"{}\" twice, as columns {} and {}",
                    wanted.escape_debug(),
                    first + 1,
                    second + 1
                );
                self.mistake(name.span.clone(), what, "a name that one column alone has");
                None
            }
        }
    }

    fn bind_dates_and_amounts(&mut self, plan: &Plan) {
        let missing = |required: Requirement| match required {
            Requirement::Required => Missing::SetsRowAside,
            Requirement::Optional => Missing::LeavesCellEmpty,
        };
        for date in &plan.dates {
            if let Some(column) = self.find(&date.column) {
                let hours = if date.zone.is_some() { HoursOf::Instants } else { HoursOf::Clock };
                let source = DateKind::Read {
                    pattern: date.pattern.clone(),
                    missing: missing(date.required),
                    time: date.time,
                    zone: date.zone.clone(),
                };
                let time = (date.time == TimeKept::Kept).then_some(hours);
                self.columns[column].kind = Kind::Date { source, time };
            }
        }
        for amount in &plan.amounts {
            if let Some(column) = self.find(&amount.column) {
                if matches!(self.columns[column].kind, Kind::Date { .. }) {
                    self.mistake(
                        amount.column.span.clone(),
                        "this column is read as dates already",
                        "another column",
                    );
                }
                self.columns[column].kind =
                    Kind::Amount { scale: amount.scale, missing: missing(amount.required) };
            }
        }
    }

    fn kind(&self, column: usize) -> &Kind {
        &self.columns[column].kind
    }

    /// A column that must hold dates.
    fn find_dates(&mut self, name: &At<String>) -> Option<usize> {
        let column = self.find(name)?;
        if matches!(self.kind(column), Kind::Date { .. }) {
            return Some(column);
        }
        let shown = name.value.escape_debug();
        let what = format!("\"{shown}\" holds {}, not dates", word_of(self.kind(column)));
        let help = matches!(self.kind(column), Kind::Text).then(|| {
            format!("say how its dates are written: under [records.dates], \"{shown}\" = \"day/month/year\"")
        });
        self.mistakes.push(PlanMistake::new(name.span.clone(), what, "a column of dates").with_help(help));
        None
    }

    fn add_column(&mut self, planned: &PlannedColumn) -> Option<Step> {
        let bound = self.step(&planned.kind);
        let mut name = planned.name.value.trim();
        if self.columns.iter().any(|column| column.name == name) {
            let what = format!("there is a column \"{}\" already", name.escape_debug());
            self.mistake(planned.name.span.clone(), what, "a name of its own");
            name = "";
        }
        // A column in error still gets its name, so that others that use it are not in error too.
        let (kind, step) = match bound {
            Some((kind, step)) => (kind, Some(step)),
            None => (stand_in(&planned.kind), None),
        };
        self.columns.push(Column { name: name.to_owned(), kind });
        step
    }

    fn step(&mut self, kind: &PlannedKind) -> Option<(Kind, Step)> {
        match kind {
            PlannedKind::Between { start, end, within, measuring } => {
                let (from, to) = (self.date_input(start), self.date_input(end));
                let (from, to) = (from?, to?);
                self.check_times((from, to), measuring, start)?;
                let within = match within {
                    Some(window) => Some(self.window(&window.value, window.span.clone())?),
                    None => None,
                };
                let measures = measures_of(&end.value, within.is_some(), measuring);
                let kind = kind_of_measure(measuring, measures);
                let step = Step::Measured {
                    start: from,
                    end: to,
                    stay: Stay::Interval,
                    within,
                    measuring: *measuring,
                };
                Some((kind, step))
            }
            PlannedKind::Tenure { start, end, measuring } => {
                let (from, to) = self.stay(start, end.as_ref())?;
                self.check_times((from, to), measuring, start)?;
                let kind = kind_of_measure(measuring, Measures::Other);
                let step = Step::Measured {
                    start: from,
                    end: to,
                    stay: Stay::Tenure,
                    within: None,
                    measuring: *measuring,
                };
                Some((kind, step))
            }
            PlannedKind::WorkingDays { start, end, ends, calendar } => {
                let (from, to) = (self.date_input(start), self.date_input(end));
                let calendar = self.calendar(calendar);
                let (start, end, calendar) = (from?, to?, calendar?);
                let by = self.calendar_words(calendar);
                let kind = Kind::Number {
                    rule: format!("working days by {by}"),
                    ends: *ends,
                    measures: Measures::Other,
                };
                Some((kind, Step::WorkingDays { start, end, ends: *ends, calendar }))
            }
            PlannedKind::WorkingDay { of, gives, calendar } => {
                let (of, calendar) = (self.find_dates(of), self.calendar(calendar));
                let step = Step::WorkingDay { of: of?, gives: *gives, calendar: calendar? };
                Some((kind_of_working_day(*gives), step))
            }
            PlannedKind::Move(moved) => {
                let PlannedMove { from, shift, month_end, weekday, roll, calendar } = &**moved;
                let column = self.find_dates(from)?;
                let time = self.time_of(DateInput::Column(column)).map(|_| HoursOf::Clock);
                let calendar = match calendar {
                    Some(calendar) => Some(self.calendar(calendar)?),
                    None => None,
                };
                if calendar.is_some() && time.is_some() {
                    let what = format!("\"{}\" keeps times of day", from.value.escape_debug());
                    self.mistake(from.span.clone(), what, "dates, for working days and rolls");
                    return None;
                }
                let shift = match shift {
                    Some(shift) => Some(self.shift(shift, *month_end, time, from)?),
                    None => None,
                };
                let kind = Kind::Date { source: DateKind::Made, time };
                let step = BoundMove { from: column, shift, weekday: *weekday, roll: *roll, calendar };
                Some((kind, Step::Move(Box::new(step))))
            }
            PlannedKind::Period { of, rule, away, gives } => {
                let of = self.find_dates(of)?;
                let step = Step::Period { of, rule: *rule, away: *away, gives: gives.clone() };
                Some((kind_of_period(gives), step))
            }
            PlannedKind::Field { of, field } => {
                let column = self.find_dates(of)?;
                if field.needs_time() && self.time_of(DateInput::Column(column)).is_none() {
                    let what = format!("\"{}\" keeps no times of day", of.value.escape_debug());
                    let help =
                        "say so under [records.dates]: { written = \"…\", time = \"keep\" }".to_owned();
                    let mistake = PlanMistake::new(of.span.clone(), what, "a column of dates with times");
                    self.mistakes.push(mistake.with_help(Some(help)));
                    return None;
                }
                Some((kind_of_field(*field), Step::Field { of: column, field: *field }))
            }
            PlannedKind::Age { of, on, leap_day } => {
                let (of, on) = (self.find_dates(of), self.date_input(on));
                let kind = Kind::Number {
                    rule: CountRule::COMPLETE_YEARS.to_string(),
                    ends: Ends::Last,
                    measures: Measures::Other,
                };
                Some((kind, Step::Age { of: of?, on: on?, leap_day: *leap_day }))
            }
            PlannedKind::Anniversary { of, on_or_after, leap_day, gives } => {
                let (of, on_or_after) = (self.find_dates(of), self.date_input(on_or_after));
                let step = Step::Anniversary {
                    of: of?,
                    on_or_after: on_or_after?,
                    leap_day: *leap_day,
                    gives: *gives,
                };
                Some((kind_of_anniversary(*gives), step))
            }
            PlannedKind::Rate(rate) => {
                let (quantity, inputs) = self.find_number(&rate.quantity)?;
                let (start, end) = self.stay(&rate.start, rate.end.as_ref())?;
                let decimals = rate.rounded.decimals.unwrap_or(inputs);
                let step = Step::Rate(Box::new(BoundRate {
                    quantity,
                    start,
                    end,
                    per: rate.per,
                    smallest: rate.smallest,
                    decimals,
                    rounding: rate.rounded.rounding,
                }));
                Some((exact(decimals), step))
            }
            PlannedKind::FirstOf(names) => {
                let columns: Vec<_> = names.iter().map(|name| self.find_dates(name)).collect();
                let columns = columns.into_iter().collect::<Option<Vec<usize>>>()?;
                let time = columns.iter().find_map(|column| self.time_of(DateInput::Column(*column)));
                let time = time.map(|_| HoursOf::Clock);
                Some((Kind::Date { source: DateKind::Made, time }, Step::FirstOf(columns)))
            }
            PlannedKind::Arithmetic { operation, operands: [left, right], rounded } => {
                let (left, right) = (self.quantity(left), self.quantity(right));
                let ((left, left_decimals), (right, right_decimals)) = (left?, right?);
                let decimals = match (rounded.decimals, operation) {
                    (Some(decimals), _) => decimals,
                    (None, Operation::Quotient) => left_decimals.max(right_decimals).max(2),
                    (None, _) => left_decimals.max(right_decimals),
                };
                let step = Step::Arithmetic {
                    operation: *operation,
                    left,
                    right,
                    decimals,
                    rounding: rounded.rounding,
                };
                Some((exact(decimals), step))
            }
            PlannedKind::Bucket { of, edges } => {
                let column = self.find(of)?;
                let Kind::Number { measures, .. } = self.kind(column) else {
                    let what = format!(
                        "\"{}\" holds {}, which has no buckets here",
                        of.value.escape_debug(),
                        word_of(self.kind(column))
                    );
                    self.mistake(
                        of.span.clone(),
                        what,
                        "a column of whole numbers, such as one made with between",
                    );
                    return None;
                };
                let measure = match measures {
                    Measures::DaysToAsOf => BucketMeasure::DaysOverdue,
                    Measures::Other => BucketMeasure::WholeNumber,
                };
                match AgingBuckets::from_upper_edges(&edges.value, measure) {
                    Ok(buckets) => {
                        Some((Kind::Band { buckets: buckets.clone() }, Step::Bucket { of: column, buckets }))
                    }
                    Err(error) => {
                        self.mistake(edges.span.clone(), error.what(), error.allowed());
                        None
                    }
                }
            }
            PlannedKind::Choice { when, then, otherwise } => {
                let when: Vec<_> = when.iter().map(|condition| self.condition(condition)).collect();
                let then = self.choice_value(then);
                let otherwise = match otherwise {
                    Some(value) => Some(self.choice_value(value)?),
                    None => None,
                };
                let when = when.into_iter().collect::<Option<_>>()?;
                Some((Kind::Text, Step::Choice { when, then: then?, otherwise }))
            }
        }
    }

    fn date_input(&mut self, source: &At<DateSource>) -> Option<DateInput> {
        match &source.value {
            DateSource::AsOf => Some(DateInput::Every(self.as_of)),
            DateSource::Date(date) => Some(DateInput::Every(*date)),
            DateSource::Column(name) => {
                self.find_dates(&At { value: name.clone(), span: source.span.clone() }).map(DateInput::Column)
            }
        }
    }

    /// A start, and an end that is the as-of date where there is no column of ends.
    fn stay(
        &mut self,
        start: &At<DateSource>,
        end: Option<&At<DateSource>>,
    ) -> Option<(DateInput, DateInput)> {
        let from = self.date_input(start);
        let to = match end {
            Some(end) => self.date_input(end),
            None => Some(DateInput::Every(self.as_of)),
        };
        Some((from?, to?))
    }

    /// What the times of day of an input are, where it keeps them.
    fn time_of(&self, input: DateInput) -> Option<HoursOf> {
        match input {
            DateInput::Every(_) => None,
            DateInput::Column(column) => match self.kind(column) {
                Kind::Date { time, .. } => *time,
                _ => None,
            },
        }
    }

    /// Measures of the clock want times, and times go with the plain difference only.
    fn check_times(
        &mut self,
        (start, end): (DateInput, DateInput),
        measuring: &Measuring,
        place: &At<DateSource>,
    ) -> Option<()> {
        let has_times = self.time_of(start).or(self.time_of(end)).is_some();
        if matches!(measuring.measure, Measure::Clock(_)) && !has_times {
            let what =
                format!("{} are counted between times of day, and none are kept here", measuring.measure);
            let help = "say so under [records.dates]: { written = \"…\", time = \"keep\" }".to_owned();
            let mistake = PlanMistake::new(place.span.clone(), what, "a column of dates with times");
            self.mistakes.push(mistake.with_help(Some(help)));
            return None;
        }
        if has_times && measuring.ends != Ends::Last {
            let what = format!("ends = \"{}\" is for dates, and times of day are kept here", measuring.ends);
            self.mistake(place.span.clone(), what, "columns of dates without times");
            return None;
        }
        Some(())
    }

    /// A stretch of days seen from the as-of date.
    fn window(&mut self, window: &mild_ledger::NamedWindow, span: Range<usize>) -> Option<(Date, Date)> {
        match window.seen_from(self.as_of) {
            Ok((first, last)) => {
                self.notes.push(format!("within {window}: {first} to {last}"));
                Some((first, last))
            }
            Err(error) => {
                self.mistake(span, error.what(), error.allowed());
                None
            }
        }
    }

    fn shift(
        &mut self,
        shift: &ShiftSource,
        month_end: MonthEnd,
        time: Option<HoursOf>,
        from: &At<String>,
    ) -> Option<BoundShift> {
        match shift {
            ShiftSource::Every(shift) if shift.needs_time_of_day() && time.is_none() => {
                let what =
                    format!("\"{}\" keeps no times of day to move by {shift}", from.value.escape_debug());
                self.mistake(from.span.clone(), what, "days, weeks, months and longer");
                None
            }
            ShiftSource::Every(shift) => Some(BoundShift::Every(shift.month_end(month_end))),
            ShiftSource::NumberOf { column, unit } => match self.find_number(column)? {
                (column, 0) => Some(BoundShift::NumberOf { column, unit: *unit, month_end }),
                (_, decimals) => {
                    let what = format!("\"{}\" has {decimals} decimals", column.value.escape_debug());
                    self.mistake(column.span.clone(), what, format!("whole numbers of {}", unit.plural()));
                    None
                }
            },
            ShiftSource::Text { column } => {
                let nth = self.find(column)?;
                if matches!(self.kind(nth), Kind::Text) {
                    return Some(BoundShift::Text { column: nth, month_end });
                }
                let what = format!("\"{}\" holds {}", column.value.escape_debug(), word_of(self.kind(nth)));
                let expected = "amounts of time in text, or { column = \"…\", unit = \"days\" } for numbers";
                self.mistake(column.span.clone(), what, expected);
                None
            }
        }
    }

    /// A column of amounts or whole numbers, and its decimals.
    fn find_number(&mut self, name: &At<String>) -> Option<(usize, u8)> {
        let column = self.find(name)?;
        match self.kind(column) {
            Kind::Amount { scale, .. } => Some((column, scale.decimals())),
            Kind::Number { .. } => Some((column, 0)),
            other => {
                let shown = name.value.escape_debug();
                let what = format!("\"{shown}\" holds {}, not numbers", word_of(other));
                let help = matches!(other, Kind::Text).then(|| {
                    format!("say its decimals: under [records.amounts], \"{shown}\" = {{ decimals = 2 }}")
                });
                let mistake = PlanMistake::new(name.span.clone(), what, "a column of amounts or numbers");
                self.mistakes.push(mistake.with_help(help));
                None
            }
        }
    }

    fn quantity(&mut self, quantity: &At<Quantity>) -> Option<(BoundQuantity, u8)> {
        match &quantity.value {
            Quantity::Number(number) => Some((BoundQuantity::Number(*number), number.decimals())),
            Quantity::Column(name) => {
                let name = At { value: name.clone(), span: quantity.span.clone() };
                self.find_number(&name).map(|(column, decimals)| (BoundQuantity::Column(column), decimals))
            }
        }
    }

    fn choice_value(&mut self, value: &At<Then>) -> Option<ChoiceValue> {
        match &value.value {
            Then::Text(text) => Some(ChoiceValue::Text(text.clone())),
            Then::Column(name) => {
                self.find(&At { value: name.clone(), span: value.span.clone() }).map(ChoiceValue::Column)
            }
        }
    }

    fn condition(&mut self, condition: &Condition) -> Option<BoundCondition> {
        match condition {
            Condition::Any(conditions) => {
                let bound: Vec<_> = conditions.iter().map(|condition| self.condition(condition)).collect();
                bound.into_iter().collect::<Option<_>>().map(BoundCondition::Any)
            }
            Condition::Column { column, tests } => {
                let nth = self.find(column)?;
                let bound: Vec<_> = tests
                    .iter()
                    .map(|test| {
                        let operand = self.operand(nth, test)?;
                        Some(BoundCondition::Test { column: nth, kind: test.kind, operand })
                    })
                    .collect();
                bound.into_iter().collect::<Option<_>>().map(BoundCondition::All)
            }
        }
    }

    /// What a column is compared with, turned into what its cells are.
    fn operand(&mut self, column: usize, test: &Test) -> Option<BoundOperand> {
        let span = test.operand.span.clone();
        let orders = !matches!(test.kind, TestKind::Is | TestKind::IsNot | TestKind::Blank);
        let refused = match (self.kind(column), &test.operand.value) {
            (_, Operand::Yes) => return Some(BoundOperand::Yes),
            (_, Operand::No) => return Some(BoundOperand::No),
            (Kind::Date { .. }, Operand::Window(window)) => match window.seen_from(self.as_of) {
                Ok((first, last)) => {
                    let column = self.columns[column].name.clone();
                    self.notes.push(format!("\"{column}\" within {window}: {first} to {last}"));
                    let number = |date: Date| i128::from(date.day_number());
                    return Some(BoundOperand::Window(number(first), number(last)));
                }
                Err(error) => format!("{} (allowed: {})", error.what(), error.allowed()),
            },
            (_, Operand::Column(name)) => {
                let other = self.find(&At { value: name.clone(), span: span.clone() })?;
                if are_alike(self.kind(column), self.kind(other))
                    && !(orders && matches!(self.kind(column), Kind::Text))
                {
                    return Some(BoundOperand::Column(other));
                }
                format!(
                    "{} cannot be compared with {} so",
                    word_of(self.kind(column)),
                    word_of(self.kind(other))
                )
            }
            (Kind::Text, Operand::Text(text)) if !orders => {
                return Some(BoundOperand::Text(text.trim().to_owned()));
            }
            (Kind::Date { .. }, Operand::Date(date)) => {
                return Some(BoundOperand::Number(i128::from(date.day_number())));
            }
            (Kind::Date { .. }, Operand::Text(text)) if text == "as-of" => {
                return Some(BoundOperand::Number(i128::from(self.as_of.day_number())));
            }
            (Kind::Amount { scale, .. }, Operand::Number(digits) | Operand::Text(digits)) => {
                match scale.read(digits) {
                    Ok(amount) => return Some(BoundOperand::Number(amount.units())),
                    Err(error) => format!("{} (allowed: {})", error.what(), error.allowed()),
                }
            }
            (Kind::Number { .. }, Operand::Number(digits)) => match digits.parse() {
                Ok(number) => return Some(BoundOperand::Number(number)),
                Err(_) => format!("{digits} is no whole number, and the column holds whole numbers"),
            },
            (Kind::Band { buckets }, Operand::Text(label)) => {
                match buckets.labels().iter().position(|known| known == label) {
                    Some(bucket) => return Some(BoundOperand::Number(bucket as i128)),
                    None => format!(
                        "no bucket is called \"{}\"; there are {}",
                        label.escape_debug(),
                        buckets.labels().join(", ")
                    ),
                }
            }
            (kind, _) => format!("{} cannot be compared with this so", word_of(kind)),
        };
        let expected = match self.kind(column) {
            Kind::Text => {
                "is or is_not with a text, blank, or { column = \"…\" }; a column of numbers is named under [records.amounts]"
            }
            Kind::Date { .. } => "a date such as 2026-09-30, \"as-of\", or { column = \"…\" }",
            Kind::Amount { .. } => "an amount, or { column = \"…\" }",
            Kind::Number { .. } => "a whole number, or { column = \"…\" }",
            Kind::Band { .. } => "the name of a bucket in quotes",
        };
        self.mistake(span, refused, expected);
        None
    }

    fn report(&mut self, report: &PlannedReport) -> Option<BoundReport> {
        let band = self.find(&report.band);
        if let Some(kind) = band.map(|band| self.kind(band)).filter(|kind| !matches!(kind, Kind::Band { .. }))
        {
            let what =
                format!("\"{}\" holds {}, not buckets", report.band.value.escape_debug(), word_of(kind));
            self.mistake(report.band.span.clone(), what, "a column made with bucket and edges");
            return None;
        }
        let amount = self.find(&report.amount);
        let scale = match amount.map(|amount| self.kind(amount)) {
            Some(Kind::Amount { scale, .. }) if amount < Some(self.columns_of_file) => Some(*scale),
            Some(other) => {
                let what = format!(
                    "\"{}\" holds {}, not amounts",
                    report.amount.value.escape_debug(),
                    word_of(other)
                );
                self.mistake(report.amount.span.clone(), what, "a column named under [records.amounts]");
                None
            }
            None => None,
        };
        let mut dates = |name: &Option<At<String>>| match name {
            Some(name) => self.find_dates(name).map(Some),
            None => Some(None),
        };
        let (issued, paid) = (dates(&report.issued), dates(&report.paid));
        let by = match &report.by {
            Some(name) => Some(self.find(name)?),
            None => None,
        };
        Some(BoundReport {
            title: report.title.clone(),
            band: band?,
            amount: amount?,
            scale: scale?,
            issued: issued?,
            paid: paid?,
            by,
        })
    }

    /// A column to order by, perhaps with `, largest first` or `, smallest first` behind its name.
    fn order(&mut self, name: &At<String>) -> Option<(usize, Direction)> {
        let endings =
            [(", largest first", Direction::LargestFirst), (", smallest first", Direction::SmallestFirst)];
        for (ending, direction) in endings {
            if let Some(column) = name.value.strip_suffix(ending) {
                return self
                    .find(&At { value: column.to_owned(), span: name.span.clone() })
                    .map(|column| (column, direction));
            }
        }
        self.find(name).map(|column| (column, Direction::SmallestFirst))
    }
}

/// Days up to the as-of date are what a receivable is aged by.
fn measures_of(end: &DateSource, is_within: bool, measuring: &Measuring) -> Measures {
    let days = measuring.measure == Measure::Count(CountRule::DAYS) && measuring.ends == Ends::Last;
    if *end == DateSource::AsOf && days && !is_within { Measures::DaysToAsOf } else { Measures::Other }
}

/// What a measured column holds.
fn kind_of_measure(measuring: &Measuring, measures: Measures) -> Kind {
    match measuring.measure {
        Measure::Count(rule) => Kind::Number { rule: rule.to_string(), ends: measuring.ends, measures },
        Measure::Clock(measure) if measure.is_whole() => exact(0),
        Measure::Parts => Kind::Text,
        _ => exact(measuring.decimals),
    }
}

fn kind_of_period(gives: &PeriodGives) -> Kind {
    match gives {
        PeriodGives::FirstDay | PeriodGives::LastDay | PeriodGives::NearestStart(_) => made_dates(),
        PeriodGives::Number | PeriodGives::Days => exact(0),
        PeriodGives::Label | PeriodGives::LabelBy { .. } => Kind::Text,
    }
}

fn kind_of_field(field: FieldOf) -> Kind {
    match field {
        FieldOf::Number(_) | FieldOf::Hour | FieldOf::Minute | FieldOf::Second => exact(0),
        _ => Kind::Text,
    }
}

fn kind_of_anniversary(gives: AnniversaryGives) -> Kind {
    match gives {
        AnniversaryGives::Date => made_dates(),
        AnniversaryGives::Number => exact(0),
    }
}

fn kind_of_working_day(gives: WorkingDayGives) -> Kind {
    match gives {
        WorkingDayGives::YesOrNo | WorkingDayGives::Kind => Kind::Text,
        WorkingDayGives::NumberInMonth | WorkingDayGives::NumberFromMonthEnd => exact(0),
    }
}

fn made_dates() -> Kind {
    Kind::Date { source: DateKind::Made, time: None }
}

/// Numbers with a fixed count of decimals.
fn exact(decimals: u8) -> Kind {
    match Scale::new(decimals) {
        Ok(scale) => Kind::Amount { scale, missing: Missing::LeavesCellEmpty },
        Err(_) => Kind::Text,
    }
}

/// The kind that a column in error would have had.
fn stand_in(kind: &PlannedKind) -> Kind {
    match kind {
        PlannedKind::Between { measuring, .. } | PlannedKind::Tenure { measuring, .. } => {
            kind_of_measure(measuring, Measures::Other)
        }
        PlannedKind::Move(_) | PlannedKind::FirstOf(_) => made_dates(),
        PlannedKind::WorkingDays { ends, .. } => {
            Kind::Number { rule: "working days".to_owned(), ends: *ends, measures: Measures::Other }
        }
        PlannedKind::WorkingDay { gives, .. } => kind_of_working_day(*gives),
        PlannedKind::Field { field, .. } => kind_of_field(*field),
        PlannedKind::Anniversary { gives, .. } => kind_of_anniversary(*gives),
        PlannedKind::Rate(rate) => exact(rate.rounded.decimals.unwrap_or(2)),
        PlannedKind::Arithmetic { rounded, .. } => exact(rounded.decimals.unwrap_or(2)),
        PlannedKind::Period { gives, .. } => kind_of_period(gives),
        PlannedKind::Age { .. } => Kind::Number {
            rule: CountRule::COMPLETE_YEARS.to_string(),
            ends: Ends::Last,
            measures: Measures::Other,
        },
        PlannedKind::Bucket { edges, .. } => {
            match AgingBuckets::from_upper_edges(&edges.value, BucketMeasure::WholeNumber) {
                Ok(buckets) => Kind::Band { buckets },
                Err(_) => Kind::Text,
            }
        }
        PlannedKind::Choice { .. } => Kind::Text,
    }
}

fn are_alike(a: &Kind, b: &Kind) -> bool {
    match (a, b) {
        (Kind::Text, Kind::Text)
        | (Kind::Date { .. }, Kind::Date { .. })
        | (Kind::Number { .. }, Kind::Number { .. }) => true,
        (Kind::Amount { scale: a, .. }, Kind::Amount { scale: b, .. }) => a == b,
        (Kind::Band { buckets: a }, Kind::Band { buckets: b }) => a == b,
        _ => false,
    }
}

fn word_of(kind: &Kind) -> &'static str {
    match kind {
        Kind::Text => "text",
        Kind::Date { .. } => "dates",
        Kind::Amount { .. } => "amounts",
        Kind::Number { .. } => "numbers",
        Kind::Band { .. } => "buckets",
    }
}
